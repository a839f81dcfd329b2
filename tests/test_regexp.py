"""Patterns of texts (RFC 9485): what is read, what is refused and why, and the automaton beside another engine."""

from __future__ import annotations

import ipaddress
import re
import unicodedata
from itertools import islice

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from urform.declaration.regexp.automaton import Automaton, automaton
from urform.declaration.regexp.categories import CATEGORIES, ranges_of
from urform.declaration.regexp.dialects import in_ecmascript
from urform.declaration.regexp.syntax import BadPattern
from urform.declaration.regexp.texts import both, count, texts, without
from urform.declaration.regexp.uri import URI

# Pattern, texts that match, texts that do not.
MEANING = [
    ("", [""], ["a"]),
    ("abc", ["abc"], ["ab", "abcd", "ABC", "abc\n"]),
    ("a|bc|", ["a", "bc", ""], ["ab", "c"]),
    ("a*b+c?", ["b", "aabbc"], ["", "ac", "abcc"]),
    ("(ab){2}", ["abab"], ["ab", "ababab"]),
    ("a{2,}", ["aa", "aaaaa"], ["a"]),
    ("a{1,3}", ["a", "aaa"], ["", "aaaa"]),
    ("a{0}b", ["b"], ["ab"]),
    (".", ["a", "\u2028", "\x85", "\0", "\U0001f6df"], ["", "\n", "\r", "ab"]),
    ("[a-c-]", ["a", "c", "-"], ["d"]),
    ("[-a]", ["-", "a"], ["b"]),
    ("[^a-c]", ["d", "\n", "\U0001f6df"], ["a", "b"]),
    ("[^-]", ["a"], ["-"]),
    (r"[\]\\\[\-^]", ["]", "\\", "[", "-", "^"], ["a"]),
    (r"\.\*\(\)\{\}\|\?\+\^\-\[\]\\", [r".*(){}|?+^-[]\ ".strip()], ["a"]),
    (r"\n\r\t", ["\n\r\t"], ["nrt"]),
    ("a^b$c", ["a^b$c"], ["abc"]),  # no anchors: characters like others
    (r"\p{Lu}\p{Ll}", ["Ää", "Ab"], ["ab", "A1"]),
    (r"\p{L}+", ["Straße", "\u6d77"], ["", "a1"]),
    (r"\P{L}", ["1", " "], ["a", "Ä"]),
    (r"[\p{Nd}\P{Z}x]", ["1", "x", "a"], [" "]),
    ("[\N{RING BUOY}-\U0001f6ff]{2}", ["\N{RING BUOY}\U0001f6e0"], ["ab", "\N{RING BUOY}"]),
    ("-,~ }"[:4], ["-,~ "], [","]),
    ("(|a)(|b)", ["", "a", "b", "ab"], ["ba"]),
    ("((a*)*)*", ["", "aaaa"], ["b"]),
]

REFUSED = [
    ("^a", "'^' is a character like others", 0),
    ("a$", "'$' is a character like others", 1),
    (r"a\d", r"I-Regexp has no \d: write [0-9]", 1),
    (r"\w", "[A-Za-z0-9_]", 0),
    (r"\S", r"[^ \t\n\r]", 0),
    (r"\b", "is no escape", 0),
    ("a\\", "nothing does", 1),
    ("(a", "'(' is not closed", 0),
    ("a)b", "this ')' closes nothing", 1),
    ("(?:a)", "I-Regexp has no (?:…)", 0),
    ("(?=a)", "I-Regexp has no", 0),
    ("a*?", "a quantifier follows another", 2),
    ("a++", "a quantifier follows another", 2),
    ("*a", "'*' has nothing to stand for", 0),
    ("a|+", "'+' has nothing to stand for", 2),
    ("]", "']' has nothing to stand for", 0),
    ("{", "'{' has nothing to stand for", 0),
    ("a{", "a brace begins a quantifier", 1),
    ("a{x}", "a brace begins a quantifier", 1),
    ("a{,3}", "a brace begins a quantifier", 1),
    ("a{\u0663}", "a brace begins a quantifier", 1),  # a digit, but none of ASCII
    ("a{3,2}", "the second number is smaller", 1),
    ("a{99999999}", "at most 8000 times", 1),
    ("[]", "an empty class", 0),
    ("[^]", "an empty class", 0),
    ("[a", "this '[' is not closed", 0),
    ("[a-", "this '[' is not closed", 0),
    ("[b-a]", "a range goes from one character to a later one", 1),
    (r"[a-\p{L}]", "a range goes from one character to a later one", 1),
    ("[a[b]", "within a class, '[' is \\[", 2),
    ("[a-b-c]", "within a class, '-' is \\-", 4),
    (r"\p{Xx}", "a category of Unicode follows", 0),
    (r"\pL", "a category of Unicode follows", 0),
    (r"\p{Cs}", "a category of Unicode follows", 0),
    ("(" * 60 + ")" * 60, "it nests deeper than 50 groups", 50),
    ("(a|b)*a(a|b){14}", "a larger table", 0),
    ("(x{100}){100}", "a larger table", 0),
    ("((((a{99}){99}){99}){99}){99}", "a larger table", 0),
]


