"""Methods of mutable products in Java that change one element of what a field holds."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.types import Collection, ListOf, MapOf, ProductType, SetOf
from urform.languages.java.context import Context
from urform.languages.java.expressions import PRIMITIVES
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import beside, camel, spoken
from urform.languages.rendering.changes import asked, done, of_the_whole
from urform.plan.model import Change, Product

View = dict[str, object]
BEYOND = {
    "min_length": "there are too few then",
    "max_length": "there are too many then",
    "unique": "it is there already",
}


def changes(context: Context, product: Product) -> Iterator[View]:
    """What the template of a class shows of each change."""
    for change in product.changes:
        yield _view(context, product, change)


def _view(context: Context, product: Product, change: Change) -> View:
    field, code, names = change.field, context.code, context.names
    assert isinstance(field.type, Collection)
    element = field.type.element
    item = beside(names.member(field.item or ""), ("at", "key", "one", "held"))
    slot = f"this.{names.member(field.name)}"
    takes: list[tuple[str, str, str]] = []  # type, name, what it is
    if change.is_placed:
        takes.append(("int", "at", "the place, counted from 0"))
    if isinstance(field.type, MapOf):
        takes.append((code.plain(field.type.key), "key", "the key"))
    if change.takes_element:
        takes.append((code.plain(element), item, f"the {spoken(field.item or '')}"))
    gives = change.brings
    kept = code.own_element(field, item)
    is_copied = isinstance(element, Collection) or (isinstance(element, ProductType) and kept != item)
    counted = replace(field, limits=of_the_whole(change))
    return {
        "name": change_name(context.plan, product, change, camel),
        "change": f"{product.name} {change.way} {field.name}",
        "parameters": ", ".join(f"{type_} {name}" for type_, name, _ in takes),
        "types": f"({', '.join(type_ for type_, _, _ in takes)})",
        "takes": [(name, said) for _, name, said in takes],
        "doc": f"{done(change, third=True)}.",
        "returned": "whether it was there" if change.tells else "",
        "throws": _throws(change, refuses=gives and (element not in PRIMITIVES or bool(field.each))),
        "item": item,
        "item_type": code.plain(element),
        "given": [
            f'Check.given("{field.owner}", "{field.name}", {name});'
            for type_, name, _ in takes
            if gives and type_[0].isupper()
        ],
        "one": gives and is_copied,
        "kept": kept,
        "each": list(code.checks_of_element(field, "one" if is_copied else item)) if gives else [],
        "asked": f"contains{'Key' if change.is_keyed else ''}({asked(change, item)})" if change.tells else "",
        "slot": slot,
        "type": code.plain(field.type),
        "after": _after(context, change, slot, item, "one" if is_copied else kept),
        "sized": [*code.checks(counted, "held"), *code.later_checks(counted, "held")],
    }


def _throws(change: Change, *, refuses: bool) -> list[str]:
    reasons = ["the value is missing or outside its limit"] if refuses else []
    reasons += [BEYOND[limit.name] for limit in of_the_whole(change)]
    throws = [f"CreationException if {', or if '.join(reasons)}"] if reasons else []
    return [*throws, *(["IndexOutOfBoundsException if there is no such place"] if change.is_placed else [])]


def _after(context: Context, change: Change, held: str, item: str, one: str) -> str:
    """What is held then."""
    code = context.code
    match change.field.type, change.way:
        case ListOf(), "add":
            return f"Changes.with({held}, {one})"
        case ListOf(), "put":
            return f"Changes.replaced({held}, at, {one})"
        case ListOf(), _:
            return f"Changes.without({held}, at)"
        case MapOf(key), "put":
            return f"Changes.put({held}, key, {one}, {code.order(key)})"
        case MapOf(), _:
            return f"Changes.dropped({held}, key)"
        case SetOf(element), "add":
            return f"Changes.including({held}, {one}, {code.order(element)})"
    return f"Changes.excluding({held}, {item})"
