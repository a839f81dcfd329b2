"""The declaration as it was read: typed, frozen, each thing knowing its place in the file."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field

from urform.dataclasses import dataclass
from urform.declaration.document import Document, Node
from urform.declaration.place import Place
from urform.declaration.told import Told
from urform.declaration.types import Type

# The limits that a declaration may write, and what they mean is in `limits.py`.
LIMIT_NAMES = (
    "min",
    "max",
    "above",
    "below",
    "not_blank",
    "min_length",
    "max_length",
    "one_of",
    "pattern",
    "uri",
    "unique",
)

Bound = int | float | bool | str | Told | tuple[str | int, ...]


@dataclass(frozen=True, slots=True)
class Limit:
    """One declared limit; `bound` is a number, a date, a tuple (`one_of`), a text (`pattern`), or True where there is none."""

    name: str
    bound: Bound
    place: Place
    unless_empty: bool = False  # a least length that an empty collection need not have


@dataclass(frozen=True, slots=True)
class Field:
    """A field of a product. `default` is the value as written, typed by `values.typed`."""

    name: str
    place: Place
    required: bool
    type: Type
    type_place: Place
    limits: tuple[Limit, ...] = ()
    each: tuple[Limit, ...] = ()
    default: Node | None = None
    doc: str = ""
    item: str | None = None
    item_place: Place | None = None
    copy: str | None = None  # as written; `ownership.copy_of` tells what holds
    copy_place: Place | None = None
    secret: Place | None = None  # where it is said, if it is one
    called: Use | None = None  # in records, where it is not its name


@dataclass(frozen=True, slots=True)
class Parameter:
    name: str
    place: Place
    type: Type


@dataclass(frozen=True, slots=True)
class Operation:
    name: str
    place: Place
    takes: tuple[Parameter, ...]
    returns: Type
    doc: str = ""
    once: Place | None = None  # where it is said that the base's answer is everyone's, if it is


@dataclass(frozen=True, slots=True)
class Given:
    """A value as written, under a name that may turn out to be unknown."""

    name: str
    place: Place
    node: Node


@dataclass(frozen=True, slots=True)
class Use:
    """A product or member named by `use`."""

    name: str
    place: Place


@dataclass(frozen=True, slots=True)
class WrittenCondition:
    """A condition's text; `place` is where the text itself begins."""

    text: str
    place: Place


@dataclass(frozen=True, slots=True)
class Refusal:
    when: WrittenCondition
    reason: str


@dataclass(frozen=True, slots=True)
class Choosing:
    use: Use
    when: WrittenCondition | None


@dataclass(frozen=True, slots=True)
class Factory:
    """How variants are made; `refuse` and `choose` belong to the form `by_values`."""

    place: Place
    form: str  # simple, registry, creators, by_values
    unknown: str | Use = "error"
    unknown_place: Place | None = None
    refuse: tuple[Refusal, ...] = ()
    refuse_place: Place | None = None
    choose: tuple[Choosing, ...] = ()
    choose_place: Place | None = None


@dataclass(frozen=True, slots=True)
class NamedValues:
    """A preset or an exemplar: values by field."""

    name: str
    place: Place
    node: Node
    values: tuple[Given, ...]


@dataclass(frozen=True, slots=True)
class Builder:
    place: Place
    style: str = "fluent"
    after_build: str = "keep"
    missing: str = "at_build"
    missing_place: Place | None = None
    presets: tuple[NamedValues, ...] = ()


@dataclass(frozen=True, slots=True)
class Prototype:
    place: Place
    exemplars: tuple[NamedValues, ...] = ()


@dataclass(frozen=True, slots=True)
class Flyweight:
    place: Place
    key: tuple[Use, ...]
    hold: str = "strong"


