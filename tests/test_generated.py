"""What is generated: golden files for one declaration in all targets, and every fixture with the real tools.

The contract test of targets: whatever target is registered runs through the same declarations.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import pytest
import yaml

from tests.conftest import DEMO, SOME_IDS, SOME_OF_TODAY, STARTER, emitted, planned
from tests.targets import Strictly, tools
from urform.languages import known_targets, target
from urform.languages.target import Emission, File, Trial
from urform.languages.target import TestAddress as Address
from urform.languages.target import TestResult as Result
from urform.output.writing import write_project
from urform.plan.script import Claim
from urform.verification.processes import Processes
from urform.verification.results import HELD, PASSED
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
    words = {file.path: " ".join(file.text.replace("//", " ").split()) for file in emission.files}
    assert [address.claim for address in emission.tests if address.claim not in words[address.file]] == []


def test_each_file_names_urform_and_the_declaration(valid: Path, target_name: str) -> None:
    for file in emitted(valid, target_name).files:
        if not file.users and file.text and file.path != "go.mod":
            head = "".join(file.text.splitlines(keepends=True)[:3])
            assert "Urform" in head, file.path
            assert valid.name in head, file.path


@pytest.mark.slow
def test_emitting_again_gives_the_same(valid: Path, target_name: str) -> None:
    again = target(target_name).emit(*planned(valid))
    assert again == emitted(valid, target_name)


# --- with the real tools ----------------------------------------------------------------------------------


@pytest.mark.toolchain
def test_every_fixture_verifies_in_every_target(valid: Path, tmp_path: Path) -> None:
    plan, claims = planned(valid)
    targets = [target(name) for name in known_targets()]
    result = verify(plan, claims, targets, into=tmp_path, processes=Strictly())
    assert [(run.target, run.missing, run.broke) for run in result.runs if run.missing or run.broke] == []
    bad = [
        (c.id, t, o) for c in result.claims for t, o in c.outcomes.items() if o.state not in (PASSED, HELD)
    ]
    assert bad == []
    assert sum(result.count(run.target, PASSED) for run in result.runs) > 0


@pytest.mark.toolchain
@pytest.mark.parametrize(("path", "name"), SOME_OF_TODAY, ids=SOME_IDS)
def test_formatters_and_checkers_have_nothing_to_say(path: Path, name: str, tmp_path: Path) -> None:
    """Of sources, tests and the walk-through, which is asked for."""
    example = target(name).example(planned(path)[0])
    write_project(tmp_path, [*emitted(path, name).files, *example])
    assert tools(name).lint(tmp_path) == ""


# --- one line broken by hand ------------------------------------------------------------------------------

RUN = Processes().run


@dataclass(frozen=True)
class Broken:
    """A line of generated code, what stands there instead, and the claim that fails for it."""

    file: str  # its name
    line: str
    instead: str
    claim: str

    def found(self, emission: Emission) -> File:
        """The file of the demo that it stands in; tests may be called like what they test."""
        (file,) = [
            file
            for file in emission.files
            if file.path.rpartition("/")[2] == self.file and not {"test", "tests"} & {*file.path.split("/")}
        ]
        return file

    def within(self, text: str) -> str:
        assert self.line in text, self
        return text.replace(self.line, self.instead)

    def address(self, emission: Emission) -> Address:
        (address,) = [address for address in emission.tests if address.claim == self.claim]
        return address


BROKEN = {
    target_name: [Broken(*entry) for entry in entries]
    for target_name, entries in yaml.safe_load((Path(__file__).parent / "broken.yaml").read_text()).items()
}


def test_every_group_is_broken_once_in_every_target(target_name: str) -> None:
    """The table leaves out no group that a target tests; what is held has no test to fail."""
    tested = {address.claim.partition("/")[0] for address in emitted(DEMO, target_name).tests}
    assert {broken.claim.partition("/")[0] for broken in BROKEN[target_name]} == tested


def with_broken_claims(target_name: str) -> Emission:
    """The demo with the tests of those claims only: the others take their time to compile, and are not looked at."""
    plan, claims = planned(DEMO)
    looked_at = {broken.claim for broken in BROKEN[target_name]}
    return target(target_name).emit(plan, tuple(claim for claim in claims if claim.id in looked_at))


@pytest.mark.toolchain
def test_a_broken_line_fails_its_claim(target_name: str, tmp_path: Path) -> None:
    """Each line by itself: the test of its claim fails, and not because nothing compiles."""
    emission = with_broken_claims(target_name)
    write_project(tmp_path, emission.files)
    toolchain = target(target_name).toolchain
    assert toolchain.prepare(tmp_path, emission, RUN) == ""
    trials = [
        Trial(number, {file.path: broken.within(file.text)}, (broken.address(emission),))
        for number, broken in enumerate(BROKEN[target_name])
        for file in [broken.found(emission)]
    ]
    tried = {found.number: found for found in toolchain.try_all(tmp_path, emission, trials, RUN)}
    assert [
        (trial.tests[0].claim, tried[trial.number])
        for trial in trials
        if tried[trial.number].failed != {trial.tests[0].name}
    ] == []


@pytest.mark.toolchain
def test_failures_point_at_their_tests(target_name: str, tmp_path: Path) -> None:
    """Many lines at once: each failure tells its place, and what was expected and found there."""
    emission = with_broken_claims(target_name)
    failed: dict[str, Result] = {}
    left = BROKEN[target_name]
    for number in range(len(left)):
        project = tmp_path / str(number)
        write_project(project, emission.files)
        for broken in left:
            path = project / broken.found(emission).path
            text = path.read_text(encoding="utf-8")
            path.write_text(text.replace(broken.line, broken.instead), encoding="utf-8")
        ran = target(target_name).toolchain.test(project, emission, RUN)
        failed |= {result.name: result for result in ran.results if not result.passed and not result.skipped}
        before, left = left, [each for each in left if each.address(emission).name not in failed]
        assert len(left) < len(before), (left, ran.broke)
        if not left:  # what one line hides of another is seen without it
            break
    vague = [
        (address.claim, result)
        for address in (broken.address(emission) for broken in BROKEN[target_name])
        for result in [failed[address.name]]
        if not result.file
        or not address.file.endswith(result.file)
        or result.line == 0
        or result.expected == result.found
    ]
    assert vague == []


def test_claims_are_data(valid: Path) -> None:
    _, claims = planned(valid)
    assert all(isinstance(claim, Claim) and claim.cases for claim in claims)
