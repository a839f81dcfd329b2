"""The tokens of a declaration with what may stand in their place: the document beside the table of the format."""

from __future__ import annotations

from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.document import MappingNode, Node, ScalarNode, SequenceNode
from urform.declaration.grammar import DECLARATION
from urform.declaration.place import Place
from urform.declaration.shape import AnyValue, Either, Key, Listed, Named, Record, Shape

USE = "use"  # the key under which a name stands, in values too


@dataclass(frozen=True, slots=True)
class Spot:
    """A token: a key or a scalar. `shape` is what a scalar has to be, of a key what stands under it; none where nothing may."""

    node: ScalarNode
    path: tuple[str, ...]  # the keys above it, for a key itself too
    shape: Shape | None
    is_key: bool = False
    key: Key | None = None  # of the format; none of a name
    names: Named | None = None  # the mapping of which it is a name

    @property
    def place(self) -> Place:
        """Its text, without quotes."""
        place = self.node.place
        return place.within(1, max(place.width - 2, 0)) if self.node.quoted else place


def spots(root: MappingNode | None) -> Iterator[Spot]:
    """Every token, in the order of the file."""
    if root is not None:
        yield from _spots(root, DECLARATION, (), set())


def spot_at(root: MappingNode | None, place: Place) -> Spot | None:
    """The token that has a place, or ends at it."""
    for spot in spots(root):
        here = spot.place
        if here.line == place.line and here.column <= place.column <= here.column + here.width:
            return spot
    return None


def _spots(node: Node, shape: Shape | None, path: tuple[str, ...], seen: set[int]) -> Iterator[Spot]:
    if id(node) in seen:
        return  # an alias: its tokens stand elsewhere
    seen.add(id(node))
    shape = _fitting(node, shape)
    match node:
        case ScalarNode():
            if isinstance(shape, Record) and shape.short is not None:
                shape = shape.keys[shape.short].shape
            yield Spot(node, path, shape)
        case SequenceNode(items=items):
            inner = shape.item if isinstance(shape, Listed) else _any(shape)
            for item in items:
                yield from _spots(item, inner, path, seen)
        case MappingNode(entries=entries):
            for name, (key, value) in entries.items():
                found, below, names = _below(shape, name)
                if id(key) not in seen:
                    seen.add(id(key))
                    yield Spot(key, (*path, name), below, is_key=True, key=found, names=names)
                yield from _spots(value, below, (*path, name), seen)


def _fitting(node: Node, shape: Shape | None) -> Shape | None:
    """Which of several shapes is meant: the node tells."""
    if not isinstance(shape, Either):
        return shape
    kinds = {ScalarNode: shape.scalar, SequenceNode: shape.sequence, MappingNode: shape.mapping}
    return kinds[type(node)]


def _below(shape: Shape | None, name: str) -> tuple[Key | None, Shape | None, Named | None]:
    """The key of that name, what stands below it, and the mapping of which it is a name."""
    match shape:
        case Record(keys=keys) if name in keys:
            return keys[name], keys[name].shape, None
        case Named(value=value):
            return None, value, shape
    return None, _any(shape), None


def _any(shape: Shape | None) -> Shape | None:
    return shape if isinstance(shape, AnyValue) else None
