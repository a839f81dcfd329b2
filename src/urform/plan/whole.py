"""The plan as a whole: everything that is made, and what can be asked of it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field, replace
from functools import cached_property

from urform.dataclasses import dataclass
from urform.declaration.types import ChoiceType, ProductType, Type, innermost, parts
from urform.plan.model import (
    Builder,
    Choice,
    Factory,
    Family,
    Field,
    Flaw,
    LeftOut,
    Making,
    OfProduct,
    Operation,
    Pool,
    Product,
    Prototype,
    Records,
    Selection,
    always_there,
)


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
            else replace(each, limits=always_there(each.limits), each=always_there(each.each))
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
