"""Steps of tests over products and factories by key."""

from __future__ import annotations

from dataclasses import field

from urform.dataclasses import dataclass
from urform.declaration.types import Type
from urform.declaration.values import Absent, Value
from urform.plan.operands import Arguments, Operand, Path
from urform.plan.record_trees import Node


@dataclass(frozen=True, slots=True)
class Make:
    """Construct a concrete product with these fields and no others."""

    var: str
    product: str
    arguments: Arguments = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class LeaveOut:
    """Construct without a required field: the language's own error names it."""

    product: str
    arguments: Arguments
    field: str


@dataclass(frozen=True, slots=True)
class Hold:
    """Put a collection or product that stays the caller's own into a variable, to hand it in."""

    var: str
    type: Type
    value: Operand


@dataclass(frozen=True, slots=True)
class ChangeHeld:
    """Empty the caller's own collection."""

    var: str


@dataclass(frozen=True, slots=True)
class ChangeInHeld:
    """Change a field of the caller's own mutable product, or of the first in the caller's own collection."""

    var: str
    field: str
    value: Operand


@dataclass(frozen=True, slots=True)
class ChangeOut:
    """Try to empty the container that a product hands out; a refusal is as good as no effect."""

    path: Path


@dataclass(frozen=True, slots=True)
class Assign:
    """Try to assign a field of an immutable product: refused."""

    var: str
    field: str
    value: Operand


@dataclass(frozen=True, slots=True)
class Set:
    """Set a field of a mutable product."""

    path: Path
    value: Operand


@dataclass(frozen=True, slots=True)
class Clear:
    """Make a field of a mutable product absent."""

    path: Path


@dataclass(frozen=True, slots=True)
class ChangeOne:
    """Add, put or remove one element of what a mutable product holds.

    `at` is a place in a list, counted from 0, or a key of a map; `value` the element, or the one that leaves a set.
    What is removed by value or key tells whether it `was_there`.
    """

    var: str
    field: str
    way: str
    at: int | Value | None = None
    value: Operand | None = None
    was_there: bool | None = None


@dataclass(frozen=True, slots=True)
class FieldIs:
    path: Path
    value: Operand


@dataclass(frozen=True, slots=True)
class FieldAbsent:
    path: Path


@dataclass(frozen=True, slots=True)
class Equal:
    """Two variables hold equal content; with `hashes`, equal hashes too where the language has them."""

    left: str
    right: str
    hashes: bool = False


@dataclass(frozen=True, slots=True)
class Unequal:
    left: str
    right: str
    differing: str  # what differs, in words


@dataclass(frozen=True, slots=True)
class KindIs:
    """A variable of the base type holds just this concrete product, and tells its key."""

    var: str
    product: str


@dataclass(frozen=True, slots=True)
class Answers:
    """An operation gives the declared constant."""

    var: str
    operation: str
    arguments: tuple[Operand, ...]
    value: Value | Absent


@dataclass(frozen=True, slots=True)
class OneInstance:
    """Asked for twice, and by threads at once, a single product is the same instance.

    `arguments` make it where its constructor is hidden.
    """

    product: str
    threads: int
    arguments: Arguments = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class NewRegistry:
    var: str
    factory: str


@dataclass(frozen=True, slots=True)
class Register:
    """Register another key for a declared variant."""

    registry: str
    key: str
    variant: str


@dataclass(frozen=True, slots=True)
class RegisterLoader:
    """Register a loader of a declared variant for another key; a new variable counts how often it is called.

    A loader that comes `late` gives no maker at its first call: it is refused, or fails where the language asks that.
    """

    registry: str
    key: str
    variant: str
    loads: str
    late: bool = False


@dataclass(frozen=True, slots=True)
class LoadsAre:
    """How often a loader was called."""

    loads: str
    count: int


@dataclass(frozen=True, slots=True)
class LoadOnce:
    """Threads ask for a kind at once, and its slow loader is called once."""

    registry: str
    key: str
    variant: str
    ask: Ask
    threads: int


@dataclass(frozen=True, slots=True)
class RegisterNamed:
    """Register another key for the name of a declared variant, as the language names what it loads."""

    registry: str
    key: str
    variant: str


@dataclass(frozen=True, slots=True)
class Unregister:
    """Remove a key; tells whether it was there."""

    registry: str
    key: str
    found: bool


@dataclass(frozen=True, slots=True)
class KeysAre:
    registry: str
    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ReadWord:
    """Read a word of a choice from text."""

    var: str
    choice: str
    text: str


@dataclass(frozen=True, slots=True)
class WordIs:
    """The word that was read is this one, and its text is the one that was read."""

    var: str
    choice: str
    word: str


@dataclass(frozen=True, slots=True)
class WordsAre:
    """The words of a choice, listed as they were declared."""

    choice: str
    words: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Ask:
    """Make by key, through the factory of a product; a registry form asks the registry in a variable.

    Where kinds need more than all have, there is a record of the arguments too, for languages whose factory takes one.
    """

    var: str
    factory: str
    key: str
    arguments: Arguments
    registry: str | None = None
    record: Node = None


@dataclass(frozen=True, slots=True)
class AskNamed:
    """The same of a key of which a registry knows a name only, waiting for what is loaded where the language does."""

    ask: Ask
