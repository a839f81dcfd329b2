"""Challenging the tests: one fault at a time in the code, unchanged tests, and a verdict for each fault and target.

A fault's own test runs first. Only when it passes do all the others run, to tell a fault that is caught elsewhere from one
that survives; where tests are as they ought to be, that never happens.
"""

from __future__ import annotations

import difflib
import tempfile
import threading
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from itertools import islice
from pathlib import Path

from urform.dataclasses import dataclass
from urform.languages import Emission, Target
from urform.languages.target import Found, Ran, TestAddress, Trial
from urform.output.writing import write_project
from urform.plan.capabilities import REASONS
from urform.plan.fault import Fault
from urform.plan.script import Claim
from urform.plan.whole import Plan
from urform.verification.clients import compiled, with_files
from urform.verification.known import Known, key_of
from urform.verification.processes import Processes
from urform.verification.verdicts import (
    CAUGHT,
    ELSEWHERE,
    IMPOSSIBLE,
    NOT_RUN,
    SURVIVED,
    Challenge,
    FaultResult,
    TrialsRun,
    Verdict,
)

Progress = Callable[[str, int, int], None]  # target, faults decided, faults in all
UNCHANGED = "the fault leaves the generated code as it is: a defect of Urform"
UNSOUND = "its test does not pass on sound code"
SOUND = -1  # the number of the trial without a fault


def unseen(target: str, done: int, total: int) -> None:
    """Progress that nobody wants to see."""


def challenge(
    plan: Plan,
    claims: Sequence[Claim],
    faults: Sequence[Fault],
    targets: Sequence[Target],
    *,
    cache: Path | None = None,
    progress: Progress = unseen,
    processes: Processes | None = None,
) -> Challenge:
    """Try every fault in every target, targets side by side.

    `cache` is a folder of verdicts by content. Raises KeyboardInterrupt when interrupted, with every child process gone.
    """
    running = processes or Processes()
    started = time.monotonic()
    with tempfile.TemporaryDirectory(prefix="urform-", ignore_cleanup_errors=True) as folder:
        pool = ThreadPoolExecutor(max_workers=max(len(targets), 1))
        try:
            work = [
                pool.submit(
                    _Challenger(plan, claims, faults, target, Path(folder), running, cache, progress).run
                )
                for target in targets
            ]
            done = [future.result() for future in work]
        except BaseException:
            running.stop()
            raise
        finally:
            pool.shutdown(wait=True, cancel_futures=True)
    results = tuple(
        FaultResult(
            fault.id,
            fault.claim.id,
            fault.claim.group,
            fault.text,
            {run.target: verdicts[fault.id] for run, verdicts in done},
        )
        for fault in faults
    )
    return Challenge(plan.name, results, tuple(run for run, _ in done), time.monotonic() - started)


@dataclass(frozen=True, slots=True)
class _Try:
    """A fault with the files that it changes."""

    fault: Fault
    files: Mapping[str, str]


