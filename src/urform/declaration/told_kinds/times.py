"""Times of day, to the microsecond, as RFC 3339 writes them (partial-time), without a sixtieth second."""

from __future__ import annotations

import datetime
import re

from urform.declaration.told_kinds.kind import Kind

TIME_PATTERN = "([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\\.[0-9]{1,6})?"
_TIME = re.compile(TIME_PATTERN)
_MIDNIGHT = datetime.datetime(1, 1, 1)
_MICROSECOND = datetime.timedelta(microseconds=1)


def _time(text: str) -> str | None:
    """Without the zeros at the end of a fraction, and without a fraction that is zero."""
    if not _TIME.fullmatch(text):
        return None
    return text.rstrip("0").removesuffix(".") if "." in text else text


def _order(text: str) -> int:
    clock, _, fraction = text.partition(".")
    hours, minutes, seconds = map(int, clock.split(":"))
    return (hours * 3600 + minutes * 60 + seconds) * 1_000_000 + int(f"{fraction:0<6}")


def _at(place: int) -> str:
    at = (_MIDNIGHT + place * _MICROSECOND).time().isoformat()
    return at.rstrip("0") if "." in at else at


TIME = Kind(
    article="a",
    spoken="time of day",
    wanted="a time of day such as 06:30:00",
    pattern=TIME_PATTERN,
    form=None,  # what JSON Schema calls `time` has an offset
    canonical=_time,
    order=_order,
    at=_at,
    first="00:00:00",
    last="23:59:59.999999",
    usual=("06:30:00", "23:59:59.25", "00:00:00.000001"),
    neutral="00:00:00",
    none=(
        "24:00:00",
        "06:30",
        "06:60:00",
        "06:30:60",
        "06:30:00.",
        "06:30:00,5",
        "06:30:00.1234567",
        "06:30:00Z",
        "06:30:00+01:00",
        "6:30:00",
        "063000",
        "T06:30:00",
        "06:30:00 pm",
        "-06:30:00",
        "2026-12-01T06:30:00",
        "06:30:00\n",
        " 06:30:00",
        "06:30:0\N{ARABIC-INDIC DIGIT ONE}",
        "",
    ),
    otherwise=lambda text: text if "." in text else f"{text}.000",
    in_time=True,
)
