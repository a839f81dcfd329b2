"""rustc: the library, then all tests in one program. Cargo is what users call; it would do the same, and leave more behind."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

from urform.languages.placing import CODE, TESTS
from urform.languages.rust.trials import Trials, crate_name
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

LEAST = (1, 83)
BUILD, TRIALS = "urform-build", "urform-trials"  # folders of what a run, or trials, need
ENVIRONMENT = {"RUST_BACKTRACE": "0", "RUSTFLAGS": "", "CARGO_TERM_COLOR": "never"}
ENDED = (0, 101)  # what a program of tests ends with
_SUMMARY = "\ntest result: "  # of a program that came to its end
_VERSION = re.compile(r"rustc (\d+)\.(\d+)\.\d+")
_CRATE = re.compile(r'^name = "([\w-]+)"', re.MULTILINE)
_ENDED = re.compile(
    r"^test (?P<name>[\w:]+)(?: - should panic)? \.\.\. (?P<how>ok|FAILED|ignored)", re.MULTILINE
)
_BEGUN = re.compile(r"^test (?P<name>[\w:]+) \.\.\. (?!ok|FAILED|ignored)", re.MULTILINE)
_MARK = re.compile(r"^(?:running \d+ tests?$|test [\w:]+ \.\.\. )", re.MULTILINE)  # a test begins or ends
_SAID = re.compile(
    r"^---- (?P<name>[\w:]+) stdout ----\n(?P<said>.*?)(?=^---- |^\nfailures:|\Z)", re.MULTILINE | re.DOTALL
)
_PANIC = re.compile(
    r"panicked at (?P<file>[^\s:]+):(?P<line>\d+):\d+:\n(?P<message>.*?)(?:\nnote: |\Z)", re.DOTALL
)
_COMPLAINT = re.compile(
    r"^(?P<file>[^\s:]+):(?P<line>\d+):\d+: error(?:\[\w+\])?: (?P<text>.*)$", re.MULTILINE
)
_COMPARED = re.compile(r"^(?:.*?: )?got (?P<found>.*), want (?P<expected>.*)$", re.DOTALL)


class Cargo(Toolchain):
    """The rustc and cargo on the path."""

    trials_at_once = 60  # the compiler's memory grows with them

    def find(self, run: Runner) -> Found:
        """Rust 1.83 or newer."""
        install = ("apt-get install rustc cargo  # or newer, from the Rust project's own installer",)
        wanted = ("Rust, 1.83 or newer",)
        if shutil.which("rustc") is None or shutil.which("cargo") is None:
            return Found(missing=wanted, install=install)
        version = run(["rustc", "--version"], Path.cwd()).output.strip()
        number = _VERSION.match(version)
        if number is None or (int(number[1]), int(number[2])) < LEAST:
            return Found(version, wanted, install)
        return Found(number[0])

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """The crate, its tests as one program, and that program."""
        build = folder / BUILD
        build.mkdir()
        try:
            programs = _programs(emission)
            for command in commands(crate_name(emission), programs, "--test", root=_root(emission)):
                done = run(command, folder, ENVIRONMENT)
                if done.status != 0:
                    return Ran((), broke=(done.output + done.errors).strip()[-4000:])
            return _tested(folder, emission, list(programs), run, seconds)
        finally:
            shutil.rmtree(build, ignore_errors=True)

    def compile_clients(self, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Compiled:
        """The types of the crate, and the clients as a crate that uses it."""
        build = folder / BUILD
        build.mkdir()
        try:
            crate, root = crate_name(emission), _root(emission)
            common = [
                "rustc",
                "--edition",
                "2021",
                "--color",
                "never",
                "--emit=metadata",
                "--crate-type",
                "rlib",
            ]
            done = run([*common, "--crate-name", crate, "--out-dir", BUILD, root], folder, ENVIRONMENT)
            if done.status == 0:
                uses = ["--extern", f"{crate}={BUILD}/lib{crate}.rmeta", "--error-format=short"]
                named = ["--crate-name", "clients", "--out-dir", BUILD, clients.file.path]
                done = run([*common, *uses, *named], folder, ENVIRONMENT)
        finally:
            shutil.rmtree(build, ignore_errors=True)
        said = done.output + done.errors
        complaints = tuple(_complaints(said, clients.file.path))
        return Compiled(complaints, "" if complaints or done.status == 0 else said.strip()[-4000:])

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """One program with a module for each trial."""
        return Trials(folder / TRIALS, emission, run, self.seconds_a_trial).all(trials)

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """The example, compiled with the crate."""
        build = folder / BUILD
        build.mkdir()
        try:
            crate = _CRATE.search((folder / "Cargo.toml").read_text(encoding="utf-8"))
            assert crate is not None, "the manifest names the crate"
            for command in commands(crate[1].replace("-", "_"), {"walkthrough": "examples/walkthrough.rs"}):
                done = run(command, folder, ENVIRONMENT)
                if done.status != 0:
                    return done
            return run([f"{BUILD}/walkthrough"], folder, ENVIRONMENT)
        finally:
            shutil.rmtree(build, ignore_errors=True)

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """A program that uses the crate, both optimized."""
        (folder / BUILD).mkdir()
        crate = _CRATE.search((folder / "Cargo.toml").read_text(encoding="utf-8"))
        assert crate is not None, "the manifest names the crate"
        for command in commands(crate[1].replace("-", "_"), {"measure": "examples/measure.rs"}):
            done = run([*command, "-C", "opt-level=3"], folder, ENVIRONMENT)
            if done.status != 0:
                return done
        return [f"{BUILD}/measure"]

    def again(self, address: TestAddress) -> str:
        """One test by its name."""
        return f"cargo test --test claims {address.name} -- --exact"


def _root(emission: Emission) -> str:
    """The file that the library begins with."""
    return next(f.path for f in emission.files if f.part == CODE and Path(f.path).name == "lib.rs")


def _complaints(said: str, path: str) -> Iterator[Complaint]:
    """What rustc says of a file; what it says of another is of line 0."""
    for match in _COMPLAINT.finditer(said):
        yield Complaint(int(match["line"]) if match["file"] == path else 0, match["text"])


def _programs(emission: Emission) -> dict[str, str]:
    """The programs that hold tests, and the file that each begins with: that of the claims, and those of the user."""
    programs = {
        "claims": next(f.path for f in emission.files if f.part == TESTS and Path(f.path).name == "main.rs")
    }
    paths = (Path(file.path) for file in emission.files if file.path.endswith(".rs"))
    return programs | {path.stem: str(path) for path in paths if path.parts[:-1] == ("tests",)}


def commands(
    crate: str, programs: Mapping[str, str], *options: str, root: str = "src/lib.rs"
) -> Iterator[list[str]]:
    """How a crate is compiled, and programs that use it."""
    common = ["rustc", "--edition", "2021", "-C", "debuginfo=0", "--color", "never"]
    yield [*common, "--crate-name", crate, "--crate-type", "rlib", "--out-dir", BUILD, root]
    uses = ["--extern", f"{crate}={BUILD}/lib{crate}.rlib"]
    for program, source in programs.items():
        yield [*common, *options, *uses, "--crate-name", program, "-o", f"{BUILD}/{program}", source]


def _tested(folder: Path, emission: Emission, programs: Sequence[str], run: Runner, seconds: float) -> Ran:
    """The results of all tests."""
    results: dict[str, TestResult] = {}
    said, whole = "", True
    for program in programs:
        own_results, ended = _results_of(program, folder, run, seconds)
        results |= own_results
        said += (ended.errors or ended.output).strip()[-4000:]
        whole = whole and (ended.status in ENDED or ended.late)
    whole = whole and len(results) >= len(emission.tests)
    return Ran(tuple(results.values()), broke="" if whole else said)


def _results_of(
    program: str, folder: Path, run: Runner, seconds: float
) -> tuple[dict[str, TestResult], Finished]:
    """The results of a program of tests: side by side first, and one by one when they do not all come to an end."""

    def launched(*options: str) -> Finished:
        command = [f"{BUILD}/{program}", "--color", "never", *options]
        return run(command, folder, ENVIRONMENT, Watch(_MARK, seconds))

    def launch(without: Sequence[str]) -> Round:
        if not without:
            done = launched()
            if _SUMMARY in done.output:
                return Round(done, _results(done.output))
        skipped = [part for name in without for part in ("--skip", name)]
        done = launched("--test-threads=1", "--exact", *skipped)  # a test's line comes before the test
        begun = [match["name"] for match in _BEGUN.finditer(done.output + "\n")]
        return Round(done, _results(done.output), begun[-1] if begun and _SUMMARY not in done.output else "")

    return to_the_end(launch, seconds)


def _results(output: str) -> dict[str, TestResult]:
    said = {match["name"]: match["said"] for match in _SAID.finditer(output)}
    return {
        match["name"]: _result(match["name"], match["how"], said.get(match["name"], ""))
        for match in _ENDED.finditer(output)
    }


def _result(name: str, how: str, said: str) -> TestResult:
    if how != "FAILED":
        return TestResult(name, how == "ok", skipped=how == "ignored")
    panic = _PANIC.search(said)
    message = (panic["message"] if panic is not None else said).strip()
    compared = _COMPARED.match(message)
    return TestResult(
        name,
        False,
        message=message.partition("\n")[0],
        expected=compared["expected"] if compared is not None else "no failure here",
        found=compared["found"] if compared is not None else message.partition("\n")[0],
        file=panic["file"] if panic is not None and not panic["file"].startswith("src/") else "",
        line=int(panic["line"]) if panic is not None and not panic["file"].startswith("src/") else 0,
    )
