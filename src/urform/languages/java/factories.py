"""Factories by key in Java: a static method, a registry, or creators."""

from __future__ import annotations

from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.languages.java.context import Context
from urform.languages.java.docs import KEY, REFUSED, UNKNOWN
from urform.languages.java.expressions import text_literal
from urform.languages.java.views import types_of
from urform.languages.naming.names import article, beside, pascal
from urform.languages.rendering.prose import of_unknown_key
from urform.plan.model import Factory, Product

RECORD = ("record", "a map of names and values; it need not tell the kind")


@dataclass(frozen=True, slots=True)
class _Taken:
    """What makers of a product take beside the key: all fields that kinds have in common, or a record."""

    parameters: list[str]
    arguments: list[str]
    told: list[tuple[str, str]]  # in documentation
    short: dict[str, object] | None  # the overload that chooses no option


def _taken(context: Context, product: Product, factory: Factory, options: str, *before: str) -> _Taken:
    if factory.needs_more:
        return _Taken(["Object record"], ["record"], [RECORD], None)
    return _Taken(
        context.parameters(product, options),
        context.arguments(product),
        context.takes(product),
        context.short(product, options, *before),
    )


def _kinds(context: Context, product: Product, factory: Factory) -> list[dict[str, str]]:
    arguments = ", ".join(context.arguments(product))
    kinds = []
    for key, variant in factory.kinds.items():
        concrete = context.plan.products[variant]
        type_ = context.names.type(variant)
        new = f"{type_}.instance()" if concrete.single else f"new {type_}({arguments})"
        maker = f"{type_}::{'instance' if concrete.single else 'new'}"
        if factory.needs_more:
            new, maker = f"Records.read{pascal(variant)}(record)", f"Records::read{pascal(variant)}"
        constant = f"{type_}.KEY" if concrete.key == key else text_literal(key)
        kinds.append({"key": constant, "type": type_, "variant": variant, "made": new, "maker": maker})
    return kinds


def _said(factory: Factory) -> str:
    return of_unknown_key(factory.unknown, article(factory.unknown))


def _throws(product: Product, factory: Factory) -> str:
    unknown = ["the key is unknown"] if factory.unknown == "error" else []
    refused = ["a value is missing", "outside its limit"] if product.fields else []
    if factory.needs_more:
        refused = ["something is wrong with the record"]
    said = " or ".join(", ".join([*unknown, *refused]).rsplit(", ", 1))
    return f"CreationException if {said}" if said else ""


def _unknown_key(factory: Factory) -> str:
    known = ", ".join(text_literal(key) for key in factory.known)
    return f'throw new CreationException.UnknownKey("{factory.product}", key, List.of({known}))'


def factory_method(context: Context, product: Product) -> dict[str, object] | None:
    """The static method of a base product; None where it has none."""
    factory = context.plan.factory_of(product.name)
    if factory is None or factory.form != "simple":
        return None
    kinds = _kinds(context, product, factory)
    taken = _taken(context, product, factory, "Options", "String key")
    nothing = factory.unknown == "nothing"
    for kind in kinds:
        kind["made"] = f"Optional.of({kind['made']})" if nothing else kind["made"]
    otherwise = {"error": _unknown_key(factory), "nothing": "Optional.empty()"}.get(factory.unknown)
    fallback = next((kind["made"] for kind in kinds if kind["variant"] == factory.unknown), "")
    type_ = context.names.type(product.name)
    return {
        "takes": [KEY, *taken.told],
        "returns": article(product.name),
        "throws": _throws(product, factory),
        "doc": f"Creates {article(product.name)} of this kind; {_said(factory)}.",
        "result": f"Optional<{type_}>" if nothing else type_,
        "parameters": ", ".join(["String key", *taken.parameters]),
        "types": types_of(["String key", *taken.parameters]),
        "cases": [kind for kind in kinds if kind["variant"] != factory.unknown],
        "otherwise": otherwise or fallback,
        "short": taken.short,
    }


