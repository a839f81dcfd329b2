# pyright: reportUnnecessaryComparison=false, reportUnnecessaryIsInstance=false, reportPrivateUsage=false
"""The limits. Each check gives back the value as it is to be held.
Products see for themselves what is plainly in order, which is faster than a call, and ask a check for the rest.
"""

import datetime
import sys
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from decimal import Decimal
from operator import index
from typing import TYPE_CHECKING, Any, Final, Protocol, SupportsIndex, TypeVar, cast
from uuid import UUID

from .errors import LimitError, MissingFieldsError

BLANKS: Final = "\t\n\v\f\r "
INF: Final = float("inf")
LARGEST: Final = sys.float_info.max
MOST_TIME: Final = datetime.timedelta(days=100_000)

C = TypeVar("C")
K = TypeVar("K")
V = TypeVar("V")

new: Final = object.__new__
put: Final = object.__setattr__


def given(owner: str, /, **fields: object) -> None:
    """Refuse None where a value is required, naming every such field."""
    for value in fields.values():
        if value is None:
            missing = [name for name, value in fields.items() if value is None]
            raise MissingFieldsError(owner, missing)


def unless_given(product: object, /, **defaults: Any) -> None:
    """None counts as not given."""
    for name, default in defaults.items():
        if getattr(product, name) is None:
            put(product, name, default)


def integer(
    owner: str,
    field: str,
    value: int,
    *,
    within: str = "",
    min: int | None = None,
    max: int | None = None,
    above: int | None = None,
    below: int | None = None,
    one_of: Sequence[int] | None = None,
) -> int:
    """A whole number within its limits; `within` is "each." for an element."""
    if isinstance(value, bool) or not isinstance(value, int):
        raise LimitError(owner, field, f"{within}type", None, value, "an integer")
    if min is not None and value < min:
        raise LimitError(owner, field, f"{within}min", min, value)
    if max is not None and value > max:
        raise LimitError(owner, field, f"{within}max", max, value)
    if above is not None and value <= above:
        raise LimitError(owner, field, f"{within}above", above, value)
    if below is not None and value >= below:
        raise LimitError(owner, field, f"{within}below", below, value)
    if one_of is not None and value not in one_of:
        raise LimitError(owner, field, f"{within}one_of", one_of, value)
    return value


def number(owner: str, field: str, value: float) -> float:
    """A number, whatever its limits: what conditions can compare."""
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise LimitError(owner, field, "type", None, value, "a number")
    return value


def real(
    owner: str,
    field: str,
    value: float,
    *,
    within: str = "",
    min: float | None = None,
    max: float | None = None,
    above: float | None = None,
    below: float | None = None,
) -> float:
    """A finite number within its limits, as a float that is never -0.0."""
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise LimitError(owner, field, f"{within}type", None, value, "a number")
    if not abs(value) <= LARGEST:  # an int may be too large for a float
        raise LimitError(owner, field, f"{within}finite", None, value)
    if min is not None and value < min:
        raise LimitError(owner, field, f"{within}min", min, value)
    if max is not None and value > max:
        raise LimitError(owner, field, f"{within}max", max, value)
    if above is not None and value <= above:
        raise LimitError(owner, field, f"{within}above", above, value)
    if below is not None and value >= below:
        raise LimitError(owner, field, f"{within}below", below, value)
    return value + 0.0


def text(
    owner: str,
    field: str,
    value: str,
    *,
    within: str = "",
    not_blank: bool = False,
    min_length: int | None = None,
    max_length: int | None = None,
    one_of: Sequence[str] | None = None,
    secret: bool = False,
) -> str:
    """A text within its limits; its length counts code points. A secret one stands in no error."""
    told = None if secret else value
    if not isinstance(value, str):
        raise LimitError(owner, field, f"{within}type", None, told, "a text")
    if not_blank and not value.strip(BLANKS):
        raise LimitError(owner, field, f"{within}not_blank", None, told)
    if min_length is not None and len(value) < min_length:
        raise LimitError(owner, field, f"{within}min_length", min_length, told)
    if max_length is not None and len(value) > max_length:
        raise LimitError(owner, field, f"{within}max_length", max_length, told)
    if one_of is not None and value not in one_of:
        raise LimitError(owner, field, f"{within}one_of", one_of, told)
    return value


