"""What verify and challenge show of any result on a console of any width: nothing is lost, no count is cut in two."""

from __future__ import annotations

import io
import re
from collections import Counter
from collections.abc import Callable, Sequence

from hypothesis import example, given
from hypothesis import strategies as st
from rich.console import Console

from urform.cli.challenging import show_challenge
from urform.cli.render import show_verification
from urform.languages import known_targets
from urform.verification import verdicts
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

TARGETS = known_targets()
STATES = (PASSED, HELD, FAILED, NOT_SHOWN, NOT_RUN)
WIDTHS = st.integers(20, 240)
GROUPS = st.sampled_from(["required", "default", "clone", "pool"])


def rows(states: Sequence[str]) -> st.SearchStrategy[list[tuple[str, tuple[str, ...]]]]:
    """Claims or faults: each of a group, with a state in every target."""
    one = st.tuples(GROUPS, st.tuples(*(st.sampled_from(states) for _ in TARGETS)))
    return st.lists(one, min_size=1, max_size=40)


def printed(show: Callable[[Console], None], width: int) -> str:
    console = Console(file=io.StringIO(), width=width, highlight=False, soft_wrap=True)
    show(console)
    assert isinstance(console.file, io.StringIO)
    return console.file.getvalue()


def counts(text: str, first: str, words: Sequence[str]) -> Counter[tuple[str, str]]:
    """What a table tells in all: a number for each target and word; its columns begin where their headings do."""
    lines = text.split("\n")
    head = next(at for at, line in enumerate(lines) if line.startswith(first))
    last = next(at for at, line in enumerate(lines) if at > head and line.startswith("all "))
    starts = {target: re.search(rf"\b{target}\b", lines[head]) for target in TARGETS}
    begins = {target: match.start() for target, match in starts.items() if match is not None}
    assert set(begins) == set(TARGETS)
    ends = [*sorted(begins.values())[1:], 10**6]
    found: Counter[tuple[str, str]] = Counter()
    for line in lines[last:]:
        if not line.strip():
            break
        for target, end in zip(sorted(begins, key=begins.__getitem__), ends, strict=True):
            for number, word in re.findall(r"(\d+) ([a-z. ]*[a-z.])", line[begins[target] : end]):
                assert word in words
                found[target, word] += int(number)
    return found


ONE_OF_EACH = [("clone", (FAILED, HELD, PASSED, PASSED, PASSED, PASSED))] * 3 + [
    ("pool", (PASSED, PASSED, *[HELD] * 4))
]


@given(rows(STATES), WIDTHS)
@example(ONE_OF_EACH, 80)
def test_verify_counts_every_claim_once(found: list[tuple[str, tuple[str, ...]]], width: int) -> None:
    claims = tuple(
        ClaimResult(f"{group}/Mark:{n}", group, "said", dict(zip(TARGETS, map(Outcome, states), strict=True)))
        for n, (group, states) in enumerate(found)
    )
    result = Verification("fairway", claims, tuple(TargetRun(target, "1.0") for target in TARGETS))
    text = printed(lambda console: show_verification(console, result), width)
    told = counts(text, "claims", STATES)
    assert told == Counter((target, o.state) for claim in claims for target, o in claim.outcomes.items())
    assert all(f"failed {claim.id} in {target}\n" in text for claim, target, _ in result.failures())


@given(rows(verdicts.STATES), WIDTHS)
def test_challenge_counts_every_fault_once(found: list[tuple[str, tuple[str, ...]]], width: int) -> None:
    faults = tuple(
        verdicts.FaultResult(
            f"f{n}", "claim", group, "said", dict(zip(TARGETS, map(verdicts.Verdict, states), strict=True))
        )
        for n, (group, states) in enumerate(found)
    )
    result = verdicts.Challenge("fairway", faults, tuple(verdicts.TrialsRun(t, "1.0") for t in TARGETS))
    text = printed(lambda console: show_challenge(console, result), width)
    words = {verdicts.IMPOSSIBLE: "n.e."}
    told = counts(text, "faults", [words.get(state, state) for state in verdicts.STATES])
    seen = [(target, words.get(v.state, v.state)) for fault in faults for target, v in fault.verdicts.items()]
    assert told == Counter(seen)
    assert all(
        f"{verdict.state} {fault.id} in {target}\n" in text for fault, target, verdict in result.uncaught()
    )
