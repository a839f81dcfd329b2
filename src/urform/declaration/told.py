"""Values that records tell as texts of a fixed form: dates and UUIDs.

Each type has one canonical text for each of its values, which a declaration, a message and a record show. What is not of that
form is none of them: nothing is converted.
"""

from __future__ import annotations

import datetime
import re
import uuid
from collections.abc import Callable, Mapping
from functools import total_ordering

from urform.dataclasses import dataclass

# As an I-Regexp, for schemas: RFC 3339, full-date, the years 0001 to 9999 of the proleptic Gregorian calendar.
_YEAR = "([0-9]{3}[1-9]|[0-9]{2}[1-9][0-9]|[0-9][1-9][0-9]{2}|[1-9][0-9]{3})"
_FOURTH = "(0[48]|[2468][048]|[13579][26])"  # of a number of two digits that four divides, 00 apart
DATE_PATTERN = (
    f"{_YEAR}-((0[13578]|1[02])-(0[1-9]|[12][0-9]|3[01])|(0[469]|11)-(0[1-9]|[12][0-9]|30)|02-(0[1-9]|1[0-9]|2[0-8]))"
    f"|([0-9]{{2}}{_FOURTH}|{_FOURTH}00)-02-29"
)
_DATE = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}")


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


@dataclass(frozen=True, slots=True)
class Kind:
    """What is known of one type: how a text is read, and the places of its values."""

    wanted: str  # what a person is asked for
    canonical: Callable[[str], str | None]  # None for what is none of the values
    order: Callable[[str], int]
    at: Callable[[int], str]
    first: str
    last: str
    usual: tuple[str, ...]  # what tests hand in first; one that is odd among them
    none: tuple[str, ...]  # texts that look like one and are none


def _date(text: str) -> str | None:
    if not _DATE.fullmatch(text):
        return None
    try:
        return datetime.date.fromisoformat(text).isoformat()
    except ValueError:
        return None


UUID_PATTERN = (
    "[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}"  # RFC 9562, section 4
)


def _uuid(text: str) -> str | None:
    return text.lower() if re.fullmatch(UUID_PATTERN, text) else None


KINDS: Mapping[str, Kind] = {
    "uuid": Kind(
        wanted="a UUID such as 6ba7b810-9dad-11d1-80b4-00c04fd430c8",
        canonical=_uuid,
        order=lambda text: int(text.replace("-", ""), 16),
        at=lambda place: str(uuid.UUID(int=place)),
        first="00000000-0000-0000-0000-000000000000",
        last="ffffffff-ffff-ffff-ffff-ffffffffffff",
        usual=(
            "6ba7b810-9dad-11d1-80b4-00c04fd430c8",
            "00112233-4455-6677-8899-aabbccddeeff",
            "01939f5e-1a2b-7c3d-8e4f-0123456789ab",
        ),
        none=(
            "6ba7b810-9dad-11d1-80b4-00c04fd430c",
            "6ba7b810-9dad-11d1-80b4-00c04fd430c8a",
            "6ba7b8109dad11d180b400c04fd430c8",
            "{6ba7b810-9dad-11d1-80b4-00c04fd430c8}",
            "urn:uuid:6ba7b810-9dad-11d1-80b4-00c04fd430c8",
            "6ba7b810-9dad-11d1-80b4-00c04fd430cg",
            "6ba7b81-09dad-11d1-80b4-00c04fd430c8",
            "6ba7b810-9dad-11d1-80b400c04-fd430c8",
            "6ba7b810--9dad-11d1-80b4-00c04fd430c",
            "+ba7b810-9dad-11d1-80b4-00c04fd430c8",
            "6ba7b810-9dad-11d1-80b4-00c04fd430c8\n",
            " 6ba7b810-9dad-11d1-80b4-00c04fd430c8",
            "6ba7b810-9dad-11d1-80b4-00c04fd430c\N{ARABIC-INDIC DIGIT ONE}",
            "1-1-1-1-1",
            "",
        ),
    ),
    "date": Kind(
        wanted="a date such as 2026-12-01",
        canonical=_date,
        order=lambda text: datetime.date.fromisoformat(text).toordinal(),
        at=lambda place: datetime.date.fromordinal(place).isoformat(),
        first="0001-01-01",
        last="9999-12-31",
        usual=("2026-12-01", "2024-02-29", "1999-12-31"),
        none=(
            "2026-02-30",
            "2023-02-29",
            "1900-02-29",
            "2026-13-01",
            "2026-00-10",
            "2026-12-00",
            "0000-01-01",
            "2026-2-3",
            "20261201",
            "2026-W49-2",
            "2026/12/01",
            "2026-12-01T00:00:00Z",
            "2026-12-01\n",
            " 2026-12-01",
            "+2026-12-01",
            "-0001-12-01",
            "12026-12-01",
            "2026-12-1\N{ARABIC-INDIC DIGIT ONE}",
            "",
        ),
    ),
}


def read_told(kind: str, text: str) -> Told | None:
    """The value that a text tells; None where it is none."""
    canonical = KINDS[kind].canonical(text)
    return Told(kind, canonical) if canonical is not None else None


def at_place(kind: str, place: int) -> Told | None:
    """The value at a place; None beyond the first and the last."""
    known = KINDS[kind]
    if not known.order(known.first) <= place <= known.order(known.last):
        return None
    return Told(kind, known.at(place))
