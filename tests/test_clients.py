"""Clients that a compiler must refuse: what is made of what it says of them, recorded and in earnest."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

import pytest

from tests.conftest import VALID, emitted, planned
from urform.languages import target
from urform.languages.target import Client, Clients, Compiled, Complaint, Emission, File, Finished, Watch
from urform.languages.testing.clients import Function, clients_of
from urform.output.writing import write_project
from urform.plan import faults_of
from urform.verification.challenge import UNSOUND, challenge
from urform.verification.clients import compiled, elsewhere, judged
from urform.verification.processes import Processes
from urform.verification.verdicts import CAUGHT, NOT_RUN

EARLY = next(path for path in VALID if path.name == "early.urform.yaml")
REFUSING = ("cpp", "java", "python", "rust", "typescript")
CLAIM, OTHER = "build/RefitPlan:compile-time", "build/Mooring:compile-time"
CREW = Client(CLAIM, 3, 6, line=5, missing="crew", reason=("crew", "not given"))
TWIN = Client(CLAIM, 8, 10)
CLIENTS = Clients(File("tests/clients.x", ""), (CREW, TWIN, Client(OTHER, 12, 14, 13, "key", ("key",))))
REFUSED = (Complaint(5, "crew was not given"), Complaint(13, "key was not given"))


def said(*complaints: Complaint) -> dict[str, str]:
    """What is found of each claim; nothing of one that holds."""
    return {
        result.name: result.found for result in judged(CLIENTS, Compiled(complaints)) if not result.passed
    }


def test_each_refused_in_its_line_for_its_reason() -> None:
    assert said(*REFUSED) == {}
    assert [result.name for result in judged(CLIENTS, Compiled(REFUSED))] == [CLAIM, OTHER]


def test_a_second_complaint_of_a_line_does_no_harm() -> None:
    assert said(*REFUSED, Complaint(5, "berth was not given")) == {}


@pytest.mark.parametrize(
    ("complaints", "found"),
    [
        ((), "it compiles"),
        ((Complaint(4, "crew was not given"),), "it is refused elsewhere: crew was not given"),
        ((REFUSED[0], Complaint(4, "no such name\nat all")), "it is refused elsewhere: no such name"),
        ((Complaint(5, "no such name"),), "it is refused for another reason: no such name"),
        ((REFUSED[0], Complaint(9, "no such name\nat all")), "the compiler says: no such name"),
    ],
)
def test_what_is_wrong_is_told(complaints: tuple[Complaint, ...], found: str) -> None:
    assert said(*complaints, REFUSED[1]) == {CLAIM: found}
    assert said(*complaints) == {CLAIM: found, OTHER: "it compiles"}


def test_what_is_said_of_no_client_is_no_refusal() -> None:
    stray = (
        Complaint(1, "no such file"),
        Complaint(0, "of another file"),
        *REFUSED,
        Complaint(11, "between"),
    )
    assert elsewhere(CLIENTS, Compiled(stray)) == "no such file\nof another file\nbetween"
    assert elsewhere(CLIENTS, Compiled(REFUSED)) == ""


@pytest.mark.parametrize("closing", [0, 1])
def test_lines_are_counted_as_the_file_is_made(closing: int) -> None:
    end = "}\n" * closing
    functions = [
        Function(CLAIM, f"begin\n  make\n  build\n{end}", "crew", ("crew",)),
        Function(CLAIM, f"begin\n  build\n{end}"),
        Function(OTHER, f"begin\n  build\n{end}", "key", ("key",)),
    ]
    clients = clients_of("clients.x", "header\n\n", functions, foot="end\n", closing=closing)
    lines = clients.file.text.split("\n")
    assert [(client.first, client.last) for client in clients.clients] == (
        [(3, 6), (8, 10), (12, 14)] if closing else [(3, 5), (7, 8), (10, 11)]
    )
    assert [lines[client.line - 1] for client in clients.clients if client.missing] == ["  build", "  build"]
    assert clients.clients[1].line == 0
    assert [lines[client.first - 1] for client in clients.clients] == ["begin"] * 3
    assert [address.claim for address in clients.tests] == [CLAIM, OTHER]
    assert lines[-2] == "end"


# --- what compilers say -------------------------------------------------------------------------------------------

# As they said it of the fixture, but for most of the lines.
RECORDED = {
    "typescript": (
        "test/clients.ts(15,3): error TS2684: The 'this' context of type 'RefitPlanBuilder<\"berth\">' is not assignable "
        "to method's 'this' of type 'RefitPlanBuilder<never>'.\n  Type '\"berth\"' is not assignable to type 'never'.\n"
        "test/clients.ts(22,3): error TS2339: Property 'build' does not exist.\n"
        "src/leg.ts(1,1): error TS1128: Declaration or statement expected.\n",
        [(15, "type 'never'."), (22, "not exist."), (0, "expected.")],
    ),
    "java": (
        "src/test/java/early/Clients_.java:11: error: cannot find symbol\n        builder.build();\n               ^\n"
        "  symbol:   method build()\n  location: variable builder of type NeedsBerth<NeedsCrew<Builder>>\n"
        "src/test/java/early/Clients_.java:16: error: ';' expected\n        builder.build()\n                       ^\n"
        "src/main/java/early/Leg.java:3: error: class expected\n3 errors\n",
        [(11, "NeedsBerth<NeedsCrew<Builder>>"), (16, "^"), (0, "3 errors")],
    ),
    "python": (
        "tests/early_claims/clients.py:12: error: Invalid self argument \"RefitPlanBuilder[Literal['berth is missing']]\" "
        'to attribute function "build" with type "Callable[..., RefitPlan]"  [misc]\n'
        "tests/early_claims/clients.py:12: note: it says more\n"
        'early/leg.py:3: error: Name "x" is not defined  [name-defined]\n',
        [(12, "[misc]"), (0, "[name-defined]")],
    ),
    "rust": (
        "tests/claims/clients.rs:14:13: error[E0277]: a required field was not given: `RefitPlanHasBerth<false>`: give it\n"
        "tests/claims/clients.rs:20:13: error: expected `;`, found `}`\n"
        "tests/claims/witnesses.rs:5:6: error[E0432]: unresolved import\nerror: aborting due to 3 previous errors\n",
        [(14, "give it"), (20, "found `}`"), (0, "unresolved import")],
    ),
    "cpp": (
        "tests/clients.cpp: In function ‘void early::client_1()’:\n"
        "tests/clients.cpp:18:35: error: no matching function for call to ‘early::RefitPlanBuilder<false>::build()’\n"
        "   18 |     static_cast<void>(builder.build());\n      |                       ~~~~~~~~~~~~~^~\n"
        "include/early/refit_plan_builder.hpp:160:29: note: constraints not satisfied [with bool HasBerth = false]\n"
        "tests/clients.cpp:23:5: error: ‘nothing’ was not declared\n"
        "include/early/leg.hpp:3:1: error: ‘x’ does not name a type\n",
        [(18, "HasBerth = false]"), (23, "declared"), (0, "name a type")],
    ),
}


class Saying:
    """A runner whose compiler says the same whatever it is asked; one that only prepares says nothing."""

    def __init__(self, output: str, status: int, errors: str = "") -> None:
        self._finished = Finished(status, output, errors)

    def __call__(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished:
        return self._finished if any("lients" in part for part in command) else Finished(0, "")


@pytest.mark.parametrize("name", REFUSING)
def test_what_a_compiler_says_is_understood(name: str, tmp_path: Path) -> None:
    output, complaints = RECORDED[name]
    told = said_by(name, tmp_path, Saying(output, 1))
    assert told.broke == ""
    assert [each.line for each in told.complaints] == [line for line, _ in complaints]
    assert all(
        each.text.rstrip().endswith(end) for each, (_, end) in zip(told.complaints, complaints, strict=True)
    )


@pytest.mark.parametrize("name", REFUSING)
def test_a_compiler_that_says_nothing_and_fails_is_broken(name: str, tmp_path: Path) -> None:
    assert said_by(name, tmp_path, Saying("", 0)) == Compiled()
    told = said_by(name, tmp_path, Saying("", 139, "killed by a signal"))
    assert (told.complaints, told.broke) == ((), "killed by a signal")


def test_a_checker_that_is_missing_is_told_with_what_gets_it(tmp_path: Path) -> None:
    told = said_by("python", tmp_path, Saying("", 1, "/usr/bin/python: No module named mypy\n"))
    assert told.complaints == ()
    assert "mypy is missing" in told.broke
    assert "pip install 'urform[verify]'" in told.broke


def said_by(name: str, folder: Path, run: Saying) -> Compiled:
    emission = emitted(EARLY, name)
    assert emission.clients is not None
    return target(name).toolchain.compile_clients(folder, emission, emission.clients, run)


# --- in earnest ---------------------------------------------------------------------------------------------------


def test_targets_that_cannot_refuse_say_why() -> None:
    emission = emitted(EARLY, "go")
    assert emission.clients is None
    assert "as it runs" in emission.held[CLAIM]


@pytest.fixture
def running() -> Iterator[Processes]:
    processes = Processes()
    yield processes
    processes.stop()


def of_early(name: str, folder: Path, emission: Emission, running: Processes) -> dict[str, str]:
    """What is found wrong, by claim."""
    assert emission.clients is not None
    write_project(folder, emission.files)
    ran = compiled(target(name), folder, emission, emission.clients, running.run)
    assert ran.broke == ""
    assert not (folder / emission.clients.file.path).exists()
    assert len(ran.results) == len(emission.clients.tests)
    return {result.name: result.found for result in ran.results if not result.passed}


@pytest.mark.toolchain
@pytest.mark.parametrize("name", REFUSING)
def test_a_type_that_does_not_ask_is_seen(name: str, tmp_path: Path, running: Processes) -> None:
    """The last field of a product that has several, for that is where no other stage can be missed. What is sound is refused
    wherever the fixture is verified."""
    plan, claims = planned(EARLY)
    faults = {fault.id: fault for fault in faults_of(plan, [claim for claim in claims if claim.id == CLAIM])}
    faulty = target(name).code(faults[f"{CLAIM}~overlooks-legs"].plan)
    sound = emitted(EARLY, name)
    changed = {file.path: file for file in faulty}
    files = tuple(changed.get(file.path, file) for file in sound.files)
    emission = Emission(files, sound.tests, clients=sound.clients)
    wrong = of_early(name, tmp_path / "faulty", emission, running)
    assert list(wrong) == [CLAIM]
    assert wrong[CLAIM] == "it compiles"


# --- challenged ---------------------------------------------------------------------------------------------------


def verdicts(cache: Path) -> dict[str, tuple[str, str]]:
    """The state and the reason of each fault of the claim, in Python, whose code needs no compiler beside the checker."""
    plan, claims = planned(EARLY)
    own = [claim for claim in claims if claim.id == CLAIM]
    result = challenge(plan, claims, list(faults_of(plan, own)), [target("python")], cache=cache)
    return {
        fault.id: (fault.verdicts["python"].state, fault.verdicts["python"].reason) for fault in result.faults
    }


def saying(monkeypatch: pytest.MonkeyPatch, said: Compiled) -> None:
    """From now on the checker says the same of all clients."""
    toolchain = type(target("python").toolchain)
    monkeypatch.setattr(toolchain, "compile_clients", lambda *_: said)


@pytest.mark.toolchain
def test_what_a_compiler_decided_is_known_the_next_time(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = verdicts(tmp_path / "known")
    assert first == {f"{CLAIM}~overlooks-{name}": (CAUGHT, "") for name in ("berth", "crew", "legs")}
    saying(monkeypatch, Compiled(broke="nothing is asked twice"))
    assert verdicts(tmp_path / "known") == first


@pytest.mark.toolchain
@pytest.mark.parametrize(
    ("said", "reason"),
    [(Compiled(broke="mypy is missing: get it\nso it is"), "mypy is missing: get it"), (Compiled(), UNSOUND)],
)
def test_what_cannot_be_shown_without_a_fault_is_not_run(
    said: Compiled, reason: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    saying(monkeypatch, said)
    assert set(verdicts(tmp_path / "known").values()) == {(NOT_RUN, reason)}
