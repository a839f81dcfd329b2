"""What a plan is made of, as plain typed data with no language in it; `whole.py` has the plan itself.

Nothing here knows of places in a file, of inheritance in a language, or of spelling: names are those of the
declaration. Targets read it; faults (see `docs/`) are changes of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field
from typing import TypeVar

from urform.dataclasses import dataclass
from urform.declaration.decisions import Literal, comparisons
from urform.declaration.selection import Deciding, empty
from urform.declaration.told import Told
from urform.declaration.types import (
    TOLD,
    Collection,
    ListOf,
    MapOf,
    SetOf,
    Type,
)
from urform.declaration.values import Absent, Made, Value

Bound = int | float | bool | str | Told | tuple[str | int, ...] | None


UNDECLARED = ("finite", "choice", *map(str, TOLD))  # limits that need no declaring


@dataclass(frozen=True, slots=True)
class Limit:
    """One limit that is checked. Beside the declared ones `finite`, `choice` and `date`, which have no bound.

    `form` is the pattern that texts are held against, of `pattern` and `uri`. A least length holds `unless_empty` where an
    optional collection is empty when it is not given.
    """

    name: str
    bound: Bound = None
    form: str | None = None
    unless_empty: bool = False


def of_type(type_: Type, limits: tuple[Limit, ...]) -> tuple[Limit, ...]:
    """Those limits that can be of a type: a collection has a length, a list no element twice, and nothing else is limited."""
    if not isinstance(type_, Collection):
        return limits
    names = ("min_length", "max_length", *(["unique"] if isinstance(type_, ListOf) else []))
    return tuple(limit for limit in limits if limit.name in names)


def is_unique(limits: Iterable[Limit]) -> bool:
    """Whether no element of a list may stand twice, which is asked last, once each element is known to be good."""
    return any(limit.name == "unique" for limit in limits)


def asked_first(limits: Iterable[Limit]) -> tuple[Limit, ...]:
    """The limits that are asked before the elements of a collection are looked at: all but `unique`."""
    return tuple(limit for limit in limits if limit.name != "unique")


def always_there(limits: tuple[Limit, ...]) -> tuple[Limit, ...]:
    """The limits that need no declaring."""
    return tuple(limit for limit in limits if limit.name in UNDECLARED)


@dataclass(frozen=True, slots=True)
class Field:
    """A field as one product has it: `default` is the product's own, `owner` the product that declares it."""

    name: str
    owner: str
    type: Type
    required: bool
    default: Value | None = None
    limits: tuple[Limit, ...] = ()  # of the whole, in the order in which they are checked
    each: tuple[Limit, ...] = ()  # of each element, or each value of a map
    copy: str = "deep"
    item: str | None = None
    doc: str = ""
    secret: bool = False  # its value stands in no message
    called: str = ""  # in records
    may_be_absent: bool = False  # as its owner declares it; a variant may still give it a default

    @property
    def absent_by_default(self) -> bool:
        """Absent unless given: optional, without a default, and no collection (those are empty instead)."""
        return not self.required and self.default is None and not isinstance(self.type, Collection)


@dataclass(frozen=True, slots=True)
class Parameter:
    name: str
    type: Type


@dataclass(frozen=True, slots=True)
class Operation:
    """An operation that clients call. With an `answer` it is generated whole; without, the user writes it."""

    name: str
    owner: str
    takes: tuple[Parameter, ...]
    returns: Type
    answer: Value | Absent | None = None
    doc: str = ""
    once: bool = False  # what the user writes of it is written once, on the base


@dataclass(frozen=True, slots=True)
class Change:
    """A way to change one element of what a mutable product holds: `add`, `put` or `remove` it."""

    way: str
    field: Field

    @property
    def name(self) -> str:
        """`add_leg`."""
        return f"{self.way}_{self.field.item}"

    @property
    def brings(self) -> bool:
        """Whether an element comes in, which has to be looked at."""
        return self.way != "remove"

    @property
    def is_placed(self) -> bool:
        """Whether it is made at a place of a list, which may be none."""
        return self.way != "add" and isinstance(self.field.type, ListOf)

    @property
    def is_keyed(self) -> bool:
        """Whether it is made under a key."""
        return isinstance(self.field.type, MapOf)

    @property
    def takes_element(self) -> bool:
        """Whether it is given an element: one that comes in, or one that leaves a set."""
        return self.brings or isinstance(self.field.type, SetOf)

    @property
    def tells(self) -> bool:
        """Whether it tells if there was anything to remove: by value or key, for a place is there or not."""
        return not self.brings and not isinstance(self.field.type, ListOf)


