"""Marked lines of templates and of support code: what stands there instead where a flaw is made.

A mark ends a line, two spaces after it: `«#keep#»`, in support code behind the sign of a comment. Without a flaw the mark
is dropped and the line stays. A flaw names marks and gives other text for their lines: lines of the same template, so
they show the same values; `{line}` stands for the line itself, and `flaw` for the names of what the flaw is about.

A mark in a loop names whom its line is about, `«#set f.name#»`: of all the lines that it becomes, only the one about the
flaw's member, as the target calls it, is replaced. An empty text drops the line.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

MARK = re.compile(
    r"^(?P<margin>[ \t]*)(?P<line>.*?)  (?:(?://|#) )?«#(?P<mark>[a-z_]+)(?: (?P<of>[\w.]+))?#»$",
    re.MULTILINE,
)

_NOTHING = "%% set dropped = true"  # a line of logic, which leaves no line behind
Instead = Mapping[str, str]  # by mark


def marked(text: str, instead: Instead) -> str:
    """The source of a template, with other text for some of its marked lines."""

    def put(match: re.Match[str]) -> str:
        margin, line, mark, of = match["margin"], match["line"], match["mark"], match["of"]
        if mark not in instead:
            return f"{margin}{line}"
        others = (instead[mark] or _NOTHING).replace("{line}", line).split("\n")
        other = "\n".join(f"{margin}{each}" if each else each for each in others)
        if of is None:
            return other
        return f"%% if {of} == flaw.name\n{other}\n%% else\n{margin}{line}\n%% endif"

    return MARK.sub(put, text)


def marks_of(text: str) -> list[str]:
    """The marks of a text, in their order."""
    return [match["mark"] for match in MARK.finditer(text)]