def registry_text(context: Context, product: Product, factory: Factory) -> str:
    """The class of a registry."""
    taken = _taken(context, product, factory, f"{context.names.type(product.name)}.Options", "String key")
    type_ = context.names.type(product.name)
    arguments = ", ".join(taken.arguments)
    nothing = factory.unknown == "nothing"
    otherwise = {
        "error": f'throw new CreationException.UnknownKey("{product.name}", key, keys());',
        "nothing": "return Optional.empty();",
    }
    others = [*taken.arguments, "key"]
    maker, result, loaded = (
        beside("maker", others),
        beside("made", others),
        beside("loaded", [*others, "loader"]),
    )
    class_name, found, kind = beside("className", others), beside("found", others), beside("kind", others)
    erased = [f"{parameter.partition(' ')[0].partition('<')[0]}.class" for parameter in taken.parameters]
    kinds = _kinds(context, product, factory)
    fallback = next((kind["made"] for kind in kinds if kind["variant"] == factory.unknown), "")
    return context.templates.render(
        "registry",
        product.name,
        g={
            "a": article(product.name),
            "type": type_,
            "owner": product.name,
            "parameters": ", ".join(taken.parameters),
            "types": types_of(taken.parameters),
            "key_and_parameters": ", ".join(["String key", *taken.parameters]),
            "short": taken.short,
            "kinds": kinds,
            "takes": taken.told,
            "key_takes": [KEY, *taken.told],
            "made_a": article(product.name),
            "throws": _throws(product, factory),
            "doc": f"Creates {article(product.name)} of this kind; {_said(factory)}.",
            "result": f"Optional<{type_}>" if nothing else type_,
            "otherwise": otherwise.get(factory.unknown) or f"return {fallback};",
            "maker": maker,
            "arguments": arguments,
            "loaded": loaded,
            "loader": beside("loader", taken.arguments),
            "class_name": class_name,
            "found": found,
            "kind": kind,
            "kind_arguments": ", ".join([f'"{product.name}"', f"{type_}.class", found, *erased]),
            "product": result,
            "made": f"{maker}.make({arguments})",
            "product_out": f"Optional.of({result})" if nothing else result,
        },
    )


def creator_sources(context: Context, product: Product, factory: Factory) -> Iterator[tuple[str, str]]:
    """The names and the code of an interface of creators, and of each creator."""
    taken = _taken(context, product, factory, f"{context.names.type(product.name)}.Options")
    type_ = context.names.type(product.name)
    parameters = ", ".join(taken.parameters)
    nothing = factory.unknown == "nothing"
    kinds = _kinds(context, product, factory)
    cases = []
    for kind in kinds:
        creator = f"new {kind['type']}Creator()"
        cases.append({**kind, "creator": creator, "made": f"Optional.of({creator})" if nothing else creator})
    otherwise = {"error": _unknown_key(factory), "nothing": "Optional.empty()"}.get(factory.unknown)
    fallback = next((kind["made"] for kind in cases if kind["variant"] == factory.unknown), "")
    view = {
        "type": type_,
        "parameters": parameters,
        "types": types_of(taken.parameters),
        "made_doc": f"Creates {article(product.name)}.",
        "made": article(product.name),
        "takes": taken.told,
        "throws": REFUSED if product.fields or factory.needs_more else "",
        "unknown": UNKNOWN if factory.unknown == "error" else "",
        "doc": f"Returns the creator of {article(product.name)} of this kind; {_said(factory)}.",
        "result": f"Optional<{type_}Creator>" if nothing else f"{type_}Creator",
        "cases": [kind for kind in cases if kind["variant"] != factory.unknown],
        "otherwise": otherwise or fallback,
        "short": taken.short,
    }
    yield f"{type_}Creator", context.templates.render("creator", product.name, g=view)
    for kind in {kind["type"]: kind for kind in kinds}.values():
        shown = {**kind, "a": article(kind["variant"]), "base": type_, "parameters": parameters}
        yield f"{kind['type']}Creator", context.templates.render("creator_kind", kind["variant"], k=shown)
