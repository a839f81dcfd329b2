"""What is plainly in order is seen where it stands: a value of exactly the declared type, within its limits.

A call costs more than these questions. Whatever is not plainly in order goes to the functions of `checks`, which accept it
(a subclass, a whole number for a real one, a zero that may be -0.0) or refuse it with the reason.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from urform.declaration.types import (
    BOOLEAN,
    DATE,
    INSTANT,
    INTEGER,
    REAL,
    TEXT,
    TIME,
    TOLD,
    UUID,
    ChoiceType,
    ListOf,
    ProductType,
    Type,
)
from urform.languages.rendering.text_patterns import TextPatterns, forms_of
from urform.plan.model import Limit
from urform.plan.whole import Plan

EXACT: dict[Type, str] = {
    TEXT: "str",
    INTEGER: "int",
    REAL: "float",
    BOOLEAN: "bool",
    DATE: "datetime.date",
    TIME: "datetime.time",
    INSTANT: "datetime.datetime",
    UUID: "UUID",
}
LOWER = {"min": "<=", "min_length": "<=", "above": "<"}
UPPER = {"max": "<=", "max_length": "<=", "below": "<"}


class Plain:
    """The conditions of one plan; `named` and `bound` spell a type and the bound of a limit."""

    def __init__(
        self,
        plan: Plan,
        named: Callable[[str], str],
        bound: Callable[[Limit], str],
        patterns: TextPatterns,
    ) -> None:
        self._plan = plan
        self._named = named
        self._bound = bound
        self._patterns = patterns

    def conditions(self, type_: Type, value: str, limits: Sequence[Limit]) -> tuple[str, ...]:
        """What holds of a value that is plainly in order; none where a check always looks."""
        match type_:
            case ProductType(name) if self._plan.product(name).abstract:
                return (f"isinstance({value}, {self._named(name)})",)
            case ChoiceType(name) | ProductType(name):
                return (f"type({value}) is {self._named(name)}",)
            case ListOf() if all(limit.name != "min_length" or limit.unless_empty for limit in limits):
                return (
                    f"type({value}) is tuple",
                    f"not {value}",
                )  # what most defaults are: nothing to look at
        if type_ not in EXACT or any(limit.name == "one_of" for limit in limits):
            return ()
        return (f"type({value}) is {EXACT[type_]}", *self._within(type_, value, limits))

    def _within(self, type_: Type, value: str, limits: Sequence[Limit]) -> Iterator[str]:
        if type_ == INSTANT:
            yield f"{value}.tzinfo is datetime.UTC"
        if type_ == TIME:
            yield f"{value}.tzinfo is None"
        if any(limit.name == "not_blank" for limit in limits):
            yield f"{value}.strip(BLANKS)"
        ends = [(each, self._bound(each)) for each in limits]
        lower = [(LOWER[each.name], bound) for each, bound in ends if each.name in LOWER]
        upper = [(UPPER[each.name], bound) for each, bound in ends if each.name in UPPER]
        if type_ in TOLD:  # each by itself: a call in a chain of comparisons is laid out badly
            yield from _between(value, lower, [])
            yield from _between(value, [], upper)
        elif type_ == REAL:
            yield from _in_reach(value, limits, lower, upper)
        else:
            yield from _between(f"len({value})" if type_ == TEXT else value, lower, upper)
        for limit in forms_of(limits):
            yield f"{self._patterns.of(limit)}.accepts({value})"


End = tuple[str, str]  # a sign of comparison and a bound


def _in_reach(value: str, limits: Sequence[Limit], lower: list[End], upper: list[End]) -> Iterator[str]:
    """Of a real number: finite, and no zero, for that may be -0.0."""
    at_zero = [limit.name for limit in limits if limit.bound == 0]
    if any(name in LOWER or name in UPPER for name in at_zero):  # zero is an end, and left out as one
        lower = [("<", bound) if float(bound) == 0 else (sign, bound) for sign, bound in lower]
        upper = [("<", bound) if float(bound) == 0 else (sign, bound) for sign, bound in upper]
    elif all(float(bound) < 0 for _, bound in lower) and all(float(bound) > 0 for _, bound in upper):
        yield f"{value} != 0.0"
    yield from _between(value, lower or [("<", "-INF")], upper or [("<", "INF")])


def _between(value: str, lower: list[End], upper: list[End]) -> Iterator[str]:
    """One comparison with both ends where there are both."""
    if lower and upper:
        (above, least), (below, most) = lower.pop(), upper.pop()
        yield f"{least} {above} {value} {below} {most}"
    yield from (f"{value} {sign.replace('<', '>')} {least}" for sign, least in lower)
    yield from (f"{value} {sign} {most}" for sign, most in upper)
