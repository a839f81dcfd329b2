"""What challenging costs a fault, beside a naive run: one copy of the project, one compilation, one test run for each fault.

Run `make benchmark`. And, asked for with `--threads RUNS`, how reliably the faults that only threads can show are caught.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections import Counter
from collections.abc import Sequence
from pathlib import Path

import urform
from urform.demo import NAME, demo_text
from urform.languages import Target, target
from urform.languages.target import Toolchain, Trial
from urform.output.writing import write_project
from urform.plan import build, claims_of, faults_of
from urform.plan.fault import Fault
from urform.plan.script import Claim
from urform.plan.whole import Plan
from urform.verification.challenge import challenge
from urform.verification.processes import Processes
from urform.verification.verdicts import CAUGHT

TARGETS = ("cpp", "go", "java", "python", "rust", "typescript")
BATCHED, NAIVE = 40, 5  # faults that are tried in each way
THREADS = ("pool-unguarded", "pool-not-reentrant", "pool-hits-wait", "single-again")


def demo(folder: Path) -> tuple[Plan, tuple[Claim, ...], list[Fault]]:
    """The plan, the claims and the faults of the demo."""
    source = folder / NAME
    source.write_text(demo_text(), encoding="utf-8")
    plan = build(urform.load(source))
    claims = claims_of(plan)
    return plan, claims, list(faults_of(plan, claims))


def seconds_each(
    each: Target, plan: Plan, claims: Sequence[Claim], faults: Sequence[Fault], folder: Path, *, naive: bool
) -> float:
    """Seconds a fault from the ready sound project on, emitting included."""
    emission = each.emit(plan, claims)
    tests = {address.claim: address for address in emission.tests}
    sound = {file.path: file.text for file in emission.files}
    write_project(folder, emission.files)
    run = Processes().run
    if not naive:
        each.toolchain.prepare(folder, emission, run)
    expressible = [f for f in faults if f.claim.id in tests and f.needs <= each.capabilities]
    some = expressible[:: max(1, len(expressible) // (NAIVE if naive else BATCHED))]
    started = time.perf_counter()
    trials = []
    for number, fault in enumerate(some):
        files = {f.path: f.text for f in each.code(fault.plan) if sound.get(f.path) != f.text}
        trials.append(Trial(number, files, (tests[fault.claim.id],)))
    try_all = Toolchain.try_all if naive else type(each.toolchain).try_all
    tried = list(try_all(each.toolchain, folder, emission, trials, run))
    caught = sum(bool(one.failed) for one in tried)
    if caught != len(trials):
        print(f"{each.name}: {caught} of {len(trials)} were caught, so these figures mean little")
    return (time.perf_counter() - started) / len(trials)


def costs(folder: Path) -> None:
    """Seconds a fault, batched and naive."""
    plan, claims, faults = demo(folder)
    for name in TARGETS:
        each = target(name)
        batched = seconds_each(each, plan, claims, faults, folder / f"{name}-batched", naive=False)
        naive = seconds_each(each, plan, claims, faults, folder / f"{name}-naive", naive=True)
        print(f"{name:>7}: {batched:.2f} s a fault, {naive:.2f} s naive: {naive / batched:.1f} times less")


def reliability(folder: Path, runs: int) -> None:
    """How often each thread fault is caught, in so many runs of the demo."""
    plan, claims, faults = demo(folder)
    threaded = [fault for fault in faults if fault.name in THREADS]
    caught: Counter[tuple[str, str]] = Counter()
    impossible: set[tuple[str, str]] = set()
    for _ in range(runs):
        result = challenge(plan, claims, threaded, [target(name) for name in TARGETS])
        for fault in result.faults:
            for name, verdict in fault.verdicts.items():
                caught[fault.id, name] += verdict.state == CAUGHT
                if verdict.state == "not expressible":
                    impossible.add((fault.id, name))
    for (fault_id, name), number in sorted(caught.items()):
        told = "not expressible" if (fault_id, name) in impossible else f"{number} of {runs}"
        print(f"{name:>7}: {told:<16} {fault_id}")


def main() -> None:
    """Print the figures."""
    with tempfile.TemporaryDirectory() as name:
        if "--threads" in sys.argv:
            reliability(Path(name), int(sys.argv[sys.argv.index("--threads") + 1]))
        else:
            costs(Path(name))


if __name__ == "__main__":
    main()
