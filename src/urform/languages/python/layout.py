"""Python laid out as ruff format would: conditions by rules of their own, the rest by the shared engine.

A condition that is too long gets parentheses around it, unless what it is made of has brackets enough to be broken at. The rules
are those of ruff's source (ruff_python_formatter, `can_omit_optional_parentheses`).
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.languages.layout import engine
from urform.languages.layout.engine import NO_BREAK, Style, columns
from urform.languages.layout.signs import cut, elements_of, links, pairs

STYLE = Style(
    width=88, indent="    ", trailing_comma=True, literals_apart=True, parentheses=True, kept=('"""', "#")
)

# A condition that may be too long; no calls of two arguments, unless they are those of a date, a time or a duration.
_HEADED = re.compile(
    r"^(?P<margin> *)(?:(?P<word>if|elif|while) (?P<value>(?:[^,\n]|(?<=\d), (?=-?\d|\w+=-?\d|tzinfo=)){30,}):"
    r"|return (?P<all>[^,()\n]+ and [^,()\n]+))$",
    re.MULTILINE,
)
# A function without parameters: what it returns is all that can be broken.
_RETURNS = re.compile(r"^(?P<head> *(?:async )?def \w+\(\) -> )(?P<result>\w+):$", re.MULTILINE)
# A field of a class whose type has parts.
_FIELD = re.compile(
    r"^(?P<margin> +)(?P<name>\w+): (?P<type>[^#=\n]+ \| None)(?P<value>(?: = None)?)$", re.MULTILINE
)
# What a function returns, below its parameters.
_RESULT = re.compile(r"^(?P<margin> *)\) -> (?P<type>[\w.]+)\[(?P<inner>[^\n]+)\]:$", re.MULTILINE)
# What is called on the results of calls.
_CHAIN = re.compile(
    r"^(?P<margin> *)(?P<name>\w+) = (?P<value>[A-Z]\w*(?:\.\w+)?\([^\n]*\)\.\w+\([^\n]*\))$", re.MULTILINE
)
# A text that a value is matched with.
_CASE = re.compile(
    r"""^(?P<margin> *)case (?P<value>"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'):$""", re.MULTILINE
)
_UNION = re.compile(r" (?=\| )")
_LOGIC = re.compile(r" (?=(?:and|or) )")
_COMPARISON = re.compile(r" (?=(?:==|!=|is|in|not in|<=|>=|<|>) )")


def lay_out(text: str) -> str:
    """The text with every line broken that is too long."""
    text = _CASE.sub(_case, _CHAIN.sub(_chain, text))
    laid = engine.lay_out(_FIELD.sub(_field, _RETURNS.sub(_returns, _HEADED.sub(_headed, text))), STYLE)
    return _RESULT.sub(_result, laid)


def _case(match: re.Match[str]) -> str:
    """A text in parentheses, if it fits then."""
    inner = f"{match['margin']}{STYLE.indent}{match['value']}"
    if _fits(match[0]) or not _fits(inner):
        return match[0]
    return f"{match['margin']}case (\n{inner}\n{match['margin']}):"


def _result(match: re.Match[str]) -> str:
    """What a function returns, broken below its parameters."""
    if _fits(match[0]):
        return match[0]
    margin, inner = match["margin"], match["margin"] + STYLE.indent
    whole = inner + match["inner"]
    lines = [whole] if _fits(whole) else [f"{inner}{each}," for each in elements_of(match["inner"])]
    return "\n".join((f"{margin}) -> {match['type']}[", *lines, f"{margin}]:"))


def _chain(match: re.Match[str]) -> str:
    """A chain of calls in parentheses, each on a line of its own where they do not share one."""
    parts = links(match["value"])
    if _fits(match[0]):
        return match[0]
    inner = match["margin"] + STYLE.indent
    if len(parts) == 2:
        return _at_the_first(match, *parts)
    lines = [f"{match['margin']}{match['name']} = ("]
    for part in [match["value"]] if _fits(inner + match["value"]) else parts:
        lines += engine.lay_out(inner + part, STYLE).split("\n")
    lines.append(f"{match['margin']})")
    return "\n".join(f"{NO_BREAK}{line}" for line in lines)


