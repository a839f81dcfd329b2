"""From files and folders to found types, whatever they are written in."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from urform.dataclasses import dataclass
from urform.existing.found import Found
from urform.existing.schemas.reading import read_schemas

SCHEMA = "json-schema"
SUFFIXES = {".json": SCHEMA, ".yaml": SCHEMA, ".yml": SCHEMA}
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
    """All types of all files. Raises UnknownKind."""
    by_kind: dict[str, list[Path]] = {}
    for path in asked.paths:
        kind = asked.kind or SUFFIXES.get(path.suffix.lower())
        if kind is None:
            raise UnknownKind(str(path))
        by_kind.setdefault(kind, []).append(path)
    return joined([read_schemas(paths, asked.given or {}) for paths in by_kind.values()])


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
