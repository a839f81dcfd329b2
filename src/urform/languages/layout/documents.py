"""Documents: text with places at which it may be broken, printed within a width.

The algebra of Philip Wadler's "A prettier printer" (2003), with what formatters in use have added to it: groups that try
several forms one after the other, fillings, and text that depends on whether a group is broken.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import field

from urform.dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Line:
    """A line end where its group is broken; else a blank, or nothing if it is `soft`. A `hard` one always is one."""

    soft: bool = False
    hard: bool = False


@dataclass(frozen=True, slots=True)
class Indent:
    """One level further in."""

    inner: Doc


@dataclass(frozen=True, slots=True)
class Group:
    """On one line if it fits, else broken; with `states`, the first of them that fits.

    `breaks`: it has a line end however wide the page is. `flat`: its text on one line, None if it has none. Every group
    knows both, since whoever is around it asks, and a document is printed more than once.
    """

    inner: Doc
    broken: bool = False
    states: tuple[Doc, ...] = ()
    name: str = ""
    breaks: bool = field(init=False, compare=False)
    flat: str | None = field(init=False, compare=False)

    def __post_init__(self) -> None:
        flat = None if self.broken else on_one_line(self.inner)
        object.__setattr__(self, "flat", flat)
        # What has a text on one line has no line end: only the rest is looked through.
        breaks = self.broken or (flat is None and not self.states and will_break(self.inner))
        object.__setattr__(self, "breaks", breaks)


@dataclass(frozen=True, slots=True)
class Fill:
    """Contents and separators by turns; only those separators are broken that have to be.

    `begin`: where a printer goes on in the parts, which are too many to be copied again and again.
    """

    parts: tuple[Doc, ...]
    begin: int = 0


@dataclass(frozen=True, slots=True)
class IfBroken:
    """One of two documents, by whether a group is broken: the one around it, or a named one."""

    broken: Doc
    flat: Doc = ""
    name: str = ""


@dataclass(frozen=True, slots=True)
class IndentIfBroken:
    """One level further in, if a named group is broken."""

    inner: Doc
    name: str


@dataclass(frozen=True, slots=True)
class Break:
    """Nothing, but the groups around it are broken."""


Doc = str | tuple["Doc", ...] | Line | Indent | Group | Fill | IfBroken | IndentIfBroken | Break

LINE, SOFT, HARD = Line(), Line(soft=True), Line(hard=True)
FLAT, BROKEN = False, True
Command = tuple[int, bool, Doc]


def joined(separator: Doc, parts: Iterable[Doc]) -> tuple[Doc, ...]:
    """The parts with a separator between each two."""
    docs: list[Doc] = []
    for part in parts:
        docs += [separator, part] if docs else [part]
    return tuple(docs)


def commas(parts: Iterable[Doc]) -> tuple[Doc, ...]:
    """The parts with a comma after each but the last, where a line may end."""
    docs: list[Doc] = []
    for part in parts:
        if docs:
            last = docs.pop()
            docs += [f"{last},", LINE] if isinstance(last, str) else [last, ",", LINE]
        docs.append(part)
    return tuple(docs)


def will_break(doc: Doc) -> bool:
    """Whether a document has a line end however wide the page is."""
    match doc:
        case str():
            return False
        case tuple():
            return any(map(will_break, doc))
        case Group(breaks=breaks) | Line(hard=breaks):
            return breaks
        case Indent(inner) | IndentIfBroken(inner):
            return will_break(inner)
        case Fill(parts):
            return any(map(will_break, parts))
        case Break():
            return True
    return False


def on_one_line(doc: Doc) -> str | None:
    """A document on one line; None if it has a line end however wide the page is."""
    match doc:
        case str():
            return doc
        case tuple():
            return _together(doc)
        case Group(flat=flat):
            return flat
        case Line(soft, hard):
            return None if hard else "" if soft else " "
        case Indent(inner) | IndentIfBroken(inner) | IfBroken(flat=inner):
            return on_one_line(inner)
        case Fill(parts):
            return _together(parts)
        case Break():
            return None


def _together(parts: tuple[Doc, ...]) -> str | None:
    texts: list[str] = []
    for part in parts:
        text = part if isinstance(part, str) else on_one_line(part)
        if text is None:
            return None
        texts.append(text)
    return "".join(texts)


class Page:
    """Prints one document."""

    def __init__(self, width: int, indent: str, columns: Callable[[str], int]) -> None:
        self._width = width
        self._indent = indent
        self._columns = columns
        self._modes: dict[str, bool] = {}

    def text(self, doc: Doc, level: int = 0) -> str:
        """The document, from a line that is `level` steps in; its first line is not indented."""
        out: list[str] = []
        at = level * len(self._indent)
        waiting: list[Command] = [(level, BROKEN, doc)]
        while waiting:
            level, mode, doc = waiting.pop()
            match doc:
                case str():
                    out.append(doc)
                    at += len(doc) if doc.isascii() else self._columns(doc)
                case tuple():
                    waiting += [(level, mode, part) for part in reversed(doc)]
                case Line(soft, hard):
                    if mode == FLAT and not hard:
                        out.append("" if soft else " ")
                        at += 0 if soft else 1
                    else:
                        out.append("\n" + self._indent * level)
                        at = len(self._indent) * level
                case Group():
                    waiting.append(self._group(level, mode, doc, at, waiting))
                case Indent(inner):
                    waiting.append((level + 1, mode, inner))
                case IfBroken(broken, flat, name):
                    waiting.append((level, mode, broken if self._modes.get(name, mode) else flat))
                case IndentIfBroken(inner, name):
                    waiting.append((level + self._modes.get(name, FLAT), mode, inner))
                case Fill():
                    waiting += self._fill(level, mode, doc, at)
                case Break():
                    pass
        text = "".join(out)
        if " \n" not in text and not text.endswith(" "):
            return text
        return "\n".join(line.rstrip(" ") for line in text.split("\n"))

    def _group(self, level: int, mode: bool, group: Group, at: int, rest: Sequence[Command]) -> Command:
        chosen = self._chosen(level, mode, group, at, rest)
        if group.name:
            self._modes[group.name] = chosen[1]
        return chosen

    def _chosen(self, level: int, mode: bool, group: Group, at: int, rest: Sequence[Command]) -> Command:
        breaks = group.breaks
        if mode == FLAT:
            return level, breaks, group.inner
        room = self._width - at
        first: Command = (level, FLAT, group.inner if group.flat is None else group.flat)
        if not breaks and self._fits(first, rest, room):
            return first
        if not group.states:
            return level, BROKEN, group.inner
        for state in group.states[1:-1]:
            if not breaks and self._fits((level, FLAT, state), rest, room):
                return level, FLAT, state
        return level, BROKEN, group.states[-1]

    def _fill(self, level: int, mode: bool, fill: Fill, at: int) -> list[Command]:
        parts, begin = fill.parts, fill.begin
        left = len(parts) - begin
        if left == 0:
            return []
        room = self._width - at
        content = parts[begin]
        flat, broken = (level, FLAT, content), (level, BROKEN, content)
        fits = self._fits(flat, (), room, flat_only=True)
        if left == 1:
            return [flat if fits else broken]
        separator = parts[begin + 1]
        if left == 2:
            return [(level, not fits, separator), flat if fits else broken]
        both = (level, FLAT, (content, separator, parts[begin + 2]))
        rest: Command = (level, mode, Fill(parts, begin + 2))
        if self._fits(both, (), room, flat_only=True):
            return [rest, (level, FLAT, separator), flat]
        return [rest, (level, BROKEN, separator), flat if fits else broken]

    def _fits(self, first: Command, rest: Sequence[Command], room: int, *, flat_only: bool = False) -> bool:
        """Whether a command fits, with what follows it up to the first line end there may be."""
        at = len(rest)
        waiting = [first]
        while room >= 0:
            if not waiting:
                if at == 0:
                    return True
                at -= 1
                waiting.append(rest[at])
                continue
            level, mode, doc = waiting.pop()
            match doc:
                case str():
                    room -= len(doc) if doc.isascii() else self._columns(doc)
                case tuple():
                    waiting += [(level, mode, part) for part in reversed(doc)]
                case Line(soft, hard):
                    if mode == BROKEN or hard:
                        return True
                    room -= 0 if soft else 1
                case Group(inner, _, states):
                    if flat_only and doc.breaks:
                        return False
                    if mode == FLAT and doc.flat is not None:
                        room -= self._columns(doc.flat)
                        continue
                    breaks = mode or doc.breaks
                    waiting.append((level, breaks, states[-1] if states and breaks else inner))
                case Indent(inner) | IndentIfBroken(inner):
                    waiting.append((level, mode, inner))
                case IfBroken(broken_, flat, name):
                    waiting.append((level, mode, broken_ if self._modes.get(name, mode) else flat))
                case Fill(parts, begin):
                    waiting += [(level, mode, part) for part in reversed(parts[begin:])]
        return False
