"""Tries code with faults in Rust: a module for each trial in one program, its tests in a module beside it."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path

from urform.languages.target import Emission, Finished, Runner, Trial, Tried
from urform.languages.testing.pruning import Unit, needed
from urform.languages.testing.trials import TrialProgram, dependent, number_of

AT_ONCE = "8"  # tests that run beside each other: some wait for what never comes
PROOF = "tests/claims/"
HIDDEN = (
    "builders",
    "values",
    "loading",
    "pools",
    "reading",
    "records",
)  # modules of which a crate exports nothing
OPTIONS = ("-C", "debuginfo=0", "-C", "overflow-checks=on", "-A", "warnings", "--color", "never")
ENVIRONMENT = {"RUST_BACKTRACE": "0", "RUSTFLAGS": ""}
_WORD = re.compile(r"[A-Za-z_]\w*")
_NOT_CODE = re.compile(r"""//[^\n]*|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\\n])'""")
_DECLARED = re.compile(
    r"^(?:pub(?:\(crate\))? )?(?:struct|enum|trait|fn|type|const|static) (\w+)", re.MULTILINE
)
_RECEIVER = re.compile(r"^impl(?:<[^\n]*?>)? (?:[\w<>:]+ for )?(?:dyn )?(\w+)", re.MULTILINE)
_IMPORTED = re.compile(r"^use super::(support|witnesses)::(?:\w+|\{[^}]*\});", re.MULTILINE)
_RUNNER = """// Runs the tests of trials one by one.
%s
use std::io::Write;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::mpsc::channel;
use std::time::Duration;

type Test = (u32, &'static str, fn());

const TESTS: &[Test] = &[
%s];

fn tell(how: &str, test: &Test) {
    let mut out = std::io::stdout().lock();
    writeln!(out, "\\n{how} {} {}", test.0, test.1).ok();
    out.flush().ok();
}

fn run(test: &Test) {
    tell("begin", test);
    let (sender, receiver) = channel();
    let call = test.2;
    std::thread::spawn(move || {
        let good = std::panic::catch_unwind(call).is_ok();
        sender.send(good).ok();
    });
    let good = receiver.recv_timeout(Duration::from_secs(%d)).unwrap_or(false);
    tell(if good { "good" } else { "bad" }, test);
}

fn main() {
    let tried = std::env::var("TRIED").unwrap_or_default();
    let is_left = |test: &&Test| !tried.contains(&format!(";{} {};", test.0, test.1));
    let left: Vec<&'static Test> = TESTS.iter().filter(is_left).collect();
    let at_once = std::env::var("AT_ONCE").ok().and_then(|text| text.parse().ok()).unwrap_or(1);
    let next = AtomicUsize::new(0);
    std::thread::scope(|scope| {
        for _ in 0..at_once {
            scope.spawn(|| {
                while let Some(test) = left.get(next.fetch_add(1, Ordering::Relaxed)) {
                    run(test);
                }
            });
        }
    });
    std::process::exit(0);
}
"""


def unit(text: str) -> Unit:
    """The names that a piece of Rust declares and mentions."""
    code = _NOT_CODE.sub("", text)
    return Unit(
        frozenset(_DECLARED.findall(code)), frozenset(_RECEIVER.findall(code)), frozenset(_WORD.findall(code))
    )


def functions(text: str) -> tuple[str, list[str]]:
    """A file of functions: what comes before them, and each of them with its comments and attributes."""
    start = re.search(r"^(?:#\[test\]\n|#\[track_caller\]\n|pub fn |fn )", text, re.MULTILINE)
    if start is None:
        return text, []
    return text[: start.start()], re.split(r"(?<=\n\}\n)\n", text[start.start() :])


