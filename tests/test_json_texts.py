"""JSON text in the languages whose standard library reads none: by the library that the declaration asks for.

The records of `test_records_of_a_file` come as text, and so do texts that nobody should send. Each project is built by its own
build file, with the library that this names.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from importlib import resources
from pathlib import Path

import pytest

from tests.conftest import HERE, VALID, planned
from tests.targets import tool
from tests.test_records_of_a_file import deep, the_file
from urform.languages import target
from urform.languages.target import File
from urform.output.writing import write_project

CLIENTS = HERE / "clients/json"
LIBRARIES = {"java": "jackson", "rust": "serde_json", "cpp": "nlohmann"}
PLACES = {
    "java": "src/test/java/logbook/OfJsonTest.java",
    "rust": "tests/of_json.rs",
    "cpp": "tests/of_json_test.cpp",
}
SOUND = '"station": 7, "position": {"lat": 1, "lon (°)": 2}'
# Texts, and what is told of each: the limits, and where.
HOSTILE: tuple[tuple[str | bytes, str], ...] = (
    (f'{{"type": "BCN", {SOUND}}}', "none "),
    (f'{{"type": "BCN", {SOUND}}} \n\t ', "none "),
    (f'{{"type": "BCN", {SOUND}, "station": 8}}', "twice station"),
    (f'{{"type": "BCN", {SOUND[:-1]}, "lat": 3}}}}', "twice position.lat"),
    (f'{{"type": "BCN", {SOUND}}}, 1', "text "),
    (f'{{"type": "BCN", {SOUND}}}}}', "text "),
    (f'{{"type": "BCN", {SOUND.replace("7", "7.0")}}}', "none "),
    (f'{{"type": "BCN", {SOUND.replace("7", "9007199254740993")}}}', "max station"),
    (f'{{"type": "BCN", {SOUND.replace("7", "9007199254740993.0")}}}', "type station"),
    (f'{{"type": "BCN", {SOUND.replace("1", "NaN")}}}', "text "),
    (f"{{'type': 'BCN', {SOUND}}}", "text "),
    (f'{{"type": "BCN", {SOUND}, }}', "text "),
    (f'{{"type": "BCN", {SOUND}, "toString": "\t"}}', "text "),
    (f'{{"type": "BCN", {SOUND}, "toString": "\\ud83d\\udedf \\u0000"}}', "none "),
    (f'/* */ {{"type": "BCN", {SOUND}}}', "text "),
    ("", "text "),
    ("nul", "text "),
    ("[]", "type "),
    ("[" * 100_000, "text "),
    ('{"a":' * 100_000, "text "),
    (b'{"type": "BCN\xff"}', "text "),
    (b'{"type": "BCN\xc3"}', "text "),
    (b"\xff\xfe{}", "text "),
)


def data_of(folder: Path) -> Path:
    """The files that the clients read."""
    data = folder / "data"
    data.mkdir()
    records, problems, texts = the_file()
    for name, node in (("records", records), ("deep", deep(250))):
        (data / f"{name}.json").write_text(json.dumps(node, ensure_ascii=False), encoding="utf-8")
    expected = {"problems": problems, "written": texts, "hostile": [told for _, told in HOSTILE]}
    for name, lines in expected.items():
        (data / f"{name}.txt").write_text("".join(f"{line}\n" for line in lines), encoding="utf-8")
    for at, (text, _) in enumerate(HOSTILE):
        (data / f"{at}.json").write_bytes(text if isinstance(text, bytes) else text.encode())
    return data


@pytest.fixture
def project(request: pytest.FixtureRequest, tmp_path: Path) -> Path:
    """A project that reads JSON text, with the client of it."""
    name: str = request.param
    (records,) = (path for path in VALID if path.name == "records.urform.yaml")
    asked = f"targets: {{{name}: {{json: {LIBRARIES[name]}}}}}\n"
    declaration = tmp_path / records.name
    declaration.write_text(asked + records.read_text(encoding="utf-8"), encoding="utf-8")
    plan, _ = planned(declaration)
    pieces = target(name).pieces(plan, ())
    files = [piece for piece in pieces if isinstance(piece, File)]
    path = PLACES[name]
    client = (CLIENTS / Path(path).name).read_text(encoding="utf-8").replace("PACKAGE", "logbook")
    text = client.replace("DATA_FOLDER", data_of(tmp_path).as_posix())
    write_project(tmp_path / "project", (*files, File(path, text)))
    return tmp_path / "project"


def run(folder: Path, *command: str, environment: Mapping[str, str] | None = None) -> str:
    status, said = tool(*command, folder=folder, environment=environment)
    assert status == 0, said[-3000:]
    return said


@pytest.mark.toolchain
@pytest.mark.slow
@pytest.mark.parametrize("project", ["rust"], indirect=True)
def test_rust_reads_it_by_serde(project: Path) -> None:
    run(project, "rustfmt", "--check", "--edition", "2021", "src/json.rs")
    run(project, "cargo", "clippy", "--quiet", "--features", "json", "--", "-D", "warnings")
    said = run(project, "cargo", "test", "--quiet", "--features", "json", "--test", "of_json")
    assert "3 passed" in said
    run(project, "cargo", "check", "--quiet", "--offline")  # which nothing asks for the library


@pytest.mark.toolchain
@pytest.mark.slow
@pytest.mark.parametrize("project", ["java"], indirect=True)
def test_java_reads_it_by_jackson(project: Path) -> None:
    said = run(project, "mvn", "-B", "test")
    assert "Tests run: 4, Failures: 0, Errors: 0, Skipped: 0" in said


@pytest.mark.toolchain
@pytest.mark.slow
@pytest.mark.parametrize("project", ["cpp"], indirect=True)
def test_cpp_reads_it_by_nlohmann(project: Path) -> None:
    library = str(resources.files("nlohmann_json") / "include")
    sources = sorted(str(path.relative_to(project)) for path in project.rglob("*.cpp"))
    text = "".join(f'#include "{path}"\n' for path in sources)
    (project / "all.cpp").write_text(text, encoding="utf-8")
    flags = ("-std=c++20", "-O0", "-Wall", "-Wextra", "-Wpedantic", "-Wconversion", "-Wshadow", "-Werror")
    sanitized = ("-fsanitize=address,undefined", "-fno-sanitize-recover=all")
    command = ("g++", *flags, *sanitized, "-Iinclude", "-I.", "-isystem", library, "-o", "all", "all.cpp")
    run(project, *command, "-lgtest", "-lgtest_main", "-lpthread")
    assert "[  PASSED  ] 3 tests" in run(project, "./all")


@pytest.mark.parametrize("name", LIBRARIES)
def test_what_is_verified_needs_no_library(name: str, tmp_path: Path) -> None:
    """A toolchain alone has none; the rest of the project stands as it is generated."""
    (records,) = (path for path in VALID if path.name == "records.urform.yaml")
    plain, _ = planned(records)
    declaration = tmp_path / records.name
    asked = f"targets: {{{name}: {{json: {LIBRARIES[name]}}}}}\n"
    declaration.write_text(asked + records.read_text(encoding="utf-8"), encoding="utf-8")
    plan, _ = planned(declaration)
    before = {file.path: file.text for file in target(name).emit(plain, ()).files}
    after = {file.path: file.text for file in target(name).emit(plan, ()).files}
    assert after.keys() == before.keys()
    changed = {path for path in before if before[path] != after[path]}
    assert changed == ({"Cargo.toml", "src/lib.rs"} if name == "rust" else set())
