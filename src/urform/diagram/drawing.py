"""A drawing as data: boxes with rows, and lines between them. What is drawn, and not how it looks."""

from __future__ import annotations

from enum import Enum

from urform.dataclasses import dataclass


class Relation(Enum):
    """What a line says; the value is how a legend tells it."""

    OWNS = "owned: a clone gets its own"
    LISTS = "own list of shared elements"
    SHARES = "shared: a clone has the same"
    VARIANT = "a variant of it"
    MAKES = "makes it"


@dataclass(frozen=True, slots=True)
class FieldRow:
    """A field of a product: `note` is its default, or how a clone begins it."""

    name: str
    type: str
    required: bool
    note: str = ""


@dataclass(frozen=True, slots=True)
class OperationRow:
    """An operation that clients call; `returns` is empty where it gives nothing."""

    name: str
    takes: tuple[str, ...]
    returns: str


@dataclass(frozen=True, slots=True)
class ProductBox:
    """A product. Its inherited fields stand in its base."""

    name: str
    doc: str
    abstract: bool
    tags: tuple[str, ...]  # mutable, single, its key
    fields: tuple[FieldRow, ...]
    operations: tuple[OperationRow, ...]


@dataclass(frozen=True, slots=True)
class Way:
    """One way of making a product, and what there is to say of it."""

    pattern: str
    title: str
    details: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class MakerBox:
    """The ways of making one product, side by side in one box."""

    product: str
    ways: tuple[Way, ...]


@dataclass(frozen=True, slots=True)
class RoleRow:
    """One part of what a family makes, and what each member makes for it."""

    name: str
    type: str
    product: str
    parts: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FamilyBox:
    """An abstract factory: roles down, members across."""

    name: str
    doc: str
    members: tuple[str, ...]
    roles: tuple[RoleRow, ...]
    notes: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Line:
    """From a box, or one row of it, to a product's box."""

    begin: str
    end: str
    relation: Relation
    row: str = ""


@dataclass(frozen=True, slots=True)
class Drawing:
    """Everything that is drawn, in declared order. Lines name the boxes of products and families by their names."""

    name: str
    doc: str
    products: tuple[ProductBox, ...]
    makers: tuple[MakerBox, ...]
    families: tuple[FamilyBox, ...]
    lines: tuple[Line, ...]

    @property
    def relations(self) -> tuple[Relation, ...]:
        """Those that occur, for a legend, in the order in which they are explained."""
        drawn = {line.relation for line in self.lines}
        return tuple(relation for relation in Relation if relation in drawn)

    @property
    def needs(self) -> tuple[bool, ...]:
        """Whether fields are required: true, false, or both, as it occurs, the required ones first."""
        return tuple(sorted({row.required for box in self.products for row in box.fields}, reverse=True))
