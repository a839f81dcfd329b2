"""Writing generated projects, so that one can be killed at any moment and nothing of a person's is lost.

New content is written into a working folder and synced; then a journal says what is about to be replaced; then each
file is renamed into its place; the manifest comes last. A file whose content is neither that of the manifest nor
that of a journal was edited by hand: it is kept and reported, unless the caller forces. A file that the declaration did not
write is never replaced: then nothing at all is written. A user's own file is created once.
"""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import replace
from pathlib import Path

from urform.dataclasses import dataclass
from urform.languages.target import File
from urform.output.changes import (
    EDITED,
    IN_THE_WAY,
    OVERWRITTEN,
    REMOVED,
    WRITTEN,
    Change,
    Comparison,
    Planned,
)
from urform.output.folder import Folder, OutputError, synced, told
from urform.output.manifest import (
    JOURNAL,
    MANIFEST,
    WORKING,
    Manifest,
    Ours,
    content_hash,
    journal_text,
    manifest_text,
    read_manifests,
    read_ours,
)


class InTheWay(OutputError):
    """Files that are there already and that the declaration did not write. Nothing was written anywhere."""

    def __init__(self, owner: str, found: Sequence[tuple[Path, Change]]) -> None:
        super().__init__("\n".join(in_the_way(owner, place, change) for place, change in found))
        self.found = tuple(found)


def in_the_way(owner: str, place: Path, change: Change) -> str:
    """The message about a file that is there already and that the declaration did not write."""
    if change.owner:
        return (
            f"{place}: belongs to '{change.owner}', and '{owner}' would write it too; "
            "give each an output folder of its own"
        )
    return (
        f"{place}: is in the way: Urform did not write it, and '{owner}' would; move it, or write elsewhere"
    )


def changes(
    root: Path, files: Iterable[File], *, owner: str, differences: bool = False
) -> tuple[Change, ...]:
    """What writing these files of a declaration into a folder would do, with what would differ in each.

    Changes nothing. `owner` is the declaration's name.
    """
    folder = Folder(root)
    comparison = Comparison(folder, read_ours(folder, owner), differences=differences)
    return tuple(planned.change for planned in comparison.every(files))


def apply(
    root: Path,
    files: Iterable[File],
    *,
    owner: str,
    force: bool = False,
    source: Callable[[], str] = str,
    waiting: Callable[[Path], None] | None = None,
) -> tuple[Change, ...]:
    """Write files of a declaration into a folder; returns what was done. Edited files are kept unless `force`.

    `owner` is the declaration's name. `source` gives, at the end, the hash of all that the files were made from; the
    manifest tells it for `up_to_date`. Another process that writes into the folder is waited for; `waiting` is told of it
    before. Raises InTheWay where files of others are there already, OutputError when the folder cannot be written.
    """
    with alone([root], waiting):
        prepared = prepare(root, files, owner=owner, force=force, source=source)
        refuse_what_is_in_the_way(owner, [prepared])
        commit(prepared)
        clean(root)
    return prepared.changes


def clean(root: Path) -> None:
    """Drop what killed runs left in a folder that no other process works in, and in which all is in its place."""
    shutil.rmtree(root / WORKING, ignore_errors=True)


@contextmanager
def alone(roots: Iterable[Path], waiting: Callable[[Path], None] | None = None) -> Iterator[None]:
    """Work in folders while no other process does. All take them in the same order, so that none waits for ever."""
    with ExitStack() as folders:
        for root in sorted(set(roots)):
            try:
                folders.enter_context(Folder(root).alone(waiting))
            except OSError as error:
                raise told(error, root) from error
        yield


@dataclass(frozen=True, slots=True)
class Prepared:
    """Content that stands ready in a working folder, and all that is needed to put it into place."""

    root: Path
    ours: Ours
    changes: tuple[Change, ...]
    ready: tuple[str, ...]  # the paths whose content is ready, in the order of the working folder's files
    digests: Mapping[str, str]  # of what is generated, by path
    manifest: Manifest

    @property
    def in_the_way(self) -> tuple[Change, ...]:
        return tuple(change for change in self.changes if change.state == IN_THE_WAY)


