"""Values that records tell as texts of one form, such as dates: nothing else is read, and nothing is converted."""

import datetime
import re
from collections.abc import Callable
from decimal import Decimal
from typing import Any, Final
from uuid import UUID

from . import checks
from .errors import told_text
from .reading import Reader, Reading, Unusual

DATE: Final = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}")

TIME: Final = re.compile(r"([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\.[0-9]{1,6})?")

INSTANT: Final = re.compile(
    r"[0-9]{4}-[0-9]{2}-[0-9]{2}[Tt]([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\.[0-9]{1,6})?"
    r"([Zz]|[+-]([01][0-9]|2[0-3]):[0-5][0-9])"
)

DURATION: Final = re.compile(
    r"(-?)P(?=[0-9T])(?:([0-9]{1,5})W|(?:([0-9]{1,6})D)?(?:T(?=[0-9])(?:([0-9]{1,7})H)?(?:([0-9]{1,9})M)?"
    r"(?:([0-9]{1,10})(?:\.([0-9]{1,6}))?S)?)?)"
)

DECIMAL: Final = re.compile(r"-?(0|[1-9][0-9]{0,19})(\.[0-9]{1,18})?")

UUID_TEXT: Final = re.compile(r"[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")


class Told(Reader):
    """What texts of a fixed form tell; `told` gives the value of a text, or None."""

    limit = ""
    told: Callable[[object], Any]
    check: Callable[..., Any]

    def __init__(self, owner: str, field: str, within: str = "", **limits: Any) -> None:
        super().__init__(owner, field, within, **limits)
        self.quick = self._quick

    def _quick(self, value: Any, level: int) -> Any:
        read = self.told(value)
        if read is None:
            raise Unusual
        return read

    def read(self, value: Any, reading: Reading) -> Any:
        read = self.told(value)
        if read is None:
            limit = self.limit if isinstance(value, str) else "type"
            return self.unfit(value, reading, limit)
        return self.checked(self.check, read, reading)


def date_of(value: object) -> datetime.date | None:
    """The date that a text tells as RFC 3339 has it; Python would read other forms too."""
    if not isinstance(value, str) or DATE.fullmatch(value) is None:  # «#date#»
        return None
    try:
        return datetime.date.fromisoformat(value)
    except ValueError:
        return None


class Date(Told):
    wanted = "a date is wanted"
    limit = "date"
    told = staticmethod(date_of)
    check = staticmethod(checks.calendar_date)
    write = staticmethod(told_text)


def instant_of(value: object) -> datetime.datetime | None:
    """The point in time, in UTC, that a text tells as RFC 3339 has it; Python would read other forms too."""
    if not isinstance(value, str) or INSTANT.fullmatch(value) is None:  # «#instant#»
        return None
    try:
        return datetime.datetime.fromisoformat(value.upper()).astimezone(datetime.UTC)
    except (ValueError, OverflowError):
        return None


class Instant(Told):
    wanted = "an instant is wanted"
    limit = "instant"
    told = staticmethod(instant_of)
    check = staticmethod(checks.instant_of)
    write = staticmethod(told_text)


def time_of(value: object) -> datetime.time | None:
    """The time of day that a text tells as RFC 3339 has it; Python would read other forms too."""
    if not isinstance(value, str) or TIME.fullmatch(value) is None:  # «#time#»
        return None
    return datetime.time.fromisoformat(value)


class Time(Told):
    wanted = "a time of day is wanted"
    limit = "time"
    told = staticmethod(time_of)
    check = staticmethod(checks.time_of_day)
    write = staticmethod(told_text)


def duration_of(value: object) -> datetime.timedelta | None:
    """The length of time that a text tells as ISO 8601 has it, of at most 100,000 days."""
    if not isinstance(value, str):
        return None
    parts = DURATION.fullmatch(value)  # «#duration#»
    if parts is None:
        return None
    sign, *counted, fraction = parts.groups(default="0")
    weeks, days, hours, minutes, seconds = map(int, counted)
    micros = int(f"{fraction:0<6}")
    length = datetime.timedelta(days, seconds, micros, 0, minutes, hours, weeks)
    if length > checks.MOST_TIME:
        return None
    return -length if sign == "-" else length


class Duration(Told):
    wanted = "a duration is wanted"
    limit = "duration"
    told = staticmethod(duration_of)
    check = staticmethod(checks.duration_of)
    write = staticmethod(told_text)


def decimal_of(value: object) -> Decimal | None:
    """The decimal number that a text tells; Python would read other forms too."""
    if not isinstance(value, str) or DECIMAL.fullmatch(value) is None:  # «#decimal#»
        return None
    return checks.shortest(Decimal(value))


class DecimalNumber(Told):
    wanted = "a decimal number is wanted"
    limit = "decimal"
    told = staticmethod(decimal_of)
    check = staticmethod(checks.decimal_of)
    write = staticmethod(told_text)


def uuid_of(value: object) -> UUID | None:
    """The UUID that a text of five groups of digits tells; Python would read other forms too."""
    if not isinstance(value, str) or UUID_TEXT.fullmatch(value) is None:  # «#uuid#»
        return None
    return UUID(value)


class Uuid(Told):
    wanted = "a UUID is wanted"
    limit = "uuid"
    told = staticmethod(uuid_of)
    check = staticmethod(checks.uuid_of)
    write = staticmethod(str)
