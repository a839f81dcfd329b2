"""Reading I-Regexp, the regular expressions that mean the same everywhere (RFC 9485, section 3).

A pattern is about a whole text: `^` and `$` are characters like others. Nothing else of the dialects of programming
languages is in it, no `\\d`, no look-ahead, no groups to refer to.
"""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.declaration.regexp.categories import CATEGORIES, ranges_of

Range = tuple[int, int]  # the first and the last of some code points
Ranges = tuple[Range, ...]  # sorted, and apart from each other

LAST = 0x10FFFF
SURROGATES: Range = (0xD800, 0xDFFF)
ESCAPES = {"n": "\n", "r": "\r", "t": "\t", **{char: char for char in "()*+-.?[\\]^{|}"}}
QUANTIFIERS = ("*", "+", "?", "{")
SPECIAL = "()*+.?[\\]{|}"
DEEPEST = 50  # groups within groups
MOST_TIMES = 8000  # of a quantifier; more could not fit the largest automaton
# What people write who know other dialects, and what says the same here.
ELSEWHERE = {
    "d": "[0-9]",
    "D": "[^0-9]",
    "w": "[A-Za-z0-9_]",
    "W": "[^A-Za-z0-9_]",
    "s": "[ \\t\\n\\r]",
    "S": "[^ \\t\\n\\r]",
}


class BadPattern(ValueError):
    """A text is no pattern; says why, from which character on, and how many are concerned."""

    def __init__(self, why: str, start: int, width: int = 1) -> None:
        super().__init__(why)
        self.why, self.start, self.width = why, start, width


@dataclass(frozen=True, slots=True)
class OneOf:
    """One character of some ranges."""

    ranges: Ranges


@dataclass(frozen=True, slots=True)
class InOrder:
    """One after the other; none is the empty text."""

    parts: tuple[Expression, ...]


@dataclass(frozen=True, slots=True)
class Either:
    """Any of these."""

    branches: tuple[Expression, ...]


@dataclass(frozen=True, slots=True)
class Repeated:
    """Some number of times; without `most`, as often as one likes."""

    part: Expression
    least: int
    most: int | None


Expression = OneOf | InOrder | Either | Repeated


def parse(pattern: str) -> Expression:
    """What a pattern says. Raises BadPattern."""
    return _Parser(pattern).whole()


