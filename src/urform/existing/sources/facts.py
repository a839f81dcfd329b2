"""What source code says of types, as plain data that knows no language."""

from __future__ import annotations

from urform.dataclasses import dataclass

RECORD, CHOICE, ALIAS = "record", "choice", "alias"

# Names of types that are written with signs.
LIST_OF, UNION, NULL, LITERAL, POINTER, UNKNOWN = "[]", "|", "null", "literal", "*", ""
NUMBER, FUNCTION = "number literal", "=>"


@dataclass(frozen=True, slots=True)
class Spelled:
    """A type as it is spelled: a name, and what it is of. A literal has its `word`, a text or a number."""

    name: str
    of: tuple[Spelled, ...] = ()
    word: str = ""


@dataclass(frozen=True, slots=True)
class Constant:
    """A default that is a word of a choice, by the name of its constant."""

    name: str


@dataclass(frozen=True, slots=True)
class FieldFact:
    """A field. `default` is a tuple of one literal value, or of a constant; `is_computed` where it is neither."""

    name: str
    type: Spelled
    line: int
    doc: str = ""
    optional: bool = False
    default: tuple[object, ...] = ()
    is_computed: bool = False
    file: str = ""


@dataclass(frozen=True, slots=True)
class TypeFact:
    """A type: fields and bases of a record, words of a choice, what an alias stands for.

    A record is a kind of its bases; of its parts it has the fields and is no kind.

    `is_base`: it cannot be made by itself. `kinds`: the only types that are kinds of it, where the source names them.
    """

    name: str
    form: str
    line: int
    file: str = ""
    doc: str = ""
    fields: tuple[FieldFact, ...] = ()
    bases: tuple[str, ...] = ()
    parts: tuple[str, ...] = ()
    words: tuple[str, ...] = ()
    of: Spelled | None = None
    is_base: bool = False
    kinds: tuple[str, ...] = ()
    mutable: bool = False
    parameters: tuple[str, ...] = ()  # of a generic type


@dataclass(frozen=True, slots=True)
class Spellings:
    """What the names of types mean in one language."""

    scalars: dict[str, str]
    lists: frozenset[str]
    sets: frozenset[str] = frozenset()
    maps: frozenset[str] = frozenset()
    maybe: frozenset[str] = frozenset()  # of one that may be absent
    plain: frozenset[str] = frozenset()  # the same as what they are of
    any: frozenset[str] = frozenset()
    functions: frozenset[str] = frozenset()
    tuples: frozenset[str] = frozenset()
