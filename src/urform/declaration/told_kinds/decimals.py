"""Decimal numbers, exact: up to twenty digits before the point, and up to eighteen behind it.

Records have them as texts, because readers of JSON round numbers. How many zeros a text ends in is no part of the value.
"""

from __future__ import annotations

import re

from urform.declaration.told_kinds.kind import Kind

PLACES = 18  # behind the point
_PATTERN = "-?(0|[1-9][0-9]{0,19})(\\.[0-9]{1,18})?"
_FORM = re.compile(_PATTERN)


def _decimal(text: str) -> str | None:
    if not _FORM.fullmatch(text):
        return None
    shortest = text.rstrip("0").removesuffix(".") if "." in text else text
    return "0" if shortest == "-0" else shortest


def _order(text: str) -> int:
    whole, _, fraction = text.removeprefix("-").partition(".")
    units = int(f"{whole}{fraction:0<{PLACES}}")
    return -units if text.startswith("-") else units


def _at(place: int) -> str:
    digits = f"{abs(place):0{PLACES + 1}}"
    text = f"{digits[:-PLACES]}.{digits[-PLACES:]}".rstrip("0").removesuffix(".")
    return f"-{text}" if place < 0 else text


DECIMAL = Kind(
    article="a",
    spoken="decimal number",
    wanted="a decimal number such as 12.5",
    pattern=_PATTERN,
    form=None,
    canonical=_decimal,
    order=_order,
    at=_at,
    first=f"-{'9' * 20}.{'9' * PLACES}",
    last=f"{'9' * 20}.{'9' * PLACES}",
    usual=("12.5", "-0.000000000000000001", "20000"),
    neutral="0",
    none=(
        "1e3",
        "12,5",
        "+1",
        ".5",
        "1.",
        "-",
        "--1",
        "01",
        "1_000",
        "0x10",
        "NaN",
        "Infinity",
        "1.2.3",
        "1.1234567890123456789",
        "123456789012345678901",
        "12.5\n",
        " 12.5",
        "1\N{ARABIC-INDIC DIGIT ONE}",
        "",
    ),
    otherwise=lambda text: text if "." in text else f"{text}.0",
)
