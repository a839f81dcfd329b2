"""A clone shares a container whose contents the type changes."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.existing.findings.finding import WARNING, Finding, Kind, Proof
from urform.existing.sources.code_facts import Code, CopyFact
from urform.prose import listing

_MEANT = re.compile(r"cache|pool|shared", re.IGNORECASE)  # names of what is shared on purpose


def _find(code: Code) -> Iterator[Finding]:
    for file in code.files:
        for copy in file.copies:
            open_ = {*(change.field for change in copy.changed), *copy.public}
            fields = [
                each.field for each in copy.handed if each.field in open_ and not _MEANT.search(each.field)
            ]
            if fields:
                yield _finding(copy, list(dict.fromkeys(fields)))


def _finding(copy: CopyFact, fields: list[str]) -> Finding:
    file = copy.region.file
    handed = [
        Proof(file, each.line, f"{each.field} is handed over as it is")
        for each in copy.handed
        if each.field in fields
    ]
    changed = [
        Proof(file, each.line, f"{each.field} is changed") for each in copy.changed if each.field in fields
    ]
    who = f"{copy.type} changes" if changed else "whoever has one of them can change"
    return Finding(
        "clone-shares",
        WARNING,
        copy.region,
        f"what {copy.method} of {copy.type} makes shares {listing(fields)} with its original, "
        f"and {who} what is in it",
        "give the copy containers of its own, or declare a prototype: urform explain prototype",
        (*handed, *changed),
        f"{copy.type}|{copy.method}|{','.join(fields)}",
    )


KIND = Kind(
    "clone-shares",
    WARNING,
    "a clone shares a container with its original, whose contents are changed",
    "Whoever changes the one changes the other, long after the copy was made.",
    _find,
    bad="""
class Refit:
    legs: list[str]
    def __init__(self, legs: list[str]):
        self.legs = legs
    def copy(self):
        return Refit(self.legs)
    def add(self, leg):
        self.legs.append(leg)
""",
    good="""
class Refit:
    legs: list[str]
    def __init__(self, legs: list[str]):
        self.legs = legs
    def copy(self):
        return Refit(list(self.legs))
    def add(self, leg):
        self.legs.append(leg)
""",
)
