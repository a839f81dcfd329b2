"""Compares a generated project with its folder: what writing it would do to each file."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field, replace
from pathlib import PurePosixPath

from urform.dataclasses import dataclass
from urform.languages.target import File, Stub
from urform.output.folder import Folder
from urform.output.manifest import Ours, content_hash

STATES = NEW, CHANGED, UNCHANGED, OVERWRITTEN, EDITED, REMOVED, KEPT, USERS, IN_THE_WAY = (
    "new",
    "changed",
    "unchanged",
    "overwritten",
    "edited",
    "removed",
    "kept",
    "yours",
    "in the way",
)
WRITTEN = (NEW, CHANGED, OVERWRITTEN)
NO_END = "\\ No newline at end of file"


@dataclass(frozen=True, slots=True)
class Leftover:
    """An operation in a user's own file that the declaration no longer asks for: where it begins, and that line."""

    operation: str
    path: str
    line: int
    text: str


@dataclass(frozen=True, slots=True)
class Change:
    """The change of one file: `new`, `changed`, `unchanged`, `edited` (by hand, so kept), `overwritten` (edited by hand,
    but that was asked for), `removed` (no longer generated), `kept` (no longer generated but edited), `yours`, or
    `in the way`: a file that this declaration did not write; `owner` is the declaration that did, if one did.

    `lines` counts those of the file as it is generated; `difference` is a unified diff, where it was asked for.
    """

    path: str
    state: str
    lines: int = 0
    difference: str = ""
    missing: tuple[Stub, ...] = ()  # what a user's own file does not have yet
    to_write: tuple[Stub, ...] = ()  # what a user has to write in a new file
    leftover: tuple[Leftover, ...] = ()  # what the user's own files need no longer
    aged: bool = False  # written once, never edited, and another one would be written today
    owner: str = ""


@dataclass(frozen=True, slots=True)
class Planned:
    """A change with the content to be written, None where nothing is; `digest` is that of what is generated, and
    `yours` are those of the user's own files that were looked into."""

    change: Change
    content: bytes | None = None
    digest: str = ""
    yours: Mapping[str, str] = field(default_factory=dict)
    users: bool = False
    once: str = ""  # the hash of a file that is the user's from the first time on, as it was then
    operations: Mapping[str, str] = field(default_factory=dict)  # of a user's own file: each with its pattern


