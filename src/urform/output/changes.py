"""What writing a project would do to each of its files."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import PurePosixPath

from urform.languages.target import File, Stub
from urform.output.folder import Folder
from urform.output.manifest import Ours, content_hash

STATES = NEW, CHANGED, UNCHANGED, EDITED, REMOVED, KEPT, USERS = (
    "new",
    "changed",
    "unchanged",
    "edited",
    "removed",
    "kept",
    "yours",
)
WRITTEN = (NEW, CHANGED)


@dataclass(frozen=True, slots=True)
class Change:
    """What happens to one file: `new`, `changed`, `unchanged`, `edited` (by hand, so kept), `removed` (no longer
    generated), `kept` (no longer generated but edited), or `yours`.

    `lines` counts those of the file as it is generated; `difference` is a unified diff, where it was asked for.
    """

    path: str
    state: str
    lines: int = 0
    difference: str = ""
    missing: tuple[Stub, ...] = ()  # what a user's own file does not have yet


@dataclass(frozen=True, slots=True)
class Planned:
    """A change with the content to be written, None where nothing is; `digest` is that of what is generated, and
    `yours` are those of the user's own files that were looked into."""

    change: Change
    content: bytes | None = None
    digest: str = ""
    yours: Mapping[str, str] = field(default_factory=dict)
    users: bool = False


class Comparison:
    """Compares generated files with those of a folder."""

    def __init__(self, folder: Folder, ours: Ours, *, differences: bool = False) -> None:
        self._folder = folder
        self._ours = ours
        self._generated: set[str] = set()  # so far
        self._differences = differences

    def every(self, files: Iterable[File]) -> Iterator[Planned]:
        """What happens to each file, then to those that are no longer generated.

        A user's file that lacks something is looked at when all files are known: it may stand in another one.
        """
        users: list[File] = []
        for file in files:
            self._generated.add(file.path)
            if file.users and file.stubs:
                users.append(file)
            else:
                yield self._of(file)
        yield from map(self._of, users)
        yield from self._gone()

    def _of(self, file: File) -> Planned:
        """What happens to one generated file."""
        before = self._folder.read(file.path)
        if file.users and before is not None:
            return self._users(file, before)
        after = file.text.encode("utf-8")
        lines, digest = after.count(b"\n"), content_hash(after)
        if before == after:
            return Planned(Change(file.path, UNCHANGED, lines), None, digest, users=file.users)
        state = NEW
        if before is not None:
            state = CHANGED if self._ours.has(file.path, content_hash(before)) else EDITED
        change = Change(file.path, state, lines, self._difference(file.path, before, after))
        return Planned(change, after, digest, users=file.users)

    def _gone(self) -> Iterator[Planned]:
        """What happens to files that were generated once and are no longer."""
        for path in sorted(self._ours.paths - self._generated):
            before = self._folder.read(path)
            if before is not None:
                state = REMOVED if self._ours.has(path, content_hash(before)) else KEPT
                yield Planned(Change(path, state, 0, self._difference(path, before, b"")))

    def _difference(self, path: str, before: bytes | None, after: bytes) -> str:
        if not self._differences:
            return ""
        old, new = (
            (content or b"").decode("utf-8", "replace").splitlines(True) for content in (before, after)
        )
        return "".join(difflib.unified_diff(old, new, path, path))

    def _users(self, file: File, before: bytes) -> Planned:
        """A file that is the user's, with the stubs that are neither in it nor in another of its folder and kind."""
        own = {file.path: before, **(dict(self._siblings(file.path)) if file.stubs else {})}
        texts = [content.decode("utf-8", "replace") for content in own.values()]
        missing = tuple(
            stub
            for stub in file.stubs
            if not any(re.search(stub.pattern, text, re.MULTILINE) for text in texts)
        )
        yours = {path: content_hash(content) for path, content in own.items()}
        return Planned(Change(file.path, USERS, before.count(b"\n"), missing=missing), yours=yours)

    def _siblings(self, path: str) -> Iterator[tuple[str, bytes]]:
        """Files of the user's own beside one, of the same kind."""
        suffix = PurePosixPath(path).suffix
        for place in sorted(self._folder.place(path).parent.glob(f"*{suffix}")):
            name = place.relative_to(self._folder.root).as_posix()
            ours = name in self._ours.paths or name in self._generated
            if not ours and place.is_file() and not place.is_symlink():
                yield name, self._folder.read(name) or b""
