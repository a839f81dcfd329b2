"""C++ files: what code includes, and the namespace around it."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import pairwise

from urform.dataclasses import dataclass
from urform.declaration.types import DECIMAL, DURATION, INSTANT, TIME, UUID, Type
from urform.languages.cpp.context import Context, export_macro
from urform.languages.cpp.families import member_type
from urform.languages.cpp.records import TYPES as RECORD_TYPES
from urform.languages.cpp.views import NOT_CODE, TESTING, laid_out
from urform.languages.naming.modules import modules
from urform.languages.naming.names import snake
from urform.plan.model import Product
from urform.plan.told_types import told_types
from urform.plan.whole import Plan

STANDARD = {
    "std::string_view": "string_view",
    "std::string": "string",
    "std::vector": "vector",
    "std::map": "map",
    "std::set": "set",
    "std::optional": "optional",
    "std::span": "span",
    "std::size_t": "cstddef",
    "std::ptrdiff_t": "cstddef",
    "std::nullopt": "optional",
    "std::unique_ptr": "memory",
    "std::array": "array",
    "std::initializer_list": "initializer_list",
    "std::pair": "utility",
    "std::make_unique": "memory",
    "std::shared_ptr": "memory",
    "std::int64_t": "cstdint",
    "std::uint8_t": "cstdint",
    "std::uint16_t": "cstdint",
    "std::ostream": "ostream",
    "std::forward": "utility",
    "std::move": "utility",
    "std::ranges": "algorithm",
    "std::isfinite": "cmath",
    "std::signbit": "cmath",
    "std::numeric_limits": "limits",
    "typeid": "typeinfo",
    "std::function": "functional",
    "std::hash": "functional",
    "std::less": "functional",
    "std::mutex": "mutex",
    "std::lock_guard": "mutex",
    "std::tuple": "tuple",
    "std::atomic": "atomic",
    "std::chrono": "chrono",
    "std::make_shared": "memory",
    "std::thread": "thread",
    "std::jthread": "thread",
    "std::latch": "latch",
    "std::weak_ptr": "memory",
    "std::runtime_error": "stdexcept",
    "std::cout": "iostream",
}
HELD = ("Owned", "Shared")  # what holds a product, declared beside the products
# A name with all that qualifies it, whether it begins at the root, and whether arguments of a template follow.
_QUALIFIED = re.compile(r"(?<!\w)(::)?([A-Za-z_]\w*(?:::\w+)*)(<?)")
_WORD = re.compile(r"(?<![\w:])([A-Z]\w*)\b")
# The headers of types that are told by texts, with the type in it and its functions in `detail`.
TOLD_HEADERS: Mapping[Type, tuple[str, tuple[str, ...]]] = {
    TIME: ("TimeOfDay", ("time_text",)),
    INSTANT: ("Instant", ("is_instant", "instant_text", "instant_of")),
    DURATION: ("Duration", ("is_duration", "duration_text", "duration_of")),
    DECIMAL: ("Decimal", ("decimal_text",)),
    UUID: ("Uuid", ()),
}
_OF_TOLD = {function: str(type_) for type_, (_, functions) in TOLD_HEADERS.items() for function in functions}
# The headers of what else support code declares in its namespace, by how the names begin; all others are values.
_DETAILS = {
    "matches_": "text_patterns",
    "Pool": "pools",
    "LoadedMaker": "loading",
}


class Sources:
    """Makes files of code, knowing in which header each type is declared."""

    def __init__(self, context: Context) -> None:
        self.context = context
        self._modules = {p.name: module for module in modules(context.plan) for p in module.products}
        self._homes = dict(self._exported())
        self._export = export_macro(context.namespace)

    def module_of(self, product: Product) -> str:
        """The header and source in which a product stands."""
        return self.context.names.file(self._modules[product.name].name)

    def whole(self, code: str, name: str, *, first: str, beside: str = "", after: str = "") -> str:
        """A file: what it includes, the code in its namespace, and what stands after that."""
        code = laid_out(code)
        includes = self.includes(f"{code}{after}", name, self.includes_of(beside, name) if beside else set())
        opened = (
            f"namespace {self.context.namespace} {{\n\n{code}\n}} // namespace {self.context.namespace}\n"
        )
        return f"{self.context.header}{first}{includes}{opened}{after}"

    def includes_of(self, code: str, own: str = "") -> set[str]:
        """The headers that code needs."""
        names = names_in(code)
        headers = {f"<{STANDARD[name]}>" for name in names.words if name in STANDARD}
        homes = {self._homes[word] for word in names.words if word in self._homes}
        if self._export in names.words:
            homes.add("export")
        homes |= names.support
        return headers | {f'"{self.context.folder}/{home}.hpp"' for home in homes if home != own}

    def includes(self, code: str, own: str = "", known: Iterable[str] = ()) -> str:
        """The include lines of code, less those that are known."""
        needed = sorted(self.includes_of(code, own) - set(known))
        blocks = [[each for each in needed if each[0] == '"'], [each for each in needed if each[0] == "<"]]
        return "".join("".join(f"#include {each}\n" for each in block) + "\n" for block in blocks if block)

    def full(self, type_: str) -> str:
        """A type for a file outside the namespace."""
        return _WORD.sub(
            lambda match: (
                f"{self.context.namespace}::{match[1]}"
                if match[1] in self._homes or match[1] in HELD
                else match[1]
            ),
            type_,
        )

    def _exported(self) -> Iterator[tuple[str, str]]:
        """Types, and the files in which they are declared."""
        for choice in self.context.plan.choices:
            yield self.context.names.type(choice), self.context.names.file(choice)
        for product in self.context.plan.products.values():
            home = self.module_of(product)
            yield from (
                (self.context.names.type(product.name), home),
                (self.context.code.options(product), home),
            )
            if product.abstract:
                yield self.context.names.derived(product.name, "Creator"), home
            for ending in ("Registry", "Builder", "Exemplars", "Pool"):
                yield (
                    self.context.names.derived(product.name, ending),
                    f"{snake(product.name)}_{ending.lower()}",
                )
            builder = self.context.plan.builder_of(product.name)
            if builder is not None and builder.typed:
                yield self.context.names.derived(product.name, "Parts"), f"{snake(product.name)}_builder"
        told = told_types(self.context.plan)
        yield from ((name, str(type_)) for type_, (name, _) in TOLD_HEADERS.items() if type_ in told)
        if self.context.plan.records is not None:
            yield from ((type_, "reading") for type_ in RECORD_TYPES)
        for family in self.context.plan.families:
            home = self.context.names.file(family.name)
            yield self.context.names.type(family.name), home
            yield from ((member_type(self.context, family, m.name), home) for m in family.members)
            if family.stand_in is not None:
                place = stand_in_file(family.name)
                yield member_type(self.context, family, "StandIn"), place
                yield from (
                    (p.name, place) for p in family.stand_ins if is_first(self.context.plan, p, family.name)
                )


@dataclass(frozen=True, slots=True)
class Names:
    """What code names: words by which it begins, two of the standard library, and headers of support code."""

    words: frozenset[str]
    support: frozenset[str]


@lru_cache(maxsize=256)  # a header is asked for its own includes, and for what its source need not include
def names_in(code: str) -> Names:
    """What code names, whatever its comments and texts say."""
    words: set[str] = set()
    support: set[str] = set()
    for root, qualified, argument in set(_QUALIFIED.findall(NOT_CODE.sub('""', code))):
        parts = qualified.split("::")
        if not root:
            words.add("::".join(parts[:2]) if parts[0] == "std" else parts[0])
        support.update(_support(parts, argument))
    return Names(frozenset(words), frozenset(support))


def _support(parts: Sequence[str], argument: str) -> Iterator[str]:
    """The headers of support code that declare what a qualified name is made of."""
    if any(part == "Bound" or (part.endswith("Error") and part != "Error") for part in parts):
        yield "errors"
    if argument and parts[-1] in HELD:
        yield "values"
    for outer, part in pairwise(parts):
        if outer == "records":
            yield "records"
        elif outer == "detail" and part in _OF_TOLD:
            yield _OF_TOLD[part]
        elif outer == "detail" and part == "refuse":
            yield "errors"
        elif outer == "detail":
            if part.startswith("At"):
                yield "reading"
            yield next((home for begin, home in _DETAILS.items() if part.startswith(begin)), "values")


def stand_in_file(family: str) -> str:
    """The file of a family's stand-in, apart from production code."""
    return f"{TESTING}/{snake(family)}_stand_in"


def is_first(plan: Plan, product: Product, family: str) -> bool:
    """Whether no earlier family has the same stand-in."""
    return next(f.name for f in plan.families if product in f.stand_ins) == family
