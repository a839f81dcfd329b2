"""Collections of a given size."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice
from typing import Protocol

from urform.declaration.ranges import is_unique
from urform.declaration.types import Collection, MapOf, SetOf, Type
from urform.plan.model import Field
from urform.plan.operands import Keyed, Operand, Several
from urform.plan.scalars import Limits, as_declared


class Supply(Protocol):
    """Gives different values of any type, as `Witnesses` does."""

    def values(self, type_: Type, limits: Limits = (), each: Limits = ()) -> Iterator[Operand]:
        """Values within limits, `each` those of the elements; none are left when it runs out."""
        ...

    def sets_of(self, type_: Type, each: Limits, size: int) -> list[Operand]:
        """As many different elements of a set as there are, up to the size."""
        ...


def sized(supply: Supply, field: Field, size: int) -> Operand | None:
    """A collection of just that many elements, None if there is none."""
    type_ = field.type
    if size < 0 or not isinstance(type_, Collection):
        return None
    if isinstance(type_, MapOf):
        keys = supply.sets_of(type_.key, (), size)
        value = next(supply.values(type_.element, field.each), None)
        if len(keys) < size or (size and value is None):
            return None
        return Keyed(type_, tuple((key, value) for key in keys))  # type: ignore[misc]
    if isinstance(type_, SetOf):
        elements = supply.sets_of(type_.element, field.each, size)
        return Several(type_, tuple(elements)) if len(elements) == size else None
    if is_unique(as_declared(field.limits)):
        items = tuple(islice(supply.values(type_.element, field.each), size))
        return Several(type_, items) if len(items) == size else None
    element = next(supply.values(type_.element, field.each), None)
    if size and element is None:
        return None
    return Several(type_, (element,) * size if element is not None else ())
