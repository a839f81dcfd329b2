"""Runs the generated tests with pytest, in the interpreter that runs Urform."""

from __future__ import annotations

import json
import os
import re
import sys
from collections.abc import Iterator, Sequence
from pathlib import Path
from xml.etree import ElementTree

from urform.languages.target import (
    SECONDS_A_TEST,
    Clients,
    Compiled,
    Complaint,
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

REPORT = "urform-report.xml"
TRIALS = "urform-trials.json"
DRIVER = Path(__file__).parent / "support" / "trials.py"
ALONE = {"PYTEST_DISABLE_PLUGIN_AUTOLOAD": "1"}  # what else is installed beside pytest has no say
# As a test begins, its name; as it ends, the rest of the line. What a test itself writes is kept for the report.
_BEGUN = re.compile(r"^\S+\.py::\w+ ", re.MULTILINE)
_UNDER_WAY = re.compile(r"^\S+\.py::(?P<name>\w+) *\Z", re.MULTILINE)
_COMPARED = re.compile(
    r"^E\s+(?:AssertionError: )?assert (?P<found>.+?) (?:==|is) (?P<expected>.+)$", re.MULTILINE
)
_DIFFERENT = re.compile(r"^E\s+assert (?P<found>.+?) (?P<expected>!= .+)$", re.MULTILINE)
_ERROR = re.compile(r"^E\s+(?P<found>.+)$", re.MULTILINE)
_PLACE = re.compile(r"^(?P<file>[^\s:]+\.py):(?P<line>\d+): ", re.MULTILINE)
_SAID = re.compile(r"^(?P<file>[^:\n]+):(?P<line>\d+): error: (?P<text>.*)$", re.MULTILINE)
PLAIN = ("--no-error-summary", "--no-pretty", "--no-color-output", "--hide-error-context")
_REFUSED = re.compile(r"with refused\((?P<expected>.+)\):")


class Pytest(Toolchain):
    """pytest of the running interpreter."""

    def find(self, run: Runner) -> Found:
        """Whether pytest can be imported."""
        python = ".".join(map(str, sys.version_info[:3]))
        got = run([sys.executable, "-c", "import pytest; print(pytest.__version__)"], Path.cwd())
        if got.status != 0:
            return Found(
                missing=("pytest",), install=(f"{Path(sys.executable).name} -m pip install 'urform[verify]'",)
            )
        return Found(f"Python {python}, pytest {got.output.strip()}")

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """All tests in one process."""
        files = {address.name: address.file for address in emission.tests}
        report = folder / REPORT
        command = [sys.executable, "-m", "pytest", "-v", "-p", "no:cacheprovider", f"--junitxml={REPORT}"]
        environment = {"PYTHONDONTWRITEBYTECODE": "1", "PYTEST_ADDOPTS": "", **ALONE}

        def launch(without: Sequence[str]) -> Round:
            left_out = [f"--deselect={files[name]}::{name}" for name in without]
            done = run([*command, *left_out], folder, environment, Watch(_BEGUN, seconds))
            if not report.exists():
                begun = _UNDER_WAY.search(done.output)
                return Round(done, {}, begun["name"] if begun and begun["name"] in files else "")
            try:
                return Round(done, {result.name: result for result in _results(report)})
            except ElementTree.ParseError:  # cut off, as where a disk is full
                return Round(done, {})
            finally:
                report.unlink()

        results, done = to_the_end(launch, seconds)
        said = (done.output + done.errors).strip()[-4000:] or "pytest wrote no report"
        whole = results and done.status in (0, 1)
        return Ran(tuple(results.values()), broke="" if whole else said)

    def compile_clients(self, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Compiled:
        """mypy at its strictest; nothing else looks at types before a program runs."""
        from platformdirs import user_cache_path

        cache = user_cache_path("urform") / "mypy"
        command = [sys.executable, "-m", "mypy", "--strict", "--config-file=", f"--cache-dir={cache}", *PLAIN]
        environment = {"MYPYPATH": os.pathsep.join(_roots(emission))}
        done = run([*command, clients.file.path], folder, environment)
        complaints = tuple(_complaints(done.output, clients.file.path))
        if done.status == 0 or complaints:
            return Compiled(complaints)
        if "No module named mypy" in done.errors:
            python = Path(sys.executable).name
            return Compiled(broke=f"mypy is missing: {python} -m pip install 'urform[verify]'")
        return Compiled(broke=(done.output + done.errors).strip()[-4000:])

    def prepare(self, folder: Path, emission: Emission, run: Runner) -> str:
        """Nothing is compiled; but processes are forked, which some systems cannot."""
        return "" if hasattr(os, "fork") else "trials need a system whose processes can be forked"

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """One interpreter with pytest loaded; each trial in a fork of it."""
        shape = [
            {
                "number": trial.number,
                "files": dict(trial.files),
                "tests": [f"{address.file}::{address.name}" for address in trial.tests],
            }
            for trial in trials
        ]
        (folder / TRIALS).write_text(json.dumps(shape), encoding="utf-8")
        done = run(
            [sys.executable, str(DRIVER), TRIALS, str(self.seconds_a_trial)],
            folder,
            {"PYTEST_ADDOPTS": "", **ALONE},
        )
        for line in done.output.splitlines():
            tried = json.loads(line)
            yield Tried(tried["number"], frozenset(tried["failed"]), tried["broke"])

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """The client as a module, from the project's folder."""
        return run([sys.executable, "-m", "examples.walk_through"], folder, {"PYTHONDONTWRITEBYTECODE": "1"})

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """A module, from the project's folder."""
        return [sys.executable, "-m", "examples.measure"]

    def again(self, address: TestAddress) -> str:
        """One test by its node id."""
        return f"pytest {address.file}::{address.name}"


def _roots(emission: Emission) -> list[str]:
    """The folders from which the package may be imported: those around the one that is typed."""
    typed = next(Path(file.path) for file in emission.files if Path(file.path).name == "py.typed")
    return [str(folder) for folder in typed.parent.parents]


def _complaints(said: str, path: str) -> Iterator[Complaint]:
    """What mypy says of a file; what it says of another is of line 0."""
    for match in _SAID.finditer(said):
        yield Complaint(int(match["line"]) if match["file"] == path else 0, match["text"])


def _results(report: Path) -> list[TestResult]:
    results = []
    for case in ElementTree.parse(report).getroot().iter("testcase"):
        name = case.get("name", "")
        problem = next((child for child in case if child.tag in ("failure", "error")), None)
        if problem is None:
            skipped = next((child for child in case if child.tag == "skipped"), None)
            said = skipped.get("message", "") if skipped is not None else ""
            results.append(TestResult(name, skipped is None, skipped is not None, message=said))
            continue
        results.append(_failure(name, problem.get("message", ""), problem.text or ""))
    return results


def _failure(name: str, message: str, text: str) -> TestResult:
    places = list(_PLACE.finditer(text))
    at = next(
        (place for place in places if Path(place["file"]).name.startswith("test_")),
        places[-1] if places else None,
    )
    compared = _COMPARED.search(text) or _DIFFERENT.search(text)
    error = _ERROR.search(text)
    expected = compared["expected"] if compared else "no failure here"
    actual = compared["found"] if compared else (error["found"] if error else message)
    if compared and expected == actual:  # the same to read: what differs is the object, or their equality
        actual = f"{actual}, another object" if " is " in compared[0] else f"{actual}, which is not equal"
    refused = list(_REFUSED.finditer(text))
    if refused and not compared:  # the last is the one that failed: what comes after it is not shown
        expected = refused[-1]["expected"]
    return TestResult(
        name,
        False,
        message=message.splitlines()[0] if message else "",
        expected=expected,
        found=actual,
        file=at["file"] if at else "",
        line=int(at["line"]) if at else 0,
    )
