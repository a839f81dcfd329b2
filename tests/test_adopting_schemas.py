"""Schemas read as products: drafts as golden files, each rule by itself, and that a draft is always valid."""

from __future__ import annotations

import json
import re
import tempfile
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import HERE
from urform.declaration import read_string
from urform.declaration.regexp.automaton import automaton
from urform.declaration.regexp.dialects import EVERY_TEXT, from_ecmascript
from urform.existing.draft import Draft, DraftField
from urform.existing.drafting import draft_of
from urform.existing.fitting import fit
from urform.existing.naming import Names, lower_snake, upper_camel
from urform.existing.reports import as_json, report_of
from urform.existing.schemas.reading import read_schemas

SCHEMAS = sorted((HERE / "fixtures/existing/schemas").glob("*.schema.*"))


def drafted(path: Path) -> Draft:
    return draft_of(read_schemas([path], {}), path.name.partition(".")[0], [path.name])


def of(folder: Path, schema: object) -> Draft:
    """The draft of one schema."""
    path = folder / "root.json"
    path.write_text(json.dumps(schema), encoding="utf-8")
    draft = drafted(path)
    fit(draft)
    return draft


def field_of(folder: Path, schema: object, *, required: bool = False, **others: object) -> DraftField:
    """What becomes of one property."""
    properties: dict[str, object] = {"type": "object", "properties": {"one": schema}, **others}
    draft = of(folder, {**properties, "required": ["one"] if required else []})
    (field,) = draft.products[0].fields
    return field


# --- whole drafts -----------------------------------------------------------------------------------------------


@pytest.mark.parametrize("path", SCHEMAS, ids=lambda path: path.name.partition(".")[0])
def test_a_draft(path: Path, expected: Callable[[str, str], None]) -> None:
    found = read_schemas([path], {})
    name = path.name.partition(".")[0]
    draft = draft_of(found, name, [path.name])
    text = fit(draft).text
    assert not read_string(text).problems
    expected(f"adopted/{name}.urform.yaml", text)
    told = json.dumps(as_json(report_of(draft, found)), indent=2, ensure_ascii=False) + "\n"
    expected(f"adopted/{name}.json", told.replace(str(path.parent), "schemas"))


def test_counts_are_those_of_the_fields() -> None:
    found = read_schemas(SCHEMAS[:1], {})
    draft = draft_of(found, "notices", ["notices"])
    fit(draft)
    report = report_of(draft, found)
    assert report.totals.total() == sum(len(product.fields) for product in draft.every()) == 36
    out = [
        f"{told.product}.{told.field}"
        for told in report.losses
        if told.loss.slug in ("any", "tuple", "other-file")
    ]
    assert out == ["NoticesPortVarrow.archive", "NoticesPortVarrow.extra", "LightNotice.sectors"]
    assert not report.complete


# --- one property -----------------------------------------------------------------------------------------------

WHOLE = [
    ({"type": "string"}, "text", {}),
    ({"type": "string", "format": "uri", "maxLength": 9}, "uri", {"max_length": 9}),
    ({"type": "string", "pattern": "^[a-z-]+$"}, "text", {"pattern": r"[a-z\-]+"}),
    ({"type": "string", "pattern": ".*"}, "text", {}),
    ({"type": "number", "minimum": 1, "exclusiveMaximum": 2}, "real", {"min": 1.0, "below": 2.0}),
    ({"type": "integer", "minimum": 1, "exclusiveMinimum": True}, "integer", {"above": 1}),
    ({"type": ["integer", "number"]}, "real", {}),
    ({"const": "a b"}, "text", {"one_of": ["a b"]}),
    ({"enum": [1, 2]}, "integer", {"one_of": [1, 2]}),
    ({"enum": ["red", "green"]}, "One", {}),
    ({"enum": ["a", "A"]}, "text", {"one_of": ["a", "A"]}),
    ({"oneOf": [{"const": "red"}, {"enum": ["green"]}]}, "One", {}),
    ({"anyOf": [{"type": "string"}, {"enum": ["x", "y"]}]}, "text", {}),
    ({"type": "boolean", "default": False}, "boolean", {"default": False}),
    ({"type": "array", "items": {"type": "number"}, "minItems": 1}, "list<real>", {"min_length": 1}),
    (
        {"type": "array", "items": {"enum": ["x", "y"]}, "uniqueItems": True, "default": ["y"]},
        "list<OneItem>",
        {"unique": True, "default": ["y"]},
    ),
    ({"type": "object", "additionalProperties": {"type": "integer"}}, "map<text to integer>", {}),
    (
        {"type": "array", "items": {"type": "object", "properties": {"x": {"type": "string"}}}},
        "list<OneItem>",
        {},
    ),
    ({"properties": {"x": {"type": "string"}}}, "One", {}),
]


