"""What toolchains make of what test runners wrote, without running any: recorded, cut off, or nothing at all."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, ROOT, STARTER, emitted
from tests.recordings import HOWS, KEPT, SOUND, Process, played, recorded
from urform.languages.target import Ran

CLAIM = "answer/Buoy.chart_label"
CUTS = 12


def name_of_the_test(target_name: str) -> str:
    return next(address.name for address in emitted(STARTER, target_name).tests if address.claim == CLAIM)


def is_green(ran: Ran, target_name: str) -> bool:
    passed = {result.name for result in ran.results if result.passed and not result.skipped}
    return not ran.broke and passed >= {address.name for address in emitted(STARTER, target_name).tests}


@pytest.mark.parametrize("how", HOWS)
def test_what_a_runner_wrote_is_understood(target_name: str, how: str, tmp_path: Path) -> None:
    """As it was when it was recorded and looked at."""
    kept = recorded(target_name, how)
    ran = played(target_name, kept.processes, tmp_path)
    assert ran == kept.ran
    assert is_green(ran, target_name) is (how == SOUND)
    own = [result for result in ran.results if result.name == name_of_the_test(target_name)]
    assert how == SOUND or not any(result.passed for result in own)


def test_a_wrong_answer_is_told_with_both_sides(target_name: str, tmp_path: Path) -> None:
    ran = played(target_name, recorded(target_name, "another").processes, tmp_path)
    (failed,) = [result for result in ran.results if not result.passed]
    assert "floating mark" in failed.expected
    assert "sunken mark" in failed.found
    assert failed.file
    assert failed.line > 0


def cut(process: Process, part: float) -> Process:
    """A process that was stopped in the middle of its work, as far as it had come."""
    reports = {path: text[: int(len(text) * part)] for path, text in process.reports.items()}
    return replace(process, output=process.output[: int(len(process.output) * part)], reports=reports)


@pytest.mark.parametrize("number", range(CUTS))
def test_what_is_cut_off_is_no_pass(target_name: str, number: int, tmp_path: Path) -> None:
    *others, last = recorded(target_name, SOUND).processes
    ran = played(target_name, [*others, cut(replace(last, status=None), number / CUTS)], tmp_path)
    assert not is_green(ran, target_name)


@pytest.mark.parametrize("status", [0, 1, None])
def test_a_tool_that_says_nothing_is_no_pass(target_name: str, status: int | None, tmp_path: Path) -> None:
    silent = [
        Process(process.program, status, "", "", False) for process in recorded(target_name, SOUND).processes
    ]
    ran = played(target_name, silent, tmp_path)
    assert not is_green(ran, target_name)
    assert not any(result.passed for result in ran.results)


def test_nothing_is_recorded_in_vain() -> None:
    there = {path.relative_to(KEPT).as_posix() for path in KEPT.rglob("*.json")}
    assert there == {f"{name}/{how}.json" for name in BUILT_IN for how in HOWS}


def test_no_recording_knows_its_machine() -> None:
    """Whatever clone it was recorded from, and wherever its interpreter stood."""
    told = {path: path.read_text(encoding="utf-8").replace("\\n", "\n") for path in KEPT.rglob("*.json")}
    assert told
    assert [path for path, text in told.items() if str(ROOT) in text] == []
    packages = {place for text in told.values() for place in re.findall(r"[\w./-]+/site-packages", text)}
    assert packages, "pytest tells where it stands when nothing can be imported"
    # What broke is told by its end, which may begin within a path.
    assert {place for place in packages if not "/urform/.venv/".endswith(place.partition("lib/")[0])} == set()
    assert not any("/.pyenv/" in text for text in told.values())
