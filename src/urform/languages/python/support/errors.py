"""The errors of creation. Each keeps its details as data, and can be pickled."""

import math
from collections.abc import Sequence
from decimal import Decimal
from typing import Any

MOST_SHOWN = 80
WITHIN = {"each.": "an element of ", "key.": "a key of "}
WANTED = {
    "min": "at least {} is allowed",
    "max": "at most {} is allowed",
    "above": "more than {} is wanted",
    "below": "less than {} is wanted",
    "finite": "a finite number is wanted",
    "choice": "a declared word is wanted",
    "not_blank": "a text that is not blank is wanted",
    "min_length": "a length of at least {} is allowed",
    "max_length": "a length of at most {} is allowed",
    "one_of": "one of {} is wanted",
    "pattern": "a text that matches {} is wanted",
    "uri": "a URI is wanted",
    "unique": "each element is allowed once",
}
WANTED_IN_TIME = {
    "min": "{} or later is allowed",
    "max": "{} or earlier is allowed",
    "above": "later than {} is wanted",
    "below": "earlier than {} is wanted",
}
SHORT = {"\n": "\\n", "\r": "\\r", "\t": "\\t", '"': '\\"', "\\": "\\\\"}


class CreationError(ValueError):
    """The base of all errors of creation."""

    owner: str


class MissingFieldsError(CreationError):
    """Required fields were not given."""

    def __init__(self, owner: str, fields: Sequence[str]) -> None:
        super().__init__(owner, fields)
        self.owner = owner
        self.fields = tuple(fields)

    def __str__(self) -> str:
        return f"{self.owner}: missing {', '.join(self.fields)}"


class LimitError(CreationError):
    """A value is outside its limit: the value itself, the length of a collection, the element that stands twice in a list, or
    None where it is a secret.

    Of a value that is of another type, `wanted` tells which one there should be.
    """

    def __init__(
        self,
        owner: str,
        field: str,
        limit: str,
        bound: object = None,
        value: object = None,
        wanted: str = "",
    ) -> None:
        super().__init__(owner, field, limit, bound, value, wanted)
        self.owner = owner
        self.field = field
        self.limit = limit
        self.bound = bound
        self.value = value
        self.wanted = wanted

    def __str__(self) -> str:
        part, name = _parts(self.limit)
        path = f"{WITHIN.get(part, '')}{self.owner}.{self.field}"
        wanted = f"{self.wanted} is wanted"
        if not self.wanted:
            words = WANTED_IN_TIME if hasattr(self.bound, "isoformat") else WANTED
            wanted = words.get(name, "{} is its " + name).format(_bound(self.bound))
        if name.endswith("_length") and isinstance(self.value, int):
            wanted = wanted.removeprefix("a length of ")
            return f"{path} has the length {self.value}; {wanted}"
        if self.value is None:
            return f"{path}: {wanted}"
        if name == "unique":  # of a choice its words
            twice = _shown(getattr(self.value, "value", self.value))
            return f"{path} has {twice} twice; {wanted}"
        return f"{path} is {_shown(self.value)}; {wanted}"


class UnknownKeyError(CreationError):
    """The key is unknown."""

    def __init__(self, owner: str, key: str, known: Sequence[str]) -> None:
        super().__init__(owner, key, known)
        self.owner = owner
        self.key = key
        self.known = tuple(known)

    def __str__(self) -> str:
        return f"{self.owner}: unknown key {self.key!r}, known: {', '.join(self.known)}"


class DuplicateKeyError(CreationError):
    """The key is taken."""

    def __init__(self, owner: str, key: str) -> None:
        super().__init__(owner, key)
        self.owner = owner
        self.key = key

    def __str__(self) -> str:
        return f"{self.owner}: key {self.key!r} is taken"


class RefusedError(CreationError):
    """These values give no product."""

    def __init__(self, owner: str, reason: str) -> None:
        super().__init__(owner, reason)
        self.owner = owner
        self.reason = reason

    def __str__(self) -> str:
        return f"{self.owner}: refused, {self.reason}"


def _parts(limit: str) -> tuple[str, str]:
    for part in WITHIN:
        if limit.startswith(part):
            return part, limit.removeprefix(part)
    return "", limit


def _bound(bound: object) -> str:
    if isinstance(bound, tuple):
        return ", ".join(map(_shown, bound))  # pyright: ignore[reportUnknownArgumentType, reportUnknownVariableType]
    return "" if bound is None else _shown(bound)


def _shown(value: object) -> str:
    """A text in quotes, cut, its controls escaped; a number; of everything else the type."""
    if isinstance(value, str):
        return quoted(value)
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, float):
        return real_text(value)
    if isinstance(value, int):
        return str(value) if value.bit_length() <= 1024 else "beyond every double"
    if isinstance(value, Decimal) or hasattr(value, "isoformat"):
        return quoted(told_text(value))
    if hasattr(value, "microseconds"):
        return quoted(told_text(value))
    of = value if isinstance(value, type) else type(value)
    return f"of type {of.__name__}"


def told_text(value: Any) -> str:
    """A date, a time, a point in time in UTC, a duration or a decimal number, as records have it."""
    if isinstance(value, Decimal):
        # With an exponent where there would be too many zeros.
        return f"{value:f}" if abs(value.adjusted()) < MOST_SHOWN else str(value)
    if hasattr(value, "microseconds"):
        return _duration_text(value)
    text = str(value.isoformat()).removesuffix("+00:00")
    text = text.rstrip("0") if getattr(value, "microsecond", 0) else text
    return text if getattr(value, "tzinfo", None) is None else f"{text}Z"


def _duration_text(length: Any) -> str:
    """Hours, minutes and seconds, those that are not zero."""
    total = (length.days * 86_400 + length.seconds) * 1_000_000 + length.microseconds
    minutes, micros = divmod(abs(total), 60_000_000)
    text = f"{minutes // 60}H" if minutes >= 60 else ""
    text += f"{minutes % 60}M" if minutes % 60 else ""
    if micros or not text:
        seconds = f"{micros // 1_000_000}.{micros % 1_000_000:06}"
        text += f"{seconds.rstrip('0').rstrip('.')}S"
    return f"{'-' if total < 0 else ''}PT{text}"


def quoted(text: str) -> str:
    """A text in quotes, cut, its controls escaped."""
    more = "…" if len(text) > MOST_SHOWN else ""
    return f'"{"".join(map(_character, text[:MOST_SHOWN]))}{more}"'


def _character(char: str) -> str:
    if char < " " or "\x7f" <= char <= "\x9f":
        return SHORT.get(char, f"\\u{ord(char):04x}")
    return SHORT.get(char, char)


def real_text(number: float) -> str:
    """The fewest digits that read back as this number, laid out as in ECMAScript, with `.0` if it is whole."""
    if not math.isfinite(number):
        return str(number).replace("nan", "NaN").replace("inf", "Infinity")
    parts = Decimal(repr(abs(number))).as_tuple()
    digits = "".join(map(str, parts.digits))
    point = len(digits) + int(parts.exponent)
    digits = digits.rstrip("0") or "0"
    sign = "-" if number < 0 else ""
    if digits == "0":
        return "0.0"
    if len(digits) <= point <= 21:
        return f"{sign}{digits.ljust(point, '0')}.0"
    if 0 < point <= 21:
        return f"{sign}{digits[:point]}.{digits[point:]}"
    if -6 < point <= 0:
        return f"{sign}0.{'0' * -point}{digits}"
    more = f".{digits[1:]}" if len(digits) > 1 else ""
    return f"{sign}{digits[0]}{more}e{point - 1:+d}"
