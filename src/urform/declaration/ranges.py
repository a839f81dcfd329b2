"""Which values limits leave: ranges of numbers and lengths, and how many values there are."""

from __future__ import annotations

import math
import sys
from collections.abc import Iterable

from urform.declaration.limits import BLANKS, breaks, form_of
from urform.declaration.model import Declaration, Limit
from urform.declaration.regexp.automaton import Automaton, automaton
from urform.declaration.regexp.texts import both, count, without
from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    TEXT,
    TOLD,
    ChoiceType,
    Collection,
    MapOf,
    Scalar,
    SetOf,
    Type,
)

LARGEST_INTEGER = 2**53 - 1  # what JSON and every target hold exactly
BLANK_TEXT = f"[{BLANKS}]*"  # a pattern
PLENTY = 1_000_000_000  # more values than any limit on a length can ask for


def integer_range(limits: Iterable[Limit]) -> tuple[int, int]:
    """Smallest and largest allowed integer, both inclusive; empty when the first is larger."""
    low, high = -LARGEST_INTEGER, LARGEST_INTEGER
    for limit in limits:
        bound = limit.bound
        if isinstance(bound, (tuple, str, Told)) or not math.isfinite(bound):
            continue
        match limit.name:
            case "min":
                low = max(low, math.ceil(bound))
            case "above":
                low = max(low, math.floor(bound) + 1)
            case "max":
                high = min(high, math.floor(bound))
            case "below":
                high = min(high, math.ceil(bound) - 1)
    return low, high


def real_range(limits: Iterable[Limit]) -> tuple[float, float]:
    """Smallest and largest allowed real, both inclusive; empty when the first is larger."""
    low, high = -sys.float_info.max, sys.float_info.max
    for limit in limits:
        bound = limit.bound
        if isinstance(bound, (tuple, str, Told)):
            continue
        match limit.name:
            case "min":
                low = max(low, float(bound))
            case "above":
                low = max(low, math.nextafter(float(bound), math.inf))
            case "max":
                high = min(high, float(bound))
            case "below":
                high = min(high, math.nextafter(float(bound), -math.inf))
    return low, high


def told_range(kind: str, limits: Iterable[Limit]) -> tuple[int, int]:
    """The places of the smallest and the largest allowed value of a kind, both inclusive; empty when the first is larger."""
    known = KINDS[kind]
    low, high = known.order(known.first), known.order(known.last)
    for limit in limits:
        if not isinstance(limit.bound, Told):
            continue
        place = limit.bound.order
        match limit.name:
            case "min":
                low = max(low, place)
            case "above":
                low = max(low, place + 1)
            case "max":
                high = min(high, place)
            case "below":
                high = min(high, place - 1)
    return low, high


def length_range(limits: Iterable[Limit]) -> tuple[int, int | None]:
    """Fewest and most code points or elements, of a collection that is not empty; None is no upper bound."""
    low, high = 0, None
    for limit in limits:
        if isinstance(limit.bound, (tuple, str, Told)):
            continue
        bound = int(limit.bound)
        if limit.name == "min_length":
            low = max(low, bound)
        elif limit.name == "max_length":
            high = bound if high is None else min(high, bound)
        elif limit.name == "not_blank":
            low = max(low, 1)
    return low, high


def is_unique(limits: Iterable[Limit]) -> bool:
    """Whether the elements of a list have to differ."""
    return any(limit.name == "unique" for limit in limits)


def may_be_empty(limits: Iterable[Limit]) -> bool:
    """Whether an empty collection is within limits."""
    return not any(breaks(0, limit) for limit in limits)


def allowed_words(limits: tuple[Limit, ...]) -> list[str | int] | None:
    """What `one_of` and the other limits leave, None without `one_of`."""
    for limit in limits:
        if limit.name == "one_of" and isinstance(limit.bound, tuple):
            return [word for word in limit.bound if not any(breaks(word, other) for other in limits)]
    return None


def form_within(limits: tuple[Limit, ...]) -> Automaton | None:
    """What limits on the form of a text leave, blank ones apart where they are refused; None if there is none."""
    forms = [form for limit in limits if (form := form_of(limit.name, limit.bound)) is not None]
    if not forms:
        return None
    whole = forms[0]
    for form in forms[1:]:
        whole = both(whole, form)
    blank_refused = any(limit.name == "not_blank" for limit in limits)
    return without(whole, automaton(BLANK_TEXT)) if blank_refused else whole


def count_of_values(
    declaration: Declaration, type_: Type, limits: tuple[Limit, ...], each: tuple[Limit, ...]
) -> int:
    """How many values of a type the limits leave, at most `PLENTY`."""
    words = allowed_words(limits)
    if words is not None:
        return len(words)
    if isinstance(type_, ChoiceType):
        return len(declaration.choices[type_.name].words)
    if type_ == BOOLEAN:
        return 2
    if type_ == INTEGER:
        low, high = integer_range(limits)
        return max(0, min(high - low + 1, PLENTY))
    if isinstance(type_, Scalar) and type_ in TOLD:
        first, last = told_range(type_.name, limits)
        return max(0, min(last - first + 1, PLENTY))
    fewest, most = length_range(limits)
    if most is not None and fewest > most:
        return 0
    if type_ == TEXT:
        form = form_within(limits)
        return count(form, fewest, most, PLENTY) if form is not None else 1 if most == 0 else PLENTY
    if isinstance(type_, (SetOf, MapOf)) or is_unique(limits):
        return _count_of_sets(declaration, type_, fewest, most, each)
    low_real, high_real = real_range(limits)
    return PLENTY if low_real < high_real else 1 if low_real == high_real else 0


def _count_of_sets(
    declaration: Declaration, type_: Type, fewest: int, most: int | None, each: tuple[Limit, ...]
) -> int:
    """Of sets, maps and lists without duplicates: how many there are follows from what can be told apart in them."""
    assert isinstance(type_, Collection)
    key, key_limits = (type_.key, ()) if isinstance(type_, MapOf) else (type_.element, each)
    keys = count_of_values(declaration, key, key_limits, ())
    if keys < fewest:
        return 0
    return 1 if most == 0 or keys == 0 else PLENTY
