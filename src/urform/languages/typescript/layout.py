"""Logical lines broken as prettier breaks them, at its defaults: 80 columns, two blanks, trailing commas.

Each rule is named after what prettier's own documentation and source (3.x) call it; `documents.py` prints what comes of it.
"""

from __future__ import annotations

import re
from functools import lru_cache

from urform.languages.layout.documents import HARD, LINE, SOFT, Doc, Group, Indent, Page, commas
from urform.languages.layout.engine import columns
from urform.languages.layout.signs import elements_of, outside
from urform.languages.typescript.breaking import (
    LOGICAL,
    STYLE,
    assignment,
    doc_of,
    expression,
    operands,
    parameter,
    returned,
)
from urform.languages.typescript.parsing import Binary, CannotRead, Grouped, Node, Unary
from urform.languages.typescript.types import COMMA, alternatives, type_doc, union

_ASSIGNMENT = re.compile(
    r"(?P<left>(?:export )?(?:const|let) [\w$]+(?:: (?P<type>.+?))?|(?:[\w#.]|\[\d\]|!)+|"
    r"(?:(?:readonly|private|static|override) )*#?[\w$]+(?:: .+?)?) (?P<sign>=|\?\?=|\+=) (?P<right>.+);"
)
_RETURNS = re.compile(r"(?:: (?P<type>.*?))?(?P<end> \{|;)")
_BLOCK = re.compile(r"(?P<before>(?:\} else )?(?:if|switch|while) \()(?P<inner>.*)(?P<after>\) \{)")
_LOOP = re.compile(r"(?P<before>for \((?:const|let) [\w\[\], ]+ of )(?P<inner>.*)(?P<after>\) \{)")
_NAMES = re.compile(r"(?P<before>(?:import|export)(?: type)?) \{ (?P<names>.*) \}(?P<after>.*;)")
_FUNCTION = re.compile(
    r"(?:export |abstract |static |override |get |set |async |function )*#?[\w$]+(?:<[^()]*>)?\("
)
_PROPERTY = re.compile(
    r"(?P<before>(?:(?:private|protected|readonly|abstract|static|override) )*#?[\w$]+\??!?: )(?P<type>[^=]*);"
)
_CONDITIONAL = re.compile(
    r"(?P<alias>export type [\w$]+<\w+>) = (?P<asked>\w+ extends keyof [\w$]+) \? (?P<then>.*?) : (?P<otherwise>.*);"
)
_CLASS = re.compile(r"(?P<before>export class [\w$]+)<(?P<bound>.*) = (?P<default>.*)>(?P<after> \{)")
_BOUND = re.compile(r"(?P<name>.*)<(?P<bound>\w+ extends [^<>]*)>")
_ALIAS = re.compile(r"(?P<before>export type [\w$]+) = (?P<type>.*);")
_KEPT = ("//", "/*", "*", 'test("', "import * ")


def lay_out(text: str) -> str:
    """The text with every line broken that is too long, or that has what never shares a line."""
    return "\n".join(_line(line) for line in text.split("\n"))


@lru_cache(maxsize=4096)
def _line(line: str) -> str:
    stripped = line.lstrip(" ")
    if stripped.startswith(_KEPT) or (columns(line, STYLE) <= STYLE.width and not _never_shares(line)):
        return line
    level = (len(line) - len(stripped)) // len(STYLE.indent)
    try:
        doc = _statement(stripped, STYLE.width - level * len(STYLE.indent))
    except CannotRead:
        return line
    page = Page(STYLE.width, STYLE.indent, _columns)
    return STYLE.indent * level + page.text(doc, level)


def _never_shares(line: str) -> bool:
    """Whether there may be something that is broken even where it fits: a matrix, or a chain of calls whose arguments nest."""
    return "[[" in line or "[{" in line or line.count(").") > 1


def _columns(text: str) -> int:
    return columns(text, STYLE)


