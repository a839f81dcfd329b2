"""Types, literals, checks and comparisons in Go."""

from __future__ import annotations

import datetime
import math
from collections.abc import Iterator, Mapping

from urform.dataclasses import dataclass
from urform.declaration.told import Told
from urform.declaration.told_kinds.durations import units
from urform.declaration.types import (
    BOOLEAN,
    DATE,
    DECIMAL,
    DURATION,
    INSTANT,
    INTEGER,
    NOTHING,
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
    ProductType,
    SetOf,
    Type,
    parts,
)
from urform.declaration.values import Absent, Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.languages.go.copy_names import CopyNames
from urform.languages.go.names import Names
from urform.languages.naming.names import camel, pascal
from urform.languages.rendering.literals import Characters
from urform.languages.rendering.text_patterns import TextPatterns, forms_of
from urform.plan.characters import is_plain
from urform.plan.messages import tells_text
from urform.plan.model import Field, Limit, Product, Selection, asked_first
from urform.plan.operands import Keyed, NoWord, Null, Operand, Several, Strange, Untold, Var, Witness
from urform.plan.whole import Plan

SCALARS: dict[Type, str] = {
    TEXT: "string",
    INTEGER: "int64",
    REAL: "float64",
    BOOLEAN: "bool",
    INSTANT: "time.Time",
    DURATION: "time.Duration",
}
# Types of the package.
OWN: dict[Type, str] = {DATE: "CalendarDate", TIME: "TimeOfDay", DECIMAL: "Decimal", UUID: "UUID"}
BRACED = (DATE, DECIMAL)  # whose literals would open the block of a condition
SIGNS = {"min": "<", "max": ">", "above": "<=", "below": ">="}
BESIDE = {"min": "{}.Before({})", "max": "{}.After({})", "above": "!{}.After({})", "below": "!{}.Before({})"}
_POINTERS: dict[Type, str] = {INTEGER: "Int", REAL: "Real"}  # a constant is of another type in Go


UNITS = {
    "hours": "h",
    "minutes": "m",
    "seconds": "s",
    "microseconds": "us",
}  # as time.ParseDuration reads them
MONTHS = "January February March April May June July August September October November December".split()


def pointer_to(type_: Type, text: str) -> str:
    """An optional scalar that is given."""
    return f"{_POINTERS.get(type_, 'Some')}({text})"


LONG_TEXT = 40
# How that is shown which is none, and which its type holds: of a date the zero value, of others one with a nanosecond.
UNTOLD = {
    "date": "0000-00-00",
    "instant": "2026-12-01T05:30:00.000000001Z",
    "duration": "PT0.000000001S",
}
STRANGE = {"nan": "math.NaN()", "infinity": "math.Inf(1)", "-infinity": "math.Inf(-1)"}
_ESCAPES = {"\n": "\\n", "\r": "\\r", "\t": "\\t", '"': '\\"', "\\": "\\\\"}


def text_literal(text: str) -> str:
    """An interpreted string literal; what is not printable is escaped."""
    return f'"{text.translate(_CHARACTERS)}"'


def _character(char: str) -> str:
    if is_plain(char):
        return char
    code = ord(char)
    return f"\\x{code:02x}" if code < 128 else f"\\u{code:04x}" if code < 65536 else f"\\U{code:08x}"


_CHARACTERS = Characters(_ESCAPES, _character)


@dataclass(frozen=True, slots=True)
class Test:
    """A condition under which a value is refused, and the error."""

    fails: str
    error: str


