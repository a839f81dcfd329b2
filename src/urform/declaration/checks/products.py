"""Products as wholes: variants, their keys and defaults, answers, single products."""

from __future__ import annotations

from urform.declaration.catalogue import products as catalogue
from urform.declaration.catalogue.values import FIELD_TWICE
from urform.declaration.checks.texts import LONGEST, is_short_text
from urform.declaration.model import Declaration, Product
from urform.declaration.problems import Problems, did_you_mean
from urform.declaration.types import NOTHING, UNKNOWN
from urform.declaration.value_reader import ValueReader
from urform.prose import listing


def check(declaration: Declaration, problems: Problems) -> None:
    """Note what is wrong with each product, apart from its fields and its ways of making."""
    values = ValueReader(declaration, problems)
    for product in declaration.products.values():
        _inherited_twice(declaration, product, problems)
        _defaults(declaration, product, values, problems)
        _answers(declaration, product, values, problems)
        _once(product, problems)
        _single(declaration, product, problems)
        _keys(product, problems)


def _inherited_twice(declaration: Declaration, product: Product, problems: Problems) -> None:
    base = declaration.base_of(product)
    for field in product.fields.values():
        if base is not None and field.name in base.fields:
            problems.add(FIELD_TWICE, field.place, field=field.name)


def _defaults(declaration: Declaration, product: Product, values: ValueReader, problems: Problems) -> None:
    base = declaration.base_of(product)
    if base is None:
        return
    optional = {field.name: field for field in base.fields.values() if not field.required}
    for given in product.defaults:
        field = optional.get(given.name)
        if field is None:
            hint = did_you_mean(given.name, optional)
            problems.add(
                catalogue.NO_SUCH_DEFAULT,
                given.place,
                field=given.name,
                base=base.name,
                known=tuple(optional),
                hint=hint,
            )
        elif field.type != UNKNOWN:
            values.field_value(given.node, field)


def _answers(declaration: Declaration, product: Product, values: ValueReader, problems: Problems) -> None:
    operations = {operation.name: operation for operation in declaration.all_operations(product)}
    for given in product.answers:
        operation = operations.get(given.name)
        if operation is None:
            hint = did_you_mean(given.name, operations)
            problems.add(
                catalogue.NO_SUCH_OPERATION,
                given.place,
                operation=given.name,
                product=product.name,
                known=tuple(operations),
                hint=hint,
            )
        elif operation.returns == NOTHING:
            problems.add(catalogue.ANSWER_OF_NOTHING, given.place, operation=given.name)
        elif operation.returns != UNKNOWN:
            values.answer(given.node, operation.returns)


def _once(product: Product, problems: Problems) -> None:
    for operation in product.operations.values() if not product.abstract else ():
        if operation.once is not None:
            problems.add(
                catalogue.ONCE_WITHOUT_VARIANTS,
                operation.once,
                product=product.name,
                operation=operation.name,
            )


def _single(declaration: Declaration, product: Product, problems: Problems) -> None:
    if not product.single:
        return
    fields = [field.name for field in declaration.all_fields(product)]
    if fields:
        problems.add(
            catalogue.SINGLE_WITH_FIELDS, product.single_place, product=product.name, fields=listing(fields)
        )
    if product.abstract:
        problems.add(catalogue.SINGLE_ABSTRACT, product.single_place, product=product.name)
    if product.mutable:
        problems.add(catalogue.SINGLE_MUTABLE, product.single_place, product=product.name)


def _keys(product: Product, problems: Problems) -> None:
    first: dict[str, Product] = {}
    for variant in product.variants.values():
        for key in variant.keys:
            if not is_short_text(key.name):
                problems.add(catalogue.BAD_KEY, key.place, variant=variant.name, most=LONGEST)
            if key.name in first:
                other = first[key.name].name
                problems.add(catalogue.KEY_TWICE, key.place, key=key.name, variant=variant.name, other=other)
            first.setdefault(key.name, variant)
