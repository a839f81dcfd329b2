"""What a declaration uses of the format, and what there is to use, both taken from the table of the format itself."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import combinations
from typing import Any

from tests.data import Data, element_of, innermost, is_collection
from urform.declaration.grammar import DECLARATION, PRODUCT
from urform.declaration.shape import Either, Listed, Named, Record, Shape, Words

TYPE_WORDS = ("a type", "a product, or list<product>")
SCALARS = ("text", "integer", "real", "boolean", "date", "time", "instant", "duration", "decimal", "uuid")
KINDS = (
    *SCALARS,
    "choice",
    "product",
    "mutable product",
    "base",
    "mutable base",
    "variant",
    "mutable variant",
)
PLACES = ("whole", "in list", "in set", "in map", "key of map")
# What may be an element of a set, or a key of a map.
PLAIN = ("text", "integer", "choice")


def usable() -> set[str]:
    """Every key, word and form of the format, and every kind of type in every place of a type."""
    return set(_of_shape(DECLARATION, ""))


def _of_shape(shape: Shape, where: str) -> Iterator[str]:
    match shape:
        case Words(what=what) if what in TYPE_WORDS:
            yield from _types(where, products_only=what != "a type")
        case Words(words=words):
            yield from (f"{where} = {word}" for word in words)
        case Listed(item=item):
            yield from _of_shape(item, where)
        case Named(value=value):
            yield from _of_shape(value, where)
        case Record():
            for name, key in shape.keys.items():
                place = f"{shape.what}.{name}"
                yield place
                yield from _of_shape(key.shape, place)
        case Either():
            for form in ("scalar", "sequence", "mapping"):
                part = getattr(shape, form)
                if part is not None:
                    yield f"{where} as {form}"
                    yield from _of_shape(part, where)


def _types(where: str, *, products_only: bool) -> Iterator[str]:
    if where == "field.type":
        yield from (f"{where}: uri {place}" for place in PLACES[:-1])
    for place in ("whole", "in list") if products_only else PLACES:
        for kind in KINDS:
            if place in ("in set", "key of map") and kind not in PLAIN:
                continue
            if products_only and (kind in SCALARS or kind == "choice" or "variant" in kind):
                continue
            yield f"{where}: {kind} {place}"


def used(declaration: Data) -> set[str]:
    """What of all that a declaration uses."""
    return set(_used(DECLARATION, declaration, "", kinds_of(declaration)))


def kinds_of(declaration: Data) -> Callable[[str], str]:
    """Tells what kind of thing the name of a type is."""
    found = {**dict.fromkeys(SCALARS, ""), **dict.fromkeys(declaration.get("choices", {}), "choice")}
    found |= {name: name for name in (*SCALARS, "uri")}
    for name, product in declaration["products"].items():
        changes = "mutable " if product.get("mutable") else ""
        found[name] = f"{changes}{'base' if 'variants' in product else 'product'}"
        found |= dict.fromkeys(product.get("variants", {}), f"{changes}variant")
    return found.__getitem__


def _used(shape: Shape, data: Any, where: str, kind: Callable[[str], str]) -> Iterator[str]:
    match shape:
        case Words(what=what) if what in TYPE_WORDS:
            yield from (f"{where}: {each}" for each in _places(data, "whole", kind))
        case Words(words=words) if words:
            yield f"{where} = {data}"
        case Listed(item=item):
            for each in data:
                yield from _used(item, each, where, kind)
        case Named(value=value):
            for each in data.values():
                yield from _used(value, each, where, kind) if each is not None else ()
        case Record() if not isinstance(data, dict):  # the short form
            yield from _used(shape.keys[shape.short or ""].shape, data, f"{shape.what}.{shape.short}", kind)
        case Record():
            for name, value in data.items():
                place = f"{shape.what}.{name}"
                yield place
                yield from _used(shape.keys[name].shape, value, place, kind)
        case Either():
            form = "mapping" if isinstance(data, dict) else "sequence" if isinstance(data, list) else "scalar"
            yield f"{where} as {form}"
            part = getattr(shape, form)
            yield from _used(part, data, where, kind)


def _places(type_: str, place: str, kind: Callable[[str], str]) -> Iterator[str]:
    type_ = type_.removesuffix("?")
    if not is_collection(type_):
        yield f"{kind(type_)} {place}"
        return
    collection = type_.partition("<")[0]
    if collection == "map":
        yield f"{kind(type_.partition('<')[2].partition(' to ')[0].strip())} key of map"
    yield from _places(element_of(type_), f"in {collection}", kind)


# --- pairs ------------------------------------------------------------------------------------------------------

# What one product may have beside each other: how a feature of it begins.
PAIRED = {
    "mutable": "product.mutable",
    "variants": "product.variants",
    "operations": "product.operations",
    "builder": "product.builder",
    "reset": "builder.after_build = reset",
    "statements": "builder.style = statements",
    "typed": "builder.missing = at_compile_time",
    "presets": "builder.presets",
    "prototype": "product.prototype",
    "exemplars": "prototype.exemplars",
    "flyweight": "product.flyweight",
    "weak": "flyweight.hold = weak",
    "simple": "factory.form = simple",
    "registry": "factory.form = registry",
    "creators": "factory.form = creators",
    "by values": "factory.form = by_values",
    "single": "product.single",
    "default": "field.default",
    "other default": "variant.defaults",
    "limits of elements": "field.each",
    "adder": "field.item",
    **{way: f"field.copy = {way}" for way in ("deep", "shallow", "shared", "fresh")},
    **{f"a {kind}": f"field.type: {kind} " for kind in KINDS if kind not in SCALARS},
    "a map": "field.type: text key of map",
}
_FORMS = ("simple", "registry", "creators", "by values")
_CHANGES = ("a mutable product", "a mutable base", "a mutable variant")
_OF_CONCRETE = (
    "builder",
    "reset",
    "statements",
    "typed",
    "presets",
    "exemplars",
    "flyweight",
    "weak",
    "single",
)
APART: dict[str, Sequence[str]] = {
    "flyweight": ("mutable", *_CHANGES),  # what is shared does not change
    "weak": ("mutable", *_CHANGES),
    **dict.fromkeys(("variants", "other default", *_FORMS), _OF_CONCRETE),
    "simple": (*_OF_CONCRETE, "registry", "creators", "by values"),  # a product has one factory
    "registry": (*_OF_CONCRETE, "creators", "by values"),
    "creators": (*_OF_CONCRETE, "by values"),
    "typed": ("statements",),  # which return nothing that could have a type
    "single": [each for each in PAIRED if each not in ("operations", "single")],  # it has no fields
}


def possible_pairs() -> set[frozenset[str]]:
    """All pairs but those that no declaration has, which `APART` tells."""
    return {
        frozenset((one, other))
        for one, other in combinations(PAIRED, 2)
        if other not in APART.get(one, ()) and one not in APART.get(other, ())
    }


def together(declaration: Data) -> set[frozenset[str]]:
    """The pairs of what stands beside each other in one product, its variants counted in."""
    kind = kinds_of(declaration)
    found: set[frozenset[str]] = set()
    for product in declaration["products"].values():
        has = set(_used(PRODUCT, product, "", kind))
        labels = [label for label, feature in PAIRED.items() if any(each.startswith(feature) for each in has)]
        found |= {frozenset(pair) for pair in combinations(labels, 2)}
    return found


# --- what no table of the format says -----------------------------------------------------------------------------

VALUED = (*SCALARS, "choice", "product", "base", "variant", "list", "set", "map")
SITUATIONS = frozenset(
    (
        *(f"{where} of a {kind}" for where in ("preset", "exemplar", "with", "default") for kind in VALUED),
        "a field of the own type",
        "a list of the own type",
        "a required list of the own type",
        "a wrapper of the own type",
        "a family of lists only",
        "operations of what has no variants",
    )
)


def situations(declaration: Data) -> Iterator[str]:
    """Those that a declaration has."""
    kind = kinds_of(declaration)
    products = declaration["products"]
    fields = {name: _fields(product) for name, product in products.items()}
    for base in products.values():
        for name, variant in (base.get("variants") or {}).items():
            fields[name] = {**_fields(base), **_fields(variant or {})}
    for name, product in products.items():
        if "operations" in product and "variants" not in product:
            yield "operations of what has no variants"
        given = [("preset", values) for values in product.get("builder", {}).get("presets", {}).values()]
        given += [
            ("exemplar", values) for values in product.get("prototype", {}).get("exemplars", {}).values()
        ]
        given += [("default", {n: f["default"]}) for n, f in fields[name].items() if "default" in f]
        for where, values in given:
            yield from (f"{where} of a {_valued(fields[name][n]['type'], kind)}" for n in values)
        yield from _recursions(name, fields)
    for family in declaration.get("families", {}).values():
        if all(is_collection(type_) for type_ in family["makes"].values()):
            yield "a family of lists only"
        for part in _parts(family):
            names = fields[part["use"]]
            yield from (f"with of a {_valued(names[n]['type'], kind)}" for n in part.get("with", {}))


def _fields(product: Data) -> dict[str, Data]:
    every = {**product.get("required", {}), **product.get("optional", {})}
    found = {name: field if isinstance(field, dict) else {"type": field} for name, field in every.items()}
    return {name: {**field, "needed": name in product.get("required", {})} for name, field in found.items()}


def _valued(type_: str, kind: Callable[[str], str]) -> str:
    return type_.partition("<")[0] if is_collection(type_) else kind(type_).removeprefix("mutable ")


def _recursions(name: str, fields: dict[str, dict[str, Data]]) -> Iterator[str]:
    for field in fields[name].values():
        if field["type"] == name:
            yield "a field of the own type"
        if field["type"] == f"list<{name}>":
            yield "a list of the own type"
            if field["needed"]:
                yield "a required list of the own type"
        inner = fields.get(innermost(field["type"]), {})
        if any(other["type"] == name for other in inner.values()) and innermost(field["type"]) != name:
            yield "a wrapper of the own type"


def _parts(family: Data) -> Iterator[Data]:
    for roles in family["members"].values():
        for made in roles.values():
            yield from (
                each for each in (made if isinstance(made, list) else [made]) if isinstance(each, dict)
            )
