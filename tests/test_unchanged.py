"""A net under changes that are to leave generated code as it is: the demo kept as text, everything else as hashes.

What differs on purpose is renewed with `make renew`; the hashes then name the files to look at, and the demo shows how.
"""

from __future__ import annotations

import ast
import hashlib
from collections.abc import Callable, Iterable
from pathlib import Path

import pytest

from tests.conftest import DEMO, EXPECTED, VALID, emitted, planned
from tests.data import text_of
from tests.test_random import KEPT, KEPT_COUNT
from urform.declaration import read_string
from urform.languages import known_targets, target
from urform.languages.target import File
from urform.plan import build, claims_of

DIGITS = 12  # of SHA-256: enough to tell some thousand files apart

QUICKLY = 6  # of the kept draws: they have little that no fixture has
DRAWN = [*range(QUICKLY), *(pytest.param(n, marks=pytest.mark.slow) for n in range(QUICKLY, KEPT_COUNT))]

Expected = Callable[[str, str], None]


def hashes(name: str, files: Iterable[File]) -> str:
    """A line for each file of a target."""
    pairs = ((hashlib.sha256(file.text.encode()).hexdigest()[:DIGITS], file.path) for file in files)
    return "".join(f"{digest} {name}/{path}\n" for digest, path in pairs)


def test_what_is_generated_of_a_fixture_is_what_it_was(valid: Path, expected: Expected) -> None:
    """In every target, its walk-through too."""
    lines = [
        hashes(name, [*emitted(valid, name).files, *target(name).example(planned(valid)[0])])
        for name in known_targets()
    ]
    expected(f"hashes/{valid.name.partition('.')[0]}.txt", "".join(lines))


@pytest.mark.parametrize("number", DRAWN)
def test_what_is_generated_of_a_drawn_declaration_is_what_it_was(number: int, expected: Expected) -> None:
    drawn = ast.literal_eval(KEPT.read_text(encoding="ascii").splitlines()[number])
    reading = read_string(text_of(drawn), "drawn.urform.yaml")
    assert reading.declaration is not None, reading.problems
    plan = build(reading.declaration)
    claims = claims_of(plan)
    lines = [
        hashes(name, [*target(name).emit(plan, claims).files, *target(name).example(plan)])
        for name in known_targets()
    ]
    expected(f"hashes/drawn-{number:02}.txt", "".join(lines))


def test_the_demo_is_what_it_was(target_name: str, expected: Expected) -> None:
    """As text, to be reviewed like code."""
    for file in emitted(DEMO, target_name).files:
        expected(f"demo/{target_name}/{file.path}", file.text)


@pytest.mark.parametrize("kept", ["hashes", "demo"])
def test_nothing_is_kept_that_is_not_generated(kept: str, request: pytest.FixtureRequest) -> None:
    wanted = generated(kept)
    for path in (EXPECTED / kept).rglob("*"):
        there = path.is_dir() or path.relative_to(EXPECTED / kept).as_posix() in wanted
        if not there and request.config.getoption("--renew"):
            path.unlink()
        assert there or not path.exists(), f"{path} is not compared with anything"


def generated(kept: str) -> set[str]:
    """The files of expected output that some test compares."""
    if kept == "demo":
        return {f"{name}/{file.path}" for name in known_targets() for file in emitted(DEMO, name).files}
    fixtures = {f"{path.name.partition('.')[0]}.txt" for path in VALID}
    return fixtures | {f"drawn-{number:02}.txt" for number in range(KEPT_COUNT)}
