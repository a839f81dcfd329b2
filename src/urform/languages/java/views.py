"""Shared by the parts of the Java target: documentation comments, the names that occur in code, its style."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path

from urform.languages.layout.engine import Style
from urform.languages.placing import CODE, TESTS
from urform.languages.rendering.comments import plain, wrapped

HERE = Path(__file__).parent
HOMES = {CODE: "src/main/java", TESTS: "src/test/java"}
STYLE = Style(width=100, indent="        ", closing_apart=False, chains=True, operators=True)

NOT_CODE = re.compile(r"""/\*[\s\S]*?\*/|//.*|"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])'""")
_IDENTIFIER = re.compile(r"(?<![.\w])[A-Za-z_]\w*")
_HTML = {"&": "&amp;", "<": "&lt;", ">": "&gt;", "@": "&#64;", "\\": "&#92;", "*/": "*&#47;", "/*": "&#47;*"}


@lru_cache(maxsize=256)  # what a fault leaves as it is was asked for before
def identifiers(code: str) -> frozenset[str]:
    """The names that occur in code, not in strings or comments, nor after a dot."""
    return frozenset(_IDENTIFIER.findall(NOT_CODE.sub('""', code)))


def escaped(doc: str) -> str:
    """Text of a documentation comment that is text for the compiler too, which reads \\u escapes anywhere."""
    text = plain(doc)
    for sign, entity in _HTML.items():
        text = text.replace(sign, entity)
    return text


def javadoc(doc: str, margin: int) -> str:
    """A documentation comment of one paragraph."""
    lines = wrapped(escaped(doc), STYLE.width - margin - 7)
    if len(lines) == 1:
        return f"/** {lines[0]} */"
    pad = "\n" + " " * margin
    return "/**" + "".join(f"{pad} * {line}" for line in lines) + f"{pad} */"


def chained(parts: list[str], operator: str) -> str:
    """Operands on one line if they fit after `return `, else one a line."""
    line = f" {operator} ".join(parts)
    if len(line) + 15 <= STYLE.width:
        return line
    return f"\n                {operator} ".join(parts)


def types_of(parameters: Iterable[str]) -> str:
    """`(long, Options)`: what callers see of typed parameters, which they give by their place."""
    return f"({', '.join(each.rpartition(' ')[0] for each in parameters)})"


def tidy(code: str) -> str:
    """No blank line before a closing or after an opening brace, and never two in a row."""
    code = re.sub(r"\n{3,}", "\n\n", code)
    code = re.sub(r"\{\n\n", "{\n", code)
    return re.sub(r"\n\n([ ]*\})", r"\n\1", code).rstrip("\n") + "\n"
