"""The words in names, and the English of claims and comments."""

from __future__ import annotations

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import VALID, planned
from urform.declaration import read_string
from urform.prose import indefinite, listing, snake, with_article

AN = "Anemometer Outfit Echo IceHull Alarm Udometer UrgentCall Unknown Unmanned hour HourGlass Heir Honour Open".split()
A = "LightRhythm Buoy Unit UnitPrice user Usual Universe OneWay once European Ewer Utility Uuid uri Hull HTTPMark _ 7".split()


@pytest.mark.parametrize("name", AN)
def test_what_is_spoken_with_a_vowel_has_an(name: str) -> None:
    assert with_article(name) == f"an {name}"


@pytest.mark.parametrize("name", A)
def test_what_is_spoken_with_a_consonant_has_a(name: str) -> None:
    """The letter does not decide: a unit, a user, a one-way street."""
    assert with_article(name) == f"a {name}"


@given(st.text())
def test_whatever_the_name_it_has_an_article(name: str) -> None:
    assert indefinite(name) in ("a", "an")
    assert with_article(name).endswith(f" {name}")


def test_a_list_of_nothing_says_so() -> None:
    assert (listing([]), listing(["a"]), listing(["a", "b"])) == ("nothing", "a", "a, b")


def test_nobody_is_told_to_use_one_of_nothing() -> None:
    lone = "urform: 1\nname: x\nproducts:\n  Lone: {prototype: {exemplars: {plain: {code: a}}}}\n"
    (problem,) = read_string(lone, "x.urform.yaml").problems
    assert problem.mend == "declare it, or drop this: there is nothing to choose from"


@pytest.mark.parametrize(
    ("name", "words"),
    [
        ("LightRhythm", "light_rhythm"),
        ("light_rhythm", "light_rhythm"),
        ("HTTPMark", "http_mark"),
        ("A1Mark", "a1_mark"),
        ("A", "a"),
        ("", ""),
    ],
)
def test_names_are_cut_into_words(name: str, words: str) -> None:
    assert snake(name) == words


@given(st.from_regex(r"[A-Za-z][A-Za-z0-9_]*", fullmatch=True))
def test_words_are_cut_once(name: str) -> None:
    assert snake(snake(name)) == snake(name)
    assert snake(name).replace("_", "") == name.lower().replace("_", "")


def test_claims_speak_of_each_product_with_its_article() -> None:
    """No claim of any fixture says `a Outfit` or `an Unit`."""
    for path in VALID:
        plan, claims = planned(path)
        for claim in claims:
            words = claim.text.split()
            for before, name in itertools.pairwise(words):
                if before in ("a", "an") and name in plan.products:
                    assert before == indefinite(name), (path.name, claim.id, claim.text)
