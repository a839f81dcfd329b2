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
    typed = _typed(context, product, factory)
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
            "errors": _errors(lookup, fallible, factory),
            "create_errors": f"{_refusal(factory)}.",
            "source": "its record" if factory.needs_more else "the fields that all kinds have",
            "said": of_unknown_key(lookup, f"[`{names.type(lookup)}`]"),
            "more": "".join(f", {name}: {type_}" for name, type_ in typed),
            "many": len(typed) + 2 > 7,
            "passed": _passed(context, product, factory),
            "loaded": beside("loaded", (name for name, _ in typed)),
            "types": ", ".join(type_ for _, type_ in typed),
            "kinds": kinds,
            "variants": [_variant(context, product, factory, name, fallible) for name in product.variants]
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


def _typed(context: Context, product: Product, factory: Factory) -> list[tuple[str, str]]:
    """What makers take: the fields of all kinds, or a record of those of one."""
    return [("record", "&records::Value")] if factory.needs_more else context.typed_parameters(product)


def _passed(context: Context, product: Product, factory: Factory) -> str:
    return ", ".join(name for name, _ in _typed(context, product, factory))


def _errors(unknown: str, fallible: bool, factory: Factory) -> str:
    """What a lookup fails with."""
    said = ["`CreationError::UnknownKey` if no kind has this key"] if unknown == "error" else []
    return ", or ".join([*said, *([_refusal(factory)] if fallible else [])]) + "."


def _refusal(factory: Factory) -> str:
    """What making a kind fails with."""
    if factory.needs_more:
        return "`CreationError::Maker` with the `RecordError` that tells what is wrong with the record"
    return "`CreationError::Limit` for the first broken limit"


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
    """Whether making some kind can fail; makers of a registry may always, and so does what reads records."""
    variants = [context.plan.products[name] for name in product.variants]
    return factory.needs_more or factory.form == "registry" or any(map(context.code.fallible, variants))


def _construction(context: Context, product: Product, name: str, needs_more: bool) -> str:
    """The call that makes a kind from the parameters of all kinds."""
    variant = context.plan.products[name]
    type_ = context.names.type(name)
    if needs_more:
        return _wrapped(context, product, type_, f"records::read_{snake(name)}(record)?")
    arguments = [context.names.local(f.name) for f in variant.required]
    if variant.optional:
        options = context.code.options(variant)
        arguments.append("options.into()" if product.optional else f"{options}::default()")
    call = f"{type_}::new({', '.join(arguments)}){'?' if context.code.fallible(variant) else ''}"
    return _wrapped(context, product, type_, call)


def _wrapped(context: Context, product: Product, type_: str, call: str) -> str:
    """One of a kind as one of its base."""
    if context.code.is_open(product):
        return f"Box::new({call})"
    return f"{context.names.type(product.name)}::{type_}({call})"


def _kind(
    context: Context, product: Product, factory: Factory, key: str, name: str, fallible: bool
) -> dict[str, object]:
    variant = context.plan.products[name]
    type_ = context.names.type(name)
    call = _construction(context, product, name, factory.needs_more)
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


def _variant(
    context: Context, product: Product, factory: Factory, name: str, fallible: bool
) -> dict[str, str]:
    call = _construction(context, product, name, factory.needs_more)
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
    call = _construction(context, product, factory.unknown, factory.needs_more)
    return f"Ok({call})" if fallible else call


def _from_maker(context: Context, product: Product, factory: Factory) -> str:
    call = f"maker({_passed(context, product, factory)})"
    return f"{call}.map(Some)" if factory.unknown == "nothing" else call


def factory_registration(context: Context, product: Product, factory: Factory, variant: str) -> str:
    """A maker of a variant, as somebody else would register it."""
    made = _construction(context, product, variant, factory.needs_more)
    return f"|{_passed(context, product, factory)}| Ok({made})"
