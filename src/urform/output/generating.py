"""Files of a plan for several targets, written side by side: each target in a process of its own where that pays."""

from __future__ import annotations

import gc
import multiprocessing
import os
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import field
from itertools import chain
from pathlib import Path

from urform.comparison.compare import Change as Compared
from urform.comparison.compare import of_target
from urform.comparison.differences import differences
from urform.dataclasses import dataclass
from urform.languages.entries import Entry
from urform.languages.target import File, Target, Unsupported, entries_in
from urform.output.changes import Change
from urform.output.manifest import owner_of
from urform.output.writing import (
    Prepared,
    alone,
    changes,
    clean,
    commit,
    prepare,
    refuse_what_is_in_the_way,
)
from urform.plan import claims_by_owner
from urform.plan.whole import Plan

SELDOM = 50_000  # new objects, after which circles are looked for
FEW = 50  # products that are generated sooner than processes are started


@dataclass(frozen=True, slots=True)
class Asked:
    """A request to generate: what, and how. `sources` are the hashes of what each target's files are made from."""

    plan: Plan
    roots: Mapping[str, Path]  # the folder of each target's project
    sources: Mapping[str, str] = field(default_factory=dict)
    look: bool = False  # write nothing
    differences: bool = False  # with the differences, in `look`
    force: bool = False
    example: bool = False
    before: Plan | None = None  # what clients were written for, to be compared


@dataclass(frozen=True, slots=True)
class Generated:
    """The result of generating for one target."""

    target: str
    root: Path
    changes: tuple[Change, ...]
    unsupported: tuple[Unsupported, ...] = ()
    compared: tuple[Compared, ...] = ()  # with what was before


def _one(asked: Asked, target: Target) -> Generated | tuple[Generated, Prepared]:
    """The changes that one target would make, or what stands ready to be written. Raises OutputError."""
    unsupported: list[Unsupported] = []
    entries: list[Entry] = []
    every = chain(
        _files(asked, target, unsupported, entries), target.example(asked.plan) if asked.example else ()
    )
    files = target.placed(asked.plan, every)
    root, owner = asked.roots[target.name], owner_of(asked.plan.name, target.name)
    if asked.look:
        done = changes(root, files, owner=owner, differences=asked.differences)
        return Generated(target.name, root, done, tuple(unsupported), _compared(asked, target, entries))
    prepared = prepare(
        root,
        files,
        owner=owner,
        force=asked.force,
        source=lambda: "" if asked.plan.left_out or unsupported else asked.sources.get(target.name, ""),
    )
    compared = _compared(asked, target, entries)
    return Generated(target.name, root, prepared.changes, tuple(unsupported), compared), prepared


def _compared(asked: Asked, target: Target, entries: Sequence[Entry]) -> tuple[Compared, ...]:
    """What becomes of the clients of what was before."""
    if asked.before is None:
        return ()
    found = differences(asked.before, asked.plan)
    old = tuple(entries_in(target.pieces(asked.before, ())))
    return tuple(of_target(target.name, found, old, entries, asked.plan))


def root_of(folder: Path, target: str, beside: Path, into: str) -> Path:
    """The folder into which the files of a target go: one in `folder`, save where a declaration that stands `beside`
    it names another."""
    return Path(os.path.normpath(beside / into)) if into else folder / target


def _files(
    asked: Asked, target: Target, unsupported: list[Unsupported], entries: list[Entry]
) -> Iterator[File]:
    """The files of a project one after the other; what cannot be expressed is added to a list, and so are entries."""
    for piece in target.pieces(asked.plan, claims_by_owner(asked.plan)):
        entries += entries_in([piece])
        if isinstance(piece, File):
            yield piece
        elif isinstance(piece, Unsupported):
            unsupported.append(piece)


def generate_all(
    asked: Asked, targets: Sequence[Target], waiting: Callable[[Path], None] | None = None
) -> list[Generated]:
    """Generate for several targets, in their order: for all of them or, where something is in the way, for none.

    Raises InTheWay, and OutputError for the first target whose folder cannot be written.
    """
    if asked.look:
        return [each for each in _every(asked, targets) if isinstance(each, Generated)]
    with alone(asked.roots.values(), waiting):
        done = [each for each in _every(asked, targets) if not isinstance(each, Generated)]
        refuse_what_is_in_the_way(asked.plan.name, [prepared for _, prepared in done])
        for _, prepared in done:
            commit(prepared)
        for _, prepared in done:
            clean(prepared.root)
    return [generated for generated, _ in done]


def _every(asked: Asked, targets: Sequence[Target]) -> Iterator[Generated | tuple[Generated, Prepared]]:
    together = min(len(targets), os.cpu_count() or 1)
    if (
        together < 2
        or len(asked.plan.products) < FEW
        or "fork" not in multiprocessing.get_all_start_methods()
    ):
        for target in targets:
            yield _one(asked, target)
        return
    gc.freeze()  # what is shared with the processes is not looked at, so it is not copied
    _Work.asked, _Work.targets = asked, targets
    context = multiprocessing.get_context("fork")
    longest_first = sorted(range(len(targets)), key=lambda number: -targets[number].effort)
    with ProcessPoolExecutor(together, mp_context=context) as pool:
        begun = {number: pool.submit(_in_process, number) for number in longest_first}
        for number in range(len(targets)):
            yield begun[number].result()


class _Work:
    """What processes inherit when they are forked: a plan is far too large to be sent."""

    asked: Asked
    targets: Sequence[Target]


def _in_process(number: int) -> Generated | tuple[Generated, Prepared]:
    gc.set_threshold(SELDOM)
    gc.enable()  # writers of tests go round in circles; the plan, which is frozen, is not looked through
    return _one(_Work.asked, _Work.targets[number])