def _at_the_first(match: re.Match[str], first: str, second: str) -> str:
    """Two calls, broken at the brackets of the first where those of the second stand too far to the right."""
    name, _, arguments = first.partition("(")
    if _fits(f"{match['margin']}{match['name']} = {first}{second.partition('(')[0]}(") or arguments == ")":
        return match[0]
    lines = (
        f"{match['margin']}{match['name']} = {name}(",
        f"{match['margin']}{STYLE.indent}{arguments[:-1]}",
    )
    return "\n".join(f"{NO_BREAK}{line}" for line in (*lines, f"{match['margin']}){second}"))


def _field(match: re.Match[str]) -> str:
    if _fits(match[0]):
        return match[0]
    margin, inner = match["margin"], match["margin"] + STYLE.indent
    if match["value"] and _fits(f"{margin}{match['name']}: {match['type']} = ("):
        return match[0]  # what breaks is the value
    lines = [f"{margin}{match['name']}: ("]
    for part in [match["type"]] if _fits(inner + match["type"]) else cut(match["type"], _UNION):
        lines += engine.lay_out(inner + part, STYLE).split("\n")
    lines += [f"{margin}){match['value']}"]
    return "\n".join(f"{NO_BREAK}{line}" for line in lines)


def _returns(match: re.Match[str]) -> str:
    if _fits(match[0]):
        return match[0]
    margin = match["head"][: -len(match["head"].lstrip(" "))] if match["head"].startswith(" ") else ""
    lines = (f"{match['head']}(", f"{margin}{STYLE.indent}{match['result']}", f"{margin}):")
    return "\n".join(f"{NO_BREAK}{line}" for line in lines)


def _headed(match: re.Match[str]) -> str:
    if _fits(match[0]):
        return match[0]
    if match["all"]:
        lines = _in_parentheses(match["margin"], "return", match["all"], "")
    else:
        lines = _condition(match["margin"], match["word"], match["value"])
    return "\n".join(f"{NO_BREAK}{line}" for line in lines)


def _fits(line: str) -> bool:
    return columns(line, STYLE) <= STYLE.width


def _condition(margin: str, word: str, value: str) -> Iterator[str]:
    """A condition in parentheses of its own, or broken at its brackets."""
    whole = f"{word} {value}:"
    if _has_brackets_enough(value) and all(map(_fits, _spread(margin, whole))):
        yield from _in_its_brackets(margin, whole)
    else:
        yield from _in_parentheses(margin, word, value, ":")


def _in_parentheses(margin: str, word: str, value: str, end: str) -> Iterator[str]:
    yield f"{margin}{word} ("
    yield from _inside(margin + STYLE.indent, value)
    yield f"{margin}){end}"


def _has_brackets_enough(value: str) -> bool:
    """Whether it begins or ends with one and has two operands at most, or has no operator at all."""
    operands = cut(value, _LOGIC)
    if len(operands) == 1 and len(cut(value, _COMPARISON)) == 1:
        return True
    ends = operands[0].startswith("(") or any(end == len(value) - 1 for _, end in pairs(value))
    return ends and len(operands) <= 2


def _in_its_brackets(margin: str, text: str) -> Iterator[str]:
    """A text broken at those of its brackets that have to be."""
    line, rest = margin, 0
    brackets = pairs(text)
    for number, (start, end) in enumerate(brackets):
        next_break = brackets[number + 1][0] + 1 if number + 1 < len(brackets) else len(text)
        if not _fits(line + text[rest:next_break]):
            yield line + text[rest : start + 1]
            yield from _inside(margin + STYLE.indent, text[start + 1 : end])
            line, rest = margin, end
    yield line + text[rest:]


def _inside(margin: str, text: str) -> Iterator[str]:
    """The content of brackets: on one line, or an operand a line, and a comparison on two if need be."""
    if _fits(margin + text):
        yield margin + text
        return
    for operand in cut(text, _LOGIC):
        sides = [operand] if _fits(margin + operand) else cut(operand, _COMPARISON)
        if len(sides) > 1:
            yield from (margin + side for side in sides)
        else:
            yield from _in_its_brackets(margin, operand)


def _spread(margin: str, text: str) -> Iterator[str]:
    """The lines of a text that is broken wherever it can be."""
    rest = 0
    for start, end in pairs(text):
        yield margin + text[rest : start + 1]
        for operand in cut(text[start + 1 : end], _LOGIC):
            for side in cut(operand, _COMPARISON):
                yield from _spread(margin + STYLE.indent, side)
        rest = end
    yield margin + text[rest:]
