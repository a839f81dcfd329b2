"""`urform lsp`: what editors ask, over the Language Server Protocol 3.17."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cache
from pathlib import PurePosixPath
from urllib.parse import unquote, urlsplit

from lsprotocol import types as lsp
from pygls.exceptions import JsonRpcInvalidParams
from pygls.lsp.server import LanguageServer

from urform.cli.common import complete
from urform.cli.explaining import explained
from urform.declaration import Reading, read_string
from urform.declaration.document import MappingNode
from urform.declaration.problems import Problem
from urform.declaration.reference import meaning, words_of
from urform.editing.completion import KEY, TYPE, WORD, offers
from urform.editing.mends import mends
from urform.editing.names import Name, name_at, renaming_fails, same
from urform.editing.spots import Spot, spot_at
from urform.editing.text import Position, Range, Text
from urform.languages import known_targets, target
from urform.version import VERSION

Asked = lsp.DefinitionParams | lsp.ReferenceParams | lsp.PrepareRenameParams | lsp.RenameParams
SORTS = {
    KEY: lsp.CompletionItemKind.Property,
    WORD: lsp.CompletionItemKind.EnumMember,
    TYPE: lsp.CompletionItemKind.Class,
}


def server() -> LanguageServer:
    """A server that answers for the files that an editor has open."""
    serving = LanguageServer("urform", VERSION)

    def opened(uri: str) -> Text:
        return Text(serving.workspace.get_text_document(uri).source)

    def root(uri: str) -> MappingNode | None:
        return _reading(uri, opened(uri)).document.root

    def told(uri: str, version: int | None) -> None:
        reading, text = _reading(uri, opened(uri)), opened(uri)
        found = [_diagnostic(text, problem) for problem in (*reading.problems, *reading.advice)]
        serving.text_document_publish_diagnostics(lsp.PublishDiagnosticsParams(uri, found, version))

    @serving.feature(lsp.TEXT_DOCUMENT_DID_OPEN)
    def _(params: lsp.DidOpenTextDocumentParams) -> None:
        told(params.text_document.uri, params.text_document.version)

    @serving.feature(lsp.TEXT_DOCUMENT_DID_CHANGE)
    def _(params: lsp.DidChangeTextDocumentParams) -> None:
        told(params.text_document.uri, params.text_document.version)

    @serving.feature(lsp.TEXT_DOCUMENT_DID_CLOSE)
    def _(params: lsp.DidCloseTextDocumentParams) -> None:
        closed = lsp.PublishDiagnosticsParams(params.text_document.uri, [])
        serving.text_document_publish_diagnostics(closed)

    @serving.feature(
        lsp.TEXT_DOCUMENT_COMPLETION, lsp.CompletionOptions(trigger_characters=[" ", ":", "{", "<"])
    )
    def _(params: lsp.CompletionParams) -> list[lsp.CompletionItem]:
        text = opened(params.text_document.uri)
        found = offers(text.text, text.offset_of(_position(params.position)), _settings())
        return [
            lsp.CompletionItem(
                each.label, kind=SORTS[each.sort], insert_text=each.insert, documentation=each.doc or None
            )
            for each in found
        ]

    @serving.feature(lsp.TEXT_DOCUMENT_HOVER)
    def _(params: lsp.HoverParams) -> lsp.Hover | None:
        uri, position = params.text_document.uri, _position(params.position)
        text, reading = opened(uri), _reading(uri, opened(uri))
        said = _said(text, reading, position)
        return lsp.Hover(lsp.MarkupContent(lsp.MarkupKind.PlainText, said)) if said else None

    def named(params: Asked) -> Name | None:
        text = opened(params.text_document.uri)
        return name_at(root(params.text_document.uri), text.place(_position(params.position)))

    @serving.feature(lsp.TEXT_DOCUMENT_DEFINITION)
    def _(params: lsp.DefinitionParams) -> list[lsp.Location]:
        uri, name = params.text_document.uri, named(params)
        found = same(root(uri), name) if name is not None else ()
        return [lsp.Location(uri, _range(opened(uri), each)) for each in found if each.declares]

    @serving.feature(lsp.TEXT_DOCUMENT_REFERENCES)
    def _(params: lsp.ReferenceParams) -> list[lsp.Location]:
        uri, name = params.text_document.uri, named(params)
        found = same(root(uri), name) if name is not None else ()
        wanted = params.context.include_declaration
        return [lsp.Location(uri, _range(opened(uri), each)) for each in found if wanted or not each.declares]

    @serving.feature(lsp.TEXT_DOCUMENT_PREPARE_RENAME)
    def _(params: lsp.PrepareRenameParams) -> lsp.Range | None:
        name = named(params)
        return _range(opened(params.text_document.uri), name) if name is not None else None

    @serving.feature(lsp.TEXT_DOCUMENT_RENAME, lsp.RenameOptions(prepare_provider=True))
    def _(params: lsp.RenameParams) -> lsp.WorkspaceEdit | None:
        uri, name = params.text_document.uri, named(params)
        if name is None:
            return None
        refused = renaming_fails(root(uri), name, params.new_name)
        if refused:
            raise JsonRpcInvalidParams(refused)
        edits = [lsp.TextEdit(_range(opened(uri), each), params.new_name) for each in same(root(uri), name)]
        return lsp.WorkspaceEdit({uri: edits})

    @serving.feature(
        lsp.TEXT_DOCUMENT_CODE_ACTION, lsp.CodeActionOptions(code_action_kinds=[lsp.CodeActionKind.QuickFix])
    )
    def _(params: lsp.CodeActionParams) -> list[lsp.CodeAction]:
        uri = params.text_document.uri
        text, reading = opened(uri), _reading(uri, opened(uri))
        return list(_actions(uri, text, reading, params.range))

    return serving


def serve() -> None:
    """Answer on standard input and output until the editor goes."""
    server().start_io()


def _reading(uri: str, text: Text) -> Reading:
    name = PurePosixPath(unquote(urlsplit(uri).path)).name
    return complete(read_string(text.text, name))


@cache
def _settings() -> Mapping[str, Mapping[str, str]]:
    """Each target's settings, with what they say."""
    found = {}
    for name in known_targets():
        known = target(name)
        own = [*known.settings, *known.placing, *([known.json] if known.json is not None else [])]
        found[name] = {setting.name: setting.means for setting in own}
    return found


