"""The condition language of `refuse` and `when`: parsed, and type-checked when the declaration is read.

or      ::= and ("or" and)*            and  ::= not ("and" not)*
not     ::= "not" not | compare        compare ::= operand (("==" | "!=" | "<" | …) operand)?
operand ::= NUMBER | "text" | true | false | FIELD | blank(FIELD) | size(FIELD) | present(FIELD) | (or)
"""

from __future__ import annotations

import json
import re
from collections.abc import Mapping

from urform.dataclasses import dataclass
from urform.declaration.catalogue import conditions as catalogue
from urform.declaration.elsewhere import SIGNS
from urform.declaration.model import WrittenCondition
from urform.declaration.place import Place
from urform.declaration.problems import Problems, did_you_mean
from urform.declaration.told import is_written_so, read_told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    ORDERED,
    REAL,
    TEXT,
    TOLD,
    UNKNOWN,
    ChoiceType,
    Collection,
    Type,
)
from urform.prose import listing

ORDER = ("<", "<=", ">", ">=")
HAVE_ORDER = "only numbers, dates, times and durations"
FUNCTIONS = ("blank", "size", "present")
_TOKEN = re.compile(
    r"""\s*(?:(?P<number>-?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][-+]?[0-9]+)?)
    |(?P<text>"(?:[^"\\]|\\.)*")|(?P<name>[A-Za-z_][A-Za-z0-9_]*)|(?P<sign>==|!=|<=|>=|[<>()])|(?P<odd>\S))""",
    re.VERBOSE,
)
_DEEPEST = 32
_MOST_WORDS = 400  # about a hundred comparisons; each is a level of the tree that a chain of `and` becomes


@dataclass(frozen=True, slots=True)
class Literal:
    value: int | float | str | bool
    written: str  # a text without its quotes
    place: Place


@dataclass(frozen=True, slots=True)
class FieldOf:
    """The value of a field."""

    name: str
    place: Place


@dataclass(frozen=True, slots=True)
class Ask:
    """`blank`, `size` or `present` of a field."""

    function: str
    field: FieldOf
    place: Place


@dataclass(frozen=True, slots=True)
class Compare:
    sign: str
    left: Condition
    right: Condition
    place: Place


@dataclass(frozen=True, slots=True)
class Not:
    inner: Condition


@dataclass(frozen=True, slots=True)
class Both:
    """`and`."""

    left: Condition
    right: Condition


@dataclass(frozen=True, slots=True)
class Either:
    """`or`."""

    left: Condition
    right: Condition


Condition = Literal | FieldOf | Ask | Compare | Not | Both | Either


@dataclass(frozen=True, slots=True)
class Subject:
    """A name that a condition may use: a field's type, and whether it may be absent."""

    type: Type
    may_be_absent: bool


@dataclass(frozen=True, slots=True)
class _Token:
    kind: str
    text: str
    place: Place


class _NoCondition(Exception):
    def __init__(self, why: str, place: Place, sign: str = "") -> None:
        super().__init__(why)
        self.why, self.place = why, place
        here = SIGNS.get(sign)
        self.use = f"write `{here}`" if here is not None else ""


def parse(written: WrittenCondition, problems: Problems) -> Condition | None:
    """The condition, or None after noting why it is none."""
    tokens = [
        _Token(kind, match[kind], written.place.within(match.start(kind), len(match[kind])))
        for match in _TOKEN.finditer(written.text)
        if (kind := match.lastgroup)
    ]
    try:
        if len(tokens) > _MOST_WORDS:
            why = f"it has more than {_MOST_WORDS} words and signs"
            raise _NoCondition(why, tokens[_MOST_WORDS].place)
        return _Parser(tokens, written).whole()
    except _NoCondition as error:
        problems.add(catalogue.BAD_CONDITION, error.place, text=written.text, why=error.why, use=error.use)
        return None


