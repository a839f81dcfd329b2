"""Where something stands in a declaration file."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, order=True)
class Place:
    """A token in the declaration: 1-based line and column, and its width in code points."""

    line: int
    column: int
    width: int = 1

    def within(self, offset: int, width: int = 1) -> Place:
        """The place of a part of this token, `offset` code points after its start."""
        return Place(self.line, self.column + offset, width)


START = Place(1, 1)
