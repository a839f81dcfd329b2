"""Clients that a compiler must refuse, each beside a twin that must compile: one file for all of a project."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from urform.dataclasses import dataclass
from urform.languages.placing import TESTS
from urform.languages.target import Client, Clients, Compiled, Complaint, File, TestResult
from urform.plan.capabilities import Expressible
from urform.plan.making_steps import BuildRefused
from urform.plan.script import Case, Claim


@dataclass(frozen=True, slots=True)
class Function:
    """A client as a function of its own; it is refused in the last line of its body."""

    claim: str
    text: str
    missing: str = ""  # the field without which it is refused; none for a twin
    reason: tuple[str, ...] = ()


def refusal_in(case: Case) -> BuildRefused | None:
    """The refusal that a case ends with."""
    last = case.steps[-1]
    return last if isinstance(last, BuildRefused) else None


def is_compiled(expressible: Expressible) -> bool:
    """Whether a claim is shown by clients, and not by a test that runs."""
    return any(refusal_in(case) is not None for case in expressible.cases)


def compiled_cases(claims: Iterable[Expressible]) -> Iterator[tuple[int, Claim, Case]]:
    """The cases of some claims, numbered through, each with its claim: a function each."""
    cases = ((each.claim, case) for each in claims for case in each.cases)
    return ((number, claim, case) for number, (claim, case) in enumerate(cases, 1))


def clients_of(
    path: str, head: str, functions: Iterable[Function], *, foot: str = "", closing: int = 1
) -> Clients:
    """A file of clients. `closing` is the number of lines that end a function, after the last one of its body."""
    text, clients = head, list[Client]()
    for function in functions:
        first = text.count("\n") + 1
        text += function.text
        last = text.count("\n")
        line = last - closing if function.missing else 0
        clients.append(Client(function.claim, first, last, line, function.missing, function.reason))
        text += "\n"
    return Clients(File(path, text.removesuffix("\n") + foot, part=TESTS), tuple(clients))


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
