"""Verdicts that are known already, kept by content: the same code, tests, faults and toolchain give the same ones."""

from __future__ import annotations

import hashlib
import json
import os
import tempfile
from collections.abc import Mapping
from pathlib import Path

from urform.languages import Emission, Target
from urform.languages.sources import digest_of, places_of, stages
from urform.verification.verdicts import NOT_RUN, Verdict

DECIDING = ("declaration", "plan", "languages", "verification")
KEPT = 40  # files; the oldest go


def key_of(target: Target, toolchain: str, emission: Emission) -> str:
    """Of everything that a verdict depends on, save the fault."""
    code = digest_of((*stages(DECIDING), *places_of(target)))
    digest = hashlib.sha256("\0".join((code, target.name, toolchain)).encode())
    clients = (emission.clients.file,) if emission.clients is not None else ()
    for file in (*emission.files, *clients):
        digest.update(f"{file.path}\0{file.text}\0".encode())
    return digest.hexdigest()


class Known:
    """The verdicts of one target and declaration. What was not run is not kept."""

    def __init__(self, folder: Path | None, key: str) -> None:
        self._path = folder / f"{key}.json" if folder is not None else None
        self._verdicts = _read(self._path) if self._path is not None else {}

    def get(self, fault: str) -> Verdict | None:
        """The verdict of a fault, None when it is not known."""
        return self._verdicts.get(fault)

    def add(self, verdicts: Mapping[str, Verdict]) -> None:
        """Keep more verdicts; readers see all of them or none."""
        lasting = {fault: verdict for fault, verdict in verdicts.items() if verdict.state != NOT_RUN}
        if self._path is None or not lasting:
            return
        self._verdicts |= lasting
        keep(self._path, {fault: _shape(verdict) for fault, verdict in self._verdicts.items()}, KEPT)


def keep(path: Path, shape: object, most: int) -> None:
    """Write JSON, of which readers see all or nothing; of more than so many such files the oldest go."""
    path.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.NamedTemporaryFile(
        "w", encoding="utf-8", dir=path.parent, suffix=".part", delete=False
    ) as file:
        json.dump(shape, file)
    os.replace(file.name, path)
    for old in sorted(path.parent.glob("*.json"), key=_age)[most:]:
        old.unlink(missing_ok=True)


def _age(path: Path) -> float:
    """The youngest first; one that another process has just removed is as old as can be."""
    try:
        return -path.stat().st_mtime
    except FileNotFoundError:
        return 0.0


def _shape(verdict: Verdict) -> list[object]:
    return [verdict.state, verdict.reason, list(verdict.elsewhere), verdict.change]


def _read(path: Path) -> dict[str, Verdict]:
    """The verdicts in a file; none when there is no file, or it is damaged."""
    try:
        stored = json.loads(path.read_text(encoding="utf-8"))
        return {
            fault: Verdict(state, reason, tuple(elsewhere), change)
            for fault, (state, reason, elsewhere, change) in stored.items()
        }
    except (OSError, ValueError, TypeError, AttributeError):
        return {}
