"""What is measured, what figures say, and the programs that measure, in earnest."""

from __future__ import annotations

import json
import os
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import BUILT_IN, DEMO, VALID, Urform, is_of_today, planned
from urform.languages import target
from urform.languages.target import Finished
from urform.measurement.figures import Line, Measured, Measurement, Timing, Weight, fitted
from urform.measurement.measure import agreed
from urform.measurement.plots import draw
from urform.measurement.reports import as_json
from urform.measurement.verdicts import COSTS, PAYS, SAVES, SAYS, UNSURE, verdicts
from urform.output.writing import write_project
from urform.plan.measuring import (
    BUILDER,
    CLONE,
    CONSTRUCTOR,
    CONTENTS,
    DEEP,
    MAP_READ,
    POOL,
    SHALLOW,
    samples,
)
from urform.verification.processes import Processes

RUN = Processes().run

# --- what is measured -------------------------------------------------------------------------------------------


def test_every_way_of_making_is_measured_by_itself() -> None:
    found = samples(planned(DEMO)[0])
    names = [sample.name for sample in found]
    assert len(names) == len(set(names))
    wanted = {
        "Buoy factory",
        "RefitPlan builder",
        "RefitPlan clone 100",
        "RefitPlan deep copy 10",
        "LightRhythm pool",
    }
    assert wanted <= set(names)
    assert not any(sample.product in ("Mark", "KnownOffset", "NoOffset") for sample in found)


def test_a_pool_is_asked_for_several_contents() -> None:
    by_name = {sample.name: sample for sample in samples(planned(DEMO)[0])}
    pooled, alone = by_name["LightRhythm pool"], by_name["LightRhythm constructor"]
    assert len(pooled.makers) == len(alone.makers) == CONTENTS
    assert len(set(map(str, pooled.makers))) == CONTENTS
    assert pooled.is_timed
    assert not by_name["Topmark pool"].is_timed, "nobody holds what it made"


@pytest.mark.parametrize("name", BUILT_IN)
def test_each_target_has_a_program(name: str) -> None:
    plan, _ = planned(DEMO)
    files = target(name).measuring(plan, samples(plan))
    assert files
    assert all(file.path.startswith("examples/") for file in files)


# --- what figures say -------------------------------------------------------------------------------------------


@given(st.integers(0, 10**6), st.integers(1, 5000))
def test_a_line_is_found_again(fixed: int, each: int) -> None:
    line = fitted([(count, fixed + each * count) for count in (1_000, 10_000, 100_000, 1_000_000)])
    assert line is not None
    assert line.each == pytest.approx(each, rel=1e-6)
    assert line.fixed == pytest.approx(fixed, abs=1 + 1e-4 * each)
    assert line.error <= 1e-3 + 1e-6 * each


def test_noise_widens_the_interval() -> None:
    points = [(1_000, 70_000), (10_000, 610_000), (100_000, 6_500_000), (1_000_000, 60_000_000)]
    line = fitted(points)
    assert line is not None
    assert line.each - line.error < 60 < line.each + line.error
    assert line.error > 1


def test_two_points_are_no_line() -> None:
    assert fitted([(1_000, 1), (10_000, 2)]) is None


def timed(product: str, way: str, seconds: float, size: int = 0) -> Timing:
    return Timing(product, way, size, (seconds,) * 9)


def weighed(way: str, fixed: float, each: float, error: float = 0.0) -> Weight:
    points = tuple((count, round(fixed + each * count)) for count in (1_000, 10_000, 100_000))
    return Weight("Rhythm", way, 30, points, Line(fixed, each, error))


def said(*timings: Timing, weights: tuple[Weight, ...] = ()) -> list[tuple[str, str]]:
    return [
        (verdict.state, "; ".join(filter(None, (verdict.text, verdict.more))))
        for verdict in verdicts(Measured("go", "", timings, weights))
    ]


