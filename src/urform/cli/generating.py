"""`urform generate`."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from rich.text import Text

from urform.cli.common import FINDING, OK, err, not_written, out, the_file, valid_declaration
from urform.cli.render import counted, show_left_out, shown
from urform.languages import Target
from urform.languages.sources import source_digest
from urform.languages.target import Unsupported
from urform.output.changes import (
    CHANGED,
    EDITED,
    IN_THE_WAY,
    KEPT,
    NEW,
    OVERWRITTEN,
    REMOVED,
    STATES,
    WRITTEN,
    Change,
)
from urform.output.folder import OutputError
from urform.output.generating import Asked, Generated, generate_all
from urform.output.writing import Standing, in_the_way, up_to_date
from urform.plan import build

STALE = (NEW, CHANGED, EDITED, REMOVED, IN_THE_WAY)
LISTED = 40  # files by name; more are only counted


def run_generate(
    given: Path | None,
    targets: Sequence[Target],
    folder: Path,
    *,
    check_only: bool,
    diff: bool,
    force: bool,
    example: bool,
    quiet: bool,
) -> int:
    """Generate, or show what generating would do; returns the exit status."""
    file = the_file(given)
    look = check_only or diff
    sources = {} if look else _sources(file, targets, example=example)
    try:
        standing = {each.name: up_to_date(folder / each.name, sources.get(each.name, "")) for each in targets}
        if all(standing.values()):
            _tell_standing(folder, standing, quiet=quiet)
            return OK
        plan = build(valid_declaration(file))
        asked = Asked(plan, folder, sources, look=look, differences=diff, force=force, example=example)
        has_findings = bool(plan.left_out)
        for generated in generate_all(asked, targets, waiting=_waiting):
            has_findings = (
                _tell(
                    generated,
                    plan.name,
                    folder / generated.target,
                    check_only=check_only,
                    look=look,
                    quiet=quiet,
                )
                or has_findings
            )
            if not quiet:
                out.print(Text(f"{folder / generated.target}: {_summary(generated.changes, look)}"))
    except OutputError as error:
        return not_written(error)
    show_left_out(err, str(file), plan.left_out)
    return FINDING if has_findings else OK


def _sources(file: Path, targets: Sequence[Target], *, example: bool) -> dict[str, str]:
    """What each target's files are made from; nothing where the declaration cannot be read, which is told later."""
    try:
        declaration = file.read_bytes()
    except OSError:
        return {}
    return {target.name: source_digest(declaration, target, example=example) for target in targets}


def _tell_standing(folder: Path, standing: dict[str, Standing | None], *, quiet: bool) -> None:
    for name, stands in standing.items():
        if stands is not None and not quiet:
            parts = [f"{stands.files} unchanged"] + ([f"{stands.yours} yours"] if stands.yours else [])
            out.print(
                Text(f"{folder / name}: wrote 0 files ({', '.join(parts)}), {stands.lines} lines in all")
            )


def _waiting(folder: Path) -> None:
    err.print(Text(f"waiting for another urform that writes into {folder}", style="yellow"))


def _tell(
    generated: Generated, owner: str, project: Path, *, check_only: bool, look: bool, quiet: bool
) -> bool:
    """Tell what a person has to know of a target; returns whether there was something."""
    done = generated.changes
    if look:
        _show_difference(generated.target, done)
    has_findings = _show_kept(project, done)
    for change in done:
        if change.state == IN_THE_WAY:
            err.print(Text(shown(in_the_way(owner, project / change.path, change)), style="red"))
            has_findings = True
        _show_own(project, change, look=look, quiet=quiet)
    for unsupported in generated.unsupported:
        _show_unsupported(generated.target, unsupported)
    stale = any(change.state in STALE for change in done)
    left = any(change.missing or change.leftover for change in done)
    return has_findings or bool(generated.unsupported) or left or (check_only and stale)


def _show_kept(project: Path, done: Sequence[Change]) -> bool:
    """What a person edited: kept, or overwritten as asked; returns whether something was kept."""
    kept = [change for change in done if change.state in (EDITED, KEPT)]
    for change in kept:
        said = "edited by hand, kept" if change.state == EDITED else "no longer generated, but edited: kept"
        err.print(Text(f"{project / change.path}: {said}; see --diff", style="yellow"))
    overwritten = [change for change in done if change.state == OVERWRITTEN]
    for change in overwritten[:LISTED]:
        err.print(Text(f"{project / change.path}: was edited by hand, overwritten", style="yellow"))
    if len(overwritten) > LISTED:
        err.print(Text(f"… and {len(overwritten) - LISTED} more", style="yellow"))
    return bool(kept)


def _show_own(project: Path, change: Change, *, look: bool, quiet: bool) -> None:
    """What a person has to know of a file of their own: what is to be written there, and what can go."""
    _show_missing(project, change)
    if change.to_write and not quiet:
        names = ", ".join(stub.operation for stub in change.to_write)
        would = "would be written once, and be" if look else "written once, and"
        err.print(Text(f"{project / change.path}: {would} yours from now on; to be filled in: {names}"))
    for left in change.leftover:
        said = f"{project / left.path}:{left.line}: no longer needed: {left.operation}"
        err.print(Text(f"{said}: {shown(left.text)}", style="yellow"))


def _show_unsupported(target: str, unsupported: Unsupported) -> None:
    said = f"{target} cannot express {unsupported.feature} of {unsupported.place}"
    err.print(Text(said, style="yellow"))


def _show_missing(project: Path, change: Change) -> None:
    """What a user's own file does not have yet, with the lines to add: the file itself is never touched."""
    if change.missing:
        names = ", ".join(stub.operation for stub in change.missing)
        err.print(Text(f"{project / change.path}: not written yet: {names}; add these lines", style="yellow"))
        for stub in change.missing:
            err.print()
            for line in stub.text.rstrip("\n").split("\n"):
                indent = line[: len(line) - len(line.lstrip("\t"))]  # tabs stay tabs, to be pasted
                err.file.write(f"{indent}{shown(line[len(indent) :])}\n")


def _summary(done: Sequence[Change], look: bool) -> str:
    parts = [f"{number} {state}" for state in STATES if (number := _count(done, state))]
    written = sum(change.state in WRITTEN for change in done)
    lines = sum(change.lines for change in done)
    verb = "would write" if look else "wrote"
    return f"{verb} {counted(written, 'file')} ({', '.join(parts)}), {lines} lines in all"


def _count(done: Sequence[Change], state: str) -> int:
    return sum(change.state == state for change in done)


def _show_difference(target: str, done: Sequence[Change]) -> None:
    for change in done:
        if change.state in STALE and change.difference:
            out.print(Text(f"{target}/{change.path}: {change.state}", style="bold"))
            for line in change.difference.splitlines():
                style = "green" if line.startswith("+") else "red" if line.startswith("-") else ""
                out.print(Text(shown(line), style=style))
