"""Operations as their users write them: once for all kinds, or each by itself; and what answers for them."""

from __future__ import annotations

import importlib
import sys
from collections.abc import Iterator
from pathlib import Path
from types import ModuleType

import pytest

from tests.conftest import VALID, emitted
from urform.declaration import read_string
from urform.plan.builder import build

DUTIES = next(path for path in VALID if path.name.startswith("duties"))
WRITTEN = """
from __future__ import annotations
told: list[str] = []
def mark_show(mark: object) -> None:
    told.append(f"show {mark.key}")
def mark_told(mark: object) -> str | None:
    return mark.key if mark.key == "stake" else None
def mark_range_from(mark: object, eye: float) -> float:
    return eye * 2
def perch_inspect(perch: object, by: str) -> None:
    told.append(f"{perch.key} {by}")
"""


@pytest.fixture
def duties(tmp_path: Path) -> Iterator[ModuleType]:
    """The generated package, with operations of marks written."""
    for file in emitted(DUTIES, "python").files:
        path = tmp_path / file.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(WRITTEN if path.name == "mark_operations.py" else file.text, encoding="utf-8")
    sys.path.insert(0, str(tmp_path))
    try:
        yield importlib.import_module("duties")
    finally:
        sys.path.remove(str(tmp_path))
        for name in [name for name in sys.modules if name == "duties" or name.startswith("duties.")]:
            del sys.modules[name]


def test_what_is_written_once_serves_all_kinds(duties: ModuleType) -> None:
    written = importlib.import_module("duties.mark_operations")
    beacon, perch, stake = duties.Beacon(), duties.Perch(wood="oak"), duties.Stake()
    for mark in (beacon, perch, stake):
        assert mark.show() is None
    perch.inspect("Jansen")
    assert written.told == ["show beacon", "show perch", "show stake", "perch Jansen"]
    assert [mark.range_from(1.5) for mark in (beacon, perch, stake)] == [11.0, 3.0, 3.0]
    assert [mark.told() for mark in (beacon, perch, stake)] == [None, "perch", "stake"]


def test_a_base_answers_for_the_kinds_that_do_not() -> None:
    text = """
    urform: 1
    name: harbour
    products:
      Mark:
        operations: {label: {returns: text}, height: {returns: integer?}}
        answers: {label: mark, height: null}
        variants: {Buoy: {answers: {label: buoy}}, Beacon: {}}
    """
    declaration = read_string("\n".join(line[4:] for line in text.splitlines())).declaration
    assert declaration is not None
    plan = build(declaration)
    answers = {
        name: [str(operation.answer) for operation in plan.products[name].operations]
        for name in plan.products
    }
    assert answers == {
        "Mark": ["None", "None"],
        "Buoy": ["Text(text='buoy')", "Absent()"],
        "Beacon": ["Text(text='mark')", "Absent()"],
    }
    assert list(plan.to_write(plan.products["Mark"])) == []
