"""Lengths of time, to the microsecond, as ISO 8601 writes them.

A day is 24 hours and a week is seven days: nothing here depends on a calendar, so there are no months and no years. They
are at most 100,000 days, because microseconds are then whole numbers that every language counts exactly.
"""

from __future__ import annotations

import re

from urform.declaration.told_kinds.kind import Kind

MOST_HOURS = 2_400_000
_MINUTE = 60 * 1_000_000
_HOUR = 60 * _MINUTE
_MOST = MOST_HOURS * _HOUR
_SECONDS = "[0-9]{1,10}(\\.[0-9]{1,6})?S"
_CLOCK = f"T([0-9]{{1,7}}H([0-9]{{1,9}}M)?({_SECONDS})?|[0-9]{{1,9}}M({_SECONDS})?|{_SECONDS})"
_PATTERN = f"-?P([0-9]{{1,5}}W|[0-9]{{1,6}}D({_CLOCK})?|{_CLOCK})"
_FORM = re.compile(_PATTERN)
_PARTS = re.compile(
    r"(-?)P(?:([0-9]+)W)?(?:([0-9]+)D)?T?(?:([0-9]+)H)?(?:([0-9]+)M)?(?:([0-9]+)(?:\.([0-9]+))?S)?"
)


def _microseconds(text: str) -> int | None:
    """The length; None for what is none, or longer than all."""
    parts = _PARTS.fullmatch(text) if _FORM.fullmatch(text) else None
    if parts is None:
        return None
    sign, *counted, fraction = parts.groups(default="0")
    weeks, days, hours, minutes, seconds = map(int, counted)
    total = ((weeks * 7 + days) * 24 + hours) * _HOUR + minutes * _MINUTE + seconds * 1_000_000
    total += int(f"{fraction:0<6}")
    return None if total > _MOST else -total if sign == "-" else total


def _text(microseconds: int) -> str:
    """Hours, minutes and seconds, those that are not zero; a fraction without zeros at its end."""
    hours, rest = divmod(abs(microseconds), _HOUR)
    minutes, rest = divmod(rest, _MINUTE)
    seconds, fraction = divmod(rest, 1_000_000)
    parts = [f"{hours}H"] if hours else []
    parts += [f"{minutes}M"] if minutes else []
    if fraction:
        parts.append(f"{seconds}.{fraction:06}".rstrip("0") + "S")
    elif seconds or not parts:
        parts.append(f"{seconds}S")
    return f"{'-' if microseconds < 0 else ''}PT{''.join(parts)}"


def units(text: str) -> list[tuple[str, int]]:
    """What a canonical text counts, by the names of the units, each with its sign; of no time at all no hours."""
    sign = -1 if text.startswith("-") else 1
    minutes, micros = divmod(abs(_order(text)), _MINUTE)
    seconds, fraction = divmod(micros, 1_000_000)
    counted = {"hours": minutes // 60, "minutes": minutes % 60, "seconds": seconds, "microseconds": fraction}
    return [(unit, sign * count) for unit, count in counted.items() if count] or [("hours", 0)]


def _duration(text: str) -> str | None:
    microseconds = _microseconds(text)
    return _text(microseconds) if microseconds is not None else None


def _order(text: str) -> int:
    microseconds = _microseconds(text)
    assert microseconds is not None
    return microseconds


def _otherwise(text: str) -> str:
    """The same length in seconds alone."""
    seconds, fraction = divmod(abs(_order(text)), 1_000_000)
    sign = "-" if text.startswith("-") else ""
    return f"{sign}PT{seconds}.{fraction:06}S"


DURATION = Kind(
    article="a",
    spoken="duration",
    wanted="a duration such as PT26H30M or PT0.5S",
    pattern=_PATTERN,
    form=None,  # what JSON Schema calls `duration` has months, and no fractions
    canonical=_duration,
    order=_order,
    at=_text,
    first=f"-PT{MOST_HOURS}H",
    last=f"PT{MOST_HOURS}H",
    usual=("PT26H30M", "PT0.5S", "-PT1M0.000001S"),
    neutral="PT0S",
    none=(
        "P1M",
        "P1Y",
        "P",
        "PT",
        "P1DT",
        "PT1H1H",
        "PT1M1H",
        "P1W1D",
        "P1W2",
        "PT1.5H",
        "PT.5S",
        "PT1.S",
        "PT1,5S",
        "PT1.1234567S",
        "PT1",
        "1H",
        "T1H",
        "pt1h",
        "+PT1H",
        "PT-1H",
        "--PT1H",
        "P1H",
        "PT1D",
        "01:00:00",
        "PT12345678901S",
        "PT1H\n",
        " PT1H",
        "PT\N{ARABIC-INDIC DIGIT ONE}H",
        "",
    ),
    beyond=("PT2400000H0.000001S", "-PT2400000H0.000001S", "P99999W", "PT9999999999S", "P100001D"),
    otherwise=_otherwise,
)
