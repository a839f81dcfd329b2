"""What becomes of the public entries of one target, for clients that are written already."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from urform.comparison.aspects import BREAKS, SILENT
from urform.dataclasses import dataclass
from urform.languages.entries import GIVEN, WRITTEN, YOURS, Entry
from urform.plan.whole import Plan

PRODUCT, CHOICE, FAMILY = "product", "choice", "family"
# What is to be done for something new, by what has to be done or whose it is: in words, and how.
TO_DO = {
    GIVEN: ("what callers have to give", ""),
    YOURS: ("what you have to write", "write it: `urform generate` tells the lines"),
    PRODUCT: ("what kinds of your own need, and what tells all kinds apart", "add it to kinds of your own"),
    CHOICE: ("a word for what handles every word", "add a case for it where no default serves"),
    FAMILY: ("what families of your own have to make", "add it to families of your own"),
}


@dataclass(frozen=True, slots=True)
class EntryDifference:
    """An entry that is gone, that changed, or that clients have to give or write from now on.

    `before` is empty of what is new, `after` of what is gone; `advice` where the declaration's change has none of its own.
    """

    entry: Entry
    effect: str
    said: str
    before: str
    after: str
    advice: str = ""


def entry_differences(old: Sequence[Entry], new: Sequence[Entry], plan: Plan) -> Iterator[EntryDifference]:
    """All that clients of the `old` entries notice; `plan` is the new one."""
    broken = set()
    for each in _changed(old, new, plan):
        if each.effect == BREAKS:
            broken.add(each.entry.place)
        yield each
    for each in _demanded(old, new, plan):
        if each.entry.place not in broken:
            yield each


def _changed(old: Sequence[Entry], new: Sequence[Entry], plan: Plan) -> Iterator[EntryDifference]:
    """The entries that are gone or changed. A variant has the entries of its base, too."""
    bases = {product.name: product.base for product in plan.products.values() if product.base is not None}
    kept = {(entry.owner, entry.calls): entry.demanded for entry in new}
    there = {entry.place: entry for entry in reversed(new)}  # the first form of each
    for entry in old:
        now = there.get(entry.place)
        if entry.demanded == YOURS and now is None:
            continue  # nothing calls it any longer
        demanded = kept.get((entry.owner, entry.calls), kept.get((bases.get(entry.owner, ""), entry.calls)))
        if demanded is None or (demanded == GIVEN != entry.demanded):
            after = now.text if now is not None and now.text != entry.text else ""
            said = "an entry that changes" if after else "an entry that is gone"
            yield EntryDifference(entry, BREAKS, said, entry.text, after)
        elif entry.by_place and now is not None and now.calls == entry.calls and now.text != entry.text:
            said = "an entry that takes other values in the same places"
            yield EntryDifference(entry, SILENT, said, entry.text, now.text)


def _demanded(old: Sequence[Entry], new: Sequence[Entry], plan: Plan) -> Iterator[EntryDifference]:
    """The entries that clients have to give or write from now on."""
    known, kinds = _Known(old), _kinds(plan)
    for entry in new:
        if known.lacks(entry):
            # A file that is new has what is to be written, which fails when it is called.
            effect = SILENT if known.begins(entry) else BREAKS
            whose = kinds.get(entry.owner, PRODUCT) if entry.demanded == WRITTEN else entry.demanded
            said, advice = TO_DO[whose]
            yield EntryDifference(entry, effect, said, "", entry.text, advice)


def _kinds(plan: Plan) -> Mapping[str, str]:
    return {
        **dict.fromkeys(plan.products, PRODUCT),
        **dict.fromkeys(plan.choices, CHOICE),
        **dict.fromkeys((family.name for family in plan.families), FAMILY),
    }


class _Known:
    """What clients of the old code know."""

    def __init__(self, entries: Sequence[Entry]) -> None:
        self._calls = {(entry.owner, entry.calls) for entry in entries}
        self._owners = {entry.owner for entry in entries}
        self._files = {entry.of for entry in entries if entry.demanded == YOURS}
        self._written = {entry.owner for entry in entries if entry.demanded == WRITTEN}

    def begins(self, entry: Entry) -> bool:
        """Whether what the user has to write stands in a file that is written for it, once."""
        return entry.demanded == YOURS and entry.of not in self._files

    def lacks(self, entry: Entry) -> bool:
        """Whether clients have to do something for a new entry: of what they know, and what some of them write already."""
        if (entry.owner, entry.calls) in self._calls:
            return False
        return {
            GIVEN: (entry.owner, entry.of) in self._calls,
            WRITTEN: entry.owner in self._written,
            YOURS: entry.owner in self._owners or entry.of in self._files,
        }.get(entry.demanded, False)
