"""Trees of source code, by tree-sitter: a grammar for each language, and how its nodes are looked at."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache, lru_cache
from importlib import import_module
from importlib.util import find_spec
from math import isfinite
from typing import Any

Node = Any  # of a tree
_DIGITS = re.compile(r"[-+]?\.?[0-9]")


class GrammarMissing(Exception):
    """A package that reads a language is not installed; the text is its name."""


@cache
def _parser(package: str, function: str) -> Any:
    for needed in ("tree_sitter", package):
        if find_spec(needed) is None:
            raise GrammarMissing(needed.replace("_", "-"))
    tree_sitter = import_module("tree_sitter")
    language = tree_sitter.Language(getattr(import_module(package), function)())
    return tree_sitter.Parser(language)


def root_of(source: bytes, package: str, function: str = "language") -> Node:
    """The root of a file's tree, read as far as it goes. Raises GrammarMissing."""
    return _parser(package, function).parse(source).root_node


def text(node: Node | None) -> str:
    """The source of a node; empty of none."""
    return node.text.decode("utf-8", "replace") if node is not None else ""


def named(node: Node | None, *types: str) -> list[Node]:
    """The children of these types that stand directly in a node."""
    return [each for each in node.named_children if each.type in types] if node is not None else []


def first(node: Node | None, *types: str) -> Node | None:
    """The first of them, if there is one."""
    return next(iter(named(node, *types)), None)


def everywhere(root: Node | None, *types: str, but_in: frozenset[str] = frozenset()) -> Iterator[Node]:
    """All nodes of these types, in the order of the source, however deep, save what is in nodes of some other types."""
    if root is None:
        return
    by_type = _of_file(root) if root.parent is None else _by_type(root)
    found = sorted((each for type_ in types for each in by_type.get(type_, ())), key=lambda each: each[0])
    for _, node in found:
        if not (but_in and _is_in(node, root, but_in)):
            yield node


@lru_cache(maxsize=1)
def _of_file(root: Node) -> dict[str, list[tuple[int, Node]]]:
    """A whole file is walked through once, and asked for often."""
    return _by_type(root)


def _by_type(root: Node) -> dict[str, list[tuple[int, Node]]]:
    """All named nodes by their type, numbered in the order of the source."""
    by_type: dict[str, list[tuple[int, Node]]] = {}
    waiting = [root]
    number = 0
    while waiting:
        node = waiting.pop()
        by_type.setdefault(node.type, []).append((number, node))
        number += 1
        if node.named_child_count:
            waiting.extend(reversed(node.named_children))
    return by_type


def _is_in(node: Node, root: Node, types: frozenset[str]) -> bool:
    outer = node.parent
    while outer is not None and outer.id != root.id:
        if outer.type in types:
            return True
        outer = outer.parent
    return False


def line(node: Node) -> int:
    """Counted from 1."""
    return int(node.start_point[0]) + 1


def doc_before(node: Node, comments: tuple[str, ...], begins: tuple[str, ...]) -> str:
    """The documentation comments right above a node, without their signs."""
    found: list[str] = []
    above = node.prev_named_sibling
    edge = node.start_point[0]
    while above is not None and above.type in comments and above.end_point[0] >= edge - 1:
        written = text(above)
        if not written.startswith(begins):
            break
        found.insert(0, written)
        edge = above.start_point[0]
        above = above.prev_named_sibling
    return " ".join(filter(None, (_uncommented(each) for each in "\n".join(found).splitlines())))


def _uncommented(written: str) -> str:
    bare = written.strip().removesuffix("*/").strip()
    for sign in ("/**", "/*!", "///", "//!", "/*", "//", "*"):
        if bare.startswith(sign):
            return bare[len(sign) :].strip()
    return bare


def number(written: str) -> int | float | None:
    """A number as most languages write it; None of what is none, and of one that no double has."""
    if not _DIGITS.match(written):
        return None
    bare = written.replace("_", "").replace("'", "")
    for convert in (lambda digits: int(digits, 0), int, float):
        try:
            value = convert(bare)
        except ValueError:
            continue
        return value if isfinite(value) else None
    suffix = bare.rstrip("lLfFdDuU")
    return number(suffix) if suffix != bare and suffix else None
