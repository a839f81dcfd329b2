"""The layout engine: logical lines are broken as the target's formatter would break them.

Emitters and templates write each statement on one line. A line that is too long is broken at its last
bracket: the contents go onto a line of their own if they fit there, else each element gets a line, and an
element that is still too long is broken in the same way. Columns that align are marked in templates.

Right-hand bracket splitting follows the rules that the Black code style documents; aligned columns follow
the elastic tab stops of Go's text/tabwriter.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Iterator, Mapping
from functools import cache, lru_cache
from itertools import chain

from urform.dataclasses import dataclass
from urform.languages.layout.columns import TAB, aligned, keys_in_columns
from urform.languages.layout.signs import cut, elements_of, last_brackets, links, outside

NO_BREAK = "\x02"  # at the start of a line: it is laid out already

_BLOCK = re.compile(r"(func\(.*?\{) (return .*) (\},?)")  # a function literal on one line
_NOT_ASCII = re.compile(r"[^\x00-\x7f]")


@dataclass(frozen=True, slots=True, eq=False)  # told apart by identity, for layouts are kept by it
class Style:
    """How a target's formatter breaks lines."""

    width: int  # columns
    indent: str
    tab_width: int = 1  # columns that a tab in `indent` takes
    trailing_comma: bool = False  # after the last element, when each has its own line
    comma_when_joined: bool = False  # also when all elements share one line
    literals_apart: bool = False  # several elements of a list, set or map literal never share a line
    align_keys: bool = False  # the values of `key: value`, when each element has its own line
    closing_apart: bool = True  # the closing bracket gets a line of its own
    chains: bool = False  # a chain of calls is broken before each dot
    parentheses: bool = False  # what has no bracket to break at is put into parentheses, if it fits then
    groups_whole: bool = (
        False  # parentheses that only group are not broken: a line end would end the statement
    )
    operators: bool = False  # where no bracket helps, a line is broken before its operators, and after `=`
    body_beside: int = 0  # bytes of a function's header and body that may share a line; 0: any number
    kept: tuple[str, ...] = (
        "//",
        "*",
        "/*",
        "#",
    )  # lines that begin so stay as they are: comments, above all
    own_columns: Callable[[], Mapping[str, int]] = (
        dict  # of characters that it alone counts so; asked when one occurs
    )


def columns(text: str, style: Style) -> int:
    """The columns that a text takes: wide characters two, combining ones none."""
    extra = 0 if text.isascii() else _extra_columns(text, style)
    return len(text) + extra + text.count("\t") * (style.tab_width - 1)


@lru_cache(maxsize=4096)  # tests hand in the same texts again and again
def _extra_columns(text: str, style: Style) -> int:
    own = style.own_columns()
    return sum(own[char] - 1 if char in own else _extra_width(char) for char in _NOT_ASCII.findall(text))


# The spacing marks that extend the letter before them (Grapheme_Extend in the Unicode Character Database); the other
# ones have a column of their own, which `wcwidth` does not give them.
_EXTENDING = frozenset(
    (
        "09be 09d7 0b3e 0b57 0bbe 0bd7 0cc0 0cc2 0cc7 0cc8 0cca 0ccb 0cd5 0cd6 0d3e 0d57 0dcf 0ddf 1715 1734 1b35 1b3b "
        "1b3d 1b43 1b44 1baa 1bf2 1bf3 302e 302f a953 a9c0 111c0 11235 1133e 1134d 11357 114b0 114bd 115af 116b6 11930 "
        "1193d 16ff0 16ff1 1d165 1d166 1d16d 1d16e 1d16f 1d170 1d171 1d172"
    ).split()
)
# What else formatters count otherwise than `wcwidth`: letters that are written into the next one, marks of half width,
# letters and marks that have columns of their own. A flag is two regional indicators, and each of them counts.
_COLUMNS = (
    dict.fromkeys(
        "\u0d4e\ua8fa\uff9e\uff9f\U000111c2\U000111c3\U0001193f\U00011941\U00011d46\U000113d1\U00011f02", 0
    )
    | dict.fromkeys(map(chr, range(0x11A84, 0x11A8A)), 0)  # of Soyombo
    | dict.fromkeys("\u2d7f\U0001171e", 1)
    | dict.fromkeys(map(chr, range(0x1F1E6, 0x1F200)), 1)  # the regional indicators
    | {"\u17a4": 2, "\u17d8": 3}  # of Khmer
)
# Characters that `wcwidth` knows from an edition of Unicode that formatters do not know yet: for them one column each.
_NEWEST = (
    "05c8-05c9 0b53-0b54 0cf3 1ade-1adf 1aec-1af0 d7c7-d7ca d7fc-d7ff 10ecb-10ecf 10ef0-10ef9 113b9-113ba 113ca "
    "113cc-113cd 11b61 11b65 11b67 11df0 11f03 11f34-11f35 11f3e-11f3f 1612a-1612c 18cd6-18cda 18d1f-18d20 18e00-19191 "
    "191a0-191d2 1b123-1b128 1b168 1d127-1d128 1d250-1d252 1d25b-1d25c 1d25f 1d280-1d281 1f1ae 1f6d9 1f7da 1fa8b-1fa8d "
    "1facc 1fadd 1faeb 1faf9-1fafa"
)


