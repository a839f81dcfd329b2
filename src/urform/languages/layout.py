"""The layout engine: logical lines are broken as the target's formatter would break them.

Emitters and templates write each statement on one line. A line that is too long is broken at its last
bracket: the contents go onto a line of their own if they fit there, else each element gets a line, and an
element that is still too long is broken in the same way. Columns that align are marked in templates.

Right-hand bracket splitting follows the rules that the Black code style documents; aligned columns follow
the elastic tab stops of Go's text/tabwriter.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

TAB = "\x01"  # ends a cell of an aligned column; never part of a literal or comment, which escape controls
NO_BREAK = "\x02"  # at the start of a line: it is laid out already

_BLOCK = re.compile(r"(func\(.*?\{) (return .*) (\},?)")  # a function literal on one line
_NOT_ASCII = re.compile(r"[^\x00-\x7f]")
BLANKED = "\x04"
_PAIRS = {"(": ")", "[": "]", "{": "}"}
_CLOSING = frozenset(_PAIRS.values())


@dataclass(frozen=True, slots=True)
class Style:
    """How a target's formatter breaks lines."""

    width: int  # columns
    indent: str
    tab_width: int = 1  # columns that a tab in `indent` takes
    trailing_comma: bool = False  # after the last element, when each has its own line
    comma_when_joined: bool = False  # also when all elements share one line
    literals_apart: bool = (
        False  # several elements of a list, set or map literal never share a line of their own
    )
    align_keys: bool = False  # the values of `key: value`, when each element has its own line
    closing_apart: bool = True  # the closing bracket gets a line of its own
    chains: bool = False  # a chain of calls is broken before each dot
    parentheses: bool = False  # what has no bracket to break at is put into parentheses, if it fits then
    body_beside: int = (
        0  # bytes of header and body of a function up to which they stand on one line; 0 for any number
    )
    kept: tuple[str, ...] = (
        "//",
        "*",
        "/*",
        "#",
    )  # lines that begin so stay as they are: comments, above all


def columns(text: str, style: Style) -> int:
    """The columns that a text takes: wide characters two, combining ones none."""
    if text.isascii():
        return len(text) + text.count("\t") * (style.tab_width - 1)
    extra = sum(map(_extra_width, _NOT_ASCII.findall(text)))
    return len(text) + extra + text.count("\t") * (style.tab_width - 1)


@cache
def _extra_width(char: str) -> int:
    if unicodedata.combining(char) or char in "\u200b\u200c\u200d\ufe0f":
        return -1
    return 1 if unicodedata.east_asian_width(char) in "WF" else 0


def lay_out(text: str, style: Style) -> str:
    """The text with every line broken that is too long, and columns aligned."""
    lines: list[str] = []
    for line in text.split("\n"):
        if line.startswith(NO_BREAK):
            lines.append(line[1:])
        elif style.body_beside and line.startswith("func ") and line.endswith(" }"):
            lines.extend(_function(line, style))
        elif len(line) * 2 < style.width or columns(line, style) <= style.width:
            lines.append(line)
        else:
            lines.extend(broken(line, style))
    return "\n".join(aligned(lines) if any(TAB in line for line in lines) else lines)


def _function(line: str, style: Style) -> Iterator[str]:
    """A function that was written on one line, whole or with its body apart."""
    start = _outside(line).find(" {")
    header, body = line[:start], line[start + 3 : -2]
    if start < 0 or len(header.encode()) + len(body.encode()) <= style.body_beside:
        yield line
        return
    yield header + " {"
    yield from broken(style.indent + body, style)
    yield "}"


def broken(line: str, style: Style) -> Iterator[str]:
    """One logical line as several, none longer than need be."""
    stripped = line.lstrip()
    margin = line[: len(line) - len(stripped)]
    if columns(line, style) <= style.width or stripped.startswith(style.kept) or TAB in line:
        yield line
        return
    block = _BLOCK.fullmatch(stripped)
    if block is not None:
        yield margin + block[1]
        yield from broken(margin + style.indent + block[2], style)
        yield margin + block[3]
        return
    parts = _right_hand_side(stripped) if style.parentheses else None
    if parts is not None:
        yield from _in_parentheses(*parts, margin, style)
        return
    alternatives = _alternatives(stripped) if style.parentheses else [stripped]
    if len(alternatives) > 1:
        for part in alternatives:
            yield from broken(margin + part, style)
        return
    head, *links = _links(stripped) if style.chains else [stripped]
    if len(links) > 1:
        yield from broken(margin + head, style)
        for link in links:
            yield from broken(margin + style.indent + link, style)
        return
    split = _last_brackets(_before_result(stripped))
    if split is None:
        yield line
        return
    start, end = split
    head, body, tail = stripped[: start + 1], stripped[start + 1 : end], stripped[end:]
    inner = margin + style.indent
    yield margin + head
    apart = style.literals_apart and _is_literal(stripped, start) and len(list(elements_of(body))) > 1
    if style.closing_apart:
        yield from _body(body.strip(), inner, style, apart=apart)
        yield margin + tail
    else:
        *before, last = _body(body.strip(), inner, style, tail)
        yield from before
        yield last


