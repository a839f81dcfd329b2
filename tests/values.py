"""Names, types, limits and values, drawn by chance so that they are valid."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import cache
from math import inf, nextafter
from random import Random
from typing import Any, TypeVar

from tests.data import Data, Product, innermost, is_collection, within
from tests.identifiers import identifiers
from tests.vocabulary import BLANK, MEMBERS, TYPES, a_real, a_text, a_word, an_integer, folded
from urform.declaration.types import SCALARS

T = TypeVar("T")
# Patterns, each with texts that match it.
PATTERNS = {
    "[A-Z]{2}[0-9]+": ("PV1", "ZZ007"),
    "(a|b)*abb": ("abb", "babaabb"),
    r"\p{Lu}\p{Ll}*( \p{Lu}\p{Ll}*)*": ("Ärö", "Port Varrow", "Ω"),
    '[^"\\\\]{1,30}': ("{} %s", "*/ -->", "\N{RING BUOY}"),
    "|x|(.|\n){3}": ("", "x", "a\nb", "\N{RING BUOY}\N{RING BUOY}\N{RING BUOY}"),
    r"[\-\]^.]{1,3}|\P{L}{5,6}": ("^-.", "12:34", "     "),
    "[0-9]{4}-(0[1-9]|1[0-2])-([0-2][0-9]|3[01])": ("2026-12-01",),
}
URIS = (
    "https://port-varrow.example/marks/7",
    "urn:x:%41",
    "mailto:pilot@port-varrow.example?subject=a'b",
    "x:",
)
DATES = ("0001-01-01", "1582-10-10", "1900-03-01", "2000-02-29", "2026-12-01", "9999-12-31")  # in their order
INSTANTS = (  # in their order
    "0001-01-01T00:00:00Z",
    "1969-12-31T23:59:59.999999Z",
    "2026-12-01T05:30:00Z",
    "2026-12-01T05:30:00.000001Z",
    "2026-12-01T05:30:00.25Z",
    "9999-12-31T23:59:59.999999Z",
)
TIMES = ("00:00:00", "00:00:00.000001", "06:30:00", "06:30:00.25", "23:59:59.999999")  # in their order
DURATIONS = (  # in their order
    "-PT2400000H",
    "-PT0.5S",
    "PT0S",
    "PT59.999999S",
    "PT26H30M",
    "PT2400000H",
)
DECIMALS = (  # in their order
    "-99999999999999999999.999999999999999999",
    "-0.5",
    "0",
    "0.000000000000000001",
    "12.5",
    "99999999999999999999.999999999999999999",
)
UUIDS = (
    "6ba7b810-9dad-11d1-80b4-00c04fd430c8",
    "FFFFFFFF-ffff-FFFF-ffff-000000000000",
    "00000000-0000-0000-0000-000000000000",
)
IN_ORDER = {
    "date": DATES,
    "time": TIMES,
    "instant": INSTANTS,
    "duration": DURATIONS,
    "decimal": DECIMALS,
}
TARGETS = ("cpp", "go", "java", "python", "rust", "typescript")


@cache
def template_words(target: str) -> tuple[str, ...]:
    """What occurs in the templates and the support code of a target: what a declared name could meet."""
    return tuple(identifiers(target))


class Values:
    """Draws names, types, limits, and values that keep them, within what was declared so far."""

    def __init__(self, chance: Random) -> None:
        self.chance = chance
        self.template_words = template_words(chance.choice(TARGETS))
        self.types: set[str] = set()
        self.choices: dict[str, list[str]] = {}
        self.products: dict[str, Product] = {}
        self.kinds: dict[str, Product] = {}  # variants, as types of their own

    # --- small things -----------------------------------------------------------------------------------

    def maybe(self, often: int = 2) -> bool:
        """True once in so many times."""
        return self.chance.randrange(often) == 0

    def one(self, found: Sequence[T]) -> T:
        return self.chance.choice(found)

    def number(self, low: int, high: int) -> int:
        return self.chance.randint(low, high)

    def text(self) -> str:
        """A text that is not empty."""
        return a_text(self.chance) or "A mark."

    def code(self, taken: set[str]) -> str:
        """A key that no other kind has: any text without controls."""
        drawn = "".join(c for c in a_text(self.chance) if ord(c) >= 0x20 and not 0x7F <= ord(c) <= 0x9F)[:70]
        found = drawn or "T"
        while found in taken:
            found += "'"
        taken.add(found)
        return found

    def name(self, taken: set[str], *pools: Sequence[str]) -> str:
        """A name that meets none of its scope; its folded form is taken from then on. One in so many is any word."""
        pool = self.chance.choice((*pools, None))
        found = a_word(self.chance) if pool is None else self.one(pool)
        if pools[0] is TYPES:
            found = "".join(part[:1].upper() + part[1:] for part in found.split("_"))
        ending = 0
        while folded(found + (str(ending) if ending else "")) in taken:
            ending += 1
        found += str(ending) if ending else ""
        taken.add(folded(found))
        return found

    def member(self, taken: set[str]) -> str:
        return self.name(taken, MEMBERS, self.template_words)

    def type_name(self) -> str:
        return self.name(self.types, TYPES, self.template_words)

    def doc(self) -> Data:
        return {"doc": self.text()} if self.maybe(3) else {}

    # --- types ------------------------------------------------------------------------------------------

    def scalar(self) -> str:
        return str(self.one([*SCALARS, *self.choices]))

    def key_type(self) -> str:
        return str(self.one(["text", "integer", *self.choices]))

    def usable(self, *, immutable: bool) -> list[str]:
        every = [*self.products.values(), *self.kinds.values()]
        return [p.name for p in every if not (immutable and p.mutable)]

    def product(self, type_: str) -> Product | None:
        """The product, or the variant, that a type is."""
        return self.products.get(type_) or self.kinds.get(type_)

    def type(self, *, immutable: bool, depth: int = 0) -> str:
        """A type of a field of a product; an immutable product holds no mutable one."""
        kind = self.number(0, 9 if depth < 2 else 5)
        products = self.usable(immutable=immutable)
        if kind <= 4 or (kind == 5 and not products):
            return self.scalar()
        if kind == 5:
            return self.one(products)
        if kind == 6:
            return f"set<{self.key_type()}>"
        if kind == 7:
            return f"map<{self.key_type()} to {self.type(immutable=immutable, depth=depth + 1)}>"
        return f"list<{self.type(immutable=immutable, depth=depth + 1)}>"

    def with_uris(self, type_: str) -> str:
        """The type with URIs for its texts, where they can stand."""
        if type_ in ("text", "list<text>", "set<text>"):
            return type_.replace("text", "uri")
        return (
            type_.removesuffix("text>") + "uri>"
            if type_.startswith("map<") and type_.endswith(" text>")
            else type_
        )

    # --- limits and values ------------------------------------------------------------------------------

    def limits(self, type_: str) -> Data:
        """Limits that leave a value."""
        if not self.maybe():
            return {}
        if type_ == "integer":
            return self._of_numbers(an_integer(self.chance), lambda: self.number(0, 9), {"one_of": True})
        if type_ == "real":
            return self._of_numbers(a_real(self.chance), lambda: self.number(0, 40) / 8, {})
        if type_ in IN_ORDER:
            return self._in_order(IN_ORDER[type_])
        if type_ == "text":
            return self._of_pattern() if self.maybe(4) else self._of_texts()
        if type_ == "uri":
            return {"max_length": 60} if self.maybe() else {}
        if is_collection(type_):
            fewest = self.number(0, 1 if type_.startswith(("set", "map")) else 3)
            found = {"min_length": fewest} if self.maybe() else {}
            return found | ({"max_length": fewest + self.number(0, 2)} if self.maybe() else {})
        return {}

    def _of_numbers(self, middle: float, step: Callable[[], float], more: Mapping[str, bool]) -> Data:
        if more.get("one_of") and self.maybe(4):
            words = {middle, *(an_integer(self.chance) for _ in range(self.number(0, 3)))}
            return {"one_of": sorted(words)}
        most = 2**53 - 1 if more else 1e306
        below, above = max(middle - step(), -most), min(middle + step(), most)
        found: Data = {}
        if self.maybe():
            found["min"] = below
        elif self.maybe() and below - 1 >= -most and below - 1 < middle:
            found["above"] = below - 1
        if self.maybe():
            found["max"] = above
        elif self.maybe() and above + 1 <= most and above + 1 > middle:
            found["below"] = above + 1
        return found

    def _in_order(self, drawn: Sequence[str]) -> Data:
        """Limits in which at least one of the dates, or of what else is drawn, lies."""
        low, high = sorted((self.one(drawn) for _ in range(2)), key=drawn.index)
        found: Data = {"min": low} if self.maybe() else {}
        return found | ({"max": high} if self.maybe() else {})

    def _drawn(self, drawn: Sequence[str], limits: Data) -> str:
        low, high = limits.get("min", drawn[0]), limits.get("max", drawn[-1])
        return self.one(drawn[drawn.index(low) : drawn.index(high) + 1])

    def _of_texts(self) -> Data:
        if self.maybe(4):
            words = (a_text(self.chance) for _ in range(self.number(1, 4)))
            return {"one_of": list(dict.fromkeys(words))}
        found: Data = {"not_blank": True} if self.maybe() else {}
        fewest = self.number(0, 3)
        if self.maybe(3):
            found["min_length"] = fewest
        if self.maybe(3):
            found["max_length"] = max(fewest, 1) + self.number(0, 40)
        return found

    def _of_pattern(self) -> Data:
        """A pattern, and perhaps other limits that leave one of its texts."""
        pattern = self.one(list(PATTERNS))
        text = self.one(PATTERNS[pattern])
        found: Data = {"pattern": pattern}
        found |= {"not_blank": True} if text.strip(BLANK) and self.maybe(3) else {}
        found |= {"min_length": self.number(0, len(text))} if self.maybe(3) else {}
        return found | ({"max_length": len(text) + self.number(0, 3)} if self.maybe(3) else {})

    def value(self, type_: str, limits: Data, each: Data) -> Any:
        """A value that satisfies the limits."""
        if type_ in self.choices:
            return self.one(self.choices[type_])
        if type_ == "boolean":
            return self.maybe()
        if type_ in IN_ORDER:
            return self._drawn(IN_ORDER[type_], limits)
        if type_ == "uuid":
            return self.one(UUIDS)
        if type_ in ("integer", "real"):
            return self._number(type_, limits)
        if type_ == "text":
            return self._text(limits)
        if type_ == "uri":
            return self.one(URIS)
        if is_collection(type_):
            return self._collection(type_, limits, each)
        product = self.product(type_)
        assert product is not None
        return self.made(product)

    def _number(self, type_: str, limits: Data) -> float:
        found: float
        if "one_of" in limits:
            found = self.one(limits["one_of"])
            return found
        whole = type_ == "integer"
        after, before = (
            (limits.get("above", 0) + 1, limits.get("below", 0) - 1)
            if whole
            else (nextafter(limits.get("above", 0), inf), nextafter(limits.get("below", 0), -inf))
        )
        low = limits.get("min", after if "above" in limits else None)
        high = limits.get("max", before if "below" in limits else None)
        if low is None and high is None:
            found = an_integer(self.chance) if whole else a_real(self.chance)
            return found
        edge = low if low is not None else high
        inner = [edge] if "above" not in limits and "below" not in limits else []
        middle = (low + high) / 2 if low is not None and high is not None and not whole else low
        found = self.one([n for n in (*inner, low, high, middle) if n is not None and within(n, limits)])
        return found

    def _text(self, limits: Data) -> str:
        if "one_of" in limits:
            return str(self.one(limits["one_of"]))
        if "pattern" in limits:
            blank = limits.get("not_blank", False)
            low, high = limits.get("min_length", 0), limits.get("max_length", inf)
            texts = [text for text in PATTERNS[limits["pattern"]] if low <= len(text) <= high]
            return self.one([text for text in texts if text.strip(BLANK) or not blank])
        found = a_text(self.chance)
        if "max_length" in limits:
            found = found[: limits["max_length"]]
        if limits.get("not_blank") and not found.strip(BLANK):
            found = "x"
        fewest: int = limits.get("min_length", 0)
        return found + "y" * (fewest - len(found))

    def _collection(self, type_: str, limits: Data, each: Data) -> Any:
        fewest = limits.get("min_length", 0)
        holds = self.product(innermost(type_))
        if holds is not None and holds.endless and fewest == 0:
            return {} if type_.startswith("map") else []  # or it would go on
        size = self.number(fewest, min(limits.get("max_length", fewest + 2), fewest + 2))
        kind, inner = type_.split("<", 1)
        inner = inner[:-1]
        if kind == "list":
            found = [self.value(inner, each, {}) for _ in range(size)]
            return list(dict.fromkeys(found)) if "unique" in limits else found
        if kind == "set":
            elements = {self.value(inner, each, {}) for _ in range(size)}
            return sorted(elements) if len(elements) >= fewest else sorted(elements)[:fewest]
        key, element = (part.strip() for part in inner.split(" to ", 1))
        keys = {self.value(key, {}, {}) for _ in range(size)}
        return {key: self.value(element, each, {}) for key in keys}

    def made(self, product: Product) -> Data:
        """A product, written down: what it needs, and something more at times."""
        variant = self.one(list(product.variants)) if product.variants else None
        fields = product.every_field(variant)
        given = {name: self.of_field(f) for name, f in fields.items() if f["needed"] or self._adds(f)}
        return {"use": variant, **given} if variant is not None else given

    def _adds(self, declared: Data) -> bool:
        """Whether an optional field is given; never one that could go on for ever."""
        holds = self.product(innermost(declared["type"]))
        return self.maybe(3) and not (holds is not None and holds.endless)

    def of_field(self, declared: Data) -> Any:
        """A value of a field."""
        return self.value(declared["type"], declared, declared.get("each", {}))

    def may_be_written(self, type_: str) -> bool:
        """Whether a value can be written down without asking what a factory by values says to it."""
        product = self.product(innermost(type_))
        return product is None or not (product.by_values or product.endless or self._needs_unwritten(product))

    def _needs_unwritten(self, product: Product) -> bool:
        fields = [f for variant in [None, *product.variants] for f in product.every_field(variant).values()]
        return any(not self.may_be_written(f["type"]) for f in fields if innermost(f["type"]) != product.name)
