"""Single: one instance only."""

from __future__ import annotations

from collections.abc import Iterator

from urform.plan.model import Plan
from urform.plan.patterns import Pattern
from urform.plan.script import Claim, OneInstance, case
from urform.plan.witnesses import Witnesses

THREADS = 8


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`single` of every single product."""
    for product in plan.products.values():
        if product.single:
            text = f"there is one {product.name}, whoever asks"
            yield Claim("single", product.name, text, (case(OneInstance(product.name, THREADS)),))


PATTERN = Pattern("single", 50, claims)
