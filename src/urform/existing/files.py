"""Which files of a folder are source code that a person wrote for use."""

from __future__ import annotations

import subprocess
from collections.abc import Container, Sequence
from pathlib import Path

_TESTS = ("test", "tests", "testdata", "__tests__", "spec")


def source_files(paths: Sequence[Path], suffixes: Container[str]) -> list[Path]:
    """The files that were named, and those of folders that end so: without tests, those that git knows or would add, else all
    but hidden ones."""
    found: dict[Path, None] = {}
    for path in paths:
        for file in _files_in(path) if path.is_dir() else [path]:
            if file.suffix.lower() in suffixes and not (path.is_dir() and _is_test(file.relative_to(path))):
                found[file] = None
    return list(found)


def _files_in(folder: Path) -> list[Path]:
    command = ["git", "ls-files", "-z", "--cached", "--others", "--exclude-standard"]
    try:
        done = subprocess.run(command, cwd=folder, capture_output=True, check=False)
    except OSError:
        done = None
    if done is not None and done.returncode == 0 and done.stdout:
        names = done.stdout.decode("utf-8", "surrogateescape").split("\0")
        return sorted(folder / name for name in names if name and (folder / name).is_file())
    hidden = (each for each in folder.rglob("*") if each.is_file())
    return sorted(each for each in hidden if not _is_left_out(each.relative_to(folder)))


def _is_left_out(path: Path) -> bool:
    return any(
        part.startswith(".") or part in ("node_modules", "vendor", "__pycache__") for part in path.parts
    )


def _is_test(path: Path) -> bool:
    stem = path.name.partition(".")[0]
    named = stem.startswith("test_") or stem.endswith(("_test", "Test", "Tests")) or stem == "conftest"
    return (
        named or ".test." in path.name or ".spec." in path.name or any(part in _TESTS for part in path.parts)
    )
