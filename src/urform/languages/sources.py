"""The inputs of generating beside the declaration: the files of Urform itself, and of a target from elsewhere."""

from __future__ import annotations

import hashlib
import sys
from collections.abc import Iterable
from functools import cache
from pathlib import Path

from urform.languages.target import Target

DECIDING = ("declaration", "plan", "languages")
ROOT = Path(__file__).parent.parent


@cache
def digest_of(places: tuple[Path, ...]) -> str:
    """The hash of some files, and of all files below some folders."""
    digest = hashlib.sha256()
    for place in places:
        for path in [place] if place.is_file() else sorted(place.rglob("*")):
            if path.is_file() and "__pycache__" not in path.parts:
                digest.update(path.relative_to(place).as_posix().encode() + b"\0" + path.read_bytes())
    return digest.hexdigest()


def stages(names: Iterable[str]) -> tuple[Path, ...]:
    """The folders of some stages of Urform."""
    return tuple(ROOT / name for name in names)


def source_digest(declaration: bytes, target: Target, *, example: bool) -> str:
    """The hash of everything that a target's files are made from. The same gives the same bytes."""
    digest = hashlib.sha256(b"\0".join((target.name.encode(), str(example).encode(), declaration)))
    digest.update(digest_of((*stages(DECIDING), *places_of(target))).encode())
    return digest.hexdigest()


def places_of(target: Target) -> tuple[Path, ...]:
    """The folder of the package that a target comes from, or its file; nothing for those of Urform."""
    top = sys.modules[type(target).__module__.partition(".")[0]]
    if top.__name__ == "urform":
        return ()
    return tuple(map(Path, getattr(top, "__path__", [top.__file__ or ""])))
