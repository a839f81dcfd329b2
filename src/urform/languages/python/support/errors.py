"""The errors of creation. Each keeps its details as data, and can be pickled."""

from collections.abc import Sequence


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
    """A value is outside its limit."""

    def __init__(
        self, owner: str, field: str, limit: str, bound: object = None
    ) -> None:
        super().__init__(owner, field, limit, bound)
        self.owner = owner
        self.field = field
        self.limit = limit
        self.bound = bound

    def __str__(self) -> str:
        bound = "" if self.bound is None else f" {self.bound}"
        return f"{self.owner}.{self.field}: breaks {self.limit}{bound}"


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
