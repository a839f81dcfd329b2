"""C++ files: what code includes, and the namespace around it."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping

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
_STANDARD = re.compile(r"(?<![\w:])(?:std::\w+|typeid)\b")
_WORD = re.compile(r"(?<![\w:])([A-Z]\w*)\b")
# The headers of types that are told by texts, with the type in it and its functions in `detail`.
TOLD_HEADERS: Mapping[Type, tuple[str, str]] = {
    TIME: ("TimeOfDay", "time_text"),
    INSTANT: ("Instant", "is_instant|instant_text|instant_of"),
    DURATION: ("Duration", "is_duration|duration_text|duration_of"),
    DECIMAL: ("Decimal", "decimal_text"),
    UUID: ("Uuid", ""),
}
_TOLD = {
    str(type_): re.compile(rf"\bdetail::(?:{functions})\b")
    for type_, (_, functions) in TOLD_HEADERS.items()
    if functions
}
_OF_TOLD = "|".join(functions for _, functions in TOLD_HEADERS.values() if functions)
_VALUES = re.compile(
    rf"\bdetail::(?!Pool|LoadedMaker|matches_|refuse\b|(?:{_OF_TOLD})\b)|\b(?:Owned|Shared)<"
)
_ERRORS = re.compile(r"\b(?:Bound|\w+Error|detail::refuse)\b")


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
        bare = NOT_CODE.sub('""', code)
        headers = {f"<{STANDARD[name]}>" for name in set(_STANDARD.findall(bare)) if name in STANDARD}
        homes = {self._homes[word] for word in set(_WORD.findall(bare)) if word in self._homes}
        if self._export in bare:
            homes.add("export")
        if _ERRORS.search(bare):
            homes.add("errors")
        if "detail::matches_" in bare:
            homes.add("text_patterns")
        if _VALUES.search(bare):
            homes.add("values")
        homes |= {header for header, functions in _TOLD.items() if functions.search(bare)}
        if "detail::LoadedMaker<" in bare:
            homes.add("loading")
        if "detail::Pool<" in bare:
            homes.add("pools")
        if "detail::At" in bare:
            homes.add("reading")
        if re.search(r"\brecords::\w", bare):
            homes.add("records")
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


def stand_in_file(family: str) -> str:
    """The file of a family's stand-in, apart from production code."""
    return f"{TESTING}/{snake(family)}_stand_in"


def is_first(plan: Plan, product: Product, family: str) -> bool:
    """Whether no earlier family has the same stand-in."""
    return next(f.name for f in plan.families if product in f.stand_ins) == family
