"""Which of the types whose values are told by texts a plan has anywhere."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from urform.declaration.types import TOLD, Type, parts
from urform.plan.whole import Plan


def told_types(plan: Plan) -> frozenset[Type]:
    """Those of fields, and of what operations take and return."""
    return _told((*_of_fields(plan), *_of_operations(plan)))


def told_in_fields(plan: Plan) -> frozenset[Type]:
    """Those of fields, which records have."""
    return _told(_of_fields(plan))


def _told(types: Iterable[Type]) -> frozenset[Type]:
    return frozenset(part for type_ in types for part in parts(type_) if part in TOLD)


def _of_operations(plan: Plan) -> Iterator[Type]:
    for product in plan.products.values():
        for operation in product.operations:
            yield operation.returns
            yield from (parameter.type for parameter in operation.takes)


def _of_fields(plan: Plan) -> Iterator[Type]:
    for product in plan.products.values():
        yield from (field.type for field in product.fields)
    for base in plan.products:
        selection = plan.selection_of(base)
        if selection is not None:
            yield from (field.type for field in selection.parameters)
