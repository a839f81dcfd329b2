"""What decides the output beside the declaration: the files of Urform itself, and of a target from elsewhere."""

from __future__ import annotations

import hashlib
import inspect
from collections.abc import Iterable
from functools import cache
from pathlib import Path

from urform.languages.target import Target

ROOT = Path(__file__).parent.parent


@cache
def digest_of(folders: tuple[Path, ...]) -> str:
    """The hash of all files below some folders."""
    digest = hashlib.sha256()
    for folder in folders:
        for path in sorted(folder.rglob("*")):
            if path.is_file() and "__pycache__" not in path.parts:
                digest.update(path.relative_to(folder).as_posix().encode() + b"\0" + path.read_bytes())
    return digest.hexdigest()


def stages(names: Iterable[str]) -> tuple[Path, ...]:
    """The folders of some stages of Urform."""
    return tuple(ROOT / name for name in names)


def source_digest(declaration: bytes, target: Target, *, example: bool) -> str:
    """The hash of everything that a target's files are made from. The same gives the same bytes."""
    digest = hashlib.sha256(b"\0".join((target.name.encode(), str(example).encode(), declaration)))
    own = {
        ROOT / "declaration",
        ROOT / "plan",
        ROOT / "languages",
        Path(inspect.getfile(type(target))).parent,
    }
    digest.update(digest_of(tuple(sorted(own))).encode())
    return digest.hexdigest()
