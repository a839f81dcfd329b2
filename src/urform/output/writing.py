"""Writing generated projects: atomic per file, with a manifest that tells our files from a person's.

The manifest holds content hashes, no times and no absolute paths. A file whose content is not what the manifest
says was edited by hand: it is kept and reported, unless the caller forces. A user's own file is created once.
"""

from __future__ import annotations

import difflib
import hashlib
import json
import os
import re
import tempfile
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from urform.languages.target import File, Stub

MANIFEST = ".urform.json"
MANIFEST_VERSION = 1

NEW, CHANGED, UNCHANGED, EDITED, REMOVED, KEPT, USERS = (
    "new",
    "changed",
    "unchanged",
    "edited",
    "removed",
    "kept",
    "yours",
)


class OutputError(Exception):
    """The output folder cannot be written as asked; the text says where and why."""


@dataclass(frozen=True, slots=True)
class Change:
    """What happens to one file: `new`, `changed`, `unchanged`, `edited` (by hand, so kept), `removed` (no longer
    generated), `kept` (no longer generated but edited), or `yours`."""

    path: str
    state: str
    before: str | None = None
    after: str | None = None
    missing: tuple[Stub, ...] = ()  # what a user's own file does not have yet

    def difference(self) -> str:
        """What changes, as a unified diff."""
        before, after = (self.before or "").splitlines(True), (self.after or "").splitlines(True)
        return "".join(difflib.unified_diff(before, after, self.path, self.path))


def content_hash(text: str) -> str:
    """The hash under which a file's content stands in the manifest."""
    return hashlib.sha256(text.encode()).hexdigest()


def changes(folder: Path, files: Sequence[File]) -> tuple[Change, ...]:
    """What writing these files into a folder would do. Changes nothing."""
    ours = _manifest(folder)
    generated = {file.path for file in files}
    found = [_change(folder, file, ours, generated) for file in files]
    found += [_gone(folder, path, ours[path]) for path in sorted(ours) if path not in generated]
    return tuple(change for change in found if change.state)


def _change(folder: Path, file: File, ours: dict[str, str], generated: set[str]) -> Change:
    before = _read(folder, file.path)
    if file.users and before is None:
        return Change(file.path, NEW, before, file.text)
    if file.users and before is not None:
        return Change(
            file.path, USERS, before, before, tuple(_missing(folder, file, before, ours, generated))
        )
    if before is None:
        return Change(file.path, NEW, None, file.text)
    if before == file.text:
        return Change(file.path, UNCHANGED, before, before)
    by_hand = ours.get(file.path) != content_hash(before)
    return Change(file.path, EDITED if by_hand else CHANGED, before, file.text)


def _missing(
    folder: Path, file: File, text: str, ours: dict[str, str], generated: set[str]
) -> Iterator[Stub]:
    """The stubs that are in no file of the user's: in this one, or in another of its folder and kind."""
    own = [text]
    for path in sorted((folder / file.path).parent.glob(f"*{Path(file.path).suffix}")):
        name = path.relative_to(folder).as_posix()
        if name not in ours and name not in generated and path.is_file() and not path.is_symlink():
            own.append(_read(folder, name) or "")
    for stub in file.stubs:
        if not any(re.search(stub.pattern, each, re.MULTILINE) for each in own):
            yield stub


def _gone(folder: Path, path: str, written: str) -> Change:
    before = _read(folder, path)
    if before is None:
        return Change(path, "")
    return Change(path, REMOVED if content_hash(before) == written else KEPT, before, None)


def apply(folder: Path, files: Sequence[File], *, force: bool = False) -> tuple[Change, ...]:
    """Write files into a folder; returns what was done. Edited files are kept unless `force`.

    Raises OutputError when the folder cannot be written.
    """
    planned = changes(folder, files)
    hashes = dict(_manifest(folder))
    try:
        for change in planned:
            _apply(folder, change, hashes, force)
        users = {file.path for file in files if file.users}
        for path in users:
            hashes.pop(path, None)
        _write(folder, MANIFEST, _manifest_text(hashes))
    except OSError as error:
        raise OutputError(f"{error.filename or folder}: {error.strerror or error}") from error
    return planned


def _apply(folder: Path, change: Change, hashes: dict[str, str], force: bool) -> None:
    if change.state in (NEW, CHANGED) or (change.state == EDITED and force):
        assert change.after is not None
        _write(folder, change.path, change.after)
    if change.state in (NEW, CHANGED, UNCHANGED) or (change.state == EDITED and force):
        assert change.after is not None
        hashes[change.path] = content_hash(change.after)
    elif change.state == REMOVED:
        _inside(folder, change.path).unlink(missing_ok=True)
        hashes.pop(change.path, None)
    elif change.state in (KEPT, ""):
        hashes.pop(change.path, None)


def write_project(folder: Path, files: Iterable[File]) -> None:
    """Write a project into a folder of its own, such as a scratch folder; what is there is replaced."""
    made: set[Path] = set()
    for file in files:
        path = _inside(folder, file.path)
        if path.parent not in made:
            path.parent.mkdir(parents=True, exist_ok=True)
            made.add(path.parent)
        if not (file.users and path.exists()):
            path.write_text(file.text, encoding="utf-8", newline="\n")


def _manifest(folder: Path) -> dict[str, str]:
    try:
        data = json.loads((folder / MANIFEST).read_text(encoding="utf-8"))
    except FileNotFoundError:
        return {}
    except (OSError, ValueError) as error:
        raise OutputError(f"{folder / MANIFEST} cannot be read: {error}; remove it to start anew") from error
    files = data.get("files") if isinstance(data, dict) else None
    if not isinstance(files, dict) or data.get("version") != MANIFEST_VERSION:
        raise OutputError(f"{folder / MANIFEST} is no manifest of this Urform; remove it to start anew")
    return {str(path): str(digest) for path, digest in files.items()}


def _manifest_text(hashes: dict[str, str]) -> str:
    return json.dumps({"version": MANIFEST_VERSION, "files": dict(sorted(hashes.items()))}, indent=1) + "\n"


def _read(folder: Path, path: str) -> str | None:
    place = _inside(folder, path)
    try:
        return place.read_bytes().decode("utf-8", "surrogateescape")
    except FileNotFoundError:
        return None
    except OSError as error:
        raise OutputError(f"{place}: {error.strerror or error}") from error


def _inside(folder: Path, path: str) -> Path:
    """A path below the folder. Links that lead out of it are not followed."""
    place = folder / path
    for parent in _parents(folder, place):
        if parent.is_symlink():
            raise OutputError(f"{parent} is a link; nothing is written through it")
    return place


def _parents(folder: Path, place: Path) -> Iterator[Path]:
    current = place
    while current != folder and folder in current.parents:
        yield current
        current = current.parent


def _write(folder: Path, path: str, text: str) -> None:
    """To a temporary file beside, synced, then renamed: a reader sees the old content or the new."""
    place = _inside(folder, path)
    place.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=place.parent, prefix=".urform-")
    try:
        with os.fdopen(handle, "w", encoding="utf-8", newline="\n", errors="surrogateescape") as file:
            file.write(text)
            file.flush()
            os.fsync(file.fileno())
        Path(temporary).chmod(0o644)
        Path(temporary).replace(place)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise
