"""Switches that make one of several related products: what several findings begin with."""

from __future__ import annotations

import re
from collections import Counter
from functools import reduce

from urform.existing.sources.code_facts import Code, SwitchFact

# Bases that say nothing of what their kinds have in common.
_COMMON = frozenset(
    "object Object ABC Generic Protocol Comparable Serializable Cloneable Enum NamedTuple TypedDict".split()
)
_FAILURE = re.compile(r"(Error|Exception|Warning)$")
_COUNTED = re.compile(r"(size|length|len|count)\)?(\(\))?$|^len\(", re.IGNORECASE)  # a number that is no code
_MOST = 0.6  # of the arms that go the same way
# What examples of several findings begin with.
MARKS = """
class Mark: pass
class Buoy(Mark): pass
class Beacon(Mark): pass
"""
WITHOUT_BASES = frozenset(("go", "rust"))  # languages in which a type does not name what it is a kind of


def creating(code: Code) -> list[SwitchFact]:
    """Those whose arms go the same way, and make at least two types that are known and have something in common."""
    return [switch for file in code.files for switch in file.switches if _is_creating(switch, code)]


def _is_creating(switch: SwitchFact, code: Code) -> bool:
    kinds = switch.makes()
    if _COUNTED.search(switch.subject):
        return False
    if len(kinds) < 2 or sum(bool(_FAILURE.search(kind)) for kind in kinds) * 2 >= len(kinds):
        return False
    _, together = Counter(arm.target for arm in switch.arms).most_common(1)[0]
    if together < 2 or together < _MOST * len(switch.arms):
        return False
    if switch.is_table and any(bare(label) in code.types for arm in switch.arms for label in arm.labels):
        return False  # a table from types to types is no type code
    known = [kind for kind in kinds if kind in code.types]
    return len(known) >= 2 and (code.language in WITHOUT_BASES or bool(in_common(known, code)))


def in_common(kinds: list[str], code: Code) -> frozenset[str]:
    """The bases that all of some types have."""
    return reduce(frozenset.intersection, (code.ancestors(kind) for kind in kinds)) - _COMMON


def bare(label: str) -> str:
    """A key without quotes, and without what stands before the last dot."""
    return label.strip("\"'`").replace("::", ".").rpartition(".")[2]
