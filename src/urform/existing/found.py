"""What readers find, as plain data: types with their fields, before anything is made to fit a declaration."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field

from urform.dataclasses import dataclass
from urform.existing.losses import Loss

# Kinds of types that are no scalars of the format.
WORDS, LIST, SET, MAP, NAMED, NOTHING = "words", "list", "set", "map", "named", "nothing"


@dataclass(frozen=True, slots=True)
class Spot:
    """Where something was found. `path` says where in the file's own words: a JSON pointer, or the name of a type."""

    file: str
    line: int
    path: str


@dataclass(frozen=True, slots=True)
class Type:
    """What can stand in a place.

    `kind` is a scalar of the format, or one of the kinds above. A list, set or map is `of` something; words are those in
    `words`, called `name` where nothing better is known; what is named has the `name` by which it was found. Nothing has
    a loss that says why.
    """

    kind: str
    of: Type | None = None
    name: str = ""
    words: tuple[str, ...] = ()
    limits: Mapping[str, object] = field(default_factory=dict)  # by their keys in the format
    losses: tuple[Loss, ...] = ()
    or_null: bool = False
    doc: str = ""  # of words


def nothing(slug: str, text: str, of: str = "") -> Type:
    """What cannot be carried over, and why."""
    return Type(NOTHING, losses=(Loss(slug, text, of),))


@dataclass(frozen=True, slots=True)
class FoundField:
    """A field. `default` is a tuple of one value, empty where there is none."""

    name: str
    type: Type
    required: bool
    spot: Spot
    doc: str = ""
    default: tuple[object, ...] = ()
    losses: tuple[Loss, ...] = ()


@dataclass(frozen=True, slots=True)
class FoundType:
    """A type with fields. With `kinds`, one that only stands for those: found types by their names.

    `tag` is the value by which a record, or a switch, tells this kind from its siblings; `tag_field` is where it stands.
    """

    id: str  # by which others name it
    name: str  # as it is called in what was read, or made from where it stands
    fields: tuple[FoundField, ...]
    spot: Spot
    doc: str = ""
    losses: tuple[Loss, ...] = ()
    kinds: tuple[str, ...] = ()
    tag: str = ""
    tag_field: str = ""
    mutable: bool = False
    within: str = ""  # the type in which it stands without a name of its own

    def needs(self) -> tuple[str, ...]:
        """The types that its fields name, and its kinds."""
        return (*self.kinds, *(name for each in self.fields for name in _named(each.type)))


def _named(type_: Type) -> Iterator[str]:
    if type_.kind == NAMED:
        yield type_.name
    if type_.of is not None:
        yield from _named(type_.of)


@dataclass(frozen=True, slots=True)
class Found:
    """All of it, in the order of the source. `is_open`: records may have names that nobody declared."""

    types: tuple[FoundType, ...]
    is_open: bool = False
    from_records: bool = False  # so that names in records matter
    unread: tuple[tuple[Spot, str], ...] = ()  # what could not be read at all, and why
