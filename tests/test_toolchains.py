"""What toolchains make of code that is wrong, does not compile, kills its process or never ends: the same in every target."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import STARTER, emitted
from tests.recordings import changed
from urform.declaration import read_string
from urform.languages import target
from urform.languages.target import Emission, Ran, Trial, Tried
from urform.languages.target import TestAddress as Address
from urform.output.writing import write_project
from urform.plan import build, claims_of
from urform.verification.processes import Processes
from urform.verification.verify import verify

CLAIM, OTHER = "answer/Buoy.chart_label", "answer/Beacon.chart_label"
RUN = Processes().run


def address(emission: Emission, claim: str) -> Address:
    return next(found for found in emission.tests if found.claim == claim)


def ran(name: str, folder: Path, how: str | None, seconds: float = 30) -> Ran:
    emission = emitted(STARTER, name)
    write_project(folder, emission.files)
    if how is not None:
        file = changed(name, how)
        (folder / file.path).write_text(file.text, encoding="utf-8")
    return target(name).toolchain.test(folder, emission, RUN, seconds)


@pytest.mark.toolchain
def test_sound_code_passes_and_leaves_nothing_behind(target_name: str, tmp_path: Path) -> None:
    emission = emitted(STARTER, target_name)
    result = ran(target_name, tmp_path, None)
    assert result.broke == ""
    assert {each.name for each in result.results} == {each.name for each in emission.tests}
    assert all(each.passed and not each.skipped for each in result.results)
    there = {path.relative_to(tmp_path).as_posix() for path in tmp_path.rglob("*") if path.is_file()}
    assert there - {".urform.json"} == {file.path for file in emission.files}


@pytest.mark.toolchain
def test_a_wrong_answer_fails_one_test_and_is_told(target_name: str, tmp_path: Path) -> None:
    emission = emitted(STARTER, target_name)
    result = ran(target_name, tmp_path, "another")
    assert result.broke == ""
    (failed,) = [each for each in result.results if not each.passed]
    found = address(emission, CLAIM)
    assert (failed.name, failed.file.endswith(Path(found.file).name)) == (found.name, True)
    assert "floating mark" in failed.expected
    assert "sunken mark" in failed.found
    text = (tmp_path / found.file).read_text(encoding="utf-8").splitlines()
    assert "floating mark" in text[failed.line - 1]


@pytest.mark.toolchain
def test_what_does_not_compile_is_told(target_name: str, tmp_path: Path) -> None:
    result = ran(target_name, tmp_path, "nonsense")
    assert not any(
        each.passed
        for each in result.results
        if each.name == address(emitted(STARTER, target_name), CLAIM).name
    )
    assert Path(changed(target_name, "nonsense").path).stem in result.broke


@pytest.mark.toolchain
def test_a_test_that_kills_its_process_does_not_pass(target_name: str, tmp_path: Path) -> None:
    result = ran(target_name, tmp_path, "crash")
    name = address(emitted(STARTER, target_name), CLAIM).name
    assert not any(each.passed for each in result.results if each.name == name)
    assert result.broke or any(not each.passed for each in result.results)


@pytest.mark.toolchain
def test_a_test_that_never_ends_fails_in_time_and_the_others_run(target_name: str, tmp_path: Path) -> None:
    emission = emitted(STARTER, target_name)
    result = ran(target_name, tmp_path, "hang", 3)
    assert result.broke == ""
    failed = [each for each in result.results if not each.passed]
    assert {each.name for each in result.results} == {each.name for each in emission.tests}
    assert address(emission, CLAIM).name in {each.name for each in failed}
    assert len(failed) <= 2, "no test fails that does not ask for the answer"
    for each in failed:
        assert each.message == "the test did not end within 3 s"
        assert (each.expected, each.found) == ("an end within 3 s", "none: it was stopped")


def tried(name: str, folder: Path, hows: list[str | None]) -> list[Tried]:
    emission = emitted(STARTER, name)
    write_project(folder, emission.files)
    toolchain = target(name).toolchain
    assert toolchain.prepare(folder, emission, RUN) == ""
    tests = (address(emission, CLAIM), address(emission, OTHER))
    files = [{} if how is None else {changed(name, how).path: changed(name, how).text} for how in hows]
    trials = [Trial(number, each, tests) for number, each in enumerate(files)]
    return sorted(toolchain.try_all(folder, emission, trials, RUN), key=lambda each: each.number)


@pytest.mark.toolchain
def test_trials_tell_what_noticed_them(target_name: str, tmp_path: Path) -> None:
    """Beside each other: none has to do with what another one does."""
    name = address(emitted(STARTER, target_name), CLAIM).name
    sound, another, nonsense, again = tried(target_name, tmp_path, [None, "another", "nonsense", None])
    assert (sound.failed, sound.broke, again.failed, again.broke) == (frozenset(), "", frozenset(), "")
    assert (set(another.failed), another.broke) == ({name}, "")
    assert nonsense.broke or nonsense.failed


@pytest.mark.toolchain
@pytest.mark.slow
def test_a_trial_that_kills_its_process_or_never_ends_counts_against_its_test(
    target_name: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(type(target(target_name).toolchain), "seconds_a_trial", 5)
    name = address(emitted(STARTER, target_name), CLAIM).name
    crashed, endless, sound = tried(target_name, tmp_path, ["crash", "hang", None])
    assert name in crashed.failed or crashed.broke
    assert name in endless.failed
    assert (sound.failed, sound.broke) == (frozenset(), "")


@pytest.mark.toolchain
def test_a_test_is_repeated_by_the_command_that_is_told(target_name: str) -> None:
    found = address(emitted(STARTER, target_name), CLAIM)
    told = target(target_name).toolchain.again(found)
    assert found.name.rpartition(".")[2].rpartition("/")[2] in told.replace("\\", "")


@pytest.mark.toolchain
def test_a_declaration_without_tests_is_no_accident(target_name: str) -> None:
    """Nothing is promised of a product without fields, and some test runners fail where there is no test."""
    reading = read_string("urform: 1\nname: bare\nproducts:\n  Nothing: {}\n", "bare.urform.yaml")
    assert reading.declaration is not None
    plan = build(reading.declaration)
    assert claims_of(plan) == ()
    (run,) = verify(plan, (), [target(target_name)]).runs
    assert (run.broke, run.missing) == ("", ())
