"""Families in Java: an interface with a lookup, a class a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from urform.declaration.values import Value
from urform.languages.java.expressions import text_literal
from urform.languages.java.names import Names
from urform.languages.naming.names import Words, article, of_family, spoken
from urform.plan.model import Family, Member, Part, Product, Role

ROLES = Words({"asked"})

if TYPE_CHECKING:
    from urform.languages.java.emitter import Emitter


def family_sources(emitter: Emitter, family: Family) -> Iterator[tuple[str, str]]:
    """The names and texts of a family's interface and classes."""
    type_ = emitter.names.type(family.name)
    yield type_, emitter.templates.render("family", family.name, f=_view(emitter, family))
    for member in family.members:
        doc = f"The {spoken(family.name)} for {spoken(member.name)}."
        yield member_type(emitter.names, family, member.name), _member(emitter, family, member, doc)
    if family.stand_in is not None:
        doc = (
            f"{article(family.name).capitalize()} of fixed answers for tests, that records what it is asked."
        )
        name = member_type(emitter.names, family, family.stand_in.name)
        yield name, _member(emitter, family, family.stand_in, doc)


def role_name(names: Names, role: Role) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return ROLES.escape(names.member(role.name))


def member_type(names: Names, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(member, names.type(family.name))


def _view(emitter: Emitter, family: Family) -> dict[str, object]:
    type_ = emitter.names.type(family.name)
    nothing = family.unknown == "nothing"
    said = {"error": "an unknown key is refused", "nothing": "nothing for an unknown key"}
    found = said.get(family.unknown) or f"the one for {spoken(family.unknown)} for an unknown key"
    known = ", ".join(text_literal(key) for key in family.known)

    def made(member: str) -> str:
        new = f"new {member_type(emitter.names, family, member)}()"
        return f"Optional.of({new})" if nothing else new

    otherwise = {
        "error": f'throw new CreationException.UnknownKey("{family.name}", key, List.of({known}))',
        "nothing": "Optional.empty()",
    }
    roles = [
        {
            "name": role_name(emitter.names, role),
            "result": _result(emitter, role, role.product),
            "parameters": ", ".join(_parameters(emitter, role)),
        }
        for role in family.roles
    ]
    return {
        "type": type_,
        "doc": family.doc
        or f"Makes {' and '.join(spoken(role.name) for role in family.roles)} that fit together.",
        "roles": roles,
        "found": f"The {spoken(family.name)} of this key; {found}.",
        "result": f"Optional<{type_}>" if nothing else type_,
        "cases": [{"key": m.key, "made": made(m.name)} for m in family.members if m.name != family.unknown],
        "otherwise": otherwise.get(family.unknown) or made(family.unknown),
    }


def _result(emitter: Emitter, role: Role, product: str) -> str:
    return f"List<{emitter.names.type(role.product)}>" if role.several else emitter.names.type(product)


def _parameters(emitter: Emitter, role: Role) -> list[str]:
    if role.several:
        return []
    product = emitter.plan.products[role.product]
    return emitter.parameters(product, f"{emitter.names.type(product.name)}.Options")


def _member(emitter: Emitter, family: Family, member: Member, doc: str) -> str:
    parts = []
    for role in family.roles:
        found = member.parts[role.name]
        made = [_part(emitter, emitter.plan.product(part.product), part, role) for part in found]
        parts.append(
            {
                "name": role_name(emitter.names, role),
                "role": role.name,
                "result": _result(emitter, role, found[0].product if found else role.product),
                "parameters": ", ".join(_parameters(emitter, role)),
                "made": f"List.of({', '.join(made)})" if role.several else made[0],
            }
        )
    return emitter.templates.render(
        "member",
        family.name,
        m={
            "type": member_type(emitter.names, family, member.name),
            "family": emitter.names.type(family.name),
            "doc": doc,
            "records": member is family.stand_in,
            "parts": parts,
        },
    )


def _part(emitter: Emitter, product: Product, part: Part, role: Role) -> str:
    if product.single or role.several:
        return emitter.code.make(product.name, part.values)
    base = emitter.plan.products[role.product]
    type_ = emitter.names.type(product.name)
    given = [
        emitter.names.member(f.name) if base_has(base, f.name) else emitter.code.value(part.values[f.name])
        for f in product.required
    ]
    options = _options(emitter, product, base, part.values)
    return f"new {type_}({', '.join([*given, *([options] if options else [])])})"


def base_has(base: Product, name: str) -> bool:
    """Whether the caller of a role gives a field."""
    return any(field.name == name for field in base.fields)


def _options(emitter: Emitter, product: Product, base: Product, values: Mapping[str, Value]) -> str:
    own = [f for f in product.optional if f.owner == product.name]
    given = {f.name: emitter.code.value(values[f.name]) for f in own if f.name in values}
    if not base.optional:
        calls = "".join(f".{emitter.names.member(name)}({value})" for name, value in given.items())
        return f"new {emitter.names.type(product.name)}.Options(){calls}" if given else ""
    return ", ".join(["options", *(given.get(f.name, "null") for f in own)]) if given else "options"
