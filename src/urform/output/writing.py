"""Writing generated projects, so that one can be killed at any moment and nothing of a person's is lost.

New content is written into a working folder and synced; then a journal says what is about to be replaced; then each
file is renamed into its place; the manifest comes last. A file whose content is neither that of the manifest nor
that of a journal was edited by hand: it is kept and reported, unless the caller forces. A user's own file is created once.
"""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path

from urform.languages.target import File
from urform.output.changes import CHANGED, EDITED, REMOVED, WRITTEN, Change, Comparison, Planned
from urform.output.folder import Folder, synced, told
from urform.output.manifest import (
    JOURNAL,
    MANIFEST,
    WORKING,
    Manifest,
    Ours,
    content_hash,
    journal_text,
    read_manifest,
    read_ours,
)


def changes(root: Path, files: Iterable[File], *, differences: bool = False) -> tuple[Change, ...]:
    """What writing these files into a folder would do, with what would differ in each. Changes nothing."""
    folder = Folder(root)
    comparison = Comparison(folder, read_ours(folder), differences=differences)
    return tuple(planned.change for planned in comparison.every(files))


def apply(
    root: Path,
    files: Iterable[File],
    *,
    force: bool = False,
    source: Callable[[], str] = str,
    waiting: Callable[[Path], None] | None = None,
) -> tuple[Change, ...]:
    """Write files into a folder; returns what was done. Edited files are kept unless `force`.

    `source` gives, at the end, the hash of all that the files were made from; the manifest tells it for `up_to_date`.
    Another process that writes into the folder is waited for; `waiting` is told of it before.
    Raises OutputError when the folder cannot be written.
    """
    folder = Folder(root)
    try:
        with folder.alone(waiting):
            return _Writing(folder, read_ours(folder), force).of(files, source)
    except OSError as error:
        raise told(error, root) from error


class _Writing:
    """One run of writing into a folder that no other process writes into."""

    def __init__(self, folder: Folder, ours: Ours, force: bool) -> None:
        self._folder = folder
        self._ours = ours
        self._force = force
        self._working = folder.root / WORKING
        self._ready: list[tuple[Path, str]] = []  # content in the working folder, and the path that it is for
        self._hashes: dict[str, str] = {}
        self._yours: dict[str, str] = {}

    def of(self, files: Iterable[File], source: Callable[[], str]) -> tuple[Change, ...]:
        """Write what there is to write; returns what was done."""
        comparison = Comparison(self._folder, self._ours)
        with self._working_folder():
            done = [self._taken(planned) for planned in comparison.every(files)]
            self._replace([change.path for change in done if change.state == REMOVED])
            kept = any(change.state == EDITED or change.missing for change in done)
            self._conclude(Manifest(self._hashes) if kept else Manifest(self._hashes, source(), self._yours))
        return tuple(done)

    def _taken(self, planned: Planned) -> Change:
        """Make ready what is to be written, and note what the manifest will say; returns the change."""
        change, digest = planned.change, planned.digest
        self._yours |= planned.yours
        if change.state == EDITED and self._force:
            change = replace(change, state=CHANGED)
        if change.state in WRITTEN:
            self._prepare(planned)
        elif change.state == EDITED:
            digest = self._ours.manifest.files.get(change.path, "")
        if planned.users:
            self._yours |= {change.path: digest} if digest else {}
        elif digest:
            self._hashes[change.path] = digest
        return change

    @contextmanager
    def _working_folder(self) -> Iterator[None]:
        """Made when it is first needed; what a killed run left there goes, its journal last."""
        try:
            yield
        except BaseException:
            for place, _ in self._ready:
                place.unlink(missing_ok=True)
            if not self._ours.about_to_be and not (self._folder.root / JOURNAL).exists():
                shutil.rmtree(self._working, ignore_errors=True)
            raise
        if self._working.exists():
            shutil.rmtree(self._working)

    def _prepare(self, planned: Planned) -> None:
        """Write new content beside what it will replace."""
        assert planned.content is not None
        place = self._folder.place(f"{WORKING}/{len(self._ready)}")
        self._write(place, planned.content)
        self._ready.append((place, planned.change.path))

    def _write(self, place: Path, content: bytes) -> None:
        self._working.mkdir(exist_ok=True)
        place.unlink(missing_ok=True)
        with place.open("xb") as file:
            file.write(content)

    def _replace(self, removed: Sequence[str]) -> None:
        """Put into place what is ready. From the journal on, a killed run has left known content everywhere."""
        if not self._ready and not removed:
            return
        synced(place for place, _ in self._ready)
        about_to_be = {path: set(digests) for path, digests in self._ours.about_to_be.items()}
        for _, path in self._ready:
            if path in self._hashes:  # not so a file that is the user's from now on
                about_to_be.setdefault(path, set()).add(self._hashes[path])
        self._put(JOURNAL, journal_text(about_to_be).encode())
        folders = set(self._renamed())
        for path in removed:
            place = self._folder.place(path)
            place.unlink(missing_ok=True)
            folders.add(_without_empty_folders(place.parent, self._folder.root))
        synced(folder for folder in folders if folder.is_dir())

    def _renamed(self) -> Iterator[Path]:
        """Rename what is ready into its place; yields the folders."""
        made: set[Path] = set()
        for place, path in self._ready:
            target = self._folder.place(path)
            if target.parent not in made:
                target.parent.mkdir(parents=True, exist_ok=True)
                made.add(target.parent)
                yield target.parent
            place.replace(target)

    def _conclude(self, manifest: Manifest) -> None:
        content = manifest.text().encode()
        if self._folder.read(MANIFEST) != content:
            self._put(MANIFEST, content)

    def _put(self, path: str, content: bytes) -> None:
        """One file, whole or not at all."""
        place = self._working / "next"
        self._write(place, content)
        synced([place])
        place.replace(self._folder.place(path))
        synced([self._folder.root])


def _without_empty_folders(folder: Path, root: Path) -> Path:
    """Drop folders that a removed file leaves empty; returns the first one above that stays."""
    while folder != root and not any(folder.iterdir()):
        folder.rmdir()
        folder = folder.parent
    return folder


@dataclass(frozen=True, slots=True)
class Standing:
    """A project that needs no writing: how many of its files are generated, how many a person's, and their lines."""

    files: int
    yours: int
    lines: int


def up_to_date(root: Path, source: str) -> Standing | None:
    """How a project stands that was made from the same, and that nobody has touched since; None where it is not so."""
    folder = Folder(root)
    if not source or not root.is_dir() or folder.read(JOURNAL) is not None:
        return None
    manifest = read_manifest(folder)
    if manifest.source != source:
        return None
    lines = 0
    for path, digest in {**manifest.files, **manifest.yours}.items():
        content = folder.read(path)
        if content is None or content_hash(content) != digest:
            return None
        lines += content.count(b"\n")
    return Standing(len(manifest.files), len(manifest.yours), lines)


def write_project(root: Path, files: Iterable[File]) -> None:
    """Write a project into a folder of its own, such as a scratch folder; what is there is replaced."""
    folder = Folder(root)
    made: set[Path] = set()
    for file in files:
        path = folder.place(file.path)
        if path.parent not in made:
            path.parent.mkdir(parents=True, exist_ok=True)
            made.add(path.parent)
        if not (file.users and path.exists()):
            path.write_text(file.text, encoding="utf-8", newline="\n")
