"""A key that nobody knows gives nothing, without a word."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.existing.findings.creating import MARKS, creating
from urform.existing.findings.finding import WARNING, Finding, Kind, Proof
from urform.existing.sources.code_facts import NOTHING_GIVEN, Code

# What a function says where it may return nothing: by its type, or by its name.
_NAMED_SO = re.compile(r"^(try|find|maybe|lookup)(?![a-z])|(Or|_or_)([Nn]ull|[Nn]one|[Uu]ndefined)$")
_SAYS_SO = re.compile(r"Optional|Option\b|\bNone\b|\bnull\b|\bundefined\b|Nullable|\berror\b|\bbool\b")


def _find(code: Code) -> Iterator[Finding]:
    for switch in creating(code):
        returns = sum(arm.target == "return" for arm in switch.arms)
        if switch.otherwise != NOTHING_GIVEN or returns < 2 or _SAYS_SO.search(switch.returns):
            continue
        if _NAMED_SO.search(switch.function):
            continue
        yield Finding(
            "unknown-gives-nothing",
            WARNING,
            switch.region,
            f"a key that is none of these gives nothing, and {switch.function or 'the code'} does not say so",
            "fail with the key and those that are known, or return a type that says that there may be nothing",
            (Proof(switch.region.file, switch.region.end_line, "nothing is returned behind this line"),),
            f"{switch.function}|{','.join(sorted(switch.makes()))}",
        )


KIND = Kind(
    "unknown-gives-nothing",
    WARNING,
    "an unknown key gives nothing, without a word",
    "A misspelt key is noticed three calls later, where nobody knows any longer where it came from.",
    _find,
    bad=MARKS
    + """
def mark_of(code):
    if code == "buoy":
        return Buoy()
    if code == "beacon":
        return Beacon()
    return None
""",
    good=MARKS
    + """
def mark_of(code) -> Mark | None:
    if code == "buoy":
        return Buoy()
    if code == "beacon":
        return Beacon()
    return None
""",
)
