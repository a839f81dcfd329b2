"""The format told key by key: each key and word has a meaning, an example that is valid and uses it, and an explanation."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import pytest
from jsonschema import Draft202012Validator

from tests.conftest import ROOT
from urform.cli.explaining import explained, known_words, overview
from urform.cli.words import HAVING, PATTERNS, WORDS
from urform.declaration import read_string
from urform.declaration.document import MappingNode, Node, ScalarNode, SequenceNode, read_text
from urform.declaration.examples import EXAMPLES
from urform.declaration.grammar import DECLARATION
from urform.declaration.problems import Problems
from urform.declaration.reference import entries, page, records, words_of
from urform.declaration.schema import json_schema
from urform.declaration.shape import Either, Listed, Named, Record, Shape

ENTRIES = [(entry.record.what, entry.name) for entry in entries()]


def used(node: Node, shape: Shape) -> Iterator[tuple[str, str]]:
    """The keys that a document uses, each with the mapping that it belongs to."""
    match node, shape:
        case _, Either():
            here = {ScalarNode: shape.scalar, SequenceNode: shape.sequence, MappingNode: shape.mapping}[
                type(node)
            ]
            if here is not None:
                yield from used(node, here)
        case MappingNode(entries=entries), Named(value=value):
            for _, inner in entries.values():
                yield from used(inner, value)
        case SequenceNode(items=items), Listed(item=item):
            for inner in items:
                yield from used(inner, item)
        case MappingNode(entries=entries), Record(what=what, keys=keys):
            for name, (_, inner) in entries.items():
                yield what, name
                yield from used(inner, keys[name].shape)


@pytest.mark.parametrize("example", sorted({text for texts in EXAMPLES.values() for text in texts}))
def test_an_example_is_valid(example: str) -> None:
    reading = read_string(example)
    assert reading.problems == ()


def test_every_key_stands_in_an_example_of_its_mapping() -> None:
    assert set(EXAMPLES) == {record.what for record in records()}
    for what, examples in EXAMPLES.items():
        roots = [read_text(example, "example", Problems()).root for example in examples]
        there = {pair for root in roots if root is not None for pair in used(root, DECLARATION)}
        assert {pair for pair in ENTRIES if pair[0] == what} <= there, what


def test_every_key_and_word_says_what_it_means() -> None:
    for entry in entries():
        assert entry.key.shape.doc.endswith("."), entry
        assert all(meaning.endswith(".") for meaning in words_of(entry.key.shape).values()), entry
        assert entry.key.required or entry.key.default or not entry.key.like, entry


def test_the_page_is_up_to_date(request: pytest.FixtureRequest) -> None:
    """`--renew` writes it anew."""
    path = ROOT / "docs/format.md"
    if request.config.getoption("--renew"):
        path.write_text(page(), encoding="utf-8")
    assert path.read_text(encoding="utf-8") == page()


def test_the_page_has_a_row_for_every_key_and_every_example() -> None:
    text = page()
    for _, name in ENTRIES:
        assert f"| `{name}` |" in text
    for examples in EXAMPLES.values():
        for example in examples:
            assert text.count(example) == 1


@pytest.mark.parametrize("word", sorted({name for _, name in ENTRIES}))
def test_every_key_can_be_explained(word: str) -> None:
    text = explained(word)
    assert text is not None
    assert f"{word} (of " in text


def test_the_overview_has_every_word() -> None:
    text = overview(["limit"])
    assert [word for word in known_words() if word not in text] == []
    assert set(HAVING.values()) <= set(known_words())
    assert set(PATTERNS) <= set(WORDS)


def described(schema: object, path: str = "") -> Iterator[str]:
    """The properties, and the words that may stand somewhere, without a description."""
    if isinstance(schema, list):
        for each in schema:
            yield from described(each, path)
    if not isinstance(schema, dict):
        return
    for name, inner in schema.get("properties", {}).items():
        if "description" not in inner:
            yield f"{path}.{name}"
    for each in schema.get("oneOf", []):
        if "description" not in each:
            yield f"{path}={each}"
    for name, inner in schema.items():
        yield from described(inner, f"{path}.{name}")


def test_the_schema_describes_every_key_and_word() -> None:
    assert list(described(json_schema())) == []


def test_the_schema_takes_the_examples() -> None:
    import yaml

    validator = Draft202012Validator(json_schema())
    for examples in EXAMPLES.values():
        for example in examples:
            assert list(validator.iter_errors(yaml.safe_load(example))) == []


def test_what_a_person_sees_of_the_format(expected: Callable[[str, str], None]) -> None:
    groups = ["required", "limit"]
    expected("explained/overview.txt", f"{overview(groups)}\n")
    for word in ("unknown", "copy", "unique", "shallow", "by_values", "clone-shares"):
        expected(f"explained/{word}.txt", f"{explained(word)}\n")
