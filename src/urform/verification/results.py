"""The results of verifying: a state for each claim in each target."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field

from urform.dataclasses import dataclass

PASSED, FAILED, HELD, NOT_SHOWN, NOT_RUN = "passed", "failed", "held", "not shown", "not run"


@dataclass(frozen=True, slots=True)
class Outcome:
    """One claim in one target. `reason` is why the language holds it, or why its test did not run."""

    state: str
    reason: str = ""
    expected: str = ""
    found: str = ""
    file: str = ""
    line: int = 0
    again: str = ""  # the command that repeats this one test, to be run in the target's folder

    @property
    def place(self) -> str:
        """Where it failed: a test that was stopped tells its file only."""
        return f"{self.file}:{self.line}" if self.line else self.file


@dataclass(frozen=True, slots=True)
class ClaimResult:
    """One claim in all targets."""

    id: str
    group: str
    text: str
    outcomes: Mapping[str, Outcome]


@dataclass(frozen=True, slots=True)
class TargetRun:
    """How a target's toolchain fared. `broke` says why it did not come to an end."""

    target: str
    version: str
    seconds: float = 0.0
    files: int = 0
    lines: int = 0
    missing: tuple[str, ...] = ()
    install: tuple[str, ...] = ()
    broke: str = ""
    known: bool = False  # told from an earlier run of the same files, which took `seconds`


@dataclass(frozen=True, slots=True)
class Verification:
    """The whole result."""

    name: str
    claims: tuple[ClaimResult, ...]
    runs: tuple[TargetRun, ...]
    seconds: float = 0.0
    unsupported: tuple[str, ...] = field(default=())
    edited: tuple[str, ...] = field(
        default=()
    )  # files that a person edited, and that were tested as they are
    differing: tuple[str, ...] = field(default_factory=tuple)  # files that are not what is generated today

    @property
    def targets(self) -> tuple[str, ...]:
        return tuple(run.target for run in self.runs)

    def count(self, target: str, state: str) -> int:
        """How many claims are in a state in a target."""
        return sum(claim.outcomes[target].state == state for claim in self.claims)

    def failures(self) -> Iterator[tuple[ClaimResult, str, Outcome]]:
        """Every failed claim, with its target."""
        for claim in self.claims:
            for target, outcome in claim.outcomes.items():
                if outcome.state == FAILED:
                    yield claim, target, outcome

    @property
    def failed(self) -> bool:
        return any(True for _ in self.failures())

    @property
    def untested(self) -> bool:
        """Whether some target did not run, or some test of one did not show its claim."""
        return any(
            outcome.state in (NOT_RUN, NOT_SHOWN)
            for claim in self.claims
            for outcome in claim.outcomes.values()
        )
