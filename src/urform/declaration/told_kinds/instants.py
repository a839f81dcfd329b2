"""Points in time, to the microsecond, as RFC 3339 writes them."""

from __future__ import annotations

import datetime
import re

from urform.declaration.told_kinds.dates import DATE_PATTERN
from urform.declaration.told_kinds.kind import Kind

# RFC 3339, date-time; a fraction of a second has one to six digits.
_OFFSET = "(Z|z|[+\\-]([01][0-9]|2[0-3]):[0-5][0-9])"
_INSTANT_PATTERN = f"({DATE_PATTERN})(T|t)([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\\.[0-9]{{1,6}})?{_OFFSET}"
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


INSTANT = Kind(
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
    in_time=True,
)
