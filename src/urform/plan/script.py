"""The steps of a generated test, without a language: what a claim shows, as data.

A claim has *cases*; a case is a list of steps over named variables. Each target writes a step in its own
idiom. A step that a language cannot express takes its whole case with it (see `capabilities.py`).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from urform.declaration.types import Type
from urform.declaration.values import Value
from urform.plan.model import Bound

# --- what can be handed in -----------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Witness:
    """A typical instance of a concrete product, the first or the second; built by a helper of the tests."""

    product: str
    second: bool = False


@dataclass(frozen=True, slots=True)
class Var:
    """What an earlier step left in a variable."""

    name: str


@dataclass(frozen=True, slots=True)
class Null:
    """The language's null, in place of a value of a type, or of an element of a collection."""

    type: Type


@dataclass(frozen=True, slots=True)
class Misfit:
    """A value of a wrong type that a checker would let through, in place of one of `type`."""

    type: Type


@dataclass(frozen=True, slots=True)
class Strange:
    """A number that is no real: `nan`, `infinity`, `-infinity`, or `huge`, a whole one beyond every double."""

    number: str


@dataclass(frozen=True, slots=True)
class NoWord:
    """Something in place of a word of a choice that is none of them."""

    choice: str


@dataclass(frozen=True, slots=True)
class Several:
    """A list of operands, where elements are not plain values."""

    type: Type
    items: tuple[Operand, ...]


@dataclass(frozen=True, slots=True)
class Keyed:
    """A map of operands."""

    type: Type
    entries: tuple[tuple[Value, Operand], ...]


Operand = Value | Witness | Var | Null | Misfit | Strange | NoWord | Several | Keyed
Arguments = Mapping[str, Operand]


@dataclass(frozen=True, slots=True)
class Path:
    """A way into a variable: a field, then perhaps the first element of what it holds."""

    var: str
    field: str
    first: bool = False
    inner: str | None = None  # a field of the product reached so far


# --- failures that are expected -------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Missing:
    owner: str
    fields: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class OutOfLimit:
    owner: str
    field: str
    limit: str
    bound: Bound = None


@dataclass(frozen=True, slots=True)
class UnknownKey:
    owner: str
    key: str
    known: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class DuplicateKey:
    owner: str
    key: str


Failure = Missing | OutOfLimit | UnknownKey | DuplicateKey

# --- steps ----------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Make:
    """Construct a concrete product with these fields and no others."""

    var: str
    product: str
    arguments: Arguments = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class MakeFails:
    product: str
    arguments: Arguments
    failure: Failure


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
class SetFails:
    path: Path
    value: Operand
    failure: Failure


@dataclass(frozen=True, slots=True)
class Clear:
    """Make a field of a mutable product absent."""

    path: Path


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
    value: Value


@dataclass(frozen=True, slots=True)
class OneInstance:
    """Asked for twice, and by threads at once, a single product is the same instance."""

    product: str
    threads: int


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
class RegisterFails:
    registry: str
    key: str
    variant: str
    failure: Failure


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
class Ask:
    """Make by key, through the factory of a product; a registry form asks the registry in a variable."""

    var: str
    factory: str
    key: str
    arguments: Arguments
    registry: str | None = None


@dataclass(frozen=True, slots=True)
class AskFails:
    factory: str
    key: str
    arguments: Arguments
    failure: Failure
    registry: str | None = None


@dataclass(frozen=True, slots=True)
class AskGivesNothing:
    factory: str
    key: str
    arguments: Arguments
    registry: str | None = None


Step = (
    Make
    | MakeFails
    | LeaveOut
    | Hold
    | ChangeHeld
    | ChangeInHeld
    | ChangeOut
    | Assign
    | Set
    | SetFails
    | Clear
    | FieldIs
    | FieldAbsent
    | Equal
    | Unequal
    | KindIs
    | Answers
    | OneInstance
    | NewRegistry
    | Register
    | RegisterFails
    | Unregister
    | KeysAre
    | Ask
    | AskFails
    | AskGivesNothing
)


@dataclass(frozen=True, slots=True)
class Case:
    """Steps that stand or fall together. A `main` case is what the claim is about."""

    steps: tuple[Step, ...]
    main: bool = True


@dataclass(frozen=True, slots=True)
class Claim:
    """One thing that the declaration promises, in words and as a test."""

    group: str
    owner: str
    text: str
    cases: tuple[Case, ...]
    member: str | None = None
    aspect: str | None = None

    @property
    def id(self) -> str:
        """`<group>/<Owner>[.<member>][:<aspect>]`."""
        member = f".{self.member}" if self.member else ""
        aspect = f":{self.aspect}" if self.aspect else ""
        return f"{self.group}/{self.owner}{member}{aspect}"


def case(*steps: Step, main: bool = True) -> Case:
    """A case of these steps."""
    return Case(steps, main)
