"""Reading: YAML 1.2 scalars, places, types, conditions; and that nothing in a file raises."""

from __future__ import annotations

import datetime
import json
import math
from pathlib import Path

import jsonschema
import pytest
import yaml
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import VALID
from urform.declaration import conditions, read_string
from urform.declaration.document import resolve
from urform.declaration.model import WrittenCondition
from urform.declaration.place import START, Place
from urform.declaration.problems import Problem, Problems
from urform.declaration.schema import json_schema
from urform.declaration.types import INTEGER, TEXT, ChoiceType, ListOf, MapOf, TypeReader
from urform.declaration.values import Integer, Text
from urform.prose import snake

TEXTS = [path.read_text(encoding="utf-8") for path in VALID]


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("no", "no"),
        ("on", "on"),
        ("yes", "yes"),
        ("true", True),
        ("False", False),
        ("~", None),
        ("", None),
        ("0o17", 15),
        ("0x1F", 31),
        ("017", 17),
        ("1_000", "1_000"),
        ("12:30", "12:30"),
        ("-3", -3),
        ("1e3", 1000.0),
        (".5", 0.5),
        (".inf", math.inf),
        ("-.INF", -math.inf),
        ("2001-01-01", "2001-01-01"),
    ],
)
def test_plain_scalars_follow_the_core_schema(text: str, value: object) -> None:
    assert resolve(text) == value
    assert type(resolve(text)) is type(value)


def test_nan_is_a_number() -> None:
    found = resolve(".nan")
    assert isinstance(found, float)
    assert math.isnan(found)


def test_json_is_read_too() -> None:
    text = json.dumps(
        {
            "urform": 1,
            "name": "harbour",
            "products": {"Mark": {"optional": {"sign": {"type": "text", "default": "\U0001f6df"}}}},
        }
    )
    assert "\\ud83d" in text
    declaration = read_string(text.replace(": ", ":\t")).declaration
    assert declaration is not None
    assert read_string(json.dumps(json.loads(text), indent="\t")).declaration is not None


def test_the_model_knows_its_places() -> None:
    reading = read_string(
        "urform: 1\nname: harbour\nproducts:\n  Mark:\n    required: {station: {type: integer, min: 1}}\n"
    )
    assert reading.declaration is not None
    mark = reading.declaration.products["Mark"]
    station = mark.fields["station"]
    assert (mark.place, station.place, station.type_place, station.limits[0].place) == (
        Place(4, 3, 4),
        Place(5, 16, 7),
        Place(5, 32, 7),
        Place(5, 41, 3),
    )


@pytest.mark.parametrize(
    ("text", "type_"),
    [
        ("text", TEXT),
        (" list < integer > ", ListOf(INTEGER)),
        ("map<Side to list<text>>", MapOf(ChoiceType("Side"), ListOf(TEXT))),
        ("map<Side, list<text>>", MapOf(ChoiceType("Side"), ListOf(TEXT))),
    ],
)
def test_types(text: str, type_: object) -> None:
    problems = Problems()
    reader = TypeReader(frozenset({"Side"}), frozenset({"Mark"}), problems)
    assert reader.read(text, START) == type_
    assert not problems


@pytest.mark.parametrize(
    ("text", "column"),
    [
        ("lst<text>", 1),
        ("list<txt>", 6),
        ("list<text", 9),
        ("map<text>", 9),
        ("set<real>", 1),
        ("text text", 6),
        ("", 1),
        ("<", 1),
    ],
)
def test_wrong_types_are_marked_at_the_token(text: str, column: int) -> None:
    problems = Problems()
    TypeReader(frozenset(), frozenset(), problems).read(text, Place(1, 1, len(text)))
    assert [problem.place.column for problem in problems.sorted()] == [column]


def problems_of(body: str) -> tuple[Problem, ...]:
    return tuple(read_string(f"urform: 1\nname: harbour\n{body}\n").problems)


@pytest.mark.parametrize(
    ("field", "joined"),
    [
        ("{type: map<text, Leg>, min_length: 1}", ["map<text to Leg>"]),
        ("{type: list<map<text, map<Side, list<Leg>>>>}", ["list<map<text to map<Side to list<Leg>>>>"]),
        ("{type: map<text, text>, doc: a, each: {max_length: 3}}", ["map<text to text>"]),
    ],
)
def test_a_comma_that_ends_a_type_is_one_problem(field: str, joined: list[str]) -> None:
    text = f"choices: {{Side: {{values: [port]}}}}\nproducts:\n  Leg: {{}}\n  Plan: {{required: {{legs: {field}}}}}"
    problems = problems_of(text)
    assert [p.slug for p in problems] == ["comma-in-type"]
    assert [p.mend for p in problems] == [f"write {type_}, which needs no quotes" for type_ in joined]


def test_two_cut_types_in_one_mapping_are_two_problems_and_no_duplicate_key() -> None:
    problems = problems_of("products: {Plan: {required: {a: map<text, text>, b: map<text, text>}}}")
    assert [p.slug for p in problems] == ["comma-in-type", "comma-in-type"]


def test_a_quoted_type_may_have_its_comma() -> None:
    assert not problems_of(
        "products: {Plan: {required: {a: 'map<text, text>', b: {type: \"map<text, text>\"}}}}"
    )


SUBJECTS = {
    "count": conditions.Subject(INTEGER, False),
    "note": conditions.Subject(TEXT, True),
    "side": conditions.Subject(ChoiceType("Side"), False),
    "tags": conditions.Subject(ListOf(TEXT), False),
}


