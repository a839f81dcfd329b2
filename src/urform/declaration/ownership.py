"""Who owns what: the effective `copy` of a field, and whether a product can be made at all."""

from __future__ import annotations

from urform.declaration.model import Declaration, Field, Product
from urform.declaration.ranges import length_range
from urform.declaration.types import Collection, ProductType, Type, innermost


def product_in(declaration: Declaration, type_: Type) -> Product | None:
    """The product at the innermost level of a type."""
    inner = innermost(type_)
    return declaration.products.get(inner.name) if isinstance(inner, ProductType) else None


def always_shared(product: Product) -> bool:
    """Flyweights and single products are shared, whatever is asked."""
    return product.flyweight is not None or product.single


def copy_of(declaration: Declaration, field: Field) -> str:
    """`deep`, `shallow`, `shared` or `fresh`: what holds for a field, declared or by default."""
    if field.copy is not None:
        return field.copy
    product = product_in(declaration, field.type)
    return "shared" if product is not None and always_shared(product) else "deep"


def can_be_made(declaration: Declaration) -> frozenset[str]:
    """The products that end: those whose required fields do not lead back to themselves for ever."""
    constructible: set[str] = set()
    rounds = True
    while rounds:
        rounds = False
        for product in declaration.products.values():
            if product.name not in constructible and _ends(declaration, product, constructible):
                constructible.add(product.name)
                rounds = True
    return frozenset(constructible)


def _ends(declaration: Declaration, product: Product, constructible: set[str]) -> bool:
    if product.abstract:
        return any(variant in constructible for variant in product.variants)
    return all(
        not field.required or _type_ends(field.type, length_range(field.limits)[0], constructible)
        for field in declaration.all_fields(product)
    )


def _type_ends(type_: Type, fewest: int, constructible: set[str]) -> bool:
    if isinstance(type_, Collection):
        return fewest == 0 or _type_ends(type_.element, 0, constructible)
    return not isinstance(type_, ProductType) or type_.name in constructible
