"""`urform verify --here`: what stands where `generate` wrote it is tested, wherever the declaration wants it."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, STARTER, Urform

CLAIM = "answer/Buoy.chart_label"
PLACES = """
targets:
  python: {into: made/python, code: lib, tests: spec/harbour_claims, package: varrow.harbour, project: none}
  java: {into: made/java, code: modules/marks/src/main/java, tests: none}
  go: {into: made/go, module: harbour.example/service, package: internal/harbour}
  typescript: {into: made/typescript, code: lib/harbour, tests: spec}
  rust: {into: made/rust, code: crates/harbour/src, tests: crates/harbour/tests/claims, crate: varrow-harbour}
  cpp: {into: made/cpp, code: libs/harbour, tests: checks, namespace: 'varrow::harbour'}
"""


FILES = {  # of the tests that fail, by target: where they stand in its project
    "python": "python/spec/harbour_claims/test_buoy.py",
    "java": "java/src/test/java/harbour/BuoyTest.java",
    "go": "go/internal/harbour/buoy_test.go",
    "typescript": "typescript/spec/buoy.test.ts",
    "rust": "rust/crates/harbour/tests/claims/buoy.rs",
    "cpp": "cpp/checks/buoy_test.cpp",
}


@pytest.fixture
def placed(tmp_path: Path, urform: Urform) -> Path:
    """The starter, generated into six folders; returns the declaration."""
    path = tmp_path / "harbour.urform.yaml"
    path.write_text(STARTER.read_text(encoding="utf-8") + PLACES, encoding="utf-8")
    assert urform("generate").status == 0
    return path


def sink(project: Path) -> Path:
    """Let the buoys of a project give another answer; returns the file that was changed."""
    (changed,) = [
        path
        for path in project.rglob("*")
        if path.is_file()
        and not {"spec", "checks", "tests"} & {*path.parts}
        and "_test." not in path.name
        and '"floating mark"' in path.read_text(encoding="utf-8")
    ]
    text = changed.read_text(encoding="utf-8")
    changed.write_text(text.replace('"floating mark"', '"sunken mark"'), encoding="utf-8")
    return changed


@pytest.mark.toolchain
def test_a_hand_edit_is_found_by_its_claim(placed: Path, urform: Urform) -> None:
    before = {path: path.read_bytes() for path in placed.parent.rglob("*") if path.is_file()}
    sound = urform("verify", "--here", "--json")
    assert sound.status == 0, sound.out + sound.err
    assert {path: path.read_bytes() for path in placed.parent.rglob("*") if path.is_file()} == before

    changed = {name: sink(placed.parent / "made" / name) for name in BUILT_IN}
    done = urform("verify", "--here", "--json")
    assert done.status == 1
    for path in changed.values():
        assert f"{path.relative_to(placed.parent)}: not what is generated today" in done.err
    claims = json.loads(done.out)["claims"]
    failing = [claim for claim in claims if "failed" in claim["results"].values()]
    assert [claim["id"] for claim in failing] == [CLAIM]
    assert failing[0]["results"] == dict.fromkeys(BUILT_IN, "failed")
    files = {failure["target"]: failure["file"] for failure in failing[0]["failures"]}
    assert files == FILES


def test_nothing_there_is_told(tmp_path: Path, urform: Urform) -> None:
    (tmp_path / "harbour.urform.yaml").write_text(STARTER.read_text(encoding="utf-8"), encoding="utf-8")
    done = urform("verify", "--here", "-t", "python")
    assert done.status == 1
    assert "nothing was generated here" in done.err
    assert urform("verify", "--here", "--into", "kept").status == 2
