"""Many projects at once, so that a compiler is paid once for all of them: how each target's projects stand side by side."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

from tests.data import Data, text_of
from tests.targets import Project, tools
from urform.declaration import read_string
from urform.languages import target
from urform.languages.target import File
from urform.output.writing import write_project
from urform.plan import build, claims_of
from urform.plan.whole import Plan
from urform.verification.clients import compiled
from urform.verification.processes import Processes


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
    clients = (said for project in batch for said in _of_clients(target_name, project, folder / "clients"))
    return [*tools(target_name).check(batch, folder), *clients]


def _of_clients(target_name: str, project: Project, folder: Path) -> Iterator[str]:
    """What is wrong with the clients that a compiler must refuse, each project by itself."""
    emission = project.emission
    if emission.clients is None:
        return
    write_project(folder / project.name, emission.files)
    ran = compiled(target(target_name), folder / project.name, emission, emission.clients, Processes().run)
    if ran.broke:
        yield f"{project.name}: {ran.broke}"
    yield from (
        f"{project.name}: {result.name}: {result.found}" for result in ran.results if not result.passed
    )


def whole(files: Sequence[File]) -> dict[str, str]:
    return {file.path: file.text for file in files}
