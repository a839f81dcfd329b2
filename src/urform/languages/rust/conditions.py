"""Conditions in Rust."""

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
from urform.declaration.types import INTEGER, REAL, TEXT, Collection, Type
from urform.declaration.values import Word
from urform.languages.rust.expressions import Expressions, text_literal, told_literal

# What clippy would have written otherwise; conditions stand as they were declared.
LINTS = (
    "manual_range_contains",
    "neg_cmp_op_on_partial_ord",
    "nonminimal_bool",
    "overly_complex_bool_expr",
    "impossible_comparisons",
    "redundant_comparisons",
)
CAST = " as f64"


@dataclass(frozen=True, slots=True)
class Subject:
    """A field as a condition sees it: the expression of its value, its type, and of the option that may hold it."""

    value: str
    type: Type
    option: str = ""


class Conditions:
    """Writes conditions over some subjects."""

    def __init__(self, code: Expressions, subjects: dict[str, Subject]) -> None:
        self._code = code
        self._subjects = subjects

    def text(self, one: Decision, *, within: bool = False) -> str:
        """An expression that is true where a decision holds."""
        match one:
            case Constant(holds):
                return "true" if holds else "false"
            case Read(field):
                return self._tested(field, "{}", "{}")
            case Blank(field):
                return self._tested(field, "is_blank({})", "is_blank({})")
            case Present(field):
                return f"{self._subjects[field].option}.is_some()"
            case Comparison():
                return self._comparison(one)
            case Not(Present(field)):
                return f"{self._subjects[field].option}.is_none()"
            case Not(Read() | Blank() as inner):
                return f"!{self.text(inner)}"
            case Not(inner):
                return f"!({self.text(inner)})"
            case All(parts):
                joined = " && ".join(self.text(part, within=isinstance(part, Some)) for part in parts)
            case Some(parts):
                joined = " || ".join(self.text(part, within=False) for part in parts)
            case _:
                raise TypeError(f"{one} is no condition")
        return f"({joined})" if within else joined

    def _tested(self, field: str, plain: str, inside: str) -> str:
        """A test of a field that is there, whether it may be absent or not: conditions ask `present` first."""
        subject = self._subjects[field]
        if not subject.option:
            return plain.format(subject.value)
        if subject.type == TEXT:
            return f"{subject.option}.as_deref().is_some_and({inside.removesuffix('({})')})"
        return f"{subject.option}.unwrap_or_default()"

    def _comparison(self, one: Comparison) -> str:
        left = self._operand(one.left, one.right, one.type)
        right = self._operand(one.right, one.left, one.type)
        if left.endswith(CAST) and one.sign.startswith("<"):
            left = f"({left})"  # the sign would begin arguments of the type
        options = [s for s in (one.left, one.right) if self._option_of(s)]
        if not options:
            return f"{left} {one.sign} {right}"
        sides = {id(one.left): left, id(one.right): right}
        inner = f"{sides[id(one.left)]} {one.sign} {sides[id(one.right)]}"
        for side in reversed(options):
            name = self._local(side)
            inner = f"{self._option_of(side)}.is_some_and(|{name}| {inner})"
        return inner

    def _field_of(self, one: Decision) -> str | None:
        return one.field if isinstance(one, (Read, Size)) else None

    def _option_of(self, one: Decision) -> str:
        """The option that has to be looked into for an operand."""
        field = self._field_of(one)
        if field is None or not self._subjects[field].option:
            return ""
        subject = self._subjects[field]
        if subject.type == TEXT:
            return f"{subject.option}.as_deref()"
        return f"{subject.option}.as_ref()" if isinstance(subject.type, Collection) else subject.option

    def _local(self, one: Decision) -> str:
        field = self._field_of(one) or ""
        return self._code.names.local(field)

    def _operand(self, one: Decision, other: Decision, type_: Type) -> str:
        text, is_integer = self._plain(one, type_)
        if type_ != REAL or not is_integer:
            return text
        return f"{text}{CAST}" if not isinstance(one, Literal) else f"{text}.0"

    def _plain(self, one: Decision, type_: Type) -> tuple[str, bool]:
        """An operand, and whether it is a whole number."""
        match one:
            case Literal(Word(choice, word)):
                return f"{self._code.names.type(choice)}::{self._code.names.word(word)}", False
            case Literal(Told() as told):
                return told_literal(told), False
            case Literal(str(text)):
                return text_literal(text), False
            case Literal(value):
                if type_ == REAL and isinstance(value, int):
                    return repr(float(value)), False
                return repr(value), isinstance(value, int)
            case Read(field):
                subject = self._subjects[field]
                value = self._local(one) if subject.option else subject.value
                return value, subject.type == INTEGER
            case Size(field):
                return self._size(one, field), True
        return self.text(one, within=True), False

    def _size(self, one: Size, field: str) -> str:
        subject = self._subjects[field]
        value = self._local(one) if subject.option else subject.value
        size = f"{value}.len()" if isinstance(subject.type, Collection) else f"{value}.chars().count()"
        return f"({size} as i64)"