def _position(given: lsp.Position) -> Position:
    return Position(given.line, given.character)


def _range_of(found: Range) -> lsp.Range:
    start, end = found.start, found.end
    return lsp.Range(lsp.Position(start.line, start.character), lsp.Position(end.line, end.character))


def _range(text: Text, name: Name) -> lsp.Range:
    return _range_of(text.range(name.place))


def _diagnostic(text: Text, problem: Problem) -> lsp.Diagnostic:
    severity = lsp.DiagnosticSeverity.Information if problem.advice else lsp.DiagnosticSeverity.Error
    message = f"{problem.message}\nmend: {problem.mend}"
    where = _range_of(text.range(problem.place))
    return lsp.Diagnostic(where, message, severity=severity, code=problem.slug, source="urform")


def _said(text: Text, reading: Reading, position: Position) -> str:
    """What is known of a place: its problems as `urform explain` tells them, then what stands there."""
    place = text.place(position)
    here = [
        explained(problem.slug) or ""
        for problem in (*reading.problems, *reading.advice)
        if problem.place.line == place.line
        and problem.place.column <= place.column <= problem.place.column + problem.place.width
    ]
    spot = spot_at(reading.document.root, place)
    meant = _meaning(spot) if spot is not None else ""
    return "\n\n".join(part for part in (meant, *here) if part)


def _meaning(spot: Spot) -> str:
    if spot.key is not None:
        return f"{spot.node.text}: {meaning(spot.key)}"
    if spot.is_key:
        return f"{spot.node.text}: {spot.shape.doc}" if spot.shape is not None and spot.shape.doc else ""
    words = words_of(spot.shape) if spot.shape is not None else {}
    said = words.get(spot.node.text, "")
    return f"{spot.node.text}: {said}" if said else ""


def _actions(uri: str, text: Text, reading: Reading, within: lsp.Range) -> Iterator[lsp.CodeAction]:
    for problem in (*reading.problems, *reading.advice):
        found = _diagnostic(text, problem)
        if not (within.start.line <= found.range.end.line and found.range.start.line <= within.end.line):
            continue
        for mend in mends(text, problem):
            edit = lsp.TextEdit(_range_of(mend.range), mend.text)
            yield lsp.CodeAction(
                mend.title,
                kind=lsp.CodeActionKind.QuickFix,
                diagnostics=[found],
                is_preferred=not problem.advice,
                edit=lsp.WorkspaceEdit({uri: [edit]}),
            )
