"""Families: complete members, each of whose products fits its role and can be made for it."""

from __future__ import annotations

from urform.declaration.catalogue import families as catalogue
from urform.declaration.model import Declaration, Family, Filling, Member, Part, Product, Role, Use
from urform.declaration.problems import Problems, did_you_mean
from urform.declaration.types import UNKNOWN, ListOf, ProductType
from urform.declaration.value_reader import ValueReader
from urform.prose import listing


def check(declaration: Declaration, problems: Problems) -> None:
    """Note what is wrong with the families."""
    values = ValueReader(declaration, problems)
    for family in declaration.families.values():
        if isinstance(family.unknown, Use) and family.unknown.name not in family.members:
            use = family.unknown
            hint = did_you_mean(use.name, family.members)
            problems.add(
                catalogue.NOT_A_MEMBER,
                use.place,
                name=use.name,
                family=family.name,
                names=tuple(family.members),
                hint=hint,
            )
        for role in family.roles.values():
            _role(declaration, role, problems)
        for member in family.members.values():
            _member(declaration, family, member, values, problems)


def made_for(role: Role) -> str | None:
    """The name of the product that a role asks for."""
    type_ = role.type.element if isinstance(role.type, ListOf) else role.type
    return type_.name if isinstance(type_, ProductType) else None


def _role(declaration: Declaration, role: Role, problems: Problems) -> None:
    asked = made_for(role)
    if asked is None and role.type != UNKNOWN and role.type != ListOf(UNKNOWN):
        problems.add(catalogue.ROLE_TYPE, role.type_place, role=role.name, type=role.type)
    factory = declaration.products[asked].factory if asked is not None else None
    if factory is not None and factory.form == "by_values":
        problems.add(catalogue.ROLE_BY_VALUES, role.type_place, role=role.name, product=asked)


def _member(
    declaration: Declaration, family: Family, member: Member, values: ValueReader, problems: Problems
) -> None:
    missing = [role for role in family.roles if role not in member.fillings]
    if missing:
        problems.add(catalogue.MEMBER_INCOMPLETE, member.place, member=member.name, roles=listing(missing))
    for filling in member.fillings.values():
        role = family.roles.get(filling.role)
        if role is None:
            hint = did_you_mean(filling.role, family.roles)
            problems.add(
                catalogue.UNKNOWN_ROLE,
                filling.place,
                role=filling.role,
                family=family.name,
                known=tuple(family.roles),
                hint=hint,
            )
        elif filling.listed != isinstance(role.type, ListOf):
            wanted = "a list of products" if not filling.listed else "one product"
            problems.add(catalogue.ROLE_SHAPE, filling.place, role=role.name, type=role.type, wanted=wanted)
        else:
            for part in filling.parts:
                _part(declaration, role, filling, part, values, problems)


def _part(
    declaration: Declaration,
    role: Role,
    filling: Filling,
    part: Part,
    values: ValueReader,
    problems: Problems,
) -> None:
    asked = made_for(role)
    if asked is None or not part.use.name:  # the latter is told as a missing key
        return
    base = declaration.products[asked]
    product = declaration.products.get(part.use.name)
    fitting = [concrete.name for concrete in declaration.concrete(base)]
    if product is None or product.name not in fitting:
        hint = did_you_mean(part.use.name, fitting)
        problems.add(
            catalogue.ROLE_MISFIT,
            part.use.place,
            product=part.use.name,
            role=role.name,
            base=asked,
            names=tuple(fitting),
            hint=hint,
        )
        return
    by_caller = set() if filling.listed else set(base.fields)
    _given(declaration, product, part, by_caller, values, problems)


def _given(
    declaration: Declaration,
    product: Product,
    part: Part,
    by_caller: set[str],
    values: ValueReader,
    problems: Problems,
) -> None:
    for given in part.values:
        if given.name in by_caller:
            problems.add(catalogue.GIVEN_BY_CALLER, given.place, field=given.name, product=product.name)
    fields = tuple(field for field in declaration.all_fields(product) if field.name not in by_caller)
    own = {given.name: given.node for given in part.values if given.name not in by_caller}
    values.values(product, own, fields)
    missing = [field.name for field in fields if field.required and field.name not in own]
    if missing:
        problems.add(catalogue.ROLE_NEEDS_MORE, part.use.place, product=product.name, fields=listing(missing))
