"""The manifest of a folder: which files each declaration wrote there, by content. No times, no absolute paths.

Several declarations may write into one folder; each knows its own files and touches no other's. While files are being
replaced, a journal stands beside the manifest, with what they are about to become. A run that was killed leaves it there;
the next one knows those contents for its declaration's own too, and not for a person's edits.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Mapping
from dataclasses import field
from typing import Any

from urform.dataclasses import dataclass
from urform.output.folder import Folder, OutputError, is_inside

MANIFEST = ".urform.json"
WORKING = ".urform-writing"  # a folder that is there only while files are written, or after a run was killed
JOURNAL = f"{WORKING}/journal.json"
VERSION = 2

Digests = Mapping[str, str]  # by path


@dataclass(frozen=True, slots=True)
class Manifest:
    """The files that one declaration wrote for a target: content hashes by path, and for each file that it left to the
    user the operations that were asked for there, each with the pattern that finds it. `once` are files that are the
    user's from the first time on, as they were then. `source` is the hash of all that the files were made from; it stands
    there only when nothing was left to tell a person, and then `yours` has the user's own files that were looked into for
    that."""

    files: Digests = field(default_factory=dict)
    source: str = ""
    yours: Digests = field(default_factory=dict)
    operations: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    once: Digests = field(default_factory=dict)

    def shape(self) -> dict[str, Any]:
        """As it is written down."""
        known = {"source": self.source, "yours": dict(sorted(self.yours.items()))} if self.source else {}
        asked = {path: dict(sorted(patterns.items())) for path, patterns in sorted(self.operations.items())}
        return {
            **known,
            **({"operations": asked} if asked else {}),
            **({"once": dict(sorted(self.once.items()))} if self.once else {}),
            "files": dict(sorted(self.files.items())),
        }

    @property
    def paths(self) -> set[str]:
        return {*self.files, *self.operations, *self.once}


Journal = Mapping[str, frozenset[str]]  # by path, what a file is about to become


@dataclass(frozen=True, slots=True)
class Ours:
    """Whose files stand in a folder, seen by one declaration: every content by which a file is known for its own (that of
    its manifest, and those of runs that were killed), and what others have there."""

    owner: str
    manifest: Manifest = field(default_factory=Manifest)
    about_to_be: Journal = field(default_factory=dict)
    others: Mapping[str, Manifest] = field(default_factory=dict)
    others_about_to_be: Mapping[str, Journal] = field(default_factory=dict)

    def has(self, path: str, digest: str) -> bool:
        """Whether a file with that content is as this declaration wrote it."""
        return self.manifest.files.get(path) == digest or digest in self.about_to_be.get(path, ())

    @property
    def paths(self) -> set[str]:
        return {*self.manifest.files, *self.about_to_be}

    def other_owners(self) -> Mapping[str, str]:
        """The other declaration that each path belongs to."""
        owners = {path: owner for owner, journal in self.others_about_to_be.items() for path in journal}
        return owners | {path: owner for owner, other in self.others.items() for path in other.paths}


def content_hash(content: bytes) -> str:
    """The hash under which a file's content stands in the manifest."""
    return hashlib.sha256(content).hexdigest()


def manifest_text(manifests: Mapping[str, Manifest]) -> str:
    """The manifests of all declarations of a folder, as they are written down."""
    shapes = {owner: manifest.shape() for owner, manifest in sorted(manifests.items())}
    return json.dumps({"version": VERSION, "declarations": shapes}, indent=2) + "\n"


def journal_text(journals: Mapping[str, Mapping[str, Iterable[str]]]) -> str:
    """What the files of each declaration are about to become, as it is written down."""
    shapes = {
        owner: {"files": {path: sorted(digests) for path, digests in sorted(journal.items())}}
        for owner, journal in sorted(journals.items())
    }
    return json.dumps({"version": VERSION, "declarations": shapes}, indent=2) + "\n"


def read_manifests(folder: Folder) -> Mapping[str, Manifest]:
    """The manifest of each declaration. Raises OutputError where they are not ours to read."""
    return {owner: _manifest(shape) for owner, shape in _read(folder, MANIFEST).items()}


def _manifest(shape: Mapping[str, Any]) -> Manifest:
    source, yours, operations = shape.get("source", ""), shape.get("yours", {}), shape.get("operations", {})
    once = shape.get("once", {})
    if not (isinstance(source, str) and _paths(yours) and _paths(operations) and _paths(once)):
        return Manifest(shape["files"])
    asked = {path: patterns for path, patterns in operations.items() if isinstance(patterns, dict)}
    return Manifest(shape["files"], source, yours, asked, once)


def read_ours(folder: Folder, owner: str) -> Ours:
    """The state of a folder for one owner: its manifest, those of others, and journals of killed runs."""
    journals = {
        name: {path: frozenset(map(str, digests)) for path, digests in shape["files"].items()}
        for name, shape in _read(folder, JOURNAL).items()
    }
    manifests = dict(read_manifests(folder))
    _rename(manifests, owner)
    _rename(journals, owner)
    own, about_to_be = manifests.pop(owner, Manifest()), journals.pop(owner, {})
    return Ours(owner, own, about_to_be, manifests, journals)


def owner_of(declaration: str, target: str) -> str:
    """The name under which the files of a target stand in a manifest."""
    return f"{declaration} ({target})"


def _rename(entries: dict[str, Any], owner: str) -> None:
    """Take over what was noted when a folder could have one target only, by the declaration's name alone."""
    declaration, _, target = owner.partition(" (")
    if target and declaration in entries and owner not in entries:
        entries[owner] = entries.pop(declaration)


def _read(folder: Folder, path: str) -> Mapping[str, Mapping[str, Any]]:
    """The entries of a file by declaration; none where there is no file."""
    content = folder.read(path)
    if content is None:
        return {}
    try:
        data: Any = json.loads(content)
    except (ValueError, RecursionError) as error:
        why = "it nests too deep" if isinstance(error, RecursionError) else error
        raise OutputError(f"{folder.root / path} cannot be read: {why}; remove it to start anew") from error
    if isinstance(data, dict) and data.get("version") == VERSION:
        shapes = data.get("declarations")
        if isinstance(shapes, dict) and all(
            isinstance(s, dict) and _paths(s.get("files")) for s in shapes.values()
        ):
            return shapes
    raise OutputError(f"{folder.root / path} is no manifest of this Urform; remove it to start anew")


def _paths(shape: Any) -> bool:
    """Whether it is a mapping whose keys are paths below the folder."""
    return isinstance(shape, dict) and all(map(is_inside, shape))
