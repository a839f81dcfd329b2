"""Scalar values that tests hand in: within limits, on their edges, and just outside."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import islice

from urform.dataclasses import dataclass
from urform.declaration.limits import LENGTHS, NUMERIC, breaks
from urform.declaration.model import Limit as DeclaredLimit
from urform.declaration.place import START
from urform.declaration.ranges import allowed_words, integer_range, length_range, real_range, told_range
from urform.declaration.told import Told, at_place
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    INTEGER,
    TEXT,
    Type,
)
from urform.declaration.values import (
    Integer,
    Real,
    Text,
    Value,
)
from urform.plan.forms import texts_beside, texts_of_form
from urform.plan.model import Limit
from urform.plan.operands import Operand

BUOYANT = (
    "\N{RING BUOY}"  # outside the Basic Multilingual Plane: two UTF-16 units, four bytes, one code point
)
LONG = 60  # code points; a longer text is one character repeated, which targets write as such

Limits = tuple[Limit, ...]


def as_declared(limits: Limits) -> tuple[DeclaredLimit, ...]:
    """The limits with a bound, in the form that the shared range arithmetic takes."""
    bounded = (limit for limit in limits if limit.bound is not None)
    return tuple(DeclaredLimit(each.name, each.bound, START, each.unless_empty) for each in bounded)  # type: ignore[arg-type]


def texts(limits: Limits, *, plain: bool = False) -> Iterator[Value]:
    """Texts within the limits, each different; with awkward characters where the length allows, unless plain."""
    declared = as_declared(limits)
    words = allowed_words(declared)
    if words is not None:
        yield from (Text(word) for word in words if isinstance(word, str))
        return
    of_form = texts_of_form(declared)
    if of_form is not None:
        yield from (Text(text) for text in of_form)
        return
    fewest, most = length_range(declared)
    for number in range(1, 1000):
        side = "north" if number % 2 else "south"
        text = f"{side} {number}" if plain else f'{side} "{number}" \\ {BUOYANT}'
        if most is not None and most < len(text):
            text = _short(number, most)
        if fewest > LONG:
            text = chr(ord("a") + number % 26) * fewest
        text += "x" * (fewest - len(text))
        yield Text(text)
        if most == 0:
            return


def _short(number: int, most: int) -> str:
    """At most that many code points, the first telling the texts apart."""
    letters = [BUOYANT, '"', *"abcdefghijklmnopqrstuvwxyz0123456789"]
    text: str = letters[(number - 1) % len(letters)] + '"\\' + str(number)
    return text[:most]


def integers(limits: Limits) -> Iterator[Value]:
    """Integers within the limits, each different."""
    declared = as_declared(limits)
    words = allowed_words(declared)
    if words is not None:
        yield from (Integer(word) for word in words if isinstance(word, int))
        return
    low, high = integer_range(declared)
    if low > high:
        return
    begin = 7 if low <= 7 <= high else (low + high) // 2
    yield from (Integer(number) for number in range(begin, min(high, begin + 2000) + 1))
    yield from (Integer(number) for number in range(begin - 1, max(low, begin - 2000) - 1, -1))


def reals(limits: Limits) -> Iterator[Value]:
    """Reals within the limits, each different."""
    low, high = real_range(as_declared(limits))
    middle = low / 2 + high / 2
    candidates = (1.5, 2.5, 3.25, middle, low / 2 + middle / 2, high / 2 + middle / 2, low, high)
    for number in dict.fromkeys(candidates):
        if low <= number <= high:
            yield Real(number + 0.0)


def told(kind: str, limits: Limits) -> Iterator[Value]:
    """Values that are told by texts, within the limits, each different: usual ones, both ends, and those from the first on."""
    low, high = told_range(kind, as_declared(limits))
    usual = [Told(kind, text) for text in KINDS[kind].usual]
    places = dict.fromkeys([*(value.order for value in usual), low, high, *range(low, min(high, low + 2000))])
    for place in places:
        value = at_place(kind, place) if low <= place <= high else None
        if value is not None:
            yield value


@dataclass(frozen=True, slots=True)
class Edge:
    """Where a limit begins to bite: values outside that break just it first, and a value on the edge."""

    outside: tuple[Operand, ...]
    inside: Operand | None
    elements: tuple[
        Operand, ...
    ] = ()  # within those outside, what breaks the limit, where that is not the whole

    @property
    def broken(self) -> tuple[Operand, ...]:
        """What breaks the limit in each value outside."""
        return self.elements or self.outside


def first_broken(value: Operand, limits: Limits) -> Limit | None:
    """The first limit that a scalar witness breaks."""
    match value:
        case Text(plain) | Integer(plain) | Real(plain) | (Told() as plain):
            for limit in limits:
                if any(breaks(plain, declared) for declared in as_declared((limit,))):
                    return limit
    return None


def scalar_edge(type_: Type, limits: Limits, limit: Limit) -> Edge | None:
    """The edge of a declared limit on a text or number; None if no value breaks just this limit first."""
    bound = limit.bound
    outside: list[Value] = []
    inside: Value | None = None
    if isinstance(bound, Told):
        outside, inside = _told_edge(limit.name, bound)
    elif limit.name in NUMERIC and isinstance(bound, (int, float)):
        outside, inside = _numeric_edge(type_, limit.name, bound)
    elif limit.name in LENGTHS and isinstance(bound, int):
        size = bound - 1 if limit.name == "min_length" else bound + 1
        outside = [Text(BUOYANT * size)] if size >= 0 else []
        inside = _of_length(limits, bound)
    elif limit.name == "not_blank":
        fewest, _ = length_range(d for d in as_declared(limits) if d.name != "not_blank")
        outside = [Text("\t \n".ljust(fewest)), Text(" " * max(fewest, 1))]
        inside = _first_of_form(limits) or Text("\N{NO-BREAK SPACE}" * max(fewest, 1))
    elif limit.name == "one_of" and isinstance(bound, tuple):
        others = tuple(other for other in limits if other.name != "one_of")
        outside = list(islice(texts(others) if type_ == TEXT else integers(others), 50))
        inside = Text(bound[0]) if isinstance(bound[0], str) else Integer(bound[0])
    elif limit.form is not None:
        outside = [Text(text) for text in texts_beside(as_declared(limits), limit.name)]
        inside = _first_of_form(limits)
    outside = [value for value in outside if first_broken(value, limits) == limit]
    outside = outside if limit.form is not None else outside[:2]
    if inside is not None and first_broken(inside, limits) is not None:
        inside = None
    return Edge(tuple(outside), inside) if outside else None


def _of_length(limits: Limits, length: int) -> Value:
    """A text of exactly that length, of the form that limits ask for."""
    asked = DeclaredLimit("max_length", length, START)
    of_form = texts_of_form((*as_declared(limits), DeclaredLimit("min_length", length, START), asked))
    return Text(BUOYANT * length if of_form is None else next(of_form, ""))


def _first_of_form(limits: Limits) -> Value | None:
    of_form = texts_of_form(as_declared(limits))
    return Text(next(of_form, "")) if of_form is not None else None


def _told_edge(name: str, bound: Told) -> tuple[list[Value], Value | None]:
    inwards = 1 if name in ("min", "above") else -1
    inside = bound if name in ("min", "max") else bound.beside(inwards)
    outside = bound.beside(-inwards) if name in ("min", "max") else bound
    return ([outside] if outside is not None else []), inside


def _numeric_edge(type_: Type, name: str, bound: float) -> tuple[list[Value], Value | None]:
    down = name in ("min", "above")
    if type_ == INTEGER:
        edge = int(bound) if name in ("min", "max") else int(bound) + (1 if down else -1)
        return [Integer(edge - 1 if down else edge + 1)], Integer(edge)
    toward = -math.inf if down else math.inf
    inner = float(bound) if name in ("min", "max") else math.nextafter(bound, -toward)
    outer = math.nextafter(bound, toward) if name in ("min", "max") else float(bound)
    if not math.isfinite(outer) or not math.isfinite(inner):
        return [], None
    return [Real(outer + 0.0)], Real(inner + 0.0)


def takes_one(limits: Limits) -> bool:
    """Whether a collection of one element is within length limits."""
    fewest, most = length_range(as_declared(limits))
    return fewest <= 1 and (most is None or most >= 1)
