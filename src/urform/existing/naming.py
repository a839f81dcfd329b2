"""Names of a declaration for what has other names: `lower_snake` and `UpperCamel`, each once."""

from __future__ import annotations

import re

LONGEST = 60  # code points; variants and builders of it become longer names
_SIGNS = re.compile(r"[^A-Za-z0-9]+")
_HUMPS = re.compile(r"(?<=[A-Z])(?=[A-Z][a-z])|(?<=[a-z0-9])(?=[A-Z])")


def lower_snake(name: str) -> str:
    """`addressLine2` as `address_line2`; empty where no letter or digit is in it."""
    parts = [part for part in _SIGNS.split(name) if part]
    snake = "_".join(_HUMPS.sub("_", part) for part in parts).lower()
    snake = f"n{snake}" if snake[:1].isdigit() else snake
    return snake[:LONGEST].rstrip("_")


def upper_camel(name: str) -> str:
    """`address-line 2` as `AddressLine2`; `Thing` where no letter or digit is in it."""
    camel = "".join(part[:1].upper() + part[1:] for part in _SIGNS.split(name) if part)
    camel = f"N{camel}" if camel[:1].isdigit() else camel
    return camel[:LONGEST] or "Thing"


class Names:
    """Names that are taken. Two that differ in case or signs alone are one: they would meet in some language, or on some disk."""

    def __init__(self) -> None:
        self._taken: set[str] = set()

    def take(self, name: str) -> bool:
        """Whether it was free; it is taken now."""
        folded = name.replace("_", "").lower()
        is_free = folded not in self._taken
        self._taken.add(folded)
        return is_free

    def free(self, name: str) -> str:
        """The name, or with the first number that is free behind it."""
        number = 1
        wanted = name
        while not self.take(wanted):
            number += 1
            wanted = f"{name}{number}"
        return wanted
