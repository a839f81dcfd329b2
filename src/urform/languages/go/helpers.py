"""The helpers of a package, as far as its code calls them: `values.go` and `builders.go`."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Set

from urform.languages.go.context import Context
from urform.languages.go.views import DIALECT, HERE
from urform.languages.rendering.pieces import Piece, kept, needed, pieces_of
from urform.languages.rendering.templates import support_file
from urform.languages.target import File

FILES = ("values", "builders")
READING = "reading"
OF_RECORDS = frozenset(  # what clients call, and the types of what is called
    (
        "CreateAll ParseRecord RecordError RecordProblem recordExact recordForm recordLevels recordLimit recordMember recordObject "
        "recordPlace recordReading recordTree recordUnlessEmpty recordValue noKind"
    ).split()
)
FOR_CLIENTS = frozenset({"Some", "Int", "Real"})  # by which options are given


def needed_by(called: Iterable[str]) -> frozenset[str]:
    """The helpers that code calls, and what these need."""
    pieces = [piece for name in FILES for piece in _pieces(name)]
    return needed(pieces, {*called, *FOR_CLIENTS})


def helper_files(context: Context, names: Set[str]) -> Iterator[File]:
    """The files with these helpers."""
    for name in FILES:
        if code := kept(_pieces(name), names):
            yield File(f"{name}.go", context.whole(code))


def reading_file(context: Context, called: Set[str]) -> Iterator[File]:
    """The file with what reads and writes records, as far as it is called."""
    text = context.templates.support(HERE / "support" / f"{READING}.go")
    pieces = pieces_of(text, DIALECT)
    code = kept(pieces, needed(pieces, {*called, *OF_RECORDS}))
    yield File(f"{READING}.go", context.whole(code))


def _pieces(name: str) -> tuple[Piece, ...]:
    return pieces_of(support_file(HERE / "support", f"{name}.go"), DIALECT)
