"""Names in Python: reserved words, and what generated code has taken."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from copy import copy

from urform.languages.naming.names import Words, pascal, screaming, snake
from urform.languages.python.words import HARD_KEYWORDS, SOFT_KEYWORDS, STANDARD_MODULES

KEYWORDS = HARD_KEYWORDS | SOFT_KEYWORDS

# What generated modules use by these names; a declared name may not hide them.
USED_TYPES = frozenset(
    (
        "ABC AbstractSet Any Callable ClassVar FrozenMap Generic Literal Lock Mapping Never NoReturn NotRequired Protocol Self "
        "Sequence StrEnum TypeAlias TypeVar LoadedMaker Makings Tally WeakValueDictionary BLANKS INF "
        "TYPE_CHECKING TypedDict Unpack CreationError DuplicateKeyError LimitError MissingFieldsError RefusedError UUID Decimal "
        "UnknownKeyError KeyError ValueError TypeError NotImplemented NotImplementedError"
    ).split()
)
USED_FUNCTIONS = frozenset(
    (
        "abstractmethod boolean calendar_date choice dataclass datetime decimal_of duration_of errors field final given "
        "instance instant_of integer "
        "listed lru_cache maker mapped number all any collected len new own_list own_map own_set put put_at real set_of sized "
        "starting text time_of_day unless_given uuid_of without bool dict float frozenset int isinstance list map object "
        "range set sorted str "
        "super tuple type"
    ).split()
)
MODULES = frozenset(
    {
        "errors",
        "checks",
        "loading",
        "pools",
        "reading",
        "records",
        "testing",
        "tests",
        "text_patterns",
        "told",
        "witnesses",
    }
)
MEMBERS = frozenset({"key", "self", "cls", "name", "value", "clone"})
OF_CLASSES = frozenset(
    {"mro", "register"}
)  # what every (abstract) class has: a dataclass takes it for a default
DECORATORS = frozenset({"classmethod", "property", "staticmethod"})
# Methods of generated classes that nobody calls from outside; what holds a field has other names.
PRIVATE = frozenset({"copy", "clone", "fill", "made"})

TYPES = Words(KEYWORDS, USED_TYPES)
# In a class body a member hides a builtin for the annotations after it.
FIELDS = Words(KEYWORDS, USED_FUNCTIONS, MEMBERS - {"name", "value"}, OF_CLASSES, DECORATORS)
PARAMETERS = Words(KEYWORDS, USED_FUNCTIONS, {"self", "cls", "key", "fields"})
# What modules call: a parameter of the name is not in its way, a function is.
FUNCTIONS = Words(
    KEYWORDS,
    USED_FUNCTIONS,
    DECORATORS,
    {"callable", "each", "hash", "iter", "next", "overload", "print", "repr"},
)
FILES = Words(KEYWORDS, MODULES)
# A package that stands beside its tests may not hide a module that they, or their runner, import.
PACKAGES = Words(
    KEYWORDS,
    STANDARD_MODULES,
    {"tests", "examples", "pytest", "pluggy", "iniconfig", "packaging", "shared", "witnesses"},
)
# A member of an Enum may not be called as what every Enum has.
WORDS = Words({"MRO"})


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
        # `StandInPool` may be the test double of a Pool, and `LoadedMaker` is support code.
        return f"{stem}_" if stem in ("StandIn", "Loaded") else stem

    def field(self, name: str) -> str:
        """A field or operation."""
        return FIELDS.escape(name)

    def slot(self, name: str) -> str:
        """Where a mutable product holds a field."""
        meets = name in PRIVATE or name.startswith("default_")
        return f"_{self.field(name)}{'_' if meets else ''}"

    def parameter(self, name: str) -> str:
        return PARAMETERS.escape(name)

    def function(self, name: str) -> str:
        """A function that is called after a type."""
        function = self._functions.escape(snake(name))
        return self._called.get(function, function)

    def lenient(self, name: str) -> str:
        """The entry of a factory by values that gives nothing where the other one fails."""
        function = f"{snake(name)}_or_none"
        return self._called.get(function, function)

    def module(self, name: str) -> str:
        """The module of a type, without its ending."""
        return FILES.escape(snake(name))

    def package(self, name: str) -> str:
        """The package of a declaration."""
        return PACKAGES.escape(snake(name))

    def word(self, word: str) -> str:
        """A member of an Enum."""
        return WORDS.escape(screaming(word))
