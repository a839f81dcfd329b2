"""Types, literals and checks in TypeScript."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from urform.dataclasses import dataclass
from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
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
)
from urform.declaration.values import Absent, Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.languages.naming.names import camel, screaming
from urform.languages.rendering.literals import Characters
from urform.languages.rendering.text_patterns import TextPatterns, forms_of
from urform.languages.typescript.names import GUARDS, KEYWORDS, Names
from urform.languages.typescript.plain import OF_TYPE
from urform.plan.characters import is_plain
from urform.plan.messages import tells_text
from urform.plan.model import Field, Limit, Product, Selection
from urform.plan.operands import Keyed, Misfit, NoWord, Null, Operand, Several, Strange, Untold, Var, Witness
from urform.plan.whole import Plan

SCALARS: dict[Type, str] = {
    TEXT: "string",
    INTEGER: "number",
    REAL: "number",
    BOOLEAN: "boolean",
    DATE: "CalendarDate",
    TIME: "TimeOfDay",
    INSTANT: "Instant",
    DURATION: "Duration",
    DECIMAL: "Decimal",
    UUID: "Uuid",
}
CHECKS: dict[Type, str] = {
    TEXT: "text",
    INTEGER: "integer",
    REAL: "real",
    BOOLEAN: "truth",
    DATE: "calendarDate",
    TIME: "timeWithin",
    INSTANT: "instantWithin",
    DURATION: "durationWithin",
    DECIMAL: "decimalWithin",
    UUID: "uuidOf",
}
MISFITS: dict[Type, str] = {
    TEXT: "7 as never",
    INTEGER: "1.5",
    REAL: '"7" as never',
    BOOLEAN: '"no" as never',
    **dict.fromkeys(TOLD, "7 as never"),
}
STRANGE = {"nan": "NaN", "infinity": "Infinity", "-infinity": "-Infinity"}
LONG_TEXT = 40
NO_SUCH = {name: kind.none[0] for name, kind in KINDS.items()}  # what the compiler takes for one
FEW = 3  # equal elements that are written out

_ESCAPES = {"\n": "\\n", "\r": "\\r", "\t": "\\t", "\\": "\\\\"}


def any_of(keys: Iterable[str]) -> str:
    """A type of any text that has an editor offer some."""
    return " | ".join([*map(text_literal, keys), "(string & {})"])


def text_literal(text: str) -> str:
    """A string literal as prettier leaves it: double quotes, unless single ones need fewer escapes."""
    quote = "'" if text.count('"') > text.count("'") else '"'
    return f"{quote}{text.translate(_CHARACTERS).replace(quote, chr(92) + quote)}{quote}"


def _character(char: str) -> str:
    if is_plain(char):
        return char
    code = ord(char)
    return f"\\x{code:02x}" if code < 256 else f"\\u{code:04x}" if code < 65536 else f"\\u{{{code:x}}}"


_CHARACTERS = Characters(_ESCAPES, _character)


def real_literal(number: float) -> str:
    """A number that reads back as the same double, as short as prettier leaves it."""
    return repr(float(number)).removesuffix(".0").replace("e+", "e").replace("e-0", "e-")


def listed(properties: Iterable[str]) -> str:
    """An object literal."""
    inner = ", ".join(properties)
    return f"{{ {inner} }}" if inner else "{}"


class CopyNames:
    """The names of the methods that copy: one serves for both where a clone starts nothing again."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan

    def clone(self, product: Product) -> str:
        """The method that clones a product."""
        if self._plan.restarts(product) or self._plan.prototype_of(product.base or product.name) is not None:
            return "clone"
        return "copy"

    def copy(self, product: Product) -> str:
        """The method that copies a product on the way in, all of it."""
        return "copy" if self._plan.restarts(product) else self.clone(product)


@dataclass(frozen=True, slots=True)
class ElementFunction:
    """A function of an element, which gives it as it is held."""

    name: str
    parameter: str
    type: str
    result: str


def _body(name: str, expression: str) -> str:
    """The body of an arrow function of an element, in parentheses where it begins with a condition."""
    return (
        f"({expression})" if expression.startswith((f"{name} instanceof ", f"typeof {name} ")) else expression
    )


