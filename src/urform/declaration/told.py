"""Values that records tell as texts of a fixed form: dates, instants and UUIDs.

Each type has one canonical text for each of its values, which a declaration, a message and a record show. What is not of that
form is none of them: nothing is converted.
"""

from __future__ import annotations

from functools import total_ordering

from urform.dataclasses import dataclass
from urform.declaration.told_kinds import KINDS


@total_ordering
@dataclass(frozen=True, slots=True)
class Told:
    """A value by its canonical text; `kind` is the name of its type. Those of one kind are ordered."""

    kind: str
    text: str

    @property
    def order(self) -> int:
        """Its place among all values of its kind."""
        return KINDS[self.kind].order(self.text)

    def beside(self, step: int) -> Told | None:
        """The value so many places further; None where there is none."""
        return at_place(self.kind, self.order + step)

    def __lt__(self, other: Told) -> bool:
        return self.order < other.order

    def __str__(self) -> str:
        return self.text


def read_told(kind: str, text: str) -> Told | None:
    """The value that a text tells; None where it is none."""
    canonical = KINDS[kind].canonical(text)
    return Told(kind, canonical) if canonical is not None else None


def is_written_so(value: object, kind: str) -> bool:
    """Whether a plain value is what declarations write for a kind: a text, and for a decimal number a number too."""
    is_number = isinstance(value, (int, float)) and not isinstance(value, bool)
    return isinstance(value, str) or (kind == "decimal" and is_number)


def at_place(kind: str, place: int) -> Told | None:
    """The value at a place; None beyond the first and the last."""
    known = KINDS[kind]
    if not known.order(known.first) <= place <= known.order(known.last):
        return None
    return Told(kind, known.at(place))
