"""g++ and GoogleTest: code and tests as one translation unit, so that headers are read once. CMake is what users call."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from urform.languages.cpp.sound import Sound
from urform.languages.cpp.trials import Trials
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

LEAST = 11  # of g++: the first with latches
BUILD, SOUND, TRIALS = (
    "urform-build",
    "urform-sound",
    "urform-trials",
)  # folders of what a run, or trials, need
OPTIONS = (
    "-std=c++20",
    "-O0",
    "-pipe",
    "-fno-diagnostics-color",
    "--param=ggc-min-heapsize=1048576",  # KiB before the compiler collects garbage: an eighth of its time
    "-Iinclude",
    "-Itests",
    "-I.",
)
_MAJOR = re.compile(r"\d+")
_RUN = re.compile(r"^\[ RUN      \] (?P<name>[\w.]+)$", re.MULTILINE)
_ENDED = re.compile(
    r"^\[(?P<how>       OK |  FAILED  |  SKIPPED )\] (?P<name>[\w.]+) \(\d+ ms\)$", re.MULTILINE
)
_MARK = re.compile(
    r"^\[(?: RUN      |       OK |  FAILED  |  SKIPPED )\] ", re.MULTILINE
)  # a test begins or ends
_PLACE = re.compile(
    r"^(?:\./)?(?P<file>[\w./-]+):(?P<line>\d+): Failure\n(?P<said>.*?)(?=\n\n|\Z)",
    re.MULTILINE | re.DOTALL,
)
_THROWN = re.compile(r'C\+\+ exception with description "(?P<said>.*?)" thrown', re.DOTALL)
_SAID = re.compile(r"^(?=[^\s:]+:\d+:\d+: error: )", re.MULTILINE)
_SAID_AT = re.compile(r"(?P<file>[^\s:]+):(?P<line>\d+):\d+: error: (?P<text>.*)")
_SHOWN = re.compile(r"^ +Which is: (.*)$")


class Gcc(Toolchain):
    """The g++ on the path, and the GoogleTest that it finds."""

    trials_at_once = 60  # the compiler's memory grows with them

    def find(self, run: Runner) -> Found:
        """g++ of at least 11, GoogleTest, and CMake for those who call it."""
        missing, install = [], []
        version = ""
        if shutil.which("g++") is not None:
            version = run(["g++", "-dumpfullversion"], Path.cwd()).output.strip()
        major = _MAJOR.match(version)
        if major is None or int(major[0]) < LEAST:
            missing.append(f"g++, {LEAST} or newer")
            install.append("apt-get install g++ cmake libgtest-dev")
        elif run(
            ["g++", "-E", "-x", "c++", "-fdirectives-only", "-include", "gtest/gtest.h", "/dev/null"],
            Path.cwd(),
        ).status:
            missing.append("GoogleTest")
            install.append("apt-get install libgtest-dev")
        compiler = f"g++ {version}" if version else ""
        return Found(f"{compiler}, GoogleTest" if not missing else compiler, tuple(missing), tuple(install))

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """Everything in one g++, and the program that it makes."""
        build = folder / BUILD
        build.mkdir()
        try:
            paths = [file.path for file in emission.files if file.path.endswith(".cpp")]
            more = [f"-I{root}" for root in sorted(_roots(emission)) if root != "include"]
            done = self._compiled(
                folder, ["gtest/gtest.h", *paths], run, *more, "-lgtest", "-lgtest_main", "-lpthread"
            )
            if done.status != 0:
                return Ran((), broke=(done.output + done.errors).strip()[-4000:])
            return _tested(folder, emission, run, seconds)
        finally:
            shutil.rmtree(build, ignore_errors=True)

    def compile_clients(self, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Compiled:
        """One g++ for the clients; of the code its headers are enough."""
        more = [f"-I{root}" for root in sorted(_roots(emission)) if root != "include"]
        beside = f"-I{Path(clients.file.path).parent}"
        done = run(["g++", *OPTIONS, *more, beside, "-fsyntax-only", clients.file.path], folder)
        said = done.output + done.errors
        complaints = tuple(_complaints(said, clients.file.path))
        return Compiled(complaints, "" if complaints or done.status == 0 else said.strip()[-4000:])

    def _compiled(self, folder: Path, paths: Iterable[str], run: Runner, *libraries: str) -> Finished:
        text = "".join(f'#include "{path}"\n' for path in paths)
        (folder / BUILD / "all.cpp").write_text(text, encoding="utf-8")
        return run(["g++", *OPTIONS, "-o", f"{BUILD}/all", f"{BUILD}/all.cpp", *libraries], folder)

    def prepare(self, folder: Path, emission: Emission, run: Runner) -> str:
        """Compile the sound code that trials share."""
        return Sound(folder / SOUND, emission).build(run)

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """One program with a namespace for each trial."""
        sound = Sound(folder / SOUND, emission)
        return Trials(folder / TRIALS, emission, sound, run, self.seconds_a_trial).all(trials)

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """The example, compiled with the library."""
        (folder / BUILD).mkdir()
        try:
            paths = sorted(str(path.relative_to(folder)) for path in (folder / "src").glob("*.cpp"))
            done = self._compiled(folder, [*paths, "examples/walkthrough.cpp"], run, "-lpthread")
            return run([f"{BUILD}/all"], folder) if done.status == 0 else done
        finally:
            shutil.rmtree(folder / BUILD, ignore_errors=True)

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """A program and the library in one, optimized."""
        (folder / BUILD).mkdir()
        paths = sorted(str(path.relative_to(folder)) for path in (folder / "src").glob("*.cpp"))
        text = "".join(f'#include "{path}"\n' for path in [*paths, "examples/measure.cpp"])
        (folder / BUILD / "all.cpp").write_text(text, encoding="utf-8")
        options = [*OPTIONS, "-O2", "-o", f"{BUILD}/measure", f"{BUILD}/all.cpp", "-lpthread"]
        done = run(["g++", *options], folder)
        return [f"{BUILD}/measure"] if done.status == 0 else done

    def again(self, address: TestAddress) -> str:
        """One test by its name."""
        return f"cmake -B build && cmake --build build && ctest --test-dir build -R '^{re.escape(address.name)}$'"


def _complaints(said: str, path: str) -> Iterator[Complaint]:
    """What g++ says of a file, with its notes; what it says of another is of line 0."""
    for part in _SAID.split(said)[1:]:
        place = _SAID_AT.match(part)
        assert place is not None, "it was split there"
        yield Complaint(
            int(place["line"]) if place["file"] == path else 0, place["text"] + part[place.end() :]
        )


def _roots(emission: Emission) -> set[str]:
    """The folders below which headers are included by their paths."""
    headers = (f"/{file.path}" for file in emission.files if file.path.endswith(".hpp"))
    return {f"{path.partition('/include/')[0]}/include"[1:] for path in headers if "/include/" in path}


def _tested(folder: Path, emission: Emission, run: Runner, seconds: float) -> Ran:
    """The results of all tests."""

    def launch(without: Sequence[str]) -> Round:
        command = [f"{BUILD}/all", "--gtest_color=no", f"--gtest_filter=-{':'.join(without)}"]
        done = run(command, folder, {}, Watch(_MARK, seconds))
        results = _results(done.output)
        begun = [match["name"] for match in _RUN.finditer(done.output) if match["name"] not in results]
        return Round(done, results, begun[-1] if begun else "")

    results, done = to_the_end(launch, seconds)
    whole = len(results) >= len(emission.tests) and (done.status in (0, 1) or done.late)
    broke = "" if whole else (done.errors or done.output).strip()[-4000:]
    return Ran(tuple(_placed(results.values(), emission)), broke=broke)


def _placed(results: Iterable[TestResult], emission: Emission) -> Iterator[TestResult]:
    """Results with a place; an exception has none, so it gets the place of its test."""
    texts = {file.path: file.text for file in emission.files}
    addresses = {address.name: address for address in emission.tests}
    for result in results:
        address = addresses.get(result.name)
        if result.passed or result.skipped or result.line or address is None:
            yield result
            continue
        before, _, _ = texts[address.file].partition(f"TEST({address.name.replace('.', ', ')})")
        yield replace(result, file=address.file, line=before.count("\n") + 1)


def _results(output: str) -> dict[str, TestResult]:
    begun = {match["name"]: match.end() for match in _RUN.finditer(output)}
    results = {}
    for match in _ENDED.finditer(output):
        name, how = match["name"], match["how"].strip()
        results[name] = _result(name, how, output[begun.get(name, match.start()) : match.start()])
    return results


def _result(name: str, how: str, said: str) -> TestResult:
    if how != "FAILED":
        return TestResult(name, how == "OK", skipped=how == "SKIPPED")
    place = _PLACE.search(said)
    if place is None:
        thrown = _THROWN.search(said)
        message = thrown["said"] if thrown is not None else said.strip().partition("\n")[0]
        return TestResult(name, False, message=message, expected="no failure here", found=message)
    actual, expected = _sides(place["said"])
    return TestResult(
        name,
        False,
        message=place["said"].partition("\n")[0],
        expected=expected,
        found=actual,
        file=place["file"],
        line=int(place["line"]),
    )


def _sides(said: str) -> tuple[str, str]:
    """The actual and the expected side of a failed comparison: the values where they are told, else the expressions."""
    lines = said.split("\n")
    if lines[0].startswith("Value of:"):
        told = dict(line.strip().partition(": ")[::2] for line in lines)
        return told.get("Actual", ""), told.get("Expected", "")
    sides: list[str] = []
    for line in lines[1:]:
        shown = _SHOWN.match(line)
        if shown is not None and sides:
            sides[-1] = shown[1]
        elif len(sides) < 2 and line.strip():
            sides.append(line.strip())
    actual, expected = (*sides, "", "")[:2]
    return actual, f"anything but {expected}" if actual == expected else expected
