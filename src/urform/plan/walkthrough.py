"""The walk-through: a client program that makes one of everything, as scenes of steps.

It is made of the steps that tests are made of, with values that a person likes to read, and of steps that print.
Steps that fail print the reason.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from urform.dataclasses import dataclass
from urform.declaration.types import ProductType
from urform.declaration.values import Value
from urform.plan.asking import asking
from urform.plan.chaining import in_chains
from urform.plan.making_steps import (
    AskRole,
    AskRoles,
    Build,
    BuilderSet,
    Clone,
    ExemplarGet,
    FamilyOf,
    NewBuilder,
    NewExemplars,
    NewPool,
    PoolAsk,
    Select,
    Take,
)
from urform.plan.model import Builder, Factory, Family, Making, Pool, Product, Prototype, Selection
from urform.plan.operands import Arguments, Missing, Path, Refused, UnknownKey
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns.fields import change_of
from urform.plan.patterns.holding import has_inmost
from urform.plan.patterns.prototypes import depth_of
from urform.plan.script import Step
from urform.plan.steps import Ask, Hold, Make, NewRegistry, Set
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses
from urform.prose import snake

MISSPELT = "misspelt"


@dataclass(frozen=True, slots=True)
class Print:
    """Print what a variable holds, with some words before it."""

    words: str
    shown: str


@dataclass(frozen=True, slots=True)
class PrintSame:
    """Print whether two variables hold one object, and whether they are equal."""

    left: str
    right: str


@dataclass(frozen=True, slots=True)
class PrintCounts:
    """Print what a pool made and used again."""

    pool: str


Line = Step | Print | PrintSame | PrintCounts


@dataclass(frozen=True, slots=True)
class Scene:
    """One function of the program: its name in words joined by `_`, what it shows, its lines."""

    name: str
    title: str
    lines: tuple[Line, ...]


def scenes(plan: Plan) -> tuple[Scene, ...]:
    """The scenes of a plan: each way of making, then the products that none of them made."""
    director = _Director(plan)
    shown = [scene for making in plan.makings for scene in director.scene(making)]
    rest = director.the_rest()
    return (*shown, *([rest] if rest is not None else []))


class _Director:
    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._witnesses = Witnesses(plan, plain=True)
        self._shown: set[str] = set()

    def _value(self, product: Product, name: str) -> Value | None:
        first = self._witnesses.of(product.field(name))
        return self._witnesses.value(first) if first is not None else None

    def _given(self, product: Product) -> Arguments | None:
        """Declared-like values for what makes a product; None if it cannot be made."""
        arguments = self._witnesses.arguments(product)
        return None if arguments is None else self._values(arguments)

    def _values(self, arguments: Arguments) -> Arguments:
        values = {name: self._witnesses.value(operand) for name, operand in arguments.items()}
        return {name: value for name, value in values.items() if value is not None}

    def scene(self, making: Making) -> Iterator[Scene]:
        """The scene of one way of making, if there is something to show."""
        match making:
            case Factory():
                yield from self._factory(making)
            case Selection():
                yield self._selection(making)
            case Builder():
                yield self._builder(making)
            case Prototype():
                yield from self._prototype(making)
            case Pool():
                yield from self._pool(making)
            case Family():
                yield from self._family(making)

    def _factory(self, factory: Factory) -> Iterator[Scene]:
        base = self._plan.products[factory.product]
        given = self._values({f.name: v for f in base.required if (v := self._witnesses.of(f)) is not None})
        if len(given) < len(base.required):
            return
        registry = None
        lines: list[Line] = []
        if factory.form == "registry":
            registry = "registry"
            while registry in map(snake, base.variants):  # of each kind there is a variable
                registry = f"all_{registry}"
            lines.append(NewRegistry(registry, base.name))
        first_keys = {variant: key for key, variant in reversed(tuple(factory.kinds.items()))}
        for variant in base.variants:
            key = first_keys[variant]
            self._shown.add(variant)
            own = self._given(self._plan.products[variant]) if factory.needs_more else given
            if own is not None:
                ask = self._asking(factory, snake(variant), key, own, registry)
                lines += [ask, Print(key, snake(variant))]
        if factory.unknown == "error" and MISSPELT not in factory.kinds and not factory.needs_more:
            failure = UnknownKey(base.name, MISSPELT, factory.known)
            lines.append(Fails(self._asking(factory, UNKEPT, MISSPELT, given, registry), failure))
        yield Scene(f"{base.name}_kinds", f"{base.name}: one of each kind, by its key", tuple(lines))

    def _asking(self, factory: Factory, var: str, key: str, given: Arguments, registry: str | None) -> Ask:
        return replace(asking(self._plan, self._witnesses, factory, var, key, given), registry=registry)

    def _selection(self, selection: Selection) -> Scene:
        selecting = self._witnesses.selecting_of(selection)
        lines: list[Line] = []
        for refusal in selection.deciding.refusals:
            refused = selecting.refused(refusal.number)
            if refused is not None:
                failure = Refused(selection.product, refusal.reason)
                lines.append(Fails(Select(UNKEPT, selection.product, self._values(refused)), failure))
        for choice in selection.deciding.choices:
            given = selecting.making(choice.variant)
            if given is not None and choice.variant not in self._shown:
                self._shown.add(choice.variant)
                step = Select(snake(choice.variant), selection.product, self._values(given))
                lines += [step, Print("chosen", snake(choice.variant))]
        return Scene(f"{selection.product}_values", f"{selection.product}: chosen by values", tuple(lines))

    def _builder(self, builder: Builder) -> Scene:
        product = self._plan.products[builder.product]
        self._shown.add(product.name)
        given = self._given(product) or {}
        lines: list[Line] = [NewBuilder("builder", product.name)]
        needed = tuple(f.name for f in product.required)
        if needed and not builder.typed:
            lines.append(Fails(Build(UNKEPT, "builder"), Missing(product.name, needed)))
        lines += [BuilderSet("builder", name, value) for name, value in given.items()]
        lines += [Build("plain", "builder"), Print("built", "plain")]
        for preset in builder.presets:
            lines.append(NewBuilder("preset", product.name, preset.name))
            lines += [BuilderSet("preset", n, v) for n, v in given.items() if n not in preset.values]
            lines += [Build("started", "preset"), Print(f"from {preset.name}", "started")]
        steps = in_chains(self._plan, lines) if builder.typed else tuple(lines)
        return Scene(f"{product.name}_builder", f"{product.name}: built step by step", steps)

    def _prototype(self, prototype: Prototype) -> Iterator[Scene]:
        base = self._plan.products[prototype.product]
        concrete = next((p for p in self._plan.concrete(base) if self._given(p) is not None), None)
        first = (
            self._witnesses.value(next(self._witnesses.values(ProductType(base.name)))) if concrete else None
        )
        if concrete is None or first is None:
            return
        self._shown.add(concrete.name)
        lines: list[Line] = [Hold("original", ProductType(base.name), first), Clone("clone", "original")]
        lines += [Print("original", "original"), Print("clone", "clone"), PrintSame("original", "clone")]
        lines += self._change_inside(base, concrete)
        change = change_of(self._witnesses, base) if base.mutable else None
        if change is not None and (value := self._witnesses.value(change[1])) is not None:
            lines.append(Set(Path("clone", change[0]), value))
            lines += [Print("original", "original"), Print("clone, changed", "clone")]
        if prototype.exemplars:
            lines.append(NewExemplars("store", base.name))
        for exemplar in prototype.exemplars:
            lines += [ExemplarGet("exemplar", "store", exemplar.name), Print(exemplar.name, "exemplar")]
        yield Scene(f"{base.name}_clones", f"{base.name}: cloned, and the clone changed", tuple(lines))

    def _change_inside(self, base: Product, concrete: Product) -> list[Line]:
        """A change of what the clone owns, where a careless copy would change the original too."""
        given = self._witnesses.arguments(concrete) or {}
        for field in base.required:
            inner, depth = self._plan.product_in(field.type), depth_of(field.type)
            owned = inner is not None and inner.mutable and self._plan.changes_in_clone(field)
            change = change_of(self._witnesses, inner) if owned and inner is not None else None
            value = self._witnesses.value(change[1]) if change is not None else None
            if change is None or value is None or not has_inmost(given[field.name], depth):
                continue
            take = Take("inside", Path("clone", field.name, depth))
            changed = Set(Path("inside", change[0]), value)
            return [take, changed, Print("original", "original"), Print("clone, changed inside", "clone")]
        return []

    def _pool(self, pool: Pool) -> Iterator[Scene]:
        product = self._plan.products[pool.product]
        given = self._given(product)
        if given is None:
            return
        self._shown.add(product.name)
        beside = {name: value for name, value in given.items() if name not in pool.key}
        keys: Mapping[str, Value | None] = {name: self._value(product, name) for name in pool.key}
        key: Arguments = {name: value for name, value in keys.items() if value is not None}
        lines: tuple[Line, ...] = (
            NewPool("pool", product.name, beside if pool.needs_maker else None),
            PoolAsk("one", "pool", key),
            PoolAsk("other", "pool", key),
            Print("pooled", "one"),
            PrintSame("one", "other"),
            PrintCounts("pool"),
        )
        yield Scene(f"{product.name}_pool", f"{product.name}: made once, used again", lines)

    def _family(self, family: Family) -> Iterator[Scene]:
        lines: list[Line] = []
        for member in family.members:
            if not any(member.parts.values()):
                continue  # it makes nothing to be printed
            lines.append(FamilyOf("family", family.name, member.key))
            for role in family.roles:
                parts = member.parts[role.name]
                if role.several:
                    names = tuple(f"{role.name}_{number}" for number, _ in enumerate(parts, 1))
                    lines += [AskRoles("family", role.name, names)] if names else []
                    lines += [Print(f"{member.key}: {role.name}", name) for name in names]
                    continue
                product = self._plan.products[role.product]
                first = {f.name: v for f in product.required if (v := self._witnesses.of(f)) is not None}
                lines.append(AskRole(role.name, "family", role.name, self._values(first)))
                lines.append(Print(f"{member.key}: {role.name}", role.name))
        if lines:
            yield Scene(f"{family.name}_members", f"{family.name}: parts that fit together", tuple(lines))

    def the_rest(self) -> Scene | None:
        """The products that no other scene made."""
        lines: list[Line] = []
        for product in self._plan.products.values():
            given = self._given(product)
            if product.abstract or product.name in self._shown or given is None:
                continue
            if self._plan.selected_by(product) is None:
                lines += [
                    Make(snake(product.name), product.name, given),
                    Print("made", snake(product.name)),
                ]
        return (
            Scene("plain_products", "The other products, by their constructors", tuple(lines))
            if lines
            else None
        )
