"""`urform generate`."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from rich.text import Text

from urform.cli.common import FINDING, OK, TOOLCHAIN, err, out, valid_declaration
from urform.cli.render import counted, show_left_out, shown
from urform.languages import Target
from urform.output.writing import (
    CHANGED,
    EDITED,
    KEPT,
    NEW,
    REMOVED,
    UNCHANGED,
    USERS,
    Change,
    OutputError,
    apply,
    changes,
)
from urform.plan import build, claims_of

STALE = (NEW, CHANGED, EDITED, REMOVED)


def run_generate(
    file: Path,
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
    plan = build(valid_declaration(file))
    claims = claims_of(plan)
    found = bool(plan.left_out)
    for target in targets:
        emission = target.emit(plan, claims)
        files = (*emission.files, *(target.example(plan) if example else ()))
        project = folder / target.name
        try:
            look = check_only or diff
            done = changes(project, files) if look else apply(project, files, force=force)
        except OutputError as error:
            err.print(Text(shown(str(error)), style="red"))
            return TOOLCHAIN
        if diff:
            _show_difference(target.name, done)
        stale = any(change.state in STALE for change in done)
        edited = [change for change in done if change.state in (EDITED, KEPT)]
        found = found or (stale if check_only else bool(edited) and not force)
        for change in edited if not force else ():
            said = (
                "edited by hand, kept" if change.state == EDITED else "no longer generated, but edited: kept"
            )
            err.print(Text(f"{project / change.path}: {said}; see --diff", style="yellow"))
        for change in done:
            found = found or bool(change.missing)
            _show_missing(project, change)
        for unsupported in emission.unsupported:
            found = True
            err.print(
                Text(
                    f"{target.name} cannot express {unsupported.feature} of {unsupported.place}",
                    style="yellow",
                )
            )
        if not quiet:
            out.print(Text(f"{project}: {_summary(done, look)}"))
    show_left_out(err, str(file), plan.left_out)
    return FINDING if found else OK


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
    parts = [
        f"{number} {state}"
        for state in (NEW, CHANGED, UNCHANGED, EDITED, REMOVED, KEPT, USERS)
        if (number := _count(done, state))
    ]
    written = sum(change.state in (NEW, CHANGED) for change in done)
    lines = sum((change.after or "").count("\n") for change in done if change.after is not None)
    verb = "would write" if look else "wrote"
    return f"{verb} {counted(written, 'file')} ({', '.join(parts)}), {lines} lines in all"


def _count(done: Sequence[Change], state: str) -> int:
    return sum(change.state == state for change in done)


def _show_difference(target: str, done: Sequence[Change]) -> None:
    for change in done:
        if change.state in STALE:
            out.print(Text(f"{target}/{change.path}: {change.state}", style="bold"))
            for line in change.difference().splitlines():
                style = "green" if line.startswith("+") else "red" if line.startswith("-") else ""
                out.print(Text(shown(line), style=style))
