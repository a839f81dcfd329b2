"""The layout engine, by itself and against the real formatters."""

from __future__ import annotations

import json
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from unicodedata import category

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from urform.languages.cpp import layout as cpp_layout
from urform.languages.go.views import STYLE as GO
from urform.languages.java.views import STYLE as JAVA
from urform.languages.layout.columns import TAB, aligned
from urform.languages.layout.engine import columns, lay_out
from urform.languages.layout.signs import elements_of
from urform.languages.naming.names import Words, article, camel, pascal, screaming, snake
from urform.languages.python import layout as python_layout
from urform.languages.python.expressions import text_literal as python_text
from urform.languages.python.layout import STYLE as PYTHON
from urform.languages.python.views import identifiers
from urform.languages.rust import layout as rust_layout
from urform.languages.typescript import layout as typescript_layout
from urform.plan.characters import is_plain

LONG = "value_" + "x" * 24


def test_a_line_that_fits_stays() -> None:
    assert lay_out("f(a, b)\n", PYTHON) == "f(a, b)\n"


def test_contents_move_to_a_line_of_their_own() -> None:
    assert lay_out(f"made = make({LONG}, {LONG}, {LONG[:20]})", PYTHON) == (
        f"made = make(\n    {LONG}, {LONG}, {LONG[:20]}\n)"
    )


def test_then_each_element_gets_a_line() -> None:
    assert lay_out(f"made = make({', '.join([LONG] * 4)})", PYTHON) == (
        "made = make(\n" + f"    {LONG},\n" * 4 + ")"
    )


def test_no_comma_makes_a_tuple_of_an_index() -> None:
    name = "n" * 80
    assert lay_out(f'held["{name}"] = {name}', PYTHON) == f'held[\n    "{name}"\n] = {name}'


def test_nor_of_what_is_only_grouped() -> None:
    laid_out = lay_out(f"made = ({LONG}.{LONG} if {LONG} else {LONG}).copy({LONG})", PYTHON)
    assert f"{LONG},\n" not in laid_out


@pytest.mark.parametrize("compared", ["one,", "one, other"])
def test_what_ends_a_comparison_stays_whole_where_what_is_before_it_does_not_fit(compared: str) -> None:
    """The columns on both sides were read off ruff."""
    for names, end in ((14, "== (\n    one,"), (15, f") == ({compared})")):
        laid_out = lay_out(
            f"assert tuple(type(each) for each in {'n' * names}({LONG})) == ({compared})", PYTHON
        )
        assert end in laid_out


@pytest.mark.parametrize(
    ("length", "type_"), [(62, "str | None"), (84, "str | None"), (79, "str"), (80, "str")]
)
def test_a_text_stands_in_parentheses(length: int, type_: str) -> None:
    """Beside a type in parts whatever its length, else where it fits then; read off ruff."""
    text = f'"{"x" * (length - 2)}"'
    line = f"    abstract: {type_} = {text}"
    assert lay_out(line, PYTHON) == f"    abstract: {type_} = (\n        {text}\n    )"
    assert lay_out(f'    abstract: str = "{"x" * 79}"', PYTHON).count("\n") == 0


def test_a_choice_of_values_stands_in_parentheses_however_long_its_target() -> None:
    name = "n" * 80
    laid_out = lay_out(f"    self.{name} = 1.0 if {name} is None else {name}", PYTHON)
    assert laid_out.startswith(f"    self.{name} = (\n        1.0\n")
    assert laid_out.endswith("\n    )")


def test_java_keeps_the_bracket_with_the_last_element() -> None:
    laid_out = lay_out(f"        made = make({', '.join([LONG] * 4)});", JAVA)
    assert laid_out.endswith(f"{LONG});")
    assert all(columns(line, JAVA) <= JAVA.width for line in laid_out.split("\n"))


LISTS: dict[str, Callable[[str], str]] = {
    "cpp": lambda items: cpp_layout.lay_out(f"    const auto codes = list({items});"),
    "go": lambda items: lay_out(f"\tcodes := list({items})", GO),
    "java": lambda items: lay_out(f"        codes = List.of({items});", JAVA),
    "python": lambda items: lay_out(f"codes = ({items})", PYTHON),
    "rust": lambda items: rust_layout.lay_out(f"    let codes = vec![{items}];"),
    "typescript": lambda items: typescript_layout.lay_out(f"  const codes = [{items}];"),
}


