"""Text for people: a `doc` as one paragraph of characters that are shown."""

from __future__ import annotations

import re

from urform.plan.characters import JOINER, UNSEEN


def paragraph(text: str) -> str:
    """The text on one line, without characters that are not shown."""
    return " ".join(UNSEEN.sub(_blank, text).split())


def _blank(match: re.Match[str]) -> str:
    return match[0] if match[0] == JOINER else " "
