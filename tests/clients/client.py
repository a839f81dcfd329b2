"""What a developer does with the generated types. Run where they are generated."""

import copy
import gc
import importlib
import pickle
import sys
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest
from PACKAGE import (
    Buoy,
    Leg,
    LightRhythm,
    LightRhythmPool,
    MarkRegistry,
    NoOffset,
    Outfit,
    Position,
    RefitPlan,
    RefitPlanBuilder,
    Side,
    TopmarkPool,
    tide_offset,
    tide_offset_or_none,
)
from PACKAGE.checks import own_list, own_map, own_set
from PACKAGE.errors import LimitError, MissingFieldsError, RefusedError, UnknownKeyError
from PACKAGE.pools import Tally
from PACKAGE.testing import StandInHull, StandInOutfit

HARBOUR = Position(latitude=54.2, longitude=9.1)


def test_plugs_a_kind_in() -> None:
    registry = MarkRegistry()
    registry.register("port_buoy", lambda **fields: Buoy(**{**fields, "side": Side.PORT}))
    mark = registry.create("port_buoy", station=3, position=HARBOUR)
    assert (mark.side, type(mark)) == (Side.PORT, Buoy)
    with pytest.raises(UnknownKeyError, match="known: beacon, buoy"):
        MarkRegistry().create("port_buoy", station=3, position=HARBOUR)


LIGHTSHIP = """
from dataclasses import dataclass
from typing import ClassVar

from PACKAGE import Mark

@dataclass(frozen=True, kw_only=True)
class Lightship(Mark):
    key: ClassVar[str] = "lightship"

    def chart_label(self) -> str:
        return "lightship"

    def range_from(self, eye_height: float) -> float:
        return eye_height + 12

class Ferry:
    class Pilot(Lightship):
        pass
"""


def test_finds_a_kind_by_its_name(tmp_path, monkeypatch) -> None:
    (tmp_path / "outer_marks.py").write_text(LIGHTSHIP)
    monkeypatch.syspath_prepend(tmp_path)
    registry = MarkRegistry()
    registry.register_loader("lightship", "outer_marks:Lightship")
    registry.register_loader("pilot", "outer_marks:Ferry.Pilot")
    assert registry.keys() == ["beacon", "buoy", "lightship", "pilot"]
    assert "outer_marks" not in sys.modules
    mark = registry.create("lightship", station=3, position=HARBOUR)
    assert (mark.key, mark.chart_label(), mark.station) == ("lightship", "lightship", 3)
    assert type(registry.create("pilot", station=4, position=HARBOUR)).__name__ == "Pilot"
    with pytest.raises(LimitError):
        registry.create("lightship", station=0, position=HARBOUR)
    assert registry.unregister("lightship")
    with pytest.raises(UnknownKeyError):
        registry.create("lightship", station=3, position=HARBOUR)


def test_what_is_no_kind_is_not_loaded(tmp_path, monkeypatch) -> None:
    monkeypatch.syspath_prepend(tmp_path)
    registry = MarkRegistry()
    for wrong, error in (
        ("later_marks:Lightship", ModuleNotFoundError),
        ("PACKAGE:Lightship", AttributeError),
        ("PACKAGE:Position", RefusedError),
        ("PACKAGE:HARBOUR", AttributeError),
        ("builtins:dict", RefusedError),
    ):
        registry.register_loader(wrong, wrong)
        with pytest.raises(error):
            registry.create(wrong, station=3, position=HARBOUR)
    for malformed in ("later_marks", ":Lightship", "later_marks:", "", 3, None):
        with pytest.raises(RefusedError):
            registry.register_loader("malformed", malformed)
    assert "malformed" not in registry.keys()
    (tmp_path / "later_marks.py").write_text(LIGHTSHIP)
    importlib.invalidate_caches()
    assert registry.create("later_marks:Lightship", station=3, position=HARBOUR).key == "lightship"


def test_a_loader_that_fails_is_asked_again() -> None:
    failures = [OSError("the plug-in is locked")]

    def load():
        if failures:
            raise failures.pop()
        return Buoy

    registry = MarkRegistry()
    registry.register_loader("port_buoy", load)
    with pytest.raises(OSError, match="locked"):
        registry.create("port_buoy", station=3, position=HARBOUR)
    assert type(registry.create("port_buoy", station=3, position=HARBOUR)) is Buoy


def test_changes_a_clone() -> None:
    plan = RefitPlan(title="Basin 4", legs=[Leg(label="Inspect")], tags=["steel"])
    before = str(plan)
    clone = plan.clone()
    assert clone is not plan
    assert clone == plan
    clone.legs[0].label = "Paint"
    clone.tags = ["wood"]
    assert str(plan) == before
    assert str(clone) != before


