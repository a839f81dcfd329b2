"""Steps of tests over records."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.plan.record_trees import Node


@dataclass(frozen=True, slots=True)
class ReadRecord:
    """Read a product, of an abstract one whatever kind the record tells, from what a JSON reader gives."""

    var: str
    product: str
    record: Node


@dataclass(frozen=True, slots=True)
class ReadWith:
    """Read a product of an abstract one, also of a kind that only a registry has."""

    var: str
    product: str
    record: Node
    registry: str


@dataclass(frozen=True, slots=True)
class ReadText:
    """The same from text."""

    var: str
    product: str
    text: str


@dataclass(frozen=True, slots=True)
class ReadBack:
    """Write a product, and read what was written as one of the product that is named."""

    var: str
    original: str
    product: str


@dataclass(frozen=True, slots=True)
class RecordIs:
    """The text of a product's record, byte for byte."""

    original: str
    product: str
    text: str


@dataclass(frozen=True, slots=True)
class CreateAll:
    """Read a list of records: so many are made, and each problem of the others is told."""

    product: str
    records: tuple[Node, ...]
    made: int
    problems: tuple[str, ...]
