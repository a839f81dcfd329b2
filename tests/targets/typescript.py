"""TypeScript: prettier, tsc in its strict settings, node:test."""

from __future__ import annotations

import os
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from tests.targets import HERE, ByHand, Project, Tools, tool, wanting
from urform.languages import target
from urform.languages.typescript.toolchain import Node
from urform.output.writing import write_project
from urform.verification.processes import Processes

PRETTIER = "3.10.1"
TESTS = r'^test\("([^"]+)"'


@cache
def prettier() -> str:
    """The formatter, fetched once into the cache beside the compiler."""
    from platformdirs import user_cache_path

    place = user_cache_path("urform") / f"prettier-{PRETTIER}"
    command = place / "node_modules/.bin/prettier"
    if not command.exists():
        place.mkdir(parents=True, exist_ok=True)
        (place / "package.json").write_text('{"private": true}\n', encoding="utf-8")
        status, output = tool(
            "npm", "install", "--no-audit", "--no-fund", f"prettier@{PRETTIER}", folder=place
        )
        assert status == 0, output
    return str(command)


def unformatted(folder: Path) -> str:
    status, output = tool(prettier(), "--list-different", ".", folder=folder)
    return output if status else ""


def lint(folder: Path) -> str:
    toolchain = target("typescript").toolchain
    assert isinstance(toolchain, Node)
    compiled = toolchain.compiled(folder, Processes().run, "unused", "--noEmit")
    return unformatted(folder) + (compiled.output + compiled.errors if compiled.status else "")


def check(batch: Sequence[Project], folder: Path) -> list[str]:
    complaints: list[str] = []
    passed: dict[str, set[str]] = {}
    for project in batch:
        place = folder / project.name
        write_project(place, project.emission.files)
        ran = target("typescript").toolchain.test(place, project.emission, Processes().run)
        complaints += [f"{project.name}: {ran.broke}"] if ran.broke else []
        complaints += [f"{project.name}: {r.name}: {r.message}" for r in ran.results if not r.passed]
        passed[project.name] = {result.name for result in ran.results if result.passed}
    different = unformatted(folder)
    return wanting(batch, passed, complaints + ([f"prettier would change {different}"] if different else []))


TOOLS = Tools(
    own_file=os.path.join("src", "mark-operations.ts"),
    stub="buoyChartLabel(",
    comment="//",
    lint=lint,
    check=check,
    answer='return "floating mark";',
    wrong={
        "another": 'return "sunken mark";',
        "nonsense": "return ) floating;",
        "crash": "process.exit(7);",
        "hang": "for (;;);",
    },
    by_hand=(
        ByHand(
            "starter",
            "test/check.test.ts",
            HERE / "support/check.test.ts",
            "../src",
            TESTS,
            support=(
                "src/check.ts",
                "src/dates.ts",
                "src/times.ts",
                "src/instants.ts",
                "src/durations.ts",
                "src/decimals.ts",
                "src/uuids.ts",
            ),
        ),
        ByHand("fairway", "test/client.test.ts", HERE / "clients/client.test.ts", "../src", TESTS),
        ByHand("chains", "test/chains.test.ts", HERE / "clients/chains.test.ts", "../src", TESTS),
        ByHand("own", "test/own.test.ts", HERE / "clients/own.test.ts", "../src", TESTS),
        ByHand("early", "test/early.test.ts", HERE / "clients/early.test.ts", "../src", TESTS),
        ByHand("texts", "test/texts.test.ts", HERE / "clients/texts.test.ts", "../src", TESTS),
        ByHand("when", "test/days.test.ts", HERE / "clients/days.test.ts", "../src", TESTS),
        ByHand("tides", "test/tides.test.ts", HERE / "clients/tides.test.ts", "../src", TESTS),
        ByHand("lookout", "test/instants.test.ts", HERE / "clients/instants.test.ts", "../src", TESTS),
    ),
    records=ByHand(
        "records", "test/of_a_file.test.ts", HERE / "clients/records/of_a_file.test.ts", "../src", TESTS
    ),
    impossible=frozenset({"pool-unguarded", "pool-hits-wait"}),
)