class Trials(TrialProgram):
    """The trials of one batch."""

    broken = re.compile(r"--> (?:[^\s:]*/)?src/t(\d+)/")

    def __init__(self, folder: Path, emission: Emission, run: Runner, seconds: int) -> None:
        self._folder = folder
        self._run = run
        self._seconds = seconds
        files = {f.path: f.text for f in emission.files if f.path.endswith(".rs")}
        self._crate = crate_name(emission)
        self._code = {path: text for path, text in files.items() if path.startswith("src/")}
        self._units = {path: unit(text) for path, text in self._code.items() if path != "src/lib.rs"}
        proofs = {
            path: text for path, text in files.items() if path.startswith(PROOF) and path != f"{PROOF}main.rs"
        }
        self._support = proofs.pop(f"{PROOF}support.rs", "")
        self._parts = {path: functions(text) for path, text in proofs.items()}
        self._functions = {
            f"{path}#{number}": unit(part)
            for path, (_, parts) in self._parts.items()
            for number, part in enumerate(parts)
        }

    def all(self, trials: Sequence[Trial]) -> Iterator[Tried]:
        """The outcome of each trial; those that do not compile are left out of the program."""
        shutil.rmtree(self._folder, ignore_errors=True)
        self._write_sound()
        for trial in trials:
            self._write(trial)
        return self.results(trials)

    # --- writing ----------------------------------------------------------------------------------------

    def _write(self, trial: Trial) -> None:
        """Write the files that a trial changes and those that depend on them; the others are shared."""
        home = self._folder / "src" / f"t{number_of(trial)}"
        (home / "code").mkdir(parents=True)
        (home / "proof").mkdir()
        proofs = self._proofs(trial)
        changed = {path: text for path, text in trial.files.items() if path in self._units}
        units = {**self._units, **{path: unit(text) for path, text in changed.items()}}
        mentioned = {name for text in proofs.values() for name in unit(text).mentions}
        wanted = mentioned.union(*(units[path].declares for path in changed))
        own = dependent(units, changed) & (needed(units, wanted) | set(changed))
        for path in own:
            self._put(home / "code" / path.removeprefix("src/"), changed.get(path) or self._code[path], trial)
        _write_root(home / "code" / "mod.rs", units, own)
        for path, text in proofs.items():
            self._put(home / "proof" / path.removeprefix(PROOF), text, trial)
        names = sorted(Path(path).stem for path in proofs)
        support = "pub use crate::sound::support;\n"
        if own & {"src/errors.rs", "src/reading.rs"}:
            self._put(home / "proof" / "support.rs", self._support, trial)
            support = "pub mod support;\n"
        modules = "".join(f"pub mod {name};\n" for name in names)
        (home / "proof" / "mod.rs").write_text(support + modules, encoding="utf-8")
        (home / "mod.rs").write_text("pub mod code;\npub mod proof;\n", encoding="utf-8")

    def _write_sound(self) -> None:
        """The code without a fault, of which trials take what they do not change."""
        home = self._folder / "src" / "sound"
        (home / "code").mkdir(parents=True)
        for path in self._units:
            self._put_at(home / "code" / path.removeprefix("src/"), self._code[path], "sound")
        _write_root(home / "code" / "mod.rs", self._units, frozenset(self._units))
        self._put_at(home / "support.rs", self._support, "sound")
        (home / "mod.rs").write_text("pub mod code;\npub mod support;\n", encoding="utf-8")

    def _put(self, place: Path, text: str, trial: Trial) -> None:
        self._put_at(place, text, f"t{number_of(trial)}")

    def _put_at(self, place: Path, text: str, root: str) -> None:
        """A file with its paths from the root of the trial."""
        code = f"crate::{root}::code"
        text = re.sub(r"\bcrate::", f"{code}::", text)
        text = re.sub(rf"^use {self._crate}::", f"use {code}::", text, flags=re.MULTILINE)
        place.write_text(text, encoding="utf-8")

    def _proofs(self, trial: Trial) -> dict[str, str]:
        """The test files with the functions that the trial's tests need."""
        wanted = {address.name.rpartition("::")[2] for address in trial.tests}
        of_test = {address.file for address in trial.tests}
        possible = {
            key: each
            for key, each in self._functions.items()
            if key.partition("#")[0] in of_test or key.startswith(f"{PROOF}witnesses")
        }
        kept = needed(possible, wanted)
        files: dict[str, str] = {}
        for path, (head, parts) in self._parts.items():
            own = [part for number, part in enumerate(parts) if f"{path}#{number}" in kept]
            if own or path.endswith("witnesses.rs"):
                head = _IMPORTED.sub(r"use super::\1::*;", head)
                files[path] = head + "\n".join(_as_plain(part) for part in own)
        return files

    def build(self, trials: Sequence[Trial]) -> Finished:
        """The program of the tests of these trials."""
        modules = "".join(
            f"mod {name};\n" for name in ("sound", *(f"t{number_of(trial)}" for trial in trials))
        )
        calls = "".join(
            f'    ({number_of(trial)}, "{address.name}", t{number_of(trial)}::proof::{address.name}),\n'
            for trial in trials
            for address in trial.tests
        )
        text = _RUNNER % (modules, calls, self._seconds)
        (self._folder / "src" / "main.rs").write_text(text, encoding="utf-8")
        command = ["rustc", "--edition", "2021", *OPTIONS, "-o", "trials", "src/main.rs"]
        return self._run(command, self._folder, ENVIRONMENT)

    def run(self, tried: str, *, alone: bool) -> str:
        """The tests that are left, some at a time: some wait for what never comes."""
        settings = {**ENVIRONMENT, "TRIED": tried, "AT_ONCE": "1" if alone else AT_ONCE}
        return self._run(["./trials"], self._folder, settings).output

    def said_of(self, said: str, number: int) -> str:
        """The errors that name a file of the trial."""
        blocks = re.split(r"^(?=error)", said, flags=re.MULTILINE)
        return "".join(block for block in blocks if f"src/t{number}/" in block)


def crate_name(emission: Emission) -> str:
    """The name of the generated crate."""
    manifest = next(f.text for f in emission.files if f.path == "Cargo.toml")
    matched = re.search(r'^name = "([\w-]+)"', manifest, re.MULTILINE)
    assert matched is not None, "the manifest names the crate"
    return matched[1].replace("-", "_")


def _write_root(place: Path, units: Iterable[str], own: frozenset[str]) -> None:
    """The root of a crate: its own modules, and those that it shares."""
    lines = []
    for path in sorted(units):
        name = Path(path).stem
        lines.append(f"pub mod {name};\n" if path in own else f"pub use crate::sound::code::{name};\n")
        lines.append("" if name in HIDDEN else f"pub use {name}::*;\n")
    place.write_text("".join(lines), encoding="utf-8")


def _as_plain(part: str) -> str:
    """A test as a function that others may call."""
    return part.replace("#[test]\nfn ", "pub fn ")
