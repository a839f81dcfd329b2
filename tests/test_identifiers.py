"""Declared names that are the identifiers of generated code: none of them meets what stands beside it there."""

from __future__ import annotations

from pathlib import Path

import pytest
import yaml

from tests.conftest import BUILT_IN, TRY_ALL, part_of_today
from tests.data import Data
from tests.identifiers import CHUNK, TURNS, declared, declared_types, identifiers, one_of_each, types
from tests.targets import Strictly
from urform.declaration import read
from urform.languages import target
from urform.plan import build, claims_of
from urform.verification.results import HELD, PASSED
from urform.verification.verify import verify


@pytest.mark.parametrize("name", BUILT_IN)
def test_many_are_found(name: str) -> None:
    found = identifiers(name)
    assert len(found) > 12 * CHUNK
    assert {"maker", "key", "made", "found"} <= set(found)


@pytest.mark.toolchain
@pytest.mark.slow
def test_every_identifier_can_be_declared(target_name: str, tmp_path: Path) -> None:
    """As a field, an element, an operation, a parameter, a role, a part of a key, a preset, an exemplar and a key."""
    assert_all_verify(target_name, declared(of_today(identifiers(target_name), 14)), tmp_path)


@pytest.mark.toolchain
@pytest.mark.slow
def test_every_type_can_be_declared(target_name: str, tmp_path: Path) -> None:
    """As a product, a kind, a choice or a family."""
    words = of_today(types(target_name), 20)
    assert_all_verify(target_name, declared_types(words, part_of_today(TURNS)), tmp_path)


def of_today(words: list[str], parts: int) -> list[str]:
    """All of them take the compilers minutes."""
    return words if TRY_ALL else words[part_of_today(parts) :: parts]


def assert_all_verify(target_name: str, declaration: Data, folder: Path) -> None:
    path = folder / f"{declaration['name']}.urform.yaml"
    path.write_text(yaml.safe_dump(declaration), encoding="utf-8")
    reading = read(path)
    assert reading.declaration is not None, reading.problems
    plan = build(reading.declaration)
    result = verify(plan, list(one_of_each(claims_of(plan))), [target(target_name)], processes=Strictly())
    assert [run.broke for run in result.runs] == [""]
    states = {claim.id: claim.outcomes[target_name].state for claim in result.claims}
    assert {id_: state for id_, state in states.items() if state not in (PASSED, HELD)} == {}
    assert len(states) > 60
