"""What stands beside a product in C++: its registry, its builder, its exemplars, its pool; each with header and source."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.dataclasses import dataclass
from urform.declaration.types import ProductType
from urform.languages.cpp.builders import builder_view, typed_view
from urform.languages.cpp.context import Context
from urform.languages.cpp.copies import duplicating
from urform.languages.cpp.expressions import moved
from urform.languages.cpp.factories import factory_view
from urform.languages.naming.names import STORE_NAMES, beside, snake, spoken
from urform.plan.model import Builder, Factory, Pool, Product, Prototype
from urform.prose import with_article

View = dict[str, object]


@dataclass(frozen=True, slots=True)
class Pair:
    """What has a header and a source of its own: their name, what one declares, what the other defines."""

    file: str
    header: str
    source: str


def pairs_beside(context: Context, product: Product) -> Iterator[Pair]:
    """Everything that has files of its own."""
    plan, name = context.plan, product.name
    factory = plan.factory_of(name)
    if factory is not None and factory.form == "registry":
        yield _rendered(context, product, "registry", g=_registry(context, product, factory))
    if (builder := plan.builder_of(name)) is not None:
        pair = _rendered(context, product, "builder", b=builder_view(context, product, builder))
        yield _typed(context, product, builder, pair) if builder.typed else pair
    prototype = plan.prototype_of(name)
    if prototype is not None and prototype.exemplars:
        yield _rendered(context, product, "exemplars", e=_exemplars(context, product, prototype))
    if (pool := plan.pool_of(name)) is not None:
        yield _rendered(context, product, "pool", p=_pool(context, product, pool))


def _typed(context: Context, product: Product, builder: Builder, parts: Pair) -> Pair:
    """A builder whose type tells what it was given stands in the header, below what collects its parts."""
    text = context.templates.render("builder_typed", product.name, t=typed_view(context, product, builder))
    return replace(parts, header=f"{parts.header}{text}")


def _rendered(context: Context, product: Product, kind: str, **views: View) -> Pair:
    header = context.templates.render(f"{kind}_header", product.name, **views)
    source = context.templates.render(f"{kind}_source", product.name, **views)
    return Pair(f"{snake(product.name)}_{kind}", header, source)


def _registry(context: Context, product: Product, factory: Factory) -> View:
    view = factory_view(context, product)
    assert view is not None, f"{product.name} has a registry"
    return view


def _exemplars(context: Context, product: Product, prototype: Prototype) -> View:
    type_ = context.names.type(product.name)
    owned = context.code.type(ProductType(product.name))
    method = duplicating(context, product)
    return {
        "type": type_,
        "stem": context.names.derived(product.name, "Exemplars"),
        "export": context.export,
        "owner": product.name,
        "held": owned,
        "made": context.code.owned_type(product),
        "local": beside(context.names.local(snake(product.name)), STORE_NAMES),
        "of_held": f"found->second{'->' if product.abstract else '.'}{method}()"
        if method
        else "found->second",
        "of_given": f".{method}()" if method else "",
        "exemplars": [
            {"name": e.name, "made": context.code.value(e.product, ProductType(product.name))}
            for e in prototype.exemplars
        ],
    }


def _pool(context: Context, product: Product, pool: Pool) -> View:
    names, code = context.names, context.code
    type_ = names.type(product.name)
    fields = [product.field(name) for name in pool.key]
    locals_ = [names.local(field.name) for field in fields]
    typed = [(n, code.type(f.type)) for n, f in zip(locals_, fields, strict=True)]
    referred = [
        f"const {t} &{n}" if f.type == fields[at].type and not _plain(t) else f"{t} {n}"
        for at, ((n, t), f) in enumerate(zip(typed, fields, strict=True))
    ]
    given = [moved(f, n) for f, n in zip(fields, locals_, strict=True) if f.required]
    differs = " || ".join(
        f"made.{context.method(product, f.name)}() != {n}" for f, n in zip(fields, locals_, strict=True)
    )
    required = [names.local(f.name) for f in product.required]
    pairs = [
        f".{names.option(f.name)} = {names.local(f.name)}" for f in product.optional if f.name in pool.key
    ]
    plain = ", ".join([*required, *([f"{{{', '.join(pairs)}}}"] if pairs else [])])
    return {
        "type": type_,
        "stem": names.derived(product.name, "Pool"),
        "export": context.export,
        "a": with_article(type_),
        "owner": product.name,
        "words": " and ".join(spoken(name) for name in pool.key),
        "weak": "true" if pool.weak else "false",
        "lasting": ", for as long as something else holds it" if pool.weak else "",
        "needs_maker": pool.needs_maker,
        "types": ", ".join(f"const {t} &" if not _plain(t) else t for _, t in typed),
        "parameters": ", ".join(referred),
        "key_type": f"std::tuple<{', '.join(t for _, t in typed)}>",
        "key": f"std::forward_as_tuple({', '.join(locals_)})",
        "looked_up": ", ".join(f"{t if _plain(t) else 'std::string_view'} {n}" for n, t in typed),
        "passed": ", ".join(n if _plain(t) else f"{t}({n})" for n, t in typed),
        "plain": f"{type_}({plain})",
        "differs": differs,
        "given": given,
    }


def _plain(type_: str) -> bool:
    return type_ != "std::string"
