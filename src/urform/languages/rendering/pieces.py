"""Support code in pieces, of which a project has those that it needs.

A file of support code is written by hand, once for all projects. Its pieces are what stands in it at the margin, with the
comment above. A piece is needed where the project's code names it, or another piece that is needed does.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Set
from functools import cache, lru_cache

from urform.dataclasses import dataclass

_APART = re.compile(r"\n\n+(?=[^\s)}\]])(?!(?:private|protected|public):)")


@dataclass(frozen=True, slots=True)
class Dialect:
    """How support code is read: what defines a name at the margin, where a name is used, and what is no code.

    The groups of the first two are names. A parameter may be called like a function: its use is no use of that."""

    defined: re.Pattern[str]
    used: re.Pattern[str]
    not_code: re.Pattern[str]

    def mentions(self, text: str) -> frozenset[str]:
        """The names that code uses."""
        return _mentioned(self, text)


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece, with the blank lines before it, what it defines and what it mentions."""

    before: str
    text: str
    defines: frozenset[str]
    mentions: frozenset[str]


@cache
def pieces_of(text: str, dialect: Dialect) -> tuple[Piece, ...]:
    """The pieces of support code; those that define nothing, such as imports, are its head."""
    gaps = [match.group() for match in _APART.finditer(text)]
    pieces = []
    for before, part in _lines_apart(zip(["", *gaps], _APART.split(text.rstrip("\n")), strict=True), dialect):
        pieces.append(Piece(before, part, _found(dialect.defined, part), dialect.mentions(part)))
    return tuple(pieces)


def _lines_apart(parts: Iterable[tuple[str, str]], dialect: Dialect) -> Iterator[tuple[str, str]]:
    """Constants that stand below one another, each in a line, are pieces of their own."""
    for before, part in parts:
        lines = part.split("\n")
        together = len(lines) == 1 or not all(dialect.defined.match(line) for line in lines)
        yield from (
            [(before, part)] if together else zip([before, *"\n" * (len(lines) - 1)], lines, strict=True)
        )


@lru_cache(maxsize=512)  # what a fault leaves as it is was asked for before
def _mentioned(dialect: Dialect, text: str) -> frozenset[str]:
    return _found(dialect.used, dialect.not_code.sub('""', text))


def _found(pattern: re.Pattern[str], text: str) -> frozenset[str]:
    """What the groups of a pattern find."""
    return frozenset(name for match in pattern.finditer(text) for name in match.groups() if name)


def needed(pieces: Iterable[Piece], named: Iterable[str]) -> frozenset[str]:
    """The names of the pieces that are named, and of all that these need."""
    homes: dict[str, list[Piece]] = {}  # a type and its methods are pieces of one name
    for piece in pieces:
        for name in piece.defines:
            homes.setdefault(name, []).append(piece)
    wanted: set[str] = set()
    waiting = [name for name in named if name in homes]
    while waiting:
        name = waiting.pop()
        if name not in wanted:
            wanted.add(name)
            for piece in homes[name]:
                waiting += [each for each in piece.defines | piece.mentions if each in homes]
    return frozenset(wanted)


def kept(pieces: Iterable[Piece], names: Set[str]) -> str:
    """The text of the pieces of these names; whoever writes the file puts its head before it."""
    text, gap = "", ""
    for piece in pieces:
        gap = max(gap, piece.before, key=len)
        if piece.defines & names:
            text += f"{gap if text else ''}{piece.text}"
            gap = ""
    return f"{text}\n" if text else ""
