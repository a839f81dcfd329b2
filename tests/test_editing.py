"""What an editor is told: positions, names, completion, mends; and all of it over the protocol, by a client."""

from __future__ import annotations

import asyncio
import os
import sys
from collections.abc import Awaitable, Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lsprotocol import types as lsp
from pygls.exceptions import JsonRpcException
from pygls.lsp.client import LanguageClient

from tests.conftest import DEMO, ENVIRONMENT, STARTER, VALID, Urform
from urform.cli.serving import _settings
from urform.declaration import read, read_string
from urform.declaration.place import Place
from urform.declaration.reference import entries, records
from urform.editing.completion import offers
from urform.editing.mends import mends
from urform.editing.names import Name, names, renaming_fails, same
from urform.editing.spots import spot_at, spots
from urform.editing.text import Position, Range, Text

# --- positions --------------------------------------------------------------------------------------------------

TEXTS = st.text(st.sampled_from("ab \n\r\x85\u2028é\U0001f6df"), max_size=40)


@given(TEXTS, st.data())
def test_a_position_is_a_place_and_back(text: str, data: st.DataObject) -> None:
    offset = data.draw(st.integers(0, len(text)))
    of = Text(text)
    position = of.position(offset)
    inside = text[offset - 1 : offset + 1] == "\r\n"  # which ends a line as a whole
    assert of.offset_of(position) == (offset - 1 if inside else offset)
    assert of.offset(of.place(position)) == of.offset_of(position)


@given(TEXTS, st.integers(0, 9), st.integers(0, 9))
def test_any_position_has_a_place(text: str, line: int, character: int) -> None:
    assert 0 <= Text(text).offset_of(Position(line, character)) <= len(text)


def test_characters_beyond_the_basic_plane_count_twice() -> None:
    text = Text("a: \U0001f6df b\nc: d\n")
    assert text.range(Place(1, 6)) == Range(Position(0, 6), Position(0, 7))
    assert text.place(Position(0, 6)) == Place(1, 6)


def test_a_line_of_the_declaration_may_be_part_of_one() -> None:
    text = Text("a: b\u2028c: d\n")
    assert text.range(Place(2, 1)) == Range(Position(0, 5), Position(0, 6))


# --- tokens and names -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("path", VALID, ids=lambda path: path.name)
def test_every_token_is_found_where_it_stands(path: Path) -> None:
    document = read(path).document
    for spot in spots(document.root):
        here = spot.place
        text = document.lines[here.line - 1][here.column - 1 :]
        if not spot.node.quoted and "\n" not in spot.node.text and spot.node.text:
            assert text.startswith(spot.node.text[: here.width]), spot
        assert spot_at(document.root, here) is not None


def test_every_key_of_the_demo_is_one_of_the_format() -> None:
    found = {id(spot.key) for spot in spots(read(DEMO).document.root) if spot.key is not None}
    assert found <= {id(entry.key) for entry in entries()}
    assert len(found) > 40


@pytest.mark.parametrize("path", VALID, ids=lambda path: path.name)
def test_every_type_is_declared_once_and_found_wherever_it_is_used(path: Path) -> None:
    declaration = read(path).declaration
    assert declaration is not None
    found = names(read(path).document.root)
    declared = [name.text for name in found if name.declares and not name.family]
    assert sorted(declared) == sorted({*declaration.products, *declaration.choices, *declaration.families})


def renamed(text: str, name: Name, to: str) -> str:
    root = read_string(text).document.root
    of = Text(text)
    for each in sorted(same(root, name), key=lambda each: each.place, reverse=True):
        begin = of.offset(each.place)
        text = text[:begin] + to + text[begin + each.place.width :]
    return text


