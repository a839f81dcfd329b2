"""Families in TypeScript: an interface, a class a member, a lookup, and stand-ins for clients' own tests."""

from __future__ import annotations

from urform.languages.naming.names import Words, article, of_family, spoken
from urform.languages.rendering.prose import family_of_unknown_key
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import any_of, text_literal
from urform.languages.typescript.names import Names
from urform.languages.typescript.products import declared_parameters, parameters
from urform.plan.model import Family, Member, Part, Product, Role

ROLES = Words({"asked", "new"})  # `new` in an interface is a constructor


View = dict[str, object]


def family_text(context: Context, family: Family) -> str:
    """The abstract factory, its members and the lookup."""
    return context.templates.render("family", family.name, f=_view(context, family))


def stand_in_text(context: Context, family: Family) -> str:
    """The member that clients' own tests take."""
    return context.templates.render("stand_in", family.name, f=_view(context, family))


def role_name(names: Names, role: Role) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return ROLES.escape(names.member(role.name))


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
        "owner": family.name,
        "a": article(family.name),
        "doc": family.doc
        or f"Makes {' and '.join(spoken(role.name) for role in family.roles)} that fit together.",
        "function": context.names.function(family.name),
        "result": f"{type_} | undefined" if family.unknown == "nothing" else type_,
        "found": f"Returns the {spoken(family.name)} of this key; {family_of_unknown_key(family, 'undefined')}.",
        "roles": [_role(context, role) for role in family.roles],
        "members": [_member(context, family, member) for member in family.members],
        "cases": [
            {"key": m.key, "type": member_type(context.names, family, m.name)}
            for m in family.members
            if m.name != family.unknown
        ],
        "unknown": fallback,
        "known": ", ".join(text_literal(key) for key in family.known),
        "key_type": any_of(family.known),
        "stand_in": _member(context, family, family.stand_in) if family.stand_in is not None else None,
    }


def _role(context: Context, role: Role) -> View:
    type_ = context.names.value(role.product)
    product = context.plan.products[role.product]
    return {
        "name": role_name(context.names, role),
        "role": role.name,
        "asked": "" if role.several else declared_parameters(context, product),
        "taken": "" if role.several else parameters(context, product),
        "result": f"{type_}[]" if role.several else type_,
    }


def _member(context: Context, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        view = _role(context, role)
        calls = [_part(context, context.plan.product(p.product), p, role) for p in member.parts[role.name]]
        result = view["result"] if role.several else context.names.type(member.parts[role.name][0].product)
        taken = view["taken"] if role.several or "fields" in calls[0] else ""  # a single product takes none
        text = f"[{', '.join(calls)}]" if role.several else calls[0]
        parts.append({**view, "taken": taken, "result": result, "made": text})
    return {"type": member_type(context.names, family, member.name), "parts": parts}


def _part(context: Context, product: Product, part: Part, role: Role) -> str:
    if product.single or role.several:
        return context.code.make(product.name, part.values)
    type_ = context.names.type(product.name)
    base = context.plan.products[role.product]
    own = {name: context.code.value(value) for name, value in part.values.items()}
    if not own:
        return f"new {type_}({'fields' if base.fields else ''})"
    given = {f.name: f"fields.{context.names.member(f.name)}" for f in base.fields}
    return f"new {type_}({context.code.fields({**given, **own})})"