@pytest.mark.slow
@pytest.mark.parametrize("shown", ["{}", '"mark {}"'], ids=["numbers", "texts"])
def test_long_lists_take_time_in_proportion(target_name: str, shown: str) -> None:
    """Sixteen times as many elements take sixteen times as long, or so: what looks back at each would take 256 times."""

    def taken(count: int, first: int) -> float:
        """Seconds of this process for a list that was never laid out before."""
        items = ", ".join(shown.format(number) for number in range(first, first + count))
        started = time.process_time()
        assert LISTS[target_name](items).count(",") in (count - 1, count)
        return time.process_time() - started

    # A core that slows down makes one try long, not five: the shortest of each counts.
    few = min(taken(500, 10_000 * number) for number in range(5))
    assert min(taken(8_000, 100_000 * number) for number in range(1, 6)) < 70 * few


def test_brackets_in_strings_are_text() -> None:
    assert list(elements_of("\"a, (\", ')', b[c, d]")) == ['"a, ("', "')'", "b[c, d]"]


def test_wide_characters_take_two_columns() -> None:
    assert columns("\N{RING BUOY}a", PYTHON) == 3


def test_columns_align_within_neighbours_only() -> None:
    lines = [f"a{TAB}int", f"long_name{TAB}string", "", f"b{TAB}int"]
    assert aligned(lines) == ["a         int", "long_name string", "", "b int"]


@pytest.mark.parametrize(
    ("name", "spelt"),
    [
        ("light_rhythm", ("light_rhythm", "LightRhythm", "lightRhythm", "LIGHT_RHYTHM")),
        ("LightRhythm", ("light_rhythm", "LightRhythm", "lightRhythm", "LIGHT_RHYTHM")),
        ("HTTPMark", ("http_mark", "HTTPMark", "httpMark", "HTTP_MARK")),
        ("period_2_ms", ("period_2_ms", "Period2Ms", "period2Ms", "PERIOD_2_MS")),
    ],
)
def test_spellings(name: str, spelt: tuple[str, ...]) -> None:
    assert (snake(name), pascal(name), camel(name), screaming(name)) == spelt


def test_words_are_escaped_until_free() -> None:
    assert Words({"class", "class_"}).escape("class") == "class__"
    assert article("Outfit") == "an outfit"


def test_identifiers_are_those_of_code() -> None:
    code = 'made = f(real=x, *rest)  # listed\n"""text"""\nself.choice = "given"\n'
    assert identifiers(code) == {"made", "f", "x", "rest", "self"}


AGAINST_A_FORMATTER = settings(
    max_examples=5,
    deadline=None,
    phases=[Phase.generate],  # sixty lines would take long to shrink, and the difference shows the one
    suppress_health_check=list(HealthCheck),
)

# --- against ruff format and gofmt -----------------------------------------------------------------------

ATOMS = st.one_of(
    st.integers(0, 10**9).map(str),
    st.text("abcdefghij ,(){}[]:=#", min_size=0, max_size=30).map(lambda text: f'"{text}"'),
    st.sampled_from(["position", "another_rather_long_name_of_a_value", "x"]),
)


def expressions(width: int) -> st.SearchStrategy[str]:
    def grow(inner: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
        several = st.lists(inner, min_size=1, max_size=width)
        return st.one_of(
            st.tuples(st.sampled_from(["make", "Position", "fairway.station"]), several).map(
                lambda f: f"{f[0]}({', '.join(f[1])})"
            ),
            several.map(lambda items: f"[{', '.join(items)}]"),
            several.map(
                lambda items: f"call({', '.join(f'name_{n}={item}' for n, item in enumerate(items))})"
            ),
        )

    return st.recursive(ATOMS, grow, max_leaves=12)


@pytest.mark.toolchain
@settings(
    max_examples=5,
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.function_scoped_fixture],
)
@given(st.lists(expressions(5), min_size=60, max_size=60))
def test_python_is_laid_out_as_ruff_does(tmp_path: Path, found: list[str]) -> None:
    """Statements of the forms that are generated: assignments of calls and literals."""
    lines = [f"    made_{number} = make({expression})" for number, expression in enumerate(found)]
    text = lay_out("def f():\n" + "\n".join(lines) + "\n", PYTHON)
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run(
        [ruff, "format", "-"], input=text, capture_output=True, encoding="utf-8", check=True, cwd=tmp_path
    )
    assert done.stdout == text