class Ordered(Protocol):
    """What has a smaller and a larger."""

    def __lt__(self, other: Any, /) -> bool: ...
    def __le__(self, other: Any, /) -> bool: ...


D = TypeVar("D", bound=Ordered)


def _bounded(
    owner: str,
    field: str,
    value: D,
    within: str,
    *,
    min: D | None = None,
    max: D | None = None,
    above: D | None = None,
    below: D | None = None,
) -> D:
    """A value within its limits, in the order of its type."""
    if min is not None and value < min:
        raise LimitError(owner, field, f"{within}min", min, value)
    if max is not None and max < value:
        raise LimitError(owner, field, f"{within}max", max, value)
    if above is not None and value <= above:
        raise LimitError(owner, field, f"{within}above", above, value)
    if below is not None and below <= value:
        raise LimitError(owner, field, f"{within}below", below, value)
    return value


def calendar_date(
    owner: str,
    field: str,
    value: datetime.date,
    *,
    within: str = "",
    **limits: datetime.date,
) -> datetime.date:
    """A day within its limits, and no point in time, which Python takes for a day."""
    if not isinstance(value, datetime.date) or isinstance(value, datetime.datetime):
        raise LimitError(owner, field, f"{within}type", None, value, "a date")
    return _bounded(owner, field, value, within, **limits)


def instant_of(
    owner: str,
    field: str,
    value: datetime.datetime,
    *,
    within: str = "",
    **limits: datetime.datetime,
) -> datetime.datetime:
    """A point in time within its limits, in UTC; a time of some day is none without its time zone."""
    if not isinstance(value, datetime.datetime) or value.utcoffset() is None:
        wanted = "a datetime with a time zone"
        raise LimitError(owner, field, f"{within}type", None, value, wanted)
    try:
        value = value.astimezone(datetime.UTC)
    except OverflowError:  # in UTC it would be beyond the years of Python
        name = f"{within}instant"
        raise LimitError(owner, field, name, None, value, "an instant") from None
    return _bounded(owner, field, value, within, **limits)


def time_of_day(
    owner: str,
    field: str,
    value: datetime.time,
    *,
    within: str = "",
    **limits: datetime.time,
) -> datetime.time:
    """A time of day within its limits; one with a time zone depends on the day."""
    if not isinstance(value, datetime.time) or value.tzinfo is not None:
        wanted = "a time without a time zone"
        raise LimitError(owner, field, f"{within}type", None, value, wanted)
    return _bounded(owner, field, value, within, **limits)


def duration_of(
    owner: str,
    field: str,
    value: datetime.timedelta,
    *,
    within: str = "",
    **limits: datetime.timedelta,
) -> datetime.timedelta:
    """A length of time within its limits, and of at most 100,000 days."""
    if not isinstance(value, datetime.timedelta):
        raise LimitError(owner, field, f"{within}type", None, value, "a timedelta")
    value = datetime.timedelta(value.days, value.seconds, value.microseconds)
    if abs(value) > MOST_TIME:
        name = f"{within}duration"
        raise LimitError(owner, field, name, None, value, "a duration")
    return _bounded(owner, field, value, within, **limits)


def decimal_of(
    owner: str,
    field: str,
    value: Decimal,
    *,
    within: str = "",
    **limits: Decimal,
) -> Decimal:
    """A decimal number within its limits, of at most 20 digits before the point and 18 behind it."""
    if not isinstance(value, Decimal):
        raise LimitError(owner, field, f"{within}type", None, value, "a Decimal")
    held = shortest(value)
    if held is None:
        name = f"{within}decimal"
        raise LimitError(owner, field, name, None, value, "a decimal number")
    return _bounded(owner, field, held, within, **limits)


