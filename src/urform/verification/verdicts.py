"""The results of a challenge: a verdict for each fault and target."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.dataclasses import dataclass

CAUGHT = "caught"
ELSEWHERE = "caught elsewhere"
SURVIVED = "survived"
IMPOSSIBLE = "not expressible"
NOT_RUN = "not run"
STATES = (CAUGHT, ELSEWHERE, SURVIVED, IMPOSSIBLE, NOT_RUN)


@dataclass(frozen=True, slots=True)
class Verdict:
    """One fault in one target. `reason` says why it is not expressible, or was not run; `elsewhere` names the claims
    whose tests failed in place of its own; `change` is the difference in the code, kept where nothing caught it."""

    state: str
    reason: str = ""
    elsewhere: tuple[str, ...] = ()
    change: str = ""


@dataclass(frozen=True, slots=True)
class FaultResult:
    """One fault in all targets."""

    id: str
    claim: str
    group: str
    text: str
    verdicts: Mapping[str, Verdict]


@dataclass(frozen=True, slots=True)
class TrialsRun:
    """How a target fared: what it took, and how many verdicts were known already."""

    target: str
    version: str
    seconds: float = 0.0
    tried: int = 0
    known: int = 0
    missing: tuple[str, ...] = ()
    install: tuple[str, ...] = ()
    broke: str = ""


@dataclass(frozen=True, slots=True)
class Challenge:
    """The whole result. `shard` is which part of the faults it is of, from 1, and how many parts there are."""

    name: str
    faults: tuple[FaultResult, ...]
    runs: tuple[TrialsRun, ...]
    seconds: float = 0.0
    shard: tuple[int, int] = (1, 1)

    @property
    def targets(self) -> tuple[str, ...]:
        return tuple(run.target for run in self.runs)

    def count(self, target: str, state: str, group: str | None = None) -> int:
        """How many faults have a verdict in a target, of one group or of all."""
        return sum(
            fault.verdicts[target].state == state for fault in self.faults if group in (None, fault.group)
        )

    def uncaught(self) -> Iterator[tuple[FaultResult, str, Verdict]]:
        """Every fault that its own test did not catch, with its target."""
        for fault in self.faults:
            for target, verdict in fault.verdicts.items():
                if verdict.state in (ELSEWHERE, SURVIVED):
                    yield fault, target, verdict

    @property
    def weak(self) -> bool:
        """Whether some fault was not caught by the test of its own claim."""
        return any(True for _ in self.uncaught())