@pytest.mark.parametrize(("pattern", "matching", "others"), MEANING, ids=[row[0] for row in MEANING])
def test_a_pattern_means_whole_texts(pattern: str, matching: list[str], others: list[str]) -> None:
    compiled = automaton(pattern)
    assert [text for text in matching if not compiled.accepts(text)] == []
    assert [text for text in others if compiled.accepts(text)] == []


@pytest.mark.parametrize(("pattern", "why", "start"), REFUSED, ids=[row[0][:20] for row in REFUSED])
def test_what_is_no_pattern_is_told(pattern: str, why: str, start: int) -> None:
    with pytest.raises(BadPattern) as caught:
        automaton(pattern)
    assert why in caught.value.why
    assert caught.value.start == start
    assert 0 < caught.value.width <= len(pattern) + 1


# Expressions over a few characters, in a syntax that Python's engine reads alike.
CHARACTERS = st.sampled_from(["a", "b", "c", "-", "\\.", "[ab]", "[^a]", "[a-c]", ".", "\\n"])
EXPRESSIONS = st.recursive(
    CHARACTERS,
    lambda inner: st.one_of(
        st.lists(inner, min_size=0, max_size=3).map("".join).map("({})".format),
        st.tuples(inner, inner).map(lambda pair: f"({pair[0]}|{pair[1]})"),
        st.tuples(inner, st.sampled_from(["*", "+", "?", "{2}", "{1,}", "{0,2}"])).map(
            lambda pair: f"({pair[0]}){pair[1]}"
        ),
    ),
    max_leaves=8,
)
SHORT = st.text("abc-.\n\r\N{RING BUOY}", max_size=6)


@given(EXPRESSIONS, st.lists(SHORT, min_size=1, max_size=8))
@example("((a|b)*(b|c)*)+", ["", "abcabc"])
def test_it_agrees_with_an_engine(pattern: str, some: list[str]) -> None:
    """`.` aside, which is told to leave out both line ends."""
    compiled = automaton(pattern)
    engine = re.compile(re.sub(r"(?<!\\)\.", r"[^\\n\\r]", pattern))
    for text in some:
        assert compiled.accepts(text) == (engine.fullmatch(text) is not None), (pattern, text)


@given(EXPRESSIONS)
def test_its_texts_are_accepted_and_differ(pattern: str) -> None:
    compiled = automaton(pattern)
    found = list(islice(texts(compiled), 50))
    assert len(set(found)) == len(found)
    assert all(compiled.accepts(text) for text in found)
    assert [len(text) for text in found] == sorted(len(text) for text in found)
    assert all(2 <= len(text) <= 4 for text in islice(texts(compiled, 2, 4), 50))


@given(EXPRESSIONS, EXPRESSIONS, st.lists(SHORT, min_size=1, max_size=8))
def test_two_are_joined(one: str, other: str, some: list[str]) -> None:
    first, second = automaton(one), automaton(other)
    joined, apart = both(first, second), without(first, second)
    for text in [*some, *islice(texts(first), 8), *islice(texts(second), 8)]:
        assert joined.accepts(text) == (first.accepts(text) and second.accepts(text))
        assert apart.accepts(text) == (first.accepts(text) and not second.accepts(text))


@given(EXPRESSIONS, EXPRESSIONS)
def test_it_is_the_smallest(one: str, other: str) -> None:
    """What means the same has the same number of states, whatever way it is written."""
    assert len(automaton(f"({one}|{other})").moves) == len(automaton(f"({other}|{one}|{one})").moves)
    assert len(automaton(f"(({one})*)*").moves) == len(automaton(f"({one})*").moves)


