"""Marked lines of templates that are public entries: collected as data while a template is rendered.

A mark ends a line, two spaces after it and before the mark of a flaw: `«@ f.name»`. It names the member that the line is
about; in a loop, or where a product has several of the kind, by this a changed line is found again. A mark whose member is
`false` is none. Named values say more:

- `calls=` what clients depend on, where that is not the whole line, or several such, where it can be called in several ways;
- `by_place=` that values are given by their place: the line with other names takes other values;
- `keywords=` what is given by its name, as triples of name, type, and whether callers have to give it; `absent=` ends the
  type of what may be nothing, which takes whatever the type without it takes;
- `given=` that callers have to give it, and `of=` the calls of the entry to which;
- `written=` that who has kinds of their own has to write it;
- `owner=` whose it is, where that is not what the template is about.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Iterator
from typing import Any

from urform.languages.entries import GIVEN, WRITTEN, Entry
from urform.languages.layout.columns import TAB

MARK = re.compile(r"  «@(?: (?P<values>.*?))?»(?=$|  «#)", re.MULTILINE)
_SIGN = "\x0e"  # around what a mark says
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
    by_place: object = False,
    keywords: Iterable[tuple[str, str, bool]] = (),
    absent: str = "",
    of: str = "",
    given: object = False,
    written: object = False,
    owner: str = "",
) -> str:
    """What a rendered line says of itself; nothing where `member` is false.

    `place` is its line in the template, or a word for what is written elsewhere.
    """
    if member is False or member is None:
        return ""
    said = {
        "place": str(place),
        "member": str(member),
        "calls": [calls or ""] if calls is None or isinstance(calls, str) else [*calls],
        "by_place": bool(by_place),
        "keywords": [*keywords],
        "absent": absent,
        "of": of,
        "demanded": GIVEN if given else WRITTEN if written else "",
        "owner": owner,
    }
    return f"{_SIGN}{json.dumps(said)}{_SIGN}"


def collected(text: str, template: str, of: str) -> tuple[str, list[Entry]]:
    """Rendered text without what its lines say of themselves, and that as data: an entry for each form of a call."""
    if _SIGN not in text:
        return text, []
    entries: list[Entry] = []

    def take(match: re.Match[str]) -> str:
        said = json.loads(match["said"])
        entries.extend(_entries(said, _signature(match["line"]), template, said["owner"] or of))
        return match["line"]

    return _MARKED.sub(take, text), entries


def _entries(said: dict[str, Any], shown: str, template: str, owner: str) -> Iterator[Entry]:
    place, member = f"{template}:{said['place']}", said["member"]
    for calls in said["calls"]:
        demanded, of, by_place = said["demanded"], said["of"], said["by_place"]
        yield Entry(owner, member, place, shown, calls or shown, demanded, of, by_place)
    for name, type_, has_to in said["keywords"]:
        of, demanded = said["of"] or said["calls"][0], GIVEN if has_to else ""
        shown = f"{of}({name}: {type_})"
        for taken in dict.fromkeys((type_, type_.removesuffix(said["absent"]))):
            yield Entry(owner, name, f"{place}({name})", shown, f"({name}: {taken})", demanded, of)


def _signature(line: str) -> str:
    """A line without its body, and in one piece."""
    shown = " ".join(line.replace(TAB, " ").split())
    body = shown.rfind(" {") if shown.endswith("}") else -1
    return (shown if body < 0 else shown[:body]).rstrip(_ENDS)
