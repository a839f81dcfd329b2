"""Types, literals and checks in Python."""

from __future__ import annotations

import datetime
import math
from collections.abc import Iterable, Mapping

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
)
from urform.declaration.values import Absent, Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.languages.naming.names import screaming, snake
from urform.languages.python.names import Names
from urform.languages.python.plain import Plain
from urform.languages.rendering.literals import Characters
from urform.languages.rendering.text_patterns import TextPatterns, forms_of
from urform.plan.characters import is_plain
from urform.plan.messages import tells_text
from urform.plan.model import Field, Limit, Product
from urform.plan.operands import Keyed, Misfit, NoWord, Null, Operand, Several, Strange, Untold, Var, Witness
from urform.plan.whole import Plan

SCALARS: dict[Type, str] = {
    TEXT: "str",
    INTEGER: "int",
    REAL: "float",
    BOOLEAN: "bool",
    DATE: "datetime.date",
    TIME: "datetime.time",
    INSTANT: "datetime.datetime",
    DURATION: "datetime.timedelta",
    DECIMAL: "Decimal",
    UUID: "UUID",
}
CHECKS: dict[Type, str] = {
    TEXT: "text",
    INTEGER: "integer",
    REAL: "real",
    BOOLEAN: "boolean",
    DATE: "calendar_date",
    TIME: "time_of_day",
    INSTANT: "instant_of",
    DURATION: "duration_of",
    DECIMAL: "decimal_of",
    UUID: "uuid_of",
}
MISFITS: dict[Type, str] = {
    TEXT: "untyped(7)",
    INTEGER: "True",
    REAL: "True",
    BOOLEAN: 'untyped("no")',
    UUID: 'untyped("6ba7b810-9dad-11d1-80b4-00c04fd430c8")',
    INSTANT: "datetime.datetime(2026, 12, 1)",  # without a time zone
    DATE: "datetime.datetime(2026, 12, 1)",  # a date to Python, and a point in time
    TIME: "datetime.time(6, 30, tzinfo=datetime.UTC)",  # another time on each day
    DURATION: "untyped(3600)",
    DECIMAL: "untyped(12.5)",
}
# What a type of Python holds that is none, and how messages show it.
UNTOLD = {
    "duration": ("datetime.timedelta(days=100001)", "PT2400024H"),
    "decimal": ('Decimal("NaN")', "NaN"),
}
LONG_TEXT = 40


def key_type(keys: Iterable[str]) -> str:
    """A type of some texts, which editors offer."""
    return f"Literal[{', '.join(map(text_literal, keys))}]"


def text_literal(text: str) -> str:
    """A string literal as `ruff format` leaves it: double quotes, unless single ones need fewer escapes."""
    quote = "'" if text.count('"') > text.count("'") else '"'
    escaped = text.translate(_CHARACTERS)
    return f"{quote}{escaped.replace(quote, BACKSLASH + quote)}{quote}"


def _character(char: str) -> str:
    if is_plain(char):
        return char
    code = ord(char)
    return f"\\x{code:02x}" if code < 256 else f"\\u{code:04x}" if code < 65536 else f"\\U{code:08x}"


BACKSLASH = "\\"
_CHARACTERS = Characters({"\n": "\\n", "\r": "\\r", "\t": "\\t", BACKSLASH: BACKSLASH * 2}, _character)


def told_literal(told: Told) -> str:
    """The call that makes a date, a UUID, or another value that is told by a text."""
    match told.kind:
        case "uuid":
            return f'UUID("{told.text}")'
        case "instant":
            at = datetime.datetime.fromisoformat(told.text)
            parts = [at.year, at.month, at.day, at.hour, at.minute, at.second, at.microsecond]
            while not parts[-1] and len(parts) > len(("year", "month", "day")):
                parts.pop()
            return f"datetime.datetime({', '.join(map(str, parts))}, tzinfo=datetime.UTC)"
        case "time":
            clock = datetime.time.fromisoformat(told.text)
            parts = [clock.hour, clock.minute, clock.second, clock.microsecond]
            while not parts[-1] and len(parts) > len(("hour", "minute")):
                parts.pop()
            return f"datetime.time({', '.join(map(str, parts))})"
        case "duration":
            return f"datetime.timedelta({', '.join(f'{unit}={count}' for unit, count in units(told.text))})"
        case "decimal":
            return f'Decimal("{told.text}")' if "." in told.text else f"Decimal({told.text})"
    return f"datetime.date({', '.join(str(int(part)) for part in told.text.split('-'))})"


def real_literal(number: float) -> str:
    """A float literal that reads back as the same double."""
    return repr(float(number)).replace("e+", "e")


