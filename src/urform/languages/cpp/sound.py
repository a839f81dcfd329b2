"""The C++ code without a fault, in a namespace of its own: compiled once, and used by all trials for what they do not change."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path

from urform.languages.target import Emission, Runner

OPTIONS = ("-std=c++20", "-O0", "-w", "-I.", "-fno-diagnostics-color", "-fmax-errors=0")
SUPPORT = "tests/support.hpp"
_FRAMEWORK = """#pragma once
#include <exception>

// What stands for the framework of the tests: whatever fails ends its test. Products may be called like anything in it.
namespace test_framework {

struct Failed {};

struct Told {
    template <class T> const Told &operator<<(const T &) const { return *this; }
};

inline Told expect(bool holds) {
    if (!holds) {
        throw Failed();
    }
    return {};
}

} // namespace test_framework

#define EXPECT_EQ(left, right) ::test_framework::expect((left) == (right))
#define EXPECT_NE(left, right) ::test_framework::expect((left) != (right))
#define EXPECT_TRUE(holds) ::test_framework::expect(holds)
#define EXPECT_FALSE(holds) ::test_framework::expect(!(holds))
"""


class Sound:
    """The sound code of a project, in a folder of its own."""

    def __init__(self, folder: Path, emission: Emission) -> None:
        self._folder = folder.resolve()
        files = {f.path: f.text for f in emission.files if f.path.endswith((".hpp", ".cpp"))}
        self.code = {path: text for path, text in files.items() if not path.startswith("tests/")}
        self.support = files.get(SUPPORT, "")
        self.stems = _by_stem(self.code)  # headers with their sources
        self._space = next(path.split("/")[1] for path in self.code if path.startswith("include/"))

    @property
    def options(self) -> tuple[str, ...]:
        """The options of a compiler that includes `sound/all.hpp`."""
        return (f"-I{self._folder}",)

    @property
    def objects(self) -> tuple[str, ...]:
        """The object files and libraries to link with."""
        return (str(self._folder / "sound.o"), "-lpthread")

    def build(self, run: Runner) -> str:
        """Write and compile it; says what broke, if anything did."""
        home = self._folder / "sound"
        home.mkdir(parents=True)
        (self._folder / "framework.hpp").write_text(_FRAMEWORK, encoding="utf-8")
        for path, text in self.code.items():
            self.put(home / Path(path).name, text, "sound", self.stems)
        self.put(home / "support.hpp", self.support, "sound", self.stems)
        headers = sorted(Path(path).name for path in self.code if path.endswith(".hpp"))
        sources = sorted(Path(path).name for path in self.code if path.startswith("src/"))
        _include(
            home / "all.hpp", ["framework.hpp", *(f"sound/{name}" for name in [*headers, "support.hpp"])]
        )
        _include(home / "all.cpp", [f"sound/{name}" for name in sources])
        done = run(["g++", *OPTIONS, "-c", "-o", "sound.o", "sound/all.cpp"], self._folder)
        return (done.output + done.errors).strip()[:2000] if done.status != 0 else ""

    def put(self, place: Path, text: str, root: str, own: Iterable[str]) -> None:
        """Write a file in a namespace; of what it includes, `own` stands in that, the rest in the sound one."""

        def included(match: re.Match[str]) -> str:
            return f'#include "{root if match[1] in own else "sound"}/{match[1]}.hpp"'

        text = re.sub(rf'#include "{self._space}/(?:\w+/)*(\w+)\.hpp"', included, text)
        text = re.sub(rf"\bnamespace {self._space}\b", f"namespace {root}", text)
        text = re.sub(rf"\b{self._space}::", f"{root}::", text)
        place.write_text(text, encoding="utf-8")


def stem_of(path: str) -> str:
    """The name that a header and its source share."""
    return Path(path).stem


def _by_stem(paths: Iterable[str]) -> dict[str, list[str]]:
    by_stem: dict[str, list[str]] = {}
    for path in paths:
        by_stem.setdefault(stem_of(path), []).append(path)
    return by_stem


def _include(place: Path, paths: Iterable[str]) -> None:
    place.write_text("".join(f'#include "{path}"\n' for path in paths), encoding="utf-8")
