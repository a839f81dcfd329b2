"""Conditions: what is folded decides as what was written, and the arguments that are searched reach their goal."""

from __future__ import annotations

import itertools
import json
import math
import operator
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO, VALID, planned
from urform.declaration import conditions, read_string
from urform.declaration.decisions import (
    BLANKS,
    All,
    Comparison,
    Constant,
    Decision,
    Some,
    decision,
)
from urform.declaration.evaluation import evaluation, holds
from urform.declaration.evaluation import plain as seen_of
from urform.declaration.model import WrittenCondition
from urform.declaration.place import Place
from urform.declaration.problems import Problems
from urform.declaration.selection import Refusal, deciding
from urform.declaration.types import BOOLEAN, INTEGER, REAL, TEXT, ChoiceType, ListOf, Type
from urform.declaration.values import Boolean, Integer, Items, Real, Text, Value, Word
from urform.plan import build
from urform.plan.model import Selection
from urform.plan.operands import Operand
from urform.plan.selecting import MOST_TRIES, Selecting
from urform.plan.witnesses import Witnesses

TYPES: Mapping[str, Type] = {
    "count": INTEGER,
    "depth": REAL,
    "label": TEXT,
    "lit": BOOLEAN,
    "side": ChoiceType("Side"),
    "notes": ListOf(TEXT),
    "remark": TEXT,  # may be absent
}
SIGNS: dict[str, Callable[[Any, Any], bool]] = {
    "==": operator.eq,
    "!=": operator.ne,
    "<": operator.lt,
    "<=": operator.le,
}
SIGNS |= {">": operator.gt, ">=": operator.ge}
TEXTS = st.sampled_from(["", " ", "\t\r", "a", "b", "\N{RING BUOY}", "\N{NO-BREAK SPACE}"])
NUMBERS = st.one_of(st.integers(-3, 3), st.sampled_from([-2.5, -0.5, 0.0, 0.5, 1.0, 2.5]))

VALUES = st.fixed_dictionaries(
    {
        "count": st.integers(-3, 3).map(Integer),
        "depth": NUMBERS.map(float).map(Real),
        "label": TEXTS.map(Text),
        "lit": st.booleans().map(Boolean),
        "side": st.sampled_from(["port", "starboard"]).map(lambda word: Word("Side", word)),
        "notes": st.lists(TEXTS.map(Text), max_size=3).map(lambda items: Items(ListOf(TEXT), tuple(items))),
        "remark": st.one_of(st.none(), TEXTS.map(Text)),
    }
)


def quoted(text: str) -> str:
    return '"' + text.replace("\t", "\\t").replace("\r", "\\r") + '"'


def compared(
    left: st.SearchStrategy[str], right: st.SearchStrategy[str], signs: list[str]
) -> st.SearchStrategy[str]:
    return st.tuples(left, st.sampled_from(signs), right).map(" ".join)


NUMERIC = st.one_of(NUMBERS.map(str), st.sampled_from(["count", "depth", "size(label)", "size(notes)"]))
ATOMS = st.one_of(
    st.sampled_from(["true", "false", "lit", "blank(label)", "present(remark)"]),
    compared(NUMERIC, NUMERIC, list(SIGNS)),
    compared(st.just("label"), TEXTS.map(quoted), ["==", "!="]),
    compared(st.just("side"), st.sampled_from(['"port"', '"starboard"']), ["==", "!="]),
    compared(st.just("lit"), st.sampled_from(["true", "false", "(count == 1)"]), ["==", "!="]),
)


