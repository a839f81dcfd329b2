"""What documentation comments say of fields: limits, defaults, and the tags of javadoc."""

from __future__ import annotations

from collections.abc import Mapping

import pytest
from hypothesis import given
from hypothesis import strategies as st

from urform.declaration.types import BOOLEAN, INTEGER, REAL, TEXT, ChoiceType, ListOf, MapOf, SetOf, Type
from urform.declaration.values import Boolean, Integer, Items, Real, Text, Value, Word
from urform.languages.java.docs import documented
from urform.languages.rendering.fields import default_sentence, field_doc, limits_sentence, option_doc
from urform.plan.model import Bound, Field, Limit

LISTED = ListOf(TEXT)


def field(
    type_: Type, doc: str = "", default: Value | None = None, limits: Mapping[str, Bound] | None = None
) -> Field:
    checked = tuple(Limit(name, bound) for name, bound in (limits or {}).items())
    return Field("crew", "Plan", type_, False, default, checked, doc=doc)


@pytest.mark.parametrize(
    ("type_", "limits", "said"),
    [
        (INTEGER, {}, ""),
        (REAL, {"finite": True}, ""),
        (ChoiceType("Side"), {"choice": True}, ""),
        (INTEGER, {"min": 1}, "At least 1."),
        (INTEGER, {"max": 9}, "At most 9."),
        (INTEGER, {"min": 1, "max": 9}, "From 1 to 9."),
        (REAL, {"min": -90.0, "max": 90.5}, "From -90 to 90.5."),
        (REAL, {"above": 0.0, "max": 2.0}, "At most 2, above 0."),
        (REAL, {"above": 0.0, "below": 1.0}, "Above 0, below 1."),
        (TEXT, {"not_blank": True}, "Not blank."),
        (TEXT, {"min_length": 1}, "At least 1 character."),
        (TEXT, {"not_blank": True, "min_length": 2, "max_length": 200}, "Not blank, 2 to 200 characters."),
        (TEXT, {"one_of": ("a", "b")}, 'One of "a", "b".'),
        (INTEGER, {"one_of": (1, 2)}, "One of 1, 2."),
        (LISTED, {"min_length": 1}, "At least 1 element."),
        (SetOf(TEXT), {"max_length": 3}, "At most 3 elements."),
        (MapOf(TEXT, INTEGER), {"min_length": 1, "max_length": 1}, "Exactly 1 entry."),
        (LISTED, {"min_length": 1, "unique": True}, "At least 1 element, each once."),
        (INTEGER, {"min": 4, "max": 4}, "Exactly 4."),
    ],
)
def test_limits_in_words(type_: Type, limits: dict[str, Bound], said: str) -> None:
    assert limits_sentence(field(type_, limits=limits)) == said


def test_a_least_length_that_an_empty_collection_need_not_have() -> None:
    roster = Field("roster", "Plan", LISTED, False, limits=(Limit("min_length", 2, unless_empty=True),))
    assert limits_sentence(roster) == "None or at least 2 elements."


def test_limits_of_elements_follow_those_of_the_whole() -> None:
    whole = Field(
        "labels", "Plan", LISTED, True, limits=(Limit("min_length", 1),), each=(Limit("not_blank", True),)
    )
    assert limits_sentence(whole) == "At least 1 element, each not blank."


@pytest.mark.parametrize(
    ("default", "said"),
    [
        (None, ""),
        (Integer(2), "2 by default."),
        (Real(1.0), "1 by default."),
        (Boolean(True), "True by default."),
        (Text("spring"), '"spring" by default.'),
        (Text(""), "Empty by default."),
        (Word("Side", "port"), '"port" by default.'),
        (Items(LISTED, (Text("a"),)), ""),
    ],
)
def test_defaults_in_words(default: Value | None, said: str) -> None:
    assert default_sentence(field(TEXT, default=default)) == said


def test_parts_are_sentences() -> None:
    hours = field(REAL, "In hours", Real(0.0), {"min": 0.0})
    assert field_doc(hours) == "In hours. At least 0."
    assert option_doc(hours) == "In hours. At least 0. 0 by default."
    assert option_doc(hours, of_any_kind=True) == "In hours. At least 0."
    assert field_doc(field(TEXT, "As it stands")) == "As it stands"
    assert field_doc(field(BOOLEAN), "Whether it is dry") == "Whether it is dry"
    assert (
        field_doc(field(TEXT, "Of a sort (odd.)", limits={"max_length": 3}))
        == "Of a sort (odd.) At most 3 characters."
    )
    assert (
        field_doc(field(TEXT, 'In "quotes"', limits={"max_length": 3}))
        == 'In "quotes". At most 3 characters.'
    )


def test_tags_of_javadoc() -> None:
    assert documented("In metres.", 4, (), "the slack") == "/** {@return the slack} In metres. */"
    assert documented("", 4, (), "the slack") == "/** {@return the slack} */"
    assert documented("Leaves it absent.", 0) == "/** Leaves it absent. */"
    whole = documented("Changes it.", 4, [("slack", "in metres")], "this", "CreationException if not")
    assert whole.split("\n") == [
        "/**",
        "     * Changes it.",
        "     *",
        "     * @param slack in metres",
        "     * @return this",
        "     * @throws CreationException if not",
        "     */",
    ]


@given(st.text(), st.text())
def test_text_stays_text_in_tags(doc: str, said: str) -> None:
    """No tag, no end of a comment, no escape of the compiler."""
    inner = documented(doc, 0, [("crew", said)])[3:-2]
    assert "*/" not in inner
    assert "\\u" not in inner
    assert [word for word in inner.split() if word.startswith("@")] == ["@param"]
