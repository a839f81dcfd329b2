"""Circles of names, and the products whose required fields lead to them again."""

from __future__ import annotations

from collections.abc import Mapping, Sequence, Set
from dataclasses import replace

from urform.dataclasses import dataclass
from urform.declaration.types import Collection, ProductType, Type, innermost
from urform.plan.model import Field, Product
from urform.plan.whole import Plan


def components(uses: Mapping[str, Sequence[str]]) -> dict[str, int]:
    """The circle that each name is part of, as a number; who is part of none has one alone.

    `uses` has every name. What a name uses has a lower number, or the same. Tarjan's algorithm for strongly connected
    components, without recursion.
    """
    index: dict[str, int] = {}
    low: dict[str, int] = {}
    component: dict[str, int] = {}
    circles = 0
    stack: list[str] = []
    for start in uses:
        if start in index:
            continue
        work = [(start, iter(uses[start]))]
        index[start] = low[start] = len(index)
        stack.append(start)
        while work:
            name, rest = work[-1]
            neighbour = next(rest, None)
            if neighbour is None:
                work.pop()
                if work:
                    low[work[-1][0]] = min(low[work[-1][0]], low[name])
                if low[name] == index[name]:
                    while True:
                        top = stack.pop()
                        component[top] = circles
                        if top == name:
                            break
                    circles += 1
            elif neighbour not in index:
                index[neighbour] = low[neighbour] = len(index)
                stack.append(neighbour)
                work.append((neighbour, iter(uses[neighbour])))
            elif neighbour not in component:
                low[name] = min(low[name], index[neighbour])
    return component


@dataclass(frozen=True, slots=True)
class Circles:
    """How products lead to each other by what is required to make them.

    `ranks` says how deep the shallowest instance of a product is: what it is made of has lower ones, so that who
    follows them comes to an end. A product without an instance that ends has none.
    """

    plan: Plan
    numbers: Mapping[str, int]
    ranks: Mapping[str, int]

    def leads_back(self, product: Product, type_: Type) -> bool:
        """Whether what a required field of a product holds may require such a product again."""
        inner = innermost(type_)
        return isinstance(inner, ProductType) and self.numbers[inner.name] == self.numbers[product.name]

    def shallowest(self, name: str) -> str | None:
        """The concrete product that stands for one and has the shallowest instance."""
        concrete = self.plan.concrete(self.plan.products[name])
        known = [p.name for p in concrete if p.name in self.ranks]
        return min(known, key=lambda each: self.ranks[each], default=None)

    def without(self, never: Set[str]) -> Circles:
        """The same circles where some products turn out never to be made, which no type tells: they have no rank."""
        return replace(self, ranks=_ranks(self.plan, never))

    def outward(self) -> list[Product]:
        """The concrete products, each after those that it requires, as far as that can be."""
        concrete = (p for p in self.plan.products.values() if not p.abstract)
        return sorted(concrete, key=lambda product: self.numbers[product.name])


def circles_of(plan: Plan) -> Circles:
    """The circles of a plan."""
    uses = {p.name: [*p.variants, *_required(p)] for p in plan.products.values()}
    return Circles(plan, components(uses), _ranks(plan, frozenset()))


def _required(product: Product) -> list[str]:
    inner = (innermost(field.type) for field in product.required)
    return [type_.name for type_ in inner if isinstance(type_, ProductType)]


def _ranks(plan: Plan, never: Set[str]) -> dict[str, int]:
    """Round after round, the products that can be made of those of the rounds before."""
    ranks: dict[str, int] = {}
    waiting = [p for p in plan.products.values() if not p.abstract and p.name not in never]
    for rank in range(len(waiting)):
        ready = [p for p in waiting if all(_can_be_had(plan, f, ranks) for f in p.required)]
        if not ready:
            break
        ranks |= {product.name: rank for product in ready}
        waiting = [product for product in waiting if product.name not in ranks]
    return ranks


def _can_be_had(plan: Plan, field: Field, ranks: Mapping[str, int]) -> bool:
    """Whether some value of a field needs only products that have a rank."""
    type_: Type = field.type
    least = next((limit.bound for limit in field.limits if limit.name == "min_length"), 0)
    if isinstance(type_, Collection) and not least:
        return True
    inner = innermost(type_)
    return not isinstance(inner, ProductType) or any(
        product.name in ranks for product in plan.concrete(plan.products[inner.name])
    )
