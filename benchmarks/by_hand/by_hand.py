"""The same jobs as a careful author does them by hand, in the fastest plain Python: the yardstick of `generated.py`.

Each check stands where it is needed; the same limits, copies and errors; what is immutable refuses to be changed.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
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


def missing(owner: str, **fields: object) -> MissingError:
    return MissingError(owner, [name for name, value in fields.items() if value is None])


@dataclass(frozen=True, slots=True, init=False)
class Position:
    latitude: float
    longitude: float

    def __init__(self, *, latitude: float, longitude: float) -> None:
        if latitude is None or longitude is None:
            raise missing("Position", latitude=latitude, longitude=longitude)
        if isinstance(latitude, bool) or not isinstance(latitude, (int, float)):
            raise LimitError("Position", "latitude", "type")
        if not isfinite(latitude):
            raise LimitError("Position", "latitude", "finite")
        if latitude < -90:
            raise LimitError("Position", "latitude", "min", -90)
        if latitude > 90:
            raise LimitError("Position", "latitude", "max", 90)
        if isinstance(longitude, bool) or not isinstance(longitude, (int, float)):
            raise LimitError("Position", "longitude", "type")
        if not isfinite(longitude):
            raise LimitError("Position", "longitude", "finite")
        if longitude < -180:
            raise LimitError("Position", "longitude", "min", -180)
        if longitude > 180:
            raise LimitError("Position", "longitude", "max", 180)
        put(self, "latitude", latitude + 0.0)
        put(self, "longitude", longitude + 0.0)


@dataclass(frozen=True, slots=True, init=False)
class Mark:
    station: int
    position: Position
    side: str | None
    remarks: str | None
    reflective: bool

    def __init__(
        self,
        *,
        station: int,
        position: Position,
        side: str | None = None,
        remarks: str | None = None,
        reflective: bool = True,
    ) -> None:
        if station is None or position is None:
            raise missing(type(self).__name__, station=station, position=position)
        if isinstance(station, bool) or not isinstance(station, int):
            raise LimitError("Mark", "station", "type")
        if station < 1:
            raise LimitError("Mark", "station", "min", 1)
        if station > 9999:
            raise LimitError("Mark", "station", "max", 9999)
        if not isinstance(position, Position):
            raise LimitError("Mark", "position", "type")
        if side is not None and side not in ("port", "starboard"):
            raise LimitError("Mark", "side", "choice")
        if remarks is not None:
            if not isinstance(remarks, str):
                raise LimitError("Mark", "remarks", "type")
            if len(remarks) > 200:
                raise LimitError("Mark", "remarks", "max_length", 200)
        if reflective is None:
            reflective = True
        elif reflective is not True and reflective is not False:
            raise LimitError("Mark", "reflective", "type")
        put(self, "station", station)
        put(self, "position", position)
        put(self, "side", side)
        put(self, "remarks", remarks)
        put(self, "reflective", reflective)


@dataclass(frozen=True, slots=True, init=False)
class Buoy(Mark):
    draught: float

    def __init__(
        self,
        *,
        station: int,
        position: Position,
        side: str | None = None,
        remarks: str | None = None,
        reflective: bool = True,
        draught: float = 1.5,
    ) -> None:
        Mark.__init__(
            self, station=station, position=position, side=side, remarks=remarks, reflective=reflective
        )
        if draught is None:
            draught = 1.5
        elif isinstance(draught, bool) or not isinstance(draught, (int, float)):
            raise LimitError("Buoy", "draught", "type")
        if not isfinite(draught):
            raise LimitError("Buoy", "draught", "finite")
        if draught <= 0:
            raise LimitError("Buoy", "draught", "above", 0)
        put(self, "draught", draught + 0.0)


class MarkRegistry:
    def __init__(self) -> None:
        self._lock = Lock()
        self._makers: dict[str, Callable[..., Mark]] = {"buoy": Buoy}

    def create(self, key: str, /, **fields: Any) -> Mark:
        maker = self._makers.get(key)
        if maker is None:
            raise KeyError(key)
        made = maker(**fields)
        if not isinstance(made, Mark):
            raise ValueError("Mark: its maker gives none")
        return made


class Leg:
    __slots__ = ("_hours", "_label")

    def __init__(self, *, label: str, hours: float = 0.0) -> None:
        self.label = label
        self.hours = 0.0 if hours is None else hours

    @property
    def label(self) -> str:
        return self._label

    @label.setter
    def label(self, label: str) -> None:
        if label is None:
            raise MissingError("Leg", ["label"])
        if not isinstance(label, str):
            raise LimitError("Leg", "label", "type")
        if not label.strip(BLANKS):
            raise LimitError("Leg", "label", "not_blank")
        self._label = label

    @property
    def hours(self) -> float:
        return self._hours

    @hours.setter
    def hours(self, hours: float) -> None:
        if hours is None:
            raise MissingError("Leg", ["hours"])
        if isinstance(hours, bool) or not isinstance(hours, (int, float)):
            raise LimitError("Leg", "hours", "type")
        if not isfinite(hours):
            raise LimitError("Leg", "hours", "finite")
        if hours < 0:
            raise LimitError("Leg", "hours", "min", 0)
        self._hours = hours + 0.0

    def copy(self) -> Leg:
        made = object.__new__(Leg)
        made._label = self._label
        made._hours = self._hours
        return made


class Chart:
    """A printed sheet, of which plans hold some."""


class RefitPlan:
    __slots__ = ("_chart", "_crew", "_legs", "_serial", "_sheets", "_tags", "_title")

    def __init__(
        self,
        *,
        title: str,
        legs: Sequence[Leg],
        crew: int = 2,
        tags: Sequence[str] = (),
        sheets: Sequence[Chart] = (),
        chart: Chart | None = None,
        serial: int | None = None,
    ) -> None:
        if title is None or legs is None:
            raise missing("RefitPlan", title=title, legs=legs)
        self.title = title
        self.legs = legs
        self.crew = 2 if crew is None else crew
        self.tags = () if tags is None else tags
        self.sheets = () if sheets is None else sheets
        self.chart = chart
        self.serial = serial

    @property
    def title(self) -> str:
        return self._title

    @title.setter
    def title(self, title: str) -> None:
        if title is None:
            raise MissingError("RefitPlan", ["title"])
        if not isinstance(title, str):
            raise LimitError("RefitPlan", "title", "type")
        if not title.strip(BLANKS):
            raise LimitError("RefitPlan", "title", "not_blank")
        self._title = title

    @property
    def legs(self) -> Sequence[Leg]:
        return self._legs

    @legs.setter
    def legs(self, legs: Sequence[Leg]) -> None:
        if not isinstance(legs, (list, tuple)):
            raise LimitError("RefitPlan", "legs", "type")
        if len(legs) < 1:
            raise LimitError("RefitPlan", "legs", "min_length", 1)
        own = []
        for leg in legs:
            if not isinstance(leg, Leg):
                raise (
                    MissingError("RefitPlan", ["legs"])
                    if leg is None
                    else LimitError("RefitPlan", "legs", "each.type")
                )
            own.append(leg.copy())
        self._legs = tuple(own)

    @property
    def crew(self) -> int:
        return self._crew

    @crew.setter
    def crew(self, crew: int) -> None:
        if crew is None:
            raise MissingError("RefitPlan", ["crew"])
        if isinstance(crew, bool) or not isinstance(crew, int):
            raise LimitError("RefitPlan", "crew", "type")
        if crew < 1:
            raise LimitError("RefitPlan", "crew", "min", 1)
        self._crew = crew

    @property
    def tags(self) -> Sequence[str]:
        return self._tags

    @tags.setter
    def tags(self, tags: Sequence[str]) -> None:
        if not isinstance(tags, (list, tuple)):
            raise LimitError("RefitPlan", "tags", "type")
        for tag in tags:
            if not isinstance(tag, str):
                raise (
                    MissingError("RefitPlan", ["tags"])
                    if tag is None
                    else LimitError("RefitPlan", "tags", "each.type")
                )
        self._tags = tuple(tags)

    @property
    def sheets(self) -> Sequence[Chart]:
        return self._sheets

    @sheets.setter
    def sheets(self, sheets: Sequence[Chart]) -> None:
        if not isinstance(sheets, (list, tuple)):
            raise LimitError("RefitPlan", "sheets", "type")
        for sheet in sheets:
            if not isinstance(sheet, Chart):
                raise (
                    MissingError("RefitPlan", ["sheets"])
                    if sheet is None
                    else LimitError("RefitPlan", "sheets", "each.type")
                )
        self._sheets = tuple(sheets)

    @property
    def chart(self) -> Chart | None:
        return self._chart

    @chart.setter
    def chart(self, chart: Chart | None) -> None:
        if chart is not None and not isinstance(chart, Chart):
            raise LimitError("RefitPlan", "chart", "type")
        self._chart = chart

    @property
    def serial(self) -> int | None:
        return self._serial

    @serial.setter
    def serial(self, serial: int | None) -> None:
        if serial is not None:
            if isinstance(serial, bool) or not isinstance(serial, int):
                raise LimitError("RefitPlan", "serial", "type")
            if serial < 1:
                raise LimitError("RefitPlan", "serial", "min", 1)
        self._serial = serial

    def clone(self) -> RefitPlan:
        made = object.__new__(RefitPlan)
        made._title = self._title
        made._legs = tuple([leg.copy() for leg in self._legs])
        made._crew = self._crew
        made._tags = self._tags
        made._sheets = self._sheets
        made._chart = self._chart
        made._serial = None
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
        self._given["tags"] = (
            list(tags) if isinstance(tags, (list, tuple)) else tags
        )  # for the build to refuse
        return self

    def add_leg(self, leg: Leg) -> RefitPlanBuilder:
        self._given.setdefault("legs", []).append(leg.copy())
        return self

    def build(self) -> RefitPlan:
        given = self._given
        if given.get("title") is None or given.get("legs") is None:
            raise missing("RefitPlan", title=given.get("title"), legs=given.get("legs"))
        return RefitPlan(**given)