def condition_problems(text: str) -> list[str]:
    problems = Problems()
    parsed = conditions.parse(WrittenCondition(text, START), problems)
    if parsed is not None:
        words = {"Side": ("port", "starboard")}
        conditions.ConditionChecker(SUBJECTS, words, problems).check(parsed)
    return [problem.slug for problem in problems.sorted()]


@pytest.mark.parametrize(
    "text",
    [
        "count < 3",
        "count == -1.5 or count >= 2 and not (count != 7)",
        'present(note) and note == "a \\" b"',
        "not present(note) or blank(note)",
        "present(note) and size(note) > 3",
        'side == "port"',
        "size(tags) == 0",
        "true",
        "(count > 1) == false",
    ],
)
def test_conditions_that_hold_water(text: str) -> None:
    assert condition_problems(text) == []


@pytest.mark.parametrize(
    ("text", "slug"),
    [
        ("count", "condition-types"),
        ("count < ", "bad-condition"),
        ("count = 3", "bad-condition"),
        ('count < "a"', "condition-types"),
        ("note == note", "condition-absent"),
        ("present(note) or blank(note)", "condition-absent"),
        ("not (present(note) and true) and blank(note)", "condition-absent"),
        ('side == "prot"', "condition-types"),
        ('side < "port"', "condition-types"),
        ("size(count) > 1", "condition-types"),
        ("tags == tags", "condition-types"),
        ("nowhere > 1", "condition-field"),
        ("blank(3)", "bad-condition"),
        ("(" * 100 + "true" + ")" * 100, "bad-condition"),
        ('count == "\\q"', "bad-condition"),
    ],
)
def test_conditions_that_do_not(text: str, slug: str) -> None:
    assert set(condition_problems(text)) == {slug}


@pytest.mark.parametrize(
    ("name", "key"),
    [("LightRhythm", "light_rhythm"), ("HTTPMark", "http_mark"), ("A", "a"), ("B2Buoy", "b2_buoy")],
)
def test_keys_of_names(name: str, key: str) -> None:
    assert snake(name) == key


def test_the_schema_takes_what_the_reader_takes(valid: Path) -> None:
    schema = json_schema()
    jsonschema.Draft202012Validator.check_schema(schema)
    jsonschema.validate(_strings(yaml.safe_load(valid.read_text(encoding="utf-8"))), schema)


def _strings(value: object) -> object:
    """Keys and dates as texts, as the reader has them."""
    if isinstance(value, datetime.date):
        return value.isoformat()
    if isinstance(value, dict):
        return {str(key): _strings(inner) for key, inner in value.items()}
    return [_strings(inner) for inner in value] if isinstance(value, list) else value


def test_the_schema_refuses_unknown_keys() -> None:
    validator = jsonschema.Draft202012Validator(json_schema())
    assert not validator.is_valid({"urform": 1, "name": "harbour", "product": {}})
    assert not validator.is_valid({"urform": 2, "name": "harbour"})


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.data())
def test_mutated_declarations_give_problems_or_success(data: st.DataObject) -> None:
    """A piece of a valid declaration is cut, doubled, swapped or replaced: nothing is ever raised, and places exist."""
    text = data.draw(st.sampled_from(TEXTS))
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.integers(0, len(text)))
        end = data.draw(st.integers(at, min(len(text), at + 40)))
        junk = data.draw(
            st.sampled_from(
                ["", " ", ":", "{", "]", "\n", "- ", "1", "true", "null", "*x", "&x ", '"', text[at:end] * 2]
            )
        )
        text = text[:at] + junk + text[end:]
    reading = read_string(text)
    assert (reading.declaration is None) == bool(reading.problems)
    lines = len(reading.document.lines)
    assert all(
        1 <= problem.place.line <= lines + 1 and problem.message and problem.mend
        for problem in reading.problems
    )


@settings(max_examples=100, deadline=None)
@given(st.text(max_size=60))
def test_any_text_gives_problems_or_success(text: str) -> None:
    reading = read_string(text)
    assert (reading.declaration is None) == bool(reading.problems)


def test_hostile_files_end_soon() -> None:
    for text in ("[" * 100_000, "a: " * 5_000, "{" * 50_000 + "}" * 50_000, "x: &x [*x]", "- " * 50_000):
        assert read_string(text).problems


def test_values_are_typed_where_they_stand() -> None:
    from urform.declaration.value_reader import ValueReader

    reading = read_string(
        "urform: 1\nname: h\nproducts:\n  M: {optional: {a: {type: integer, default: 3}, b: {type: text, default: '3'}}}\n"
    )
    assert reading.declaration is not None
    values = ValueReader(reading.declaration, Problems())
    fields = reading.declaration.products["M"].fields
    defaults = [
        values.field_value(field.default, field) for field in fields.values() if field.default is not None
    ]
    assert defaults == [Integer(3), Text("3")]


@pytest.mark.parametrize("end", ["\x85", "\u2028", "\u2029"])
def test_a_line_is_what_the_parser_takes_for_one(end: str) -> None:
    """Advice after such an end stands beyond the last line that `\\n` would tell."""
    text = f"urform: 1\nname: h\ndoc: 'a{end * 9}b'\nproducts: {{Fl: {{required: {{c: text}}, flyweight: {{key: [c]}}}}}}"
    reading = read_string(text, "h.urform.yaml")
    (advice,) = reading.advice
    assert "flyweight" in reading.document.lines[advice.place.line - 1]
