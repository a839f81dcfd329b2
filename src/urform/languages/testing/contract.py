"""The contract between the shared writer of steps and a target."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Protocol

from urform.dataclasses import dataclass
from urform.languages.rendering.templates import Templates
from urform.plan.model import Field
from urform.plan.whole import Plan

Lines = Iterator[str]
Phrases = Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Call:
    """A call that a test makes, and what a language may have to do with its result."""

    code: str
    fails: bool = False  # it gives an error too, or a result, in languages without exceptions
    absent: bool = False  # it may give nothing
    gives: bool = True  # it gives something beside an error
    refers: bool = False  # it gives a reference to what stays where it is


class Names(Protocol):
    """How a target spells names."""

    def type(self, name: str) -> str:
        """The type of a product or family."""


class BuilderWords(Protocol):
    """The names of a builder's methods."""

    def setter(self, field: Field) -> str:
        """The one that sets a field."""

    def adder(self, field: Field) -> str:
        """The one that adds an element."""

    def clearing(self, field: Field) -> str:
        """What follows the builder in a statement that clears a field."""

    def preset(self, name: str) -> str:
        """The one that starts from a preset."""


class Proof(Protocol):
    """The writer of a plan's tests."""

    @property
    def plan(self) -> Plan:
        """The plan that is tested."""

    @property
    def code(self) -> object:
        """How values are written: what the target's own writer asks."""

    @property
    def names(self) -> Names:
        """How names are spelt."""

    @property
    def templates(self) -> Templates:
        """Those of the target."""

    @property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide: what tests call, and what they import."""
