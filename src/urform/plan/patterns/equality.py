"""Equality: products compare by content, variants by type and content."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.plan.fault import Fault, flaw_fault
from urform.plan.model import Plan, Product
from urform.plan.operands import Operand
from urform.plan.patterns import Pattern
from urform.plan.script import Claim, case
from urform.plan.steps import Equal, Make, Unequal
from urform.plan.witnesses import Witnesses


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`equal` of every concrete product that has fields."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if not product.abstract and product.fields and arguments is not None:
            yield _equal(plan, witnesses, product, arguments)


def _equal(plan: Plan, witnesses: Witnesses, product: Product, arguments: Mapping[str, Operand]) -> Claim:
    name = product.name
    same = case(
        Make("one", name, arguments), Make("two", name, arguments), Equal("one", "two", not product.mutable)
    )
    cases = [same]
    for field in product.fields:
        first = arguments.get(field.name)
        if first is None:
            other = witnesses.other_than(field, field.default)
        else:
            values = witnesses.values(field.type, field.limits, field.each)
            other = next((value for value in values if not witnesses.same(value, first)), None)
        if other is None:
            continue
        changed = witnesses.completed(product, {field.name: other}) or {**arguments, field.name: other}
        cases.append(
            case(
                Make("one", name, arguments),
                Make("other", name, changed),
                Unequal("one", "other", field.name),
            )
        )
        if first is None:
            again = case(
                Make("one", name, changed),
                Make("two", name, changed),
                Equal("one", "two", not product.mutable),
            )
            cases.append(again)
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
        "equal", name, f"two of {name} are equal if, and only if, all their fields are", tuple(cases)
    )


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
    for found in claim.cases:
        for step in found.steps:
            if isinstance(step, Unequal) and step.differing in fields:
                yield flaw_fault(plan, claim, "uncompared", fields[step.differing].owner, step.differing)


PATTERN = Pattern("equality", 30, claims, faults={"equal": _faults})
