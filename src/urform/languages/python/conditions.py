"""Conditions in Python."""

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
from urform.declaration.values import Word
from urform.languages.python.expressions import Expressions, real_literal, text_literal

BLANKS = "BLANKS"


def condition_text(decision: Decision, code: Expressions, name: Callable[[str], str]) -> str:
    """An expression that is true where a decision holds; `name` gives the variable of a field."""

    def text(one: Decision, *, within: bool = False) -> str:
        match one:
            case Constant(holds):
                return str(holds)
            case Literal(Word() | Told() as fixed):
                return code.value(fixed)
            case Literal(str(plain)):
                return text_literal(plain)
            case Literal(float(number)):
                return real_literal(number)
            case Literal(number):
                return str(number)
            case Read(field):
                return name(field)
            case Size(field):
                return f"len({name(field)})"
            case Blank(field):
                return f"not {name(field)}.strip({BLANKS})"
            case Present(field):
                return f"{name(field)} is not None"
            case Comparison(sign, left, right):
                return f"{text(left, within=True)} {sign} {text(right, within=True)}"
            case Not(Blank(field)):
                return f"{name(field)}.strip({BLANKS})"
            case Not(Present(field)):
                return f"{name(field)} is None"
            case Not(inner):
                return f"not {text(inner, within=True)}"
            case All(parts):
                joined = " and ".join(text(part, within=isinstance(part, Some)) for part in parts)
            case Some(parts):
                joined = " or ".join(text(part) for part in parts)
        return f"({joined})" if within else joined

    return text(decision)
