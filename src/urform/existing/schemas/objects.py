"""Objects in a schema: their properties, with those that `allOf` brings from elsewhere."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from urform.dataclasses import dataclass
from urform.existing.losses import Loss
from urform.existing.schemas.documents import Documents, Located, Node, NotThere

# What holds for several properties together, or only under conditions.
CONDITIONS = {
    "if": "if and then",
    "not": "not",
    "dependencies": "properties that depend on others",
    "dependentRequired": "properties that depend on others",
    "dependentSchemas": "properties that depend on others",
}
_CLOSES = ("additionalProperties", "unevaluatedProperties")
# What an alternative may have that says only which properties go together.
_ONLY_CONDITIONS = {
    "required",
    "not",
    "properties",
    "description",
    "title",
    "type",
    "if",
    "then",
    "else",
    "allOf",
    "anyOf",
}


@dataclass(slots=True)
class Object:
    """What is known of an object: properties by name, each by all that say something of it, the nearest first."""

    properties: dict[str, list[Located]] = field(default_factory=dict)
    required: set[str] = field(default_factory=set)
    losses: list[Loss] = field(default_factory=list)
    closed: bool = False  # no other names are allowed
    others: bool = False  # the schema says what others may hold
    doc: str = ""


def resolved(documents: Documents, located: Located) -> Located:
    """What a node stands for, references followed to their end. Raises NotThere, also where they go in a circle."""
    seen: set[str] = set()
    while isinstance(reference := located.get("$ref"), str):
        if located.address in seen:
            raise NotThere(reference)
        seen.add(located.address)
        located = documents.follow(reference, located)
    return located


def object_of(documents: Documents, located: Located) -> Object:
    """The object that a node is about; without properties where it is about none. Raises NotThere."""
    found = Object()
    _collect(documents, located, found, set())
    found.losses[:] = dict.fromkeys(found.losses)
    return found


def _collect(documents: Documents, located: Located, found: Object, seen: set[str]) -> None:
    located = resolved(documents, located)
    if located.address in seen or not isinstance(located.node, Mapping):
        return
    seen.add(located.address)
    node: Mapping[str, Node] = located.node
    found.doc = found.doc or _doc(node)
    found.losses.extend(Loss("conditions", text) for key, text in CONDITIONS.items() if key in node)
    for property_ in located.entries("properties"):
        found.properties.setdefault(property_.name, []).append(property_)
    required = node.get("required")
    found.required |= set(required) if isinstance(required, list) else set()
    found.closed = found.closed or any(node.get(key) is False for key in _CLOSES)
    others = node.get("additionalProperties")
    found.others = found.others or others is True or (isinstance(others, Mapping) and bool(others))
    patterns = node.get("patternProperties")
    if isinstance(patterns, Mapping) and patterns:
        found.losses.append(Loss("open-record", f"properties whose names are like {', '.join(patterns)}"))
    if "properties" in node and any(_are_conditions(node.get(key)) for key in ("oneOf", "anyOf")):
        found.losses.append(Loss("conditions", "either these properties or those"))
    for part in located.entries("allOf"):
        _collect(documents, part, found, seen)


def _are_conditions(alternatives: Node) -> bool:
    return isinstance(alternatives, list) and all(
        isinstance(each, Mapping) and set(each) <= _ONLY_CONDITIONS for each in alternatives
    )


def _doc(node: Mapping[str, Node]) -> str:
    doc = node.get("description") or node.get("title") or ""
    return doc if isinstance(doc, str) else ""