def _statement(line: str, room: int) -> Doc:
    names = _NAMES.fullmatch(line)
    if names is not None:
        elements = elements_of(names["names"])
        if len(elements) == 1:  # one name is never broken
            return line
        listed = commas(elements)
        return Group((f"{names['before']} {{", Indent((LINE, listed, COMMA)), LINE, "}", names["after"]))
    generic = _CLASS.fullmatch(line)
    if generic is not None:
        shown = union(generic["default"])
        default: Doc = Group(Indent((LINE, alternatives(shown)))) if len(shown) > 1 else (" ", shown[0])
        bound: Doc = (SOFT, generic["bound"], " =", default, COMMA)
        return Group((generic["before"], "<", Indent(bound), SOFT, ">", generic["after"]))
    block = _BLOCK.fullmatch(line) or _LOOP.fullmatch(line)
    if block is not None:
        inner = expression(block["inner"])
        negated = _negated(inner)
        if negated is not None:
            parts = tuple(operands(negated))
            return Group((block["before"], "!(", Indent((SOFT, parts)), SOFT, ")", block["after"]))
        doc = tuple(operands(inner, within=True)) if isinstance(inner, Binary) else doc_of(inner)
        if _LOOP.fullmatch(line):
            return (block["before"], doc, block["after"])
        return Group((block["before"], Group((Indent((SOFT, doc)), SOFT)), block["after"]))
    conditional = _CONDITIONAL.fullmatch(line)
    if conditional is not None:
        return _chosen(
            conditional["alias"], conditional["asked"], conditional["then"], conditional["otherwise"]
        )
    alias = _ALIAS.fullmatch(line)
    if alias is not None:
        return _alias(alias["before"], alias["type"])
    for word in ("return ", "throw "):
        if line.startswith(word):
            return (word, returned(expression(_without_end(line[len(word) :]))), ";")
    function = _function(line, room) if _FUNCTION.match(line) else None
    if function is not None:
        return function
    typed = _PROPERTY.fullmatch(line)
    if typed is not None:
        return (typed["before"], type_doc(typed["type"]), ";")
    assigned = _ASSIGNMENT.fullmatch(line)
    if assigned is not None:
        return (assignment(assigned["left"], f" {assigned['sign']}", expression(assigned["right"])), ";")
    if line.endswith(" => {"):
        return _assigned_function(line)
    return (doc_of(expression(_without_end(line))), ";")


def _negated(node: Node) -> Binary | None:
    """The condition of several parts that is negated as a whole; a comparison is not held so."""
    inner = node.of if isinstance(node, Unary) and node.sign == "!" else None
    of = inner.inner if isinstance(inner, Grouped) else None
    return of if isinstance(of, Binary) and of.sign in LOGICAL else None


def _without_end(line: str) -> str:
    if not line.endswith(";"):
        raise CannotRead(line)
    return line[:-1]


def _assigned_function(line: str) -> Doc:
    left, _, right = line.partition(" = ")
    return assignment(left, " =", expression(right))


def _function(line: str, room: int) -> Doc | None:
    """Parameters on one line, or each on its own. What is returned is not broken for them."""
    start = line.index("(")
    end = next(at for at, char in enumerate(outside(line[start:]), start) if char == ")")
    rest = _RETURNS.fullmatch(line, end + 1)
    if rest is None or (rest["end"] == ";" and rest["type"] is None):
        return None  # a call
    listed = elements_of(line[start + 1 : end])
    last: Doc = "" if listed and listed[-1].startswith("...") else COMMA  # nothing can follow the rest
    given: Doc = ("(", Indent((SOFT, commas(map(parameter, listed)), last)), SOFT, ")")
    result: Doc = (": ", type_doc(rest["type"])) if rest["type"] else ""
    head = _bounded(line[:start], room)
    return (head, Group((given if listed else "()", result)), rest["end"])


def _chosen(alias: str, asked: str, then: str, otherwise: str) -> Doc:
    """A conditional type; it stands below its name where they have no room beside each other."""
    branches = Indent((LINE, "? ", then, LINE, ": ", type_doc(otherwise)))
    if columns(f"{alias} = {asked}", STYLE) > STYLE.width:
        return (alias, " =", Indent((HARD, Group((asked, branches)))), ";")
    return Group((alias, " = ", asked, branches, ";"))


def _bounded(head: str, room: int) -> Doc:
    """The name of a function; the bound of its type parameter stands below where there is no room for it."""
    bound = _BOUND.fullmatch(head)
    if bound is None or columns(head, STYLE) < room:
        return head
    return (bound["name"], "<", Indent((HARD, bound["bound"], ",")), HARD, ">")


def _alias(before: str, type_: str) -> Doc:
    parts = union(type_)
    function = re.fullmatch(r"\((.*)\) => (.*)", type_)
    if function is not None:
        listed = commas(map(parameter, elements_of(function[1])))
        given: Doc = ("(", Indent((SOFT, listed, COMMA)), SOFT, ")") if function[1] else "()"
        return Group((before, " = ", Group((given, " => ", type_doc(function[2]))), ";"))
    if len(parts) == 1:
        return (before, " =", Group(Indent((LINE, type_doc(type_)))), ";")
    return Group((before, " =", Group(Indent((LINE, alternatives(parts)))), ";"))
