"""Text as string literals: what stands for each character is found once."""

from __future__ import annotations

from collections.abc import Callable, Mapping


class Characters(dict[int, str]):
    """A table for `str.translate`: some characters are given, what stands for the others is asked when one is met."""

    def __init__(self, given: Mapping[str, str], others: Callable[[str], str]) -> None:
        super().__init__({ord(char): text for char, text in given.items()})
        self._others = others

    def __missing__(self, code: int) -> str:
        escaped = self[code] = self._others(chr(code))
        return escaped
