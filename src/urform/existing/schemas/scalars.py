"""Texts, numbers and closed sets of values in a schema, with their limits."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from urform.declaration.regexp.dialects import EVERY_TEXT, from_ecmascript
from urform.existing.found import WORDS, Type, nothing
from urform.existing.losses import Loss
from urform.existing.schemas.documents import Node

LARGEST = 2**53 - 1  # what every language has exactly
# Formats that are types of their own, by their names in JSON Schema.
FORMATS = {"date": "date", "date-time": "instant", "uuid": "uuid", "uri": "uri", "decimal": "decimal"}
# Formats that say no more than the type does.
IDLE_FORMATS = ("int32", "int64", "float", "double", "string", "")
_BOUNDS = (("minimum", "min", "above"), ("maximum", "max", "below"))


def text(node: Mapping[str, Node]) -> Type:
    """A text, or what its format says."""
    limits: dict[str, object] = {}
    losses: list[Loss] = []
    format_ = str(node.get("format", ""))
    kind = FORMATS.get(format_, "text")
    if kind == "text" and format_ not in IDLE_FORMATS:
        losses.append(Loss("format", f"format {format_}"))
    if "contentEncoding" in node:
        losses.append(Loss("format", f"content in {node['contentEncoding']}"))
    pattern = node.get("pattern")
    if isinstance(pattern, str):
        written = from_ecmascript(pattern) if kind == "text" else None
        if written is None:
            losses.append(Loss("pattern", f"pattern {pattern}"))
        elif written != EVERY_TEXT:
            limits["pattern"] = written
    lengths, lost = _lengths(node, "minLength", "maxLength")
    if kind in ("text", "uri"):
        limits |= lengths
    return Type(kind, limits=limits, losses=(*losses, *lost))


def collected(node: Mapping[str, Node], least: str, most: str) -> tuple[dict[str, object], tuple[Loss, ...]]:
    """The lengths of a collection, by the keys that have them."""
    return _lengths(node, least, most)


def _lengths(node: Mapping[str, Node], least: str, most: str) -> tuple[dict[str, object], tuple[Loss, ...]]:
    limits: dict[str, object] = {}
    losses: list[Loss] = []
    for key, limit in ((least, "min_length"), (most, "max_length")):
        bound = node.get(key)
        if isinstance(bound, int | float) and not isinstance(bound, bool):
            if bound != int(bound) or not 0 <= bound <= LARGEST:
                losses.append(Loss("limit", f"{key} {bound}"))
            elif bound > 0 or limit == "max_length":
                limits[limit] = int(bound)
    return limits, tuple(losses)


def number(node: Mapping[str, Node], kind: str) -> Type:
    """An integer or a real."""
    limits: dict[str, object] = {}
    losses: list[Loss] = []
    for key, bound, value in _bounds(node):
        if kind == "integer" and (value != int(value) or abs(value) > LARGEST):
            losses.append(Loss("limit", f"{key} {value}"))
        else:
            limits[bound] = int(value) if kind == "integer" else float(value)
    if node.get("multipleOf", 1) != 1:
        losses.append(Loss("limit", f"multipleOf {node['multipleOf']}"))
    if (format_ := str(node.get("format", ""))) not in IDLE_FORMATS:
        losses.append(Loss("format", f"format {format_}"))
    return Type(kind, limits=limits, losses=tuple(losses))


def _bounds(node: Mapping[str, Node]) -> Iterator[tuple[str, str, float]]:
    """In draft-04 a bound is exclusive by a flag beside it, later by a key of its own."""
    for key, inclusive, exclusive in _BOUNDS:
        beyond = f"exclusive{key.capitalize()}"
        if _is_number(node.get(key)):
            yield key, exclusive if node.get(beyond) is True else inclusive, node[key]
        elif _is_number(node.get(beyond)):
            yield beyond, exclusive, node[beyond]


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def one_of(values: Sequence[Node], name: str) -> Type:
    """A closed set of values; null among them says that there may be none."""
    some = list({repr(value): value for value in values if value is not None}.values())
    or_null = len(some) < len({repr(value) for value in values})
    if some and all(isinstance(value, str) for value in some):
        return Type(WORDS, name=name, words=tuple(some), or_null=or_null)
    if some and all(isinstance(value, bool) for value in some):
        lost = (Loss("limit", f"only {some[0]}".lower()),) if len(some) == 1 else ()
        return Type("boolean", losses=lost, or_null=or_null)
    if some and all(isinstance(value, int) and not isinstance(value, bool) for value in some):
        if all(abs(value) <= LARGEST for value in some):
            return Type("integer", limits={"one_of": some}, or_null=or_null)
        return Type("integer", losses=(Loss("limit", "numbers beyond 2^53"),), or_null=or_null)
    if some and all(_is_number(value) for value in some):
        return Type("real", losses=(Loss("limit", f"one of {some}"),), or_null=or_null)
    return nothing("any" if not some else "union", "values of several types" if some else "only null")
