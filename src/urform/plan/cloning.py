"""Whether a clone equals its original: not where something starts again that the original was given."""

from __future__ import annotations

from collections.abc import Mapping

from urform.declaration.values import Entries, Items, Made, Value
from urform.plan.model import Field, Product
from urform.plan.operands import Keyed, Operand, Several, Witness
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, empty_of, operand_of

DEEPEST = 8  # levels that are looked at


def clone_differs(
    plan: Plan, witnesses: Witnesses, product: Product, given: Mapping[str, Operand], level: int = 0
) -> bool:
    """Whether a clone of what these arguments make differs from it, at any level that it owns."""
    return any(
        field_differs(plan, witnesses, field, given.get(field.name, _otherwise(field)), level)
        for field in product.fields
    )


def field_differs(
    plan: Plan, witnesses: Witnesses, field: Field, value: Operand | None, level: int = 0
) -> bool:
    """Whether a clone has something else in a field that holds this value."""
    if field.copy == "fresh":
        return value is not None and not witnesses.same(value, _otherwise(field))
    inner = plan.product_in(field.type)
    if field.copy != "deep" or inner is None or value is None or level > DEEPEST:
        return False
    return any(
        clone_differs(plan, witnesses, product, given, level + 1)
        for product, given in _within(plan, witnesses, value)
    )


def _otherwise(field: Field) -> Operand | None:
    """What a field has that was not given."""
    return operand_of(field.default) if field.default is not None else empty_of(field.type)


def _within(
    plan: Plan, witnesses: Witnesses, value: Operand | Value
) -> list[tuple[Product, Mapping[str, Operand]]]:
    """The products in a value, each with what makes it."""
    match value:
        case Witness(name, second):
            product = plan.products[name]
            given = witnesses.second(product) if second else witnesses.arguments(product)
            return [(product, given or {})]
        case Made(name, fields):
            selection = plan.selection_of(name)
            chosen = selection.chosen(fields) if selection is not None else name
            return [(plan.products[chosen], {n: operand_of(v) for n, v in fields.items()})]
        case Several(_, items) | Items(_, items):
            return [inner for item in items for inner in _within(plan, witnesses, item)]
        case Keyed(_, entries) | Entries(_, entries):
            return [inner for _, item in entries for inner in _within(plan, witnesses, item)]
    return []
