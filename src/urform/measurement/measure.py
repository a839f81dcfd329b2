"""Programs that measure: written, compiled, and run for each sample."""

from __future__ import annotations

import json
import tempfile
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path
from statistics import median_low

from urform.dataclasses import dataclass
from urform.languages.target import Finished, Target
from urform.measurement.figures import Measured, Measurement, Timing, Weight, fitted
from urform.output.writing import write_project
from urform.plan.measuring import CONSTRUCTOR, POOL, Sample, samples
from urform.plan.whole import Plan
from urform.verification.processes import Processes

COUNTS = (1_000, 3_000, 10_000, 30_000, 100_000, 300_000, 1_000_000)
MOST_BYTES = 1 << 30  # of one weight: what would take more is not weighed
AGREED = 1.02  # times as many bytes as another process: no more than rounding does
SLOWEST = 60.0  # seconds of making what is weighed, by what one took


@dataclass(frozen=True, slots=True)
class Asked:
    """What is to be measured, and how long."""

    plan: Plan
    samples: tuple[Sample, ...]
    seconds: float  # of a batch; each sample has nine, and some before them
    most: int  # products that are weighed at once


Progress = Callable[[str, str, int, int], None]  # target, what is done, how much of how much


def asked_of(plan: Plan, only: Sequence[str], seconds: float, most: int) -> Asked:
    """The samples of a plan, or of some products."""
    found = tuple(sample for sample in samples(plan) if not only or sample.product in only)
    return Asked(plan, found, seconds, most)


def measure(asked: Asked, targets: Sequence[Target], processes: Processes, progress: Progress) -> Measurement:
    """Measure in one target after the other: what runs beside something else is slower."""
    found = tuple(_in_target(asked, target, processes, progress) for target in targets)
    return Measurement(asked.plan.name, found)


def _in_target(asked: Asked, target: Target, processes: Processes, progress: Progress) -> Measured:
    ready = target.toolchain.find(processes.run)
    if not ready.ready:
        return Measured(target.name, missing=", ".join(ready.missing))
    progress(target.name, "compiles", 0, 1)
    plan = target.alone(asked.plan)
    with tempfile.TemporaryDirectory(prefix="urform-", ignore_cleanup_errors=True) as name:
        folder = Path(name)
        write_project(folder, [*target.code(plan), *target.measuring(plan, asked.samples)])
        command = target.toolchain.measurable(folder, processes.run)
        if isinstance(command, Finished):
            return Measured(target.name, ready.version, broke=_said(command))
        program = _Program(asked, target, folder, command, processes, progress)
        try:
            timings = tuple(program.timings())
            weights = tuple(program.weights(timings))
        except _Broke as error:
            return Measured(target.name, ready.version, broke=str(error))
    return Measured(target.name, ready.version, timings, weights)


def agreed(weigh: Callable[[], int]) -> int:
    """What two processes agree on, or the middle one of three.

    A collector now and then keeps what nothing holds, and a single such weight would bend the line.
    """
    found = [weigh(), weigh()]
    if max(found) > AGREED * min(found):
        found.append(weigh())
    return median_low(found)


class _Broke(Exception):
    """A program did not come to an end."""


def _said(done: Finished) -> str:
    return (done.errors or done.output).strip()[-2000:] or "it ended without a word"


@dataclass(frozen=True, slots=True)
class _Program:
    asked: Asked
    target: Target
    folder: Path
    command: list[str]
    processes: Processes
    progress: Progress

    def _told(self, command: Sequence[str], *arguments: str) -> Iterator[dict[str, object]]:
        done = self.processes.run([*command, *arguments], self.folder)
        if done.status != 0:
            raise _Broke(_said(done))
        yield from (json.loads(line) for line in done.output.splitlines() if line.startswith("{"))

    def timings(self) -> Iterator[Timing]:
        """Of all samples in one run."""
        self.progress(self.target.name, "times", 0, 1)
        known = {sample.name: sample for sample in self.asked.samples}
        for told in self._told(self.command, "time", str(self.asked.seconds)):
            sample, seconds = known.get(str(told["name"])), told["seconds"]
            assert isinstance(seconds, list)
            if sample is None:
                yield Timing("", str(told["name"]), 0, tuple(seconds))
            elif sample.is_timed:
                yield Timing(sample.product, sample.way, sample.size, tuple(seconds))

    def weights(self, timings: Sequence[Timing]) -> Iterator[Weight]:
        """Of what has a pool, with it and without, each count in a process of its own."""
        pooled = {sample.product for sample in self.asked.samples if sample.way == POOL}
        ways = (CONSTRUCTOR, POOL)
        weighed = [each for each in self.asked.samples if each.product in pooled and each.way in ways]
        taken = {(timing.product, timing.way): timing.median for timing in timings}
        for number, sample in enumerate(weighed):
            self.progress(self.target.name, "weighs", number, len(weighed))
            seconds = taken.get((sample.product, sample.way), 0.0)
            found = Weight(
                sample.product, sample.way, len(sample.makers), tuple(self._points(sample, seconds))
            )
            yield replace(found, line=fitted(found.points))

    def _points(self, sample: Sample, seconds: float) -> Iterator[tuple[int, int]]:
        each = 0.0
        for count in COUNTS:
            if count > self.asked.most or each * count > MOST_BYTES or seconds * count > SLOWEST:
                return
            held = agreed(partial(self._weighed, sample.name, count))
            each = held / count
            yield count, held

    def _weighed(self, name: str, count: int) -> int:
        (told,) = self._told(self.target.toolchain.weighing(self.command), "memory", name, str(count))
        found = told["bytes"]
        assert isinstance(found, int)
        return found