class Comparison:
    """Compares generated files with those of a folder."""

    def __init__(self, folder: Folder, ours: Ours, *, differences: bool = False, force: bool = False) -> None:
        self._folder = folder
        self._force = force
        self._ours = ours
        self._generated: set[str] = set()  # so far
        self._others = ours.other_owners()
        self._asked: set[str] = set()  # operations, so far
        self._differences = differences

    def every(self, files: Iterable[File]) -> Iterator[Planned]:
        """The change of each generated file, then of those that are no longer generated.

        A user's file that lacks something is looked at when all files are known: it may stand in another one.
        """
        users: list[File] = []
        for file in files:
            self._generated.add(file.path)
            self._asked |= {stub.operation for stub in file.stubs}
            if file.users and file.stubs:
                users.append(file)
            else:
                yield self._of(file)
        yield from map(self._of, users)
        yield from self._gone()
        yield from self._left_over()

    def _of(self, file: File) -> Planned:
        """The change of one generated file."""
        before = self._folder.read(file.path)
        owner = self._others.get(file.path, "")
        if before is not None and owner:
            return Planned(Change(file.path, IN_THE_WAY, owner=owner))
        if file.once:
            return self._once(file, before)
        asked = {stub.operation: stub.pattern for stub in file.stubs}
        if file.users and before is not None:
            return self._users(file, before, asked)
        after = file.text.encode("utf-8")
        lines, digest = after.count(b"\n"), content_hash(after)
        if before == after:
            return Planned(Change(file.path, UNCHANGED, lines), None, digest)
        state = NEW if before is None else self._state_of(file.path, before)
        change = Change(file.path, state, lines, self._difference(file.path, before, after))
        if file.users:
            change = replace(change, to_write=file.stubs)
        return Planned(change, after, digest, users=file.users, operations=asked)

    def _once(self, file: File, before: bytes | None) -> Planned:
        """A file that is the user's from the first time on, to be edited or removed."""
        after = file.text.encode("utf-8")
        lines, digest = after.count(b"\n"), content_hash(after)
        first = self._ours.manifest.once.get(file.path) or self._ours.manifest.files.get(file.path, "")
        is_ours = first or before is None or self._ours.has(file.path, content_hash(before))
        if not is_ours and before != after:
            return Planned(Change(file.path, IN_THE_WAY))
        if before is None and (self._force or not first):
            change = Change(file.path, NEW, lines, self._difference(file.path, None, after))
            return Planned(change, after, digest, once=digest)
        if before is None:
            return Planned(Change(file.path, USERS), once=first)
        difference = self._difference(file.path, before, after) if before != after else ""
        aged = before != after and content_hash(before) == first
        change = Change(file.path, USERS, before.count(b"\n"), difference, aged=aged)
        return Planned(change, once=first or digest)

    def _state_of(self, path: str, before: bytes) -> str:
        """Of a file that is there with another content than is generated."""
        if self._ours.has(path, content_hash(before)):
            return CHANGED
        return EDITED if path in self._ours.paths else IN_THE_WAY

    def _gone(self) -> Iterator[Planned]:
        """The changes of files that are no longer generated."""
        for path in sorted(self._ours.paths - self._generated):
            before = self._folder.read(path)
            if before is not None:
                state = REMOVED if self._ours.has(path, content_hash(before)) else KEPT
                yield Planned(Change(path, state, 0, self._difference(path, before, b"")))

    def _difference(self, path: str, before: bytes | None, after: bytes) -> str:
        """A patch of the file, in the form that tools for patches take."""
        if not self._differences:
            return ""
        old, new = (
            (content or b"").decode("utf-8", "replace").splitlines(True) for content in (before, after)
        )
        place = (self._folder.root / path).as_posix()
        names = ("/dev/null" if before is None else f"a/{place}", "/dev/null" if not after else f"b/{place}")
        lines = difflib.unified_diff(old, new, *names)
        return "".join(line if line.endswith("\n") else f"{line}\n{NO_END}\n" for line in lines)

    def _left_over(self) -> Iterator[Planned]:
        """What stands in the user's own files for operations that are no longer asked for."""
        for path, patterns in sorted(self._ours.manifest.operations.items()):
            gone = {name: pattern for name, pattern in patterns.items() if name not in self._asked}
            content = self._folder.read(path) if gone else None
            if content is None:
                continue
            text = content.decode("utf-8", "replace")
            left = {name: at.start() for name, pattern in gone.items() if (at := _in(pattern, text))}
            if left:
                lines = text.splitlines()
                numbers = {name: text.count("\n", 0, at) for name, at in left.items()}
                leftovers = (Leftover(n, path, at + 1, lines[at].strip()) for n, at in numbers.items())
                change = Change(path, USERS, leftover=tuple(leftovers))
                yield Planned(change, users=True, operations={name: gone[name] for name in left})

    def _users(self, file: File, before: bytes, asked: Mapping[str, str]) -> Planned:
        """A file that is the user's, with the stubs that are neither in it nor in another of its folder and kind."""
        own = {file.path: before, **(dict(self._siblings(file.path)) if file.stubs else {})}
        texts = [content.decode("utf-8", "replace") for content in own.values()]
        missing = tuple(stub for stub in file.stubs if not any(_in(stub.pattern, text) for text in texts))
        yours = {path: content_hash(content) for path, content in own.items()}
        change = Change(file.path, USERS, before.count(b"\n"), missing=missing)
        return Planned(change, yours=yours, users=True, operations=asked)

    def _siblings(self, path: str) -> Iterator[tuple[str, bytes]]:
        """Files of the user's own beside one, of the same kind."""
        suffix = PurePosixPath(path).suffix
        for place in sorted(self._folder.place(path).parent.glob(f"*{suffix}")):
            name = place.relative_to(self._folder.root).as_posix()
            ours = name in self._ours.paths or name in self._generated or name in self._others
            if not ours and place.is_file() and not place.is_symlink():
                yield name, self._folder.read(name) or b""


def _in(pattern: str, text: str) -> re.Match[str] | None:
    """Where a stub's pattern finds it in a whole file."""
    return re.search(pattern, text, re.MULTILINE)