def shortest(value: Decimal) -> Decimal | None:
    """The same number without an exponent and without zeros at its end; None where it has too many digits, or is no number."""
    if not value.is_finite():
        return None
    sign, digits, exponent = value.as_tuple()
    end = len(digits)
    while end and not digits[end - 1]:
        end -= 1
    if not end:
        return Decimal(0)
    shift = int(exponent) + len(digits) - end
    if shift < -18 or end + shift > 20:
        return None
    return Decimal((sign, digits[:end] + (0,) * shift, min(shift, 0)))


def uuid_of(owner: str, field: str, value: UUID, *, within: str = "") -> UUID:
    """A UUID, and no text that tells one."""
    if not isinstance(value, UUID):
        raise LimitError(owner, field, f"{within}type", None, value, "a UUID")
    return value


def boolean(owner: str, field: str, value: bool, *, within: str = "") -> bool:
    """True or false, and nothing that is like them."""
    if value is not True and value is not False:
        raise LimitError(owner, field, f"{within}type", None, value, "true or false")
    return value


def instance(
    owner: str, field: str, value: C, of: type[object], *, within: str = ""
) -> C:
    """A product of a type, and nothing that looks like one."""
    if not isinstance(value, of):
        raise LimitError(owner, field, f"{within}type", None, value, _one_of(of))
    return value


def choice(owner: str, field: str, value: C, words: type[C], *, within: str = "") -> C:
    """One of the words."""
    if not isinstance(value, words):
        raise LimitError(owner, field, f"{within}choice", None, value)
    return value


# The checks of containers take their options by position too: defaults of keyword-only parameters are looked up in each call.


def listed(
    owner: str,
    field: str,
    values: Sequence[V],
    each: Callable[[V], V] | None = None,
    of: type[object] = object,
    within: str = "",
    min_length: int | None = None,
    max_length: int | None = None,
    unless_empty: bool = False,
    unique: bool = False,
    secret: bool = False,
) -> tuple[V, ...]:
    """The elements, in order; a text is no list of its letters."""
    if not isinstance(values, (list, tuple)) and not _is_list(values):
        raise LimitError(owner, field, f"{within}type", None, type(values), "a list")
    held = tuple(values)
    if min_length is not None and len(held) < min_length and (held or not unless_empty):
        raise LimitError(owner, field, f"{within}min_length", min_length, len(held))
    if max_length is not None and len(held) > max_length:
        raise LimitError(owner, field, f"{within}max_length", max_length, len(held))
    for value in held:  # as `_in_order` does; a list is what most fields are, and a call costs more than the look
        if value is None or not isinstance(value, of):
            raise _misfit(owner, field, value, of)
    if each is not None:
        held = tuple(map(each, held))
    if unique and len(set(held)) < len(held):
        raise LimitError(owner, field, "unique", None, None if secret else _twice(held))
    return held


def set_of(
    owner: str,
    field: str,
    values: AbstractSet[V],
    each: Callable[[V], V] | None = None,
    of: type[object] = object,
    within: str = "",
    min_length: int | None = None,
    max_length: int | None = None,
    unless_empty: bool = False,
) -> frozenset[V]:
    """The elements, each once."""
    if not isinstance(values, AbstractSet):
        raise LimitError(owner, field, f"{within}type", None, type(values), "a set")
    held = frozenset(values)
    least = None if unless_empty and not held else min_length
    _in_order(owner, field, held, of, within, least, max_length)
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
    keys: Callable[[K], K] | None = None,
    of: type[object] = object,
    within: str = "",
    min_length: int | None = None,
    max_length: int | None = None,
    unless_empty: bool = False,
) -> FrozenMap[K, V]:
    """The entries, with every key and value checked."""
    if not isinstance(values, Mapping):
        raise LimitError(owner, field, f"{within}type", None, type(values), "a map")
    least = None if unless_empty and not values else min_length
    _in_order(owner, field, values, object, within, least, max_length)
    _in_order(owner, field, values.values(), of, within, None, None)
    if keys is not None:
        values = {keys(key): value for key, value in values.items()}
    if each is not None:
        values = {key: each(value) for key, value in values.items()}
    return FrozenMap(values)


