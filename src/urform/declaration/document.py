"""YAML 1.2 text to nodes that know their place.

The events come from PyYAML's parser (libyaml where it is compiled in). Plain scalars are resolved here by
the core schema of YAML 1.2, chapter 10.3, so `no` and `on` stay words and `0o17` is a number. Size, depth
and alias expansion are bounded: a hostile file is a problem like any other.
"""

from __future__ import annotations

import re
from dataclasses import field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from urform.dataclasses import dataclass
from urform.declaration.catalogue import files as catalogue
from urform.declaration.place import START, Place
from urform.declaration.problems import Kind, Problems, TooManyProblems

if TYPE_CHECKING:
    from collections.abc import Iterator

LARGEST_FILE = 16 * 1024 * 1024  # bytes; ten thousand products take about ten MiB
DEEPEST = 40  # levels; the format needs about ten
MOST_EXPANDED = 1_200_000  # nodes, aliases expanded; a product of twelve fields has about eighty

Scalar = str | int | float | bool | None

_NULL = {"", "~", "null", "Null", "NULL"}
_TRUE = {"true", "True", "TRUE"}
_FALSE = {"false", "False", "FALSE"}
_INTEGER = re.compile(r"[-+]?[0-9]+|0o[0-7]+|0x[0-9a-fA-F]+")
_REAL = re.compile(r"[-+]?(\.[0-9]+|[0-9]+(\.[0-9]*)?)([eE][-+]?[0-9]+)?")
_SPECIAL = re.compile(r"[-+]?\.(inf|Inf|INF)|\.(nan|NaN|NAN)")
_CORE_TAGS = frozenset(
    ("!", *(f"tag:yaml.org,2002:{name}" for name in "str int float bool null map seq".split()))
)
# What the parser counts as the end of a line: those of YAML 1.1, of which 1.2 has the first three only.
LINE_END = re.compile(r"\r\n|[\r\n\x85\u2028\u2029]")
_SURROGATES = re.compile(r"\\u([dD][89abAB][0-9a-fA-F]{2})\\u([dD][c-fC-F][0-9a-fA-F]{2})")
_LONGEST_INTEGER = 400  # digits; more is no number that a declaration may write, and costs quadratic time


@dataclass(slots=True)
class Node:
    """A scalar, a sequence or a mapping, and where it begins."""

    place: Place


@dataclass(slots=True)
class ScalarNode(Node):
    value: Scalar
    text: str  # as written, without quotes
    quoted: bool = False


@dataclass(slots=True)
class SequenceNode(Node):
    items: list[Node] = field(default_factory=list)


