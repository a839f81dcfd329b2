"""Factories by key in TypeScript."""

from __future__ import annotations

from urform.languages.naming.names import article, beside, spoken
from urform.languages.rendering.prose import of_unknown_key
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import any_of, text_literal
from urform.languages.typescript.names import Names
from urform.languages.typescript.products import declared_parameters, parameters
from urform.languages.typescript.views import read
from urform.plan.model import Factory, Field, Product


def factory_text(context: Context, product: Product, factory: Factory) -> str:
    """A function, a registry, or creators."""
    names = context.names
    type_ = names.value(product.name)
    tied = _is_tied(context, product)
    kinds = [
        {
            "key": text_literal(key),
            "type": names.type(variant),
            "made": _kind_of(names, context.plan.products[variant], product),
            "maker": maker_of(names, context.plan.products[variant], product),
            "creator": f"{names.stem(variant)}Creator",
            "creates": made_of(
                names, context.plan.products[variant], _taking(context, product, variant).fields
            ),
            "fields": parameters(context, _taking(context, product, variant)),
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
    function = names.function(f"{product.name}_creator" if creators else product.name)
    shown = result + (" | undefined" if factory.unknown == "nothing" else "")
    called = f"{names.stem(product.name)}Registry.make" if factory.form == "registry" else function
    by_key = _by_key(context, product, factory) if tied else []
    fields = parameters(context, product) or ("fields: object = {}" if tied else "")
    return context.templates.render(
        "factory",
        product.name,
        g={
            "type": type_,
            "stem": names.stem(product.name),
            "owner": product.name,
            "spoken": spoken(product.name),
            "form": factory.form,
            "function": function,
            "fields": fields,
            "with_key": ", ".join([f"key: {names.stem(product.name)}Key", *([fields] if fields else [])]),
            "declared": declared_parameters(context, product) or ("fields?: object" if tied else ""),
            "tied": tied,
            "key": _key(context),
            "by_key": by_key,
            "calls": [
                *read(shown, called),
                *(f"{called}({kind['key']}) gives {kind['made']}" for kind in by_key),
            ],
            "made": _made(context, product, factory),
            "maker_fields": fields.removesuffix(" = {}"),
            "pass_on": "fields" if fields else "",
            "passed": "fields" if fields else "undefined",
            "after_key": ", fields" if fields else "",
            "loaded": f"{_type_of(fields)}, {type_}",
            "result": shown,
            "kinds": kinds,
            "key_type": any_of(factory.known),
            "creators": list({kind["creator"]: kind for kind in kinds}.values()),
            "cases": [kind for kind in kinds if kind["variant"] != factory.unknown],
            "known": ", ".join(text_literal(key) for key in factory.known),
            "unknown": factory.unknown if not named else "use",
            "otherwise": _kind_of(names, context.plan.products[factory.unknown], product) if named else "",
            "other_creator": f"{names.stem(factory.unknown)}Creator" if named else "",
            "create_doc": f"{what} of this kind; {fallback}.",
        },
    )


def _type_of(fields: str) -> str:
    """The type of the only parameter of makers, if there is one."""
    return fields.removesuffix(" = {}").partition(": ")[2] or "undefined"


def _is_tied(context: Context, product: Product) -> bool:
    """Whether some kind has fields of its own, so that its key is tied to them."""
    return any(context.plan.products[name].own_fields for name in product.variants)


def _taking(context: Context, base: Product, variant: str) -> Product:
    """What has the fields that a creator of a variant takes: the variant itself only if it has more."""
    own = context.plan.products[variant]
    return own if own.own_fields else base


def _by_key(context: Context, product: Product, factory: Factory) -> list[dict[str, str]]:
    """Each key with what its kind is given, and what it makes."""
    return [
        {
            "key": _property(key),
            "given": declared_parameters(context, _taking(context, product, variant)),
            "made": f"{context.names.stem(variant)}Creator"
            if factory.form == "creators"
            else context.names.type(variant),
        }
        for key, variant in factory.kinds.items()
    ]


def _property(key: str) -> str:
    """A key as the name of a property, which stands without quotes where it can."""
    quoted = text_literal(key)
    return key if key.replace("$", "_").isidentifier() and quoted[1:-1] == key else quoted


def _made(context: Context, product: Product, factory: Factory) -> str:
    """What is made of a declared key, as long as nobody took it away."""
    nothing = factory.form == "registry" and factory.unknown == "nothing"
    return f"{context.names.stem(product.name)}Made<{_key(context)}>" + (" | undefined" if nothing else "")


def _key(context: Context) -> str:
    """The type parameter for a key, which is called as no declared type."""
    plan = context.plan
    return beside("K", map(context.names.type, (*plan.products, *plan.choices)))


def made_of(names: Names, variant: Product, taken: tuple[Field, ...]) -> str:
    """The expression that makes a variant from `fields`, where the factory takes any."""
    type_ = names.type(variant.name)
    passed = "fields" if variant.fields and taken else ""
    return f"{type_}.instance" if variant.single else f"new {type_}({passed})"


def _kind_of(names: Names, variant: Product, base: Product) -> str:
    """The same by key: fields of its own come with the base's type."""
    if not variant.own_fields:
        return made_of(names, variant, base.fields)
    return f"new {names.type(variant.name)}(fields as {names.stem(variant.name)}Fields)"


def maker_of(names: Names, variant: Product, base: Product) -> str:
    """A function that makes a variant."""
    made = _kind_of(names, variant, base)
    return f"({'fields' if '(fields' in made else ''}) => {made}"
