"""The meaning of limits: which types they go with, and which values break them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.declaration.regexp.automaton import Automaton, automaton
from urform.declaration.regexp.uri import URI
from urform.declaration.types import INTEGER, REAL, TEXT, Collection, Type

if TYPE_CHECKING:
    from urform.declaration.model import Limit

BLANKS = "\t\n\v\f\r "  # U+0009 to U+000D and U+0020: blank means nothing but these

NUMERIC = ("min", "max", "above", "below")
LENGTHS = ("min_length", "max_length")
OF_TEXTS = ("not_blank", "pattern", "uri")


def goes_with(limit: str, type_: Type) -> bool:
    """Whether a limit may be declared for a type."""
    if limit in NUMERIC:
        return type_ in (INTEGER, REAL)
    if limit in LENGTHS:
        return type_ == TEXT or isinstance(type_, Collection)
    if limit in OF_TEXTS:
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
    form = form_of(limit.name, bound)
    if form is not None:
        return not form.accepts(str(plain))
    assert isinstance(plain, (int, float))
    assert isinstance(bound, (int, float))
    return {
        "min": plain < bound,
        "max": plain > bound,
        "above": plain <= bound,
        "below": plain >= bound,
    }[limit.name]


def form_of(name: str, bound: object) -> Automaton | None:
    """The automaton of a limit on the form of a text; None for any other."""
    pattern = pattern_of(name, bound)
    return automaton(pattern) if pattern is not None else None


def pattern_of(name: str, bound: object) -> str | None:
    """The pattern of a limit on the form of a text; None for any other."""
    return URI if name == "uri" else str(bound) if name == "pattern" else None
