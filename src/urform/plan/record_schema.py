"""The JSON Schema (draft 2020-12) of the records of a declaration.

It says no more than a schema can: what a factory by values refuses, the limits of dates, and how deep a record may be, only a
reader tells. Of a set it asks for elements that differ, where a reader takes one twice as once.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from urform.declaration.ranges import is_unique
from urform.declaration.regexp.dialects import in_ecmascript
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    REAL,
    TEXT,
    TOLD,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
)
from urform.plan.model import Field, Limit, Product, Selection
from urform.plan.record_trees import RecordTrees, json_text
from urform.plan.scalars import as_declared
from urform.plan.whole import Plan

JsonSchema = dict[str, Any]
DRAFT = "https://json-schema.org/draft/2020-12/schema"
TYPES: dict[Type, str] = {
    TEXT: "string",
    INTEGER: "integer",
    REAL: "number",
    BOOLEAN: "boolean",
    **dict.fromkeys(TOLD, "string"),
}
WHOLE = "^(0|-?[1-9][0-9]*)$"
NOT_BLANK = r"[^ \t\n\u000b\f\r]"
# The keyword of each limit of numbers; those of lengths begin with what has the length.
NUMBERS = {"min": "minimum", "max": "maximum", "above": "exclusiveMinimum", "below": "exclusiveMaximum"}
LENGTHS = {"min_length": "min{}", "max_length": "max{}"}
NULL: JsonSchema = {"type": "null"}


def record_schema(plan: Plan) -> JsonSchema:
    """The schema of a record of any product; those of one product stand under `$defs`, by its name."""
    records = _Schemas(plan)
    alone = [product for product in plan.products.values() if product.base is None]
    return {
        "$schema": DRAFT,
        "title": f"Records of {plan.name}",
        "anyOf": [_reference(product.name) for product in alone],
        "$defs": {product.name: records.product(product) for product in plan.products.values()},
    }


def _reference(name: str) -> JsonSchema:
    return {"$ref": f"#/$defs/{name}"}


class _Schemas:
    """The schemas of one plan's products."""

    def __init__(self, plan: Plan) -> None:
        assert plan.records is not None, "only what has records has a schema of them"
        self._plan, self._settings, self._trees = plan, plan.records, RecordTrees(plan)

    def product(self, product: Product) -> JsonSchema:
        """An abstract product is one of its kinds, or what its factory by values takes."""
        described: JsonSchema = {"description": product.doc} if product.doc else {}
        if not product.abstract:
            return {**described, **self._object(product.fields, product.kinds if product.base else ())}
        kind = self._settings.kind
        kinds: JsonSchema = {
            "required": [kind],
            "properties": {kind: {"type": "string"}},
            "oneOf": [_reference(name) for name in product.variants],
        }
        selection = self._plan.selection_of(product.name)
        if selection is None:
            return {**described, **kinds}
        return {**described, "anyOf": [kinds, self._parameters(selection)]}

    def _parameters(self, selection: Selection) -> JsonSchema:
        by_values = self._object(
            self._plan.in_records(selection), ()
        )  # other limits are those of what is chosen
        if self._settings.ignores_unknown:  # where a kind is told, that decides
            by_values["not"] = {"required": [self._settings.kind]}
        return by_values

    def _object(self, fields: tuple[Field, ...], kinds: tuple[str, ...]) -> JsonSchema:
        told: JsonSchema = {self._settings.kind: _or_null({"enum": list(kinds)})} if kinds else {}
        required = [field.called for field in fields if field.required]
        return {
            "type": "object",
            "properties": {**told, **{field.called: self._field(field) for field in fields}},
            **({"required": required} if required else {}),
            **({} if self._settings.ignores_unknown else {"additionalProperties": False}),
        }

    def _field(self, field: Field) -> JsonSchema:
        schema = self._type(field, field.type, field.limits)
        whole = schema if field.required else _or_null(schema)
        if field.default is not None:
            whole = {**whole, "default": json.loads(json_text(self._trees.of(field.default)))}
        return {"description": field.doc, **whole} if field.doc else whole

    def _type(
        self, field: Field, type_: Type, limits: tuple[Limit, ...], *, inside: bool = False
    ) -> JsonSchema:
        each = () if inside else field.each
        match type_:
            case ChoiceType(name):
                return {"enum": list(self._plan.choices[name].in_records)}
            case ProductType(name):
                return _reference(name)
            case ListOf(element) | SetOf(element):
                items = self._type(field, element, each, inside=True)
                differ = isinstance(type_, SetOf) or is_unique(as_declared(limits))
                unique: JsonSchema = {"uniqueItems": True} if differ else {}
                return {"type": "array", "items": items, **unique, **_limited(type_, limits)}
            case MapOf(key, element):
                values = self._type(field, element, each, inside=True)
                names = self._keys(key)
                return {"type": "object", **names, "additionalProperties": values, **_limited(type_, limits)}
        if type_ in TOLD:  # what the limits of dates are only a reader tells
            known = KINDS[str(type_)]
            form: JsonSchema = {"format": known.form} if known.form is not None else {}
            return {"type": TYPES[type_], **form, "pattern": in_ecmascript(known.pattern)}
        return {"type": TYPES[type_], **_limited(type_, limits)}

    def _keys(self, type_: Type) -> JsonSchema:
        if isinstance(type_, ChoiceType):
            return {"propertyNames": {"enum": list(self._plan.choices[type_.name].in_records)}}
        return {"propertyNames": {"pattern": WHOLE}} if type_ == INTEGER else {}


def _or_null(schema: JsonSchema) -> JsonSchema:
    """The same, or null, which stands for what is not given."""
    if "enum" not in schema and "type" not in schema:
        return {"anyOf": [schema, NULL]}
    words = {"enum": [*schema["enum"], None]} if "enum" in schema else {}
    types = {"type": [schema["type"], "null"]} if "type" in schema else {}
    return {**schema, **types, **words}


def _limited(type_: Type, limits: tuple[Limit, ...]) -> JsonSchema:
    """The keywords of limits."""
    found: JsonSchema = {}
    for limit in limits:
        if limit.name in NUMBERS:
            found[NUMBERS[limit.name]] = limit.bound
        elif limit.unless_empty:
            counted = _what_has_a_length(type_)
            found["anyOf"] = [{f"max{counted}": 0}, {f"min{counted}": limit.bound}]
        elif limit.name in LENGTHS:
            found[LENGTHS[limit.name].format(_what_has_a_length(type_))] = limit.bound
        elif limit.name == "uri":
            found["format"] = "uri"
        elif isinstance(limit.bound, tuple):
            found["enum"] = list(limit.bound)
    patterns = [*_patterns(limits)]
    if len(patterns) > 1:
        return {**found, "allOf": [{"pattern": each} for each in patterns]}
    return {**found, **({"pattern": patterns[0]} if patterns else {})}


def _patterns(limits: tuple[Limit, ...]) -> Iterator[str]:
    """What texts have to match, as ECMAScript writes it; validators may leave `format` alone, so URIs have one too."""
    for limit in limits:
        if limit.name == "not_blank":
            yield NOT_BLANK
        elif limit.form is not None:
            yield in_ecmascript(limit.form)


def _what_has_a_length(type_: Type) -> str:
    if not isinstance(type_, Collection):
        return "Length"
    return "Properties" if isinstance(type_, MapOf) else "Items"
