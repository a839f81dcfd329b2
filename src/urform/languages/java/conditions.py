"""Conditions in Java."""

from __future__ import annotations

from urform.dataclasses import dataclass
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
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import DECIMAL, TEXT, TOLD, Collection, Type
from urform.declaration.values import Word
from urform.languages.java.expressions import LARGEST_INT, PRIMITIVES, Expressions, text_literal

ORDERED = {"<": "{}.isBefore({})", ">": "{}.isAfter({})", "<=": "!{}.isAfter({})", ">=": "!{}.isBefore({})"}


@dataclass(frozen=True, slots=True)
class Subject:
    """A field as a condition sees it: its variable, its type, and whether the variable is an object."""

    name: str
    type: Type
    boxed: bool


class Conditions:
    """Writes conditions over some subjects."""

    def __init__(self, code: Expressions, subjects: dict[str, Subject]) -> None:
        self._code = code
        self._subjects = subjects

    def text(self, one: Decision, *, within: bool = False) -> str:
        """An expression that is true where a decision holds, or the value of an operand."""
        match one:
            case Constant(holds):
                return "true" if holds else "false"
            case Literal(value):
                return self._literal(value)
            case Read(field):
                return self._subjects[field].name
            case Size(field):
                subject = self._subjects[field]
                is_collection = isinstance(subject.type, Collection)
                return f"{subject.name}.size()" if is_collection else f"Check.length({subject.name})"
            case Blank(field):
                return f"Check.isBlank({self._subjects[field].name})"
            case Present(field):
                return f"{self._subjects[field].name} != null"
            case Comparison():
                return self._comparison(one)
            case Not(Present(field)):
                return f"{self._subjects[field].name} == null"
            case Not(Blank(field)):
                return f"!Check.isBlank({self._subjects[field].name})"
            case Not(Read(field)):
                return f"!{self._subjects[field].name}"
            case Not(inner):
                return f"!({self.text(inner)})"
            case All(parts):
                joined = " && ".join(self.text(part, within=True) for part in parts)
            case Some(parts):
                joined = " || ".join(self.text(part, within=True) for part in parts)
        return f"({joined})" if within else joined

    def _literal(self, value: int | float | str | Told | Word) -> str:
        match value:
            case Word() | Told():
                return self._code.value(value)
            case str(text):
                return text_literal(text)
            case float(number):
                return repr(number)
        return str(value) if abs(value) <= LARGEST_INT else f"{value}L"

    def _comparison(self, one: Comparison) -> str:
        left, right = self.text(one.left, within=True), self.text(one.right, within=True)
        if one.type in TOLD and one.sign in ORDERED:
            in_time = KINDS[str(one.type)].in_time
            return (
                ORDERED[one.sign].format(left, right)
                if in_time
                else f"{left}.compareTo({right}) {one.sign} 0"
            )
        if one.type == DECIMAL:  # 12.50 is 12.5, which `equals` denies
            return f"{left}.compareTo({right}) {one.sign} 0"
        both = self._is_object(one.left) and self._is_object(one.right)
        if one.sign in ("==", "!=") and (one.type in (TEXT, *TOLD) or self._is_text(one.left) or both):
            return f"{'!' if one.sign == '!=' else ''}{left}.equals({right})"
        return f"{left} {one.sign} {right}"

    def _is_text(self, one: Decision) -> bool:
        return isinstance(one, Read) and self._subjects[one.field].type == TEXT

    def _is_object(self, one: Decision) -> bool:
        if not isinstance(one, Read):
            return False
        subject = self._subjects[one.field]
        return subject.boxed and subject.type in PRIMITIVES
