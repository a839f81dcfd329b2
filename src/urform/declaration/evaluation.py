"""Conditions evaluated: what they come to for given values, or for some of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Any

from urform.dataclasses import dataclass
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
from urform.declaration.told import Told
from urform.declaration.values import Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word

Plain = str | float | range | Told | None  # what conditions see of a value; of a collection its length
Seen = Mapping[str, Plain]  # by field; None is absent
Reason = frozenset[str]
Asked = Callable[[Seen], bool | None]


@dataclass(frozen=True, slots=True)
class Evaluation:
    """A condition put together for being asked thousands of times, as searches do.

    `ask` tells whether it holds for the values of some fields; None while the other fields may still decide (the strong
    three-valued logic of Kleene). `reason` names fields that are enough for what it then came to.
    """

    ask: Asked
    reason: Callable[[Seen], Reason]


def plain(value: Value | Plain) -> Plain:
    """A value as conditions see it; of a product they see only that it is there."""
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
    return bool(evaluation(one).ask({name: plain(value) for name, value in values.items()}))


@lru_cache(maxsize=4096)
def evaluation(one: Decision) -> Evaluation:
    """The evaluation of a condition."""
    match one:
        case Not(inner):
            return _negation(evaluation(inner))
        case All(parts) | Some(parts):
            return _junction(tuple(map(evaluation, parts)), decides=isinstance(one, Some))
    fields = frozenset(fields_of(one))
    return Evaluation(_question(one, fields), lambda seen: fields)


def _negation(inner: Evaluation) -> Evaluation:
    asked = inner.ask

    def ask(seen: Seen) -> bool | None:
        answer = asked(seen)
        return None if answer is None else not answer

    return Evaluation(ask, inner.reason)


def _junction(parts: tuple[Evaluation, ...], *, decides: bool) -> Evaluation:
    """All of them or some: one part that comes to `decides` is enough. They are asked in their order, for an earlier
    one may ask whether a field is there at all."""
    asks = tuple(part.ask for part in parts)

    def ask(seen: Seen) -> bool | None:
        answer: bool | None = not decides
        for asked in asks:
            one = asked(seen)
            if one is decides:
                return one
            if one is None:
                answer = None
        return answer

    def reason(seen: Seen) -> Reason:
        for part in parts:
            if part.ask(seen) is decides:
                return part.reason(seen)
        return frozenset().union(*(part.reason(seen) for part in parts))

    return Evaluation(ask, reason)


def _question(one: Decision, fields: Reason) -> Asked:
    """One comparison, or what else is asked of fields: None where not all of them are given."""
    match one:
        case Comparison(sign, Read(field), Literal(str() | int() | float() as fixed)):
            compared = SIGNS[sign]  # most are of this form or the next one, and these are quicker
            return lambda seen: compared(seen[field], fixed) if field in seen else None
        case Comparison(sign, Read(field), Read(other)):
            compared = SIGNS[sign]
            return lambda seen: (
                compared(seen[field], seen[other]) if field in seen and other in seen else None
            )
    value = _value(one)
    if len(fields) == 1:
        (only,) = fields
        return lambda seen: bool(value(seen)) if only in seen else None
    return lambda seen: bool(value(seen)) if all(field in seen for field in fields) else None


def _value(one: Decision) -> Callable[[Seen], Any]:
    """What an operand, a comparison or a question is worth where all of its fields are given."""
    match one:
        case Constant(fixed) | Literal(Word(_, fixed)) | Literal(fixed):
            return lambda seen: fixed
        case Read(field):
            return lambda seen: seen[field]
        case Size(field):
            return lambda seen: len(seen[field])  # type: ignore[arg-type]  # a text or a collection, as was checked
        case Blank(field):
            return lambda seen: not str(seen[field]).strip(BLANKS)
        case Present(field):
            return lambda seen: seen[field] is not None
        case Comparison(sign, left, right):
            compared, one_side, other_side = SIGNS[sign], _value(left), _value(right)
            return lambda seen: compared(one_side(seen), other_side(seen))
    return evaluation(one).ask
