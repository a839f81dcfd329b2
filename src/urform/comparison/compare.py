"""What a change of a declaration does to clients of the generated code, target by target."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from urform.comparison.aspects import ASPECTS, BREAKS, EFFECTS, HARMLESS, SILENT
from urform.comparison.differences import Difference, differences
from urform.comparison.entries import EntryDifference, entry_differences
from urform.dataclasses import dataclass
from urform.languages.entries import Entry
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
    entries = entry_differences(old, new, plan)
    told = list(dict.fromkeys(_change(target, each, found) for each in entries))  # forms of one are told once
    yield from told
    broken = {change.owner for change in told if change.effect == BREAKS}
    moved = {change.owner for change in told if change.effect == SILENT}
    for each in found:
        is_order = each.said == ASPECTS["order"].said
        if each.effect == HARMLESS and (each.owner in broken or (is_order and each.owner in moved)):
            continue  # entries say what it does
        yield Change(each.path, target, each.effect, each.said, each.before, each.after, each.advice)


def _change(target: str, of: EntryDifference, found: Sequence[Difference]) -> Change:
    entry = of.entry
    path = f"{entry.owner}.{entry.member}" if entry.member else entry.owner
    advice = of.advice or _advice(entry, path, found)
    return Change(path, target, of.effect, of.said, of.before, of.after, advice, of_entry=True)


def _advice(entry: Entry, path: str, found: Iterable[Difference]) -> str:
    """That of the difference that it is about; of several the first that is about the whole."""
    own = [each for each in found if each.path == path] or [
        each for each in found if each.owner == entry.owner
    ]
    return next((each.advice for each in own if each.advice), "change what names it")
