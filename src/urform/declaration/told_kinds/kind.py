"""What is known of a type whose values are told by texts of one form."""

from __future__ import annotations

from collections.abc import Callable

from urform.dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Kind:
    """How a text is read, which values there are, and what people and tests are told of them."""

    article: str  # before its name in a message: «a date is wanted»
    spoken: str
    wanted: str  # what a person is asked for
    pattern: str  # the texts that are read, as an I-Regexp, for schemas
    form: str | None  # what JSON Schema calls that form, if it has a name for it
    canonical: Callable[[str], str | None]  # None for what is none of the values
    order: Callable[[str], int]
    at: Callable[[int], str]
    first: str
    last: str
    usual: tuple[str, ...]  # what tests hand in first; one that is odd among them
    neutral: str  # what a stand-in gives
    none: tuple[str, ...]  # texts that look like one and are none; the first is what tests hand in for one
    beyond: tuple[str, ...] = ()  # texts of that form whose values are none of these
    otherwise: Callable[[str], str] = str  # another text of the same value
    in_time: bool = False  # a later one is the larger one

    @property
    def asked(self) -> str:
        """What a message says of anything else."""
        return f"{self.article} {self.spoken} is wanted"
