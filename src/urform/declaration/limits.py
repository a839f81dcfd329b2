"""What limits mean: which types they go with, and which values break them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.declaration.types import INTEGER, REAL, TEXT, Collection, Type

if TYPE_CHECKING:
    from urform.declaration.model import Limit
    from urform.declaration.values import Value

BLANKS = "\t\n\v\f\r "  # U+0009 to U+000D and U+0020: blank means nothing but these

NUMERIC = ("min", "max", "above", "below")
LENGTHS = ("min_length", "max_length")


def goes_with(limit: str, type_: Type) -> bool:
    """Whether a limit may be declared for a type."""
    if limit in NUMERIC:
        return type_ in (INTEGER, REAL)
    if limit in LENGTHS:
        return type_ == TEXT or isinstance(type_, Collection)
    if limit == "not_blank":
        return type_ == TEXT
    return type_ in (TEXT, INTEGER)  # one_of


def breaks(plain: object, limit: Limit) -> bool:
    """Whether a plain value (number, text, or a length for collections) is outside a limit."""
    bound = limit.bound
    if limit.name in LENGTHS:
        size = len(plain) if isinstance(plain, str) else plain
        assert isinstance(size, int)
        assert isinstance(bound, int)
        return size < bound if limit.name == "min_length" else size > bound
    if limit.name == "not_blank":
        return bound is True and not str(plain).strip(BLANKS)
    if limit.name == "one_of":
        assert isinstance(bound, tuple)
        return plain not in bound
    assert isinstance(plain, (int, float))
    assert isinstance(bound, (int, float))
    return {
        "min": plain < bound,
        "max": plain > bound,
        "above": plain <= bound,
        "below": plain >= bound,
    }[limit.name]


def broken_limit(value: Value, limits: tuple[Limit, ...], each: tuple[Limit, ...]) -> Limit | None:
    """The first limit that a value breaks, those of the whole before those of each element."""
    from urform.declaration.values import Entries, Items

    plain = plain_of(value)
    elements: list[Value] = []
    if isinstance(value, Items):
        elements = list(value.items)
    elif isinstance(value, Entries):
        elements = [element for _, element in value.entries]
    for limit in limits:
        if plain is not None and breaks(plain, limit):
            return limit
    for element in elements:
        for limit in each:
            inner = plain_of(element)
            if inner is not None and breaks(inner, limit):
                return limit
    return None


def plain_of(value: Value) -> str | int | float | None:
    """What limits are about: the number, the text, or the length of a collection."""
    from urform.declaration.values import Entries, Integer, Items, Real, Text

    match value:
        case Text(text):
            return text
        case Integer(number) | Real(number):
            return number
        case Items(_, items):
            return len(items)
        case Entries(_, entries):
            return len(entries)
    return None
