"""The limits. Each check gives back the value as it is to be held."""

import sys
from collections.abc import Callable, Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from typing import Any, Final, TypeVar, cast

from .errors import LimitError, MissingFieldsError

BLANKS: Final = "\t\n\v\f\r "

C = TypeVar("C")
K = TypeVar("K")
V = TypeVar("V")

put: Final = object.__setattr__


def given(owner: str, /, **fields: object) -> None:
    """Refuse None where a value is required, naming every such field."""
    if missing := [name for name, value in fields.items() if value is None]:
        raise MissingFieldsError(owner, missing)


def unless_given(product: object, /, **defaults: object) -> None:
    """None counts as not given."""
    for name, default in defaults.items():
        if getattr(product, name) is None:
            put(product, name, default)


def integer(
    owner: str, field: str, value: int, *, within: str = "", **limits: Any
) -> int:
    """A whole number within its limits; `within` is "each." for an element."""
    if isinstance(value, bool) or not isinstance(value, int):
        raise LimitError(owner, field, f"{within}type")
    _limited(owner, field, value, within, limits)
    return value


def real(
    owner: str, field: str, value: float, *, within: str = "", **limits: Any
) -> float:
    """A finite number within its limits, as a float that is never -0.0."""
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise LimitError(owner, field, f"{within}type")
    if not abs(value) <= sys.float_info.max:  # an int may be too large for a float
        raise LimitError(owner, field, f"{within}finite")
    _limited(owner, field, value, within, limits)
    return value + 0.0


def text(owner: str, field: str, value: str, *, within: str = "", **limits: Any) -> str:
    """A text within its limits; its length counts code points."""
    _limited(owner, field, value, within, limits)
    return value


def choice(owner: str, field: str, value: C, words: type[C], *, within: str = "") -> C:
    """One of the words."""
    if not isinstance(value, words):
        raise LimitError(owner, field, f"{within}choice")
    return value


def listed(
    owner: str,
    field: str,
    values: Sequence[V],
    each: Callable[[V], V] | None = None,
    *,
    within: str = "",
    **limits: Any,
) -> tuple[V, ...]:
    """The elements, in order; a text is no list of its letters."""
    if isinstance(values, str):
        raise LimitError(owner, field, f"{within}type")
    held = tuple(values)
    _limited(owner, field, held, within, limits)
    _no_element_missing(owner, field, held)
    return held if each is None else tuple(map(each, held))


def set_of(
    owner: str,
    field: str,
    values: AbstractSet[V],
    each: Callable[[V], V] | None = None,
    *,
    within: str = "",
    **limits: Any,
) -> frozenset[V]:
    """The elements, each once."""
    held = frozenset(values)
    _limited(owner, field, held, within, limits)
    _no_element_missing(owner, field, held)
    return held if each is None else frozenset(map(each, held))


class FrozenMap(Mapping[K, V]):
    """A map that does not change, sorted by key, with a hash of its content."""

    __slots__ = ("_entries",)

    def __init__(self, entries: Mapping[K, V]) -> None:
        self._entries = {key: entries[key] for key in sorted(entries, key=_order)}

    def __getitem__(self, key: K) -> V:
        return self._entries[key]

    def __iter__(self) -> Iterator[K]:
        return iter(self._entries)

    def __len__(self) -> int:
        return len(self._entries)

    def __hash__(self) -> int:
        return hash(frozenset(self._entries.items()))

    def __repr__(self) -> str:
        return repr(self._entries)


def mapped(
    owner: str,
    field: str,
    values: Mapping[K, V],
    each: Callable[[V], V] | None = None,
    *,
    keys: Callable[[K], K] | None = None,
    within: str = "",
    **limits: Any,
) -> FrozenMap[K, V]:
    """The entries, with every key and value checked."""
    _limited(owner, field, values, within, limits)
    _no_element_missing(owner, field, (*values, *values.values()))
    if keys is not None:
        values = {keys(key): value for key, value in values.items()}
    if each is not None:
        values = {key: each(value) for key, value in values.items()}
    return FrozenMap(values)


def _order(key: Any) -> Any:
    return getattr(key, "value", key)  # the word of a choice


def _no_element_missing(owner: str, field: str, values: Any) -> None:
    if None in values:
        raise MissingFieldsError(owner, [field])


def own_list(values: Sequence[V], each: Callable[[V], V] | None = None) -> list[V]:
    """A builder's own list, perhaps of copies; what is no list is kept for the build to refuse."""
    if values is None or isinstance(values, str):
        return cast("list[V]", values)
    if each is None:
        return list(values)
    return [value if value is None else each(value) for value in values]


def own_set(values: AbstractSet[V]) -> set[V]:
    """A builder's own set; None is kept for the build to refuse."""
    return cast("set[V]", values) if values is None else set(values)


def own_map(values: Mapping[K, V], each: Callable[[V], V] | None = None) -> dict[K, V]:
    """A builder's own map, perhaps of copies; None is kept for the build to refuse."""
    if values is None:
        return cast("dict[K, V]", values)
    if each is None:
        return dict(values)
    return {k: v if v is None else each(v) for k, v in values.items()}


# What breaks each limit, in the order in which limits are checked.
_BREAKS: Final[Mapping[str, Callable[[Any, Any], bool]]] = {
    "min": lambda value, bound: value < bound,
    "max": lambda value, bound: value > bound,
    "above": lambda value, bound: value <= bound,
    "below": lambda value, bound: value >= bound,
    "not_blank": lambda value, bound: not value.strip(BLANKS),
    "min_length": lambda value, bound: len(value) < bound,
    "max_length": lambda value, bound: len(value) > bound,
    "one_of": lambda value, bound: value not in bound,
}


def _limited(
    owner: str, field: str, value: object, within: str, limits: Mapping[str, Any]
) -> None:
    for limit, bound in limits.items():
        if _BREAKS[limit](value, bound):
            shown = None if limit == "not_blank" else bound
            raise LimitError(owner, field, f"{within}{limit}", shown)
