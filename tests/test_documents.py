"""Documents: what is printed within a width, by itself and held against a plain reading of the rules."""

from __future__ import annotations

from hypothesis import given, settings
from hypothesis import strategies as st

from urform.languages.layout.documents import (
    HARD,
    LINE,
    SOFT,
    Break,
    Doc,
    Fill,
    Group,
    IfBroken,
    Indent,
    IndentIfBroken,
    Page,
    joined,
    will_break,
)


def printed(doc: Doc, width: int = 20, level: int = 0) -> str:
    return Page(width, "  ", len).text(doc, level)


def listed(*items: str) -> Doc:
    return Group(("[", Indent((SOFT, joined((",", LINE), items), IfBroken(","))), SOFT, "]"))


def test_what_fits_stays_on_one_line() -> None:
    assert printed(listed("a", "b")) == "[a, b]"


def test_what_does_not_fit_is_broken_at_all_of_its_places() -> None:
    assert printed(listed("aaaaaaaa", "bbbbbbbb", "cc")) == "[\n  aaaaaaaa,\n  bbbbbbbb,\n  cc,\n]"


def test_what_follows_counts_up_to_where_it_can_be_broken() -> None:
    follows = (listed("aaaa", "bbbb"), " + something")
    assert printed(follows, 20) == "[\n  aaaa,\n  bbbb,\n] + something"
    assert printed((listed("aaaa", "bbbb"), " +", Group(Indent((LINE, "something")))), 20) == (
        "[aaaa, bbbb] +\n  something"
    )


def test_inner_groups_stay_whole_where_they_fit() -> None:
    inner = Group(("f(", Indent((SOFT, "x")), SOFT, ")"))
    assert printed(Group(("[", Indent((SOFT, "a" * 17, ",", LINE, inner)), SOFT, "]"))) == (
        f"[\n  {'a' * 17},\n  f(x)\n]"
    )


def test_a_hard_line_breaks_the_groups_around_it() -> None:
    assert printed(Group(("{", Indent((LINE, "a;", HARD, "b;")), LINE, "}"))) == "{\n  a;\n  b;\n}"
    assert will_break(Group(Indent(HARD)))
    assert not will_break(Group(LINE))
    assert will_break((Break(), "a"))
    assert will_break(Fill(("a", HARD, "b")))


def test_of_several_states_the_first_that_fits_is_taken() -> None:
    def call(last: Doc) -> Doc:
        held = ("f(a, ", Group(last, broken=True), ")")
        apart = Group(("f(", Indent((SOFT, "a,", LINE, last, ",")), SOFT, ")"), broken=True)
        return Group(("f(a, ", last, ")"), states=(("f(a, ", last, ")"), held, apart))

    short = Group(("{", Indent((LINE, "x: 1")), LINE, "}"))
    assert printed(call(short)) == "f(a, { x: 1 })"
    long = Group(("{", Indent((LINE, "x: 1, y: 2, z: 3")), LINE, "}"))
    assert printed(call(long)) == "f(a, {\n  x: 1, y: 2, z: 3\n})"
    assert printed(("g" * 14, call(long)), 18) == (
        f"{'g' * 14}f(\n  a,\n  {{\n    x: 1, y: 2, z: 3\n  }},\n)"
    )


def test_states_do_not_break_what_is_around_them() -> None:
    inner = Group("a", states=(("a", HARD), "b"))
    assert not will_break(inner)


def test_a_filling_breaks_only_where_it_has_to() -> None:
    parts: list[Doc] = []
    for number in range(8):
        parts += [f"{number:05d},", LINE]
    assert printed(Group(Indent((SOFT, Fill(tuple(parts[:-1])))))) == (
        "\n  00000, 00001,\n  00002, 00003,\n  00004, 00005,\n  00006, 00007,"
    )
    assert printed(Fill(())) == ""
    assert printed(Fill(("alone",))) == "alone"
    assert printed(Fill(("a", LINE))) == "a"


def test_what_depends_on_a_group_asks_that_group() -> None:
    def assigned(value: str) -> Doc:
        return Group(("left =", Group(Indent(LINE), name="at"), IndentIfBroken(Group(value), "at")))

    assert printed(assigned("short")) == "left = short"
    assert printed(assigned("a" * 15)) == f"left =\n  {'a' * 15}"
    outer = Group((Group(("a", SOFT), name="one"), IfBroken("broken", "flat", name="one")))
    assert printed(outer) == "aflat"


def test_it_begins_where_the_line_stands() -> None:
    assert printed(listed("aaaaaaa", "bbbbbb"), 20, level=0) == "[aaaaaaa, bbbbbb]"
    assert printed(listed("aaaaaaa", "bbbbbb"), 20, level=2) == ("[\n      aaaaaaa,\n      bbbbbb,\n    ]")


def test_no_line_ends_in_a_blank() -> None:
    assert printed(Group(("a ", HARD, "b"))) == "a\nb"


WORDS = st.text("abc", min_size=1, max_size=12)
DOCS: st.SearchStrategy[Doc] = st.recursive(
    WORDS,
    lambda inner: st.one_of(
        st.lists(inner, min_size=1, max_size=4).map(
            lambda parts: Group(("(", Indent((SOFT, joined((",", LINE), parts))), SOFT, ")"))
        ),
        st.lists(inner, min_size=1, max_size=4).map(lambda parts: Group(Indent(joined(LINE, parts)))),
        st.lists(WORDS, min_size=1, max_size=9).map(lambda words: Fill(joined(LINE, words))),
    ),
    max_leaves=14,
)


def flat(doc: Doc) -> str:
    """The whole of it on one line."""
    return printed(doc, 100_000)


@settings(deadline=None, max_examples=300)
@given(DOCS, st.integers(10, 60))
def test_only_blanks_and_line_ends_differ_from_one_line(doc: Doc, width: int) -> None:
    assert "".join(printed(doc, width).split()) == "".join(flat(doc).split())


@settings(deadline=None, max_examples=300)
@given(DOCS, st.integers(10, 60))
def test_what_fits_is_never_broken(doc: Doc, width: int) -> None:
    if len(flat(doc)) <= width:
        assert printed(doc, width) == flat(doc)


@settings(deadline=None, max_examples=300)
@given(DOCS)
def test_a_group_knows_its_text_on_one_line(doc: Doc) -> None:
    whole = Group(doc)
    assert whole.flat == flat(doc)
    assert not whole.breaks


@settings(deadline=None, max_examples=300)
@given(DOCS, st.sampled_from([HARD, Break(), Group("x", broken=True)]), DOCS)
def test_a_group_with_a_line_end_has_no_text_on_one_line(before: Doc, end: Doc, after: Doc) -> None:
    whole = Group((before, Indent((end,)), Group(after)))
    assert whole.flat is None
    assert whole.breaks
    assert Group(whole).breaks
