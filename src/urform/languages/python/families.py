"""Families in Python: an abstract factory, a class a member, a lookup, and stand-ins for clients' own tests."""

from __future__ import annotations

from urform.languages.naming.names import Words, article, of_family, spoken
from urform.languages.python.context import Context
from urform.languages.python.expressions import key_type, text_literal
from urform.languages.python.names import Names
from urform.languages.rendering.prose import family_of_unknown_key
from urform.plan.model import Family, Member, Part, Product, Role

ROLES = Words({"asked"})


View = dict[str, object]


def family_text(context: Context, family: Family) -> str:
    """The abstract factory, its members and the lookup."""
    return context.templates.render("family", family.name, f=_view(context, family))


def stand_in_text(context: Context, family: Family) -> str:
    """The member that clients' own tests take."""
    return context.templates.render("stand_in", family.name, f=_view(context, family))


def role_name(names: Names, role: Role) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return ROLES.escape(names.field(role.name))


def member_type(names: Names, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(member, names.type(family.name))


def _view(context: Context, family: Family) -> View:
    type_ = context.names.type(family.name)
    fallback = (
        family.unknown
        if family.unknown in ("error", "nothing")
        else member_type(context.names, family, family.unknown)
    )
    return {
        "type": type_,
        "stem": context.names.stem(family.name),
        "owner": family.name,
        "a": article(family.name),
        "doc": family.doc
        or f"Makes {' and '.join(spoken(role.name) for role in family.roles)} that fit together.",
        "function": context.names.function(family.name),
        "result": f"{type_} | None" if family.unknown == "nothing" else type_,
        "found": f"Return the {spoken(family.name)} of this key; {family_of_unknown_key(family, 'None')}.",
        "roles": [_role(context, role) for role in family.roles],
        "members": [_member(context, family, member) for member in family.members],
        "cases": [
            {"key": m.key, "type": member_type(context.names, family, m.name)}
            for m in family.members
            if m.name != family.unknown
        ],
        "unknown": fallback,
        "known": ", ".join(text_literal(key) for key in family.known),
        "key_type": key_type(family.known),
        "stand_in": _member(context, family, family.stand_in) if family.stand_in is not None else None,
    }


def _role(context: Context, role: Role) -> View:
    product = context.plan.products[role.product]
    type_ = context.names.value(role.product)
    fields = product.fields and not role.several
    return {
        "name": role_name(context.names, role),
        "role": role.name,
        "kwargs": f", **fields: Unpack[{context.names.stem(role.product)}Fields]" if fields else "",
        "result": f"list[{type_}]" if role.several else type_,
        "pass_on": ["**fields"] if fields else [],
    }


def _member(context: Context, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        view = _role(context, role)
        calls = [
            _part(context, context.plan.product(p.product), p, role, view) for p in member.parts[role.name]
        ]
        result = view["result"] if role.several else context.names.type(member.parts[role.name][0].product)
        parts.append(
            {**view, "result": result, "made": f"[{', '.join(calls)}]" if role.several else calls[0]}
        )
    return {"type": member_type(context.names, family, member.name), "parts": parts}


def _part(context: Context, product: Product, part: Part, role: Role, view: View) -> str:
    if product.single:
        return f"{context.names.type(product.name)}()"
    passed = view["pass_on"] if not role.several else []
    assert isinstance(passed, list)
    given = [f"{context.names.field(n)}={context.code.value(v)}" for n, v in part.values.items()]
    return f"{context.names.type(product.name)}({', '.join([*passed, *given])})"
