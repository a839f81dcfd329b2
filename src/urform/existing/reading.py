"""From files and folders to found types, whatever they are written in."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from urform.dataclasses import dataclass
from urform.existing.files import source_files
from urform.existing.found import Found
from urform.existing.schemas.reading import read_schemas
from urform.existing.sources.reading import LANGUAGES, read_sources

SCHEMA = "json-schema"
SUFFIXES = {
    **dict.fromkeys((".json", ".yaml", ".yml"), SCHEMA),
    **{suffix: name for name, language in LANGUAGES.items() for suffix in language.suffixes},
}
KINDS = tuple(dict.fromkeys(SUFFIXES.values()))


@dataclass(frozen=True, slots=True)
class Asked:
    """What is to be read: files, what they are written in where their names do not say it, and types that stand for others."""

    paths: tuple[Path, ...]
    kind: str | None = None
    given: Mapping[str, str] | None = None


class UnknownKind(Exception):
    """A file whose name does not say what it is written in; the text is its name."""


def read_found(asked: Asked) -> Found:
    """All types of all files; of folders, of every file whose name says what it is written in. Raises UnknownKind."""
    by_kind: dict[str, list[Path]] = {}
    for path in asked.paths:
        for file in source_files([path], _of_folders(asked.kind)) if path.is_dir() else (path,):
            kind = asked.kind or SUFFIXES.get(file.suffix.lower())
            if kind is None:
                raise UnknownKind(str(file))
            by_kind.setdefault(kind, []).append(file)
    return joined([_read(kind, files, asked.given or {}) for kind, files in by_kind.items()])


def _of_folders(kind: str | None) -> set[str]:
    """How the files end that are read in a folder. A schema has to be named: most files in JSON or YAML are none."""
    return {suffix for suffix, each in SUFFIXES.items() if each == (kind or each) and each != SCHEMA}


def _read(kind: str, files: Sequence[Path], given: Mapping[str, str]) -> Found:
    return read_schemas(files, given) if kind == SCHEMA else read_sources(files, kind, given)


def joined(parts: Sequence[Found]) -> Found:
    """Several of them as one."""
    return Found(
        tuple(each for part in parts for each in part.types),
        is_open=any(part.is_open for part in parts),
        from_records=any(part.from_records for part in parts),
        unread=tuple(each for part in parts for each in part.unread),
    )


def only(found: Found, names: Sequence[str]) -> Found:
    """The types of these names, with all that they need. Names are as they stand in what was read."""
    by_id = {each.id: each for each in found.types}
    waiting = [each.id for each in found.types if each.name in names]
    needed: set[str] = set()
    while waiting:
        id_ = waiting.pop()
        if id_ not in needed and id_ in by_id:
            needed.add(id_)
            waiting.extend(by_id[id_].needs())
    kept = [each for each in found.types if each.id in needed]
    return Found(tuple(kept), found.is_open, found.from_records, found.unread)
