"""Tries code with faults in C++: a namespace for each trial in one program, without the test framework."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

from urform.languages.cpp.sound import OPTIONS, SUPPORT, Sound, stem_of
from urform.languages.target import Emission, Runner, Trial, Tried
from urform.languages.testing.pruning import Unit, needed

AT_ONCE = "8"  # tests that run beside each other: some wait for what never comes
_BROKEN = re.compile(r"\bt(\d+)/")
_DONE = re.compile(r"^(?P<how>begin|good|bad) (?P<number>\d+) (?P<test>[\w.]+)$", re.MULTILINE)
_WORD = re.compile(r"[A-Za-z_]\w*")
_NOT_CODE = re.compile(r'//[^\n]*|"(?:\\.|[^"\\])*"')
_DECLARED = re.compile(
    r"^(?:enum )?(?:class|struct|using) (\w+)(?! *;)|^inline [^\n(]*?(\w+)\(|^TEST\((\w+, \w+)\)",
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
    """What a piece of C++ declares and mentions."""
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


class Trials:
    """The trials of one batch."""

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
        """What came of each trial; those that do not compile are left out of the program."""
        shutil.rmtree(self._folder, ignore_errors=True)
        self._folder.mkdir()
        for trial in trials:
            self._write(trial)
        left = {trial.number: trial for trial in trials}
        while left:
            self._write_runner(list(left.values()))
            built = self._run(
                ["g++", *OPTIONS, *self._sound.options, "-o", "trials", "trials.cpp", *self._sound.objects],
                self._folder,
            )
            if built.status == 0:
                yield from self._results(list(left.values()))
                return
            said = built.output + built.errors
            numbers = {int(number) for number in _BROKEN.findall(said)}
            broken = {trial.number for trial in left.values() if _number(trial) in numbers}
            if not broken:
                yield from (Tried(number, broke=said[:2000]) for number in left)
                return
            for number in sorted(broken):
                yield Tried(number, broke=_said_of(said, _number(left[number])))
                del left[number]

    # --- writing ----------------------------------------------------------------------------------------

    def _write(self, trial: Trial) -> None:
        """What a trial changes, and what depends on that; the rest it shares with all others."""
        root = f"t{_number(trial)}"
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
        own = _dependent(units, stems) & (needed(units, wanted) | stems)
        files = [path for path in code if stem_of(path) in own]
        for path in files:
            self._sound.put(home / Path(path).name, code[path], root, own)
        support = ""
        if "errors" in own:
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

    def _write_runner(self, listed: Sequence[Trial]) -> None:
        includes = "".join(f'#include "t{_number(trial)}/all.cpp"\n' for trial in listed)
        calls = "".join(
            f'        {{{_number(trial)}, "{address.name}", t{_number(trial)}::{address.name.replace(".", "_")}}},\n'
            for trial in listed
            for address in trial.tests
        )
        text = f'{self._includes}#include "sound/all.hpp"\n{includes}{_RUNNER % (self._seconds, calls)}'
        (self._folder / "trials.cpp").write_text(text, encoding="utf-8")

    # --- running ----------------------------------------------------------------------------------------

    def _results(self, listed: Sequence[Trial]) -> Iterator[Tried]:
        """Run the program, again after a test that killed it, until every test has had its turn."""
        total = sum(len(trial.tests) for trial in listed)
        ended: dict[tuple[int, str], bool] = {}
        killed = False
        while len(ended) < total:
            tried = "".join(f";{number} {test};" for number, test in ended)
            settings = {"TRIED": tried, "AT_ONCE": "1" if killed else AT_ONCE}
            done = self._run(["./trials"], self._folder, settings)
            before = len(ended)
            running = _note(done.output, ended)
            if len(running) == 1:
                ended[running.pop()] = False
            if len(ended) == before and killed:
                break
            killed = bool(running) or killed
        for trial in listed:
            number = _number(trial)
            failed = frozenset(a.name for a in trial.tests if not ended.get((number, a.name), True))
            silent = any((number, address.name) not in ended for address in trial.tests)
            yield Tried(trial.number, failed, "the tests did not all run" if silent and not failed else "")


def _dependent(units: Mapping[str, Unit], changed: Iterable[str]) -> frozenset[str]:
    """The changed files, those that mention what they declare, and those that define what they declare."""
    dependent = set(changed)
    while True:
        names = frozenset().union(*(units[stem].declares for stem in dependent))
        more = {
            stem
            for stem, each in units.items()
            if stem not in dependent and (each.mentions & names or each.receivers & names)
        }
        if not more:
            return frozenset(dependent)
        dependent |= more


def _note(output: str, ended: dict[tuple[int, str], bool]) -> set[tuple[int, str]]:
    """What the program told of each test; gives those that were running when it ended, one of which killed it."""
    running: set[tuple[int, str]] = set()
    for match in _DONE.finditer(output):
        at = int(match["number"]), match["test"]
        if match["how"] == "begin":
            running.add(at)
        else:
            running.discard(at)
            ended[at] = match["how"] == "good"
    return running


def _number(trial: Trial) -> int:
    """The number of a trial as a part of names; that of the sound code is negative."""
    return trial.number if trial.number >= 0 else 999_999


def _said_of(said: str, number: int) -> str:
    """What the compiler said of one trial."""
    return "\n".join(line for line in said.split("\n") if f"t{number}/" in line)[:2000]
