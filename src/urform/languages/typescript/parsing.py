"""Just enough of TypeScript's grammar to break a line: what the emitters of this target write, and no more.

One statement, or the head of a block, is read at a time. The names of the nodes are those of ESTree.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from string import ascii_letters, digits
from typing import TypeVar

from urform.dataclasses import dataclass

_TOKEN = re.compile(
    r"""\s*("(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|`[^`]*`|\d[\d.]*(?:[eE][+-]?\d+)?|[#A-Za-z_$][\w$]*"""
    r"""|=>|\.\.\.|\?\?=|\?\?|\?\.|===|!==|==|<=|>=|&&|\|\||\+\+|--|\+=|\S)"""
)
_KINDS = {  # of signs, by the first character; all others are signs of their own
    **dict.fromkeys("\"'`", "text"),
    **dict.fromkeys(digits, "number"),
    **dict.fromkeys(f"{ascii_letters}_$#", "name"),
}
_OPENING, _CLOSING = frozenset("([{"), frozenset(")]}")
_BINARY = {
    "??": 1,
    "||": 2,
    "&&": 3,
    "===": 4,
    "!==": 4,
    "==": 4,
    "<": 5,
    ">": 5,
    "<=": 5,
    ">=": 5,
    "instanceof": 5,
    "+": 6,
    "-": 6,
}
_BEFORE = {"!", "-", "await", "typeof", "..."}


@dataclass(frozen=True, slots=True)
class Atom:
    """A name, a literal, or what needs no looking into."""

    text: str
    kind: str  # name, text, number, other


@dataclass(frozen=True, slots=True)
class Call:
    """A call, or the making of an object; `types` are type arguments with their brackets."""

    callee: Node
    types: str
    arguments: tuple[Node, ...]
    makes: bool = False


@dataclass(frozen=True, slots=True)
class Member:
    """What is written after an expression: `.name`, `[0]`, `!`."""

    of: Node
    text: str


@dataclass(frozen=True, slots=True)
class Items:
    """An array literal."""

    items: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Properties:
    """An object literal; a value is None where the key stands for itself."""

    pairs: tuple[tuple[str, Node | None], ...]


@dataclass(frozen=True, slots=True)
class Arrow:
    """A function without a name; its body is None where a block begins."""

    parameters: tuple[str, ...]
    returns: str
    body: Node | None


@dataclass(frozen=True, slots=True)
class Binary:
    """Two operands and what stands between them."""

    sign: str
    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Conditional:
    """One value or another one."""

    test: Node
    consequent: Node
    alternate: Node


@dataclass(frozen=True, slots=True)
class Unary:
    """`!x`, `-1`, `await x`, `...xs`."""

    sign: str
    of: Node


@dataclass(frozen=True, slots=True)
class As:
    """A type assertion."""

    of: Node
    type: str


@dataclass(frozen=True, slots=True)
class Assign:
    """An assignment that is an expression."""

    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Grouped:
    """Something in parentheses."""

    inner: Node


Node = (
    Atom | Call | Member | Items | Properties | Arrow | Binary | Conditional | Unary | As | Assign | Grouped
)


T = TypeVar("T")


class CannotRead(Exception):
    """Something that the emitters do not write."""


