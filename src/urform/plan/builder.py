"""From the declaration to the plan: resolved defaults and limits, ways of making, and what is left out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.model import Choice as DeclaredChoice
from urform.declaration.model import Declaration
from urform.declaration.model import Field as DeclaredField
from urform.declaration.model import Operation as DeclaredOperation
from urform.declaration.model import Product as DeclaredProduct
from urform.declaration.place import Place
from urform.declaration.types import ProductType, innermost
from urform.declaration.written_values import WrittenValues
from urform.plan.convert import plan_field
from urform.plan.leading import with_leading
from urform.plan.model import Choice, Field, LeftOut, Operation, Parameter, Product, Records
from urform.plan.paragraphs import paragraph
from urform.plan.patterns import patterns
from urform.plan.whole import Plan


def build(declaration: Declaration) -> Plan:
    """The plan of a valid declaration."""
    values = WrittenValues(declaration)
    products = {
        product.name: _product(declaration, product, values) for product in _base_before_variants(declaration)
    }
    plan = Plan(
        name=declaration.name,
        doc=paragraph(declaration.doc),
        source=declaration.document.name,
        choices={choice.name: _choice(choice) for choice in declaration.choices.values()},
        products=products,
        records=_records(declaration),
        left_out=tuple(_left_out(declaration)),
        settings={
            target: {option: text for option, (text, _) in options.items()}
            for target, options in declaration.targets.items()
        },
    )
    for pattern in patterns():
        plan = replace(plan, makings=(*plan.makings, *pattern.makes(declaration, plan)))
    return plan if plan.records is None else replace(plan, records=with_leading(plan, plan.records))


def _choice(choice: DeclaredChoice) -> Choice:
    words = tuple(word.name for word in choice.words)
    called = tuple(choice.called.get(word.name, word).name for word in choice.words)
    return Choice(choice.name, words, paragraph(choice.doc), called)


def _records(declaration: Declaration) -> Records | None:
    declared = declaration.records
    if declared is None:
        return None
    kind = declared.kind.name if declared.kind is not None else Records().kind
    return Records(kind, declared.unknown == "ignore", declared.write == "all")


def _base_before_variants(declaration: Declaration) -> Iterator[DeclaredProduct]:
    for product in declaration.products.values():
        if product.base is None:
            yield product
            yield from product.variants.values()


def _product(declaration: Declaration, product: DeclaredProduct, values: WrittenValues) -> Product:
    base = declaration.base_of(product)
    owners = [
        (owner.name, f) for owner in (base, product) if owner is not None for f in owner.fields.values()
    ]
    operations = [
        (owner.name, o) for owner in (base, product) if owner is not None for o in owner.operations.values()
    ]

    def field(owner: str, declared: DeclaredField) -> Field:
        return plan_field(declaration, owner, declared, values.default(declared, product))

    def operation(owner: str, declared: DeclaredOperation) -> Operation:
        takes = tuple(Parameter(parameter.name, parameter.type) for parameter in declared.takes)
        answering = [one for one in (product, base) if one is not None and not product.abstract]
        return Operation(
            declared.name,
            owner,
            takes,
            declared.returns,
            values.answer(declared, answering),
            paragraph(declared.doc),
            declared.once is not None,
        )

    return Product(
        name=product.name,
        doc=paragraph(product.doc),
        fields=tuple(field(owner, declared) for owner, declared in owners),
        operations=tuple(operation(owner, declared) for owner, declared in operations),
        base=product.base,
        variants=tuple(product.variants),
        key=product.key,
        kinds=(product.called.name,)
        if product.called is not None
        else tuple(key.name for key in product.keys),
        mutable=product.mutable,
        single=product.single,
        closed=product.abstract and not _is_open(declaration, product),
    )


def _is_open(declaration: Declaration, product: DeclaredProduct) -> bool:
    """A product is closed unless its factory is a registry or it stands in a role of a family with a stand-in."""
    if product.factory is not None and product.factory.form == "registry":
        return True
    roles = [
        role for family in declaration.families.values() if family.stand_in for role in family.roles.values()
    ]
    return any(innermost(role.type) == ProductType(product.name) for role in roles)


def _left_out(declaration: Declaration) -> Iterator[LeftOut]:
    """The declared parts that no pattern generates, by name and place."""
    covered = frozenset(part for pattern in patterns() for part in pattern.covers)

    def part(kind: str, name: str, place: Place) -> Iterator[LeftOut]:
        if kind not in covered:
            yield LeftOut(
                f"{kind} of {name}" if kind != "family" else f"family {name}", place.line, place.column
            )

    for product in declaration.products.values():
        if product.factory is not None:
            yield from part(f"factory {product.factory.form}", product.name, product.factory.place)
        for kind, way in (
            ("builder", product.builder),
            ("prototype", product.prototype),
            ("flyweight", product.flyweight),
        ):
            if way is not None:
                yield from part(kind, product.name, way.place)
    for family in declaration.families.values():
        yield from part("family", family.name, family.place)
