"""What is measured of a plan: each way of making by itself, as steps, with no language in it.

A sample is one such way. Its setup runs once; each of its makers is steps that leave one product, and is run again and again.
A pooled product has a maker for each of several contents, so that many products share few of them.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from urform.dataclasses import dataclass
from urform.declaration.types import INTEGER, TEXT, ListOf, ProductType
from urform.declaration.values import Integer, Items, Made, Text, Value, broken_limit
from urform.plan.asking import asking
from urform.plan.chaining import in_chains
from urform.plan.making_steps import Build, BuilderSet, Clone, NewBuilder, NewPool, PoolAsk
from urform.plan.model import Builder, Factory, Field, Pool, Product, Prototype
from urform.plan.operands import Arguments
from urform.plan.scalars import as_declared
from urform.plan.script import Step
from urform.plan.steps import Ask, Hold, Make, NewRegistry
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses

CONTENTS = 30  # of a pooled product, so that many share few
SIZES = (1, 10, 100)  # elements of what is cloned
MADE = "made"  # the variable that a maker leaves

MAP_READ = "map read"  # the language's own map, for comparison
CONSTRUCTOR, FACTORY, BUILDER, CLONE, POOL = "constructor", "factory", "builder", "clone", "pool"
DEEP, SHALLOW = "deep copy", "shallow copy"  # the language's own, where it has one


@dataclass(frozen=True, slots=True)
class Sample:
    """One way of making one product. What a language copies by itself has no makers: `original` is what it copies."""

    product: str
    way: str
    setup: tuple[Step, ...]
    makers: tuple[tuple[Step, ...], ...]
    size: int = 0  # elements of what is cloned; 0 where nothing is counted
    original: str = ""
    is_timed: bool = True  # what nobody holds, a weak pool makes anew: to time that tells nothing

    @property
    def name(self) -> str:
        """By which a program is asked for it: `RefitPlan clone 10`."""
        return f"{self.product} {self.way}{f' {self.size}' if self.size else ''}"


def samples(plan: Plan) -> tuple[Sample, ...]:
    """All that is measured, product by product."""
    sampler = _Sampler(plan)
    return tuple(
        sample
        for product in plan.products.values()
        if not product.abstract and not product.single and plan.selected_by(product) is None
        for sample in sampler.of(product)
    )


class _Sampler:
    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._witnesses = Witnesses(plan, plain=True)

    def of(self, product: Product) -> Iterator[Sample]:
        """The constructor, and each other way beside it; nothing where there is no other."""
        given = self._given(product)
        ways = tuple(self._ways(product, given)) if given is not None else ()
        if len(ways) > 1:
            yield from ways

    def _ways(self, product: Product, given: dict[str, Value]) -> Iterator[Sample]:
        base = self._plan.products[product.base or product.name]
        pool, builder = self._plan.pool_of(product.name), self._plan.builder_of(product.name)
        contents = [*self._contents(product, given, pool)] if pool is not None else [given]
        makers = tuple((Make(MADE, product.name, each),) for each in contents)
        yield Sample(product.name, CONSTRUCTOR, (), makers)
        factory = self._plan.factory_of(base.name) if product.base is not None else None
        if factory is not None:
            yield from self._by_factory(base, product, factory)
        if builder is not None:
            yield self._by_builder(product, builder, given)
        prototype = self._plan.prototype_of(base.name)
        if prototype is not None:
            yield from self._cloned(product, prototype, given)
        if pool is not None:
            yield self._from_pool(product, pool, contents)

    def _given(self, product: Product) -> dict[str, Value] | None:
        """Values for what makes a product; None if it cannot be made."""
        arguments = self._witnesses.arguments(product)
        if arguments is None:
            return None
        values = {name: self._witnesses.value(operand) for name, operand in arguments.items()}
        return {name: value for name, value in values.items() if value is not None}

    def _by_factory(self, base: Product, product: Product, factory: Factory) -> Iterator[Sample]:
        key = next((key for key, variant in factory.kinds.items() if variant == product.name), None)
        source = product if factory.needs_more else base
        found = {f.name: v for f in source.required if (v := self._witnesses.of(f)) is not None}
        values = {name: self._witnesses.value(operand) for name, operand in found.items()}
        given: Arguments = {name: value for name, value in values.items() if value is not None}
        if key is None or len(given) < len(source.required):
            return
        registry = "registry" if factory.form == "registry" else None
        ask = asking(self._plan, self._witnesses, factory, MADE, key, given)
        asked = Ask(ask.var, ask.factory, ask.key, ask.arguments, registry, ask.record)
        setup = (NewRegistry(registry, base.name),) if registry is not None else ()
        yield Sample(product.name, FACTORY, setup, ((asked,),))

    def _by_builder(self, product: Product, builder: Builder, given: Mapping[str, Value]) -> Sample:
        steps: list[Step] = [NewBuilder("builder", product.name)]
        steps += [BuilderSet("builder", name, value) for name, value in given.items()]
        steps += [Build(MADE, "builder")]
        chained = in_chains(self._plan, steps) if builder.typed else tuple(steps)
        return Sample(product.name, BUILDER, (), (tuple(chained),))

    def _cloned(self, product: Product, prototype: Prototype, given: Mapping[str, Value]) -> Iterator[Sample]:
        listed = next((f for f in product.fields if isinstance(f.type, ListOf)), None)
        for size in SIZES if listed is not None else (0,):
            values = given if listed is None else self._of_size(listed, given, size)
            if values is None:
                continue
            type_ = ProductType(product.base or product.name)
            setup = (Hold("original", type_, Made(product.name, values)),)
            yield Sample(product.name, CLONE, setup, ((Clone(MADE, "original"),),), size)
            for way in (DEEP, SHALLOW):
                yield Sample(product.name, way, setup, (), size, "original")

    def _of_size(self, field: Field, given: Mapping[str, Value], size: int) -> Mapping[str, Value] | None:
        """The values with so many elements in a list; None where its limits allow no such list."""
        assert isinstance(field.type, ListOf)
        first = next(iter(self._witnesses.values(field.type.element, field.each)), None)
        element = self._witnesses.value(first) if first is not None else None
        if element is None:
            return None
        items = Items(field.type, (element,) * size)
        if broken_limit(items, as_declared(field.limits), as_declared(field.each)) is not None:
            return None
        return {**given, field.name: items}

    def _contents(
        self, product: Product, given: Mapping[str, Value], pool: Pool
    ) -> Iterator[Mapping[str, Value]]:
        """Values with one key after the other, as many as its fields let us tell apart."""
        for number in range(CONTENTS):
            values = {**given}
            for name in pool.key:
                field = product.field(name)
                first = self._witnesses.of(field)
                value = given.get(name) or (self._witnesses.value(first) if first is not None else None)
                if value is not None:
                    values[name] = _numbered(field, value, number)
            if number and all(values.get(name) == given.get(name) for name in pool.key):
                return
            yield values

    def _from_pool(self, product: Product, pool: Pool, contents: Sequence[Mapping[str, Value]]) -> Sample:
        beside = {name: value for name, value in contents[0].items() if name not in pool.key}
        setup = (NewPool("pool", product.name, beside if pool.needs_maker else None),)
        keys = ({name: each[name] for name in pool.key if name in each} for each in contents)
        return Sample(
            product.name,
            POOL,
            setup,
            tuple((PoolAsk(MADE, "pool", key),) for key in keys),
            is_timed=not pool.weak,
        )


def _numbered(field: Field, value: Value, number: int) -> Value:
    """Another value for each number, where the field's limits let it be."""
    other: Value = value
    if field.type == TEXT and isinstance(value, Text):
        other = Text(f"{value.text} {number}")
    elif field.type == INTEGER and isinstance(value, Integer):
        other = Integer(value.number + number)
    return (
        value
        if broken_limit(other, as_declared(field.limits), as_declared(field.each)) is not None
        else other
    )
