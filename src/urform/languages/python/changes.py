"""Methods of mutable products in Python that change one element of what a field holds."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.types import Collection, ListOf, MapOf
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import beside
from urform.languages.python.context import Context
from urform.languages.rendering.changes import asked, change_doc, of_the_whole
from urform.plan.messages import tells_text
from urform.plan.model import Change, Product


def changes(context: Context, product: Product) -> Iterator[dict[str, object]]:
    """What the template of a product shows of each change."""
    for change in product.changes:
        yield _view(context, product, change)


def _view(context: Context, product: Product, change: Change) -> dict[str, object]:
    field, code, names = change.field, context.code, context.names
    assert isinstance(field.type, Collection)
    item = beside(names.parameter(field.item or ""), ("at", "key", "one", "held", "self"))
    held = f"self.{context.attribute(product, field)}"
    parameters = []
    match field.type:
        case MapOf(key):
            parameters.append(f"key: {code.type(key)}")
        case ListOf() if change.is_placed:
            parameters.append("at: int")
    takes = change.takes_element
    if takes:
        parameters.append(f"{item}: {code.type(field.type.element)}")
    given = f"{{key: {item}}}" if isinstance(field.type, MapOf) else f"{{{item}}}"
    given = f"[{item}]" if isinstance(field.type, ListOf) else given
    return {
        "name": change_name(context.plan, product, change, str),
        "change": f"{product.name} {change.way} {field.name}",
        "parameters": ", ".join(parameters),
        "doc": change_doc(change, beyond="Raise IndexError if there is no such place."),
        "one": code.checked_value(replace(field, limits=()), given) if change.brings else None,
        "given": given,
        "asked": asked(change, item),
        "slot": held,
        "after": _after(change, item, held),
        "sized": _sized(change),
    }


def _sized(change: Change) -> str:
    """The check of what is to be held; nothing where no limit can be broken."""
    field, limits = change.field, of_the_whole(change)
    given = [f"{limit.name}={limit.bound}" for limit in limits]
    given += ["unless_empty=True"] if any(limit.unless_empty for limit in limits) else []
    given += ["secret=True"] if field.secret and tells_text(field.type, limits) else []
    return f'sized("{field.owner}", "{field.name}", held, {", ".join(given)})' if limits else ""


def _after(change: Change, item: str, held: str) -> str:
    """What is held then; `one` is the container of the element alone, as it is to be held."""
    match change.field.type, change.way:
        case ListOf(), "add":
            return f"(*{held}, *one)"
        case ListOf(), "put":
            return f"put_at({held}, at, *one)"
        case ListOf(), _:
            return f"without({held}, at)"
        case MapOf(), "put":
            return f"FrozenMap({{**{held}, **one}})"
        case MapOf(), _:
            return f"FrozenMap({{k: v for k, v in {held}.items() if k != key}})"
        case _, "add":
            return f"{held} | one"
    return f"{held} - {{{item}}}"
