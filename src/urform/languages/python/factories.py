"""Factories by key in Python."""

from __future__ import annotations

from collections.abc import Sequence

from urform.languages.naming.names import article, snake, spoken
from urform.languages.python.context import Context
from urform.languages.python.expressions import key_type, text_literal
from urform.languages.python.views import FieldView
from urform.languages.rendering.prose import of_unknown_key
from urform.plan.model import Factory, Field, Product


def factory_text(context: Context, product: Product, factory: Factory) -> str:
    """A function, a registry, or creators, with the fields that every kind can be given."""
    type_ = context.names.value(product.name)
    kinds = [
        {
            "key": f"{context.names.type(variant)}.key"
            if context.plan.products[variant].key == key
            else text_literal(key),
            "type": context.names.type(variant),
            "creator": f"{context.names.stem(variant)}Creator",
            "kwargs": _kwargs(context, context.plan.products[variant], product),
            "pass_on": "**fields" if context.plan.products[variant].fields else "",
        }
        for key, variant in factory.kinds.items()
    ]
    known = ", ".join(text_literal(key) for key in factory.known)
    named = factory.unknown not in ("error", "nothing")
    unknown = context.names.type(factory.unknown) if named else factory.unknown
    creators = factory.form == "creators"
    result = f"{context.names.stem(product.name)}Creator" if creators else type_
    result += " | None" if factory.unknown == "nothing" else ""
    fallback = of_unknown_key(factory.unknown, article(factory.unknown), "None")
    what = f"Return the creator of {article(product.name)}" if creators else f"Create {article(product.name)}"
    return context.templates.render(
        "factory",
        product.name,
        g={
            "type": type_,
            "class": context.names.type(product.name),
            "stem": context.names.stem(product.name),
            "owner": product.name,
            "spoken": spoken(product.name),
            "form": factory.form,
            "function": context.names.function(
                f"{snake(product.name)}_creator" if creators else product.name
            ),
            "kwargs": _kwargs(context, product),
            "named": _named(context, product),
            "pass_on": "**fields" if product.fields or _is_tied(context, product) else "",
            "result": result,
            "kinds": kinds,
            "creators": list({kind["type"]: kind for kind in kinds}.values()),
            "tied": _is_tied(context, product),
            "key_type": key_type(factory.known),
            "needs_more": factory.needs_more,
            "overloads": _overloads(context, product, factory, result),
            "cases": [kind for kind in kinds if kind["type"] != unknown],
            "table": ", ".join(f"{kind['key']}: {kind['type']}" for kind in kinds),
            "known": known,
            "unknown": unknown,
            "unknown_takes": "**fields" if named and context.plan.products[factory.unknown].fields else "",
            "unknown_creator": f"{context.names.stem(factory.unknown)}Creator",
            "create_doc": f"{what} of this kind; {fallback}.",
        },
    )


def _is_tied(context: Context, product: Product) -> bool:
    """Whether some kind has fields of its own, so that its key is tied to them."""
    return any(context.plan.products[name].own_fields for name in product.variants)


def _kwargs(context: Context, product: Product, base: Product | None = None) -> str:
    """The named parameters of what makes a product, or a kind of a base."""
    named = base if base is not None and not product.own_fields else product
    if not named.fields:
        return ""
    return f", **fields: Unpack[{context.names.stem(named.name)}Fields]"


def _overloads(context: Context, product: Product, factory: Factory, result: str) -> list[dict[str, str]]:
    """What a type checker knows of each key, or of several: the type of the key, the fields, the result."""
    creators, plan = factory.form == "creators", context.plan
    if not _is_tied(context, product):
        return []
    overloads = []
    for name in product.variants:
        keys = [key for key, variant in factory.kinds.items() if variant == name]
        own = plan.products[name].own_fields
        if keys and (own or creators):
            made = f"{context.names.stem(name)}Creator" if creators else context.names.type(name)
            made += " | None" if factory.unknown == "nothing" and factory.form == "registry" else ""
            kwargs = _kwargs(context, plan.products[name], product)
            overloads.append({"key": key_type(sorted(keys)), "kwargs": kwargs, "result": made})
    if factory.needs_more and factory.form == "registry":
        overloads.append({"key": "str", "kwargs": ", **fields: Any", "result": result})
    elif factory.needs_more and not creators:
        rest = [key for key, name in factory.kinds.items() if not plan.products[name].own_fields]
        if rest:
            kwargs = _kwargs(context, product)
            overloads.append({"key": key_type(sorted(rest)), "kwargs": kwargs, "result": result})
    else:
        stem = context.names.stem(product.name)
        overloads.append({"key": f"{stem}Key | str", "kwargs": _kwargs(context, product), "result": result})
    return overloads


def _named(context: Context, product: Product) -> str:
    """The fields of every kind as parameters by name, as the classes of the kinds have them and more."""
    parameters = [
        f"{context.names.field(f.name)}: {context.code.field_type(f)}{'' if f.required else ' = ...'}"
        for f in product.fields
    ]
    return ", ".join(["", "*", *parameters]) if parameters else ""


def fields_text(context: Context, product: Product) -> str:
    """A TypedDict of the fields of an abstract product, for `**fields` of what makes it."""
    return context.templates.render(
        "fields",
        product.name,
        g={
            "type": context.names.type(product.name),
            "stem": context.names.stem(product.name),
            "spoken": spoken(product.name),
            "fields": [_typed_dict_field(context, field, product.fields) for field in product.fields],
            "required": product.required,
        },
    )


def kind_fields_text(context: Context, base: Product, variant: Product) -> str:
    """The same of a kind that has fields of its own."""
    own = variant.own_fields
    return context.templates.render(
        "kind_fields",
        base.name,
        g={
            "stem": context.names.stem(variant.name),
            "base": f"{context.names.stem(base.name)}Fields" if base.fields else "TypedDict",
            "spoken": spoken(variant.name),
            "fields": [_typed_dict_field(context, field, own) for field in own],
            "required": any(field.required for field in own),
        },
    )


def _typed_dict_field(context: Context, field: Field, beside: Sequence[Field]) -> FieldView:
    """A field of a TypedDict, which is not total where no field beside it is required."""
    plain = type_ = context.code.field_type(field)
    if not field.required and any(each.required for each in beside):
        type_ = f"NotRequired[{type_}]"
    return FieldView(context.names.field(field.name), type_, plain=plain, needed=field.required)