def prepare(
    root: Path, files: Iterable[File], *, owner: str, force: bool = False, source: Callable[[], str] = str
) -> Prepared:
    """Write new content beside what it will replace, which stays as it is. Raises OutputError."""
    folder = Folder(root)
    try:
        return _Preparing(folder, read_ours(folder, owner), force).of(files, source)
    except OSError as error:
        raise told(error, root) from error


def refuse_what_is_in_the_way(owner: str, every: Sequence[Prepared]) -> None:
    """Give up all that is ready where something of others is in the way of any of it. Raises InTheWay."""
    blocked = [(each.root / change.path, change) for each in every for change in each.in_the_way]
    blocked += _written_twice(every)
    if blocked:
        for each in every:
            abandon(each)
        raise InTheWay(owner, blocked)


def _written_twice(every: Sequence[Prepared]) -> Iterator[tuple[Path, Change]]:
    """The files that several targets would write into one folder."""
    first: dict[Path, str] = {}
    for each in every:
        for path in each.ready:
            place = each.root / path
            if place in first:
                yield place, Change(path, IN_THE_WAY, owner=first[place])
            first.setdefault(place, each.ours.owner)


def abandon(prepared: Prepared) -> None:
    """Leave the folder as it was."""
    _drop_working(Folder(prepared.root), prepared.ours)
    with suppress(OSError):
        prepared.root.rmdir()  # only where it is empty, so made for this


def commit(prepared: Prepared) -> None:
    """Put into place what is ready. Raises OutputError when the folder cannot be written."""
    try:
        _Replacing(prepared).all()
    except OSError as error:
        raise told(error, prepared.root) from error


def working_of(owner: str) -> str:
    """The folder in the working folder where an owner's content is made ready: several may do so at once."""
    return f"{WORKING}/{content_hash(owner.encode())[:12]}"


def _drop_working(folder: Folder, ours: Ours) -> None:
    """Drop what an owner made ready; a journal stays, for it is still needed."""
    shutil.rmtree(folder.root / working_of(ours.owner), ignore_errors=True)
    with suppress(OSError):
        (folder.root / WORKING).rmdir()  # only where nothing else is in it


def _write(place: Path, content: bytes) -> None:
    place.parent.mkdir(parents=True, exist_ok=True)
    place.unlink(missing_ok=True)
    with place.open("xb") as file:
        file.write(content)


class _Preparing:
    """Makes ready what is to be written into a folder that no other process writes into."""

    def __init__(self, folder: Folder, ours: Ours, force: bool) -> None:
        self._folder = folder
        self._ours = ours
        self._force = force
        self._ready: list[str] = []
        self._digests: dict[str, str] = {}
        self._yours: dict[str, str] = {}
        self._once: dict[str, str] = {}
        self._working = working_of(ours.owner)
        self._operations: dict[str, dict[str, str]] = {}

    def of(self, files: Iterable[File], source: Callable[[], str]) -> Prepared:
        comparison = Comparison(self._folder, self._ours, force=self._force)
        try:
            done = tuple(self._taken(planned) for planned in comparison.every(files))
        except BaseException:
            _drop_working(self._folder, self._ours)
            raise
        told = any(change.state == EDITED or change.missing or change.leftover for change in done)
        from_, yours = ("", {}) if told else (source(), self._yours)
        manifest = Manifest(self._digests, from_, yours, self._operations, self._once)
        return Prepared(self._folder.root, self._ours, done, tuple(self._ready), self._digests, manifest)

    def _taken(self, planned: Planned) -> Change:
        """Make ready what is to be written, and note what the manifest will say; returns the change."""
        change, digest = planned.change, planned.digest
        self._yours |= planned.yours
        if planned.operations:
            self._operations.setdefault(change.path, {}).update(planned.operations)
        if change.state == EDITED and self._force:
            change = replace(change, state=OVERWRITTEN)
        if change.state in WRITTEN:
            assert planned.content is not None
            place = self._folder.place(f"{self._working}/{len(self._ready)}")
            _write(place, planned.content)
            self._ready.append(change.path)
        elif change.state == EDITED:
            digest = self._ours.manifest.files.get(change.path, "")
        if planned.once:
            self._once[change.path] = planned.once
        elif planned.users:
            self._yours |= {change.path: digest} if digest else {}
        elif digest:
            self._digests[change.path] = digest
        return change


