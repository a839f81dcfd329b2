"""A branch makes what another one makes, though there is a type of its own name."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator

from urform.existing.findings.creating import MARKS, bare, creating, in_common
from urform.existing.findings.finding import WARNING, Finding, Kind, Proof
from urform.existing.sources.code_facts import Arm, Code, Region, SwitchFact

SHORTEST = 3  # letters of a key that is looked for in names


def _find(code: Code) -> Iterator[Finding]:
    folded = {_folded(name): name for name in code.types}
    for switch in creating(code):
        times = Counter(arm.makes for arm in switch.arms)
        for arm in switch.arms:
            if times[arm.makes] > 1 and (meant := _meant(arm, switch, folded, code)):
                yield _finding(switch, arm, meant)


def _folded(name: str) -> str:
    return re.sub(r"[^a-z0-9]", "", name.lower())


def _meant(arm: Arm, switch: SwitchFact, folded: dict[str, str], code: Code) -> str:
    """The type that has the name of a key, alone or before what the made type ends in, and is of the same base."""
    if len(arm.labels) != 1 or len(key := _folded(bare(arm.labels[0]))) < SHORTEST:
        return ""
    if key in _folded(arm.makes):
        return ""
    for other in switch.makes() - {arm.makes}:
        if key == _folded(other):
            return ""  # it is made elsewhere: two keys for one, and not a slip
    name = folded.get(key, "")
    return name if name and name not in switch.makes() and in_common([name, arm.makes], code) else ""


def _finding(switch: SwitchFact, arm: Arm, meant: str) -> Finding:
    first = next(each for each in switch.arms if each.makes == arm.makes)
    proof = (
        (Proof(switch.region.file, first.line, f"{first.labels[0]} makes {first.makes}, too"),)
        if first is not arm
        else ()
    )
    return Finding(
        "wrong-branch",
        WARNING,
        Region(switch.region.file, arm.line, arm.line),
        f"{arm.labels[0]} makes {arm.makes}, and there is a {meant}",
        f"make {meant} here, or name the key otherwise; a declared factory has a test for each key",
        proof,
        f"{switch.function}|{arm.labels[0]}|{arm.makes}",
    )


KIND = Kind(
    "wrong-branch",
    WARNING,
    "a branch makes what another one makes, though there is a type of its own name",
    "A branch that was copied and not changed all the way returns the wrong type, and nothing notices.",
    _find,
    bad=MARKS
    + """class Wreck(Mark): pass

def mark_of(code):
    if code == "buoy":
        return Buoy()
    if code == "beacon":
        return Beacon()
    if code == "wreck":
        return Beacon()
    raise ValueError(code)
""",
    good=MARKS
    + """
def mark_of(code):
    if code == "buoy":
        return Buoy()
    if code == "beacon":
        return Beacon()
    if code == "tower":
        return Beacon()
    raise ValueError(code)
""",
)
