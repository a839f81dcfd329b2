"""Drawings: what they show, that declared text stays text in every form, and the pictures that Graphviz makes of them."""

from __future__ import annotations

import html
import json
import re
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO, STARTER, VALID, Urform, planned
from tests.test_page import browse
from urform.declaration.conditions import parse
from urform.declaration.decisions import Decision, decision
from urform.declaration.model import WrittenCondition
from urform.declaration.place import Place
from urform.declaration.problems import Problems
from urform.declaration.types import Type
from urform.diagram.dot import dot_text
from urform.diagram.drawing import Drawing, MakerBox, ProductBox, Relation, Way
from urform.diagram.graphviz import picture
from urform.diagram.mermaid import mermaid_text
from urform.diagram.structure import PATTERN_NAMES, PATTERNS, drawing_of, names_in
from urform.diagram.themes import DARK, LIGHT, Theme
from urform.diagram.words import MOST, condition_text, cut, one_line
from urform.plan.model import Family, Selection
from urform.verification.processes import Processes

HOSTILE = (
    "\\N \\G \\",
    '"',
    "</b>&lt;<br/>",
    "#35; #quot;",
    "{ } ~ `",
    "%% \u2028 \U0001f6df é",
    "]> -->",
    "x]]>",
)


def drawn(path: Path, *only: str, patterns: tuple[str, ...] = ()) -> Drawing:
    return drawing_of(planned(path)[0], only, patterns)


def test_lines_tell_what_is_owned_shared_made_and_a_variant() -> None:
    lines = {(line.begin, line.row, line.end): line.relation for line in drawn(DEMO).lines}
    assert lines["RefitPlan", "legs", "Leg"] == Relation.OWNS
    assert lines["RefitPlan", "sheets", "Chart"] == Relation.LISTS
    assert lines["RefitPlan", "chart", "Chart"] == Relation.SHARES
    assert lines["Lantern", "rhythm", "LightRhythm"] == Relation.SHARES
    assert lines["Mark", "", "Buoy"] == Relation.VARIANT
    assert lines["Outfit", "moorings", "Mooring"] == Relation.MAKES
    assert lines["maker of Topmark", "", "Topmark"] == Relation.MAKES


def test_everything_is_drawn_once(valid: Path) -> None:
    plan, drawing = planned(valid)[0], drawn(valid)
    rows = [(box.name, row.name) for box in drawing.products for row in box.fields]
    assert rows == [(p.name, field.name) for p in plan.products.values() for field in p.own_fields]
    assert [box.name for box in drawing.products] == list(plan.products)
    assert [family.name for family in drawing.families] == [family.name for family in plan.families]
    ways = [box.product for box in drawing.makers for _ in box.ways]
    assert sorted(ways) == sorted(m.product for m in plan.makings if not isinstance(m, Family))


def test_lines_lead_from_what_is_drawn_to_what_is_drawn(valid: Path) -> None:
    for pattern in ((), *((name,) for name in PATTERN_NAMES)):
        drawing = drawn(valid, patterns=pattern)
        boxes = {box.name: {row.name for row in box.fields} for box in drawing.products}
        boxes |= {family.name: {role.name for role in family.roles} for family in drawing.families}
        boxes |= {f"maker of {maker.product}": set() for maker in drawing.makers}
        for line in drawing.lines:
            assert line.begin in boxes
            assert line.end in {box.name for box in drawing.products}
            assert line.row in {"", *boxes[line.begin]}


def test_a_pattern_draws_its_own_ways_and_no_others(valid: Path) -> None:
    plan = planned(valid)[0]
    for name in PATTERN_NAMES:
        drawing = drawn(valid, patterns=(name,))
        made = [m for m in plan.makings if PATTERNS[type(m)] == name]
        assert {way.pattern for maker in drawing.makers for way in maker.ways} <= {name}
        assert sum(len(maker.ways) for maker in drawing.makers) + len(drawing.families) == len(made)


def test_a_pool_is_drawn_with_those_that_share_what_it_holds() -> None:
    assert [box.name for box in drawn(DEMO, patterns=("flyweight",)).products] == [
        "LightRhythm",
        "Topmark",
        "Lantern",
    ]


def test_a_prototype_is_drawn_with_all_that_a_clone_reaches() -> None:
    reached = {box.name for box in drawn(DEMO, patterns=("prototype",)).products}
    assert reached == {"Mooring", "ChainMooring", "SinkerMooring", "Leg", "Chart", "RefitPlan"}


