"""Rust laid out as rustfmt lays it out, above all where a line has just, or just not, room; one call of it for all."""

from __future__ import annotations

import subprocess
import time
from collections.abc import Callable

import pytest

from urform.languages.rust.layout import lay_out, used

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
    "declared": (
        lambda name: f"trait T {{\n    fn amhl(&self, keys: Vec<bool>, to: {name}) -> Box<dyn Mark>;\n}}",
        75,
    ),
    "declared without a result": (lambda name: f"trait T {{\n    fn keys(&self, keys: {name});\n}}", 75),
    "header": (
        lambda name: (
            f"impl T {{\n    pub fn make(&self, keys: Vec<bool>, to: {name}) -> Box<dyn Mark> {{\n        x()\n    }}\n}}"
        ),
        75,
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
    "chain": (lambda name: f"fn f() {{\n    let made = {name}.get(17).unwrap().first();\n}}", 70),
}


@pytest.mark.toolchain
@pytest.mark.parametrize("form", FORMS)
def test_lines_are_broken_where_rustfmt_breaks_them(form: str) -> None:
    make, longest = FORMS[form]
    items = [make("A" * length) for length in range(1, longest)]
    ours = "\n\n".join("\n".join(map(lay_out, item.split("\n"))) for item in items)
    assert formatted("\n\n".join(items)) == ours + "\n"


@pytest.mark.toolchain
def test_use_declarations_are_filled_as_rustfmt_fills_them() -> None:
    ours = [used("crate", ["Creation", "Side", "A" * length]) for length in range(1, 75)]
    whole = [f"use crate::{{{', '.join(['A' * length, 'Creation', 'Side'])}}};\n" for length in range(1, 75)]
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