class Expressions:
    """TypeScript code for types, values and checks of one plan."""

    def __init__(self, plan: Plan, names: Names) -> None:
        self._plan = plan
        self._names = names
        self.copying = CopyNames(plan)
        self.patterns = TextPatterns(plan, lambda name: f"{screaming(name)}_PATTERN")

    # --- types ----------------------------------------------------------------------------------------

    def type(self, type_: Type) -> str:
        """A type as it is taken and held."""
        match type_:
            case ChoiceType(name) | ProductType(name):
                return self._names.value(name)
            case ListOf(element):
                return f"readonly {self._element(element)}[]"
            case SetOf(element):
                return f"ReadonlySet<{self.type(element)}>"
            case MapOf(key, element):
                return f"ReadonlyMap<{self.type(key)}, {self.type(element)}>"
            case MaybeOf(element):
                return f"{self.type(element)} | undefined"
            case NothingType():
                return "void"
        return SCALARS[type_]

    def _element(self, element: Type) -> str:
        type_ = self.type(element)
        return f"({type_})" if type_.startswith("readonly ") else type_

    def held_type(self, field: Field) -> str:
        """The type of a property."""
        return self.type(field.type) + (" | undefined" if field.may_be_absent else "")

    def mutable_type(self, type_: Type) -> str:
        """The type of a caller's own variable."""
        match type_:
            case ListOf(element):
                return f"{self._element(element)}[]"
            case SetOf(element):
                return f"Set<{self.type(element)}>"
            case MapOf(key, element):
                return f"Map<{self.type(key)}, {self.type(element)}>"
        return self.type(type_)

    # --- values ---------------------------------------------------------------------------------------

    def answer(self, answer: Value | Absent) -> str:
        """What an operation returns."""
        return "undefined" if isinstance(answer, Absent) else self.value(answer)

    def value(self, value: Value) -> str:
        """A literal, or the expression that makes the value."""
        match value:
            case Text(text):
                if len(text) > LONG_TEXT and len(set(text)) == 1:
                    return f"{text_literal(text[0])}.repeat({len(text)})"
                return text_literal(text)
            case Integer(number):
                return str(number)
            case Real(number):
                return real_literal(number)
            case Boolean(flag):
                return "true" if flag else "false"
            case Word(_, word) | Told(_, word):
                return text_literal(word)
            case Items(type_, items):
                told = self.mutable_type(type_)  # what the compiler infers is wider, for words above all
                return self._several(type_, [self.value(item) for item in items], told)
            case Entries(type_, entries):
                told = self.mutable_type(type_)
                return self._keyed([(self.value(key), self.value(item)) for key, item in entries], told)
            case Made(product, fields):
                return self.make(product, fields)
        raise TypeError(f"no value: {value}")

    def operand(self, operand: Operand) -> str:
        """A value that a test hands in, as code."""
        match operand:
            case Text() | Integer() | Real() | Boolean() | Told() | Word() | Made():
                return self.value(operand)
            case Var(name):
                return name
            case Witness(product, second):
                return f"{witness_name(product, second)}()"
            case Null():
                return "null as never"
            case Misfit(type_) if type_ in MISFITS:
                return MISFITS[type_]
            case Misfit(ListOf()):
                return '"text" as never'
            case Misfit(SetOf()):
                return '["text"] as never'
            case Misfit():
                return "{} as never"
            case Strange(number) if number in STRANGE:
                return STRANGE[number]
            case Untold(kind):
                return text_literal(NO_SUCH[kind])
            case NoWord():
                return '"no word of it" as never'
            case Items(type_, items):
                return self._several(type_, [self.operand(item) for item in items])
            case Several(type_, items):
                shown = [self.operand(item) for item in items]
                if isinstance(type_, ListOf) and len(shown) > FEW and len(set(shown)) == 1:
                    return f"repeated({shown[0]}, {len(shown)})"
                return self._several(type_, shown)
            case Keyed(type_, entries) | Entries(type_, entries):
                narrow = len(entries) > 1 and isinstance(type_, MapOf) and _is_narrow(type_.element)
                told = self.mutable_type(type_) if narrow or self._is_mixed(type_) else "Map"
                return self._keyed([(self.value(key), self.operand(item)) for key, item in entries], told)
        raise TypeError(f"TypeScript cannot express {operand}")

    def untold(self, type_: Type, code: str) -> str:
        """A new set or map without its type arguments, where a type stands beside it."""
        if not isinstance(type_, (MapOf, SetOf)):
            return code
        explicit = f"new {self.mutable_type(type_)}"
        kind = "Map" if isinstance(type_, MapOf) else "Set"
        return f"new {kind}{code.removeprefix(explicit)}" if code.startswith(f"{explicit}(") else code

    def _is_mixed(self, type_: Type) -> bool:
        """Whether values of a type may be of several classes, of which the compiler would take the first."""
        product = self._plan.product_in(type_)
        return product is not None and product.abstract

    def _several(self, type_: Type, items: list[str], told: str = "Set") -> str:
        inner = f"[{', '.join(items)}]"
        if isinstance(type_, SetOf):
            return f"new {told}({inner if items else ''})"
        return inner

    def _keyed(self, entries: list[tuple[str, str]], told: str = "Map") -> str:
        inner = ", ".join(f"[{key}, {value}]" for key, value in entries)
        return f"new {told}([{inner}])" if entries else f"new {told}()"

    def make(self, product: str, arguments: Mapping[str, Operand]) -> str:
        """A call of the constructor, or of the factory that hides it."""
        declared = self._plan.product(product)
        selection = self._plan.selection_of(product) or self._plan.selected_by(declared)
        if selection is not None:
            return f"{self._names.function(selection.product)}({self.given(selection, arguments)})"
        if declared.single:
            return f"{self._names.type(product)}.instance"
        return f"new {self._names.type(product)}({self.given(declared, arguments)})"

    def given(self, what: Product | Selection, arguments: Mapping[str, Operand]) -> str:
        """The object of fields that some arguments come to; nothing where none is given."""
        return self.fields({name: self.operand(value) for name, value in arguments.items()})

    def fields(self, given: Mapping[str, str]) -> str:
        """An object of fields; nothing where none is given."""
        return listed(self.property(name, value) for name, value in given.items()) if given else ""

    def property(self, name: str, value: str) -> str:
        """A property of an object literal, in its short form where its value is called like it."""
        member = self._names.member(name)
        return member if member == value and member not in KEYWORDS else f"{member}: {value}"

    # --- checks ---------------------------------------------------------------------------------------

    def checked_value(self, field: Field, value: str) -> str | None:
        """The expression that checks a value and gives it as it is held; None where any value is held as it is."""
        return self._checked_value(field.type, value, field, field.limits, "")

    def _checked_value(
        self, type_: Type, value: str, field: Field, limits: tuple[Limit, ...], within: str
    ) -> str | None:
        at = f'"{field.owner}", "{field.name}", {value}'
        bounds = self.bounds(field, type_, limits)
        inside = f'"{within}"' if within else ""
        match type_:
            case ChoiceType(name):
                return f"choice({_arguments(at, self._names.words(name), inside)})"
            case ProductType(name):
                declared = self._plan.products[name]
                hidden, of = self._guard(name)
                checked = self._product(name, at, inside)
                copied = f"{value}.{self.copying.copy(declared)}()" if declared.mutable else value
                if inside and not hidden:  # of each element, so it is seen here, which is faster than a call
                    return f"{value} instanceof {of} ? {copied} : {checked}"
                return f"{checked}{copied.removeprefix(value)}"
            case ListOf(element) | SetOf(element) | MapOf(_, element):
                name = self._element_name(field, value)
                if not within:
                    each = "undefined" if self.element(field) is None else self._element_function(field)
                else:
                    inner = self._checked_value(element, name, field, (), "each.")
                    each = f"({name}) => {_body(name, inner)}" if inner else "undefined"
                keys = self._keys(type_, field)
                shown = [each, listed(bounds), inside, keys] if keys else [each, listed(bounds), inside]
                return f"{_collector(type_)}({_arguments(at, *_without_end(shown))})"
        scalar = CHECKS.get(type_)
        if scalar is None:
            return None
        limits_ = [] if type_ == BOOLEAN else [listed(bounds)]
        checked = f"{scalar}({_arguments(at, *_without_end([*limits_, inside]))})"
        if inside and not limits and type_ == TEXT:  # an element, as products are seen above
            return f"{OF_TYPE[TEXT].format(value)} ? {value} : {checked}"
        return self._of_form(checked, field, limits, inside)

    def _of_form(self, checked: str, field: Field, limits: tuple[Limit, ...], inside: str) -> str:
        """A checked text, held against its patterns."""
        more = _without_end([inside or ('""' if field.secret else ""), "true" if field.secret else ""])
        for limit in forms_of(limits):
            at = f'"{field.owner}", "{field.name}", {checked}'
            checked = f"{self.patterns.of(limit)}.check({_arguments(at, *more)})"
        return checked

    def bounds(self, field: Field, type_: Type, limits: tuple[Limit, ...]) -> list[str]:
        """The properties of an object of limits: `min: 0`; what the form of texts is stands elsewhere."""
        found = [
            f"{camel(limit.name)}: {self.bound(limit.bound)}"
            for limit in limits
            if limit.bound is not None and limit.form is None
        ]
        found += ["unlessEmpty: true"] if any(limit.unless_empty for limit in limits) else []
        return found + (["secret: true"] if field.secret and tells_text(type_, limits) else [])

    def held_again(self, field: Field, value: str, limits: tuple[Limit, ...]) -> str:
        """The expression that gives a collection as it is held, whose elements have passed their checks."""
        bounds = listed(self.bounds(field, field.type, limits))
        shown = _without_end(["undefined", bounds, "", self._keys(field.type, field)])
        at = f'"{field.owner}", "{field.name}", {value}'
        return f"{_collector(field.type)}({_arguments(at, *shown)})"

    def element(self, field: Field) -> ElementFunction | None:
        """The function that checks an element of a collection as it is held, if there is anything to check.

        It stands beside the class: one that is made anew in each setter and constructor costs more than it does.
        """
        if not isinstance(field.type, Collection):
            return None
        name = self._element_name(field, "value")
        inner = self._checked_value(field.type.element, name, field, field.each, "each.")
        if inner is None:
            return None
        return ElementFunction(self._element_function(field), name, self.type(field.type.element), inner)

    def _element_function(self, field: Field) -> str:
        return self._names.element(field.owner, field.name)

    def of_type(self, field: Field, value: str, owner: str) -> str:
        """The call that refuses a value of another type, whatever its limits and elements."""
        at = f'"{owner}", "{field.name}", {value}'
        if isinstance(field.type, ProductType):
            return self._product(field.type.name, at, "")
        if field.type == REAL:
            return f"number({at})"
        if field.secret and field.type == TEXT:
            return f"text({at}, {{ secret: true }})"
        return f"{CHECKS.get(field.type) or _collector(field.type)}({at})"

    def _guard(self, product: str) -> tuple[bool, str]:
        """Whether the constructor of a product is hidden, and the function or the class that knows one."""
        type_name = self._names.type(product)
        hidden = self._plan.selected_by(self._plan.products[product]) or self._plan.selection_of(product)
        return bool(hidden), guard_name(type_name) if hidden else type_name

    def _product(self, product: str, at: str, inside: str) -> str:
        hidden, of = self._guard(product)
        return f"{'confirmed' if hidden else 'instance'}({_arguments(at, of, inside)})"

    def _keys(self, type_: Type, field: Field) -> str:
        if not isinstance(type_, MapOf) or not isinstance(type_.key, ChoiceType):
            return ""
        words = self._names.words(type_.key.name)
        return f'(key) => choice("{field.owner}", "{field.name}", key, {words}, "key.")'

    def _element_name(self, field: Field, value: str) -> str:
        name = self._names.parameter(field.item or "each")
        return name if name != value else "inner"

    def bound(self, bound: object) -> str:
        """The bound of a limit as data."""
        match bound:
            case tuple(words):
                return f"[{', '.join(text_literal(w) if isinstance(w, str) else str(w) for w in words)}]"
            case float(number):
                return real_literal(number)
            case bool(flag):
                return "true" if flag else "false"
            case str(text) | Told(_, text):
                return text_literal(text)
        return "undefined" if bound is None else str(bound)

    def compared_directly(self, field: Field) -> bool:
        """Whether two stored values are equal if, and only if, they are identical."""
        return not isinstance(field.type, (Collection, ProductType))