def test_around_a_name_stands_what_it_touches() -> None:
    assert {box.name for box in drawn(DEMO, "Lantern").products} == {"Position", "LightRhythm", "Lantern"}
    assert {box.name for box in drawn(DEMO, "Position").products} == {"Position", "Mark", "Lantern"}
    assert {box.name for box in drawn(DEMO, "Buoy").products} == {"Mark", "Buoy"}
    outfit = drawn(DEMO, "Outfit")
    assert [family.name for family in outfit.families] == ["Outfit"]
    assert {"Hull", "SteelHull", "Mooring"} <= {box.name for box in outfit.products}


def test_every_name_can_be_asked_for(valid: Path) -> None:
    for name in names_in(planned(valid)[0]):
        drawing = drawn(valid, name)
        boxes = [box.name for box in drawing.products] + [family.name for family in drawing.families]
        assert name in boxes


def _decisions() -> Iterator[tuple[Decision, dict[str, Type]]]:
    for path in VALID:
        for selection in planned(path)[0].makings:
            if isinstance(selection, Selection):
                types = {field.name: field.type for field in selection.parameters}
                yield from ((each, types) for each in selection.deciding.decisions)


def test_a_condition_is_written_as_it_could_be_declared() -> None:
    decisions = list(_decisions())
    assert len(decisions) > 20
    for each, types in decisions:
        read = parse(WrittenCondition(condition_text(each), Place(1, 1)), Problems())
        assert read is not None, condition_text(each)
        assert decision(read, types) == each, condition_text(each)


@given(st.text())
def test_a_line_is_cut_and_has_nothing_that_no_picture_can_hold(text: str) -> None:
    line = one_line(text)
    ElementTree.fromstring(f"<t>{html.escape(line)}</t>")
    assert "\n" not in line
    assert len(cut(line)) <= MOST
    assert cut(line).rstrip("…") == line[: len(cut(line).rstrip("…"))] or line.endswith("…")


@given(st.text(st.characters(codec="utf-8"), min_size=1))
def test_a_text_in_mermaid_is_no_sign_of_it(text: str) -> None:
    drawing = replace(_with(one_line(text)), doc="")
    shown = next(
        line for line in mermaid_text(drawing).splitlines() if line.startswith("    ") and "<<" not in line
    )
    assert set("<>{}~\"'`()[]%\\&+*") & set(shown) == set()
    assert html.unescape(re.sub(r"#(\d+);", r"&#\1;", shown[4:])) == one_line(text)


def _with(*details: str) -> Drawing:
    box = ProductBox("Mark", " ".join(details), abstract=False, tags=(), fields=(), operations=())
    return Drawing(
        "h", " ".join(details), (box,), (MakerBox("Mark", (Way("factory", "by key", details),)),), (), ()
    )


@pytest.mark.parametrize("path", [DEMO, STARTER], ids=lambda path: path.name.partition(".")[0])
def test_texts_of_a_drawing_are_reviewed(path: Path, expected: Callable[[str, str], None]) -> None:
    name = path.name.partition(".")[0]
    expected(f"diagrams/{name}.dot", dot_text(drawn(path)))
    expected(f"diagrams/{name}.mmd", mermaid_text(drawn(path)))


# --- pictures -----------------------------------------------------------------------------------------------------


def texts_of(svg: bytes) -> list[str]:
    root = ElementTree.fromstring(svg)
    return [
        (each.text or "").replace("\N{NO-BREAK SPACE}", " ")
        for each in root.iter("{http://www.w3.org/2000/svg}text")
    ]


@pytest.mark.toolchain
def test_graphviz_draws_every_fixture_whole(valid: Path) -> None:
    drawing = drawn(valid)
    texts = texts_of(picture(dot_text(drawing), "svg", Processes().run))
    for box in drawing.products:
        assert box.name in texts
        for row in box.fields:
            assert row.type in texts
    for maker in drawing.makers:
        for way in maker.ways:
            assert {way.title, *way.details} <= set(texts)


@pytest.mark.toolchain
@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=["light", "dark"])
def test_hostile_text_is_drawn_as_it_is(theme: Theme) -> None:
    texts = texts_of(picture(dot_text(_with(*HOSTILE), theme), "svg", Processes().run))
    assert [text for text in HOSTILE if text not in texts] == []


