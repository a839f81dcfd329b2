"""Names in Rust: reserved words, the prelude, and what generated code has taken."""

from __future__ import annotations

from urform.languages.naming.names import Words, pascal, snake

KEYWORDS = frozenset(
    (
        "as async await break const continue crate dyn else enum extern false fn for if impl in let loop match mod "
        "move mut pub ref return self static struct super trait true type unsafe use where while abstract become box "
        "do final gen macro override priv try typeof union unsized virtual yield"
    ).split()
)
# What the prelude brings, what derives and generated code name, and the types of the support code.
USED_TYPES = frozenset(
    (
        "Any Arc AsMut AsRef AtomicU64 Barrier BTreeMap BTreeSet Bound Box Clone Copy Creation CreationError Debug Default "
        "Found LoadedMaker Display DoubleEndedIterator Drop Duration Eq Err Error ExactSizeIterator Extend Fn FnMut FnOnce From "
        "FromIterator FromStr Hash HashMap Hasher Into IntoIterator Iterator MakerFailure Mutex MutexGuard None Ok OnceLock "
        "Option Ord Ordering PartialEq PartialOrd PlainZero PoisonError Pool Result Said Self Send Sized Slot Some String Sync "
        "CalendarDate Decimal NoDecimal NoSuchDate NoSuchInstant NoSuchTime NoTimeSpan TimeOfDay TimeSpan Timestamp "
        "NoUuid Uuid TextPattern "
        "ToOwned ToString TryFrom TryInto Unpin Vec Weak KEY T K E F A B"
    ).split()
)
PRIMITIVES = frozenset("bool char f32 f64 i8 i16 i32 i64 i128 isize str u8 u16 u32 u64 u128 usize".split())
CRATES = frozenset("std core alloc proc_macro test".split())
ROOTS = frozenset({"lib", "main", "mod"})  # files with a meaning of their own
# Functions that products call, and the names of their own variables.
HELPERS = frozenset(
    "outside outside_length is_blank repeated fmt options made key missing maker refused taken unknown".split()
)
# Methods of every product, of traits that are always in scope, and those by which clippy expects another trait.
USED_METHODS = frozenset(
    (
        "new key fields fields_mut kind clone clone_from eq ne cmp partial_cmp fmt duplicate boxed_clone "
        "boxed_duplicate equals as_any as_any_mut into try_into try_from default to_owned to_string borrow borrow_mut as_ref "
        "as_mut deref deref_mut drop type_id clone_into"
    ).split()
)
BUILDER_METHODS = frozenset({"new", "build", "like", "missing", *USED_METHODS})
# Methods that take the builder and one value: clippy expects the trait of an operator instead.
OPERATORS = frozenset("add bitand bitor bitxor div mul rem shl shr sub".split())

LOCALS = Words(KEYWORDS, PRIMITIVES, HELPERS)
STORED = Words(KEYWORDS, {"fields", "options"})  # what variants have of their base, and builders of options
OPTIONS = Words(KEYWORDS)
METHODS = Words(KEYWORDS, USED_METHODS)
VARIANTS = Words({"Self", "ALL"})  # the one keyword in upper camel case, and the list of all

# What the support code of tests offers.
TEST_HELPERS = frozenset(
    (
        "is equals differs refuses nothing missing outside unknown taken refused kind_of first_of until together within "
        "panics of_names of_items of_text of_integer of_real of_truth of_nothing refuses_record says_all records"
    ).split()
)


class Names:
    """The names of one plan; generated ones come first, declared ones that meet them are escaped."""

    def __init__(self, generated: frozenset[str], files: frozenset[str]) -> None:
        self._types = Words(USED_TYPES, generated)
        self._files = Words(files, KEYWORDS, CRATES, ROOTS)

    def type(self, name: str) -> str:
        """A product, variant, choice or family."""
        return name if name.startswith("StandIn") else self._types.escape(pascal(name))

    def word(self, word: str) -> str:
        """A word of a choice, as a variant of its enum."""
        return VARIANTS.escape(pascal(word))

    def local(self, name: str) -> str:
        """A parameter or local variable."""
        return LOCALS.escape(snake(name))

    def derived(self, name: str, ending: str) -> str:
        """A type that is called after another: `StringOptions`, whatever `String` is called."""
        return f"{pascal(name)}{ending}"

    def stored(self, name: str) -> str:
        """A field of a product's struct."""
        return STORED.escape(snake(name))

    def option(self, name: str) -> str:
        """A field of an options struct."""
        return OPTIONS.escape(snake(name))

    def method(self, name: str, taken: frozenset[str] = frozenset()) -> str:
        """An accessor, an operation or a role; `taken` are generated methods beside it."""
        return (METHODS | taken).escape(snake(name))

    def file(self, name: str) -> str:
        """The module of a type."""
        return self._files.escape(snake(name))