def joined(atoms: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    """Conditions of some parts, to any depth."""
    return st.recursive(
        atoms,
        lambda inner: st.one_of(
            inner.map(lambda one: f"not ({one})"),
            st.tuples(inner, st.sampled_from([" and ", " or "]), inner).map(
                lambda t: f"({t[0]}){t[1]}({t[2]})"
            ),
        ),
        max_leaves=6,
    )


CONDITIONS = joined(ATOMS)
FEW = joined(
    st.sampled_from(["lit", "count > 1", "count <= depth", "depth < 2", 'side == "port"', "present(remark)"])
)


def parsed(text: str) -> conditions.Condition:
    problems = Problems()
    found = conditions.parse(WrittenCondition(text, Place(1, 1)), problems)
    assert found is not None, text
    return found


def plainly(condition: conditions.Condition, values: Mapping[str, Value | None]) -> object:
    """What the written form says, read off its grammar: no folding, no types."""
    match condition:
        case conditions.Literal(value):
            return value
        case conditions.FieldOf(name):
            return plain(values[name])
        case conditions.Ask("size", field):
            return len(plain(values[field.name]))  # type: ignore[arg-type]
        case conditions.Ask("blank", field):
            return all(char in BLANKS for char in str(plain(values[field.name])))
        case conditions.Ask(_, field):
            return values[field.name] is not None
        case conditions.Not(inner):
            return not plainly(inner, values)
        case conditions.Both(left, right):
            return plainly(left, values) and plainly(right, values)
        case conditions.Either(left, right):
            return plainly(left, values) or plainly(right, values)
    return SIGNS[condition.sign](plainly(condition.left, values), plainly(condition.right, values))


def plain(value: Value | None) -> object:
    match value:
        case Text(text) | Word(_, text):
            return text
        case Integer(number):
            return number
        case Real(real):
            return real
        case Boolean(truth):
            return truth
        case Items(_, items):
            return items
    return None


def constants_within(one: Decision) -> int:
    match one:
        case All(parts) | Some(parts):
            return sum(isinstance(part, Constant) for part in parts) + sum(map(constants_within, parts))
    return 0


@settings(max_examples=600, deadline=None)
@given(CONDITIONS, VALUES)
def test_the_folded_form_decides_as_the_written_one(text: str, values: Mapping[str, Value | None]) -> None:
    condition = parsed(text)
    folded = decision(condition, TYPES)
    assert holds(folded, values) == bool(plainly(condition, values))
    assert constants_within(folded) == 0


@settings(max_examples=600, deadline=None)
@given(CONDITIONS, VALUES, st.sets(st.sampled_from(sorted(TYPES))))
def test_what_is_known_of_some_values_holds_whatever_the_others_are(
    text: str, values: Mapping[str, Value | None], some: set[str]
) -> None:
    folded = decision(parsed(text), TYPES)
    found = evaluation(folded).ask({name: seen_of(value) for name, value in values.items() if name in some})
    assert found in (None, holds(folded, values))
    assert evaluation(folded).ask({name: seen_of(value) for name, value in values.items()}) is holds(
        folded, values
    )


@settings(max_examples=600, deadline=None)
@given(CONDITIONS, VALUES, st.sets(st.sampled_from(sorted(TYPES))))
def test_the_fields_that_are_the_reason_are_enough(
    text: str, values: Mapping[str, Value | None], some: set[str]
) -> None:
    evaluated = evaluation(decision(parsed(text), TYPES))
    seen = {name: seen_of(value) for name, value in values.items() if name in some}
    found = evaluated.ask(seen)
    if found is not None:
        reason = evaluated.reason(seen)
        assert reason <= seen.keys()
        assert evaluated.ask({name: seen[name] for name in reason}) is found


@pytest.mark.parametrize(
    ("written", "folded"),
    [
        ("count == 1 and count == 2", False),
        ("count != 1 or depth > 2 or count != 2", True),
        ('label != "a" or label != "b"', True),
        ("lit and not lit", False),
        ("count == depth and depth != count", False),
        ("not lit or depth > 2 or lit", True),
        ("count == 1 and depth > 2 and count != 1", False),
        ("(lit and count > 1) and not (lit and count > 1)", False),
        ("not (lit or count > 1) or count > 1 or lit", True),
    ],
)
def test_what_contradicts_itself_is_a_constant(written: str, folded: bool) -> None:
    assert decision(parsed(written), TYPES) == Constant(folded)


@pytest.mark.parametrize(
    ("twice", "once"),
    [
        ("count > 1 or depth > 2 or count > 1", "count > 1 or depth > 2"),
        ("count == depth and lit and depth == count", "count == depth and lit"),
        ("count != depth or depth != count", "count != depth"),
        ("count > depth or depth < count", "count > depth"),
        ("count <= depth and depth >= count", "count <= depth"),
    ],
)
def test_what_is_said_twice_is_asked_once(twice: str, once: str) -> None:
    """In the same words, or the other way round."""
    assert decision(parsed(twice), TYPES) == decision(parsed(once), TYPES)


@pytest.mark.parametrize("written", ["count > depth or depth > count", "count <= depth and depth <= count"])
def test_what_is_another_thing_the_other_way_round_is_asked_too(written: str) -> None:
    left, right = written.replace(" or ", " and ").split(" and ")
    assert decision(parsed(written), TYPES) not in (
        decision(parsed(left), TYPES),
        decision(parsed(right), TYPES),
    )


@pytest.mark.parametrize(
    ("text", "comes_to"),
    [
        ("count < 1.5", ("<", 2)),
        ("count <= 1.5", ("<=", 1)),
        ("count > 1.5", (">", 1)),
        ("count >= 1.5", (">=", 2)),
        ("1 < count", (">", 1)),
        ("count == 2.0", ("==", 2)),
        ("depth < 2", ("<", 2.0)),
        ("not (count == 1)", ("!=", 1)),
    ],
)
def test_numbers_are_compared_in_the_type_of_the_field(text: str, comes_to: tuple[str, float]) -> None:
    found = decision(parsed(text), TYPES)
    assert isinstance(found, Comparison)
    sign, number = comes_to
    assert (found.sign, found.right.value, type(found.right.value)) == (sign, number, type(number))  # type: ignore[union-attr]


@pytest.mark.parametrize("text", ["count == 1.5", "1 > 2", "lit and false", '"a" == "b"', "not true"])
def test_what_no_value_can_change_is_a_constant(text: str) -> None:
    assert decision(parsed(text), TYPES) == Constant(False)
    assert decision(parsed(f"not ({text})"), TYPES) == Constant(True)


# --- arguments that reach a goal --------------------------------------------------------------------------


def searches(path: Path) -> list[Selecting]:
    """One for each factory by values of a declaration."""
    plan, _ = planned(path)
    made = [making for making in plan.makings if isinstance(making, Selection)]
    return [Selecting(plan, Witnesses(plan), selection) for selection in made]


def test_searched_arguments_come_to_what_was_asked(valid: Path) -> None:
    for search in searches(valid):
        reached = 0
        for choice in search.selection.deciding.choices:
            arguments = search.making(choice.variant)
            if arguments is not None:
                reached += 1
                assert search.outcome(arguments) == choice.variant
        assert reached > 0
        for refusal in search.selection.deciding.refusals:
            arguments = search.refused(refusal.number)
            if arguments is not None:
                assert search.outcome(arguments) == refusal


def test_every_variant_and_refusal_has_a_claim(valid: Path) -> None:
    """In these declarations all of them can be reached; a claim that silently vanished would show here."""
    ids = {claim.id for claim in planned(valid)[1]}
    for search in searches(valid):
        product = search.selection.product
        for choice in search.selection.deciding.choices:
            assert f"choose/{product}.{choice.variant}" in ids
        for refusal in search.selection.deciding.refusals:
            assert f"refuse/{product}:{refusal.number}" in ids


def test_several_fixtures_choose_by_values() -> None:
    assert sum(len(searches(path)) for path in VALID) >= 3


OFFSET = """
urform: 1
name: harbour
products:
  TideOffset:
    required: {gauge: text, centimetres: integer}
    optional: {source: text}
    variants: {NoOffset: {}, KnownOffset: {}}
    factory:
      form: by_values
      refuse: [blank(gauge), centimetres < -500, not present(source) and centimetres > 900]
      choose: [{use: NoOffset, when: centimetres == 0}, {use: KnownOffset}]
"""


@pytest.mark.parametrize(
    ("gauge", "centimetres", "source", "comes_to"),
    [
        ("", 0, None, 1),
        (" \t\r\n\v\f", -501, None, 1),
        ("\N{NO-BREAK SPACE}", 0, None, "NoOffset"),
        ("east", -501, None, 2),
        ("east", -500, None, "KnownOffset"),
        ("east", 0, None, "NoOffset"),
        ("east", 901, None, 3),
        ("east", 901, "tables", "KnownOffset"),
    ],
)
def test_a_factory_by_values_decides(
    gauge: str, centimetres: int, source: str | None, comes_to: int | str
) -> None:
    reading = read_string(OFFSET)
    assert reading.declaration is not None, reading.problems
    chosen = deciding(reading.declaration, reading.declaration.products["TideOffset"]).decide(
        {
            "gauge": Text(gauge),
            "centimetres": Integer(centimetres),
            "source": Text(source) if source is not None else None,
        }
    )
    assert (chosen.number if isinstance(chosen, Refusal) else chosen) == comes_to


@settings(max_examples=150, deadline=None)
@given(FEW, FEW)
def test_a_search_finds_what_trying_everything_finds(refused: str, chosen: str) -> None:
    """Whatever it passes over on its way."""
    reading = read_string(
        json.dumps(
            {
                "urform": 1,
                "name": "harbour",
                "choices": {"Side": {"values": ["port", "starboard"]}},
                "products": {
                    "Mark": {
                        "required": {name: str(type_) for name, type_ in TYPES.items() if name != "remark"},
                        "optional": {"remark": "text"},
                        "variants": {"Near": {}, "Far": {}},
                        "factory": {
                            "form": "by_values",
                            "refuse": [refused],
                            "choose": [{"use": "Near", "when": chosen}, {"use": "Far"}],
                        },
                    }
                },
            }
        )
    )
    assert {problem.slug for problem in reading.problems if not problem.advice} <= {"never-chosen"}
    assume(reading.declaration is not None)
    assert reading.declaration is not None
    plan = build(reading.declaration)
    (selection,) = [making for making in plan.makings if isinstance(making, Selection)]
    search = Selecting(plan, Witnesses(plan), selection)
    lists = {field.name: list(search.candidates(field)) for field in selection.parameters}
    tried = {name: found if name in search.mentioned else found[:1] for name, found in lists.items()}
    assert math.prod(map(len, tried.values())) < MOST_TRIES
    remarks: list[dict[str, Operand]] = [{}, *({"remark": one} for one in tried.pop("remark"))]
    every = [
        dict(zip(tried, values, strict=True)) | remark
        for remark in remarks
        for values in itertools.product(*tried.values())
    ]
    for variant in ("Near", "Far"):
        found = search.making(variant)
        assert (found is not None) == any(search.makes(each, variant) for each in every)
        assert found is None or search.makes(found, variant)


def test_refusals_say_why_in_the_words_of_the_declaration() -> None:
    plan, _ = planned(DEMO)
    (selection,) = [making for making in plan.makings if isinstance(making, Selection)]
    text = DEMO.read_text(encoding="utf-8")
    for refusal in selection.deciding.refusals:
        assert refusal.reason in text
