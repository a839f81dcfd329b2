"""The manifest of a folder: which files are ours, by content. No times, no absolute paths.

While files are being replaced, a journal stands beside it, with what they are about to become. A run that was killed
leaves it there; the next one knows those contents for its own too, and not for a person's edits.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from urform.output.folder import Folder, OutputError, is_inside

MANIFEST = ".urform.json"
WORKING = ".urform-writing"  # a folder that is there only while files are written, or after a run was killed
JOURNAL = f"{WORKING}/journal.json"
VERSION = 1


@dataclass(frozen=True, slots=True)
class Manifest:
    """Content hashes by path. `source` is the hash of all that the files were made from; it stands there only when
    nothing was left to tell a person, and then `yours` has the user's own files that were looked into for that."""

    files: Mapping[str, str] = field(default_factory=dict)
    source: str = ""
    yours: Mapping[str, str] = field(default_factory=dict)

    def text(self) -> str:
        """As it is written down."""
        known = {"source": self.source, "yours": dict(sorted(self.yours.items()))} if self.source else {}
        shape = {"version": VERSION, **known, "files": dict(sorted(self.files.items()))}
        return json.dumps(shape, indent=2) + "\n"


@dataclass(frozen=True, slots=True)
class Ours:
    """Every content by which a file is known for ours: that of the manifest, and those of runs that were killed."""

    manifest: Manifest
    about_to_be: Mapping[str, frozenset[str]]

    def has(self, path: str, digest: str) -> bool:
        """Whether a file with that content is as Urform wrote it."""
        return self.manifest.files.get(path) == digest or digest in self.about_to_be.get(path, ())

    @property
    def paths(self) -> set[str]:
        return {*self.manifest.files, *self.about_to_be}


def content_hash(content: bytes) -> str:
    """The hash under which a file's content stands in the manifest."""
    return hashlib.sha256(content).hexdigest()


def journal_text(about_to_be: Mapping[str, Iterable[str]]) -> str:
    """What files are about to become, as it is written down."""
    files = {path: sorted(digests) for path, digests in sorted(about_to_be.items())}
    return json.dumps({"version": VERSION, "files": files}, indent=2) + "\n"


def read_manifest(folder: Folder) -> Manifest:
    """The manifest of a folder, empty where there is none. Raises OutputError where it is not ours to read."""
    data = _read(folder, MANIFEST)
    if data is None:
        return Manifest()
    source, yours = data.get("source"), data.get("yours")
    if isinstance(source, str) and isinstance(yours, dict) and all(map(is_inside, yours)):
        return Manifest(data["files"], source, yours)
    return Manifest(data["files"])


def read_ours(folder: Folder) -> Ours:
    """The manifest, and the journal that a killed run left."""
    journal = _read(folder, JOURNAL) or {"files": {}}
    about_to_be = {
        path: frozenset(map(str, digests))
        for path, digests in journal["files"].items()
        if isinstance(digests, list)
    }
    return Ours(read_manifest(folder), about_to_be)


def _read(folder: Folder, path: str) -> dict[str, Any] | None:
    content = folder.read(path)
    if content is None:
        return None
    try:
        data: Any = json.loads(content)
    except (ValueError, RecursionError) as error:
        why = "it nests too deep" if isinstance(error, RecursionError) else error
        raise OutputError(f"{folder.root / path} cannot be read: {why}; remove it to start anew") from error
    if isinstance(data, dict) and data.get("version") == VERSION:
        files = data.get("files")
        if isinstance(files, dict) and all(map(is_inside, files)):
            return data
    raise OutputError(f"{folder.root / path} is no manifest of this Urform; remove it to start anew")
