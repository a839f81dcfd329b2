"""Factories by values: what their conditions decide for values that are given."""

from __future__ import annotations

from collections.abc import Mapping

from urform.dataclasses import dataclass
from urform.declaration import conditions
from urform.declaration.decisions import Constant, Decision, decision
from urform.declaration.evaluation import Asked, Plain, Seen, evaluation, plain
from urform.declaration.model import Declaration, Field, Product, WrittenCondition
from urform.declaration.problems import Problems
from urform.declaration.types import Collection, ListOf, MapOf, SetOf, Type
from urform.declaration.values import Entries, Items, Value


@dataclass(frozen=True, slots=True)
class Refusal:
    """Values for which there is no product; `number` is its place in the declaration, from 1."""

    number: int
    when: Decision
    reason: str


Outcome = Refusal | str  # or the name of a variant


@dataclass(frozen=True, slots=True)
class Choosing:
    """The variant that is made where the condition holds; the last one has none."""

    variant: str
    when: Decision | None


@dataclass(frozen=True, slots=True)
class Deciding:
    """The conditions of one factory, in their order."""

    refusals: tuple[Refusal, ...]
    choices: tuple[Choosing, ...]

    @property
    def decisions(self) -> tuple[Decision, ...]:
        """Every condition."""
        chosen = (choice.when for choice in self.choices if choice.when is not None)
        return (*(refusal.when for refusal in self.refusals), *chosen)

    def decide(self, values: Mapping[str, Value | Plain]) -> Outcome:
        """The refusal that comes first, or the name of the variant. `values` has an entry per parameter."""
        return self.outcomes().first({name: plain(value) for name, value in values.items()})

    def outcomes(self) -> Outcomes:
        """The same for those who ask often."""
        refusals = [(refusal, evaluation(refusal.when).ask) for refusal in self.refusals]
        otherwise = Constant(True)
        chosen = [(choice.variant, evaluation(choice.when or otherwise).ask) for choice in self.choices]
        return Outcomes((*refusals, *chosen))


@dataclass(frozen=True, slots=True)
class Outcomes:
    """The possible outcomes of a factory, in the order in which it decides."""

    each: tuple[tuple[Outcome, Asked], ...]

    def first(self, seen: Seen) -> Outcome:
        """The first one whose condition holds. `seen` has an entry per parameter."""
        for outcome, holds in self.each:
            if holds(seen):
                return outcome
        raise ValueError("the last choice has a condition")


def deciding(declaration: Declaration, product: Product) -> Deciding:
    """The conditions of a `by_values` factory that has passed its checks."""
    assert product.factory is not None
    types = {field.name: field.type for field in parameters(declaration, product)}
    return Deciding(
        tuple(
            Refusal(number, _decision(refusal.when, types), refusal.reason)
            for number, refusal in enumerate(product.factory.refuse, 1)
        ),
        tuple(
            Choosing(entry.use.name, _decision(entry.when, types) if entry.when is not None else None)
            for entry in product.factory.choose
        ),
    )


def _decision(written: WrittenCondition, types: Mapping[str, Type]) -> Decision:
    parsed = conditions.parse(written, Problems())
    assert parsed is not None, "a condition that was read before"
    return decision(parsed, types)


def parameters(declaration: Declaration, product: Product) -> tuple[Field, ...]:
    """The parameters of a `by_values` factory: the fields of the variants used, required if any requires them."""
    assert product.factory is not None
    used = [
        product.variants[entry.use.name]
        for entry in product.factory.choose
        if entry.use.name in product.variants
    ]
    union: dict[str, Field] = {}
    for variant in used:
        for own in declaration.all_fields(variant):
            if own.name not in union or (own.required and not union[own.name].required):
                union[own.name] = own
    return tuple(sorted(union.values(), key=lambda field: not field.required))


def empty(type_: Type) -> Value | None:
    """The value of an optional field without a default: a collection is empty, anything else absent."""
    if isinstance(type_, MapOf):
        return Entries(type_, ())
    return Items(type_, ()) if isinstance(type_, (ListOf, SetOf)) else None


def may_be_absent(required: bool, has_default: bool, type_: Type) -> bool:
    """Whether a field may hold nothing at all."""
    return not required and not has_default and not isinstance(type_, Collection)
