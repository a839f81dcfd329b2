"""Verifying: generate, compile and test with the real toolchains, targets side by side."""

from __future__ import annotations

import tempfile
import threading
import time
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import AbstractContextManager, nullcontext
from dataclasses import replace
from pathlib import Path

from urform.dataclasses import dataclass
from urform.languages import Emission, Target
from urform.languages.target import SECONDS_A_TEST, Found, Ran, TestAddress, TestResult
from urform.output.changes import EDITED, KEPT
from urform.output.manifest import owner_of
from urform.output.writing import alone, clean, commit, prepare, refuse_what_is_in_the_way, write_project
from urform.plan.script import Claim
from urform.plan.whole import Plan
from urform.verification.clients import compiled
from urform.verification.known import key_of
from urform.verification.known_runs import KnownRuns, Run, key_by_files, key_by_source
from urform.verification.processes import Processes
from urform.verification.results import (
    FAILED,
    HELD,
    NOT_RUN,
    NOT_SHOWN,
    PASSED,
    ClaimResult,
    Outcome,
    TargetRun,
    Verification,
)
from urform.verification.standing import standing

Progress = Callable[[str, str], None]  # target, and what it does now


def quiet(target: str, doing: str) -> None:
    """Progress that nobody wants to see."""


@dataclass(frozen=True, slots=True)
class _Tested:
    emission: Emission
    found: Found
    ran: Ran | None
    seconds: float


@dataclass(frozen=True, slots=True)
class Cache:
    """Where runs are kept, and for each target the hash of everything that its files are made from."""

    folder: Path
    sources: Mapping[str, str]


def verify(
    plan: Plan,
    claims: Sequence[Claim],
    targets: Sequence[Target],
    *,
    into: Path | None = None,
    here: Mapping[str, Path] | None = None,
    cache: Cache | None = None,
    progress: Progress = quiet,
    processes: Processes | None = None,
    seconds_a_test: float = SECONDS_A_TEST,
) -> Verification:
    """Verify every claim in every target; a test that does not end within `seconds_a_test` has failed.

    `into` keeps the generated projects, one folder a target, written by the rules of `generate`: what a person edited
    stays, and is tested as it is; otherwise they are gone afterwards. `here` names the folder of each target into which
    `generate` wrote, and what stands there is tested, in a project that is gone afterwards. With a `cache`, what passed
    before is told from what is known; not where something is kept or stands that a person may have edited.

    Raises KeyboardInterrupt when interrupted, with every child process gone; InTheWay and OutputError where a folder
    cannot be written, or has nothing to be tested.
    """
    running = processes or Processes()
    started = time.monotonic()
    written = _kept(plan, claims, targets, into, progress) if into else {}
    stand = standing(plan, claims, targets, here) if here is not None else {}
    place: AbstractContextManager[str] = (
        nullcontext(str(into)) if into else tempfile.TemporaryDirectory(prefix="urform-")
    )
    with place as folder:
        pool = ThreadPoolExecutor(max_workers=max(len(targets), 1))
        try:
            testing = _Testing(plan, claims, Path(folder), progress, running, seconds_a_test, cache)
            work = [
                pool.submit(testing.written, target, written[target.name].emission)
                if into
                else pool.submit(testing.standing, target, stand[target.name].emission)
                if here is not None
                else pool.submit(testing.generated, target)
                for target in targets
            ]
            runs = [future.result() for future in work]
        except BaseException:
            running.stop()
            raise
        finally:
            pool.shutdown(wait=True, cancel_futures=True)
    edited = tuple(path for kept in written.values() for path in kept.edited)
    differing = tuple(path for project in stand.values() for path in project.differing)
    merged = _merged(plan, claims, runs, time.monotonic() - started)
    return replace(merged, edited=edited, differing=differing)


_EMITTING = threading.Lock()  # emitting is pure Python: side by side it would only be slower


@dataclass(frozen=True, slots=True)
class _Kept:
    """A project that was written into a folder of the user's."""

    emission: Emission
    edited: tuple[str, ...]  # files that a person edited


def _kept(
    plan: Plan, claims: Sequence[Claim], targets: Sequence[Target], into: Path, progress: Progress
) -> dict[str, _Kept]:
    """Write the projects of all targets into a folder that is kept, or of none."""
    emissions = {}
    for target in targets:
        progress(target.name, "generating")
        emissions[target.name] = target.emit(plan, claims)
    with alone([into / name for name in emissions]):
        prepared = {
            name: prepare(into / name, emission.files, owner=owner_of(plan.name, name))
            for name, emission in emissions.items()
        }
        refuse_what_is_in_the_way(plan.name, list(prepared.values()))
        for each in prepared.values():
            commit(each)
            clean(each.root)
    return {
        name: _Kept(
            emission,
            tuple(str(into / name / c.path) for c in prepared[name].changes if c.state in (EDITED, KEPT)),
        )
        for name, emission in emissions.items()
    }


