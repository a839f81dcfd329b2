"""Conditions as they decide: without places, typed, constants folded; and what they say of given values.

The parsed form (`conditions.py`) follows the text; this form is what a plan holds and a target writes. Words of
a choice are words, a whole number that meets a real is one, and what no value can change is a constant.
"""

from __future__ import annotations

import math
import operator
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from urform.dataclasses import dataclass
from urform.declaration import conditions as written
from urform.declaration.told import Told, read_told
from urform.declaration.types import INTEGER, REAL, TOLD, ChoiceType, Type
from urform.declaration.values import Word

BLANKS = "\t\n\v\f\r "


@dataclass(frozen=True, slots=True)
class Constant:
    """Holds, or fails, whatever is given."""

    holds: bool


@dataclass(frozen=True, slots=True)
class Literal:
    """A number, a text, a date, or a word of a choice."""

    value: int | float | str | Told | Word


@dataclass(frozen=True, slots=True)
class Read:
    """The value of a field; as a condition, that of a boolean one."""

    field: str


@dataclass(frozen=True, slots=True)
class Size:
    """The length of a text in code points, or of a collection."""

    field: str


@dataclass(frozen=True, slots=True)
class Blank:
    field: str


@dataclass(frozen=True, slots=True)
class Present:
    field: str


Operand = Literal | Read | Size


@dataclass(frozen=True, slots=True)
class Comparison:
    """`type` is that of the operands; numbers of two types meet as reals."""

    sign: str
    left: Decision
    right: Decision
    type: Type


@dataclass(frozen=True, slots=True)
class Not:
    inner: Decision


@dataclass(frozen=True, slots=True)
class All:
    parts: tuple[Decision, ...]


@dataclass(frozen=True, slots=True)
class Some:
    parts: tuple[Decision, ...]


Decision = Constant | Literal | Read | Size | Blank | Present | Comparison | Not | All | Some

SIGNS: dict[str, Callable[[Any, Any], bool]] = {
    "==": operator.eq,
    "!=": operator.ne,
    "<": operator.lt,
    "<=": operator.le,
    ">": operator.gt,
    ">=": operator.ge,
}
_OPPOSITE = {"==": "!=", "!=": "=="}


def decision(condition: written.Condition, types: Mapping[str, Type]) -> Decision:
    """The deciding form of a condition that has passed its checks; `types` are those of the fields."""
    match condition:
        case written.Literal(value):
            return Constant(value) if isinstance(value, bool) else Literal(value)
        case written.FieldOf(name):
            return Read(name)
        case written.Ask("size", field):
            return Size(field.name)
        case written.Ask("blank", field):
            return Blank(field.name)
        case written.Ask(_, field):
            return Present(field.name)
        case written.Not(inner):
            return _negated(decision(inner, types))
        case written.Both(left, right):
            return _joined(All, decision(left, types), decision(right, types), absorbing=False)
        case written.Either(left, right):
            return _joined(Some, decision(left, types), decision(right, types), absorbing=True)
    return _comparison(condition, types)


def _negated(inner: Decision) -> Decision:
    match inner:
        case Constant(holds):
            return Constant(not holds)
        case Not(same):
            return same
        case Comparison(sign, left, right, type_) if sign in _OPPOSITE:
            return Comparison(_OPPOSITE[sign], left, right, type_)
    return Not(inner)


def _joined(kind: type[All] | type[Some], left: Decision, right: Decision, *, absorbing: bool) -> Decision:
    parts: list[Decision] = []
    for side in (left, right):
        parts += side.parts if isinstance(side, kind) else [side]
    if Constant(absorbing) in parts or _one_of_two(parts, "!=" if absorbing else "=="):
        return Constant(absorbing)
    if _one_beside_its_negation(parts, kind):
        return Constant(absorbing)
    distinct: dict[object, Decision] = {}
    for part in parts:
        if not isinstance(part, Constant):
            distinct.setdefault(_either_way_round(part), part)
    left_over = list(distinct.values())
    if not left_over:
        return Constant(not absorbing)
    return left_over[0] if len(left_over) == 1 else kind(tuple(left_over))


def _one_of_two(parts: list[Decision], sign: str) -> bool:
    """Whether two parts compare the same with different values: nothing equals both, and everything differs from one."""
    values: dict[Decision, object] = {}
    for part in parts:
        match part:
            case Comparison(same, left, Literal(value)) if same == sign:
                if values.setdefault(left, value) != value:
                    return True
    return False


