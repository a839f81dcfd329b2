"""Projects as they stand where `generate` wrote them: what `verify --here` tests."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

from urform.dataclasses import dataclass
from urform.languages import Emission, Target
from urform.languages.target import File
from urform.output.folder import OutputError
from urform.plan.script import Claim
from urform.plan.whole import Plan


class NothingThere(OutputError):
    """Nothing was generated where it is to be tested."""


@dataclass(frozen=True, slots=True)
class Standing:
    """A project with the text that its files have in a folder, and the files that are not what is generated today."""

    emission: Emission
    differing: tuple[str, ...]


def standing(
    plan: Plan, claims: Sequence[Claim], targets: Sequence[Target], folders: Mapping[str, Path]
) -> dict[str, Standing]:
    """The projects of all targets, by name. Raises NothingThere where a folder has none of the code."""
    return {target.name: _standing(target.in_place(plan, claims), folders[target.name]) for target in targets}


def _standing(emission: Emission, folder: Path) -> Standing:
    there = dict(_there(emission.files, folder))
    if not there:
        raise NothingThere(f"{folder}: nothing was generated here: run urform generate first")
    files = tuple(replace(file, text=there.get(file.path, file.text)) for file in emission.files)
    differing = tuple(
        str(folder / new.path)
        for old, new in zip(emission.files, files, strict=True)
        if old.text != new.text and not (old.users or old.once)
    )
    return Standing(replace(emission, files=files), differing)


def _there(files: Sequence[File], folder: Path) -> Iterator[tuple[str, str]]:
    """The paths and texts of the files that are there; build files aside, for those are the user's own."""
    for file in files:
        path = folder / file.path
        if not file.once and path.is_file():
            yield file.path, path.read_text(encoding="utf-8", errors="replace")
