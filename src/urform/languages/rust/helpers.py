"""What the products of a crate have in common, as far as its code needs it: `values.rs`."""

from __future__ import annotations

import re
from collections.abc import Iterable, Set

from urform.languages.rendering.pieces import Dialect, Piece, kept, needed, pieces_of
from urform.languages.rendering.templates import support_file
from urform.languages.rust.layout import used
from urform.languages.rust.views import HERE, NOT_CODE

NAME = "values"
DIALECT = Dialect(
    re.compile(r"^(?:pub\(crate\) )?(?:fn|trait) (\w+)|^impl(?:<[^\n]*>)? (\w+) for", re.MULTILINE),
    re.compile(r"(?<![.\w])(\w+)(?=\()|\b([A-Z]\w*)\b"),
    NOT_CODE,
)
_IMPORTED = re.compile(r"^use crate::values::(\w+|\{[^}]*\});", re.MULTILINE)


def imported_in(text: str) -> set[str]:
    """The helpers that a module imports."""
    return {name for names in _IMPORTED.findall(text) for name in re.findall(r"\w+", names)}


def needed_by(imported: Iterable[str]) -> frozenset[str]:
    """The helpers that modules import, and what these need."""
    return needed(_pieces(), imported)


def helpers_text(names: Set[str]) -> str:
    """The module with these helpers; nothing if there are none."""
    pieces = _pieces()
    code = kept(pieces, names)
    mentioned = DIALECT.mentions(code)
    errors: list[str] = [name for name in ("Bound", "CreationError", "Found") if name in mentioned]
    collections: list[str] = [name for name in ("BTreeMap", "BTreeSet") if name in mentioned]
    blocks = [
        used("std::collections", collections) if collections else "",
        used("crate", errors) if errors else "",
    ]
    head = "".join(f"{block}\n" for block in blocks if block)
    return f"{pieces[0].text}\n\n{head}{code}" if code else ""


def _pieces() -> tuple[Piece, ...]:
    return pieces_of(support_file(HERE / "support", f"{NAME}.rs"), DIALECT)
