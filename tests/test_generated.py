"""What is generated: golden files for one declaration in all targets, and every fixture with the real tools.

The contract test of targets: whatever target is registered runs through the same declarations.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
import yaml

from tests.conftest import DEMO, STARTER, emitted, planned
from tests.targets import tools
from urform.languages import known_targets, target
from urform.output.writing import write_project
from urform.plan.script import Claim
from urform.verification.processes import Processes
from urform.verification.results import HELD, PASSED, Verification
from urform.verification.verify import verify


def test_golden_files(target_name: str, expected: Callable[[str, str], None]) -> None:
    """One short declaration, all its targets side by side."""
    for file in emitted(STARTER, target_name).files:
        expected(f"generated/{target_name}/{file.path}", file.text)


def test_no_golden_file_is_left_over(target_name: str, request: pytest.FixtureRequest) -> None:
    root = Path(__file__).parent / "expected/generated" / target_name
    there = {str(path.relative_to(root)) for path in root.rglob("*") if path.is_file()}
    assert there == {file.path for file in emitted(STARTER, target_name).files}


def test_every_claim_is_tested_or_held(valid: Path, target_name: str) -> None:
    _, claims = planned(valid)
    emission = emitted(valid, target_name)
    tested = {address.claim for address in emission.tests}
    assert tested.isdisjoint(emission.held)
    assert tested | set(emission.held) == {claim.id for claim in claims}
    assert emission.unsupported == ()


def test_names_of_tests_and_files_are_unique(valid: Path, target_name: str) -> None:
    emission = emitted(valid, target_name)
    paths = [file.path.lower() for file in emission.files]
    names = [(address.file, address.name) for address in emission.tests]
    assert len(set(paths)) == len(paths)
    assert len(set(names)) == len(names)


def test_the_claim_stands_in_its_test(valid: Path, target_name: str) -> None:
    emission = emitted(valid, target_name)
    texts = {file.path: file.text for file in emission.files}
    assert [
        a.claim for a in emission.tests if a.claim not in " ".join(texts[a.file].replace("//", " ").split())
    ] == []


def test_each_file_names_urform_and_the_declaration(valid: Path, target_name: str) -> None:
    for file in emitted(valid, target_name).files:
        if not file.users and file.text and file.path != "go.mod":
            head = "".join(file.text.splitlines(keepends=True)[:3])
            assert "Urform" in head, file.path
            assert valid.name in head, file.path


def test_emitting_again_gives_the_same(valid: Path, target_name: str) -> None:
    again = target(target_name).emit(*planned(valid))
    assert again == emitted(valid, target_name)


# --- with the real tools ----------------------------------------------------------------------------------

_VERIFIED: dict[Path, Verification] = {}


def verified(valid: Path, folder: Path) -> Verification:
    if valid not in _VERIFIED:
        plan, claims = planned(valid)
        _VERIFIED[valid] = verify(plan, claims, [target(name) for name in known_targets()], into=folder)
    return _VERIFIED[valid]


@pytest.mark.toolchain
def test_every_fixture_verifies_in_every_target(valid: Path, tmp_path: Path) -> None:
    result = verified(valid, tmp_path)
    assert [(run.target, run.missing, run.broke) for run in result.runs if run.missing or run.broke] == []
    bad = [
        (c.id, t, o) for c in result.claims for t, o in c.outcomes.items() if o.state not in (PASSED, HELD)
    ]
    assert bad == []
    assert sum(result.count(run.target, PASSED) for run in result.runs) > 0


@pytest.mark.toolchain
def test_formatters_and_checkers_have_nothing_to_say(valid: Path, target_name: str, tmp_path: Path) -> None:
    write_project(tmp_path, emitted(valid, target_name).files)
    assert tools(target_name).lint(tmp_path) == ""


# --- one line broken by hand ------------------------------------------------------------------------------

BROKEN = [
    (target_name, *entry)
    for target_name, entries in yaml.safe_load((Path(__file__).parent / "broken.yaml").read_text()).items()
    for entry in entries
]


def test_every_group_is_broken_once_in_every_target() -> None:
    """The table above leaves out no group that a target tests; what is held has no test to fail."""
    for name in {entry[0] for entry in BROKEN}:
        tested = {address.claim.partition("/")[0] for address in emitted(DEMO, name).tests}
        assert {entry[-1].partition("/")[0] for entry in BROKEN if entry[0] == name} == tested


@pytest.mark.toolchain
@pytest.mark.parametrize(
    ("name", "file", "line", "instead", "claim"), BROKEN, ids=[f"{b[0]}-{b[4]}" for b in BROKEN]
)
def test_a_broken_line_fails_its_claim(
    name: str, file: str, line: str, instead: str, claim: str, tmp_path: Path
) -> None:
    """The claim fails that ought to, and the failure points at its test."""
    whole = emitted(DEMO, name)
    (address,) = [address for address in whole.tests if address.claim == claim]
    emission = tools(name).narrowed(whole, address)
    write_project(tmp_path, emission.files)
    (path,) = [
        tmp_path / f.path
        for f in emission.files
        if f.path.rpartition("/")[2] == file and "test/" not in f.path and "tests/" not in f.path
    ]
    text = path.read_text(encoding="utf-8")
    assert line in text
    path.write_text(text.replace(line, instead), encoding="utf-8")
    ran = target(name).toolchain.test(tmp_path, emission, Processes().run)
    failed = {result.name: result for result in ran.results if not result.passed}
    assert address.name in failed, ran.broke
    result = failed[address.name]
    assert not result.skipped
    assert address.file.endswith(result.file)
    assert result.line > 0
    assert result.expected != result.found


def test_claims_are_data(valid: Path) -> None:
    _, claims = planned(valid)
    assert all(isinstance(claim, Claim) and claim.cases for claim in claims)
