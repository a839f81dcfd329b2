"""Trials that a compiler makes one program of, with a part for each: which of them compile, and what became of their tests.

The program runs the tests that are left, and tells when each begins and how it ended:

    begin 12 TestKind_Mark_buoy
    good 12 TestKind_Mark_buoy
"""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import ClassVar

from urform.languages.target import Finished, Trial, Tried
from urform.languages.testing.pruning import Unit

SOUND_NUMBER = 999_999  # of the sound code, whose own number cannot be part of a name
MOST_SAID = 2000  # characters of what a compiler says
_TOLD = re.compile(r"^(?P<how>begin|good|bad) (?P<number>\d+) (?P<test>\S+)$", re.MULTILINE)

Test = tuple[int, str]  # the number of a trial, and the name of a test


class TrialProgram(ABC):
    """One program for many trials. A target says how it is written, built and run."""

    broken: ClassVar[re.Pattern[str]]  # finds the numbers of trials in what the compiler says

    @abstractmethod
    def build(self, trials: Sequence[Trial]) -> Finished:
        """Write what holds these trials together, and compile it with them."""

    @abstractmethod
    def run(self, tried: str, *, alone: bool) -> str:
        """What the program tells; `tried` names the tests that it need not run, `alone` says to run one at a time."""

    @abstractmethod
    def said_of(self, said: str, number: int) -> str:
        """The messages of the compiler about one trial."""

    def results(self, trials: Iterable[Trial]) -> Iterator[Tried]:
        """The outcome of each trial; those that do not compile are left out of the program."""
        left = {number_of(trial): trial for trial in trials}
        while left:
            built = self.build(list(left.values()))
            if built.status == 0:
                yield from self._ran(list(left.values()))
                return
            said = built.output + built.errors
            broken = {int(number) for number in self.broken.findall(said)} & set(left)
            if not broken:
                yield from (Tried(trial.number, broke=said[-MOST_SAID:]) for trial in left.values())
                return
            for number in sorted(broken):
                yield Tried(left.pop(number).number, broke=self.said_of(said, number)[-MOST_SAID:])

    def _ran(self, trials: Sequence[Trial]) -> Iterator[Tried]:
        """Run the program, again after a test that ended it, until every test has had its turn."""
        total = sum(len(trial.tests) for trial in trials)
        ended: dict[Test, bool] = {}
        ended_early = False
        while len(ended) < total:
            tried = "".join(f";{number} {test};" for number, test in ended)
            before = len(ended)
            running = noted(self.run(tried, alone=ended_early), ended)
            if len(running) == 1:
                ended[running.pop()] = False
            if len(ended) == before and (ended_early or not running):
                break
            ended_early = ended_early or bool(running)
        return (_tried(trial, ended) for trial in trials)


def noted(output: str, ended: dict[Test, bool]) -> set[Test]:
    """Note in `ended` what the program told of each test; gives those that ran when it ended, one of which ended it."""
    running: set[Test] = set()
    for match in _TOLD.finditer(output):
        test = int(match["number"]), match["test"]
        if match["how"] == "begin":
            running.add(test)
        else:
            running.discard(test)
            ended[test] = match["how"] == "good"
    return running


def _tried(trial: Trial, ended: Mapping[Test, bool]) -> Tried:
    number = number_of(trial)
    failed = frozenset(a.name for a in trial.tests if not ended.get((number, a.name), True))
    silent = any((number, address.name) not in ended for address in trial.tests)
    return Tried(trial.number, failed, "the tests did not all run" if silent and not failed else "")


def number_of(trial: Trial) -> int:
    """The number of a trial as a part of names; that of the sound code is negative."""
    return trial.number if trial.number >= 0 else SOUND_NUMBER


def dependent(units: Mapping[str, Unit], changed: Iterable[str]) -> frozenset[str]:
    """The changed files, those that mention what they declare, and those that have methods of it; and so on."""
    kept = set(changed)
    while True:
        names = frozenset().union(*(units[key].declares for key in kept))
        more = {
            key
            for key, each in units.items()
            if key not in kept and (each.mentions & names or each.receivers & names)
        }
        if not more:
            return frozenset(kept)
        kept |= more
