"""C++: clang-format, g++ with every warning an error, the tests of GoogleTest."""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from tests.targets import HERE, ByHand, Project, Strictly, Tools, tool, wanting
from urform.languages import target
from urform.output.writing import write_project

CLANG_FORMAT = "23.1.5"
WARNINGS = ("-Wall", "-Wextra", "-Wpedantic", "-Wconversion", "-Wshadow", "-Werror")
TESTS = r"^TEST\(\w+, (\w+)\)"


@cache
def clang_format() -> str:
    """The formatter, fetched once into the cache."""
    from platformdirs import user_cache_path

    place = user_cache_path("urform") / f"clang-format-{CLANG_FORMAT}"
    if not (place / "clang_format").exists():
        command = (sys.executable, "-m", "pip", "install", "-q", "--target", str(place))
        status, output = tool(*command, f"clang-format=={CLANG_FORMAT}", folder=Path.cwd())
        assert status == 0, output
    return str(place / "clang_format/data/bin/clang-format")


def lint(folder: Path) -> str:
    """What the formatter says; the compiler says its own whenever it compiles, see `strict`."""
    sources = sorted(str(path.relative_to(folder)) for path in folder.rglob("*.?pp"))
    status, changes = tool(clang_format(), "--dry-run", "--Werror", *sources, folder=folder)
    return (changes or "clang-format failed") * (status != 0)


def check(batch: Sequence[Project], folder: Path) -> list[str]:
    complaints: list[str] = []
    passed: dict[str, set[str]] = {}
    for project in batch:
        place = folder / project.name
        write_project(place, project.emission.files)
        ran = target("cpp").toolchain.test(place, project.emission, Strictly().run)
        complaints += [f"{project.name}: {ran.broke}"] if ran.broke else []
        complaints += [f"{project.name}: {r.name}: {r.message}" for r in ran.results if not r.passed]
        passed[project.name] = {result.name for result in ran.results if result.passed}
        said = lint(place)
        complaints += [f"{project.name}: {said}"] if said else []
    return wanting(batch, passed, complaints)


TOOLS = Tools(
    own_file=os.path.join("src", "mark_operations.cpp"),
    stub="Buoy::chart_label(",
    comment="//",
    lint=lint,
    strict={"g++": WARNINGS},
    check=check,
    answer='return "floating mark";',
    wrong={
        "another": 'return "sunken mark";',
        "nonsense": "return floating);",
        "crash": "std::abort();",
        "hang": "for (;;) {}",
    },
    by_hand=(
        ByHand(
            "starter",
            "tests/values_test.cpp",
            HERE / "support/values_test.cpp",
            "harbour",
            TESTS,
            "Values.",
            support=("include/harbour/values.hpp", "src/values.cpp"),
        ),
        ByHand(
            "fairway", "tests/client_test.cpp", HERE / "clients/client_test.cpp", "fairway", TESTS, "Client."
        ),
        ByHand(
            "chains", "tests/chains_test.cpp", HERE / "clients/chains_test.cpp", "chains", TESTS, "Chains."
        ),
        ByHand("own", "tests/own_test.cpp", HERE / "clients/own_test.cpp", "own", TESTS, "Own."),
        ByHand("early", "tests/early_test.cpp", HERE / "clients/early_test.cpp", "early", TESTS, "Early."),
        ByHand("texts", "tests/texts_test.cpp", HERE / "clients/texts_test.cpp", "texts", TESTS, "Texts."),
        ByHand("when", "tests/days_test.cpp", HERE / "clients/days_test.cpp", "when", TESTS, "Days."),
        ByHand("tides", "tests/tides_test.cpp", HERE / "clients/tides_test.cpp", "tides", TESTS, "Tides."),
        ByHand(
            "lookout",
            "tests/instants_test.cpp",
            HERE / "clients/instants_test.cpp",
            "lookout",
            TESTS,
            "Instants.",
        ),
    ),
    records=ByHand(
        "records",
        "tests/of_a_file_test.cpp",
        HERE / "clients/records/of_a_file_test.cpp",
        "logbook",
        TESTS,
        "OfAFile.",
    ),
    impossible=frozenset({"single-again"}),
)
