"""Points in time: what Python takes for one and is none, and the same one in other zones. Run where they are generated."""

import datetime
import zoneinfo

import pytest
from PACKAGE import LimitError, Sighting, Tide
from PACKAGE.records import RecordError, read_tide, write_tide

DAY = datetime.date(2026, 12, 1)
NOON = datetime.datetime(2026, 12, 1, 12, tzinfo=datetime.UTC)


class Moment(datetime.datetime):
    """A point in time of another class, which is one."""


def zone(hours: int) -> datetime.timezone:
    return datetime.timezone(datetime.timedelta(hours=hours))


def test_a_time_without_a_zone_is_none() -> None:
    for other in (datetime.datetime(2026, 12, 1, 12), DAY, "2026-12-01T12:00:00Z", 1796126400):
        with pytest.raises(LimitError, match="a datetime with a time zone is wanted") as refused:
            Tide(turned=other, metres=1.0, day=DAY)
        assert refused.value.limit == "type"
    with pytest.raises(LimitError):
        Sighting(number_="1/26", seen=NOON, repeated=[NOON, datetime.datetime(2026, 12, 1)])


def test_it_is_held_in_utc_whatever_its_zone() -> None:
    for other in (NOON.astimezone(zone(5)), NOON.astimezone(zoneinfo.ZoneInfo("UTC")), Moment(2026, 12, 1, 12, tzinfo=zone(0))):
        tide = Tide(turned=other, metres=1.0, day=DAY)
        assert tide.turned == NOON
        assert tide.turned.tzinfo is datetime.UTC
        assert tide == Tide(turned=NOON, metres=1.0, day=DAY)
        assert write_tide(tide)["turned"] == "2026-12-01T12:00:00Z"


def test_limits_are_those_of_the_point_in_time_not_of_the_clock_on_the_wall() -> None:
    with pytest.raises(LimitError, match='"1999-12-31T23:30:00Z"; "2000-01-01T00:00:00Z" or later is allowed'):
        Sighting(number_="1/26", seen=datetime.datetime(2000, 1, 1, 0, 30, tzinfo=zone(1)))
    assert Sighting(number_="1/26", seen=datetime.datetime(1999, 12, 31, 23, 30, tzinfo=zone(-1))).seen.year == 2000


def test_one_that_utc_has_not_is_refused() -> None:
    for other in (datetime.datetime.min.replace(tzinfo=zone(1)), datetime.datetime.max.replace(tzinfo=zone(-1))):
        with pytest.raises(LimitError) as refused:
            Tide(turned=other, metres=1.0, day=DAY)
        assert refused.value.limit == "instant"


def test_a_record_has_them_of_one_form() -> None:
    def record(text: object) -> dict[str, object]:
        return {"turned": text, "metres": 1, "day": "2026-12-01"}

    for text in ("20261201T120000Z", "2026-W49-2T12:00:00Z", "2026-12-01T12Z", "0001-01-01T00:00:00+00:01", NOON, None):
        with pytest.raises(RecordError):
            read_tide(record(text))
    for text in ("2026-12-01t12:00:00z", "2026-12-01T12:00:00.000-00:00", "2026-12-02T11:59:00+23:59"):
        assert read_tide(record(text)).turned == NOON