def characters(ranges: str) -> Iterator[str]:
    """The characters of ranges of code points, as in "05c8-05c9 0cf3"."""
    for part in ranges.split():
        first, _, last = part.partition("-")
        yield from map(chr, range(int(first, 16), int(last or first, 16) + 1))


@cache
def _newest() -> frozenset[str]:
    return frozenset(characters(_NEWEST))


@cache
def _extra_width(char: str) -> int:
    from wcwidth import wcwidth

    if char in _COLUMNS:
        return _COLUMNS[char] - 1
    if char in _newest():
        return 0
    if unicodedata.category(char) == "Mc" and f"{ord(char):04x}" not in _EXTENDING:
        return 0
    return int(wcwidth(char)) - 1


def lay_out(text: str, style: Style) -> str:
    """The text with every line broken that is too long, and columns aligned."""
    lines: list[str] = []
    for line in text.split("\n"):
        if line.startswith(NO_BREAK):
            lines.append(line[1:])
        elif style.body_beside and line.startswith("func ") and line.endswith(" }"):
            lines.extend(_function(line, style))
        elif len(line) * 2 < style.width or columns(line, style) <= style.width:
            lines.append(line)
        else:
            lines.extend(_broken(line, style))
    return "\n".join(aligned(lines) if any(TAB in line for line in lines) else lines)


def _function(line: str, style: Style) -> Iterator[str]:
    """A function that was written on one line, whole or with its body apart."""
    start = outside(line).find(" {")
    header, body = line[:start], line[start + 3 : -2]
    if start < 0 or len(header.encode()) + len(body.encode()) <= style.body_beside:
        yield line
        return
    yield header + " {"
    yield from broken(style.indent + body, style)
    yield "}"


def _shares_a_line(literal: re.Match[str], style: Style) -> bool:
    """Whether a function literal and its body are as short as that takes, in bytes."""
    header, body = literal[1].removesuffix(" {"), literal[2]
    return not style.body_beside or len(header.encode()) + len(body.encode()) <= style.body_beside + 1


@lru_cache(maxsize=4096)  # tests make the same product again and again
def _broken(line: str, style: Style) -> tuple[str, ...]:
    return tuple(broken(line, style))