_HEAD = re.compile(r"return |assert |[^=]*? = ")
_TERNARY = re.compile(r" (?=(?:if|else) )")
_OPERATOR = re.compile(r" (?=(?:==|!=|is|in|not in|<=|>=|<|>) )")
_UNION = re.compile(r" (?=\| )")
_CLAUSE = re.compile(r" (?=(?:for|if) )")


def _right_hand_side(line: str) -> tuple[str, str] | None:
    """A statement's head and its right-hand side, if that is broken in parentheses of its own; else None.

    So it is where no bracket at its end can be broken: names, literals, comparisons, and what ends in a name.
    """
    flat = _outside(line)
    head = _HEAD.match(flat)
    if head is None or "#" in flat or flat.endswith(","):  # a comma: it is a parameter
        return None
    rest = flat[head.end() :]
    ends_in_bracket = (rest[-1:] == ")" and rest[-2:] != "()") or rest[-1:] in ("]", "}")
    if ends_in_bracket or rest.startswith("lambda "):
        return None
    return line[: head.end()], line[head.end() :]


def _alternatives(line: str) -> list[str]:
    """An argument that is a conditional expression, cut at its words; or a parameter at the `|` of its type.

    The latter only where nothing else can be broken: it is what ruff does then.
    """
    flat = _outside(line)
    if (
        flat.startswith(("if ", "else ", "elif ", "for ", "return ", "assert ", "lambda "))
        or "lambda " in flat
    ):
        return [line]
    if " if " in flat and " else " in flat:
        return _cut(line, _TERNARY)
    if flat.endswith(",") and " = " in flat and _last_brackets(line) is None:
        return _cut(line, _UNION)
    return [line]


def _in_parentheses(head: str, value: str, margin: str, style: Style) -> Iterator[str]:
    inner = margin + style.indent
    parts = [value]
    if columns(inner + value, style) > style.width:
        parts = _cut(value, _TERNARY) if " if " in _outside(value) else _cut(value, _OPERATOR)
        if len(parts) == 1:
            yield margin + head + value  # it would be as long in parentheses
            return
    yield f"{margin}{head}("
    for part in parts:
        yield from broken(inner + part, style)
    yield f"{margin})"


def _cut(text: str, at: re.Pattern[str]) -> list[str]:
    """A text cut wherever a pattern is found in no bracket and no string."""
    begin, parts = 0, []
    for match in at.finditer(_outside(text)):
        parts.append(text[begin : match.start()])
        begin = match.end()
    return [*parts, text[begin:]]


def _outside(line: str) -> str:
    """The line with what is in strings and brackets blanked out, each character by one."""
    found: list[str] = []
    depth, end = 0, 0
    for match in _SIGNS.finditer(line):
        between = line[end : match.start()]
        found.append(between if depth == 0 else BLANKED * len(between))
        sign, end = match[0], match.end()
        if sign in _CLOSING:
            depth -= 1
        shown = depth == 0 and len(sign) == 1
        found.append(sign if shown else BLANKED * len(sign))
        if sign in _PAIRS:
            depth += 1
    rest = line[end:]
    return "".join([*found, rest if depth == 0 else BLANKED * len(rest)])


def _is_literal(line: str, start: int) -> bool:
    """Whether a bracket opens a literal, not a call or a subscript."""
    before = line[:start]
    return not before or not (before[-1].isalnum() or before[-1] in "_])")


def _body(body: str, inner: str, style: Style, tail: str = "", *, apart: bool = False) -> Iterator[str]:
    joined = inner + body + ("," if style.comma_when_joined and body else "") + tail
    if columns(joined, style) <= style.width and not body.endswith(",") and not apart:
        yield joined
        return
    elements = list(elements_of(body))
    if style.parentheses and len(elements) == 1 and not _takes_comma(body):
        for clause in _cut(body, _CLAUSE):
            yield from broken(inner + clause, style)
        return
    end = ("," if style.trailing_comma and _takes_comma(body) else "") + tail
    for number, element in enumerate(elements):
        line = inner + element + (end if number == len(elements) - 1 else ",")
        lines = [line] if columns(line, style) <= style.width else list(broken(line, style))
        yield from [_key_in_column(lines[0])] if style.align_keys and len(lines) == 1 else lines