class _Parser:
    """Reads one pattern from its begin to its end."""

    def __init__(self, pattern: str) -> None:
        self._text, self._at, self._depth = pattern, 0, 0

    def whole(self) -> Expression:
        """The expression; nothing may be left."""
        self._no_anchors()
        expression = self._either()
        if self._at < len(self._text):
            raise BadPattern("this ')' closes nothing", self._at)
        return expression

    def _no_anchors(self) -> None:
        """A pattern in `^…$` is one of another dialect: here it would ask for these very characters."""
        text = self._text
        why = "'{}' is a character like others, for a pattern is about the whole text: leave it out, or write {}"
        if text.startswith("^"):
            raise BadPattern(why.format("^", "\\^"), 0)
        if text.endswith("$"):
            raise BadPattern(why.format("$", "[$]"), len(text) - 1)

    def _next(self) -> str:
        """The character that comes now, empty at the end."""
        return self._text[self._at : self._at + 1]

    def _either(self) -> Expression:
        branches = [self._in_order()]
        while self._next() == "|":
            self._at += 1
            branches.append(self._in_order())
        return Either(tuple(branches)) if len(branches) > 1 else branches[0]

    def _in_order(self) -> Expression:
        parts = []
        while self._next() not in ("", "|", ")"):
            parts.append(self._piece())
        return parts[0] if len(parts) == 1 else InOrder(tuple(parts))

    def _piece(self) -> Expression:
        atom = self._atom()
        char = self._next()
        if char not in QUANTIFIERS:
            return atom
        start = self._at
        self._at += 1
        least, most = {"*": (0, None), "+": (1, None), "?": (0, 1)}.get(char) or self._times(start)
        if self._next() in QUANTIFIERS:
            why = "a quantifier follows another: I-Regexp has no lazy or possessive ones"
            raise BadPattern(why, self._at)
        return Repeated(atom, least, most)

    def _times(self, start: int) -> tuple[int, int | None]:
        """`{2}`, `{2,}` or `{2,5}`, whose brace has been read."""
        end = self._text.find("}", start)
        inside = self._text[start + 1 : end] if end >= 0 else self._text[start + 1 :]
        least, comma, most = inside.partition(",")
        numbers = [least, *([most] if most else [])]
        if end < 0 or not all(number.isascii() and number.isdigit() for number in numbers):
            raise BadPattern(
                "a brace begins a quantifier: {2}, {2,} or {2,5}; as a character it is \\{", start
            )
        if any(len(number) > 5 or int(number) > MOST_TIMES for number in numbers):
            raise BadPattern(f"at most {MOST_TIMES} times", start, end - start + 1)
        self._at = end + 1
        bounds = int(least), int(most) if most else None if comma else int(least)
        if bounds[1] is not None and bounds[1] < bounds[0]:
            raise BadPattern("the second number is smaller than the first", start, end - start + 1)
        return bounds

    def _atom(self) -> Expression:
        char = self._next()
        if char == "(":
            return self._group()
        if char == "[":
            return OneOf(self._class())
        if char == ".":
            self._at += 1
            return OneOf(complement(((0xA, 0xA), (0xD, 0xD))))
        if char == "\\":
            return OneOf(self._escape())
        if char in SPECIAL:
            raise BadPattern(
                f"'{char}' has nothing to stand for here; as a character it is \\{char}", self._at
            )
        self._at += 1
        return OneOf(((ord(char), ord(char)),))

    def _group(self) -> Expression:
        start = self._at
        self._at += 1
        self._depth += 1
        if self._depth > DEEPEST:
            raise BadPattern(f"it nests deeper than {DEEPEST} groups", start)
        if self._next() == "?":
            raise BadPattern(
                "a group begins with its content: I-Regexp has no (?:…), (?=…) or flags", start, 2
            )
        inner = self._either()
        if self._next() != ")":
            raise BadPattern("this '(' is not closed", start)
        self._at += 1
        self._depth -= 1
        return inner

    def _escape(self) -> Ranges:
        """`\\.`, `\\n`, `\\p{Lu}`, `\\P{L}`."""
        start = self._at
        char = self._text[start + 1 : start + 2]
        self._at += 2
        if char in ESCAPES:
            code = ord(ESCAPES[char])
            return ((code, code),)
        if char in ("p", "P"):
            return self._category(start, is_complement=char == "P")
        if char in ELSEWHERE:
            raise BadPattern(f"I-Regexp has no \\{char}: write {ELSEWHERE[char]}", start, 2)
        why = f"\\{char} is no escape; a character that means nothing else stands for itself"
        raise BadPattern(why if char else "a backslash escapes what follows, and nothing does", start, 2)

    def _category(self, start: int, *, is_complement: bool) -> Ranges:
        end = self._text.find("}", start)
        name = self._text[start + 3 : end] if self._next() == "{" and end >= 0 else ""
        if name not in CATEGORIES:
            why = f"a category of Unicode follows: \\p{{L}}, \\p{{Lu}}; there are {', '.join(sorted(CATEGORIES))}"
            raise BadPattern(why, start, max(end - start + 1, 2))
        self._at = end + 1
        ranges = ranges_of(name)
        return complement(ranges) if is_complement else ranges

    def _class(self) -> Ranges:
        """`[A-Z0-9_]`, `[^ ]`; a hyphen that stands for itself is the first or the last."""
        start = self._at
        self._at += 1
        is_complement = self._next() == "^"
        self._at += is_complement
        ranges: list[Range] = []
        first = self._at
        while self._next() != "]" or self._at == first:
            if not self._next() or self._next() == "]":
                raise BadPattern(
                    "an empty class; a bracket that stands for itself is \\]"
                    if self._next()
                    else "this '[' is not closed",
                    start,
                )
            ranges += self._member(start, is_edge=self._at == first)
        self._at += 1
        return complement(_merged(ranges)) if is_complement else _merged(ranges)

    def _member(self, start: int, *, is_edge: bool) -> Ranges:
        """A character, a range of them, or a category."""
        at, char = self._at, self._next()
        if char == "-" and (is_edge or self._text[at + 1 : at + 2] == "]"):
            self._at += 1
            return ((0x2D, 0x2D),)
        low = self._one(start)
        follows = self._text[self._at + 1 : self._at + 2]
        if self._next() != "-" or follows == "]" or len(low) != 1 or low[0][0] != low[0][1]:
            return low
        self._at += 1
        high = self._one(start)
        if len(high) != 1 or high[0][0] != high[0][1] or high[0][0] < low[0][0]:
            raise BadPattern("a range goes from one character to a later one", at, self._at - at)
        return _without_surrogates(((low[0][0], high[0][0]),))

    def _one(self, start: int) -> Ranges:
        char = self._next()
        if char == "\\":
            return self._escape()
        if not char:
            raise BadPattern("this '[' is not closed", start)
        if char in "-[":
            raise BadPattern(f"within a class, '{char}' is \\{char}", self._at)
        self._at += 1
        return ((ord(char), ord(char)),)


def complement(ranges: Ranges) -> Ranges:
    """All other characters; surrogates are none."""
    others, low = [], 0
    for first, last in _merged([*ranges, SURROGATES]):
        if first > low:
            others.append((low, first - 1))
        low = last + 1
    return (*others, (low, LAST)) if low <= LAST else tuple(others)


def _merged(ranges: list[Range]) -> Ranges:
    """Sorted, without overlaps, neighbours joined."""
    merged: list[Range] = []
    for first, last in sorted(ranges):
        if merged and first <= merged[-1][1] + 1:
            merged[-1] = (merged[-1][0], max(last, merged[-1][1]))
        else:
            merged.append((first, last))
    return tuple(merged)


def _without_surrogates(ranges: Ranges) -> Ranges:
    low, high = SURROGATES
    cut: list[Range] = []
    for first, last in ranges:
        cut += [(a, b) for a, b in ((first, min(last, low - 1)), (max(first, high + 1), last)) if a <= b]
    return tuple(cut)
