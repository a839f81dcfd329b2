"""A declaration as it was: from the git history of its file."""

from __future__ import annotations

import shutil
from pathlib import Path

from urform.cli.common import wrong_usage
from urform.cli.render import shown
from urform.verification.processes import Processes


def text_since(file: Path, revision: str) -> str:
    """The text of a file in a revision; ends the command where there is none."""
    found = _show(file, revision)
    if found is None:
        raise wrong_usage("git is needed to look into the history of a file: apt-get install git")
    text, errors = found
    if errors:
        raise wrong_usage(f"{shown(str(file))} is not in {shown(revision)}: {shown(errors)}")
    return text


def committed_text(file: Path) -> str | None:
    """The text of a file in the last commit; None where it is in none, or git is not there."""
    found = _show(file, "HEAD")
    return found[0] if found is not None and not found[1] else None


def _show(file: Path, revision: str) -> tuple[str, str] | None:
    """The text, and what git complains of."""
    if shutil.which("git") is None:
        return None
    place = f"{revision}:./{file.name}"
    done = Processes().run(["git", "show", "--end-of-options", place], file.absolute().parent)
    if done.status == 0:
        return done.output, ""
    lines = done.errors.strip().splitlines() or ["git failed"]
    return "", lines[-1].removeprefix("fatal: ")


def changed_since(revision: str) -> frozenset[Path]:
    """The files under the working folder that differ from a revision, or that git does not know yet; ends the command where
    there is no such revision."""
    if shutil.which("git") is None:
        raise wrong_usage("git is needed to look into the history: apt-get install git")
    changed: set[Path] = set()
    for command in (
        ["git", "diff", "--name-only", "--relative", "-z", "--end-of-options", revision, "--"],
        ["git", "ls-files", "--others", "--exclude-standard", "-z"],
    ):
        done = Processes().run(command, Path.cwd())
        if done.status != 0:
            lines = done.errors.strip().splitlines() or ["git failed"]
            raise wrong_usage(
                f"{shown(revision)} cannot be compared with: {shown(lines[0].removeprefix('fatal: '))}"
            )
        changed.update(Path(name).resolve() for name in done.output.split("\0") if name)
    return frozenset(changed)
