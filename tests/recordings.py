"""What real test runners wrote, kept in files: what toolchains make of it is then tested without any of them.

`python -m tests.recordings` records anew, with the tools of this machine, in a minute.
"""

from __future__ import annotations

import json
import socket
import sys
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from pathlib import Path

from tests.conftest import BUILT_IN, EXPECTED, ROOT, STARTER, emitted
from tests.targets import tools
from urform.languages import target
from urform.languages.target import Emission, File, Finished, Ran, TestResult, Watch
from urform.output.writing import write_project
from urform.verification.processes import Processes

KEPT = EXPECTED / "recordings"
SOUND = "sound"
HOWS = (SOUND, "another", "nonsense", "crash", "hang")  # what is wrong with the answer of the starter's Buoy
SECONDS = 3.0  # what a test is given: one of them hangs
LARGEST = 200_000  # characters of a report


@dataclass(frozen=True)
class Process:
    """One process: which program it was, what it wrote, and the reports that it left in files."""

    program: str
    status: int | None
    output: str
    errors: str
    late: bool
    reports: Mapping[str, str] = field(default_factory=dict)  # by path in the project


@dataclass(frozen=True)
class Recording:
    """The processes of one run of the tests, and what the toolchain made of them."""

    processes: tuple[Process, ...]
    ran: Ran


class Recorder:
    """Runs commands, and keeps what came of them. Paths of this machine are no part of it."""

    def __init__(self, project: Path) -> None:
        self._run = Processes().run
        self._project = project
        self.processes: list[Process] = []

    def __call__(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished:
        known = {path: path.stat().st_mtime_ns for path in self._reports()}
        done = self._run(command, folder, environment, watch)
        reports = {
            path.relative_to(self._project).as_posix(): self.plain(path.read_text(encoding="utf-8"))
            for path in self._reports()
            if known.get(path) != path.stat().st_mtime_ns
        }
        texts = self.plain(done.output), self.plain(done.errors)
        self.processes.append(Process(Path(command[0]).name, done.status, *texts, done.late, reports))
        return done

    def _reports(self) -> Iterator[Path]:
        return (path for path in self._project.rglob("*.xml") if path.stat().st_size < LARGEST)

    def plain(self, text: str) -> str:
        """Without the folders and the name of this machine."""
        places = (
            (self._project, "/project"),
            (sys.prefix, "/urform/.venv"),  # it may stand elsewhere, and in the folder of another clone
            (ROOT, "/urform"),
            (sys.base_prefix, "/python"),
            (Path.home(), "/home"),
        )
        for place, instead in places:
            text = text.replace(str(place), instead)
        return text.replace(f'hostname="{socket.gethostname()}"', 'hostname="machine"')


class Player:
    """Runs nothing: each process has written what it wrote when it was recorded."""

    def __init__(self, processes: Sequence[Process], project: Path) -> None:
        self._left = list(processes)
        self._project = project

    def __call__(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished:
        told = self._left.pop(0) if self._left else Process(Path(command[0]).name, 1, "", "", False)
        assert told.program.startswith("python") or told.program == Path(command[0]).name
        for path, text in told.reports.items():
            (self._project / path).parent.mkdir(parents=True, exist_ok=True)
            (self._project / path).write_text(text, encoding="utf-8")
        return Finished(told.status, told.output, told.errors, told.late)


def changed(name: str, how: str) -> File:
    """The file in which the starter's Buoy answers, with another statement in its place."""
    known = tools(name)
    (file,) = [f for f in emitted(STARTER, name).files if known.answer in f.text and "test" not in f.path]
    return File(file.path, file.text.replace(known.answer, known.wrong[how]))


def emission_of(name: str, how: str) -> Emission:
    emission = emitted(STARTER, name)
    if how == SOUND:
        return emission
    other = changed(name, how)
    return replace(emission, files=tuple(other if f.path == other.path else f for f in emission.files))


def played(name: str, processes: Sequence[Process], folder: Path) -> Ran:
    """What a toolchain makes of processes that wrote this."""
    return target(name).toolchain.test(folder, emitted(STARTER, name), Player(processes, folder), SECONDS)


def recorded(name: str, how: str) -> Recording:
    """What is kept."""
    data = json.loads((KEPT / name / f"{how}.json").read_text(encoding="utf-8"))
    results = tuple(TestResult(**result) for result in data["ran"]["results"])
    return Recording(
        tuple(Process(**process) for process in data["processes"]), Ran(results, data["ran"]["broke"])
    )


def record(name: str, how: str, folder: Path) -> Recording:
    """A run of the real tools, and what the toolchain makes of it once the paths of this machine are gone."""
    emission = emission_of(name, how)
    project = folder / "project"
    write_project(project, emission.files)
    recorder = Recorder(project)
    target(name).toolchain.test(project, emission, recorder, SECONDS)
    (folder / "played").mkdir()
    return Recording(tuple(recorder.processes), played(name, recorder.processes, folder / "played"))


def main() -> None:
    """Record everything anew."""
    for name in BUILT_IN:
        for how in HOWS:
            with tempfile.TemporaryDirectory() as folder:
                found = record(name, how, Path(folder))
            path = KEPT / name / f"{how}.json"
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(json.dumps(asdict(found), indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
            print(path.relative_to(ROOT))


if __name__ == "__main__":
    main()
