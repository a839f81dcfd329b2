"""What stands where in a line of code: brackets, commas and colons that are in no string.

All of the languages that are generated agree on these; generic types in angle brackets are told from comparisons by the
blank that stands before a comparison.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

PAIRS = {"(": ")", "[": "]", "{": "}"}
CLOSING = frozenset(PAIRS.values())
BLANKED = "\x04"  # stands for what is in brackets and strings; never part of a line

_FLAT = re.compile(r"""[()\[\]{}<"'`:]""")  # what makes a comma more than a comma
_LAMBDA = re.compile(r"\s*lambda ")
_SIGNS = re.compile(r"""[()\[\]{},:<>]|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|`[^`]*`""")


def signs(line: str) -> list[tuple[int, str]]:
    """The brackets, commas and colons of a line that are in no string literal."""
    return [(match.start(), sign) for match in _SIGNS.finditer(line) if len(sign := match[0]) == 1]


@lru_cache(maxsize=1024)  # rules ask for the same line one after the other
def outside(line: str) -> str:
    """The line with what is in strings and brackets blanked out, each character by one."""
    pieces: list[str] = []
    depth, end = 0, 0
    for match in _SIGNS.finditer(line):
        sign, begin = match[0], match.start()
        pieces.append(line[end:begin] if depth == 0 else BLANKED * (begin - end))
        if sign in CLOSING:
            depth -= 1
        pieces.append(sign if depth == 0 and len(sign) == 1 else BLANKED * len(sign))
        if sign in PAIRS:
            depth += 1
        end = begin + len(sign)
    rest = line[end:]
    return "".join([*pieces, rest if depth == 0 else BLANKED * len(rest)])


def cut(text: str, at: re.Pattern[str]) -> list[str]:
    """A text cut wherever a pattern is found in no bracket and no string."""
    begin, parts = 0, []
    for match in at.finditer(outside(text)):
        parts.append(text[begin : match.start()])
        begin = match.end()
    return [*parts, text[begin:]]


@lru_cache(maxsize=4096)  # tests hand in the same arguments again and again
def elements_of(body: str) -> tuple[str, ...]:
    """The parts between commas that are in no inner bracket, no string, and not before the colon of a lambda."""
    if _FLAT.search(body) is None:
        return tuple(part for part in map(str.strip, body.split(",")) if part)
    return tuple(_elements_of(body))


def _elements_of(body: str) -> Iterator[str]:
    depth, begin, colon = 0, 0, 0
    for at, char in signs(body):
        if (
            char == "<" and body[at - 1 : at].isalnum()
        ):  # of a generic type; a comparison has a blank before it
            depth += 1
        elif char == ">" and "<" in body and body[at - 1 : at] not in ("-", " "):
            depth -= 1
        if char == ":" and depth == 0:
            colon = at
        if char in PAIRS:
            depth += 1
        elif char in CLOSING:
            depth -= 1
        elif char == "," and depth == 0 and not (colon <= begin and _LAMBDA.match(body, begin)):
            yield body[begin:at].strip()
            begin = colon = at + 1
    if body[begin:].strip():
        yield body[begin:].strip()


def last_brackets(line: str) -> tuple[int, int] | None:
    """The last pair of brackets that is in no other, not empty and no block of code: where it opens and closes."""
    stack: list[tuple[int, str]] = []
    last: tuple[int, int] | None = None
    for at, char in signs(line):
        if char in PAIRS:
            stack.append((at, PAIRS[char]))
        elif char in CLOSING and stack and stack[-1][1] == char:
            start, _ = stack.pop()
            block = line[start : start + 2] == "{ " and line[at - 1] == " "
            if not stack and at > start + 1 and not block:
                last = (start, at)
    return last


def pairs(line: str) -> list[tuple[int, int]]:
    """The pairs of brackets that are in no other and not empty: where each opens and closes."""
    outermost: list[tuple[int, int]] = []
    depth, begin = 0, 0
    for at, char in signs(line):
        if char in PAIRS:
            begin = at if depth == 0 else begin
            depth += 1
        elif char in CLOSING:
            depth -= 1
            if depth == 0 and at > begin + 1:
                outermost.append((begin, at))
    return outermost


def links(line: str) -> list[str]:
    """A chain of calls, cut before each dot that follows a call and is in no bracket."""
    depth, begin = 0, 0
    parts: list[str] = []
    for at, char in signs(line):
        if char in PAIRS:
            depth += 1
        elif char in CLOSING:
            depth -= 1
            if depth == 0 and char == ")" and line[at + 1 : at + 2] == ".":
                parts.append(line[begin : at + 1])
                begin = at + 1
    return [*parts, line[begin:]]
