"""How values, types and conditions are written in a drawing: short, on one line."""

from __future__ import annotations

import re
from collections.abc import Mapping

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
from urform.declaration.types import ChoiceType, Type
from urform.declaration.values import Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.plan.messages import shown
from urform.plan.model import Choice

MOST = 32  # characters of a value or a condition; more makes a box that nobody reads
_UNDRAWABLE = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")
_WORDS = 24  # characters of the words of a choice that are shown in place of its name


def cut(text: str, most: int = MOST) -> str:
    """A text that is no longer than that, with a sign where it goes on."""
    return text if len(text) <= most else f"{text[: most - 1].rstrip()}…"


def one_line(text: str) -> str:
    """A text without line ends, and with a sign for what no picture can hold (XML 1.0, section 2.2)."""
    return _UNDRAWABLE.sub("\N{REPLACEMENT CHARACTER}", " ".join(text.split()))


def type_text(type_: Type, choices: Mapping[str, Choice]) -> str:
    """A type as it is declared; a choice by its words, where they are few and short."""
    if isinstance(type_, ChoiceType):
        words = " | ".join(choices[type_.name].words)
        return words if len(words) <= _WORDS else type_.name
    return str(type_)


def value_text(value: Value) -> str:
    """A declared value: of a collection how many there are, of a product which it is."""
    match value:
        case Text(plain):
            return cut(shown(plain))
        case Integer(plain) | Real(plain):
            return shown(plain)
        case Boolean(flag):
            return shown(flag)
        case Told(_, text) | Word(_, text):
            return text
        case Items(_, items):
            return f"{len(items)} of them" if items else "none"
        case Entries(_, entries):
            return f"{len(entries)} of them" if entries else "none"
        case Made(product):
            return f"a given {product}"
    raise TypeError(f"no declared value: {value}")


def condition_text(decision: Decision) -> str:
    """A condition as it could be declared."""
    match decision:
        case Constant(holds):
            return shown(holds)
        case Literal(value):
            return shown(value.word if isinstance(value, Word) else value)
        case Read(name):
            return name
        case Size(name):
            return f"size({name})"
        case Blank(name):
            return f"blank({name})"
        case Present(name):
            return f"present({name})"
        case Comparison(sign, left, right):
            return f"{condition_text(left)} {sign} {condition_text(right)}"
        case Not(inner):
            return f"not {_part(inner)}"
        case All(parts):
            return " and ".join(map(_part, parts))
        case Some(parts):
            return " or ".join(map(_part, parts))
    raise TypeError(f"no condition: {decision}")


def _part(decision: Decision) -> str:
    text = condition_text(decision)
    return f"({text})" if isinstance(decision, (All, Some, Comparison)) else text
