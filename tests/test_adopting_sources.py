"""Types in source code: drafts of six languages as golden files, and what each language's facts are."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import HERE
from urform.declaration import read_string
from urform.existing.draft import Draft, DraftField
from urform.existing.drafting import draft_of
from urform.existing.fitting import fit
from urform.existing.found import Found
from urform.existing.reading import SUFFIXES, Asked, read_found
from urform.existing.sources import trees
from urform.existing.sources.reading import LANGUAGES

SOURCES = sorted((HERE / "fixtures/existing/sources").glob("*arks.*"))


def test_every_language_has_a_source() -> None:
    assert {SUFFIXES[path.suffix] for path in SOURCES} == set(LANGUAGES)


@pytest.mark.parametrize("path", SOURCES, ids=lambda path: SUFFIXES[path.suffix])
def test_a_draft(path: Path, expected: Callable[[str, str], None]) -> None:
    found = read_found(Asked((path,)))
    draft = draft_of(found, "marks", [path.name])
    text = fit(draft).text
    assert not read_string(text).problems
    assert not found.unread
    expected(f"adopted/{SUFFIXES[path.suffix]}.urform.yaml", text)


@pytest.mark.parametrize("path", SOURCES, ids=lambda path: SUFFIXES[path.suffix])
def test_what_is_lost_has_its_line(path: Path) -> None:
    draft = draft_of(read_found(Asked((path,))), "marks", [path.name])
    lines = path.read_text(encoding="utf-8").splitlines()
    fields = [field for product in draft.every() for field in product.fields if field.losses]
    assert len(fields) >= 4
    for field in fields:
        assert field.found in lines[field.spot.line - 1].replace("m_", "")


def found_in(folder: Path, name: str, source: str) -> Found:
    path = folder / name
    path.write_text(source, encoding="utf-8")
    return read_found(Asked((path,)))


def draft_in(folder: Path, name: str, source: str) -> Draft:
    draft = draft_of(found_in(folder, name, source), "one", [name])
    fit(draft)
    return draft


def field_in(folder: Path, name: str, source: str) -> DraftField:
    (field,) = draft_in(folder, name, source).products[0].fields
    return field


# How one field is declared in each language, and what that means.
FIELDS = {
    "one.py": "from dataclasses import dataclass\n@dataclass\nclass One:\n    {}\n",
    "One.java": "record One({}) {{}}\n",
    "one.go": "package one\ntype One struct {{\n\t{}\n}}\n",
    "one.ts": "export interface One {{ {}; }}\n",
    "one.rs": "struct One {{ {} }}\n",
    "one.hpp": "struct One {{ {}; }};\n",
}
MEANT = [
    ("one.py", "x: str", "text", True),
    ("one.py", "x: 'list[int]'", "list<integer>", True),
    ("one.py", "x: typing.Optional[float]", "real", False),
    ("one.py", "x: bool | None = None", "boolean", False),
    ("one.py", "x: Literal['a', 'b'] = 'a'", "X", False),
    ("one.py", "x: Mapping[str, frozenset[int]]", "map<text to set<integer>>", True),
    ("one.py", "x: NotRequired[uuid.UUID]", "uuid", False),
    ("one.py", "x: datetime.time", "time", True),
    ("one.py", "x: timedelta | None = None", "duration", False),
    ("one.py", "x: list[decimal.Decimal]", "list<decimal>", True),
    ("One.java", "int x", "integer", True),
    ("One.java", "LocalTime x", "time", True),
    ("One.java", "Duration x", "duration", True),
    ("One.java", "List<BigDecimal> x", "list<decimal>", True),
    ("one.go", "x time.Duration", "duration", True),
    ("one.rs", "x: Option<std::time::Duration>", "duration", False),
    ("one.hpp", "std::chrono::microseconds x", "duration", True),
    ("one.hpp", "std::optional<std::chrono::seconds> x", "duration", False),
    ("One.java", "@Nullable String x", "text", False),
    ("One.java", "Optional<LocalDate> x", "date", False),
    ("One.java", "Map<String, List<Double>> x", "map<text to list<real>>", True),
    ("One.java", "String[] x", "list<text>", True),
    ("One.java", "List<? extends Number> x", "", True),
    ("one.go", "x string", "text", True),
    ("one.go", "x *int64", "integer", False),
    ("one.go", "x map[string][]float64", "map<text to list<real>>", True),
    ("one.go", 'x bool `json:"x,omitempty"`', "boolean", False),
    ("one.ts", "x: number", "real", True),
    ("one.ts", "x?: string", "text", False),
    ("one.ts", "x: boolean | undefined", "boolean", False),
    ("one.ts", "x: 'a' | \"b\"", "X", True),
    ("one.ts", "readonly x: ReadonlyMap<string, readonly string[]>", "map<text to list<text>>", True),
    ("one.rs", "x: Option<u8>", "integer", False),
    ("one.rs", "x: Vec<Box<str>>", "list<text>", True),
    ("one.rs", "x: std::collections::BTreeMap<String, f32>", "map<text to real>", True),
    ("one.hpp", "std::optional<std::string> x", "text", False),
    ("one.hpp", "std::vector<std::uint16_t> x", "list<integer>", True),
    ("one.hpp", "const std::map<std::string, bool> x", "map<text to boolean>", True),
    ("one.hpp", "One *x", "", True),
]


@pytest.mark.parametrize(("name", "written", "type_", "required"), MEANT)
def test_what_a_field_means(name: str, written: str, type_: str, required: bool, tmp_path: Path) -> None:
    field = field_in(tmp_path, name, FIELDS[name].format(written))
    assert (field.name, field.type, field.required) == ("x", type_, required)


DEFAULTS = [
    ("one.py", "x: int = 1_000", 1000),
    ("one.py", "x: float = -2.5", -2.5),
    ("one.py", "x: str = field(default='a b')", "a b"),
    ("one.ts", "x?: boolean", None),
    ("one.hpp", "int x = 0x10", 16),
    ("one.hpp", 'std::string x{"a"}', "a"),
    ("one.hpp", "bool x = true", True),
]


@pytest.mark.parametrize(("name", "written", "default"), DEFAULTS)
def test_defaults(name: str, written: str, default: object, tmp_path: Path) -> None:
    field = field_in(tmp_path, name, FIELDS[name].format(written))
    assert (field.options.get("default"), field.required, field.losses) == (default, False, [])


@pytest.mark.parametrize(
    ("name", "written"),
    [("one.py", "x: int = now()"), ("one.py", 'x: str = "a\\n"'), ("one.hpp", "int x = now()")],
)
def test_a_default_that_is_computed_is_lost(name: str, written: str, tmp_path: Path) -> None:
    field = field_in(tmp_path, name, FIELDS[name].format(written))
    assert ([loss.slug for loss in field.losses], field.required) == (["computed-default"], False)


@pytest.mark.parametrize("written", ["Infinity", "NaN", "nan", "-inf", "1e999"])
def test_what_is_no_number_is_no_default(written: str, tmp_path: Path) -> None:
    field = field_in(tmp_path, "one.py", FIELDS["one.py"].format(f"x: float = {written}"))
    assert ("default" in field.options, field.required) == (False, False)


def test_a_template_without_names_of_its_parameters(tmp_path: Path) -> None:
    found = found_in(tmp_path, "one.hpp", "template <typename, class T> struct One { T x; int y; };\n")
    assert [[field.type.kind for field in each.fields] for each in found.types] == [["nothing", "integer"]]


def test_what_every_constructor_takes_is_required(tmp_path: Path) -> None:
    source = """
    class One {
        String always; String sometimes; String never;
        One(String always) { }
        One(String always, String sometimes) { }
    }"""
    (product,) = draft_in(tmp_path, "One.java", source).products
    assert [(field.name, field.required) for field in product.fields] == [
        ("always", True),
        ("sometimes", False),
        ("never", False),
    ]


def test_fields_of_a_base_between_are_those_of_its_kinds(tmp_path: Path) -> None:
    source = """
