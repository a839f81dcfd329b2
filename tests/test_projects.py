"""Into projects that exist: each has its own build file, its own code that uses what is generated, and its own tests.

A declaration is generated into it, and the project's own command builds and tests all of it.
"""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from collections.abc import Callable, Mapping
from pathlib import Path

import pytest

from tests.conftest import HERE, ROOT, Run, is_of_today
from urform.languages import target
from urform.languages.typescript.toolchain import Node

PROJECTS = HERE / "projects"
DECLARATIONS = ("marks", "tides")
PYTEST = (sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider")
# The commands of each project, as its people type them, and the folders that they leave behind.
COMMANDS: Mapping[str, tuple[tuple[str, ...], ...]] = {
    "python": (PYTEST,),
    "java": (("mvn", "-q", "-B", "test"),),
    "go": (("go", "vet", "./..."), ("go", "test", "./...")),
    "typescript": (("npm", "test"),),
    "rust": (("cargo", "test", "--offline", "--quiet"),),
    "cpp": (
        ("cmake", "-S", ".", "-B", "build"),
        ("cmake", "--build", "build"),
        ("ctest", "--test-dir", "build", "--no-tests=error"),
    ),
}
# What the second time is asked for besides: the libraries as shared ones, which hide what they do not export.
SECOND: Mapping[str, Mapping[tuple[str, ...], tuple[str, ...]]] = {
    "cpp": {("cmake", "-S", ".", "-B", "build"): ("-DBUILD_SHARED_LIBS=ON",)}
}
LEFT_BEHIND = {"__pycache__", "target", "dist", "node_modules", "build", "Cargo.lock"}


@pytest.fixture
def projects(tmp_path: Path) -> Path:
    """The projects as they were before."""
    place = tmp_path / "projects"
    shutil.copytree(PROJECTS, place, ignore=shutil.ignore_patterns(*LEFT_BEHIND))
    return place


def files(folder: Path) -> dict[str, bytes]:
    """Every file, but for what tools leave behind."""
    return {
        path.relative_to(folder).as_posix(): path.read_bytes()
        for path in sorted(folder.rglob("*"))
        if path.is_file() and not LEFT_BEHIND & {*path.relative_to(folder).parts}
    }


def test_every_target_has_a_project(target_name: str) -> None:
    assert target_name in COMMANDS
    assert any((PROJECTS / target_name).rglob("*")), target_name


def test_a_project_keeps_what_was_there(urform: Callable[..., Run], projects: Path) -> None:
    before = files(projects)
    for name in DECLARATIONS:
        assert urform("generate", folder=projects / "declarations", environment={}).status == 2, "which?"
        done = urform("generate", f"{name}.urform.yaml", folder=projects / "declarations")
        assert done.status == 0, done.err
    after = files(projects)
    assert {path: after[path] for path in before} == before
    new = [path for path in after if path not in before and not path.endswith("/.urform.json")]
    places = {path.rpartition("/")[0] for path in new}
    assert {"python/src/varrow/marks", "python/tests/marks", "python/src/varrow/tides"} <= places
    assert {"java/src/main/java/harbour/varrow/marks", "java/src/test/java/harbour/varrow/marks"} <= places
    assert {"go/internal/marks", "typescript/src/marks", "typescript/test/marks"} <= places
    assert {"rust/marks/src", "rust/marks/tests/claims", "cpp/marks/include/varrow/marks"} <= places
    assert not any(path.startswith("cpp/marks/tests") for path in new), "its tests are left out"


@pytest.mark.toolchain
@pytest.mark.parametrize("language", [name for row, name in enumerate(COMMANDS) if is_of_today(row, 2)])
def test_the_project_builds_with_its_own_command(
    language: str, urform: Callable[..., Run], projects: Path
) -> None:
    """Twice, with nothing left over; and what is generated again is as it was."""
    if language == "typescript":
        _install(projects / language)
    for name in DECLARATIONS:
        status = urform("generate", f"{name}.urform.yaml", folder=projects / "declarations").status
        assert status == 0
    before = files(projects)
    environment = {**os.environ, "PYTHONDONTWRITEBYTECODE": "1", "PYTEST_ADDOPTS": ""}
    for more in ({}, SECOND.get(language, {})):
        for command in COMMANDS[language]:
            done = subprocess.run(
                (*command, *more.get(command, ())),
                cwd=projects / language,
                env=environment,
                capture_output=True,
                text=True,
                check=False,
            )
            assert done.returncode == 0, done.stdout + done.stderr
    assert files(projects) == before
    again = urform("generate", "marks.urform.yaml", "--check", folder=projects / "declarations")
    assert again.status == 0, again.err


def _install(project: Path) -> None:
    """The compiler that Urform has fetched already: the project's own command installs the same."""
    toolchain = target("typescript").toolchain
    assert isinstance(toolchain, Node)
    (project / "node_modules").symlink_to(toolchain.modules)


def test_the_page_shows_what_the_projects_have() -> None:
    """Every block of it stands in the file that it names, and every project is on it."""
    page = (ROOT / "docs/projects.md").read_text(encoding="utf-8")
    blocks = re.findall(r"^```\w+ (\S+)\n(.*?)^```$", page, re.DOTALL | re.MULTILINE)
    assert len(blocks) == page.count("```") // 2
    for path, block in blocks:
        assert block in (PROJECTS / path).read_text(encoding="utf-8"), path
    declared = (PROJECTS / "declarations/marks.urform.yaml").read_text(encoding="utf-8")
    for name in COMMANDS:
        (line,) = re.findall(rf"^  {name}: .*\n", declared, re.MULTILINE)
        assert line in page, name
