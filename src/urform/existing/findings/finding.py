"""A finding: what is wrong or in the way, where, and what shows it."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator

from urform.dataclasses import dataclass
from urform.existing.sources.code_facts import Code, Region

NOTE, WARNING = "note", "warning"
LEVELS = (NOTE, WARNING)


@dataclass(frozen=True, slots=True)
class Proof:
    """A line that shows it, and what stands there."""

    file: str
    line: int
    text: str


@dataclass(frozen=True, slots=True)
class Finding:
    """One of them. `key` is what it is known by though lines move: the function, the keys, the types."""

    id: str
    level: str
    region: Region
    message: str
    mend: str
    proof: tuple[Proof, ...]
    key: str

    @property
    def fingerprint(self) -> str:
        """The same as long as nothing of it changes, wherever it stands in its file."""
        return hashlib.sha256(f"{self.id}|{self.region.file}|{self.key}".encode()).hexdigest()[:32]


@dataclass(frozen=True, slots=True)
class Kind:
    """What is looked for: its name, how much it matters, what it is and why it is one, and how it is found.

    `bad` and `good` are examples in Python: the one has it, the other has not.
    """

    id: str
    level: str
    title: str
    why: str
    find: Callable[[Code], Iterator[Finding]]
    bad: str
    good: str
