"""Types, literals and checks in Java."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
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
    UUID,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    MaybeOf,
    ProductType,
    SetOf,
    Type,
    present,
)
from urform.declaration.values import Absent, Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.languages.java.copy_calls import CopyCalls
from urform.languages.java.names import Names
from urform.languages.naming.names import beside, camel, pascal, screaming
from urform.languages.rendering.literals import Characters
from urform.languages.rendering.text_patterns import TextPatterns, forms_of
from urform.plan.characters import is_plain
from urform.plan.model import Field, Limit, Product, Selection, is_unique
from urform.plan.operands import Keyed, Null, Operand, Several, Strange, Untold, Var, Witness
from urform.plan.whole import Plan

PRIMITIVES: dict[Type, str] = {INTEGER: "long", REAL: "double", BOOLEAN: "boolean"}
BOXED: dict[Type, str] = {
    TEXT: "String",
    INTEGER: "Long",
    REAL: "Double",
    BOOLEAN: "Boolean",
    DATE: "LocalDate",
    TIME: "LocalTime",
    INSTANT: "Instant",
    DURATION: "Duration",
    DECIMAL: "BigDecimal",
    UUID: "UUID",
}
OPTIONALS: dict[Type, str] = {INTEGER: "OptionalLong", REAL: "OptionalDouble"}
LONG_TEXT = 40
# What is none, which its type holds, and how that is shown.
UNTOLD = {
    "date": ("LocalDate.of(12000, 1, 1)", "+12000-01-01"),
    "instant": ('Instant.parse("2026-12-01T05:30:00.000000001Z")', "2026-12-01T05:30:00.000000001Z"),
    "time": ("LocalTime.of(6, 30, 0, 1)", "06:30:00.000000001"),
    "duration": ("Duration.ofNanos(1)", "PT0.000000001S"),
    "decimal": ('new BigDecimal("1E+20")', "100000000000000000000"),
}
LARGEST_INT = 2**31 - 1  # beyond it a literal needs its L
BESIDE: dict[str, str] = {  # of what is earlier or later
    "min": "!{}.isBefore({{0}})",
    "max": "!{}.isAfter({{0}})",
    "above": "{}.isAfter({{0}})",
    "below": "{}.isBefore({{0}})",
}
COMPARED: dict[str, str] = {  # of what else has an order
    "min": "{}.compareTo({{0}}) >= 0",
    "max": "{}.compareTo({{0}}) <= 0",
    "above": "{}.compareTo({{0}}) > 0",
    "below": "{}.compareTo({{0}}) < 0",
}
# The question whether a value is one at all, where its type holds others.
IS_TOLD: dict[Type, str] = {
    DATE: "isDate",
    TIME: "isTime",
    INSTANT: "isInstant",
    DURATION: "isDuration",
    DECIMAL: "isDecimal",
}
MOST_PAIRS = 10  # that Map.of takes

_ESCAPES = {"\n": "\\n", "\r": "\\r", "\t": "\\t", '"': '\\"', "\\": "\\\\"}
STRANGE = {
    "nan": "Double.NaN",
    "infinity": "Double.POSITIVE_INFINITY",
    "-infinity": "Double.NEGATIVE_INFINITY",
}


def text_literal(text: str) -> str:
    """A string literal; what is not printable is escaped, controls in octal, for `\\u000a` would end the line."""
    return f'"{text.translate(_CHARACTERS)}"'


def _character(char: str) -> str:
    if is_plain(char):
        return char
    if ord(char) < 256:
        return f"\\{ord(char):03o}"
    units = char.encode("utf-16-be", "surrogatepass").hex()
    return "".join(f"\\u{units[at : at + 4]}" for at in range(0, len(units), 4))


_CHARACTERS = Characters(_ESCAPES, _character)


def told_literal(told: Told) -> str:
    """The call that makes a date, a UUID, or another value that is told by a text."""
    match told.kind:
        case "uuid":
            return f'UUID.fromString("{told.text}")'
        case "instant":
            return f'Instant.parse("{told.text}")'
        case "time":
            return f'LocalTime.parse("{told.text}")'
        case "duration":
            return f'Duration.parse("{told.text}")'
        case "decimal":
            return f'new BigDecimal("{told.text}")'
    return f"LocalDate.of({', '.join(str(int(part)) for part in told.text.split('-'))})"


class Expressions:
    """Java code for types, values and checks of one plan."""

    def __init__(self, plan: Plan, names: Names) -> None:
        self._plan = plan
        self._names = names
        self.copies = CopyCalls(plan)
        self.patterns = TextPatterns(plan, screaming)

    # --- types ----------------------------------------------------------------------------------------

    def boxed(self, type_: Type) -> str:
        """A type as an object, or as an argument of a generic type."""
        match type_:
            case ChoiceType(name) | ProductType(name):
                return self._names.type(name)
            case ListOf(element):
                return f"List<{self.boxed(element)}>"
            case SetOf(element):
                return f"Set<{self.boxed(element)}>"
            case MapOf(key, element):
                return f"Map<{self.boxed(key)}, {self.boxed(element)}>"
        return BOXED[type_]

    def plain(self, type_: Type) -> str:
        """A type that is always there."""
        return PRIMITIVES.get(type_) or self.boxed(type_)

    def stored(self, field: Field) -> str:
        """How a class stores a field: as null what may be absent and is."""
        return self.boxed(field.type) if field.may_be_absent else self.plain(field.type)

    def handed_out(self, field: Field) -> str:
        """The expression that an accessor returns."""
        return self.optional(field.type) if field.may_be_absent else self.plain(field.type)

    def optional(self, type_: Type) -> str:
        """The type of what may be absent."""
        return OPTIONALS.get(type_) or f"Optional<{self.boxed(type_)}>"

    def optional_of(self, field: Field, stored: str) -> str:
        """The expression that an accessor returns."""
        return self.as_optional(field.type, stored) if field.may_be_absent else stored

    def as_optional(self, type_: Type, stored: str) -> str:
        """What may be null, as what may be absent."""
        kind = OPTIONALS.get(type_)
        if kind is None:
            return f"Optional.ofNullable({stored})"
        return f"{stored} == null ? {kind}.empty() : {kind}.of({stored})"

    # --- values ---------------------------------------------------------------------------------------

    def returned(self, type_: Type) -> str:
        """The type that an operation returns."""
        if isinstance(type_, MaybeOf):
            return self.optional(type_.element)
        return "void" if type_ == NOTHING else self.plain(type_)

    def answer(self, answer: Value | Absent, type_: Type) -> str:
        """What an operation of a type returns."""
        kind = OPTIONALS.get(present(type_), "Optional")
        if isinstance(answer, Absent):
            return f"{kind}.empty()"
        value = self.value(answer)
        return f"{kind}.of({value})" if isinstance(type_, MaybeOf) else value

    def value(self, value: Value) -> str:
        """A literal, or the expression that makes the value."""
        match value:
            case Text(text):
                if len(text) > LONG_TEXT and len(set(text)) == 1:
                    return f"{text_literal(text[0])}.repeat({len(text)})"
                return text_literal(text)
            case Integer(number):
                return f"{number}L"
            case Real(number):
                return repr(number)
            case Boolean(flag):
                return "true" if flag else "false"
            case Told():
                return told_literal(value)
            case Word(choice, word):
                return f"{self._names.type(choice)}.{self._names.word(word)}"
            case Items(type_, items):
                return self._collection(type_, [self.value(item) for item in items])
            case Entries(_, entries):
                return self._map([(self.value(key), self.value(item)) for key, item in entries])
            case Made(product, fields):
                return self.make(product, fields)
        raise TypeError(f"no value: {value}")

    def operand(self, operand: Operand) -> str:
        """A value that a test hands in, as code."""
        match operand:
            case Text() | Integer() | Real() | Boolean() | Told() | Word() | Items() | Entries() | Made():
                return self.value(operand)
            case Var(name):
                return name
            case Witness(product, second):
                return f"{witness_name(product, second)}()"
            case Null():
                return "null"
            case Strange(number):
                return STRANGE[number]
            case Untold(kind):
                return UNTOLD[kind][0]
            case Several(type_, items):
                shown = [self.operand(item) for item in items]
                return self._with_null(type_, shown) if "null" in shown else self._collection(type_, shown)
            case Keyed(_, entries):
                pairs = [(self.value(key), self.operand(item)) for key, item in entries]
                others = [pair for pair in pairs if pair[1] != "null"]
                nulls = [key for key, item in pairs if item == "null"]
                return f"withNull({self._map(others)}, {nulls[0]})" if nulls else self._map(others)
        raise TypeError(f"Java cannot express {operand}")

    def _with_null(self, type_: Type, items: list[str]) -> str:
        """List.of and Set.of refuse a null before the product can."""
        if len(items) == 1:
            return f"Collections.singleton{'' if isinstance(type_, SetOf) else 'List'}(null)"
        listed = f"Arrays.asList({', '.join(items)})"
        return f"new LinkedHashSet<>({listed})" if isinstance(type_, SetOf) else listed

    def _collection(self, type_: Type, items: list[str]) -> str:
        kind = "Set" if isinstance(type_, SetOf) else "List"
        if len(items) > 3 and len(set(items)) == 1:
            return f"Collections.nCopies({len(items)}, {items[0]})"
        return f"{kind}.of({', '.join(items)})"

    def _map(self, entries: list[tuple[str, str]]) -> str:
        if len(entries) <= MOST_PAIRS:
            return f"Map.of({', '.join(f'{key}, {value}' for key, value in entries)})"
        return f"Map.ofEntries({', '.join(f'Map.entry({key}, {value})' for key, value in entries)})"

    def make(self, product: str, arguments: Mapping[str, Operand]) -> str:
        """A call of the constructor; optional fields travel as options."""
        declared = self._plan.product(product)
        selection = self._plan.selection_of(product) or self._plan.selected_by(declared)
        if selection is not None:
            return f"{self._names.type(selection.product)}.of({self.selected(selection, arguments)})"
        type_ = self._names.type(product)
        if declared.single:
            return f"{type_}.instance()"
        given = [
            self.operand(arguments[field.name]) for field in declared.required if field.name in arguments
        ]
        options = self.options(product, arguments)
        return f"new {type_}({', '.join([*given, *([options] if options else [])])})"

    def selected(self, selection: Selection, arguments: Mapping[str, Operand]) -> str:
        """The arguments of a factory by values."""
        given = [self.operand(arguments[field.name]) for field in selection.required]
        if selection.optional:
            options = self._options(selection.product, selection.optional, arguments)
            given.append(options or f"new {self._names.type(selection.product)}.Options()")
        return ", ".join(given)

    def options(self, product: str, arguments: Mapping[str, Operand]) -> str | None:
        """The options that some arguments need, None if none does."""
        return self._options(product, self._plan.product(product).optional, arguments)

    def _options(
        self, product: str, fields: tuple[Field, ...], arguments: Mapping[str, Operand]
    ) -> str | None:
        optional = [field for field in fields if field.name in arguments]
        if not optional:
            return None
        calls = "".join(f".{self._names.member(f.name)}({self.operand(arguments[f.name])})" for f in optional)
        return f"new {self._names.type(product)}.Options(){calls}"

    # --- checks ---------------------------------------------------------------------------------------

    def checks(self, field: Field, value: str) -> Iterator[str]:
        """The statements that hold a value against its limits."""
        size = f"{value}.size()" if isinstance(field.type, Collection) else f"Check.length({value})"
        for limit in field.limits:
            yield from self._check(field, field.type, value, limit, size, "")

    def checks_of_element(self, field: Field, value: str) -> Iterator[str]:
        """The statements that hold one element against the limits of each."""
        assert isinstance(field.type, Collection)
        element = field.type.element
        size = f"{value}.size()" if isinstance(element, Collection) else f"Check.length({value})"
        for limit in field.each:
            yield from self._check(field, element, value, limit, size, "each.")

    def own_element(self, field: Field, value: str) -> str:
        """The expression that gives one element as it is held."""
        assert isinstance(field.type, Collection)
        return self._own_value(field, field.type.element, value, 1)

    def checks_of_elements(self, field: Field, container: str) -> Iterator[str]:
        """A loop over the elements of a collection, if they have limits of their own; then what they are together."""
        type_ = field.type
        if not isinstance(type_, Collection):
            return
        yield from self._loop(field, type_, container)
        yield from self.later_checks(field, container)

    def later_checks(self, field: Field, container: str) -> Iterator[str]:
        """The check that no element of a list stands twice, where that is a limit."""
        if not (isinstance(field.type, ListOf) and is_unique(field.limits)):
            return
        told = ", each -> null" if field.secret else ""
        if isinstance(field.type.element, ChoiceType):
            told = f", {self._names.type(field.type.element.name)}::word"
        yield f'Check.distinct("{field.owner}", "{field.name}", {container}{told});'

    def _loop(self, field: Field, type_: ListOf | SetOf | MapOf, container: str) -> Iterator[str]:
        element = type_.element
        name = self._names.member(field.item or "each")
        others = {self._names.member(other.name) for other in self._plan.products[field.owner].fields}
        if name in {
            *others,
            container,
        }:  # a parameter, or what holds the elements, is called like one of them
            name = "each" if "each" not in others else "eachOne"
        lines = list(self.checks_of_element(field, name))
        if lines:
            values = f"{container}.values()" if isinstance(type_, MapOf) else container
            yield f"for ({self.plain(element)} {name} : {values}) {{"
            yield from (f"    {line}" for line in lines)
            yield "}"

    def _check(
        self, field: Field, type_: Type, value: str, limit: Limit, size: str, within: str
    ) -> Iterator[str]:
        holds = self._holding(type_, value, limit, size)
        if holds is None:
            return  # a choice is always one of its words
        bound = "null" if limit.bound is True else self.bound(limit.bound)
        shorter = isinstance(limit.bound, int) and abs(limit.bound) <= LARGEST_INT
        test = holds.replace("{0}", bound.removesuffix("L") if shorter else bound)
        found = size if isinstance(type_, Collection) else value
        found = "null" if field.secret and type_ == TEXT else found
        at = f'"{field.owner}", "{field.name}", "{within}{limit.name}"'
        is_counted = type_ in (INTEGER, REAL) or isinstance(type_, Collection)
        has_number = isinstance(limit.bound, (int, float)) and limit.bound is not True
        check = "within" if is_counted and has_number else "that"
        yield f"Check.{check}({test}, {at}, {bound}, {found});"

    def _holding(self, type_: Type, value: str, limit: Limit, size: str) -> str | None:
        """The condition of a value within a limit, its bound as `{0}`; None where the language sees to it."""
        if isinstance(limit.bound, Told):
            words = BESIDE if KINDS[limit.bound.kind].in_time else COMPARED
            return words[limit.name].format(value)
        if limit.name == str(type_):
            return f"Check.{IS_TOLD[type_]}({value})" if type_ in IS_TOLD else None
        return {
            "finite": f"Double.isFinite({value})" if type_ == REAL else None,
            "min": f"{value} >= {{0}}",
            "max": f"{value} <= {{0}}",
            "above": f"{value} > {{0}}",
            "below": f"{value} < {{0}}",
            "not_blank": f"!Check.isBlank({value})",
            "min_length": f"{f'{value}.isEmpty() || ' if limit.unless_empty else ''}{size} >= {{0}}",
            "max_length": f"{size} <= {{0}}",
            "one_of": f"{{0}}.contains({value})",
            **{form.name: f"{self.pattern(form)}.test({value})" for form in forms_of([limit])},
        }.get(limit.name)

    def pattern(self, limit: Limit) -> str:
        """The pattern of a limit on the form of texts."""
        return f"TextPatterns.{self.patterns.of(limit)}"

    def bound(self, bound: object) -> str:
        """The bound of a limit as data."""
        if isinstance(bound, str):
            return text_literal(bound)
        if isinstance(bound, tuple):
            return f"List.of({', '.join(text_literal(b) if isinstance(b, str) else f'{b}L' for b in bound)})"
        if isinstance(bound, float):
            return repr(bound)
        if isinstance(bound, Told):
            return told_literal(bound)
        return "null" if bound is None else f"{bound}L"

    def own_value(self, field: Field, value: str) -> str:
        """The expression that gives a value as it is held."""
        return self._own_value(field, field.type, value, 0)

    def _own_value(self, field: Field, type_: Type, value: str, depth: int) -> str:
        at = f'"{field.owner}", "{field.name}"'
        match type_:
            case ListOf(element):
                inner = self._mapper(field, element, depth + 1)
                return f"Check.list({at}, {value}{', ' + inner if inner else ''})"
            case SetOf(element):
                return f"Check.set({at}, {value}, {self.order(element)})"
            case MapOf(key, element):
                inner = self._mapper(field, element, depth + 1) or "UnaryOperator.identity()"
                return f"Check.map({at}, {value}, {self.order(key)}, {inner})"
            case ProductType(name) if self._plan.products[name].mutable:
                return f"{value}.{self.copies.on_the_way_in(self._plan.products[name])}"
        if type_ in IS_TOLD and depth > 1:
            return f'Check.{type_}({at}, "each.{type_}", {value})'
        if type_ == DECIMAL:
            return f"Check.shortest({value})"
        if type_ != REAL:
            return value
        # Deep inside nested collections no loop has looked yet; elsewhere only -0.0 is left to become 0.0.
        return f"{value} + 0.0" if depth <= 1 else f'Check.finite({at}, "each.finite", {value})'

    def copied(self, field: Field, value: str, call: str) -> str:
        """The expression that copies what is held already, and has passed its limits."""
        return self._copied(field.type, value, call, 0)

    def _copied(self, type_: Type, value: str, call: str, depth: int) -> str:
        each = "each" if depth == 0 else f"each{depth + 1}"
        match type_:
            case ListOf(element) | MapOf(_, element):
                inner = f"{each} -> {self._copied(element, each, call, depth + 1)}"
                if isinstance(element, ProductType):
                    inner = self.copies.function(self._names.type(element.name), call, each)
                kind = "Map" if isinstance(type_, MapOf) else "List"
                return f"Copies.of{kind}({value}, {inner})"
        return f"{value}.{call}"

    def _mapper(self, field: Field, element: Type, depth: int) -> str:
        if isinstance(element, ProductType) and self._plan.products[element.name].mutable:
            call = self.copies.on_the_way_in(self._plan.products[element.name])
            return self.copies.function(self._names.type(element.name), call, self._each(field, depth))
        name = self._each(field, depth)
        kept = self._own_value(field, element, name, depth)
        return f"{name} -> {kept}" if kept != name else ""

    def _each(self, field: Field, depth: int) -> str:
        """What a function calls an element; it may hide no parameter of a constructor."""
        owner = self._plan.products[field.owner]
        family = (owner, *(self._plan.products[name] for name in owner.variants))
        declared = {self._names.member(one.name) for product in family for one in product.fields}
        return beside("each" if depth == 1 else f"each{depth}", declared)

    def order(self, type_: Type) -> str:
        """The comparator by which the elements of a set or the keys of a map are sorted."""
        if isinstance(type_, ChoiceType):
            return f"Comparator.comparing({self._names.type(type_.name)}::word, Check.BY_CODE_POINT)"
        return "Check.BY_CODE_POINT" if type_ == TEXT else "Comparator.naturalOrder()"

    def equal(self, field: Field, name: str) -> str:
        """The comparison of two stored values."""
        if field.may_be_absent and not isinstance(field.type, ChoiceType):
            return f"Objects.equals({name}, that.{name})"
        if field.type in PRIMITIVES or isinstance(field.type, ChoiceType):
            return f"{name} == that.{name}"
        return f"{name}.equals(that.{name})"


def witness_name(product: str, second: bool) -> str:
    """`aBuoy`, `anotherBuoy`: the helper that makes a witness."""
    name = pascal(camel(product))
    return f"another{name}" if second else f"{'an' if name[0] in 'AEIOU' else 'a'}{name}"


def client_name(family: str) -> str:
    """`outfitClient`: the helper of tests that knows an abstract factory alone."""
    return f"{camel(family)}Client"


def is_settled(plan: Plan, product: Product, field: Field) -> bool:
    """Whether options hold a primitive default from the beginning, as there are no kinds that have another one."""
    alone = product.base is None and not product.variants
    hidden = plan.selected_by(product) is not None or plan.selection_of(product.name) is not None
    defaulted = field.default is not None and not field.may_be_absent
    return alone and not hidden and defaulted and field.type in PRIMITIVES


def or_else(field: Field, given: str, default: str) -> str:
    """The given value, or else the default; a primitive one is not boxed for it."""
    if field.type in PRIMITIVES:
        return f"{given} == null ? {default} : {given}"
    return f"Objects.requireNonNullElse({given}, {default})"
