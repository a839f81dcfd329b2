"""Shared by the parts of the Rust target: comments, what code uses of the standard library, how it is laid out."""

from __future__ import annotations

import re
from pathlib import Path

from urform.languages.placing import CODE, TESTS
from urform.languages.rendering.comments import plain, wrapped
from urform.languages.rust.layout import lay_out, used, used_order

HERE = Path(__file__).parent
HOMES = {CODE: "src", TESTS: "tests/claims"}
TESTING = "testing"  # the module of what stands in for families in clients' own tests
COMMENT_WIDTH = 100
# Names of the standard library that code uses, and where they are.
STANDARD = {
    "Any": "any",
    "BTreeMap": "collections",
    "BTreeSet": "collections",
    "Arc": "sync",
    "Barrier": "sync",
    "Mutex": "sync",
    "OnceLock": "sync",
    "PoisonError": "sync",
    "AtomicU64": "sync::atomic",
    "Ordering": "cmp",
    "Duration": "time",
}
_MODULES = re.compile(
    r"(?<![\w:])(?:fmt|thread)(?=::)"
)  # of the standard library, by which what is in them is called
NOT_CODE = re.compile(r"""//[^\n]*|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\\n])'""")
_MARKDOWN = re.compile(r"[\\`\[\]<]")
_BEGINS = re.compile(r"^([-+*#>]|\d+[.)])(?=\s|$)")


def comment(doc: str, margin: int, mark: str = "///") -> str:
    """A documentation comment of whole lines, in which nothing is markup."""
    pad = " " * margin
    escaped = _MARKDOWN.sub(lambda match: "\\" + match[0], plain(doc)) or "Made from a declaration."
    lines = wrapped(escaped, COMMENT_WIDTH - margin - len(mark) - 1)
    return "\n".join(f"{pad}{mark} {_BEGINS.sub(_harmless, line)}".rstrip() for line in lines)


def _harmless(match: re.Match[str]) -> str:
    """What would begin a list, a heading or a quotation."""
    return f"{match[1][:-1]}\\{match[1][-1]}" if match[1][-1] in ".)" else f"\\{match[1]}"


def standard_uses(words: set[str], code: str) -> list[str]:
    """The imports from the standard library that code needs: words of it, and modules."""
    grouped: dict[str, list[str]] = {}
    for name, place in STANDARD.items():
        if name in words:
            grouped.setdefault(place, []).append(name)
    lines = [used(f"std::{place}", sorted(names)) for place, names in grouped.items()]
    modules = [f"use std::{module};\n" for module in set(_MODULES.findall(code))]
    return sorted([*lines, *modules], key=used_order)


def laid_out(code: str) -> str:
    """Code as rustfmt would lay it out."""
    code = re.sub(r"\n{3,}", "\n\n", code.strip("\n") + "\n")
    code = re.sub(r"\{\n\n", "{\n", code)
    code = re.sub(r"\n\n+(\s*\}\n)", r"\n\1", code)
    return lay_out(code)
