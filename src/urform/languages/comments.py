"""Text of a declaration as comments: one paragraph, without anything that could end the comment or order a tool."""

from __future__ import annotations

import textwrap
import unicodedata

_UNSAFE = ("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp")  # controls, formatting such as bidi overrides, surrogates


def plain(text: str) -> str:
    """The text on one line, without characters that are not shown."""
    shown = "".join(" " if unicodedata.category(char) in _UNSAFE and char != "\u200d" else char for char in text)
    return " ".join(shown.split())


def wrapped(text: str, width: int) -> list[str]:
    """A paragraph in lines of at most that many code points, words longer than that left whole."""
    return textwrap.wrap(text, max(width, 20), break_long_words=False, break_on_hyphens=False) or [""]