class Expressions:
    """Go code for types, values and checks of one plan. `package` qualifies exported names elsewhere, and `doubles`
    those of the package of stand-ins."""

    def __init__(self, plan: Plan, names: Names, package: str = "", doubles: str = "") -> None:
        self._plan = plan
        self._names = names
        self.copying = CopyNames(plan)
        self.patterns = TextPatterns(plan, camel)
        self.at = self._at = f"{package}." if package else ""
        self._at_doubles = f"{doubles}." if doubles else ""

    def at_product(self, product: str) -> str:
        """The qualifier of a product's names."""
        return self._at_doubles if product in self._plan.stand_ins else self._at

    # --- types ----------------------------------------------------------------------------------------

    def type(self, type_: Type) -> str:
        """A type that is always there. Products are pointers, abstract ones interfaces; sets are sorted slices."""
        match type_:
            case ChoiceType(name):
                return self._at + self._names.type(name)
            case ProductType(name):
                pointer = "" if self._plan.products[name].abstract else "*"
                return pointer + self._at + self._names.type(name)
            case ListOf(element) | SetOf(element):
                return f"[]{self.type(element)}"
            case MapOf(key, element):
                return f"map[{self.type(key)}]{self.type(element)}"
        return f"{self._at}{OWN[type_]}" if type_ in OWN else SCALARS[type_]

    def returned(self, type_: Type) -> str:
        """What an operation returns, after a blank; with whether there is one, if there may be none."""
        if isinstance(type_, MaybeOf):
            return f" ({self.type(type_.element)}, bool)"
        return "" if type_ == NOTHING else f" {self.type(type_)}"

    def answer(self, answer: Value | Absent, type_: Type) -> str:
        """What an operation of a type returns."""
        if isinstance(answer, Absent):
            assert isinstance(type_, MaybeOf)
            inner = type_.element
            zero = f"{self.type(inner)}{{}}" if inner in OWN else _zero(inner)
            return f"{zero}, false"
        value = self.value(answer)
        return f"{value}, true" if isinstance(type_, MaybeOf) else value

    def is_pointer(self, field: Field) -> bool:
        """Whether an optional scalar travels as a pointer; an absent choice is the empty word."""
        return field.type in SCALARS or field.type in TOLD

    def optional(self, field: Field) -> str:
        """The type of a field of an options struct."""
        return f"{'*' if self.is_pointer(field) else ''}{self.type(field.type)}"

    def stored(self, field: Field) -> str:
        """The type of a field of a product's struct."""
        return self.optional(field) if field.may_be_absent else self.type(field.type)

    def fallible(self, product: Product) -> bool:
        """Whether making a concrete product can fail."""
        return any(self.field_fails(field) for field in product.fields)

    def field_fails(self, field: Field) -> bool:
        """Whether a value for a field can be refused."""
        inner = self._plan.product_in(field.type)
        nil = inner is not None and (field.required or isinstance(field.type, Collection))
        keys = any(isinstance(part, MapOf) and isinstance(part.key, ChoiceType) for part in parts(field.type))
        return bool(field.limits or field.each or nil or keys)

    # --- values ---------------------------------------------------------------------------------------

    def value(self, value: Value) -> str:
        """A literal, or the expression that makes the value."""
        match value:
            case Text(text):
                if len(text) > LONG_TEXT and len(set(text)) == 1:
                    return f"strings.Repeat({text_literal(text[0])}, {len(text)})"
                return text_literal(text)
            case Integer(number):
                return str(number)
            case Real(number):
                return repr(number)
            case Boolean(flag):
                return "true" if flag else "false"
            case Told():
                return self.told(value)
            case Word(choice, word):
                return f"{self._at}{self._names.type(choice)}{pascal(word)}"
            case Items(type_, items):
                return self._slice(type_, [self.value(item) for item in items])
            case Entries(type_, entries):
                return self._map(type_, [(self.value(key), self.value(item)) for key, item in entries])
            case Made(product, fields):
                return self.literal(product, fields)
        raise TypeError(f"no value: {value}")

    def told(self, told: Told) -> str:
        """A value that is told by a text: the package knows its parts, tests make it like clients."""
        if told.kind == "instant":
            return _time(datetime.datetime.fromisoformat(told.text))
        if told.kind in ("time", "duration"):
            return self._clock(told)
        if told.kind == "decimal":
            if self._at:
                return f'unfailing({self._at}ParseDecimal("{told.text}"))'
            return f'Decimal{{"{told.text}"}}' if told.text != "0" else "Decimal{}"
        if told.kind == "uuid":
            read = f"unfailing({self._at}ParseUUID" if self._at else "mustUUID"
            return f'{read}("{told.text}"){")" if self._at else ""}'
        parts_ = ", ".join(str(int(part)) for part in told.text.split("-"))
        return f"unfailing({self._at}NewCalendarDate({parts_}))" if self._at else f"CalendarDate{{{parts_}}}"

    def _clock(self, told: Told) -> str:
        """A time of day or a length of time."""
        if told.kind == "time":
            clock = datetime.time.fromisoformat(told.text)
            parts_ = f"{clock.hour}, {clock.minute}, {clock.second}, {clock.microsecond}"
            return f"unfailing({self._at}NewTimeOfDay({parts_}))" if self._at else f"clockAt({parts_})"
        counts = dict(units(told.text))
        if self._at:
            text = "".join(f"{abs(count)}{UNITS[unit]}" for unit, count in counts.items())
            return f'unfailing(time.ParseDuration("{"-" if told.order < 0 else ""}{text}"))'
        return f"lasting({', '.join(str(counts.get(unit, 0)) for unit in UNITS)})"

    def literal(self, product: str, given: Mapping[str, Value]) -> str:
        """A declared product as a struct literal, for its values have passed their limits; tests make it like clients."""
        selection = self._plan.selection_of(product)
        if selection is not None:
            return self._selected(selection, given)
        declared = self._plan.product(product)
        if self._at:
            call = (
                f"{self.at_product(product)}New{self._names.type(product)}({self.arguments(declared, given)})"
            )
            return f"unfailing({call})" if self.fallible(declared) else call
        if declared.single:
            return f"&{self._names.type(product)}{{}}"
        inherited: list[str] = []
        own: list[str] = []
        for field in declared.fields:
            value = given.get(field.name, field.default)
            if value is None and not isinstance(field.type, MapOf):
                continue
            text = (
                self._map(field.type, []) if value is None else self.value(value)
            )  # one that can be written to
            if field.may_be_absent and self.is_pointer(field):
                text = pointer_to(field.type, text)
            pair = f"{self._names.stored(field.name)}: {text}"
            (own if field.owner == product else inherited).append(pair)
        if declared.base is not None and self._plan.products[declared.base].fields:
            base = self._names.embedded(declared.base)
            own.insert(0, f"{base}: {base}{{{', '.join(inherited)}}}")
        return f"&{self._names.type(product)}{{{', '.join(own)}}}"

    def _selected(self, selection: Selection, given: Mapping[str, Value]) -> str:
        """A declared product of a factory by values: tests ask the factory, the package knows the variant."""
        if self._at:
            call = f"{self._at}New{self._names.type(selection.product)}({self.selected(selection, given)})"
            return f"unfailing({call})" if self.selection_fails(selection) else call
        variant = self._plan.products[selection.chosen(given)]
        return self.literal(variant.name, {f.name: given[f.name] for f in variant.fields if f.name in given})

    def selected(self, selection: Selection, given: Mapping[str, Operand]) -> str:
        """The arguments of a factory by values."""
        parts = [self.operand(given[field.name]) for field in selection.required]
        if selection.optional:
            pairs = [
                f"{pascal(f.name)}: {self._option(f, given[f.name])}"
                for f in selection.optional
                if f.name in given and not isinstance(given[f.name], Null)
            ]
            parts.append(f"{self._at}{self._names.type(selection.product)}Options{{{', '.join(pairs)}}}")
        return ", ".join(parts)

    def selection_fails(self, selection: Selection) -> bool:
        """Whether the entry of a factory by values that tells a reason can fail."""
        variants = [self._plan.products[choice.variant] for choice in selection.deciding.choices]
        missing = any(isinstance(field.type, ProductType) for field in selection.required)
        return bool(selection.deciding.refusals) or missing or any(map(self.fallible, variants))

    def operand(self, operand: Operand) -> str:
        """A value that a test hands in, as code."""
        match operand:
            case Real(number) if number == 0 and math.copysign(1, number) < 0:
                return "math.Copysign(0, -1)"  # the literal -0.0 is a plain zero
            case Text() | Integer() | Real() | Boolean() | Told() | Word() | Items() | Entries() | Made():
                return self.value(operand)
            case Var(name):
                return name
            case Witness(product, second):
                return f"{witness_name(product, second)}(t)"
            case Null():
                return "nil"
            case Strange(number):
                return STRANGE[number]
            case Untold("instant"):
                return "time.Date(2026, time.December, 1, 5, 30, 0, 1, time.UTC)"
            case Untold("duration"):
                return "time.Nanosecond"
            case Untold():
                return f"{self.type(DATE)}{{}}"
            case NoWord(choice):
                return f'{self._at}{self._names.type(choice)}("no word of it")'
            case Several(type_, items):
                return self._slice(type_, [self.operand(item) for item in items])
            case Keyed(type_, entries):
                return self._map(type_, [(self.value(key), self.operand(item)) for key, item in entries])
        raise TypeError(f"Go cannot express {operand}")

    def _slice(self, type_: Type, items: list[str]) -> str:
        if len(items) > 8 and len(set(items)) == 1:
            return f"repeated[{self.type(type_).removeprefix('[]')}]({items[0]}, {len(items)})"
        return self.several(type_, items)

    def several(self, type_: Type, items: list[str]) -> str:
        """The literal of a slice."""
        return f"{self.type(type_)}{{{', '.join(self._elements(type_, items))}}}"

    def _elements(self, type_: Type, items: list[str]) -> list[str]:
        """Elements without the type that the literal around them tells already, as `gofmt -s` writes them."""
        assert isinstance(type_, Collection)
        plain = self.type(type_.element)
        prefix = f"&{plain[1:]}{{" if plain.startswith("*") else f"{plain}{{"
        return [item[len(prefix) - 1 :] if item.startswith(prefix) else item for item in items]

    def _map(self, type_: Type, entries: list[tuple[str, str]]) -> str:
        values = self._elements(type_, [value for _, value in entries])
        pairs = (f"{key}: {value}" for (key, _), value in zip(entries, values, strict=True))
        return f"{self.type(type_)}{{{', '.join(pairs)}}}"

    def arguments(self, product: Product, given: Mapping[str, Operand]) -> str:
        """The arguments of a constructor: required fields, then options."""
        required = [self.operand(given[field.name]) for field in product.required]
        if product.optional:
            required.append(self.options(product, given))
        return ", ".join(required)

    def options(self, product: Product, given: Mapping[str, Operand]) -> str:
        """An options struct with what is given."""
        type_, base = options_type(self._plan, self._names, product)
        inherited: list[str] = []
        own: list[str] = []
        for field in product.optional:
            if field.name not in given or isinstance(given[field.name], Null):
                continue
            pair = f"{pascal(field.name)}: {self._option(field, given[field.name])}"
            (own if base is None or field.owner == product.name else inherited).append(pair)
        if base is not None and inherited:
            own.insert(0, f"{base}: {self._at}{base}{{{', '.join(inherited)}}}")
        return f"{self._at}{type_}{{{', '.join(own)}}}"

    def _option(self, field: Field, operand: Operand) -> str:
        text = self.operand(operand)
        if not self.is_pointer(field):
            return text
        return self.pointer(field, text)

    def pointer(self, field: Field, text: str) -> str:
        """A pointer to a value, as an option or an absent field has it."""
        return f"{self._at}{pointer_to(field.type, text)}"

    # --- checks ---------------------------------------------------------------------------------------

    def tests(self, field: Field, value: str) -> Iterator[Test]:
        """The tests that refuse a value, in the order of its limits."""
        for limit in asked_first(field.limits):
            yield from self._test(field, field.type, value, limit, "")

    def later_tests(self, field: Field, value: str) -> Iterator[Test]:
        """The tests that refuse a whole collection once its elements are known to be good."""
        for limit in field.limits:
            if limit.name == "unique":
                yield from self._test(field, field.type, value, limit, "")

    def element_tests(self, field: Field, type_: Type, element: str) -> Iterator[Test]:
        """The tests that refuse an element; `type_` is the field's, or that of a collection within it."""
        assert isinstance(type_, Collection)
        inner = type_.element
        if isinstance(inner, ProductType):
            yield Test(
                f"{element} == nil",
                f'&MissingError{{Owner: "{field.owner}", Fields: []string{{"{field.name}"}}}}',
            )
        for limit in field.each:
            if type_ != field.type and limit.bound is not None:
                continue  # declared limits are about the outermost elements
            yield from self._test(field, inner, element, limit, "each.")

    def _test(self, field: Field, type_: Type, value: str, limit: Limit, within: str) -> Iterator[Test]:
        size = f"len({value})" if isinstance(type_, Collection) else f"utf8.RuneCountInString({value})"
        size = f"distinct({value})" if isinstance(type_, SetOf) else size
        bound = "" if limit.bound is True else self.bound(limit.bound)
        asked = value.removeprefix("*")  # a method is found through a pointer too
        if isinstance(limit.bound, Told):
            broken = f"{asked}.Compare({bound}) {SIGNS[limit.name]} 0"
            if type_ == DURATION:
                broken = f"{value} {SIGNS[limit.name]} {bound}"
            elif type_ == INSTANT:
                broken = BESIDE[limit.name].format(asked, bound)
            yield Test(broken, self._limit_error(field, type_, value, limit, within))
            return
        if limit.name in ("time", "decimal", "uuid"):
            return  # its type holds nothing else
        fails = {
            "date": f"{asked}.IsZero()" if type_ == DATE else None,
            "instant": f"!isInstant({value})" if type_ == INSTANT else None,
            "duration": f"!isDuration({value})" if type_ == DURATION else None,
            "finite": f"!finite({value})" if type_ == REAL else None,
            "choice": f"!{value}.valid()" if isinstance(type_, ChoiceType) else None,
            "min": f"{value} < {bound}",
            "max": f"{value} > {bound}",
            "above": f"{value} <= {bound}",
            "below": f"{value} >= {bound}",
            "not_blank": f"blank({value})",
            "min_length": f"{f'len({value}) > 0 && ' if limit.unless_empty else ''}{size} < {bound}",
            "max_length": f"{size} > {bound}",
            "one_of": f"!slices.Contains({bound}, {value})",
            "unique": f"repeated({value}) >= 0",
            **{form.name: f"!{self.pattern(form)}.accepts({value})" for form in forms_of([limit])},
        }[limit.name]
        if fails is None:
            return  # it is about what lies deeper, where a further loop looks
        yield Test(fails, self._limit_error(field, type_, value, limit, within, size))

    def _limit_error(
        self, field: Field, type_: Type, value: str, limit: Limit, within: str, size: str = ""
    ) -> str:
        shown = self.bound_as_data(limit.bound)
        data = f", Bound: {shown}" if shown else ""
        if not (field.secret and tells_text(type_, [limit])):
            found = _found(type_, value, size)
            if limit.name == "unique" and isinstance(type_, ListOf):
                found = _found(type_.element, f"{value}[repeated({value})]", "")
            data += f", Value: {found}"
        at = f'Owner: "{field.owner}", Field: "{field.name}", Limit: "{within}{limit.name}"'
        return f"&LimitError{{{at}{data}}}"

    def pattern(self, limit: Limit) -> str:
        """The pattern of a limit on the form of texts."""
        return f"textPatterns.{self.patterns.of(limit)}"

    def bound(self, bound: object) -> str:
        """The bound of a limit as code compares with it."""
        if isinstance(bound, tuple):
            words = [text_literal(word) if isinstance(word, str) else str(word) for word in bound]
            return f"[]{'string' if isinstance(bound[0], str) else 'int64'}{{{', '.join(words)}}}"
        return self.told(bound) if isinstance(bound, Told) else repr(bound)

    def bound_as_data(self, bound: object) -> str:
        """The bound of a limit as data of an error, typed; empty where there is none."""
        if bound is None or bound is True:
            return ""
        if isinstance(bound, (tuple, Told)):
            return self.bound(bound)
        if isinstance(bound, str):
            return text_literal(bound)
        return repr(bound) if isinstance(bound, float) else f"int64({bound})"

    # --- holding, handing out, comparing ----------------------------------------------------------------

    def own_value(self, type_: Type, value: str) -> str:
        """The expression that gives a value as it is held."""
        match type_:
            case ListOf(element):
                each = self._each(element, self.own_value)
                return f"mapped({value}, {each})" if each else f"slices.Clone({value})"
            case SetOf():
                return f"sortedSet({value})"
            case MapOf(_, element):
                return f"mappedValues({value}, {self._each(element, self.own_value) or 'itself'})"
            case ProductType(name) if self._plan.products[name].mutable:
                return self.as_itself(type_, f"{value}.{self.copied(name)}()")
        if type_ == INSTANT:
            return f"{value.removeprefix('*')}.UTC()"
        return f"zeroed({value})" if type_ == REAL else value

    def _each(self, element: Type, of: object) -> str:
        """A function from an element to what is made of it; empty where that is the element itself."""
        assert callable(of)
        if element == REAL and of == self.own_value:
            return "zeroed"
        if element == INSTANT and of == self.own_value:
            return "time.Time.UTC"
        if (
            isinstance(element, ProductType)
            and of == self.own_value
            and self._plan.products[element.name].mutable
        ):
            if self.is_kind(element):
                return self._function(element, self.own_value(element, "inner"))
            type_ = self.type(element)
            return f"{f'({type_})' if type_.startswith('*') else type_}.{self.copied(element.name)}"
        inner = of(element, "inner")
        type_ = self.type(element)
        if inner == "slices.Clone(inner)":
            return f"slices.Clone[{type_}]"
        return f"func(inner {type_}) {type_} {{ return {inner} }}" if inner != "inner" else ""

    def is_kind(self, type_: Type) -> bool:
        """Whether a type is one kind of an interface, whose methods take and give the interface."""
        return isinstance(type_, ProductType) and self._plan.products[type_.name].base is not None

    def as_itself(self, type_: Type, call: str) -> str:
        """What a method of an interface gives, as the kind that it is known to be."""
        return f"{call}.({self.type(type_)})" if self.is_kind(type_) else call

    def _function(self, type_: Type, result: str) -> str:
        return f"func(inner {self.type(type_)}) {self.type(type_)} {{ return {result} }}"

    def handed_out(self, type_: Type, value: str) -> str:
        """The expression that gives the caller a container of its own."""
        match type_:
            case ListOf(element) | SetOf(element):
                each = self._each(element, self.handed_out)
                return f"mapped({value}, {each})" if each else f"slices.Clone({value})"
            case MapOf(_, element):
                each = self._each(element, self.handed_out)
                return f"mappedValues({value}, {each})" if each else f"maps.Clone({value})"
        return value

    def copied(self, product: str) -> str:
        """The method that copies an owned mutable product on the way in."""
        return self.copying.copy(self._plan.products[product])

    def equal(self, field: Field, one: str, other: str) -> str:
        """The comparison of two stored values."""
        if field.may_be_absent and self.is_pointer(field):
            return f"samePtr({one}, {other})"
        if field.may_be_absent and self.is_kind(field.type):
            return f"sameKind({one}, {other}, {self._equal_function(field.type)})"
        if field.may_be_absent and isinstance(field.type, ProductType):
            return f"same({one}, {other})"
        return self._equal(field.type, one, other)

    def _equal(self, type_: Type, one: str, other: str) -> str:
        match type_:
            case ProductType():
                return f"{one}.Equal({other})"
            case ListOf(element) | SetOf(element) | MapOf(_, element):
                package = "maps" if isinstance(type_, MapOf) else "slices"
                if isinstance(element, (ProductType, *Collection)):
                    return f"{package}.EqualFunc({one}, {other}, {self._equal_function(element)})"
                return f"{package}.Equal({one}, {other})"
        return f"{one} == {other}"

    def _equal_function(self, element: Type) -> str:
        type_ = self.type(element)
        if isinstance(element, ProductType) and not self.is_kind(element):
            return f"{f'({type_})' if type_.startswith('*') else type_}.Equal"
        inner = self._equal(element, "a", "b")
        if inner == "slices.Equal(a, b)":
            return f"slices.Equal[{type_}]"
        return f"func(a, b {type_}) bool {{ return {inner} }}"


