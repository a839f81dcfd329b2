"""TypeScript laid out as prettier does: what is read of a line, and random statements held against prettier itself."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from tests.targets import tool
from tests.targets.typescript import prettier
from urform.languages.layout.engine import columns
from urform.languages.typescript.breaking import STYLE
from urform.languages.typescript.expressions import real_literal, text_literal
from urform.languages.typescript.layout import lay_out
from urform.languages.typescript.parsing import (
    Arrow,
    As,
    Atom,
    Binary,
    Call,
    CannotRead,
    Conditional,
    Grouped,
    Items,
    Member,
    Node,
    Properties,
    Reader,
    Unary,
)
from urform.languages.typescript.views import identifiers, is_value, jsdoc

A, B, ONE = Atom("a", "name"), Atom("b", "name"), Atom("1", "number")
READ: list[tuple[str, Node]] = [
    ("a", A),
    ("-1", Unary("-", ONE)),
    ("5e-324", Atom("5e-324", "number")),
    ('"x, (y"', Atom('"x, (y"', "text")),
    ("f(a, 1)", Call(Atom("f", "name"), "", (A, ONE))),
    ("new Map<string, number>()", Call(Atom("Map", "name"), "<string, number>", (), makes=True)),
    ("new.target.name", Member(Member(Atom("new", "name"), ".target"), ".name")),
    ("a.#b?.c![0]", Member(Member(Member(Member(A, ".#b"), "?.c"), "!"), "[0]")),
    ("[a, [1]]", Items((A, Items((ONE,))))),
    ("{ a, b: 1, ...b }", Properties((("a", None), ("b", ONE), ("", Unary("...", B))))),
    ("a && b || a", Binary("||", Binary("&&", A, B), A)),
    ("a ?? b", Binary("??", A, B)),
    ("a < b", Binary("<", A, B)),
    ("!(a === 1)", Unary("!", Grouped(Binary("===", A, ONE)))),
    ("null as never", As(Atom("null", "name"), "never")),
    ("(a: X<b>, c) => f(a)", Arrow(("a: X<b>", "c"), "", Call(Atom("f", "name"), "", (A,)))),
    ("() => {", Arrow((), "", None)),
    ("await a", Unary("await", A)),
    ("a && b ? a : b", Conditional(Binary("&&", A, B), A, B)),
    ("(a) => a ? f(a) : 1", Arrow(("a",), "", Conditional(A, Call(Atom("f", "name"), "", (A,)), ONE))),
]


@pytest.mark.parametrize(("text", "expected"), READ, ids=[text for text, _ in READ])
def test_what_is_read(text: str, expected: Node) -> None:
    reader = Reader(text)
    assert reader.expression() == expected
    assert reader.peek() == ""


def whole(text: str) -> Node:
    reader = Reader(text)
    found = reader.expression()
    reader.take("")
    return found


@pytest.mark.parametrize("text", ["f(", "a ? b", "a ? b, c", "[a", "{ a: }", "@a"])
def test_what_is_not_written_is_not_read(text: str) -> None:
    with pytest.raises(CannotRead):
        whole(text)


def test_a_line_that_cannot_be_read_stays() -> None:
    line = f"  const a = {'b' * 60} * {'c' * 20};"
    assert lay_out(line) == line


@pytest.mark.parametrize(("owner", "apart"), [("Attachment", True), ("Attachmen", False)])
def test_the_space_before_a_condition_takes_a_column(owner: str, apart: bool) -> None:
    """The first line of 80 columns has no room for the space that the condition is broken from; that of 79 has."""
    element = f'instance("{owner}", "regions", each, Region, "each.")'
    held = f"each instanceof Region ? each : {element}"
    line = f'    this.regions = list("{owner}", "regions", fields.regions ?? [], (each) => ({held}));'
    head = f'    this.regions = list("{owner}", "regions", fields.regions ?? [], (each) =>\n'
    assert len(head) == (81 if apart else 80)
    assert lay_out(line).startswith("    this.regions = list(\n" if apart else head)


def test_text_stays_text() -> None:
    assert text_literal('a"b') == "'a\"b'"
    assert text_literal("a\"b'c") == '"a\\"b\'c"'
    assert text_literal("\u2028\0\n\\${x}`") == '"\\u2028\\x00\\n\\\\${x}`"'
    assert text_literal("\N{RING BUOY}\U000f0000") == '"\N{RING BUOY}\\u{f0000}"'


def test_comments_end_where_they_end_and_have_no_tags() -> None:
    assert jsdoc("*/ @deprecated /* x", 2) == "/** *\\/ &#64;deprecated /\u2060* x */"
    assert jsdoc("word " * 30, 2).startswith("/**\n   * word")


@pytest.mark.parametrize(
    ("number", "text"),
    [(3.0, "3"), (-0.5, "-0.5"), (1e300, "1e300"), (1e-7, "1e-7"), (5e-324, "5e-324"), (1e22, "1e22")],
)
def test_numbers_are_as_short_as_may_be(number: float, text: str) -> None:
    assert real_literal(number) == text
    assert float(text) == number


def test_names_of_code_are_told_from_keys_members_and_text() -> None:
    code = 'const a: Mark = new Buoy({ side: port, "Leg": 1 }); // Chart\nthis.hull = "Hull";'
    assert {"Mark", "Buoy", "port"} <= identifiers(code)
    assert not {"Leg", "Chart", "Hull", "hull", "side"} & identifiers(code)
    assert is_value("Buoy", "x instanceof Buoy")
    assert is_value("Buoy", "kinds(all, [Mark, Buoy]);")
    assert not is_value("Mark", "const a: Mark = b as Mark;")


# --- against prettier ------------------------------------------------------------------------------------------

NAMES = st.sampled_from(["x", "position", "rhythm", "another_rather_long_name", "k" * 33])
ATOMS = st.one_of(
    st.integers(0, 10**9).map(str),
    st.text("abcdefghij ,(){}[]:=#<>", max_size=30).map(lambda text: f'"{text}"'),
    NAMES,
    NAMES.map(lambda name: f"this.{name}"),
)


def _call(callee: str, inner: list[str]) -> str:
    return f"{callee}({', '.join(inner)})"


def _fields(inner: list[str]) -> str:
    return "{ " + ", ".join(f"{'field' * (at % 3)}f{at}: {one}" for at, one in enumerate(inner)) + " }"


def grow(inner: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    several = st.lists(inner, min_size=1, max_size=4)
    return st.one_of(
        st.tuples(st.sampled_from(["make", "new Position", "new LightRhythmPool", "pool.get"]), several).map(
            lambda pair: _call(*pair)
        ),
        several.map(lambda items: f"[{', '.join(items)}]"),
        several.map(_fields),
        several.map(lambda items: f"new Mark({_fields(items)})"),
        st.tuples(NAMES, several).map(lambda pair: f"({pair[0]}) => make({', '.join(pair[1])})"),
        inner.map(lambda one: f"refused(new LimitError({one}, 1), () => new Leg({{ label: {one} }}))"),
    )


EXPRESSIONS = st.recursive(ATOMS, grow, max_leaves=10)


Condition = tuple[str, str]  # its text, and the sign that joins its parts; empty where it has none


def _joined(conditions: list[Condition], sign: str) -> Condition:
    """Several conditions beside signs; parts that another sign joins are in parentheses."""
    return f" {sign} ".join(f"({text})" if own not in ("", sign) else text for text, own in conditions), sign


def _not(condition: Condition) -> Condition:
    text, _ = condition
    return (text if text.startswith("!") else f"!({text})" if " " in text else f"!{text}"), ""


COMPARED = st.one_of(NAMES, st.integers(0, 999).map(str), NAMES.map(lambda n: f"codePoints({n})"))
CONDITIONS = st.recursive(
    st.one_of(
        st.tuples(NAMES, st.sampled_from(["===", "<", ">="]), COMPARED).map(" ".join),
        NAMES.map(lambda n: f"{n}.includes(key)"),
        NAMES,
    ).map(lambda text: (text, "")),
    lambda inner: st.one_of(
        st.builds(_joined, st.lists(inner, min_size=2, max_size=3), st.sampled_from(["&&", "||"])),
        inner.map(_not),
    ),
    max_leaves=5,
).map(lambda condition: condition[0])
ASKED = st.lists(
    st.tuples(NAMES, st.integers(0, 999)).map(lambda c: f"{c[0]} >= {c[1]}"), min_size=1, max_size=3
)
CALLS = st.lists(ATOMS, min_size=1, max_size=6).map(lambda items: _call("instance", items))
CHECKED = st.tuples(NAMES, NAMES, NAMES, CALLS)
STATEMENTS = st.one_of(
    EXPRESSIONS.map(lambda e: f"const made = {e};"),
    st.tuples(NAMES, EXPRESSIONS).map(lambda p: f"const {p[0]}: Map<string, number> = {p[1]};"),
    EXPRESSIONS.map(lambda e: f"return {e};"),
    st.tuples(NAMES, EXPRESSIONS).map(lambda p: f"this.{p[0]} = {p[1]};"),
    st.tuples(NAMES, EXPRESSIONS.filter(lambda e: not e.startswith("("))).map(
        lambda p: f"this.{p[0]} = fields.{p[0]} ?? {p[1]};"
    ),
    st.tuples(EXPRESSIONS, EXPRESSIONS).map(lambda p: f"is({p[0]}, {p[1]});"),
    st.tuples(NAMES, ASKED.map(" && ".join), NAMES, CALLS).map(
        lambda p: f"this.#{p[0]} = {p[1]} ? {p[2]} : {p[3]};"
    ),
    CHECKED.map(
        lambda p: (
            f"this.#{p[0]} = list({p[0]}, ({p[1]}) => ({p[1]} instanceof {p[2]} ? {p[1]} : {p[3]}), {{ a: 1 }});"
        )
    ),
    CHECKED.map(
        lambda p: f"this.{p[0]} = list({p[0]}, ({p[1]}) => ({p[1]} instanceof {p[2]} ? {p[1]} : {p[3]}));"
    ),
    CONDITIONS.map(lambda c: f"if ({c}) {{\n    return 1;\n  }}"),
    CONDITIONS.map(lambda c: f"return {c};"),
)
QUIET = settings(
    max_examples=4,
    deadline=None,
    phases=[Phase.generate],  # many lines would take long to shrink, and the difference shows the one
    suppress_health_check=[
        HealthCheck.too_slow,
        HealthCheck.function_scoped_fixture,
        HealthCheck.large_base_example,
    ],
)


def formatted(text: str, folder: Path) -> str:
    (folder / "x.ts").write_text(text, encoding="utf-8")
    status, output = tool(prettier(), "x.ts", folder=folder)
    assert status == 0, output
    return output


@pytest.mark.toolchain
@QUIET
@given(st.lists(STATEMENTS, min_size=60, max_size=60))
def test_statements_are_laid_out_as_prettier_does(tmp_path: Path, found: list[str]) -> None:
    lines = "".join(f"  {statement}\n" for statement in found)
    text = lay_out(f"function f() {{\n{lines}}}\n")
    assert formatted(text, tmp_path) == text


@pytest.mark.toolchain
@QUIET
@given(st.lists(st.tuples(NAMES, NAMES, NAMES), min_size=40, max_size=40))
def test_headers_are_laid_out_as_prettier_does(tmp_path: Path, found: list[tuple[str, str, str]]) -> None:
    functions = [
        f"export function f{at}({a}: {b}, {c}X: readonly {b}[] = []): ReadonlyMap<string, {c}> | undefined {{\n"
        f"  return {a};\n}}\n\nexport type T{at} = ({a}: {b}, {c}X: string) => {c};\n\n"
        f"interface I{at} {{\n  readonly {a}?: ReadonlyMap<string, {b}> | undefined;\n}}\n"
        for at, (a, b, c) in enumerate(found)
    ]
    text = lay_out("\n".join(functions))
    assert formatted(text, tmp_path) == text


@pytest.mark.toolchain
def test_characters_are_as_wide_as_prettier_counts_them(tmp_path: Path) -> None:
    """Every character that stands in a text as it is, by the function that prettier offers to its plugins."""
    planes = (
        *range(0x80, 0x20000),
        *range(0xE0000, 0xE2000),
    )  # what lies between and beyond is of one kind each
    shown = [char for char in map(chr, planes) if text_literal(char) == f'"{char}"']
    assert len(shown) > 100_000
    (tmp_path / "shown.json").write_text(json.dumps(shown), encoding="ascii")
    package = Path(prettier()).resolve().parents[1]
    (tmp_path / "widths.mjs").write_text(
        f"import prettier from {json.dumps(str(package / 'index.mjs'))};\n"
        'import shown from "./shown.json" with { type: "json" };\n'
        "console.log(JSON.stringify(shown.map((char) => prettier.util.getStringWidth(`a${char}b`))));\n",
        encoding="utf-8",
    )
    status, output = tool("node", "--no-warnings", "widths.mjs", folder=tmp_path)
    assert status == 0, output
    widths = json.loads(output)
    assert [
        f"{ord(char):04x}"
        for char, width in zip(shown, widths, strict=True)
        if columns(f"a{char}b", STYLE) != width
    ] == []
