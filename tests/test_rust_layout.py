"""Rust laid out as rustfmt lays it out, above all where a line has just, or just not, room; one call of it for all."""

from __future__ import annotations

import subprocess
import time
from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.test_layout import AGAINST_A_FORMATTER
from urform.languages.rust.builders import bound_of, declared_with, implemented
from urform.languages.rust.layout import lay_out, used


def within(statement: str, depth: int = 1) -> Callable[[str], str]:
    """A statement with a text of so many letters, that deep in blocks of a function."""

    def make(name: str) -> str:
        lines = ["fn f() {", *(f"{'    ' * level}{{" for level in range(1, depth))]
        lines.append("    " * depth + statement.replace("{}", f'"{name}".to_owned()'))
        return "\n".join([*lines, *("    " * level + "}" for level in reversed(range(depth)))])

    return make


# Each makes items of Rust that differ in the length of one name.
FORMS: dict[str, tuple[Callable[[str], str], int]] = {
    "alias": (
        lambda name: f"pub type M{name} = Box<dyn Fn(i64) -> Creation<Box<dyn Mark>> + Send + Sync>;",
        60,
    ),
    "parameters of an alias": (
        lambda name: (
            f"type M = Box<dyn Fn(BTreeMap<i64, Side>, {name}, bool) -> Creation<Box<dyn Mark>> + Send>;"
        ),
        70,
    ),
    "result of an alias": (lambda name: f"type M = Box<dyn Fn(i64) -> Creation<{name}> + Send + Sync>;", 70),
    "bounds of a parameter": (
        lambda name: (
            f"impl T {{\n    pub fn with_maker(maker: impl Fn(i64, &str, {name}) -> Creation<Buoy> + Send + Sync + 'static)"
            " -> Self {\n        x()\n    }\n}"
        ),
        75,
    ),
    "trait": (
        lambda name: f"pub trait M{name}: fmt::Debug + Send + Sync + M{name}Object {{\n    fn a();\n}}",
        43,
    ),
    "implementation": (
        lambda name: (
            f"impl<T: M{name} + Clone + PartialEq + 'static> M{name}Object for T {{\n    fn a() {{\n        x()\n    }}\n}}"
        ),
        31,
    ),
    "declared": (
        lambda name: f"trait T {{\n    fn amhl(&self, keys: Vec<bool>, to: {name}) -> Box<dyn Mark>;\n}}",
        75,
    ),
    "declared without a result": (lambda name: f"trait T {{\n    fn keys(&self, keys: {name});\n}}", 75),
    "arm of several patterns": (
        lambda name: (
            f'fn f() {{\n    match kind {{\n        "{name}" | "b | c" | "{name}" => Some(Box::new(light_of(at)?)),\n'
            "        _ => None,\n    }\n}"
        ),
        60,
    ),
    "arm that may fail within a call": (
        lambda name: (
            f"fn f() {{\n    match kind {{\n        Lamp::KEY => Ok(Light::Lamp(Lamp::new({name}::default())?)),\n"
            f"        Buoy::KEY => Ok(make(Lamp::new({name}::default())?)),\n        _ => None,\n    }}\n}}"
        ),
        75,
    ),
    "what may fail": (within("let made = Lamp::new(make({}))?;", 2), 75),
    "what may fail within a call": (within("let made = Some(Light::Lamp(Lamp::new(make({}))?));", 2), 75),
    "what may fail in a list": (within("let made = vec![Lamp::new(make({}))?, other()?];", 2), 75),
    "arm of unusual letters": (  # which have more bytes than columns
        lambda name: (
            f'fn f() {{\n    match kind {{\n        "«é{name}»" | "⛵" => Some(Mark::Light(light_of(at)?)),\n'
            f'        "é⛵{name}" => Some(Box::new(light_of(at)?)),\n        _ => None,\n    }}\n}}'
        ),
        60,
    ),
    "list that is compared with": (
        lambda name: (
            f"fn f() {{\n    if made.rows != vec![{name}::from([1]), Rows::new()] {{\n        x()\n    }}\n}}"
        ),
        70,
    ),
    "all elements of a list of one": (within("is(1, &Some(&[vec![make({}), Uuid::nil()]][..]), 2);", 2), 60),
    "one element that is compared with": (
        lambda name: f"fn f() {{\n    if made.rows != vec![{name}::from([1])] {{\n        x()\n    }}\n}}",
        60,
    ),
    "result without parameters": (
        lambda name: (
            f"impl T {{\n    pub fn begin() -> RefitPlanBuilder<true, {name}, false> {{\n        x()\n    }}\n}}"
        ),
        90,
    ),
    "header": (
        lambda name: (
            f"impl T {{\n    pub fn make(&self, keys: Vec<bool>, to: {name}) -> Box<dyn Mark> {{\n        x()\n    }}\n}}"
        ),
        75,
    ),
    "result of a function": (
        lambda name: (
            f"pub fn made(_size: &Size) -> BTreeMap<Stream{name}, BTreeMap<Stream, {name}>> {{\n    x()\n}}"
        ),
        50,
    ),
    "type of a parameter": (
        lambda name: (
            f"trait T {{\n    fn keys(&self, to: &std::collections::BTreeMap<i64, std::collections::BTreeMap<i64, {name}>>);\n}}"
        ),
        60,
    ),
    "text of a field": (
        lambda name: f'fn f() {{\n    let made = F {{ long_name: "{name}".to_owned(), other: 1 }};\n}}',
        75,
    ),
    "call in a field": (
        lambda name: f'fn f() {{\n    let made = F {{ long_name: make("{name}", 1), other: 1 }};\n}}',
        75,
    ),
    "condition": (
        lambda name: (
            f"fn f() {{\n    if made.left != left || made.{name} != right {{\n        x()\n    }}\n}}"
        ),
        75,
    ),
    "condition that is a long chain": (
        lambda name: (
            f"fn f() {{\n    if a.b.is_some() && a.b.is_some_and(|b| {name} != b) {{\n        x()\n    }}\n}}"
        ),
        75,
    ),
    "condition that is a call": (
        lambda name: f"fn f() {{\n    if is_blank(a.b, {name}) {{\n        x()\n    }}\n}}",
        80,
    ),
    "element that is assigned": (
        lambda name: f"fn f() {{\n    self.rows[at] = {name}.to_owned();\n}}",
        80,
    ),
    "what is called is in parentheses": (
        lambda name: f"fn f() {{\n    (loaded.get()?)(kind, {name}, made, at)\n}}",
        75,
    ),
    "short arguments of what is in parentheses": (
        lambda name: f"fn f() {{\n    (loaded.get()?)({', '.join(['kind'] * (len(name) // 6 + 1))})\n}}",
        80,
    ),
    "chain": (lambda name: f"fn f() {{\n    let made = {name}.get(17).unwrap().first();\n}}", 70),
    "cast in an argument": (within("is(1, &Some(&(Arc::new(make({}, true)) as Arc<dyn Mark>)));"), 70),
    "only text of a set": (within("let made = BTreeSet::from([{}]);"), 70),
    "only text of a set, deeper": (within("let made = Some(BTreeSet::from([{}]));", 3), 70),
    "only text of a set in an argument": (within("let made = make(1, BTreeSet::from([{}]));", 2), 70),
    "only text of a set in a field": (within("let made = Log { rows: BTreeSet::from([{}]), other: 1 };"), 70),
    "cast in a pair of a map": (
        within(
            "let made = BTreeMap::from([(Q::A, Arc::new(Mark::new(7, {}, true).unwrap()) as Arc<dyn M>), (Q::B, x)]);"
        ),
        70,
    ),
    "only product of a list": (
        within("let made = Some(vec![Position::new({}, 17, None).unwrap()]);", 2),
        70,
    ),
}
# Each, thirty times, is more than a line holds.
ELEMENTS = (
    "f()",
    "x.y",
    "S::A",
    "a.f()",
    "&a",
    "-1",
    "None",
    "*a",
    "a as u8",
    "'c'",
    '"a::b"',
    '"«é⛵»"',
    '"⛵⛵"',
)


