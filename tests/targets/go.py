"""Go: gofmt, go vet, go test."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path

from tests.targets import HERE, ByHand, Project, Tools, said, tool, wanting
from urform.output.writing import write_project

TESTS = r"func (Test\w+)"


def lint(folder: Path) -> str:
    return said("gofmt", "-s", "-l", ".", folder=folder) + said("go", "vet", "./...", folder=folder)


def check(batch: Sequence[Project], folder: Path) -> list[str]:
    (folder / "go.mod").write_text("module batch\n\ngo 1.24\n", encoding="utf-8")
    of_package: dict[str, str] = {}
    for project in batch:
        module = project.name.replace("_", "")
        of_package[f"batch/{module}"] = project.name
        write_project(folder / module, (file for file in project.emission.files if file.path != "go.mod"))
    _, unformatted = tool("gofmt", "-l", ".", folder=folder)
    status, vetted = tool("go", "vet", "./...", folder=folder)
    complaints = [f"gofmt would change {unformatted}"] if unformatted else []
    complaints += [vetted] if status else []
    status, output = tool("go", "test", "-json", "./...", folder=folder)
    events = [json.loads(line) for line in output.splitlines() if line.startswith("{")]
    passed: dict[str, set[str]] = {}
    for event in events:
        if "Test" in event and event["Action"] == "pass":
            passed.setdefault(of_package[event["Package"]], set()).add(event["Test"])
    failing = {(e["Package"], e.get("Test")) for e in events if e["Action"] == "fail"}
    complaints += [
        e["Output"] for e in events if e["Action"] == "output" and (e["Package"], e.get("Test")) in failing
    ]
    complaints += [e["Output"] for e in events if e["Action"] == "build-output"]
    return wanting(batch, passed, complaints)


TOOLS = Tools(
    own_file="mark_operations.go",
    stub="Buoy) ChartLabel()",
    comment="//",
    lint=lint,
    check=check,
    answer='return "floating mark"',
    wrong={
        "another": 'return "sunken mark"',
        "nonsense": "return 3",
        "crash": "go func() { panic(7) }(); select {}",
        "hang": "for {}",
    },
    by_hand=(
        ByHand(
            "starter",
            "values_test.go",
            HERE / "support/values_test.go",
            "harbour",
            TESTS,
            support=("values.go",),
        ),
        ByHand(
            "fairway",
            "client_test.go",
            HERE / "clients/client_test.go",
            "fairway",
            TESTS,
            support=("values.go", "builders.go"),
        ),
        ByHand("fairway", "kind_test.go", HERE / "clients/kind_test.go", "fairway", TESTS),
        ByHand("chains", "chains_test.go", HERE / "clients/chains_test.go", "chains", TESTS),
        ByHand("own", "own_test.go", HERE / "clients/own_test.go", "own", TESTS),
        ByHand("early", "early_test.go", HERE / "clients/early_test.go", "early", TESTS),
        ByHand("texts", "texts_test.go", HERE / "clients/texts_test.go", "texts", TESTS),
        ByHand("when", "days_test.go", HERE / "clients/days_test.go", "when", TESTS),
        ByHand("tides", "tides_test.go", HERE / "clients/tides_test.go", "tides", TESTS),
        ByHand("lookout", "instants_test.go", HERE / "clients/instants_test.go", "lookout", TESTS),
    ),
    records=ByHand(
        "records", "of_a_file_test.go", HERE / "clients/records/of_a_file_test.go", "logbook", TESTS
    ),
    impossible=frozenset({"single-again"}),
)
