"""Steps on builders whose type tells what they were given: which calls share an expression, and which builds are unchecked."""

from __future__ import annotations

import pytest

from urform.declaration.types import TEXT
from urform.declaration.values import Integer, Text
from urform.plan.chaining import calls_in, chained, in_chains, in_stages
from urform.plan.making_steps import Build, BuilderAdd, BuilderClear, BuilderSet, NewBuilder
from urform.plan.model import Builder, Field, Preset, Product
from urform.plan.operands import Missing, Var
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.script import Claim, Step, case
from urform.plan.steps import ChangeHeld, Hold
from urform.plan.variables import used_by
from urform.plan.whole import Plan

PLAN = "RefitPlan"


def plan_with(typed: bool) -> Plan:
    fields = (
        Field("berth", PLAN, TEXT, required=True),
        Field("crew", PLAN, TEXT, required=True),
        Field("note", PLAN, TEXT, required=False),
    )
    presets = (Preset("spring", {"crew": Text("three")}), Preset("idle", {"note": Text("idle")}))
    builder = Builder(PLAN, fluent=True, resets=False, presets=presets, typed=typed)
    return Plan(
        name="p",
        doc="",
        source="p",
        choices={},
        products={PLAN: Product(PLAN, "", fields, ())},
        makings=(builder,),
    )


TYPED = plan_with(typed=True)
NEW = NewBuilder("builder", PLAN)
BERTH = BuilderSet("builder", "berth", Text("north"))
CREW = BuilderSet("builder", "crew", Text("three"))
NOTE = BuilderSet("builder", "note", Text("few"))
CLEAR = BuilderClear("builder", "note")
BUILD = Build("built", "builder")


def chain(*calls: BuilderSet | BuilderAdd | BuilderClear, preset: str | None = None) -> NewBuilder:
    return NewBuilder("builder", PLAN, preset, calls=calls)


def test_calls_that_follow_a_builder_are_its_chain() -> None:
    assert in_chains(TYPED, (NEW, CREW, BERTH, CLEAR, BUILD)) == (chain(CREW, BERTH, CLEAR), BUILD)


def test_calls_after_something_else_stand_alone() -> None:
    steps = (NEW, BERTH, CREW, BUILD, NOTE, Build("again", "builder"))
    assert in_chains(TYPED, steps) == (chain(BERTH, CREW), BUILD, NOTE, Build("again", "builder"))


def test_calls_on_another_builder_do_not_join_the_chain() -> None:
    other = NewBuilder("other", PLAN)
    for_other = BuilderSet("other", "berth", Text("south"))
    steps = (NEW, other, BERTH, for_other)
    assert in_chains(TYPED, steps) == (NEW, other, BERTH, for_other)


@pytest.mark.parametrize(
    ("start", "calls", "unchecked"),
    [
        (NEW, (), True),
        (NEW, (BERTH,), True),
        (NEW, (NOTE, CREW), True),
        (NEW, (BERTH, CREW), False),
        (NewBuilder("builder", PLAN, "spring"), (), True),
        (NewBuilder("builder", PLAN, "spring"), (BERTH,), False),
        (NewBuilder("builder", PLAN, "idle"), (BERTH,), True),
        (NewBuilder("builder", PLAN, like="original"), (), False),
    ],
)
def test_a_build_is_unchecked_where_the_type_lacks_a_field(
    start: NewBuilder, calls: tuple[BuilderSet, ...], unchecked: bool
) -> None:
    failure = Missing(PLAN, ("berth",))
    *_, built, fails = in_chains(TYPED, (start, *calls, BUILD, Fails(Build(UNKEPT, "builder"), failure)))
    assert built == Build("built", "builder", unchecked)
    assert fails == Fails(Build(UNKEPT, "builder", unchecked), failure)


def test_a_statement_leaves_the_type_as_it_was() -> None:
    steps = (NEW, BERTH, Fails(Build(UNKEPT, "builder"), Missing(PLAN, ("crew",))), CREW, BUILD)
    assert in_chains(TYPED, steps)[-1] == Build("built", "builder", unchecked=True)


def test_other_builders_keep_their_steps() -> None:
    plain = plan_with(typed=False)
    steps = (NEW, BERTH, BUILD)
    assert in_chains(plain, steps) == steps
    claims = [Claim("build", PLAN, "", (case(*steps),))]
    assert list(chained(plain, claims)) == claims
    (changed,) = chained(TYPED, claims)
    assert changed.cases == (case(chain(BERTH), Build("built", "builder", unchecked=True)),)


def test_a_chain_is_read_call_by_call() -> None:
    steps: tuple[Step, ...] = (NEW, BERTH, CREW, BUILD, NOTE)
    seen = list(calls_in(in_chains(TYPED, steps)))
    assert [step for step in seen if not isinstance(step, NewBuilder)] == [BERTH, CREW, BUILD, NOTE]


def test_a_chain_uses_what_its_calls_use() -> None:
    handed = BuilderSet("builder", "berth", Var("held"))
    steps = in_chains(TYPED, (Hold("held", TEXT, Text("x")), NEW, handed, ChangeHeld("held"), BUILD))
    assert list(used_by(steps[1])) == ["held"]


@pytest.mark.parametrize(
    ("start", "stages"),
    [
        (chain(NOTE, CREW, BERTH), [BERTH, CREW, NOTE]),
        (chain(BERTH, CREW, BERTH, CLEAR), [BERTH, CREW, BERTH, CLEAR]),
        (chain(CREW, NOTE), []),
        (chain(BERTH, NOTE), [BERTH]),
        (chain(NOTE, BERTH, preset="spring"), [BERTH, NOTE]),
        (chain(CREW, BERTH, preset="spring"), [BERTH, CREW]),
    ],
)
def test_stages_come_in_declared_order_and_end_where_one_is_left_out(
    start: NewBuilder, stages: list[BuilderSet]
) -> None:
    assert list(in_stages(TYPED, start)) == stages


def test_each_call_of_a_stage_is_made_once() -> None:
    more = BuilderSet("builder", "crew", Integer(4))
    assert list(in_stages(TYPED, chain(more, BERTH, CREW))) == [BERTH, more, CREW]
