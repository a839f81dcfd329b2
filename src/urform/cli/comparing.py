"""`urform compare`."""

from __future__ import annotations

import json
from collections.abc import Sequence
from itertools import groupby
from pathlib import Path

from rich.text import Text

from urform.cli.common import FINDING, OK, complete, out, valid, valid_declaration, wrong_usage
from urform.cli.history import text_since
from urform.cli.render import counted, shown
from urform.comparison.aspects import BREAKS, EFFECTS, HARMLESS, SILENT, THERE
from urform.comparison.compare import Change, Comparison, as_json, compare
from urform.declaration import read_string
from urform.declaration.model import Declaration
from urform.languages.target import Target
from urform.plan import build
from urform.prose import listing

STYLES = {BREAKS: "bold bright_red", SILENT: "yellow", HARMLESS: "green"}
WORDS = {BREAKS: "breaks compiling", SILENT: "changes silently", HARMLESS: "harmless"}
LISTED = 5  # entries of one product and target; more are counted


def run_compare(
    old: Path | None, new: Path, since: str | None, targets: Sequence[Target], *, to_json: bool, quiet: bool
) -> int:
    """Compare two declarations, or one with what it was; returns the exit status."""
    if (old is None) == (since is None):
        raise wrong_usage("name the old declaration, or say since which revision: `--since HEAD`")
    before, named = (_since(new, since), f"{new} of {since}") if since is not None else _old(old)
    comparison = compare(build(before), build(valid_declaration(new)), targets)
    if to_json:
        print(json.dumps(as_json(comparison), indent=2, ensure_ascii=False))
    elif not quiet or comparison.breaking:
        _show(comparison, named, str(new))
    return FINDING if comparison.breaking else OK


def _old(file: Path | None) -> tuple[Declaration, str]:
    assert file is not None, "one of the two is given"
    return valid_declaration(file), str(file)


def _since(file: Path, revision: str) -> Declaration:
    return valid(complete(read_string(text_since(file, revision), f"{file} of {revision}")))


def _show(comparison: Comparison, old: str, new: str) -> None:
    """Owner by owner, the worst first: what differs, and what it does; then how much of each."""
    out.print(Text(shown(f"{old} → {new}"), style="bold"))
    if not comparison.changes:
        out.print(Text("nothing that clients could tell differs", style="green"))
        return
    by_owner: dict[str, list[Change]] = {}
    for change in comparison.changes:
        by_owner.setdefault(change.owner, []).append(change)
    for owner, changes in sorted(by_owner.items(), key=lambda each: min(map(_rank, each[1]))):
        out.print()
        out.print(Text(shown(owner) or "the project", style="bold"))
        for effect in EFFECTS:
            own = [change for change in changes if change.effect == effect]
            _show_entries([change for change in own if change.of_entry])
            _show_differences([change for change in own if not change.of_entry], comparison.targets)
    out.print()
    out.print(_summary(comparison))


def _show_entries(changes: Sequence[Change]) -> None:
    """Entries before and after, target by target, and what to do about them."""
    for target, each in groupby(changes, lambda change: change.target):
        own = list(each)
        effect = own[0].effect
        out.print(Text("  ").append(WORDS[effect], style=STYLES[effect]).append(f"  {target}"))
        for change in own[:LISTED]:
            _show_entry(change)
        if len(own) > LISTED:
            out.print(Text(f"      … and {len(own) - LISTED} more; --json has all", style="dim"))
    for advice in dict.fromkeys(change.advice for change in changes):
        out.print(Text("      mend: ", style="green").append(shown(advice), style="not bold default"))


def _show_entry(change: Change) -> None:
    if change.before:
        out.print(Text("    − ", style="red").append(shown(change.before), style="default"))
    if change.after:
        out.print(Text("    + ", style="green").append(shown(change.after), style="default"))
    if not change.before:
        out.print(Text(f"      {change.said}", style="dim"))


def _show_differences(changes: Sequence[Change], targets: Sequence[str]) -> None:
    """What the declaration says otherwise: a line for each, with the targets that it is about where it is not about all."""
    same: dict[tuple[str, str, str, str, str, str], list[str]] = {}
    for each in changes:
        key = (each.effect, each.path, each.said, each.before, each.after, each.advice)
        same.setdefault(key, []).append(each.target)
    for (effect, path, said, before, after, advice), own in same.items():
        line = Text("  ").append(WORDS[effect], style=STYLES[effect])
        line.append(f"  {shown(path)}{_told(said, before, after)}")
        if len(own) < len(targets):
            line.append(f"  ({', '.join(own)})", style="dim")
        out.print(line)
        if advice and effect == SILENT:
            out.print(Text("      mend: ", style="green").append(shown(advice), style="not bold default"))


def _told(said: str, before: str, after: str) -> str:
    if said == THERE:
        return f" is new: {shown(after)}" if not before else f" is gone: {shown(before)}"
    if before and after:
        return f", {shown(said)}: {shown(before)} → {shown(after)}"
    return f", {shown(said)} is {'gone' if before else 'new'}: {shown(before or after)}"


def _rank(change: Change) -> int:
    """The worst first."""
    return EFFECTS.index(change.effect)


def _summary(comparison: Comparison) -> Text:
    broken = [target for target in comparison.targets if comparison.broken(target)]
    counts = {effect: comparison.number(effect) for effect in EFFECTS}
    parts = [
        f"{counted(counts[BREAKS], 'change')} {'breaks' if counts[BREAKS] == 1 else 'break'} clients of {listing(broken)}"
    ]
    parts = parts if broken else ["nothing breaks clients"]
    parts += (
        [f"{counts[SILENT]} {'changes' if counts[SILENT] == 1 else 'change'} silently"]
        if counts[SILENT]
        else []
    )
    parts += [f"{counts[HARMLESS]} harmless"] if counts[HARMLESS] else []
    style = STYLES[BREAKS] if broken else STYLES[SILENT] if counts[SILENT] else STYLES[HARMLESS]
    return Text(", ".join(parts), style=style)
