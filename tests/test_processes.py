"""Child processes: what they said, and that none outlives its limit or the run."""

from __future__ import annotations

import re
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path

import pytest

from urform.languages.target import Finished, Watch
from urform.verification.processes import Processes, Stopped

FAMILY = "sleep 60 & echo $! > child; wait"  # a process with a child of its own


def gone(number: Path) -> bool:
    """Whether the process whose number was written there has ended; one that nobody waited for counts."""
    process = Path("/proc") / number.read_text(encoding="ascii").strip()
    try:
        return (process / "stat").read_text(encoding="utf-8").rpartition(")")[2].split()[0] == "Z"
    except OSError:
        return True


def within(seconds: float, holds: Callable[[], bool]) -> bool:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if holds():
            return True
        time.sleep(0.02)
    return False


def test_it_tells_what_a_command_said_and_how_it_ended(tmp_path: Path) -> None:
    code = "import os, sys; print(os.getcwd(), os.environ['MARK']); print('no', file=sys.stderr); sys.exit(3)"
    done = Processes().run([sys.executable, "-c", code], tmp_path, {"MARK": "north"})
    assert done == Finished(3, f"{tmp_path} north\n", "no\n")


def test_nothing_is_handed_in_and_any_bytes_come_out(tmp_path: Path) -> None:
    code = "import sys; sys.stdout.buffer.write(sys.stdin.buffer.read() + b'\\xff|')"
    assert Processes().run([sys.executable, "-c", code], tmp_path).output == "\N{REPLACEMENT CHARACTER}|"


def test_what_cannot_be_started_is_told(tmp_path: Path) -> None:
    done = Processes().run(["no-such-compiler", "x"], tmp_path)
    assert (done.status, done.output) == (None, "")
    assert done.errors == "no-such-compiler could not be started: No such file or directory"


def test_a_killed_command_has_no_status(tmp_path: Path) -> None:
    assert Processes().run(["sh", "-c", "kill -9 $$"], tmp_path).status is None


def test_a_command_beyond_its_time_ends_with_all_that_it_started(tmp_path: Path) -> None:
    started = time.monotonic()
    done = Processes(0.5).run(["sh", "-c", f"echo begun; {FAMILY}"], tmp_path)
    assert time.monotonic() - started < 30
    assert (done.status, done.output) == (None, "begun\n")
    assert "sh was stopped after" in done.errors
    assert within(10, lambda: gone(tmp_path / "child"))


@pytest.mark.parametrize(
    ("script", "late"),
    [
        ("echo mark; sleep 60", True),
        ("echo mark; while true; do echo other; sleep 0.1; done", True),
        ("printf 'mark ...'; while true; do printf x; sleep 0.1; done", True),
        ("for each in 1 2 3 4 5 6; do echo mark; sleep 0.3; done", False),
        ("sleep 1.5; echo mark", False),
    ],
)
def test_what_is_watched_has_to_come_again_in_time(script: str, late: bool, tmp_path: Path) -> None:
    done = Processes().run(["sh", "-c", script], tmp_path, watch=Watch(re.compile("^mark", re.MULTILINE), 1))
    assert (done.late, done.status) == (late, None if late else 0)
    assert done.output.startswith("mark")


def test_text_that_comes_in_pieces_is_decoded_as_one(tmp_path: Path) -> None:
    script = r"printf '\303'; sleep 0.2; printf '\266re'"
    assert Processes().run(["sh", "-c", script], tmp_path).output == "\u00f6re"


def test_stopping_ends_what_runs_and_starts_nothing_more(tmp_path: Path) -> None:
    processes = Processes()
    ended: list[Finished] = []
    worker = threading.Thread(target=lambda: ended.append(processes.run(["sh", "-c", FAMILY], tmp_path)))
    worker.start()
    child = tmp_path / "child"
    assert within(20, lambda: child.exists() and child.read_text(encoding="ascii").endswith("\n"))
    processes.go_on()
    processes.stop()
    worker.join(20)
    assert [done.status for done in ended] == [None]
    assert within(10, lambda: gone(child))
    with pytest.raises(Stopped):
        processes.go_on()
    with pytest.raises(Stopped):
        processes.run(["touch", "late"], tmp_path)
    assert not (tmp_path / "late").exists()
