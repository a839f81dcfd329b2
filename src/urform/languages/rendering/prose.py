"""Sentences of documentation comments that all targets have."""

from __future__ import annotations

from collections.abc import Sequence

from urform.declaration.types import NOTHING
from urform.languages.naming.names import spoken
from urform.plan.model import Family, Operation


def clone_sentences(fresh: Sequence[str], *, mutable: bool) -> str:
    """What a method returns that clones, after its verb: what `fresh` fields do, and what a change to one does."""
    said = "a copy with the same content"
    if fresh:
        said += f", except that {' and '.join(fresh)} {'starts' if len(fresh) == 1 else 'start'} again"
    return f"{said}. Changes to one do not affect the other." if mutable else f"{said}."


def of_unknown_key(unknown: str, other: str, nothing: str = "nothing") -> str:
    """What a lookup does with an unknown key: `other` says what it gives then, `nothing` what the language has for none."""
    if unknown == "error":
        return "an unknown key is refused"
    return f"{nothing if unknown == 'nothing' else other} for an unknown key"


def family_of_unknown_key(family: Family, nothing: str = "nothing") -> str:
    """The same for the lookup of a family."""
    return of_unknown_key(family.unknown, f"the one for {spoken(family.unknown)}", nothing)


def of_operation(operation: Operation) -> str:
    """What documentation says of an operation of which the declaration says nothing."""
    if operation.answer is None:
        return "Yours to answer." if operation.returns != NOTHING else "Yours to write."
    return "Gives the declared answer." if operation.returns != NOTHING else "Does nothing."
