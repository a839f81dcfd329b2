"""Factories by key in Python."""

from __future__ import annotations

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
        }
        for key, variant in factory.kinds.items()
    ]
    known = ", ".join(text_literal(key) for key in factory.known)
    named = factory.unknown not in ("error", "nothing")
    unknown = context.names.type(factory.unknown) if named else factory.unknown
    creators = factory.form == "creators"
    result = f"{context.names.stem(product.name)}Creator" if creators else type_
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
            "kwargs": f", **fields: Unpack[{context.names.stem(product.name)}Fields]"
            if product.fields
            else "",
            "named": _named(context, product),
            "pass_on": "**fields" if product.fields else "",
            "result": result + (" | None" if factory.unknown == "nothing" else ""),
            "kinds": kinds,
            "creators": list({kind["type"]: kind for kind in kinds}.values()),
            "key_type": key_type(factory.known),
            "cases": [kind for kind in kinds if kind["type"] != unknown],
            "table": ", ".join(f"{kind['key']}: {kind['type']}" for kind in kinds),
            "known": known,
            "unknown": unknown,
            "unknown_creator": f"{context.names.stem(factory.unknown)}Creator",
            "create_doc": f"{what} of this kind; {fallback}.",
        },
    )


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
            "fields": [_typed_dict_field(context, field) for field in product.fields],
            "required": product.required,
        },
    )


def _typed_dict_field(context: Context, field: Field) -> FieldView:
    type_ = context.code.field_type(field)
    product = context.plan.products[field.owner]
    if not field.required and product.required:
        type_ = f"NotRequired[{type_}]"
    return FieldView(context.names.field(field.name), type_)
