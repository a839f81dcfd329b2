"""A switch over a type code makes one of several products."""

from __future__ import annotations

from collections.abc import Iterator

from urform.existing.findings.creating import MARKS, creating, in_common
from urform.existing.findings.finding import NOTE, Finding, Kind, Proof
from urform.existing.sources.code_facts import Code, SwitchFact

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
            _mend(switch, code),
            tuple(
                Proof(switch.region.file, arm.line, said) for arm, said in zip(switch.arms, arms, strict=True)
            ),
            f"{switch.function}|{','.join(sorted(switch.makes()))}",
        )


def _mend(switch: SwitchFact, code: Code) -> str:
    """The command that drafts the declaration, where one file has the base and all kinds."""
    said = "declare a product with these variants, and a factory"
    kinds = [kind for kind in switch.makes() if kind in code.types]
    for base in sorted(in_common(kinds, code) & code.types.keys()):
        facts = [fact for name in (base, *kinds) for fact in code.types[name]]
        if len({fact.file for fact in facts}) == 1:
            return f"{said}: urform adopt {facts[0].file} --only {base}"
    return f"{said}: urform explain factory"


KIND = Kind(
    "type-switch",
    NOTE,
    "a switch over a type code makes one of several products",
    "Each new kind has to be added here and wherever else the code is asked for; a factory is one place, and can be open.",
    _find,
    bad=MARKS
    + """
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
