"""Exemplars and pools in Rust."""

from __future__ import annotations

from collections.abc import Sequence

from urform.declaration.types import TEXT, ProductType
from urform.languages.naming.names import STORE_NAMES, beside, snake, spoken
from urform.languages.rust.context import Context
from urform.languages.rust.copies import duplicating
from urform.languages.rust.members import pair
from urform.plan.model import Field, Pool, Product, Prototype
from urform.prose import with_article

WIDEST = 12  # of tuples that can be keys


def exemplars_text(context: Context, product: Product, prototype: Prototype) -> str:
    """The store of a product's exemplars."""
    type_ = context.names.type(product.name)
    local = beside(context.names.local(snake(product.name)), STORE_NAMES)
    entries = [
        {"name": e.name, "made": context.code.value(e.product, ProductType(product.name))}
        for e in prototype.exemplars
    ]
    return context.templates.render(
        "exemplars",
        product.name,
        e={
            "type": type_,
            "stem": context.names.derived(product.name, ""),
            "held": context.owned_type(product),
            "borrowed": context.code.borrowed(ProductType(product.name)),
            "owner": product.name,
            "local": local,
            "exemplars": entries,
            "clone": duplicating(context.code, product),
            "given_clone": "boxed_clone"
            if _is_open_copy(context, product)
            else duplicating(context.code, product),
        },
    )


def _is_open_copy(context: Context, product: Product) -> bool:
    """Whether a reference to a trait is cloned, of which nothing starts again."""
    return context.code.is_open(product) and not context.plan.restarts(product)


def pool_text(context: Context, product: Product, pool: Pool) -> str:
    """The pool of a product."""
    names, code = context.names, context.code
    type_ = names.type(product.name)
    fields = [product.field(name) for name in pool.key]
    locals_ = [names.local(field.name) for field in fields]
    words = " and ".join(spoken(name) for name in pool.key)
    typed = [f"{n}: {code.parameter(f.type)}" for n, f in zip(locals_, fields, strict=True)]
    owned = [f"{n}.to_owned()" if f.type == TEXT else n for n, f in zip(locals_, fields, strict=True)]
    plain = f"{type_}::new({_plain(context, product, pool)})"
    differs = " || ".join(f"made.{names.stored(f.name)} != {n}" for n, f in zip(locals_, fields, strict=True))
    return context.templates.render(
        "pool",
        product.name,
        p={
            "type": type_,
            "stem": names.derived(product.name, ""),
            "a": with_article(type_),
            "owner": product.name,
            "words": words,
            "weak": pool.weak,
            "needs_maker": pool.needs_maker,
            "typed": ", ".join(typed),
            "types": ", ".join(code.parameter(f.type) for f in fields),
            "key_type": _tuple([code.type(field.type) for field in fields]),
            "key": _tuple(owned),
            "key_name": "key" if "key" not in locals_ else f"{'_'.join(locals_)}_key",
            "locals": ", ".join(locals_),
            "maker_locals": ", ".join(locals_),
            "derived": _derived(context, product, locals_, plain),
            "differs": differs,
        },
    )


def _tuple(parts: Sequence[str]) -> str:
    """A tuple, or tuples in one: the standard library has hashes for no more than twelve parts."""
    if len(parts) > WIDEST:
        parts = [_tuple(parts[at : at + WIDEST]) for at in range(0, len(parts), WIDEST)]
    return f"({', '.join(parts)}{',' if len(parts) == 1 else ''})"


def _derived(context: Context, product: Product, locals_: list[str], plain: str) -> str:
    """The derived maker: the constructor itself where it takes the key and nothing else."""
    passed = ", ".join(locals_)
    if not context.code.fallible(product):
        return f"|{passed}| Ok({plain})"
    constructor = f"{context.names.type(product.name)}::new"
    return constructor if plain == f"{constructor}({passed})" else f"|{passed}| {plain}"


def _plain(context: Context, product: Product, pool: Pool) -> str:
    """The arguments of the derived maker: the key, and nothing else."""
    given = [context.names.local(field.name) for field in product.required]
    if not product.optional:
        return ", ".join(given)
    pairs = [
        pair(context.names.option(f.name), _as_option(context, f))
        for f in product.optional
        if f.name in pool.key
    ]
    return ", ".join([*given, context.code_options(product, pairs)])


def _as_option(context: Context, field: Field) -> str:
    local = context.names.local(field.name)
    return f"{local}.to_owned()" if field.type == TEXT else local
