"""Tries code with faults in C++: a namespace for each trial in one program, without the test framework."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from urform.languages.cpp.sound import OPTIONS, SUPPORT, Sound, stem_of
from urform.languages.target import Emission, Finished, Runner, Trial, Tried
from urform.languages.testing.pruning import Unit, needed
from urform.languages.testing.trials import MOST_SAID, TrialProgram, dependent, number_of

AT_ONCE = "8"  # tests that run beside each other: some wait for what never comes
_WORD = re.compile(r"[A-Za-z_]\w*")
_NOT_CODE = re.compile(r"""//[^\n]*|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\\n])'""")
_DECLARED = re.compile(
    r"^(?:enum )?(?:class|struct|using) (?:\w+_EXPORT )?(?!std::)(\w+)\b(?! *;)|"
    r"^(?:inline|\w+_EXPORT) [^\n(]*?(\w+)\(|^bool (matches_\w+)\("
    r"|^TEST\((\w+, \w+)\)",
    re.MULTILINE,
)
_RECEIVER = re.compile(r"\b(\w+)::\w+\(")
_TEST = re.compile(r"^TEST\((\w+), (\w+)\) \{", re.MULTILINE)
_STANDARD = re.compile(r"^#include <\w+>$", re.MULTILINE)  # a header of the standard library
_FUNCTION = re.compile(r"^(?:TEST\(|inline )", re.MULTILINE)
_RUNNER = """
#include <atomic>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <future>
#include <string>
#include <thread>
#include <vector>

struct Test {
    int number;
    const char *name;
    void (*run)();
};

static void tell(const char *how, const Test &test) {
    std::printf("\\n%%s %%d %%s\\n", how, test.number, test.name);
    std::fflush(stdout);
}

static void run(const Test &test) {
    tell("begin", test);
    std::packaged_task<bool()> task([&test] {
        try {
            test.run();
            return true;
        } catch (...) {
            return false;
        }
    });
    auto answer = task.get_future();
    std::thread(std::move(task)).detach();
    const bool ended = answer.wait_for(std::chrono::seconds(%d)) == std::future_status::ready;
    tell(ended && answer.get() ? "good" : "bad", test);
}

int main() {
    static const std::vector<Test> tests{
%s    };
    const char *named = std::getenv("TRIED");
    const std::string tried = named == nullptr ? "" : named;
    const char *count = std::getenv("AT_ONCE");
    std::atomic<std::size_t> next = 0;
    std::vector<std::thread> threads;
    for (int left = count == nullptr ? 1 : std::atoi(count); left > 0; --left) {
        threads.emplace_back([&] {
            for (std::size_t at = next++; at < tests.size(); at = next++) {
                const std::string label = ";" + std::to_string(tests[at].number) + " " + tests[at].name + ";";
                if (tried.find(label) == std::string::npos) {
                    run(tests[at]);
                }
            }
        });
    }
    for (auto &thread : threads) {
        thread.join();
    }
    std::quick_exit(0);
}
"""


def unit(text: str) -> Unit:
    """The names that a piece of C++ declares and mentions."""
    code = _NOT_CODE.sub("", text)
    declared = {name for groups in _DECLARED.findall(code) for name in groups if name}
    return Unit(
        frozenset(name.replace(", ", ".") for name in declared),
        frozenset(_RECEIVER.findall(code)) - {"std", "detail"},
        frozenset(_WORD.findall(code)),
    )


def functions(text: str) -> list[str]:
    """The functions of a test file, one by one."""
    starts = [match.start() for match in _FUNCTION.finditer(text)]
    pieces = [text[a:b] for a, b in zip(starts, [*starts[1:], len(text)], strict=True)]
    return [piece[: piece.index("\n}\n") + 3] for piece in pieces if "\n}\n" in piece]


