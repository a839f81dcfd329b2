"""Tries code with faults in Go: a package for each trial in one module, its tests in a package beside it, and one binary for all.

A test file is turned into plain code (`package proof`, no `_test` in its name), so that the linker runs once for many trials.
"""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator, Sequence
from pathlib import Path

from urform.languages.go.pruning import functions, unit, with_functions
from urform.languages.target import Emission, Runner, Trial, Tried
from urform.languages.testing.pruning import needed

ENVIRONMENT = {
    "GOFLAGS": "-vet=off '-gcflags=trials/...=-N -l'",
    "GOTOOLCHAIN": "local",
    "GO111MODULE": "on",
    "GOWORK": "off",
}
_BROKEN = re.compile(r"^# trials/t(\d+)/", re.MULTILINE)
_DONE = re.compile(r"^(?P<how>begin|good|bad) (?P<number>\d+) (?P<test>\w+)$", re.MULTILINE)
_RUNNER = """package trials

import (
	"fmt"
	"os"
	"strings"
	"testing"
	"time"

%s)

// try runs one test of a trial, unless it was run before; a panic is a failure, and one that hangs ends the process.
func try(t *testing.T, number int, name string, test func(*testing.T)) {
	label := fmt.Sprintf("%%d %%s", number, name)
	if strings.Contains(os.Getenv("TRIED"), ";"+label+";") {
		return
	}
	fmt.Printf("\\nbegin %%s\\n", label)
	late := time.AfterFunc(%d*time.Second, func() { os.Exit(3) })
	defer late.Stop()
	good := t.Run(label, func(t *testing.T) {
		defer func() {
			if reason := recover(); reason != nil {
				t.Errorf("panic: %%v", reason)
			}
		}()
		test(t)
	})
	how := map[bool]string{true: "good", false: "bad"}[good]
	fmt.Printf("\\n%%s %%s\\n", how, label)
}

func TestTrials(t *testing.T) {
%s}
"""


class Trials:
    """The trials of one batch."""

    def __init__(self, folder: Path, emission: Emission, run: Runner, seconds: int) -> None:
        self._folder = folder
        self._run = run
        self._seconds = seconds
        files = {f.path: f.text for f in emission.files if f.path.endswith(".go")}
        self._code = {path: text for path, text in files.items() if not path.endswith("_test.go")}
        self._units = {path: unit(text) for path, text in self._code.items()}
        self._parts = {path: functions(text) for path, text in files.items() if path.endswith("_test.go")}
        self._functions = {
            f"{path}#{number}": unit(part)
            for path, (_, parts) in self._parts.items()
            for number, part in enumerate(parts)
        }
        module = next(f.text for f in emission.files if f.path == "go.mod")
        self._module = module.split()[1]
        self._go_mod = f"module trials\n{module.partition(chr(10))[2]}"

    def all(self, trials: Sequence[Trial]) -> Iterator[Tried]:
        """What came of each trial; those that do not compile are left out of the binary."""
        shutil.rmtree(self._folder, ignore_errors=True)
        self._folder.mkdir(parents=True)
        (self._folder / "go.mod").write_text(self._go_mod, encoding="utf-8")
        for trial in trials:
            self._write(trial)
        left = {trial.number: trial for trial in trials}
        while left:
            self._write_runner(list(left.values()))
            built = self._run(["go", "test", "-c", "-o", "trials.test", "."], self._folder, ENVIRONMENT)
            if built.status == 0:
                yield from self._results(list(left.values()))
                return
            said = built.output + built.errors
            broken = {int(number) for number in _BROKEN.findall(said)} & set(left)
            if not broken:
                yield from (Tried(number, broke=said[-2000:]) for number in left)
                return
            for number in sorted(broken):
                yield Tried(number, broke=_said_of(said, number))
                del left[number]
        return

    # --- writing ----------------------------------------------------------------------------------------

    def _write(self, trial: Trial) -> None:
        home = self._folder / f"t{_name(trial)}"
        (home / "code").mkdir(parents=True)
        (home / "proof").mkdir()
        proofs = self._proofs(trial)
        for path, text in proofs.items():
            name = f"{path.removesuffix('_test.go')}_proof.go"
            (home / "proof" / name).write_text(self._as_proof(text, trial), encoding="utf-8")
        changed = {path: text for path, text in trial.files.items() if path in self._code}
        units = {**self._units, **{path: unit(text) for path, text in changed.items()}}
        mentioned = (name for text in proofs.values() for name in unit(text).mentions)
        for path in needed(units, mentioned):
            text = changed.get(path) or self._code[path]
            (home / "code" / path).write_text(text, encoding="utf-8")

    def _proofs(self, trial: Trial) -> dict[str, str]:
        """The test files with the functions that the trial's tests need."""
        wanted = {address.name for address in trial.tests}
        kept = needed(self._functions, wanted)
        files: dict[str, str] = {}
        for path, (head, parts) in self._parts.items():
            own = [part for number, part in enumerate(parts) if f"{path}#{number}" in kept]
            if own:
                files[path] = with_functions(head, own)
        return files

    def _as_proof(self, text: str, trial: Trial) -> str:
        """A test file as plain code that imports the trial's package."""
        text = re.sub(r"^package \w+$", "package proof", text, count=1, flags=re.MULTILINE)
        return text.replace(f'"{self._module}"', f'"trials/t{_name(trial)}/code"')

    def _write_runner(self, listed: Sequence[Trial]) -> None:
        imports = "".join(f'\tt{_name(trial)} "trials/t{_name(trial)}/proof"\n' for trial in listed)
        calls = "".join(
            f'\ttry(t, {_number(trial)}, "{address.name}", t{_name(trial)}.{address.name})\n'
            for trial in listed
            for address in trial.tests
        )
        text = _RUNNER % (imports, self._seconds, calls)
        (self._folder / "trials_test.go").write_text(text, encoding="utf-8")

    # --- running ----------------------------------------------------------------------------------------

    def _results(self, listed: Sequence[Trial]) -> Iterator[Tried]:
        """Run the binary, again after a test that killed it or hung, until every test has had its turn."""
        total = sum(len(trial.tests) for trial in listed)
        ended: dict[tuple[int, str], bool] = {}
        while len(ended) < total:
            tried = "".join(f";{number} {test};" for number, test in ended)
            done = self._run(
                ["./trials.test", "-test.run", "^TestTrials$"], self._folder, {**ENVIRONMENT, "TRIED": tried}
            )
            before = len(ended)
            running: tuple[int, str] | None = None
            for match in _DONE.finditer(done.output):
                at = int(match["number"]), match["test"]
                running = at if match["how"] == "begin" else None
                if match["how"] != "begin":
                    ended[at] = match["how"] == "good"
            if running is not None:
                ended[running] = False
            if len(ended) == before:
                break
        for trial in listed:
            number = _number(trial)
            failed = frozenset(a.name for a in trial.tests if not ended.get((number, a.name), True))
            silent = any((number, address.name) not in ended for address in trial.tests)
            yield Tried(trial.number, failed, "the tests did not all run" if silent and not failed else "")


def _number(trial: Trial) -> int:
    """The number of a trial as a part of names; that of the sound code is negative."""
    return trial.number if trial.number >= 0 else 999_999


def _name(trial: Trial) -> str:
    return str(_number(trial))


def _said_of(said: str, number: int) -> str:
    """What the compiler said of one trial."""
    blocks = re.split(r"^(?=# )", said, flags=re.MULTILINE)
    return "".join(block for block in blocks if block.startswith(f"# trials/t{number}/"))[-2000:]
