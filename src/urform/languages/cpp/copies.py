"""Clones in C++: a copy has all of a product; where something starts again, `duplicate` does what a clone means."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import innermost
from urform.languages.cpp.members import moved
from urform.languages.naming.names import beside
from urform.plan.model import Field, Product

if TYPE_CHECKING:
    from urform.languages.cpp.emitter import Emitter


def duplicates(emitter: Emitter, product: Product) -> bool:
    """Whether a product has a member of its own that does what a clone means."""
    plan = emitter.plan
    base = plan.products[product.base] if product.base is not None else product
    return base.name in plan.cloned and plan.restarts(base)


def again_view(emitter: Emitter, product: Product) -> dict[str, object] | None:
    """The constructor by which a product is made from another one, with what is fresh started again.

    Each member is copied once. To copy all of it, and then to replace parts, would copy those below once a level.
    """
    if not duplicates(emitter, product):
        return None
    type_ = emitter.names.type(product.name)
    initial = list(_initial(emitter, product))
    if not initial:
        return None
    read = _hands_on(emitter, product) or any(field.copy != "fresh" for field in product.own_fields)
    named = "detail::Again again" if _hands_on(emitter, product) else "detail::Again"
    parameters = [f"{emitter.code.stored(f)} {_local(emitter, f)}" for f in _told(emitter, product)]
    other = f"{'' if read else '[[maybe_unused]] '}const {type_} &other"
    return {"parameters": ", ".join([other, named, *parameters]), "initial": initial}


def _hands_on(emitter: Emitter, product: Product) -> bool:
    """Whether a base has something to copy."""
    return product.base is not None and bool(emitter.plan.products[product.base].fields)


def _told(emitter: Emitter, product: Product) -> list[Field]:
    """The fields with which not every kind starts as the base declares; a base is told what they are."""
    if not product.abstract:
        return []
    kinds = [product, *(emitter.plan.products[name] for name in product.variants)]
    return [
        field
        for field in product.fields
        if field.copy == "fresh" and len({fresh(emitter, kind.field(field.name)) for kind in kinds}) > 1
    ]


def _local(emitter: Emitter, field: Field) -> str:
    return beside(emitter.names.local(field.name), {"again"})


def _initial(emitter: Emitter, product: Product) -> Iterator[str]:
    """The initializers: the base's part first."""
    names, told = emitter.names, {field.name for field in _told(emitter, product)}
    if product.base is not None and _hands_on(emitter, product):
        base = emitter.plan.products[product.base]
        values = [fresh(emitter, product.field(field.name)) for field in _told(emitter, base)]
        yield f"{names.type(base.name)}({', '.join(['other', 'again', *values])})"
    for field in product.own_fields:
        stored = names.stored(field.name)
        if field.name in told:
            yield f"{stored}({moved(field, _local(emitter, field))})"
        elif field.copy == "fresh":
            yield f"{stored}({fresh(emitter, field).removesuffix('{}')})"
        elif _starts_again(emitter, field):
            yield f"{stored}(detail::duplicated(other.{stored}))"
        else:
            yield f"{stored}(other.{stored})"


def _starts_again(emitter: Emitter, field: Field) -> bool:
    """Whether something is fresh further down."""
    inner = emitter.plan.product_in(field.type)
    return inner is not None and field.copy == "deep" and emitter.plan.restarts(inner)


def fresh(emitter: Emitter, field: Field) -> str:
    """What a field of a clone starts with."""
    if field.default is None:
        return "{}"
    text = emitter.code.value(field.default, field.type, shared=emitter.code.shared(field))
    return text if innermost(field.type) == field.type or not text.endswith("{}") else "{}"


def duplicating(emitter: Emitter, product: Product) -> str:
    """The member that does what a clone means; empty where a copy of the value does."""
    if emitter.plan.restarts(product):
        return "duplicate"
    return "clone" if product.abstract or product.base is not None else ""