class Trials(TrialProgram):
    """The trials of one batch."""

    broken = re.compile(r"\bt(\d+)/")

    def __init__(self, folder: Path, emission: Emission, sound: Sound, run: Runner, seconds: int) -> None:
        self._folder = folder
        self._sound = sound
        self._run = run
        self._seconds = seconds
        proofs = {
            file.path: file.text
            for file in emission.files
            if file.path.startswith("tests/") and file.path.endswith((".hpp", ".cpp"))
        }
        included = {line for text in proofs.values() for line in _STANDARD.findall(text)}
        self._includes = "".join(f"{line}\n" for line in sorted(included))
        self._parts = {path: functions(text) for path, text in proofs.items() if path != SUPPORT}
        self._functions = {
            f"{path}#{number}": replace(unit(part), receivers=frozenset())
            for path, parts in self._parts.items()
            for number, part in enumerate(parts)
        }

    def all(self, trials: Sequence[Trial]) -> Iterator[Tried]:
        """The outcome of each trial; those that do not compile are left out of the program."""
        shutil.rmtree(self._folder, ignore_errors=True)
        self._folder.mkdir()
        for trial in trials:
            self._write(trial)
        return self.results(trials)

    # --- writing ----------------------------------------------------------------------------------------

    def _write(self, trial: Trial) -> None:
        """Write the files that a trial changes and those that depend on them; the others are shared."""
        root = f"t{number_of(trial)}"
        home = self._folder / root
        home.mkdir()
        changed = {path: text for path, text in trial.files.items() if path in self._sound.code}
        code = {**self._sound.code, **changed}
        units = {
            stem: unit("".join(code[path] for path in paths)) for stem, paths in self._sound.stems.items()
        }
        proof = self._proofs(trial)
        stems = set(map(stem_of, changed))
        wanted = set(unit(proof).mentions).union(*(units[stem].declares for stem in stems))
        changing = dependent(units, stems)
        own = changing & (needed(units, wanted) | stems)
        has_support = bool(own & {"errors", "reading"})
        if has_support:  # what the support code of tests mentions belongs to the trial too
            own = changing & (needed(units, wanted | unit(self._sound.support).mentions) | stems)
        files = [path for path in code if stem_of(path) in own]
        for path in files:
            self._sound.put(home / Path(path).name, code[path], root, own)
        support = ""
        if has_support:
            self._sound.put(home / "support.hpp", self._sound.support, root, own)
            support = f'#include "{root}/support.hpp"\n'
        headers = "".join(f'#include "{root}/{Path(p).name}"\n' for p in files if p.endswith(".hpp"))
        sources = "".join(f'#include "{root}/{Path(p).name}"\n' for p in files if p.startswith("src/"))
        shared = f"namespace {root}::detail {{ using namespace sound::detail; }}\nnamespace {root} {{ using namespace sound; }}\n"
        proofs = f"namespace {root} {{\nnamespace {{\n\n{proof}\n}} // namespace\n}} // namespace {root}\n"
        (home / "proof.hpp").write_text(proofs, encoding="utf-8")
        text = f'{shared}{headers}{sources}{support}#include "{root}/proof.hpp"\n'
        (home / "all.cpp").write_text(text, encoding="utf-8")

    def _proofs(self, trial: Trial) -> str:
        """The test functions that the trial's tests need, and the witnesses that these make."""
        wanted = {address.name for address in trial.tests}
        own = {address.file for address in trial.tests} | {"tests/witnesses.hpp"}
        possible = {key: each for key, each in self._functions.items() if key.partition("#")[0] in own}
        kept = needed(possible, wanted)
        parts = [
            part
            for path in ("tests/witnesses.hpp", *(p for p in self._parts if p != "tests/witnesses.hpp"))
            for number, part in enumerate(self._parts.get(path, ()))
            if f"{path}#{number}" in kept
        ]
        early = "".join(
            f"{match[1]};\n" for part in parts if (match := re.match(r"(inline \S+ \w+\(\)) \{", part))
        )
        return early + "\n" + "\n".join(_TEST.sub(r"inline void \1_\2() {", part) for part in parts)

    def build(self, trials: Sequence[Trial]) -> Finished:
        """The program of the tests of these trials."""
        includes = "".join(f'#include "t{number_of(trial)}/all.cpp"\n' for trial in trials)
        calls = "".join(
            f'        {{{number_of(trial)}, "{address.name}", t{number_of(trial)}::{address.name.replace(".", "_")}}},\n'
            for trial in trials
            for address in trial.tests
        )
        text = f'{self._includes}#include "sound/all.hpp"\n{includes}{_RUNNER % (self._seconds, calls)}'
        (self._folder / "trials.cpp").write_text(text, encoding="utf-8")
        command = ["g++", *OPTIONS, *self._sound.options, "-o", "trials", "trials.cpp", *self._sound.objects]
        return self._run(command, self._folder)

    def run(self, tried: str, *, alone: bool) -> str:
        """The tests that are left, some at a time: some wait for what never comes."""
        settings = {"TRIED": tried, "AT_ONCE": "1" if alone else AT_ONCE}
        return self._run(["./trials"], self._folder, settings).output

    def said_of(self, said: str, number: int) -> str:
        """The lines that name a file of the trial."""
        lines = (line for line in said.split("\n") if f"t{number}/" in line)
        return "\n".join(lines)[:MOST_SAID]  # the first error leads to the others