def broken(line: str, style: Style) -> Iterator[str]:
    """One logical line as several, none longer than need be."""
    stripped = line.lstrip()
    margin = line[: len(line) - len(stripped)]
    block = _BLOCK.fullmatch(stripped)
    fits = columns(line, style) <= style.width and (block is None or _shares_a_line(block, style))
    if fits or stripped.startswith(style.kept) or TAB in line:
        yield line
        return
    if block is not None:
        yield margin + block[1]
        yield from broken(margin + style.indent + block[2], style)
        yield margin + block[3]
        return
    parts = _right_hand_side(stripped) if style.parentheses else None
    if parts is not None and (
        columns(f"{margin}{parts[0]}(", style) <= style.width or " if " in outside(parts[1])
    ):
        yield from _in_parentheses(*parts, margin, style)
        return
    alternatives = _alternatives(margin, stripped, style) if style.parentheses else [stripped]
    if len(alternatives) > 1:
        for part in alternatives:
            yield from broken(margin + part, style)
        return
    head, *calls = links(stripped) if style.chains else [stripped]
    if len(calls) > 1:
        yield from broken(margin + head, style)
        for link in calls:
            yield from broken(margin + style.indent + link, style)
        return
    split = _last_split(margin, stripped, style)
    if style.parentheses and split is not None:
        assigned = _ASSIGNED.match(stripped[: split[0]])
        if assigned is not None and columns(margin + stripped[: split[0] + 1], style) > style.width:
            yield from _in_parentheses(assigned[0], stripped[assigned.end() :], margin, style)
            return
    if style.operators and (split is None or columns(margin + stripped[: split[0] + 1], style) > style.width):
        first, *others = _at_operators(stripped)
        if others:
            yield from broken(margin + first, style)
            for part in others:
                yield from broken(margin + style.indent + part, style)
            return
    if split is None:
        yield line
        return
    start, end = split
    if (
        style.groups_whole
        and stripped[max(start - 1, 0) : start] in ("", " ", "!")
        and stripped[start] == "("
    ):
        yield line
        return
    head, body, tail = stripped[: start + 1], stripped[start + 1 : end], stripped[end:]
    operands = cut(body, _LOGIC) if style.parentheses and head[-2:-1] in ("", " ") else [body]
    if len(operands) > 1 and "," not in outside(body):  # they only group
        yield from _one_a_line(margin + head, operands, tail, margin, style)
        return
    inner = margin + style.indent
    yield margin + head
    if style.parentheses and _is_alone(stripped, start, body):
        yield from broken(inner + body.strip(), style)
        yield margin + tail
        return
    apart = style.literals_apart and _is_literal(stripped, start) and len(elements_of(body)) > 1
    if style.parentheses and head.startswith("def ") and len(elements_of(body)) == 1:
        body = f"{body.strip()},"  # of one parameter that has its own line
    if style.closing_apart:
        yield from _body(body.strip(), inner, style, apart=apart)
        yield margin + tail
    else:
        *before, last = _body(body.strip(), inner, style, tail)
        yield from before
        yield last


def _one_a_line(head: str, operands: list[str], tail: str, margin: str, style: Style) -> Iterator[str]:
    """Operands of `and` and `or` in parentheses: all on one line, or each on its own."""
    inner = margin + style.indent
    whole = inner + " ".join(operands)
    yield head
    if columns(whole, style) <= style.width:
        yield whole
    else:
        for operand in operands:
            sides = [operand] if columns(inner + operand, style) <= style.width else cut(operand, _OPERATOR)
            for side in sides:
                yield from broken(inner + side, style)
    yield margin + tail


def _last_split(margin: str, line: str, style: Style) -> tuple[int, int] | None:
    """The last brackets that can be broken; where a comparison ends with some, what is before them has to fit."""
    split = last_brackets(_before_result(line))
    compares = split is not None and style.parentheses and line[split[0] - 4 : split[0]] == " == "
    if split is None or not compares or columns(margin + line[: split[0] + 1], style) <= style.width:
        return split
    return last_brackets(line[: split[0] - 4]) or split


_SIGNS = [re.compile(each) for each in (r" (?=(?:\|\||&&) )", r" (?=[?:] )", r"(?<= =) ")]


def _at_operators(line: str) -> list[str]:
    """A statement cut at those of its operators that bind least: logical ones, a condition's, that of an assignment."""
    for sign in _SIGNS:
        parts = cut(line, sign)
        if len(parts) > 1:
            return parts
    return [line]


_LOGIC = re.compile(r" (?=(?:and|or) )")
_HEAD = re.compile(r"return |assert |[^=]*? = ")
_ASSIGNED = re.compile(r"\w+: [\w.]+\[[\w.]+\] = ")  # a variable whose type has a part
_TERNARY = re.compile(r" (?=(?:if|else) )")
_OPERATOR = re.compile(r" (?=(?:==|!=|is|in|not in|<=|>=|<|>) )")
_HAS_PARTS = re.compile(r" \| |\[")
_UNION = re.compile(r" (?=\| )")
_PARAMETER = re.compile(r"\w+: .*,$")
_REPEATED = re.compile(r"\[[^\[\]]*\] \* \d+")  # a list of one element, many times
_REPEATED_ARGUMENT = re.compile(r"(?:\w+=)?\[[^\[\]]*\](?= \* \d+,$)")
_CLAUSE = re.compile(r" (?=(?:for|if) )")


