"""Columns: cells of neighbouring lines made equally wide, as gofmt does.

Aligned columns follow the elastic tab stops of Go's text/tabwriter; which keys share a column follows `exprList` of go/printer.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from urform.languages.layout.signs import CLOSING, PAIRS, signs

TAB = "\x01"  # ends a cell of an aligned column; never part of a literal or comment, which escape controls
SECTION = "\x05"  # a line that only ends the columns before it
SMALL, RATIO = 40, 2.5  # bytes of keys that always share a column; how far others may be from their mean


def keys_in_columns(elements: Sequence[list[str]]) -> Iterator[str]:
    """The lines of elements `key: value`, with the keys of those on one line as cells.

    Keys of very different sizes do not share a column: the larger of two is over 40 bytes, and 2.5 times as large as, or
    as small as, the geometric mean of those of its section before it.
    """
    logarithms: list[float] = []
    before = 0
    for lines in elements:
        cell = key_in_column(lines[0]) if len(lines) == 1 else lines[0]
        size = len(cell.partition(TAB)[0].strip().encode()) - 1 if TAB in cell else 0
        if before and size and max(before, size) > SMALL and logarithms:
            ratio = size / math.exp(sum(logarithms) / len(logarithms))
            if ratio * RATIO <= 1 or ratio >= RATIO:
                yield SECTION
                logarithms.clear()
        if size > 0:
            logarithms.append(math.log(size))
        before = size
        yield from [cell, *lines[1:]]


def begins_section(keys: Sequence[str]) -> Iterator[bool]:
    """Whether a key, each on a line of its own, shares no column with those before it."""
    lines = list(keys_in_columns([[f"{key}: _"] for key in keys]))
    return (at > 0 and lines[at - 1] == SECTION for at, line in enumerate(lines) if line != SECTION)


def key_in_column(line: str) -> str:
    """A line `key: value` with the key as a cell."""
    depth = 0
    for at, char in signs(line):
        if char in PAIRS:
            depth += 1
        elif char in CLOSING:
            depth -= 1
        elif char == ":" and depth == 0 and line[at + 1 : at + 2] == " ":
            return f"{line[: at + 1]}{TAB}{line[at + 2 :]}"
    return line


def aligned(lines: list[str]) -> list[str]:
    """Lines whose cells end in TAB, with the cells of neighbouring lines made equally wide."""
    cells = [line.split(TAB) for line in lines]
    widths: list[list[int]] = [[0] * (len(row) - 1) for row in cells]
    deepest = max((len(row) for row in cells), default=1) - 1
    for column in range(deepest):
        at = 0
        while at < len(cells):
            if len(cells[at]) - 1 <= column:
                at += 1
                continue
            end = at
            while end < len(cells) and len(cells[end]) - 1 > column:
                end += 1
            width = max(_wide(cells[row][column]) for row in range(at, end))
            for row in range(at, end):
                widths[row][column] = width
            at = end
    joined = (_joined(row, width) for row, width in zip(cells, widths, strict=True))
    return [line for line in joined if line != SECTION]


def _wide(cell: str) -> int:
    return len(cell.lstrip("\t"))


def _joined(cells: list[str], widths: list[int]) -> str:
    padded = [
        cell + " " * (width - _wide(cell) + 1) if cell.strip() or width else cell
        for cell, width in zip(cells, widths, strict=False)
    ]
    return ("".join(padded) + cells[-1]).rstrip(" ")
