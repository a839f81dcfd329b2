"""The plan: what is made, as plain typed data with no language in it.

It knows nothing of places in a file, of inheritance in a language, or of spelling: names are those of the
declaration. Targets read it; faults (see `docs/`) are changes of it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from urform.declaration.types import Collection, ProductType, Type, innermost
from urform.declaration.values import Value

Bound = int | float | bool | tuple[str | int, ...] | None


@dataclass(frozen=True, slots=True)
class Limit:
    """One limit that is checked. Beside the declared ones `finite` and `choice`, which have no bound."""

    name: str
    bound: Bound = None


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
    """What clients call. With an `answer` it is generated whole; without, the user writes it."""

    name: str
    owner: str
    takes: tuple[Parameter, ...]
    returns: Type
    answer: Value | None = None
    doc: str = ""


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
    mutable: bool = False
    single: bool = False
    closed: bool = False  # an abstract one: no variants beside the declared ones

    @property
    def abstract(self) -> bool:
        return bool(self.variants)

    @property
    def own_fields(self) -> tuple[Field, ...]:
        """Without the inherited ones."""
        return tuple(f for f in self.fields if f.owner == self.name)

    @property
    def required(self) -> tuple[Field, ...]:
        return tuple(f for f in self.fields if f.required)

    @property
    def optional(self) -> tuple[Field, ...]:
        return tuple(f for f in self.fields if not f.required)

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


@dataclass(frozen=True, slots=True)
class Factory:
    """A factory by key: `kinds` maps each key to the variant that it makes, in declaration order."""

    product: str
    form: str  # simple, registry, creators
    kinds: Mapping[str, str]
    unknown: str  # error, nothing, or the name of a variant

    @property
    def known(self) -> tuple[str, ...]:
        """The keys, sorted by code point."""
        return tuple(sorted(self.kinds))


Making = Factory  # the ways of making; each pattern adds its own


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A part of the declaration that this version does not generate."""

    part: str
    line: int
    column: int


@dataclass(frozen=True)  # without slots: the lookup below is kept on the instance
class Plan:
    """Everything that is made from one declaration."""

    name: str
    doc: str
    source: str  # the file name, without folders
    choices: Mapping[str, Choice] = field(default_factory=dict)
    products: Mapping[str, Product] = field(default_factory=dict)  # variants after their base
    makings: tuple[Making, ...] = ()
    left_out: tuple[LeftOut, ...] = ()
    settings: Mapping[str, Mapping[str, str]] = field(default_factory=dict)  # of each target

    def concrete(self, product: Product) -> tuple[Product, ...]:
        """The products that stand for this one: its variants, or itself."""
        return tuple(self.products[name] for name in product.variants) or (product,)

    def factory_of(self, product: str) -> Factory | None:
        """The factory by key of an abstract product."""
        return self._factories.get(product)

    @cached_property
    def _factories(self) -> Mapping[str, Factory]:
        return {making.product: making for making in self.makings if isinstance(making, Factory)}

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

    def redefined(self, base: Product) -> tuple[Field, ...]:
        """The optional fields of an abstract product to which some variant gives another default."""
        variants = [self.products[name] for name in base.variants]
        return tuple(f for f in base.optional if any(v.field(f.name).default != f.default for v in variants))

    def product_in(self, type_: Type) -> Product | None:
        """The product at the innermost level of a type."""
        inner = innermost(type_)
        return self.products[inner.name] if isinstance(inner, ProductType) else None
