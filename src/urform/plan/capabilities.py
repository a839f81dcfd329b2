"""The capabilities of languages, as data; they decide which claims the language itself holds.

A target states the set of its capabilities. A step of a test may need some; a case with a step that the
target cannot express is left out, and a claim without any main case left is *held by the language*: nothing
that a program could do would break it. The reasons stand here, once.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import fields
from functools import cache, lru_cache
from itertools import groupby

from urform.dataclasses import dataclass
from urform.declaration.types import TEXT, ChoiceType, ListOf, MapOf, ProductType, SetOf, Type
from urform.plan.making_steps import (
    Build,
    BuildRefused,
    HiddenConstructor,
    NewBuilder,
    PoolOnce,
    PoolReleased,
    PoolUnhindered,
    SameObject,
)
from urform.plan.operands import Keyed, Misfit, NoWord, Null, Operand, OutOfLimit, Several, Strange, Untold
from urform.plan.outcomes import Fails, GivesNothing
from urform.plan.record_steps import ReadText
from urform.plan.script import Case, Claim, Step
from urform.plan.steps import (
    Ask,
    AskNamed,
    Assign,
    ChangeHeld,
    ChangeInHeld,
    ChangeOut,
    LeaveOut,
    LoadOnce,
    OneInstance,
    RegisterNamed,
)
from urform.plan.whole import Plan

# What a step needs whatever it hands in.
NEEDED: dict[type, tuple[str, ...]] = {
    LeaveOut: ("leave out",),
    Assign: ("assign",),
    ChangeHeld: ("change what was handed in",),
    ChangeInHeld: ("change what was handed in",),
    ChangeOut: ("change what is handed out",),
    HiddenConstructor: ("show that a constructor is hidden",),
    PoolOnce: ("threads",),
    PoolUnhindered: ("threads",),
    PoolReleased: ("weak references",),
    LoadOnce: ("threads",),
    RegisterNamed: ("load by name",),
    AskNamed: ("load by name",),
    ReadText: ("read records from text",),
    BuildRefused: ("tell while compiling what is missing",),
}

KINDS = (
    "text",
    "integer",
    "real",
    "boolean",
    "date",
    "time",
    "instant",
    "duration",
    "decimal",
    "uuid",
    "choice",
    "product",
    "list",
    "set",
    "map",
)

# What each capability lets happen, told when a language lacks it.
REASONS: dict[str, str] = {
    "leave out": "the constructor cannot be called without it",
    "assign": "its fields cannot be assigned from outside",
    "change what was handed in": "what is handed in no longer belongs to the caller",
    "change what is handed out": "what is handed out can only be read",
    "alias what is owned": "what is owned is a value, and a copy of it another one",
    "share what can change": "what can change has one owner",
    "invent a word": "only the declared words can be written",
    "hold what is no date": "its type holds nothing but days of these years",
    "hold what is no time": "its type holds nothing but times of day",
    "hold what is no instant": "its type holds nothing but instants of these years",
    "hold what is no duration": "its type holds nothing but durations of that length",
    "hold what is no decimal": "its type holds nothing but decimal numbers of that many digits",
    "hold what is no uuid": "its type holds nothing but UUIDs",
    "huge": "a whole number is not taken for a real",
    "threads": "there is one thread only",
    "load by name": "code that was compiled apart is not found by its name",
    "tie a key to its fields": "makers take records, and a class that is a kind takes its fields",
    "load nothing": "a loader gives a maker or fails",
    "weak references": "nothing tells whether something else holds a product",
    "show that a constructor is hidden": "the compiler lets nobody call it",
    "copy what there is one of": "what there is one of cannot be copied",
    "clear a field by a method": "None is assigned to clear a field",
    "read words in its own code": "the language itself reads the words of an enumeration",
    "list words in its own code": "the words and their list are one thing in the language",
    "build what is incomplete": "a build that lacks a field does not compile",
    "tell while compiling what is missing": "the compiler cannot follow what was given; the build tells it as it runs",
    "empty what is only borrowed": "a build that borrows its builder cannot empty it",
    "read records from text": "text is read by a library, and not by generated code",
    "identity without content": "a product without fields has no identity in the language",
    **{f"null {kind}": f"a {kind} is never null" for kind in KINDS},
    **{f"null element {kind}": f"no element that is a {kind} is null" for kind in KINDS},
    **{f"misfit {kind}": f"the compiler or type checker lets nothing but a {kind} through" for kind in KINDS},
}
REASONS["misfit list of texts"] = "a text is no list of texts"
REASONS["null integer"] = REASONS["null element integer"] = "an integer is never null"


def kind_of(type_: Type) -> str:
    """`text`, `integer`, `real`, `boolean`, `date`, `uuid`, `choice`, `product`, `list`, `set` or `map`."""
    match type_:
        case ChoiceType():
            return "choice"
        case ProductType():
            return "product"
        case ListOf():
            return "list"
        case SetOf():
            return "set"
        case MapOf():
            return "map"
    return str(type_)


MAPPING = (dict, Mapping)  # most are plain dictionaries, which are told far sooner
# The operands that not every language can write. None has subclasses.
DEMANDING = frozenset({Null, Misfit, NoWord, Strange, Untold, Several, Keyed})


@lru_cache(maxsize=4096)  # tests hand in the same operands again and again
def _needs_of_operand(operand: Operand) -> frozenset[str]:
    return frozenset(_operand_needs(operand))


def _operand_needs(operand: Operand) -> Iterator[str]:
    match operand:
        case Null(type_):
            yield f"null {kind_of(type_)}"
        case Misfit(type_):
            yield "misfit list of texts" if type_ == ListOf(TEXT) else f"misfit {kind_of(type_)}"
        case NoWord():
            yield "invent a word"
        case Strange("huge"):
            yield "huge"
        case Untold(kind):
            yield f"hold what is no {kind}"
        case Several(_, items):
            for item in items:
                yield from _element_needs(item)
        case Keyed(_, entries):
            for _, item in entries:
                yield from _element_needs(item)


def _element_needs(operand: Operand) -> Iterator[str]:
    if isinstance(operand, Null):
        yield f"null element {kind_of(operand.type)}"
    else:
        yield from _operand_needs(operand)


def needs(step: Step, plan: Plan) -> frozenset[str]:
    """The capabilities without which a language cannot take a step."""
    if isinstance(step, (Fails, GivesNothing)):
        return needs(step.attempt, plan) | _needs_of_failure(step)
    needed = set(NEEDED.get(type(step), ()))
    for operand in _operands(step):
        if type(operand) in DEMANDING:
            needed |= _needs_of_operand(operand)
    if isinstance(step, NewBuilder):
        needed.update(*(needs(call, plan) for call in step.calls))
    if isinstance(step, Build) and step.unchecked:
        needed.add("build what is incomplete")
    if isinstance(step, RegisterNamed) and _takes_records(step, plan):
        needed.add("tie a key to its fields")
    if isinstance(step, (OneInstance, SameObject)) and not plan.products[step.product].fields:
        needed.add("identity without content")
    if isinstance(step, SameObject) and step.same and plan.products[step.product].mutable:
        needed.add("alias what is owned")
    return frozenset(needed)


def _needs_of_failure(step: Fails | GivesNothing) -> frozenset[str]:
    """A limit that is asked with a record is told as a problem of the record, not by itself."""
    is_limit = isinstance(step, Fails) and isinstance(step.failure, OutOfLimit)
    is_tied = is_limit and isinstance(step.attempt, Ask) and step.attempt.record is not None
    return frozenset({"tie a key to its fields"} if is_tied else ())


def _takes_records(step: RegisterNamed, plan: Plan) -> bool:
    """Whether what is registered beside the named kind takes records, where a key is not tied to the fields of its kind."""
    factory = plan.factory_of(plan.products[step.variant].base or "")
    return factory is not None and factory.needs_more


def _operands(step: Step) -> Iterator[Operand]:
    """Everything that a step hands in or compares with."""
    kind: type = type(step)
    for name in _handing(kind):
        given = getattr(step, name)
        if isinstance(given, MAPPING):
            yield from given.values()
        elif name == "value" and given is not None:
            yield given


@cache
def _handing(kind: type) -> tuple[str, ...]:
    """Where steps of a kind have what they hand in."""
    known = {field.name for field in fields(kind)}
    return tuple(name for name in ("value", "arguments", "key", "other") if name in known)


@dataclass(frozen=True, slots=True)
class Expressible:
    """The expressible part of a claim in one language; `held` is the reason when nothing is left to show."""

    claim: Claim
    cases: tuple[Case, ...]
    held: str | None = None


def expressible(claim: Claim, plan: Plan, capabilities: frozenset[str]) -> Expressible:
    """The cases that a language with these capabilities can express, or why it holds the claim by itself."""
    lacking: dict[str, None] = {}
    left: list[Case] = []
    for case in claim.cases:
        missing = sorted(_needs_of(case.steps, plan) - capabilities)
        if missing:
            lacking.update(dict.fromkeys(missing) if case.main else {})
        else:
            left.append(case)
    if any(case.main for case in left):
        return Expressible(claim, tuple(left))
    reasons = dict.fromkeys(REASONS[capability] for capability in lacking)
    return Expressible(claim, (), "; ".join(reasons) or "nothing could break it")


def _needs_of(steps: Iterable[Step], plan: Plan) -> frozenset[str]:
    return frozenset().union(*(needs(step, plan) for step in steps))


def by_owner(
    claims: Iterable[Claim], plan: Plan, capabilities: frozenset[str]
) -> Iterator[tuple[str, list[Expressible]]]:
    """The expressible parts of claims in a language, owner by owner as they come; a test file each."""
    for owner, own in groupby(claims, key=lambda claim: claim.owner):
        yield owner, [expressible(claim, plan, capabilities) for claim in own]
