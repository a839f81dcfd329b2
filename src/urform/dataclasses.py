"""Dataclasses that cost little to define: a command of half a second defines some three hundred of them.

The standard decorator compiles six functions for a frozen class, which takes three to four times as long as compiling
the one that has to differ, `__init__`. Here classes compare, hash and show themselves by functions that are compiled
once. That nobody assigns to a frozen one is left to the type checker, which sees the standard decorator.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from operator import attrgetter
from reprlib import recursive_repr
from typing import TYPE_CHECKING, Any, TypeVar

if TYPE_CHECKING:
    from dataclasses import dataclass as dataclass

Class = TypeVar("Class", bound=type)


def _dataclass(
    *, frozen: bool = False, slots: bool = False, eq: bool = True, kw_only: bool = False
) -> Callable[[Class], Class]:
    """The decorator. Its parameters mean what they mean in the standard one."""

    def decorate(cls: Class) -> Class:
        made: Any = dataclasses.dataclass(slots=slots, kw_only=kw_only, eq=False, repr=False)(cls)
        fields = dataclasses.fields(made)
        made.__repr__ = _shown(tuple(field.name for field in fields if field.repr))
        if eq:
            content = _content(tuple(field.name for field in fields if field.compare))
            made.__eq__ = _equal(content)
            own_hash = cls.__dict__.get("__hash__")
            made.__hash__ = own_hash or (_hashed(content) if frozen else None)
        return made  # type: ignore[no-any-return]

    return decorate


def _content(names: tuple[str, ...]) -> Callable[[object], object]:
    """The values that decide whether two objects of one class are equal."""
    return attrgetter(*names) if names else lambda self: ()


def _equal(content: Callable[[object], object]) -> Callable[[object, object], bool]:
    def equal(self: object, other: object) -> bool:
        return content(self) == content(other) if other.__class__ is self.__class__ else NotImplemented

    return equal


def _hashed(content: Callable[[object], object]) -> Callable[[object], int]:
    def hashed(self: object) -> int:
        return hash(content(self))

    return hashed


def _shown(names: tuple[str, ...]) -> Callable[[object], str]:
    @recursive_repr()
    def shown(self: object) -> str:
        values = ", ".join(f"{name}={getattr(self, name)!r}" for name in names)
        return f"{self.__class__.__qualname__}({values})"

    return shown


if not TYPE_CHECKING:
    dataclass = _dataclass
