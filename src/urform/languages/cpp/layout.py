"""C++ code with long lines broken, where clang-format keeps such breaks (`ColumnLimit: 0` in the generated `.clang-format`).

A line of code is broken in one of three ways: after each `&&` of a condition, before each dot of a chain of calls, or at its
last parentheses, whose parts then get a line each; a list in braces stands beside its brace. What none of them suits stays long.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from urform.languages.layout.engine import Style, columns
from urform.languages.layout.signs import elements_of, outside

WIDTH = 120
STEP = 4
_STYLE = Style(width=WIDTH, indent="    ")
_KEPT = ("//", "#", "template", "public:", "private:", "protected:")
_INITIAL = re.compile(r"^(?::| ) (?=\w)")
_OPERATOR = re.compile(r" (?:\|\||[=!<>]=|[<>?:]) ")
# A member that takes a declared default, which is braces within braces, or one that is a template.
_STAYING = re.compile(r"\.(?:value_or|\w+<[\w:]+>)$")
_CONDITION = re.compile(r"^(return |if \()(.*?)(;|\) \{)$")


def lay_out(text: str) -> str:
    """The text with every line broken that is too long."""
    return "\n".join(_line(line) for line in text.split("\n"))


@lru_cache(maxsize=20_000)  # many lines are the same in all products
def _line(line: str) -> str:
    stripped = line.lstrip(" ")
    if len(line) * 2 < WIDTH or wide(line) <= WIDTH or stripped.startswith(_KEPT):
        return line
    margin = len(line) - len(stripped)
    begin = ""
    if stripped.startswith(": "):  # the first initializer of a constructor
        begin, stripped = ": ", stripped[2:]
        margin += 2
    return " " * (margin - len(begin)) + begin + "\n".join(_broken(stripped, margin))


def wide(text: str) -> int:
    """The columns of a text."""
    return len(text) if text.isascii() else columns(text, _STYLE)


def _broken(text: str, margin: int) -> list[str]:
    """The lines of one that begins at a margin; the first without it."""
    condition = _CONDITION.match(text)
    flat = outside(text)
    if condition is not None and " && " in outside(condition[2]):
        return list(_operands(condition[1], condition[2], condition[3], margin))
    links = _links(text, flat)
    if len(links) > 2:
        start = outside(links[0]).find(" = ")
        pad = " " * (margin + STEP + (start + 3 if start >= 0 else 0))
        return [links[0], *(f"{pad}{link}" for link in links[1:])]
    if "](" in text or text.startswith(
        "for ("
    ):  # a function without a name; what is gone through stays in its line
        return [text]
    split = _last_parentheses(flat)
    if split is None:
        return [text]
    start, end = split
    # What is beside an operator would be joined again.
    if _OPERATOR.search(flat[:start]) or _OPERATOR.search(flat[end:]):
        return [text]
    inner = margin + STEP
    parts = elements_of(text[start + 1 : end])
    stays = _STAYING.search(text[:start]) is not None
    if len(parts) == 1 and (stays or len(parts[0]) < STEP * 4 or "{ " in parts[0]):
        return [text]
    lines = [text[: start + 1]]
    for number, part in enumerate(parts):
        comma = "," if number < len(parts) - 1 else ""
        lines += [
            f"{' ' * inner}{line}" if at == 0 else line for at, line in enumerate(_part(part + comma, inner))
        ]
    return [*lines, f"{' ' * margin}{text[end:]}"]


def _part(text: str, margin: int) -> list[str]:
    """An argument that has lines of its own."""
    if margin + wide(text) <= WIDTH or "[&]" in text or "{ " in text:
        return [text]
    open_, close = text.find("{"), text.rfind("}")
    flat = outside(text)
    brace = flat.find("{")
    if brace == 0 and text.startswith("{."):
        parts = elements_of(text[open_ + 1 : close])
        pad = " " * (margin + open_ + 1)
        first, *others = parts
        lines = [f"{text[: open_ + 1]}{first}", *(f"{pad}{other}" for other in others)]
        return [f"{line}," for line in lines[:-1]] + [lines[-1] + text[close:]]
    return _broken(text, margin)


def _operands(head: str, body: str, tail: str, margin: int) -> Iterator[str]:
    """The operands of a condition, each under the first."""
    flat = outside(body)
    cuts = [match.end() for match in re.finditer(r" && ", flat)]
    parts = [body[a:b].rstrip() for a, b in zip([0, *cuts], [*cuts, len(body)], strict=True)]
    pad = " " * (margin + len(head))
    yield head + parts[0]
    for part in parts[1:-1]:
        yield pad + part
    yield f"{pad}{parts[-1]}{tail}"


def _links(text: str, flat: str) -> list[str]:
    """A statement that is one chain of calls, cut before each dot but the first."""
    cuts = [match.start() + 1 for match in re.finditer(r"\)\.(?=\w+\()", flat)]
    if len(cuts) < 2:
        return [text]
    return [text[a:b] for a, b in zip([0, *cuts], [*cuts, len(text)], strict=True)]


def _last_parentheses(flat: str) -> tuple[int, int] | None:
    """The last parentheses that are in no others and hold something."""
    end = flat.rfind(")")
    start = flat.rfind("(", 0, end)
    return (start, end) if 0 <= start < end - 1 else None
