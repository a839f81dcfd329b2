"""Equality: products compare by content, variants by type and content."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from urform.plan.fault import Fault, flaw_fault
from urform.plan.model import Field, Product
from urform.plan.patterns import Pattern
from urform.plan.script import Claim, case
from urform.plan.selecting import Given, Selecting
from urform.plan.steps import Equal, Make, Unequal
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, empty_of, operand_of

ENOUGH = 8


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`equal` of every concrete product that has fields."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if not product.abstract and product.fields and arguments is not None:
            yield _equal(plan, witnesses, product, arguments)


def _equal(plan: Plan, witnesses: Witnesses, product: Product, arguments: Given) -> Claim:
    name = product.name
    same = case(
        Make("one", name, arguments), Make("two", name, arguments), Equal("one", "two", not product.mutable)
    )
    cases = [same]
    for field in product.fields:
        pair = _differing(witnesses, product, arguments, field)
        if pair is None:
            continue
        one, other = pair
        cases.append(
            case(Make("one", name, one), Make("other", name, other), Unequal("one", "other", field.name))
        )
        if field.name not in arguments:
            cases.append(
                case(
                    Make("one", name, other),
                    Make("two", name, other),
                    Equal("one", "two", not product.mutable),
                )
            )
    sibling = _sibling(plan, witnesses, product)
    if sibling is not None:
        given = witnesses.arguments(sibling) or {}
        cases.append(
            case(
                Make("one", name, arguments),
                Make("other", sibling.name, given),
                Unequal("one", "other", "its type"),
            )
        )
    return Claim(
        "equal", name, f"two {name} objects are equal if and only if all their fields are equal", tuple(cases)
    )


def _differing(
    witnesses: Witnesses, product: Product, arguments: Given, field: Field
) -> tuple[Given, Given] | None:
    """The arguments of two products that differ in one field only. None if there are none."""
    first = arguments.get(field.name)
    declared = operand_of(field.default) if field.default is not None else empty_of(field.type)
    now = first if first is not None else declared
    others = (v for v in witnesses.values(field.type, field.limits, field.each) if not witnesses.same(v, now))
    selecting = witnesses.selecting(product)
    if selecting is None:
        other = next(others, None)
        return (arguments, {**arguments, field.name: other}) if other is not None else None
    for other in islice(others, ENOUGH):
        changed = {**arguments, field.name: other}
        if selecting.makes(changed, product.name):
            return arguments, changed
    return _beside_each_other(witnesses, selecting, product, field)


def _beside_each_other(
    witnesses: Witnesses, selecting: Selecting, product: Product, field: Field
) -> tuple[Given, Given] | None:
    """The same of a product by values, with other fields chosen for its conditions."""
    candidates = list(selecting.candidates(field))
    for value in candidates:
        given = selecting.making(product.name, {field.name: value})
        for other in candidates if given is not None else ():
            if given is not None and not witnesses.same(value, other):
                changed = {**given, field.name: other}
                if selecting.makes(changed, product.name):
                    return given, changed
    return None


def _sibling(plan: Plan, witnesses: Witnesses, product: Product) -> Product | None:
    """Another variant of the same base."""
    if product.base is None:
        return None
    names = plan.products[product.base].variants
    others = (plan.products[name] for name in names if name != product.name)
    return next((other for other in others if witnesses.arguments(other) is not None), None)


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    """Equality by identity; and each field left out of the comparison that some case changes."""
    yield flaw_fault(plan, claim, "equal-by-identity", claim.owner)
    fields = {field.name: field for field in plan.products[claim.owner].fields}
    for each in claim.cases:
        for step in each.steps:
            if isinstance(step, Unequal) and step.differing in fields:
                yield flaw_fault(plan, claim, "uncompared", fields[step.differing].owner, step.differing)


PATTERN = Pattern("equality", 30, claims, faults={"equal": _faults})
