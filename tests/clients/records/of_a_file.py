"""Records that stand in a file."""

import json
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

import pytest
from PACKAGE import Mark, Position
from PACKAGE.records import (
    RecordError,
    create_all,
    parse,
    read_chart,
    read_leg,
    read_mark,
    read_plan,
    to_text,
    write_mark,
    write_plan,
)

DATA = Path("DATA_FOLDER")


def lines(name: str) -> list[str]:
    return (DATA / name).read_text(encoding="utf-8").split("\n")[:-1]


def test_a_file_is_made_into_products() -> None:
    records = json.loads((DATA / "records.json").read_text(encoding="utf-8"))
    marks, problems = create_all(records, read_mark)
    assert list(map(str, problems)) == lines("problems.txt")
    assert [to_text(write_mark(mark)) for mark in marks] == lines("written.txt")


def test_what_is_written_is_read_by_every_other() -> None:
    marks = [read_mark(parse(line)) for line in lines("written.txt")]
    assert [to_text(write_mark(mark)) for mark in marks] == lines("written.txt")
    assert create_all(parse((DATA / "again.json").read_bytes()), read_mark) == (marks, [])


def test_depth_is_bounded() -> None:
    with pytest.raises(RecordError) as caught:
        read_plan(parse((DATA / "deep.json").read_text(encoding="utf-8")))
    problems = caught.value.problems
    assert {(problem.limit, problem.bound) for problem in problems} == {("depth", 200)}
    assert all(problem.path.startswith("inner.inner.") for problem in problems)
    with pytest.raises(RecordError):
        parse("[" * 100_000)


LET_THROUGH = (
    b'{"label": "\xff"}',
    b'{"label": "out", "hours": NaN}',
    b'{"label": "out", "hours": 1e400}',
    b'{"label": "out"} more',
    b'{"label": "out", "LABEL": "out"}',
    b'{"label": "out", "hours": null, "label": "out"}',
    b'{"label": "out"',
    b"",
    b"null",
    b"[]",
)


def test_what_readers_let_through_is_told() -> None:
    for text in LET_THROUGH:
        with pytest.raises(RecordError) as caught:
            read_leg(parse(text))
        assert str(caught.value.problems[0])


@dataclass(frozen=True, slots=True, kw_only=True)
class Raft(Mark):
    key: ClassVar[str] = "raft"

    def chart_label(self) -> str:
        return "raft"


def test_a_kind_of_ones_own_is_written_with_what_all_kinds_have() -> None:
    raft = Raft(station=3, position=Position(latitude=54.5, longitude=8.25), remarks="two, tied")
    assert (
        to_text(write_mark(raft))
        == '{"type":"raft","station":3,"position":{"lat":54.5,"lon (°)":8.25},"toString":"two, tied"}'
    )


def test_a_plan_goes_there_and_back() -> None:
    plan = read_plan({"title": "Round", "legs": [{"label": "out", "hours": 1.25}]})
    assert to_text(write_plan(plan)) == '{"title":"Round","legs":[{"label":"out","hours":1.25}]}'
    assert read_chart({"sheet": "\u2028"}).sheet == "\u2028"