def test_changes_one_leg_after_the_other() -> None:
    plan = RefitPlan(title="Basin 4", legs=[Leg(label="Inspect")], tags=["steel"])
    clone, inspect = plan.clone(), plan.legs[0]
    plan.add_tag("spring")
    clone.add_tag("autumn")
    clone.put_tag(0, "wood")
    assert (list(plan.tags), list(clone.tags)) == (["steel", "spring"], ["wood", "autumn"])
    plan.add_leg(Leg(label="Paint"))
    plan.put_leg(-1, Leg(label="Varnish"))
    assert plan.legs[0] is inspect
    assert [leg.label for leg in plan.legs] == ["Inspect", "Varnish"]
    for beyond in (2, -3):
        with pytest.raises(IndexError):
            plan.put_tag(beyond, "lost")
        with pytest.raises(IndexError):
            plan.remove_tag(beyond)
    with pytest.raises(TypeError):
        plan.remove_tag(slice(0, 2))  # type: ignore[arg-type]
    with pytest.raises(LimitError, match=r'an element of RefitPlan\.legs is "Paint"; one of type Leg is wanted'):
        plan.add_leg("Paint")  # type: ignore[arg-type]
    assert list(plan.tags) == ["steel", "spring"]
    plan.remove_leg(0)
    with pytest.raises(LimitError, match=r"RefitPlan\.legs has the length 0; at least 1 is allowed"):
        plan.remove_leg(0)
    assert [leg.label for leg in plan.legs] == ["Varnish"]


def test_forgets() -> None:
    builder = RefitPlanBuilder()
    with pytest.raises(MissingFieldsError, match="RefitPlan: missing title, legs"):
        builder.build()
    first = builder.title("Basin 4").legs([Leg(label="Inspect")]).build()
    second = builder.title("Basin 5").build()
    assert (first.title, second.title) == ("Basin 4", "Basin 5")
    assert first.legs[0] is not second.legs[0]


def test_takes_a_stand_in() -> None:
    stand_in = StandInOutfit()
    outfit: Outfit = stand_in
    assert isinstance(outfit.hull(), StandInHull)
    assert outfit.moorings()
    assert stand_in.asked == ["hull", "moorings"]


def test_gets_nothing_or_a_reason() -> None:
    with pytest.raises(RefusedError, match="TideOffset: refused"):
        tide_offset(centimetres=-501, datum="chart")
    assert tide_offset_or_none(centimetres=-501, datum="chart") is None
    assert isinstance(tide_offset(centimetres=0, datum="chart"), NoOffset)


def test_a_pool_makes_once() -> None:
    made = []

    def maker(code: str, period_ms: int) -> LightRhythm:
        time.sleep(0.001)
        made.append(code)
        return LightRhythm(code=code, period_ms=period_ms)

    pool = LightRhythmPool(maker)
    with ThreadPoolExecutor(8) as threads:
        found = list(threads.map(lambda _: pool.get("Fl", 4000), range(100)))
    assert len({id(rhythm) for rhythm in found}) == 1
    assert (made, pool.made, pool.reused) == (["Fl"], 1, 99)


def test_a_maker_that_fails_leaves_nothing() -> None:
    tries = []

    def maker(code: str, period_ms: int) -> LightRhythm:
        tries.append(code)
        if len(tries) == 1:
            raise OSError("no lamp")
        return LightRhythm(code=code, period_ms=period_ms)

    pool = LightRhythmPool(maker)
    with pytest.raises(OSError, match="no lamp"):
        pool.get("Fl", 4000)
    assert (pool.made, pool.reused) == (0, 0)
    assert pool.get("Fl", 4000) is pool.get("Fl", 4000)
    assert (pool.made, pool.reused) == (1, 1)


def test_a_weak_pool_lets_go() -> None:
    pool = TopmarkPool()
    held = pool.get("cone")
    gc.collect()
    assert pool.get("cone") is held
    del held
    gc.collect()
    pool.get("cone")
    assert pool.made == 2


def test_a_tally_counts_from_all_threads() -> None:
    tally = Tally()
    gate = threading.Barrier(4)

    def add() -> None:
        gate.wait()
        for _ in range(1000):
            tally.add()

    threads = [threading.Thread(target=add) for _ in range(4)]
    for thread in threads:
        thread.start()
    while any(thread.is_alive() for thread in threads):
        assert 0 <= tally.total() <= 4000
    assert (tally.total(), tally.total()) == (4000, 4000)


def test_builders_keep_what_builds_refuse() -> None:
    assert own_list(None) is None
    assert own_list("text") == "text"
    assert own_list(["a", None], str.upper) == ["A", None]
    assert own_set(None) is None
    assert own_map(None) is None
    given = {"a": "x"}
    own = own_map(given, str.upper)
    given.clear()
    assert own == {"a": "X"}


def test_makers_of_different_keys_do_not_wait_for_each_other() -> None:
    gate = threading.Barrier(8)

    def maker(code: str, period_ms: int) -> LightRhythm:
        gate.wait(10)  # all of them are here at once, or none goes on
        return LightRhythm(code=code, period_ms=period_ms)

    pool = LightRhythmPool(maker)
    with ThreadPoolExecutor(8) as threads:
        list(threads.map(lambda period: pool.get("Fl", period), range(2000, 10000, 1000)))
    assert (pool.made, pool.reused) == (8, 0)