def _key_in_column(line: str) -> str:
    """A line `key: value` with the key as a cell."""
    depth = 0
    for at, char in _code(line):
        if char in _PAIRS:
            depth += 1
        elif char in _CLOSING:
            depth -= 1
        elif char == ":" and depth == 0 and line[at + 1 : at + 2] == " ":
            return f"{line[: at + 1]}{TAB}{line[at + 2 :]}"
    return line


def _links(line: str) -> list[str]:
    """A chain of calls, cut before each dot that follows a call and is in no bracket."""
    depth, begin = 0, 0
    parts: list[str] = []
    for at, char in _code(line):
        if char in _PAIRS:
            depth += 1
        elif char in _CLOSING:
            depth -= 1
            if depth == 0 and char == ")" and line[at + 1 : at + 2] == ".":
                parts.append(line[begin : at + 1])
                begin = at + 1
    return [*parts, line[begin:]]


def _takes_comma(body: str) -> bool:
    """A generator expression takes no comma; one within brackets of its own is none of ours."""
    return " for " not in body or " for " not in _outside(body)


def elements_of(body: str) -> Iterator[str]:
    """The parts between commas that are in no inner bracket, no string, and not before the colon of a lambda."""
    if _FLAT.search(body) is None:
        yield from (part for part in map(str.strip, body.split(",")) if part)
        return
    depth, begin, colon = 0, 0, 0
    for at, char in _code(body):
        if (
            char == "<" and body[at - 1 : at].isalnum()
        ):  # of a generic type; a comparison has a blank before it
            depth += 1
        elif char == ">" and "<" in body and body[at - 1 : at] not in ("-", " "):
            depth -= 1
        if char == ":" and depth == 0:
            colon = at
        if char in _PAIRS:
            depth += 1
        elif char in _CLOSING:
            depth -= 1
        elif (
            char == ","
            and depth == 0
            and not (body[begin:].lstrip().startswith("lambda ") and colon <= begin)
        ):
            yield body[begin:at].strip()
            begin = colon = at + 1
    if body[begin:].strip():
        yield body[begin:].strip()


def _before_result(line: str) -> str:
    """A function's header without what it returns: its parameters are broken, not its result."""
    end = line.rfind(") -> ")
    return line[: end + 1] if line.startswith("def ") and end > 0 else line


def _last_brackets(line: str) -> tuple[int, int] | None:
    """The last pair of brackets that is in no other, not empty and no block of code: where it opens and closes."""
    stack: list[tuple[int, str]] = []
    found: tuple[int, int] | None = None
    for at, char in _code(line):
        if char in _PAIRS:
            stack.append((at, _PAIRS[char]))
        elif char in _CLOSING and stack and stack[-1][1] == char:
            start, _ = stack.pop()
            block = line[start : start + 2] == "{ " and line[at - 1] == " "
            if not stack and at > start + 1 and not block:
                found = (start, at)
    return found


_FLAT = re.compile(r"""[()\[\]{}<"'`:]""")  # what makes a comma more than a comma
_SIGNS = re.compile(r"""[()\[\]{},:<>]|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|`[^`]*`""")


def _code(line: str) -> Iterator[tuple[int, str]]:
    """The brackets, commas and colons of a line that are in no string literal."""
    for match in _SIGNS.finditer(line):
        if match.end() == match.start() + 1:
            yield match.start(), match[0]


def aligned(lines: list[str]) -> list[str]:
    """Lines whose cells end in TAB, with the cells of neighbouring lines made equally wide."""
    cells = [line.split(TAB) for line in lines]
    widths: list[list[int]] = [[0] * (len(row) - 1) for row in cells]
    deepest = max((len(row) for row in cells), default=1) - 1
    for column in range(deepest):
        at = 0
        while at < len(cells):
            if len(cells[at]) - 1 <= column:
                at += 1
                continue
            end = at
            while end < len(cells) and len(cells[end]) - 1 > column:
                end += 1
            width = max(_wide(cells[row][column]) for row in range(at, end))
            for row in range(at, end):
                widths[row][column] = width
            at = end
    return [_joined(row, width) for row, width in zip(cells, widths, strict=True)]


def _wide(cell: str) -> int:
    return len(cell.lstrip("\t"))


def _joined(cells: list[str], widths: list[int]) -> str:
    padded = [
        cell + " " * (width - _wide(cell) + 1) if cell.strip() or width else cell
        for cell, width in zip(cells, widths, strict=False)
    ]
    return ("".join(padded) + cells[-1]).rstrip(" ")