class _Parser:
    def __init__(self, tokens: list[_Token], written: WrittenCondition) -> None:
        self._tokens = tokens
        self._end = _Token("end", "the end", written.place.within(max(len(written.text) - 1, 0)))
        self._at = 0
        self._depth = 0

    @property
    def _next(self) -> _Token:
        return self._tokens[self._at] if self._at < len(self._tokens) else self._end

    def _take(self) -> _Token:
        token = self._next
        self._at += 1
        return token

    def _skip(self, text: str) -> bool:
        if self._next.text == text and self._next.kind != "text":
            self._at += 1
            return True
        return False

    def _expect(self, text: str) -> None:
        if not self._skip(text):
            raise _NoCondition(f"'{text}' is missing before {self._next.text}", self._next.place)

    def whole(self) -> Condition:
        condition = self._either()
        if self._next.kind != "end":
            sign = self._next.text
            raise _NoCondition(f"nothing may follow, but {sign} does", self._next.place, sign)
        return condition

    def _either(self) -> Condition:
        self._depth += 1
        if self._depth > _DEEPEST:
            raise _NoCondition(f"it nests deeper than {_DEEPEST} levels", self._next.place)
        left = self._both()
        while self._skip("or"):
            left = Either(left, self._both())
        self._depth -= 1
        return left

    def _both(self) -> Condition:
        left = self._not()
        while self._skip("and"):
            left = Both(left, self._not())
        return left

    def _not(self) -> Condition:
        nots = 0
        while self._skip("not"):
            nots += 1
        condition = self._compare()
        return Not(condition) if nots % 2 else condition

    def _compare(self) -> Condition:
        left = self._operand()
        if self._next.text in ("==", "!=", *ORDER) and self._next.kind == "sign":
            sign = self._take()
            return Compare(sign.text, left, self._operand(), sign.place)
        return left

    def _operand(self) -> Condition:
        token = self._take()
        match token.kind, token.text:
            case "number", text:
                return Literal(_number(text, token.place), text, token.place)
            case "text", text:
                plain = _text(text, token.place)
                return Literal(plain, plain, token.place)
            case "name", "true" | "false":
                return Literal(token.text == "true", token.text, token.place)
            case "name", name if name in FUNCTIONS and self._next.text == "(":
                return self._ask(token)
            case "name", name if name not in ("and", "or", "not"):
                return FieldOf(name, token.place)
            case "sign", "(":
                inner = self._either()
                self._expect(")")
                return inner
        raise _NoCondition(f"a value cannot begin with {token.text}", token.place, token.text)

    def _ask(self, function: _Token) -> Condition:
        self._expect("(")
        name = self._take()
        if name.kind != "name":
            raise _NoCondition(f"{function.text} is asked of a field, not of {name.text}", name.place)
        self._expect(")")
        return Ask(function.text, FieldOf(name.text, name.place), function.place)


def _number(text: str, place: Place) -> int | float:
    if re.fullmatch(r"-?[0-9]{1,16}", text):
        return int(text)
    number = float(text)
    if number in (float("inf"), float("-inf")):
        raise _NoCondition("the number is too large", place)
    return number


def _text(text: str, place: Place) -> str:
    try:
        return str(json.loads(text))
    except ValueError:
        raise _NoCondition(f"{text} has an escape that JSON does not know", place) from None


Facts = frozenset[str]  # fields that are known to be present


