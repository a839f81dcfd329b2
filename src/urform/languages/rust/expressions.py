"""Types and values in Rust."""

from __future__ import annotations

import datetime
from collections.abc import Callable, Iterator, Mapping
from functools import cached_property

from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
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
    Collection,
    ListOf,
    MapOf,
    MaybeOf,
    NothingType,
    ProductType,
    SetOf,
    Type,
    innermost,
)
from urform.declaration.values import Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.languages.naming.names import article, screaming, snake
from urform.languages.rendering.literals import Characters
from urform.languages.rendering.text_patterns import TextPatterns
from urform.languages.rust.names import Names
from urform.languages.rust.sizes import Sizes
from urform.plan.characters import is_plain
from urform.plan.model import Field, Limit, Product, Selection
from urform.plan.whole import Plan

SCALARS: dict[Type, str] = {
    TEXT: "String",
    INTEGER: "i64",
    REAL: "f64",
    BOOLEAN: "bool",
    DATE: "CalendarDate",
    TIME: "TimeOfDay",
    INSTANT: "Timestamp",
    DURATION: "TimeSpan",
    DECIMAL: "Decimal",
    UUID: "Uuid",
}
LONG_TEXT = 40
_ESCAPES = {"\n": "\\n", "\r": "\\r", "\t": "\\t", '"': '\\"', "\\": "\\\\", "\0": "\\0"}


def text_literal(text: str) -> str:
    """A string literal; what is not printable is escaped."""
    return f'"{text.translate(_CHARACTERS)}"'


_CHARACTERS = Characters(_ESCAPES, lambda char: char if is_plain(char) else f"\\u{{{ord(char):x}}}")


def told_literal(told: Told) -> str:
    """The call that makes a date, a UUID, or another value that is told by a text."""
    match told.kind:
        case "uuid":
            return f"Uuid::from_bits(0x{told.text.replace('-', '')})"
        case "instant":
            at = datetime.datetime.fromisoformat(told.text)
            parts = (at.year, at.month, at.day, at.hour, at.minute, at.second, at.microsecond)
            return f"Timestamp::utc({', '.join(map(str, parts))})"
        case "time":
            clock = datetime.time.fromisoformat(told.text)
            return f"TimeOfDay::at({clock.hour}, {clock.minute}, {clock.second}, {clock.microsecond})"
        case "duration":
            counts = dict(units(told.text))
            count = [str(counts.get(unit, 0)) for unit in ("hours", "minutes", "seconds", "microseconds")]
            return f"TimeSpan::of({', '.join(count)})"
        case "decimal":
            return f'Decimal::of("{told.text}")'
    return f"CalendarDate::at({', '.join(str(int(part)) for part in told.text.split('-'))})"


def told_bound(told: Told) -> str:
    """The bound of a limit as data: what is earlier or later is told in other words than what is more or less."""
    text = text_literal(told.text)
    return text if KINDS[told.kind].in_time else f"Bound::Measure({text})"


def is_copied(type_: Type) -> bool:
    """Whether values of a type are copied by an assignment (`Copy`)."""
    return type_ in (INTEGER, REAL, BOOLEAN, *TOLD) or isinstance(type_, ChoiceType)


