"""What is known of each type whose values are told by texts of one form: a row a type.

Everything else that a declaration, a plan or a schema says of such a type is taken from its row.
"""

from __future__ import annotations

import datetime
import re
import uuid
from collections.abc import Callable, Mapping

from urform.dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Kind:
    """What is known of one type: how a text is read, and the places of its values."""

    article: str  # before its name in a message: «a date is wanted»
    spoken: str
    wanted: str  # what a person is asked for
    pattern: str  # the texts that are read, as an I-Regexp, for schemas
    form: str  # what JSON Schema calls that form
    canonical: Callable[[str], str | None]  # None for what is none of the values
    order: Callable[[str], int]
    at: Callable[[int], str]
    first: str
    last: str
    usual: tuple[str, ...]  # what tests hand in first; one that is odd among them
    neutral: str  # what a stand-in gives
    none: tuple[str, ...]  # texts that look like one and are none; the first is what tests hand in for one
    otherwise: Callable[[str], str] = str  # another text of the same value

    @property
    def asked(self) -> str:
        """What a message says of anything else."""
        return f"{self.article} {self.spoken} is wanted"


# RFC 3339, full-date, the years 0001 to 9999 of the proleptic Gregorian calendar.
_YEAR = "([0-9]{3}[1-9]|[0-9]{2}[1-9][0-9]|[0-9][1-9][0-9]{2}|[1-9][0-9]{3})"
_FOURTH = "(0[48]|[2468][048]|[13579][26])"  # of a number of two digits that four divides, 00 apart
_DATE_PATTERN = (
    f"{_YEAR}-((0[13578]|1[02])-(0[1-9]|[12][0-9]|3[01])|(0[469]|11)-(0[1-9]|[12][0-9]|30)|02-(0[1-9]|1[0-9]|2[0-8]))"
    f"|([0-9]{{2}}{_FOURTH}|{_FOURTH}00)-02-29"
)
_DATE = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}")


def _date(text: str) -> str | None:
    if not _DATE.fullmatch(text):
        return None
    try:
        return datetime.date.fromisoformat(text).isoformat()
    except ValueError:
        return None


# RFC 3339, date-time; a fraction of a second has one to six digits.
_OFFSET = "(Z|z|[+\\-]([01][0-9]|2[0-3]):[0-5][0-9])"
_INSTANT_PATTERN = (
    f"({_DATE_PATTERN})(T|t)([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\\.[0-9]{{1,6}})?{_OFFSET}"
)
_INSTANT = re.compile(
    r"([0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2})(?:\.([0-9]{1,6}))?(Z|[+-](?:[01][0-9]|2[0-3]):[0-5][0-9])",
    re.IGNORECASE | re.ASCII,
)
_MICROSECOND = datetime.timedelta(microseconds=1)
_START = datetime.datetime.min.replace(tzinfo=datetime.UTC)


def _point(text: str) -> datetime.datetime | None:
    """The point in time, in UTC."""
    parts = _INSTANT.fullmatch(text)
    if parts is None:
        return None
    clock, fraction, offset = parts.groups()
    try:
        local = datetime.datetime.fromisoformat(f"{clock.upper()}.{fraction or '0':0<6}{offset.upper()}")
        return local.astimezone(datetime.UTC)
    except (ValueError, OverflowError):
        return None


def _instant_text(point: datetime.datetime) -> str:
    """Without the zeros at the end of a fraction, and without a fraction that is zero."""
    text = point.replace(tzinfo=None).isoformat()
    return f"{text.rstrip('0') if point.microsecond else text}Z"


def _instant(text: str) -> str | None:
    point = _point(text)
    return _instant_text(point) if point is not None else None


def _instant_order(text: str) -> int:
    point = _point(text)
    assert point is not None
    return (point - _START) // _MICROSECOND


def _instant_elsewhere(text: str) -> str:
    """The same point in time, with an offset; as it is where the local day would be none."""
    point = _point(text)
    assert point is not None
    try:
        local = point.astimezone(datetime.timezone(datetime.timedelta(hours=5, minutes=30)))
    except OverflowError:
        return text
    return local.isoformat().replace("T", "t")


_UUID_PATTERN = (
    "[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}"  # RFC 9562, section 4
)


def _uuid(text: str) -> str | None:
    return text.lower() if re.fullmatch(_UUID_PATTERN, text) else None


KINDS: Mapping[str, Kind] = {
    "uuid": Kind(
        article="a",
        spoken="UUID",
        wanted="a UUID such as 6ba7b810-9dad-11d1-80b4-00c04fd430c8",
        pattern=_UUID_PATTERN,
        form="uuid",
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
        neutral="00000000-0000-0000-0000-000000000000",
        none=(
            "1-1-1-1-1",
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
            "",
        ),
        otherwise=str.upper,
    ),
    "date": Kind(
        article="a",
        spoken="date",
        wanted="a date such as 2026-12-01",
        pattern=_DATE_PATTERN,
        form="date",
        canonical=_date,
        order=lambda text: datetime.date.fromisoformat(text).toordinal(),
        at=lambda place: datetime.date.fromordinal(place).isoformat(),
        first="0001-01-01",
        last="9999-12-31",
        usual=("2026-12-01", "2024-02-29", "1999-12-31"),
        neutral="1970-01-01",
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
    "instant": Kind(
        article="an",
        spoken="instant",
        wanted="an instant such as 2026-12-01T05:30:00Z",
        pattern=_INSTANT_PATTERN,
        form="date-time",
        canonical=_instant,
        order=_instant_order,
        at=lambda place: _instant_text(_START + place * _MICROSECOND),
        first="0001-01-01T00:00:00Z",
        last="9999-12-31T23:59:59.999999Z",
        usual=("2026-12-01T05:30:00Z", "2024-02-29T23:59:59.999999Z", "1969-12-31T23:59:59.5Z"),
        neutral="1970-01-01T00:00:00Z",
        none=(
            "2026-02-30T05:30:00Z",
            "2026-12-01",
            "2026-12-01T05:30:00",
            "2026-12-01T05:30Z",
            "2026-12-01 05:30:00Z",
            "2026-12-01T24:00:00Z",
            "2026-12-01T05:60:00Z",
            "2026-12-31T23:59:60Z",
            "2026-12-01T05:30:00.Z",
            "2026-12-01T05:30:00,5Z",
            "2026-12-01T05:30:00.1234567Z",
            "2026-12-01T05:30:00+01",
            "2026-12-01T05:30:00+0100",
            "2026-12-01T05:30:00+24:00",
            "2026-12-01T05:30:00+01:60",
            "2026-12-01T05:30:00 Z",
            "2026-12-01T05:30:00ZZ",
            "2026-12-01T05:30:00Z[UTC]",
            "2026-12-01T5:30:00Z",
            "20261201T053000Z",
            "0000-12-31T05:30:00Z",
            "+2026-12-01T05:30:00Z",
            "12026-12-01T05:30:00Z",
            "2026-12-01T05:30:00Z\n",
            " 2026-12-01T05:30:00Z",
            "2026-12-01T05:30:0\N{ARABIC-INDIC DIGIT ONE}Z",
            "",
        ),
        otherwise=_instant_elsewhere,
    ),
}
