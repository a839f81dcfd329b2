"""About how many bytes the structs of a plan take, and which of their fields are better behind a pointer."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import Type
from urform.plan.model import Field, Product
from urform.plan.whole import Plan

POINTER = 16  # bytes, with what some pointers have beside the address
LARGE = (
    256  # bytes of an optional product from which on it is boxed: it would take them when it is absent too
)
DEEPEST = 60  # products within each other; beyond that all are large


class Sizes:
    """The sizes of one plan's products."""

    def __init__(
        self, plan: Plan, in_place: Callable[[Field], bool], is_number: Callable[[Type], bool]
    ) -> None:
        """`in_place` tells whether a field can hold its product as a value; what is no number is a text or a collection."""
        self._plan = plan
        self._in_place = in_place
        self._is_number = is_number
        self._known: dict[str, int] = {}

    def of(self, product: Product, level: int = 0) -> int:
        """The bytes of a product; of one with variants, those of the largest."""
        if product.name not in self._known:
            if level > DEEPEST:
                return LARGE
            if product.variants:
                total = max(self.of(self._plan.products[name], level + 1) for name in product.variants)
            else:
                total = sum(self._field(field, level) for field in product.fields)
            self._known[product.name] = total
        return self._known[product.name]

    def is_large(self, field: Field, level: int = 0) -> bool:
        """Whether an optional field would make its struct large."""
        if field.required or not self._in_place(field):
            return False
        return self.of(self._plan.products[str(field.type)], level) > LARGE

    def _field(self, field: Field, level: int) -> int:
        inner = self._plan.products.get(str(field.type))
        absent = 8 if field.may_be_absent and self._is_number(field.type) else 0
        if inner is None:
            return (8 if self._is_number(field.type) else 24) + absent
        if not self._in_place(field) or self.is_large(field, level + 1):
            return POINTER
        return self.of(inner, level + 1) + absent
