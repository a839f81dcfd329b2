"""Types of fields, parameters and answers: `text`, `list<Leg>`, `map<Side to integer>` …"""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.catalogue import types as catalogue
from urform.declaration.elsewhere import COLLECTIONS, TYPES
from urform.declaration.place import Place
from urform.declaration.problems import Problems, did_you_mean

SCALARS = ("text", "integer", "real", "boolean", "date", "time", "instant", "duration", "decimal", "uuid")


@dataclass(frozen=True, slots=True)
class Scalar:
    """`text`, `integer`, `real`, `boolean`, `date`, `time`, `instant`, `duration`, `decimal` or `uuid`."""

    name: str

    def __str__(self) -> str:
        return self.name


@dataclass(frozen=True, slots=True)
class ChoiceType:
    """One word of a declared choice."""

    name: str

    def __str__(self) -> str:
        return self.name


@dataclass(frozen=True, slots=True)
class ProductType:
    """A declared product; an abstract one stands for each of its variants."""

    name: str

    def __str__(self) -> str:
        return self.name


@dataclass(frozen=True, slots=True)
class ListOf:
    element: Type

    def __str__(self) -> str:
        return f"list<{self.element}>"


@dataclass(frozen=True, slots=True)
class SetOf:
    element: Type

    def __str__(self) -> str:
        return f"set<{self.element}>"


@dataclass(frozen=True, slots=True)
class MapOf:
    key: Type
    element: Type

    def __str__(self) -> str:
        return f"map<{self.key} to {self.element}>"


@dataclass(frozen=True, slots=True)
class NothingType:
    """What an operation returns that gives nothing."""

    def __str__(self) -> str:
        return "nothing"


@dataclass(frozen=True, slots=True)
class MaybeOf:
    """What an operation returns that may give nothing: `text?`."""

    element: Type

    def __str__(self) -> str:
        return f"{self.element}?"


@dataclass(frozen=True, slots=True)
class UnknownType:
    """Stands where a type could not be read, so that nothing more is said about it."""

    def __str__(self) -> str:
        return "?"


Type = Scalar | ChoiceType | ProductType | ListOf | SetOf | MapOf | NothingType | MaybeOf | UnknownType
Collection = (ListOf, SetOf, MapOf)

TEXT, INTEGER, REAL, BOOLEAN, DATE, TIME, INSTANT, DURATION, DECIMAL, UUID = map(Scalar, SCALARS)
TOLD = (DATE, TIME, INSTANT, DURATION, DECIMAL, UUID)  # whose values are told by texts of one form
ORDERED = (INTEGER, REAL, DATE, TIME, INSTANT, DURATION, DECIMAL)  # what has a smaller and a larger
URI = Scalar("uri")  # of fields, as they are written: they are held as texts with a limit
UNKNOWN = UnknownType()
NOTHING = NothingType()

_TOKEN = re.compile(r"\s*(?:([A-Za-z_][A-Za-z0-9_]*)|(\S))")
_DEEPEST = 16


class _NoType(Exception):
    """The text is no type expression; says why, and at which token."""

    def __init__(self, why: str, start: int, width: int, use: str = "") -> None:
        super().__init__(why)
        self.why, self.start, self.width = why, start, width
        self.use = use


