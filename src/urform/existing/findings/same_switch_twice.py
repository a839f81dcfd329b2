"""The same switch over a type code stands in several places."""

from __future__ import annotations

from collections.abc import Iterator

from urform.existing.findings.creating import MARKS, bare, creating
from urform.existing.findings.finding import WARNING, Finding, Kind, Proof
from urform.existing.sources.code_facts import Code, SwitchFact

ALIKE = 0.6  # of the types that two switches make, taken together
FEWEST = 2  # keys that both have


def _find(code: Code) -> Iterator[Finding]:
    switches = creating(code)
    for number, second in enumerate(switches):
        for first in switches[:number]:
            if _are_alike(first, second, code):
                yield _finding(first, second)
                break


def _are_alike(first: SwitchFact, second: SwitchFact, code: Code) -> bool:
    """Types of one name in several places could be others: they do not count."""
    one, other = (
        {name for name in each.makes() if len(code.types.get(name, ())) == 1} for each in (first, second)
    )
    both = len(one & other)
    here, there = dict(_keys(first)), dict(_keys(second))
    keys = here.keys() & there.keys()
    agreed = sum(here[key] == there[key] for key in keys)
    return (
        both >= FEWEST
        and both >= ALIKE * len(one | other)
        and agreed >= FEWEST
        and agreed >= ALIKE * len(keys)
    )


def _keys(switch: SwitchFact) -> Iterator[tuple[str, str]]:
    for arm in switch.arms:
        for label in arm.labels:
            yield bare(label), arm.makes


def _finding(first: SwitchFact, second: SwitchFact) -> Finding:
    where = f"{first.region.file}:{first.region.line}"
    differences = "; ".join(_differences(dict(_keys(first)), dict(_keys(second)), where))
    return Finding(
        "same-switch-twice",
        WARNING,
        second.region,
        f"the same keys as in {where} make the same types here"
        + (f", but {differences}" if differences else ""),
        "make one factory of both: urform explain factory",
        (Proof(first.region.file, first.region.line, "the other one"),),
        f"{second.function}|{first.region.file}|{first.function}|{','.join(sorted(second.makes()))}",
    )


def _differences(one: dict[str, str], other: dict[str, str], where: str) -> Iterator[str]:
    for key in [*one, *(key for key in other if key not in one)]:
        if key not in other:
            yield f"'{key}' is only there"
        elif key not in one:
            yield f"'{key}' is only here"
        elif one[key] != other[key]:
            yield f"'{key}' makes {one[key]} there and {other[key]} here"


KIND = Kind(
    "same-switch-twice",
    WARNING,
    "the same switch over a type code stands in several places",
    "A kind that is added to one of them and not to the other is made in some places and refused in others.",
    _find,
    bad=MARKS
    + """
def new(code):
    if code == "buoy":
        return Buoy()
    if code == "beacon":
        return Beacon()
    raise ValueError(code)

def read(record):
    if record.kind == "buoy":
        return Buoy()
    if record.kind == "beacon":
        return Beacon()
    raise ValueError(record)
""",
    good=MARKS
    + """class Hull: pass
class Steel(Hull): pass
class Spar(Hull): pass

def new(code):
    if code == "buoy":
        return Buoy()
    if code == "beacon":
        return Beacon()
    raise ValueError(code)

def hull(code):
    if code == "steel":
        return Steel()
    if code == "spar":
        return Spar()
    raise ValueError(code)
""",
)
