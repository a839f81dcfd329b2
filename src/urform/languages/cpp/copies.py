"""Clones in C++: a copy has all of a product; where something starts again, `duplicate` does what a clone means."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import Collection, MapOf, Type, innermost
from urform.plan.model import Field, Product

if TYPE_CHECKING:
    from urform.languages.cpp.emitter import Emitter


def duplicate_lines(emitter: Emitter, product: Product) -> Iterator[str]:
    """The body of `duplicate`: the parts of a copy that start again, here or further down."""
    plan = emitter.plan
    if product.name not in plan.cloned or not plan.restarts(product):
        return
    if not product.abstract:
        for field in product.fields:
            yield from _restart(emitter, field, product)


def _restart(emitter: Emitter, field: Field, product: Product) -> Iterator[str]:
    stored = f"made{'->' if product.base is not None else '.'}{emitter.names.stored(field.name)}"
    if field.copy == "fresh":
        yield f"{stored} = {fresh(emitter, field)};"
        return
    inner = emitter.plan.product_in(field.type)
    if inner is None or field.copy != "deep" or not emitter.plan.restarts(inner):
        return
    pointer = inner.abstract or emitter.code.boxed(field)
    if isinstance(field.type, Collection):
        yield from _each(emitter, field.type, stored, "each", inner)
    elif field.may_be_absent:
        yield f"if ({stored}) {{"
        yield f"    {stored} = {duplicated(emitter, inner, f'(*{stored})' if not pointer else f'(**{stored})')};"
        yield "}"
    else:
        yield f"{stored} = {duplicated(emitter, inner, f'(*{stored})' if pointer else stored)};"


def duplicated(emitter: Emitter, inner: Product, value: str) -> str:
    """The call that duplicates a product."""
    return _as_itself(
        emitter,
        inner,
        f"{value[2:-1]}->duplicate()"
        if value.startswith("(*") and not value.startswith("(**")
        else f"{value}.duplicate()",
    )


def _as_itself(emitter: Emitter, inner: Product, call: str) -> str:
    """What a kind duplicates, for its base gives it behind a pointer to the base."""
    return f"static_cast<{emitter.names.type(inner.name)} &&>(*{call})" if inner.base is not None else call


def _each(emitter: Emitter, type_: Type, value: str, each: str, inner: Product) -> Iterator[str]:
    assert isinstance(type_, Collection)
    named = f"auto &[{each}_key, {each}]" if isinstance(type_, MapOf) else f"auto &{each}"
    yield f"for ({named} : {value}) {{"
    if isinstance(type_.element, Collection):
        yield from (f"    {line}" for line in _each(emitter, type_.element, each, f"{each}_in", inner))
    else:
        again = _as_itself(emitter, inner, f"{each}{'->' if inner.abstract else '.'}duplicate()")
        yield f"    {each} = {again};"
    yield "}"


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
