"""A switch over a type code makes one of several products."""

from __future__ import annotations

from collections.abc import Iterator

from urform.existing.findings.creating import creating
from urform.existing.findings.finding import NOTE, Finding, Kind, Proof
from urform.existing.sources.code_facts import Code

LISTED = 4  # keys in the message


def _find(code: Code) -> Iterator[Finding]:
    for switch in creating(code):
        arms = [f"{', '.join(arm.labels)} makes {arm.makes}" for arm in switch.arms]
        more = f" and {len(arms) - LISTED} more" if len(arms) > LISTED else ""
        over = f" of {switch.subject}" if switch.subject else ""
        keys = sum(len(arm.labels) for arm in switch.arms)
        yield Finding(
            "type-switch",
            NOTE,
            switch.region,
            f"{keys} keys{over} make {len(switch.makes())} types: {'; '.join(arms[:LISTED])}{more}",
            "declare a product with these variants, and a factory: urform explain factory",
            tuple(
                Proof(switch.region.file, arm.line, said) for arm, said in zip(switch.arms, arms, strict=True)
            ),
            f"{switch.function}|{','.join(sorted(switch.makes()))}",
        )


KIND = Kind(
    "type-switch",
    NOTE,
    "a switch over a type code makes one of several products",
    "Each new kind has to be added here and wherever else the code is asked for; a factory is one place, and can be open.",
    _find,
    bad="""
class Mark: pass
class Buoy(Mark): pass
class Beacon(Mark): pass

def mark_of(code):
    if code == "buoy":
        return Buoy()
    elif code == "beacon":
        return Beacon()
    raise ValueError(code)
""",
    good="""
class Mark: pass
class Buoy(Mark): pass
class Lamp: pass

def thing_of(code):
    if code == "buoy":
        return Buoy()
    elif code == "lamp":
        return Lamp()
    raise ValueError(code)
""",
)