from abc import ABC
class Mark(ABC):
    name: str
class Floating(Mark, ABC):
    chain: float
class Buoy(Floating):
    colour: str
class Raft(Floating):
    width: float
"""
    (mark,) = draft_in(tmp_path, "one.py", source).products
    assert [field.name for field in mark.fields] == ["name", "chain"]
    assert [(each.name, [field.name for field in each.fields]) for each in mark.variants] == [
        ("Buoy", ["colour"]),
        ("Raft", ["width"]),
    ]


def test_a_base_that_can_be_made_is_told(tmp_path: Path) -> None:
    source = "class A:\n    x: int\nclass B(A):\n    y: int\nclass C(A):\n    z: int\n"
    (product,) = draft_in(tmp_path, "one.py", source).products
    assert [loss.slug for loss in product.losses] == ["made-base"]


def test_a_type_that_stands_for_another(tmp_path: Path) -> None:
    path = tmp_path / "one.go"
    path.write_text("package one\ntype One struct { At time.Time; Legs []geo.Leg }\n", encoding="utf-8")
    found = read_found(Asked((path,), given={"time.Time": "text", "Leg": "integer"}))
    (product,) = draft_of(found, "one", [path.name]).products
    assert [field.type for field in product.fields] == ["text", "list<integer>"]


def test_broken_code_is_read_as_far_as_it_goes(tmp_path: Path) -> None:
    source = "class A:\n    x: int\n\ndef broken(:\n    pass\n\nclass B:\n    y: str\n"
    found = found_in(tmp_path, "one.py", source)
    assert [each.name for each in found.types] == ["A", "B"]
    assert [reason for _, reason in found.unread] == [
        f"{tmp_path / 'one.py'} is not whole python: what could be read was"
    ]


def test_a_class_behind_a_macro_is_found(tmp_path: Path) -> None:
    found = found_in(tmp_path, "one.hpp", "class PORT_EXPORT Mark final : public Base {\n    int x;\n};\n")
    assert [(each.name, each.fields[0].name, each.spot.line) for each in found.types] == [("Mark", "x", 1)]


def test_folders_have_what_their_files_have(tmp_path: Path) -> None:
    inner = tmp_path / "src/inner"
    inner.mkdir(parents=True)
    (inner / "one.go").write_text("package one\ntype One struct { Two Two }\n", encoding="utf-8")
    (tmp_path / "src/two.go").write_text("package one\ntype Two struct { X int }\n", encoding="utf-8")
    (tmp_path / "src/config.json").write_text("{}", encoding="utf-8")
    found = read_found(Asked((tmp_path / "src",)))
    assert [(each.name, each.fields[0].type.name) for each in found.types] == [("One", "Two"), ("Two", "")]


@given(st.binary(max_size=200))
def test_any_bytes_are_read_by_every_language(source: bytes) -> None:
    for language in LANGUAGES.values():
        for fact in language.facts(trees.root_of(language.prepared(source), *language.grammar), "one"):
            assert fact.line >= 1


PIECES = [
    *(
        "class A",
        "struct A",
        "type A",
        "enum A",
        "interface A",
        "record A",
        "@dataclass\n",
        "const (",
        "pub ",
    ),
    *(
        "def __init__(self, x",
        " int",
        "x",
        "1",
        "'a'",
        "\n",
        "    ",
        "<T>",
        "[]",
        "{",
        "}",
        "(",
        ")",
        ":",
        ";",
        ",",
        " = ",
    ),
    *("*", "|", "?", "type U = A | B\n", "type V = U | C\n", "class C(A)", "class B extends A", "A", "B"),
]


@given(source=st.lists(st.sampled_from(PIECES), max_size=25).map("".join))
def test_any_pieces_of_code_give_a_valid_draft(source: str, tmp_path_factory: pytest.TempPathFactory) -> None:
    folder = tmp_path_factory.mktemp("any")
    for name in FIELDS:
        found = found_in(folder, name, source)
        assert not read_string(fit(draft_of(found, "one", [name])).text).problems


def test_an_inherited_field_keeps_its_file(tmp_path: Path) -> None:
    (tmp_path / "a.py").write_text("class A:\n    x: Unknown\n", encoding="utf-8")
    (tmp_path / "b.py").write_text("class B(A):\n    y: int\n", encoding="utf-8")
    found = read_found(Asked((tmp_path,)))
    spots = {
        f"{type_.name}.{field.name}": Path(field.spot.file).name
        for type_ in found.types
        for field in type_.fields
    }
    assert spots == {"A.x": "a.py", "B.x": "a.py", "B.y": "b.py"}
