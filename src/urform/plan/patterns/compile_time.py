"""Builders whose type tells what they were given: clients that leave something out, which must not compile."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from urform.plan.fault import Fault, with_making
from urform.plan.making_steps import Build, BuilderSet, BuildRefused, NewBuilder
from urform.plan.model import Builder
from urform.plan.operands import Operand
from urform.plan.script import Case, Claim, case
from urform.plan.whole import Plan
from urform.prose import with_article

Given = Mapping[str, Operand]
ASPECT = "compile-time"


def claim(plan: Plan, builder: Builder, needed: Given) -> Claim:
    """The claim of a typed builder: each required field left out by itself, all of them, and what a preset leaves open;
    a twin of each client leaves nothing out and must compile."""
    text = f"{with_article(builder.product)} is not built without a required field: the compiler refuses it"
    return Claim("build", builder.product, text, tuple(_cases(plan, builder, needed)), aspect=ASPECT)


def _cases(plan: Plan, builder: Builder, needed: Given) -> Iterator[Case]:
    names = [field.name for field in plan.products[builder.product].required]
    empty = NewBuilder("builder", builder.product)
    for name in names:
        yield _refused(empty, needed, name)
    if len(names) > 1:
        yield case(empty, BuildRefused("builder", names[0]))
    yield _compiled(empty, needed)
    if len(names) > 1:
        yield _compiled(empty, dict(reversed(list(needed.items()))))
    for preset in builder.presets:
        start = NewBuilder("builder", builder.product, preset.name)
        rest = {name: value for name, value in needed.items() if name not in preset.values}
        for name in rest:
            yield _refused(start, rest, name)
        yield _compiled(start, rest)


def _refused(start: NewBuilder, given: Given, missing: str) -> Case:
    sets = (BuilderSet("builder", name, value) for name, value in given.items() if name != missing)
    return case(start, *sets, BuildRefused("builder", missing))


def _compiled(start: NewBuilder, given: Given) -> Case:
    sets = (BuilderSet("builder", name, value) for name, value in given.items())
    return case(start, *sets, Build("built", "builder"), main=False)


def faults(plan: Plan, builder: Builder, claim: Claim) -> Iterator[Fault]:
    """A builder whose type does not ask for one of the fields."""
    for field in plan.products[builder.product].required:
        overlooking = replace(builder, overlooked=frozenset({field.name}))
        text = f"the compiler does not ask for {field.name}"
        yield Fault(claim, f"overlooks-{field.name}", text, with_making(plan, builder, overlooking))
