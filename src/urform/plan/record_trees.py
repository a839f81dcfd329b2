"""Records: what a JSON reader gives for a product, and the text that is written of it.

A product is an object of its fields in declared order, a variant begins with its kind; choices are their words, sets sorted
lists, maps objects whose names are their keys. Text is as ECMAScript's `JSON.stringify` writes it.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping

from urform.dataclasses import dataclass
from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    SetOf,
    Type,
)
from urform.declaration.values import (
    Boolean,
    Entries,
    Integer,
    Items,
    Made,
    Real,
    Text,
    Value,
    Word,
)
from urform.plan.messages import quoted, real_text
from urform.plan.model import Field, Product, Records
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Tree:
    """An object: names, and what stands under each, in order."""

    entries: tuple[tuple[str, Node], ...]

    def get(self, name: str) -> Node:
        """What stands under a name; None where nothing does."""
        return dict(self.entries).get(name)

    def put(self, name: str, node: Node) -> Tree:
        """The same with another value under a name, at its place or at the end."""
        if name not in dict(self.entries):
            return Tree((*self.entries, (name, node)))
        return Tree(tuple((each, node if each == name else held) for each, held in self.entries))

    def without(self, name: str) -> Tree:
        """The same without a name."""
        return Tree(tuple(entry for entry in self.entries if entry[0] != name))


Node = Tree | tuple["Node", ...] | str | int | float | bool | None


def json_text(node: Node) -> str:
    """The text of a node: no blanks, names in their order, numbers and strings as ECMAScript writes them."""
    match node:
        case Tree(entries):
            return f"{{{','.join(f'{json_text(name)}:{json_text(held)}' for name, held in entries)}}}"
        case tuple():
            return f"[{','.join(map(json_text, node))}]"
        case float():
            return real_text(node).removesuffix(".0")
        case str():
            return json.dumps(node, ensure_ascii=False)
    return json.dumps(node)


class RecordTrees:
    """The records of one plan's products."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._settings = plan.records or Records()

    def of(self, value: Value) -> Node:
        """The record of a value, as it is written."""
        match value:
            case Text(text) | Told(_, text):
                return text
            case Integer(number):
                return number
            case Real(number):
                return number + 0.0
            case Boolean(flag):
                return flag
            case Word(choice, word):
                return self._plan.choices[choice].called(word)
            case Items(type_, items):
                nodes = [self.of(item) for item in items]
                return tuple(self._sorted(type_.element, nodes) if isinstance(type_, SetOf) else nodes)
            case Entries(type_, entries):
                by_key = {self.of(key): self.of(item) for key, item in entries}
                keys = self._sorted(type_.key, list(by_key))
                return Tree(tuple((str(key), by_key[key]) for key in keys))
            case Made(product, fields):
                return self.made(product, fields)
        raise TypeError(f"{value} is no value of a record")

    def _sorted(self, type_: Type, nodes: list[Node]) -> list[Node]:
        """By number or code point, and each once."""
        return sorted(dict.fromkeys(nodes), key=lambda node: node if isinstance(node, int) else str(node))

    def made(self, name: str, fields: Mapping[str, Value]) -> Tree:
        """The record of a product with these fields; of one by values, with these parameters."""
        selection = self._plan.selection_of(name)
        name = selection.chosen(fields) if selection is not None else name
        product = self._plan.products[name]
        entries: list[tuple[str, Node]] = []
        if product.base is not None:
            entries.append((self._settings.kind, product.kinds[0]))
        for field in product.fields:
            entries.extend(self._entry(field, fields.get(field.name)))
        return Tree(tuple(entries))

    def _entry(self, field: Field, given: Value | None) -> Iterator[tuple[str, Node]]:
        """A field that is given; all of them, if they are to be written."""
        node = self.of(given) if given is not None else None
        usual = self._usual(field)
        if field.required or (given is not None and node != usual):
            yield field.called, node
        elif self._settings.write_all:
            yield field.called, usual

    def _usual(self, field: Field) -> Node:
        """What stands in a record for an optional field that was not given."""
        if field.default is not None:
            return self.of(field.default)
        if not isinstance(field.type, Collection):
            return None
        return Tree(()) if isinstance(field.type, MapOf) else ()


