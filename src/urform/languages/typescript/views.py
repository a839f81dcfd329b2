"""Shared by the parts of the TypeScript target: documentation comments, and the names that occur in code."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path

from urform.languages.placing import CODE, TESTS
from urform.languages.rendering.comments import plain, wrapped
from urform.languages.rendering.pieces import Dialect
from urform.languages.typescript.breaking import STYLE

HERE = Path(__file__).parent
HOMES = {CODE: "src", TESTS: "test"}
_NOT_CODE = re.compile(r"""/\*[\s\S]*?\*/|//.*|"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])*'""")
_IDENTIFIER = re.compile(r"(?<![.\w#$])[A-Za-z_$][\w$]*(?![\w$]|: |\?: )")
# Support code: a function is used where it is called, or handed on alone.
DIALECT = Dialect(
    re.compile(r"^(?:export )?(?:class|function|const|interface|type) (\w+)", re.MULTILINE),
    re.compile(r"(?<![.\w])(?:([A-Z_]\w*)|([a-z]\w*)(?=[(<]))|(?<=\w\()([a-z]\w*)(?=\))"),
    _NOT_CODE,
)
DEFINED = re.compile(
    r"^export (?:abstract )?(class|interface|type|function|const) ([A-Za-z_$][\w$]*)", re.MULTILINE
)
_METHOD = re.compile(  # no call: a block or a type follows, nothing does, or parameters with types; or a line ends before its type
    r"^  (?:(?:async |get |override |private |protected |set |static )*\w+\("
    r"(?:[^\"'\n]*\{\}?$|[^\n]*\): [^'\n]*\{$|[^\"'\n]*\): [^\"'\n]*;$|[^\"'\n]*\):$|\n(?= +\w+\??: ))|abstract [^\"'\n]*$)",
    re.MULTILINE,
)


def read(type_: str, what: str) -> list[str]:
    """What those depend on who read something, or call it, for a value of a type: they may expect that there can be none."""
    forms = [type_] if type_.endswith("undefined") else [type_, f"{type_} | undefined"]
    return [f"{what} gives {form}" for form in forms]


def taken(type_: str, what: str) -> list[str]:
    """What those depend on who give something a value of a type: what takes undefined takes all else, too."""
    return [f"{what} = {form}" for form in dict.fromkeys((type_, type_.removesuffix(" | undefined")))]


HIDDEN = re.compile(r"^export type \{ (.*) \};$", re.MULTILINE)
_NAME = r"([A-Za-z_$][\w$]*)"
_VALUE_USE = re.compile(rf"(?:new |extends |instanceof ){_NAME}|(?<![\w.:]){_NAME}(?=[.(])")
_INSTANCE = re.compile(
    rf",\s+{_NAME}(?:,\s+\"\")?,?\s*\)"
)  # a class as the last argument of a call, but for a text
_CALL = re.compile(rf"(?<![.\w#]){_NAME}\(")
_CONFIRMED = re.compile(rf"\bconfirmed\([^()]*,\s+{_NAME}(?=,?\s*\)|,\s+\")")
_KIND = re.compile(r"\bkinds?\(.*")  # asks for classes: after a comma, or in a list
_IN_COMMENT = {"*/": "*\\/", "@": "&#64;", "/*": "/\u2060*"}


@lru_cache(maxsize=4)  # each name in a module is asked for by itself
def bare(code: str) -> str:
    """Code with neither comments nor what stands in strings."""
    return _NOT_CODE.sub('""', code)


@lru_cache(maxsize=256)  # what a fault leaves as it is was asked for before
def _called(code: str) -> frozenset[str]:
    """Names of functions that code calls, or hands to what confirms."""
    text = _METHOD.sub("", code)
    return frozenset(_CALL.findall(text)) | frozenset(_CONFIRMED.findall(text))


@lru_cache(maxsize=256)  # what a fault leaves as it is was asked for before
def identifiers(code: str) -> frozenset[str]:
    """The names that occur in code: not in strings or comments, nor after a dot, nor as keys."""
    text = bare(code)
    return frozenset(_IDENTIFIER.findall(text)) | frozenset(re.findall(r"(?<=: )[A-Za-z_$][\w$]*", text))


def jsdoc(doc: str, margin: int) -> str:
    """A documentation comment; text in it is no tag and no end of it."""
    text = plain(doc)
    for sign, instead in _IN_COMMENT.items():
        text = text.replace(sign, instead)
    lines = wrapped(text, STYLE.width - margin - 7)
    if len(lines) == 1:
        return f"/** {lines[0]} */"
    pad = "\n" + " " * margin
    return "/**" + "".join(f"{pad} * {line}".rstrip() for line in lines) + f"{pad} */"


def joined(parts: Iterable[str]) -> str:
    """Parts of a module with a blank line between them."""
    return "\n".join(text.strip("\n") + "\n" for text in parts)


def is_meant(name: str, code: str) -> bool:
    """A type is meant wherever its name stands; a function where it is called, for parameters and methods may be called so too."""
    return name[0].isupper() or name in _called(code)


def is_value(name: str, code: str) -> bool:
    """Whether code uses a name otherwise than as a type."""
    if not name[0].isupper() or name.isupper() or name.endswith("_WORDS"):
        return True
    return name in _values(code)


@lru_cache(maxsize=256)
def _values(code: str) -> frozenset[str]:
    """Names of classes, and of others, that code calls, makes, asks or compares with."""
    text = bare(code)
    values = {name for names in _VALUE_USE.findall(text) for name in names}
    values.update(_INSTANCE.findall(text))
    for asked in _KIND.findall(text):
        values.update(re.findall(rf"[\[,] ?{_NAME}", asked))
    return frozenset(values)


def in_order(names: Iterable[str]) -> list[str]:
    """The order in which names stand in an import."""
    return sorted(names, key=lambda name: (name.lower(), name))
