"""Defaults that are written as literals, in languages whose trees have them alike."""

from __future__ import annotations

import re

from urform.dataclasses import dataclass
from urform.existing.sources import trees
from urform.existing.sources.facts import Constant
from urform.existing.sources.trees import Node, text


@dataclass(frozen=True, slots=True)
class LiteralWords:
    """What is empty or absent, as it is written; the type of a text, and of a constant that is reached through its type."""

    empty: re.Pattern[str]
    string: str
    constant: str


def literal(node: Node | None, words: LiteralWords) -> tuple[tuple[object, ...], bool]:
    """The value of a literal, as a tuple of one; whether it is one, or an empty collection. A text with escapes is none."""
    if node is None or words.empty.match(text(node)):
        return (), True
    if node.type in ("true", "false"):
        return (node.type == "true",), True
    if node.type == words.string and "\\" not in text(node):
        return (text(node)[1:-1],), True
    if node.type == words.constant:
        return (Constant(text(node).replace("::", ".").rpartition(".")[2]),), True
    value = trees.number(text(node).replace(" ", ""))
    return ((value,), True) if value is not None else ((), False)
