"""Families in Python: an abstract factory, a class a member, a lookup, and stand-ins for clients' own tests."""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.languages.naming.names import Words, article, of_family, spoken
from urform.languages.python.expressions import text_literal
from urform.languages.python.names import Names
from urform.plan.model import Family, Member, Part, Product, Role

ROLES = Words({"asked"})

if TYPE_CHECKING:
    from urform.languages.python.emitter import Emitter

View = dict[str, object]


def family_text(emitter: Emitter, family: Family) -> str:
    """The abstract factory, its members and the lookup."""
    return emitter.templates.render("family", family.name, f=_view(emitter, family))


def stand_in_text(emitter: Emitter, family: Family) -> str:
    """The member that clients' own tests take."""
    return emitter.templates.render("stand_in", family.name, f=_view(emitter, family))


def role_name(names: Names, role: Role) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return ROLES.escape(names.field(role.name))


def member_type(names: Names, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(member, names.type(family.name))


def _view(emitter: Emitter, family: Family) -> View:
    type_ = emitter.names.type(family.name)
    fallback = (
        family.unknown
        if family.unknown in ("error", "nothing")
        else member_type(emitter.names, family, family.unknown)
    )
    said = {"error": "an unknown key is refused", "nothing": "None for an unknown key"}
    found = said.get(family.unknown) or f"the one for {spoken(family.unknown)} for an unknown key"
    return {
        "type": type_,
        "owner": family.name,
        "a": article(family.name),
        "doc": family.doc
        or f"Makes {' and '.join(spoken(role.name) for role in family.roles)} that fit together.",
        "function": emitter.names.function(family.name),
        "result": f"{type_} | None" if family.unknown == "nothing" else type_,
        "found": f"The {spoken(family.name)} of this key; {found}.",
        "roles": [_role(emitter, role) for role in family.roles],
        "members": [_member(emitter, family, member) for member in family.members],
        "cases": [
            {"key": m.key, "type": member_type(emitter.names, family, m.name)}
            for m in family.members
            if m.name != family.unknown
        ],
        "unknown": fallback,
        "known": ", ".join(text_literal(key) for key in family.known),
        "stand_in": _member(emitter, family, family.stand_in) if family.stand_in is not None else None,
    }


def _role(emitter: Emitter, role: Role) -> View:
    product = emitter.plan.products[role.product]
    type_ = emitter.names.type(role.product)
    fields = product.fields and not role.several
    return {
        "name": role_name(emitter.names, role),
        "role": role.name,
        "kwargs": f", **fields: Unpack[{emitter.names.stem(role.product)}Fields]" if fields else "",
        "result": f"list[{type_}]" if role.several else type_,
        "pass_on": ["**fields"] if fields else [],
    }


def _member(emitter: Emitter, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        view = _role(emitter, role)
        made = [
            _part(emitter, emitter.plan.product(p.product), p, role, view) for p in member.parts[role.name]
        ]
        result = view["result"] if role.several else emitter.names.type(member.parts[role.name][0].product)
        parts.append({**view, "result": result, "made": f"[{', '.join(made)}]" if role.several else made[0]})
    return {"type": member_type(emitter.names, family, member.name), "parts": parts}


def _part(emitter: Emitter, product: Product, part: Part, role: Role, view: View) -> str:
    if product.single:
        return f"{emitter.names.type(product.name)}()"
    passed = view["pass_on"] if not role.several else []
    assert isinstance(passed, list)
    given = [f"{emitter.names.field(n)}={emitter.code.value(v)}" for n, v in part.values.items()]
    return f"{emitter.names.type(product.name)}({', '.join([*passed, *given])})"
