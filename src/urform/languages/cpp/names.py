"""Names in C++: reserved words, what generated code has taken, and the one rule by which they are kept apart."""

from __future__ import annotations

from urform.languages.naming.names import Words, pascal, snake

KEYWORDS = frozenset(
    (
        "alignas alignof and and_eq asm auto bitand bitor bool break case catch char char8_t char16_t char32_t class "
        "compl concept const consteval constexpr constinit const_cast continue co_await co_return co_yield decltype "
        "default delete do double dynamic_cast else enum explicit export extern false float for friend goto if inline "
        "int long mutable namespace new noexcept not not_eq nullptr operator or or_eq private protected public register "
        "reinterpret_cast requires return short signed sizeof static static_assert static_cast struct switch template "
        "this thread_local throw true try typedef typeid typename union unsigned using virtual void volatile wchar_t "
        "while xor xor_eq final override import module"
    ).split()
)
# Macros of the standard headers, and what they bring into every namespace; formatters take `elif` for a directive.
MACROS = frozenset(
    (
        "assert elif errno stdin stdout stderr major minor makedev linux unix EOF NULL BUFSIZ FILENAME_MAX RAND_MAX SEEK_CUR "
        "SEEK_END SEEK_SET TEST TEST_F FAIL SUCCEED INFINITY NAN HUGE_VAL EDOM ERANGE EILSEQ"
    ).split()
)
USED_TYPES = frozenset(
    (
        "Bound Found CreationError MissingError LimitError UnknownKeyError DuplicateKeyError RefusedError Owned Shared Shown Uuid "
        "Decimal Duration Instant TimeOfDay Pool T U K Key Maker Slot Any "
        # What the class that a test is derives from has.
        "Test Run Setup SetUp TearDown SetUpTestSuite TearDownTestSuite SetUpTestCase TearDownTestCase TestBody HasFailure "
        "HasFatalFailure HasNonfatalFailure IsSkipped RecordProperty"
    ).split()
)
# Namespaces, and functions that products call.
HELPERS = frozenset(
    "std detail testing kind options out other that made make make_or_null to_string key keys maker name names found "
    "missing record builder".split()
)
# What every product has, or a class of its kind.
USED_METHODS = frozenset(
    "key clone duplicate equals show visit make make_or_null creator from of find asked record build like own_hash".split()
)

# How members of products and builders begin that are generated for fields, elements and presets: what meets one is escaped.
GENERATED = ("add_", "clear_", "from_", "mutable_", "put_", "remove_", "set_")

TYPES = Words(KEYWORDS, MACROS, USED_TYPES)
LOCALS = Words(KEYWORDS, MACROS, HELPERS)
METHODS = Words(KEYWORDS, MACROS, USED_METHODS)
OPTIONS = Words(KEYWORDS, MACROS, {"from"})
ESCAPED = KEYWORDS | MACROS | HELPERS | USED_METHODS
NAMESPACES = KEYWORDS | MACROS | HELPERS | {"posix", "gtest"}

# What the support code of tests offers.
TEST_HELPERS = frozenset(
    (
        "problems said of_names of_items records "
        "told missing limit unknown taken refused refusal is_a as kind_of hashed until together within detail std testing to_string"
    ).split()
)


class Names:
    """The names of one plan; generated ones come first, declared ones that meet them are escaped."""

    def __init__(self, generated: frozenset[str], files: frozenset[str]) -> None:
        self._types = TYPES | generated
        self._files = Words(files)

    def type(self, name: str) -> str:
        """A product, variant, choice or family."""
        return name if name.startswith("StandIn") else self._types.escape(pascal(name))

    def derived(self, name: str, ending: str) -> str:
        """A type that is called after another, whatever that is called here."""
        return f"{pascal(name)}{ending}"

    def word(self, word: str) -> str:
        """A word of a choice."""
        return Words(KEYWORDS, MACROS).escape(word)

    def parse(self, choice: str) -> str:
        """The function that reads a word of a choice."""
        return f"parse_{snake(choice)}"

    def every(self, choice: str) -> str:
        """The constant that lists the words of a choice."""
        return f"every_{snake(choice)}"

    def local(self, name: str) -> str:
        """A parameter or local variable."""
        return LOCALS.escape(snake(name))

    def stored(self, name: str) -> str:
        """A data member: `label_`, or `held_name` where an accessor or parameter is called `name_`."""
        escaped = name in ESCAPED or name == "kind" or name.startswith(GENERATED)
        return f"held_{snake(name)}" if escaped else f"{snake(name)}_"

    def option(self, name: str) -> str:
        """A member of an options struct."""
        return OPTIONS.escape(snake(name))

    def method(self, name: str, taken: frozenset[str] = frozenset()) -> str:
        """An accessor, an operation or a role; `taken` are generated members beside it."""
        return (METHODS | taken).escape(snake(name))

    def file(self, name: str) -> str:
        """The header and the source of a type."""
        return self._files.escape(snake(name))
