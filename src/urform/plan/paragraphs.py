"""Text for people: a `doc` as one paragraph of characters that are shown."""

from __future__ import annotations

import unicodedata

# Controls, formatting such as bidi overrides, surrogates, what is not assigned, and line ends of all kinds.
_UNSAFE = frozenset(("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp"))
_JOINER = "\N{ZERO WIDTH JOINER}"  # holds emoji together


def paragraph(text: str) -> str:
    """The text on one line, without characters that are not shown."""
    if text.isascii() and text.isprintable():
        return " ".join(text.split())
    shown = "".join(
        " " if unicodedata.category(char) in _UNSAFE and char != _JOINER else char for char in text
    )
    return " ".join(shown.split())