def options_type(plan: Plan, names: Names, product: Product) -> tuple[str, str | None]:
    """The options struct of a product, and the base's that it embeds (None if it is or needs no other)."""
    own = f"{names.type(product.name)}Options"
    if product.base is None:
        return own, None
    base = plan.products[product.base]
    base_type = f"{names.type(base.name)}Options"
    if not any(field.owner == product.name for field in product.optional):
        return base_type, None
    return own, base_type if base.optional else None


def witness_name(product: str, second: bool) -> str:
    """`aBuoy`, `anotherBuoy`: the helper that makes a witness."""
    name = pascal(camel(product))
    return f"another{name}" if second else f"{'an' if name[0] in 'AEIOU' else 'a'}{name}"


def client_name(family: str) -> str:
    """`outfitClient`: the helper of tests that knows an abstract factory alone."""
    return f"{camel(family)}Client"


def _time(at: datetime.datetime) -> str:
    """A time in UTC."""
    clock = f"{at.hour}, {at.minute}, {at.second}, {at.microsecond * 1000}"
    return f"time.Date({at.year}, time.{MONTHS[at.month - 1]}, {at.day}, {clock}, time.UTC)"


def _found(type_: Type, value: str, size: str) -> str:
    """What an error tells of a value: of a collection its length, of a choice its text."""
    if isinstance(type_, Collection):
        return f"int64({size})"
    if type_ == INSTANT:
        return f"{value.removeprefix('*')}.UTC()"
    return f"string({value})" if isinstance(type_, ChoiceType) else value


def _zero(type_: Type) -> str:
    """What Go has in the place of a value that there is none of."""
    if type_ == TEXT or isinstance(type_, ChoiceType):
        return '""'
    zeros: dict[Type, str] = {
        INTEGER: "0",
        REAL: "0",
        BOOLEAN: "false",
        INSTANT: "time.Time{}",
        DURATION: "0",
    }
    return zeros.get(type_, "nil")
