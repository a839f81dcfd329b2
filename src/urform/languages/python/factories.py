"""Factories by key in Python."""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.languages.naming.names import article, snake, spoken
from urform.languages.python.expressions import text_literal
from urform.languages.python.views import FieldView
from urform.plan.model import Factory, Field, Product

if TYPE_CHECKING:
    from urform.languages.python.emitter import Emitter


def factory_text(emitter: Emitter, product: Product, factory: Factory) -> str:
    """A function, a registry, or creators, with the fields that every kind can be given."""
    type_ = emitter.names.type(product.name)
    kinds = [
        {
            "key": f"{emitter.names.type(variant)}.key"
            if emitter.plan.products[variant].key == key
            else text_literal(key),
            "type": emitter.names.type(variant),
            "creator": f"{emitter.names.stem(variant)}Creator",
        }
        for key, variant in factory.kinds.items()
    ]
    known = ", ".join(text_literal(key) for key in factory.known)
    named = factory.unknown not in ("error", "nothing")
    unknown = emitter.names.type(factory.unknown) if named else factory.unknown
    creators = factory.form == "creators"
    result = f"{emitter.names.stem(product.name)}Creator" if creators else type_
    said = {"error": "an unknown key is refused", "nothing": "None for an unknown key"}
    fallback = said.get(factory.unknown) or f"{article(factory.unknown)} for an unknown key"
    what = f"The creator of {article(product.name)}" if creators else article(product.name).capitalize()
    return emitter.templates.render(
        "factory",
        product.name,
        g={
            "type": type_,
            "stem": emitter.names.stem(product.name),
            "owner": product.name,
            "spoken": spoken(product.name),
            "form": factory.form,
            "function": emitter.names.function(
                f"{snake(product.name)}_creator" if creators else product.name
            ),
            "kwargs": f", **fields: Unpack[{emitter.names.stem(product.name)}Fields]"
            if product.fields
            else "",
            "pass_on": "**fields" if product.fields else "",
            "result": result + (" | None" if factory.unknown == "nothing" else ""),
            "kinds": kinds,
            "cases": [kind for kind in kinds if kind["type"] != unknown],
            "table": ", ".join(f"{kind['key']}: {kind['type']}" for kind in kinds),
            "known": known,
            "unknown": unknown,
            "unknown_creator": f"{emitter.names.stem(factory.unknown)}Creator",
            "create_doc": f"{what} of this kind; {fallback}.",
        },
    )


def fields_text(emitter: Emitter, product: Product) -> str:
    """A TypedDict of the fields of an abstract product, for `**fields` of what makes it."""
    return emitter.templates.render(
        "fields",
        product.name,
        g={
            "type": emitter.names.type(product.name),
            "stem": emitter.names.stem(product.name),
            "spoken": spoken(product.name),
            "fields": [_typed_dict_field(emitter, field) for field in product.fields],
            "required": product.required,
        },
    )


def _typed_dict_field(emitter: Emitter, field: Field) -> FieldView:
    type_ = emitter.code.field_type(field)
    product = emitter.plan.products[field.owner]
    if not field.required and product.required:
        type_ = f"NotRequired[{type_}]"
    return FieldView(emitter.names.field(field.name), type_)
