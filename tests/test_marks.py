"""Marked lines of templates and of support code, and the rows of flaws that name them."""

from __future__ import annotations

import importlib
from collections.abc import Mapping
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, DEMO, ROOT, emitted, planned
from urform.languages.rendering.flaws import Flaws
from urform.languages.rendering.marks import DROPPED, marked, marks_of
from urform.languages.rendering.templates import Templates
from urform.plan.flaws import WORDS, flawed

CASES = [
    # text, other text by mark, what becomes of it
    ("a  «#keep#»\nb", {}, "a\nb"),
    ("a  «#keep#»\nb", {"keep": "c"}, "c\nb"),
    ("a  «#keep#»\nb", {"look": "c"}, "a\nb"),
    ("a «#keep#»\nb", {"keep": "c"}, "a «#keep#»\nb"),  # a comment of a template, and no mark
    ("    a  «#keep#»\n", {"keep": "x\n    y\n\nz"}, "    x\n        y\n\n    z\n"),
    ("\ta  «#keep#»\n", {"keep": "if x {\n\t{line}\n}"}, "\tif x {\n\t\ta\n\t}\n"),
    ("  a;  // «#keep#»\n", {}, "  a;\n"),
    ("  a;  // «#keep#»\n", {"keep": ""}, "\n"),
    ("  a  «#set f.name#»\n", {}, "  a\n"),
    (
        "  a  «#set f.name#»\n",
        {"set": "b"},
        "%% if f.name == flaw.name\n  b\n%% else\n  a\n%% endif\n",
    ),
    ("«a»  «#keep#»\n«b»  «#keep#»", {"keep": "{line}!"}, "«a»!\n«b»!"),
]


@pytest.mark.parametrize(("text", "instead", "expected"), CASES)
def test_a_marked_line(text: str, instead: Mapping[str, str], expected: str) -> None:
    assert marked(text, instead) == expected


def test_what_a_line_holds_is_no_part_of_its_text() -> None:
    assert marked("put(\\1)  «#keep#»", {"keep": "try {line}"}) == "try put(\\1)"


TEMPLATE = """\
%% for f in fields
    «f.name» = «f.value»  «#set f.name#»
%% endfor

    done  «#end#»
"""
FIELDS = [{"name": "one", "value": "1"}, {"name": "two", "value": "2"}]
RENDERED = [
    # rows, what the template becomes
    ({}, "    one = 1\n    two = 2\n\n    done\n"),
    ({"made.set": "«f.name» = 0"}, "    one = 1\n    two = 0\n\n    done\n"),
    ({"made.set": ""}, "    one = 1\n\n    done\n"),
    ({"made.end": ""}, "    one = 1\n    two = 2\n\n"),
    ({"made.end": "«flaw.name» «fields[0].value»"}, "    one = 1\n    two = 2\n\n    two 1\n"),
    ({"other.end": "x"}, "    one = 1\n    two = 2\n\n    done\n"),
]


@pytest.mark.parametrize(("row", "expected"), RENDERED)
def test_a_marked_template(row: Mapping[str, str], expected: str, tmp_path: Path) -> None:
    (tmp_path / "made.jinja").write_text(TEMPLATE, encoding="utf-8")
    plan = flawed(planned(DEMO)[0], "pool-forgets", "Topmark")
    flaws = Flaws(plan, {}, lambda flaw: {"name": "two"}, {"pool-forgets": row})
    templates = Templates(tmp_path, lambda text: text, {}, flaws)
    sound = "    one = 1\n    two = 2\n\n    done\n"
    assert templates.render("made", "Topmark", fields=FIELDS) == expected
    assert templates.render("made", "LightRhythm", fields=FIELDS) == sound, "only what the flaw is about"
    assert templates.render("made", fields=FIELDS) == sound, "and what is about some product at all"


def test_marked_support_code_serves_all(tmp_path: Path) -> None:
    path = tmp_path / "pools.go"
    path.write_text("keep(made)  // «#keep#»\ncount()\n", encoding="utf-8")
    plan = flawed(planned(DEMO)[0], "pool-forgets", "Topmark")
    flaws = Flaws(plan, {}, lambda flaw: {}, {"pool-forgets": {"pools.keep": "_ = keep"}})
    assert Templates(tmp_path, str, {}, flaws).support(path) == "_ = keep\ncount()\n"
    assert Templates(tmp_path, str, {}).support(path) == "keep(made)\ncount()\n"


def places(name: str) -> set[str]:
    """The marks of a target's templates and support code."""
    folder = ROOT / "src/urform/languages" / name
    paths = [*(folder / "templates").iterdir(), *(folder / "support").iterdir()]
    texts = [(path.stem, path.read_text(encoding="utf-8")) for path in paths]
    return {f"{stem}.{mark}" for stem, text in texts for mark in marks_of(text)}


@pytest.mark.parametrize("name", BUILT_IN)
def test_rows_name_marks_and_every_mark_has_a_row(name: str) -> None:
    table = importlib.import_module(f"urform.languages.{name}.flaws").MARKED
    assert set(table) <= set(WORDS)
    named = {place for row in table.values() for place in row}
    assert named == places(name)


@pytest.mark.parametrize("name", BUILT_IN)
def test_no_mark_is_left_in_what_is_generated(name: str) -> None:
    for file in emitted(DEMO, name).files:
        assert "«#" not in file.text, file.path
        assert DROPPED not in file.text, file.path
