"""Exemplars and pools in Java: classes of their own."""

from __future__ import annotations

from collections.abc import Iterator

from urform.languages.java.context import Context
from urform.languages.java.docs import as_parameter, param_tags
from urform.languages.naming.names import STORE_NAMES, article, beside, camel, spoken
from urform.plan.model import Pool, Product, Prototype


def store_sources(context: Context, product: Product) -> Iterator[tuple[str, str]]:
    """The names and texts of the classes beside a product."""
    type_ = context.names.type(product.name)
    prototype = context.plan.prototype_of(product.name)
    if prototype is not None and prototype.exemplars:
        yield f"{type_}Exemplars", _exemplars(context, product, prototype)
    pool = context.plan.pool_of(product.name)
    if pool is not None:
        yield f"{type_}Pool", _pool(context, product, pool)


def _exemplars(context: Context, product: Product, prototype: Prototype) -> str:
    return context.templates.render(
        "exemplars",
        product.name,
        e={
            "type": context.names.type(product.name),
            "owner": product.name,
            "plural": f"{spoken(product.name)}s",
            "variable": beside(context.names.member(camel(product.name)), STORE_NAMES | {"held"}),
            "held": [{"name": e.name, "made": context.code.value(e.product)} for e in prototype.exemplars],
        },
    )


def _pool(context: Context, product: Product, pool: Pool) -> str:
    code, names = context.code, context.names
    fields = [product.field(name) for name in pool.key]
    members = [names.member(field.name) for field in fields]
    type_ = names.type(product.name)
    words = " and ".join(spoken(name) for name in pool.key)
    lasting = ", for as long as something else holds it" if pool.weak else ""
    return context.templates.render(
        "pool",
        product.name,
        p={
            "type": type_,
            "owner": product.name,
            "a": article(product.name),
            "doc": f"One {spoken(product.name)} for each {words}{lasting}. Safe for concurrent use.",
            "weak": pool.weak,
            "needs_maker": pool.needs_maker,
            "parameters": ", ".join(
                f"{code.plain(f.type)} {m}" for f, m in zip(fields, members, strict=True)
            ),
            "types": f"({', '.join(code.plain(f.type) for f in fields)})",
            "takes": [as_parameter(f, m) for f, m in zip(fields, members, strict=True)],
            "key_tags": param_tags([as_parameter(f, m) for f, m in zip(fields, members, strict=True)]),
            "passed": ", ".join(members),
            "key": beside("key", members),
            "found": beside("found", members),
            "reused": "this.reused" if "reused" in members else "reused",
            "of_key": ", ".join(f"key.{member}()" for member in members),
            "of_made": ", ".join(f"product.{member}()" for member in members),
            "plain": _plain(context, product, pool, members),
        },
    )


def _plain(context: Context, product: Product, pool: Pool, members: list[str]) -> str:
    """The derived maker: a constructor where the key is its parameters, else a lambda."""
    type_ = context.names.type(product.name)
    if tuple(field.name for field in product.required) == pool.key:
        return f"{type_}::new"
    required = ", ".join(context.names.member(field.name) for field in product.required)
    optional = [field for field in product.optional if field.name in pool.key]
    options = "".join(f".{context.names.member(f.name)}({context.names.member(f.name)})" for f in optional)
    given = ", ".join(
        part for part in (required, f"new {type_}.Options(){options}" if options else "") if part
    )
    return f"({', '.join(members)}) -> new {type_}({given})"
