"""Reads the file both ways: by the generated package, and by dataclasses and checks written by hand."""

import json
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from statistics import median

import logbook.records as own

TEXT = Path(sys.argv[1]).read_text(encoding="utf-8")
SIDES = {"P": "port", "S (to starboard)": "starboard", "middle": "middle"}


@dataclass(frozen=True, slots=True)
class Position:
    latitude: float
    longitude: float


@dataclass(frozen=True, slots=True)
class Buoy:
    station: int
    position: Position
    side: str | None
    remarks: str | None
    reflective: bool
    password: str | None
    draught: float


@dataclass(frozen=True, slots=True)
class Beacon:
    station: int
    position: Position
    side: str | None
    remarks: str | None
    reflective: bool
    password: str | None


def number(record: dict, name: str, low: float, high: float) -> float:
    value = record[name]
    if type(value) not in (int, float) or not low <= value <= high:
        raise ValueError(name)
    return value + 0.0


def optional_text(record: dict, name: str, low: int, high: int) -> str | None:
    value = record.get(name)
    if value is not None and (type(value) is not str or not low <= len(value) <= high):
        raise ValueError(name)
    return value


NAMES = {"type", "station", "position", "side", "toString", "reflective", "password"}
NAMES_OF_BUOY = NAMES | {"draught"}
NAMES_OF_POSITION = {"lat", "lon (°)"}


def mark(record: dict) -> Buoy | Beacon:
    kind = record["type"]
    is_buoy = kind in ("B-1", "buoy")
    if not is_buoy and kind != "BCN":
        raise ValueError(kind)
    if not record.keys() <= (NAMES_OF_BUOY if is_buoy else NAMES):
        raise ValueError("unknown")
    station = record["station"]
    if type(station) is not int or not 1 <= station <= 9999:
        raise ValueError("station")
    place = record["position"]
    if not place.keys() <= NAMES_OF_POSITION:
        raise ValueError("unknown")
    position = Position(number(place, "lat", -90, 90), number(place, "lon (°)", -180, 180))
    side = record.get("side")
    reflective = record.get("reflective", is_buoy)
    if type(reflective) is not bool:
        raise ValueError("reflective")
    shared = (
        station,
        position,
        None if side is None else SIDES[side],
        optional_text(record, "toString", 0, 20),
        reflective,
        optional_text(record, "password", 3, 10**9),
    )
    return (
        Buoy(*shared, number(record, "draught", 5e-324, 1e308) if "draught" in record else 1.5)
        if is_buoy
        else Beacon(*shared)
    )


def by_hand() -> int:
    return len([mark(each) for each in json.loads(TEXT)])


def generated() -> int:
    made, problems = own.create_all(own.parse(TEXT), own.read_mark)
    assert not problems
    return len(made)


def milliseconds(job: Callable[[], int]) -> float:
    start = time.perf_counter()
    assert job() == int(sys.argv[2])
    return (time.perf_counter() - start) * 1000


pairs = [(milliseconds(generated), milliseconds(by_hand)) for _ in range(60)][10:]
print(median(a for a, _ in pairs), median(b for _, b in pairs), median(a / b for a, b in pairs))
