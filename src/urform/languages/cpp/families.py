"""Families in C++: an abstract class with a lookup, a final class a member, and stand-ins for clients' own tests."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from urform.declaration.types import ProductType
from urform.declaration.values import Value
from urform.languages.cpp.expressions import text_literal
from urform.languages.cpp.members import moved
from urform.languages.cpp.names import METHODS
from urform.languages.naming.names import of_family, snake, spoken, with_article
from urform.plan.model import Family, Member, Part, Product, Role

if TYPE_CHECKING:
    from urform.languages.cpp.emitter import Emitter

View = dict[str, object]
SAID = {"error": "an unknown key is refused", "nothing": "null for an unknown key"}


def role_name(name: str) -> str:
    """The member of a role."""
    return METHODS.escape(snake(name))


def member_type(emitter: Emitter, family: Family, member: str) -> str:
    """`IceOutfit`."""
    return of_family(emitter.names.derived(member, ""), emitter.names.derived(family.name, ""))


def family_view(emitter: Emitter, family: Family) -> View:
    """What the templates ask of a family."""
    type_ = emitter.names.type(family.name)
    words = " and ".join(spoken(role.name) for role in family.roles)
    unknown = family.unknown
    nothing = unknown == "nothing"
    known = f"{{{', '.join(map(text_literal, family.known))}}}"
    otherwise = {
        "error": f'throw UnknownKeyError("{family.name}", std::string(key), {known})',
        "nothing": "return nullptr",
    }
    found = "&" if nothing else ""
    return {
        "type": type_,
        "a": with_article(type_),
        "doc": family.doc or f"Makes {words} that fit together.",
        "roles": [
            {
                "name": role_name(role.name),
                "doc": f"Makes the {spoken(role.name)}.",
                "declared": _parameters(emitter, role),
                "result": _result(emitter, role),
            }
            for role in family.roles
        ],
        "said": SAID.get(unknown) or f"the one for {spoken(unknown)} for an unknown key",
        "function": "find" if nothing else "of",
        "result": f"const {type_} {'*' if nothing else '&'}",
        "cases": [
            {"key": m.key, "type": member_type(emitter, family, m.name), "found": found}
            for m in family.members
            if m.name != unknown
        ],
        "otherwise": otherwise.get(unknown),
        "other": member_type(emitter, family, unknown) if unknown not in otherwise else None,
        "members": [_member(emitter, family, member) for member in family.members],
        "stand_in": _member(emitter, family, family.stand_in) if family.stand_in is not None else None,
    }


def _result(emitter: Emitter, role: Role) -> str:
    product = emitter.plan.products[role.product]
    if role.several:
        return f"std::vector<{emitter.code.type(ProductType(product.name))}>"
    return emitter.code.made(product)


def _parameters(emitter: Emitter, role: Role) -> str:
    return "" if role.several else emitter.parameters(emitter.plan.products[role.product])


def _member(emitter: Emitter, family: Family, member: Member) -> View:
    parts = []
    for role in family.roles:
        made = [(emitter.plan.product(part.product), part) for part in member.parts[role.name]]
        said = " and ".join(with_article(emitter.names.type(product.name)) for product, _ in made) or "none"
        parts.append(
            {
                "name": role_name(role.name),
                "role": role.name,
                "said": said,
                "declared": _parameters(emitter, role),
                "result": _result(emitter, role),
                "made": _several(emitter, role, made) if role.several else _one(emitter, role, *made[0]),
            }
        )
    return {"type": member_type(emitter, family, member.name), "spoken": spoken(member.name), "parts": parts}


def _several(emitter: Emitter, role: Role, made: list[tuple[Product, Part]]) -> str:
    items = [emitter.code.product(product.name, part.values) for product, part in made]
    if any(emitter.code.hidden(product) for product, _ in made):
        items = [_hidden(emitter, role, product, part) for product, part in made]
    return f"{{{', '.join(items)}}}"


def _hidden(emitter: Emitter, role: Role, product: Product, part: Part) -> str:
    base = emitter.names.type(role.product)
    parts = [_value(emitter, product, f.name, part.values) for f in (*product.required, *product.optional)]
    return f"std::unique_ptr<{base}>(new {emitter.names.type(product.name)}({', '.join(parts)}))"


def _value(emitter: Emitter, product: Product, name: str, values: Mapping[str, Value]) -> str:
    field = product.field(name)
    if name not in values:
        return "std::nullopt"
    return emitter.code.value(values[name], field.type, shared=emitter.code.shared(field))


def _one(emitter: Emitter, role: Role, product: Product, part: Part) -> str:
    base = emitter.plan.products[role.product]
    type_ = emitter.names.type(product.name)
    if emitter.code.hidden(product):
        given = {f.name for f in base.fields}
        arguments = []
        for field in (*product.required, *product.optional):
            if field.name in given and field.name not in part.values:
                local = emitter.names.local(field.name)
                arguments.append(
                    moved(field, local if field.required else f"options.{emitter.names.option(field.name)}")
                )
            else:
                arguments.append(_value(emitter, product, field.name, part.values))
        return f"std::unique_ptr<{emitter.names.type(base.name)}>(new {type_}({', '.join(arguments)}))"
    call = _arguments(emitter, base, product, part.values)
    return f"std::make_unique<{type_}>({call})" if base.abstract else f"{type_}({call})"


def _arguments(emitter: Emitter, base: Product, product: Product, values: Mapping[str, Value]) -> str:
    """What the caller of a role gives is passed on, what the member gives is written down."""
    given = {field.name for field in base.fields}
    parts = [
        moved(f, emitter.names.local(f.name)) if f.name in given else _value(emitter, product, f.name, values)
        for f in product.required
    ]
    if not product.optional:
        return ", ".join(parts)
    fixed = [name for name in values if not product.field(name).required]
    if product is base and not fixed:
        return ", ".join([*parts, "std::move(options)"])
    options = emitter.code.options(product)
    start = (
        f"{options}::from(std::move(options))" if base.optional and product is not base else f"{options}{{}}"
    )
    if product is base:
        start = "std::move(options)"
    if not fixed:
        return ", ".join([*parts, start])
    lines = "".join(
        f"own.{emitter.names.option(name)} = {_value(emitter, product, name, values)}; " for name in fixed
    )
    capture = "&" if "options" in start and "{}" not in start else ""
    return ", ".join([*parts, f"[{capture}] {{ auto own = {start}; {lines}return own; }}()"])
