"""The patterns: one file each, with what it makes, what it claims, and the faults that break its claims.

They are found, not listed: a module here that defines `PATTERN` takes part.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable, Iterator, Mapping
from dataclasses import field
from functools import cache

from urform.dataclasses import dataclass
from urform.declaration.model import Declaration
from urform.plan.fault import Fault
from urform.plan.model import Making
from urform.plan.script import Claim
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


def nothing_made(declaration: Declaration, plan: Plan) -> Iterator[Making]:
    """For patterns that only claim."""
    return iter(())


FaultsOf = Callable[[Plan, Witnesses, Claim], Iterator[Fault]]


@dataclass(frozen=True, slots=True)
class Pattern:
    """A pattern: its part of a plan, its claims and its faults. `claims` go through the owners in the order of the plan.

    `covers` names the parts of a declaration that it generates:
    `factory simple`, `builder`, `prototype`, `flyweight`, `family` …; `faults` are derived for each group of claims."""

    name: str
    rank: int  # claims are told in this order
    claims: Callable[[Plan, Witnesses], Iterator[Claim]]
    makes: Callable[[Declaration, Plan], Iterator[Making]] = (
        nothing_made  # `plan` holds what earlier ones made
    )
    covers: frozenset[str] = frozenset()
    faults: Mapping[str, FaultsOf] = field(default_factory=dict)


@cache
def patterns() -> tuple[Pattern, ...]:
    """All patterns, in the order in which their claims are told."""
    modules = [
        importlib.import_module(f"{__name__}.{module.name}") for module in pkgutil.iter_modules(__path__)
    ]
    unordered = [module.PATTERN for module in modules if hasattr(module, "PATTERN")]
    return tuple(sorted(unordered, key=lambda pattern: pattern.rank))
