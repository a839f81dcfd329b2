"""Tries code with faults in Go: a package for each trial in one module, its tests in a package beside it, and one binary for all.

A test file is turned into plain code (`package proof`, no `_test` in its name), so that the linker runs once for many trials.
"""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator, Sequence
from pathlib import Path

from urform.languages.go.pruning import functions, unit, with_functions
from urform.languages.target import Emission, Finished, Runner, Trial, Tried
from urform.languages.testing.pruning import needed
from urform.languages.testing.trials import TrialProgram, number_of

ENVIRONMENT = {
    "GOFLAGS": "-vet=off '-gcflags=trials/...=-N -l'",
    "GOTOOLCHAIN": "local",
    "GO111MODULE": "on",
    "GOWORK": "off",
}
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


class Trials(TrialProgram):
    """The trials of one batch."""

    broken = re.compile(r"^# trials/t(\d+)/", re.MULTILINE)

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
        """The outcome of each trial; those that do not compile are left out of the binary."""
        shutil.rmtree(self._folder, ignore_errors=True)
        self._folder.mkdir(parents=True)
        (self._folder / "go.mod").write_text(self._go_mod, encoding="utf-8")
        for trial in trials:
            self._write(trial)
        return self.results(trials)

    # --- writing ----------------------------------------------------------------------------------------

    def _write(self, trial: Trial) -> None:
        home = self._folder / f"t{number_of(trial)}"
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
            text = self._imported(changed.get(path) or self._code[path], trial)
            place = home / "code" / path
            place.parent.mkdir(exist_ok=True)
            place.write_text(text, encoding="utf-8")

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
        return self._imported(text, trial)

    def _imported(self, text: str, trial: Trial) -> str:
        """Code that imports the trial's packages."""
        return re.sub(rf'"{re.escape(self._module)}(?=["/])', f'"trials/t{number_of(trial)}/code', text)

    def build(self, trials: Sequence[Trial]) -> Finished:
        """The program of the tests of these trials."""
        imports = "".join(f'\tt{number_of(trial)} "trials/t{number_of(trial)}/proof"\n' for trial in trials)
        calls = "".join(
            f'\ttry(t, {number_of(trial)}, "{address.name}", t{number_of(trial)}.{address.name})\n'
            for trial in trials
            for address in trial.tests
        )
        text = _RUNNER % (imports, self._seconds, calls)
        (self._folder / "trials_test.go").write_text(text, encoding="utf-8")
        return self._run(["go", "test", "-c", "-o", "trials.test", "."], self._folder, ENVIRONMENT)

    def run(self, tried: str, *, alone: bool) -> str:
        """The tests that are left; they always run one at a time."""
        command = ["./trials.test", "-test.run", "^TestTrials$"]
        return self._run(command, self._folder, {**ENVIRONMENT, "TRIED": tried}).output

    def said_of(self, said: str, number: int) -> str:
        """The errors of the packages of the trial."""
        blocks = re.split(r"^(?=# )", said, flags=re.MULTILINE)
        return "".join(block for block in blocks if block.startswith(f"# trials/t{number}/"))
