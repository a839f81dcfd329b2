"""Conditions in Go."""

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
from urform.declaration.types import (
    DURATION,
    INSTANT,
    INTEGER,
    REAL,
    TOLD,
    ChoiceType,
    Collection,
    SetOf,
    Type,
)
from urform.declaration.values import Word
from urform.languages.go.expressions import Expressions, text_literal


@dataclass(frozen=True, slots=True)
class Subject:
    """A field as a condition sees it: its variable, its type, and whether the variable is a pointer to it."""

    name: str
    type: Type
    pointer: bool

    @property
    def value(self) -> str:
        return f"*{self.name}" if self.pointer else self.name


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
                return self._subjects[field].value
            case Size():
                return self._size(one)
            case Blank(field):
                return f"blank({self._subjects[field].value})"
            case Present(field):
                return self._present(field, "!=")
            case Comparison():
                return self._comparison(one)
            case Not(Present(field)):
                return self._present(field, "==")
            case Not(Blank(field)):
                return f"!blank({self._subjects[field].value})"
            case Not(Read(field)):
                return f"!{self._subjects[field].value}"
            case Not(inner):
                return f"!({self.text(inner)})"
            case All(parts):
                joined = " && ".join(self.text(part, within=True) for part in parts)
            case Some(parts):
                joined = " || ".join(self.text(part, within=isinstance(part, Some)) for part in parts)
        return f"({joined})" if within else joined

    def _size(self, one: Size) -> str:
        subject = self._subjects[one.field]
        if isinstance(subject.type, SetOf):
            return f"distinct({subject.value})"
        is_collection = isinstance(subject.type, Collection)
        return f"len({subject.value})" if is_collection else f"utf8.RuneCountInString({subject.value})"

    def _present(self, field: str, sign: str) -> str:
        subject = self._subjects[field]
        return f"{subject.name} {sign} " + ('""' if isinstance(subject.type, ChoiceType) else "nil")

    def _literal(self, value: int | float | str | Told | Word) -> str:
        match value:
            case Word():
                return self._code.value(value)
            case Told():
                text = self._code.value(value)
                return (
                    text if value.kind in ("time", "duration") else f"({text})"
                )  # braces would open the block
            case str(text):
                return text_literal(text)
        return repr(value)

    def _comparison(self, one: Comparison) -> str:
        left, right = (self._operand(side, other, one.type) for side, other in self._sides(one))
        if one.type in TOLD and one.type != DURATION and one.sign not in ("==", "!="):
            return f"{left.removeprefix('*')}.Compare({right}) {one.sign} 0"
        if one.type == INSTANT:  # two times may be one instant in two locations
            return f"{'!' if one.sign == '!=' else ''}{left.removeprefix('*')}.Equal({right})"
        return f"{left} {one.sign} {right}"

    def _sides(self, one: Comparison) -> tuple[tuple[Decision, Decision], tuple[Decision, Decision]]:
        return (one.left, one.right), (one.right, one.left)

    def _operand(self, one: Decision, other: Decision, type_: Type) -> str:
        """An operand, converted where Go would not compare it with the other: literals fit by themselves."""
        text = self.text(one, within=True)
        if isinstance(one, Literal) or isinstance(other, Literal):
            return text
        if type_ == REAL and (isinstance(one, Size) or self._is(one, INTEGER)):
            return f"float64({text})"
        return f"int64({text})" if type_ == INTEGER and isinstance(one, Size) else text

    def _is(self, one: Decision, type_: Type) -> bool:
        return isinstance(one, Read) and self._subjects[one.field].type == type_