@dataclass(frozen=True, slots=True)
class _Testing:
    """What the targets of one verification share."""

    plan: Plan
    claims: Sequence[Claim]
    folder: Path
    progress: Progress
    running: Processes
    seconds_a_test: float
    cache: Cache | None = None

    def generated(self, target: Target) -> Run:
        """What comes of the files that are generated today, told from what is known where that is the same."""
        found = target.toolchain.find(self.running.run)
        if self.cache is None or not found.ready:
            return self.tested(target, self._emitted(target), found)
        known = KnownRuns(self.cache.folder)
        by_source = key_by_source(self.cache.sources[target.name], found.version, self.seconds_a_test)
        run = known.get(by_source)
        if run is None:
            emission = self._emitted(target)
            by_files = key_by_files(key_of(target, found.version, emission), self.seconds_a_test)
            run = known.get(by_files) or self.tested(target, emission, found)
            known.add(by_files, run)
            known.add(by_source, run)
        self.progress(target.name, "done")
        return run

    def standing(self, target: Target, emission: Emission) -> Run:
        """What comes of files as they stand somewhere else."""
        return self.tested(target, emission, target.toolchain.find(self.running.run))

    def written(self, target: Target, emission: Emission) -> Run:
        """What comes of files that were written already."""
        found = target.toolchain.find(self.running.run)
        return self.tested(target, emission, found, write=False)

    def tested(self, target: Target, emission: Emission, found: Found, *, write: bool = True) -> Run:
        """Compile a project, which is written first unless it stands there, and run its tests."""
        if not found.ready:
            self.progress(target.name, "not installed")
            return _run(self.claims, target, _Tested(emission, found, None, 0.0))
        project = self.folder / target.name
        if write:
            write_project(project, emission.files)
        self.progress(target.name, "compiling and testing")
        started = time.monotonic()
        ran = Ran(())  # some test runners take it for an accident when there is no test
        if emission.tests:
            ran = target.toolchain.test(project, emission, self.running.run, self.seconds_a_test)
        if emission.clients is not None and not ran.broke:
            told = compiled(target, project, emission, emission.clients, self.running.run)
            ran = Ran((*ran.results, *told.results), told.broke)
        self.progress(target.name, "done")
        return _run(self.claims, target, _Tested(emission, found, ran, time.monotonic() - started))

    def _emitted(self, target: Target) -> Emission:
        self.progress(target.name, "generating")
        with _EMITTING:
            self.running.go_on()
            return target.emit(self.plan, self.claims)


def _run(claims: Sequence[Claim], target: Target, tested: _Tested) -> Run:
    emission, found = tested.emission, tested.found
    run = TargetRun(
        target.name,
        found.version,
        tested.seconds,
        len(emission.files),
        sum(file.text.count("\n") for file in emission.files),
        found.missing,
        found.install,
        tested.ran.broke if tested.ran is not None else "",
    )
    unsupported = tuple(f"{u.feature} of {u.place} in {u.target}" for u in emission.unsupported)
    return Run(run, _outcomes(claims, target, tested), unsupported)


def _merged(plan: Plan, claims: Sequence[Claim], runs: Sequence[Run], seconds: float) -> Verification:
    merged = tuple(
        ClaimResult(
            claim.id, claim.group, claim.text, {each.run.target: each.outcomes[claim.id] for each in runs}
        )
        for claim in claims
    )
    unsupported = tuple(text for each in runs for text in each.unsupported)
    return Verification(plan.name, merged, tuple(each.run for each in runs), seconds, unsupported)


def _outcomes(claims: Sequence[Claim], target: Target, tested: _Tested) -> dict[str, Outcome]:
    addresses = {address.claim: address for address in tested.emission.every_test}
    ran = tested.ran
    results: dict[str, TestResult] = (
        {result.name: result for result in ran.results} if ran is not None else {}
    )
    outcomes: dict[str, Outcome] = {}
    for claim in claims:
        held = tested.emission.held.get(claim.id)
        address = addresses.get(claim.id)
        if held is not None:
            outcomes[claim.id] = Outcome(HELD, reason=held)
        elif ran is None:
            outcomes[claim.id] = Outcome(NOT_RUN, reason=f"missing: {', '.join(tested.found.missing)}")
        elif address is None:
            outcomes[claim.id] = Outcome(NOT_RUN, reason="the target has no test for it")
        elif address.name not in results:
            reason = ran.broke.partition("\n")[0] or "its test did not run"
            outcomes[claim.id] = Outcome(NOT_RUN, reason=reason)
        else:
            result = results[address.name]
            if address in tested.emission.tests:
                again = target.toolchain.again(address)
            else:
                address, again = replace(address, file=""), ""  # that of clients is gone
            outcomes[claim.id] = _outcome(result, address, again)
    return outcomes


def _same_name(file: str, other: str) -> bool:
    """Whether a runner that tells no folder, or the one that tests have in a project of their own, means that file."""
    return not file or file.rpartition("/")[2] == other.rpartition("/")[2]


def _outcome(result: TestResult, address: TestAddress, again: str) -> Outcome:
    if result.passed:
        return Outcome(PASSED, again=again)
    if result.skipped:
        return Outcome(NOT_SHOWN, reason=result.message, again=again)
    return Outcome(
        FAILED,
        reason=result.message,
        expected=result.expected,
        found=result.found,
        file=address.file if _same_name(result.file, address.file) else result.file,
        line=result.line,
        again=again,
    )
