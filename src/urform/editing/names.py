"""Names of types in a declaration: where they are declared and where they are used, for whoever goes there or renames them."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.document import MappingNode
from urform.declaration.place import Place
from urform.declaration.shape import UPPER_CAMEL, AnyValue, Words
from urform.editing.spots import USE, Spot, spots

_WORD = re.compile(r"[A-Za-z_][A-Za-z0-9_]*")
_OF_TYPES = ("a type", "a product, or list<product>", "an UpperCamel name")
_MEMBERS = "members"


@dataclass(frozen=True, slots=True)
class Name:
    """A name where it stands. Members of families are known within theirs only: `family` is empty of everything else."""

    text: str
    place: Place
    declares: bool
    family: str = ""

    @property
    def key(self) -> tuple[str, str]:
        """What the same name has elsewhere."""
        return self.family, self.text


def names(root: MappingNode | None) -> tuple[Name, ...]:
    """Every choice, product, variant, family and member, declared or used, in the order of the file."""
    every = tuple(spots(root))
    declared = {name.key for spot in every for name in _declared(spot)}
    found = []
    for spot in every:
        found += [*_declared(spot), *(_meant(name, declared) for name in _used(spot))]
    return tuple(name for name in found if name.declares or name.key in declared)


def name_at(root: MappingNode | None, place: Place) -> Name | None:
    """The name that has a place, or ends at it."""
    for name in names(root):
        here = name.place
        if here.line == place.line and here.column <= place.column <= here.column + here.width:
            return name
    return None


def same(root: MappingNode | None, name: Name) -> Iterator[Name]:
    """The name wherever it stands."""
    return (each for each in names(root) if each.key == name.key)


def renaming_fails(root: MappingNode | None, name: Name, to: str) -> str:
    """Why a name cannot be called so; empty where it can."""
    if not UPPER_CAMEL.fullmatch(to):
        return f"'{to}' is no UpperCamel name"
    taken = {each.key for each in names(root) if each.declares}
    if to != name.text and (name.family, to) in taken:
        return f"there is a '{to}' already"
    return ""


def _declared(spot: Spot) -> Iterator[Name]:
    if spot.is_key and spot.names is not None and spot.names.spelling is UPPER_CAMEL:
        family = spot.path[1] if spot.path[0] == "families" and _MEMBERS in spot.path else ""
        yield Name(spot.node.text, spot.place, True, family)


def _used(spot: Spot) -> Iterator[Name]:
    """Names that may be types: in type expressions, where a name is asked for, and as what a value uses."""
    if spot.is_key:
        return
    is_type = isinstance(spot.shape, Words) and spot.shape.what in _OF_TYPES
    is_used = isinstance(spot.shape, AnyValue) and spot.path[-1:] == (USE,)
    if is_type or is_used:
        family = spot.path[1] if spot.path[0] == "families" else ""
        for match in _WORD.finditer(spot.node.text):
            yield Name(match[0], spot.place.within(match.start(), len(match[0])), False, family)


def _meant(name: Name, declared: set[tuple[str, str]]) -> Name:
    """Within a family a name may be a member's; everything else is known everywhere."""
    if name.family and name.key not in declared:
        return Name(name.text, name.place, False)
    return name
