"""The JSON Schema of the format, from the same table that files are checked against."""

from __future__ import annotations

from typing import Any

from urform.declaration.grammar import DECLARATION, FORMAT
from urform.declaration.shape import (
    AnyValue,
    Either,
    Flag,
    Listed,
    Named,
    Number,
    Ordered,
    Record,
    Shape,
    Words,
)

JsonSchema = dict[str, Any]


def json_schema() -> JsonSchema:
    """A JSON Schema (draft 2020-12) that editors complete and validate with."""
    schema = _schema(DECLARATION)
    schema["properties"]["urform"] = {"const": FORMAT, "description": DECLARATION.keys["urform"].shape.doc}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Urform declaration, format 1",
        **schema,
    }


def _schema(shape: Shape) -> JsonSchema:
    described: JsonSchema = {"description": shape.doc} if shape.doc else {}
    return {**described, **_body(shape)}


def _body(shape: Shape) -> JsonSchema:
    match shape:
        case Words(words=words) if words:
            return {"oneOf": [{"const": word, "description": meaning} for word, meaning in words.items()]}
        case Words(pattern=pattern):
            return {"type": "string", **({"pattern": f"^{pattern}$"} if pattern else {})}
        case Flag():
            return {"type": "boolean"}
        case Number(whole=whole):
            return {"type": "integer" if whole else "number"}
        case Ordered():
            return {"type": ["number", "string"]}
        case AnyValue():
            return {}
        case Listed(item=item, some=some):
            return {"type": "array", "items": _schema(item), **({"minItems": 1} if some else {})}
        case Named():
            return _named(shape)
        case Record():
            return _record(shape)
        case Either():
            return {
                "anyOf": [_schema(there) for there in (shape.scalar, shape.sequence, shape.mapping) if there]
            }
    raise TypeError(f"no such shape: {shape}")


def _named(shape: Named) -> JsonSchema:
    value = _schema(shape.value)
    return {
        "type": "object",
        "patternProperties": {
            f"^{shape.spelling.pattern}$": {"anyOf": [value, {"type": "null"}]} if shape.absent else value
        },
        "additionalProperties": False,
        **({"minProperties": 1} if shape.some else {}),
    }


def _record(shape: Record) -> JsonSchema:
    required = [name for name, key in shape.keys.items() if key.required]
    whole = {
        "type": "object",
        "properties": {name: _schema(key.shape) for name, key in shape.keys.items()},
        "additionalProperties": False,
        **({"required": required} if required else {}),
    }
    if shape.short is None:
        return whole
    return {"anyOf": [_schema(shape.keys[shape.short].shape), whole]}