class ConditionChecker:
    """Type-checks conditions over the fields of one product."""

    def __init__(
        self, subjects: Mapping[str, Subject], words: Mapping[str, tuple[str, ...]], problems: Problems
    ) -> None:
        self._subjects = subjects
        self._words = words  # of each choice
        self._problems = problems

    def check(self, condition: Condition) -> None:
        """Note what is wrong: unknown fields, types that do not meet, absent fields used unasked."""
        self._truth(condition, frozenset())

    def _truth(self, condition: Condition, known: Facts) -> tuple[Facts, Facts]:
        """Check what stands as a truth value; returns what is known if it holds, and if it does not."""
        match condition:
            case Not(inner):
                holds, fails = self._truth(inner, known)
                return fails, holds
            case Both(left, right):
                holds, fails = self._truth(left, known)
                both, right_fails = self._truth(right, holds)
                return both, fails & right_fails
            case Either(left, right):
                holds, fails = self._truth(left, known)
                right_holds, neither = self._truth(right, fails)
                return holds & right_holds, neither
            case Ask("present", field):
                self._type_of_field(field, known | {field.name})
                return known | {field.name}, known
            case Compare():
                self._compare(condition, known)
                return known, known
        type_, place = self._operand(condition, known)
        if type_ not in (BOOLEAN, UNKNOWN):
            self._mismatch(place, f"{type_} is neither true nor false")
        return known, known

    def _operand(self, condition: Condition, known: Facts) -> tuple[Type, Place]:
        match condition:
            case Literal(value, _, place):
                return _type_of_literal(value), place
            case FieldOf():
                return self._type_of_field(condition, known), condition.place
            case Ask("size", field, place):
                type_ = self._type_of_field(field, known)
                if type_ not in (TEXT, UNKNOWN) and not isinstance(type_, Collection):
                    self._mismatch(
                        field.place, f"size is asked of a text or collection, and {field.name} is {type_}"
                    )
                return INTEGER, place
            case Ask("blank", field, place):
                type_ = self._type_of_field(field, known)
                if type_ not in (TEXT, UNKNOWN):
                    self._mismatch(field.place, f"blank is asked of a text, and {field.name} is {type_}")
                return BOOLEAN, place
        self._truth(condition, known)
        return BOOLEAN, self._place_of(condition)

    def _place_of(self, condition: Condition) -> Place:
        match condition:
            case Not(inner) | Both(inner, _) | Either(inner, _):
                return self._place_of(inner)
        return condition.place

    def _type_of_field(self, field: FieldOf, known: Facts) -> Type:
        subject = self._subjects.get(field.name)
        if subject is None:
            hint = did_you_mean(field.name, self._subjects)
            self._problems.add(
                catalogue.CONDITION_FIELD,
                field.place,
                field=field.name,
                known=tuple(self._subjects),
                hint=hint,
            )
            return UNKNOWN
        if subject.may_be_absent and field.name not in known:
            self._problems.add(catalogue.CONDITION_ABSENT, field.place, field=field.name)
        return subject.type

    def _compare(self, condition: Compare, known: Facts) -> None:
        left, _ = self._operand(condition.left, known)
        right, _ = self._operand(condition.right, known)
        if UNKNOWN in (left, right):
            return
        for one, type_ in ((condition.left, right), (condition.right, left)):
            if isinstance(type_, ChoiceType) and isinstance(one, Literal) and isinstance(one.value, str):
                self._word(one, type_)
                if condition.sign in ORDER:
                    self._mismatch(condition.place, f"the words of {type_} have no order")
                return
        for one, type_ in ((condition.left, right), (condition.right, left)):
            if type_ in TOLD and isinstance(one, Literal) and is_written_so(one.value, str(type_)):
                self._told(one, str(type_))
                if condition.sign in ORDER and type_ not in ORDERED:
                    self._mismatch(condition.place, f"{HAVE_ORDER} have an order here, {type_} has not")
                return
        numbers = left in (INTEGER, REAL) and right in (INTEGER, REAL)
        ordered = numbers or (left == right and left in ORDERED)
        comparable = left in (TEXT, BOOLEAN, *TOLD) or isinstance(left, ChoiceType)
        if not ordered and not (left == right and comparable):
            self._mismatch(condition.place, f"{left} and {right} cannot be compared")
        elif condition.sign in ORDER and not ordered:
            self._mismatch(condition.place, f"{HAVE_ORDER} have an order here, {left} has not")

    def _told(self, literal: Literal, kind: str) -> None:
        if read_told(kind, literal.written) is None:
            self._mismatch(literal.place, f"{literal.written!r} is not {KINDS[kind].wanted}")

    def _word(self, literal: Literal, type_: ChoiceType) -> None:
        words = self._words[type_.name]
        if literal.value not in words:
            hint = did_you_mean(str(literal.value), words)
            self._mismatch(literal.place, f"{literal.value!r} is no word of {type_}: {listing(words)}.{hint}")

    def _mismatch(self, place: Place, why: str) -> None:
        self._problems.add(catalogue.CONDITION_TYPES, place, why=why)


def _type_of_literal(value: int | float | str | bool) -> Type:
    if isinstance(value, bool):
        return BOOLEAN
    if isinstance(value, int):
        return INTEGER
    return REAL if isinstance(value, float) else TEXT
