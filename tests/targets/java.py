"""Java: javac with all warnings, JUnit; the layout is a house style of 100 columns."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from tests.targets import HERE, ByHand, Project, Tools, said
from urform.languages import target
from urform.languages.target import Emission
from urform.output.writing import write_project
from urform.verification.processes import Processes

WIDTH = 100
CLIENTS = "src/main/java/harbour/varrow/fairway"
IN_PACKAGE = "src/test/java/harbour"


def lint(folder: Path) -> str:
    """What javadoc's checks of comments say; other warnings stop every verification. The width is the house style's own."""
    long = [
        f"{path.name}: {line}"
        for path in sorted(folder.rglob("*.java"))
        for line in path.read_text(encoding="utf-8").splitlines()
        if len(line) > WIDTH and not any(sign in line for sign in ('"', "class ", "*"))
    ]
    sources = [str(path.relative_to(folder)) for path in sorted((folder / "src/main").rglob("*.java"))]
    undocumented = said(
        "javac",
        "-Xdoclint:all/protected",
        "-Werror",
        "-implicit:none",
        "-d",
        "doclint",
        *sources,
        folder=folder,
    )
    return "\n".join([*long, undocumented]).strip()


def check(batch: Sequence[Project], folder: Path) -> list[str]:
    files = {file.path: file for project in batch for file in project.emission.files}
    tests = tuple(address for project in batch for address in project.emission.tests)
    write_project(folder, files.values())
    ran = target("java").toolchain.test(folder, Emission(tuple(files.values()), tests), Processes().run)
    failed = [
        f"{result.file}: {result.name}: {result.message}" for result in ran.results if not result.passed
    ]
    count = sum(result.passed for result in ran.results)
    short = [] if count == len(tests) else [f"{count} tests passed of {len(tests)}"]
    return [*([ran.broke] if ran.broke else []), *failed, *short]


TOOLS = Tools(
    own_file="src/main/java/harbour/BuoyOperations.java",
    stub="chartLabel(",
    comment="//",
    lint=lint,
    check=check,
    answer='return "floating mark";',
    wrong={
        "another": 'return "sunken mark";',
        "nonsense": "return 3;",
        "crash": "Runtime.getRuntime().halt(7); return null;",
        "hang": "while (true) {}",
    },
    by_hand=(
        ByHand(
            "starter",
            f"{IN_PACKAGE}/CheckTest.java",
            HERE / "support/CheckTest.java",
            "harbour",
            r"@Test\s+void (\w+)",
            "CheckTest.",
            support=("src/main/java/harbour/Check.java",),
        ),
        ByHand(
            "fairway",
            f"{IN_PACKAGE}/varrow/fairway/ClientTest.java",
            HERE / "clients/ClientTest.java",
            "harbour.varrow.fairway",
            r"@Test\s+void (\w+)",
            "ClientTest.",
            support=(f"{CLIENTS}/Check.java", f"{CLIENTS}/Copies.java"),
        ),
        ByHand(
            "tides",
            "src/test/java/tides/TidesTest.java",
            HERE / "clients/TidesTest.java",
            "tides",
            r"@Test\s+void (\w+)",
            "TidesTest.",
        ),
        ByHand(
            "own",
            "src/test/java/own/OwnTest.java",
            HERE / "clients/OwnTest.java",
            "own",
            r"@Test\s+void (\w+)",
            "OwnTest.",
        ),
        ByHand(
            "early",
            "src/test/java/early/EarlyTest.java",
            HERE / "clients/EarlyTest.java",
            "early",
            r"@Test\s+void (\w+)",
            "EarlyTest.",
        ),
        ByHand(
            "texts",
            "src/test/java/texts/TextsTest.java",
            HERE / "clients/TextsTest.java",
            "texts",
            r"@Test\s+void (\w+)",
            "TextsTest.",
        ),
        ByHand(
            "when",
            "src/test/java/when/DaysTest.java",
            HERE / "clients/DaysTest.java",
            "when",
            r"@Test\s+void (\w+)",
            "DaysTest.",
        ),
        ByHand(
            "lookout",
            "src/test/java/lookout/InstantsTest.java",
            HERE / "clients/InstantsTest.java",
            "lookout",
            r"@Test\s+void (\w+)",
            "InstantsTest.",
        ),
    ),
    records=ByHand(
        "records",
        "src/test/java/logbook/OfAFileTest.java",
        HERE / "clients/records/OfAFileTest.java",
        "logbook",
        r"@Test\s+void (\w+)",
        "OfAFileTest.",
    ),
    impossible=frozenset({"assignable"}),
)
