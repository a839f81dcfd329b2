"""The words in names, and English for what people read: claims, comments, reports."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache

# The first word as it is spoken, so the letters alone do not decide: a unit, a user, a one-way; an hour.
_CONSONANT = re.compile(
    r"eu|ew|uuid|on(?:c?e)(?![a-z])|uni(?![nmd])|unimo|u[bcfhjkqrst][aeiou]|ut[aeiou]|u(?![a-z])"
)
_VOWEL = re.compile(r"[aeiou]|hour|heir|honest|honou?r")
_BOUNDARY = re.compile(r"(?<=[a-z0-9])(?=[A-Z])|(?<=[A-Z])(?=[A-Z][a-z])")
_FIRST_WORD = re.compile(r"[A-Z]?[a-z]+|[A-Z]+")


@lru_cache(maxsize=50_000)  # names are spelt again and again, in each test
def snake(name: str) -> str:
    """`LightRhythm` and `light_rhythm` give `light_rhythm`; `HTTPMark` gives `http_mark`."""
    return _BOUNDARY.sub("_", name).lower()


def indefinite(words: str) -> str:
    """The article of a name or of words, by how the first of them is spoken: `a` or `an`."""
    match = _FIRST_WORD.search(words)
    first = match[0].lower() if match is not None else ""
    return "an" if _VOWEL.match(first) and not _CONSONANT.match(first) else "a"


def with_article(words: str) -> str:
    """`a LightRhythm`, `an Outfit`, `a unit`, `an hour`: the words as they are."""
    return f"{indefinite(words)} {words}"


def listing(words: Iterable[str]) -> str:
    """`a, b, c` or `nothing`."""
    return ", ".join(words) or "nothing"
