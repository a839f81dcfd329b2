"""Names: none twice, and no two that become one when a language writes them its way."""

from __future__ import annotations

import re
from collections.abc import Iterable

from urform.declaration.catalogue import names as catalogue
from urform.declaration.document import ScalarNode
from urform.declaration.grammar import FORMAT
from urform.declaration.model import Declaration, Field, Product
from urform.declaration.place import Place
from urform.declaration.problems import Problems
from urform.declaration.reader import get
from urform.declaration.types import ListOf, MapOf, SetOf
from urform.prose import snake

Named = Iterable[tuple[str, Place]]


def camel(name: str) -> str:
    """`period_1` and `period1` are one in camelCase."""
    return re.sub(r"_(.)", lambda match: match[1].upper(), name)


def check(declaration: Declaration, problems: Problems) -> None:
    """Note names that meet, in each scope."""
    _format(declaration, problems)
    _types(declaration, problems)
    for product in declaration.products.values():
        _members(declaration, product, problems)
    for choice in declaration.choices.values():
        _meet(((word.name, word.place) for word in choice.words), problems)
    for family in declaration.families.values():
        _meet(((role.name, role.place) for role in family.roles.values()), problems)


def _format(declaration: Declaration, problems: Problems) -> None:
    node = get(declaration.document.root, "urform")
    if isinstance(node, ScalarNode) and isinstance(node.value, int) and node.value != FORMAT:
        problems.add(catalogue.FORMAT_NUMBER, node.place, number=node.text, known=FORMAT)


def _types(declaration: Declaration, problems: Problems) -> None:
    """Choices, products, variants and families share one namespace; members are apart."""
    seen: list[tuple[str, Place]] = [(choice.name, choice.place) for choice in declaration.choices.values()]
    for product in declaration.products.values():
        if product.base is None:
            seen.append((product.name, product.place))
            seen += [(variant.name, variant.place) for variant in product.variants.values()]
    seen += [(family.name, family.place) for family in declaration.families.values()]
    _meet(seen, problems, fold=snake)
    for family in declaration.families.values():
        _meet(((member.name, member.place) for member in family.members.values()), problems, fold=snake)


def _members(declaration: Declaration, product: Product, problems: Problems) -> None:
    """Fields and operations of a product share one namespace, inherited ones included."""
    own = [(field.name, field.place) for field in product.fields.values()]
    own += [(operation.name, operation.place) for operation in product.operations.values()]
    base = declaration.base_of(product)
    inherited = [(name, place) for name, place in _inherited(base)] if base is not None else []
    _meet([*inherited, *own], problems)
    if product.builder is not None or product.mutable:
        every = [*(base.fields.values() if base is not None else ()), *product.fields.values()]
        _meet(_items(every, (ListOf, SetOf, MapOf) if product.mutable else (ListOf, SetOf)), problems)
    for operation in product.operations.values():
        _meet(((parameter.name, parameter.place) for parameter in operation.takes), problems)
    for values in (
        product.builder.presets if product.builder else (),
        product.prototype.exemplars if product.prototype else (),
    ):
        _meet(((named.name, named.place) for named in values), problems)


def _items(fields: Iterable[Field], kinds: tuple[type, ...]) -> Named:
    """The names of elements: `leg` becomes `add_leg` of a builder and of a mutable product."""
    for field in fields:
        if field.item is not None and field.item_place is not None and isinstance(field.type, kinds):
            yield field.item, field.item_place


def _inherited(base: Product) -> Named:
    yield from ((field.name, field.place) for field in base.fields.values())
    yield from ((operation.name, operation.place) for operation in base.operations.values())


def _meet(named: Named, problems: Problems, fold: object = camel) -> None:
    assert callable(fold)
    first: dict[str, tuple[str, Place]] = {}
    for name, place in named:
        folded = fold(name)
        if folded not in first:
            first[folded] = (name, place)
            continue
        other, other_place = first[folded]
        if place == other_place:
            continue
        kind = catalogue.NAME_TWICE if name == other else catalogue.NAMES_MEET
        problems.add(kind, place, name=name, other=other, line=other_place.line)
