"""The values that lead to a variant that is made by values: a record of it has the fields that it holds, and no others."""

from __future__ import annotations

from dataclasses import replace

from urform.declaration.values import Value
from urform.plan.model import Records, Selection
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


def with_leading(plan: Plan, records: Records) -> Records:
    """The records of a plan, with what leads to the variants of factories by values."""
    if not any(isinstance(making, Selection) for making in plan.makings):
        return records
    witnesses = Witnesses(plan, plain=True)
    leading: dict[str, dict[str, Value]] = {}
    unmade: list[str] = []
    for making in plan.makings:
        if isinstance(making, Selection):
            for name in plan.products[making.product].variants:
                given = _leading(plan, witnesses, name)
                if given is not None:
                    leading[name] = given
                else:
                    unmade.append(name)
    return replace(records, leading=leading, unmade=frozenset(unmade))


def _leading(plan: Plan, witnesses: Witnesses, variant: str) -> dict[str, Value] | None:
    """The parameters that the variant does not hold; None if nothing leads to it."""
    product = plan.products[variant]
    arguments = witnesses.arguments(product)
    if arguments is None:
        return None
    held = {field.name for field in product.fields}
    values = {name: witnesses.value(operand) for name, operand in arguments.items() if name not in held}
    return {name: value for name, value in values.items() if value is not None}
