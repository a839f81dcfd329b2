"""The checks of a package, as far as its code asks them: `check.ts`."""

from __future__ import annotations

from collections.abc import Iterable, Set

from urform.languages.rendering.pieces import Piece, kept, needed, pieces_of
from urform.languages.rendering.templates import support_file
from urform.languages.typescript.layout import lay_out
from urform.languages.typescript.views import DIALECT, HERE

NAME = "check"


def needed_by(imported: Iterable[str]) -> frozenset[str]:
    """The checks that modules import, and what these need."""
    return needed(_pieces(), imported)


def helpers_text(names: Set[str]) -> str:
    """The module with these checks; nothing if there are none."""
    pieces = _pieces()
    code = kept(pieces, names)
    if not code:
        return ""
    head, errors, *of_told = (piece for piece in pieces if not piece.defines)
    mentioned = DIALECT.mentions(code)
    imported = sorted(name for name in errors.mentions & mentioned if name.endswith("Error"))
    blocks = [head.text]
    if imported:
        blocks.append(lay_out(f'import {{ {", ".join(imported)} }} from "./errors.js";'))
    told = [piece.text for piece in of_told if piece.mentions & mentioned]
    if told:
        blocks[1:] = ["\n".join([*told[:1], *blocks[1:], *told[1:]])]
    return "\n\n".join([*blocks, code])


def _pieces() -> tuple[Piece, ...]:
    return pieces_of(support_file(HERE / "support", f"{NAME}.ts"), DIALECT)
