"""Declared fields and values in the form that a plan holds."""

from __future__ import annotations

from urform.declaration.limits import NUMERIC, pattern_of
from urform.declaration.model import Declaration
from urform.declaration.model import Field as DeclaredField
from urform.declaration.model import Limit as DeclaredLimit
from urform.declaration.ownership import copy_of
from urform.declaration.selection import may_be_absent
from urform.declaration.told import Told
from urform.declaration.types import REAL, TOLD, ChoiceType, Collection, Type, innermost
from urform.declaration.values import Value
from urform.plan.model import Field, Limit
from urform.plan.paragraphs import paragraph


def plan_field(declaration: Declaration, owner: str, field: DeclaredField, default: Value | None) -> Field:
    """A declared field as one product has it; `default` is the product's own."""
    element = innermost(field.type)
    collection = isinstance(field.type, Collection)
    return Field(
        name=field.name,
        owner=owner,
        type=field.type,
        required=field.required,
        default=default,
        limits=(
            *(() if collection else _always(element)),
            *(_limit(limit, field.type) for limit in field.limits if not _holds_anyway(limit)),
        ),
        each=(*(_always(element) if collection else ()), *(_limit(limit, element) for limit in field.each)),
        copy=copy_of(declaration, field),
        secret=field.secret is not None,
        called=field.called.name if field.called is not None else field.name,
        item=field.item,
        doc=paragraph(field.doc),
        may_be_absent=may_be_absent(field.required, field.default is not None, field.type),
    )


def _always(type_: Type) -> tuple[Limit, ...]:
    """The limits that need no declaring."""
    if type_ == REAL:
        return (Limit("finite"),)
    if type_ in TOLD:
        return (Limit(str(type_)),)
    return (Limit("choice"),) if isinstance(type_, ChoiceType) else ()


def _holds_anyway(limit: DeclaredLimit) -> bool:
    """Whether a limit refuses nothing: a collection that is not empty has one element."""
    return limit.unless_empty and isinstance(limit.bound, int) and limit.bound <= 1


def _limit(limit: DeclaredLimit, type_: Type) -> Limit:
    """A bound of a real is one itself; a length is not."""
    if type_ == REAL and limit.name in NUMERIC and not isinstance(limit.bound, (tuple, str, Told)):
        return Limit(limit.name, float(limit.bound) + 0.0)
    return Limit(limit.name, limit.bound, pattern_of(limit.name, limit.bound), limit.unless_empty)
