"""Schemas as documents: files in JSON or YAML, references within and between them, and the lines of what is in them."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from dataclasses import field
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urldefrag

import yaml

from urform.dataclasses import dataclass

Node = Any  # of a document in JSON
_LOADER = getattr(yaml, "CSafeLoader", yaml.SafeLoader)


class Unreadable(Exception):
    """A file is not there, or is neither JSON nor YAML."""


class NotThere(Exception):
    """A reference leads nowhere that may be read; the text says where it was to lead."""


@dataclass(frozen=True, slots=True)
class Located:
    """A node, and where it stands: a file, and a JSON pointer (RFC 6901) in it."""

    file: Path
    pointer: str
    node: Node

    def at(self, *keys: str | int) -> Located:
        """What is in it, by keys that are there."""
        node, pointer = self.node, self.pointer
        for key in keys:
            node = node[key]
            pointer += "/" + str(key).replace("~", "~0").replace("/", "~1")
        return Located(self.file, pointer, node)

    def get(self, key: str) -> Node:
        """A value of a mapping; None where it is not there, or this is no mapping."""
        return self.node.get(key) if isinstance(self.node, Mapping) else None

    def entries(self, key: str) -> Iterator[Located]:
        """The entries of a list, or the values of a mapping, under a key; none where it is neither."""
        inner = self.get(key)
        keys = inner if isinstance(inner, Mapping) else range(len(inner)) if isinstance(inner, list) else ()
        for each in keys:
            yield self.at(key, each)

    @property
    def name(self) -> str:
        """The last key on the way to it; empty for a root."""
        return self.pointer.rpartition("/")[2].replace("~1", "/").replace("~0", "~")

    @property
    def address(self) -> str:
        """By which it is known."""
        return f"{self.file}#{self.pointer}"


@dataclass(slots=True)
class Documents:
    """Files that were read, each once. Nothing is fetched: a reference to the network leads to a file beside, or nowhere."""

    _roots: dict[Path, Located] = field(default_factory=dict)
    _lines: dict[Path, dict[str, int]] = field(default_factory=dict)
    _by_id: dict[str, Located] = field(default_factory=dict)

    def read(self, path: Path) -> Located:
        """The root of a file. Raises Unreadable."""
        if path not in self._roots:
            root = Located(path, "", _parsed(path))
            self._roots[path] = root
            for key in ("$id", "id"):
                if isinstance(name := root.get(key), str) and name:
                    self._by_id[urldefrag(name).url] = root
        return self._roots[path]

    def follow(self, reference: str, origin: Located) -> Located:
        """What a reference leads to. Raises NotThere."""
        url, fragment = urldefrag(reference)
        root = self._file_of(url, origin) if url else self.read(origin.file)
        found = root
        if fragment and not fragment.startswith("/"):
            return _anchored(root, fragment, reference)
        for part in unquote(fragment).split("/")[1:]:
            key: str | int = part.replace("~1", "/").replace("~0", "~")
            if isinstance(found.node, list) and str(key).isdigit():
                key = int(key)
            try:
                found = found.at(key)
            except (KeyError, IndexError, TypeError):
                raise NotThere(reference) from None
        return found

    def _file_of(self, url: str, origin: Located) -> Located:
        if url in self._by_id:
            return self._by_id[url]
        path = origin.file.parent / url.rpartition("/")[2] if "://" in url else origin.file.parent / url
        try:
            return self.read(path)
        except Unreadable:
            raise NotThere(url) from None

    def line(self, located: Located) -> int:
        """The line on which a node begins; 1 where that cannot be told."""
        if located.file not in self._lines:
            self._lines[located.file] = _lines(located.file)
        return self._lines[located.file].get(located.pointer, 1)


def _parsed(path: Path) -> Node:
    try:
        text = path.read_text(encoding="utf-8-sig")
        return json.loads(text) if path.suffix == ".json" else yaml.load(text, Loader=_LOADER)
    except OSError as error:
        raise Unreadable(f"{path}: {error.strerror}") from error
    except (ValueError, RecursionError, yaml.YAMLError) as error:
        raise Unreadable(f"{path} cannot be read: {str(error).splitlines()[0]}") from error


def _anchored(root: Located, name: str, reference: str) -> Located:
    for key in ("$defs", "definitions"):
        for each in root.entries(key):
            if (
                name in (each.get("$anchor"), each.get("$id"), each.get("id"))
                or each.get("$id") == f"#{name}"
            ):
                return each
    raise NotThere(reference)


def _lines(path: Path) -> dict[str, int]:
    """The line of each node, by its pointer. YAML takes nearly all of JSON; where it does not, no line is known."""
    lines: dict[str, int] = {}
    try:
        root = yaml.compose(path.read_text(encoding="utf-8-sig"), Loader=_LOADER)
    except (yaml.YAMLError, RecursionError):
        return lines
    waiting = [("", root)] if root is not None else []
    seen: set[int] = set()
    while waiting:
        pointer, node = waiting.pop()
        if id(node) in seen:
            continue
        seen.add(id(node))
        if isinstance(node, yaml.MappingNode):
            for key, value in node.value:
                inner = f"{pointer}/{str(key.value).replace('~', '~0').replace('/', '~1')}"
                lines[inner] = key.start_mark.line + 1
                waiting.append((inner, value))
        elif isinstance(node, yaml.SequenceNode):
            for number, value in enumerate(node.value):
                lines[f"{pointer}/{number}"] = value.start_mark.line + 1
                waiting.append((f"{pointer}/{number}", value))
    return lines
