"""The interface of a target: the contract between the core and a folder under `languages/` (or another package)."""

from __future__ import annotations

import re
import shutil
from abc import ABC, abstractmethod
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import field, replace
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from urform.dataclasses import dataclass
from urform.languages.entries import YOURS, Entry
from urform.languages.placing import BUILD, CODE, NONE, PLACING, PROJECT, TESTS, Place, Setting, place_of

if TYPE_CHECKING:
    from urform.plan.measuring import Sample
    from urform.plan.script import Claim
    from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Stub:
    """A piece of a user's own file: what it is for, the lines, and a pattern that finds it once it is written."""

    operation: str  # `Buoy.range_from`
    text: str
    pattern: str  # a regular expression over a whole file, in which ^ begins a line
    head: str  # its signature, on one line

    @property
    def entry(self) -> Entry:
        """What the user has to write."""
        owner, _, member = self.operation.partition(".")
        return Entry(owner, member, "stub", self.head, self.head, YOURS)


NOTHING = ""  # of a file that needs another library


@dataclass(frozen=True, slots=True)
class File:
    """A file to be written below the target's folder. `users` ones are created once and never overwritten;
    their `stubs` are what the declaration asks for now. Those of the build are the user's too, from the first time on,
    and may be removed.

    `alone` is what stands there where no other library is at hand, as when claims are verified; `NOTHING` leaves it out."""

    path: str  # with slashes
    text: str
    users: bool = False
    stubs: tuple[Stub, ...] = ()
    part: str = CODE
    alone: str | None = None

    @property
    def once(self) -> bool:
        """Whether it is written once and belongs to the user from then on, who may remove it as well."""
        return self.part == BUILD


@dataclass(frozen=True, slots=True)
class TestAddress:
    """Where the test of a claim stands, and the name by which the test runner knows it."""

    claim: str
    file: str
    name: str


@dataclass(frozen=True, slots=True)
class Held:
    """A claim that the language itself makes impossible to break, and why."""

    claim: str
    reason: str


@dataclass(frozen=True, slots=True)
class Unsupported:
    """Something that the target cannot express."""

    feature: str
    place: str
    target: str


@dataclass(frozen=True, slots=True)
class Client:
    """Code that uses a project and that its compiler must refuse, or a twin, which must compile."""

    claim: str
    first: int  # its lines in the file, from 1
    last: int
    line: int = 0  # where it must be refused; 0 for a twin
    missing: str = ""  # the field without which it must be refused
    reason: tuple[str, ...] = ()  # what the compiler says there, word for word


@dataclass(frozen=True, slots=True)
class Clients:
    """A file of clients, which is compiled beside the project and is no part of it; each claim that they show has a test."""

    file: File
    clients: tuple[Client, ...]

    @property
    def tests(self) -> tuple[TestAddress, ...]:
        """A test for each claim, by the claim's name."""
        claims = dict.fromkeys(client.claim for client in self.clients)
        return tuple(TestAddress(claim, self.file.path, claim) for claim in claims)


@dataclass(frozen=True, slots=True)
class Emission:
    """The output of a target for a plan: files, tests by claim, and the claims that the language itself holds."""

    files: tuple[File, ...]
    tests: tuple[TestAddress, ...] = ()
    held: Mapping[str, str] = field(default_factory=dict)  # claim to reason
    unsupported: tuple[Unsupported, ...] = ()
    clients: Clients | None = None

    @property
    def every_test(self) -> tuple[TestAddress, ...]:
        """The tests that run, and those that a compiler decides."""
        return self.tests + (self.clients.tests if self.clients is not None else ())


Piece = File | TestAddress | Held | Unsupported | Clients | Entry


def entries_in(pieces: Iterable[Piece]) -> Iterator[Entry]:
    """The entries among pieces, and what the user's own files are to have."""
    for piece in pieces:
        if isinstance(piece, Entry):
            yield piece
        elif isinstance(piece, File):
            yield from (replace(stub.entry, of=piece.path) for stub in piece.stubs)


@dataclass(frozen=True, slots=True)
class Found:
    """The result of `find`: the version of the toolchain, or what is missing and the command that gets it."""

    version: str = ""
    missing: tuple[str, ...] = ()
    install: tuple[str, ...] = ()

    @property
    def ready(self) -> bool:
        return not self.missing


@dataclass(frozen=True, slots=True)
class Finished:
    """A process that ended: its status, and what it wrote. `status` is None when it was stopped or killed."""

    status: int | None
    output: str
    errors: str = ""
    late: bool = False  # stopped, because what was watched did not come in time


