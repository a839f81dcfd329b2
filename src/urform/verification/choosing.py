"""Which faults are tried: those of some claims, a sample, a shard; and the results of shards put together."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import replace
from itertools import zip_longest

from urform.dataclasses import dataclass
from urform.plan.fault import Fault
from urform.verification.verdicts import Challenge


class UnknownClaimError(ValueError):
    """No fault belongs to a claim of that id, group or owner."""


@dataclass(frozen=True, slots=True)
class Choice:
    """`only` names claims by id, by group, or faults by id; a sample is drawn from those; a shard is cut from the sample."""

    only: tuple[str, ...] = ()
    sample: int | None = None
    seed: int = 0
    shard: tuple[int, int] = (1, 1)  # number, from 1, and how many there are


def chosen(faults: Sequence[Fault], choice: Choice) -> tuple[Fault, ...]:
    """The faults of a choice, in their own order. Raises UnknownClaimError."""
    kept = tuple(faults)
    for name in choice.only:
        if not any(_is_of(fault, name) for fault in faults):
            raise UnknownClaimError(f"no fault is of a claim '{name}'; `urform plan` lists the claims")
    if choice.only:
        kept = tuple(fault for fault in faults if any(_is_of(fault, name) for name in choice.only))
    if choice.sample is not None and choice.sample < len(kept):
        numbers = sorted(random.Random(choice.seed).sample(range(len(kept)), choice.sample))
        kept = tuple(kept[number] for number in numbers)
    number, shards = choice.shard
    return kept[number - 1 :: shards]


def _is_of(fault: Fault, name: str) -> bool:
    return name in (fault.id, fault.claim.id, fault.claim.group)


def merged(parts: Sequence[Challenge]) -> Challenge:
    """One result of those of all shards, with the faults in their own order.

    Raises ValueError where they are of different declarations or targets, or where a shard is missing or comes twice.
    """
    parts = sorted(parts, key=lambda part: part.shard)
    first = parts[0]
    if any((part.name, part.targets) != (first.name, first.targets) for part in parts):
        raise ValueError("they are of different declarations or targets")
    _all_shards(parts)
    interleaved = zip_longest(*(part.faults for part in parts))
    faults = tuple(fault for row in interleaved for fault in row if fault is not None)
    runs = tuple(
        replace(
            run,
            seconds=sum(part.runs[at].seconds for part in parts),
            tried=sum(part.runs[at].tried for part in parts),
            known=sum(part.runs[at].known for part in parts),
            broke=next((part.runs[at].broke for part in parts if part.runs[at].broke), ""),
        )
        for at, run in enumerate(first.runs)
    )
    return Challenge(first.name, faults, runs, max(part.seconds for part in parts))


def _all_shards(parts: Sequence[Challenge]) -> None:
    shards = parts[0].shard[1]
    if any(part.shard[1] != shards for part in parts):
        raise ValueError("they are shards of different numbers of shards")
    numbers = [part.shard[0] for part in parts]
    for number in range(1, shards + 1):
        if numbers.count(number) != 1:
            often = "is missing" if number not in numbers else "comes more than once"
            raise ValueError(f"shard {number}/{shards} {often}")
