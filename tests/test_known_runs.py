"""Runs that are known: told again while nothing changed that they depend on, and nothing but what passed is kept."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path
from queue import Empty, Queue
from typing import IO, Any

import pytest

from tests.conftest import ENVIRONMENT, STARTER, Run, Urform, planned
from tests.test_verdicts import Scripted, Written
from urform.verification.known_runs import KnownRuns, key_by_source
from urform.verification.known_runs import Run as Ran
from urform.verification.results import FAILED, HELD, NOT_SHOWN, PASSED, Outcome, TargetRun, Verification
from urform.verification.verify import Cache, verify

PLAN, CLAIMS = planned(STARTER)


class Counting(Scripted):
    """Counts how often its tests are run."""

    def __init__(self, *unsound: str, missing: tuple[str, ...] = ()) -> None:
        super().__init__(missing=missing, unsound=unsound)
        self.runs = 0

    def test(self, *arguments: Any, **named: Any) -> Any:
        self.runs += 1
        return super().test(*arguments, **named)


def verified(toolchain: Counting, folder: Path, source: str = "a", seconds: float = 30) -> Verification:
    target = Written(toolchain)
    cache = Cache(folder, {target.name: source})
    return verify(PLAN, CLAIMS, [target], cache=cache, seconds_a_test=seconds)


def test_what_passed_is_told_again_without_a_run(tmp_path: Path) -> None:
    first, second = Counting(), Counting()
    one, two = verified(first, tmp_path), verified(second, tmp_path)
    assert (first.runs, second.runs) == (1, 0)
    assert one.claims == two.claims
    assert [run.known for run in (*one.runs, *two.runs)] == [False, True]
    assert (two.runs[0].files, two.runs[0].lines) == (one.runs[0].files, one.runs[0].lines)


def test_the_same_files_from_another_source_need_no_run(tmp_path: Path) -> None:
    """A comment in the declaration."""
    verified(Counting(), tmp_path)
    second, third = Counting(), Counting()
    assert verified(second, tmp_path, source="b").runs[0].known
    assert verified(third, tmp_path, source="b").runs[0].known
    assert (second.runs, third.runs) == (0, 0)


def test_another_limit_of_time_needs_a_run(tmp_path: Path) -> None:
    verified(Counting(), tmp_path)
    second = Counting()
    assert not verified(second, tmp_path, seconds=1).runs[0].known
    assert second.runs == 1


@pytest.mark.parametrize(
    "toolchain", [Counting(CLAIMS[0].id), Counting(missing=("it",))], ids=["failed", "missing"]
)
def test_what_did_not_pass_is_run_again(tmp_path: Path, toolchain: Counting) -> None:
    one = verified(toolchain, tmp_path)
    two = verified(toolchain, tmp_path)
    assert one.claims == two.claims
    assert not two.runs[0].known
    assert list(tmp_path.glob("*")) == []


def test_without_a_cache_everything_is_run(tmp_path: Path) -> None:
    toolchain = Counting()
    for _ in range(2):
        assert not verify(PLAN, CLAIMS, [Written(toolchain)]).runs[0].known
    assert toolchain.runs == 2


def kept(*states: str, broke: str = "") -> Ran:
    outcomes = {
        f"claim/{number}": Outcome(state, "so it is", again="again") for number, state in enumerate(states)
    }
    return Ran(TargetRun("go", "Go 1", 2.5, 3, 4, broke=broke), outcomes, ("a of b",))


def test_a_run_is_read_as_it_was_kept(tmp_path: Path) -> None:
    known = KnownRuns(tmp_path)
    known.add("key", kept(PASSED, HELD))
    read = known.get("key")
    assert read is not None
    assert read.outcomes == kept(PASSED, HELD).outcomes
    assert read.unsupported == ("a of b",)
    assert read.run == TargetRun("go", "Go 1", 2.5, 3, 4, known=True)
    assert known.get("other") is None


@pytest.mark.parametrize("run", [kept(PASSED, FAILED), kept(NOT_SHOWN), kept(PASSED, broke="out of memory")])
def test_what_could_come_out_otherwise_is_not_kept(tmp_path: Path, run: Ran) -> None:
    KnownRuns(tmp_path).add("key", run)
    assert list(tmp_path.glob("*")) == []


RUN = '{"target": "go", "version": "1"}'
DAMAGED = [
    "",
    "{",
    "[]",
    "\0",
    '{"run": {}, "outcomes": {}, "unsupported": []}',
    f'{{"run": {RUN}, "outcomes": []}}',
    f'{{"run": {RUN}, "outcomes": {{"a": ["passed"]}}, "unsupported": []}}',
    f'{{"run": {RUN}, "outcomes": {{"a": ["failed", "", ""]}}, "unsupported": []}}',
]


@pytest.mark.parametrize("text", DAMAGED)
def test_a_damaged_file_is_as_good_as_none(tmp_path: Path, text: str) -> None:
    (tmp_path / "key.json").write_text(text, encoding="utf-8")
    assert KnownRuns(tmp_path).get("key") is None


def test_keys_tell_everything_apart() -> None:
    keys = {
        key_by_source(*each) for each in (("a", "1", 1.0), ("b", "1", 1.0), ("a", "2", 1.0), ("a", "1", 2.0))
    }
    assert len(keys) == 4


# --- the command --------------------------------------------------------------------------------------------------


@pytest.fixture
def here(tmp_path: Path) -> Path:
    path = tmp_path / "harbour.urform.yaml"
    path.write_text(STARTER.read_text(encoding="utf-8"), encoding="utf-8")
    return path


def known_of(run: Run) -> list[bool]:
    return [target["known"] for target in json.loads(run.out)["targets"]]


@pytest.mark.slow
def test_verify_runs_what_changed_and_what_it_is_told_to(urform: Urform, here: Path, tmp_path: Path) -> None:
    own = {"XDG_CACHE_HOME": str(tmp_path / "cache")}

    def verified(*options: str) -> Run:
        return urform("verify", "-t", "python", *options, environment=own)

    assert known_of(verified("--json")) == [False]
    assert known_of(verified("--json")) == [True]
    assert "known from a run of" in verified().out
    assert known_of(verified("--json", "--fresh")) == [False]
    assert known_of(verified("--json", "--into", "kept")) == [False]
    text = here.read_text(encoding="utf-8")
    here.write_text(f"{text}# the same\n", encoding="utf-8")
    assert known_of(verified("--json")) == [True]
    here.write_text(text.replace("max: 9999", "max: 999"), encoding="utf-8")
    assert known_of(verified("--json")) == [False]


class Watched:
    """A process whose output is waited for."""

    def __init__(self, process: subprocess.Popen[str]) -> None:
        assert process.stdout is not None
        self.process = process
        self._lines: Queue[str] = Queue()
        threading.Thread(target=self._read, args=(process.stdout,), daemon=True).start()

    def _read(self, stream: IO[str]) -> None:
        for line in stream:
            self._lines.put(line)

    def until(self, wanted: str) -> None:
        """Wait for a line that has the text in it."""
        try:
            while wanted not in self._lines.get(timeout=60):
                pass
        except Empty:
            pytest.fail(f"{wanted!r} never came")


@pytest.fixture
def watching(here: Path) -> Iterator[Watched]:
    process = subprocess.Popen(
        [str(Path(sys.executable).parent / "urform"), "verify", "-t", "python", "--watch"],
        cwd=here.parent,
        env={**os.environ, **ENVIRONMENT, "XDG_CACHE_HOME": str(here.parent / "cache")},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        encoding="utf-8",
        preexec_fn=lambda: signal.signal(
            signal.SIGINT, signal.default_int_handler
        ),  # a background job may ignore it
    )
    yield Watched(process)
    process.kill()
    process.wait()


@pytest.mark.slow
def test_watching_verifies_each_time_that_the_declaration_is_saved(here: Path, watching: Watched) -> None:
    watching.until("claims hold in 1 target")
    watching.until("waiting for harbour.urform.yaml")
    text = here.read_text(encoding="utf-8")
    here.write_text(text.replace("max: 9999", "max: none"), encoding="utf-8")
    watching.until("bad-bound")
    watching.until("waiting for")
    here.write_text(text.replace("max: 9999", "max: 999"), encoding="utf-8")
    watching.until("claims hold in 1 target")
    watching.until("waiting for")
    watching.process.send_signal(signal.SIGINT)
    assert watching.process.wait(timeout=20) == 0
