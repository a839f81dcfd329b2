"""Builders of which a type checker tells what is missing, used as a program uses them."""

from typing import Any

import pytest
from PACKAGE import Leg, Logbook, LogbookBuilder, MissingFieldsError, RefitPlan, RefitPlanBuilder

LEGS = [Leg(mark="bar", hours=2)]


def test_parts_are_given_where_they_become_known() -> None:
    plans = []
    for urgent in (False, True):
        builder = RefitPlanBuilder().crew(3).legs(LEGS)
        if urgent:
            builder = builder.urgent(True)
        plans.append(builder.berth("north").build())
    assert [plan.urgent for plan in plans] == [False, True]


def test_a_builder_builds_again_with_one_thing_changed() -> None:
    builder = RefitPlanBuilder.spring().berth("north").add_leg(LEGS[0])
    first = builder.build()
    second = builder.add_leg(Leg(mark="pier", hours=1)).build()
    assert (len(first.legs), len(second.legs), first.crew) == (1, 2, 3)
    assert RefitPlanBuilder.like(first).build() == first


def test_whoever_looks_at_no_types_is_told_as_it_runs() -> None:
    builder: Any = RefitPlanBuilder().crew(3)
    with pytest.raises(MissingFieldsError, match="missing berth, legs"):
        builder.build()
    assert isinstance(builder.berth("north").legs(LEGS).build(), RefitPlan)


def test_an_emptied_builder_keeps_its_type_and_nothing_else() -> None:
    builder = LogbookBuilder().keeper("Ines").pages(3)
    assert builder.build() == Logbook(keeper="Ines", pages=3)
    with pytest.raises(MissingFieldsError, match="missing keeper, pages"):
        builder.build()
