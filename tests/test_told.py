"""Values that are told by texts: one canonical text for each, places in their order, and a pattern that takes just these texts."""

from __future__ import annotations

import datetime
import uuid
from decimal import Decimal, localcontext

import pytest
from hypothesis import given
from hypothesis import strategies as st

from urform.declaration import read_string
from urform.declaration.regexp.automaton import automaton
from urform.declaration.told import Told, at_place, read_told
from urform.declaration.told_kinds import KINDS
from urform.declaration.told_kinds.durations import units

DAYS = st.dates()
TIMES = st.times()
LENGTHS = st.timedeltas(datetime.timedelta(days=-100_000), datetime.timedelta(days=100_000))
UNITS = st.integers(-(10**38) + 1, 10**38 - 1)
MOMENTS = st.datetimes(timezones=st.just(datetime.UTC))
PATTERNS = {name: automaton(kind.pattern) for name, kind in KINDS.items()}


@given(DAYS)
def test_a_date_is_its_own_canonical_text(day: datetime.date) -> None:
    told = read_told("date", day.isoformat())
    assert told == Told("date", day.isoformat())
    assert told.order == day.toordinal()
    assert PATTERNS["date"].accepts(told.text)


@given(DAYS, DAYS)
def test_dates_have_the_order_of_their_days_and_of_their_texts(
    one: datetime.date, other: datetime.date
) -> None:
    first, second = Told("date", one.isoformat()), Told("date", other.isoformat())
    assert (first < second) == (one < other) == (first.text < second.text)


@given(DAYS, st.integers(-400, 400))
def test_beside_a_date_stands_another_until_there_is_none(day: datetime.date, days: int) -> None:
    beside = Told("date", day.isoformat()).beside(days)
    try:
        assert beside == Told("date", (day + datetime.timedelta(days)).isoformat())
    except OverflowError:
        assert beside is None


def test_the_pattern_takes_the_days_of_four_hundred_years_and_no_others() -> None:
    pattern = PATTERNS["date"]
    for year in (1, 4, 100, 400, 1900, 1999, 2000, 2023, 2024, 9999):
        for month in range(14):
            for day in range(34):
                text = f"{year:04}-{month:02}-{day:02}"
                assert pattern.accepts(text) == (read_told("date", text) is not None), text
    assert not pattern.accepts("0000-01-01")


LOOKALIKES = [(kind, text) for kind, known in KINDS.items() for text in known.none]


@pytest.mark.parametrize(("kind", "text"), LOOKALIKES)
def test_what_looks_like_one_is_none(kind: str, text: str) -> None:
    assert read_told(kind, text) is None
    assert not PATTERNS[kind].accepts(text)


@pytest.mark.parametrize("kind", KINDS)
def test_usual_values_are_canonical_and_have_a_place(kind: str) -> None:
    known = KINDS[kind]
    for text in (*known.usual, known.neutral, known.first, known.last):
        told = read_told(kind, text)
        assert told == Told(kind, text)
        assert at_place(kind, told.order) == told
        assert read_told(kind, known.otherwise(text)) == told
        assert PATTERNS[kind].accepts(text)
        assert PATTERNS[kind].accepts(known.otherwise(text))


@given(MOMENTS, st.integers(-23 * 60, 23 * 60))
def test_an_instant_is_read_with_any_offset(moment: datetime.datetime, minutes: int) -> None:
    told = read_told("instant", moment.isoformat())
    assert told is not None
    assert datetime.datetime.fromisoformat(told.text) == moment
    try:
        local = moment.astimezone(datetime.timezone(datetime.timedelta(minutes=minutes))).isoformat()
    except OverflowError:
        return
    assert read_told("instant", local) == told
    assert PATTERNS["instant"].accepts(local)


@given(MOMENTS, MOMENTS)
def test_instants_have_their_order(one: datetime.datetime, other: datetime.datetime) -> None:
    first, second = (read_told("instant", each.isoformat()) for each in (one, other))
    assert first is not None
    assert second is not None
    assert (first < second) == (one < other)
    assert (first == second) == (one == other)