@pytest.mark.toolchain
@pytest.mark.parametrize("form", FORMS)
def test_lines_are_broken_where_rustfmt_breaks_them(form: str) -> None:
    make, longest = FORMS[form]
    items = [make("A" * length) for length in range(1, longest)]
    ours = "\n\n".join("\n".join(map(lay_out, item.split("\n"))) for item in items)
    assert formatted("\n\n".join(items)) == ours + "\n"


@pytest.mark.toolchain
@pytest.mark.parametrize("number", [1, 2, 5])
def test_headers_of_typed_builders_are_as_rustfmt_has_them(number: int) -> None:
    """Of the struct, the implementation and what a build asks, whatever room their parameters need."""
    items = []
    for length in range(1, 72):
        constants = [f"C{at}{'A' * (length if at == 0 else length // 2)}" for at in range(number)]
        told = [f"const {each}: bool" for each in constants]
        declared = declared_with("PlanBuilder", [f"{each} = false" for each in told])
        bounds = "".join(f"        {bound_of(f'PlanHas<{each}>')}\n" for each in constants)
        items += [
            f"{declared}\n    parts: PlanParts,\n}}",
            f"{implemented('PlanBuilder', told, constants)}\n    fn build(&self)\n    where\n{bounds}    {{\n    }}\n}}",
        ]
    text = "\n\n".join(items) + "\n"
    assert formatted(text) == text


