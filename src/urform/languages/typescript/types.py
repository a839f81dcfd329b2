"""Types in documents: unions, and the arguments of generic ones."""

from __future__ import annotations

import re

from urform.languages.layout.documents import LINE, SOFT, Doc, Group, IfBroken, Indent, commas
from urform.languages.layout.signs import elements_of

COMMA = IfBroken(",")
_TEXT = re.compile(r""""(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'""")  # one that a key may be


def union(type_: str) -> list[str]:
    """The parts of a union, the whole of what is none."""
    parts, depth, begin = [], 0, 0
    plain = _TEXT.sub(lambda text: "'" * len(text[0]), type_)
    for at, char in enumerate(plain):
        depth += (char in "([{<") - (char in ")]}" or (char == ">" and plain[at - 1] != "="))
        if depth == 0 and plain[at : at + 3] == " | ":
            parts.append(type_[begin:at])
            begin = at + 3
    return [*parts, type_[begin:]]


def alternatives(parts: list[str]) -> Doc:
    """The parts of a union, one a line where they do not fit."""
    first, *others = parts
    return Group((IfBroken("| "), type_doc(first), *((LINE, "| ", type_doc(part)) for part in others)))


def type_doc(type_: str) -> Doc:
    """A type as it stands after a colon."""
    parts = union(type_)
    if len(parts) > 1:
        return Group(Indent((SOFT, alternatives(parts))))
    generic = re.fullmatch(r"((?:readonly )?[\w$.]+)<(.*)>((?:\[\])*)", type_)
    if generic is None:
        return type_
    arguments = elements_of(generic[2])
    if len(arguments) == 1 and not ("<" in arguments[0] or len(union(arguments[0])) > 1):
        return (f"{generic[1]}<", type_doc(arguments[0]), f">{generic[3]}")
    inner = commas(map(_argument_type, arguments))
    return (f"{generic[1]}<", Group((Indent((SOFT, inner)), SOFT)), f">{generic[3]}")


def _argument_type(type_: str) -> Doc:
    """An argument of a generic type: a union is not indented once more."""
    parts = union(type_)
    return alternatives(parts) if len(parts) > 1 else type_doc(type_)
