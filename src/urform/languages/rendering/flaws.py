"""How a target writes the flaws of a plan, in the code of the product or family that a flaw is about, of its base and of its
variants.

A flaw is a mistake that generated code makes when tests are challenged (`plan/flaws.py`). What it comes to in a language is a
row of a table of that target: other text for marked lines of templates (`marks.py`), which cannot touch anything else; or,
where a template has no line of its own for it, regular expressions over *logical lines*, before they are laid out. Parts
know nothing of flaws.

In `find` and `put`, `«name»` stands for what the target calls the flaw's member, and so on (see `Spelled`).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from typing import TypeVar

from urform.dataclasses import dataclass
from urform.plan.model import Flaw
from urform.plan.whole import Plan

_GROUP = re.compile(r"\\(\d)")
_PLACE = re.compile(r"«(\w+)»")
Spelled = Mapping[str, str]  # what stands for `owner`, `member`, `aspect`, and for the names of the target


@dataclass(frozen=True, slots=True)
class Rewrite:
    """One change of the text that a template gave; everywhere, or in some templates only."""

    find: str  # a regular expression; `^` and `$` are those of a line
    put: str  # with `\\1` for its groups
    templates: tuple[str, ...] = ()


def _rewritten(text: str, rewrite: Rewrite, names: Spelled) -> str:
    find = _PLACE.sub(lambda match: re.escape(names[match[1]]), rewrite.find)
    grouped = _GROUP.sub(r"\\g<\1>", rewrite.put)  # whatever comes after it, be it a digit
    put = _PLACE.sub(lambda match: names[match[1]].replace("\\", r"\\"), grouped)
    return re.sub(find, put, text, flags=re.MULTILINE)


Table = Mapping[str, Sequence[Rewrite]]  # by the name of a flaw, or by `name:aspect`
Marked = Mapping[str, Mapping[str, str]]  # by the same, then by `template.mark`: other text for the line
Row = TypeVar("Row")


@dataclass(frozen=True, slots=True)
class Changes:
    """The changes of a flaw in one template: the text of marked lines, and the names in it."""

    lines: tuple[tuple[str, str], ...]  # mark and text
    names: Spelled


class Flaws:
    """The flaws of one plan in one target."""

    def __init__(
        self, plan: Plan, table: Table, spelled: Callable[[Flaw], Spelled], marked: Marked | None = None
    ) -> None:
        self._plan = plan
        self._table = table
        self._spelled = spelled
        self._marked = marked or {}

    def changes(self, template: str, of: str) -> Changes | None:
        """The changes of the first flaw that concerns a template. An `of` that is empty stands for support code."""
        for flaw in self._plan.flaws:
            row = _row(self._marked, flaw)
            if row is not None and self._concerns(flaw, of):
                split = ((place.split("."), text) for place, text in row.items())
                lines = tuple((mark, text) for (there, mark), text in split if there == template)
                if lines:
                    return Changes(lines, self._spelled(flaw))
        return None

    def applied(self, template: str, of: str, text: str) -> str:
        """The text of a template for a product or family, with the mistakes that it is to make.

        An `of` that is empty stands for the support code, which serves all.
        """
        for flaw in self._plan.flaws:
            if self._concerns(flaw, of):
                for rewrite in _row(self._table, flaw) or ():
                    if template in rewrite.templates or not (rewrite.templates or not of):
                        text = _rewritten(text, rewrite, self._spelled(flaw))
        return text

    def _base(self, name: str) -> str | None:
        product = self._plan.products.get(name)
        return product.base if product is not None else None

    def _concerns(self, flaw: Flaw, of: str) -> bool:
        return not of or flaw.owner in (of, self._base(of)) or of == self._base(flaw.owner)


def _row(table: Mapping[str, Row], flaw: Flaw) -> Row | None:
    """The row of a flaw: that of its aspect, else the one for all aspects."""
    keys = (f"{flaw.name}:{flaw.aspect}", f"{flaw.name}:{flaw.aspect.partition('.')[0]}.", flaw.name)
    return next((table[key] for key in keys if key in table), None)