@dataclass(frozen=True, slots=True)
class Watch:
    """A pattern that must keep appearing in the output of a process, or the process is stopped.

    From the first time that `mark` matches, no more than `seconds` may pass until it matches anew.
    """

    mark: re.Pattern[str]  # of what the runner of tests writes as a test begins or ends
    seconds: float


class Runner(Protocol):
    """Runs a command in a folder; handed to toolchains by the stage that may start processes."""

    def __call__(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished: ...


@dataclass(frozen=True, slots=True)
class TestResult:
    """One test as the runner saw it; `skipped` when it says itself that it could not show its claim."""

    name: str
    passed: bool
    skipped: bool = False
    message: str = ""
    expected: str = ""
    found: str = ""
    file: str = ""
    line: int = 0


@dataclass(frozen=True, slots=True)
class Ran:
    """The results of a run of the tests. With `broke` the toolchain did not get as far as running all of them."""

    results: tuple[TestResult, ...]
    broke: str = ""


@dataclass(frozen=True, slots=True)
class Complaint:
    """What a compiler says of a line of a file."""

    line: int
    text: str


@dataclass(frozen=True, slots=True)
class Compiled:
    """What a compiler says of a file. With `broke` it could not look at it."""

    complaints: tuple[Complaint, ...] = ()
    broke: str = ""


@dataclass(frozen=True, slots=True)
class Trial:
    """Code with a fault to be tried: the files that differ from those of the sound project, and the tests to run."""

    number: int
    files: Mapping[str, str]  # path to text
    tests: tuple[TestAddress, ...]


@dataclass(frozen=True, slots=True)
class Tried:
    """The outcome of a trial: the names of the tests that failed, were killed or hung; `broke` when it was none."""

    number: int
    failed: frozenset[str] = frozenset()
    broke: str = ""


SECONDS_A_TEST = 30.0  # one that takes longer hangs


class Toolchain(ABC):
    """Finds, fetches and runs what compiles and tests the generated code."""

    # In one call of `try_all`; more of them share start-up costs, fewer show progress sooner.
    trials_at_once = 50
    seconds_a_trial = (
        20  # one that takes longer hangs; a test takes milliseconds, a slow machine a hundred times that
    )

    @abstractmethod
    def find(self, run: Runner) -> Found:
        """The installed toolchain, and what is missing."""

    def fetch(self, run: Runner) -> str:
        """Get what a package registry can give; says what was done. By default there is nothing to fetch."""
        return ""

    @abstractmethod
    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """Compile the generated project in a folder and run all of its tests.

        One that does not end within `seconds` has failed; the others are run all the same.
        """

    def compile_clients(self, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Compiled:
        """Compile a file of clients, which stands in the generated project, against the project's code.

        A target that has clients says how.
        """
        raise NotImplementedError

    def prepare(self, folder: Path, emission: Emission, run: Runner) -> str:
        """Make the sound project in a folder ready for trials; says why it could not. By default nothing is needed."""
        return ""

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """Run the tests of each trial against its code.

        By default each gets a copy of the project and a whole run of the toolchain; a target that can lets
        compilers and processes be shared by all of them.
        """
        for trial in trials:
            copy = folder.with_name(f"{folder.name}-{trial.number}")
            shutil.copytree(folder, copy)
            try:
                for path, text in trial.files.items():
                    (copy / path).write_text(text, encoding="utf-8")
                ran = self.test(copy, emission, run, self.seconds_a_trial)
            finally:
                shutil.rmtree(copy, ignore_errors=True)
            wanted = {address.name for address in trial.tests}
            failed = frozenset(
                r.name for r in ran.results if not (r.passed or r.skipped) and r.name in wanted
            )
            yield Tried(trial.number, failed, "" if failed else ran.broke)

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """Run the walk-through client of a project that has one."""
        return Finished(None, "", "the target has no walk-through")

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """Compile the program that measures, as for use; its command, or how that ended.

        With `time SECONDS` it prints a line of JSON for each sample: its name, and the seconds that one took, batch by batch
        of so many seconds. With `memory NAME COUNT` it prints the bytes that so many of one sample take.
        """
        return Finished(None, "", "the target measures nothing")

    def weighing(self, command: Sequence[str]) -> list[str]:
        """The command of `measurable` for weights: where what runs beside a program would weigh too, without that."""
        return list(command)

    @abstractmethod
    def again(self, address: TestAddress) -> str:
        """The command that repeats one test, to be run in the generated project."""


class Target(ABC):
    """A language that code is generated for."""

    name: str
    capabilities: frozenset[str]
    settings: tuple[Setting, ...] = ()  # its own
    placing: tuple[Setting, ...] = PLACING  # where its files go
    json: Setting | None = (
        None  # the library that reads JSON for it, where the language has no reader of its own
    )
    effort = 1.0  # of generating, beside that of others: side by side, the longest begin first

    @abstractmethod
    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A whole project, piece by piece: files of code, of the build and of tests, what is to be known of claims, and entries.

        Claims come owner by owner. Neither they nor the files of a large project need to be there all at once.
        """

    def emit(self, plan: Plan, claims: Iterable[Claim]) -> Emission:
        """The whole project at once, as one of its own: wherever the declaration wants its files."""
        return self._emitted(self.alone(plan), claims)

    def in_place(self, plan: Plan, claims: Iterable[Claim]) -> Emission:
        """The same with each file where the declaration wants it, the build files and tests that it leaves out included."""
        settings = dict(plan.settings.get(self.name, {}))
        settings.pop(PROJECT.name, None)
        if settings.get(TESTS) == NONE:
            del settings[TESTS]
        plan = replace(plan, settings={**plan.settings, self.name: settings})
        emission = self._emitted(plan, claims)
        files = tuple(self.placed(plan, emission.files))
        moved = {old.path: new.path for old, new in zip(emission.files, files, strict=True)}
        tests = tuple(replace(address, file=moved[address.file]) for address in emission.tests)
        clients = emission.clients
        if clients is not None:
            clients = replace(clients, file=next(iter(self.placed(plan, [clients.file]))))
        return replace(emission, files=files, tests=tests, clients=clients)

    def _emitted(self, plan: Plan, claims: Iterable[Claim]) -> Emission:
        files: list[File] = []
        tests: list[TestAddress] = []
        unsupported: list[Unsupported] = []
        held: dict[str, str] = {}
        clients: Clients | None = None
        for piece in self.pieces(plan, claims):
            match piece:
                case File(alone=None):
                    files.append(piece)
                case File(alone=text):
                    files += [replace(piece, text=text)] if text else []
                case TestAddress():
                    tests.append(piece)
                case Held(claim, reason):
                    held[claim] = reason
                case Unsupported():
                    unsupported.append(piece)
                case Clients():
                    clients = piece
        return Emission(tuple(files), tuple(tests), held, tuple(unsupported), clients)

    def entries(self, plan: Plan) -> tuple[Entry, ...]:
        """The public entries of a project: what clients name of it."""
        return tuple(entries_in(self.pieces(self.alone(plan), ())))

    def support(self, plan: Plan) -> frozenset[str]:
        """What a project has of support code, by name; nothing is told of code that every project has."""
        return frozenset()

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """The files of a project without the tests of claims, where the plan has them.

        `support` is what it has of support code besides what it needs: with a fault it may need less, but that is no part
        of the fault.
        """
        return self.emit(plan, ()).files

    def example(self, plan: Plan) -> tuple[File, ...]:
        """The walk-through client; none by default."""
        return ()

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures samples, beside the code of a project; nothing where the target has none."""
        return ()

    @cached_property
    @abstractmethod
    def toolchain(self) -> Toolchain:
        """The toolchain that compiles and tests."""

    def refused(self, settings: Mapping[str, str]) -> Mapping[str, str]:
        """The settings that do not go together, each with what it has to be; by default all do."""
        return {}

    def homes(self, plan: Plan) -> Mapping[str, str]:
        """The folders below which it makes the files of a part, by part; "" where none is named."""
        return {TESTS: "tests"}

    def place(self, plan: Plan) -> Place:
        """Where the declaration wants its files."""
        return place_of(plan.settings.get(self.name, {}), self.homes(plan))

    def placed(self, plan: Plan, files: Iterable[File]) -> Iterator[File]:
        """The files that the declaration wants, each where it wants it."""
        place, homes = self.place(plan), self.homes(plan)
        for file in files:
            path = place.of(file.path, file.part, homes.get(file.part, ""))
            if path is not None:
                yield file if path == file.path else replace(file, path=path)

    def alone(self, plan: Plan) -> Plan:
        """The same plan, for a project of its own: where its toolchain expects everything."""
        settings = dict(plan.settings.get(self.name, {}))
        for setting in self.placing:
            settings.pop(setting.name, None)
        return replace(plan, settings={**plan.settings, self.name: settings})

    def setting(self, plan: Plan, name: str, otherwise: str) -> str:
        """A setting of the declaration for this target, or its default."""
        return plan.settings.get(self.name, {}).get(name, otherwise)
