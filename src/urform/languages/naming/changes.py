"""What the methods are called that change one element of what a mutable product holds."""

from __future__ import annotations

from collections.abc import Callable

from urform.languages.naming.names import unique
from urform.plan.model import Change, Product
from urform.plan.whole import Plan


def change_name(plan: Plan, product: Product, change: Change, spell: Callable[[str], str]) -> str:
    """`add_leg` in the spelling of a language; with an underscore where the declaration has a member of that name."""
    return unique(spell(change.name), frozenset(map(spell, _members(plan, product))), "_")


def _members(plan: Plan, product: Product) -> frozenset[str]:
    """The fields and operations of a product, of its base and of all kinds of that."""
    base = plan.product(product.base) if product.base is not None else product
    kin = (base, *(plan.product(name) for name in base.variants))
    return frozenset(
        member.name for each in kin for members in (each.fields, each.operations) for member in members
    )
