"""Families in Go: an interface with a lookup, a struct a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from urform.declaration.types import ListOf, ProductType
from urform.declaration.values import Value
from urform.languages.go.expressions import options_type, text_literal
from urform.languages.go.factories import result_type
from urform.languages.go.names import Names
from urform.languages.naming.names import Words, of_family, pascal, spoken, with_article
from urform.plan.model import Family, Field, Member, Part, Product, Role

ROLES = Words({"Asked"})

if TYPE_CHECKING:
    from urform.languages.go.emitter import Emitter

View = dict[str, object]


def family_text(emitter: Emitter, family: Family) -> str:
    """The abstract factory, the lookup, and the members."""
    return emitter.templates.render("family", family.name, f=_view(emitter, family))


def stand_in_text(emitter: Emitter, family: Family) -> str:
    """The member that clients' own tests take."""
    assert family.stand_in is not None
    view = _view(emitter, family)
    return emitter.templates.render(
        "stand_in", family.name, f=view, m=_member(emitter, family, family.stand_in)
    )


def role_name(role: Role) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return role_of(role.name)


def role_of(name: str) -> str:
    """The method of a role of that name."""
    return ROLES.escape(pascal(name))


def member_type(names: Names, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(member, names.type(family.name))


def role_fails(emitter: Emitter, family: Family, role: Role) -> bool:
    """Whether asking for one product can fail in some member; a list role is made of declared values."""
    members = (*family.members, *([family.stand_in] if family.stand_in is not None else []))
    products = [emitter.plan.product(m.parts[role.name][0].product) for m in members if not role.several]
    return any(emitter.code.fallible(product) for product in products)


def _view(emitter: Emitter, family: Family) -> View:
    type_ = emitter.names.type(family.name)
    said = {"error": "an unknown key is refused", "nothing": "none for an unknown key"}
    fails, nothing = family.unknown == "error", family.unknown == "nothing"
    more = ", nil" if fails else ", true" if nothing else ""
    known = ", ".join(text_literal(key) for key in family.known)
    otherwise = {
        "error": f'nil, &UnknownKeyError{{Owner: "{family.name}", Key: key, Known: []string{{{known}}}}}',
        "nothing": "nil, false",
    }
    roles = [
        {
            "name": role_name(role),
            "parameters": _parameters(emitter, role),
            "result": _result(emitter, family, role),
        }
        for role in family.roles
    ]
    words = " and ".join(spoken(role.name) for role in family.roles)
    return {
        "type": type_,
        "a": with_article(type_),
        "doc": f"{type_}: {family.doc}" if family.doc else f"{type_} makes {words} that fit together.",
        "roles": roles,
        "said": said.get(family.unknown) or f"the one for {spoken(family.unknown)} for an unknown key",
        "result": result_type(type_, nothing, fails),
        "cases": [
            {"key": m.key, "made": f"{member_type(emitter.names, family, m.name)}{{}}{more}"}
            for m in family.members
            if m.name != family.unknown
        ],
        "otherwise": otherwise.get(family.unknown)
        or f"{member_type(emitter.names, family, family.unknown)}{{}}",
        "members": [_member(emitter, family, member) for member in family.members],
    }


def _type(emitter: Emitter, role: Role) -> str:
    type_ = emitter.names.type(role.product)
    return type_ if emitter.plan.products[role.product].abstract else f"*{type_}"


def _result(emitter: Emitter, family: Family, role: Role) -> str:
    type_ = _type(emitter, role)
    return f"[]{type_}" if role.several else result_type(type_, False, role_fails(emitter, family, role))


def _parameters(emitter: Emitter, role: Role) -> str:
    return "" if role.several else emitter.parameters(emitter.plan.products[role.product])


def _member(emitter: Emitter, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        made = [(emitter.plan.product(part.product), part) for part in member.parts[role.name]]
        said = " and ".join(with_article(emitter.names.type(product.name)) for product, _ in made) or "none"
        parts.append(
            {
                "name": role_name(role),
                "role": role.name,
                "said": said,
                "parameters": _parameters(emitter, role),
                "result": _result(emitter, family, role),
                "lines": list(
                    _several(emitter, role, made) if role.several else _one(emitter, family, role, *made[0])
                ),
            }
        )
    type_ = member_type(emitter.names, family, member.name)
    fields = (f for role in family.roles for f in emitter.plan.products[role.product].fields)
    receiver = "self" if any(emitter.names.local(field.name) == "s" for field in fields) else "s"
    return {"type": type_, "spoken": spoken(member.name), "parts": parts, "receiver": receiver}


def _several(emitter: Emitter, role: Role, made: list[tuple[Product, Part]]) -> Iterator[str]:
    literals = [emitter.code.literal(product.name, part.values) for product, part in made]
    yield f"return {emitter.code.several(ListOf(ProductType(role.product)), literals)}"


def _one(emitter: Emitter, family: Family, role: Role, product: Product, part: Part) -> Iterator[str]:
    base = emitter.plan.products[role.product]
    call = f"{emitter.constructor(product)}({_arguments(emitter, base, product, part.values)})"
    fails = role_fails(emitter, family, role)
    if not emitter.code.fallible(product):
        yield f"return {call}{', nil' if fails else ''}"
    elif product is base:
        yield f"return {call}"
    else:
        yield f"made, err := {call}"
        yield from ("if err != nil {", "\treturn nil, err", "}", "return made, nil")


def _arguments(emitter: Emitter, base: Product, product: Product, values: Mapping[str, Value]) -> str:
    """What the caller of a role gives is passed on, what the member gives is written down."""
    given = {field.name for field in base.fields}
    parts = [
        emitter.names.local(f.name) if f.name in given else emitter.code.value(values[f.name])
        for f in product.required
    ]
    if not product.optional:
        return ", ".join(parts)
    own, embedded = options_type(emitter.plan, emitter.names, product)
    pairs = [f"{embedded}: opts"] if embedded is not None and base.optional and product is not base else []
    pairs += [_option(emitter, f, values[f.name]) for f in product.optional if f.name in values]
    passed_on = product is base or own == f"{emitter.names.type(base.name)}Options"
    parts.append("opts" if passed_on and not pairs else f"{own}{{{', '.join(pairs)}}}")
    return ", ".join(parts)


def _option(emitter: Emitter, field: Field, value: Value) -> str:
    text = emitter.code.value(value)
    if emitter.code.is_pointer(field):
        text = f"Some[{emitter.code.type(field.type)}]({text})"
    return f"{pascal(field.name)}: {text}"
