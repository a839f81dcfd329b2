"""Text of a declaration as comments: wrapped, and (see `paragraph`) without anything that is not shown."""

from __future__ import annotations

import textwrap

from urform.plan.paragraphs import paragraph as plain

__all__ = ["plain", "wrapped"]


def wrapped(text: str, width: int) -> list[str]:
    """A paragraph in lines of at most that many code points, words longer than that left whole."""
    return textwrap.wrap(text, max(width, 20), break_long_words=False, break_on_hyphens=False) or [""]
