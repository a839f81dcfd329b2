"""Places of a declaration and positions of an editor: other lines, and columns in UTF-16 units.

An editor ends lines at LF, CR LF and CR alone, and counts characters beyond the basic plane twice (Language Server Protocol
3.17, Position); YAML 1.1 ends them at NEL, LS and PS too, and a place counts code points.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from functools import cached_property

from urform.dataclasses import dataclass
from urform.declaration.document import LINE_END
from urform.declaration.place import Place

_EDITOR_LINE_END = re.compile(r"\r\n|\n|\r")
BASIC = 0xFFFF  # the last character that is one unit


@dataclass(frozen=True, slots=True)
class Position:
    """As the protocol has it: line and UTF-16 unit, from 0."""

    line: int
    character: int


@dataclass(frozen=True, slots=True)
class Range:
    """From the first position to the one behind the last."""

    start: Position
    end: Position


@dataclass(frozen=True)
class Text:
    """The text of an open file."""

    text: str

    @cached_property
    def _lines(self) -> list[int]:
        """Where each line of an editor begins."""
        return [0, *(match.end() for match in _EDITOR_LINE_END.finditer(self.text))]

    @cached_property
    def _places(self) -> list[int]:
        """Where each line of a declaration begins."""
        return [0, *(match.end() for match in LINE_END.finditer(self.text))]

    def offset(self, place: Place) -> int:
        """The code points before a place."""
        if place.line > len(self._places):
            return len(self.text)
        return min(self._places[place.line - 1] + place.column - 1, len(self.text))

    def position(self, offset: int) -> Position:
        """Where an editor has it."""
        line = bisect_right(self._lines, offset) - 1
        return Position(line, _units(self.text[self._lines[line] : offset]))

    def range(self, place: Place) -> Range:
        """What a place covers; no more than its line."""
        begin = self.offset(place)
        found = LINE_END.search(self.text, begin)
        end = min(begin + place.width, found.start() if found is not None else len(self.text))
        return Range(self.position(begin), self.position(end))

    def place(self, position: Position) -> Place:
        """The place of one code point; a position that there is none is the nearest before it."""
        offset = self.offset_of(position)
        line = bisect_right(self._places, offset) - 1
        return Place(line + 1, offset - self._places[line] + 1)

    def offset_of(self, position: Position) -> int:
        """The code points before a position."""
        if position.line >= len(self._lines):
            return len(self.text)
        begin = self._lines[position.line]
        found = _EDITOR_LINE_END.search(self.text, begin)
        offset, units = begin, 0
        end = found.start() if found is not None else len(self.text)
        while offset < end and units < position.character:
            units += 2 if ord(self.text[offset]) > BASIC else 1
            offset += 1
        return offset

    def line_of(self, offset: int) -> tuple[int, int]:
        """Where the line begins that has an offset, and where it ends."""
        begin = self._lines[bisect_right(self._lines, offset) - 1]
        found = _EDITOR_LINE_END.search(self.text, begin)
        return begin, found.start() if found is not None else len(self.text)


def _units(text: str) -> int:
    return len(text) + sum(ord(char) > BASIC for char in text)
