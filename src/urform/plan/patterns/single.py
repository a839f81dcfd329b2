"""Single: one instance only."""

from __future__ import annotations

from collections.abc import Iterator

from urform.plan.fault import Fault, flaw_fault
from urform.plan.patterns import Pattern
from urform.plan.script import Claim, case
from urform.plan.steps import OneInstance
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses

THREADS = 8


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`single` of every single product."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if product.single and arguments is not None:
            text = f"every request returns the same {product.name}"
            one = OneInstance(product.name, THREADS, arguments)
            yield Claim("single", product.name, text, (case(one),))


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    yield flaw_fault(plan, claim, "single-again", claim.owner)


PATTERN = Pattern("single", 50, claims, faults={"single": _faults})
