"""Compiling clients that must not compile, and judging what the compiler says of them."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from urform.languages import Emission, Target
from urform.languages.target import Clients, Ran, Runner
from urform.languages.testing.clients import elsewhere, judged


def compiled(target: Target, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Ran:
    """The results of a project's clients; their file is gone afterwards."""
    file = folder / clients.file.path
    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_text(clients.file.text, encoding="utf-8")
    try:
        told = target.toolchain.compile_clients(folder, emission, clients, run)
    finally:
        file.unlink()
    broke = told.broke or elsewhere(clients, told)
    return Ran((), broke=broke) if broke else Ran(tuple(judged(clients, told)))


def with_files(folder: Path, files: Mapping[str, str]) -> None:
    """Put other texts in the place of some files of a project."""
    for path, text in files.items():
        (folder / path).write_text(text, encoding="utf-8")
