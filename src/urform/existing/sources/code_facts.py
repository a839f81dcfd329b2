"""What source code does about making things, as plain data that knows no language."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.existing.sources.facts import TypeFact

# How an arm, or whatever an unknown key comes to, ends.
MAKES, FAILS, NOTHING_GIVEN, GOES_ON, ABSENT = "makes", "fails", "nothing", "goes on", "absent"


@dataclass(frozen=True, slots=True)
class Region:
    """A piece of a file; lines and columns count from 1, columns in bytes of UTF-8."""

    file: str
    line: int
    end_line: int
    column: int = 1


@dataclass(frozen=True, slots=True)
class Arm:
    """What is made for some keys. `target` is where it goes: `return`, or the name that it is assigned to."""

    labels: tuple[str, ...]
    makes: str
    target: str
    line: int


@dataclass(frozen=True, slots=True)
class SwitchFact:
    """A switch, a chain of conditions on one subject, or a table, that makes things.

    `others` counts arms that make nothing; `otherwise` is what an unknown key comes to.
    """

    region: Region
    function: str
    subject: str
    arms: tuple[Arm, ...]
    others: int
    otherwise: str
    is_table: bool = False
    otherwise_makes: str = ""
    returns: str = ""  # what its function says that it returns

    def makes(self) -> frozenset[str]:
        """The types that it makes."""
        return frozenset(arm.makes for arm in self.arms)


@dataclass(frozen=True, slots=True)
class Handed:
    """A field that a copy takes over as it is, and the line where it does."""

    field: str
    line: int


@dataclass(frozen=True, slots=True)
class CopyFact:
    """A method that copies its own object. `changed` are fields whose contents the type changes, each with a line; `public`
    are those whose contents anybody can change."""

    region: Region
    type: str
    method: str
    handed: tuple[Handed, ...]
    changed: tuple[Handed, ...]
    public: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class ConstructorFact:
    """The parameters that are given by their place, with their types as they are spelled."""

    region: Region
    type: str
    parameters: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class CallFact:
    """A construction: what kind of literal each argument is, empty of what is none; `names` are arguments given by name."""

    region: Region
    type: str
    literals: tuple[str, ...]
    by_name: bool = False


@dataclass(frozen=True, slots=True)
class FileFacts:
    """All of one file."""

    types: tuple[TypeFact, ...] = ()
    switches: tuple[SwitchFact, ...] = ()
    copies: tuple[CopyFact, ...] = ()
    constructors: tuple[ConstructorFact, ...] = ()
    calls: tuple[CallFact, ...] = ()


@dataclass(frozen=True, slots=True)
class Code:
    """All files of one language."""

    language: str
    types: dict[str, tuple[TypeFact, ...]]
    files: tuple[FileFacts, ...]

    def ancestors(self, name: str) -> frozenset[str]:
        """A type and all its bases, as far as they are known by name."""
        found: set[str] = set()
        waiting = [name]
        while waiting:
            each = waiting.pop()
            if each not in found:
                found.add(each)
                waiting.extend(
                    base for fact in self.types.get(each, ()) for base in (*fact.bases, *fact.parts)
                )
        return frozenset(found)
