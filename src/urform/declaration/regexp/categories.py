"""The general categories of Unicode: of one version, whatever the running interpreter knows."""

from __future__ import annotations

from functools import cache
from pathlib import Path

TABLE = Path(__file__).parent / "categories.txt"
PARTS = {
    "L": "lmotu",
    "M": "cen",
    "N": "dlo",
    "P": "cdefios",
    "Z": "lps",
    "S": "ckmo",
    "C": "cfno",
}  # RFC 9485 has no Cs: surrogates are no characters
CATEGORIES = frozenset({*PARTS, *(f"{major}{minor}" for major, minors in PARTS.items() for minor in minors)})


def ranges_of(category: str) -> tuple[tuple[int, int], ...]:
    """The code points of `Lu`, or of all that begin with `L`: sorted ranges of the first and the last."""
    found = (each for name, ranges in _table().items() if name.startswith(category) for each in ranges)
    joined: list[tuple[int, int]] = []
    for first, last in sorted(found):
        if joined and first == joined[-1][1] + 1:
            joined[-1] = (joined[-1][0], last)
        else:
            joined.append((first, last))
    return tuple(joined)


@cache
def _table() -> dict[str, list[tuple[int, int]]]:
    table: dict[str, list[tuple[int, int]]] = {}
    for line in TABLE.read_text(encoding="ascii").splitlines():
        name, *ranges = line.split()
        if name == "#":
            continue
        for each in ranges:
            first, _, last = each.partition("-")
            table.setdefault(name, []).append((int(first, 16), int(last or first, 16)))
    return table
