"""Rust: rustfmt, clippy, cargo test."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from tests.targets import HERE, ByHand, Project, Tools, tool, wanting
from urform.languages import target
from urform.output.writing import write_project
from urform.verification.processes import Processes

DENIED = (
    "warnings",
    "clippy::must_use_candidate",
    "clippy::missing_errors_doc",
    "clippy::return_self_not_must_use",
)
TESTS = r"^#\[test\]\nfn (\w+)"


@cache
def shared() -> str:
    """Where cargo builds: beside all projects, in none of them."""
    return tempfile.mkdtemp(prefix="urform-cargo-")


def lint(folder: Path) -> str:
    roots = ["src/lib.rs", "tests/claims/main.rs"]
    roots += (
        [f"examples/{name}" for name in sorted(os.listdir(folder / "examples"))]
        if (folder / "examples").exists()
        else []
    )
    formatted, changes = tool("rustfmt", "--check", "--edition", "2021", *roots, folder=folder)
    options = ("-q", "--offline", "--all-targets", "--color", "never")
    status, said = tool(
        "cargo",
        "clippy",
        *options,
        "--",
        *(part for lint in DENIED for part in ("-D", lint)),
        folder=folder,
        environment={"CARGO_TARGET_DIR": shared()},
    )
    return (changes or "rustfmt failed") * (formatted != 0) + (said or "clippy failed") * (status != 0)


def check(batch: Sequence[Project], folder: Path) -> list[str]:
    complaints: list[str] = []
    passed: dict[str, set[str]] = {}
    for project in batch:
        place = folder / project.name
        write_project(place, project.emission.files)
        ran = target("rust").toolchain.test(place, project.emission, Processes().run)
        complaints += [f"{project.name}: {ran.broke}"] if ran.broke else []
        complaints += [f"{project.name}: {r.name}: {r.message}" for r in ran.results if not r.passed]
        passed[project.name] = {result.name for result in ran.results if result.passed}
        said = lint(place)
        complaints += [f"{project.name}: {said}"] if said else []
    return wanting(batch, passed, complaints)


TOOLS = Tools(
    own_file=os.path.join("src", "mark_operations.rs"),
    stub="buoy_chart_label(",
    comment="//",
    lint=lint,
    check=check,
    answer='"floating mark".to_owned()',
    wrong={
        "another": '"sunken mark".to_owned()',
        "nonsense": "floating)",
        "crash": "std::process::exit(7)",
        "hang": "loop {}",
    },
    by_hand=(
        ByHand(
            "starter",
            "tests/support_code.rs",
            HERE / "support/support_code.rs",
            "harbour",
            TESTS,
            support=("src/values.rs",),
        ),
        ByHand("fairway", "tests/client.rs", HERE / "clients/client.rs", "fairway", TESTS),
        ByHand("chains", "tests/chains.rs", HERE / "clients/chains.rs", "chains", TESTS),
        ByHand("own", "tests/own.rs", HERE / "clients/own.rs", "own", TESTS),
        ByHand("early", "tests/early.rs", HERE / "clients/early.rs", "early", TESTS),
        ByHand("texts", "tests/texts.rs", HERE / "clients/texts.rs", "texts", TESTS),
        ByHand("when", "tests/days.rs", HERE / "clients/days.rs", "when", TESTS),
        ByHand("tides", "tests/tides.rs", HERE / "clients/tides.rs", "tides", TESTS),
        ByHand("lookout", "tests/instants.rs", HERE / "clients/instants.rs", "lookout", TESTS),
    ),
    records=ByHand("records", "tests/of_a_file.rs", HERE / "clients/records/of_a_file.rs", "logbook", TESTS),
    impossible=frozenset({"single-again"}),
)
