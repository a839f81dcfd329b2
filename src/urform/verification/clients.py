"""Compiling clients that must not compile, and judging what the compiler says of them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

from urform.languages import Emission, Target
from urform.languages.target import Client, Clients, Compiled, Complaint, Ran, Runner, TestResult


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


def judged(clients: Clients, compiled: Compiled) -> Iterator[TestResult]:
    """A result for each claim: what the compiler says is what it has to say, there and nowhere else."""
    for address in clients.tests:
        own = [client for client in clients.clients if client.claim == address.claim]
        wrong = (_wrong(client, _of(client, compiled.complaints)) for client in own)
        expected, found = next((each for each in wrong if each is not None), ("", ""))
        if expected:
            message = f"expected {expected}, and found that {found}"
            yield TestResult(address.name, False, False, message, expected, found)
        else:
            yield TestResult(address.name, True)


def elsewhere(clients: Clients, compiled: Compiled) -> str:
    """What the compiler says of no client: then the file is not what it was meant to be."""
    own = {line for client in clients.clients for line in range(client.first, client.last + 1)}
    return "\n".join(each.text for each in compiled.complaints if each.line not in own)


def _of(client: Client, complaints: Sequence[Complaint]) -> list[Complaint]:
    return [each for each in complaints if client.first <= each.line <= client.last]


def _wrong(client: Client, complaints: Sequence[Complaint]) -> tuple[str, str] | None:
    """What is expected of a client and what is found, if they differ."""
    first = complaints[0] if complaints else None
    if not client.missing:
        said = f"the compiler says: {_first_line(first)}" if first is not None else ""
        return ("a client that gives all to compile", said) if said else None
    expected = f"the compiler to refuse a build without {client.missing}"
    if first is None:
        return expected, "it compiles"
    stray = next((each for each in complaints if each.line != client.line), None)
    if stray is not None:
        return expected, f"it is refused elsewhere: {_first_line(stray)}"
    if not any(all(part in each.text for part in client.reason) for each in complaints):
        return expected, f"it is refused for another reason: {_first_line(first)}"
    return None


def _first_line(complaint: Complaint) -> str:
    return complaint.text.partition("\n")[0]