# A list is changed by place, a map by key; a set has its elements or not.
CHANGES: Mapping[type, tuple[str, ...]] = {
    ListOf: ("add", "put", "remove"),
    MapOf: ("put", "remove"),
    SetOf: ("add", "remove"),
}


@dataclass(frozen=True, slots=True)
class Product:
    """A product that is made, or an abstract one that its variants share."""

    name: str
    doc: str
    fields: tuple[Field, ...]  # inherited ones first, each list the required before the optional
    operations: tuple[Operation, ...]
    base: str | None = None
    variants: tuple[str, ...] = ()
    key: str | None = None
    kinds: tuple[str, ...] = ()  # of a variant: what tells it in records, the one that is written first
    mutable: bool = False
    single: bool = False
    closed: bool = False  # an abstract one: no variants beside the declared ones
    required: tuple[Field, ...] = field(init=False, repr=False, compare=False)
    optional: tuple[Field, ...] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:  # everyone asks for them, again and again
        object.__setattr__(self, "required", tuple(f for f in self.fields if f.required))
        object.__setattr__(self, "optional", tuple(f for f in self.fields if not f.required))

    @property
    def abstract(self) -> bool:
        return bool(self.variants)

    @property
    def is_open(self) -> bool:
        """Whether other packages can add a kind to it."""
        return self.abstract and not self.closed

    @property
    def own_fields(self) -> tuple[Field, ...]:
        """Without the inherited ones."""
        return tuple(f for f in self.fields if f.owner == self.name)

    @property
    def changes(self) -> Iterator[Change]:
        """The ways to change one element of what its own fields hold; none of an immutable product."""
        for each in self.own_fields if self.mutable else ():
            if each.item:
                yield from (Change(way, each) for way in CHANGES.get(type(each.type), ()))

    def field(self, name: str) -> Field:
        """The field of that name; KeyError when there is none."""
        for each in self.fields:
            if each.name == name:
                return each
        raise KeyError(f"{self.name} has no field {name}")

    def operation(self, name: str) -> Operation:
        """The operation of that name; KeyError when there is none."""
        for each in self.operations:
            if each.name == name:
                return each
        raise KeyError(f"{self.name} has no operation {name}")


@dataclass(frozen=True, slots=True)
class Choice:
    name: str
    words: tuple[str, ...]
    doc: str = ""
    in_records: tuple[str, ...] = ()  # how each word is called there

    def called(self, word: str) -> str:
        """A word as records have it."""
        return self.in_records[self.words.index(word)]


@dataclass(frozen=True, slots=True)
class Records:
    """How products are read from records and written.

    `leading` has for each variant that is made by values the parameters that it does not hold, with values that lead to it;
    `unmade` are the variants that their factory never makes.
    """

    kind: str = "kind"  # the name under which a record tells its kind
    ignores_unknown: bool = False  # names that are not declared; they are refused otherwise
    write_all: bool = False  # what is absent or has its default too
    leading: Mapping[str, Mapping[str, Value]] = field(default_factory=dict)
    unmade: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Factory:
    """A factory by key: `kinds` maps each key to the variant that it makes, in declaration order.

    Where some kind `needs_more`, required fields of its own, makers do not all take the same: a language ties a key to the
    fields of its kind, or the factory takes records.
    """

    product: str
    form: str  # simple, registry, creators
    kinds: Mapping[str, str]
    unknown: str  # error, nothing, or the name of a variant
    needs_more: bool = False

    @property
    def known(self) -> tuple[str, ...]:
        """The keys, sorted by code point."""
        return tuple(sorted(self.kinds))