@pytest.mark.parametrize(("schema", "type_", "options"), WHOLE)
def test_what_is_carried_over_whole(
    schema: object, type_: str, options: dict[str, object], tmp_path: Path
) -> None:
    field = field_of(tmp_path, schema)
    assert (field.type, field.options, field.losses) == (type_, options, [])


LOSSY = [
    ({"type": ["string", "null"]}, "text", "null"),
    ({"type": "string", "format": "email"}, "text", "format"),
    ({"type": "string", "pattern": "(?=x)"}, "text", "pattern"),
    ({"type": "number", "multipleOf": 5}, "real", "limit"),
    ({"type": "integer", "maximum": 2**60}, "integer", "limit"),
    ({"type": "string", "default": 3}, "text", "default"),
    (
        {"oneOf": [{"type": "string"}, {"type": "array", "items": {"type": "string"}}]},
        "list<text>",
        "one-or-many",
    ),
    ({"oneOf": [{"type": "string"}, {"properties": {"x": {"type": "string"}}}]}, "One", "union"),
    ({"type": "array", "items": {"type": "number"}, "uniqueItems": True}, "list<real>", "unique"),
    ({"type": "object", "patternProperties": {"^x": {"type": "string"}}}, "map<text to text>", "map-keys"),
    ({"allOf": [{"type": "string"}, {"minLength": 2}]}, "text", "conditions"),
    ({}, "", "any"),
    ({"type": "array"}, "", "any"),
    ({"type": "array", "items": [{"type": "string"}]}, "", "tuple"),
    ({"type": ["string", "integer"]}, "", "union"),
    ({"enum": ["x", 1]}, "", "union"),
    ({"$ref": "#/nowhere"}, "", "other-file"),
    ({"$ref": "#/properties/one"}, "", "other-file"),
    ({"$ref": "https://elsewhere.example/x.json"}, "", "other-file"),
    ({"oneOf": [{"properties": {"x": {}}}, {"properties": {"y": {}}}]}, "", "union"),
]


@pytest.mark.parametrize(("schema", "type_", "slug"), LOSSY)
def test_what_is_lost(schema: object, type_: str, slug: str, tmp_path: Path) -> None:
    field = field_of(tmp_path, schema)
    assert (field.type, field.losses[-1].slug) == (type_, slug)


def test_a_default_that_breaks_its_own_limits_is_lost_and_the_limits_stay(tmp_path: Path) -> None:
    field = field_of(tmp_path, {"type": "integer", "minimum": 3, "default": 1})
    assert (field.options, field.losses[-1].slug) == ({"min": 3}, "refused")


def test_what_is_required_and_may_be_null_is_optional(tmp_path: Path) -> None:
    field = field_of(tmp_path, {"type": ["integer", "null"]}, required=True)
    assert (field.required, field.losses[-1].slug) == (False, "null")


def test_a_required_field_that_leads_back_is_optional(tmp_path: Path) -> None:
    field = field_of(tmp_path, {"$ref": "#"}, required=True)
    assert (field.required, field.losses[-1].slug) == (False, "endless")


# --- kinds ------------------------------------------------------------------------------------------------------


def kind(word: str, **properties: object) -> dict[str, object]:
    return {
        "type": "object",
        "properties": {"is": {"const": word}, **properties},
        "required": ["is", *properties],
    }


TEXT = {"type": "string"}


def test_objects_that_a_word_tells_apart_are_variants(tmp_path: Path) -> None:
    union = {"oneOf": [kind("float", name=TEXT, chain=TEXT), kind("pile", name=TEXT)]}
    draft = of(tmp_path, {"properties": {"mark": union}})
    base = next(product for product in draft.products if product.variants)
    assert [(each.key, [field.name for field in each.carried]) for each in base.variants] == [
        ("float", ["chain"]),
        ("pile", []),
    ]
    assert [field.name for field in base.carried] == ["name"]  # what both have alike
    assert draft.kind_field == "is"
    assert draft.products[0].fields[0].type == base.name