@pytest.mark.toolchain
def test_elements_share_lines_where_rustfmt_lets_them() -> None:
    items = [f"fn f() {{\n    let made = vec![{', '.join([element] * 30)}];\n}}" for element in ELEMENTS]
    ours = "\n\n".join("\n".join(map(lay_out, item.split("\n"))) for item in items)
    assert formatted("\n\n".join(items)) == ours + "\n"


ATOMS = st.one_of(
    st.integers(0, 10**9).map(str),
    st.text("abcdefghij ,(){}[]:=#", max_size=40).map(lambda text: f'"{text}".to_owned()'),
    st.sampled_from(["None", "Side::Port", "mark.clone()", "another_rather_long_name", "&x", "0.25"]),
)
# What an expression is made of: before its parts, after them, and how many it has at most.
AROUND = (
    ("Some(", ")", 1),
    ("Arc::new(", ")", 1),
    ("vec![", "]", 4),
    ("BTreeSet::from([", "])", 3),
    ("Position::new(", ").unwrap()", 3),
    ("fairway.station(", ').expect("a station")', 2),
    ("make(", ")", 3),
    ("Mark::of(", ")?", 2),
)


def expressions() -> st.SearchStrategy[str]:
    def grow(inner: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
        several = st.lists(inner, min_size=1, max_size=4)
        fields = several.map(
            lambda items: (
                "Options { "
                + "".join(f"{'name_' * (n + 1)}: {item}, " for n, item in enumerate(items))
                + "..Options::default() }"
            )
        )
        pairs = st.tuples(inner, inner).map(lambda pair: f"BTreeMap::from([({pair[0]}, {pair[1]})])")
        around = st.tuples(st.sampled_from(AROUND), several).map(
            lambda found: f"{found[0][0]}{', '.join(found[1][: found[0][2]])}{found[0][1]}"
        )
        return st.one_of(around, around, fields, pairs)

    return st.recursive(ATOMS, grow, max_leaves=10)


HEADS = st.sampled_from(
    [
        ("let made = ", ";"),
        ("made.station = ", ";"),
        ("builder.rows(", ");"),
        ("let log = Log::new(7, ", ").unwrap();"),
        ("assert_eq!(made.station(), ", ', "limit/Mark.station:min");'),
    ]
)


@pytest.mark.toolchain
@AGAINST_A_FORMATTER
@given(st.lists(st.tuples(HEADS, expressions()), min_size=60, max_size=60))
def test_statements_are_laid_out_as_rustfmt_does(found: list[tuple[tuple[str, str], str]]) -> None:
    """What is made, set, handed in and compared: calls, lists, maps and options, some levels deep."""
    lines = [f"    {before}{expression}{after}" for (before, after), expression in found]
    text = "\n".join(f"fn f{number}() {{\n{lay_out(line)}\n}}\n" for number, line in enumerate(lines))
    assert formatted(text) == text


@pytest.mark.toolchain
def test_use_declarations_are_filled_as_rustfmt_fills_them() -> None:
    ours = [used("crate", ["Creation", "Side", "A" * length]) for length in range(1, 90)]
    whole = [f"use crate::{{{', '.join(['A' * length, 'Creation', 'Side'])}}};\n" for length in range(1, 90)]
    apart = "fn f() {}\n"  # or they would be sorted among each other
    assert formatted(apart.join(whole)) == apart.join(ours)


@pytest.mark.toolchain
def test_names_of_a_use_declaration_share_lines_as_with_rustfmt() -> None:
    """Of all widths around that of a line."""
    several = [
        ["Alpha", *(f"{'B' * (11 + number % 9)}{number}" for number in range(first, first + 14))]
        for first in range(40)
    ]
    ours = [used("crate", [*names, "C" * length]) for names in several for length in range(1, 12, 2)]
    whole = [
        f"use crate::{{{', '.join(sorted([*names, 'C' * length]))}}};\n"
        for names in several
        for length in range(1, 12, 2)
    ]
    apart = "fn f() {}\n"  # or they would be sorted among each other
    assert formatted(apart.join(whole)) == apart.join(ours)


def formatted(code: str) -> str:
    done = subprocess.run(
        ["rustfmt", "--edition", "2021", "--emit", "stdout"],
        input=code,
        capture_output=True,
        encoding="utf-8",
        check=False,
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def test_what_lies_deep_is_laid_out_in_bounded_time() -> None:
    """Each level tries several forms of the level below: forgetting them would double the time with every level."""
    text = "None"
    for level in range(30):
        text = f'Some(Box::new(Berth {{ name: "a name of level {level}".to_owned(), next: {text} }}))'
    started = time.perf_counter()
    found = lay_out(f"let berth = {text};")
    assert time.perf_counter() - started < 20
    assert found.count("Berth {") == 30
