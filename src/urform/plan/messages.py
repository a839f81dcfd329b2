"""What the error of a broken limit says, in the same words in every target; generated tests compare with it.

`Position.latitude is 95.2; at most 90.0 is allowed`. Targets have the same in their support code.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from decimal import Decimal

from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import TEXT, Type, innermost
from urform.declaration.values import Boolean, Integer, Real, Text, Word
from urform.plan.model import Bound, Field, Limit, is_unique
from urform.plan.operands import Keyed, NoWord, Operand, OutOfLimit, Several, Strange, Untold

MOST_SHOWN = 80  # code points of a text; more are an ellipsis
NO_WORD = "no word of it"  # what tests hand in for a word of a choice
NO_MAKER = "its loader gives no maker"  # why a registry refuses a kind, in every target
WITHIN = {"each.": "an element of ", "key.": "a key of "}
WANTED = {
    "min": "at least {} is allowed",
    "max": "at most {} is allowed",
    "above": "more than {} is wanted",
    "below": "less than {} is wanted",
    "finite": "a finite number is wanted",
    "choice": "a declared word is wanted",
    "not_blank": "a text that is not blank is wanted",
    "min_length": "a length of at least {} is allowed",
    "max_length": "a length of at most {} is allowed",
    "one_of": "one of {} is wanted",
    "pattern": "a text that matches {} is wanted",
    "uri": "a URI is wanted",
    **{name: kind.asked for name, kind in KINDS.items()},
    "unique": "each element is allowed once",
}
WANTED_IN_TIME = {
    "min": "{} or later is allowed",
    "max": "{} or earlier is allowed",
    "above": "later than {} is wanted",
    "below": "earlier than {} is wanted",
}
Found = str | int | float | bool | Told | None


def out_of_limit(field: Field, limit: Limit, value: Operand, within: str = "") -> OutOfLimit:
    """The failure of a value that breaks a limit, of an element with `each.` as `within`, and what it says.

    A value that targets do not tell alike, because each has its own, leaves the message open.
    """
    bound = None if limit.bound is True else limit.bound
    name = f"{within}{limit.name}"
    is_open = isinstance(value, Untold) or (isinstance(value, Strange) and value.number == "huge")
    said = None if is_open else message(field, name, bound, found(value))
    return OutOfLimit(field.owner, field.name, name, bound, said)


def found(value: Operand) -> Found:
    """The value as an error tells it: of a collection its length."""
    match value:
        case Text(plain) | Integer(plain) | Real(plain) | Boolean(plain) | Word(_, plain):
            return plain
        case Told():
            return value
        case Several(_, items) | Keyed(_, items):
            return len(items)
        case Strange(number):
            return float(number)
        case NoWord():
            return NO_WORD
    raise TypeError(f"no limit is about {value}")


def said_of(failure: OutOfLimit, untold: str) -> str:
    """What the error says; of a value that is none of its type, which each language has its own of, `untold` as that is shown."""
    if failure.said is not None:
        return failure.said
    part = next((part for part in WITHIN if failure.limit.startswith(part)), "")
    path = f"{WITHIN.get(part, '')}{failure.owner}.{failure.field}"
    return f"{path} is {quoted(untold)}; {WANTED[failure.limit.removeprefix(part)]}"


def message(field: Field, limit: str, bound: Bound, value: Found) -> str:
    """What the error says; without the value where that is a secret."""
    part = next((part for part in WITHIN if limit.startswith(part)), "")
    path = f"{WITHIN.get(part, '')}{field.owner}.{field.name}"
    name = limit.removeprefix(part)
    words = WANTED_IN_TIME if isinstance(bound, Told) and KINDS[bound.kind].in_time else WANTED
    wanted = words[name].format(_bound(bound))
    if name.endswith("_length") and isinstance(value, int):
        return f"{path} has the length {value}; {wanted.removeprefix('a length of ')}"
    if field.secret:
        return f"{path}: {wanted}"
    if name == "unique":
        return f"{path} has {shown(value)} twice; {wanted}"
    return f"{path} is {shown(value)}; {wanted}"


def tells_text(type_: Type, limits: Iterable[Limit]) -> bool:
    """Whether the error of a broken limit may show a text: the value itself, or an element that stands twice."""
    return type_ == TEXT or (innermost(type_) == TEXT and is_unique(limits))


def shown(value: Found) -> str:
    """A value in a message: a text in quotes, cut, with its controls escaped as in JSON."""
    match value:
        case bool():
            return "true" if value else "false"
        case float():
            return real_text(value)
        case str():
            return quoted(value)
        case Told(_, text):
            return quoted(text)
    return str(value)


def quoted(text: str) -> str:
    """A text in quotes, cut, its controls escaped."""
    cut = text if len(text) <= MOST_SHOWN else f"{text[:MOST_SHOWN]}…"
    return f'"{"".join(map(_character, cut))}"'


def _bound(bound: Bound) -> str:
    if isinstance(bound, tuple):
        return ", ".join(map(shown, bound))
    return shown(bound)


def _character(char: str) -> str:
    short = {"\n": "\\n", "\r": "\\r", "\t": "\\t", '"': '\\"', "\\": "\\\\"}.get(char)
    if short is not None:
        return short
    return f"\\u{ord(char):04x}" if char < " " or "\x7f" <= char <= "\x9f" else char


def real_text(number: float) -> str:
    """The fewest digits that read back as this number, laid out as ECMAScript does (Number::toString), with `.0` if whole."""
    if not math.isfinite(number):
        return "NaN" if math.isnan(number) else "Infinity" if number > 0 else "-Infinity"
    sign = "-" if number < 0 else ""
    parts = Decimal(repr(abs(number))).as_tuple()
    assert isinstance(parts.exponent, int)
    digits = "".join(map(str, parts.digits))
    point = len(digits) + parts.exponent
    digits = digits.rstrip("0") or "0"
    if digits == "0":
        return "0.0"
    if len(digits) <= point <= 21:
        return f"{sign}{digits.ljust(point, '0')}.0"
    if 0 < point <= 21:
        return f"{sign}{digits[:point]}.{digits[point:]}"
    if -6 < point <= 0:
        return f"{sign}0.{'0' * -point}{digits}"
    more = f".{digits[1:]}" if len(digits) > 1 else ""
    return f"{sign}{digits[0]}{more}e{point - 1:+d}"
