"""Public entries of generated code as data: what clients call, give and read, before and after a change."""

from __future__ import annotations

from urform.dataclasses import dataclass

GIVEN = "given"  # by each caller
WRITTEN = "written"  # by whoever has kinds or families of their own, or handles every one there is
YOURS = "yours"  # by the user, for generated code that calls it


@dataclass(frozen=True, slots=True)
class Entry:
    """Something of generated code that clients name: a type, a constructor, a method, a field of options.

    Two entries are alike for a client that is written already where their `calls` are. `text` may say more, as the names of
    parameters that are given by their place, or defaults: such a difference compiles.
    """

    owner: str  # the product, choice or family that it belongs to; empty where it is nobody's
    member: str  # the field, operation, word or role that it is about, or empty
    written_at: str  # the place in a template
    text: str  # the signature as it is written, on one line
    calls: str  # what clients depend on
    demanded: str = ""  # what has to be done as soon as there is one: `GIVEN`, `WRITTEN`, `YOURS`
    of: str = ""  # the calls of the entry to which it is given
    by_place: bool = False  # values are given by their place: another `text` takes other values

    @property
    def place(self) -> tuple[str, str, str]:
        """What a changed entry is found again by."""
        return self.owner, self.member, self.written_at


def imported(text: str) -> Entry:
    """How clients import a project: nobody's entry, of which all others depend."""
    return Entry("", "", "import", text, text)
