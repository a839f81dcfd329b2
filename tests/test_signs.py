"""What stands where in a line of code, held against lines that are put together from known parts."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from urform.languages.layout.signs import BLANKED, cut, elements_of, last_brackets, links, outside, pairs

NAMES = st.sampled_from(["mark", "x", "light_rhythm", "7", "-0.5", "Side.PORT"])
TEXTS = st.text("abc ,:()[]{}<>'`\"\\", max_size=12).map(
    lambda text: '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'
)
BRACKETS = st.sampled_from(["()", "[]", "{}"])


def grouped(parts: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    """Parts between commas, in brackets, after a name or not."""
    inside = st.lists(parts, max_size=3).map(", ".join)
    return st.tuples(st.sampled_from(["", "make", "fairway.made"]), BRACKETS, inside).map(
        lambda found: f"{found[0]}{found[1][0]}{found[2]}{found[1][1]}"
    )


ATOMS = st.one_of(NAMES, TEXTS)
PARTS = st.one_of(ATOMS, grouped(st.one_of(ATOMS, grouped(ATOMS))))


@given(st.lists(PARTS, max_size=5))
def test_elements_are_the_parts_between_commas(parts: list[str]) -> None:
    assert list(elements_of(", ".join(parts))) == parts


@given(st.lists(PARTS, min_size=1, max_size=4))
def test_what_is_outside_shows_no_text_and_nothing_in_brackets(parts: list[str]) -> None:
    line = " and ".join(parts)
    found = outside(line)
    assert len(found) == len(line)
    assert all(char in (BLANKED, line[at]) for at, char in enumerate(found))
    assert not re.search(r"[\"'`,]", found)
    assert found.count(" and ") == len(parts) - 1


@given(st.lists(PARTS, min_size=1, max_size=4))
def test_a_line_is_cut_outside_only(parts: list[str]) -> None:
    assert cut(" and ".join(parts), re.compile(" (?=and )")) == [
        parts[0],
        *(f"and {part}" for part in parts[1:]),
    ]


@given(st.lists(PARTS, min_size=1, max_size=4))
def test_pairs_are_the_brackets_that_stand_in_no_other(parts: list[str]) -> None:
    line = " and ".join(parts)
    found = pairs(line)
    assert all((line[start] + line[end]) in ("()", "[]", "{}") and end > start + 1 for start, end in found)
    within = [part for part in parts if part[-1] in ")]}" and not re.search(r"[(\[{][)\]}]$", part)]
    assert len(found) == len(within)
    assert last_brackets(line) == (found[-1] if found else None)


@pytest.mark.parametrize(
    ("line", "parts"),
    [
        ("mark", ["mark"]),
        ("Mark.of(1).get().name", ["Mark.of(1)", ".get()", ".name"]),
        ("make(a.b().c)", ["make(a.b().c)"]),
        ('find("a).b").get()', ['find("a).b")', ".get()"]),
    ],
)
def test_a_chain_is_cut_before_what_follows_a_call(line: str, parts: list[str]) -> None:
    assert links(line) == parts


@pytest.mark.parametrize(
    ("body", "elements"),
    [
        ("Map<String, Long> a, long b", ("Map<String, Long> a", "long b")),  # a generic type
        ("a < b, c > d", ("a < b", "c > d")),  # comparisons, by their blanks
        ("lambda a, b: (a, b), c", ("lambda a, b: (a, b)", "c")),
        ("'it is', `a, b`", ("'it is'", "`a, b`")),
        ("a,", ("a",)),
        ("", ()),
    ],
)
def test_commas_that_part_nothing(body: str, elements: tuple[str, ...]) -> None:
    assert elements_of(body) == elements
