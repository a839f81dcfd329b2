"""Types and values in C++."""

from __future__ import annotations

import datetime
from collections.abc import Mapping
from functools import cached_property

from urform.declaration.told import Told
from urform.declaration.told_kinds.durations import units
from urform.declaration.types import (
    BOOLEAN,
    DATE,
    DECIMAL,
    DURATION,
    INSTANT,
    INTEGER,
    REAL,
    TEXT,
    TIME,
    TOLD,
    UUID,
    ChoiceType,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
    innermost,
)
from urform.declaration.values import Boolean, Entries, Integer, Items, Made, Real, Text, Word
from urform.languages.cpp.names import Names
from urform.languages.naming.names import article, snake
from urform.languages.rendering.literals import Characters
from urform.languages.rendering.text_patterns import TextPatterns
from urform.plan.characters import is_plain
from urform.plan.model import Field, Limit, Product, Selection
from urform.plan.operands import Keyed, Operand, Several, Strange, Untold, Var, Witness
from urform.plan.whole import Plan

SCALARS: dict[Type, str] = {
    TEXT: "std::string",
    INTEGER: "std::int64_t",
    REAL: "double",
    BOOLEAN: "bool",
    DATE: "std::chrono::year_month_day",
    TIME: "TimeOfDay",
    INSTANT: "Instant",
    DURATION: "Duration",
    DECIMAL: "Decimal",
    UUID: "Uuid",
}
TEXTS: dict[Type, str] = {
    DATE: "detail::date_text",
    TIME: "detail::time_text",
    INSTANT: "detail::instant_text",
    DURATION: "detail::duration_text",
    DECIMAL: "detail::decimal_text",
}
LIMITS = "std::numeric_limits<double>::"
STRANGE = {
    "nan": f"{LIMITS}quiet_NaN()",
    "infinity": f"{LIMITS}infinity()",
    "-infinity": f"-{LIMITS}infinity()",
}
LONG_TEXT = 40
# What is none, which its type holds, and how that is shown.
UNTOLD = {
    "date": ("std::chrono::year(2026) / 2 / 30", "2026-02-30"),
    "instant": (
        "Instant(std::chrono::sys_days(std::chrono::year(12000) / 1 / 1))",
        "12000-01-01T00:00:00Z",
    ),
    "duration": ("Duration(std::chrono::days(100001))", "PT2400024H"),
}
_ESCAPES = {"\n": "\\n", "\r": "\\r", "\t": "\\t", '"': '\\"', "\\": "\\\\"}


def text_literal(text: str) -> str:
    """A string literal; what is not printable is written byte by byte, and no two question marks meet."""
    return '"' + text.translate(_CHARACTERS).replace("??", "?\\?") + '"'


def _character(char: str) -> str:
    return char if is_plain(char) else "".join(f"\\{byte:03o}" for byte in char.encode())


_CHARACTERS = Characters(_ESCAPES, _character)


def told_literal(told: Told) -> str:
    """The expression that makes a date, a UUID, or another value that is told by a text."""
    match told.kind:
        case "uuid":
            return f'Uuid::parse("{told.text}").value()'
        case "instant":
            return _instant(datetime.datetime.fromisoformat(told.text))
        case "time":
            clock = datetime.time.fromisoformat(told.text)
            return f"TimeOfDay::at({clock.hour}, {clock.minute}, {clock.second}, {clock.microsecond})"
        case "duration":
            parts = (f"std::chrono::{unit}({count})" for unit, count in units(told.text))
            return f"Duration({' + '.join(parts)})"
        case "decimal":
            return f'Decimal::of("{told.text}")'
    year, month, day = (int(part) for part in told.text.split("-"))
    return f"std::chrono::year({year}) / {month} / {day}"


def _instant(at: datetime.datetime) -> str:
    """A day, and the parts of the time that are not zero."""
    day = f"std::chrono::sys_days(std::chrono::year({at.year}) / {at.month} / {at.day})"
    clock = {"hours": at.hour, "minutes": at.minute, "seconds": at.second, "microseconds": at.microsecond}
    parts = [f"std::chrono::{name}({number})" for name, number in clock.items() if number]
    return f"Instant({' + '.join([day, *parts])})"


def is_copied(type_: Type) -> bool:
    """Whether values of a type are handed around as they are: numbers, truth values, words."""
    return type_ in (INTEGER, REAL, BOOLEAN, *TOLD) or isinstance(type_, ChoiceType)


