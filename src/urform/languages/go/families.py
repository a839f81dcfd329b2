"""Families in Go: an interface with a lookup, a struct a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.declaration.types import ListOf, ProductType
from urform.declaration.values import Value
from urform.languages.go.context import Context
from urform.languages.go.expressions import options_type, text_literal
from urform.languages.go.factories import result_type
from urform.languages.go.names import Names
from urform.languages.go.views import types_of
from urform.languages.naming.names import Words, of_family, pascal, spoken
from urform.languages.rendering.prose import family_of_unknown_key
from urform.plan.model import Family, Field, Member, Part, Product, Role
from urform.prose import with_article

ROLES = Words({"Asked"})


View = dict[str, object]


def family_text(context: Context, family: Family) -> str:
    """The abstract factory, the lookup, and the members."""
    return context.templates.render("family", family.name, f=_view(context, family))


def stand_in_text(context: Context, family: Family) -> str:
    """The member that clients' own tests take."""
    assert family.stand_in is not None
    view = _view(context, family)
    return context.templates.render(
        "stand_in", family.name, f=view, m=_member(context, family, family.stand_in)
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


def role_fails(context: Context, family: Family, role: Role) -> bool:
    """Whether asking for one product can fail in some member; a list role is made of declared values."""
    members = (*family.members, *([family.stand_in] if family.stand_in is not None else []))
    products = [context.plan.product(m.parts[role.name][0].product) for m in members if not role.several]
    return any(context.code.fallible(product) for product in products)


def _view(context: Context, family: Family) -> View:
    type_ = context.names.type(family.name)
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
            "role": role.name,
            "parameters": _parameters(context, role),
            "result": _result(context, family, role),
            "calls": types_of([] if role.several else context.typed(context.plan.products[role.product]))
            + _result(context, family, role),
        }
        for role in family.roles
    ]
    words = " and ".join(spoken(role.name) for role in family.roles)
    return {
        "type": f"{context.code.at}{type_}",
        "a": with_article(type_),
        "doc": f"{type_}: {family.doc}" if family.doc else f"{type_} makes {words} that fit together.",
        "roles": roles,
        "said": family_of_unknown_key(family, "none"),
        "result": result_type(type_, nothing, fails),
        "cases": [
            {"key": m.key, "made": f"{member_type(context.names, family, m.name)}{{}}{more}"}
            for m in family.members
            if m.name != family.unknown
        ],
        "otherwise": otherwise.get(family.unknown)
        or f"{member_type(context.names, family, family.unknown)}{{}}",
        "members": [_member(context, family, member) for member in family.members],
    }


def _type(context: Context, role: Role) -> str:
    return context.code.type(ProductType(role.product))


def _result(context: Context, family: Family, role: Role) -> str:
    type_ = _type(context, role)
    return f"[]{type_}" if role.several else result_type(type_, False, role_fails(context, family, role))


def _parameters(context: Context, role: Role) -> str:
    return "" if role.several else context.parameters(context.plan.products[role.product])


def _member(context: Context, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        role_parts = [(context.plan.product(part.product), part) for part in member.parts[role.name]]
        said = (
            " and ".join(with_article(context.names.type(product.name)) for product, _ in role_parts)
            or "none"
        )
        parts.append(
            {
                "name": role_name(role),
                "role": role.name,
                "said": said,
                "parameters": _parameters(context, role),
                "result": _result(context, family, role),
                "lines": list(
                    _several(context, role, role_parts)
                    if role.several
                    else _one(context, family, role, *role_parts[0])
                ),
            }
        )
    type_ = member_type(context.names, family, member.name)
    fields = (f for role in family.roles for f in context.plan.products[role.product].fields)
    receiver = "self" if any(context.names.local(field.name) == "s" for field in fields) else "s"
    return {"type": type_, "spoken": spoken(member.name), "parts": parts, "receiver": receiver}


def _several(context: Context, role: Role, role_parts: list[tuple[Product, Part]]) -> Iterator[str]:
    literals = [context.code.literal(product.name, part.values) for product, part in role_parts]
    yield f"return {context.code.several(ListOf(ProductType(role.product)), literals)}"


def _one(context: Context, family: Family, role: Role, product: Product, part: Part) -> Iterator[str]:
    base = context.plan.products[role.product]
    constructor = f"{context.code.at_product(product.name)}{context.constructor(product)}"
    call = f"{constructor}({_arguments(context, base, product, part.values)})"
    fails = role_fails(context, family, role)
    if not context.code.fallible(product):
        yield f"return {call}{', nil' if fails else ''}"
    elif product is base:
        yield f"return {call}"
    else:
        yield f"made, err := {call}"
        yield from ("if err != nil {", "\treturn nil, err", "}", "return made, nil")


def _arguments(context: Context, base: Product, product: Product, values: Mapping[str, Value]) -> str:
    """The arguments of a part: the caller's are passed on, the member's are literals."""
    given = {field.name for field in base.fields}
    parts = [
        context.names.local(f.name) if f.name in given else context.code.value(values[f.name])
        for f in product.required
    ]
    if not product.optional:
        return ", ".join(parts)
    own, embedded = options_type(context.plan, context.names, product)
    pairs = [f"{embedded}: opts"] if embedded is not None and base.optional and product is not base else []
    pairs += [_option(context, f, values[f.name]) for f in product.optional if f.name in values]
    passed_on = product is base or own == f"{context.names.type(base.name)}Options"
    parts.append("opts" if passed_on and not pairs else f"{context.code.at}{own}{{{', '.join(pairs)}}}")
    return ", ".join(parts)


def _option(context: Context, field: Field, value: Value) -> str:
    text = context.code.value(value)
    if context.code.is_pointer(field):
        text = context.code.pointer(field, text)
    return f"{pascal(field.name)}: {text}"
