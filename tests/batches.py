"""Many projects at once, so that a compiler is paid once for all of them: how each target's projects stand side by side."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

from tests.declarations import Data, text_of
from urform.declaration import read_string
from urform.languages import target
from urform.languages.target import Emission, File
from urform.output.writing import write_project
from urform.plan import build, claims_of
from urform.plan.model import Plan
from urform.verification.processes import Processes

BIN = Path(sys.executable).parent


@dataclass(frozen=True)
class Project:
    """What one drawn declaration became in one target. Its name is unique in the batch."""

    name: str
    text: str
    emission: Emission


def named(declaration: Data, number: int) -> Data:
    """The declaration with a name that no other has, in a module that all of a batch share."""
    name = f"{declaration['name']}_{number}"
    module = {"go": {"module": f"batch/{name.replace('_', '')}"}}
    return {**declaration, "name": name, "targets": module}


def plan_of(text: str) -> Plan:
    reading = read_string(text, "drawn.urform.yaml")
    assert reading.declaration is not None, (reading.problems, text)
    return build(reading.declaration)


def projects(declarations: Sequence[Data], target_name: str) -> list[Project]:
    """Each declaration as a project of one target."""
    found = []
    for number, declaration in enumerate(declarations):
        text = text_of(named(declaration, number))
        plan = plan_of(text)
        found.append(Project(plan.name, text, target(target_name).emit(plan, claims_of(plan))))
    return found


def complaints(target_name: str, batch: Sequence[Project], folder: Path) -> list[str]:
    """What the formatter, the checkers, the compiler and the tests of a target have to say; nothing is good."""
    folder.mkdir()
    return CHECKED[target_name](batch, folder)


def tool(*command: str, folder: Path, environment: Mapping[str, str] | None = None) -> tuple[int, str]:
    done = Processes().run(command, folder, environment)
    return done.status if done.status is not None else -1, done.output + done.errors


def _missing(batch: Sequence[Project], passed: Mapping[str, set[str]], failed: Sequence[str]) -> list[str]:
    """Failed tests, and tests that did not run and pass. A skipped one says that it could not show its claim."""
    wanting = [
        f"{project.name}: {address.claim} did not pass"
        for project in batch
        for address in project.emission.tests
        if address.name not in passed.get(project.name, ())
    ]
    return [*failed, *wanting]


def _python(batch: Sequence[Project], folder: Path) -> list[str]:
    said: list[str] = []
    passed: dict[str, set[str]] = {}
    for project in batch:
        place = folder / project.name
        write_project(place, project.emission.files)
        ran = target("python").toolchain.test(place, project.emission, Processes().run)
        said += [f"{project.name}: {ran.broke}"] if ran.broke else []
        said += [f"{project.name}: {r.name}: {r.message}" for r in ran.results if not r.passed]
        passed[project.name] = {result.name for result in ran.results if result.passed}
    for command in (("format", "--check", "-q"), ("check", "-q")):
        status, output = tool(str(BIN / "ruff"), *command, ".", folder=folder)
        said += [output or "ruff format would change something"] if status else []
    packages = [path.parent.relative_to(folder) for path in sorted(folder.glob("*/*/py.typed"))]
    aside = folder / "packages"
    aside.mkdir()
    for package in packages:  # each beside the others, for their tests are all called alike
        (folder / package).rename(aside / package.name)
    status, output = tool(str(BIN / "mypy"), "--strict", "--no-error-summary", ".", folder=aside)
    return _missing(batch, passed, said + ([output] if status else []))


def _java(batch: Sequence[Project], folder: Path) -> list[str]:
    files = {file.path: file for project in batch for file in project.emission.files}
    tests = tuple(address for project in batch for address in project.emission.tests)
    write_project(folder, files.values())
    ran = target("java").toolchain.test(folder, Emission(tuple(files.values()), tests), Processes().run)
    failed = [
        f"{result.file}: {result.name}: {result.message}" for result in ran.results if not result.passed
    ]
    count = sum(result.passed for result in ran.results)
    short = [] if count == len(tests) else [f"{count} tests passed of {len(tests)}"]
    return [*([ran.broke] if ran.broke else []), *failed, *short]


def _go(batch: Sequence[Project], folder: Path) -> list[str]:
    (folder / "go.mod").write_text("module batch\n\ngo 1.24\n", encoding="utf-8")
    of_package: dict[str, str] = {}
    for project in batch:
        module = project.name.replace("_", "")
        of_package[f"batch/{module}"] = project.name
        write_project(folder / module, (file for file in project.emission.files if file.path != "go.mod"))
    _, unformatted = tool("gofmt", "-l", ".", folder=folder)
    status, vetted = tool("go", "vet", "./...", folder=folder)
    said = [f"gofmt would change {unformatted}"] if unformatted else []
    said += [vetted] if status else []
    status, output = tool("go", "test", "-json", "./...", folder=folder)
    events = [json.loads(line) for line in output.splitlines() if line.startswith("{")]
    passed: dict[str, set[str]] = {}
    for event in events:
        if "Test" in event and event["Action"] == "pass":
            passed.setdefault(of_package[event["Package"]], set()).add(event["Test"])
    failing = {(e["Package"], e.get("Test")) for e in events if e["Action"] == "fail"}
    said += [
        e["Output"] for e in events if e["Action"] == "output" and (e["Package"], e.get("Test")) in failing
    ]
    said += [e["Output"] for e in events if e["Action"] == "build-output"]
    return _missing(batch, passed, said)


CHECKED: dict[str, Callable[[Sequence[Project], Path], list[str]]] = {
    "python": _python,
    "java": _java,
    "go": _go,
}


def whole(files: Sequence[File]) -> dict[str, str]:
    return {file.path: file.text for file in files}
