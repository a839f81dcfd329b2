"""Holding: what is immutable stays so, and a mutable product owns what it holds."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import islice

from urform.declaration.types import Collection, ProductType
from urform.plan.fault import Fault, flaw_fault
from urform.plan.making_steps import Build, BuilderSet, NewBuilder
from urform.plan.model import Field, Plan, Product
from urform.plan.operands import Keyed, Operand, Path, Several, Var
from urform.plan.patterns import Pattern
from urform.plan.patterns.fields import change_inside
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import Assign, ChangeHeld, ChangeInHeld, ChangeOut, FieldIs, Hold, Make, Set
from urform.plan.witnesses import Witnesses, in_place_of_first

Given = Mapping[str, Operand]

ENOUGH = 8  # values that are looked at


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`immutable` of immutable products, `own` of what mutable ones hold."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if product.abstract or arguments is None or not product.fields:
            continue
        if product.mutable:
            yield from _owned(plan, witnesses, product, arguments)
        else:
            yield _immutable(witnesses, product, arguments)


def holding_something(witnesses: Witnesses, field: Field) -> Operand | None:
    """A value for a field that has something in it, None if it is always empty."""
    return next(holding(witnesses, field), None)


def holding(witnesses: Witnesses, field: Field) -> Iterator[Operand]:
    """The first values for a field that have something in them."""
    for value in islice(witnesses.values(field.type, field.limits, field.each), ENOUGH):
        if not isinstance(value, (Several, Keyed)) or _contents(value):
            yield value


def _contents(value: Several | Keyed) -> tuple[object, ...]:
    return value.items if isinstance(value, Several) else value.entries


def _immutable(witnesses: Witnesses, product: Product, given: Given) -> Claim:
    cases: list[Case] = []
    first = product.fields[0]
    value = witnesses.of(first, 1) or witnesses.of(first)
    if value is not None:
        before = given.get(first.name, witnesses.of(first))
        made = Make("made", product.name, {**given, first.name: before} if before is not None else given)
        cases.append(case(made, Assign("made", first.name, value)))
    for field in product.fields:
        held = holding_something(witnesses, field)
        if not isinstance(field.type, Collection) or held is None:
            continue
        path = Path("made", field.name)
        whole = {**given, field.name: Var("held")}
        cases.append(
            case(
                Hold("held", field.type, held),
                Make("made", product.name, whole),
                ChangeHeld("held"),
                FieldIs(path, held),
            )
        )
        cases.append(
            case(
                Make("made", product.name, {**given, field.name: held}), ChangeOut(path), FieldIs(path, held)
            )
        )
    return Claim("immutable", product.name, f"nothing changes a {product.name} once it is made", tuple(cases))


def _owned(plan: Plan, witnesses: Witnesses, product: Product, given: Given) -> Iterator[Claim]:
    for field in product.fields:
        held = holding_something(witnesses, field)
        mutable = isinstance(field.type, ProductType) and plan.holds_mutable(field.type)
        if held is None or not (isinstance(field.type, Collection) or mutable):
            continue
        yield from _ways_in(plan, witnesses, product, field, held, given)
        if isinstance(field.type, Collection):
            path = Path("made", field.name)
            made = Make("made", product.name, {**given, field.name: held})
            text = f"the container that {field.name} of {product.name} hands out cannot be used to change it"
            out = case(made, ChangeOut(path), FieldIs(path, held))
            yield Claim("own", product.name, text, (out,), field.name, "out")


def _ways_in(
    plan: Plan, witnesses: Witnesses, product: Product, field: Field, held: Operand, given: Given
) -> Iterator[Claim]:
    path = Path("made", field.name)
    hold = Hold("held", field.type, held)
    changes: list[ChangeHeld | ChangeInHeld] = (
        [ChangeHeld("held")] if isinstance(field.type, Collection) else []
    )
    inside = change_inside(plan, witnesses, field)
    if inside is not None:
        changes.insert(0, inside)
    for aspect, way, built in _ways(plan, product, field, given, Var("held")):
        cases = [case(hold, *way, change, *built, FieldIs(path, held)) for change in changes]
        kept = _kept_whole(plan, witnesses, field)
        if kept is not None:
            part, whole = kept
            for _, way_of_part, built_part in _ways(plan, product, field, given, whole, aspect):
                cases.append(case(part, *way_of_part, *built_part, FieldIs(path, whole)))
        text = f"{field.name} of {product.name} is its own, whatever happens to what the {aspect} was given"
        if cases:
            yield Claim("own", product.name, text, tuple(cases), field.name, aspect)


Way = tuple[str, tuple[Step, ...], tuple[Step, ...]]


def _ways(
    plan: Plan, product: Product, field: Field, given: Given, value: Operand, only: str | None = None
) -> Iterator[Way]:
    """The ways by which a value comes into a product: steps before a change of the value, and after it."""
    ways: list[Way] = [
        ("constructor", (Make("made", product.name, {**given, field.name: value}),), ()),
        ("setter", (Make("made", product.name, given), Set(Path("made", field.name), value)), ()),
    ]
    if plan.builder_of(product.name) is not None:
        others: list[Step] = [BuilderSet("builder", n, v) for n, v in given.items() if n != field.name]
        start: Step = NewBuilder("builder", product.name)
        sets = (start, *others, BuilderSet("builder", field.name, value))
        ways.append(("builder", sets, (Build("made", "builder"),)))
    return (way for way in ways if only is None or way[0] == only)


def _kept_whole(plan: Plan, witnesses: Witnesses, field: Field) -> tuple[Make, Operand] | None:
    """A part whose `fresh` fields are set, and a value that holds it: on the way in all of it is kept."""
    inner = plan.product_in(field.type)
    if inner is None or not inner.mutable or inner.abstract or plan.selected_by(inner) is not None:
        return None
    for fresh in inner.fields:
        other = witnesses.other_than(fresh, fresh.default) if fresh.copy == "fresh" else None
        arguments = witnesses.arguments(inner)
        if other is None or arguments is None:
            continue
        part: Operand | None = Var("part")
        if isinstance(field.type, Collection):
            whole = holding_something(witnesses, field)
            part = in_place_of_first(whole, Var("part")) if whole is not None else None
        return (
            (Make("part", inner.name, {**arguments, fresh.name: other}), part) if part is not None else None
        )
    return None


# --- faults -------------------------------------------------------------------------------------------------


def _immutable_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    product = plan.products[claim.owner]
    for found in claim.cases:
        for step in found.steps:
            if isinstance(step, Assign):
                yield flaw_fault(plan, claim, "assignable", product.base or product.name)
            elif isinstance(step, ChangeOut):
                owner = product.field(step.path.field).owner
                yield flaw_fault(plan, claim, "kept-as-given", owner, step.path.field)
                yield flaw_fault(plan, claim, "handed-out", owner, step.path.field)


def _own_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    name = claim.member or ""
    owner = plan.products[claim.owner].field(name).owner
    flaws = {"builder": "builder-keeps-as-given", "out": "handed-out"}
    if claim.aspect == "builder":
        owner = claim.owner
    yield flaw_fault(plan, claim, flaws.get(claim.aspect or "", "kept-as-given"), owner, name)


PATTERN = Pattern("holding", 20, claims, faults={"immutable": _immutable_faults, "own": _own_faults})
