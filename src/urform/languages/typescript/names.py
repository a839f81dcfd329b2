"""Names in TypeScript: reserved words, and what generated code has taken."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from copy import copy

from urform.languages.naming.names import Words, camel, pascal, screaming, snake

KEYWORDS = frozenset(
    (
        "abstract any arguments as async await boolean break case catch class const continue debugger declare default delete "
        "do else enum eval export extends false finally for from function get if implements import in infer instanceof "
        "interface is keyof let module namespace never new null number object of package private protected public readonly "
        "require return satisfies set static string super switch symbol this throw true try type typeof undefined unique "
        "unknown var void while with yield"
    ).split()
)

# What the language has by these names, and generated modules use or would hide.
GLOBALS = frozenset(
    (
        "Array ArrayBuffer BigInt Boolean Date Error EvalError Exclude Extract FinalizationRegistry Function Infinity Intl "
        "Iterable Iterator JSON Map Math NaN NonNullable Number Object Omit Partial Pick Promise Proxy Readonly ReadonlyArray "
        "ReadonlyMap ReadonlySet Record Reflect RegExp Required ReturnType Set String Symbol SyntaxError TypeError URIError "
        "WeakMap WeakRef WeakSet Parameters Capitalize ThisType Awaited Atomics DataView RangeError ReferenceError "
        "CreationError DuplicateKeyError LimitError MissingFieldsError RefusedError UnknownKeyError FrozenMap FrozenSet "
        "INSPECT ImportedMaker Importing LoadedMaker MakerLoader NumberLimits SizeLimits TextLimits TextPattern "
        "CalendarDate Decimal Duration Instant OrderedLimits TimeOfDay Uuid"
    ).split()
)

# Functions of generated modules and of tests.
USED_FUNCTIONS = frozenset(
    (
        "byCodePoint calendarDate choice codePoints compareDecimals compareDurations compareInstants decimalOf "
        "decimalWithin durationFrom "
        "durationOf durationWithin isDecimal isDuration isTimeOfDay microseconds timeOfDayOf timeWithin instantOf "
        "instantWithin isCalendarDate isInstant isUuid uuidOf "
        "confirmed console frozenValues missing "
        "globalThis instance truth ifGiven integer isBlank json list maker map mapValues number ownList ownMap ownSet process "
        "real same set shown text within notSameObject collected equal fixed is kind kinds placed refused repeated saying "
        "sameObject test throwsAgain tryToEmpty unequal weakly without"
    ).split()
)

# What every object, product or stand-in has.
MEMBERS = frozenset(
    (
        "clone constructor copy equals hasOwnProperty isPrototypeOf key propertyIsEnumerable prototype then toJSON "
        "toLocaleString toString valueOf"
    ).split()
)
# What every class has as a function.
STATICS = frozenset("apply arguments bind call caller instance length like name prototype toString".split())

TYPES = Words(KEYWORDS, GLOBALS)
FUNCTIONS = Words(KEYWORDS, USED_FUNCTIONS, {"each", "fields"})
GUARDS = Words(USED_FUNCTIONS)
PROPERTIES = Words(MEMBERS)
STORED = Words(frozenset({"_is", "_isKind"}))  # what makes types nominal
PARAMETERS = Words(KEYWORDS, USED_FUNCTIONS, {"builder", "fields", "value"})
FILES = Words({"check", "errors", "index", "loading", "reading", "records", "testing", "text-patterns"})


class Names:
    """The names of one plan; generated types come first, declared ones that meet them are escaped."""

    def __init__(
        self,
        generated: frozenset[str],
        stand_ins: Iterable[str],
        closed: Iterable[str] = (),
        functions: Iterable[str] = (),
    ) -> None:
        self._types = TYPES | generated
        self._functions = FUNCTIONS | functions
        self._stand_ins = frozenset(stand_ins)
        self._closed = frozenset(closed)
        self._called: Mapping[str, str] = {}

    def calling(self, called: Mapping[str, str]) -> Names:
        """The same names, for code that calls some functions otherwise than they are exported."""
        names = copy(self)
        names._called = called
        return names

    def type(self, name: str) -> str:
        """A product, variant, choice or family."""
        return name if name in self._stand_ins else self._types.escape(pascal(name))

    def value(self, name: str) -> str:
        """The type of values: of a closed base the union of its variants, which can be told apart exhaustively."""
        return f"Any{pascal(name)}" if name in self._closed else self.type(name)

    def stem(self, name: str) -> str:
        """The beginning of type names that are derived from a product's: `Error` gives `ErrorBuilder`."""
        stem = name if name in self._stand_ins else pascal(name)
        # `StandInPool` may be the test double of a Pool; `LoadedMaker` and `ImportedMaker` are support code.
        return f"{stem}_" if stem in ("StandIn", "Loaded", "Imported") else stem

    def member(self, name: str) -> str:
        """A field or operation: a property, which may be called like a word of the language."""
        return PROPERTIES.escape(camel(name))

    def stored(self, name: str) -> str:
        """What holds a field of a mutable product: private to checkers, and there for those who compare all that an "
        "object has."""
        return STORED.escape(f"_{self.member(name)}")

    def parameter(self, name: str) -> str:
        """A parameter or variable."""
        return PARAMETERS.escape(camel(name))

    def function(self, name: str) -> str:
        """A function that is called after a type."""
        function = self._functions.escape(camel(name))
        return self._called.get(function, function)

    def lenient(self, name: str) -> str:
        """The entry of a factory by values that gives nothing where the other one fails."""
        function = f"{camel(name)}OrUndefined"
        return self._called.get(function, function)

    def element(self, product: str, field: str) -> str:
        """The function of a module that checks an element of a field; no declared name has such an underscore."""
        return f"{camel(product)}_{camel(field)}"

    def words(self, choice: str) -> str:
        """The constant that lists the words of a choice."""
        return f"{screaming(choice)}_WORDS"

    def file(self, name: str) -> str:
        """The module of a type, without its ending."""
        return FILES.escape(snake(name).replace("_", "-"))
