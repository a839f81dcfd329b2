"""Names in Go: reserved words, predeclared names, and what generated code has taken."""

from __future__ import annotations

from collections.abc import Iterable

from urform.languages.naming.names import Words, camel, pascal, snake

KEYWORDS = frozenset(
    (
        "break case chan const continue default defer else fallthrough for func go goto if import interface map "
        "package range return select struct switch type var"
    ).split()
)
PREDECLARED = frozenset(
    (
        "any bool byte comparable complex64 complex128 error float32 float64 int int8 int16 int32 int64 rune string "
        "uint uint8 uint16 uint32 uint64 uintptr true false iota nil append cap clear close complex copy delete imag "
        "len make max min new panic print println real recover"
    ).split()
)
PACKAGES = frozenset(
    (
        "atomic big bytes cmp errors fmt io json maps math reflect regexp runtime slices strconv strings sync testing "
        "time unsafe utf8 "
        "weak"
    ).split()
)
HELPERS = frozenset(
    (
        "given missing orElse firstOf copyOf deref samePtr same sameKind finite zeroed blank mapped mappedValues itself "
        "sortedSet sortedKeys zeroedCopy utcCopy isInstant isDuration lasting clockAt areDigits found "
        "base distinct kept keptAll keptValues owned ownedMap makings call pool "
        "weakPool err ok opts other that o key made own value i each held init main maker loadedMaker fromLoader r "
        "textPattern textPatterns mustUUID"
    ).split()
)
USED_TYPES = frozenset(
    (
        "CreationError MissingError LimitError UnknownKeyError DuplicateKeyError RefusedError New Some Int Real T CalendarDate "
        "CalendarDateOf NewCalendarDate ParseCalendarDate UUID ParseUUID TimeOfDay NewTimeOfDay ParseTimeOfDay TimeOfDayOf "
        "Decimal ParseDecimal"
    ).split()
)
# Functions of the support code that begin like those of a choice.
USED_FUNCTIONS = frozenset("ParseRecord ParseCalendarDate ParseUUID ParseTimeOfDay ParseDecimal".split())
# What every product has, and what would satisfy a well-known interface by accident.
USED_METHODS = frozenset(
    "Equal Key Clone Cloned Copied String Error Format GoString MarshalJSON UnmarshalJSON".split()
)
# What the fields that a kind embeds have for kinds of other packages.
EMBEDDED_METHODS = frozenset("EqualFields CloneFields ClonedFields CopiedFields".split())
# Endings of file names to which the go command gives a meaning.
FILE_ENDINGS = frozenset(
    (
        "test aix android darwin dragonfly freebsd hurd illumos ios js linux nacl netbsd openbsd plan9 solaris wasip1 "
        "windows zos unix 386 amd64 arm arm64 loong64 mips mips64 mips64le mipsle ppc64 ppc64le riscv64 s390x wasm"
    ).split()
)

LOCALS = Words(KEYWORDS, PREDECLARED, PACKAGES, HELPERS)
STRUCT_FIELDS = Words(KEYWORDS, {"equal", "copied", "cloned"})

# What the support code of tests offers.
TEST_HELPERS = frozenset(
    (
        "succeeds refuses is alike isGiven anyOf disturb repeated unfailing as isA typesOf until within together parsed "
        "fromText refusesRecord saysAll"
    ).split()
)

# What a package cannot be called, for tests import it beside these names.
RESERVED_FOR_PACKAGES = (
    KEYWORDS | PREDECLARED | PACKAGES | TEST_HELPERS | {"main", "init", "t", "err", "made", "held"}
)


def package_name(name: str) -> str:
    """What a package is called that has a name, or a folder of that name."""
    letters = "".join(char for char in name if char.isalnum()).lstrip("0123456789") or "made"
    return f"{letters}_" if letters in RESERVED_FOR_PACKAGES else letters


class Names:
    """The names of one plan; generated ones come first, declared ones that meet them are escaped."""

    def __init__(
        self,
        generated: frozenset[str],
        files: frozenset[str],
        types: Iterable[str] = (),
        stand_ins: Iterable[str] = (),
        constants: Iterable[str] = (),
        package: str = "",
        more: Iterable[str] = (),
    ) -> None:
        self._stand_ins = frozenset(stand_ins)
        self._constants = Words(constants, USED_FUNCTIONS)
        self._types = Words(USED_TYPES, generated)
        self._files = Words(files)
        embedded = {f"{camel(name)}Fields" for name in types} | {f"is{pascal(name)}" for name in types}
        self._stored = STRUCT_FIELDS | embedded
        self._locals = LOCALS | {package, *more}

    def type(self, name: str) -> str:
        """A product, variant, choice or family; always exported."""
        return name if name in self._stand_ins else self._types.escape(pascal(name))

    def hidden(self, name: str) -> str:
        """An unexported name that is derived from a type's."""
        return camel(name)

    def embedded(self, base: str) -> str:
        """The struct that all kinds of a base embed, by a name that only the package knows."""
        return f"{camel(base)}Fields"

    def local(self, name: str) -> str:
        """A parameter or local variable."""
        return self._locals.escape(camel(name))

    def stored(self, name: str) -> str:
        """A field of a struct, unexported."""
        return self._stored.escape(camel(name))

    def exported(self, name: str, taken: frozenset[str] = frozenset()) -> str:
        """A field of an options struct, or a method; `taken` are generated methods beside it."""
        return Words(taken).escape(pascal(name))

    def holder(self, product: str) -> str:
        """The type by which package encoding/json reads and writes an interface."""
        stem = pascal(product)
        return f"{stem}_Record" if f"{stem}Record" in USED_FUNCTIONS else f"{stem}Record"

    def parse(self, choice: str) -> str:
        """The function that reads a word."""
        return self._constants.escape(f"Parse{pascal(choice)}")

    def every(self, choice: str) -> str:
        """The function that lists the words."""
        return self._constants.escape(f"Every{pascal(choice)}")

    def file(self, name: str) -> str:
        """The file of a type, without its ending."""
        stem = self._files.escape(snake(name))
        return f"{stem}_" if stem.rpartition("_")[2] in FILE_ENDINGS and "_" in stem else stem
