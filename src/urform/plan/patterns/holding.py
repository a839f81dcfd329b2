"""Holding: what is immutable stays so, and a mutable product owns what it holds."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.declaration.types import Collection, ProductType
from urform.plan.model import Field, Plan, Product
from urform.plan.patterns import Pattern
from urform.plan.patterns.fields import change_inside
from urform.plan.script import (
    Assign,
    Case,
    ChangeHeld,
    ChangeInHeld,
    ChangeOut,
    Claim,
    FieldIs,
    Hold,
    Keyed,
    Make,
    Operand,
    Path,
    Set,
    Several,
    Var,
    case,
)
from urform.plan.witnesses import Witnesses

Given = Mapping[str, Operand]


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


def _held(witnesses: Witnesses, field: Field) -> Operand | None:
    """A value for a field that has something in it."""
    for value in witnesses.values(field.type, field.limits, field.each):
        if not isinstance(value, (Several, Keyed)) or _contents(value):
            return value
    return None


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
        held = _held(witnesses, field)
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
        held = _held(witnesses, field)
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
    by_constructor = Make("made", product.name, {**given, field.name: Var("held")})
    by_setter = (Make("made", product.name, given), Set(path, Var("held")))
    for aspect, way in (("constructor", (by_constructor,)), ("setter", by_setter)):
        cases = [case(hold, *way, change, FieldIs(path, held)) for change in changes]
        text = f"{field.name} of {product.name} is its own, whatever happens to what the {aspect} was given"
        if cases:
            yield Claim("own", product.name, text, tuple(cases), field.name, aspect)


PATTERN = Pattern("holding", 20, claims)