def sized(
    owner: str,
    field: str,
    held: Collection[object],
    *,
    min_length: int | None = None,
    max_length: int | None = None,
    unless_empty: bool = False,
    unique: bool = False,
    secret: bool = False,
) -> None:
    """A whole collection within its limits, after a change of one element."""
    if min_length is not None and len(held) < min_length and (held or not unless_empty):
        raise LimitError(owner, field, "min_length", min_length, len(held))
    if max_length is not None and len(held) > max_length:
        raise LimitError(owner, field, "max_length", max_length, len(held))
    if unique and len(set(held)) < len(held):
        raise LimitError(owner, field, "unique", None, None if secret else _twice(held))


def put_at(held: Sequence[V], at: SupportsIndex, value: V) -> tuple[V, ...]:
    """The same list with another element at a place that there is."""
    values = list(held)
    values[index(at)] = value
    return tuple(values)


def without(held: Sequence[V], at: SupportsIndex) -> tuple[V, ...]:
    """The same list without the element at a place that there is."""
    values = list(held)
    del values[index(at)]
    return tuple(values)


def _twice(held: Collection[object]) -> object:
    """The first element that stands there again; None if each differs."""
    before = set[object]()
    for each in held:
        if each in before:
            return each
        before.add(each)
    return None


def _order(key: Any) -> Any:
    return getattr(key, "value", key)  # the word of a choice


def _in_order(
    owner: str,
    field: str,
    held: Collection[object],
    of: type[object],
    within: str,
    least: int | None,
    most: int | None,
) -> None:
    """A length within its limits; every element is there, and is of a type."""
    if least is not None and len(held) < least:
        raise LimitError(owner, field, f"{within}min_length", least, len(held))
    if most is not None and len(held) > most:
        raise LimitError(owner, field, f"{within}max_length", most, len(held))
    for value in held:  # `in` would ask each value whether it equals None
        if value is None or not isinstance(value, of):
            raise _misfit(owner, field, value, of)


def _misfit(
    owner: str, field: str, value: object, of: type[object]
) -> MissingFieldsError | LimitError:
    """The error of an element that is missing or of another type."""
    if value is None:
        return MissingFieldsError(owner, [field])
    return LimitError(owner, field, "each.type", None, value, _one_of(of))


def _one_of(of: type[object]) -> str:
    return "a text" if of is str else f"one of type {of.__name__}"


def _is_list(values: object) -> bool:
    """A text is a sequence of its letters, but no list."""
    return isinstance(values, Sequence) and not isinstance(values, (str, bytes))


if TYPE_CHECKING:
    starting = classmethod
else:

    class starting(classmethod):
        """A method of a class that starts a builder; called on a builder it would drop what that holds."""

        def __get__(self, builder: object, owner: type[object] | None = None) -> object:
            if builder is not None:
                name = type(builder).__name__
                text = f"{self.__name__}() starts a builder: call it on {name}"
                raise TypeError(text)
            return super().__get__(builder, owner)


def own_list(values: Sequence[V], each: Callable[[V], V] | None = None) -> list[V]:
    """A builder's own list, perhaps of copies; what is no list is kept for the build to refuse."""
    if not isinstance(values, (list, tuple)) and not _is_list(values):
        return cast("list[V]", values)
    if each is None:
        return list(values)
    return [value if value is None else each(value) for value in values]


def own_set(values: AbstractSet[V]) -> set[V]:
    """A builder's own set; what is no set is kept for the build to refuse."""
    if not isinstance(values, AbstractSet):
        return cast("set[V]", values)
    return set(values)


def own_map(values: Mapping[K, V], each: Callable[[V], V] | None = None) -> dict[K, V]:
    """A builder's own map, perhaps of copies; what is no map is kept for the build to refuse."""
    if not isinstance(values, Mapping):
        return cast("dict[K, V]", values)
    if each is None:
        return dict(values)
    return {k: v if v is None else each(v) for k, v in values.items()}