def _right_hand_side(line: str) -> tuple[str, str] | None:
    """A statement's head and its right-hand side, if that is broken in parentheses of its own; else None.

    So it is where no bracket at its end can be broken: names, literals, comparisons, and what ends in a name.
    """
    flat = outside(line)
    head = _HEAD.match(flat)
    if head is None or "#" in flat or flat.endswith(","):  # a comma: it is a parameter
        return None
    rest = flat[head.end() :]
    ends_in_bracket = (rest[-1:] == ")" and rest[-2:] != "()") or rest[-1:] in ("]", "}")
    if ends_in_bracket or rest.startswith("lambda ") or _REPEATED.fullmatch(rest):
        return None
    return line[: head.end()], line[head.end() :]


def _alternatives(margin: str, line: str, style: Style) -> list[str]:
    """An argument that is a conditional expression, cut at its words; or a parameter at the `|` of its type."""
    flat = outside(line)
    repeated = _REPEATED_ARGUMENT.match(flat)
    if repeated is not None:
        return [line[: repeated.end()], line[repeated.end() + 1 :]]
    if (
        flat.startswith(("if ", "else ", "elif ", "for ", "return ", "assert ", "lambda "))
        or "lambda " in flat
    ):
        return [line]
    if " if " in flat and " else " in flat:
        return cut(line, _TERNARY)
    if _PARAMETER.match(flat) and not _breaks_at_its_end(margin, line, flat, style):
        return cut(line, _UNION)
    return [line]


def _breaks_at_its_end(margin: str, line: str, flat: str, style: Style) -> bool:
    """Whether a parameter has a call as its default whose brackets are broken, since they stand within the width."""
    if not flat.endswith("),") or flat.endswith("(),"):
        return False
    return columns(margin + line[: flat.rindex("(") + 1], style) <= style.width


def _in_parentheses(head: str, value: str, margin: str, style: Style) -> Iterator[str]:
    inner = margin + style.indent
    parts = [value]
    if columns(inner + value, style) > style.width:
        parts = cut(value, _TERNARY) if " if " in outside(value) else cut(value, _OPERATOR)
        if len(parts) == 1 and not _HAS_PARTS.search(head.partition(": ")[2]):
            # It would be as long in parentheses; beside a type in parts, they stand all the same.
            yield margin + head + value
            return
    yield f"{margin}{head}("
    for part in parts:
        yield from broken(inner + part, style)
    yield f"{margin})"


def _is_literal(line: str, start: int) -> bool:
    """Whether a bracket opens a literal, not a call or a subscript."""
    before = line[:start]
    return not before or not (before[-1].isalnum() or before[-1] in "_])")


def _is_alone(line: str, start: int, body: str) -> bool:
    """Whether brackets hold one expression that a comma would make a tuple: an index, or what is only grouped."""
    if len(elements_of(body)) != 1 or body.rstrip().endswith(","):
        return False
    opens, literal = line[start], _is_literal(line, start)
    return (opens == "[" and not literal) or (opens == "(" and literal)


def _body(body: str, inner: str, style: Style, tail: str = "", *, apart: bool = False) -> Iterator[str]:
    joined = inner + body + ("," if style.comma_when_joined and body else "") + tail
    if columns(joined, style) <= style.width and not body.endswith(",") and not apart:
        yield joined
        return
    elements = elements_of(body)
    if style.parentheses and not _takes_comma(body):
        for clause in cut(body, _CLAUSE):
            yield from broken(inner + clause, style)
        return
    end = ("," if style.trailing_comma and _takes_comma(body) else "") + tail
    blocks = []
    for number, element in enumerate(elements):
        line = inner + element + (end if number == len(elements) - 1 else ",")
        fits = columns(line, style) <= style.width and not style.body_beside
        blocks.append([line] if fits else list(broken(line, style)))
    yield from keys_in_columns(blocks) if style.align_keys else chain.from_iterable(blocks)


def _takes_comma(body: str) -> bool:
    """A generator expression takes no comma; one within brackets of its own is none of ours."""
    return " for " not in body or " for " not in outside(body)


def _before_result(line: str) -> str:
    """A function's header without what it returns: its parameters are broken, not its result."""
    end = line.rfind(") -> ")
    return line[: end + 1] if line.startswith("def ") and end > 0 else line
