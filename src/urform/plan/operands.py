"""The operands of the steps of a test, and the failures that they expect."""

from __future__ import annotations

from collections.abc import Mapping

from urform.dataclasses import dataclass
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
    """A variable that an earlier step has set."""

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
class Untold:
    """Something in place of a date, or another value that is told by a text, which the language has and which is none."""

    kind: str


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


Operand = Value | Witness | Var | Null | Misfit | Strange | Untold | NoWord | Several | Keyed
Arguments = Mapping[str, Operand]


@dataclass(frozen=True, slots=True)
class Path:
    """A way into a variable: a field, then perhaps the first element of what it holds, as many levels down."""

    var: str
    field: str
    first: int = 0
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
    said: str | None = None  # what the error says; None where targets tell it each in its own way


@dataclass(frozen=True, slots=True)
class UnknownKey:
    owner: str
    key: str
    known: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class DuplicateKey:
    owner: str
    key: str


@dataclass(frozen=True, slots=True)
class Refused:
    """The values give no product."""

    owner: str
    reason: str


@dataclass(frozen=True, slots=True)
class BadRecord:
    """No product is made of a record, for all of these problems; none are given where each target has its own words."""

    owner: str
    problems: tuple[str, ...]


Failure = Missing | OutOfLimit | UnknownKey | DuplicateKey | Refused | BadRecord