class _Replacing:
    """Puts into place what was made ready."""

    def __init__(self, prepared: Prepared) -> None:
        self._prepared = prepared
        self._folder = Folder(prepared.root)
        self._ours = read_ours(
            self._folder, prepared.ours.owner
        )  # another target may have been put into place
        self._working = prepared.root / WORKING
        self._own = working_of(self._ours.owner)

    def all(self) -> None:
        self._replace([change.path for change in self._prepared.changes if change.state == REMOVED])
        others = {owner: self._settled(owner, manifest) for owner, manifest in self._ours.others.items()}
        content = manifest_text(others | {self._ours.owner: self._prepared.manifest}).encode()
        if self._folder.read(MANIFEST) != content:
            self._put(MANIFEST, content)
        if self._working.exists():
            (self._folder.root / JOURNAL).unlink(missing_ok=True)
            (self._working / "next").unlink(missing_ok=True)
            _drop_working(self._folder, self._ours)

    def _settled(self, owner: str, manifest: Manifest) -> Manifest:
        """The manifest of another declaration, whose run may have been killed, with what that run did reach."""
        reached = {}
        for path, digests in self._ours.others_about_to_be.get(owner, {}).items():
            content = self._folder.read(path)
            if content is not None and content_hash(content) in digests:
                reached[path] = content_hash(content)
        return (
            replace(manifest, files={**manifest.files, **reached}, source="", yours={})
            if reached
            else manifest
        )

    def _replace(self, removed: Sequence[str]) -> None:
        """From the journal on, a killed run has left known content everywhere."""
        ready = [
            (self._folder.place(f"{self._own}/{n}"), path) for n, path in enumerate(self._prepared.ready)
        ]
        if not ready and not removed:
            return
        synced(place for place, _ in ready)
        about_to_be = {path: set(digests) for path, digests in self._ours.about_to_be.items()}
        for _, path in ready:
            if path in self._prepared.digests:  # not so a file that is the user's from now on
                about_to_be.setdefault(path, set()).add(self._prepared.digests[path])
        journals: dict[str, Mapping[str, Iterable[str]]] = {**self._ours.others_about_to_be}
        self._put(JOURNAL, journal_text(journals | {self._ours.owner: about_to_be}).encode())
        folders = set(self._renamed(ready))
        for path in removed:
            place = self._folder.place(path)
            place.unlink(missing_ok=True)
            folders.add(_without_empty_folders(place.parent, self._folder.root))
        synced(folder for folder in folders if folder.is_dir())

    def _renamed(self, ready: Sequence[tuple[Path, str]]) -> Iterator[Path]:
        """Rename what is ready into its place; yields the folders."""
        created: set[Path] = set()
        for place, path in ready:
            target = self._folder.place(path)
            if target.parent not in created:
                target.parent.mkdir(parents=True, exist_ok=True)
                created.add(target.parent)
                yield target.parent
            place.replace(target)

    def _put(self, path: str, content: bytes) -> None:
        """One file, whole or not at all."""
        place = self._working / "next"
        _write(place, content)
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
    manifest = next((m for m in read_manifests(folder).values() if m.source == source), None)
    if manifest is None:
        return None
    lines = 0
    for path, digest in {**manifest.files, **manifest.yours}.items():
        content = folder.read(path)
        if content is None or content_hash(content) != digest:
            return None
        lines += content.count(b"\n")
    return Standing(len(manifest.files), len(manifest.yours) + len(manifest.once), lines)


def write_project(root: Path, files: Iterable[File]) -> None:
    """Write a project into a folder of its own, such as a scratch folder; what is there is replaced."""
    folder = Folder(root)
    created: set[Path] = set()
    for file in files:
        path = folder.place(file.path)
        if path.parent not in created:
            path.parent.mkdir(parents=True, exist_ok=True)
            created.add(path.parent)
        if not (file.users and path.exists()):
            path.write_text(file.text, encoding="utf-8", newline="\n")
