"""Python: ruff, mypy, pytest."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from tests.targets import BIN, HERE, ByHand, Project, Tools, said, tool, wanting
from urform.languages import target
from urform.output.writing import write_project
from urform.verification.processes import Processes

RUFF, MYPY = str(BIN / "ruff"), str(BIN / "mypy")


def lint(folder: Path) -> str:
    formatted = said(RUFF, "format", "--check", "-q", ".", folder=folder)
    checked = said(RUFF, "check", "-q", ".", folder=folder)
    typed = "".join(
        said(MYPY, "--strict", "--no-error-summary", *part, folder=folder)
        for part in ([["."]] if not (folder / "examples").exists() else [["examples"]])
    )
    return formatted + checked + typed


def check(batch: Sequence[Project], folder: Path) -> list[str]:
    complaints: list[str] = []
    passed: dict[str, set[str]] = {}
    for project in batch:
        place = folder / project.name
        write_project(place, project.emission.files)
        ran = target("python").toolchain.test(place, project.emission, Processes().run)
        complaints += [f"{project.name}: {ran.broke}"] if ran.broke else []
        complaints += [f"{project.name}: {r.name}: {r.message}" for r in ran.results if not r.passed]
        passed[project.name] = {result.name for result in ran.results if result.passed}
    for command in (("format", "--check", "-q"), ("check", "-q")):
        status, output = tool(RUFF, *command, ".", folder=folder)
        complaints += [output or "ruff format would change something"] if status else []
    packages = [path.parent.relative_to(folder) for path in sorted(folder.glob("*/*/py.typed"))]
    aside = folder / "packages"
    aside.mkdir()
    for package in packages:  # each beside the others, for their tests are all called alike
        (folder / package).rename(aside / package.name)
    status, output = tool(MYPY, "--strict", "--no-error-summary", ".", folder=aside)
    return wanting(batch, passed, complaints + ([output] if status else []))


TOOLS = Tools(
    own_file="harbour/mark_operations.py",
    stub="NotImplementedError",
    comment="#",
    lint=lint,
    check=check,
    answer='return "floating mark"',
    wrong={
        "another": 'return "sunken mark"',
        "nonsense": "return ) floating",
        "crash": '__import__("os")._exit(7)',
        "hang": "while True: pass",
    },
    by_hand=(
        ByHand(
            "fairway",
            "tests/test_client.py",
            HERE / "clients/client.py",
            "fairway",
            r"def (test_\w+)",
            support=("fairway/checks.py",),
        ),
        ByHand("chains", "tests/test_chains.py", HERE / "clients/chains.py", "chains", r"def (test_\w+)"),
        ByHand("own", "tests/test_own.py", HERE / "clients/own.py", "own", r"def (test_\w+)"),
        ByHand("early", "tests/test_early.py", HERE / "clients/early.py", "early", r"def (test_\w+)"),
        ByHand("texts", "tests/test_texts.py", HERE / "clients/texts.py", "texts", r"def (test_\w+)"),
        ByHand("when", "tests/test_days.py", HERE / "clients/days.py", "when", r"def (test_\w+)"),
        ByHand("tides", "tests/test_tides.py", HERE / "clients/tides.py", "tides", r"def (test_\w+)"),
        ByHand(
            "lookout", "tests/test_instants.py", HERE / "clients/instants.py", "lookout", r"def (test_\w+)"
        ),
    ),
    records=ByHand(
        "records",
        "tests/test_of_a_file.py",
        HERE / "clients/records/of_a_file.py",
        "logbook",
        r"def (test_\w+)",
    ),
)