@pytest.mark.parametrize(
    ("pattern", "fewest", "most", "expected"),
    [
        ("[ab]{3}", 0, None, 8),
        ("[ab]*", 0, 3, 15),
        ("[ab]*", 2, 2, 4),
        ("a*", 0, None, 1000),
        ("", 0, None, 1),
        ("a|b|cc", 2, None, 1),
        ("a|b", 5, None, 0),
        (".", 0, None, 1000),
        (r"[^\p{L}\P{L}]", 0, None, 0),
        ("(aaa)*", 4, 5, 0),
    ],
)
def test_they_are_counted(pattern: str, fewest: int, most: int | None, expected: int) -> None:
    assert count(automaton(pattern), fewest, most, 1000) == expected


def test_no_text_is_one_state_that_refuses() -> None:
    assert automaton(r"[^\p{L}\P{L}]").moves == ((0,), (0,))
    assert list(texts(automaton(r"a[^\p{L}\P{L}]"))) == []


def test_a_long_pattern_is_compiled_in_time() -> None:
    """Without the right order of splitting, this takes minutes."""
    assert len(automaton("x{1,3000}").moves) == 3002


def test_hostile_text_takes_one_step_a_character() -> None:
    compiled = automaton("(a*)*b|(a|a)*c|(a|aa)+d")
    assert not compiled.accepts("a" * 200_000)
    assert compiled.accepts("a" * 200_000 + "d")


def test_categories_are_those_of_unicode() -> None:
    """Of what the running Python knows; it may know less, and a few characters moved since."""
    wrong = 0
    for name in sorted(each for each in CATEGORIES if len(each) == 2 and each != "Cn"):
        points = [p for first, last in ranges_of(name) for p in range(first, last + 1)]
        known = [p for p in points if unicodedata.category(chr(p)) != "Cn"]
        wrong += sum(unicodedata.category(chr(p)) != name for p in known)
        assert known, name
    assert wrong < 50
    assert ranges_of("L")[0] == (0x41, 0x5A)
    every = sorted(each for major in "LMNPZSC" for each in ranges_of(major))
    assert sum(last - first + 1 for first, last in every) == 0x110000 - 0x800  # without surrogates


URIS = [
    "https://port-varrow.example/marks/7?at=1#north",
    "mailto:pilot@port-varrow.example",
    "urn:varrow:7",
    "x:",
    "x:/",
    "file:///charts",
    "a+b-c.1://u:p@[::1]:80/%41;=?/?#/?",
    "http://[v1.x:y]/",
    "http://h:/",
]
NO_URIS = [
    "",
    "marks/7",
    "//h/a",
    "1x:y",
    ":a",
    "x:%4",
    "x:%4g",
    "x: ",
    "x:\n",
    "x:#a#b",
    "x:[",
    "x:ä",
    "http://h:8a/",
    "http://[::1",
    "http://[g::]/",
    "x:a\\b",
    "x:^",
]


@pytest.mark.parametrize("text", URIS)
def test_what_is_a_uri(text: str) -> None:
    assert automaton(URI).accepts(text)


@pytest.mark.parametrize("text", NO_URIS)
def test_what_is_none(text: str) -> None:
    assert not automaton(URI).accepts(text)


@given(st.ip_addresses(v=6), st.booleans())
def test_addresses_of_six_are_taken(address: ipaddress.IPv6Address, long: bool) -> None:
    shown = address.exploded if long else address.compressed
    assert automaton(URI).accepts(f"x://[{shown}]/")


GROUPS = st.lists(st.sampled_from(["", "0", "1f", "0123", "12345", "g", "1.2.3.4", "256.0.0.1"]), max_size=9)


@given(GROUPS.map(":".join))
@example("1:2:3:4:5:6:7::")
@example("::2:3:4:5:6:7:8")
@example("1::3:4:5:6:1.2.3.4")
def test_addresses_are_told_from_others(shown: str) -> None:
    try:
        ipaddress.IPv6Address(shown)
        is_one = True
    except ValueError:
        is_one = False
    assert automaton(URI).accepts(f"x://[{shown}]") == is_one


@pytest.mark.parametrize(
    ("pattern", "expected"),
    [
        ("a.b", r"^(?:a[^\n\r]b)$"),
        (r"a\.b[.^$]", r"^(?:a\.b[.^$])$"),
        (r"[\].]\-.", r"^(?:[\].]-[^\n\r])$"),
        ("a^b$|c", r"^(?:a\^b\$|c)$"),
        (r"\p{L}+", r"^(?:\p{L}+)$"),
    ],
)
def test_it_is_written_for_ecmascript(pattern: str, expected: str) -> None:
    assert in_ecmascript(pattern) == expected


def test_automata_are_kept() -> None:
    assert automaton("kept") is automaton("kept")
    assert isinstance(automaton("kept"), Automaton)
