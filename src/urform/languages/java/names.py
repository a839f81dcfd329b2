"""Names in Java: reserved words, and what generated code has taken."""

from __future__ import annotations

from collections.abc import Iterable

from urform.languages.names import Words, camel, pascal, screaming

KEYWORDS = frozenset(
    (
        "abstract assert boolean break byte case catch char class const continue default do double else enum extends "
        "final finally float for goto if implements import instanceof int interface long native new package private "
        "protected public return short static strictfp super switch synchronized this throw throws transient try "
        "void volatile while true false null var yield record sealed permits _"
    ).split()
)

# Types that generated files name without an import, or import.
USED_TYPES = frozenset(
    (
        "AssertionError Boolean Builder Check CharSequence Class Collections Comparator Comparable ConcurrentHashMap "
        "ConcurrentMap CreationException Deprecated Double Enum Error Exception FunctionalInterface Integer Iterable "
        "List Long Makings Map Math Missing Number Object Objects Optional OptionalDouble OptionalLong Options Override Record "
        "Runnable RuntimeException SafeVarargs Set Shared String StringBuilder SuppressWarnings System Test Thread "
        "Throwable Void Witnesses DisplayName ArrayList HashMap LinkedHashSet Function Supplier UnaryOperator Maker"
    ).split()
)

# Methods that every object has, and names that generated members and parameters use.
USED_MEMBERS = frozenset(
    (
        "clone equals finalize getClass hashCode notify notifyAll toString wait "
        "asked copied copy find key made of options other that values valueOf word self"
    ).split()
)

TYPES = Words(KEYWORDS, USED_TYPES)
MEMBERS = Words(KEYWORDS, USED_MEMBERS)


class Names:
    """The names of one plan; generated types come first, declared ones that meet them are escaped."""

    def __init__(self, generated: frozenset[str], stand_ins: Iterable[str]) -> None:
        self._types = TYPES | generated
        self._stand_ins = frozenset(stand_ins)

    def type(self, name: str) -> str:
        """A product, variant, choice or family."""
        return name if name in self._stand_ins else self._types.escape(pascal(name))

    def member(self, name: str) -> str:
        """A field, operation or parameter."""
        return MEMBERS.escape(camel(name))

    def setter(self, name: str) -> str:
        """`setCrew`; a field that was escaped keeps its plain name here, where nothing can meet it."""
        return f"set{pascal(name)}"

    def word(self, word: str) -> str:
        """A constant of an enum."""
        return screaming(word)
