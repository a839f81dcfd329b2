"""The meaning of limits: which types they go with, and which values break them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.declaration.regexp.automaton import Automaton, automaton
from urform.declaration.regexp.uri import URI
from urform.declaration.told import Told
from urform.declaration.types import (
    INTEGER,
    ORDERED,
    TEXT,
    UNKNOWN,
    ChoiceType,
    Collection,
    ListOf,
    Type,
)

if TYPE_CHECKING:
    from urform.declaration.model import Limit

BLANKS = "\t\n\v\f\r "  # U+0009 to U+000D and U+0020: blank means nothing but these

NUMERIC = ("min", "max", "above", "below")
LENGTHS = ("min_length", "max_length")
OF_TEXTS = ("not_blank", "pattern", "uri")
COMPARED = (TEXT, INTEGER)  # types whose values are equal or not in every language, with choices


def goes_with(limit: str, type_: Type) -> bool:
    """Whether a limit may be declared for a type."""
    if limit in NUMERIC:
        return type_ in ORDERED
    if limit in LENGTHS:
        return type_ == TEXT or isinstance(type_, Collection)
    if limit in OF_TEXTS:
        return type_ == TEXT
    if limit == "unique":
        return isinstance(type_, ListOf) and _is_compared(type_.element)
    return type_ in COMPARED  # one_of


def _is_compared(type_: Type) -> bool:
    return type_ in (*COMPARED, UNKNOWN) or isinstance(type_, ChoiceType)


def breaks(plain: object, limit: Limit) -> bool:
    """Whether a plain value (number, text, date, or a length for collections) is outside a limit.

    `unique` is broken by no length; nor is a limit by a value that it does not go with, which is told elsewhere.
    """
    bound = limit.bound
    if limit.name in LENGTHS:
        size = len(plain) if isinstance(plain, str) else plain
        if not isinstance(size, int) or not isinstance(bound, int):
            return False
        return _is_too_short(size, limit) if limit.name == "min_length" else size > bound
    if limit.name == "unique":
        return False  # see `values.broken_limit`
    if limit.name == "not_blank":
        return bound is True and not str(plain).strip(BLANKS)
    if limit.name == "one_of":
        return isinstance(bound, tuple) and plain not in bound
    form = form_of(limit.name, bound)
    if form is not None:
        return not form.accepts(str(plain))
    if isinstance(plain, Told) and isinstance(bound, Told):
        plain, bound = plain.order, bound.order
    if not isinstance(plain, (int, float)) or not isinstance(bound, (int, float)):
        return False
    return {
        "min": plain < bound,
        "max": plain > bound,
        "above": plain <= bound,
        "below": plain >= bound,
    }[limit.name]


def _is_too_short(size: int, limit: Limit) -> bool:
    assert isinstance(limit.bound, int)
    return size < limit.bound and not (limit.unless_empty and size == 0)


def form_of(name: str, bound: object) -> Automaton | None:
    """The automaton of a limit on the form of a text; None for any other."""
    pattern = pattern_of(name, bound)
    return automaton(pattern) if pattern is not None else None


def pattern_of(name: str, bound: object) -> str | None:
    """The pattern of a limit on the form of a text; None for any other."""
    return URI if name == "uri" else str(bound) if name == "pattern" else None
