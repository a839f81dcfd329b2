"""Names that stand twice in the text of a record: a quick look must not miss them, whatever blanks and strings there are."""

from __future__ import annotations

import importlib
import json
import sys
from collections.abc import Iterator
from types import ModuleType
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import VALID, emitted
from urform.output.writing import write_project

OWN = next(path for path in VALID if path.name == "own.urform.yaml")
BLANKS = st.sampled_from(["", " ", "\t", "\n", "\r "])
TEXTS = st.sampled_from(["a", "b", "", '":', " :", '"a":', '\\":', "12:30", "\n:"])
Pairs = list[tuple[str, Any]]

LEAVES = TEXTS | st.integers(0, 9) | st.none()
NODES = st.recursive(
    LEAVES,
    lambda inner: st.lists(inner, max_size=3) | st.lists(st.tuples(TEXTS, inner), max_size=4).map(tuple),
)


@pytest.fixture(scope="module")
def reading(tmp_path_factory: pytest.TempPathFactory) -> Iterator[ModuleType]:
    folder = tmp_path_factory.mktemp("doubled")
    write_project(folder, emitted(OWN, "python").files)
    sys.path.insert(0, str(folder))
    try:
        yield importlib.import_module("own.reading")
    finally:
        sys.path.remove(str(folder))
        for name in [name for name in sys.modules if name == "own" or name.startswith("own.")]:
            del sys.modules[name]


def written(node: Any, draw: st.DataObject) -> str:
    """A node as text, with blanks where JSON lets them stand; a tuple of pairs is an object."""
    blank = draw.draw(BLANKS)
    if isinstance(node, tuple):
        pairs = (f"{json.dumps(name)}{draw.draw(BLANKS)}:{written(held, draw)}" for name, held in node)
        return f"{blank}{{{','.join(pairs)}}}"
    if isinstance(node, list):
        return f"{blank}[{','.join(written(each, draw) for each in node)}]"
    return f"{blank}{json.dumps(node)}{blank}"


def twice(node: Any) -> int:
    """How many objects that are not lost in a doubled one have a name twice."""
    if isinstance(node, tuple):
        kept = dict(node)
        return (len(kept) < len(node)) + sum(map(twice, kept.values()))
    return sum(map(twice, node)) if isinstance(node, list) else 0


def told(node: Any, kind: type) -> int:
    """How many objects of a tree were told to have a name twice."""
    if isinstance(node, dict):
        return isinstance(node, kind) + sum(told(held, kind) for held in node.values())
    return sum(told(each, kind) for each in node) if isinstance(node, list) else 0


@given(node=NODES, draw=st.data())
def test_no_name_that_stands_twice_is_missed(reading: ModuleType, node: Any, draw: st.DataObject) -> None:
    tree = reading.parse(written(node, draw))
    assert told(tree, reading._Doubled) == twice(node)


def test_a_blank_before_a_colon_hides_nothing(reading: ModuleType) -> None:
    """The text has as many `":` as its tree has names."""
    for text in ('{"a" :1,"a":2}', '{"a":1,"a"\n:2}', '{"a":[{"b"\t:1, "b":2}]}'):
        assert told(reading.parse(text), reading._Doubled) == 1
