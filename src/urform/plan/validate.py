"""The validator: what must hold of every plan, whoever made or changed it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.declaration.types import ChoiceType, ProductType, Type, parts
from urform.plan.model import Builder, Factory, Family, Pool, Product, Selection
from urform.plan.script import Case, Claim
from urform.plan.variables import made_by, used_by
from urform.plan.whole import Plan


class InvalidPlan(ValueError):
    """A plan that no target could make; a defect of Urform, not of a declaration."""


def validate(plan: Plan, claims: Sequence[Claim]) -> None:
    """Raise InvalidPlan with everything that is wrong."""
    mistakes = [*_products(plan), *_makings(plan), *_claims(plan, claims)]
    if mistakes:
        raise InvalidPlan("; ".join(mistakes))


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
        if isinstance(making, Family):
            yield from _family(plan, making)
            continue
        product = plan.products[making.product]
        fields = {field.name for field in product.fields}
        match making:
            case Factory(kinds=kinds, unknown=unknown):
                yield from (
                    f"the factory of {product.name} makes {v}"
                    for v in kinds.values()
                    if v not in product.variants
                )
                if unknown not in ("error", "nothing", *product.variants):
                    yield f"the factory of {product.name} falls back on {unknown}"
            case Selection(deciding=deciding):
                chosen = [choice.variant for choice in deciding.choices]
                yield from (
                    f"the factory of {product.name} makes {v}" for v in chosen if v not in product.variants
                )
                if not chosen or deciding.choices[-1].when is not None:
                    yield f"the factory of {product.name} may choose nothing"
            case Builder(presets=presets, typed=typed, fluent=fluent):
                if typed and not (fluent and product.required):
                    yield f"the builder of {product.name} has no type that could tell what was given"
                given = {name for preset in presets for name in preset.values}
                yield from (f"a preset of {product.name} gives {name}" for name in sorted(given - fields))
            case Pool(key=key):
                yield from (
                    f"the pool of {product.name} has the key field {n}" for n in key if n not in fields
                )
                if product.mutable:
                    yield f"the pool of {product.name} shares what can change"


def _family(plan: Plan, family: Family) -> Iterator[str]:
    roles = {role.name: role for role in family.roles}
    for member in (*family.members, *([family.stand_in] if family.stand_in else [])):
        if set(member.parts) != set(roles):
            yield f"{member.name} of {family.name} makes {sorted(member.parts)}"
        for name, made_parts in member.parts.items():
            if name in roles and not roles[name].several and len(made_parts) != 1:
                yield f"{member.name} of {family.name} makes {len(made_parts)} products for {name}"
            for part in made_parts:
                product = plan.product(part.product)
                if name in roles and roles[name].product not in (product.name, product.base):
                    yield f"{part.product} of {member.name} does not fit {name}"


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
    known: set[str] = set()
    for step in case.steps:
        for var in used_by(step):
            if var not in known:
                yield f"{var} is used before it is made"
        known.update(made_by(step))
