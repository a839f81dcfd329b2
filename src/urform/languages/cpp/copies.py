"""Clones in C++: a copy has all of a product; where something starts again, `duplicate` does what a clone means."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import innermost
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import moved
from urform.languages.naming.names import beside
from urform.plan.model import Field, Product


def duplicates(context: Context, product: Product) -> bool:
    """Whether a product has a member of its own that does what a clone means."""
    plan = context.plan
    base = plan.products[product.base] if product.base is not None else product
    return base.name in plan.cloned and plan.restarts(base)


def again_view(context: Context, product: Product) -> dict[str, object] | None:
    """The constructor by which a product is made from another one, with what is fresh started again.

    Each member is copied once. To copy all of it, and then to replace parts, would copy those below once a level.
    """
    if not duplicates(context, product):
        return None
    type_ = context.names.type(product.name)
    initial = list(_initial(context, product))
    if not initial:
        return None
    read = _hands_on(context, product) or any(field.copy != "fresh" for field in product.own_fields)
    named = "detail::Again again" if _hands_on(context, product) else "detail::Again"
    parameters = [f"{context.code.stored(f)} {_local(context, f)}" for f in _told(context, product)]
    other = f"{'' if read else '[[maybe_unused]] '}const {type_} &other"
    return {"parameters": ", ".join([other, named, *parameters]), "initial": initial}


def _hands_on(context: Context, product: Product) -> bool:
    """Whether a base has something to copy."""
    return product.base is not None and bool(context.plan.products[product.base].fields)


def _told(context: Context, product: Product) -> list[Field]:
    """The fields with which not every kind starts as the base declares; a base is told what they are."""
    if not product.abstract:
        return []
    kinds = [product, *(context.plan.products[name] for name in product.variants)]
    return [
        field
        for field in product.fields
        if field.copy == "fresh" and len({fresh(context, kind.field(field.name)) for kind in kinds}) > 1
    ]


def _local(context: Context, field: Field) -> str:
    return beside(context.names.local(field.name), {"again"})


def _initial(context: Context, product: Product) -> Iterator[str]:
    """The initializers: the base's part first."""
    names, told = context.names, {field.name for field in _told(context, product)}
    if product.base is not None and _hands_on(context, product):
        base = context.plan.products[product.base]
        values = [fresh(context, product.field(field.name)) for field in _told(context, base)]
        yield f"{names.type(base.name)}({', '.join(['other', 'again', *values])})"
    for field in product.own_fields:
        stored = names.stored(field.name)
        if field.name in told:
            yield f"{stored}({moved(field, _local(context, field))})"
        elif field.copy == "fresh":
            yield f"{stored}({fresh(context, field).removesuffix('{}')})"
        elif _starts_again(context, field):
            yield f"{stored}(detail::duplicated(other.{stored}))"
        else:
            yield f"{stored}(other.{stored})"


def _starts_again(context: Context, field: Field) -> bool:
    """Whether something is fresh further down."""
    inner = context.plan.product_in(field.type)
    return inner is not None and field.copy == "deep" and context.plan.restarts(inner)


def fresh(context: Context, field: Field) -> str:
    """The value that a field of a clone starts with."""
    if field.default is None:
        return "{}"
    text = context.code.value(field.default, field.type, shared=context.code.shared(field))
    return text if innermost(field.type) == field.type or not text.endswith("{}") else "{}"


def duplicating(context: Context, product: Product) -> str:
    """The member that does what a clone means; empty where a copy of the value does."""
    if context.plan.restarts(product):
        return "duplicate"
    return "clone" if product.abstract or product.base is not None else ""