class Expressions:
    """C++ code for types and values of one plan. The library and its tests make products alike: by public constructors."""

    repeated = "detail::repeated"  # the function that gives a text so many times

    def __init__(self, plan: Plan, names: Names) -> None:
        self.plan = plan
        self.names = names
        self.patterns = TextPatterns(plan, lambda name: f"matches_{name}")

    def pattern(self, limit: Limit) -> str:
        """The function that tells the form of texts that a limit asks for."""
        return f"detail::{self.patterns.of(limit)}"

    # --- how products are held --------------------------------------------------------------------------

    def shared(self, field: Field) -> bool:
        """Whether what a field holds belongs to others too. What has no fields has no identity to share."""
        inner = self.plan.product_in(field.type)
        return inner is not None and field.copy in ("shared", "shallow") and not inner.single

    def boxed(self, field: Field) -> bool:
        """Whether an optional field leads back to its own product, whose size would be endless."""
        return (field.owner, field.name) in self._boxed

    def owns(self, field: Field) -> bool:
        """Whether a field holds products behind `Owned`, which may have been moved from."""
        inner = self.plan.product_in(field.type)
        if inner is None or (self.shared(field) and not self.boxed(field)):
            return False
        return inner.abstract or self.boxed(field)

    @cached_property
    def _boxed(self) -> frozenset[tuple[str, str]]:
        ways: dict[str, set[str]] = {}
        for product in self.plan.products.values():
            ways.setdefault(product.name, set()).update(
                str(f.type) for f in product.fields if self.by_value(f)
            )
        fields = (f for p in self.plan.products.values() for f in p.own_fields if not f.required)
        return frozenset(
            (f.owner, f.name) for f in fields if self.by_value(f) and _leads(ways, str(f.type), f.owner)
        )

    def by_value(self, field: Field) -> bool:
        """Whether a field holds a product as a value, whose definition has to come first."""
        inner = self.plan.products.get(str(field.type))
        return inner is not None and not self.shared(field) and not inner.abstract

    # --- types ------------------------------------------------------------------------------------------

    def type(self, type_: Type, *, shared: bool = False) -> str:
        """A type whose values are owned."""
        match type_:
            case ChoiceType(name):
                return self.names.type(name)
            case ProductType(name):
                plain = self.names.type(name)
                if shared:
                    return f"Shared<{plain}>"
                return f"Owned<{plain}>" if self.plan.product(name).abstract else plain
            case ListOf(element):
                return f"std::vector<{self.type(element, shared=shared)}>"
            case SetOf(element):
                return f"std::set<{self.type(element)}>"
            case MapOf(key, element):
                return f"std::map<{self.type(key)}, {self.type(element, shared=shared)}>"
        return SCALARS[type_]

    def owned(self, field: Field) -> str:
        """The type of what a field holds, when it is there."""
        return self.type(field.type, shared=self.shared(field))

    def stored(self, field: Field) -> str:
        """The type of a data member."""
        inner = f"Owned<{self.owned(field)}>" if self.boxed(field) else self.owned(field)
        return f"std::optional<{inner}>" if field.may_be_absent else inner

    def borrowed(self, type_: Type) -> str:
        """The type by which an operation takes a value."""
        if is_copied(type_):
            return self.type(type_)
        if isinstance(type_, ProductType):
            return f"const {self.names.type(type_.name)} &"
        return f"const {self.type(type_)} &"

    def owned_type(self, product: Product) -> str:
        """The type that a factory returns: a product, or a pointer to one of which only the base is known."""
        type_ = self.names.type(product.name)
        return f"std::unique_ptr<{type_}>" if product.abstract else type_

    # --- values -----------------------------------------------------------------------------------------

    def value(self, operand: Operand, type_: Type, *, shared: bool = False) -> str:
        """An operand as an owned value of a type."""
        match operand:
            case Var(name):
                return name
            case Witness(product, second):
                return f"{witness_name(product, second)}()"
            case Strange(number):
                return STRANGE[number]
            case Text(text):
                return self.text(text)
            case Integer(number):
                return str(number)
            case Real(number):
                return repr(number)
            case Boolean(flag):
                return "true" if flag else "false"
            case Told():
                return told_literal(operand)
            case Untold(kind):
                return UNTOLD[kind][0]
            case Word(choice, word):
                return f"{self.names.type(choice)}::{self.names.word(word)}"
            case Several(_, items) | Items(_, items):
                assert isinstance(type_, (ListOf, SetOf))
                elements = [self.value(item, type_.element, shared=shared) for item in items]
                return self._listed(type_, elements, shared)
            case Keyed(_, entries) | Entries(_, entries):
                assert isinstance(type_, MapOf)
                pairs = (
                    f"{{{self.value(key, type_.key)}, {self.value(item, type_.element, shared=shared)}}}"
                    for key, item in entries
                )
                return f"{self.type(type_, shared=shared)}{{{', '.join(pairs)}}}"
            case Made(product, fields):
                return self.product(product, fields)
        raise TypeError(f"C++ cannot express {operand}")

    def text(self, text: str) -> str:
        """A text, of whatever length and characters."""
        if len(text) > LONG_TEXT and len(set(text)) == 1:
            return f"{self.repeated}({text_literal(text[0])}, {len(text)})"
        if "\0" in text:
            return f"std::string({text_literal(text)}, {len(text.encode())})"
        return text_literal(text)

    def _listed(self, type_: ListOf | SetOf, items: list[str], shared: bool) -> str:
        typed = self.type(type_, shared=shared)
        if len(items) > 8 and len(set(items)) == 1 and isinstance(type_, ListOf):
            return f"{typed}({len(items)}, {items[0]})"
        return f"{typed}{{{', '.join(items)}}}"

    def product(self, product: str, given: Mapping[str, Operand]) -> str:
        """A declared product, made by a public entry."""
        selection = self.plan.selection_of(product)
        if selection is not None:
            return f"{self.names.type(product)}::make({self.selected(selection, given)})"
        declared = self.plan.product(product)
        return f"{self.names.type(product)}({self.arguments(declared, given)})"

    def arguments(self, product: Product, given: Mapping[str, Operand]) -> str:
        """The arguments of a constructor: required fields, then options."""
        parts = [self.value(given[f.name], f.type, shared=self.shared(f)) for f in product.required]
        pairs = [self.pair(f, given[f.name]) for f in product.optional if f.name in given]
        if pairs:
            parts.append(f"{{{', '.join(pairs)}}}")
        if len(parts) == 1 and not pairs and self._would_be_copied(product, given):
            (field,) = product.required
            return f"{self.owned(field)}({parts[0]})"
        return ", ".join(parts)

    def _would_be_copied(self, product: Product, given: Mapping[str, Operand]) -> bool:
        """Whether the one argument is such a product itself, of which a constructor would make a copy."""
        (field,) = product.required
        operand = given[field.name]
        wraps = isinstance(field.type, ProductType) and self.plan.product(field.type.name).abstract
        return wraps and isinstance(operand, (Witness, Made)) and operand.product == product.name

    def pair(self, field: Field, operand: Operand) -> str:
        """A member of an options struct with its value."""
        return (
            f".{self.names.option(field.name)} = {self.value(operand, field.type, shared=self.shared(field))}"
        )

    def selected(self, selection: Selection, given: Mapping[str, Operand]) -> str:
        """The arguments of a factory by values."""
        parts = [self.value(given[f.name], f.type, shared=self.shared(f)) for f in selection.required]
        pairs = [self.pair(f, given[f.name]) for f in selection.optional if f.name in given]
        if pairs:
            parts.append(f"{{{', '.join(pairs)}}}")
        return ", ".join(parts)

    # --- what can fail ----------------------------------------------------------------------------------

    def field_fails(self, field: Field) -> bool:
        """Whether a value for a field can be refused. That a choice is one of its words, the compiler sees to."""
        return any(limit.name not in ("choice", "uuid") for limit in (*field.limits, *field.each))

    # --- options ----------------------------------------------------------------------------------------

    def hidden(self, product: Product) -> bool:
        """Whether a factory by values alone makes a product, or its variants."""
        selected = self.plan.selected_by(product) or self.plan.selection_of(product.name)
        return selected is not None

    def option(self, product: Product, field: Field) -> str:
        """Where a constructor finds an optional field: among the options, or, hidden, as a parameter."""
        if self.hidden(product):
            return self.names.local(field.name)
        return f"options.{self.names.option(field.name)}"

    def plain_option(self, product: Product, field: Field) -> bool:
        """Whether an option holds a value of its own; else it is empty when it was not given."""
        return not (product.abstract or field.may_be_absent or self.hidden(product))

    def option_type(self, product: Product, field: Field) -> str:
        """The type of a member of an options struct."""
        if self.plain_option(product, field):
            return self.owned(field)
        inner = f"Owned<{self.owned(field)}>" if self.boxed(field) else self.owned(field)
        return f"std::optional<{inner}>"

    def options(self, product: Product) -> str:
        """The name of a product's options struct."""
        return self.names.derived(product.name, "Options")


def _leads(ways: Mapping[str, set[str]], start: str, end: str) -> bool:
    """Whether a value of one product may hold one of another, without a pointer in between."""
    seen, waiting = {start}, [start]
    while waiting:
        name = waiting.pop()
        if name == end:
            return True
        more = ways.get(name, set()) - seen
        seen |= more
        waiting += more
    return False


def witness_name(product: str, second: bool) -> str:
    """`a_buoy`, `another_buoy`: the helper of tests that makes a witness."""
    name = snake(product)
    return f"another_{name}" if second else f"{article(product).split()[0]}_{name}"


def has_product(type_: Type) -> bool:
    """Whether there is a product at the innermost level of a type."""
    return isinstance(innermost(type_), ProductType)


def client_name(family: str) -> str:
    """The helper of tests that knows an abstract factory alone."""
    return f"{snake(family)}_client"


def moved(field: Field, value: str) -> str:
    """A value that is passed on for good."""
    return value if is_copied(field.type) else f"std::move({value})"
