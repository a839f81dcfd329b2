"""Names in Java: reserved words, and what generated code has taken."""

from __future__ import annotations

from collections.abc import Iterable

from urform.languages.naming.names import Words, camel, pascal, screaming

KEYWORDS = frozenset(
    (
        "abstract assert boolean break byte case catch char class const continue default do double else enum extends "
        "final finally float for goto if implements import instanceof int interface long native new package private "
        "protected public return short static strictfp super switch synchronized this throw throws transient try "
        "void volatile while true false null var yield record sealed permits _"
    ).split()
)

# Types that generated files name without an import, or import.
# What generated files import, where they use it.
IMPORTS = {
    **{
        name: f"java.util.{name}"
        for name in (
            "ArrayList Arrays Collections Comparator HashMap LinkedHashMap LinkedHashSet List Map Objects Optional "
            "OptionalDouble OptionalLong Set UUID"
        ).split()
    },
    "Instant": "java.time.Instant",
    "LocalDate": "java.time.LocalDate",
    "LocalTime": "java.time.LocalTime",
    "Duration": "java.time.Duration",
    "BigDecimal": "java.math.BigDecimal",
    "ConcurrentHashMap": "java.util.concurrent.ConcurrentHashMap",
    "ConcurrentMap": "java.util.concurrent.ConcurrentMap",
    "AtomicInteger": "java.util.concurrent.atomic.AtomicInteger",
    "CountDownLatch": "java.util.concurrent.CountDownLatch",
    "LongAdder": "java.util.concurrent.atomic.LongAdder",
    "ReferenceQueue": "java.lang.ref.ReferenceQueue",
    "WeakReference": "java.lang.ref.WeakReference",
    "Function": "java.util.function.Function",
    "Supplier": "java.util.function.Supplier",
    "UnaryOperator": "java.util.function.UnaryOperator",
    "Test": "org.junit.jupiter.api.Test",
    "DisplayName": "org.junit.jupiter.api.DisplayName",
}
# What they use of java.lang, of their own, and of what tests have beside them.
USED_TYPES = frozenset(
    (
        "AssertionError Boolean Builder Changes Character Check CharSequence Class ClassLoader Comparable Copies "
        "CreationException Deprecated Double Enum Error Exception Function FunctionalInterface IllegalArgumentException "
        "IllegalStateException Held Integer InterruptedException Iterable Key LoadedMaker Long Makings Maker Math Messages "
        "Missing Number Object Options Override Record ReflectiveOperationException Runnable RuntimeException SafeVarargs "
        "Shared String StringBuilder Supplier SuppressWarnings System Thread Throwable UnsupportedOperationException Void "
        "JsonRecords TextPattern TextPatterns Witnesses"
    ).split()
)

# Methods that every object has, and names that generated members and parameters use.
USED_MEMBERS = frozenset(
    (
        "clone equals finalize getClass hashCode notify notifyAll toString wait "
        "asked copied copy find key made of options other that values valueOf word self"
    ).split()
)

TYPES = Words(KEYWORDS, USED_TYPES, IMPORTS)
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
