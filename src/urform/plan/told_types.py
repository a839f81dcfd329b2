"""Which of the types whose values are told by texts a plan has anywhere."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import TOLD, Type, parts
from urform.plan.whole import Plan


def told_types(plan: Plan) -> frozenset[Type]:
    """Those of fields, and of what operations take and return."""
    return frozenset(part for type_ in _types(plan) for part in parts(type_) if part in TOLD)


def _types(plan: Plan) -> Iterator[Type]:
    for product in plan.products.values():
        yield from (field.type for field in product.fields)
        for operation in product.operations:
            yield operation.returns
            yield from (parameter.type for parameter in operation.takes)
    for base in plan.products:
        selection = plan.selection_of(base)
        if selection is not None:
            yield from (field.type for field in selection.parameters)
