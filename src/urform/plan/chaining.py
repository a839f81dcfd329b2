"""Steps on builders whose type tells what they were given: each setter returns another type, so they are called in one
expression, and the type of a variable is that of the whole expression."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from typing import TypeVar, cast

from urform.plan.making_steps import Build, BuilderAdd, BuilderCall, BuilderClear, BuilderSet, NewBuilder
from urform.plan.model import Builder
from urform.plan.outcomes import Fails
from urform.plan.script import Case, Claim, Step
from urform.plan.whole import Plan

Line = TypeVar("Line")  # a step, or what stands beside steps in a program
CALLS = (BuilderSet, BuilderAdd, BuilderClear)


def chained(plan: Plan, claims: Iterable[Claim]) -> Iterator[Claim]:
    """The claims, with the steps of their cases chained where a builder asks for it."""
    if not any(isinstance(making, Builder) and making.typed for making in plan.makings):
        yield from claims
        return
    for claim in claims:
        cases = tuple(Case(in_chains(plan, case.steps), case.main) for case in claim.cases)
        yield replace(claim, cases=cases)


def in_chains(plan: Plan, steps: Sequence[Line]) -> tuple[Line, ...]:
    """The steps, each typed builder with the calls that follow it; builds that would not compile are said to be unchecked."""
    written: list[Line | Step] = []
    lacking: dict[str, frozenset[str]] = {}  # what the type of a builder has not been given, by variable
    for step in steps:
        last = written[-1] if written else None
        if isinstance(step, NewBuilder) and _is_typed(plan, step.product):
            lacking[step.var] = _lacking(plan, step)
        elif isinstance(step, CALLS) and isinstance(last, NewBuilder) and step.builder == last.var in lacking:
            written[-1] = replace(last, calls=(*last.calls, step))
            lacking[last.var] -= {step.field}
            continue
        written.append(_unchecked(step, lacking))
    return tuple(cast("list[Line]", written))


def calls_in(steps: Iterable[Step]) -> Iterator[Step]:
    """The steps, each call of a chain as a step of its own."""
    for step in steps:
        yield step
        if isinstance(step, NewBuilder):
            yield from step.calls


def in_stages(plan: Plan, step: NewBuilder) -> Iterator[BuilderCall]:
    """The calls of a chain as they are made where required fields come in declared order: nothing comes after one that is
    left out."""
    calls = list(step.calls)
    for field in plan.products[step.product].required:
        if field.name not in _lacking(plan, step):
            continue
        first = next((call for call in calls if call.field == field.name), None)
        if first is None:
            return
        calls.remove(first)
        yield first
    yield from calls


def _is_typed(plan: Plan, product: str) -> bool:
    builder = plan.builder_of(product)
    return builder is not None and builder.typed


def _lacking(plan: Plan, step: NewBuilder) -> frozenset[str]:
    """The required fields that a builder does not start with."""
    builder = plan.builder_of(step.product)
    assert builder is not None
    if step.like is not None:
        return frozenset()
    preset = next((each.values for each in builder.presets if each.name == step.preset), {})
    return frozenset(field.name for field in plan.products[step.product].required if field.name not in preset)


def _unchecked(step: Line, lacking: dict[str, frozenset[str]]) -> Line | Step:
    if isinstance(step, Build) and lacking.get(step.builder):
        return replace(step, unchecked=True)
    if isinstance(step, Fails) and isinstance(step.attempt, Build) and lacking.get(step.attempt.builder):
        return replace(step, attempt=replace(step.attempt, unchecked=True))
    return step
