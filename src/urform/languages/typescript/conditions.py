"""Conditions in TypeScript."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.decisions import (
    All,
    Blank,
    Comparison,
    Constant,
    Decision,
    Literal,
    Not,
    Present,
    Read,
    Size,
    Some,
)
from urform.declaration.told import Told
from urform.declaration.types import DECIMAL, DURATION, INSTANT, TEXT, ListOf, Type
from urform.declaration.values import Word
from urform.languages.typescript.expressions import real_literal, text_literal

ORDER = ("<", "<=", ">", ">=")
# What is told by texts whose order is not that of the texts.
COMPARE: dict[Type, str] = {
    DECIMAL: "compareDecimals",
    DURATION: "compareDurations",
    INSTANT: "compareInstants",
}
SIGNS = {"==": "===", "!=": "!=="}


def condition_text(decision: Decision, name: Callable[[str], str], type_of: Callable[[str], Type]) -> str:
    """An expression that is true where a decision holds; `name` gives the variable of a field."""

    def size(field: str) -> str:
        if type_of(field) == TEXT:
            return f"codePoints({name(field)})"
        return f"{name(field)}.{'length' if isinstance(type_of(field), ListOf) else 'size'}"

    def text(one: Decision, *, within: bool = False) -> str:
        match one:
            case Constant(holds):
                return "true" if holds else "false"
            case Literal(Word(_, plain) | Told(_, plain)) | Literal(str(plain)):
                return text_literal(plain)
            case Literal(float(number)):
                return real_literal(number)
            case Literal(number):
                return str(number)
            case Read(field):
                return name(field)
            case Size(field):
                return size(field)
            case Blank(field):
                return f"isBlank({name(field)})"
            case Present(field):
                return f"{name(field)} !== undefined"
            case Comparison(sign, left, right) if one.type in COMPARE and sign in ORDER:
                return f"{COMPARE[one.type]}({text(left)}, {text(right)}) {sign} 0"
            case Comparison(sign, left, right):
                return f"{text(left, within=True)} {SIGNS.get(sign, sign)} {text(right, within=True)}"
            case Not(Present(field)):
                return f"{name(field)} === undefined"
            case Not(Comparison() | All() | Some() as inner):
                return f"!({text(inner)})"
            case Not(inner):
                return f"!{text(inner, within=True)}"
            case All(parts):
                joined = " && ".join(text(part, within=isinstance(part, Some)) for part in parts)
            case Some(parts):
                joined = " || ".join(text(part, within=isinstance(part, All)) for part in parts)
        return f"({joined})" if within else joined

    return text(decision)
