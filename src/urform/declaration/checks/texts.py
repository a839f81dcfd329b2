"""Texts that are keys or names: short, and all of it to be seen."""

from __future__ import annotations

LONGEST = 80  # code points


def is_short_text(text: str) -> bool:
    """Whether it has 1 to 80 code points, none of which is a control character."""
    return 1 <= len(text) <= LONGEST and not any(map(_is_control, text))


def _is_control(character: str) -> bool:
    return character < " " or "\x7f" <= character <= "\x9f"
