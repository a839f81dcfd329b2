"""What a careful author writes by hand for the same jobs in Python: the yardstick of `generated.py`.

The same guarantees: limits told by owner and field, None told as missing, legs owned by their plan.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import isfinite
from threading import Lock
from typing import Any

BLANKS = "\t\n\v\f\r "
put = object.__setattr__


class LimitError(ValueError):
    def __init__(self, owner: str, field: str, limit: str, bound: object = None) -> None:
        super().__init__(owner, field, limit, bound)


class MissingError(ValueError):
    def __init__(self, owner: str, fields: Sequence[str]) -> None:
        super().__init__(owner, fields)


def given(owner: str, **fields: object) -> None:
    if missing := [name for name, value in fields.items() if value is None]:
        raise MissingError(owner, missing)


def number(
    owner: str,
    field: str,
    value: Any,
    *,
    min: float | None = None,
    max: float | None = None,
    above: float | None = None,
) -> Any:
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise LimitError(owner, field, "type")
    if min is not None and not value >= min:
        raise LimitError(owner, field, "min", min)
    if max is not None and not value <= max:
        raise LimitError(owner, field, "max", max)
    if above is not None and not value > above:
        raise LimitError(owner, field, "above", above)
    return value


def real(owner: str, field: str, value: float, **limits: float) -> float:
    if not isfinite(value):
        raise LimitError(owner, field, "finite")
    number(owner, field, value, **limits)
    return value + 0.0


def not_blank(owner: str, field: str, value: str) -> str:
    if not value.strip(BLANKS):
        raise LimitError(owner, field, "not_blank")
    return value


@dataclass(frozen=True, slots=True, kw_only=True)
class Position:
    latitude: float
    longitude: float

    def __post_init__(self) -> None:
        given("Position", latitude=self.latitude, longitude=self.longitude)
        put(self, "latitude", real("Position", "latitude", self.latitude, min=-90, max=90))
        put(self, "longitude", real("Position", "longitude", self.longitude, min=-180, max=180))


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    station: int
    position: Position
    side: str | None = None
    remarks: str | None = None
    reflective: bool = True

    def __post_init__(self) -> None:
        given("Mark", station=self.station, position=self.position, reflective=self.reflective)
        number("Mark", "station", self.station, min=1, max=9999)
        if self.side is not None and self.side not in ("port", "starboard"):
            raise LimitError("Mark", "side", "choice")
        if self.remarks is not None and len(self.remarks) > 200:
            raise LimitError("Mark", "remarks", "max_length", 200)


@dataclass(frozen=True, slots=True, kw_only=True)
class Buoy(Mark):
    draught: float = 1.5

    def __post_init__(self) -> None:
        Mark.__post_init__(self)
        put(self, "draught", real("Buoy", "draught", self.draught, above=0))


class MarkRegistry:
    def __init__(self) -> None:
        self._lock = Lock()
        self._makers: dict[str, Any] = {"buoy": Buoy}

    def create(self, key: str, /, **fields: Any) -> Mark:
        maker = self._makers.get(key)
        if maker is None:
            raise KeyError(key)
        return maker(**fields)


@dataclass(slots=True, kw_only=True)
class Leg:
    label: str
    hours: float = 0.0

    def __setattr__(self, name: str, value: Any) -> None:
        match name:
            case "label":
                given("Leg", label=value)
                not_blank("Leg", "label", value)
            case "hours":
                given("Leg", hours=value)
                value = real("Leg", "hours", value, min=0)
        put(self, name, value)

    def clone(self) -> Leg:
        made = object.__new__(Leg)
        put(made, "label", self.label)
        put(made, "hours", self.hours)
        return made


@dataclass(slots=True, kw_only=True)
class RefitPlan:
    title: str
    legs: Sequence[Leg]
    crew: int = 2
    tags: Sequence[str] = ()
    sheets: Sequence[object] = ()
    chart: object | None = None
    serial: int | None = None

    def __setattr__(self, name: str, value: Any) -> None:
        match name:
            case "title":
                given("RefitPlan", title=value)
                not_blank("RefitPlan", "title", value)
            case "legs":
                given("RefitPlan", legs=value)
                value = tuple([leg.clone() for leg in value])
                if len(value) < 1:
                    raise LimitError("RefitPlan", "legs", "min_length", 1)
            case "crew":
                given("RefitPlan", crew=value)
                number("RefitPlan", "crew", value, min=1)
            case "tags" | "sheets":
                value = tuple(value)
            case "serial" if value is not None:
                number("RefitPlan", "serial", value, min=1)
        put(self, name, value)

    def clone(self) -> RefitPlan:
        made = object.__new__(RefitPlan)
        put(made, "title", self.title)
        put(made, "legs", tuple([leg.clone() for leg in self.legs]))
        put(made, "crew", self.crew)
        put(made, "tags", self.tags)
        put(made, "sheets", self.sheets)
        put(made, "chart", self.chart)
        put(made, "serial", None)
        return made


class RefitPlanBuilder:
    def __init__(self) -> None:
        self._given: dict[str, Any] = {}

    def title(self, title: str) -> RefitPlanBuilder:
        self._given["title"] = title
        return self

    def crew(self, crew: int) -> RefitPlanBuilder:
        self._given["crew"] = crew
        return self

    def tags(self, tags: Sequence[str]) -> RefitPlanBuilder:
        self._given["tags"] = list(tags)
        return self

    def add_leg(self, leg: Leg) -> RefitPlanBuilder:
        self._given.setdefault("legs", []).append(leg.clone())
        return self

    def build(self) -> RefitPlan:
        if missing := [name for name in ("title", "legs") if self._given.get(name) is None]:
            raise MissingError("RefitPlan", missing)
        return RefitPlan(**self._given)
