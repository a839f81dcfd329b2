"""The patterns: one file each, with what it makes, what it claims and, one day, its faults.

They are found, not listed: a module here that defines `PATTERN` takes part.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache

from urform.declaration.model import Declaration
from urform.plan.model import Making, Plan
from urform.plan.script import Claim
from urform.plan.witnesses import Witnesses


def nothing_made(declaration: Declaration, plan: Plan) -> Iterator[Making]:
    """For patterns that only claim."""
    return iter(())


@dataclass(frozen=True, slots=True)
class Pattern:
    """What a pattern adds to a plan. `covers` names the parts of a declaration that it generates:
    `factory simple`, `builder`, `prototype`, `flyweight`, `family` …"""

    name: str
    rank: int  # claims are told in this order
    claims: Callable[[Plan, Witnesses], Iterator[Claim]]
    makes: Callable[[Declaration, Plan], Iterator[Making]] = (
        nothing_made  # `plan` holds what earlier ones made
    )
    covers: frozenset[str] = frozenset()


@cache
def patterns() -> tuple[Pattern, ...]:
    """All patterns, in the order in which their claims are told."""
    modules = [
        importlib.import_module(f"{__name__}.{found.name}") for found in pkgutil.iter_modules(__path__)
    ]
    found = [module.PATTERN for module in modules if hasattr(module, "PATTERN")]
    return tuple(sorted(found, key=lambda pattern: pattern.rank))
