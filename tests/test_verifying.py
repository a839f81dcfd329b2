"""`urform verify`, as a person meets it: what it tells, what is no pass, and how it is stopped."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from xml.etree import ElementTree

import pytest

from tests.conftest import Urform
from tests.targets import tools


@pytest.mark.slow
@pytest.mark.toolchain
def test_verify_tells_people_and_programs(urform: Urform, tmp_path: Path, starter: Path) -> None:
    done = urform("verify", "-t", "python,go", "--junit", "report.xml", "--json", "--into", "kept")
    assert done.status == 0, done.err
    shape = json.loads(done.out)
    claims = {claim["id"]: claim["results"] for claim in shape["claims"]}
    assert shape["version"] == 1
    assert claims["kind/Mark.buoy"] == {"python": "passed", "go": "passed"}
    assert claims["limit/Mark.station:type"] == {"python": "passed", "go": "held"}
    suites = list(ElementTree.parse(tmp_path / "report.xml").getroot())
    assert [(suite.get("name"), suite.get("tests"), suite.get("failures")) for suite in suites] == [
        ("python", str(len(claims)), "0"),
        ("go", str(len(claims)), "0"),
    ]
    assert (tmp_path / "kept/go/mark.go").exists()
    table = urform("verify", "-t", "python", "--fresh").out
    assert f"All {len(claims)} claims hold in 1 target" in table
    assert "limit/Mark.station:min" in urform("verify", "-t", "python", "--all", "--fresh").out


def test_a_missing_toolchain_is_told_and_not_a_pass(urform: Urform, tmp_path: Path, starter: Path) -> None:
    bare = {"PATH": str(tmp_path), "HOME": str(tmp_path), "XDG_CACHE_HOME": str(tmp_path / "cache")}
    done = urform("verify", "-t", "go,python", "--json", "--fresh", environment=bare)
    assert done.status == 0, done.err
    states = {
        target
        for claim in json.loads(done.out)["claims"]
        for target, state in claim["results"].items()
        if state == "not run"
    }
    assert states == {"go"}
    assert urform("verify", "-t", "go,python", "--require-all", environment=bare).status == 3
    only = urform("verify", "-t", "go", environment=bare)
    assert (only.status, "not run, missing: Go" in only.out) == (3, True)


@pytest.mark.slow
def test_a_test_that_never_ends_is_a_failure_of_its_claim(
    urform: Urform, tmp_path: Path, starter: Path
) -> None:
    """In code that a person edited; the other claims have their verdicts."""
    assert urform("verify", "-t", "python", "--into", "kept").status == 0
    known = tools("python")
    (file,) = [f for f in (tmp_path / "kept").rglob("*.py") if known.answer in f.read_text(encoding="utf-8")]
    text = file.read_text(encoding="utf-8").replace(known.answer, known.wrong["hang"])
    file.write_text(text, encoding="utf-8")
    done = urform("verify", "-t", "python", "--into", "kept", "--time-limit", "1.5", "--json")
    states = {
        claim["id"]: (claim["results"]["python"], claim["failures"])
        for claim in json.loads(done.out)["claims"]
    }
    failed = {id_: failures for id_, (state, failures) in states.items() if state == "failed"}
    assert done.status == 1
    assert list(failed) == ["answer/Buoy.chart_label"]
    (failure,) = failed["answer/Buoy.chart_label"]
    assert (failure["expected"], failure["found"]) == ("an end within 1.5 s", "none: it was stopped")
    assert failure["file"].endswith(".py")
    assert {state for state, _ in states.values()} == {"failed", "passed", "held"}
    told = urform("verify", "-t", "python", "--into", "kept", "--time-limit", "1.5").out
    assert f"  {failure['file']}\n" in told, "a test that was stopped tells no line"


@pytest.mark.toolchain
def test_an_interrupt_leaves_nothing(tmp_path: Path, starter: Path) -> None:
    """Interrupted while the compilers run: no child process is left, and no scratch folder."""
    scratch = tmp_path / "scratch"
    scratch.mkdir()
    command = [
        str(Path(sys.executable).parent / "urform"),
        "verify",
        str(starter),
        "-t",
        "java,go",
        "--fresh",
    ]
    environment = {**os.environ, "TMPDIR": str(scratch), "URFORM_TEST_MARK": str(tmp_path)}
    process = subprocess.Popen(
        command,
        env=environment,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),  # a background job may ignore it
    )
    deadline = time.monotonic() + 60
    while not list(scratch.glob("urform-*/java/urform-build")) and time.monotonic() < deadline:
        time.sleep(0.05)
    time.sleep(0.5)
    process.send_signal(signal.SIGINT)
    _, err = process.communicate(timeout=20)
    assert process.returncode == 130
    assert err.endswith(b"interrupted; nothing was left half done\n")
    assert list(scratch.glob("urform-*")) == []
    assert marked(str(tmp_path)) == []


def marked(mark: str) -> list[str]:
    """The processes that inherited the mark in their environment."""
    found = []
    for environ in Path("/proc").glob("[0-9]*/environ"):
        try:
            if mark.encode() in environ.read_bytes() and int(environ.parent.name) != os.getpid():
                found.append(environ.parent.name)
        except OSError:
            continue
    return found
