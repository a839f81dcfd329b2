"""Shared by the commands: finding the declaration, choosing targets, consoles."""

from __future__ import annotations

import time
from collections.abc import Collection, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Self

import typer
from rich.console import Console
from rich.text import Text

from urform.cli.render import show_in_the_way, show_problems, shown
from urform.declaration import Reading, read
from urform.declaration.model import Declaration
from urform.declaration.problems import did_you_mean
from urform.languages import Target, known_targets, setting_problems, target
from urform.prose import listing

if TYPE_CHECKING:
    from urform.output.folder import OutputError

OK, FINDING, USAGE, TOOLCHAIN = 0, 1, 2, 3
PATTERN = "*.urform.yaml"

out = Console(highlight=False, soft_wrap=True)
err = Console(stderr=True, highlight=False, soft_wrap=True)


class StatusLine:
    """A line on standard error that changes while something is done, where a person sees it; nothing elsewhere."""

    def __init__(self) -> None:
        self.started = time.monotonic()
        self._status = err.status("") if err.is_terminal else None

    def __enter__(self) -> Self:
        if self._status is not None:
            self._status.start()
        return self

    def __exit__(self, *_: object) -> None:
        if self._status is not None:
            self._status.stop()

    def say(self, text: str) -> None:
        """Show something else."""
        if self._status is not None:
            self._status.update(Text(text))


def wrong_usage(text: str) -> typer.Exit:
    """Say what is wrong with the call; raise what this returns."""
    err.print(text, markup=False)
    return typer.Exit(USAGE)


def all_files() -> list[Path]:
    """Every declaration in the working folder."""
    declarations = sorted(Path().glob(PATTERN))
    return declarations if len(declarations) > 1 else [the_file(None)]


def the_file(given: Path | None) -> Path:
    """The declaration that was named, or the only one in the working folder."""
    if given is not None:
        return given
    declarations = sorted(Path().glob(PATTERN))
    if len(declarations) == 1:
        return declarations[0]
    if not declarations:
        raise wrong_usage(f"no {PATTERN} in this folder: name a declaration, or write one with `urform new`")
    raise wrong_usage(f"several declarations in this folder, name one: {listing(map(str, declarations))}")


def complete_reading(path: Path) -> Reading:
    """A reading with the problems that only the targets can tell."""
    return complete(read(path))


def complete(reading: Reading) -> Reading:
    """The same, of what was read already."""
    if reading.declaration is None:
        return reading
    problems = setting_problems(reading.declaration)
    declaration = None if problems else reading.declaration
    return Reading(reading.file, reading.document, declaration, problems, reading.advice)


def valid_declaration(given: Path | None) -> Declaration:
    """A valid declaration; with problems, they are shown and the command ends."""
    return valid(complete_reading(the_file(given)))


def valid(reading: Reading) -> Declaration:
    """The declaration of a reading; with problems, they are shown and the command ends."""
    if reading.declaration is None:
        show_problems(err, reading)
        raise typer.Exit(FINDING)
    return reading.declaration


def chosen_targets(names: Sequence[str] | None, file: Path | None = None) -> list[Target]:
    """The targets that were named, each once; or those that the declaration names; or all that are installed."""
    known = known_targets()
    chosen = list(dict.fromkeys(part for name in names or () for part in name.split(",") if part))
    if not chosen and file is not None:
        declared = _declared_targets(file)
        chosen = [name for name in known if name in declared]
    chosen = chosen or list(known)
    for name in chosen:
        if name not in known:
            raise wrong_usage(
                f"no target is called '{name}'.{did_you_mean(name, known)} Known: {listing(known)}"
            )
    return [target(name) for name in chosen]


def _declared_targets(file: Path) -> Collection[str]:
    """The targets that a declaration names. What is wrong with it is told later."""
    try:
        content = file.read_bytes()
    except OSError:
        return ()
    if b"targets" not in content:
        return ()
    declaration = read(file).declaration
    return declaration.targets if declaration is not None else ()


def not_written(error: OutputError) -> int:
    """Say why nothing, or not all, was written; returns the exit status."""
    from urform.output.writing import InTheWay

    if isinstance(error, InTheWay):
        show_in_the_way(err, error)
        return FINDING
    err.print(Text(shown(str(error)), style="red"))
    return TOOLCHAIN
