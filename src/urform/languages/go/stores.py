"""Exemplars and pools in Go."""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.languages.go.context import Context
from urform.languages.go.views import joined, types_of
from urform.languages.layout.columns import TAB
from urform.languages.naming.names import STORE_NAMES, beside, camel, spoken
from urform.plan.model import Pool, Product, Prototype

if TYPE_CHECKING:
    from urform.languages.go.names import Names


def store_receiver(names: Names, product: Product) -> str:
    """The receiver name of a store's methods; it differs from the product that they take."""
    return "e" if names.local(camel(product.name)) != "e" else "exemplars"


def pool_receiver(names: Names, pool: Pool) -> str:
    """The receiver name of a pool's methods; it differs from the parts of its key."""
    taken = {names.local(name) for name in pool.key}
    return next(name for name in ("p", "pool", "self") if name not in taken)


def exemplars_text(context: Context, product: Product, prototype: Prototype) -> str:
    """The store of a product's exemplars."""
    type_ = context.names.type(product.name)
    variable = beside(context.names.local(camel(product.name)), STORE_NAMES)
    elided = "" if product.abstract else f"&{type_}"  # the literal of the map tells the type
    return context.templates.render(
        "exemplars",
        product.name,
        e={
            "type": type_,
            "pointer": type_ if product.abstract else f"*{type_}",
            "owner": product.name,
            "variable": variable,
            "receiver": store_receiver(context.names, product),
            "held": [
                {"name": e.name, "made": context.code.value(e.product).removeprefix(elided)}
                for e in prototype.exemplars
            ],
        },
    )


def pool_text(context: Context, product: Product, pool: Pool) -> str:
    """The pool of a product."""
    names, code = context.names, context.code
    type_ = names.type(product.name)
    fields = [product.field(name) for name in pool.key]
    locals_ = [names.local(field.name) for field in fields]
    stored = [f"made.{names.stored(field.name)}" for field in fields]
    several = len(fields) > 1
    key_type = f"{camel(product.name)}Key" if several else code.type(fields[0].type)
    words = " and ".join(spoken(name) for name in pool.key)
    lasting = ", for as long as something else holds it" if pool.weak else ""
    struct = [f"{names.stored(f.name)}{TAB}{code.type(f.type)}" for f in fields] if several else []
    plain = f"{context.constructor(product)}({_plain(context, product, pool)})"
    return context.templates.render(
        "pool",
        product.name,
        p={
            "type": type_,
            "owner": product.name,
            "receiver": pool_receiver(names, pool),
            "doc": f"{type_}Pool gives one {type_} for each {words}{lasting}. It is safe for concurrent use.",
            "weak": pool.weak,
            "needs_maker": pool.needs_maker,
            "parameters": joined([(n, code.type(f.type)) for n, f in zip(locals_, fields, strict=True)]),
            "calls": types_of([("", code.type(f.type)) for f in fields]),
            "types_only": ", ".join(code.type(f.type) for f in fields),
            "key_type": key_type,
            "key_struct": struct,
            "key": f"{key_type}{{{', '.join(locals_)}}}" if several else locals_[0],
            "passed": ", ".join(locals_),
            "differs": f"{key_type}{{{', '.join(stored)}}} != key"
            if several
            else f"{stored[0]} != {locals_[0]}",
            "plain": plain if code.fallible(product) else f"{plain}, nil",
        },
    )


def _plain(context: Context, product: Product, pool: Pool) -> str:
    """The arguments of the derived maker: the key, and nothing else."""
    given = [context.names.local(field.name) for field in product.required]
    if not product.optional:
        return ", ".join(given)
    pairs = []
    for field in product.optional:
        if field.name in pool.key:
            local = context.names.local(field.name)
            pointer = "&" if context.code.is_pointer(field) else ""
            pairs.append(f"{context.names.exported(field.name)}: {pointer}{local}")
    return ", ".join([*given, f"{context.names.type(product.name)}Options{{{', '.join(pairs)}}}"])
