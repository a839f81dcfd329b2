"""Families in Rust: a trait with a lookup, a struct a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Mapping

from urform.declaration.types import TEXT, ProductType
from urform.declaration.values import Text, Value
from urform.languages.naming.names import of_family, snake, spoken
from urform.languages.rendering.prose import family_of_unknown_key
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import text_literal
from urform.languages.rust.factories import creation, looked_up
from urform.languages.rust.names import METHODS
from urform.plan.model import Family, Field, Member, Part, Product, Role
from urform.prose import with_article

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


def role_name(name: str) -> str:
    """The method of a role; stand-ins tell what they were asked beside it."""
    return (METHODS | {"asked", "record"}).escape(snake(name))


def member_type(context: Context, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(context.names.derived(member, ""), context.names.derived(family.name, ""))


def lookup_name(family: str) -> str:
    """The function that finds a member."""
    return f"{snake(family)}_for"


def role_fails(context: Context, family: Family, role: Role) -> bool:
    """Whether asking for one product can fail in some member; a list role is made of declared values."""
    members = (*family.members, *([family.stand_in] if family.stand_in is not None else []))
    products = [context.plan.product(m.parts[role.name][0].product) for m in members if not role.several]
    return any(context.code.fallible(product) for product in products)


def _view(context: Context, family: Family) -> View:
    type_ = context.names.type(family.name)
    words = " and ".join(spoken(role.name) for role in family.roles)
    unknown = family.unknown
    known = f"&[{', '.join(map(text_literal, family.known))}]"
    otherwise = {"error": f'Err(unknown("{family.name}", key, {known}))', "nothing": "None"}

    def entry(member: str) -> str:
        text = f"&{member_type(context, family, member)}"
        return {"error": f"Ok({text})", "nothing": f"Some({text})"}.get(unknown, text)

    return {
        "type": type_,
        "a": with_article(type_),
        "doc": family.doc or f"Makes {words} that fit together.",
        "function": lookup_name(family.name),
        "roles": [
            {
                "name": role_name(role.name),
                "role": role.name,
                "types": "()" if role.several else context.types(context.plan.products[role.product]),
                "doc": f"Makes the {spoken(role.name)}.",
                "parameters": _parameters(context, role),
                "result": _result(context, family, role),
                "many": _is_many(context, role),
            }
            for role in family.roles
        ],
        "said": family_of_unknown_key(family),
        "result": looked_up(f"&'static dyn {type_}", unknown, fails=unknown == "error"),
        "cases": [{"key": m.key, "made": entry(m.name)} for m in family.members if m.name != unknown],
        "otherwise": otherwise.get(unknown) or entry(unknown),
        "members": [_member(context, family, member) for member in family.members],
    }


def _is_many(context: Context, role: Role) -> bool:
    return not role.several and context.parameter_count(context.plan.products[role.product]) + 1 > 7


def _result(context: Context, family: Family, role: Role) -> str:
    part_type = context.owned_type(context.plan.products[role.product])
    return (
        f"Vec<{part_type}>" if role.several else creation(part_type, fails=role_fails(context, family, role))
    )


def _parameters(context: Context, role: Role) -> str:
    typed = "" if role.several else context.parameters(context.plan.products[role.product])
    return f", {typed}" if typed else ""


def _member(context: Context, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        role_parts = [(context.plan.product(part.product), part) for part in member.parts[role.name]]
        said = (
            " and ".join(with_article(context.names.type(product.name)) for product, _ in role_parts)
            or "none"
        )
        text = (
            _several(context, role, role_parts)
            if role.several
            else _one(context, family, role, *role_parts[0])
        )
        parts.append(
            {
                "name": role_name(role.name),
                "role": role.name,
                "said": said,
                "parameters": _parameters(context, role),
                "result": _result(context, family, role),
                "made": text,
                "many": _is_many(context, role),
            }
        )
    return {"type": member_type(context, family, member.name), "spoken": spoken(member.name), "parts": parts}


def _several(context: Context, role: Role, role_parts: list[tuple[Product, Part]]) -> str:
    type_ = ProductType(role.product)
    items = [
        context.code.within(p.name, context.code.struct(p, part.values), type_, shared=False)
        for p, part in role_parts
    ]
    return f"vec![{', '.join(items)}]" if items else "Vec::new()"


def _one(context: Context, family: Family, role: Role, product: Product, part: Part) -> str:
    base = context.plan.products[role.product]
    fallible = context.code.fallible(product)
    call = f"{context.names.type(product.name)}::new({_arguments(context, base, product, part.values)})"
    if product is base and fallible:
        return call
    part_call = f"{call}{'?' if fallible else ''}"
    part_call = context.code.within(product.name, part_call, ProductType(base.name), shared=False)
    return f"Ok({part_call})" if role_fails(context, family, role) else part_call


def _arguments(context: Context, base: Product, product: Product, values: Mapping[str, Value]) -> str:
    """The arguments of a part: the caller's are passed on, the member's are literals."""
    given = {field.name for field in base.fields}
    parts = [
        context.names.local(f.name) if f.name in given else _value(context, f, values[f.name])
        for f in product.required
    ]
    if not product.optional:
        return ", ".join(parts)
    code = context.code
    if context.code.hidden(product):
        parts += [_hidden_option(context, base, f, values) for f in product.optional]
        return ", ".join(parts)
    pairs = [
        f"{context.names.option(f.name)}: {_option(context, product, f, values[f.name])}"
        for f in product.optional
        if f.name in values
    ]
    if product is base and not pairs:
        parts.append("options")
    elif base.optional and product is not base:
        if not pairs:
            parts.append("options.into()")
        else:
            end = "" if len(pairs) == len(product.optional) else f", ..{code.options(product)}::from(options)"
            parts.append(f"{code.options(product)} {{ {', '.join(pairs)}{end} }}")
    else:
        parts.append(context.code_options(product, pairs))
    return ", ".join(parts)


def _hidden_option(context: Context, base: Product, field: Field, values: Mapping[str, Value]) -> str:
    if field.name in values:
        return f"Some({_value(context, field, values[field.name], owned=True)})"
    is_given = any(each.name == field.name for each in base.optional)
    return f"options.{context.names.option(field.name)}" if is_given else "None"


def _option(context: Context, product: Product, field: Field, value: Value) -> str:
    text = _value(context, field, value, owned=True)
    return text if context.code.plain_option(product, field) else f"Some({text})"


def _value(context: Context, field: Field, value: Value, *, owned: bool = False) -> str:
    if field.type == TEXT and isinstance(value, Text) and not owned:
        return text_literal(value.text)
    return context.code.value(value, field.type, shared=context.code.shared(field))
