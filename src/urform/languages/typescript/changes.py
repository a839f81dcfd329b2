"""Methods of mutable products in TypeScript that change one element of what a field holds."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import Collection, ListOf, MapOf
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import beside, camel
from urform.languages.rendering.changes import asked, change_doc, of_the_whole
from urform.languages.typescript.context import Context
from urform.plan.model import Change, Product


def changes(context: Context, product: Product) -> Iterator[dict[str, object]]:
    """What the template of a product shows of each change."""
    for change in product.changes:
        yield _view(context, product, change)


def _view(context: Context, product: Product, change: Change) -> dict[str, object]:
    field, code, names = change.field, context.code, context.names
    assert isinstance(field.type, Collection)
    item = beside(names.parameter(field.item or ""), ("at", "key", "one", "each"))
    held = f"this.{names.stored(field.name)}"
    parameters: list[str] = []
    match field.type:
        case MapOf(key):
            parameters.append(f"key: {code.type(key)}")
        case ListOf() if change.is_placed:
            parameters.append("at: number")
    if change.takes_element:
        parameters.append(f"{item}: {code.type(field.type.element)}")
    element = code.element(field)
    after = _after(change, item, held)
    return {
        "name": change_name(context.plan, product, change, camel),
        "change": f"{product.name} {change.way} {field.name}",
        "parameters": ", ".join(parameters),
        "types": ", ".join(each.partition(": ")[2] for each in parameters),
        "doc": change_doc(change, third=True, beyond="Throws a `RangeError` if there is no such place."),
        "item": item if change.brings else None,
        "one": f"{element.name}({item})" if element is not None else item,
        "asked": asked(change, item),
        "slot": held,
        "after": after,
        "checked": code.held_again(field, after, of_the_whole(change)),
        "unlimited": code.held_again(field, after, ()),
    }


def _after(change: Change, item: str, held: str) -> str:
    """What is to be held then; `one` is the element as it is to be held."""
    match change.field.type, change.way:
        case ListOf(), "add":
            return f"[...{held}, one]"
        case ListOf(), "put":
            return f"placed({held}, at, one)"
        case ListOf(), _:
            return f"without({held}, at)"
        case MapOf(), "put":
            return f"new Map([...{held}, [key, one]])"
        case MapOf(), _:
            return f"new Map([...{held}].filter(([each]) => each !== key))"
        case _, "add":
            return f"new Set([...{held}, one])"
    return f"new Set([...{held}].filter((each) => each !== {item}))"
