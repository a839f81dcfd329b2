"""What templates are compiled to, kept between commands: compiling them takes longer than rendering them."""

from __future__ import annotations

import contextlib
import hashlib
import sys
from functools import cache
from pathlib import Path

import jinja2
from jinja2.bccache import Bucket

MOST = 400  # files of some thirty kilobytes, five times the templates that there are; the oldest go


class Compiled(jinja2.FileSystemBytecodeCache):
    """By the text of a template: its file has another text where flaws are made in it, and in another version of Urform."""

    def __init__(self, folder: Path, *, keeps: bool) -> None:
        super().__init__(str(folder))
        self._folder = folder
        self._keeps = keeps

    def get_bucket(
        self, environment: jinja2.Environment, name: str, filename: str | None, source: str
    ) -> Bucket:
        """What is known of a template's text."""
        checksum = self.get_source_checksum(source)
        key = hashlib.sha256(f"{name}\0{source}".encode()).hexdigest()[:32]
        bucket = Bucket(environment, key, checksum)
        with contextlib.suppress(OSError):
            self.load_bytecode(bucket)
        return bucket

    def dump_bytecode(self, bucket: Bucket) -> None:
        """Keep it, where that is wanted and can be done: nothing depends on it."""
        if not self._keeps:
            return
        with contextlib.suppress(OSError):
            self._folder.mkdir(parents=True, exist_ok=True)
            super().dump_bytecode(bucket)
            kept = sorted(self._folder.iterdir(), key=lambda path: path.stat().st_mtime)
            for old in kept[:-MOST]:
                old.unlink(missing_ok=True)


@cache
def compiled(*, keeps: bool) -> Compiled:
    """The templates in the user's cache, for this Python; with `keeps`, new ones are added."""
    from platformdirs import user_cache_path

    return Compiled(user_cache_path("urform") / f"templates-{sys.implementation.cache_tag}", keeps=keeps)
