"""Families in Java: an interface with a lookup, a class a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.declaration.values import Value
from urform.languages.java.context import Context
from urform.languages.java.docs import REFUSED
from urform.languages.java.expressions import text_literal
from urform.languages.java.names import Names
from urform.languages.java.views import types_of
from urform.languages.naming.names import Words, article, of_family, spoken
from urform.languages.rendering.prose import family_of_unknown_key
from urform.plan.model import Family, Member, Part, Product, Role

ROLES = Words({"asked"})


def family_sources(context: Context, family: Family) -> Iterator[tuple[str, str]]:
    """The names and texts of a family's interface and classes."""
    type_ = context.names.type(family.name)
    yield type_, context.templates.render("family", family.name, f=_view(context, family))
    for member in family.members:
        doc = f"The {spoken(family.name)} for {spoken(member.name)}."
        yield member_type(context.names, family, member.name), _member(context, family, member, doc)


def stand_in_source(context: Context, family: Family) -> tuple[str, str]:
    """The name and text of the member that clients' own tests take."""
    assert family.stand_in is not None
    doc = f"{article(family.name).capitalize()} for tests that gives fixed answers and records the requests."
    name = member_type(context.names, family, family.stand_in.name)
    return name, _member(context, family, family.stand_in, doc)


def role_name(names: Names, role: Role) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return ROLES.escape(names.member(role.name))


def member_type(names: Names, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(member, names.type(family.name))


def _view(context: Context, family: Family) -> dict[str, object]:
    type_ = context.names.type(family.name)
    nothing = family.unknown == "nothing"
    known = ", ".join(text_literal(key) for key in family.known)

    def new_member(member: str) -> str:
        new = f"new {member_type(context.names, family, member)}()"
        return f"Optional.of({new})" if nothing else new

    otherwise = {
        "error": f'throw new CreationException.UnknownKey("{family.name}", key, List.of({known}))',
        "nothing": "Optional.empty()",
    }
    roles = [
        {
            "name": role_name(context.names, role),
            "result": _result(context, role, role.product),
            "parameters": ", ".join(_parameters(context, role)),
            "types": types_of(_parameters(context, role)),
            "short": _short(context, role),
            **_role_docs(context, role),
        }
        for role in family.roles
    ]
    return {
        "type": type_,
        "doc": family.doc
        or f"Makes {' and '.join(spoken(role.name) for role in family.roles)} that fit together.",
        "roles": roles,
        "found": f"Returns the {spoken(family.name)} of this key; {family_of_unknown_key(family)}.",
        "throws": "CreationException.UnknownKey if the key is unknown" if family.unknown == "error" else "",
        "result": f"Optional<{type_}>" if nothing else type_,
        "cases": [
            {"key": m.key, "made": new_member(m.name)} for m in family.members if m.name != family.unknown
        ],
        "otherwise": otherwise.get(family.unknown) or new_member(family.unknown),
    }


def _result(context: Context, role: Role, product: str) -> str:
    return f"List<{context.names.type(role.product)}>" if role.several else context.names.type(product)


def _role_docs(context: Context, role: Role) -> dict[str, object]:
    product = context.plan.products[role.product]
    made = f"{spoken(role.product)}s" if role.several else article(role.product)
    takes = [] if role.several else context.takes(product)
    return {
        "doc": f"Creates {made}." if takes else "",
        "takes": takes,
        "returns": made,
        "throws": REFUSED if takes else "",
    }


def _short(context: Context, role: Role) -> dict[str, object] | None:
    product = context.plan.products[role.product]
    return None if role.several else context.short(product, f"{context.names.type(product.name)}.Options")


def _parameters(context: Context, role: Role) -> list[str]:
    if role.several:
        return []
    product = context.plan.products[role.product]
    return context.parameters(product, f"{context.names.type(product.name)}.Options")


def _member(context: Context, family: Family, member: Member, doc: str) -> str:
    parts = []
    for role in family.roles:
        role_parts = member.parts[role.name]
        calls = [_part(context, context.plan.product(part.product), part, role) for part in role_parts]
        parts.append(
            {
                "name": role_name(context.names, role),
                "role": role.name,
                "result": _result(context, role, role_parts[0].product if role_parts else role.product),
                "parameters": ", ".join(_parameters(context, role)),
                "made": f"List.of({', '.join(calls)})" if role.several else calls[0],
            }
        )
    return context.templates.render(
        "member",
        family.name,
        m={
            "type": member_type(context.names, family, member.name),
            "family": context.names.type(family.name),
            "doc": doc,
            "records": member is family.stand_in,
            "parts": parts,
        },
    )


def _part(context: Context, product: Product, part: Part, role: Role) -> str:
    if product.single or role.several:
        return context.code.make(product.name, part.values)
    base = context.plan.products[role.product]
    type_ = context.names.type(product.name)
    given = [
        context.names.member(f.name) if base_has(base, f.name) else context.code.value(part.values[f.name])
        for f in product.required
    ]
    options = _options(context, product, base, part.values)
    return f"new {type_}({', '.join([*given, *([options] if options else [])])})"


def base_has(base: Product, name: str) -> bool:
    """Whether the caller of a role gives a field."""
    return any(field.name == name for field in base.fields)


def _options(context: Context, product: Product, base: Product, values: Mapping[str, Value]) -> str:
    own = [f for f in product.optional if f.owner == product.name]
    given = {f.name: context.code.value(values[f.name]) for f in own if f.name in values}
    if not base.optional:
        calls = "".join(f".{context.names.member(name)}({value})" for name, value in given.items())
        return f"new {context.names.type(product.name)}.Options(){calls}" if given else ""
    return ", ".join(["options", *(given.get(f.name, "null") for f in own)]) if given else "options"
