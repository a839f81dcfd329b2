"""Problems and advice: what they are made of, and how they are collected.

Each kind of problem is one `Kind` in a module of `catalogue/`, which owns its slug, message, mend,
explanation and a failing example. Kinds register themselves on import of the catalogue.
"""

from __future__ import annotations

import difflib
from collections.abc import Iterable
from textwrap import dedent

from urform.dataclasses import dataclass
from urform.declaration.place import START, Place
from urform.prose import listing


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of problem. `message` and `mend` are `str.format` templates over the same details.

    A detail that is a tuple has the names that may be used instead. `use` is a mend that fits better than the usual one,
    `instead`, or else a hint, what to write in place of the token.
    """

    slug: str
    message: str
    mend: str
    why: str
    example: str
    advice: bool = False

    def at(self, place: Place, **details: object) -> Problem:
        """A problem of this kind at a place."""
        use = str(details.pop("use", ""))
        hint = details.get("hint")
        instead = str(details.pop("instead", "")) or (hint.word if isinstance(hint, Hint) else "")
        told = {name: listing(d) if isinstance(d, tuple) else d for name, d in details.items()}
        quoted = {name: clipped(detail) for name, detail in told.items()}
        usual = self.mend.format(**quoted) if () not in details.values() else NOTHING_TO_USE
        mend = str(clipped(use)) or usual
        mend = (
            f"{mend}; or put `# urform: keep {self.slug}` on the line, if it is meant"
            if self.advice
            else mend
        )
        return Problem(self.slug, place, self.message.format(**quoted), mend, self.advice, instead)


@dataclass(frozen=True, slots=True)
class Problem:
    """One finding in one declaration; `advice` stops nothing."""

    slug: str
    place: Place
    message: str
    mend: str
    advice: bool = False
    instead: str = ""  # what was probably meant by the token at its place


NOTHING_TO_USE = "declare it, or drop this: there is nothing to choose from"
MOST_PROBLEMS = 1000  # that a person could want to see at once
LONGEST_DETAIL = 300  # code points of a detail that are quoted in a message

KINDS: dict[str, Kind] = {}


def declared(body: str) -> str:
    """An example: the two lines that every declaration begins with, and what follows."""
    return "urform: 1\nname: harbour\n" + dedent(body).lstrip("\n")


def kind(slug: str, message: str, mend: str, why: str, example: str, *, advice: bool = False) -> Kind:
    """Register a kind of problem; the example is a whole declaration that has just this problem."""
    if slug in KINDS:
        raise ValueError(f"two kinds of problem are called {slug}")
    registered = Kind(slug, message, mend, dedent(why).strip(), dedent(example).lstrip("\n"), advice)
    KINDS[slug] = registered
    return registered


class TooManyProblems(Exception):
    """So much is wrong that the rest is not looked at."""


class Problems:
    """Collects what is wrong, so that all of it can be told at once."""

    def __init__(self) -> None:
        self._found: dict[tuple[Place, str, str], Problem] = {}
        self.too_many = False

    def add(self, kind: Kind, place: Place | None, **details: object) -> None:
        """Note one problem; the same one at the same place is noted once. Raises TooManyProblems."""
        if len(self._found) >= MOST_PROBLEMS:
            self.too_many = True
            raise TooManyProblems
        problem = kind.at(place or START, **details)
        self._found.setdefault((problem.place, problem.slug, problem.message), problem)

    @property
    def count(self) -> int:
        """How many were noted so far, advice included."""
        return len(self._found)

    def __bool__(self) -> bool:
        return any(not problem.advice for problem in self._found.values())

    def sorted(self) -> tuple[Problem, ...]:
        """Everything noted, in the order of the file."""
        return tuple(sorted(self._found.values(), key=lambda p: (p.place, p.slug, p.message)))


def clipped(detail: object) -> object:
    """A detail as it is quoted in a message: of a very long text the beginning, and how long it is."""
    if not isinstance(detail, str) or len(detail) <= LONGEST_DETAIL:
        return detail
    return f"{detail[:LONGEST_DETAIL]}… ({len(detail):,} characters)"


@dataclass(frozen=True, slots=True)
class Hint:
    """What was probably meant; as a text ` Did you mean 'x'?`, or nothing."""

    word: str

    def __bool__(self) -> bool:
        return bool(self.word)

    def __str__(self) -> str:
        return f" Did you mean '{self.word}'?" if self.word else ""


def did_you_mean(word: str, known: Iterable[str]) -> Hint:
    """The nearest known word, if one is near."""
    if len(word) > LONGEST_DETAIL:
        return Hint("")
    return Hint(next(iter(difflib.get_close_matches(word, list(known), n=1, cutoff=0.6)), ""))