def test_a_pool_that_saves() -> None:
    found = said(
        timed("", MAP_READ, 10e-9),
        timed("Rhythm", CONSTRUCTOR, 100e-9),
        timed("Rhythm", POOL, 20e-9),
        weights=(weighed(CONSTRUCTOR, 0, 64), weighed(POOL, 5600, 8)),
    )
    text = "30 contents in 100,000 products: 787 KiB instead of 6250 KiB; below 100 it costs more than it saves; "
    assert found == [(PAYS, f"{text}a hit takes 0.20 times making one, 2.0 times a map read")]


def test_a_pool_that_is_slower_than_making() -> None:
    weights = (weighed(CONSTRUCTOR, 0, 64), weighed(POOL, 0, 8))
    times = (timed("", MAP_READ, 10e-9), timed("Rhythm", CONSTRUCTOR, 10e-9), timed("Rhythm", POOL, 50e-9))
    assert said(*times, weights=weights)[0][0] == SAVES


def test_a_pool_that_does_not_pay() -> None:
    weights = (weighed(CONSTRUCTOR, 0, 9, 2.0), weighed(POOL, 0, 8))
    assert said(weights=weights) == [
        (COSTS, "a product takes 9 B, with a pool 8 B: nothing is saved"),
    ]


def test_weights_that_vary_tell_nothing() -> None:
    weights = (weighed(CONSTRUCTOR, 0, 73, 110.0), weighed(POOL, 0, 8))
    assert said(weights=weights) == [
        (UNSURE, "a product takes 73 B, with a pool 8 B: within 110 B, which tells nothing"),
    ]


@pytest.mark.parametrize(
    ("told", "weight"), [((100, 101), 100), ((100, 300, 102), 102), ((300, 100, 301), 300), ((0, 0), 0)]
)
def test_one_weight_that_is_wrong_is_left_out(told: tuple[int, ...], weight: int) -> None:
    """A program is asked until two weights agree, at most three times."""
    asked = iter(told)
    assert agreed(lambda: next(asked)) == weight
    assert list(asked) == []


def test_a_clone_and_a_builder() -> None:
    found = said(
        timed("Plan", CONSTRUCTOR, 1e-6),
        timed("Plan", BUILDER, 1.1e-6),
        timed("Plan", CLONE, 2e-6, 100),
        timed("Plan", DEEP, 60e-6, 100),
        timed("Plan", SHALLOW, 1e-7, 100),
    )
    assert found == [
        (
            SAYS,
            "a clone of 100 elements takes 2 µs, 0.03 times the language's deep copy, 20.0 times the language's shallow copy",
        ),
        (SAYS, "the builder takes 1.1 µs, 1.1 times the constructor: nothing that one would notice"),
    ]


@pytest.mark.parametrize("ending", [".png", ".svg"])
def test_a_picture_is_the_same_each_time(ending: str, tmp_path: Path) -> None:
    times = (timed("", MAP_READ, 1e-8), timed("Rhythm", CONSTRUCTOR, 1e-7), timed("Rhythm", POOL, 2e-8))
    weights = (weighed(CONSTRUCTOR, 0, 64), weighed(POOL, 0, 8))
    measurement = Measurement(
        "fairway", (Measured("go", "Go 1.26", times, weights), Measured("rust", missing="rustc"))
    )
    for name in ("one", "two"):
        draw(measurement, tmp_path / f"{name}{ending}")
    assert (tmp_path / f"one{ending}").read_bytes() == (tmp_path / f"two{ending}").read_bytes()
    assert json.loads(json.dumps(as_json(measurement)))["targets"][1]["missing"] == "rustc"


# --- in earnest -------------------------------------------------------------------------------------------------

PAIRS = [
    (path, name)
    for row, path in enumerate(VALID)
    for column, name in enumerate(BUILT_IN)
    if is_of_today(row * len(BUILT_IN) + column, 31)
]


