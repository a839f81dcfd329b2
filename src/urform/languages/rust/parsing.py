"""Expressions of generated Rust code, read from one line: just so far as a formatter looks into them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import field
from functools import lru_cache
from itertools import pairwise

from urform.dataclasses import dataclass

_MARKS = re.compile(r"""b?"(?:\\.|[^"\\])*"|'(?:\\(?:u\{[^}]*\}|.)|[^'\\])'|[()\[\]{}<>|]""")
_OPENING, _CLOSING = frozenset("([{"), frozenset(")]}")
_PLAIN = re.compile(r'\w+|"(?:\\.|[^"\\])*"')
_LOGIC = (" || ", " && ")
_COMPARISON = re.compile(r" (?:==|!=|<=|>=|<|>) ")
_CLOSURE = re.compile(r"(?:move )?\|[^|]*\|(?: |$)")
_PREFIX = re.compile(r"&mut |&|\*|!|-(?=\D)")
_OPENS, _CLOSES = re.compile(r"[(\[]"), re.compile(r"[)\]]")
_LINK = re.compile(r"\.(?=[A-Za-z_])|\?")
_HIDDEN = "\x04"
_ALL = f"[{_HIDDEN * 2}]"  # `[..]`, with what is in brackets blanked out


@dataclass(frozen=True, slots=True, eq=False)  # told apart by identity, for layouts are kept by it
class Node:
    """An expression: its text on one line, what it is, and its parts.

    `kind` is `atom`, `call` (of a function or macro), `list` (in square brackets), `struct`, `chain`, `closure`, `prefix`,
    `pairs` (of one operator) or `cast`; `head` is what stands before the parts.
    """

    text: str
    kind: str = "atom"
    head: str = ""
    parts: tuple[Node, ...] = ()
    links: tuple[Link, ...] = ()
    tail: str = ""


@dataclass(frozen=True, slots=True)
class Link:
    """A part of a chain: `.name`, `.name(…)`, each with its question marks."""

    text: str
    call: Node | None = field(default=None)  # with its head `.name`
    tries: int = 0


def hidden(text: str) -> str:
    """The text with what is in brackets and quotes blanked out, each character by one."""
    if _MARKS.search(text) is None:
        return text
    pieces: list[str] = []
    depth, end = 0, 0
    for match in _MARKS.finditer(text):
        at, sign = match.start(), match[0]
        if at < end:  # among the parameters of a closure
            continue
        between = text[end:at]
        pieces.append(between if depth == 0 else _HIDDEN * len(between))
        end = match.end()
        if sign == "|" and _begins_closure(text, at):
            end = text.find("|", end) + 1 or len(text)
        if end - at > 1:
            pieces.append(_HIDDEN * (end - at))
            continue
        if sign in _CLOSING or (sign == ">" and depth > 0 and _is_angle(text, at)):
            depth -= 1
        pieces.append(sign if depth == 0 else _HIDDEN)
        if sign in _OPENING or (sign == "<" and (text[at - 1 : at].isalnum() or text[at - 1 : at] == ":")):
            depth += 1
    rest = text[end:]
    return "".join([*pieces, rest if depth == 0 else _HIDDEN * len(rest)])


def _begins_closure(text: str, at: int) -> bool:
    """Whether a bar opens the parameters of a closure."""
    before = text[:at].rstrip()
    return text[at + 1 : at + 2] != "|" and (before[-1:] in ("", "(", ",", "=") or before.endswith("move"))


def _is_angle(text: str, at: int) -> bool:
    return text[at - 1] not in "-= "


def split(text: str) -> list[str]:
    """The parts between commas that are in no bracket."""
    return _between_commas(text, hidden(text))


def _between_commas(text: str, flat: str) -> list[str]:
    parts = [part.strip() for part in _cut(text, flat, ",")]
    return parts if parts[-1] else parts[:-1]


