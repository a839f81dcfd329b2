"""Rust code laid out as rustfmt would.

Emitters write each statement on one line; what is too long, or wider than rustfmt's own limits for calls, lists, structs and
chains, is broken as its source does it (rustfmt 1.9: overflow.rs, chains.rs, expr.rs, closures.rs, matches.rs).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache

from urform.languages.layout.engine import Style, columns
from urform.languages.rust.parsing import Link, Node, hidden, parsed, split

WIDTH = 100
CALL_WIDTH = ARRAY_WIDTH = CHAIN_WIDTH = 60
STRUCT_WIDTH = 18
TRAIT_WIDTH = 92
SHORT = 10  # bytes of elements that may share lines
STEP = 4
_STYLE = Style(width=WIDTH, indent="    ")

_LET = re.compile(r"let (?:mut )?[^=]*? =$")
_ASSIGNED = re.compile(r"[\w.]+(?:\[\w+\])? =$")
_FUNCTION = re.compile(r"(?:pub(?:\(crate\))? )?fn \w+")
_ITEM = re.compile(r"(?:(pub trait \w+:) (.*)|(impl.*) (for .*)) \{")
_ARM = re.compile(r"[^=]*? => ")
_KEPT = ("//", "#", "use ", "mod ", "pub use ", "impl", "pub trait", "pub struct", "pub enum", "}")


def used(path: str, names: list[str]) -> str:
    """A use declaration."""
    ordered = sorted(names, key=_case)
    if len(ordered) == 1:
        return f"use {path}::{ordered[0]};\n"
    line = f"use {path}::{{{', '.join(ordered)}}};\n"
    if len(line) - 1 < WIDTH - 1:  # two less than other lines may have
        return line
    together = f"{' ' * STEP}{', '.join(ordered)}"
    filled = together if wide(together) < WIDTH else _filled(ordered, STEP, WIDTH - 1)
    return f"use {path}::{{\n{filled},\n}};\n"


def used_order(line: str) -> list[tuple[bool, bool, str]]:
    """By this the formatter sorts use declarations: segment by segment, modules before types before constants."""
    return [_case(segment) for segment in line.removeprefix("use ").rstrip(";\n").split("::")]


def _case(name: str) -> tuple[bool, bool, str]:
    return (name[:1].isupper(), name.isupper(), name)


def lay_out(text: str) -> str:
    """The text with every statement laid out."""
    return "\n".join(_line(line) for line in text.split("\n"))


@lru_cache(maxsize=20_000)  # many lines are the same in all products
def _line(line: str) -> str:
    stripped = line.lstrip(" ")
    indent = len(line) - len(stripped)
    item = _ITEM.fullmatch(line)
    if item is not None:
        return _item(line, *item.groups())
    if not stripped or stripped.startswith(_KEPT):
        return line
    if wide(stripped) <= CALL_WIDTH and indent <= WIDTH - CALL_WIDTH and " { " not in stripped:
        return line
    return " " * indent + _statement(stripped, indent)


def _statement(text: str, indent: int) -> str:
    if _FUNCTION.match(text):
        return _function(text, indent)
    if text.startswith("pub type ") or text.startswith("type "):
        return _alias(text, indent)
    if text.startswith("pub const ") and " = " in text:
        head, _, value = text.removesuffix(";").partition(" = ")
        return f"{head} ={_assigned(value, indent, indent + len(head) + 3, 1)};"
    for word in ("if ", "} else if ", "for ", "while ", "match "):
        if text.startswith(word) and text.endswith(" {"):
            return _headed(word, text, indent)
    if text.endswith((" {", ") else {")) or text.startswith("pub(crate) ") or text.startswith("pub "):
        return text
    end = ";" if text.endswith(";") else "," if text.endswith(",") else ""
    body = text.removesuffix(end) if end else text
    if end == ",":
        return _arm(body, indent) if _ARM.match(body) else text
    flat = hidden(body)
    at = flat.find(" = ")
    if at > 0 and (_LET.fullmatch(body[: at + 2]) or _ASSIGNED.fullmatch(body[: at + 2])):
        return body[: at + 2] + _assigned(body[at + 3 :], indent, indent + at + 3, len(end)) + end
    head = "return " if body.startswith("return ") else ""
    return head + rewritten(parsed(body[len(head) :]), indent, indent + len(head), len(end)) + end


def wide(text: str) -> int:
    """The columns of a text."""
    return len(text) if text.isascii() else columns(text, _STYLE)


# --- items and headers ------------------------------------------------------------------------------------------


def _item(line: str, trait: str | None, bounds: str, start: str, end: str) -> str:
    """The header of a trait or of an implementation: bounds, or what it is for, and the brace have lines of their own."""
    if wide(line) <= (TRAIT_WIDTH if trait else WIDTH):
        return line
    first, second = (trait, bounds) if trait else (start, end)
    if wide(first) > WIDTH and "> " in first:
        parameters, _, of = first.rpartition("> ")
        first, second = f"{parameters}>", f"{of} {second}"
    return f"{first}\n{' ' * STEP}{second}\n{{"


def _function(text: str, indent: int) -> str:
    """A header: its parameters on one line, or each on its own."""
    if text.endswith(";") and indent + wide(text) == WIDTH and " -> " in text:
        # The formatter forgets the semicolon when it looks for room, and remembers it when it writes the result.
        before, _, result = text.rpartition(") -> ")
        return f"{before})\n{' ' * (indent + STEP)}-> {result}"
    if indent + wide(text) <= WIDTH or "(" not in text:
        return text
    named = _FUNCTION.match(text)
    assert named is not None
    flat = hidden(text[named.end() :])
    start = named.end() + flat.index("(")
    end = named.end() + flat.index(")", flat.index("("))
    inner = "".join(
        f"{' ' * (indent + STEP)}{_type(part, indent + STEP)},\n" for part in split(text[start + 1 : end])
    )
    if not inner and " -> " in text[end:] and text.endswith(" {"):
        return _without_parameters(text[: start + 1], text[end:-2], indent)
    return f"{text[: start + 1]}\n{inner}{' ' * indent}{_result(text[end:], indent)}"


def _without_parameters(begin: str, result: str, indent: int) -> str:
    """A header whose result has no room beside it; in the limits the formatter counts its margin, or forgets the brace."""
    margin = " " * indent
    if indent + wide(begin + result) <= WIDTH + 1:
        return f"{begin}{result}\n{margin}{{"
    width = indent + wide(result)
    if width <= WIDTH + 2:
        brace = " {" if width <= WIDTH - 2 - indent else f"\n{margin}{{"
        return f"{begin}\n{margin}{result}{brace}"
    return _type(begin + result, indent) + " {"


def _result(text: str, indent: int) -> str:
    """What follows the parameters: the brace on a line of its own, or the result broken at its angle brackets."""
    head, arrow, type_ = text.partition(") -> ")
    if indent + wide(text) <= WIDTH or not arrow or not type_.endswith(" {"):
        return text
    result = type_.removesuffix(" {")
    if indent + wide(f"{head}) -> {result}") <= WIDTH + 1:  # as the formatter measures it
        return f"{head}) -> {result}\n{' ' * indent}{{"
    return _type(f"{head}) -> {result}", indent) + " {"


def _type(text: str, indent: int) -> str:
    """A parameter, or what a type is made of: broken at the angle brackets of its type if it has no room with a comma."""
    if indent + wide(text) < WIDTH:
        return text
    if " + " in text:  # the formatter measures bounds from where the function stands, and forgets the comma
        return text if indent + wide(text) <= WIDTH + STEP else _bounds(text, indent, STEP)
    if not text.endswith(">"):
        return text
    start = text.index("<")
    inner = indent + STEP
    parts = "".join(f"{' ' * inner}{_type(part, inner)},\n" for part in split(text[start + 1 : -1]))
    return f"{text[: start + 1]}\n{parts}{' ' * indent}>"


def _alias(text: str, indent: int) -> str:
    if indent + wide(text) <= WIDTH:
        return text
    head, _, value = text.partition(" = ")
    if indent + STEP + wide(value) <= WIDTH:
        return f"{head} =\n{' ' * (indent + STEP)}{value}"
    start = value.index("<")
    inside = _bounds(value[start + 1 : value.rindex(">")], indent + STEP)
    return f"{head} = {value[: start + 1]}\n{' ' * (indent + STEP)}{inside},\n{' ' * indent}>;"


def _bounds(text: str, indent: int, spare: int = 0) -> str:
    """`dyn Fn(…) -> … + Send`: bounds on one line, or each on its own, and parameters on their own if need be.

    `spare` columns more are there than the formatter's width says, where it measures from further left.
    """
    if indent + wide(text) + 1 <= WIDTH:
        return text
    inner = indent + STEP
    function, *others = text.split(" + ")
    if indent + wide(function) > WIDTH + 2 * spare:
        start, end = function.index("("), function.index(") -> ")
        parameters = split(function[start + 1 : end])
        listed = "".join(f"{' ' * (inner + STEP)}{parameter},\n" for parameter in parameters)
        function = f"{function[: start + 1]}\n{listed}{' ' * inner}{function[end:]}"
    return "".join([function, *(f"\n{' ' * inner}+ {other}" for other in others)])


def _headed(word: str, text: str, indent: int) -> str:
    """`if … {` and its like: a condition that leaves no room for its brace, in bytes, or that ends deeper than it began,
    has it on a line of its own."""
    body, fits = text[len(word) : -2], indent + len(text.encode()) <= WIDTH
    if fits and wide(body) <= CHAIN_WIDTH and " { " not in body:  # what may be broken all the same
        return text
    if word == "for ":
        return text  # what is gone through is a field, or a variable
    begin = body[: body.index(" = ") + 3] if body.startswith("let ") else ""
    shown = rewritten(parsed(body[len(begin) :]), indent, indent + len(word + begin), 0)
    if fits and "\n" not in shown:
        return text
    last = shown.split("\n")[-1]
    if last.strip(" )]}?") or len(last) - len(last.lstrip()) > indent:
        return f"{word}{begin}{shown}\n{' ' * indent}{{"
    return f"{word}{begin}{shown} {{"


def _arm(text: str, indent: int) -> str:
    """An arm of a match: its body beside the pattern, whose bytes rustfmt counts, not its columns; or in a block."""
    match = _ARM.match(text)
    assert match is not None
    head, body = match[0], text[match.end() :]
    if body == "{":
        return text
    *others, last = _alternatives(head)
    if others and indent + wide(head) + 1 > WIDTH:
        first = others[0] + "".join(f"\n{' ' * indent}| {each}" for each in others[1:])
        return f"{first}\n{' ' * indent}{_arm(f'| {last}{body}', indent)}"
    node, room = parsed(body), WIDTH - indent - len(head.encode())
    beside = rewritten(node, indent, WIDTH - room, 1)
    if "\n" not in beside and wide(beside) + 1 <= room:
        return f"{head}{beside},"
    inner = indent + STEP
    below = rewritten(node, inner, inner, 0)
    block = f"{head}{{\n{' ' * inner}{below}\n{' ' * indent}}}"
    if _prefers_next_line(beside, below):
        return block
    first_fits = wide(beside.split("\n")[0]) <= room
    return f"{head}{beside}," if _can_overflow(node, 1) and first_fits else block


def _alternatives(pattern: str) -> list[str]:
    """What stands between the bars of a pattern; a text may have some, too."""
    flat = hidden(pattern)
    bars = [at for at in range(len(flat)) if flat.startswith(" | ", at)]
    return [pattern[a:b] for a, b in zip([0, *(at + 3 for at in bars)], [*bars, len(pattern)], strict=True)]


def _assigned(text: str, indent: int, column: int, after: int) -> str:
    """What follows an equals sign: on the same line, or on the next if that is better."""
    node = parsed(text)
    beside = rewritten(node, indent, column, after)
    if "\n" not in beside and column + wide(beside) + after <= WIDTH:
        return f" {beside}"
    inner = indent + STEP
    below = rewritten(node, inner, inner, after)
    if not _fits(below, inner, after):
        return f" {beside}"
    if column + wide(beside.split("\n")[0]) > WIDTH:  # nothing of it can begin there
        return f"\n{' ' * inner}{below}"
    return f"\n{' ' * inner}{below}" if _prefers_next_line(beside, below) else f" {beside}"


def _fits(text: str, column: int, after: int) -> bool:
    first, *others = text.split("\n")
    lines = [column + wide(first), *map(wide, others)]
    lines[-1] += after
    return max(lines) <= WIDTH


def _prefers_next_line(beside: str, below: str) -> bool:
    if "\n" not in below:
        return True
    ends = (beside.split("\n")[0][-1:], below.split("\n")[0][-1:])
    return beside.count("\n") > below.count("\n") + 1 or any(
        ends[0] == sign and ends[1] != sign for sign in "({["
    )


# --- expressions ------------------------------------------------------------------------------------------------


def rewritten(node: Node, indent: int, column: int, after: int) -> str:
    """An expression that begins at a column of a line of that indent, and is followed by so many characters.

    What lies so deep that it has no room at all stays as it is, as with the formatter.
    """
    return node.text if indent >= WIDTH else _rewritten(node, indent, min(column, WIDTH), after)


@lru_cache(maxsize=30_000)  # what is around it tries several forms, and so does what is around that
def _rewritten(node: Node, indent: int, column: int, after: int) -> str:
    if node.kind == "atom":
        return node.text
    room = WIDTH - column - after
    match node.kind:
        case "call" | "list":
            return _bracketed(node, indent, column, after)
        case "struct":
            return _struct(node, indent, column, after)
        case "chain":
            return _chain(node, indent, column, after)
        case "closure":
            return _closure(node, indent, column, after)
        case "prefix":
            return node.head + rewritten(node.parts[0], indent, column + len(node.head), after)
        case "cast":
            return _cast(node, indent, column, after)
        case "pairs" if wide(node.text) > room:
            return _pairs(node, indent, column, after)
        case "pairs":
            shown = [rewritten(part, indent, column, after) for part in node.parts]
            if any("\n" in part for part in shown):
                return _pairs(node, indent, column, after)
            return f" {node.head} ".join(shown)
    return node.text


def _cast(node: Node, indent: int, column: int, after: int) -> str:
    """What is cast has all the room; its new type follows where there is some left."""
    cast = rewritten(node.parts[0], indent, column, 0)
    if wide(cast.rpartition("\n")[2]) + wide(node.tail) <= WIDTH - column - after:
        return cast + node.tail
    return f"{cast}\n{' ' * (indent + STEP)}{node.tail.lstrip()}"


def _pairs(node: Node, indent: int, column: int, after: int) -> str:
    inner = indent + STEP
    first, *others = node.parts
    lines = [rewritten(first, indent, column, 0)]
    lines += [
        f"{' ' * inner}{node.head} {rewritten(other, inner, inner + len(node.head) + 1, after)}"
        for other in others
    ]
    return "\n".join(lines)


def _can_overflow(node: Node, count: int) -> bool:
    """Whether the last element may stand in the arms of its call, broken."""
    if node.tail.endswith("]"):  # an index
        return False
    match node.kind:
        case "closure":
            return True
        case "call" if not node.head and len(node.parts) == 1:
            return False  # parentheses that only group
        case "call" | "chain" | "struct" | "list":
            return count == 1 and not (node.kind == "chain" and node.links[-1].call is None)
        case "prefix" | "cast":
            return _can_overflow(node.parts[0], count)
    return False


def _is_nested_call(node: Node) -> bool:
    """Whether an argument is a call, or one with a sign before or after it."""
    if node.kind in ("prefix", "cast"):
        return _is_nested_call(node.parts[0])
    return (node.kind == "call" and bool(node.head)) or (node.kind == "list" and node.head.endswith("!"))


def _is_simple(node: Node) -> bool:
    """Whether a formatter takes an element for so simple that it may share lines with others: no calls, no paths."""
    match node.kind:
        case "atom":
            return "::" not in node.text or node.text[0] in "\"'"
        case "prefix" | "cast":
            return _is_simple(node.parts[0])
        case "chain":
            return _is_simple(node.parts[0]) and all(link.call is None for link in node.links)
    return False


def _bracketed(node: Node, indent: int, column: int, after: int) -> str:
    """A call, a tuple, a list or a macro."""
    if node.kind == "call" and not node.head and len(node.parts) == 1 and not node.text.endswith(",)"):
        return f"({rewritten(node.parts[0], indent, column + 1, after + 1)}){node.tail}"  # it only groups
    opening, closing = ("(", ")") if node.kind == "call" else ("[", "]")
    if not node.parts:
        fits = not node.head or column + wide(node.text) + after <= WIDTH
        return node.text if fits else f"{node.head}{opening}\n{' ' * indent}{closing}{node.tail}"
    start = column + wide(node.head) + 1
    room = WIDTH - start - 1 - after - len(node.tail)
    limit = min(room, CALL_WIDTH)
    parts = node.parts
    behind = after + 1 + len(node.tail)
    if len(parts) == 1 and _is_nested_call(parts[0]):  # a call in a call is given less room
        behind = max(behind, WIDTH - start - CALL_WIDTH)
    shown = [rewritten(part, indent, start, behind) for part in parts]
    whole = sum(map(wide, shown)) + 2 * (len(parts) - 1)
    flat = not any("\n" in part for part in shown)
    one_comma = "," if node.text.endswith(",)") else ""
    if flat and (whole <= limit or (len(parts) == 1 and whole + len(one_comma) <= room)):
        return f"{node.head}{opening}{', '.join(shown)}{one_comma}{closing}{node.tail}"
    last = parts[-1]
    if _can_overflow(last, len(parts)):
        before = "".join(f"{part}, " for part in shown[:-1])
        broken = rewritten(last, indent, start + wide(before), behind)
        if last.kind == "closure" and len(parts) > 1:
            broken = _closure(last, indent, start + wide(before), after, block=True)
        hugs = not (node.kind == "call" and _is_vertical(last, broken, indent))
        fits = "\n" not in before and wide(before) + wide(broken.split("\n")[0]) <= limit
        if "\n" in broken and hugs and fits:
            alone = _alone(last, indent, room) if len(parts) == 1 and broken.count("\n") == 1 else None
            return f"{node.head}{opening}{alone or before + broken}{closing}{node.tail}"
    inner = indent + STEP
    if all(map(_is_simple, parts)) and all(len(part.text.encode()) <= SHORT for part in parts):
        body = _filled([part.text for part in parts], inner) + ","
        return f"{node.head}{opening}\n{body}\n{' ' * indent}{closing}{node.tail}"
    own = [rewritten(part, inner, inner, 1) for part in parts]
    if len(own) == 1 and "\n" not in own[0] and wide(own[0]) <= room:
        return f"{node.head}{opening}{own[0]}{one_comma}{closing}{node.tail}"
    body = "".join(f"{' ' * inner}{part},\n" for part in own)
    return f"{node.head}{opening}\n{body}{' ' * indent}{closing}{node.tail}"


def _alone(node: Node, indent: int, room: int) -> str | None:
    """An only element that would be broken once and needs not be on a line of its own: there, and without a comma.

    The formatter takes it for fitting beside its brackets where it is one column too wide; what is around it minds that.
    """
    inner = indent + STEP
    own = rewritten(node, inner, inner, 1)
    if "\n" in own:
        return None
    return own if wide(own) <= room + 1 else f"\n{' ' * inner}{own}\n{' ' * indent}"


def _is_vertical(node: Node, broken: str, indent: int) -> bool:
    """Whether a chain was broken before its links: it does not stand in the arms of a call."""
    if node.kind in ("prefix", "cast"):
        return _is_vertical(node.parts[0], broken, indent)
    begins = tuple(f"{' ' * (indent + step)}." for step in (0, STEP))
    return node.kind == "chain" and any(line.startswith(begins) for line in broken.split("\n")[1:])


def _filled(items: Sequence[str], indent: int, width: int = WIDTH) -> str:
    """Items that share lines as they fit."""
    lines: list[str] = []
    for item in items:
        if lines and wide(lines[-1]) + 2 + wide(item) + 1 <= width:
            lines[-1] += f", {item}"
        else:
            lines.append(" " * indent + item)
    return ",\n".join(lines)


def _struct(node: Node, indent: int, column: int, after: int) -> str:
    inside = ", ".join(part.text for part in node.parts)
    values = [_field(part.text, indent, column) for part in node.parts]
    fits = column + wide(node.text) + len(node.tail) + after <= WIDTH
    if wide(inside) <= STRUCT_WIDTH and fits and not any("\n" in value for value in values):
        return f"{node.head} {{ {inside} }}{node.tail}"
    inner = indent + STEP
    lines = [
        f"{' ' * inner}{_field(part.text, inner, inner)}{'' if part.text.startswith('..') else ','}\n"
        for part in node.parts
    ]
    return f"{node.head} {{\n{''.join(lines)}{' ' * indent}}}{node.tail}"


def _field(text: str, indent: int, column: int) -> str:
    """A field of a struct: shorthand, `name: value`, or `..rest`."""
    name, colon, value = text.partition(": ")
    if not colon or text.startswith(".."):
        return text
    head = f"{name}: "
    node = parsed(value)
    start = column + len(head)
    beside = rewritten(node, indent, start, 1)
    full = start + wide(beside.split("\n")[0]) == WIDTH  # no room for the comma, even where there is none
    if full or not _fits(beside, start, 1):
        inner = indent + STEP
        below = rewritten(node, inner, inner, 1)
        if _fits(below, inner, 1):
            return f"{name}:\n{' ' * inner}{below}"
    return head + beside


def _closure(node: Node, indent: int, column: int, after: int, *, block: bool = False) -> str:
    body = node.parts[0]
    start = column + len(node.head) + 1
    beside = rewritten(body, indent, start, after)
    if body.text == "{":
        return node.text
    fits = "\n" not in beside and start + wide(beside) + after <= WIDTH
    if (fits and not block) or body.kind == "struct":
        return f"{node.head} {beside}"
    inner = indent + STEP
    return f"{node.head} {{\n{' ' * inner}{rewritten(body, inner, inner, 0)}\n{' ' * indent}}}"


# --- chains -----------------------------------------------------------------------------------------------------


def _link(link: Link, indent: int, column: int, after: int) -> str:
    if link.call is None:
        return link.text
    return rewritten(link.call, indent, column, after + link.tries) + "?" * link.tries


def _chain(node: Node, indent: int, column: int, after: int) -> str:
    room = WIDTH - column - after
    links = list(node.links)
    budget = room if len(links) == 1 else min(room, CHAIN_WIDTH)
    root = rewritten(node.parts[0], indent, column, after)
    root_is_block = "\n" in root and node.parts[0].kind in ("call", "struct", "list", "chain")
    while links and len(root) <= STEP - (column - indent) and "\n" not in root:
        root += _link(links[0], indent, column + len(root), after if len(links) == 1 else 0)
        links.pop(0)
        root_is_block = root.rpartition("\n")[2].strip(" ()[]}?>") == ""
    if not links:
        return root
    *middle, last = links
    inner = indent if root_is_block else indent + STEP
    shown = [_link(link, inner, inner, 0) for link in middle]
    together = root + "".join(shown)
    if "\n" not in together:
        almost = wide(together)
        beside = _link(last, indent, column + almost, after)
        left = budget - almost
        first = wide(beside.split("\n")[0])
        if "\n" not in beside and almost + wide(beside) <= budget:
            return together + beside
        fits = first <= left
        if fits and beside.count("\n") >= 4:
            return together + beside
        below = _link(last, inner, inner, after)
        if fits and below.count("\n") >= beside.count("\n"):
            return together + beside
    lines = [root, *shown, _link(last, inner, inner, after)]
    return f"\n{' ' * inner}".join(lines)
