"""Lists without duplicates, and least lengths that an empty collection need not have."""

from __future__ import annotations

from itertools import islice

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import HERE, planned
from urform.declaration import read_string
from urform.declaration.types import INTEGER, TEXT, ChoiceType, ListOf, Type
from urform.plan.model import Field, Limit
from urform.plan.operands import Several
from urform.plan.selecting import within
from urform.plan.witnesses import Witnesses, collection_edge

WATCH = """
urform: 1
name: watch
choices: {Side: {values: [port, starboard]}}
products:
  Watch:
    optional:
      sides: %s
"""


def problems(field: str) -> list[str]:
    """The ids of what is wrong with a declaration that has such a field."""
    read = read_string(WATCH % field)
    return [problem.slug for problem in (*read.problems, *read.advice)]


@pytest.mark.parametrize(
    ("field", "found"),
    [
        ("{type: list<Side>, unique: true}", []),
        ("{type: list<integer>, unique: true, default: [1, 2]}", []),
        ("{type: list<integer>, unique: true, default: [1, 2, 1]}", ["value-limit"]),
        ("{type: list<integer>, unique: false, default: [1, 1]}", []),
        ("{type: list<uri>, unique: true, default: ['urn:a:b', 'urn:a:b']}", ["value-limit"]),
        ("{type: list<Side>, unique: true, min_length: 2}", []),
        ("{type: list<Side>, unique: true, min_length: 3}", ["no-value-left"]),
        ("{type: list<integer>, unique: true, min_length: 3, each: {min: 1, max: 2}}", ["no-value-left"]),
        ("{type: list<real>, unique: true}", ["misplaced-limit"]),
        ("{type: list<list<text>>, unique: true}", ["misplaced-limit"]),
        ("{type: set<text>, unique: true}", ["misplaced-limit"]),
        ("{type: text, unique: true}", ["misplaced-limit"]),
        ("{type: list<list<text>>, each: {unique: true}}", ["unknown-key"]),
        ("{type: list<text>, min_length: 2}", []),
        ("{type: map<text to text>, min_length: 1}", ["empty-anyway"]),
        ("{type: list<text>, min_length: 2, default: []}", ["value-limit"]),
        ("{type: list<text>, min_length: 2, max_length: 1}", ["no-value-left"]),
    ],
)
def test_what_can_be_declared(field: str, found: list[str]) -> None:
    assert problems(field) == found


@settings(max_examples=150, deadline=None)
@given(
    st.integers(0, 6),
    st.integers(0, 6),
    st.sampled_from([TEXT, INTEGER, ChoiceType("Side")]),
    st.booleans(),
)
def test_witnesses_differ_within_and_repeat_one_element_outside(
    least: int, more: int, element: Type, unless_empty: bool
) -> None:
    plan, _ = planned(HERE / "fixtures/valid/unique.urform.yaml")
    witnesses = Witnesses(plan)
    limits = (
        Limit("min_length", least, unless_empty=unless_empty),
        Limit("max_length", least + more),
        Limit("unique", True),
    )
    field = Field("sides", "Watch", ListOf(element), required=False, limits=limits)
    found = list(islice(witnesses.values(field.type, limits), 5))
    assert all(within(value, field) for value in found)
    assert len(set(found)) == len(found)
    edge = collection_edge(witnesses, field, limits[-1])
    if edge is None:
        return
    for outside, repeated in zip(edge.outside, edge.broken, strict=True):
        assert isinstance(outside, Several)
        assert outside.items.count(repeated) == 2
        assert len(set(outside.items)) == len(outside.items) - 1
        assert least <= len(outside.items) <= least + more
    assert edge.inside is None or within(edge.inside, field)
