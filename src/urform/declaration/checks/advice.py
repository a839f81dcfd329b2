"""Advice: forms that cost more than they give, each with the simpler one. It stops nothing."""

from __future__ import annotations

from urform.declaration.catalogue import advice as catalogue
from urform.declaration.model import Declaration, Product
from urform.declaration.problems import Problems
from urform.declaration.types import Collection, ProductType, innermost

FEW_FIELDS = 2


def check(declaration: Declaration, problems: Problems) -> None:
    """Note what a plainer declaration would serve as well."""
    for product in declaration.products.values():
        _product(declaration, product, problems)
        for field in product.fields.values():
            for limit in field.limits:
                if limit.unless_empty and limit.bound == 1:
                    problems.add(catalogue.EMPTY_ANYWAY, limit.place, field=field.name)
            scalars = isinstance(field.type, Collection) and not isinstance(
                innermost(field.type), ProductType
            )
            if field.copy == "shallow" and scalars:
                problems.add(catalogue.SHALLOW_SCALARS, field.copy_place, field=field.name, type=field.type)
    for family in declaration.families.values():
        if len(family.members) == 1:
            problems.add(catalogue.FAMILY_OF_ONE, family.place, family=family.name)


def _product(declaration: Declaration, product: Product, problems: Problems) -> None:
    name = product.name
    factory = product.factory
    if factory is not None and len(product.variants) == 1:
        problems.add(
            catalogue.FACTORY_OF_ONE, factory.place, product=name, variant=next(iter(product.variants))
        )
    elif factory is not None and factory.form == "creators":
        problems.add(catalogue.CREATORS_OR_FUNCTION, factory.place, product=name)
    if product.builder is not None and len(product.fields) <= FEW_FIELDS:
        problems.add(catalogue.SMALL_BUILDER, product.builder.place, product=name, fields=len(product.fields))
    restarts = any(
        field.copy == "fresh"
        for each in (product, *product.variants.values())
        for field in each.fields.values()
    )
    if product.prototype is not None and not product.mutable and not restarts:
        problems.add(catalogue.IMMUTABLE_PROTOTYPE, product.prototype.place, product=name)
    if product.flyweight is not None and {use.name for use in product.flyweight.key} >= set(product.fields):
        problems.add(catalogue.BARE_POOL, product.flyweight.place, product=name)
