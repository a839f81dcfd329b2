"""One self-contained HTML page of a verification, or of a challenge: readable without scripts, filtered with them."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import field
from pathlib import Path

from urform.dataclasses import dataclass
from urform.diagram.pictures import Pictures
from urform.languages import Emission
from urform.languages.target import Clients
from urform.plan.script import Claim
from urform.verification.results import HELD, PASSED, Verification
from urform.verification.verdicts import CAUGHT, IMPOSSIBLE, NOT_RUN, Challenge, FaultResult

GOOD = {PASSED, CAUGHT}
NEUTRAL = {HELD, IMPOSSIBLE}
WORST_FIRST = ("bad", "open", "good", "neutral")


@dataclass(frozen=True, slots=True)
class State:
    """A cell: what came of a claim or fault in a target. `kind` is `good`, `neutral`, `open` or `bad`."""

    target: str
    word: str
    note: str = ""

    @property
    def kind(self) -> str:
        if self.word in GOOD:
            return "good"
        if self.word in NEUTRAL:
            return "neutral"
        return "open" if self.word.startswith("not ") else "bad"


@dataclass(frozen=True, slots=True)
class Code:
    target: str
    file: str
    text: str


@dataclass(frozen=True, slots=True)
class Row:
    """A claim, or a fault of one."""

    id: str
    text: str
    states: tuple[State, ...]
    changes: tuple[Code, ...] = ()


@dataclass(frozen=True, slots=True)
class ClaimPart:
    """A claim with its tests, and with its faults where they were tried."""

    row: Row
    group: str
    tests: tuple[Code, ...]
    faults: tuple[Row, ...] = ()

    @property
    def words(self) -> str:
        """The states that a filter finds it by."""
        rows = self.faults or (self.row,)
        return "|".join(dict.fromkeys(f"{s.target}={s.word}" for row in rows for s in row.states))


@dataclass(frozen=True, slots=True)
class OwnerPart:
    """A product or family: the files that define it, and its claims."""

    name: str
    code: tuple[Code, ...]
    claims: tuple[ClaimPart, ...]


@dataclass(frozen=True, slots=True)
class Page:
    """The content of a page."""

    title: str
    name: str
    what: str  # what the numbers count: claims or faults
    targets: tuple[tuple[str, str], ...]  # name, toolchain
    groups: tuple[str, ...]
    states: tuple[str, ...]
    matrix: tuple[tuple[str, tuple[tuple[State, ...], ...]], ...]  # group; per target the states counted
    owners: tuple[OwnerPart, ...]
    verdict: str
    pictures: Pictures
    counts: Mapping[tuple[str, str, str], int] = field(default_factory=dict)


def verification_page(
    result: Verification, claims: Sequence[Claim], emissions: Mapping[str, Emission], pictures: Pictures
) -> str:
    """The page of `verify --html`."""
    by_id = {each.id: each for each in result.claims}

    def states(claim: Claim) -> tuple[State, ...]:
        outcomes = by_id[claim.id].outcomes
        return tuple(State(t, o.state, _note(o.reason, o.expected, o.found)) for t, o in outcomes.items())

    parts = [_part(claim, states(claim), (), emissions) for claim in claims]
    failed = sum(1 for _ in result.failures())
    untested = ", but not all were tested" if result.untested else ""
    verdict = f"{failed} of {len(claims)} claims failed" if failed else f"No claim failed{untested}"
    targets = tuple((run.target, run.version) for run in result.runs)
    return _rendered("Verified", result.name, "claims", targets, parts, emissions, verdict, pictures)


def challenge_page(
    result: Challenge, claims: Sequence[Claim], emissions: Mapping[str, Emission], pictures: Pictures
) -> str:
    """The page of `challenge --html`: claims whose faults were tried."""
    faults: dict[str, list[FaultResult]] = {}
    for fault in result.faults:
        faults.setdefault(fault.claim, []).append(fault)
    parts = []
    for claim in claims:
        if claim.id in faults:
            rows = tuple(_fault_row(fault) for fault in faults[claim.id])
            parts.append(_part(claim, _worst(rows), rows, emissions))
    weak = sum(1 for _ in result.uncaught())
    untried = sum(result.count(target, NOT_RUN) for target in result.targets)
    verdict = "Every fault that can be made was caught by the test of its own claim"
    if weak or untried:
        verdict = f"{weak} faults were not caught by the test of their own claim, {untried} were not run"
    targets = tuple((run.target, run.version) for run in result.runs)
    return _rendered("Challenged", result.name, "faults", targets, parts, emissions, verdict, pictures)


def _note(reason: str, expected: str, found: str) -> str:
    return f"expected {expected}, found {found}" if expected else reason


def _fault_row(fault: FaultResult) -> Row:
    states = tuple(State(t, v.state, v.reason or ", ".join(v.elsewhere)) for t, v in fault.verdicts.items())
    changes = tuple(Code(t, "what was changed", v.change) for t, v in fault.verdicts.items() if v.change)
    return Row(fault.id, fault.text, states, changes)


def _worst(rows: Sequence[Row]) -> tuple[State, ...]:
    """Of the faults of a claim, the worst verdict in each target."""
    columns = zip(*(row.states for row in rows), strict=True)
    return tuple(min(column, key=lambda state: WORST_FIRST.index(state.kind)) for column in columns)


def _part(
    claim: Claim, states: tuple[State, ...], faults: tuple[Row, ...], emissions: Mapping[str, Emission]
) -> ClaimPart:
    tests = tuple(
        Code(name, address.file, text)
        for name, emission in emissions.items()
        for address in emission.tests
        if address.claim == claim.id and (text := function_of(_text(emission, address.file), address.name))
    )
    tests += tuple(
        Code(name, emission.clients.file.path, text)
        for name, emission in emissions.items()
        if emission.clients is not None and (text := _clients(emission.clients, claim.id))
    )
    return ClaimPart(Row(claim.id, claim.text, states), claim.group, tests, faults)


def _clients(clients: Clients, claim: str) -> str:
    """The clients that show a claim, one after the other."""
    lines = clients.file.text.split("\n")
    own = (each for each in clients.clients if each.claim == claim)
    return "\n\n".join("\n".join(lines[each.first - 1 : each.last]) for each in own)


def _text(emission: Emission, path: str) -> str:
    return next((file.text for file in emission.files if file.path == path), "")


def function_of(text: str, name: str) -> str:
    """The function of that name, or that is given that name, in a file that a formatter gave its shape; with the
    comment before it."""
    lines = text.split("\n")
    parts = re.split(r"[.:]+", name)  # after the class, the suite or the module
    given, own = (f'("{name}"', f"({', '.join(parts)})"), re.compile(rf"\b{re.escape(parts[-1])}\(")
    numbers = [number for number, line in enumerate(lines) if any(each in line for each in given)]
    numbers += [number for number, line in enumerate(lines) if own.search(line)]
    at = next(iter(numbers), None)
    if at is None:
        return ""
    indent = len(lines[at]) - len(lines[at].lstrip())
    begin = at
    while begin and lines[begin - 1].strip():
        begin -= 1
    end = at + 1
    while end < len(lines) and (
        not lines[end].strip() or len(lines[end]) - len(lines[end].lstrip()) > indent
    ):
        end += 1
    closing = end < len(lines) and lines[end].lstrip().startswith(("}", ")"))
    kept = lines[begin : end + 1 if closing else end]
    return "\n".join(line[indent:] if line[:indent].isspace() else line for line in kept).rstrip()


def _owners(parts: Sequence[ClaimPart], emissions: Mapping[str, Emission]) -> Iterator[OwnerPart]:
    owners: dict[str, list[ClaimPart]] = {}
    for part in parts:
        owners.setdefault(part.row.id.partition("/")[2].partition(".")[0].partition(":")[0], []).append(part)
    for name, own in owners.items():
        yield OwnerPart(name, tuple(_code_of(name, emissions)), tuple(own))


def _code_of(owner: str, emissions: Mapping[str, Emission]) -> Iterator[Code]:
    """The file of each target that defines a type of that name."""
    defines = re.compile(rf"\b(?:class|record|interface|type|struct|enum|trait) {owner}\b")
    for name, emission in emissions.items():
        tests = {address.file for address in emission.tests}
        for file in emission.files:
            if file.path not in tests and defines.search(file.text):
                yield Code(name, file.path, file.text)
                break


def _rendered(
    title: str,
    name: str,
    what: str,
    targets: tuple[tuple[str, str], ...],
    parts: Sequence[ClaimPart],
    emissions: Mapping[str, Emission],
    verdict: str,
    pictures: Pictures,
) -> str:
    import jinja2

    groups = tuple(dict.fromkeys(part.group for part in parts))
    rows = [(part.group, row) for part in parts for row in (part.faults or (part.row,))]
    present = dict.fromkeys(state.word for _, row in rows for state in row.states)
    words = tuple(sorted(present, key=lambda word: WORST_FIRST.index(State("", word).kind)))
    counts: dict[tuple[str, str, str], int] = {}
    for group, row in rows:
        for state in row.states:
            for key in ((group, state.target, state.word), ("all", state.target, state.word)):
                counts[key] = counts.get(key, 0) + 1
    matrix = tuple(
        (group, tuple(tuple(State(t, w) for w in words if (group, t, w) in counts) for t, _ in targets))
        for group in (*groups, "all")
    )
    page = Page(
        title,
        name,
        what,
        targets,
        groups,
        words,
        matrix,
        tuple(_owners(parts, emissions)),
        verdict,
        pictures,
        counts,
    )
    source = (Path(__file__).parent / "templates" / "page.html.jinja").read_text(encoding="utf-8")
    environment = jinja2.Environment(autoescape=True, trim_blocks=True, lstrip_blocks=True)
    return environment.from_string(source).render(page=page)
