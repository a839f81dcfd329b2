"""What a change of the text can do about a problem: the word that was meant, or the comment that keeps advice quiet."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.problems import Problem
from urform.editing.text import Position, Range, Text

_KEPT = re.compile(r"# urform: keep [^#\n]*\Z")


@dataclass(frozen=True, slots=True)
class Mend:
    """A change of one range, and what it is called."""

    title: str
    range: Range
    text: str


def mends(text: Text, problem: Problem) -> Iterator[Mend]:
    """The changes that mend a problem; most have none but a person's."""
    if problem.instead:
        yield Mend(f"Write {problem.instead}", text.range(problem.place), problem.instead)
    if problem.advice:
        yield _kept(text, problem)


def _kept(text: Text, problem: Problem) -> Mend:
    """`# urform: keep SLUG` at the end of the line, beside what is kept there already."""
    _, end = text.line_of(text.offset(problem.place))
    begin = text.line_of(end)[0]
    line = text.text[begin:end]
    there = _KEPT.search(line.rstrip())
    comment = f", {problem.slug}" if there is not None else f"  # urform: keep {problem.slug}"
    at: Position = text.position(begin + len(line.rstrip()))
    return Mend(f"Keep it as it is ({problem.slug})", Range(at, text.position(end)), comment)
