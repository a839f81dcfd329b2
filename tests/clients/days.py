"""Days: what Python takes for one and is none, and what is one of another class. Run where they are generated."""

import datetime

import pytest
from PACKAGE import LimitError, Notice, Tide
from PACKAGE.records import RecordError, read_tide


class Holiday(datetime.date):
    """A day of another class, which is one."""


def test_a_point_in_time_is_no_day() -> None:
    noon = datetime.datetime(2026, 12, 1, 12, tzinfo=datetime.timezone.utc)
    with pytest.raises(LimitError, match="a date is wanted") as refused:
        Tide(day=noon, metres=1.0)
    assert refused.value.limit == "type"
    with pytest.raises(LimitError):
        Notice(number_="1/26", issued=datetime.date(2026, 1, 1), renewed=[noon])
    with pytest.raises(LimitError):
        Tide(day="2026-12-01", metres=1.0)


def test_a_day_of_another_class_is_one() -> None:
    day = Holiday(2026, 12, 1)
    assert Tide(day=day, metres=1.0).day is day
    with pytest.raises(LimitError, match='"2000-01-01" or later is allowed'):
        Notice(number_="1/26", issued=Holiday(1999, 12, 31))


def test_a_record_has_days_of_one_form() -> None:
    for text in ("20261201", "2026-W49-2", "2026-336", "2026-12-01T00:00", "\u0662\u0660\u0662\u0666-12-01"):
        with pytest.raises(RecordError, match="a date is wanted"):
            read_tide({"day": text, "metres": 1})
    assert read_tide({"day": "0001-01-01", "metres": 1}).day == datetime.date.min
