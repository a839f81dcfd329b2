"""The go command: go test, with the race detector where tests start goroutines and a C compiler is there."""

from __future__ import annotations

import json
import re
import shutil
from collections.abc import Iterator, Sequence
from pathlib import Path

from urform.languages.go.trials import Trials
from urform.languages.target import (
    SECONDS_A_TEST,
    Emission,
    Finished,
    Found,
    Ran,
    Runner,
    TestAddress,
    TestResult,
    Toolchain,
    Trial,
    Tried,
    Watch,
)
from urform.languages.testing.rounds import Round, to_the_end

_VERSION = re.compile(r"go(\d+)\.(\d+)")
_PLACE = re.compile(r"^\s+(?P<file>\w+_test\.go):(?P<line>\d+): (?P<said>.*)$")
_COMPARED = re.compile(
    r"^(?P<what>.*?)(?:: )?got (?:error )?(?P<found>.*), want (?P<expected>.*)$", re.DOTALL
)
LEAST = (1, 22)
_MARK = re.compile(r'"Action":"(?:run|pass|fail|skip)"')  # a test begins or ends


class GoTool(Toolchain):
    """The go command on the path."""

    def find(self, run: Runner) -> Found:
        """Go 1.22 or newer."""
        install = ("apt-get install golang-go  # or newer, from the Go project's own packages",)
        if shutil.which("go") is None:
            return Found(missing=("Go, 1.22 or newer",), install=install)
        version = run(["go", "version"], Path.cwd()).output.strip()
        number = _VERSION.search(version)
        if number is None or (int(number[1]), int(number[2])) < LEAST:
            return Found(version, ("Go, 1.22 or newer",), install)
        return Found(number[0].replace("go", "Go "))

    def _has_race(self) -> bool:
        return shutil.which("gcc") is not None

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """One go test for the package."""
        tests = [
            f.text
            for f in emission.files
            if f.path.endswith("_test.go") and not f.path.endswith("shared_test.go")
        ]
        threads = any("together(" in text for text in tests)
        race = ["-race"] if threads and self._has_race() else []  # slow to build, and idle without goroutines
        environment = {"GOFLAGS": "", "GOTOOLCHAIN": "local", "GO111MODULE": "on"}

        def launch(without: Sequence[str]) -> Round:
            skip = [f"-skip=^({'|'.join(without)})$"] if without else []
            command = ["go", "test", "-json", "-timeout=0", *race, *skip, "./..."]
            done = run(command, folder, environment, Watch(_MARK, seconds))
            results, last = _results(done.output)
            short = len(results) + len(without) < len(emission.tests)
            return Round(done, results, last if short or done.late else "")

        results, done = to_the_end(launch, seconds)
        whole = results and done.status in (0, 1)
        return Ran(tuple(results.values()), broke="" if whole else _what_broke(done.output, done.errors))

    def prepare(self, folder: Path, emission: Emission, run: Runner) -> str:
        """Nothing yet: every trial is a package of its own."""
        return ""

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """One module with a package for each trial, and one test binary for all."""
        return Trials(folder / "urform-trials", emission, run, self.seconds_a_trial).all(trials)

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """The command of the module."""
        return run(["go", "run", "./examples/walkthrough"], folder, {"GOTOOLCHAIN": "local"})

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """A command of the module."""
        command = ["go", "build", "-o", "urform-measure", "./examples/measure"]
        done = run(command, folder, {"GOTOOLCHAIN": "local"})
        return ["./urform-measure"] if done.status == 0 else done

    def again(self, address: TestAddress) -> str:
        """One test function."""
        return f"go test -run '^{address.name}$' ./..."


def _events(output: str) -> list[dict[str, object]]:
    events = []
    for line in output.splitlines():
        try:
            event = json.loads(line)
        except ValueError:
            continue
        if isinstance(event, dict):
            events.append(event)
    return events


def _results(output: str) -> tuple[dict[str, TestResult], str]:
    """Of the tests that ended, and the name of the last that began."""
    said: dict[str, list[str]] = {}
    ended: dict[str, str] = {}
    last = ""
    for event in _events(output):
        name = event.get("Test")
        if not isinstance(name, str):
            continue
        if event.get("Action") == "output":
            said.setdefault(name, []).append(str(event.get("Output", "")).rstrip("\n"))
        elif event.get("Action") in ("pass", "fail", "skip"):
            ended[name] = str(event["Action"])
        elif event.get("Action") == "run":
            last = name
    return {name: _result(name, how, said.get(name, [])) for name, how in ended.items()}, last


def _result(name: str, how: str, lines: list[str]) -> TestResult:
    if how == "pass":
        return TestResult(name, True)
    place = next((matched for line in lines if (matched := _PLACE.match(line))), None)
    if how == "skip":
        return TestResult(name, False, skipped=True, message=place["said"] if place else "skipped")
    if place is None:
        panic = next((line.strip() for line in lines if "panic:" in line), "")
        message = panic or "the process ended while this test ran"
        return TestResult(name, False, message=message, expected="no failure here", found=message)
    compared = _COMPARED.match(place["said"])
    return TestResult(
        name,
        False,
        message=place["said"],
        expected=compared["expected"] if compared else "no failure here",
        found=compared["found"].replace("<nil>", "no error") if compared else place["said"],
        file=place["file"],
        line=int(place["line"]),
    )


def _what_broke(output: str, errors: str) -> str:
    """What the compiler said: from Go 1.24 on, it speaks JSON too."""
    said = [
        str(e.get("Output", ""))
        for e in _events(output)
        if e.get("Action") in ("output", "build-output") and "Test" not in e
    ]
    return ("".join(said) + errors).strip()[-4000:] or "go test ran no test"
