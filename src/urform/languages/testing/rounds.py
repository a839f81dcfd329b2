"""Running tests to the end: a test that kills its process or hangs has failed, and the others run without it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from urform.dataclasses import dataclass
from urform.languages.target import Finished, TestResult

MOST_LOST = 20  # tests that take their process with them, after which the others are no longer run
ENDED = "the process ended while this test ran"


@dataclass(frozen=True, slots=True)
class Round:
    """The results that one process of tests reported before it ended."""

    finished: Finished
    results: Mapping[str, TestResult]  # of those that ended, by name
    under_way: str = ""  # the test that took the process with it; nothing when all came to their end


def to_the_end(
    launch: Callable[[Sequence[str]], Round], seconds: float
) -> tuple[dict[str, TestResult], Finished]:
    """The results of all tests, and how the last process ended.

    `launch` runs all tests but those that are named; `seconds` is what its watch gives each of them.
    """
    results: dict[str, TestResult] = {}
    lost: dict[str, TestResult] = {}
    while True:
        told = launch(tuple(lost))
        results |= told.results
        name = told.under_way
        if not name or name in lost:
            break
        lost[name] = told.results.get(name) or (
            overdue(name, seconds) if told.finished.late else _killed(name)
        )
        if len(lost) >= MOST_LOST:
            break
    return results | lost, told.finished


def overdue(name: str, seconds: float) -> TestResult:
    """A test that was stopped because it did not end."""
    limit = f"{seconds:g} s"
    return TestResult(
        name,
        False,
        message=f"the test did not end within {limit}",
        expected=f"an end within {limit}",
        found="none: it was stopped",
    )


def _killed(name: str) -> TestResult:
    return TestResult(name, False, message=ENDED, expected="no failure here", found=ENDED)
