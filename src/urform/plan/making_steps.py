"""Steps of tests over factories by values, builders, prototypes, pools and families."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.plan.operands import Arguments, Operand, Path

# --- factories by values ----------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Select:
    """Make by values, through the entry that fails with a reason, or the one that gives nothing."""

    var: str
    product: str
    arguments: Arguments
    or_nothing: bool = False


@dataclass(frozen=True, slots=True)
class HiddenConstructor:
    """The constructor of a product cannot be called from outside."""

    product: str


# --- builders -----------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class NewBuilder:
    """An empty builder, one that starts from a preset, or one that starts from the product in a variable.

    `calls` are made in the same expression (see `plan/chaining.py`): steps on this builder.
    """

    var: str
    product: str
    preset: str | None = None
    like: str | None = None
    calls: tuple[BuilderSet | BuilderAdd | BuilderClear, ...] = ()


@dataclass(frozen=True, slots=True)
class BuilderSet:
    builder: str
    field: str
    value: Operand


@dataclass(frozen=True, slots=True)
class BuilderClear:
    """Take an optional field back out of a builder, as if it had never been set."""

    builder: str
    field: str


@dataclass(frozen=True, slots=True)
class BuilderAdd:
    """Append one element to a collection in a builder, with the adder that `item` names."""

    builder: str
    field: str
    value: Operand


BuilderCall = BuilderSet | BuilderAdd | BuilderClear


@dataclass(frozen=True, slots=True)
class Build:
    """Build; `unchecked` where a compiler that follows what was given would refuse it, and has to be silenced."""

    var: str
    builder: str
    unchecked: bool = False


@dataclass(frozen=True, slots=True)
class BuildRefused:
    """The compiler refuses to build, because a field was not given. A client that does it is compiled apart."""

    builder: str
    missing: str


@dataclass(frozen=True, slots=True)
class BuildChained:
    """A fluent builder in one expression: each setter returns the builder."""

    var: str
    product: str
    arguments: Arguments


# --- prototypes ---------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Clone:
    var: str
    original: str


@dataclass(frozen=True, slots=True)
class CloneEach:
    """Clone a list of the base type, element by element, and put the clones into variables of the base type."""

    product: str
    originals: tuple[str, ...]
    clones: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Take:
    """Put what a path holds into a variable: a product."""

    var: str
    path: Path


@dataclass(frozen=True, slots=True)
class SameObject:
    """Two variables of a product's type hold the very same object, or two different ones."""

    left: str
    right: str
    product: str
    same: bool = True


@dataclass(frozen=True, slots=True)
class NewExemplars:
    var: str
    product: str


@dataclass(frozen=True, slots=True)
class ExemplarAdd:
    store: str
    name: str
    product: str  # a variable


@dataclass(frozen=True, slots=True)
class ExemplarGet:
    var: str
    store: str
    name: str


@dataclass(frozen=True, slots=True)
class NamesAre:
    store: str
    names: tuple[str, ...]


# --- pools --------------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class NewPool:
    """A pool with the derived maker, or with one that gives `arguments` to every product beside its key."""

    var: str
    product: str
    arguments: Arguments | None = None


@dataclass(frozen=True, slots=True)
class PoolAsk:
    """Ask a pool; `rebuilt` texts are equal to the key's, but objects of their own."""

    var: str
    pool: str
    key: Arguments
    rebuilt: bool = False


@dataclass(frozen=True, slots=True)
class CountsAre:
    pool: str
    made: int
    reused: int


@dataclass(frozen=True, slots=True)
class PoolOnce:
    """Threads at a barrier ask for one key; the maker holds its construction open until the others could enter."""

    product: str
    key: Arguments
    arguments: Arguments
    threads: int


@dataclass(frozen=True, slots=True)
class PoolUnhindered:
    """A hit is answered while the maker of another key is at work."""

    product: str
    key: Arguments
    other: Arguments
    arguments: Arguments


@dataclass(frozen=True, slots=True)
class PoolNested:
    """A maker asks its own pool for another key."""

    product: str
    key: Arguments
    other: Arguments
    arguments: Arguments


@dataclass(frozen=True, slots=True)
class PoolFailedMaker:
    """A maker's failure is passed through and leaves nothing; the next ask tries again."""

    product: str
    key: Arguments
    arguments: Arguments


@dataclass(frozen=True, slots=True)
class PoolWrongKey:
    """A maker that gives a product of another key is refused, and leaves nothing."""

    product: str
    key: Arguments
    other: Arguments
    arguments: Arguments


@dataclass(frozen=True, slots=True)
class PoolReleased:
    """What nobody else holds is let go of, some time; the next ask makes it anew."""

    product: str
    key: Arguments
    arguments: Arguments


# --- families -----------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class FamilyOf:
    """The member of a key, typed as the abstract factory."""

    var: str
    family: str
    key: str


@dataclass(frozen=True, slots=True)
class FamilyIs:
    """A variable holds just this member."""

    var: str
    family: str
    member: str


@dataclass(frozen=True, slots=True)
class NewStandIn:
    var: str
    family: str


@dataclass(frozen=True, slots=True)
class AskRole:
    """Ask a family for one product; its type is the role's."""

    var: str
    family: str  # a variable
    role: str
    arguments: Arguments


@dataclass(frozen=True, slots=True)
class AskRoles:
    """Ask a family for all of a list role; each element goes into a variable, and there are no others."""

    family: str
    role: str
    vars: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Narrow:
    """Take what a variable holds as the concrete product that it was shown to be."""

    var: str
    original: str
    product: str


@dataclass(frozen=True, slots=True)
class AskedAre:
    """The requests that a stand-in recorded, in order."""

    stand_in: str
    roles: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ClientGets:
    """A client that knows the abstract factory alone asks for everything, and tells the types that it got."""

    family: str  # a variable
    name: str  # of the family
    products: tuple[str, ...]
