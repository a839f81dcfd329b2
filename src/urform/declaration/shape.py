"""Shapes: what may stand where in a declaration, as data.

`grammar.py` is a table of shapes. `checked` holds a document against it, notes what does not fit and
gives back the document without it, so that later stages need not look again. `schema.py` turns the same
table into a JSON Schema.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import field
from typing import TypeVar

from urform.dataclasses import dataclass
from urform.declaration.catalogue import shapes as catalogue
from urform.declaration.document import MappingNode, Node, ScalarNode, SequenceNode
from urform.declaration.place import Place
from urform.declaration.problems import Problems, did_you_mean
from urform.prose import snake

LOWER_SNAKE = re.compile(r"[a-z][a-z0-9]*(_[a-z0-9]+)*")
UPPER_CAMEL = re.compile(r"[A-Z][A-Za-z0-9]*")
_WORD = re.compile(r"[A-Za-z_][A-Za-z0-9_]*")
_KEY_AND_VALUE = re.compile(r"([A-Za-z_][A-Za-z0-9_]*):([^\s:/].*)")
LONGEST_NAME = 80  # code points; a name becomes part of file names, of which several systems allow 255 bytes

TEXT = "text"  # what a shape wants that takes any

N = TypeVar("N", bound=Node)


@dataclass(frozen=True, slots=True)
class Shape:
    """The shape of a value in one place of the file; `doc` is shown by editors."""

    doc: str = field(default="", kw_only=True)


@dataclass(frozen=True, slots=True)
class Words(Shape):
    """A text; with `pattern` a name in that spelling, with `words` one of them."""

    what: str = TEXT
    pattern: str | None = None
    words: Mapping[str, str] = field(default_factory=dict)  # each with what it means
    other: str = ""  # what may stand there beside the words


@dataclass(frozen=True, slots=True)
class Flag(Shape):
    """true or false."""


@dataclass(frozen=True, slots=True)
class Number(Shape):
    """A number; `whole` ones only, if asked for."""

    whole: bool = False


@dataclass(frozen=True, slots=True)
class Ordered(Shape):
    """A number, or the text of what else has an order."""


@dataclass(frozen=True, slots=True)
class AnyValue(Shape):
    """A value of a type that is known only later."""


@dataclass(frozen=True, slots=True)
class Listed(Shape):
    """A sequence."""

    item: Shape
    some: bool = False  # at least one


@dataclass(frozen=True, slots=True)
class Named(Shape):
    """A mapping from names of one spelling to things of one shape."""

    spelling: re.Pattern[str]
    value: Shape
    some: bool = False
    absent: bool = False  # null stands for an empty thing


@dataclass(frozen=True, slots=True)
class Key:
    """One key of a record."""

    shape: Shape
    required: bool = False
    like: str = ""  # the key with a value, for who left it out
    default: str = ""  # what holds where it is not written; nothing where that is just no such thing


@dataclass(frozen=True, slots=True)
class Record(Shape):
    """A mapping with known keys. A scalar in its place stands for its `short` key."""

    what: str
    keys: dict[str, Key]
    short: str | None = None
    instead: Mapping[str, str] = field(default_factory=dict)  # of keys that people write: what to do
    stands_for: Mapping[str, str] = field(
        default_factory=dict
    )  # of such keys: the key that is then not missing
    loose: str = ""  # what to do with the fields of a product that stand among its keys
    for_list: str = ""  # what to do where a list stands in its place


@dataclass(frozen=True, slots=True)
class Either(Shape):
    """The shape is told by the kind of node that stands there."""

    scalar: Shape | None = None
    sequence: Shape | None = None
    mapping: Shape | None = None


def checked(node: MappingNode, shape: Shape, problems: Problems) -> MappingNode:
    """The document without what does not fit, all of which is noted."""
    left = _Checker(problems).fit(node, shape, "the declaration")
    return left if isinstance(left, MappingNode) else MappingNode(node.place)


class _Checker:
    def __init__(self, problems: Problems) -> None:
        self._problems = problems

    def fit(self, node: Node, shape: Shape, where: str) -> Node | None:
        """The node without its ill-shaped parts, None when nothing of it is left."""
        match shape:
            case Words():
                return self._words(node, shape, where)
            case Flag():
                return self._scalar(node, bool, "true or false", where)
            case Number():
                return self._number(node, shape, where)
            case Ordered() if isinstance(node, ScalarNode) and isinstance(node.value, str):
                return node
            case Ordered():
                return self._number(node, Number(), where)
            case AnyValue():
                return node
            case Listed():
                return self._listed(node, shape, where)
            case Named():
                return self._named(node, shape, where)
            case Record():
                return self._record(node, shape, where)
            case Either():
                return self._either(node, shape, where)
        raise TypeError(f"no such shape: {shape}")

    def _wrong(self, node: Node, wanted: str, where: str, use: str = "") -> None:
        joined = _joined(node) if "mapping" in wanted else None
        if joined is not None:
            self._no_space(node.place, *joined)
            return
        self._problems.add(
            catalogue.WRONG_SHAPE,
            node.place,
            where=where,
            wanted=wanted,
            found=described(node),
            use=use,
        )

    def _no_space(self, place: Place, key: str, value: str) -> None:
        self._problems.add(catalogue.SPACE_MISSING, place, text=f"{key}:{value}", key=key, value=value)

    def _scalar(self, node: Node, kind: type, wanted: str, where: str) -> Node | None:
        if isinstance(node, ScalarNode) and isinstance(node.value, kind):
            return node
        self._wrong(node, wanted, where)
        return None

    def _number(self, node: Node, shape: Number, where: str) -> Node | None:
        wanted = "a whole number" if shape.whole else "a number"
        allowed = (int,) if shape.whole else (int, float)
        if (
            isinstance(node, ScalarNode)
            and isinstance(node.value, allowed)
            and not isinstance(node.value, bool)
        ):
            return node
        self._wrong(node, wanted, where)
        return None

    def _words(self, node: Node, shape: Words, where: str) -> Node | None:
        if not isinstance(node, ScalarNode) or not (
            isinstance(node.value, str) or (shape.words and node.text)
        ):
            if shape.what == TEXT and isinstance(node, ScalarNode) and node.value is not None:
                found = described(node)
                self._problems.add(
                    catalogue.NEEDS_QUOTES, node.place, where=where, found=found, text=node.text
                )
                return None
            self._wrong(node, shape.what, where)
            return None
        if shape.words and node.text not in shape.words:
            hint = did_you_mean(node.text, shape.words)
            self._problems.add(
                catalogue.UNKNOWN_WORD,
                node.place,
                word=node.text,
                where=where,
                words=tuple(shape.words),
                other=shape.other and f", or {shape.other}",
                hint=hint,
            )
            return None
        if shape.pattern is not None and len(node.text) > LONGEST_NAME:
            self._problems.add(catalogue.LONG_NAME, node.place, length=len(node.text), most=LONGEST_NAME)
            return None
        if shape.pattern is not None and not re.fullmatch(shape.pattern, node.text):
            self._bad_name(node, shape.what)
            return None
        return node

    def _listed(self, node: Node, shape: Listed, where: str) -> Node | None:
        if not isinstance(node, SequenceNode):
            self._wrong(node, "a list", where)
            return None
        if shape.some and not node.items:
            self._problems.add(catalogue.NOTHING_IN_IT, node.place, where=where)
            return None
        fitted = (
            self.fit(item, shape.item, f"entry {number} of {where}")
            for number, item in enumerate(node.items, 1)
        )
        return SequenceNode(node.place, [item for item in fitted if item is not None])

    def _named(self, node: Node, shape: Named, where: str) -> Node | None:
        if not isinstance(node, MappingNode):
            self._wrong(node, "a mapping", where)
            return None
        if shape.some and not node.entries:
            self._problems.add(catalogue.NOTHING_IN_IT, node.place, where=where)
            return None
        left, before = MappingNode(node.place), ""
        for name, (key, value) in node.entries.items():
            if not self._may_stay(key, value, shape, before):
                continue
            before = name
            if shape.absent and isinstance(value, ScalarNode) and value.value is None:
                value = MappingNode(value.place)
            fitted = self.fit(value, shape.value, name)
            if fitted is not None:
                left.entries[name] = (key, fitted)
        return left

    def _may_stay(self, key: ScalarNode, value: Node, shape: Named, before: str) -> bool:
        """Whether something of that name can be looked into: it has one, though it may be spelt in another way."""
        if len(key.text) > LONGEST_NAME:
            self._problems.add(catalogue.LONG_NAME, key.place, length=len(key.text), most=LONGEST_NAME)
            return False
        if shape.spelling.fullmatch(key.text):
            return True
        joined = _joined(key)
        if joined is not None and isinstance(value, ScalarNode) and value.value is None:
            self._no_space(key.place, *joined)
            return False
        if before and isinstance(shape.value, Record) and key.text in shape.value.keys:
            self._problems.add(catalogue.TOO_SHALLOW, key.place, key=key.text, name=before)
            return False
        self._bad_name(key, "lower_snake" if shape.spelling is LOWER_SNAKE else "UpperCamel")
        return _WORD.fullmatch(key.text) is not None

    def _bad_name(self, node: ScalarNode, wanted: str) -> None:
        respelt = _respelt(node.text, is_snake="lower_snake" in wanted)
        self._problems.add(
            catalogue.BAD_NAME,
            node.place,
            name=node.text,
            wanted=wanted,
            use=f"write {respelt}" if respelt else "",
            instead=respelt or "",
        )

    def _record(self, node: Node, shape: Record, where: str) -> Node | None:
        if shape.short is not None and isinstance(node, ScalarNode):
            value = self.fit(node, shape.keys[shape.short].shape, where)
            return value and MappingNode(
                node.place, {shape.short: (ScalarNode(node.place, shape.short, shape.short), value)}
            )
        if not isinstance(node, MappingNode):
            self._wrong(node, f"a mapping ({shape.what})", where, _in_place_of(node, shape))
            return None
        left, joined = MappingNode(node.place), set[str]()
        meant = _meant(node, shape)
        for name, (key, value) in node.entries.items():
            known = shape.keys.get(meant.get(name, name))
            if known is None or name in meant:
                joined.add(self._unknown_key(key, value, shape, meant.get(name, "")))
            if known is None:
                continue
            fitted = self.fit(value, known.shape, f"'{name}'")
            if fitted is not None:
                left.entries[meant.get(name, name)] = (key, fitted)
        for name, known in shape.keys.items():
            if known.required and name not in node.entries and name not in joined:
                self._problems.add(
                    catalogue.MISSING_KEY,
                    _beginning(node),
                    key=name,
                    where=where,
                    what=shape.what,
                    use=f"add `{known.like}` to this {shape.what}" if known.like else "",
                )
        return left

    def _unknown_key(self, key: ScalarNode, value: Node, shape: Record, meant: str) -> str:
        """Tell it; the known key that it is `meant` for, or joined with, or stands for."""
        joined = _joined(key)
        if joined is not None and joined[0] in shape.keys:
            self._no_space(key.place, *joined)
            return joined[0]
        use = f"write `{meant}` in its place" if meant else shape.instead.get(key.text, "")
        if not use and shape.loose and _is_like_field(value):
            use = shape.loose
        self._problems.add(
            catalogue.UNKNOWN_KEY,
            key.place,
            key=key.text,
            what=shape.what,
            hint=did_you_mean(key.text, shape.keys) if meant or not use else "",
            known=tuple(shape.keys),
            use=use,
            instead=meant,
        )
        return meant or shape.stands_for.get(key.text, "")

    def _either(self, node: Node, shape: Either, where: str) -> Node | None:
        here = {ScalarNode: shape.scalar, SequenceNode: shape.sequence, MappingNode: shape.mapping}[
            type(node)
        ]
        if here is not None:
            return self.fit(node, here, where)
        wanted = (("a word", shape.scalar), ("a list", shape.sequence), ("a mapping", shape.mapping))
        self._wrong(node, " or ".join(name for name, there in wanted if there), where)
        return None


def _meant(node: MappingNode, shape: Record) -> dict[str, str]:
    """Unknown keys that are other words for missing ones: near to one, or the last left with a value that fits."""
    missing = [name for name, key in shape.keys.items() if key.required and name not in node.entries]
    if not missing:
        return {}
    unknown = [
        name
        for name, (key, _) in node.entries.items()
        if name not in shape.keys and name not in shape.instead and _joined(key) is None
    ]
    meant: dict[str, str] = {}
    for name in unknown:
        near = did_you_mean(name, shape.keys).word
        if near in missing:
            missing.remove(near)
            meant[name] = near
    left = [name for name in unknown if name not in meant]
    if len(left) == len(missing) == 1 and _is_meant_for(
        node.entries[left[0]][1], shape.keys[missing[0]].shape
    ):
        meant[left[0]] = missing[0]
    return meant


def _is_meant_for(value: Node, shape: Shape) -> bool:
    """Whether the value tells that it was meant for this place; any text fits a place for texts, and tells nothing."""
    match shape:
        case Words():
            told = Problems()
            return (shape.pattern is not None or bool(shape.words)) and (
                _Checker(told).fit(value, shape, "") is not None and not told
            )
        case Named():
            return isinstance(value, MappingNode)
        case Listed():
            return isinstance(value, SequenceNode)
        case Number():
            return isinstance(value, ScalarNode) and isinstance(value.value, (int, float))
    return False


def _joined(node: Node) -> tuple[str, str] | None:
    """A key and its value that YAML takes for one word, because no space stands between them."""
    if not isinstance(node, ScalarNode) or node.quoted:
        return None
    match = _KEY_AND_VALUE.fullmatch(node.text)
    return (match[1], match[2]) if match is not None else None


def _respelt(name: str, *, is_snake: bool) -> str:
    """The name in the spelling that is wanted; nothing where that cannot be told."""
    words = [part for part in re.split(r"[^A-Za-z0-9]+", snake(name)) if part]
    if is_snake:
        spelt, spelling = "_".join(words), LOWER_SNAKE
    else:
        spelt, spelling = "".join(word[0].upper() + word[1:] for word in words), UPPER_CAMEL
    return spelt if spelling.fullmatch(spelt) and spelt != name and name.isascii() else ""


def _is_like_field(node: Node) -> bool:
    """Whether that could be a field: a type, or a mapping that has one."""
    if isinstance(node, MappingNode):
        return "type" in node.entries
    return isinstance(node, ScalarNode) and isinstance(node.value, str)


def _in_place_of(node: Node, shape: Record) -> str:
    """What to write where something else stands in place of a mapping; nothing where nobody can tell."""
    if isinstance(node, SequenceNode):
        return shape.for_list
    if not isinstance(node, ScalarNode):
        return ""
    for name, key in shape.keys.items():
        if isinstance(key.shape, Words) and node.text in key.shape.words:
            return f"write {{{name}: {node.text}}}"
    needed = [key.like or name for name, key in shape.keys.items() if key.required]
    if node.value is None or node.value is True:
        return f"write {{{', '.join(needed)}}}" if all(": " in each for each in needed) else ""
    return ""


def _beginning(node: MappingNode) -> Place:
    """The first key stands for its mapping: a mapping's own place has no width."""
    return next((key.place for key, _ in node.entries.values()), node.place)


def described(node: Node) -> str:
    """A description of what stands there."""
    if isinstance(node, MappingNode):
        return "a mapping"
    if isinstance(node, SequenceNode):
        return "a list"
    assert isinstance(node, ScalarNode)
    if node.value is None:
        return "nothing"
    if isinstance(node.value, str):
        return f"the text {node.value[:40]!r}"
    return f"{'the number ' if not isinstance(node.value, bool) else ''}{node.text[:40]}"