class Expressions:
    """Rust code for types and values of one plan, as its own crate writes them."""

    def __init__(self, plan: Plan, names: Names) -> None:
        self.plan = plan
        self.names = names
        self.patterns = TextPatterns(plan, screaming)

    def pattern(self, limit: Limit) -> str:
        """The pattern of a limit on the form of texts."""
        return f"text_patterns::{self.patterns.of(limit)}"

    # --- how products are held --------------------------------------------------------------------------

    def is_open(self, product: Product) -> bool:
        """Whether a product is a trait, which others may implement; a closed one is an enum."""
        return product.is_open

    def shared(self, field: Field) -> bool:
        """Whether what a field holds belongs to others too. What has no fields has no identity to share."""
        inner = self.plan.product_in(field.type)
        return inner is not None and field.copy in ("shared", "shallow") and not inner.single

    def boxed(self, field: Field) -> bool:
        """Whether a field leads back to its own product, whose size would be endless; or is large, and may be absent."""
        return (field.owner, field.name) in self._endless or self.sizes.is_large(field)

    @cached_property
    def sizes(self) -> Sizes:
        """About how large products are."""
        return Sizes(
            self.plan, lambda f: self._by_value(f) and (f.owner, f.name) not in self._endless, is_copied
        )

    @cached_property
    def _endless(self) -> frozenset[tuple[str, str]]:
        """Optional fields on a way back, and where none is on it, required ones."""
        fields = [f for p in self.plan.products.values() for f in p.own_fields if self._by_value(f)]
        every, needed = self._ways(lambda field: True), self._ways(lambda field: field.required)
        return frozenset(
            (f.owner, f.name)
            for f in fields
            if self._leads(needed if f.required else every, str(f.type), f.owner)
        )

    def _ways(self, on_the_way: Callable[[Field], bool]) -> Mapping[str, set[str]]:
        """The types that values of each product may contain as values."""
        ways: dict[str, set[str]] = {}
        for product in self.plan.products.values():
            inner = ways.setdefault(product.name, set(product.variants))
            inner |= {str(f.type) for f in product.fields if self._by_value(f) and on_the_way(f)}
        return ways

    def _by_value(self, field: Field) -> bool:
        inner = self.plan.products.get(str(field.type))
        return inner is not None and not self.shared(field) and not self.is_open(inner)

    def _leads(self, ways: Mapping[str, set[str]], start: str, end: str) -> bool:
        """Whether a value of one product may hold one of another, without a pointer in between."""
        ends = {end, *self.plan.products[end].variants, self.plan.products[end].base}
        seen, waiting = {start}, [start]
        while waiting:
            name = waiting.pop()
            if name in ends:
                return True
            more = ways.get(name, set()) - seen
            seen |= more
            waiting += more
        return False

    # --- types ------------------------------------------------------------------------------------------

    def type(self, type_: Type, *, shared: bool = False) -> str:
        """A type whose values are owned."""
        match type_:
            case ChoiceType(name):
                return self.names.type(name)
            case ProductType(name):
                return self._product(name, shared)
            case ListOf(element):
                return f"Vec<{self.type(element, shared=shared)}>"
            case SetOf(element):
                return f"BTreeSet<{self.type(element)}>"
            case MapOf(key, element):
                return f"BTreeMap<{self.type(key)}, {self.type(element, shared=shared)}>"
            case MaybeOf(element):
                return f"Option<{self.type(element)}>"
            case NothingType():
                return "()"
        return SCALARS[type_]

    def _product(self, name: str, shared: bool) -> str:
        is_open = self.is_open(self.plan.product(name))
        plain = f"dyn {self.names.type(name)}" if is_open else self.names.type(name)
        return f"Arc<{plain}>" if shared else f"Box<{plain}>" if is_open else plain

    def owned(self, field: Field) -> str:
        """The type of what a field holds, when it is there."""
        return self.type(field.type, shared=self.shared(field))

    def stored(self, field: Field) -> str:
        """The type of a field of a product's struct."""
        inner = f"Box<{self.owned(field)}>" if self.boxed(field) else self.owned(field)
        return f"Option<{inner}>" if field.may_be_absent else inner

    def parameter(self, type_: Type, *, shared: bool = False) -> str:
        """The type by which a value is handed in: texts are borrowed."""
        return "&str" if type_ == TEXT else self.type(type_, shared=shared)

    def borrowed(self, type_: Type, *, shared: bool = False) -> str:
        """The type by which a value is looked at."""
        if is_copied(type_):
            return self.type(type_)
        match type_:
            case ListOf(element):
                return f"&[{self.type(element, shared=shared)}]"
            case ProductType(name) if self.is_open(self.plan.product(name)) and not shared:
                return f"&dyn {self.names.type(name)}"
        return "&str" if type_ == TEXT else f"&{self.type(type_, shared=shared)}"

    # --- values -----------------------------------------------------------------------------------------

    def value(self, value: Value, type_: Type, *, shared: bool = False, typed: bool = False) -> str:
        """The expression that makes a declared value, owned; `typed` where nothing else tells an open type."""
        match value:
            case Text(text):
                if len(text) > LONG_TEXT and len(set(text)) == 1:
                    return f"{text_literal(text[0])}.repeat({len(text)})"
                return f"{text_literal(text)}.to_owned()" if text else "String::new()"
            case Integer(number):
                return str(number)
            case Real(number):
                return repr(number + 0.0)  # never the negative zero
            case Boolean(flag):
                return "true" if flag else "false"
            case Told():
                return told_literal(value)
            case Word(choice, word):
                return f"{self.names.type(choice)}::{self.names.word(word)}"
            case Items(_, items):
                assert isinstance(type_, (ListOf, SetOf))
                return self.listed(
                    type_, [self.value(item, type_.element, shared=shared, typed=typed) for item in items]
                )
            case Entries(_, entries):
                assert isinstance(type_, MapOf)
                return self.mapped(
                    [
                        (
                            self.value(key, type_.key),
                            self.value(item, type_.element, shared=shared, typed=True),
                        )
                        for key, item in entries
                    ]
                )
            case Made(product, fields):
                return self.within(*self.construction(product, fields), type_, shared=shared, typed=typed)
        raise TypeError(f"no value: {value}")

    def listed(self, type_: Type, items: list[str]) -> str:
        """A list or a set of elements."""
        if isinstance(type_, SetOf):
            return f"BTreeSet::from([{', '.join(dict.fromkeys(items))}])" if items else "BTreeSet::new()"
        if len(items) > 8 and len(set(items)) == 1:
            return f"vec![{items[0]}; {len(items)}]"
        return f"vec![{', '.join(items)}]" if items else "Vec::new()"

    def mapped(self, entries: list[tuple[str, str]]) -> str:
        """A map of entries."""
        pairs = ", ".join(f"({key}, {item})" for key, item in entries)
        return f"BTreeMap::from([{pairs}])" if entries else "BTreeMap::new()"

    def within(self, product: str, text: str, type_: Type, *, shared: bool, typed: bool = False) -> str:
        """An owned concrete product as a value of a type: itself, one of an enum, or behind a pointer."""
        name = str(innermost(type_))
        declared = self.plan.product(name)
        if self.is_open(declared):
            pointer = "Arc" if shared else "Box"
            cast = f" as {pointer}<dyn {self.names.type(name)}>" if typed else ""
            return f"{pointer}::new({text}){cast}"
        if name != product:
            text = f"{self.names.type(name)}::{self.names.type(product)}({text})"
        return f"Arc::new({text})" if shared else text

    def construction(self, product: str, given: Mapping[str, Value]) -> tuple[str, str]:
        """A declared product: the concrete one that it is, and the expression that makes it.

        The crate writes a struct, for declared values have passed their limits.
        """
        selection = self.plan.selection_of(product)
        declared = self.plan.product(selection.chosen(given) if selection is not None else product)
        return declared.name, self.struct(declared, given)

    def struct(self, product: Product, given: Mapping[str, Value]) -> str:
        """A struct literal."""
        if not product.fields:
            return f"{self.names.type(product.name)}::new()"
        inherited: list[str] = []
        own: list[str] = []
        for field in product.fields:
            pair = f"{self.names.stored(field.name)}: {self.initial(field, given.get(field.name, field.default))}"
            (own if field.owner == product.name else inherited).append(pair)
        if inherited:
            base = self.names.derived(product.base or "", "Fields")
            own.insert(0, f"fields: {base} {{ {', '.join(inherited)} }}")
        return f"{self.names.type(product.name)} {{ {', '.join(own)} }}"

    def initial(self, field: Field, value: Value | None) -> str:
        """The value that a stored field begins with: a declared one, or nothing."""
        if value is None:
            return "None" if field.may_be_absent else empty(field.type)
        text = self.value(value, field.type, shared=self.shared(field))
        text = f"Box::new({text})" if self.boxed(field) else text
        return f"Some({text})" if field.may_be_absent else text

    # --- what can fail ----------------------------------------------------------------------------------

    def field_fails(self, field: Field) -> bool:
        """Whether a value for a field can be refused. That a choice is one of its words, the compiler sees to."""
        return any(limit.name not in ("choice", *map(str, TOLD)) for limit in (*field.limits, *field.each))

    def fallible(self, product: Product) -> bool:
        """Whether making a concrete product can fail."""
        return any(self.field_fails(field) for field in product.fields)

    def selection_fails(self, selection: Selection) -> bool:
        """Whether a factory by values can give no product."""
        variants = [self.plan.products[choice.variant] for choice in selection.deciding.choices]
        return bool(selection.deciding.refusals) or any(map(self.fallible, variants))

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

    def copied(self, type_: Type, stored: str) -> str:
        """A copy of what is held."""
        return stored if is_copied(type_) else f"{stored}.clone()"

    def plain_option(self, product: Product, field: Field) -> bool:
        """Whether an option holds a value of its own; else `None` says that it was not given."""
        return not (product.abstract or field.may_be_absent or self.hidden(product))

    def option_type(self, product: Product, field: Field) -> str:
        """The type of a field of an options struct."""
        return self.owned(field) if self.plain_option(product, field) else f"Option<{self.owned(field)}>"

    def options(self, product: Product) -> str:
        """The name of a product's options struct."""
        return self.names.derived(product.name, "Options")


