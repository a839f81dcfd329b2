"""From schemas to found types: what each property can hold, and which objects are kinds of one thing."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import field, replace
from pathlib import Path

from urform.dataclasses import dataclass
from urform.existing.found import (
    LIST,
    MAP,
    NAMED,
    NOTHING,
    WORDS,
    Found,
    FoundField,
    FoundType,
    Spot,
    Type,
    nothing,
)
from urform.existing.losses import Loss
from urform.existing.schemas import scalars
from urform.existing.schemas.documents import Documents, Located, Node, NotThere, Unreadable
from urform.existing.schemas.objects import Object, object_of, resolved
from urform.existing.schemas.unions import collection, either, losing, nullable

DEEPEST = 12  # levels of collections and unions within each other
DEFINITIONS = ("definitions", "$defs")
_ANY = nothing("any", "any value")
_EVERY_KEY = {"", ".*", ".+", "^.*$", "^.+$", "^.*", ".*$"}
_OF_SCHEMAS = {"schema", "json", "the", "a", "of", "for"}  # words of titles that name nothing
# Keys by which a schema without a `type` shows what it is about.
_TELLING = {
    "object": ("properties", "additionalProperties", "patternProperties"),
    "array": ("items", "prefixItems", "uniqueItems"),
    "string": ("pattern", "minLength", "maxLength"),
    "number": ("minimum", "maximum"),
}


def read_schemas(paths: Sequence[Path], given: Mapping[str, str]) -> Found:
    """The types of some files; `given` are scalars of the format that stand for definitions, by their names.

    A file that cannot be read is told in `unread`.
    """
    reader = _Reader(Documents(), dict(given))
    for path in paths:
        reader.read(path)
    return reader.found()


@dataclass(slots=True)
class _Reader:
    documents: Documents
    given: dict[str, str]
    types: dict[str, FoundType | None] = field(default_factory=dict)  # None: it is being read
    same: dict[tuple[str, str], str] = field(default_factory=dict)  # objects that stand at several places
    base_of: dict[str, str] = field(default_factory=dict)
    tags: dict[str, str] = field(default_factory=dict)
    unread: list[tuple[Spot, str]] = field(default_factory=list)
    waiting: list[tuple[str, Located, str, str]] = field(default_factory=list)  # id, object, name, owner
    current: str = ""  # the type that is being read
    opened: list[bool] = field(default_factory=list)

    def read(self, path: Path) -> None:
        """The root, where it is an object or a list of objects, and all definitions that are objects."""
        try:
            root = self.documents.read(path)
        except Unreadable as error:
            self.unread.append((Spot(str(path), 1, ""), str(error)))
            return
        if isinstance(root.node, Mapping):
            self._type(root, _name_of(root), 0)
        self._read_waiting()
        for section in DEFINITIONS:
            for definition in root.entries(section):
                self._definition(definition)
        self._read_waiting()

    def _definition(self, definition: Located) -> None:
        try:
            is_object = bool(object_of(self.documents, definition).properties)
        except NotThere:
            return  # told where it is used
        if is_object and definition.name not in self.given:
            self._type(definition, definition.name, 0)

    def found(self) -> Found:
        """All that was read."""
        types = tuple(
            replace(found, tag=self.tags.get(found.id, ""))
            for found in self.types.values()
            if found is not None
        )
        return Found(types, is_open=any(self.opened), from_records=True, unread=tuple(self.unread))

    # --- what can stand in a place ---

    def _type(self, located: Located, name: str, depth: int) -> Type:
        if located.node is True or located.node == {}:
            return _ANY
        if depth > DEEPEST:
            return nothing("any", "types too deep within each other")
        try:
            target = resolved(self.documents, located)
        except NotThere as error:
            return nothing("other-file", f"what {error} leads to")
        own = _own_name(target)
        if own in self.given:
            return Type(self.given[own])
        name = own or (target.name if target is not located and not target.name.isdigit() else "") or name
        if not isinstance(target.node, Mapping):
            return _ANY if target.node is True else nothing("any", "nothing that could be given")
        return self._of_node(target, name, depth)

    def _of_node(self, located: Located, name: str, depth: int) -> Type:
        node: Mapping[str, Node] = located.node
        if "const" in node:
            return scalars.one_of([node["const"]], name)
        if isinstance(node.get("enum"), list):
            return scalars.one_of(node["enum"], name)
        for key in ("oneOf", "anyOf"):
            if isinstance(node.get(key), list) and not node.get("properties"):
                return self._union(located, key, name, depth)
        if isinstance(node.get("allOf"), list):
            return self._all_of(located, name, depth)
        kinds = [kind for kind in _kinds(node) if kind != "null"]
        if set(kinds) == {"integer", "number"}:
            kinds = ["number"]
        if len(kinds) > 1:
            types = [self._of_kind(located, kind, name, depth) for kind in kinds]
            return nullable(either(types), "null" in _kinds(node))
        if not kinds:
            return _ANY if "null" not in _kinds(node) else nothing("any", "only null")
        found = self._of_kind(located, kinds[0], name, depth)
        return nullable(found, "null" in _kinds(node) or node.get("nullable") is True)

    def _of_kind(self, located: Located, kind: str, name: str, depth: int) -> Type:
        node: Mapping[str, Node] = located.node
        if kind == "string":
            return scalars.text(node)
        if kind in ("integer", "number"):
            return scalars.number(node, "integer" if kind == "integer" else "real")
        if kind == "boolean":
            return Type("boolean")
        if kind == "array":
            return self._array(located, name, depth)
        if kind == "object":
            return self._object(located, name, depth)
        return nothing("any", f"type {kind}")

    def _all_of(self, located: Located, name: str, depth: int) -> Type:
        try:
            if object_of(self.documents, located).properties:
                return self._record(located, name)
        except NotThere as error:
            return nothing("other-file", f"what {error} leads to")
        telling = [part for part in located.entries("allOf") if _tells(part.node)]
        if len(telling) == 1:
            lost = len(list(located.entries("allOf"))) > 1 or "type" in located.node
            found = self._type(telling[0], name, depth + 1)
            return losing(found, Loss("conditions", "more that has to hold")) if lost else found
        if not telling and "type" in located.node:
            rest = {key: value for key, value in located.node.items() if key != "allOf"}
            found = self._of_node(replace(located, node=rest), name, depth + 1)
            return losing(found, Loss("conditions", "more that has to hold"))
        return nothing("union", "several types at once")

    def _array(self, located: Located, name: str, depth: int) -> Type:
        node: Mapping[str, Node] = located.node
        if isinstance(node.get("items"), list) or "prefixItems" in node:
            return nothing("tuple", "a list with a type of its own at each place")
        if node.get("items", True) in (True, {}):
            return nothing("any", "a list of any values")
        element = self._type(located.at("items"), _singular(name), depth + 1)
        limits, losses = scalars.collected(node, "minItems", "maxItems")
        if "contains" in node:
            losses = (*losses, Loss("conditions", "what has to be in the list"))
        if node.get("uniqueItems") is True:
            if element.kind in ("text", "integer", WORDS):
                limits["unique"] = True
            elif element.kind != NOTHING:
                losses = (*losses, Loss("unique", "no two elements alike"))
        return collection(LIST, element, limits, losses)

    def _object(self, located: Located, name: str, depth: int) -> Type:
        node: Mapping[str, Node] = located.node
        if node.get("properties"):
            return self._record(located, name)
        return self._map(located, name, depth)

    def _map(self, located: Located, name: str, depth: int) -> Type:
        node: Mapping[str, Node] = located.node
        values = list(located.entries("patternProperties"))
        patterns = [each.name for each in values]
        if isinstance(node.get("additionalProperties"), Mapping):
            values.append(located.at("additionalProperties"))
        if not values:
            return nothing("any", "an object with any names")
        types = [self._type(each, _singular(name), depth + 1) for each in values]
        limits, losses = scalars.collected(node, "minProperties", "maxProperties")
        if "propertyNames" in node or any(pattern not in _EVERY_KEY for pattern in patterns):
            losses = (*losses, Loss("map-keys", "which keys there may be"))
        return collection(MAP, either(types), limits, losses)

    # --- unions ---

    def _union(self, located: Located, key: str, name: str, depth: int) -> Type:
        node: Mapping[str, Node] = located.node
        alternatives = list(self._alternatives(located, key, {located.address}))
        if not any(_tells(each.node) for each in alternatives):
            rest = {each: value for each, value in node.items() if each not in ("oneOf", "anyOf")}
            found = self._of_node(replace(located, node=rest), name, depth + 1)
            return losing(found, Loss("conditions", "one of several conditions"))
        some = [each for each in alternatives if not _is_null(each.node)]
        objects = [each for each in some if self._is_object(each)]
        or_null = len(some) < len(alternatives)
        if len(objects) > 1:
            joined = self._kinds_of(located, objects, name)
            others = [self._type(each, name, depth + 1) for each in some if each not in objects]
            return nullable(either([joined, *others]), or_null)
        types = [self._type(_typed(each, node), name, depth + 1) for each in some]
        return nullable(either(types), or_null) if types else nothing("any", "only null")

    def _alternatives(self, located: Located, key: str, seen: set[str]) -> Iterator[Located]:
        """Those of the union, and of unions in it, each union once."""
        for each in located.entries(key):
            try:
                target = resolved(self.documents, each)
            except NotThere:
                yield each
                continue
            inner = (
                set(target.node) - {"description", "title", "deprecated"}
                if isinstance(target.node, Mapping)
                else ()
            )
            if set(inner) not in ({"oneOf"}, {"anyOf"}):
                yield each
            elif target.address not in seen:
                seen.add(target.address)
                yield from self._alternatives(target, next(iter(inner)), seen)

    def _is_object(self, located: Located) -> bool:
        try:
            return bool(object_of(self.documents, located).properties)
        except NotThere:
            return False

    def _kinds_of(self, union: Located, objects: Sequence[Located], name: str) -> Type:
        """The kinds of one thing, where each of them has a word of its own under the same name."""
        targets = [resolved(self.documents, each) for each in objects]
        tag_field, tags = self._tags(targets)
        if not tag_field:
            return nothing("union", f"one of {len(objects)} objects, which no property tells apart")
        for target, tag in zip(targets, tags, strict=True):
            self._record(target, _own_name(target) or f"{tag} {name}")
        ids = tuple(self._id(target) for target in targets)
        bases = {self.base_of.get(each) for each in ids}
        if bases == {None} and len(set(ids)) == len(ids):
            return self._base(union, name, ids, tag_field, tags)
        base = next(iter(bases))
        whole = self.types.get(base) if base is not None and len(bases) == 1 else None
        if whole is not None and set(whole.kinds) == set(ids):
            return Type(NAMED, name=whole.id)
        return nothing("union", "objects that are kinds of something else already")

    def _base(
        self, union: Located, name: str, ids: tuple[str, ...], tag_field: str, tags: Sequence[str]
    ) -> Type:
        base = FoundType(
            union.address,
            name,
            (),
            self._spot(union),
            _said(union.node),
            kinds=ids,
            tag_field=tag_field,
            within="" if _own_name(union) else self.current,
        )
        self.types[base.id] = base
        for each, tag in zip(ids, tags, strict=True):
            self.base_of[each] = base.id
            self.tags[each] = tag
        return Type(NAMED, name=base.id)

    def _tags(self, targets: Sequence[Located]) -> tuple[str, list[str]]:
        """The property that tells objects apart, and the word of each; empty where there is none."""
        objects = [object_of(self.documents, each) for each in targets]
        for name in objects[0].properties:
            tags = [self._only_word(each, name) for each in objects]
            if all(tags) and len(set(tags)) == len(tags):
                return name, [str(tag) for tag in tags]
        return "", []

    def _only_word(self, object_: Object, name: str) -> str | None:
        for located in object_.properties.get(name, ()):
            try:
                node = resolved(self.documents, located).node
            except NotThere:
                continue
            if not isinstance(node, Mapping):
                continue
            values: list[Node] = [node["const"]] if "const" in node else node.get("enum") or []
            if len(values) == 1 and isinstance(values[0], str):
                return values[0]
        return None

    # --- objects ---

    def _id(self, located: Located) -> str:
        """Objects of the same content and under the same name are one."""
        if located.name and "/properties/" in located.pointer:
            content = json.dumps(located.node, sort_keys=True, default=str)
            return self.same.setdefault((located.name, content), located.address)
        return located.address

    def _record(self, located: Located, name: str) -> Type:
        """An object, which is read later: objects can go on in each other without an end."""
        id_ = self._id(located)
        if id_ not in self.types:
            self.types[id_] = None
            self.waiting.append((id_, located, name, "" if _own_name(located) else self.current))
        return Type(NAMED, name=id_)

    def _read_waiting(self) -> None:
        for id_, located, name, owner in self.waiting:  # which grows
            self.current = id_
            object_ = object_of(self.documents, located)
            self.opened.append(not object_.closed)
            losses = [
                *object_.losses,
                *([Loss("open-record", "any other properties")] if object_.others else []),
            ]
            fields = tuple(self._field(each, places, object_) for each, places in object_.properties.items())
            self.types[id_] = FoundType(
                id_, name, fields, self._spot(located), object_.doc, tuple(losses), within=owner
            )
        self.waiting.clear()
        self.current = ""

    def _field(self, name: str, places: Sequence[Located], object_: Object) -> FoundField:
        located = _joined(places)
        type_ = self._type(located, name, 0)
        if located.node is False:
            type_ = nothing("any", "nothing that could be given")
        return FoundField(
            name,
            type_,
            name in object_.required,
            self._spot(places[0]),
            next((doc for each in places if (doc := _said(each.node))), ""),
            self._default(located),
        )

    def _default(self, located: Located) -> tuple[object, ...]:
        node = located.node
        if isinstance(node, Mapping) and "default" not in node and "$ref" in node:
            try:
                node = resolved(self.documents, located).node
            except NotThere:
                return ()
        value = node.get("default") if isinstance(node, Mapping) else None
        return () if value is None else (value,)

    def _spot(self, located: Located) -> Spot:
        return Spot(str(located.file), self.documents.line(located), located.pointer or "/")


def _own_name(located: Located) -> str:
    """The name of a definition; empty of what is none."""
    section, _, name = located.pointer.rpartition("/")
    return located.name if name and section.rpartition("/")[2] in DEFINITIONS else ""


def _name_of(root: Located) -> str:
    """What a schema is about: its title where that is a name, else its file."""
    title = root.get("title")
    words = re.split(r"[^A-Za-z0-9]+", title if isinstance(title, str) else "")
    names = [word for word in words if word and word.lower() not in _OF_SCHEMAS]
    stem = root.file.name.partition(".")[0]
    return " ".join(names) if 0 < len(names) <= 3 else stem


def _kinds(node: Mapping[str, Node]) -> list[str]:
    """The types of JSON that a schema is about, `null` among them."""
    kind = node.get("type")
    if isinstance(kind, str):
        return [kind]
    if isinstance(kind, list):
        return [each for each in kind if isinstance(each, str)]
    return next(([kind] for kind, keys in _TELLING.items() if any(node.get(key) for key in keys)), [])


def _tells(node: Node) -> bool:
    """Whether a node says what type a value has."""
    keys = ("type", "$ref", "enum", "const", "properties", "oneOf", "anyOf", "allOf", "items")
    return isinstance(node, Mapping) and any(key in node for key in keys)


def _is_null(node: Node) -> bool:
    return isinstance(node, Mapping) and (
        node.get("type") == "null"
        or node.get("enum") == [None]
        or ("const" in node and node["const"] is None)
    )


def _typed(located: Located, union: Mapping[str, Node]) -> Located:
    """An alternative, with the type that stands beside the union."""
    if isinstance(located.node, Mapping) and "type" in union and not _tells(located.node):
        return replace(located, node={**located.node, "type": union["type"]})
    return located


def _joined(places: Sequence[Located]) -> Located:
    """One node of all that say something of a property; the nearest wins where two say the same."""
    if len(places) == 1 or not all(isinstance(each.node, Mapping) for each in places):
        return places[0]
    node: dict[str, Node] = {}
    for each in reversed(places):
        node |= each.node
    return replace(places[0], node=node)


def _said(node: Node) -> str:
    doc = (node.get("description") or node.get("title")) if isinstance(node, Mapping) else None
    return doc if isinstance(doc, str) else ""


def _singular(name: str) -> str:
    """What one element may be called."""
    for ending, one in (("ies", "y"), ("sses", "ss"), ("ss", "ss"), ("s", "")):
        if name.endswith(ending) and len(name) > len(ending) + 1:
            return name.removesuffix(ending) + one
    return f"{name} item"
