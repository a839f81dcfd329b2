"""Arguments of one type stand side by side, and a call gives them as bare literals."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import groupby

from urform.existing.findings.finding import NOTE, Finding, Kind, Proof
from urform.existing.sources.code_facts import CallFact, Code, ConstructorFact
from urform.prose import listing

FEWEST = 3  # side by side


def _find(code: Code) -> Iterator[Finding]:
    calls: dict[str, list[CallFact]] = {}
    for file in code.files:
        for call in file.calls:
            calls.setdefault(call.type, []).append(call)
    constructors = [each for file in code.files for each in file.constructors]
    times: dict[str, int] = {}
    for each in constructors:
        times[each.type] = times.get(each.type, 0) + 1
    for constructor in constructors:
        if times[constructor.type] == 1:  # of several, a call could mean another one
            yield from _of(constructor, calls.get(constructor.type, []))


def _of(constructor: ConstructorFact, calls: list[CallFact]) -> Iterator[Finding]:
    for begin, names, type_ in _runs(constructor):
        proofs = [call for call in calls if _is_bare(call, begin, len(names))]
        if proofs:
            where = [
                Proof(call.region.file, call.region.line, "given as bare literals") for call in proofs[:5]
            ]
            yield Finding(
                "swappable-arguments",
                NOTE,
                constructor.region,
                f"{listing(names)} of {constructor.type} are all {type_}, side by side, and {len(proofs)} "
                f"call{'s give' if len(proofs) > 1 else ' gives'} bare literals for them",
                "declare a builder, or give them by name: urform explain builder",
                tuple(where),
                f"{constructor.type}|{','.join(names)}",
            )


def _runs(constructor: ConstructorFact) -> Iterator[tuple[int, list[str], str]]:
    """Where parameters of one type stand side by side: the place of the first, their names, the type."""
    place = 0
    for type_, group in groupby(constructor.parameters, lambda parameter: parameter[1]):
        names = [name for name, _ in group]
        if type_ and len(names) >= FEWEST:
            yield place, names, type_
        place += len(names)


def _is_bare(call: CallFact, begin: int, length: int) -> bool:
    """Whether so many literals of one kind stand side by side where the parameters do."""
    kinds = call.literals[begin : begin + length]
    return any(kind and len(list(group)) >= FEWEST for kind, group in groupby(kinds))


KIND = Kind(
    "swappable-arguments",
    NOTE,
    "arguments of one type stand side by side, and calls give them as bare literals",
    "Two of them that change places compile, and nobody sees it.",
    _find,
    bad="""
class Refit:
    def __init__(self, title: str, crew: int, hours: int, station: int): ...

def plan():
    return Refit("spring", 2, 40, 7)
""",
    good="""
class Refit:
    def __init__(self, title: str, crew: int, hours: int, station: int): ...

def plan():
    return Refit("spring", crew=2, hours=40, station=7)
""",
)
