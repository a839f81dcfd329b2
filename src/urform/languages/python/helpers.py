"""Support code of a package as far as its code asks for it: the checks, and the readers of what texts tell."""

from __future__ import annotations

import re
from collections.abc import Iterable, Set

from urform.languages.python.views import DIALECT, HERE, import_line
from urform.languages.rendering.pieces import Piece, kept, needed, pieces_of
from urform.languages.rendering.templates import support_file

CHECKS = HERE / "support" / "checks.py"
TOLD = HERE / "support" / "told.py"
_CHECK = re.compile(r"\bchecks\.(\w+)")


def needed_by(imported: Iterable[str]) -> frozenset[str]:
    """The checks that modules import, and what these need."""
    return needed(_checks(), imported)


def checks_of(support: str) -> frozenset[str]:
    """The checks that support code asks."""
    return frozenset(_CHECK.findall(support))


def checks_text(names: Set[str]) -> str:
    """The module with these checks; nothing if there are none."""
    return _with_imports(_checks(), names)


def told_text(support: str, readers: Iterable[str]) -> str:
    """The module with these readers, of the support code that has all of them; nothing if there are none."""
    pieces = pieces_of(support, DIALECT)
    return _with_imports(pieces, needed(pieces, readers))


def _checks() -> tuple[Piece, ...]:
    return pieces_of(support_file(CHECKS.parent, CHECKS.name), DIALECT)


def _with_imports(pieces: tuple[Piece, ...], names: Set[str]) -> str:
    """The pieces of these names, below what their module begins with."""
    code = kept(pieces, names)
    if not code:
        return ""
    head, *imports = (piece.text for piece in pieces if not piece.defines)
    used = DIALECT.mentions(code)
    blocks = [head, *(_needed_imports(lines, used) for lines in imports)]
    apart = "\n\n\n" if code.startswith(("def ", "class ")) else "\n\n"
    return "\n\n".join(block for block in blocks if block) + apart + code


def _needed_imports(lines: str, used: Set[str]) -> str:
    """Lines of imports, with the names that are used."""
    kept_lines = []
    for line in lines.split("\n"):
        source, _, names = line.removeprefix("from ").partition(" import ")
        named = [name for name in names.split(", ") if name.rpartition(" as ")[2] in used]
        if named and " as " in named[0]:
            kept_lines.append(line)
        elif named:
            kept_lines.append(import_line(source, named))
        elif line.removeprefix("import ") in used:
            kept_lines.append(line)
    return "\n".join(kept_lines)
