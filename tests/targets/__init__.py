"""What the tests know of each target: one module a target, found by its name, and no list of them anywhere."""

from __future__ import annotations

import importlib
import pkgutil
import re
import sys
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path

from urform.languages.target import Emission, Finished, Watch
from urform.verification.processes import Processes

BIN = Path(sys.executable).parent
HERE = Path(__file__).parent.parent


@dataclass(frozen=True)
class Project:
    """What one declaration became in one target. Its name is unique in a batch."""

    name: str
    text: str
    emission: Emission


@dataclass(frozen=True)
class ByHand:
    """Tests written by hand, to be run where a declaration was generated: of support code, or as a client."""

    of: str  # the name of a valid declaration
    path: str  # in the project
    source: Path
    package: str  # in place of PACKAGE
    names: str  # finds the names of its tests
    prefix: str = ""  # of each name, as the test runner tells it
    support: tuple[
        str, ...
    ] = ()  # files of support code that have to be there whole, by their paths in the project

    @property
    def tests(self) -> list[str]:
        found = re.findall(self.names, self.source.read_text(encoding="utf-8"), re.MULTILINE)
        return [f"{self.prefix}{name}" for name in found]


@dataclass(frozen=True)
class Tools:
    """The real tools of a target, and where things stand in what it writes."""

    own_file: str  # the user's file for the starter's Buoy.chart_label, once that has no answer
    stub: str  # what stands in it
    comment: str  # begins a line of comment
    lint: Callable[[Path], str]  # what formatter and checkers have to say of a project, examples included
    check: Callable[[Sequence[Project], Path], list[str]]  # the same of many at once, tests included
    by_hand: tuple[ByHand, ...]
    records: ByHand  # reads a file of records, and writes it
    answer: str  # the statement by which the starter's Buoy answers
    wrong: Mapping[str, str]  # what may stand there instead: `another`, `nonsense`, `crash`, `hang`
    # Options with which a compiler takes its warnings for errors, by its command.
    strict: Mapping[str, Sequence[str]] = field(default_factory=dict)
    impossible: frozenset[str] = frozenset()  # flaws that the language cannot make, or its tests not notice


def names() -> tuple[str, ...]:
    """The targets that come with Urform."""
    return tuple(sorted(module.name for module in pkgutil.iter_modules([str(Path(__file__).parent)])))


@cache
def tools(name: str) -> Tools:
    """What is known of a target."""
    found = importlib.import_module(f"tests.targets.{name}").TOOLS
    assert isinstance(found, Tools)
    return found


class Strictly(Processes):
    """Runs compilers with their warnings as errors: they read the code once for those and for what they make."""

    def run(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished:
        more = (option for name in names() for option in tools(name).strict.get(command[0], ()))
        return super().run([*command, *more], folder, environment, watch)


def tool(*command: str, folder: Path, environment: Mapping[str, str] | None = None) -> tuple[int, str]:
    done = Processes().run(command, folder, environment)
    return done.status if done.status is not None else -1, done.output + done.errors


def said(*command: str, folder: Path) -> str:
    """What a tool says that does not succeed, or succeeds with words."""
    status, output = tool(*command, folder=folder)
    return output or f"{command[0]} failed" if status else output


def wanting(batch: Sequence[Project], passed: Mapping[str, set[str]], failed: Sequence[str]) -> list[str]:
    """Failed tests, and tests that did not run and pass. A skipped one says that it could not show its claim."""
    return [
        *failed,
        *(
            f"{project.name}: {address.claim} did not pass"
            for project in batch
            for address in project.emission.tests
            if address.name not in passed.get(project.name, ())
        ),
    ]
