"""`urform new`: whatever it is told to begin with is valid, without advice, and has what was asked for."""

from __future__ import annotations

import json
from collections.abc import Iterator
from itertools import combinations
from pathlib import Path

import pytest
import yaml
from jsonschema import Draft202012Validator

from tests.conftest import Urform
from urform.declaration import read_string
from urform.demo import BEGINNINGS, starter
from urform.plan import build, claims_of
from urform.plan.validate import validate

GROUPS = {"builder": "build", "prototype": "clone", "pool": "pool", "family": "family"}


def every_choice() -> Iterator[tuple[str, ...]]:
    for count in range(len(BEGINNINGS) + 1):
        yield from combinations(BEGINNINGS, count)


@pytest.mark.parametrize("chosen", list(every_choice()), ids="-".join)
def test_every_beginning_is_valid_and_has_its_patterns(chosen: tuple[str, ...]) -> None:
    reading = read_string(starter(*chosen))
    assert (reading.problems, reading.advice) == ((), ())
    assert reading.declaration is not None
    plan = build(reading.declaration)
    claims = claims_of(plan)
    validate(plan, claims)
    groups = {claim.group for claim in claims}
    assert {name for name, group in GROUPS.items() if group in groups} == set(chosen)


def test_new_writes_what_is_asked_for(urform: Urform, tmp_path: Path) -> None:
    assert urform("new", "--with", "pool,builder", "--editor").status == 0
    text = (tmp_path / "harbour.urform.yaml").read_text(encoding="utf-8")
    assert text == starter("builder", "pool", schema="urform.schema.json")
    schema = json.loads((tmp_path / "urform.schema.json").read_text(encoding="utf-8"))
    assert list(Draft202012Validator(schema).iter_errors(yaml.safe_load(text))) == []
    assert text.splitlines()[0].endswith("$schema=urform.schema.json")
    assert urform("check", "--strict").status == 0


def test_a_schema_that_is_there_stays(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "urform.schema.json").write_text("mine", encoding="utf-8")
    done = urform("new", "--editor")
    assert (done.status, "stays as it is" in done.err) == (0, True)
    assert (tmp_path / "urform.schema.json").read_text(encoding="utf-8") == "mine"


def test_a_beginning_that_there_is_not_is_told(urform: Urform, tmp_path: Path) -> None:
    done = urform("new", "--with", "bulider")
    assert (done.status, "Did you mean 'builder'?" in done.err) == (2, True)
    assert list(tmp_path.iterdir()) == []


def test_what_is_there_stays(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "harbour.urform.yaml").write_text("mine", encoding="utf-8")
    assert urform("new", "--editor").status == 1
    assert [path.name for path in tmp_path.iterdir()] == ["harbour.urform.yaml"]
    assert (tmp_path / "harbour.urform.yaml").read_text(encoding="utf-8") == "mine"