def _one_beside_its_negation(parts: list[Decision], kind: type[All] | type[Some]) -> bool:
    """Whether a part denies another one, or all those of a group that were joined to the others."""
    known = set(map(_either_way_round, parts))
    for part in parts:
        denied = _negated(part)
        if known.issuperset(map(_either_way_round, denied.parts if isinstance(denied, kind) else (denied,))):
            return True
    return False


def _either_way_round(part: Decision) -> object:
    """What a comparison and its mirror image have in common: `a == b` and `b == a`, `a > b` and `b < a`."""
    match part:
        case Comparison("==" | "!=" as sign, left, right):
            return sign, frozenset((left, right))
        case Comparison(">" | ">=" as sign, left, right):
            return "<" if sign == ">" else "<=", right, left
        case Comparison("<" | "<=" as sign, left, right):
            return sign, left, right
    return part


def _comparison(condition: written.Compare, types: Mapping[str, Type]) -> Decision:
    left, right = decision(condition.left, types), decision(condition.right, types)
    left, right = _as_met(condition.left, left, right, types), _as_met(condition.right, right, left, types)
    sign = condition.sign
    if isinstance(left, Literal) and isinstance(right, Literal):
        return Constant(SIGNS[sign](left.value, right.value))
    for one, other in ((left, right), (right, left)):
        if isinstance(other, Constant):
            same = other.holds == (sign == "==")
            return one if same else _negated(one)
    if isinstance(left, Literal):
        left, right = right, left
        sign = {"<": ">", "<=": ">=", ">": "<", ">=": "<="}.get(sign, sign)
    return _numbers(sign, left, right, types)


def _as_met(source: written.Condition, one: Decision, other: Decision, types: Mapping[str, Type]) -> Decision:
    """A text that meets a choice is one of its words, and one that meets a date is a date."""
    if isinstance(source, written.Literal) and isinstance(other, Read):
        type_ = types[other.field]
        if isinstance(type_, ChoiceType):
            return Literal(Word(type_.name, source.written))
        told = read_told(str(type_), source.written) if type_ in TOLD else None
        if told is not None:
            return Literal(told)
    return one


def _type_of(one: Decision, types: Mapping[str, Type]) -> Type | None:
    match one:
        case Read(field):
            return types[field]
        case Size():
            return INTEGER
        case Literal(value) if isinstance(value, (int, float)):
            return REAL if isinstance(value, float) else INTEGER
    return None


def _numbers(sign: str, left: Decision, right: Decision, types: Mapping[str, Type]) -> Decision:
    """Whole numbers are compared with whole ones where one side is written down."""
    left_type, right_type = _type_of(left, types), _type_of(right, types)
    if isinstance(right, Literal) and isinstance(right.value, (int, float)):
        if left_type == INTEGER and isinstance(right.value, float):
            return _whole(sign, left, right.value)
        if left_type == REAL:
            return Comparison(sign, left, Literal(float(right.value)), REAL)
    type_ = REAL if REAL in (left_type, right_type) else left_type or right_type or INTEGER
    return Comparison(sign, left, right, type_)


def _whole(sign: str, left: Decision, bound: float) -> Decision:
    """What a whole number compared with a real one comes to: `n < 1.5` is `n < 2`."""
    if bound.is_integer():
        return Comparison(sign, left, Literal(int(bound)), INTEGER)
    if sign in _OPPOSITE:
        return Constant(sign == "!=")
    number = math.ceil(bound) if sign in ("<", ">=") else math.floor(bound)
    return Comparison(sign, left, Literal(number), INTEGER)


def fields_of(one: Decision) -> Iterator[str]:
    """The fields that a decision looks at, in the order in which it does."""
    match one:
        case Read(field) | Size(field) | Blank(field) | Present(field):
            yield field
        case Comparison(_, left, right):
            yield from fields_of(left)
            yield from fields_of(right)
        case Not(inner):
            yield from fields_of(inner)
        case All(parts) | Some(parts):
            for part in parts:
                yield from fields_of(part)


def comparisons(one: Decision) -> Iterator[Comparison]:
    """The comparisons within a decision."""
    match one:
        case Comparison():
            yield one
        case Not(inner):
            yield from comparisons(inner)
        case All(parts) | Some(parts):
            for part in parts:
                yield from comparisons(part)