class CopyNames:
    """The names of the methods that copy: one serves for both where a clone starts nothing again."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan

    def clone(self, product: Product) -> str:
        """The method that clones a product."""
        if self._plan.prototype_of(product.base or product.name) is not None:
            return "clone"
        return "_clone" if self._plan.restarts(product) else "_copy"

    def copy(self, product: Product) -> str:
        """The method that copies a product on the way in, all of it."""
        return "_copy" if self._plan.restarts(product) else self.clone(product)


class Expressions:
    """Python code for types, values and checks of one plan."""

    def __init__(self, plan: Plan, names: Names) -> None:
        self._plan = plan
        self._names = names
        self.copying = CopyNames(plan)
        self.patterns = TextPatterns(plan, lambda name: f"{screaming(name)}_PATTERN")
        self._plain = Plain(plan, names.type, self._bound, self.patterns)

    # --- types ----------------------------------------------------------------------------------------

    def type(self, type_: Type) -> str:
        """The annotation of a type, as it is taken and held."""
        match type_:
            case ChoiceType(name) | ProductType(name):
                return self._names.value(name)
            case ListOf(element):
                return f"Sequence[{self.type(element)}]"
            case SetOf(element):
                return f"AbstractSet[{self.type(element)}]"
            case MapOf(key, element):
                return f"Mapping[{self.type(key)}, {self.type(element)}]"
            case MaybeOf(element):
                return f"{self.type(element)} | None"
            case NothingType():
                return "None"
        return SCALARS[type_]

    def field_type(self, field: Field) -> str:
        """The annotation of a field."""
        return self.type(field.type) + (" | None" if field.may_be_absent else "")

    def held_type(self, field: Field) -> str:
        """The annotation of what a mutable product hands out: the container that it holds, which nobody can change."""
        match field.type:
            case ListOf(element):
                return f"tuple[{self.type(element)}, ...]"
            case SetOf(element):
                return f"frozenset[{self.type(element)}]"
        return self.field_type(field)

    def mutable_type(self, type_: Type) -> str:
        """The annotation of a caller's own variable."""
        match type_:
            case ListOf(element):
                return f"list[{self.type(element)}]"
            case SetOf(element):
                return f"set[{self.type(element)}]"
            case MapOf(key, element):
                return f"dict[{self.type(key)}, {self.type(element)}]"
        return self.type(type_)

    # --- values ---------------------------------------------------------------------------------------

    def answer(self, answer: Value | Absent) -> str:
        """What an operation returns."""
        return "None" if isinstance(answer, Absent) else self.value(answer)

    def value(self, value: Value) -> str:
        """A literal, or the expression that makes the value; collections as they are held."""
        match value:
            case Text(text):
                if len(text) > LONG_TEXT and len(set(text)) == 1:
                    return f"{text_literal(text[0])} * {len(text)}"
                return text_literal(text)
            case Integer(number):
                return str(number)
            case Real(number):
                return real_literal(number)
            case Boolean(flag):
                return str(flag)
            case Told():
                return told_literal(value)
            case Word(choice, word):
                return f"{self._names.type(choice)}.{self._names.word(word)}"
            case Items(ListOf(), items):
                return self._tuple([self.value(item) for item in items])
            case Items(SetOf(), items):
                return (
                    f"frozenset({{{', '.join(self.value(item) for item in items)}}})"
                    if items
                    else "frozenset()"
                )
            case Entries(_, entries):
                inner = ", ".join(f"{self.value(key)}: {self.value(item)}" for key, item in entries)
                return f"FrozenMap({{{inner}}})"
            case Made(product, fields):
                return self.make(product, fields)
        raise TypeError(f"no value: {value}")

    def _tuple(self, items: list[str]) -> str:
        return f"({', '.join(items)}{',' if len(items) == 1 else ''})"

    def make(self, product: str, arguments: Mapping[str, Operand]) -> str:
        """A call of the constructor, or of the factory that hides it."""
        declared = self._plan.products.get(product)
        selection = self._plan.selection_of(product) or (
            self._plan.selected_by(declared) if declared is not None else None
        )
        given = ", ".join(
            f"{self._names.field(name)}={self.operand(value)}" for name, value in arguments.items()
        )
        called = (
            self._names.function(selection.product) if selection is not None else self._names.type(product)
        )
        return f"{called}({given})"

    def functions_in(self, value: Operand | None) -> frozenset[str]:
        """The functions that are called to make a value."""
        match value:
            case Made(product, fields):
                declared = self._plan.products[product]
                selection = self._plan.selection_of(product) or self._plan.selected_by(declared)
                own = {self._names.function(selection.product)} if selection is not None else set()
                return frozenset(own).union(*map(self.functions_in, fields.values()))
            case Items(_, items):
                return frozenset().union(*map(self.functions_in, items))
            case Entries(_, entries):
                return frozenset().union(*(self.functions_in(item) for _, item in entries))
        return frozenset()

    def operand(self, operand: Operand) -> str:
        """A value that a test hands in, as code, collections as a caller writes them."""
        match operand:
            case Text() | Integer() | Real() | Boolean() | Told() | Word() | Made():
                return self.value(operand)
            case Var(name):
                return name
            case Witness(product, second):
                return f"{witness_name(product, second)}()"
            case Null():
                return "untyped(None)"
            case Misfit(type_):
                return self._misfit(type_)
            case Strange(number):
                return "10**400" if number == "huge" else f'float("{number}")'
            case Untold(kind):
                return UNTOLD[kind][0]
            case NoWord():
                return 'untyped("no word of it")'
            case Several(type_, items):
                return self._several(type_, [self.operand(item) for item in items])
            case Keyed(_, entries) | Entries(_, entries):
                return f"{{{', '.join(f'{self.value(key)}: {self.operand(item)}' for key, item in entries)}}}"
            case Items(type_, items):
                return self._several(type_, [self.operand(item) for item in items])
        raise TypeError(f"Python cannot express {operand}")

    def _several(self, type_: Type, items: list[str]) -> str:
        if isinstance(type_, SetOf):
            return f"{{{', '.join(items)}}}" if items else "set()"
        if len(items) > 3 and len(set(items)) == 1:
            return f"[{items[0]}] * {len(items)}"
        return f"[{', '.join(items)}]"

    def _misfit(self, type_: Type) -> str:
        """A value that is not of a type; `untyped` where a type checker would say so."""
        if type_ in MISFITS:
            return MISFITS[type_]
        match type_:
            case ListOf(element):
                return '"text"' if element == TEXT else 'untyped("text")'
            case SetOf():
                return 'untyped(["text"])'
        return "untyped({})" if isinstance(type_, ProductType) else "untyped([])"

    def element(self, operand: Operand) -> str:
        """An element as a collection holds it: inner lists are tuples."""
        match operand:
            case Several(ListOf(), items) | Items(ListOf(), items):
                return self._tuple([self.element(item) for item in items])
            case Keyed(_, entries) | Entries(_, entries):
                return f"{{{', '.join(f'{self.value(key)}: {self.element(item)}' for key, item in entries)}}}"
        return self.operand(operand)

    def default(self, field: Field) -> str | None:
        """The default of a field as an expression, None where it is required."""
        if field.required:
            return None
        if field.default is not None:
            return self.value(field.default)
        match field.type:
            case ListOf():
                return "()"
            case MapOf():
                return "FrozenMap({})"
            case SetOf():
                return "frozenset()"
        return "None"

    # --- checks ---------------------------------------------------------------------------------------

    def checked_value(self, field: Field, value: str) -> str | None:
        """The expression that checks a value and gives it as it is held; None where any value is held as it is."""
        return self._checked_value(field.type, value, field, field.limits, "")

    def plain(self, field: Field, value: str) -> tuple[str, ...]:
        """The conditions under which a value needs no check; none where it always needs one."""
        return self._plain.conditions(field.type, value, field.limits)

    def known(self, field: Field, value: str) -> str | None:
        """The call that refuses what is no such product, before it is asked for a copy of itself."""
        inner = self._plan.products.get(str(field.type))
        if inner is None or not inner.mutable:
            return None
        return f'instance("{field.owner}", "{field.name}", {value}, {self._names.type(inner.name)})'

    def of_type(self, field: Field, value: str, owner: str) -> str:
        """The call that refuses a value of another type, whatever its limits and elements."""
        if isinstance(field.type, ProductType):
            return f'instance("{owner}", "{field.name}", {value}, {self._names.type(field.type.name)})'
        if field.type == REAL:
            return f'number("{owner}", "{field.name}", {value})'
        functions = {ListOf: "listed", SetOf: "set_of", MapOf: "mapped"}
        function = CHECKS.get(field.type) or functions[type(field.type)]
        secret = ", secret=True" if field.secret and field.type == TEXT else ""
        return f'{function}("{owner}", "{field.name}", {value}{secret})'

    def changes(self, field: Field) -> bool:
        """Whether what is held differs from what is given, be it only in its container."""
        return (
            field.type in (INSTANT, DURATION, DECIMAL, REAL)
            or isinstance(field.type, Collection)
            or self._plan.holds_mutable(field.type)
        )

    def _checked_value(
        self, type_: Type, value: str, field: Field, limits: tuple[Limit, ...], within: str
    ) -> str | None:
        at = f'"{field.owner}", "{field.name}", {value}'
        given = "".join(
            f", {limit.name}={self._bound(limit)}"
            for limit in limits
            if limit.bound is not None and limit.form is None
        )
        given += ", unless_empty=True" if any(limit.unless_empty for limit in limits) else ""
        given += ", secret=True" if field.secret and tells_text(type_, limits) else ""
        given = (f', within="{within}"' if within else "") + given
        match type_:
            case ChoiceType(name):
                return f"choice({at}, {self._names.type(name)}{given})"
            case ProductType(name):
                declared = self._plan.product(name)
                if declared.mutable and not within:
                    return self._copied(type_, value)  # once it is known for one
                return f"instance({at}, {self._names.type(name)}{given})"
            case ListOf() | SetOf() | MapOf():
                function = {ListOf: "listed", SetOf: "set_of", MapOf: "mapped"}[type(type_)]
                elements = self._elements(type_, self._element_name(field, value), field, not within)
                return f"{function}({at}{elements}{given})"
        check = CHECKS.get(type_)
        return self._of_form(f"{check}({at}{given})", field, limits, within) if check else None

    def _of_form(self, checked: str, field: Field, limits: tuple[Limit, ...], within: str) -> str:
        """A checked text, held against its patterns."""
        inside = f', within="{within}"' if within else ""
        inside += ", secret=True" if field.secret else ""
        for limit in forms_of(limits):
            checked = f'{self.patterns.of(limit)}.check("{field.owner}", "{field.name}", {checked}{inside})'
        return checked

    def _elements(self, type_: ListOf | SetOf | MapOf, name: str, field: Field, outermost: bool) -> str:
        """The arguments of a collection's check that are about its elements and keys."""
        limits = field.each if outermost else ()
        exact = self._element_type(type_.element, limits) if not field.secret else ""
        inner = (
            self._copied(type_.element, name)
            if exact
            else self._checked_value(type_.element, name, field, limits, "each.")
        )
        each = f", {self._function(type_.element, name, inner)}" if inner else ""
        return each + self._keys(type_, field) + (f", of={exact}" if exact else "")

    def _element_type(self, type_: Type, limits: tuple[Limit, ...]) -> str:
        """The class of elements that are only to be of a type; none where each has to be looked at."""
        if isinstance(type_, ProductType):
            return self._names.type(type_.name)
        return "str" if type_ == TEXT and not limits else ""

    def _copied(self, type_: Type, name: str) -> str | None:
        """The expression that copies an element that may change."""
        product = self._plan.products.get(str(type_))
        return f"{name}.{self.copying.copy(product)}()" if product is not None and product.mutable else None

    def _function(self, element: Type, name: str, inner: str) -> str:
        """A function of an element; a method as it is, where no variant has another."""
        product = self._plan.products.get(str(element))
        if product is not None and not product.abstract and product.mutable:
            return f"{self._names.type(product.name)}.{self.copying.copy(product)}"
        return f"lambda {name}: {inner}"

    def _keys(self, type_: Type, field: Field) -> str:
        if not isinstance(type_, MapOf) or not isinstance(type_.key, ChoiceType):
            return ""
        words = self._names.type(type_.key.name)
        return f', keys=lambda key: choice("{field.owner}", "{field.name}", key, {words}, within="key.")'

    def _element_name(self, field: Field, value: str) -> str:
        name = self._names.parameter(field.item or "each")
        return name if name != value else "inner"

    def _bound(self, limit: Limit) -> str:
        match limit.bound:
            case tuple(words):
                return self._tuple(
                    [text_literal(word) if isinstance(word, str) else str(word) for word in words]
                )
            case float(number):
                return real_literal(number)
            case Told() as told:
                return told_literal(told)
        return str(limit.bound)

    def bound(self, bound: object) -> str:
        """The bound of an expected failure."""
        if isinstance(bound, float) and math.isfinite(bound):
            return real_literal(bound)
        if isinstance(bound, tuple):
            return self._bound(Limit("one_of", bound))
        if isinstance(bound, str):
            return text_literal(bound)
        return told_literal(bound) if isinstance(bound, Told) else repr(bound)


def witness_name(product: str, second: bool) -> str:
    """`a_buoy`, `another_buoy`: the helper that makes a witness."""
    word = snake(product)
    return f"another_{word}" if second else f"{'an' if word[0] in 'aeiou' else 'a'}_{word}"


def client_name(family: str) -> str:
    """`client_of_outfit`: the helper of tests that knows an abstract factory alone. It never begins like a test."""
    return f"client_of_{snake(family)}"
