"""The validator: what must hold of every plan, whoever made or changed it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.declaration.types import ChoiceType, ProductType, Type, parts
from urform.plan.model import Factory, Plan, Product
from urform.plan.script import Ask, Case, Claim, Hold, Make, NewRegistry, Path, Step, Var


class InvalidPlan(ValueError):
    """A plan that no target could make; a defect of Urform, not of a declaration."""


def validate(plan: Plan, claims: Sequence[Claim]) -> None:
    """Raise InvalidPlan with everything that is wrong."""
    found = [*_products(plan), *_makings(plan), *_claims(plan, claims)]
    if found:
        raise InvalidPlan("; ".join(found))


def _products(plan: Plan) -> Iterator[str]:
    for name, product in plan.products.items():
        if name != product.name:
            yield f"{product.name} stands under {name}"
        names = [field.name for field in product.fields]
        if len(set(names)) < len(names):
            yield f"{name} has a field twice"
        for field in product.fields:
            yield from (f"{name}.{field.name}: {said}" for said in _type(plan, field.type))
            if field.owner not in (name, product.base):
                yield f"{name}.{field.name} belongs to {field.owner}"
        yield from _hierarchy(plan, product)


def _hierarchy(plan: Plan, product: Product) -> Iterator[str]:
    if product.base is not None and product.name not in plan.products[product.base].variants:
        yield f"{product.base} does not know its variant {product.name}"
    for variant in product.variants:
        if variant not in plan.products or plan.products[variant].base != product.name:
            yield f"{variant} is no variant of {product.name}"
    if product.single and product.fields:
        yield f"{product.name} is single and has fields"


def _type(plan: Plan, type_: Type) -> Iterator[str]:
    for part in parts(type_):
        if isinstance(part, ProductType) and part.name not in plan.products:
            yield f"no product {part.name}"
        if isinstance(part, ChoiceType) and part.name not in plan.choices:
            yield f"no choice {part.name}"


def _makings(plan: Plan) -> Iterator[str]:
    for making in plan.makings:
        if isinstance(making, Factory):
            variants = plan.products[making.product].variants
            yield from (
                f"the factory of {making.product} makes {v}"
                for v in making.kinds.values()
                if v not in variants
            )
            if making.unknown not in ("error", "nothing", *variants):
                yield f"the factory of {making.product} falls back on {making.unknown}"


def _claims(plan: Plan, claims: Sequence[Claim]) -> Iterator[str]:
    seen: set[str] = set()
    for claim in claims:
        if claim.id in seen:
            yield f"two claims are called {claim.id}"
        seen.add(claim.id)
        if not any(case.main for case in claim.cases):
            yield f"{claim.id} shows nothing"
        for case in claim.cases:
            yield from (f"{claim.id}: {said}" for said in _case(plan, case))


def _case(plan: Plan, case: Case) -> Iterator[str]:
    made: set[str] = set()
    for step in case.steps:
        for var in _used(step):
            if var not in made:
                yield f"{var} is used before it is made"
        if isinstance(step, (Make, Ask, Hold, NewRegistry)):
            made.add(step.var)


def _used(step: Step) -> Iterator[str]:
    for name in ("left", "right", "registry"):
        var = getattr(step, name, None)
        if isinstance(var, str):
            yield var
    path = getattr(step, "path", None)
    if isinstance(path, Path):
        yield path.var
    for operand in dict(getattr(step, "arguments", None) or {}).values() if not _listed(step) else ():
        if isinstance(operand, Var):
            yield operand.name


def _listed(step: Step) -> bool:
    return isinstance(getattr(step, "arguments", None), tuple)
