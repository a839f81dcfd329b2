"""Exemplars and pools in Python."""

from __future__ import annotations

from urform.languages.naming.names import STORE_NAMES, beside, spoken
from urform.languages.python.context import Context
from urform.plan.model import Pool, Product, Prototype


def exemplars_text(context: Context, product: Product, prototype: Prototype) -> str:
    """The store of a product's exemplars."""
    entries = ", ".join(f'"{e.name}": {context.code.value(e.product)}' for e in prototype.exemplars)
    return context.templates.render(
        "exemplars",
        product.name,
        e={
            "type": context.names.value(product.name),
            "stem": context.names.stem(product.name),
            "owner": product.name,
            "plural": f"{spoken(product.name)}s",
            "variable": beside(context.names.parameter(context.names.function(product.name)), STORE_NAMES),
            "held": entries,
        },
    )


def pool_text(context: Context, product: Product, pool: Pool) -> str:
    """The pool of a product."""
    names = context.names
    type_ = names.type(product.name)
    fields = [product.field(name) for name in pool.key]
    types = [context.code.type(field.type) for field in fields]
    parameters = [names.parameter(field.name) for field in fields]
    attributes = [f"made.{names.field(field.name)}" for field in fields]
    key_type = types[0] if len(types) == 1 else f"tuple[{', '.join(types)}]"
    container = "WeakValueDictionary" if pool.weak else "dict"
    return context.templates.render(
        "pool",
        product.name,
        p={
            "type": type_,
            "stem": names.stem(product.name),
            "owner": product.name,
            "spoken": spoken(product.name),
            "key_words": " and ".join(spoken(name) for name in pool.key),
            "weak": pool.weak,
            "needs_maker": pool.needs_maker,
            "key_types": ", ".join(types),
            "held": f"{container}[{key_type}, {type_}]",
            "empty": "WeakValueDictionary()" if pool.weak else "{}",
            "parameters": ", ".join(f"{n}: {t}" for n, t in zip(parameters, types, strict=True)),
            "passed": ", ".join(parameters),
            "key": _key(parameters),
            "key_of_made": _key(attributes),
            "key_type": key_type,
            "of_key": "key" if len(types) == 1 else "*key",
            "found": beside("found", parameters),
            "keywords": ", ".join(
                f"{names.field(field.name)}={n}" for field, n in zip(fields, parameters, strict=True)
            ),
        },
    )


def _key(parts: list[str]) -> str:
    return parts[0] if len(parts) == 1 else f"({', '.join(parts)})"
