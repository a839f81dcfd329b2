"""What a shell completes: names of targets, words that can be explained, claims of a declaration."""

from __future__ import annotations

import contextlib
from pathlib import Path

import typer

from urform.cli.common import PATTERN


def target_names(incomplete: str) -> list[str]:
    """Of a list with commas the last one."""
    from urform.languages import known_targets

    before, comma, last = incomplete.rpartition(",")
    return [f"{before}{comma}{name}" for name in known_targets() if name.startswith(last)]


def beginnings(incomplete: str) -> list[str]:
    """What `urform new` can begin with; of a list with commas the last one."""
    from urform.demo import BEGINNINGS

    before, comma, last = incomplete.rpartition(",")
    return [f"{before}{comma}{name}" for name in BEGINNINGS if name.startswith(last)]


def words(incomplete: str) -> list[str]:
    """What `urform explain` knows."""
    from urform.cli.explaining import known_words

    return [word for word in known_words() if word.startswith(incomplete)]


def claims(context: typer.Context, incomplete: str) -> list[str]:
    """The claims of the declaration that was named, or of the only one here, and their groups."""
    from urform.declaration import read
    from urform.plan import build, claims_of

    named = [
        Path(word) for word in context.args if not word.startswith("-")
    ]  # what was typed stands there unread
    files = named or sorted(Path().glob(PATTERN))
    with contextlib.suppress(OSError):
        declaration = read(files[0]).declaration if len(files) == 1 else None
        if declaration is not None:
            made = claims_of(build(declaration))
            every = dict.fromkeys([*(claim.group for claim in made), *(claim.id for claim in made)])
            return [name for name in every if name.startswith(incomplete)]
    return []
