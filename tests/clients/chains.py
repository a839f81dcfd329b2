"""Products that hold others of their own type, as deep as the interpreter's recursion limit lets a clone go."""

import sys

import pytest
from PACKAGE import Cable, Ledger, LineExemplars, Link, Rope

DEPTH = 800


def outward(depth: int) -> Link:
    """From the outer end: nothing is copied twice, where a chain from the inner end is copied once a level."""
    first = last = Link(label="first")
    for _ in range(depth):
        last.next = Link(label="next", serial=7)
        last = last.next
    return first


def test_chains_are_made_outward_and_cloned() -> None:
    original = outward(DEPTH)
    clone = original.clone()
    levels = [clone]
    while levels[-1].next is not None:
        levels.append(levels[-1].next)
    assert len(levels) == DEPTH + 1
    assert {each.serial for each in levels} == {None}
    levels[-1].label = "last"
    last = original
    while last.next is not None:
        last = last.next
    assert last.label == "next"


def test_deeper_ones_are_made_and_need_a_higher_limit_to_be_cloned() -> None:
    deep = outward(5_000)
    with pytest.raises(RecursionError):
        deep.clone()
    before = sys.getrecursionlimit()
    sys.setrecursionlimit(20_000)
    try:
        assert deep.clone().next is not deep.next
    finally:
        sys.setrecursionlimit(before)
        while deep.next is not None:
            deep = deep.next


def test_a_kind_starts_as_the_kind_does() -> None:
    rope = Rope(label="tow", serial=9)
    assert rope.clone().serial == 3
    assert Cable(label="anchor", serial=9).clone().serial is None


def test_what_a_ledger_hands_out_cannot_be_changed() -> None:
    ledger = Ledger(rows=[[1, 2]], notes={"north": ["a"]})
    assert (ledger.rows, ledger.notes["north"]) == (((1, 2),), ("a",))


def test_a_name_that_nobody_declared_is_none_of_an_object() -> None:
    """Whatever it is set to: a misspelt name is not told as a missing field."""
    for made in (Link(label="first"), Rope(label="tow")):
        for value in (None, "x"):
            with pytest.raises(AttributeError):
                made.labell = value  # type: ignore[attr-defined]


class Asking(Cable):
    """A kind whose clone reads the store that it is kept in."""

    __slots__ = ("store",)

    def clone(self) -> Cable:
        made = Asking(label=self.store.names()[0])
        made.store = self.store
        return made


def test_a_store_is_not_locked_while_it_clones() -> None:
    store = LineExemplars()
    line = Asking(label="first")
    line.store = store
    store.add("asking", line)
    assert store.get("asking").label == "asking"