@dataclass(frozen=True, slots=True)
class Selection:
    """A factory by values: its parameters (the union of its variants' fields), and what they decide.

    The constructors of its variants are hidden. `fields` tells the optional ones' defaults as conditions see
    them; a variant takes its own.
    """

    product: str
    parameters: tuple[Field, ...]  # the required before the optional
    deciding: Deciding
    declared: Deciding | None = None  # what it was before a fault; declared values keep to it

    @property
    def compares_with_nothing(self) -> bool:
        """Whether some condition compares a text with the empty one."""
        return any(
            isinstance(side, Literal) and side.value == ""
            for decision in self.deciding.decisions
            for compared in comparisons(decision)
            for side in (compared.left, compared.right)
        )

    def chosen(self, given: Mapping[str, Value]) -> str:
        """The variant that declared values are made to; they are not refused."""
        values = {f.name: given.get(f.name, f.default) or empty(f.type) for f in self.parameters}
        outcome = (self.declared or self.deciding).decide(values)
        assert isinstance(outcome, str), "declared values are checked when they are read"
        return outcome

    @property
    def required(self) -> tuple[Field, ...]:
        return tuple(f for f in self.parameters if f.required)

    @property
    def optional(self) -> tuple[Field, ...]:
        return tuple(f for f in self.parameters if not f.required)


@dataclass(frozen=True, slots=True)
class Preset:
    """Values that a builder can start from."""

    name: str
    values: Mapping[str, Value]


@dataclass(frozen=True, slots=True)
class Builder:
    """Makes a product step by step. `fluent` setters return the builder; with `resets` a build empties it.

    The type of a `typed` one tells what it was given, where the language can: a build without a required field does not
    compile. `overlooked` are required fields that its type does not ask for, which only a fault has.
    """

    product: str
    fluent: bool
    resets: bool
    presets: tuple[Preset, ...] = ()
    typed: bool = False
    overlooked: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Exemplar:
    """A named instance, of which clones are handed out."""

    name: str
    product: Made


@dataclass(frozen=True, slots=True)
class Prototype:
    """A clone operation, and the exemplars that a store begins with."""

    product: str
    exemplars: tuple[Exemplar, ...] = ()


@dataclass(frozen=True, slots=True)
class Pool:
    """One instance a key. `needs_maker` when a required field is outside the key."""

    product: str
    key: tuple[str, ...]
    weak: bool
    needs_maker: bool


@dataclass(frozen=True, slots=True)
class Role:
    """One part of what a family makes: a product, or several."""

    name: str
    product: str
    several: bool


@dataclass(frozen=True, slots=True)
class Part:
    """The concrete product that a member makes for a role, and the values that it gives."""

    product: str
    values: Mapping[str, Value]


@dataclass(frozen=True, slots=True)
class Member:
    """A concrete factory: for each role its part, or the parts of a list role."""

    name: str
    key: str
    parts: Mapping[str, tuple[Part, ...]]


@dataclass(frozen=True, slots=True)
class Family:
    """An abstract factory. `unknown` is `error`, `nothing`, or the name of a member.

    The stand-in is a member too, but no key finds it, and it records what it is asked. Its products, the
    `stand_ins`, are no part of the plan's, for nothing is claimed of them but through the family. There is none
    where an operation is `unanswered`: what it returns can never be made.
    """

    name: str
    doc: str
    roles: tuple[Role, ...]
    members: tuple[Member, ...]
    unknown: str
    stand_in: Member | None = None
    stand_ins: tuple[Product, ...] = ()
    unanswered: Operation | None = None

    @property
    def known(self) -> tuple[str, ...]:
        """The keys, sorted by code point."""
        return tuple(sorted(member.key for member in self.members))

    def member(self, name: str) -> Member:
        """The member of that name; KeyError when there is none."""
        return {member.name: member for member in self.members}[name]


Making = (
    Factory | Selection | Builder | Prototype | Pool | Family
)  # the ways of making; each pattern has its own
OfProduct = TypeVar("OfProduct", Factory, Selection, Builder, Prototype, Pool)


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A part of the declaration that this version does not generate."""

    part: str
    line: int
    column: int


@dataclass(frozen=True, slots=True)
class Flaw:
    """A mistake that generated code is to make, when tests are challenged; `plan/flaws.py` says what each means."""

    name: str
    owner: str  # the product or family whose code makes it
    member: str = ""  # a field, an operation, a role
    aspect: str = ""  # a limit
