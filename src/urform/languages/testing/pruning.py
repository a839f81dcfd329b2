"""Finds what one test needs of a package's files and functions: the rest need not be compiled to try it.

Names are enough to tell: what mentions none of the names that something declares does not need it. Too much may be kept, never too
little, for a method is needed with its type. How a language declares names stands where it is tried.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from urform.dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Unit:
    """A file, or a function: the names that it declares, the types that it has methods of, the names that it mentions."""

    declares: frozenset[str]
    receivers: frozenset[str]
    mentions: frozenset[str]


def needed(units: Mapping[str, Unit], wanted: Iterable[str]) -> set[str]:
    """The units that these names lead to, by their keys."""
    names, kept = set(wanted), set[str]()
    while True:
        more = {
            key
            for key, each in units.items()
            if key not in kept and (each.declares & names or each.receivers & names)
        }
        if not more:
            return kept
        kept |= more
        for key in more:
            names |= units[key].mentions