@pytest.mark.parametrize("text", ["0001-01-01T00:00:00+00:01", "9999-12-31T23:59:59-00:01"])
def test_what_is_beyond_the_years_in_utc_is_none(text: str) -> None:
    assert read_told("instant", text) is None


@given(st.uuids())
def test_a_uuid_is_read_in_either_case(one: uuid.UUID) -> None:
    told = read_told("uuid", str(one).upper())
    assert told == read_told("uuid", str(one)) == Told("uuid", str(one))
    assert told.order == one.int
    assert PATTERNS["uuid"].accepts(str(one).upper())
    assert at_place("uuid", one.int) == told


@given(TIMES, TIMES)
def test_times_of_day_have_the_order_of_the_clock_and_of_their_texts(
    one: datetime.time, other: datetime.time
) -> None:
    first, second = (read_told("time", each.isoformat()) for each in (one, other))
    assert first is not None
    assert second is not None
    assert datetime.time.fromisoformat(first.text) == one
    assert (first < second) == (one < other) == (first.text < second.text)
    assert PATTERNS["time"].accepts(one.isoformat())


@given(LENGTHS, LENGTHS)
def test_durations_have_their_order(one: datetime.timedelta, other: datetime.timedelta) -> None:
    micro = datetime.timedelta(microseconds=1)
    first, second = (at_place("duration", each // micro) for each in (one, other))
    assert first is not None
    assert second is not None
    assert (first < second) == (one < other)
    assert datetime.timedelta(**dict(units(first.text))) == one
    assert PATTERNS["duration"].accepts(first.text)


@given(
    st.booleans(),
    st.integers(0, 99_000),
    st.integers(0, 99),
    st.integers(0, 99_999),
    st.integers(0, 9_999_999),
    st.integers(0, 999_999),
)
def test_a_duration_is_what_its_units_come_to(
    negative: bool, days: int, hours: int, minutes: int, seconds: int, micros: int
) -> None:
    """Whatever the units hold, and wherever zeros stand."""
    text = f"{'-' if negative else ''}P{days}DT{hours:02}H{minutes}M{seconds}.{micros:06}S"
    length = datetime.timedelta(days, seconds, micros, 0, minutes, hours)
    told = read_told("duration", text)
    assert told is not None
    assert told.order == (-length if negative else length) // datetime.timedelta(microseconds=1)
    assert PATTERNS["duration"].accepts(text)
    assert read_told("duration", told.text) == told


@pytest.mark.parametrize("text", KINDS["duration"].beyond)
def test_a_longer_duration_is_none(text: str) -> None:
    assert PATTERNS["duration"].accepts(text)
    assert read_told("duration", text) is None


def test_weeks_and_days_are_hours() -> None:
    assert read_told("duration", "P1W") == read_told("duration", "P7D") == Told("duration", "PT168H")
    assert read_told("duration", "-PT0S") == Told("duration", "PT0S")


@given(UNITS, UNITS)
def test_decimal_numbers_have_the_order_of_numbers(one: int, other: int) -> None:
    first, second = at_place("decimal", one), at_place("decimal", other)
    assert first is not None
    assert second is not None
    with localcontext(prec=60):
        assert Decimal(first.text).scaleb(18) == one
        assert (first < second) == (Decimal(first.text) < Decimal(second.text)) == (one < other)
    assert PATTERNS["decimal"].accepts(first.text)


@given(UNITS, st.integers(0, 18))
def test_zeros_at_the_end_are_no_part_of_a_decimal_number(number: int, places: int) -> None:
    told = at_place("decimal", number)
    assert told is not None
    whole, _, fraction = told.text.partition(".")
    longer = f"{whole}.{fraction:0<{max(places, 1)}}"
    assert read_told("decimal", longer) == told
    assert PATTERNS["decimal"].accepts(longer)


def test_the_ends() -> None:
    assert at_place("date", 0) is None
    assert at_place("date", 1) == Told("date", KINDS["date"].first)
    assert Told("date", KINDS["date"].last).beside(1) is None


@pytest.mark.parametrize(
    ("field", "found"),
    [
        ("date", []),
        ("{type: date, default: 2026-12-01}", []),
        ("{type: date, default: '2026-12-01'}", []),
        ("{type: date, default: 2026-02-30}", ["no-such-value"]),
        ("{type: date, default: 2026}", ["value-type"]),
        ("{type: date, min: 2026-01-01, default: 2025-12-31}", ["value-limit"]),
        ("{type: date, min: 2026-02-30}", ["bad-bound"]),
        ("{type: date, min: 3}", ["bad-bound"]),
        ("{type: integer, min: 2026-01-01}", ["bad-bound"]),
        ("{type: text, min: 2026-01-01}", ["misplaced-limit"]),
        ("{type: date, min: 2026-01-02, max: 2026-01-01}", ["no-value-left"]),
        ("{type: date, above: 2026-01-01, below: 2026-01-02}", ["no-value-left"]),
        ("{type: date, above: 9999-12-31}", ["no-value-left"]),
        ("{type: date, min_length: 3}", ["misplaced-limit"]),
        ("set<date>", ["bad-element"]),
        ("instant", []),
        ("{type: instant, default: 2026-12-01T05:30:00Z}", []),
        ("{type: instant, default: 2026-12-01T05:30:00.50+05:30}", []),
        ("{type: instant, default: 2026-12-01}", ["no-such-value"]),
        ("{type: instant, default: 2026-12-01T05:30:00}", ["no-such-value"]),
        ("{type: instant, min: 2026-12-01}", ["bad-bound"]),
        ("{type: instant, min: 2026-12-01T06:00:00+05:30, default: 2026-12-01T00:30:00Z}", []),
        (
            "{type: instant, above: 2026-12-01T00:00:00Z, below: 2026-12-01T00:00:00.000001Z}",
            ["no-value-left"],
        ),
        ("{type: instant, max: 2026-12-01T00:00:00Z, default: 2026-12-01T00:00:00.5Z}", ["value-limit"]),
        ("{type: instant, min_length: 3}", ["misplaced-limit"]),
        ("set<instant>", ["bad-element"]),
        ("{type: time, default: 06:30:00}", []),
        ("{type: time, default: 06:30}", ["no-such-value"]),
        ("{type: time, default: 24:00:00}", ["no-such-value"]),
        ("{type: time, min: 06:30:00, default: 06:29:59.999999}", ["value-limit"]),
        ("{type: time, above: 23:59:59.999999}", ["no-value-left"]),
        ("{type: time, min: 6}", ["bad-bound"]),
        ("{type: duration, default: PT90M, max: PT1H30M}", []),
        ("{type: duration, default: P1DT1S, max: PT24H}", ["value-limit"]),
        ("{type: duration, default: P1M}", ["no-such-value"]),
        ("{type: duration, default: 3600}", ["value-type"]),
        ("{type: duration, default: -P100000D}", []),
        ("{type: duration, default: P100000DT1S}", ["no-such-value"]),
        ("{type: duration, below: -PT2400000H}", ["no-value-left"]),
        ("{type: decimal, default: 12.5}", []),
        ("{type: decimal, default: '12.50', min: 12.5, max: 12.5}", []),
        ("{type: decimal, default: 3, min: 3.000000000000000001}", ["value-limit"]),
        ("{type: decimal, default: 1e3}", ["no-such-value"]),
        ("{type: decimal, default: 0x10}", ["no-such-value"]),
        ("{type: decimal, default: .nan}", ["no-such-value"]),
        ("{type: decimal, default: true}", ["value-type"]),
        ("{type: decimal, min: 1.1234567890123456789}", ["bad-bound"]),
        ("{type: decimal, above: 0, below: 0.000000000000000001}", ["no-value-left"]),
        ("{type: real, min: '2.5'}", ["bad-bound"]),
        ("{type: decimal, one_of: [1, 2]}", ["misplaced-limit"]),
        ("map<decimal to text>", ["bad-element"]),
        ("set<duration>", ["bad-element"]),
        ("{type: uuid, default: 6BA7B810-9dad-11d1-80b4-00c04fd430c8}", []),
        ("{type: uuid, default: '{6ba7b810-9dad-11d1-80b4-00c04fd430c8}'}", ["no-such-value"]),
        ("{type: uuid, min: 6ba7b810-9dad-11d1-80b4-00c04fd430c8}", ["misplaced-limit"]),
        ("{type: uuid, min_length: 36}", ["misplaced-limit"]),
        ("{type: list<date>, unique: true}", ["misplaced-limit"]),
        ("{type: date, min_length: 3, default: 2026-12-01}", ["misplaced-limit"]),
        ("{type: text, min: 3, default: abc}", ["misplaced-limit"]),
        ("{type: text, min: '2026-01-01', default: abc}", ["misplaced-limit"]),
        ("{type: list<text>, max: '2026-01-01', default: [abc]}", ["misplaced-limit"]),
        ("{type: list<date>, each: {min: 2026-01-01}, default: [2025-12-31]}", ["value-limit"]),
    ],
)
def test_what_can_be_declared(field: str, found: list[str]) -> None:
    read = read_string(f"urform: 1\nname: watch\nproducts:\n  Watch:\n    optional:\n      begun: {field}\n")
    assert [problem.slug for problem in (*read.problems, *read.advice)] == found


CLOSURE = """
urform: 1
name: closure
products:
  Closure:
    required: {begins: date, ends: date, reason: text, days: integer, id: uuid, signed: instant,
      opens: time, lasts: duration, depth: decimal}
    variants: {Passing: {}, Lasting: {}}
    factory:
      form: by_values
      refuse: ['%s']
      choose: [{use: Passing, when: begins == ends}, {use: Lasting}]
"""


@pytest.mark.parametrize(
    ("condition", "said"),
    [
        ("ends < begins", ""),
        ('begins >= "2026-01-01" and ends != "2026-12-31"', ""),
        ('"2026-01-01" > begins', ""),
        ('begins > "2026-02-30"', "is not a date such as 2026-12-01"),
        ('signed < "2026-12-01T05:30:00+05:30" and signed != "2026-11-30T00:00:00Z"', ""),
        ('signed > "2026-12-01"', "is not an instant such as 2026-12-01T05:30:00Z"),
        ("signed < begins", "instant and date cannot be compared"),
        ("begins > reason", "date and text cannot be compared"),
        ('opens >= "06:00:00" and opens < "18:00:00.5"', ""),
        ('opens < "6:00"', "is not a time of day such as 06:30:00"),
        ('lasts > "PT1H" or lasts == "P1D"', ""),
        ("lasts > 3600", "duration and integer cannot be compared"),
        ('lasts > "1h"', "is not a duration such as"),
        ('depth < 12.5 and depth != 3 and "0.50" <= depth', ""),
        ("depth < 1e3", "is not a decimal number such as 12.5"),
        ("depth == true", "decimal and boolean cannot be compared"),
        ("depth < days", "decimal and integer cannot be compared"),
        ("lasts < depth", "duration and decimal cannot be compared"),
        ("begins == days", "date and integer cannot be compared"),
        ("size(begins) > 3", "size is asked of a text or collection"),
        ("reason < reason", "only numbers, dates, times and durations have an order here"),
        ('id == "6ba7b810-9dad-11d1-80b4-00c04fd430c8"', ""),
        ('id != "none"', "is not a UUID such as"),
        (
            'id < "6ba7b810-9dad-11d1-80b4-00c04fd430c8"',
            "only numbers, dates, times and durations have an order here",
        ),
        ("id < id", "only numbers, dates, times and durations have an order here"),
        ("begins", "date is neither true nor false"),
    ],
)
def test_what_conditions_ask_of_dates(condition: str, said: str) -> None:
    found = read_string(CLOSURE % condition).problems
    assert [problem.slug for problem in found] == (["condition-types"] if said else [])
    assert all(said in problem.message for problem in found)
