"""Marked lines of templates that are public entries: collected as data while a template is rendered.

A mark ends a line, two spaces after it and before the mark of a flaw: `«@ f.name»`. It names the member that the line is
about; in a loop, or where a product has several of the kind, by this a changed line is found again. Named values say more:
`calls=` what clients depend on, where that is not the whole line, `given=` whether callers have to give it, `written=` whether
who has kinds of their own has to write it, `owner=`
whose it is, where that is not what the template is about. A mark whose member is `false` is none.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from urform.languages.entries import GIVEN, WRITTEN, Entry
from urform.languages.layout.columns import TAB

MARK = re.compile(r"  «@(?: (?P<values>.*?))?»(?=$|  «#)", re.MULTILINE)
_SIGN, _NEXT = "\x0e", "\x0f"  # around what a mark says, and between its values
_MARKED = re.compile(f"^(?P<line>[^{_SIGN}\n]*){_SIGN}(?P<said>[^{_SIGN}]*){_SIGN}", re.MULTILINE)
_ENDS = " \t{;,:"  # of a line, and no part of a signature


def with_calls(source: str) -> str:
    """The source of a template with a call of `entry` for each mark."""

    def put(match: re.Match[str]) -> str:
        line = source.count("\n", 0, match.start()) + 1
        values = f", {match['values']}" if match["values"] else ""
        return f"«entry({line}{values})»"

    return MARK.sub(put, source)


def entry(
    place: object,
    member: object = "",
    *,
    calls: str | Iterable[str] | None = None,
    given: object = False,
    written: object = False,
    owner: str = "",
) -> str:
    """What a rendered line says of itself; nothing where `member` is false.

    `place` is its line in the template, or a word for what is written elsewhere.
    """
    if member is False or member is None:
        return ""
    several = [calls or ""] if calls is None or isinstance(calls, str) else [*calls]
    demanded = GIVEN if given else WRITTEN if written else ""
    said = [str(place), str(member), demanded, owner, *several]
    return f"{_SIGN}{_NEXT.join(said)}{_SIGN}"


def collected(text: str, template: str, of: str) -> tuple[str, list[Entry]]:
    """Rendered text without what its lines say of themselves, and that as data: an entry for each form of a call."""
    if _SIGN not in text:
        return text, []
    entries: list[Entry] = []

    def take(match: re.Match[str]) -> str:
        line, member, demanded, owner, *several = match["said"].split(_NEXT)
        shown = _signature(match["line"])
        for calls in several:
            place = f"{template}:{line}"
            entries.append(Entry(owner or of, member, place, shown, calls or shown, demanded))
        return match["line"]

    return _MARKED.sub(take, text), entries


def _signature(line: str) -> str:
    """A line without its body, and in one piece."""
    shown = " ".join(line.replace(TAB, " ").split())
    body = shown.rfind(" {") if shown.endswith("}") else -1
    return (shown if body < 0 else shown[:body]).rstrip(_ENDS)
