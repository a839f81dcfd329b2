"""Conditions evaluated: what they come to for given values, or for some of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Protocol

from urform.declaration.decisions import (
    BLANKS,
    SIGNS,
    All,
    Blank,
    Comparison,
    Constant,
    Decision,
    Literal,
    Not,
    Present,
    Read,
    Size,
    Some,
    fields_of,
)
from urform.declaration.values import Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word

Plain = str | float | range | None  # what conditions see of a value; of a collection its length
Seen = Mapping[str, Plain]  # by field; None is absent
Reason = frozenset[str]


class Evaluation(Protocol):
    """A condition put together for being asked thousands of times, as searches do.

    Called with the values of some fields, it tells whether it holds; None while the other fields may still decide
    (the strong three-valued logic of Kleene). `reason` names fields that are enough for what it then came to.
    """

    def __call__(self, seen: Seen) -> bool | None: ...

    def reason(self, seen: Seen) -> Reason: ...


def plain(value: Value | Plain) -> Plain:
    """What conditions see of a value. A product is only there, or not."""
    match value:
        case Text(content) | Word(_, content):
            return content
        case Integer(number) | Real(number) | Boolean(number):
            return number
        case Items(_, items):
            return range(len(items))
        case Entries(_, entries):
            return range(len(entries))
        case Made():
            return True
    return value


def holds(one: Decision, values: Mapping[str, Value | Plain]) -> bool:
    """Whether a decision holds for values, one for each field that it looks at. A bare number need not be finite."""
    return bool(evaluation(one)({name: plain(value) for name, value in values.items()}))


@lru_cache(maxsize=4096)
def evaluation(one: Decision) -> Evaluation:
    """The evaluation of a condition."""
    match one:
        case Constant(fixed):
            return _Question(frozenset(), lambda seen: fixed)
        case Not(inner):
            return _Negation(evaluation(inner))
        case All(parts) | Some(parts):
            return _Junction(tuple(map(evaluation, parts)), isinstance(one, Some))
    return _Question(frozenset(fields_of(one)), _value(one))


@dataclass(frozen=True, slots=True)
class _Question:
    """One comparison, or what else is asked of fields; it needs all of them."""

    fields: Reason
    value: Callable[[Seen], Any]

    def __call__(self, seen: Seen) -> bool | None:
        for field in self.fields:
            if field not in seen:
                return None
        return bool(self.value(seen))

    def reason(self, seen: Seen) -> Reason:
        return self.fields


@dataclass(frozen=True, slots=True)
class _Negation:
    inner: Evaluation

    def __call__(self, seen: Seen) -> bool | None:
        found = self.inner(seen)
        return None if found is None else not found

    def reason(self, seen: Seen) -> Reason:
        return self.inner.reason(seen)


@dataclass(frozen=True, slots=True)
class _Junction:
    """All of them or some: one part that comes to `decides` is enough. They are asked in their order, for an earlier
    one may ask whether a field is there at all."""

    parts: tuple[Evaluation, ...]
    decides: bool

    def __call__(self, seen: Seen) -> bool | None:
        found: bool | None = not self.decides
        for part in self.parts:
            one = part(seen)
            if one is self.decides:
                return one
            if one is None:
                found = None
        return found

    def reason(self, seen: Seen) -> Reason:
        for part in self.parts:
            if part(seen) is self.decides:
                return part.reason(seen)
        return frozenset().union(*(part.reason(seen) for part in self.parts))


def _value(one: Decision) -> Callable[[Seen], Any]:
    """What an operand, a comparison or a question is worth where all of its fields are given."""
    match one:
        case Literal(Word(_, word)):
            return lambda seen: word
        case Literal(fixed):
            return lambda seen: fixed
        case Read(field):
            return lambda seen: seen[field]
        case Size(field):
            return lambda seen: len(seen[field])  # type: ignore[arg-type]  # a text or a collection, as was checked
        case Blank(field):
            return lambda seen: not str(seen[field]).strip(BLANKS)
        case Present(field):
            return lambda seen: seen[field] is not None
        case Comparison(sign, Read(field), Literal(str() | int() | float() as fixed)):
            compared = SIGNS[sign]  # most are of this form or the next one, and these are quicker
            return lambda seen: compared(seen[field], fixed)
        case Comparison(sign, Read(field), Read(other)):
            compared = SIGNS[sign]
            return lambda seen: compared(seen[field], seen[other])
        case Comparison(sign, left, right):
            compared, one_side, other_side = SIGNS[sign], _value(left), _value(right)
            return lambda seen: compared(one_side(seen), other_side(seen))
    return evaluation(one)
