"""Times, durations and decimal numbers: what Python's types hold beside them, and the same value in other forms. Run where they are generated."""

import datetime
import decimal
import pickle
from decimal import Decimal

import pytest
from PACKAGE import LimitError, Tide, Watch
from PACKAGE.records import RecordError, read_tide, write_tide

SIX = datetime.time(6)
HOUR = datetime.timedelta(hours=1)


class Longer(datetime.timedelta):
    """A timedelta of another class, which is one."""


class Exact(Decimal):
    """A Decimal of another class, which is one."""


def tide(turns: object = SIX, runs: object = HOUR, rises: object = Decimal(1)) -> Tide:
    return Tide(turns=turns, runs=runs, rises=rises)


def test_a_number_or_a_text_is_none() -> None:
    for other in (6, 6.0, "06:00:00", HOUR, datetime.datetime(2026, 12, 1), SIX.replace(tzinfo=datetime.UTC), None):
        with pytest.raises(ValueError, match="a time without a time zone is wanted|missing turns"):
            tide(turns=other)
    for other in (3600, 3600.0, "PT1H", SIX, None):
        with pytest.raises(ValueError, match="a timedelta is wanted|missing runs"):
            tide(runs=other)
    for other in (1, 1.5, True, "1.5", 1.5j, None):
        with pytest.raises(ValueError, match="a Decimal is wanted|missing rises"):
            tide(rises=other)


def test_numbers_that_are_no_decimal_numbers_are_refused() -> None:
    others = ("NaN", "sNaN", "Infinity", "-Infinity", "1E+20", "1E+999999", "1E-19", "1E-999999", "0.1234567890123456789")
    for other in (*others, "123456789012345678901", "-99999999999999999999.9999999999999999999"):
        with pytest.raises(LimitError) as refused:
            tide(rises=Decimal(other))
        assert refused.value.limit == "decimal"
        assert len(str(refused.value)) < 200


def test_the_same_number_is_the_same_product() -> None:
    kept = tide(rises=Decimal("1200.5"))
    for other in (Decimal("1200.50"), Decimal("12005E-1"), Decimal("1200.500000000000000000000000000000000"), Exact("1200.5")):
        again = tide(rises=other)
        assert again == kept
        assert hash(again) == hash(kept)
        assert type(again.rises) is Decimal
        assert repr(again) == repr(kept)
    assert str(tide(rises=Decimal("-0.00")).rises) == "0"
    assert str(tide(rises=Decimal("1E+3")).rises) == "1000"


def test_no_digit_is_lost_where_few_are_calculated_with() -> None:
    with decimal.localcontext(prec=3):
        most = tide(rises=Decimal("99999999999999999999.999999999999999999"))
        assert str(most.rises) == "99999999999999999999.999999999999999999"
        assert read_tide(write_tide(most)) == most
        with pytest.raises(LimitError, match='"1000.001"; less than "1000" is wanted'):
            Watch(number_="1", begins=SIX, lasts=HOUR, depth=Decimal("1000.001"))


def test_durations_end_at_100_000_days() -> None:
    most = datetime.timedelta(days=100_000)
    least = datetime.timedelta(microseconds=1)
    for length in (most, -most, datetime.timedelta(0), -least, Longer(hours=2)):
        kept = tide(runs=length)
        assert kept.runs == length
        assert type(kept.runs) is datetime.timedelta
        assert read_tide(write_tide(kept)) == kept
    for length in (most + least, -most - least, datetime.timedelta.max, datetime.timedelta.min):
        with pytest.raises(LimitError) as refused:
            tide(runs=length)
        assert refused.value.limit == "duration"


def test_what_is_written_has_one_form() -> None:
    record = write_tide(tide(datetime.time(6, 30, 0, 250_000), datetime.timedelta(seconds=-90, microseconds=500_000), Decimal("-0.50")))
    assert (record["turns"], record["runs"], record["rises"]) == ("06:30:00.25", "-PT1M29.5S", "-0.5")


def test_a_record_has_them_of_one_form() -> None:
    sound = {"turns": "06:00:00", "runs": "PT1H", "rises": "1"}
    for name, texts in {
        "turns": ("060000", "06", "06:00", "06:00:00+00:00", "T06:00:00", SIX, 6),
        "runs": ("P1M", "PT", "1:00:00", "P1DT", "PT1H\n", "pt1h", HOUR, 3600),
        "rises": ("1_000", "１", " 1", "1e3", "NaN", "+1", "0x1", Decimal(1), 1, 1.5),
    }.items():
        for text in texts:
            with pytest.raises(RecordError):
                read_tide(sound | {name: text})
    again = read_tide({"turns": "06:00:00.000", "runs": "PT3600.0S", "rises": "1.000"})
    assert again == read_tide(sound) == tide()


def test_they_can_be_pickled() -> None:
    assert pickle.loads(pickle.dumps(tide())) == tide()