class Reader:
    """Reads expressions from a line."""

    def __init__(self, line: str) -> None:
        self.line = line
        tokens = [(match[1], match.end()) for match in _TOKEN.finditer(line)]
        self._signs = [sign for sign, _ in tokens]
        self._signs.append("")
        self._ends = [0]  # where each sign begins, or a blank before it, and where the last one ends
        self._ends += [end for _, end in tokens]
        self._next = 0

    # --- signs ------------------------------------------------------------------------------------------

    @property
    def at(self) -> int:
        """Where the reader stands in the line."""
        return self._ends[self._next]

    def peek(self) -> str:
        """The next sign, empty at the end."""
        return self._signs[self._next]

    def take(self, expected: str | None = None) -> str:
        """The next sign."""
        taken = self._signs[self._next]
        if not taken or (expected is not None and taken != expected):
            raise CannotRead(f"{expected} at {self.at} of {self.line}")
        self._next += 1
        return taken

    def takes(self, sign: str) -> bool:
        """Whether the next sign is this one; it is taken then."""
        if self._signs[self._next] != sign:
            return False
        self._next += 1
        return True

    def until(self, *ends: str) -> str:
        """The text of a type, up to one of these signs that is in no bracket."""
        begin, depth = self.at, 0
        while True:
            sign = self.peek()
            if not sign or (depth == 0 and sign in ends):
                return self.line[begin : self.at].strip()
            depth += (sign in "([{<") - (sign in ")]}>")
            self.take()

    def _type(self) -> str:
        """The text of a type that is asserted; `<` after a name begins its arguments."""
        ends = (",", ")", "]", "}", ";", *_BINARY)
        begin = self.at
        self.until(*ends)
        while self.peek() == "<":
            self.take()
            self.until(">")
            self.take(">")
            self.until(*ends)
        return self.line[begin : self.at].strip()

    # --- expressions ------------------------------------------------------------------------------------

    def expression(self, weakest: int = 0) -> Node:
        """An expression, as far as operators reach that bind at least so strongly."""
        left = self._operand()
        while True:
            sign = self.peek()
            if sign == "as":
                self.take()
                left = As(left, self._type())
                continue
            strength = _BINARY.get(sign, 0)
            if strength <= weakest:
                return self._conditional(left) if weakest == 0 and sign == "?" else left
            self.take()
            left = Binary(sign, left, self.expression(strength))

    def _conditional(self, test: Node) -> Node:
        self.take("?")
        consequent = self.expression()
        self.take(":")
        return Conditional(test, consequent, self.expression())

    def _operand(self) -> Node:
        sign = self.peek()
        if sign in _BEFORE:
            self.take()
            return Unary(sign, self.expression(0) if sign == "..." else self._operand())
        if sign == "new":
            self.take()
            return self._after(Atom("new", "name") if self.peek() == "." else self._made())
        if sign == "[":
            return self._after(Items(self._listed("[", "]", self.expression)))
        if sign == "{":
            return self._after(self._object())
        if sign == "(":
            return self._arrow() if self._is_arrow() else self._after(self._grouped())
        text = self.take()
        kind = _KINDS.get(text[0], "sign")
        if kind == "sign" or (kind == "text" and len(text) == 1):
            raise CannotRead(text)
        return self._after(Atom(text, kind))

    def _object(self) -> Properties:
        """An object literal. Tests make one object again and again, so it is looked up by its text."""
        begin, depth = self.at, 0
        while True:
            sign = self.take()
            depth += (sign in _OPENING) - (sign in _CLOSING)
            if depth == 0:
                return _object_of(self.line[begin : self.at].strip())

    def properties(self) -> Properties:
        """The properties between braces that are all of the line."""
        return Properties(self._listed("{", "}", self._pair))

    def _grouped(self) -> Node:
        self.take("(")
        inner = self.expression()
        if self.takes("="):
            inner = Assign(inner, self.expression())
        self.take(")")
        return Grouped(inner)

    def _made(self) -> Node:
        callee: Node = Atom(self.take(), "name")
        while self.takes("."):
            callee = Member(callee, f".{self.take()}")
        return Call(callee, self._types(), self._arguments() if self.peek() == "(" else (), makes=True)

    def _types(self) -> str:
        """Type arguments, where a call follows them."""
        begin, mark = self.at, self._next
        if self.peek() != "<":
            return ""
        self.take()
        self.until(">")
        if not self.takes(">") or self.peek() != "(":
            self._next = mark
            return ""
        return self.line[begin : self.at].strip()

    def _after(self, node: Node) -> Node:
        while True:
            match self.peek():
                case "." | "?." as sign:
                    self.take()
                    node = Member(node, f"{sign}{self.take()}")
                case "!":
                    self.take()
                    node = Member(node, "!")
                case "[":
                    begin = self.at
                    self._listed("[", "]", self.expression)
                    node = Member(node, self.line[begin : self.at].strip())
                case "(":
                    node = Call(node, "", self._arguments())
                case "<":
                    types = self._types()
                    if not types:
                        return node
                    node = Call(node, types, self._arguments())
                case _:
                    return node

    def _arguments(self) -> tuple[Node, ...]:
        return self._listed("(", ")", self.expression)

    def _listed(self, opening: str, closing: str, read: Callable[[], T]) -> tuple[T, ...]:
        self.take(opening)
        items: list[T] = []
        while not self.takes(closing):
            items.append(read())
            if not self.takes(","):
                self.take(closing)
                break
        return tuple(items)

    def _pair(self) -> tuple[str, Node | None]:
        if self.peek() == "...":
            return "", self._operand()
        key = self.take()
        return key, self.expression() if self.takes(":") else None

    def _is_arrow(self) -> bool:
        """Whether a parenthesis opens the parameters of a function."""
        mark = self._next
        try:
            self.take("(")
            self.until(")")
            self.take(")")
            if self.peek() == ":":
                self.take()
                self.until("=>", ",", ";", ")")
            return self.peek() == "=>"
        except CannotRead:
            return False
        finally:
            self._next = mark

    def _arrow(self) -> Node:
        self.take("(")
        parameters = []
        while self.peek() != ")":
            parameters.append(self.until(",", ")"))
            self.takes(",")
        self.take(")")
        returns = self.until("=>") if self.peek() == ":" else ""
        self.take("=>")
        if self.peek() == "{" and not self.line[self.at :].strip().removeprefix("{"):
            self.take()
            return Arrow(tuple(parameters), returns, None)
        return Arrow(tuple(parameters), returns, self.expression())


@lru_cache(maxsize=1024)
def _object_of(text: str) -> Properties:
    return Reader(text).properties()
