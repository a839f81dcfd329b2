"""Builders, prototypes and flyweights."""

from __future__ import annotations

from urform.declaration.catalogue import making as catalogue
from urform.declaration.catalogue.values import UNKNOWN_FIELD
from urform.declaration.model import Declaration, Field, Product
from urform.declaration.place import Place
from urform.declaration.problems import Problems, did_you_mean
from urform.declaration.types import BOOLEAN, INTEGER, TEXT, UNKNOWN, ChoiceType, ProductType
from urform.declaration.value_reader import ValueReader


def check(declaration: Declaration, problems: Problems) -> None:
    """Note what is wrong with the ways of making that are not factories."""
    values = ValueReader(declaration, problems)
    for product in declaration.products.values():
        for way, place in _ways(product):
            if product.abstract:
                problems.add(catalogue.WANTS_ONE_PRODUCT, place, way=way, product=product.name)
        if product.builder is not None and not product.abstract:
            if not product.fields:
                problems.add(catalogue.EMPTY_BUILDER, product.builder.place, product=product.name)
            _missing(product, tuple(declaration.all_fields(product)), problems)
            for preset in product.builder.presets:
                values.values(
                    product,
                    {given.name: given.node for given in preset.values},
                    tuple(declaration.all_fields(product)),
                    preset.node,
                )
        if product.prototype is not None:
            for exemplar in product.prototype.exemplars:
                values.value(exemplar.node, ProductType(product.name))
        if product.flyweight is not None:
            _flyweight(product, problems)


def _missing(product: Product, fields: tuple[Field, ...], problems: Problems) -> None:
    """Whether a compiler could tell what is missing."""
    builder = product.builder
    assert builder is not None
    if builder.missing != "at_compile_time" or not fields:
        return
    place = builder.missing_place or builder.place
    if builder.style == "statements":
        problems.add(catalogue.MISSING_BY_STATEMENTS, place, product=product.name)
    elif not any(field.required for field in fields):
        problems.add(catalogue.NOTHING_MISSING, place, product=product.name)


def _ways(product: Product) -> list[tuple[str, Place]]:
    ways = (("builder", product.builder), ("flyweight", product.flyweight))
    return [(name, way.place) for name, way in ways if way is not None]


def _flyweight(product: Product, problems: Problems) -> None:
    assert product.flyweight is not None
    if product.mutable:
        problems.add(catalogue.MUTABLE_FLYWEIGHT, product.flyweight.place, product=product.name)
    seen: set[str] = set()
    for use in product.flyweight.key:
        field = product.fields.get(use.name)
        if use.name in seen:
            problems.add(catalogue.KEY_FIELD_TWICE, use.place, field=use.name)
        elif field is None:
            hint = did_you_mean(use.name, product.fields)
            known = tuple(product.fields)
            problems.add(
                UNKNOWN_FIELD, use.place, field=use.name, product=product.name, known=known, hint=hint
            )
        elif not _has_key_type(field):
            problems.add(catalogue.KEY_FIELD_TYPE, use.place, field=use.name, type=field.type)
        elif not field.required and field.default is None:
            problems.add(catalogue.KEY_FIELD_ABSENT, use.place, field=use.name)
        seen.add(use.name)


def _has_key_type(field: Field) -> bool:
    return field.type in (TEXT, INTEGER, BOOLEAN, UNKNOWN) or isinstance(field.type, ChoiceType)
