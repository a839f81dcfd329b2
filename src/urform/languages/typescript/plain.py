"""What is plainly in order is seen where it stands, which is faster than a call; the checks look at the rest.

Of what is plainly in order nothing has to be changed: a zero may be -0, so it is left to the check.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from urform.declaration.types import INTEGER, REAL, TEXT, Type
from urform.plan.model import Bound, Field

OF_TYPE: dict[Type, str] = {
    INTEGER: "Number.isSafeInteger({})",
    REAL: "Number.isFinite({})",
    TEXT: 'typeof {} === "string"',
}
SIGNS = {"min": ">=", "max": "<=", "above": ">", "below": "<"}
HANDLED = {*SIGNS, "finite", "not_blank", "max_length"}


def plainly(field: Field, value: str, bound: Callable[[Bound], str]) -> str:
    """The condition under which a value of a field needs no check; empty where a call is as good."""
    if {limit.name for limit in field.limits} - HANDLED or field.type not in OF_TYPE:
        return ""
    if field.type == TEXT and not field.limits:
        return ""
    return " && ".join(_conditions(field, value, bound))


def _conditions(field: Field, value: str, bound: Callable[[Bound], str]) -> Iterator[str]:
    yield OF_TYPE[field.type].format(value)
    if field.type == REAL and _reaches_zero(field):
        yield f"{value} !== 0"
    for limit in field.limits:
        if limit.name in SIGNS:
            sign = (
                SIGNS[limit.name].rstrip("=")
                if field.type == REAL and limit.bound == 0
                else SIGNS[limit.name]
            )
            yield f"{value} {sign} {bound(limit.bound)}"
        elif limit.name == "not_blank":
            yield f"!isBlank({value})"
        elif limit.name == "max_length":  # a text of so few units has no more code points
            yield f"{value}.length <= {bound(limit.bound)}"


def _reaches_zero(field: Field) -> bool:
    """Whether zero lies within the limits, and is none of them."""
    bounds = {limit.name: limit.bound for limit in field.limits if isinstance(limit.bound, (int, float))}
    lowest = [bound for name, bound in bounds.items() if name in ("min", "above")]
    highest = [bound for name, bound in bounds.items() if name in ("max", "below")]
    return all(bound < 0 for bound in lowest) and all(bound > 0 for bound in highest)