class _Challenger:
    """Tries the faults in one target."""

    def __init__(
        self,
        plan: Plan,
        claims: Sequence[Claim],
        faults: Sequence[Fault],
        target: Target,
        folder: Path,
        processes: Processes,
        cache: Path | None,
        progress: Progress,
    ) -> None:
        self._plan = plan
        self._claims = claims
        self._faults = faults
        self._target = target
        self._support: frozenset[str] = frozenset()  # of the code without a fault
        self._folder = folder / target.name
        self._processes = processes
        self._cache = cache
        self._progress = progress
        self._verdicts: dict[str, Verdict] = {}
        self._sound: frozenset[str] = frozenset()  # the names of tests that were tried without a fault
        self._unsound: frozenset[str] = frozenset()  # those of them that failed

    def run(self) -> tuple[TrialsRun, Mapping[str, Verdict]]:
        """The verdict of every fault, by its id."""
        target = self._target
        toolchain = target.toolchain.find(self._processes.run)
        if not toolchain.ready:
            self._rest(NOT_RUN, f"missing: {', '.join(toolchain.missing)}")
            self._tell()
            return TrialsRun(
                target.name, toolchain.version, missing=toolchain.missing, install=toolchain.install
            ), self._verdicts
        with _EMITTING:
            self._processes.go_on()
            emission = target.emit(self._plan, self._claims)
            self._support = target.support(self._plan)
        self._not_expressible(emission)
        known = Known(self._cache, key_of(target, toolchain.version, emission))
        self._verdicts |= {f.id: v for f in self._left() if (v := known.get(f.id)) is not None}
        left = self._left()
        self._tell()
        started = time.monotonic()
        broke = self._try(emission, known) if left else ""
        return self._told(toolchain, time.monotonic() - started, len(left), broke), self._verdicts

    def _told(self, toolchain: Found, seconds: float, tried: int, broke: str) -> TrialsRun:
        known = sum(v.state != IMPOSSIBLE for v in self._verdicts.values()) - tried
        return TrialsRun(self._target.name, toolchain.version, seconds, tried, known, broke=broke)

    def _left(self) -> list[Fault]:
        return [fault for fault in self._faults if fault.id not in self._verdicts]

    def _rest(self, state: str, reason: str) -> None:
        """The same verdict for all that have none."""
        self._verdicts |= {fault.id: Verdict(state, reason) for fault in self._left()}

    def _tell(self) -> None:
        self._progress(self._target.name, len(self._verdicts), len(self._faults))

    def _not_expressible(self, emission: Emission) -> None:
        """Decides faults that the language makes impossible, and faults that change nothing."""
        for fault in self._faults:
            lacking = sorted(fault.needs - self._target.capabilities)
            reason = (
                fault.same
                or emission.held.get(fault.claim.id)
                or "; ".join(REASONS[each] for each in lacking)
            )
            if reason:
                self._verdicts[fault.id] = Verdict(IMPOSSIBLE, reason)

    def _try(self, emission: Emission, known: Known) -> str:
        """Try what is left; says what broke, if anything did."""
        tests = {address.claim: address for address in emission.every_test}
        write_project(self._folder, emission.files)
        broke = self._target.toolchain.prepare(self._folder, emission, self._processes.run)
        if not broke:
            broke = self._leave_out_unsound(emission, tests)
        if broke:
            self._rest(NOT_RUN, broke.partition("\n")[0])
            return broke
        sound = {file.path: file.text for file in emission.files}
        self._compile(emission, sound, known)
        tries = self._changed(self._left(), sound)
        while batch := list(islice(tries, self._target.toolchain.trials_at_once)):
            decided = self._batch(emission, tests, batch, sound)
            self._verdicts |= decided
            known.add(decided)
            self._tell()
        self._rest(NOT_RUN, UNCHANGED)
        return ""

    def _compile(self, emission: Emission, sound: Mapping[str, str], known: Known) -> None:
        """Decide the faults of claims that a compiler shows; what does not hold without a fault shows nothing."""
        clients = emission.clients
        claims = {test.claim for test in clients.tests} if clients is not None else frozenset()
        faults = [fault for fault in self._left() if fault.claim.id in claims]
        if clients is None or not faults:
            return
        folder = self._folder.with_name(f"{self._folder.name}-clients")
        write_project(folder, emission.files)
        told = compiled(self._target, folder, emission, clients, self._processes.run)
        holding = {result.name for result in told.results if result.passed}
        why = told.broke.partition("\n")[0] or UNSOUND
        self._verdicts |= {f.id: Verdict(NOT_RUN, why) for f in faults if f.claim.id not in holding}
        for each in self._changed([fault for fault in faults if fault.claim.id in holding], sound):
            with_files(folder, each.files)
            ran = compiled(self._target, folder, emission, clients, self._processes.run)
            with_files(folder, {path: sound[path] for path in each.files if path in sound})
            decided = {each.fault.id: _of_compiler(ran, each.fault.claim.id, _difference(sound, each.files))}
            self._verdicts |= decided
            known.add(decided)
            self._tell()

    def _leave_out_unsound(self, emission: Emission, tests: Mapping[str, TestAddress]) -> str:
        """A test that fails without any fault catches nothing: those of the faults that are left are tried first."""
        claims = {fault.claim.id for fault in self._left()}
        own = [test for test in emission.tests if test.claim in claims]
        broke = self._try_sound(emission, own)
        for fault in () if broke else self._left():
            if fault.claim.id in tests and tests[fault.claim.id].name in self._unsound:
                self._verdicts[fault.id] = Verdict(NOT_RUN, UNSOUND)
        return broke

    def _try_sound(self, emission: Emission, tests: Sequence[TestAddress]) -> str:
        """Run some tests without a fault; says what broke, if anything did."""
        trial = Trial(SOUND, {}, tuple(test for test in tests if test.name not in self._sound))
        if not trial.tests:
            return ""
        tried = next(
            self._target.toolchain.try_all(self._folder, emission, [trial], self._processes.run), None
        )
        if tried is None or tried.broke:
            return tried.broke if tried is not None else "the sound code could not be tested"
        self._sound |= {test.name for test in trial.tests}
        self._unsound |= tried.failed
        return ""

    def _changed(self, faults: Sequence[Fault], sound: Mapping[str, str]) -> Iterator[_Try]:
        """The faults that change something."""
        for fault in faults:
            with _EMITTING:
                self._processes.go_on()
                code = self._target.code(self._target.alone(fault.plan), self._support)
            files = {file.path: file.text for file in code if sound.get(file.path) != file.text}
            if files:
                yield _Try(fault, files)

    def _batch(
        self,
        emission: Emission,
        tests: Mapping[str, TestAddress],
        batch: Sequence[_Try],
        sound: Mapping[str, str],
    ) -> dict[str, Verdict]:
        verdicts: dict[str, Verdict] = {}
        own = [Trial(n, each.files, (tests[each.fault.claim.id],)) for n, each in enumerate(batch)]
        missed: list[Trial] = []
        for trial, failed, broke in self._tried(emission, own):
            fault = batch[trial.number].fault
            if broke:
                verdicts[fault.id] = Verdict(NOT_RUN, broke, change=_difference(sound, trial.files))
            elif failed:
                verdicts[fault.id] = Verdict(CAUGHT)
            else:
                missed.append(Trial(trial.number, trial.files, emission.tests))
        if missed:
            self._try_sound(emission, emission.tests)  # where that breaks, so does what follows
        claims = {test.name: test.claim for test in emission.tests if test.name not in self._unsound}
        for trial, failed, broke in self._tried(emission, missed) if missed else ():
            fault = batch[trial.number].fault
            elsewhere = tuple(sorted(claims[name] for name in failed if name in claims))
            state = ELSEWHERE if elsewhere else NOT_RUN if broke else SURVIVED
            change = _difference(sound, trial.files)
            verdicts[fault.id] = Verdict(state, broke, elsewhere, change)
        return verdicts

    def _tried(
        self, emission: Emission, trials: Sequence[Trial]
    ) -> Iterator[tuple[Trial, frozenset[str], str]]:
        """Each trial with the tests that failed; one of which nothing was heard broke."""
        heard = {
            tried.number: tried
            for tried in self._target.toolchain.try_all(self._folder, emission, trials, self._processes.run)
        }
        for trial in trials:
            tried = heard.get(trial.number)
            if tried is None:
                yield trial, frozenset(), "the toolchain said nothing of it"
            else:
                yield trial, tried.failed, tried.broke


def _of_compiler(ran: Ran, claim: str, change: str) -> Verdict:
    """The verdict of a fault by what the compiler says of the clients."""
    if ran.broke:
        return Verdict(NOT_RUN, ran.broke.partition("\n")[0], change=change)
    failed = [result.name for result in ran.results if not result.passed]
    if claim in failed:
        return Verdict(CAUGHT)
    return Verdict(ELSEWHERE if failed else SURVIVED, "", tuple(sorted(failed)), change)


_EMITTING = threading.Lock()  # emitting is pure Python: side by side it would only be slower


def _difference(sound: Mapping[str, str], files: Mapping[str, str]) -> str:
    """The changed lines, as a difference with a little around them."""
    lines: list[str] = []
    for path, text in files.items():
        before, after = sound.get(path, "").splitlines(), text.splitlines()
        lines += difflib.unified_diff(before, after, f"sound/{path}", f"faulty/{path}", n=2, lineterm="")
    return "\n".join(lines)