def empty(type_: Type) -> str:
    """A collection without elements."""
    return {ListOf: "Vec::new()", SetOf: "BTreeSet::new()", MapOf: "BTreeMap::new()"}[type(type_)]


def is_type_default(value: Value | None, type_: Type) -> bool:
    """Whether a default is what Rust itself would begin with."""
    match value:
        case None:
            return True
        case Text(text):
            return text == ""
        case Integer(number):
            return number == 0
        case Real(number):
            return number == 0
        case Boolean(flag):
            return not flag
        case Items(_, items):
            return not items
        case Entries(_, entries):
            return not entries
    return False


def witness_name(product: str, second: bool) -> str:
    """`a_buoy`, `another_buoy`: the helper of tests that makes a witness."""
    name = snake(product)
    return f"another_{name}" if second else f"{article(product).split()[0]}_{name}"


def levels(type_: Type) -> Iterator[Type]:
    """A type, and what lies within it."""
    yield type_
    while isinstance(type_, Collection):
        type_ = type_.element
        yield type_


def client_name(family: str) -> str:
    """The helper of tests that knows an abstract factory alone."""
    return f"{snake(family)}_client"


def is_copied_key(type_: Type) -> bool:
    """Whether the keys of a map are copied by an assignment."""
    return isinstance(type_, MapOf) and is_copied(type_.key)