@dataclass(slots=True)
class MappingNode(Node):
    """Keys are texts; a key that is not is a problem and left out."""

    entries: dict[str, tuple[ScalarNode, Node]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Document:
    """The text of a declaration file, its lines, and its root node."""

    name: str
    lines: tuple[str, ...]
    root: MappingNode | None


class _Stop(Exception):
    """Reading cannot go on; the problem has been noted."""


def read_file(path: Path, problems: Problems) -> Document:
    """Read a file; whatever is wrong with it is noted, never raised."""
    try:
        if not path.is_file():
            why = (
                "it is a folder"
                if path.is_dir()
                else "it is not there"
                if not path.exists()
                else "it is no plain file"
            )
            problems.add(catalogue.UNREADABLE, START, why=why)
            return Document(path.name, (), None)
        with path.open("rb") as file:
            data = file.read(LARGEST_FILE + 1)
    except (OSError, ValueError) as error:
        why = error.strerror if isinstance(error, OSError) and error.strerror else str(error)
        problems.add(catalogue.UNREADABLE, START, why=why)
        return Document(path.name, (), None)
    if len(data) > LARGEST_FILE:
        problems.add(catalogue.TOO_LARGE, START, most=LARGEST_FILE // 1024 // 1024)
        return Document(path.name, (), None)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        before = data[: error.start].decode("utf-8", "replace")
        line = before.count("\n") + 1
        place = Place(line, len(before) - before.rfind("\n"))
        problems.add(catalogue.NOT_UTF8, place, byte=f"0x{data[error.start]:02X}")
        return Document(path.name, tuple(data.decode("utf-8", "replace").splitlines()), None)
    return read_text(text, path.name, problems)


def read_text(text: str, name: str, problems: Problems) -> Document:
    """Read a declaration's text; whatever is wrong with it is noted, never raised."""
    lines = tuple(LINE_END.split(text))
    try:
        root = _Composer(_join_surrogates(text), problems).root()
    except (_Stop, TooManyProblems):
        return Document(name, lines, None)
    if not isinstance(root, MappingNode):
        problems.add(catalogue.EMPTY_FILE if root is None else catalogue.NO_MAPPING, START)
        return Document(name, lines, None)
    return Document(name, lines, root)


def _join_surrogates(text: str) -> str:
    """JSON writes characters beyond the BMP as two escapes, which YAML does not know: make them one."""
    if "\\ud" not in text and "\\uD" not in text:
        return text

    def joined(match: re.Match[str]) -> str:
        high, low = int(match[1], 16), int(match[2], 16)
        return f"\\U{0x10000 + (high - 0xD800) * 0x400 + (low - 0xDC00):08x}"

    return _SURROGATES.sub(joined, text)


class _Composer:
    """Builds nodes from YAML events, without recursion: depth is bounded by a count."""

    def __init__(self, text: str, problems: Problems) -> None:
        self._text = text
        self._problems = problems
        self._anchors: dict[str, tuple[Node, int]] = {}
        self._open: set[str] = set()
        self._expanded = 0

    def _stop(self, kind: Kind, place: Place, **details: object) -> _Stop:
        self._problems.add(kind, place, **details)
        return _Stop()

    def _events(self) -> Iterator[Any]:
        import yaml

        loader: Any = getattr(yaml, "CLoader", yaml.Loader)
        try:
            yield from yaml.parse(self._text, Loader=loader)
        except yaml.MarkedYAMLError as error:
            mark = error.problem_mark or error.context_mark
            place = self._within(mark) if mark else START
            said = " ".join(part for part in (error.context, error.problem) if part)
            if "maximum nesting depth" in said:  # the parser's own limit, which it meets while it looks ahead
                raise self._stop(catalogue.TOO_DEEP, place, most=DEEPEST) from None
            if (tab := self._tab_before(place)) is not None:
                raise self._stop(catalogue.TAB, tab) from None
            raise self._stop(catalogue.NOT_YAML, place, said=said) from None
        except yaml.reader.ReaderError as error:
            before = self._text[: error.position if isinstance(error.position, int) else 0]
            place = Place(before.count("\n") + 1, len(before) - before.rfind("\n"))
            raise self._stop(catalogue.NOT_YAML, place, said=f"{error.reason}") from None
        except yaml.YAMLError as error:
            raise self._stop(catalogue.NOT_YAML, START, said=str(error)) from None

    def _tab_before(self, place: Place) -> Place | None:
        """The tab in the indent of the line where reading broke off, if there is one."""
        line = LINE_END.split(self._text)[place.line - 1]
        indent = line[: len(line) - len(line.lstrip(" \t"))]
        return Place(place.line, indent.index("\t") + 1) if "\t" in indent else None

    def _within(self, mark: Any) -> Place:
        """The place of a mark; the parser puts one line too far what is missing at the end of the text."""
        lines = LINE_END.split(self._text)
        if mark.line < len(lines):
            return Place(mark.line + 1, mark.column + 1)
        return Place(len(lines), len(lines[-1]) + 1)

    def root(self) -> Node | None:
        """The node of the only document; None when the file says nothing."""
        import yaml

        root: Node | None = None
        stack: list[tuple[Node, ScalarNode | None, str | None, int]] = []
        documents = 0
        for event in self._events():
            place = Place(event.start_mark.line + 1, event.start_mark.column + 1)
            if isinstance(event, yaml.DocumentStartEvent):
                documents += 1
                if documents > 1:
                    raise self._stop(catalogue.SEVERAL_DOCUMENTS, place)
                continue
            node: Node
            if isinstance(event, (yaml.MappingStartEvent, yaml.SequenceStartEvent)):
                self._refuse_tag(event, place)
                if len(stack) >= DEEPEST:
                    raise self._stop(catalogue.TOO_DEEP, place, most=DEEPEST)
                node = (
                    MappingNode(place) if isinstance(event, yaml.MappingStartEvent) else SequenceNode(place)
                )
                if event.anchor is not None:
                    self._open.add(event.anchor)
                stack.append((node, None, event.anchor, self._expanded))
                self._count(place)
                continue
            if isinstance(event, (yaml.MappingEndEvent, yaml.SequenceEndEvent)):
                node, _, anchor, before = stack.pop()
                if anchor is not None:
                    self._open.discard(anchor)
                    self._anchors[anchor] = (node, self._expanded - before)
            elif isinstance(event, yaml.ScalarEvent):
                self._refuse_tag(event, place)
                node = self._scalar(event, place)
                self._count(place)
                if event.anchor is not None:
                    self._anchors[event.anchor] = (node, 1)
            elif isinstance(event, yaml.AliasEvent):
                node = self._alias(event.anchor or "", place)
            else:
                continue
            if not stack:
                root = None if isinstance(node, ScalarNode) and node.value is None else node
            else:
                stack[-1] = self._placed(stack[-1], node)
        return root

    def _placed(
        self, opened: tuple[Node, ScalarNode | None, str | None, int], node: Node
    ) -> tuple[Node, ScalarNode | None, str | None, int]:
        """Put a finished node into the open one; a mapping takes a key first, then its value."""
        parent, key, anchor, before = opened
        if isinstance(parent, SequenceNode):
            parent.items.append(node)
            return opened
        assert isinstance(parent, MappingNode)
        if key is None:
            if not isinstance(node, ScalarNode) or not (node.text or node.quoted):
                self._problems.add(catalogue.ODD_KEY, node.place)
                node = ScalarNode(node.place, None, "")
            return parent, node, anchor, before
        if not key.text and not key.quoted:
            return parent, None, anchor, before  # an odd key, noted when it was read
        if self._ends_type(parent, key, node):
            return parent, None, anchor, before
        if key.text in parent.entries:
            first = parent.entries[key.text][0].place.line
            self._problems.add(catalogue.DUPLICATE_KEY, key.place, key=key.text, first=first)
        else:
            parent.entries[key.text] = (key, node)
        return parent, None, anchor, before

    def _ends_type(self, parent: MappingNode, key: ScalarNode, node: Node) -> bool:
        """Whether the key is the rest of a type that a comma within { } has cut: the type is joined again, and told.

        `{type: map<text, Leg>}` is what many write first; to YAML it is a mapping of two entries. It is seen
        here, for two such types in one mapping would be told as a duplicate key.
        """
        if key.quoted or not isinstance(node, ScalarNode) or node.text or node.quoted or not parent.entries:
            return False
        _, last = next(reversed(parent.entries.values()))
        if not isinstance(last, ScalarNode) or last.quoted or not _is_cut(last.text):
            return False
        last.value = last.text = f"{last.text} to {key.text}"
        if not _is_cut(last.text):
            begin, end = last.place, key.place
            width = end.column + end.width - begin.column if begin.line == end.line else begin.width
            self._problems.add(
                catalogue.COMMA_IN_TYPE, Place(begin.line, begin.column, width), type=last.text
            )
        return True

    def _count(self, place: Place, nodes: int = 1) -> None:
        self._expanded += nodes
        if self._expanded > MOST_EXPANDED:
            raise self._stop(catalogue.ALIAS_BOMB, place, most=MOST_EXPANDED)

    def _alias(self, anchor: str, place: Place) -> Node:
        if anchor in self._open:
            raise self._stop(catalogue.ENDLESS_ALIAS, place, anchor=anchor)
        if anchor not in self._anchors:
            raise self._stop(catalogue.NOT_YAML, place, said=f"no anchor is called {anchor}")
        node, nodes = self._anchors[anchor]
        self._count(place, nodes)
        return node

    def _refuse_tag(self, event: Any, place: Place) -> None:
        if event.tag is not None and event.tag not in _CORE_TAGS:
            self._problems.add(catalogue.ODD_TAG, place, tag=event.tag)

    def _scalar(self, event: Any, place: Place) -> ScalarNode:
        text: str = event.value
        one_line = event.end_mark.line == event.start_mark.line
        width = event.end_mark.column - event.start_mark.column if one_line else 1
        place = Place(place.line, place.column, max(width, 1))
        quoted = event.style not in (None, "") or (event.tag or "").endswith(":str")
        return ScalarNode(place, text if quoted else resolve(text), text, quoted)


def _is_cut(text: str) -> bool:
    """Whether a type of a map begins there and does not end."""
    return "map<" in text and text.count("<") > text.count(">")


def resolve(text: str) -> Scalar:
    """The value of a plain scalar by the core schema of YAML 1.2."""
    if text in _NULL:
        return None
    if text in _TRUE:
        return True
    if text in _FALSE:
        return False
    if len(text) <= _LONGEST_INTEGER and _INTEGER.fullmatch(text):
        return int(text, 0) if text[:2] in ("0o", "0x") else int(text)
    if _REAL.fullmatch(text) or _SPECIAL.fullmatch(text):
        return float(text.replace(".", "", 1) if _SPECIAL.fullmatch(text) else text)
    return text
