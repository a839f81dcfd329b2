"""Families in C++: an abstract class with a lookup, a final class a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Mapping

from urform.declaration.types import ProductType
from urform.declaration.values import Value
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import moved, text_literal
from urform.languages.cpp.names import METHODS
from urform.languages.naming.names import of_family, snake, spoken
from urform.languages.rendering.prose import family_of_unknown_key
from urform.plan.model import Family, Member, Part, Product, Role
from urform.prose import with_article

View = dict[str, object]


def role_name(name: str) -> str:
    """The member of a role."""
    return METHODS.escape(snake(name))


def member_type(context: Context, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(context.names.derived(member, ""), context.names.derived(family.name, ""))


def family_view(context: Context, family: Family) -> View:
    """The view of a family that its templates show."""
    type_ = context.names.type(family.name)
    words = " and ".join(spoken(role.name) for role in family.roles)
    unknown = family.unknown
    nothing = unknown == "nothing"
    known = f"{{{', '.join(map(text_literal, family.known))}}}"
    otherwise = {
        "error": f'throw UnknownKeyError("{family.name}", std::string(key), {known})',
        "nothing": "return nullptr",
    }
    address_of = "&" if nothing else ""
    return {
        "type": type_,
        "export": context.export,
        "a": with_article(type_),
        "doc": family.doc or f"Makes {words} that fit together.",
        "roles": [
            {
                "name": role_name(role.name),
                "role": role.name,
                "types": ""
                if role.several
                else context.forms("", context.typed_parameters(context.plan.products[role.product]))[0],
                "doc": f"Makes the {spoken(role.name)}.",
                "declared": _parameters(context, role),
                "result": _result(context, role),
            }
            for role in family.roles
        ],
        "said": family_of_unknown_key(family, "null"),
        "function": "find" if nothing else "of",
        "result": f"const {type_} {'*' if nothing else '&'}",
        "cases": [
            {"key": m.key, "type": member_type(context, family, m.name), "found": address_of}
            for m in family.members
            if m.name != unknown
        ],
        "otherwise": otherwise.get(unknown),
        "other": member_type(context, family, unknown) if unknown not in otherwise else None,
        "members": [_member(context, family, member) for member in family.members],
        "stand_in": _member(context, family, family.stand_in) if family.stand_in is not None else None,
    }


def _result(context: Context, role: Role) -> str:
    product = context.plan.products[role.product]
    if role.several:
        return f"std::vector<{context.code.type(ProductType(product.name))}>"
    return context.code.owned_type(product)


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
                "name": role_name(role.name),
                "role": role.name,
                "said": said,
                "declared": _parameters(context, role),
                "result": _result(context, role),
                "made": _several(context, role, role_parts)
                if role.several
                else _one(context, role, *role_parts[0]),
            }
        )
    return {"type": member_type(context, family, member.name), "spoken": spoken(member.name), "parts": parts}


def _several(context: Context, role: Role, role_parts: list[tuple[Product, Part]]) -> str:
    items = [context.code.product(product.name, part.values) for product, part in role_parts]
    if any(context.code.hidden(product) for product, _ in role_parts):
        items = [_hidden(context, role, product, part) for product, part in role_parts]
    return f"{{{', '.join(items)}}}"


def _hidden(context: Context, role: Role, product: Product, part: Part) -> str:
    base = context.names.type(role.product)
    parts = [_value(context, product, f.name, part.values) for f in (*product.required, *product.optional)]
    return f"std::unique_ptr<{base}>(new {context.names.type(product.name)}({', '.join(parts)}))"


def _value(context: Context, product: Product, name: str, values: Mapping[str, Value]) -> str:
    field = product.field(name)
    if name not in values:
        return "std::nullopt"
    return context.code.value(values[name], field.type, shared=context.code.shared(field))


def _one(context: Context, role: Role, product: Product, part: Part) -> str:
    base = context.plan.products[role.product]
    type_ = context.names.type(product.name)
    if context.code.hidden(product):
        given = {f.name for f in base.fields}
        arguments = []
        for field in (*product.required, *product.optional):
            if field.name in given and field.name not in part.values:
                local = context.names.local(field.name)
                arguments.append(
                    moved(field, local if field.required else f"options.{context.names.option(field.name)}")
                )
            else:
                arguments.append(_value(context, product, field.name, part.values))
        return f"std::unique_ptr<{context.names.type(base.name)}>(new {type_}({', '.join(arguments)}))"
    call = _arguments(context, base, product, part.values)
    return f"std::make_unique<{type_}>({call})" if base.abstract else f"{type_}({call})"


def _arguments(context: Context, base: Product, product: Product, values: Mapping[str, Value]) -> str:
    """The arguments of a part: the caller's are passed on, the member's are literals."""
    given = {field.name for field in base.fields}
    parts = [
        moved(f, context.names.local(f.name)) if f.name in given else _value(context, product, f.name, values)
        for f in product.required
    ]
    if not product.optional:
        return ", ".join(parts)
    fixed = [name for name in values if not product.field(name).required]
    if product is base and not fixed:
        return ", ".join([*parts, "std::move(options)"])
    options = context.code.options(product)
    start = (
        f"{options}::from(std::move(options))" if base.optional and product is not base else f"{options}{{}}"
    )
    if product is base:
        start = "std::move(options)"
    if not fixed:
        return ", ".join([*parts, start])
    lines = "".join(
        f"own.{context.names.option(name)} = {_value(context, product, name, values)}; " for name in fixed
    )
    capture = "&" if "options" in start and "{}" not in start else ""
    return ", ".join([*parts, f"[{capture}] {{ auto own = {start}; {lines}return own; }}()"])
