"""Classes of static helpers: a package has those methods that its code calls."""

from __future__ import annotations

import re
import textwrap
from collections.abc import Set
from functools import lru_cache

from urform.languages.java.views import HERE, NOT_CODE
from urform.languages.rendering.pieces import Dialect, kept, needed, pieces_of
from urform.languages.rendering.templates import support_file

CLASSES = ("Changes", "Check", "Copies")
# Of the body of a class, at the margin: methods by their names, with all overloads, and constants.
DIALECT = Dialect(
    re.compile(r"^(?:private |static |final )[^(=\n]*?(\w+)(?:\(| = )", re.MULTILINE),
    re.compile(r"(?<![.\w])(\w+)(?=\()|::(\w+)|\b([A-Z][A-Z_]+)\b"),
    NOT_CODE,
)
_CALLED = re.compile(rf"\b({'|'.join(CLASSES)})(?:\.|::)(\w+)")
_IMPORT = re.compile(r"^import [\w.]+\.(\w+);$", re.MULTILINE)


Call = tuple[str, str]  # a class, and a method or constant of it


@lru_cache(maxsize=256)  # what a fault leaves as it is was asked for before
def calls_in(text: str) -> frozenset[Call]:
    """The helpers that code calls."""
    return frozenset((match[1], match[2]) for match in _CALLED.finditer(NOT_CODE.sub('""', text)))


def needed_by(calls: Set[Call]) -> frozenset[str]:
    """The helpers that are called, and what these need: `Check.list`."""
    return frozenset(
        f"{class_}.{name}"
        for class_ in CLASSES
        for name in needed(pieces_of(_body(class_), DIALECT), (n for c, n in calls if c == class_))
    )


def helper_class(class_: str, names: Set[str]) -> str:
    """The text of a class with these helpers, after its package; nothing if it has none."""
    own = {name.partition(".")[2] for name in names if name.startswith(f"{class_}.")}
    if not own:
        return ""
    body = kept(pieces_of(_body(class_), DIALECT), own | {class_})
    head = _head(class_)
    words = set(re.findall(r"\w+", body))
    imports = [match.group() for match in _IMPORT.finditer(head) if match[1] in words]
    said = head.rpartition(";\n\n")[2]
    return "\n".join([*imports, "", said]).lstrip("\n") + textwrap.indent(body, "    ") + "}\n"


def _whole(class_: str) -> str:
    return support_file(HERE / "support", f"{class_}.java").partition("\n\n")[2]


def _head(class_: str) -> str:
    """Imports, what it is, and the line that opens it."""
    head, opening, _ = _whole(class_).partition(" {\n")
    return head + opening


def _body(class_: str) -> str:
    return textwrap.dedent(_whole(class_).partition(" {\n")[2].rpartition("}")[0])
