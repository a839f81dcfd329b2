"""The plan: what is made, as plain typed data with no language in it.

It knows nothing of places in a file, of inheritance in a language, or of spelling: names are those of the
declaration. Targets read it; faults (see `docs/`) are changes of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field, replace
from functools import cached_property
from typing import TypeVar

from urform.dataclasses import dataclass
from urform.declaration.decisions import Literal, comparisons
from urform.declaration.selection import Deciding, empty
from urform.declaration.told import Told
from urform.declaration.types import (
    TOLD,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
    innermost,
    parts,
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


def _always(limits: tuple[Limit, ...]) -> tuple[Limit, ...]:
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


@dataclass(frozen=True)  # without slots: the lookup below is kept on the instance
class Plan:
    """Everything that is made from one declaration."""

    name: str
    doc: str
    source: str  # the file name, without folders
    choices: Mapping[str, Choice] = field(default_factory=dict)
    products: Mapping[str, Product] = field(default_factory=dict)  # variants after their base
    makings: tuple[Making, ...] = ()
    records: Records | None = None
    left_out: tuple[LeftOut, ...] = ()
    settings: Mapping[str, Mapping[str, str]] = field(default_factory=dict)  # of each target
    flaws: tuple[Flaw, ...] = ()  # none, save where tests are challenged

    def concrete(self, product: Product) -> tuple[Product, ...]:
        """The products that stand for this one: its variants, or itself."""
        return tuple(self.products[name] for name in product.variants) or (product,)

    def owners(self, base: Product, field: str) -> tuple[str, ...]:
        """The products that declare a field of that name, among an abstract one and its variants."""
        family = (base, *(self.products[name] for name in base.variants))
        return tuple(p.name for p in family if any(f.name == field for f in p.own_fields))

    def product(self, name: str) -> Product:
        """A product of the plan, or what a family's stand-in makes."""
        return self.products.get(name) or self.stand_ins[name]

    def to_write(self, base: Product) -> Iterator[tuple[Product, Operation]]:
        """The operations of a product and its variants that the user writes, each with the product that it is of."""
        kinds = self.concrete(base)
        for operation in base.operations if base.abstract else ():
            if operation.once and any(kind.operation(operation.name).answer is None for kind in kinds):
                yield base, operation
        for kind in kinds:
            for operation in kind.operations:
                if operation.answer is None and not operation.once:
                    yield kind, operation

    def written_on(self, product: Product, operation: Operation) -> Product:
        """The product whose function an operation is that the user writes: the base's, if it is written once."""
        return self.products[product.base] if operation.once and product.base is not None else product

    def factory_of(self, product: str) -> Factory | None:
        """The factory by key of an abstract product."""
        return self._way(Factory, product)

    def selection_of(self, product: str) -> Selection | None:
        """The factory by values of an abstract product."""
        return self._way(Selection, product)

    def builder_of(self, product: str) -> Builder | None:
        return self._way(Builder, product)

    def prototype_of(self, product: str) -> Prototype | None:
        return self._way(Prototype, product)

    def pool_of(self, product: str) -> Pool | None:
        return self._way(Pool, product)

    def _way(self, kind: type[OfProduct], product: str) -> OfProduct | None:
        making = self._ways.get((kind, product))
        return making if isinstance(making, kind) else None

    @cached_property
    def _ways(self) -> Mapping[tuple[type, str], Making]:
        return {(type(m), m.product): m for m in self.makings if not isinstance(m, Family)}

    @cached_property
    def families(self) -> tuple[Family, ...]:
        return tuple(making for making in self.makings if isinstance(making, Family))

    @cached_property
    def type_names(self) -> frozenset[str]:
        """The declared names of types: products, choices, families and their members."""
        members = (member.name for family in self.families for member in family.members)
        return frozenset({*self.products, *self.choices, *(f.name for f in self.families), *members})

    @cached_property
    def families_with_stand_in(self) -> tuple[Family, ...]:
        """The families that have a test double beside their members."""
        return tuple(family for family in self.families if family.stand_in is not None)

    @cached_property
    def stand_ins(self) -> Mapping[str, Product]:
        """The products that stand-ins make, by their names."""
        return {p.name: p for family in self.families for p in family.stand_ins}

    @cached_property
    def choices_in_fields(self) -> tuple[str, ...]:
        """The choices that some field has, alone or within a collection, in declared order."""
        fields = (field for product in self.products.values() for field in product.fields)
        held = {part.name for field in fields for part in parts(field.type) if isinstance(part, ChoiceType)}
        return tuple(name for name in self.choices if name in held)

    @cached_property
    def in_roles(self) -> frozenset[str]:
        """The products that some family makes one of, from the fields that its caller gives."""
        return frozenset(r.product for family in self.families for r in family.roles if not r.several)

    def selected_by(self, product: Product) -> Selection | None:
        """The factory by values that alone makes a concrete product, for its constructor is hidden."""
        return self.selection_of(product.base) if product.base is not None else None

    def requires_more(self, variant: str) -> bool:
        """Whether a variant has required fields of its own."""
        return any(field.required for field in self.products[variant].own_fields)

    @property
    def registries(self) -> tuple[Factory, ...]:
        """The factories that are open."""
        return tuple(m for m in self.makings if isinstance(m, Factory) and m.form == "registry")

    def registry_of(self, product: Product) -> Factory | None:
        """The factory of an abstract product, if kinds can be added to it while running."""
        factory = self.factory_of(product.name)
        return factory if factory is not None and factory.form == "registry" else None

    def in_records(self, selection: Selection) -> tuple[Field, ...]:
        """Parameters as a record is asked for them: limits that a variant declares are checked by that variant alone."""
        every = {field.name for field in self.products[selection.product].fields}
        return tuple(
            each
            if each.name in every
            else replace(each, limits=_always(each.limits), each=_always(each.each))
            for each in selection.parameters
        )

    def families_of_types(self) -> Iterator[tuple[Product, tuple[Product, ...]]]:
        """Each product that is no variant, with its variants."""
        for product in self.products.values():
            if product.base is None:
                yield product, tuple(self.products[name] for name in product.variants)

    def holds_mutable(self, type_: Type) -> bool:
        """Whether values of a type can be changed after they were made (containers aside)."""
        inner = innermost(type_)
        return isinstance(inner, ProductType) and self.products[inner.name].mutable

    @cached_property
    def owned(self) -> frozenset[str]:
        """The mutable products that some product owns and so copies, each with its base and all its variants."""
        names: set[str] = set()
        for product in self.products.values():
            for each in product.own_fields:
                inner = self.product_in(each.type)
                if inner is not None and inner.mutable:
                    base = self.products[inner.base] if inner.base is not None else inner
                    names |= {base.name, *base.variants}
        return frozenset(names)

    @cached_property
    def restarting(self) -> frozenset[str]:
        """The products in whose owned tree a clone starts some field again."""
        restarting: set[str] = set()
        while True:
            more = {
                p.name
                for p in self.products.values()
                if p.name not in restarting and self._restarts(p, restarting)
            }
            if not more:
                return frozenset(restarting)
            restarting |= more

    def _restarts(self, product: Product, restarting: set[str]) -> bool:
        if any(name in restarting for name in product.variants):
            return True
        owned = (self.product_in(f.type) for f in product.fields if f.copy == "deep")
        return any(f.copy == "fresh" for f in product.fields) or any(
            inner is not None and inner.name in restarting for inner in owned
        )

    @cached_property
    def cloned(self) -> frozenset[str]:
        """The products with a clone operation of their own: of a prototype, or down the owned tree of one.

        What is immutable and starts nothing again is its own clone, and needs none below the prototype.
        """
        names: set[str] = set()
        waiting = [p.name for p in self.products.values() if self.prototype_of(p.name) is not None]
        while waiting:
            product = self.products[waiting.pop()]
            if product.name in names:
                continue
            names.add(product.name)
            waiting += [*product.variants, *([product.base] if product.base is not None else [])]
            for each in product.fields:
                inner = self.product_in(each.type)
                if inner is not None and each.copy == "deep" and self.changes_in_clone(each):
                    waiting.append(inner.name)
        return frozenset(names)

    def changes_in_clone(self, field: Field) -> bool:
        """Whether a clone needs an own copy of what an owned field holds."""
        inner = self.product_in(field.type)
        return field.copy == "deep" and inner is not None and (inner.mutable or self._any_restarts(inner))

    def _any_restarts(self, product: Product) -> bool:
        base = self.products[product.base] if product.base is not None else product
        return product.name in self.restarting or base.name in self.restarting

    def restarts(self, product: Product) -> bool:
        """Whether a clone of the product, or of any other variant of its base, differs from a copy."""
        return self._any_restarts(product)

    def redefined(self, base: Product) -> tuple[Field, ...]:
        """The optional fields of an abstract product to which some variant gives another default."""
        variants = [self.products[name] for name in base.variants]
        return tuple(f for f in base.optional if any(v.field(f.name).default != f.default for v in variants))

    def product_in(self, type_: Type) -> Product | None:
        """The product at the innermost level of a type."""
        inner = innermost(type_)
        return self.products[inner.name] if isinstance(inner, ProductType) else None
