"""Values, typed by the type that they are meant for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from urform.dataclasses import dataclass
from urform.declaration.limits import breaks
from urform.declaration.model import Limit
from urform.declaration.told import Told
from urform.declaration.types import ListOf, MapOf, SetOf


@dataclass(frozen=True, slots=True)
class Text:
    text: str


@dataclass(frozen=True, slots=True)
class Integer:
    number: int


@dataclass(frozen=True, slots=True)
class Real:
    number: float


@dataclass(frozen=True, slots=True)
class Boolean:
    flag: bool


@dataclass(frozen=True, slots=True)
class Word:
    """A word of a choice."""

    choice: str
    word: str


@dataclass(frozen=True, slots=True)
class Items:
    """Of a list, in order; of a set, without duplicates, sorted."""

    type: ListOf | SetOf
    items: tuple[Value, ...]


@dataclass(frozen=True, slots=True)
class Entries:
    """Of a map, sorted by key."""

    type: MapOf
    entries: tuple[tuple[Value, Value], ...]


@dataclass(frozen=True, slots=True)
class Made:
    """A product, made through a public entry from the fields that are given."""

    product: str
    fields: Mapping[str, Value] = field(default_factory=dict)

    def __hash__(self) -> int:
        return hash((self.product, tuple(sorted(self.fields))))


@dataclass(frozen=True, slots=True)
class Absent:
    """What an operation answers that gives none of the values it could."""


Value = Text | Integer | Real | Boolean | Told | Word | Items | Entries | Made


def sort_key(value: Value) -> tuple[str, int]:
    """Sets and maps are shown sorted by code point or number."""
    match value:
        case Text(text) | Word(_, text):
            return text, 0
        case Integer(number):
            return "", number
    raise TypeError(f"{value} is no element of a set and no key of a map")


def broken_limit(value: Value, limits: tuple[Limit, ...], each: tuple[Limit, ...]) -> Limit | None:
    """The first limit that a value breaks: those of the whole before those of each element, `unique` after them."""
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
    unique = next((limit for limit in limits if limit.name == "unique"), None)
    return unique if unique is not None and len(set(elements)) < len(elements) else None


def plain_of(value: Value) -> str | int | float | Told | None:
    """The quantity that limits compare: the number, the text, the date, or the length of a collection."""
    match value:
        case Told():
            return value
        case Text(text):
            return text
        case Integer(number) | Real(number):
            return number
        case Items(_, items):
            return len(items)
        case Entries(_, entries):
            return len(entries)
    return None
