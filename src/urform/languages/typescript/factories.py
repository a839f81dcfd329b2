"""Factories by key in TypeScript."""

from __future__ import annotations

from urform.languages.naming.names import article, spoken
from urform.languages.rendering.prose import of_unknown_key
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import any_of, text_literal
from urform.languages.typescript.names import Names
from urform.languages.typescript.products import declared_parameters, parameters
from urform.plan.model import Factory, Field, Product


def factory_text(context: Context, product: Product, factory: Factory) -> str:
    """A function, a registry, or creators."""
    names = context.names
    type_ = names.value(product.name)
    kinds = [
        {
            "key": text_literal(key),
            "type": names.type(variant),
            "made": made_of(names, context.plan.products[variant], product.fields),
            "maker": maker_of(names, context.plan.products[variant], product.fields),
            "creator": f"{names.stem(variant)}Creator",
            "variant": variant,
        }
        for key, variant in factory.kinds.items()
    ]
    named = factory.unknown not in ("error", "nothing")
    creators = factory.form == "creators"
    result = f"{names.stem(product.name)}Creator" if creators else type_
    fallback = of_unknown_key(factory.unknown, article(factory.unknown), "undefined")
    what = (
        f"Returns the creator of {article(product.name)}" if creators else f"Creates {article(product.name)}"
    )
    fields = parameters(context, product)
    return context.templates.render(
        "factory",
        product.name,
        g={
            "type": type_,
            "stem": names.stem(product.name),
            "owner": product.name,
            "spoken": spoken(product.name),
            "form": factory.form,
            "function": names.function(f"{product.name}_creator" if creators else product.name),
            "fields": fields,
            "with_key": ", ".join([f"key: {names.stem(product.name)}Key", *([fields] if fields else [])]),
            "declared": declared_parameters(context, product),
            "maker_fields": fields.removesuffix(" = {}"),
            "pass_on": "fields" if fields else "",
            "passed": "fields" if fields else "undefined",
            "after_key": ", fields" if fields else "",
            "loaded": f"{_type_of(fields)}, {type_}",
            "result": result + (" | undefined" if factory.unknown == "nothing" else ""),
            "kinds": kinds,
            "key_type": any_of(factory.known),
            "creators": list({kind["creator"]: kind for kind in kinds}.values()),
            "cases": [kind for kind in kinds if kind["variant"] != factory.unknown],
            "known": ", ".join(text_literal(key) for key in factory.known),
            "unknown": factory.unknown if not named else "use",
            "otherwise": made_of(names, context.plan.products[factory.unknown], product.fields)
            if named
            else "",
            "other_creator": f"{names.stem(factory.unknown)}Creator" if named else "",
            "create_doc": f"{what} of this kind; {fallback}.",
        },
    )


def _type_of(fields: str) -> str:
    """The type of the only parameter of makers, if there is one."""
    return fields.removesuffix(" = {}").partition(": ")[2] or "undefined"


def made_of(names: Names, variant: Product, taken: tuple[Field, ...]) -> str:
    """The expression that makes a variant from `fields`, where the factory takes any."""
    type_ = names.type(variant.name)
    passed = "fields" if variant.fields and taken else ""
    return f"{type_}.instance" if variant.single else f"new {type_}({passed})"


def maker_of(names: Names, variant: Product, taken: tuple[Field, ...]) -> str:
    """A function that makes a variant."""
    passed = "fields" if variant.fields and taken and not variant.single else ""
    return f"({passed}) => {made_of(names, variant, taken)}"
