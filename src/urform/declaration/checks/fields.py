"""Fields: limits that fit their type and leave a value, defaults within them, and who owns what."""

from __future__ import annotations

import math

from urform.declaration.catalogue import fields as catalogue
from urform.declaration.catalogue.values import INTEGER_RANGE
from urform.declaration.limits import LENGTHS, goes_with
from urform.declaration.model import LIMIT_NAMES, Declaration, Field, Limit, Product
from urform.declaration.ownership import always_shared, can_be_made, copy_of, product_in
from urform.declaration.problems import Problems
from urform.declaration.ranges import LARGEST_INTEGER, count_of_values
from urform.declaration.told import Told
from urform.declaration.types import INTEGER, TEXT, UNKNOWN, Collection, ProductType, Type, innermost
from urform.declaration.value_reader import ValueReader
from urform.prose import listing, with_article


def check(declaration: Declaration, problems: Problems) -> None:
    """Note what is wrong with the fields of every product."""
    values = ValueReader(declaration, problems)
    constructible = can_be_made(declaration)
    for product in declaration.products.values():
        for field in product.fields.values():
            if field.type == UNKNOWN:
                continue
            _limits(declaration, field, problems)
            _default(field, values, problems)
            _item(field, problems)
            _copy(declaration, product, field, problems)
            if field.secret is not None and innermost(field.type) not in (TEXT, UNKNOWN):
                problems.add(catalogue.SECRET_OF_NO_TEXT, field.secret, field=field.name, type=field.type)
        _endless(product, constructible, problems)


def _limits(declaration: Declaration, field: Field, problems: Problems) -> None:
    before = problems.count
    for limit in field.limits:
        _limit(limit, field.type, problems)
    if field.each:
        if isinstance(field.type, Collection):
            for limit in field.each:
                _limit(limit, field.type.element, problems)
        else:
            problems.add(catalogue.MISPLACED_LIMIT, field.each[0].place, limit="each", type=field.type)
    if problems.count > before:
        return
    if count_of_values(declaration, field.type, field.limits, field.each) == 0:
        problems.add(catalogue.NO_VALUE_LEFT, field.place, field=field.name, of="its limits leave")
    elif isinstance(field.type, Collection) and field.each and _no_element(declaration, field.type, field):
        problems.add(catalogue.NO_VALUE_LEFT, field.place, field=field.name, of="'each' leaves its elements")


def _no_element(declaration: Declaration, type_: Type, field: Field) -> bool:
    assert isinstance(type_, Collection)
    return count_of_values(declaration, type_.element, field.each, ()) == 0


def _limit(limit: Limit, type_: Type, problems: Problems) -> None:
    if type_ == UNKNOWN:
        return
    if not goes_with(limit.name, type_):
        fitting = [name for name in LIMIT_NAMES if goes_with(name, type_)]
        fitting += ["each"] if isinstance(type_, Collection) else []
        use = f"{with_article(str(type_))} takes {', '.join(fitting) or 'no limits'}"
        problems.add(catalogue.MISPLACED_LIMIT, limit.place, limit=limit.name, type=type_, use=use)
        return
    bounds = limit.bound if isinstance(limit.bound, tuple) else (limit.bound,)
    for bound in bounds:
        if isinstance(bound, (str, Told)):
            continue
        if limit.name in LENGTHS and not 0 <= bound <= LARGEST_INTEGER:
            problems.add(
                catalogue.BAD_BOUND,
                limit.place,
                limit=limit.name,
                bound=bound,
                wanted="a whole number from 0 up",
            )
        elif isinstance(bound, float) and not math.isfinite(bound):
            problems.add(
                catalogue.BAD_BOUND, limit.place, limit=limit.name, bound=bound, wanted="a finite number"
            )
        elif type_ == INTEGER and isinstance(bound, float):
            problems.add(
                catalogue.BAD_BOUND, limit.place, limit=limit.name, bound=bound, wanted="a whole number"
            )
        elif limit.name not in LENGTHS and abs(bound) > LARGEST_INTEGER and isinstance(bound, int):
            problems.add(INTEGER_RANGE, limit.place, number=str(bound)[:40])


def _default(field: Field, values: ValueReader, problems: Problems) -> None:
    if field.default is None:
        return
    if field.required:
        problems.add(catalogue.DEFAULT_ON_REQUIRED, field.default.place, field=field.name)
    else:
        values.field_value(field.default, field)


def _item(field: Field, problems: Problems) -> None:
    if field.item is not None and not isinstance(field.type, Collection):
        problems.add(catalogue.MISPLACED_ITEM, field.item_place, field=field.name, type=field.type)


def _copy(declaration: Declaration, product: Product, field: Field, problems: Problems) -> None:
    inner = product_in(declaration, field.type)
    details = {"field": field.name, "type": field.type, "copy": field.copy}
    plain = inner is None and not isinstance(field.type, Collection)
    if field.copy == "fresh" and field.required:
        problems.add(catalogue.FRESH_REQUIRED, field.copy_place, **details)
    elif field.copy in ("deep", "shallow", "shared") and plain:
        problems.add(catalogue.COPY_OF_SCALAR, field.copy_place, **details)
    elif field.copy == "shallow" and not isinstance(field.type, Collection):
        problems.add(catalogue.SHALLOW_WITHOUT_CONTAINER, field.copy_place, **details)
    elif field.copy == "deep" and inner is not None and always_shared(inner):
        problems.add(catalogue.ALWAYS_SHARED, field.copy_place, product=inner.name, **details)
    if inner is None or not inner.mutable:
        return
    if field.copy in ("shared", "shallow"):
        problems.add(catalogue.SHARED_MUTABLE, field.copy_place, product=inner.name, **details)
    elif not product.mutable and copy_of(declaration, field) in ("deep", "fresh"):
        problems.add(
            catalogue.IMMUTABLE_OWNS_MUTABLE,
            field.place,
            owner=product.name,
            product=inner.name,
            field=field.name,
        )


def _endless(product: Product, constructible: frozenset[str], problems: Problems) -> None:
    if product.name in constructible or product.abstract:
        return
    guilty = [
        field
        for field in product.fields.values()
        if field.required
        and isinstance(field.type, (ProductType, *Collection))
        and _leads_back(field.type, constructible)
    ]
    if guilty:
        problems.add(
            catalogue.ENDLESS,
            guilty[0].place,
            product=product.name,
            fields=listing(field.name for field in guilty),
        )


def _leads_back(type_: Type, constructible: frozenset[str]) -> bool:
    while isinstance(type_, Collection):
        type_ = type_.element
    return isinstance(type_, ProductType) and type_.name not in constructible
