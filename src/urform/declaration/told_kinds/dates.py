"""Days of the Gregorian calendar, as RFC 3339 writes them."""

from __future__ import annotations

import datetime
import re

from urform.declaration.told_kinds.kind import Kind

# RFC 3339, full-date, the years 0001 to 9999 of the proleptic Gregorian calendar.
_YEAR = "([0-9]{3}[1-9]|[0-9]{2}[1-9][0-9]|[0-9][1-9][0-9]{2}|[1-9][0-9]{3})"
_FOURTH = "(0[48]|[2468][048]|[13579][26])"  # of a number of two digits that four divides, 00 apart
DATE_PATTERN = (
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


DATE = Kind(
    article="a",
    spoken="date",
    wanted="a date such as 2026-12-01",
    pattern=DATE_PATTERN,
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
    in_time=True,
)