def _is_narrow(type_: Type) -> bool:
    """Whether the compiler takes a value for one of its own words only: `new Set(["port"])` is a `Set<"port">`."""
    match type_:
        case ListOf(element):
            return _is_narrow(element)
        case SetOf(ChoiceType()) | MapOf(ChoiceType(), _) | MapOf(_, ChoiceType()):
            return True
        case MapOf(_, element):
            return _is_narrow(element)
    return False


def _collector(type_: Type) -> str:
    return {ListOf: "list", SetOf: "set", MapOf: "map"}[type(type_)]


def _without_end(parts: list[str]) -> list[str]:
    """Arguments without those at the end that say nothing; others are there for their place."""
    while parts and parts[-1] in ("", "{}", "undefined"):
        parts = parts[:-1]
    return [part or '""' for part in parts]


def _arguments(*parts: str) -> str:
    return ", ".join(part for part in parts if part)


def witness_name(product: str, second: bool) -> str:
    """`aBuoy`, `anotherBuoy`: the helper that makes a witness."""
    word = camel(product)
    article = "another" if second else "an" if word[0] in "aeiou" else "a"
    return article + word[:1].upper() + word[1:]


def guard_name(type_: str) -> str:
    """`isTideOffset`: tells a product whose class is hidden."""
    return GUARDS.escape(f"is{type_}")


def client_name(family: str) -> str:
    """`clientOfOutfit`: the helper of tests that knows an abstract factory alone."""
    word = camel(family)
    return f"clientOf{word[:1].upper()}{word[1:]}"
