"""Members of mutable products in C++ that change one element of what a field holds."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import Collection, ListOf, MapOf, SetOf
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import is_copied
from urform.languages.cpp.members import element_checks, kept_element, told_element
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import beside
from urform.languages.rendering.changes import change_doc, of_the_whole
from urform.plan.model import Change, Field, Limit, Product

View = dict[str, object]


def changes(context: Context, product: Product, field: Field) -> list[View]:
    """What the templates of header and source show of each change of a field."""
    return [_view(context, product, change) for change in product.changes if change.field == field]


def _view(context: Context, product: Product, change: Change) -> View:
    field, code = change.field, context.code
    assert isinstance(field.type, Collection)
    stored = context.names.stored(field.name)
    item = beside(context.names.local(field.item or ""), ("at", "key", "found", *_stored(context, product)))
    tells = change.tells
    takes: list[str] = []
    if change.is_placed:
        takes.append("std::size_t at")
    if isinstance(field.type, MapOf):
        type_ = code.borrowed(field.type.key) if tells else code.type(field.type.key)
        takes.append(_typed(type_, "key"))
    if isinstance(field.type, SetOf):
        takes.append(
            _typed(code.borrowed(field.type.element) if tells else code.type(field.type.element), item)
        )
    elif change.brings:
        takes.append(_typed(code.type(field.type.element, shared=code.shared(field)), item))
    beyond = list(_beyond(change, stored, item))
    each = list(element_checks(context, field, item)) if change.brings else []
    return {
        "name": change_name(context.plan, product, change, str),
        "change": f"{product.name} {change.way} {field.name}",
        "doc": f"{change_doc(change, third=True)}{_throws(change, bool(each or beyond))}",
        "result": "bool" if tells else "void",
        "parameters": ", ".join(takes),
        "sought": _sought(change, stored, item),
        "each": each,
        "refusals": [{"breaks": breaks, "error": error} for breaks, error in beyond],
        "done": _done(context, change, stored, item),
        "tells": tells,
    }


def _error(field: Field, limit: Limit, *data: object) -> str:
    at = ", ".join([f'"{field.owner}"', f'"{field.name}"', f'"{limit.name}"', *map(str, data)])
    return f"LimitError({at})"


def _stored(context: Context, product: Product) -> Iterator[str]:
    return (context.names.stored(field.name) for field in product.fields)


def _typed(type_: str, name: str) -> str:
    return f"{type_}{'' if type_.endswith('&') else ' '}{name}"


def _throws(change: Change, refuses: bool) -> str:
    """What a member throws: a place that is none, and what is refused."""
    reasons = ["the first broken limit"] if refuses else []
    reasons += ["std::out_of_range if there is no such place"] if change.is_placed else []
    return f" Throws {', and '.join(reasons)}." if reasons else ""


def _sought(change: Change, stored: str, item: str) -> str:
    """What is looked up of what is to be removed."""
    if change.brings:
        return ""
    match change.field.type:
        case ListOf():
            return f"static_cast<void>({stored}.at(at));"
        case MapOf():
            return f"const auto found = {stored}.find(key);"
    return f"const auto found = {stored}.find({item});"


def _beyond(change: Change, stored: str, item: str) -> Iterator[tuple[str, str]]:
    """The conditions under which a limit of the whole would be broken then, each with its error."""
    field = change.field
    assert isinstance(field.type, Collection)
    for limit in of_the_whole(change):
        if limit.name == "unique":
            told = () if field.secret else ("{}", told_element(field.type.element, item))
            yield _is_there(change, stored, item), _error(field, limit, *told)
            continue
        assert isinstance(limit.bound, int)
        if limit.name == "min_length" and change.brings:  # the first of several that there have to be
            yield f"{stored}.empty()", _error(field, limit, limit.bound, 1)
            continue
        breaks = _breaks_length(change, limit, stored, item)
        if breaks:
            found = limit.bound + (1 if change.brings else -1)
            yield breaks, _error(field, limit, limit.bound, found)


def _is_there(change: Change, stored: str, item: str) -> str:
    """Whether a list has an element already, at another place than the one that it is put in."""
    if change.is_placed:
        return f"{stored}.at(at) != {item} && std::ranges::find({stored}, {item}) != {stored}.end()"
    return f"std::ranges::find({stored}, {item}) != {stored}.end()"


def _breaks_length(change: Change, limit: Limit, stored: str, item: str) -> str:
    """The condition under which there would be too many or too few; empty where there are never."""
    type_, bound = change.field.type, limit.bound
    assert isinstance(bound, int)
    if not change.brings:
        sign = "==" if limit.unless_empty else "<="
        return f"{stored}.size() {sign} {bound}" if bound > 0 else ""
    empty = f"{stored}.empty()"
    beyond = {0: empty, 1: f"!{empty}"}.get(bound, f"{stored}.size() >= {bound}")
    if isinstance(type_, ListOf):
        return beyond
    return f"{beyond} && !{stored}.contains({'key' if isinstance(type_, MapOf) else item})"


def _done(context: Context, change: Change, stored: str, item: str) -> str:
    type_ = change.field.type
    assert isinstance(type_, Collection)
    kept = kept_element(context, change.field, item)
    match type_, change.way:
        case ListOf(), "add":
            return f"{stored}.push_back({kept});"
        case ListOf(), "put":
            return f"{stored}.at(at) = {kept};"
        case ListOf(), _:
            return f"{stored}.erase({stored}.begin() + static_cast<std::ptrdiff_t>(at));"
        case MapOf(key), "put":
            own = "key" if is_copied(key) else "std::move(key)"
            return f"{stored}.insert_or_assign({own}, {kept});"
        case SetOf(), "add":
            return f"{stored}.insert({kept});"
    return f"{stored}.erase(found);"
