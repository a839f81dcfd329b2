"""A folder that is written into: paths stay inside it, links are not followed, and one process works at a time."""

from __future__ import annotations

import fcntl
import os
import stat
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

SYNCING = 8  # threads: the disk gathers what several of them wait for


class OutputError(Exception):
    """The output folder cannot be written as asked; the text says where and why."""


def is_inside(path: str) -> bool:
    """Whether a path with slashes can only lead to a place below the folder that it starts from."""
    parts = path.split("/")
    return not ("\0" in path or "\\" in path or any(part in ("", ".", "..") for part in parts))


class Folder:
    """The folder of one generated project. Paths are relative, with slashes."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self._without_links: set[Path] = set()

    def place(self, path: str) -> Path:
        """Where a path leads. Raises OutputError where that could be outside."""
        if not is_inside(path):
            raise OutputError(f"{self.root}: '{path}' would lead out of the folder")
        place = self.root / path
        if place.is_symlink():
            raise OutputError(f"{place} is a link; nothing is written through it")
        self._parents_are_folders(place.parent)
        return place

    def _parents_are_folders(self, parent: Path) -> None:
        if parent in self._without_links:
            return
        if parent.is_symlink():
            raise OutputError(f"{parent} is a link; nothing is written through it")
        if parent != self.root:
            self._parents_are_folders(parent.parent)
        self._without_links.add(parent)

    def read(self, path: str) -> bytes | None:
        """The content of a file, None where there is none. Raises OutputError for what is no file."""
        place = self.place(path)
        try:
            if not stat.S_ISREG(place.lstat().st_mode):
                raise OutputError(f"{place} is in the way: it is no file")
            return place.read_bytes()
        except (FileNotFoundError, NotADirectoryError):
            return None
        except OSError as error:
            raise told(error, place) from error

    @contextmanager
    def alone(self, waiting: Callable[[Path], None] | None = None) -> Iterator[None]:
        """Work in the folder while no other process does; `waiting` is told when one does, before it is waited for."""
        self._parents_are_folders(self.root)
        self.root.mkdir(parents=True, exist_ok=True)
        handle = os.open(self.root, os.O_RDONLY)
        try:
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                if waiting is not None:
                    waiting(self.root)
                fcntl.flock(handle, fcntl.LOCK_EX)
            yield
        finally:
            os.close(handle)  # which lets go of the lock


def told(error: OSError, place: Path) -> OutputError:
    """The refusal of the operating system, as an error that says where and why."""
    return OutputError(f"{error.filename or place}: {error.strerror or error}")


def synced(places: Iterable[Path]) -> None:
    """Have the disk hold what was written to files, or what stands in folders."""
    with ThreadPoolExecutor(SYNCING) as pool:
        for _ in pool.map(_sync, places):
            pass


def _sync(place: Path) -> None:
    handle = os.open(place, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