@pytest.mark.toolchain
def test_characters_are_as_wide_as_ruff_counts_them(tmp_path: Path) -> None:
    """Every character that stands as it is, in a comment that is too long: ruff says how long it is."""
    shown = [char for char in map(chr, range(0x80, 0x20000)) if is_plain(char) and category(char) != "Cs"]
    (tmp_path / "lines.py").write_text("".join(f"# too {char}long\n" for char in shown), encoding="utf-8")
    asked = ("check", "--isolated", "--select=E501", "--config=line-length=1", "--output-format=json")
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run([ruff, *asked, "lines.py"], capture_output=True, check=False, cwd=tmp_path)
    said = {one["location"]["row"]: one["message"] for one in json.loads(done.stdout)}
    assert len(said) == len(shown) > 90_000
    wrong = [
        f"{ord(char):04x} {said[row]}"
        for row, char in enumerate(shown, 1)
        if f"({columns(f'# too {char}long', PYTHON)} >" not in said[row]
    ]
    assert wrong == []


NAMES = st.integers(3, 62).map(lambda size: ("value_" * 12)[:size].rstrip("_"))
STATEMENTS = st.one_of(
    st.tuples(NAMES, NAMES, NAMES, NAMES).map(
        lambda n: f"self.{n[0]} = {n[1]} if {n[2]} is None else {n[3]}"
    ),
    st.tuples(NAMES, NAMES, NAMES).map(lambda n: f"return {n[0]} if {n[1]} is None else {n[2]}"),
    st.tuples(NAMES, NAMES).map(lambda n: f"assert {n[0]} == {n[1]}"),
    st.tuples(NAMES, NAMES).map(lambda n: f'made = "{n[0]}{n[1]}"'),
    st.tuples(NAMES, NAMES, NAMES).map(lambda n: f"self.{n[0]}: dict[{n[1]}, int] = {n[2]}()"),
    st.tuples(NAMES, NAMES, NAMES).map(lambda n: f"made = tuple([{n[0]}({n[1]}) for each in {n[2]}])"),
    st.tuples(NAMES, NAMES, NAMES).map(
        lambda n: f"made = dict({{key: {n[0]}({n[1]}) for key, each in {n[2]}.items()}})"
    ),
    st.tuples(NAMES, NAMES, NAMES, NAMES).map(lambda n: f"call({n[0]}=[{n[1]}({n[2]})] * 5, other={n[3]})"),
    st.tuples(NAMES, NAMES, NAMES).map(
        lambda n: f"_{n[0][:38]}: Shape[{n[1][:28]}] = reading.shape({n[2]}, {n[0]})"
    ),
    st.tuples(NAMES, NAMES, NAMES, NAMES).map(
        lambda n: f"call({n[0]}={n[1]} if {n[2]} is None else {n[3]}, {n[1]}={n[2]})"
    ),
)


@pytest.mark.toolchain
@AGAINST_A_FORMATTER
@given(st.lists(STATEMENTS, min_size=60, max_size=60))
def test_python_parentheses_are_those_of_ruff(tmp_path: Path, found: list[str]) -> None:
    """Where no bracket can be broken: names, literals, comparisons, conditional expressions, comprehensions."""
    text = lay_out("def f():\n" + "\n".join(f"    {line}" for line in found) + "\n", PYTHON)
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run(
        [ruff, "format", "-"], input=text, capture_output=True, encoding="utf-8", check=True, cwd=tmp_path
    )
    assert done.stdout == text


