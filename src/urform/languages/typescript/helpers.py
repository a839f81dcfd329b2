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
    head, errors = (piece for piece in pieces if not piece.defines)
    imported = sorted(name for name in errors.mentions & DIALECT.mentions(code) if name.endswith("Error"))
    line = f'import {{ {", ".join(imported)} }} from "./errors.js";'
    return f"{head.text}\n\n{f'{lay_out(line)}{chr(10) * 2}' if imported else ''}{code}"


def _pieces() -> tuple[Piece, ...]:
    return pieces_of(support_file(HERE / "support", f"{NAME}.ts"), DIALECT)