@lru_cache(maxsize=20_000)  # many expressions are the same in all products
def parsed(text: str) -> Node:
    """An expression that was written on one line."""
    if _PLAIN.fullmatch(text):
        return Node(text)
    flat = hidden(text)
    closure = _CLOSURE.match(text)
    if closure is not None:
        return Node(text, "closure", closure[0].rstrip(), (parsed(text[closure.end() :]),))
    for operator in _LOGIC:
        operands = _cut(text, flat, operator)
        if len(operands) > 1:
            return Node(text, "pairs", operator.strip(), tuple(map(parsed, operands)))
    compared = _COMPARISON.search(flat)
    if compared is not None:
        sides = (text[: compared.start()], text[compared.end() :])
        return Node(text, "pairs", compared[0].strip(), tuple(map(parsed, sides)))
    if " as " in flat:
        at = flat.rindex(" as ")
        return Node(text, "cast", "", (parsed(text[:at]),), tail=text[at:])
    prefix = _PREFIX.match(text)
    if prefix is not None:
        return Node(text, "prefix", prefix[0], (parsed(text[prefix.end() :]),))
    return _postfix(text, flat)


def _cut(text: str, flat: str, operator: str) -> list[str]:
    begin, parts = 0, []
    while (at := flat.find(operator, begin)) >= 0:
        parts.append(text[begin:at])
        begin = at + len(operator)
    return [*parts, text[begin:]]


def _postfix(text: str, flat: str) -> Node:
    """A chain, or what has no links."""
    cuts = [match.start() for match in _LINK.finditer(flat) if match.start() > 0]
    if not cuts or flat[0].isdigit():
        return _primary(text, flat)
    root = text[: cuts[0]]
    links = list(_links(text, [*cuts, len(text)]))
    if not links:
        return _primary(text, flat)
    tries = len(text[cuts[0] :]) - len(text[cuts[0] :].lstrip("?"))
    first = parsed(root)
    if tries:
        first = Node(
            root + "?" * tries, first.kind, first.head, first.parts, first.links, first.tail + "?" * tries
        )
    links = [link for link in links if link.text]
    return Node(text, "chain", "", (first,), tuple(links)) if links else first


def _links(text: str, cuts: list[int]) -> Iterator[Link]:
    links: list[Link] = []
    for begin, end in pairwise(cuts):
        part = text[begin:end]
        if part == "?":
            if links:
                last = links.pop()
                links.append(Link(f"{last.text}?", last.call, last.tries + 1))
            else:
                links.append(Link(""))
            continue
        call = _primary(part, hidden(part))
        links.append(Link(part, call if call.kind == "call" else None))
    return iter(links)


def _primary(text: str, flat: str) -> Node:
    """A call, a literal in brackets, a struct, or an atom; of the first two, all elements may be asked for: `[..]`."""
    if (
        text.endswith("[..]")
        and flat.endswith(_ALL)
        and (of := _primary(text[: -len(_ALL)], flat[: -len(_ALL)])).parts
    ):
        return Node(text, of.kind, of.head, of.parts, of.links, of.tail + "[..]")
    if flat[-1:] == "}" and " {" in flat:
        at = flat.index(" {")
        body = text[at + 3 : -2]
        return Node(text, "struct", text[:at], tuple(Node(part) for part in split(body)))
    if flat[0] == "(" and ")(" in flat:  # what is in parentheses is called
        at = flat.index(")(") + 1
        return Node(text, "call", text[:at], _primary(text[at:], flat[at:]).parts)
    opening, closing = _OPENS.search(flat), _CLOSES.search(flat)
    if opening is None or closing is None or closing.end() != len(flat):
        return Node(text)
    is_call, head, body = opening[0] == "(", text[: opening.start()], text[opening.end() : -1]
    if not body:
        return Node(text, "call" if is_call else "atom", head)
    inside = hidden(body)
    if ";" in inside:  # a list of one value so many times
        return Node(text)
    return Node(text, "call" if is_call else "list", head, tuple(map(parsed, _between_commas(body, inside))))