@pytest.mark.toolchain
@AGAINST_A_FORMATTER
@given(st.lists(st.text('a\\u00e9\u26f5" ', min_size=50, max_size=90), min_size=20, max_size=20))
def test_python_texts_of_a_case_are_laid_out_as_ruff_does(tmp_path: Path, found: list[str]) -> None:
    """In parentheses, where they fit then."""
    cases = "".join(f"        case {python_text(text)}:\n            pass\n" for text in found)
    text = python_layout.lay_out(f"def f():\n    match made:\n{cases}")
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run(
        [ruff, "format", "-"], input=text, capture_output=True, encoding="utf-8", check=True, cwd=tmp_path
    )
    assert done.stdout == text


FIELD_TYPES = st.one_of(
    NAMES,
    st.tuples(NAMES, NAMES).map(lambda n: f"Mapping[{n[0]}, {n[1]}]"),
    st.tuples(NAMES, NAMES).map(lambda n: f"dict[{n[0]}, list[{n[1]}]]"),
    NAMES.map(lambda name: f"Sequence[Sequence[{name}]]"),
)


@pytest.mark.toolchain
@AGAINST_A_FORMATTER
@given(st.lists(st.tuples(NAMES, FIELD_TYPES, st.sampled_from(["", " = None"])), min_size=40, max_size=40))
def test_python_types_in_parts_are_those_of_ruff(tmp_path: Path, found: list[tuple[str, str, str]]) -> None:
    """Of fields that may be absent."""
    lines = "".join(f"    {name}: {type_} | None{end}\n" for name, type_, end in found)
    text = python_layout.lay_out(f"class A:\n{lines}")
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run(
        [ruff, "format", "-"], input=text, capture_output=True, encoding="utf-8", check=True, cwd=tmp_path
    )
    assert done.stdout == text


@pytest.mark.toolchain
@AGAINST_A_FORMATTER
@given(st.lists(st.tuples(NAMES, NAMES, st.integers(0, 7)), min_size=20, max_size=20))
def test_python_parameters_that_calls_are_defaults_of_are_those_of_ruff(
    tmp_path: Path, found: list[tuple[str, str, int]]
) -> None:
    """A call with arguments is broken before the type is."""
    parts = (f"{name}: {type_} | None = {type_}({', '.join(['100'] * many)})" for name, type_, many in found)
    text = python_layout.lay_out(f"def made({', '.join(parts)}) -> None: ...\n")
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run(
        [ruff, "format", "-"], input=text, capture_output=True, encoding="utf-8", check=True, cwd=tmp_path
    )
    assert done.stdout == text


SHORTER = NAMES.filter(lambda name: len(name) < 56)  # what has no room even by itself is another matter
OPERANDS = st.one_of(
    st.tuples(SHORTER, st.integers(0, 99)).map(lambda n: f"len({n[0]}) > {n[1]}"),
    SHORTER.map(lambda name: f"not {name}.strip(BLANKS)"),
    SHORTER.map(lambda name: f"{name}.strip(BLANKS)"),
    SHORTER.map(lambda name: f"{name} is not None"),
    st.tuples(SHORTER, st.integers(0, 15)).map(lambda n: f'{n[0]} == "{"a m" * n[1]}"'),
    SHORTER,
)


