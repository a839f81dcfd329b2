"""`urform generate`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path

from rich.text import Text

from urform.cli.common import FINDING, OK, complete, err, not_written, out, valid_declaration
from urform.cli.history import committed_text
from urform.cli.render import counted, show_left_out, shown
from urform.comparison.aspects import BREAKS
from urform.comparison.compare import Comparison
from urform.dataclasses import dataclass
from urform.declaration import read_string
from urform.declaration.model import Declaration
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
from urform.output.generating import Asked, Generated, generate_all, root_of
from urform.output.writing import in_the_way, up_to_date
from urform.plan import build
from urform.plan.whole import Plan

STALE = (NEW, CHANGED, EDITED, REMOVED, IN_THE_WAY)
LISTED = 40  # files by name; more are only counted


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
    how = How(check_only, look=check_only or diff, quiet=quiet)
    sources = {} if how.look else sources_of(file, targets, example=example)
    try:
        usual = {each.name: folder / each.name for each in targets}
        if not force and _tell_standing(usual, sources, quiet=quiet):
            return OK
        declaration = valid_declaration(file)
        roots = roots_of(declaration, file, targets, folder)
        if roots != usual and not force and _tell_standing(roots, sources, quiet=quiet):
            return OK
        plan = build(declaration)
        before = None if quiet else _before(file)
        asked = Asked(
            plan,
            roots,
            before=before,
            sources=sources,
            look=how.look,
            differences=diff,
            force=force,
            example=example,
        )
        every = generate_all(asked, targets, waiting=_waiting)
    except OutputError as error:
        return not_written(error)
    how = replace(how, by_name=sum(len(_listed(each)) for each in every) <= LISTED)
    findings = [_tell(each, plan.name, how) for each in every]
    _tell_breaking(file, every)
    show_left_out(err, str(file), plan.left_out)
    return FINDING if any(findings) or plan.left_out else OK


def _before(file: Path) -> Plan | None:
    """The plan of the last commit's declaration; nothing where it says the same, or cannot be read any more."""
    text = committed_text(file)
    if text is None or text == file.read_text(encoding="utf-8"):
        return None
    declaration = complete(read_string(text, str(file))).declaration
    return build(declaration) if declaration is not None else None


def _tell_breaking(file: Path, every: Sequence[Generated]) -> None:
    """What breaks clients that were written for the last commit."""
    changes = tuple(change for each in every for change in each.compared)
    comparison = Comparison(changes, tuple(each.target for each in every))
    number = comparison.number(BREAKS)
    if number:
        verb = "breaks" if number == 1 else "break"
        how = f"urform compare {file} --since HEAD"
        err.print(Text(shown(f"{counted(number, 'change')} {verb} clients: {how}"), style="yellow"))


def roots_of(
    declaration: Declaration, file: Path, targets: Sequence[Target], folder: Path
) -> dict[str, Path]:
    """The folder into which the files of each target go."""
    into = {name: options["into"][0] for name, options in declaration.targets.items() if "into" in options}
    return {each.name: root_of(folder, each.name, file.parent, into.get(each.name, "")) for each in targets}


@dataclass(frozen=True, slots=True)
class How:
    """How a person is told what was done."""

    check_only: bool
    look: bool  # nothing was written
    quiet: bool
    by_name: bool = True  # the files; too many are only counted


def sources_of(file: Path, targets: Sequence[Target], *, example: bool) -> dict[str, str]:
    """What each target's files are made from; nothing where the declaration cannot be read, which is told later."""
    try:
        declaration = file.read_bytes()
    except OSError:
        return {}
    return {target.name: source_digest(declaration, target, example=example) for target in targets}


def _tell_standing(roots: Mapping[str, Path], sources: Mapping[str, str], *, quiet: bool) -> bool:
    """Tell of projects that were made from the same and are as they were; nothing unless all are."""
    standing = {name: up_to_date(root, sources.get(name, "")) for name, root in roots.items()}
    if not all(standing.values()):
        return False
    for name, stands in standing.items():
        if stands is not None and not quiet:
            parts = [f"{stands.files} unchanged"] + ([f"{stands.yours} yours"] if stands.yours else [])
            told = f"wrote 0 files ({', '.join(parts)}), {stands.lines} lines in all"
            out.print(Text(f"{_place(name, roots[name])}: {told}"))
    return True


def _place(target: str, root: Path) -> str:
    """A project's folder, with its target where that is not its name."""
    return str(root) if root.name == target else f"{root} ({target})"


def _waiting(folder: Path) -> None:
    err.print(Text(f"waiting for another urform that writes into {folder}", style="yellow"))


def _tell(generated: Generated, owner: str, how: How) -> bool:
    """Tell what a person has to know of a target; returns whether there was something."""
    done, project = generated.changes, generated.root
    if how.look:
        _show_difference(project, done)
    if how.by_name and not how.quiet:
        for change in _listed(generated):
            out.print(Text(f"{change.state:<8} {project / change.path}"))
    has_findings = _show_kept(project, done)
    for change in done:
        if change.state == IN_THE_WAY:
            err.print(Text(shown(in_the_way(owner, project / change.path, change)), style="red"))
            has_findings = True
        _show_own(project, change, how)
    for unsupported in generated.unsupported:
        _show_unsupported(generated.target, unsupported)
    if not how.quiet:
        out.print(Text(f"{_place(generated.target, project)}: {_summary(done, how.look)}"))
    stale = any(change.state in STALE for change in done)
    left = any(change.missing or change.leftover for change in done)
    return has_findings or bool(generated.unsupported) or left or (how.check_only and stale)


def _listed(generated: Generated) -> list[Change]:
    """The files that are not as they were; what else there is to know of files is told with its reason."""
    return [change for change in generated.changes if change.state in (NEW, CHANGED, REMOVED)]


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


def _show_own(project: Path, change: Change, how: How) -> None:
    """What a person has to know of a file of their own: what is to be written there, and what can go."""
    if change.aged and not how.quiet:
        out.print(Text(f"{project / change.path}: yours, left as it is; today's would differ: see --diff"))
    _show_missing(project, change)
    if change.to_write and not how.quiet:
        names = ", ".join(stub.operation for stub in change.to_write)
        would = "would be written once, and be" if how.look else "written once, and"
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


def _show_difference(project: Path, done: Sequence[Change]) -> None:
    """A patch; where nobody reads it, to the byte, for tools that apply it."""
    for change in done:
        if not change.difference:
            continue
        out.print(Text(f"{project / change.path}: {change.state}", style="bold"))
        if not out.is_terminal:
            out.file.write(change.difference)
            continue
        for line in change.difference.split("\n")[:-1]:
            style = "green" if line.startswith("+") else "red" if line.startswith("-") else ""
            out.print(Text(shown(line), style=style))
