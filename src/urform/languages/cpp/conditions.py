"""Conditions in C++."""

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
from urform.declaration.types import INTEGER, REAL, Collection, Type
from urform.declaration.values import Word
from urform.languages.cpp.expressions import Expressions, text_literal, told_literal


@dataclass(frozen=True, slots=True)
class Subject:
    """A field as a condition sees it: its variable, its type, and whether the variable may be empty."""

    name: str
    type: Type
    optional: bool = False

    @property
    def value(self) -> str:
        """The value of an optional; conditions ask `present` first."""
        return f"*{self.name}" if self.optional else self.name


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
            case Size(field):
                return self._size(field)
            case Blank(field):
                return f"detail::is_blank({self._subjects[field].value})"
            case Present(field):
                return f"{self._subjects[field].name}.has_value()"
            case Comparison():
                return f"{self._operand(one.left, one.type)} {one.sign} {self._operand(one.right, one.type)}"
            case Not(Present() | Blank() | Read() as inner):
                return f"!{self.text(inner)}"
            case Not(inner):
                return f"!({self.text(inner)})"
            case All(parts):
                joined = " && ".join(self.text(part, within=True) for part in parts)
            case Some(parts):
                joined = " || ".join(self.text(part, within=True) for part in parts)
        return f"({joined})" if within else joined

    def _size(self, field: str) -> str:
        subject = self._subjects[field]
        value = f"({subject.value})" if subject.optional else subject.name
        size = (
            f"{value}.size()" if isinstance(subject.type, Collection) else f"detail::length({subject.value})"
        )
        return f"static_cast<std::int64_t>({size})"

    def _literal(self, value: int | float | str | Told | Word) -> str:
        match value:
            case Told():
                return told_literal(value)
            case Word(choice, word):
                return f"{self._code.names.type(choice)}::{self._code.names.word(word)}"
            case str(text):
                literal = text_literal(text)
                return literal if "\0" not in text else f"std::string({literal}, {len(text.encode())})"
        return repr(value)

    def _operand(self, one: Decision, type_: Type) -> str:
        """An operand, converted where whole numbers meet reals."""
        text = self.text(one, within=True)
        if type_ == REAL and (isinstance(one, Size) or self._is_integer(one)):
            return f"static_cast<double>({text})"
        if type_ == REAL and isinstance(one, Literal) and isinstance(one.value, int):
            return repr(float(one.value))
        return text

    def _is_integer(self, one: Decision) -> bool:
        return isinstance(one, Read) and self._subjects[one.field].type == INTEGER
