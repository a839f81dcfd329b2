"""Marked lines of templates and of support code: what stands there instead where a flaw is made.

A mark ends a line, two spaces after it: `«#keep#»`, in support code behind the sign of a comment. Without a flaw the mark
is dropped and the line stays. A flaw names marks and gives other text for their lines: lines of the same template, so
they show the same values; `{line}` stands for the line itself, and `flaw` for the names of what the flaw is about.

A mark in a loop names what its line is about, `«#set f.setter#»`: of all the lines that it becomes, only the one that is
about the same as the flaw, `flaw.setter`, is replaced. An empty text drops the line.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

MARK = re.compile(
    r"^(?P<margin>[ \t]*)(?P<line>.*?)  (?:(?://|#) )?«#(?P<mark>[a-z_]+)(?: (?P<of>[\w.]+))?#»$",
    re.MULTILINE,
)

DROPPED = "%% set dropped = true"  # a line of logic, which leaves no line behind
Instead = Mapping[str, str]  # by mark


def marked(text: str, instead: Instead, dropped: str = "") -> str:
    """Support code, or the source of a template, with other text for some of its marked lines.

    `dropped` stands for a line that is dropped: in a template one that leaves nothing behind.
    """

    def put(match: re.Match[str]) -> str:
        margin, line, mark, of = match["margin"], match["line"], match["mark"], match["of"]
        if mark not in instead:
            return f"{margin}{line}"
        others = (instead[mark] or dropped).replace("{line}", line).split("\n")
        other = "\n".join(f"{margin}{each}" if each else each for each in others)
        if of is None:
            return other
        same = f"{of} == flaw.{of.rpartition('.')[2]}"
        return f"%% if {same}\n{other}\n%% else\n{margin}{line}\n%% endif"

    return MARK.sub(put, text)


def marks_of(text: str) -> list[str]:
    """The marks of a text, in their order."""
    return [match["mark"] for match in MARK.finditer(text)]
