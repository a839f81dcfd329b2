"""The values that are written in a valid declaration, typed: for those who need not know how they were written."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from urform.declaration.model import Declaration, Field, Given, Operation, Product
from urform.declaration.problems import Problems
from urform.declaration.types import ProductType
from urform.declaration.value_reader import ValueReader
from urform.declaration.values import Absent, Made, Value


class WrittenValues:
    """The defaults, answers, presets and exemplars of a declaration without problems."""

    def __init__(self, declaration: Declaration) -> None:
        self._declaration = declaration
        self._reader = ValueReader(declaration, Problems())

    def default(self, field: Field, product: Product | None = None) -> Value | None:
        """The default of a field: the one that a product declares for it, or else its own; None if there is none."""
        redefined = {given.name: given.node for given in product.defaults} if product is not None else {}
        node = redefined.get(field.name, field.default)
        return self._reader.field_value(node, field) if node is not None else None

    def answer(self, operation: Operation, products: Iterable[Product]) -> Value | Absent | None:
        """The answer that the first of these products declares for an operation; None if none does."""
        for product in products:
            for given in product.answers:
                if given.name == operation.name:
                    return self._reader.answer(given.node, operation.returns)
        return None

    def given(self, product: Product, given: Iterable[Given]) -> Mapping[str, Value]:
        """The values of a preset or a part by field, in the order of the product's fields."""
        nodes = {each.name: each.node for each in given}
        return self._reader.values(product, nodes, tuple(self._declaration.all_fields(product)))

    def exemplars(self, product: Product) -> Iterator[tuple[str, Made]]:
        """The exemplars of a product, each with its name."""
        for exemplar in product.prototype.exemplars if product.prototype is not None else ():
            value = self._reader.value(exemplar.node, ProductType(product.name))
            if isinstance(value, Made):
                yield exemplar.name, value
