"""What may stand where a person types. The text there is seldom a declaration: a word is put in its place, and looked for."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

from urform.dataclasses import dataclass
from urform.declaration.document import Document, MappingNode, Node, ScalarNode, SequenceNode, read_text
from urform.declaration.grammar import DECLARATION
from urform.declaration.problems import Problems
from urform.declaration.reference import meaning, words_of
from urform.declaration.shape import Either, Flag, Listed, Named, Record, Shape, Words
from urform.declaration.types import SCALARS, URI
from urform.editing.names import names

_HERE = "urform_here"  # no declared name is called so: it is taken out before names are looked for
_BEFORE = re.compile(r"[A-Za-z0-9_]*\Z")
_AFTER = re.compile(r"[A-Za-z0-9_]*")
# What makes a document of a text that breaks off: a key without a value, brackets that are still open.
_OF_KEYS = (": 0", ": 0}", ": 0}}", ": 0}]", ": 0}]}")
_OF_VALUES = ("", "}", "]", "]}", "}}", "}]", "}]}")
_KEYS_FOLLOW = re.compile(r"(?:^[ \t]*(?:- +)?|[{,]\s*)\Z", re.MULTILINE)
KEY, WORD, TYPE = "key", "word", "type"


@dataclass(frozen=True, slots=True)
class Offer:
    """Something that may stand there: what is written, what sort it is, and what it means."""

    label: str
    sort: str
    insert: str
    doc: str = ""


def offers(text: str, offset: int, targets: Mapping[str, Mapping[str, str]]) -> list[Offer]:
    """What may be typed at an offset. `targets` have their settings, each with its meaning."""
    begin = offset - len(_BEFORE.search(text[:offset])[0])  # type: ignore[index]
    after = _AFTER.match(text, offset)
    end = after.end() if after is not None else offset
    is_key = _KEYS_FOLLOW.search(text[:begin]) is not None
    for ending in (*_OF_KEYS, *_OF_VALUES) if is_key else (*_OF_VALUES, *_OF_KEYS):
        document = read_text(f"{text[:begin]}{_HERE}{ending}{text[end:]}", "", Problems())
        found = _search(document.root, DECLARATION, ()) if document.root is not None else None
        offered = list(_offered(found, document, targets)) if found is not None else []
        if offered:
            return offered
    return []


@dataclass(frozen=True, slots=True)
class _Found:
    """Where the word stands: as a key of a mapping, or as a value."""

    shape: Shape | None
    path: tuple[str, ...]
    beside: tuple[str, ...] | None = None  # the other keys of the mapping; none where it is a value


def _search(node: Node, shape: Shape | None, path: tuple[str, ...]) -> _Found | None:
    match node:
        case ScalarNode(text=text):
            return _Found(shape, path) if _HERE in text else None
        case SequenceNode(items=items):
            listed = shape.sequence if isinstance(shape, Either) else shape
            inner = listed.item if isinstance(listed, Listed) else None
            found = (_search(item, inner, path) for item in items)
        case MappingNode(entries=entries):
            mapping = shape.mapping if isinstance(shape, Either) else shape
            if _HERE in entries:
                return _Found(mapping, path, tuple(name for name in entries if name != _HERE))
            found = (
                _search(value, _under(mapping, name), (*path, name)) for name, (_, value) in entries.items()
            )
        case _:
            return None
    return next((each for each in found if each is not None), None)


def _under(shape: Shape | None, name: str) -> Shape | None:
    match shape:
        case Record(keys=keys) if name in keys:
            return keys[name].shape
        case Named(value=value):
            return value
    return None


def _offered(found: _Found, document: Document, targets: Mapping[str, Mapping[str, str]]) -> Iterator[Offer]:
    if found.path[:1] == ("targets",) and len(found.path) <= 2:
        known = targets if len(found.path) == 1 else targets.get(found.path[1], {})
        for name in known:
            if name not in (found.beside or ()):
                meant = targets[found.path[1]][name] if len(found.path) == 2 else ""
                yield Offer(name, KEY, f"{name}: " if len(found.path) == 2 else f"{name}:", meant)
        return
    match found.shape:
        case Record() as record if found.beside is not None:
            yield from _keys(record, found.beside)
        case shape if shape is not None:
            yield from _values(shape, document)


def _keys(record: Record, beside: tuple[str, ...]) -> Iterator[Offer]:
    for name, key in record.keys.items():
        if name not in beside:
            scalar = key.shape.scalar if isinstance(key.shape, Either) else key.shape
            on_line = isinstance(scalar, (Words, Flag)) or (isinstance(scalar, Record) and scalar.short)
            yield Offer(name, KEY, f"{name}: " if on_line else f"{name}:", meaning(key))


def _values(shape: Shape, document: Document) -> Iterator[Offer]:
    """What stands alone in a place: words, true and false, types, and the short form of a mapping."""
    if isinstance(shape, Either):
        for each in (shape.scalar, shape.mapping):
            if each is not None and not (isinstance(each, Record) and each.short is None):
                yield from _values(each, document)
        return
    match shape:
        case Record(short=short, keys=keys) if short is not None:
            yield from _values(keys[short].shape, document)
        case Flag():
            yield Offer("true", WORD, "true")
            yield Offer("false", WORD, "false")
        case Words(what="a type"):
            yield from (Offer(name, TYPE, name) for name in (*SCALARS, str(URI)))
            yield from (Offer(f"{name}<…>", TYPE, f"{name}<") for name in ("list", "set", "map"))
            yield from _declared(document)
        case Words(what="an UpperCamel name" | "a product, or list<product>"):
            yield from _declared(document)
        case Words():
            yield from (Offer(word, WORD, word, means) for word, means in words_of(shape).items())


def _declared(document: Document) -> Iterator[Offer]:
    found = dict.fromkeys(name.text for name in names(document.root) if name.declares)
    yield from (Offer(name, TYPE, name) for name in found if name != _HERE)