def test_kinds_that_lead_back_to_their_union(tmp_path: Path) -> None:
    schema = {
        "$defs": {
            "mark": {"oneOf": [{"$ref": "#/$defs/buoy"}, {"$ref": "#/$defs/beacon"}]},
            "buoy": kind("buoy", beside={"$ref": "#/$defs/mark"}),
            "beacon": kind("beacon"),
        },
        "properties": {"first": {"$ref": "#/$defs/mark"}},
    }
    draft = of(tmp_path, schema)
    (base,) = [product for product in draft.products if product.variants]
    assert (base.name, [each.key for each in base.variants]) == ("Mark", ["buoy", "beacon"])
    assert base.variants[0].fields[0].type == "Mark"


def test_records_tell_their_kind_in_one_place(tmp_path: Path) -> None:
    other = {"properties": {"as": {"const": "x"}}}, {"properties": {"as": {"const": "y"}}}
    schema = {
        "properties": {"mark": {"oneOf": [kind("a"), kind("b"), kind("c")]}, "odd": {"oneOf": [*other]}}
    }
    draft = of(tmp_path, schema)
    mark, odd = draft.products[0].fields
    assert (draft.kind_field, mark.outcome, odd.outcome, odd.losses[-1].slug) == (
        "is",
        "whole",
        "out",
        "union",
    )


# --- names and text ---------------------------------------------------------------------------------------------


@given(st.text(max_size=90))
def test_names_are_names_of_the_format(text: str) -> None:
    snake, camel = lower_snake(text), upper_camel(text)
    assert not snake or re.fullmatch(r"[a-z][a-z0-9]*(_[a-z0-9]+)*", snake)
    assert re.fullmatch(r"[A-Z][A-Za-z0-9]*", camel)
    assert lower_snake(snake) == snake
    assert upper_camel(camel) == camel


def test_names_that_differ_in_case_alone_are_one() -> None:
    names = Names()
    assert [names.free(each) for each in ("TideLog", "Tidelog", "tide_log")] == [
        "TideLog",
        "Tidelog2",
        "tide_log3",
    ]


HOSTILE = st.text(st.characters(codec="utf-8"), max_size=40) | st.sampled_from(
    [
        "yes",
        "null",
        "1e3",
        "x: y",
        "- x",
        "#",
        "'",
        '"',
        "\\",
        "a\n# b",
        "{",
        "x #y",
        "\u2028",
        "0x1",
        "~",
        " x",
        "x ",
    ]
)


@given(HOSTILE, HOSTILE, HOSTILE)
def test_text_of_a_schema_stays_text(doc: str, word: str, name: str) -> None:
    """Whatever it is, the declaration has it as it was, and nothing else by it."""
    schema = {
        "description": doc,
        "properties": {name: {"enum": [word, "other"], "description": doc}, "x": {}},
    }
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "root.json"
        path.write_text(json.dumps(schema), encoding="utf-8")
        draft = drafted(path)
        text = fit(draft).text
    declaration = read_string(text).declaration
    assert declaration is not None
    (product,) = declaration.products.values()
    assert (product.doc or "") == " ".join(doc.split())
    if draft.products[0].fields[0].type == "text":
        (limit,) = product.fields[draft.products[0].fields[0].name].limits
        assert isinstance(limit.bound, tuple)
        assert word in limit.bound


# --- patterns ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("pattern", "same"),
    [
        (r"^\d{4}$", "[0-9]{4}"),
        ("x", f"{EVERY_TEXT}x{EVERY_TEXT}"),
        ("a|b", f"{EVERY_TEXT}(a|b){EVERY_TEXT}"),
        (r"^[\w-.]+$", r"[A-Za-z0-9_\-.]+"),
        (r"^\/(?:x|\$)$", "/(x|[$])"),
        ("^$", ""),
        ("", EVERY_TEXT),
        ("^a|b$", None),
        ("(?=a)", None),
        (r"\bx", None),
        (r"(x)\1", None),
        (r"^[\d-x]$", r"[0-9\-x]"),  # which Python refuses
        (r"^[\S]$", None),
    ],
)
def test_a_pattern_of_ecmascript(pattern: str, same: str | None) -> None:
    assert from_ecmascript(pattern) == same


