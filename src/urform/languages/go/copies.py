"""Copies and clones of Go products: what is owned is copied at every level, what starts again starts again."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import ChoiceType, Collection, MapOf, ProductType, Type
from urform.languages.go.context import Context
from urform.languages.go.expressions import pointer_to
from urform.languages.rendering.prose import clone_sentences
from urform.plan.model import Field, Product


def methods(context: Context, product: Product) -> Iterator[dict[str, object]]:
    """The methods that copy a product: their names, what they return, their bodies."""
    plan, names = context.plan, context.code.copying
    base = plan.products[product.base] if product.base else None
    related = {product.name, product.base or product.name}
    cloned, owned = bool(related & plan.cloned), bool(related & plan.owned)
    type_ = context.names.type(base.name) if base is not None else f"*{context.names.type(product.name)}"
    if product.abstract:
        type_ = context.names.type(product.name)
    if cloned:
        yield _method(context, product, names.clone(product), type_, clones=True)
    if owned and not (cloned and names.clone(product) == names.copy(product)):
        yield _method(context, product, names.copy(product), type_, clones=False)


def copies_of_fields(context: Context, product: Product) -> Iterator[dict[str, object]]:
    """The methods by which a kind of another package copies the fields that it embeds."""
    letter = context.letter(product)
    for method in methods(context, product):
        clones = method["name"] == context.code.copying.clone(product)
        changed = [part for field in product.fields for part in _field(context, field, letter, clones)]
        name = f"{method['name']}Fields"
        said = clone_sentences(_fresh(product, clones), mutable=product.mutable)
        yield {
            "name": name,
            "doc": f"{name} is for a kind that embeds them. It returns {said}",
            "parts": changed or None,
        }


def _method(context: Context, product: Product, name: str, type_: str, *, clones: bool) -> dict[str, object]:
    said = f"{name} returns {clone_sentences(_fresh(product, clones), mutable=product.mutable)}"
    doc = said if name[0].isupper() else ""
    copies = not product.abstract and (product.mutable or (clones and context.plan.restarts(product)))
    letter = context.letter(product)
    fields = product.fields if copies else ()
    parts = [part for field in fields for part in _field(context, field, letter, clones)]
    return {
        "name": name,
        "clones": "clone" if clones else "",
        "type": type_,
        "parts": parts if copies else None,
        "doc": doc,
    }


def _fresh(product: Product, clones: bool) -> list[str]:
    """The fields that start again."""
    return [field.name for field in product.fields if field.copy == "fresh"] if clones else []


def _field(context: Context, field: Field, letter: str, clones: bool) -> Iterator[dict[str, str]]:
    """What a copy is given beside the content of the original, and whether that has to be there.

    Containers are never changed, only replaced, so only what they own needs copying.
    """
    stored = context.names.stored(field.name)
    part = {"stored": stored, "there": "", "cloned": stored if clones else ""}
    if clones and field.copy == "fresh":
        yield {**part, "value": fresh_value(context, field)}
        return
    changes = context.plan.changes_in_clone(field) if clones else context.plan.holds_mutable(field.type)
    inner = context.plan.product_in(field.type)
    if not changes or inner is None:
        return
    names = context.code.copying
    method = names.clone(inner) if clones else names.copy(inner)
    copied = copied_value(context, field.type, f"{letter}.{stored}", method)
    yield {**part, "value": copied, "there": f"{letter}.{stored}" if field.may_be_absent else ""}


def fresh_value(context: Context, field: Field) -> str:
    """The value that a field starts with: its default, or nothing."""
    if field.default is None and isinstance(field.type, MapOf):
        return f"{context.code.type(field.type)}{{}}"  # not nil, which could not be written to
    if field.default is None:
        return '""' if isinstance(field.type, ChoiceType) else "nil"
    text = context.code.value(field.default)
    pointer = field.may_be_absent and context.code.is_pointer(field)
    return pointer_to(field.type, text) if pointer else text


def copied_value(context: Context, type_: Type, value: str, method: str) -> str:
    """The expression that copies what is held already, and has passed its limits."""
    if not isinstance(type_, Collection):
        return context.code.as_itself(type_, f"{value}.{method}()")
    function = "mappedValues" if isinstance(type_, MapOf) else "mapped"
    return f"{function}({value}, {copy_function(context, type_.element, method)})"


def copy_function(context: Context, element: Type, method: str) -> str:
    """The function that copies an element."""
    type_ = context.code.type(element)
    if isinstance(element, ProductType) and not context.code.is_kind(element):
        return f"{f'({type_})' if type_.startswith('*') else type_}.{method}"
    return f"func(inner {type_}) {type_} {{ return {copied_value(context, element, 'inner', method)} }}"