MEASURE = """
<script>
const inside = (a, b) => a.left >= b.left - 1 && a.right <= b.right + 1 && a.top >= b.top - 1 && a.bottom <= b.bottom + 1;
const told = { nodes: 0, outside: [] };
for (const node of document.querySelectorAll("g.node")) {
  told.nodes++;
  const box = node.querySelector("polygon[fill=none]").getBoundingClientRect();
  for (const text of [...node.querySelectorAll("text")].filter(each => each.textContent.trim()))
    if (!inside(text.getBoundingClientRect(), box)) told.outside.push(text.textContent);
}
const whole = document.querySelector("svg").getBoundingClientRect();
for (const text of document.querySelectorAll("text"))
  if (!inside(text.getBoundingClientRect(), whole)) told.outside.push(text.textContent);
document.body.textContent = "TOLD" + JSON.stringify(told) + "END";
</script>"""


@pytest.mark.toolchain
def test_no_text_leaves_its_box(tmp_path: Path) -> None:
    drawing = drawn(DEMO)
    svg = picture(dot_text(drawing), "svg", Processes().run).decode()
    page = tmp_path / "picture.html"
    page.write_text(f"<meta charset=utf-8><body>{svg[svg.index('<svg') :]}{MEASURE}</body>", encoding="utf-8")
    match = re.search(r"TOLD(.*)END", browse(page, 1280))
    assert match is not None
    told = json.loads(html.unescape(match[1]))
    assert told["nodes"] == len(drawing.products) + len(drawing.makers) + len(drawing.families)
    assert told["outside"] == []


# --- the command --------------------------------------------------------------------------------------------------


@pytest.fixture
def harbour(tmp_path: Path) -> Path:
    path = tmp_path / "fairway.urform.yaml"
    path.write_text(DEMO.read_text(encoding="utf-8"), encoding="utf-8")
    return path


def test_text_is_printed_or_goes_into_a_file(urform: Urform, harbour: Path) -> None:
    assert urform("diagram", "--format", "mermaid").out == mermaid_text(drawn(DEMO))
    assert urform("diagram", "-o", "a.gv", "--theme", "dark", "--pattern", "family,builder").status == 0
    written = (harbour.parent / "a.gv").read_text(encoding="utf-8")
    assert written == dot_text(drawn(DEMO, patterns=("family", "builder")), DARK)


@pytest.mark.parametrize(
    ("options", "said"),
    [
        (("-o", "a.jpg"), "no format goes by '.jpg'"),
        (("--format", "sgv"), "Did you mean 'svg'?"),
        (("--only", "Makr"), "Did you mean 'Mark'?"),
        (("--pattern", "pool"), "no pattern is called 'pool'"),
        (("--theme", "drak"), "Did you mean 'dark'?"),
        (("-f", "dot", "-o", "no/such/folder.dot"), "No such file"),
    ],
)
def test_wrong_use_is_told(urform: Urform, harbour: Path, options: tuple[str, ...], said: str) -> None:
    done = urform("diagram", harbour, *options)
    assert (done.status, said in done.err, done.out) == (2, True, "")


def test_what_has_nothing_of_a_pattern_is_told(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "a.urform.yaml").write_text(
        "urform: 1\nname: h\nproducts:\n  A: {required: {b: text}}\n", encoding="utf-8"
    )
    done = urform("diagram", "--pattern", "builder", "-f", "dot")
    assert (done.status, "nothing to draw" in done.err) == (1, True)


def test_without_graphviz_it_says_so_and_what_there_is(urform: Urform, harbour: Path) -> None:
    done = urform("diagram", environment={"PATH": str(harbour.parent)})
    assert (done.status, "apt-get install graphviz" in done.err) == (3, True)
    assert "classDiagram" in urform("diagram", "-f", "mermaid", environment={"PATH": str(harbour.parent)}).out


@pytest.mark.toolchain
def test_a_picture_is_written_and_none_is_written_over_unasked(urform: Urform, harbour: Path) -> None:
    done = urform("diagram")
    assert (done.status, done.out) == (0, "wrote fairway.svg: 19 products, 11 ways of making\n")
    assert "RefitPlan" in texts_of((harbour.parent / "fairway.svg").read_bytes())
    (harbour.parent / "fairway.svg").write_text("mine", encoding="utf-8")
    assert (urform("diagram").status, urform("diagram").out) == (1, "")
    assert (harbour.parent / "fairway.svg").read_text(encoding="utf-8") == "mine"
    assert urform("diagram", "-o", "fairway.svg", "-q").out == ""
    assert urform("diagram", "-o", "a.png").status == 0
    assert (harbour.parent / "a.png").read_bytes().startswith(b"\x89PNG")
