"""What a change of a declaration does to clients of the generated code, target by target."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from typing import Any

from urform.comparison.aspects import ASPECTS, BREAKS, EFFECTS, HARMLESS, SILENT
from urform.comparison.differences import Difference, differences
from urform.dataclasses import dataclass
from urform.languages.entries import GIVEN, WRITTEN, YOURS, Entry
from urform.languages.target import Target
from urform.plan.whole import Plan

JSON_VERSION = 1


@dataclass(frozen=True, slots=True)
class Change:
    """What one thing that differs does to clients of one target.

    `before` and `after` are entries as the language has them, or else what the declaration says. Either may be empty, of what
    is new or gone.
    """

    path: str
    target: str
    effect: str
    said: str
    before: str
    after: str
    advice: str
    of_entry: bool = False

    @property
    def owner(self) -> str:
        """The product, choice or family; empty of what is nobody's."""
        return self.path.partition(".")[0]


@dataclass(frozen=True, slots=True)
class Comparison:
    """What the differences between two plans do."""

    changes: tuple[Change, ...]
    targets: tuple[str, ...]

    @property
    def breaking(self) -> tuple[Change, ...]:
        """The changes that break clients."""
        return tuple(change for change in self.changes if change.effect == BREAKS)

    def number(self, effect: str) -> int:
        """How many things change so, in whatever number of targets."""
        return len({(change.path, change.said) for change in self.changes if change.effect == effect})

    def broken(self, target: str) -> bool:
        """Whether something breaks clients of a target."""
        return any(change.target == target for change in self.breaking)


def compare(old: Plan, new: Plan, targets: Sequence[Target]) -> Comparison:
    """Compare what is made for two plans; the old one's clients are meant."""
    found = differences(old, new)
    changes = [
        change
        for target in targets
        for change in of_target(target.name, found, target.entries(old), target.entries(new), new)
    ]
    return Comparison(tuple(changes), tuple(target.name for target in targets))


def as_json(comparison: Comparison) -> dict[str, Any]:
    """The shape of `compare --json`; docs/json.md describes it."""
    return {
        "version": JSON_VERSION,
        "changes": [
            {
                "path": change.path,
                "target": change.target,
                "effect": change.effect,
                "what": change.said,
                "before": change.before,
                "after": change.after,
                "advice": change.advice,
            }
            for change in sorted(comparison.changes, key=lambda change: EFFECTS.index(change.effect))
        ],
    }


def of_target(
    target: str,
    found: Sequence[Difference],
    old: Sequence[Entry],
    new: Sequence[Entry],
    plan: Plan,
) -> Iterator[Change]:
    """The changes for one target: of its entries, then of what the new `plan` says otherwise."""
    entries = list(dict.fromkeys(_of_entries(target, found, old, new, plan)))  # forms of one are told once
    yield from entries
    broken = {change.owner for change in entries if change.effect == BREAKS}
    moved = {change.owner for change in entries if change.effect == SILENT}
    for each in found:
        is_order = each.said == ASPECTS["order"].said
        if each.effect == HARMLESS and (each.owner in broken or (is_order and each.owner in moved)):
            continue  # entries say what it does
        yield Change(each.path, target, each.effect, each.said, each.before, each.after, each.advice)


def _of_entries(
    target: str,
    found: Sequence[Difference],
    old: Sequence[Entry],
    new: Sequence[Entry],
    plan: Plan,
) -> Iterator[Change]:
    """What becomes of entries: those that are gone or changed, and those that clients have to give from now on.

    A variant has the entries of its base, too.
    """
    bases = {product.name: product.base for product in plan.products.values() if product.base is not None}
    kinds = {**dict.fromkeys(plan.products, PRODUCT), **dict.fromkeys(plan.choices, CHOICE)}
    kinds |= dict.fromkeys((family.name for family in plan.families), FAMILY)
    kept = {(entry.owner, entry.calls): entry.demanded for entry in new}
    there = {entry.place: entry for entry in reversed(new)}  # the first form of each
    surface = Surface(old)
    broken: set[Place] = set()
    for entry in old:
        now = there.get(entry.place)
        if entry.demanded == YOURS and now is None:
            continue  # nothing calls it any longer
        calls = (entry.owner, entry.calls)
        demanded = kept.get(calls, kept.get((bases.get(entry.owner, ""), entry.calls)))
        if demanded is None or (demanded == GIVEN != entry.demanded):
            broken.add(entry.place)
            after = now.text if now is not None and now.text != entry.text else ""
            said = "an entry that changes" if after else "an entry that is gone"
            yield _change(target, BREAKS, said, entry, entry.text, after, found)
        elif entry.by_place and now is not None and now.calls == entry.calls and now.text != entry.text:
            said = "an entry that takes other values in the same places"
            yield _change(target, SILENT, said, entry, entry.text, now.text, found)
    for entry in new:
        if entry.place not in broken and surface.lacks(entry):
            # A file that is new has what is to be written, which fails when it is called.
            effect = SILENT if surface.begins(entry) else BREAKS
            said, advice = TO_DO[
                kinds.get(entry.owner, PRODUCT) if entry.demanded == WRITTEN else entry.demanded
            ]
            change = _change(target, effect, said, entry, "", entry.text, found)
            yield replace(change, advice=advice or change.advice)


Place = tuple[str, str, str]
PRODUCT, CHOICE, FAMILY = "product", "choice", "family"
# What is to be done for something new, by what has to be done or whose it is: in words, and how.
TO_DO = {
    GIVEN: ("what callers have to give", ""),
    YOURS: ("what you have to write", "write it: `urform generate` tells the lines"),
    PRODUCT: ("what kinds of your own need, and what tells all kinds apart", "add it to kinds of your own"),
    CHOICE: ("a word for what handles every word", "add a case for it where no default serves"),
    FAMILY: ("what families of your own have to make", "add it to families of your own"),
}


class Surface:
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
        match entry.demanded:
            case "given":
                return (entry.owner, entry.of) in self._calls
            case "written":
                return entry.owner in self._written
            case "yours":
                return entry.owner in self._owners or entry.of in self._files
        return False


def _change(
    target: str, effect: str, said: str, entry: Entry, before: str, after: str, found: Iterable[Difference]
) -> Change:
    path = f"{entry.owner}.{entry.member}" if entry.member else entry.owner
    return Change(path, target, effect, said, before, after, _advice(entry, path, found), of_entry=True)


def _advice(entry: Entry, path: str, found: Iterable[Difference]) -> str:
    """That of the difference that it is about; of several the first that is about the whole."""
    own = [each for each in found if each.path == path] or [
        each for each in found if each.owner == entry.owner
    ]
    return next((each.advice for each in own if each.advice), "change what names it")
