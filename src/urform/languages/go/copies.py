"""Copies and clones of Go products: what is owned is copied at every level, what starts again starts again."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import ChoiceType, Collection, MapOf, ProductType, Type
from urform.languages.rendering.prose import clone_sentences
from urform.plan.model import Field, Plan, Product

if TYPE_CHECKING:
    from urform.languages.go.emitter import Emitter


class CopyNames:
    """What the methods that copy are called: one serves for both where a clone starts nothing again.

    They are exported where others may implement the interface.
    """

    def __init__(self, plan: Plan) -> None:
        self._plan = plan

    def clone(self, product: Product) -> str:
        """The method that clones a product."""
        if self._plan.prototype_of(product.base or product.name) is not None:
            return "Clone"
        if not self._plan.restarts(product):
            return self._exported(product, "copied")
        return self._exported(product, "cloned")

    def copy(self, product: Product) -> str:
        """The method that copies a product on the way in, all of it."""
        return self._exported(product, "copied") if self._plan.restarts(product) else self.clone(product)

    def _exported(self, product: Product, name: str) -> str:
        base = self._plan.products[product.base] if product.base else product
        return name.capitalize() if base.abstract and not base.closed else name


def methods(emitter: Emitter, product: Product) -> Iterator[dict[str, object]]:
    """The methods that copy a product: their names, what they return, their bodies."""
    plan, names = emitter.plan, emitter.code.copying
    base = plan.products[product.base] if product.base else None
    related = {product.name, product.base or product.name}
    cloned, owned = bool(related & plan.cloned), bool(related & plan.owned)
    type_ = emitter.names.type(base.name) if base is not None else f"*{emitter.names.type(product.name)}"
    if product.abstract:
        type_ = emitter.names.type(product.name)
    if cloned:
        yield _method(emitter, product, names.clone(product), type_, clones=True)
    if owned and not (cloned and names.clone(product) == names.copy(product)):
        yield _method(emitter, product, names.copy(product), type_, clones=False)


def _method(emitter: Emitter, product: Product, name: str, type_: str, *, clones: bool) -> dict[str, object]:
    fresh = [field.name for field in product.fields if field.copy == "fresh"] if clones else []
    said = f"{name} returns {clone_sentences(fresh, mutable=product.mutable)}"
    doc = said if name[0].isupper() else ""
    lines = [] if product.abstract else list(_lines(emitter, product, clones))
    return {"name": name, "type": type_, "lines": lines, "doc": doc}


def _lines(emitter: Emitter, product: Product, clones: bool) -> Iterator[str]:
    letter = emitter.letter(product)
    if not product.mutable and not (clones and emitter.plan.restarts(product)):
        yield f"return {letter}"
        return
    yield f"made := *{letter}"
    for field in product.fields:
        yield from _field(emitter, field, letter, clones)
    yield "return &made"


def _field(emitter: Emitter, field: Field, letter: str, clones: bool) -> Iterator[str]:
    """Containers are never changed, only replaced, so only what they own needs copying."""
    stored = emitter.names.stored(field.name)
    if clones and field.copy == "fresh":
        yield f"made.{stored} = {fresh_value(emitter, field)}"
        return
    changes = emitter.plan.changes_in_clone(field) if clones else emitter.plan.holds_mutable(field.type)
    inner = emitter.plan.product_in(field.type)
    if not changes or inner is None:
        return
    names = emitter.code.copying
    method = names.clone(inner) if clones else names.copy(inner)
    copied = copied_value(emitter, field.type, f"{letter}.{stored}", method)
    if field.may_be_absent:
        yield from (f"if {letter}.{stored} != nil {{", f"\tmade.{stored} = {copied}", "}")
    else:
        yield f"made.{stored} = {copied}"


def fresh_value(emitter: Emitter, field: Field) -> str:
    """What a field starts with: its default, or nothing."""
    from urform.languages.go.expressions import SCALARS

    if field.default is None and isinstance(field.type, MapOf):
        return f"{emitter.code.type(field.type)}{{}}"  # not nil, which could not be written to
    if field.default is None:
        return '""' if isinstance(field.type, ChoiceType) else "nil"
    text = emitter.code.value(field.default)
    pointer = field.may_be_absent and emitter.code.is_pointer(field)
    return f"Some[{SCALARS[field.type]}]({text})" if pointer else text


def copied_value(emitter: Emitter, type_: Type, value: str, method: str) -> str:
    """The expression that copies what is held already, and has passed its limits."""
    if not isinstance(type_, Collection):
        return emitter.code.as_itself(type_, f"{value}.{method}()")
    function = "mappedValues" if isinstance(type_, MapOf) else "mapped"
    return f"{function}({value}, {copy_function(emitter, type_.element, method)})"


def copy_function(emitter: Emitter, element: Type, method: str) -> str:
    """The function that copies an element."""
    type_ = emitter.code.type(element)
    if isinstance(element, ProductType) and not emitter.code.is_kind(element):
        return f"{f'({type_})' if type_.startswith('*') else type_}.{method}"
    return f"func(inner {type_}) {type_} {{ return {copied_value(emitter, element, 'inner', method)} }}"
