"""Dataclasses of this project behave as the standard ones do, save that they cost less to define."""

from __future__ import annotations

import dataclasses
from dataclasses import field
from typing import Any

import pytest

from urform.dataclasses import _dataclass as own_dataclass

STANDARD, OWN = dataclasses.dataclass, own_dataclass


def classes(decorator: Any) -> tuple[type, type, type]:
    """A plain class, one that extends it, and one without fields, made with a decorator."""

    @decorator(frozen=True, slots=True)
    class Mark:
        """A mark."""

        name: str
        height: float = 0.0
        notes: tuple[object, ...] = field(default=(), compare=False)
        secret: str = field(default="", repr=False)

    @decorator(frozen=True, slots=True)
    class Buoy(Mark):
        """A mark that floats."""

        mooring: int = 1

    @decorator(frozen=True, slots=True)
    class Nothing:
        """Without content."""

    return Mark, Buoy, Nothing


def instances(decorator: Any) -> list[Any]:
    mark, buoy, nothing = classes(decorator)
    return [
        mark("A"),
        mark("A", notes=("seen",)),
        mark("A", secret="s"),
        mark("B", 2.0),
        buoy("A"),
        buoy("A", mooring=2),
        nothing(),
        nothing(),
    ]


def test_equal_hashed_and_shown_like_the_standard_ones() -> None:
    standard, own = instances(STANDARD), instances(OWN)
    assert [[a == b for b in own] for a in own] == [[a == b for b in standard] for a in standard]
    assert [repr(each) for each in own] == [repr(each) for each in standard]
    assert [[hash(a) == hash(b) for b in own] for a in own] == [
        [hash(a) == hash(b) for b in standard] for a in standard
    ]
    assert own[0] != "A"
    assert standard[0] != own[0], "of another class"


def test_replaced_and_matched() -> None:
    buoy: Any = classes(OWN)[1]
    moved: Any = dataclasses.replace(buoy("A"), mooring=3)
    assert (moved.name, moved.mooring) == ("A", 3)
    match moved:
        case buoy("A", _, _, _, mooring):  # by position, as it was declared
            assert mooring == 3
        case _:
            pytest.fail("not matched")
    with pytest.raises(AttributeError):
        moved.misspelt = 1


def test_one_that_can_be_changed_has_no_hash() -> None:
    @OWN(slots=True)
    class Count:
        number: int = 0

    a_count: Any = Count
    count = a_count()
    count.number += 1
    assert count == a_count(1)
    with pytest.raises(TypeError):
        hash(count)


def test_a_hash_of_its_own_is_kept() -> None:
    @OWN(frozen=True, slots=True)
    class Held:
        parts: dict[str, int]

        def __hash__(self) -> int:
            return 7

    held: Any = Held
    assert hash(held({})) == 7