@dataclass(frozen=True, slots=True)
class Product:
    """A product, or a variant of one (then `base` names it, and `mutable` is the base's)."""

    name: str
    place: Place
    doc: str = ""
    base: str | None = None
    keys: tuple[
        Use, ...
    ] = ()  # of a variant: its type codes, the first of which is the one that is read back
    called: Use | None = None  # in records: of a variant what tells its kind
    mutable: bool = False
    single: bool = False
    single_place: Place | None = None
    fields: Mapping[str, Field] = field(default_factory=dict)  # own ones: required first, then optional
    operations: Mapping[str, Operation] = field(default_factory=dict)
    defaults: tuple[Given, ...] = ()
    answers: tuple[Given, ...] = ()
    variants: Mapping[str, Product] = field(default_factory=dict)
    factory: Factory | None = None
    builder: Builder | None = None
    prototype: Prototype | None = None
    flyweight: Flyweight | None = None

    @property
    def abstract(self) -> bool:
        return bool(self.variants)

    @property
    def key(self) -> str | None:
        """The type code that is read back from a variant; None for what is no variant."""
        return self.keys[0].name if self.keys else None


@dataclass(frozen=True, slots=True)
class Choice:
    name: str
    place: Place
    words: tuple[Use, ...]
    doc: str = ""
    called: Mapping[str, Use] = field(default_factory=dict)  # words that are called otherwise in records


@dataclass(frozen=True, slots=True)
class Role:
    name: str
    place: Place
    type: Type  # a product, or a list of one
    type_place: Place


@dataclass(frozen=True, slots=True)
class Part:
    """A part that a member makes for a role: a product and values for its fields."""

    use: Use
    values: tuple[Given, ...] = ()


@dataclass(frozen=True, slots=True)
class Filling:
    """A member's parts for one role; `listed` when they were written as a list."""

    role: str
    place: Place
    parts: tuple[Part, ...]
    listed: bool


@dataclass(frozen=True, slots=True)
class Member:
    name: str
    place: Place
    fillings: Mapping[str, Filling]


@dataclass(frozen=True, slots=True)
class Family:
    """An abstract factory: roles, and members that fill them."""

    name: str
    place: Place
    roles: Mapping[str, Role]
    members: Mapping[str, Member]
    doc: str = ""
    unknown: str | Use = "error"
    stand_in: bool = False


@dataclass(frozen=True, slots=True)
class Records:
    """How products are read from records, and written."""

    place: Place
    unknown: str = "refuse"  # or ignore
    kind: Use | None = None  # the name under which a record tells its kind
    write: str = "needed"  # or all


@dataclass(frozen=True, slots=True)
class Declaration:
    """Everything that one file declares. `products` holds the variants too, each after its base."""

    name: str
    place: Place
    document: Document
    doc: str = ""
    targets: Mapping[str, Mapping[str, tuple[str, Place]]] = field(default_factory=dict)
    target_places: Mapping[str, Place] = field(default_factory=dict)
    option_places: Mapping[str, Mapping[str, Place]] = field(default_factory=dict)  # of the names of settings
    records: Records | None = None
    choices: Mapping[str, Choice] = field(default_factory=dict)
    products: Mapping[str, Product] = field(default_factory=dict)
    families: Mapping[str, Family] = field(default_factory=dict)

    def base_of(self, product: Product) -> Product | None:
        """The abstract product that this one is a variant of."""
        return self.products[product.base] if product.base is not None else None

    def all_fields(self, product: Product) -> Iterator[Field]:
        """Inherited fields and own ones: the base's first, in each the required before the optional."""
        base = self.base_of(product)
        if base is not None:
            yield from base.fields.values()
        yield from product.fields.values()

    def all_operations(self, product: Product) -> Iterator[Operation]:
        """Inherited operations, then own ones."""
        base = self.base_of(product)
        if base is not None:
            yield from base.operations.values()
        yield from product.operations.values()

    def concrete(self, product: Product) -> tuple[Product, ...]:
        """The variants of an abstract product, or the product itself."""
        return tuple(product.variants.values()) or (product,)
