"""Where the files of targets go: settings of the declaration, in every target."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import BUILT_IN, STARTER, planned
from urform.declaration import read_string
from urform.languages import setting_problems, target
from urform.languages.placing import BUILD, CODE, INTO, TESTS, TESTS_IN, place_of
from urform.languages.target import File
from urform.output.folder import is_inside
from urform.plan import build, claims_of
from urform.plan.whole import Plan


def settled(name: str, settings: Mapping[str, str]) -> Plan:
    plan, _ = planned(STARTER)
    return replace(plan, settings={name: settings})


def files(name: str, plan: Plan) -> Iterator[File]:
    """The files that a target writes, where the plan wants them."""
    pieces = target(name).pieces(plan, claims_of(plan))
    return target(name).placed(plan, (piece for piece in pieces if isinstance(piece, File)))


def paths(name: str, settings: Mapping[str, str]) -> dict[str, set[str]]:
    """The paths of a target's files, by part."""
    by_part: dict[str, set[str]] = {}
    for file in files(name, settled(name, settings)):
        by_part.setdefault(file.part, set()).add(file.path)
    return by_part


@pytest.mark.parametrize("name", BUILT_IN)
def test_what_is_not_said_is_as_the_language_has_it(name: str) -> None:
    parts = paths(name, {})
    assert set(parts) == {CODE, TESTS, BUILD}
    emission = target(name).emit(settled(name, {}), claims_of(settled(name, {})))
    assert {path for part in parts.values() for path in part} == {file.path for file in emission.files}


@pytest.mark.parametrize("name", BUILT_IN)
def test_a_part_can_be_left_out(name: str) -> None:
    whole = paths(name, {})
    assert paths(name, {"project": "none"}) == {part: whole[part] for part in (CODE, TESTS)}
    without = paths(name, {"tests": "none"})
    assert without == {part: whole[part] for part in (CODE, BUILD)}


@pytest.mark.parametrize("name", [name for name in BUILT_IN if name != "go"])
def test_a_part_can_be_elsewhere(name: str) -> None:
    whole, moved = paths(name, {}), paths(name, {"code": "lib/own", "tests": "spec"})
    homes = target(name).homes(settled(name, {}))
    for part, folder in ((CODE, "lib/own"), (TESTS, "spec")):
        home = f"{homes[part]}/" if homes.get(part) else ""
        assert moved[part] == {f"{folder}/{path.removeprefix(home)}" for path in whole[part]}
    assert moved[BUILD] == whole[BUILD]


def test_a_package_of_go_is_a_folder_of_its_module() -> None:
    whole, moved = (
        paths("go", {}),
        paths("go", {"module": "harbour.example/all", "package": "internal/fairway"}),
    )
    for part in (CODE, TESTS):
        assert moved[part] == {f"internal/fairway/{path}" for path in whole[part]}
    assert moved[BUILD] == {"go.mod"}


@pytest.mark.parametrize(
    ("name", "settings", "path"),
    [
        ("python", {"package": "varrow.fairway"}, "varrow/fairway/__init__.py"),
        ("python", {"package": "varrow.fairway"}, "tests/varrow_fairway_claims/shared.py"),
        ("java", {"package": "harbour.fairway"}, "src/main/java/harbour/fairway/Mark.java"),
        ("cpp", {"namespace": "varrow::fairway"}, "include/varrow/fairway/mark.hpp"),
        ("cpp", {"namespace": "varrow::class"}, "include/varrow/class_/mark.hpp"),
        ("cpp", {"code": ".", "tests": "."}, "beacon_test.cpp"),
    ],
)
def test_names_are_folders(name: str, settings: Mapping[str, str], path: str) -> None:
    assert path in {path for part in paths(name, settings).values() for path in part}


@pytest.mark.parametrize("name", BUILT_IN)
def test_alone_a_project_has_everything_where_its_toolchain_looks(name: str) -> None:
    """Whatever the declaration says: `verify` and `challenge` work on it."""
    settings = {
        "into": "../there",
        "code": "a",
        "tests": "none",
        "project": "none",
        "package": "internal/fairway",
    }
    if name != "go":
        del settings["package"]
    plan = settled(name, settings)
    emission = target(name).emit(plan, claims_of(plan))
    expected = target(name).emit(settled(name, {}), claims_of(plan))
    assert [file.path for file in emission.files] == [file.path for file in expected.files]
    assert {file.part for file in emission.files} == {CODE, TESTS, BUILD}


def test_typescript_finds_the_code_from_the_tests() -> None:
    plan = settled("typescript", {"code": "src/marks", "tests": "test/marks"})
    texts = {file.path: file.text for file in files("typescript", plan)}
    assert 'from "../../src/marks/index.js"' in texts["test/marks/shared.ts"]


PLACES = st.text("ab./\\-~ :*\n", max_size=12)


@given(PLACES)
def test_a_folder_that_is_taken_stays_in_the_project(text: str) -> None:
    if TESTS_IN.pattern.fullmatch(text) and text != ".":
        folder = place_of({"tests": text}, {}).folders[TESTS]
        assert folder is None or is_inside(folder)
    if INTO.pattern.fullmatch(text):
        assert not text.startswith("/")
        assert "\\" not in text
        assert "" not in text.split("/")


@pytest.mark.parametrize(
    ("settings", "wrong"),
    [
        ("java: {into: ../service, code: src/main/java, tests: none, project: none}", []),
        ("java: {into: /service}", ["into"]),
        ("java: {code: ../elsewhere}", ["code"]),
        ("java: {project: some}", ["project"]),
        ("go: {tests: none, package: internal/fairway}", []),
        ("go: {tests: there}", ["tests"]),
        ("go: {code: there}", ["code"]),
        ("python: {package: varrow.fairway, tests: tests/fairway}", []),
        ("python: {package: varrow.fairway, tests: tests/varrow}", ["tests"]),
        ("python: {package: varrow.class}", ["package"]),
        ('typescript: {package: "@varrow/fairway"}', []),
        ("typescript: {package: Fairway Marks}", ["package"]),
        ("rust: {crate: varrow-fairway}", []),
        ('cpp: {namespace: "varrow::fairway"}', []),
        ('cpp: {namespace: "varrow:fairway"}', ["namespace"]),
    ],
)
def test_settings_are_checked(settings: str, wrong: list[str]) -> None:
    reading = read_string(
        f"urform: 1\nname: fairway\ntargets:\n  {settings}\nproducts:\n  Mark: {{required: {{station: integer}}}}\n"
    )
    assert reading.declaration is not None, reading.problems
    problems = setting_problems(reading.declaration)
    assert len(problems) == len(wrong), problems
    assert all(option in problem.message for option, problem in zip(wrong, problems, strict=True))
    if not wrong:
        assert build(reading.declaration).settings