@pytest.mark.toolchain
@pytest.mark.parametrize(
    ("path", "name"), PAIRS, ids=[f"{path.name.partition('.')[0]}-{name}" for path, name in PAIRS]
)
def test_the_program_of_any_declaration_runs(path: Path, name: str, tmp_path: Path) -> None:
    plan = target(name).alone(planned(path)[0])
    found = samples(plan)
    write_project(tmp_path, [*target(name).code(plan), *target(name).measuring(plan, found)])
    command = target(name).toolchain.measurable(tmp_path, RUN)
    assert not isinstance(command, Finished), command
    done = RUN([*command, "time", "0.0001"], tmp_path)
    assert done.status == 0, done.errors
    told = [json.loads(line) for line in done.output.splitlines()]
    made = [sample.name for sample in found if not sample.original]
    assert {*made, MAP_READ} <= {each["name"] for each in told}
    assert all(len(each["seconds"]) == 9 and min(each["seconds"]) > 0 for each in told)


@pytest.mark.toolchain
@pytest.mark.parametrize("name", BUILT_IN)
def test_a_pool_is_weighed(name: str, urform: Urform) -> None:
    """Of a declaration that has one; the figures are the machine's, and that sharing saves is not."""
    assert urform("new", "--with", "pool").status == 0
    run = urform(
        "measure", "-t", name, "--only", "LightRhythm", "--seconds", "0.001", "--most", "30000", "--json"
    )
    assert run.status == 0, run.err
    told = json.loads(run.out)["targets"][0]
    weights = {weight["way"]: weight for weight in told["weights"]}
    assert [count for count, _ in weights["pool"]["points"]] == [1_000, 3_000, 10_000, 30_000]
    assert weights["constructor"]["each"] > weights["pool"]["each"] > 0
    assert weights["constructor"]["contents"] == CONTENTS
    assert next(each["state"] for each in told["verdicts"] if each["pattern"] == "pool") in (PAYS, SAVES)


def test_for_people(urform: Urform, tmp_path: Path) -> None:
    assert urform("new", "--with", "builder,prototype").status == 0
    run = urform("measure", "-t", "python", "--seconds", "0.001", "--most", "1000", "-o", "measured.svg")
    assert run.status == 0, run.err
    assert "RefitPlan, builder\n  python  the builder takes" in run.out
    assert "times the language's deep copy" in run.out
    assert run.out.rstrip().endswith("wrote measured.svg")
    assert (tmp_path / "measured.svg").read_text(encoding="utf-8").startswith("<?xml")


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("--only", "Nobody"), "nothing of 'Nobody' is measured"),
        (("--only", "Bouy"), "Did you mean 'Buoy'?"),
        (("-o", "measured.bmp"), "a picture ends in .png, .svg"),
    ],
)
def test_wrong_usage(urform: Urform, starter: Path, arguments: tuple[str, ...], said: str) -> None:
    run = urform("measure", starter, *arguments)
    assert run.status == 2
    assert said in run.err


@pytest.mark.parametrize(
    ("arguments", "out"),
    [((), None), (("--json",), {"version": 1, "name": "one", "targets": []}), (("--only", "Mark"), None)],
)
def test_nothing_to_measure_is_told(
    urform: Urform, tmp_path: Path, arguments: tuple[str, ...], out: object
) -> None:
    (tmp_path / "one.urform.yaml").write_text(
        "urform: 1\nname: one\nproducts:\n  Mark: {required: {number: integer}}\n", encoding="utf-8"
    )
    done = urform("measure", *arguments)
    assert done.status == 0
    assert (json.loads(done.out) if done.out else None) == out
    assert "nothing to measure: no product has a factory" in done.err


def test_without_its_packages_the_command_says_how_to_get_them(
    hiding: Callable[[str], dict[str, str]], urform: Urform, starter: Path
) -> None:
    run = urform("measure", starter, environment=hiding("scipy"))
    assert run.status == 3
    assert "urform measure needs scipy: pip install 'urform[measure]'" in run.err


def test_a_target_that_is_not_there_is_told(urform: Urform, starter: Path) -> None:
    run = urform("measure", starter, "-t", "go", environment={"PATH": os.path.dirname("/nowhere/x")})
    assert run.status == 3
    assert "go: not measured, for it lacks Go" in run.err
