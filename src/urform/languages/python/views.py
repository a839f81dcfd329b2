"""Shared by the parts of the Python target: docstrings, imports, identifiers."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path

from urform.dataclasses import dataclass
from urform.languages.python.layout import STYLE
from urform.languages.rendering.comments import plain, wrapped
from urform.languages.rendering.pieces import Dialect

HERE = Path(__file__).parent

_NOT_CODE = re.compile(r'"""(?:\\[\s\S]|[^\\])*?"""|"(?:\\.|[^"\\\n])*"|\'(?:\\.|[^\'\\\n])*\'|#.*')
_IDENTIFIER = re.compile(
    r"(?<![.\w])(?<!\bdef )[A-Za-z_]\w*(?!\w|=[^=])"
)  # no attributes, methods or keywords of arguments
# Support code: a function is used where it is called, handed on or decorates.
DIALECT = Dialect(
    re.compile(r"^(?:    )?class (\w+)|^def (\w+)|^(\w+)(?:: [^=\n]+)? = ", re.MULTILINE),
    re.compile(
        r"(?<![.\w])(?:([A-Z_]\w*)|([a-z]\w*)(?=[(.]))|(?<=\w\()([a-z]\w*)(?=\))|(?<=[=@])([a-z]\w*)\b"
    ),
    _NOT_CODE,
)


@lru_cache(maxsize=256)  # what a fault leaves as it is was asked for before
def identifiers(code: str) -> frozenset[str]:
    """The names that occur in code, not in strings or comments."""
    return frozenset(_IDENTIFIER.findall(_NOT_CODE.sub('""', code)))


def docstring(doc: str, margin: int, otherwise: str = "", more: Sequence[str] = ()) -> str:
    """A docstring with its quotes, the first line after them; `more` follows line by line."""
    text = _safe(plain(doc)) or otherwise
    lines = wrapped(text, STYLE.width - margin - 6) if text else []
    if more and lines:
        lines.append("")
    for line in more:
        first, *rest = wrapped(_safe(plain(line)), STYLE.width - margin - 6)
        lines += [first, *(f"    {following}" for following in rest)]
    if all(line.startswith("    ") for line in lines[1:]):  # nothing to be indented below
        lines[1:] = [line[4:] for line in lines[1:]]
    if len(lines) == 1:
        closing = " " if _ends_open(lines[0]) else ""
        return f'"""{lines[0]}{closing}"""'
    inner = ("\n" + " " * margin).join(lines)
    return f'"""{inner}\n{" " * margin}"""'.replace("\n" + " " * margin + "\n", "\n\n")


def _ends_open(line: str) -> bool:
    """Whether a quote at the end would be read with those that close: it is one, and no backslash makes it harmless."""
    return line.endswith('"') and (len(line[:-1]) - len(line[:-1].rstrip("\\"))) % 2 == 0


def _safe(text: str) -> str:
    escaped = text.replace("\\", "\\\\").replace('"""', '\\"\\"\\"')
    return f" {escaped}" if escaped.startswith('"') else escaped


@dataclass(frozen=True, slots=True)
class FieldView:
    name: str
    type: str
    default: str | None = None
    copied: str = ""
    plain: str = ""  # the type, whether or not it may be left out
    needed: bool = False


def read(type_: str, what: str) -> list[str]:
    """What those depend on who read something, or call it, for a value of a type: they may expect that it can be None."""
    forms = [type_] if type_.endswith("None") else [type_, f"{type_} | None"]
    return [f"{what} gives {form}" for form in forms]


def taken(type_: str, what: str) -> list[str]:
    """What those depend on who give something a value of a type: what takes None takes all else, too."""
    return [f"{what} = {form}" for form in dict.fromkeys((type_, type_.removesuffix(" | None")))]


def usual_order(name: str) -> tuple[object, ...]:
    """Names in capitals, then classes, then the rest, each in natural order, as ruff sorts `__all__`."""
    return not (len(name) > 1 and name.isupper()), not name[:1].isupper(), natural(name)


def import_order(name: str) -> tuple[object, ...]:
    """The same without regard to case, as ruff sorts the names of an import."""
    return *usual_order(name)[:2], natural(name.lower()), natural(name)


def natural(name: str) -> list[tuple[int, int, str]]:
    """Numbers by their value; those that begin with 0 before, digit by digit; all else by code point."""
    parts = re.findall(r"0[0-9]*|[1-9][0-9]*|.", name)
    return [
        (ord("0"), 0, part)
        if part[0] == "0"
        else (ord("0"), int(part), "")
        if part.isdigit()
        else (ord(part), 0, "")
        for part in parts
    ]


def import_line(source: str, names: Sequence[str]) -> str:
    """An import as the formatter lays it out, names in the usual order: constants, classes, functions."""
    ordered = sorted(dict.fromkeys(names), key=import_order)
    line = f"from {source} import {', '.join(ordered)}"
    if len(line) <= STYLE.width:
        return line
    return f"from {source} import (\n" + "".join(f"    {name},\n" for name in ordered) + ")"
