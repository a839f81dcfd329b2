"""I-Regexp in other dialects of regular expressions."""

from __future__ import annotations

import re

_PART = re.compile(r"\\.|\[(?:\\.|[^\\\]])*\]|.", re.DOTALL)  # an escape, a class, or a character by itself
_ANCHORS = "^$"


def in_ecmascript(pattern: str) -> str:
    """The same for ECMAScript with the flag `u`, as JSON Schema has it (RFC 9485, section 5.3): anchored, and without what
    its syntax takes otherwise."""
    return f"^(?:{_PART.sub(_part, pattern)})$"


def _part(match: re.Match[str]) -> str:
    part = match[0]
    if part == ".":
        return "[^\\n\\r]"
    if part == "\\-":  # outside of a class it needs no escape, and may have none
        return "-"
    return f"\\{part}" if part in _ANCHORS else part
