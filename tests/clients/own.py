"""Kinds with fields of their own, asked for by key. Run where they are generated."""

import pytest
from PACKAGE import (
    CreationError,
    Light,
    MissingFieldsError,
    Pilots,
    Sector,
    Tide,
    TideRegistry,
    crew_creator,
    mark,
    records,
)

SECTORS = [Sector(from_degrees=10.0)]


def test_a_key_takes_the_fields_of_its_kind() -> None:
    for key in ("light", "T1"):
        made = mark(key, name="pier", period=4, sectors=SECTORS, racon=True)
        assert (type(made), made.period, made.racon) == (Light, 4, True)
    assert mark("buoy", name="bar", draught=0.5).draught == 0.5
    assert type(crew_creator("pilots").create(boat="Petrel", pilots=["Ines"])) is Pilots


def test_fields_of_another_kind_are_refused_and_missing_ones_told() -> None:
    with pytest.raises(TypeError, match="period"):
        mark("buoy", name="bar", period=4)
    with pytest.raises(TypeError, match="period"):
        mark("light", name="bar", sectors=SECTORS)
    with pytest.raises(MissingFieldsError, match="period"):
        mark("light", name="bar", period=None, sectors=SECTORS)


def test_a_record_tells_its_kind_itself() -> None:
    light = {"type": "light", "name": "pier", "periodMs": 4, "sectors": [{"from_degrees": 10.0}]}
    assert records.read_mark(light) == mark("light", name="pier", period=4, sectors=SECTORS)


class Spring(Tide):
    key = "spring"


def test_a_registry_takes_kinds_with_fields_of_their_own() -> None:
    asked = []
    registry = TideRegistry()
    registry.register("spring", lambda *, moon, **fields: asked.append(moon) or Spring(**fields))
    assert registry.create("spring", station="Quay", moon="new").key == "spring"
    assert asked == ["new"]
    assert registry.create("high", station="Quay", metres=4.5).metres == 4.5
    with pytest.raises(CreationError):
        registry.create("high", station="Quay", metres=-1.0)
