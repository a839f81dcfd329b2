"""Clients that a compiler must refuse, each beside a twin that must compile: one file for all of a project."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from urform.dataclasses import dataclass
from urform.languages.placing import TESTS
from urform.languages.target import Client, Clients, File
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
