"""Each kind of step in each target, as text: what a test says for it, to be read side by side and reviewed like code.

The first steps of each kind that the claims of the fixtures have, with the lines that the target writes for them; the scene
of the walk-through in which one of them fails, too.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from typing import Any, get_args

import pytest

from tests.conftest import VALID, planned
from urform.languages import target
from urform.languages.testing import steps
from urform.languages.testing.writer import StepWriter
from urform.plan import Plan
from urform.plan.capabilities import needs
from urform.plan.outcomes import Attempt, Fails, GivesNothing
from urform.plan.script import Claim, Step

OF_EACH = 2  # examples of a kind
OFTEN = 16  # times that a kind is met until claims without any other kind are left out
KINDS = {kind for kind in get_args(Step) if kind not in (Fails, GivesNothing)}


def name_of(step: Any) -> str:
    """`Make`, `Fails(Make)`."""
    inner = getattr(step, "attempt", None)
    return f"{type(step).__name__}({type(inner).__name__})" if inner is not None else type(step).__name__


class Recorder:
    """Keeps the first lines that are written for each kind of step."""

    def __init__(self, written: Mapping[type, steps.Written]) -> None:
        self._written = written
        self.shown: dict[str, list[str]] = {}

    def table(self) -> dict[type, steps.Written]:
        """What writes steps, and notes what it wrote."""
        return dict.fromkeys(self._written, self._write)

    def _write(self, writer: StepWriter, step: Any) -> Iterator[str]:
        lines = list(self._written[type(step)](writer, step))
        shown = self.shown.setdefault(name_of(step), [])
        text = "".join(f"    {line}\n" for line in lines) or "    (nothing)\n"
        if len(shown) < OF_EACH and text not in shown:
            shown.append(text)
        yield from lines


@pytest.fixture(scope="module")
def plans() -> list[tuple[Plan, tuple[Claim, ...]]]:
    return [planned(path) for path in VALID]


def test_each_step_says_what_it_said(
    target_name: str,
    plans: list[tuple[Plan, tuple[Claim, ...]]],
    expected: Any,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    recorder = Recorder(steps._STEPS)
    monkeypatch.setattr(steps, "_STEPS", recorder.table())
    offered: Counter[str] = Counter()
    for plan, claims in plans:
        wanted = []
        for claim in claims:
            kinds = [name_of(step) for case in claim.cases for step in case.steps]
            if any(offered[kind] < OFTEN for kind in kinds):
                wanted.append(claim)
                offered.update(kinds)
        target(target_name).emit(plan, tuple(wanted))
    shown = sorted(recorder.shown.items())
    text = "\n".join(f"{kind}\n" + "    --\n".join(examples) for kind, examples in shown)
    expected(f"steps/{target_name}.txt", text)
    missing = {kind.__name__ for kind in KINDS} - recorder.shown.keys()
    assert missing == {kind.__name__ for kind in KINDS if not _can_take(target_name, kind, plans)}


def _can_take(name: str, kind: type, plans: list[tuple[Plan, tuple[Claim, ...]]]) -> bool:
    """Whether some step of a kind asks for no more than a target is capable of."""
    capabilities = target(name).capabilities
    return any(
        needs(step, plan) <= capabilities
        for plan, claims in plans
        for claim in claims
        for case in claim.cases
        for step in case.steps
        if isinstance(step, kind)
    )


def test_the_fixtures_have_a_step_of_each_kind(plans: list[tuple[Plan, tuple[Claim, ...]]]) -> None:
    """And one of each kind that fails."""
    met = {
        name_of(step)
        for _, claims in plans
        for claim in claims
        for case in claim.cases
        for step in case.steps
    }
    wanted = {kind.__name__ for kind in KINDS} | {f"Fails({kind.__name__})" for kind in get_args(Attempt)}
    assert wanted - met == set()
    assert {name for name in met if name.startswith("GivesNothing")} == {
        "GivesNothing(Ask)",
        "GivesNothing(FamilyOf)",
        "GivesNothing(Select)",
    }