_ATOMS = st.sampled_from(
    ["a", "b", "0", "-", r"\d", r"\w", r"\.", "[ab]", "[^a]", "[a-]", "[0-9-a]", r"[\w.-]"]
)
_PIECES = st.tuples(_ATOMS, st.sampled_from(["", "*", "+", "?", "{2}", "{1,2}"])).map("".join)
_INNER = st.lists(_PIECES | st.just("(?:a|b)") | st.just("(b0)?"), min_size=1, max_size=4).map("".join)


@given(st.booleans(), _INNER, st.booleans(), st.text("ab0-x.", max_size=6))
def test_a_pattern_means_what_it_meant(begins: bool, inner: str, ends: bool, text: str) -> None:
    pattern = f"{'^' if begins else ''}{inner}{'$' if ends else ''}"
    same = from_ecmascript(pattern)
    assert same is not None
    end = r"\Z" if ends else ""  # `$` of Python is before a line end, too
    meant = re.search(f"{'^' if begins else ''}{inner}{end}", text, re.ASCII)
    assert automaton(same).accepts(text) == (meant is not None)


# --- any schema -------------------------------------------------------------------------------------------------

_LEAVES = st.sampled_from(
    [
        {"type": "string"},
        {"type": "string", "minLength": 3, "maxLength": 1},
        {"type": "string", "pattern": "^[a-z]{2,}$", "default": "1"},
        {"type": "integer", "minimum": 5, "maximum": 4},
        {"type": "number", "default": 2},
        {"enum": ["a", "b-c", None]},
        {"const": True},
        {"type": "null"},
        {},
        True,
        False,
        {"$ref": "#"},
        {"$ref": "#/$defs/d"},
        {"$ref": "#/$defs/e"},
        {"type": "nonsense"},
        {"items": False},
        {"allOf": []},
        {"oneOf": []},
    ]
)
_NAMES = st.sampled_from(["a", "A", "aB", "a_b", "kind", "class", "1", "é", "type", "is"])


def _larger(inner: st.SearchStrategy[object]) -> st.SearchStrategy[object]:
    properties = st.dictionaries(_NAMES, inner, max_size=4)
    return st.one_of(
        st.fixed_dictionaries(
            {"properties": properties}, optional={"required": st.lists(_NAMES, max_size=4)}
        ),
        st.fixed_dictionaries({"type": st.just("array"), "items": inner}),
        st.fixed_dictionaries({"type": st.just("object"), "additionalProperties": inner}),
        st.lists(inner, min_size=1, max_size=3).map(lambda parts: {"oneOf": parts}),
        st.lists(inner, min_size=1, max_size=3).map(lambda parts: {"allOf": parts}),
    )


_SCHEMAS = st.recursive(_LEAVES, _larger, max_leaves=12)


@given(root=_SCHEMAS, one=_SCHEMAS, other=_SCHEMAS)
def test_the_draft_of_any_schema_is_valid(
    root: object, one: object, other: object, tmp_path_factory: pytest.TempPathFactory
) -> None:
    path = tmp_path_factory.mktemp("any") / "root.json"
    whole = {"properties": {"root": root}, "$defs": {"d": one, "e": other}}
    path.write_text(json.dumps(whole), encoding="utf-8")
    draft = drafted(path)
    assert not read_string(fit(draft).text).problems


def test_a_long_chain_of_definitions_is_read(tmp_path: Path) -> None:
    chain = {
        f"n{number}": {"properties": {"next": {"$ref": f"#/$defs/n{number + 1}"}}} for number in range(400)
    }
    draft = of(tmp_path, {"$ref": "#/$defs/n0", "$defs": {**chain, "n400": {"properties": {"x": {}}}}})
    assert [each.name for each in draft.products] == [f"N{number}" for number in range(401)]


def test_unions_in_a_circle(tmp_path: Path) -> None:
    circle = {"oneOf": [{"$ref": "#/$defs/d"}, {"type": "string"}]}
    field = (
        of(tmp_path, {"properties": {"x": {"$ref": "#/$defs/d"}}, "$defs": {"d": circle}})
        .products[0]
        .fields[0]
    )
    assert field.type == "text"
