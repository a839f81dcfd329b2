"""Tests of one group run in one process: what they share is made once."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

TESTS = """
import os
import pytest

@pytest.mark.parametrize("number", range(8))
@pytest.mark.parametrize("group", ["a", "b"])
def test_in_its_process(group, number, request):
    with open(os.environ["SEEN"], "a") as seen:
        seen.write(f"{group} {os.getpid()}\\n")
"""
MARKS = """
import pytest

@pytest.hookimpl(tryfirst=True)
def pytest_collection_modifyitems(items):
    for item in items:
        item.add_marker(pytest.mark.xdist_group(item.callspec.params["group"]))
"""


@pytest.mark.slow
def test_a_group_stays_in_one_process(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """As the versions of pytest and xdist that are installed have it: some of them do not, and do not say so."""
    (tmp_path / "test_some.py").write_text(TESTS)
    (tmp_path / "conftest.py").write_text(MARKS)
    monkeypatch.setenv("SEEN", str(tmp_path / "seen.txt"))
    command = [sys.executable, "-m", "pytest", "-q", "-n", "2", "--dist", "loadgroup"]
    done = subprocess.run(command, cwd=tmp_path, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout
    seen = [line.split() for line in (tmp_path / "seen.txt").read_text().splitlines()]
    processes = {group: {process for name, process in seen if name == group} for group in ("a", "b")}
    assert len(seen) == 16
    assert {group: len(ids) for group, ids in processes.items()} == {"a": 1, "b": 1}
