"""Shared by the parts of the Go target: comments, import declarations, lists of parameters, its style."""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path

from urform.languages.layout.engine import Style
from urform.languages.rendering.comments import plain, wrapped
from urform.languages.rendering.pieces import Dialect

HERE = Path(__file__).parent
STYLE = Style(
    width=110,
    indent="\t",
    tab_width=4,
    trailing_comma=True,
    comma_when_joined=True,
    align_keys=True,
    groups_whole=True,
    body_beside=99,  # maxSize of funcBody in go/printer, less one
    kept=("//", "func "),
)
COMMENT_WIDTH = 100
PACKAGES = tuple(
    (
        "bytes cmp encoding/json errors fmt io maps math math/big reflect regexp runtime slices strconv strings sync "
        "sync/atomic testing "
        "time unicode/utf8 "
        "unsafe weak"
    ).split()
)

_QUALIFIER = re.compile(r"(?:(?<![.\w])|(?<=\.\.\.))(\w+)\.")  # of a type after dots, too: `...time.Time`
_NOT_CODE = re.compile(r"""//.*|"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])'""")
# Support code: a function is used where it is called, or the last of what is handed on; a type before braces or after a sign.
DIALECT = Dialect(
    re.compile(r"^(?:func|type|var|const) (\w+)|^func \(\w+ \*?(\w+)", re.MULTILINE),
    re.compile(
        r"(?<![.\w])(\w+)(?=[(\[{])|(?<=, )([a-z]\w*)(?=\))|(?:(?<=[\])*])|(?<=\.\.\.))([a-z]\w*)\b(?!\()"
        r"|(?<=:= )([a-z]\w*)\b(?!\()"
    ),
    _NOT_CODE,
)


def comment(doc: str, margin: int) -> str:
    """A comment of whole lines; the caller puts a name first, so that no tool reads an order in it."""
    pad = "\n" + "\t" * margin
    text = re.sub(r"(['`])(?=\1)", r"\1 ", plain(doc))  # gofmt makes curly quotes of two of them
    return pad.join(f"// {line}" for line in wrapped(text, COMMENT_WIDTH - 4 * margin - 3))


@lru_cache(maxsize=256)  # what a fault leaves as it is was asked for before
def qualifiers(code: str) -> frozenset[str]:
    """The packages that code names, whatever its comments and texts say."""
    return frozenset(_QUALIFIER.findall(_NOT_CODE.sub('""', code)))


def imports_of(code: str, more: tuple[str, ...] = ()) -> str:
    """The import declaration that code needs."""
    used = qualifiers(code)
    needed = [path for path in PACKAGES if path.rpartition("/")[2] in used]
    paths = [f'"{path}"' for path in needed]
    if not paths and not more:
        return ""
    if len(paths) + len(more) == 1:
        return f"import {(*paths, *more)[0]}\n\n"
    body = "".join(f"\t{path}\n" for path in paths) + ("\n" if paths and more else "")
    return f"import (\n{body}{''.join(f'{chr(9)}{path}{chr(10)}' for path in more)})\n\n"


def types_of(typed: list[tuple[str, str]]) -> str:
    """`(float64, float64)`: what callers see of parameters, which they give by their place."""
    return f"({', '.join(type_ for _, type_ in typed)})"


def joined(typed: list[tuple[str, str]]) -> str:
    """`latitude, longitude float64`: neighbours of one type share it."""
    parts = []
    for number, (name, type_) in enumerate(typed):
        shared = number + 1 < len(typed) and typed[number + 1][1] == type_
        parts.append(name if shared else f"{name} {type_}")
    return ", ".join(parts)
