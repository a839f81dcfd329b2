"""Written values of products that are made by values: what their factory would make of them.

It runs only when nothing else is wrong, for it needs conditions that are valid.
"""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.document import Node
from urform.declaration.model import Declaration
from urform.declaration.problems import Problems
from urform.declaration.types import ProductType, Type
from urform.declaration.value_reader import ValueReader


def check(declaration: Declaration, problems: Problems) -> None:
    """Note values that would be refused."""
    if not any(
        p.factory is not None and p.factory.form == "by_values" for p in declaration.products.values()
    ):
        return
    values = ValueReader(declaration, problems, deciding=True)
    for node, type_ in _written(declaration):
        values.answer(node, type_)


def _written(declaration: Declaration) -> Iterator[tuple[Node, Type]]:
    """Every value in the declaration, and the type that it is meant for."""
    for product in declaration.products.values():
        fields = {field.name: field for field in declaration.all_fields(product)}
        yield from ((field.default, field.type) for field in product.fields.values() if field.default)
        presets = product.builder.presets if product.builder else ()
        for given in (*product.defaults, *(value for preset in presets for value in preset.values)):
            yield given.node, fields[given.name].type
        answers = {operation.name: operation.returns for operation in declaration.all_operations(product)}
        yield from ((given.node, answers[given.name]) for given in product.answers)
        exemplars = product.prototype.exemplars if product.prototype else ()
        yield from ((exemplar.node, ProductType(product.name)) for exemplar in exemplars)
    for family in declaration.families.values():
        for member in family.members.values():
            for part in (part for filling in member.fillings.values() for part in filling.parts):
                used = {f.name: f.type for f in declaration.all_fields(declaration.products[part.use.name])}
                yield from ((given.node, used[given.name]) for given in part.values)