def test_a_maker_that_asks_for_its_own_key_is_refused() -> None:
    pool = LightRhythmPool(lambda code, period_ms: pool.get(code, period_ms))
    with pytest.raises(RefusedError, match="its maker asks for the key that it makes"):
        pool.get("Fl", 4000)
    other = LightRhythmPool(lambda code, period_ms: first.get(code, period_ms))
    first = LightRhythmPool(lambda code, period_ms: other.get(code, period_ms))
    with pytest.raises(RefusedError, match="its maker asks"):
        first.get("Fl", 4000)
    assert (pool.made, first.made, other.made) == (0, 0, 0)


def test_a_circle_of_makers_in_two_threads_is_refused_to_one() -> None:
    both = threading.Barrier(2)
    entered: list[int] = []

    def maker(code: str, period_ms: int) -> LightRhythm:
        entered.append(period_ms)
        if len(entered) <= 2:
            both.wait(10)
        pool.get(code, 6000 - period_ms)
        return LightRhythm(code=code, period_ms=period_ms)

    pool = LightRhythmPool(maker)
    with ThreadPoolExecutor(2) as threads:
        found = [threads.submit(pool.get, "Fl", period) for period in (2000, 4000)]
        errors = [each.exception(10) for each in found]
    assert {type(error) for error in errors} == {RefusedError}


def test_a_maker_that_gives_nothing_is_refused() -> None:
    with pytest.raises(RefusedError, match="its maker gives none"):
        LightRhythmPool(lambda code, period_ms: None).get("Fl", 4000)  # type: ignore[arg-type, return-value]
    registry = MarkRegistry()
    registry.register("raft", lambda **fields: None)  # type: ignore[arg-type, return-value]
    with pytest.raises(RefusedError, match="its maker gives none"):
        registry.create("raft", station=3, position=HARBOUR)
    with pytest.raises(RefusedError, match="its maker cannot be called"):
        registry.register("wreck", None)  # type: ignore[arg-type]


def test_a_value_of_another_type_is_refused_whatever_a_checker_says() -> None:
    for make in (
        lambda: LightRhythm(code=7, period_ms=4000),  # type: ignore[arg-type]
        lambda: Leg(label=None or b"Inspect"),  # type: ignore[arg-type]
        lambda: Buoy(station=3, position=HARBOUR, reflective="no"),  # type: ignore[arg-type]
        lambda: Buoy(station=3, position={"latitude": 54.2, "longitude": 9.1}),  # type: ignore[arg-type]
        lambda: RefitPlan(title="Basin 4", legs="legs"),  # type: ignore[arg-type]
    ):
        with pytest.raises(LimitError, match=r"^\w+\.\w+ is .*; [\w ]+ is wanted$"):
            make()


def test_mutable_products_hold_what_they_check() -> None:
    leg = Leg(label="Inspect", hours=-0.0)
    assert str(leg.hours) == "0.0"
    leg.hours = 2  # a whole number for a real one
    assert (leg.hours, type(leg.hours)) == (2.0, float)
    leg.label = type("Word", (str,), {})("Paint")
    assert repr(leg) == "Leg(label='Paint', hours=2.0)"
    with pytest.raises(AttributeError):
        leg.lable = "Paint"  # type: ignore[attr-defined]
    with pytest.raises(MissingFieldsError, match="missing label"):
        leg.label = None  # type: ignore[assignment]
    for hours in (float("nan"), float("inf"), 10**400, True):
        with pytest.raises(LimitError):
            leg.hours = hours
    assert leg == Leg(label="Paint", hours=2.0) != Leg(label="Paint")


def test_copies_of_the_library_are_whole() -> None:
    plan = RefitPlan(title="Basin 4", legs=[Leg(label="Inspect")])
    for copied in (copy.deepcopy(plan), pickle.loads(pickle.dumps(plan))):
        assert (copied, type(copied)) == (plan, RefitPlan)
        copied.legs[0].label = "Paint"
        with pytest.raises(LimitError):
            copied.title = ""
    assert plan.legs[0].label == "Inspect"


def test_a_copy_of_what_a_pool_gave_is_that_one() -> None:
    rhythm = LightRhythmPool().get("Fl", 4000)
    assert copy.copy(rhythm) is rhythm
    assert copy.deepcopy([rhythm])[0] is rhythm


def test_a_preset_does_not_drop_what_a_builder_holds() -> None:
    builder = RefitPlanBuilder().title("Basin 4")
    with pytest.raises(TypeError, match=r"spring_refit\(\) starts a builder: call it on RefitPlanBuilder"):
        builder.spring_refit()
    assert RefitPlanBuilder.spring_refit().title("Basin 4").add_leg(Leg(label="Inspect")).build().crew == 4
