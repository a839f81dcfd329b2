"""Factories by key in Rust: a function, an enum of kinds, or a registry."""

from __future__ import annotations

from urform.languages.naming.names import beside, snake
from urform.languages.rendering.prose import of_unknown_key
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import text_literal
from urform.plan.model import Factory, Product


def factory_text(context: Context, product: Product, factory: Factory) -> str:
    """The factory of an abstract product."""
    names = context.names
    type_ = names.type(product.name)
    fallible = creating_fails(context, product, factory)
    lookup = factory.unknown
    creators = factory.form == "creators"
    otherwise = _otherwise(context, product, factory, fallible)
    kinds = [_kind(context, product, factory, key, name, fallible) for key, name in factory.kinds.items()]
    return context.templates.render(
        "factory",
        product.name,
        g={
            "form": factory.form,
            "type": type_,
            "stem": names.derived(product.name, ""),
            "owner": product.name,
            "function": function_of(product),
            "made": context.owned_type(product),
            "errors": _errors(lookup, fallible),
            "said": of_unknown_key(lookup, f"[`{names.type(lookup)}`]"),
            "parameters": context.parameters(product),
            "more": f", {context.parameters(product)}" if product.fields else "",
            "many": context.parameter_count(product) + 2 > 7,
            "passed": context.arguments(product),
            "loaded": beside("loaded", (name for name, _ in context.typed_parameters(product))),
            "types": ", ".join(type_ for _, type_ in context.typed_parameters(product)),
            "kinds": kinds,
            "variants": [_variant(context, product, name, fallible) for name in product.variants]
            if creators
            else [],
            "cases": [kind for kind in kinds if kind["variant"] != lookup],
            "create_result": creation(context.owned_type(product), fails=fallible),
            "result": looked_up(
                "Self" if creators else context.owned_type(product),
                lookup,
                fails=(fallible and not creators) or lookup == "error",
            ),
            "otherwise": otherwise,
            "from_maker": _from_maker(context, product, factory),
        },
    )


def _errors(unknown: str, fallible: bool) -> str:
    """What a lookup fails with."""
    said = ["`CreationError::UnknownKey` if no kind has this key"] if unknown == "error" else []
    return (
        ", or ".join([*said, *(["`CreationError::Limit` for the first broken limit"] if fallible else [])])
        + "."
    )


def function_of(product: Product) -> str:
    """The function that makes one of a product by its key, or by values."""
    return f"make_{snake(product.name)}"


def creation(type_: str, *, fails: bool) -> str:
    """What makes something that may be refused."""
    return f"Creation<{type_}>" if fails else type_


def looked_up(type_: str, unknown: str, *, fails: bool) -> str:
    """The expression that a lookup returns."""
    return creation(f"Option<{type_}>" if unknown == "nothing" else type_, fails=fails)


def creating_fails(context: Context, product: Product, factory: Factory) -> bool:
    """Whether making some kind can fail; makers of a registry may always."""
    variants = [context.plan.products[name] for name in product.variants]
    return factory.form == "registry" or any(map(context.code.fallible, variants))


def _construction(context: Context, product: Product, name: str) -> str:
    """The call that makes a kind from the parameters of all kinds."""
    variant = context.plan.products[name]
    type_ = context.names.type(name)
    arguments = [context.names.local(f.name) for f in variant.required]
    if variant.optional:
        options = context.code.options(variant)
        arguments.append("options.into()" if product.optional else f"{options}::default()")
    call = f"{type_}::new({', '.join(arguments)}){'?' if context.code.fallible(variant) else ''}"
    if context.code.is_open(product):
        return f"Box::new({call})"
    return f"{context.names.type(product.name)}::{type_}({call})"


def _kind(
    context: Context, product: Product, factory: Factory, key: str, name: str, fallible: bool
) -> dict[str, object]:
    variant = context.plan.products[name]
    type_ = context.names.type(name)
    call = _construction(context, product, name)
    result = f"Some({call})" if factory.unknown == "nothing" else call
    fails = fallible or factory.unknown == "error"
    kind = f"Self::{type_}"
    chosen = f"Some({kind})" if factory.unknown == "nothing" else kind
    return {
        "variant": name,
        "type": type_,
        "key": f"{type_}::KEY" if variant.key == key else text_literal(key),
        "made": f"Ok({result})" if fails else result,
        "chosen": f"Ok({chosen})" if factory.unknown == "error" else chosen,
        "maker": f"Ok({call})",
    }


def _variant(context: Context, product: Product, name: str, fallible: bool) -> dict[str, str]:
    call = _construction(context, product, name)
    return {"type": context.names.type(name), "made": f"Ok({call})" if fallible else call}


def _otherwise(context: Context, product: Product, factory: Factory, fallible: bool) -> str:
    creators = factory.form == "creators"
    if factory.unknown == "error":
        known = (
            "&self.keys()"
            if factory.form == "registry"
            else f"&[{', '.join(map(text_literal, factory.known))}]"
        )
        return f'Err(unknown("{product.name}", key, {known}))'
    if factory.unknown == "nothing":
        return "Ok(None)" if fallible and not creators else "None"
    if creators:
        return f"Self::{context.names.type(factory.unknown)}"
    call = _construction(context, product, factory.unknown)
    return f"Ok({call})" if fallible else call


def _from_maker(context: Context, product: Product, factory: Factory) -> str:
    call = f"maker({context.arguments(product)})"
    return f"{call}.map(Some)" if factory.unknown == "nothing" else call


def factory_registration(context: Context, product: Product, variant: str) -> str:
    """A maker of a variant, as somebody else would register it."""
    return f"|{context.arguments(product)}| Ok({_construction(context, product, variant)})"