class TypeReader:
    """Reads type expressions of one declaration, whose choices and products it knows by name."""

    def __init__(self, choices: frozenset[str], products: frozenset[str], problems: Problems) -> None:
        self._choices = choices
        self._products = products
        self._problems = problems
        self._of_field = False

    def read(self, text: str, place: Place, *, of_field: bool = False) -> Type:
        """The type, or `UNKNOWN` after noting what is wrong; `place` is where the text begins."""
        self._of_field = of_field
        tokens = [(m.start(m.lastindex or 0), m[m.lastindex or 0]) for m in _TOKEN.finditer(text)]
        try:
            type_, rest = self._type(tokens, 0, len(text), place, 0)
            if rest < len(tokens):
                raise _follows(tokens, rest)
        except _NoType as error:
            self._problems.add(
                catalogue.BAD_TYPE,
                place.within(error.start, max(error.width, 1)),
                text=text.strip(),
                why=error.why,
                use=error.use,
            )
            return UNKNOWN
        return type_

    def read_returned(self, text: str, place: Place) -> Type:
        """The type of what an operation returns, which may be absent: `text?`."""
        type_ = self.read(text.rstrip().removesuffix("?"), place)
        return MaybeOf(type_) if text.rstrip().endswith("?") and type_ != UNKNOWN else type_

    def _type(
        self, tokens: list[tuple[int, str]], at: int, end: int, place: Place, depth: int
    ) -> tuple[Type, int]:
        if at >= len(tokens):
            raise _NoType("a type is missing", max(end - 1, 0), 1)
        start, word = tokens[at]
        if depth > _DEEPEST:
            raise _NoType(f"it nests deeper than {_DEEPEST} levels", start, len(word))
        if not word[0].isalpha() and word[0] != "_":
            raise _NoType(f"a type cannot begin with {word!r}", start, len(word))
        if at + 1 < len(tokens) and tokens[at + 1][1] == "[":
            raise _follows(tokens, at + 1)
        if at + 1 < len(tokens) and tokens[at + 1][1] == "<":
            return self._collection(tokens, at, end, place, depth)
        if word in SCALARS:
            return Scalar(word), at + 1
        if word == URI.name:
            return self._uri(start, depth), at + 1
        return self._named(word, place.within(start, len(word))), at + 1

    def _uri(self, start: int, depth: int) -> Type:
        """A text with a limit, which stands where limits do: on a field, or on each of its elements."""
        if not self._of_field:
            raise _NoType("only fields are checked for being a uri; write text", start, len(URI.name))
        if depth > 1:
            raise _NoType("elements are checked one level deep; write text", start, len(URI.name))
        return URI

    def _collection(
        self, tokens: list[tuple[int, str]], at: int, end: int, place: Place, depth: int
    ) -> tuple[Type, int]:
        start, word = tokens[at]
        if word not in ("list", "set", "map"):
            here = COLLECTIONS.get(word)
            hint = did_you_mean(word, ("list", "set", "map")) if here is None else ""
            why = f"only list, set and map have elements, not {word}{hint and '.'}{hint}"
            raise _NoType(why, start, len(word), f"write {here}" if here is not None else "")
        first, at = self._type(tokens, at + 2, end, place, depth + 1)
        if word != "map":
            at = self._expect(">", tokens, at, end)
            return (ListOf(first) if word == "list" else SetOf(self._element(first, word, place, start))), at
        at = self._expect("to", tokens, at, end)
        second, at = self._type(tokens, at, end, place, depth + 1)
        at = self._expect(">", tokens, at, end)
        return MapOf(self._element(first, word, place, start), second), at

    def _expect(self, wanted: str, tokens: list[tuple[int, str]], at: int, end: int) -> int:
        accepted = ("to", ",") if wanted == "to" else (wanted,)  # a comma where YAML lets it through
        if at < len(tokens) and tokens[at][1] in accepted:
            return at + 1
        start, token = tokens[at] if at < len(tokens) else (max(end - 1, 0), "")
        raise _NoType(
            f"'{wanted}' is missing" + (f" before {token!r}" if token else ""), start, len(token) or 1
        )

    def _element(self, type_: Type, word: str, place: Place, start: int) -> Type:
        """Sets and keys of maps hold what has an order and a hash in every language."""
        if type_ in (TEXT, INTEGER, UNKNOWN) or isinstance(type_, ChoiceType):
            return type_
        if type_ == URI and word == "set":
            return type_
        role = "elements of a set" if word == "set" else "keys of a map"
        self._problems.add(catalogue.BAD_ELEMENT, place.within(start, len(word)), role=role, type=type_)
        return UNKNOWN

    def _named(self, name: str, place: Place) -> Type:
        if name in self._choices:
            return ChoiceType(name)
        if name in self._products:
            return ProductType(name)
        here = TYPES.get(name)
        hint = did_you_mean(name, (*SCALARS, *self._choices, *self._products)) if here is None else ""
        self._problems.add(
            catalogue.UNKNOWN_TYPE,
            place,
            name=name,
            hint=hint,
            use=f"write {here}" if here is not None else "",
            instead=here if here in (*SCALARS, URI.name) else "",
        )
        return UNKNOWN


def _follows(tokens: list[tuple[int, str]], at: int) -> _NoType:
    """What is wrong with a token after the end of a type."""
    start, token = tokens[at]
    if token == "?":
        why = "only what an operation returns may be absent"
        return _NoType(why, start, 1, "move the field to optional: what may be absent stands there")
    if token == "[":
        word = tokens[at - 1][1]
        element = tokens[at + 1][1] if at + 1 < len(tokens) else "]"
        use = f"write {word}<{element}>" if element != "]" else f"write list<{word}>"
        return _NoType("elements stand in angle brackets", start, 1, use)
    return _NoType(f"nothing may follow, but {token!r} does", start, len(token))


def as_held(type_: Type) -> Type:
    """The type that a value is held as: a URI is a text."""
    match type_:
        case ListOf(element):
            return ListOf(as_held(element))
        case SetOf(element):
            return SetOf(as_held(element))
        case MapOf(key, element):
            return MapOf(key, as_held(element))
    return TEXT if type_ == URI else type_


def parts(type_: Type) -> Iterator[Type]:
    """The type itself and every type within it."""
    yield type_
    match type_:
        case ListOf(element) | SetOf(element) | MaybeOf(element):
            yield from parts(element)
        case MapOf(key, element):
            yield from parts(key)
            yield from parts(element)


def present(type_: Type) -> Type:
    """The type of what an operation returns, if it returns something."""
    return type_.element if isinstance(type_, MaybeOf) else type_


def element_of(type_: Type) -> Type | None:
    """The type of an element, or of a map's values; None for what is no collection."""
    return type_.element if isinstance(type_, Collection) else None


def innermost(type_: Type) -> Type:
    """The type of the innermost elements of a collection; the type itself if it is no collection."""
    while isinstance(type_, Collection):
        type_ = type_.element
    return type_
