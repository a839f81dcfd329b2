"""Names in the spellings of languages, and the one rule by which words of a language are kept apart.

A declared name that is a word of the target, or meets a generated name in its scope, gets an underscore at
its end. Everything that is derived from it (files, tests, helpers) is derived from the declared name.
"""

from __future__ import annotations

import re
from collections.abc import Container, Iterable
from functools import lru_cache

from urform.prose import snake as snake
from urform.prose import with_article

# Names are spelt again and again, in each test; that many different ones are kept.
_often = lru_cache(maxsize=50_000)


@_often
def pascal(name: str) -> str:
    """`light_rhythm` gives `LightRhythm`; an UpperCamel name stays as it was declared."""
    if name[:1].isupper():
        return name
    return "".join(word[:1].upper() + word[1:] for word in name.split("_"))


@_often
def camel(name: str) -> str:
    """`light_rhythm` and `LightRhythm` give `lightRhythm`."""
    first, *others = snake(name).split("_")
    return first + "".join(word[:1].upper() + word[1:] for word in others)


def screaming(name: str) -> str:
    """`light_rhythm` gives `LIGHT_RHYTHM`."""
    return snake(name).upper()


def spoken(name: str) -> str:
    """`LightRhythm` and `light_rhythm` give `light rhythm`, for comments."""
    return snake(name).replace("_", " ")


def article(name: str) -> str:
    """`a light rhythm`, `an outfit`."""
    return with_article(spoken(name))


def beside(name: str, declared: Iterable[str]) -> str:
    """A name for a variable of generated code that meets none of the declared ones in its scope."""
    return Words(declared).escape(name)


# What the names of types end with that some target derives from a product's.
ENDINGS = frozenset(
    "Builder Creator CreatorFor Exemplars Fields For Given Key Kind Maker Object Of Operations Options Pool Registry Test".split()
)


def of_family(member: str, type_: str) -> str:
    """`IceOutfit`: the type of a member. In a family that is called like an ending, `IceOptions` may be those of Ice."""
    return f"{member}{type_}{'_' if type_ in ENDINGS else ''}"


# What stands beside the product that a store of exemplars is given; members of classes have other names.
STORE_NAMES = frozenset("name kept exemplar self".split())


_NO_WORD = re.compile(r"(?:%[0-9A-F]{2}|[-_])+")


def claim_words(claim: str) -> list[str]:
    """The words of a claim's id as parts of identifiers: `kind/Mark.WX-811` gives `kind`, `Mark`, `WX_811`."""
    return [_NO_WORD.sub("_", word).strip("_") or "x" for word in re.split(r"[/.:]", claim)]


def unique(name: str, taken: Container[str], again: str) -> str:
    """A name that no other has yet: `again` is added as often as need be."""
    while name in taken:
        name += again
    return name


class Words:
    """A set of names that a scope of a target has taken."""

    def __init__(self, *taken: Iterable[str]) -> None:
        self._taken = frozenset().union(*taken)

    def escape(self, name: str) -> str:
        """The name, with underscores at its end while it is taken."""
        while name in self._taken:
            name += "_"
        return name

    def __or__(self, more: Iterable[str]) -> Words:
        return Words(self._taken, more)
