"""`urform challenge` with the real toolchains: the generated tests catch what they ought to, and a weak one is found out."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest

from tests.conftest import (
    BUILT_IN,
    DEMO,
    ROOT,
    STARTER,
    TRY_ALL,
    VALID,
    Urform,
    is_of_today,
    part_of_today,
    planned,
)
from tests.test_faults import faults
from tests.test_verifying import marked
from urform.languages import target
from urform.plan import faults_of
from urform.plan.fault import Fault
from urform.verification.challenge import challenge
from urform.verification.verdicts import CAUGHT, IMPOSSIBLE

SAMPLED = tuple(path for path in VALID if path not in (DEMO, STARTER))
SAMPLED_TODAY = tuple(path for row, path in enumerate(SAMPLED) if is_of_today(row, 3))
OF_EACH_FIXTURE = 8
PARTS = 24  # of the demo's faults


@pytest.fixture
def cache(tmp_path: Path) -> dict[str, str]:
    """A cache of its own: what is known from elsewhere is not tried. Fetched tools are those from elsewhere."""
    home = Path(os.environ.get("XDG_CACHE_HOME", Path.home() / ".cache")) / "urform"
    own = tmp_path / "cache" / "urform"
    own.mkdir(parents=True)
    for tool in home.iterdir():
        if tool.name != "verdicts":
            (own / tool.name).symlink_to(tool)
    return {"XDG_CACHE_HOME": str(own.parent)}


@pytest.mark.toolchain
def test_the_demo_has_no_survivors(urform: Urform, tmp_path: Path, cache: dict[str, str]) -> None:
    """The faults of the demo, in every target; then the same from the cache, told as JUnit XML.

    A part of them, others each day: all take eight minutes. URFORM_TRY_ALL=1 tries all.
    """
    all_ = TRY_ALL
    some = () if all_ else ("--shard", f"{part_of_today(PARTS) + 1}/{PARTS}")
    started = time.monotonic()
    done = urform("challenge", DEMO, *some, "--json", "--require-all", environment=cache)
    whole = time.monotonic() - started
    assert done.status == 0, done.err
    result = json.loads(done.out)
    assert [t["missing"] for t in result["targets"]] == [[]] * len(BUILT_IN)
    verdicts = Counter(state for fault in result["faults"] for state in fault["verdicts"].values())
    assert set(verdicts) == {CAUGHT, IMPOSSIBLE}
    caught = {t for fault in result["faults"] for t, state in fault["verdicts"].items() if state == CAUGHT}
    assert caught == set(BUILT_IN)
    plan, claims = planned(DEMO)
    assert len(result["faults"]) >= len(tuple(faults_of(plan, claims))) // (1 if all_ else PARTS)
    started = time.monotonic()
    again = urform("challenge", DEMO, *some, "--junit", "faults.xml", environment=cache)
    assert time.monotonic() - started < whole / 3, "nothing changed, so nothing is tried"
    assert again.status == 0
    assert "known from before" in again.out
    suites = ElementTree.parse(tmp_path / "faults.xml").getroot().findall("testsuite")
    assert [suite.get("failures") for suite in suites] == ["0"] * len(BUILT_IN)


def spread(found: tuple[Fault, ...], number: int) -> Iterator[Fault]:
    """Some faults of all kinds: one of each name before a second of any."""
    seen: Counter[str] = Counter()
    ranked = sorted(enumerate(found), key=lambda each: (_rank(seen, each[1]), each[0]))
    return (fault for _, fault in ranked[:number])


def _rank(seen: Counter[str], fault: Fault) -> int:
    seen[fault.name.partition("-")[0] + fault.claim.group] += 1
    return seen[fault.name.partition("-")[0] + fault.claim.group]


@pytest.mark.toolchain
@pytest.mark.parametrize("path", SAMPLED_TODAY, ids=[path.name.partition(".")[0] for path in SAMPLED_TODAY])
def test_faults_of_fixtures_are_caught(path: Path) -> None:
    """A few of each kind; all of them were tried when they were written. In one target, another one each day."""
    of_today = (part_of_today(len(BUILT_IN)) + SAMPLED.index(path)) % len(BUILT_IN)
    names = BUILT_IN if TRY_ALL else BUILT_IN[of_today :: len(BUILT_IN)]
    plan, claims = planned(path)
    some = list(spread(faults(path), OF_EACH_FIXTURE))
    result = challenge(plan, claims, some, [target(name) for name in names])
    states = {
        (fault.id, name): (verdict.state, verdict.reason)
        for fault in result.faults
        for name, verdict in fault.verdicts.items()
        if verdict.state not in (CAUGHT, IMPOSSIBLE)
    }
    assert states == {}


WEAKENED = [
    # file, an assertion of a test template, what is left of it, the faults that then survive
    (
        "languages/python/writer.py",
        '"assert («on».made, «on».reused) == («made», «reused»)"',
        '"assert «on»"',
        {"pool/Topmark:counts~pool-miscounts-made", "pool/Topmark:counts~pool-miscounts-reused"},
    ),
    (
        "languages/python/writer.py",
        '"assert «left» != untyped(«right»)"',
        '"assert «left» is not untyped(«right»)"',
        {"equal/Position~uncompared-latitude", "equal/Position~uncompared-longitude"},
    ),
]
WATCHED = ("pool/Topmark:counts", "pool/Topmark:same", "equal/Position", "answer")


@pytest.mark.toolchain
@pytest.mark.parametrize(("file", "assertion", "left", "survivors"), WEAKENED)
def test_a_weakened_test_is_found_out(
    tmp_path: Path, cache: dict[str, str], file: str, assertion: str, left: str, survivors: set[str]
) -> None:
    """One assertion less in one test template of a copy: just the faults that it noticed survive."""
    shutil.copytree(
        ROOT / "src/urform", tmp_path / "weak/urform", ignore=shutil.ignore_patterns("__pycache__")
    )
    weak = tmp_path / "weak/urform" / file
    text = weak.read_text(encoding="utf-8")
    assert text.count(assertion) == 1
    weak.write_text(text.replace(assertion, left), encoding="utf-8")

    def uncaught(root: Path) -> set[str]:
        command = [
            sys.executable,
            "-m",
            "urform",
            "challenge",
            str(DEMO),
            "-t",
            "python",
            "--json",
            "--fresh",
        ]
        command += [part for claim in WATCHED for part in ("--only", claim)]
        environment = {**os.environ, **cache, "PYTHONPATH": str(root)}
        done = subprocess.run(
            command, cwd=tmp_path, env=environment, capture_output=True, encoding="utf-8", check=False
        )
        result: dict[str, Any] = json.loads(done.stdout)
        found = {f["id"] for f in result["faults"] if f["verdicts"]["python"] != CAUGHT}
        assert done.returncode == (1 if found else 0)
        return found

    assert uncaught(ROOT / "src") == set()
    assert uncaught(tmp_path / "weak") == survivors


@pytest.mark.toolchain
def test_a_survivor_is_shown_in_full(
    urform: Urform, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    from rich.console import Console

    from urform.cli.challenging import show_challenge
    from urform.languages.python.toolchain import Pytest

    plan, claims = planned(DEMO)
    some = [fault for fault in faults(DEMO) if fault.claim.id == "answer/Buoy.chart_label"]
    try_all = Pytest.try_all

    def deaf(self: Pytest, folder: Any, emission: Any, trials: Any, run: Any) -> Iterator[Any]:
        for tried in try_all(self, folder, emission, trials, run):
            yield type(tried)(tried.number)

    monkeypatch.setattr(Pytest, "try_all", deaf)
    result = challenge(plan, claims, some, [target("python")])
    show_challenge(Console(width=120), result)
    told = capsys.readouterr().out
    assert "survived answer/Buoy.chart_label~other-answer in python" in told
    assert '-        return "floating mark"' in told
    assert "1 fault survived, 0 caught elsewhere only" in told


def test_wrong_usage_is_told(urform: Urform) -> None:
    for arguments in (
        ["--shard", "3/2"],
        ["--shard", "x"],
        ["--only", "limit/Nobody.x:min"],
        ["--sample", "0"],
    ):
        done = urform("challenge", STARTER, *arguments)
        assert done.status == 2, arguments
        assert "Traceback" not in done.err
    assert "`urform plan` lists the claims" in urform("challenge", STARTER, "--only", "limit/Nobody").err


@pytest.mark.toolchain
def test_shards_make_one_report(urform: Urform, tmp_path: Path, cache: dict[str, str]) -> None:
    names = ["one.json", "two.json"]
    for number, name in enumerate(names, 1):
        options = ["-t", "python", "--sample", "6", "--seed", "4", "--shard", f"{number}/2", "--json"]
        done = urform("challenge", STARTER, *options, environment=cache)
        assert done.status == 0, done.err
        (tmp_path / name).write_text(done.out, encoding="utf-8")
    merged = urform("challenge", "--merge", names[0], "--merge", names[1], "--json")
    assert merged.status == 0
    whole = json.loads(merged.out)
    assert len(whole["faults"]) == 6
    assert whole["targets"][0]["tried"] == sum(not _held(fault) for fault in whole["faults"])
    alone = urform("challenge", "--merge", names[1])
    assert (alone.status, "shard 1/2 is missing" in alone.err) == (2, True)
    (tmp_path / "none.json").write_text("{}", encoding="utf-8")
    wrong = urform("challenge", "--merge", "none.json")
    assert (wrong.status, "Traceback" in wrong.err) == (2, False)


def _held(fault: dict[str, Any]) -> bool:
    return bool(fault["verdicts"]["python"] == IMPOSSIBLE)


@pytest.mark.toolchain
def test_an_interrupt_leaves_no_process_and_no_half_result(tmp_path: Path, cache: dict[str, str]) -> None:
    scratch = tmp_path / "scratch"
    scratch.mkdir()
    command = [str(Path(sys.executable).parent / "urform"), "challenge", str(DEMO), "--json"]
    mark = {"URFORM_TEST_MARK": str(tmp_path)}
    process = subprocess.Popen(
        command,
        env={**os.environ, **cache, **mark, "TMPDIR": str(scratch)},
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),  # a background job may ignore it
    )
    deadline = time.monotonic() + 240
    while not list(scratch.glob("urform-*/*/urform-trials*")) and time.monotonic() < deadline:
        time.sleep(0.05)
    time.sleep(2)
    process.send_signal(signal.SIGINT)
    out, err = process.communicate(timeout=20)  # though faults are being made for all targets
    assert (process.returncode, out) == (130, b"")
    assert err == b"interrupted; nothing was left half done\n"
    time.sleep(0.5)
    assert marked(str(tmp_path)) == []
    assert list(scratch.glob("urform-*")) == []
    kept = (tmp_path / "cache/urform/verdicts").glob("*")
    assert all(json.loads(path.read_text(encoding="utf-8")) for path in kept), "what was decided is whole"