def joined(parts: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    several = st.lists(parts, min_size=2, max_size=4)
    return st.tuples(st.sampled_from([" and ", " or "]), several).map(lambda found: found[0].join(found[1]))


def deeper(parts: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    grouped = joined(parts)
    return st.one_of(
        parts, parts, grouped.map(lambda text: f"({text})"), grouped.map(lambda text: f"not ({text})")
    )


CONDITIONS = joined(deeper(deeper(OPERANDS)))


@pytest.mark.toolchain
@AGAINST_A_FORMATTER
@given(st.lists(CONDITIONS, min_size=60, max_size=60))
def test_python_conditions_are_those_of_ruff(tmp_path: Path, found: list[str]) -> None:
    """In parentheses of their own, or broken at those that they have."""
    lines = [
        f"def f{number}():\n    if {condition}:\n        pass\n" for number, condition in enumerate(found)
    ]
    text = python_layout.lay_out("\n\n".join(lines))
    ruff = str(Path(sys.executable).parent / "ruff")
    done = subprocess.run(
        [ruff, "format", "-"], input=text, capture_output=True, encoding="utf-8", check=True, cwd=tmp_path
    )
    assert done.stdout == text


# Between the quotes of a key: with them its length is an odd prime, but for 5. A key that is 2.5 times as long as the
# geometric mean of those before it is on the edge of a section, and there gofmt's own rounding decides: of 70 such pairs
# up to 100, 7 fall otherwise than with Python's logarithms. Of these lengths none can be on the edge.
KEYS = st.lists(
    st.sampled_from([1, 5, 9, 11, 15, 17, 21, 27, 29, 35, 39, 41, 45, 51, 57, 59, 65, 69]),
    min_size=2,
    max_size=6,
)


@pytest.mark.toolchain
@settings(max_examples=5, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(KEYS, min_size=40, max_size=40))
def test_keys_share_columns_as_with_gofmt(found: list[list[int]]) -> None:
    """Keys of very different lengths do not."""
    lines = []
    for sizes in found:
        pairs = ", ".join(f'"{chr(97 + at) * size}": {"1" * 20}' for at, size in enumerate(sizes))
        lines.append(f"\tuse(map[string]float64{{{pairs}}}, {', '.join(['another'] * 12)})")
    text = lay_out("package fairway\n\nfunc f() {\n" + "\n".join(lines) + "\n}\n", GO)
    done = subprocess.run(["gofmt"], input=text, capture_output=True, encoding="utf-8", check=True)
    assert done.stdout == text


@pytest.mark.toolchain
@settings(max_examples=5, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(st.tuples(st.integers(1, 60), st.integers(1, 60)), min_size=60, max_size=60))
def test_bodies_stand_beside_headers_as_with_gofmt(found: list[tuple[int, int]]) -> None:
    lines = [f"func {'F' * a}{n}() string {{ return {'x' * b} }}\n" for n, (a, b) in enumerate(found)]
    text = lay_out("package fairway\n\n" + "\n".join(lines), GO)
    done = subprocess.run(["gofmt"], input=text, capture_output=True, encoding="utf-8", check=True)
    assert done.stdout == text


@pytest.mark.toolchain
@settings(max_examples=5, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(st.tuples(st.integers(40, 65), st.integers(0, 16)), min_size=60, max_size=60))
def test_bodies_of_function_literals_stand_beside_as_with_gofmt(found: list[tuple[int, int]]) -> None:
    """In bytes, of which unusual letters have more than columns."""
    lines = [
        f'\tothers := without({"k" * 40}, func(key string) bool {{ return key == "{"x" * size}{"é" * wide}" }}, {"m" * 40})'
        for size, wide in found
    ]
    text = lay_out("package fairway\n\nfunc f() {\n" + "\n".join(lines) + "\n}\n", GO)
    done = subprocess.run(["gofmt"], input=text, capture_output=True, encoding="utf-8", check=True)
    assert done.stdout == text


@pytest.mark.toolchain
@settings(max_examples=5, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(st.lists(ATOMS, min_size=1, max_size=6), min_size=40, max_size=40))
def test_go_is_laid_out_as_gofmt_does(found: list[list[str]]) -> None:
    """Calls and keyed literals, long and short."""
    lines = []
    for items in found:
        lines.append(f"\tmake({', '.join(items)})")
        lines.append(f"\tuse(&Mark{{{', '.join(f'Name{n * 7}: {item}' for n, item in enumerate(items))}}})")
    text = lay_out("package fairway\n\nfunc f() {\n" + "\n".join(lines) + "\n}\n", GO)
    done = subprocess.run(["gofmt"], input=text, capture_output=True, encoding="utf-8", check=True)
    assert done.stdout == text


def test_what_a_loop_goes_through_stays_in_its_line() -> None:
    """C++: clang-format puts no line end behind the parenthesis of a loop, however long the names are."""
    line = f"    for (const auto &{'c' * 80} : {'b' * 80}_) {{"
    assert cpp_layout.lay_out(line) == line
