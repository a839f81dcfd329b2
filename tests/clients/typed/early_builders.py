"""What a type checker sees of builders that lack something; it is checked, not run."""

from typing import Literal, TypeAlias

from early import Leg, RefitPlan, RefitPlanBuilder

Whole: TypeAlias = RefitPlanBuilder[Literal["given"], Literal["given"], Literal["given"]]
NeedsBerth: TypeAlias = RefitPlanBuilder[Literal["berth is missing"], Literal["given"], Literal["given"]]
LEGS = [Leg(mark="bar", hours=2)]


def moored(builder: NeedsBerth) -> RefitPlan:
    return builder.berth("north").build()


def is_whole_in_any_order() -> list[Whole]:
    builder = RefitPlanBuilder().legs(LEGS).note("few")
    return [builder.crew(3).berth("north"), builder.berth("north").crew(3)]


def takes_what_a_preset_gives() -> RefitPlan:
    return moored(RefitPlanBuilder.short_handed())


def lacks_a_berth() -> RefitPlan:
    return RefitPlanBuilder.short_handed().note("few").build()  # type: ignore[misc]


def forgets_what_a_setter_returns() -> RefitPlan:
    builder = RefitPlanBuilder.short_handed()
    builder.berth("north")
    return builder.build()  # type: ignore[misc]


def says_that_nothing_is_missing() -> Whole:
    return RefitPlanBuilder()  # type: ignore[return-value]


def lacks_more_than_a_berth() -> RefitPlan:
    return moored(RefitPlanBuilder())  # type: ignore[arg-type]