@pytest.mark.parametrize("path", VALID, ids=lambda path: path.name)
def test_a_name_is_renamed_everywhere(path: Path) -> None:
    """Each by itself: what was valid stays so, and has the new name in place of the old one."""
    text = path.read_text(encoding="utf-8")
    declared = [name for name in names(read(path).document.root) if name.declares]
    for name in declared[:: max(1, len(declared) // 8)]:
        changed = read_string(renamed(text, name, "RenamedByAnEditor"))
        assert changed.declaration is not None, (name, changed.problems)
        left = [each.text for each in names(changed.document.root) if each.family == name.family]
        assert name.text not in left
        assert "RenamedByAnEditor" in left


def test_members_are_known_within_their_family() -> None:
    root = read(DEMO).document.root
    ice = next(name for name in names(root) if name.text == "Ice")
    assert ice.family == "Outfit"
    hull = next(name for name in names(root) if name.text == "SparHull" and not name.declares)
    assert hull.family == ""


@pytest.mark.parametrize(
    ("to", "why"),
    [
        ("Buoy2", ""),
        ("Beacon", "there is a 'Beacon' already"),
        ("buoy", "no UpperCamel name"),
        ("", "no UpperCamel name"),
    ],
)
def test_a_name_that_cannot_be(to: str, why: str) -> None:
    root = read(STARTER).document.root
    buoy = next(name for name in names(root) if name.text == "Buoy")
    assert why in renaming_fails(root, buoy, to)
    assert bool(renaming_fails(root, buoy, to)) == bool(why)


# --- completion -------------------------------------------------------------------------------------------------


def offered(text: str) -> list[str]:
    """What may stand where the text has a bar."""
    offset = text.index("|")
    return [each.label for each in offers(text.replace("|", ""), offset, _settings())]


HEAD = "urform: 1\nname: harbour\n"
CHART = f"{HEAD}products:\n  Chart:\n    required:\n      sheet: text\n"


@pytest.mark.parametrize(
    ("text", "some", "none"),
    [
        ("|", ["urform", "name", "products"], []),
        (f"{HEAD}pro|", ["products", "records"], ["name"]),
        (f"{CHART}    |", ["optional", "builder", "mutable"], ["required"]),
        (f"{CHART}    mutable: |", ["true", "false"], []),
        (f"{CHART}    optional:\n      scale: |", ["integer", "Chart", "list<…>"], []),
        (f"{CHART}    optional:\n      scale: {{type: integer, |}}", ["min", "default", "doc"], ["type"]),
        (f"{CHART}    optional:\n      scale: {{type: integer, |", ["min", "default"], ["type"]),
        (f"{CHART}    optional:\n      scale: {{type: in|", ["integer", "text"], []),
        (f"{CHART}    optional:\n      scale: {{type: integer, copy: |}}", ["deep", "shared"], []),
        (f"{CHART}    builder:\n      style: |", ["fluent", "statements"], []),
        (f"{CHART}    builder:\n      |", ["style", "presets"], []),
        (f"targets:\n  |\n{CHART}", ["python", "go"], []),
        (f"targets:\n  go:\n    |\n{CHART}", ["module", "into"], []),
        (f"{CHART}families:\n  Sheets:\n    makes: {{chart: |}}\n", ["Chart"], ["text"]),
    ],
)
def test_what_may_stand_there(text: str, some: list[str], none: list[str]) -> None:
    found = offered(text)
    assert [each for each in some if each not in found] == []
    assert [each for each in none if each in found] == []


def test_where_a_name_is_made_up_nothing_is_offered() -> None:
    assert offered(f"{HEAD}products:\n  |") == []
    assert offered(f"{CHART}    doc: |") == []


@pytest.mark.parametrize("path", [DEMO, STARTER], ids=lambda path: path.name)
def test_every_key_of_a_file_would_have_been_offered(path: Path) -> None:
    """Each is taken out, with what stands under it, and asked for in its place."""
    text = path.read_text(encoding="utf-8")
    of = Text(text)
    for spot in spots(read(path).document.root):
        if spot.key is None or spot.node.text not in of.text:
            continue
        begin = of.offset(spot.place)
        found = offers(text[:begin] + text[begin + spot.place.width :], begin, _settings())
        assert spot.node.text in [each.label for each in found], spot


def test_every_mapping_of_the_format_is_met_somewhere() -> None:
    met = {id(spot.key) for path in VALID for spot in spots(read(path).document.root) if spot.key is not None}
    assert [record.what for record in records() if not met & {id(key) for key in record.keys.values()}] == []


# --- mends ------------------------------------------------------------------------------------------------------


def mended(text: str, slug: str) -> str:
    """The text after the first mend of a problem."""
    reading = read_string(text)
    problem = next(each for each in (*reading.problems, *reading.advice) if each.slug == slug)
    mend = next(mends(Text(text), problem))
    of = Text(text)
    begin, end = of.offset_of(mend.range.start), of.offset_of(mend.range.end)
    return text[:begin] + mend.text + text[end:]


def test_what_was_meant_is_written() -> None:
    text = f"{CHART}    mutabel: true\n"
    assert mended(text, "unknown-key") == f"{CHART}    mutable: true\n"
    assert mended(CHART.replace("text", "txet"), "unknown-type") == CHART
    assert mended(CHART.replace("text", "string"), "unknown-type") == CHART
    assert mended(CHART.replace("sheet", "sheetName"), "bad-name") == CHART.replace("sheet", "sheet_name")


def test_advice_is_kept_quiet() -> None:
    text = f"{HEAD}products:\n  Rhythm:\n    required: {{code: text}}\n    flyweight: {{key: [code]}}   \n"
    once = mended(text, "bare-pool")
    assert once.endswith("flyweight: {key: [code]}  # urform: keep bare-pool\n")
    assert [advice.slug for advice in read_string(once).advice] == []


@pytest.mark.parametrize(
    "path", sorted((Path(__file__).parent / "fixtures/mistakes").glob("*.yaml")), ids=lambda p: p.stem
)
def test_a_mend_mends_its_problem(path: Path) -> None:
    text = path.read_text(encoding="utf-8")
    reading = read_string(text)
    for problem in reading.problems:
        for mend in mends(Text(text), problem):
            of = Text(text)
            begin, end = of.offset_of(mend.range.start), of.offset_of(mend.range.end)
            again = read_string(text[:begin] + mend.text + text[end:]).problems
            assert (problem.place, problem.message) not in [(each.place, each.message) for each in again]


# --- over the protocol ------------------------------------------------------------------------------------------

URI = "file:///harbour/fairway%20marks.urform.yaml"


class Editor:
    """A client that has one file open."""

    def __init__(self) -> None:
        self.client = LanguageClient("editor", "1")
        self.told: asyncio.Queue[lsp.PublishDiagnosticsParams] = asyncio.Queue()
        self._version = 1

        @self.client.feature(lsp.TEXT_DOCUMENT_PUBLISH_DIAGNOSTICS)  # type: ignore[untyped-decorator]
        def _(params: lsp.PublishDiagnosticsParams) -> None:
            self.told.put_nowait(params)

    async def begin(self, text: str) -> list[lsp.Diagnostic]:
        command = str(Path(sys.executable).parent / "urform")
        await self.client.start_io(command, "lsp", env={**os.environ, **ENVIRONMENT})
        await self.client.initialize_async(lsp.InitializeParams(capabilities=lsp.ClientCapabilities()))
        self.client.initialized(lsp.InitializedParams())
        item = lsp.TextDocumentItem(URI, "yaml", self._version, text)
        self.client.text_document_did_open(lsp.DidOpenTextDocumentParams(item))
        return await self.problems()

    async def problems(self) -> list[lsp.Diagnostic]:
        found = await asyncio.wait_for(self.told.get(), 60)
        assert found.uri == URI
        assert found.version == self._version
        return list(found.diagnostics)

    async def types(self, text: str) -> list[lsp.Diagnostic]:
        self._version += 1
        whole = lsp.TextDocumentContentChangeWholeDocument(text)
        identifier = lsp.VersionedTextDocumentIdentifier(self._version, URI)
        self.client.text_document_did_change(lsp.DidChangeTextDocumentParams(identifier, [whole]))
        return await self.problems()

    async def end(self) -> None:
        await self.client.shutdown_async(None)
        self.client.exit(None)
        await self.client.stop()  # type: ignore[no-untyped-call]


def edited(session: Callable[[Editor], Awaitable[None]]) -> None:
    """Run a session with an editor, and end it."""

    async def whole() -> None:
        editor = Editor()
        try:
            await session(editor)
        finally:
            await editor.end()

    asyncio.run(whole())


FILE = lsp.TextDocumentIdentifier(URI)


def applied(text: str, edits: Any) -> str:
    of = Text(text)

    def offsets(edit: lsp.TextEdit) -> tuple[int, int]:
        start, end = edit.range.start, edit.range.end
        begin = of.offset_of(Position(start.line, start.character))
        return begin, of.offset_of(Position(end.line, end.character))

    for edit in sorted(edits, key=offsets, reverse=True):
        begin, end = offsets(edit)
        text = text[:begin] + edit.new_text + text[end:]
    return text


def lines(text: str) -> Iterator[tuple[int, str]]:
    return enumerate(text.splitlines())


@pytest.mark.slow
def test_a_session() -> None:
    """Problems as one types, completion, hover, where a name is declared, renaming, and a mend."""
    text = STARTER.read_text(encoding="utf-8")
    buoy = next(number for number, line in lines(text) if line.strip() == "Buoy:")

    async def session(editor: Editor) -> None:
        client = editor.client
        assert await editor.begin(text) == []

        wrong = text.replace("boolean", "boolaen")
        found = (await editor.types(wrong))[0]
        assert (found.code, found.source, found.severity) == (
            "unknown-type",
            "urform",
            lsp.DiagnosticSeverity.Error,
        )
        assert "mend: " in found.message
        within = lsp.CodeActionParams(FILE, found.range, lsp.CodeActionContext([found]))
        actions = await client.text_document_code_action_async(within)
        assert actions is not None
        action = actions[0]
        assert isinstance(action, lsp.CodeAction)
        assert action.title == "Write boolean"
        assert action.edit is not None
        assert action.edit.changes is not None
        assert applied(wrong, action.edit.changes[URI]) == text
        assert await editor.types(text) == []

        at = lsp.Position(buoy, 7)
        hover = await client.text_document_hover_async(lsp.HoverParams(FILE, lsp.Position(buoy + 1, 9)))
        assert hover is not None
        assert isinstance(hover.contents, lsp.MarkupContent)
        assert hover.contents.value.startswith("answers: ")

        rename = lsp.RenameParams(FILE, at, "Float")
        change = await client.text_document_rename_async(rename)
        assert change is not None
        assert change.changes is not None
        after = applied(text, change.changes[URI])
        assert "Float:" in after
        assert await editor.types(after) == []
        with pytest.raises(JsonRpcException, match="there is a 'Beacon' already"):
            await client.text_document_rename_async(lsp.RenameParams(FILE, at, "Beacon"))

        declared = await client.text_document_definition_async(
            lsp.DefinitionParams(FILE, lsp.Position(*_first(after, "Side", "side: Side")))
        )
        assert isinstance(declared, list)
        assert [each.range.start.line for each in declared if isinstance(each, lsp.Location)] == [
            _first(after, "Side:", "Side:")[0]
        ]

        typing = f"{after}    bui"
        await editor.types(typing)
        end = lsp.Position(*_first(typing, "bui", "    bui", end=True))
        items = await client.text_document_completion_async(lsp.CompletionParams(FILE, end))
        assert isinstance(items, list)
        assert "builder" in [item.label for item in items]

    edited(session)


def _first(text: str, word: str, within: str, *, end: bool = False) -> tuple[int, int]:
    number = next(number for number, line in lines(text) if within in line)
    line = text.splitlines()[number]
    column = line.index(within) + within.index(word)
    return number, column + (len(word) if end else 1)


def test_hostile_text_ends_nothing() -> None:
    async def session(editor: Editor) -> None:
        assert [each.code for each in await editor.begin("\x00")] == ["not-yaml"]
        assert [each.code for each in await editor.types("[" * 5000)] == ["too-deep"]
        assert (
            await editor.types("urform: 1\nname: harbour\nproducts: {A: {required: {a: text}}}\n") is not None
        )

    edited(session)


def test_without_pygls_the_command_says_how_to_get_it(
    urform: Urform, hiding: Callable[[str], dict[str, str]]
) -> None:
    run = urform("lsp", environment=hiding("pygls"))
    assert run.status == 3
    assert "pip install 'urform[editor]'" in run.err
