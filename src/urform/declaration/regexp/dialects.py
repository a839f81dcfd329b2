"""I-Regexp in other dialects of regular expressions."""

from __future__ import annotations

import re
from collections.abc import Sequence

from urform.declaration.regexp.automaton import automaton
from urform.declaration.regexp.syntax import BadPattern

_PART = re.compile(r"\\.|\[(?:\\.|[^\\\]])*\]|.", re.DOTALL)  # an escape, a class, or a character by itself
_ANCHORS = "^$"


def in_ecmascript(pattern: str) -> str:
    """The same for ECMAScript with the flag `u`, as JSON Schema has it (RFC 9485, section 5.3): anchored, and without what
    its syntax takes otherwise."""
    return f"^(?:{_PART.sub(_part, pattern)})$"


def _part(match: re.Match[str]) -> str:
    part = match[0]
    if part == ".":
        return "[^\\n\\r]"
    if part == "\\-":  # outside of a class it needs no escape, and may have none
        return "-"
    return f"\\{part}" if part in _ANCHORS else part


# Of ECMAScript: what I-Regexp has no escape for, as a class of its own and as members of a class.
_CLASSES = {
    "d": "0-9",
    "w": "A-Za-z0-9_",
    "s": r"\t\n\r ",
}
_SETS = {r"\d", r"\w", r"\s"}
EVERY_TEXT = r"(.|\n|\r)*"


def from_ecmascript(pattern: str) -> str | None:
    """The same as I-Regexp, which is about the whole text: `EVERY_TEXT` if that is what it comes to, None where it has no such
    form.

    Classes mean ASCII there, as they do in ECMAScript; `\\s` is the blanks of it.
    """
    parts = _PART.findall(pattern.replace("(?:", "("))
    begins, ends = parts[:1] == ["^"], parts[-1:] == ["$"]
    parts = parts[begins : len(parts) - ends]
    if _has_branches(parts):
        if begins or ends:
            return None  # an anchor belongs to its branch alone
        parts = ["(", *parts, ")"]
    while not begins and parts[:2] == [".", "*"]:
        del parts[:2]
    while not ends and parts[-2:] == [".", "*"]:
        del parts[-2:]
    if not parts and not (begins and ends):
        return EVERY_TEXT
    whole = ("" if begins else EVERY_TEXT) + "".join(map(_translated, parts)) + ("" if ends else EVERY_TEXT)
    try:
        automaton(whole)
    except BadPattern:
        return None
    return whole


def _has_branches(parts: Sequence[str]) -> bool:
    """Whether a `|` stands outside of all groups."""
    depth = 0
    for part in parts:
        depth += {"(": 1, ")": -1}.get(part, 0)
        if part == "|" and depth == 0:
            return True
    return False


def _translated(part: str) -> str:
    if part.startswith("["):
        return _class(part)
    if part.startswith("\\"):
        return _escape(part[1])
    return part


def _escape(char: str) -> str:
    if char.lower() in _CLASSES:
        return f"[{'^' if char.isupper() else ''}{_CLASSES[char.lower()]}]"
    return _plain(char)


def _class(part: str) -> str:
    """A class in brackets. A `-` that joins nothing may stand anywhere in ECMAScript; it has an escape then."""
    inner = part[1:-1]
    complement = "^" if inner.startswith("^") else ""
    members = re.findall(r"\\.|.", inner.removeprefix("^"), re.DOTALL)
    written: list[str] = []
    may_join = False  # the member before can begin a range
    for number, member in enumerate(members):
        joins = member == "-" and may_join and number + 1 < len(members)
        joins = (
            joins and members[number + 1].lower() not in _SETS and members[number - 1].lower() not in _SETS
        )
        written.append(_member(member) if member != "-" or joins else r"\-")
        was_joined = number > 0 and members[number - 1] == "-" and written[-2] == "-"
        may_join = not joins and not was_joined
    return f"[{complement}{''.join(written)}]"


def _member(member: str) -> str:
    if not member.startswith("\\"):
        return member
    char = member[1]
    return "$" if char == "$" else _CLASSES.get(char) or _plain(char)


def _plain(char: str) -> str:
    """An escaped character; what needs no escape may have none in I-Regexp."""
    if char == "$":
        return "[$]"
    return f"\\{char}" if char in "()*+-.?[]\\^nrt{|}pP" or char.isalnum() else char
