"""Faults: one mistake at a time in a plan, for each claim whose test ought to notice it.

A fault knows nothing of languages. It is a plan like any other, with one thing changed: a bound, a default, the variant of
a key, or a flaw (see `flaws.py`). Each pattern derives the faults of its own claims.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from urform.dataclasses import dataclass
from urform.declaration.types import ProductType
from urform.plan.flaws import NEEDED, flawed, in_words
from urform.plan.model import Factory, Family, Field, Making, Product, Selection
from urform.plan.script import Claim
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Fault:
    """A plan that breaks a claim, and how, in words. `name` is unique among the faults of the claim.

    `same` says why nobody could tell what it makes from what is right, where that is so; `to_tell` are capabilities
    without which a language makes no difference.
    """

    claim: Claim
    name: str
    text: str
    plan: Plan
    same: str = ""
    to_tell: frozenset[str] = frozenset()

    @property
    def id(self) -> str:
        """`<claim id>~<name>`."""
        return f"{self.claim.id}~{self.name}"

    @property
    def needs(self) -> frozenset[str]:
        """The capabilities without which a language cannot make the mistake, or its tests cannot notice it."""
        return self.to_tell | {NEEDED[flaw.name] for flaw in self.plan.flaws if flaw.name in NEEDED}


def only_one(plan: Plan, field: Field) -> str:
    """Why one value of a field cannot be told from another: it is that of a product of which there is one. Else empty."""
    product = plan.product_in(field.type)
    is_single = product is not None and product.single and isinstance(field.type, ProductType)
    return f"there is one {field.type} only" if is_single else ""


def flaw_fault(plan: Plan, claim: Claim, name: str, owner: str, member: str = "", aspect: str = "") -> Fault:
    """The fault of one flaw."""
    changed = flawed(plan, name, owner, member, aspect)
    about = [part for part, usual in ((owner, claim.owner), (member, claim.member)) if part and part != usual]
    return Fault(claim, "-".join([name, *about]), in_words(changed.flaws[-1]), changed)


def with_product(plan: Plan, product: Product) -> Plan:
    """The plan with another product of the same name."""
    return replace(plan, products={**plan.products, product.name: product})


def with_field(plan: Plan, product: str, name: str, change: Callable[[Field], Field]) -> Plan:
    """The plan with a changed field: in a product, and in the variants that inherit it as it is."""
    before = plan.products[product].field(name)
    heirs = [v for v in plan.products[product].variants if plan.products[v].field(name) == before]
    for each in (product, *heirs):
        owner = plan.products[each]
        fields = tuple(change(f) if f.name == name else f for f in owner.fields)
        plan = with_product(plan, replace(owner, fields=fields))
    return plan


def with_making(plan: Plan, before: Making, after: Making) -> Plan:
    """The plan with another way of making in the place of one."""
    return replace(plan, makings=tuple(after if making is before else making for making in plan.makings))


def factory_of(plan: Plan, owner: str) -> Factory:
    """The factory by key that a claim is about."""
    factory = plan.factory_of(owner)
    assert factory is not None, f"{owner} has claims of a factory, but none"
    return factory


def selection_of(plan: Plan, owner: str) -> Selection:
    """The factory by values that a claim is about."""
    selection = plan.selection_of(owner)
    assert selection is not None, f"{owner} has claims of a factory by values, but none"
    return selection


def family_of(plan: Plan, owner: str) -> Family:
    """The family that a claim is about."""
    return next(family for family in plan.families if family.name == owner)
