"""The second stage: a language-neutral plan of what is made, and every claim about it."""

from __future__ import annotations

import sys
from collections.abc import Iterator, Sequence
from heapq import merge
from types import ModuleType
from typing import TYPE_CHECKING

from urform.declaration.model import Declaration
from urform.plan.whole import Plan

if TYPE_CHECKING:
    from urform.plan.fault import Fault
    from urform.plan.script import Claim

# What plans are made with is imported by those who make one: a command that only reads starts without it.

__all__ = ["Plan", "build", "claims_by_owner", "claims_of", "faults_of"]


def build(declaration: Declaration) -> Plan:
    """The plan of a declaration without problems."""
    from urform.plan.builder import build as built

    return built(declaration)


def claims_of(plan: Plan) -> tuple[Claim, ...]:
    """Every claim of a plan: owner by owner in declaration order, groups in the order of the patterns."""
    return tuple(claims_by_owner(plan))


def claims_by_owner(plan: Plan) -> Iterator[Claim]:
    """The same one after the other, for plans whose claims need not be there all at once."""
    from urform.plan.chaining import chained
    from urform.plan.patterns import patterns
    from urform.plan.possible import possible
    from urform.plan.witnesses import Witnesses

    witnesses = Witnesses(plan)
    owners = [*plan.choices, *plan.products, *(family.name for family in plan.families)]
    order = {name: number for number, name in enumerate(owners)}
    # Each pattern goes through the owners in their order, so its claims can be taken as they are wanted.
    of_patterns = (pattern.claims(plan, witnesses) for pattern in patterns())
    ordered = merge(*of_patterns, key=lambda claim: order[claim.owner])
    return chained(plan, possible(plan, witnesses, ordered))


def faults_of(plan: Plan, claims: Sequence[Claim]) -> Iterator[Fault]:
    """Every fault that the tests of these claims ought to notice, claim by claim."""
    from urform.plan.patterns import patterns
    from urform.plan.witnesses import Witnesses

    witnesses = Witnesses(plan)
    derive = {group: faults for pattern in patterns() for group, faults in pattern.faults.items()}
    for claim in claims:
        yield from derive[claim.group](plan, witnesses, claim)


class _CallablePlan(ModuleType):
    """Lets `urform.plan(declaration)` stand beside the package `urform.plan`, as the Python API promises."""

    def __call__(self, declaration: Declaration) -> Plan:
        return build(declaration)


sys.modules[__name__].__class__ = _CallablePlan