@dataclass(frozen=True, slots=True)
class Wrong:
    """A problem of a record as every target tells it: where, and what is wrong."""

    path: str
    said: str

    @property
    def text(self) -> str:
        """`legs[1].hours: Leg.hours is -2.0; at least 0.0 is allowed`."""
        return f"{self.path}: {self.said}" if self.path else self.said


def below(path: str, name: str) -> str:
    """The path of what stands under a name: `.name`, or `["name"]` where that is no identifier."""
    if name.isascii() and name.isidentifier():
        return f"{path}.{name}" if path else name
    return f"{path}[{quoted(name)}]"


def at(path: str, place: int) -> str:
    """The path of an element."""
    return f"{path}[{place}]"


def key_at(path: str, key: str, type_: Type) -> str:
    """The path of what stands under a key of a map."""
    return f"{path}[{quoted(key) if not _is_number(type_) else key}]"


def _is_number(type_: Type) -> bool:
    return str(type_) == "integer"


def wanted(plan: Plan, type_: Type) -> str:
    """What is asked for where a node is of another type."""
    match type_:
        case ListOf() | SetOf():
            return "a list is wanted"
        case ChoiceType(name):
            words = ", ".join(quoted(word) for word in plan.choices[name].in_records)
            return f"one of {words} is wanted"
    return {
        "text": "a text is wanted",
        "integer": "an integer is wanted",
        "real": "a number is wanted",
        "boolean": "true or false is wanted",
        **{name: kind.asked for name, kind in KINDS.items()},
    }.get(str(type_), "a record is wanted")


def shown_node(node: Node) -> str:
    """A node in a message."""
    match node:
        case Tree():
            return "a record"
        case tuple():
            return "a list"
        case None:
            return "null"
        case str():
            return quoted(node)
        case float():
            return real_text(node)
    return json.dumps(node)


def names_of(plan: Plan, product: Product) -> tuple[str, ...]:
    """The names that a record of a product may have."""
    kind = (plan.records or Records()).kind
    return (*([kind] if product.base is not None else []), *(field.called for field in product.fields))


FARTHEST = 80  # code points: nothing is suggested for a longer name


def nearest(name: str, known: tuple[str, ...]) -> str | None:
    """The known name that is likely meant: the same but for case, or the one that takes the fewest changes.

    A change puts in, drops or replaces a code point (Levenshtein); at most a third of the name may change, but one always.
    """
    for each in known:
        if each.lower() == name.lower():
            return each
    if len(name) > FARTHEST:
        return None
    most = max(len(name) // 3, 1)
    best = min(known, key=lambda each: distance(name, each), default=None)
    return best if best is not None and distance(name, best) <= most else None


def distance(one: str, other: str) -> int:
    """How many code points have to be put in, dropped or replaced."""
    row = list(range(len(other) + 1))
    for at_one, char in enumerate(one, 1):
        last, row[0] = row[0], at_one
        for at_other, second in enumerate(other, 1):
            last, row[at_other] = (
                row[at_other],
                min(row[at_other] + 1, row[at_other - 1] + 1, last + (char != second)),
            )
    return row[-1]


def json_source(node: Node) -> str:
    """A text that is read as this node, 5.0 as a number with its point; for tests that have a reader of text."""
    match node:
        case Tree(entries):
            return f"{{{', '.join(f'{json_source(name)}: {json_source(held)}' for name, held in entries)}}}"
        case tuple():
            return f"[{', '.join(map(json_source, node))}]"
        case float():
            return real_text(node)
    return json_text(node)
