"""The variables of a test: which ones a step makes, and which ones it uses."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import fields
from functools import cache

from urform.plan.making_steps import (
    AskRole,
    AskRoles,
    BuilderAdd,
    BuilderClear,
    BuilderSet,
    ClientGets,
    CloneEach,
    ExemplarAdd,
    FamilyIs,
    NewBuilder,
    Take,
)
from urform.plan.operands import Keyed, Operand, Path, Several, Var
from urform.plan.outcomes import Fails, GivesNothing
from urform.plan.steps import (
    Answers,
    AskNamed,
    Assign,
    ChangeHeld,
    ChangeInHeld,
    ChangeOne,
    Clear,
    KindIs,
    LoadOnce,
    LoadsAre,
    Register,
    RegisterLoader,
    RegisterNamed,
    Set,
    Unregister,
    WordIs,
)

# Their `var` is one that was made before.
READING = (ChangeHeld, ChangeInHeld, ChangeOne, Assign, KindIs, Answers, FamilyIs, WordIs)
NAMING = frozenset({Var, Several, Keyed})  # the operands that name variables; most are others
# Where a step names a variable that it uses; `product` and `family` do so in some.
USED = ("left", "right", "registry", "builder", "original", "like", "store", "pool", "stand_in", "shown")
OWN_WORDS: dict[type, tuple[str, ...]] = {
    ExemplarAdd: ("product",),
    AskRole: ("family",),
    AskRoles: ("family",),
    ClientGets: ("family",),
    LoadsAre: ("loads",),
}


def made_by(step: object) -> tuple[str, ...]:
    """The variables that a step makes."""
    if isinstance(step, CloneEach):
        return step.clones
    if isinstance(step, AskRoles):
        return step.vars
    if isinstance(step, RegisterLoader):
        return (step.loads,)
    if isinstance(step, AskNamed):
        return made_by(step.ask)
    if isinstance(step, READING):
        return ()
    var = getattr(step, "var", None)
    return (var,) if isinstance(var, str) else ()


@cache
def _names_in(kind: type) -> tuple[str, ...]:
    """Where steps of a kind name variables that they use."""
    own = ("var",) if issubclass(kind, READING) else ()
    named = (*USED, *own, *OWN_WORDS.get(kind, ()))
    known = {field.name for field in fields(kind)}
    return tuple(name for name in named if name in known)


def used_by(step: object) -> Iterator[str]:
    """The variables that a step uses."""
    if isinstance(step, (Fails, GivesNothing)):
        yield from used_by(step.attempt)
        return
    if isinstance(step, (AskNamed, LoadOnce)):
        yield from used_by(step.ask)
    if isinstance(step, NewBuilder):
        for call in step.calls:
            yield from (var for var in used_by(call) if var != step.var)
    kind: type = type(step)
    for name in _names_in(kind):
        var = getattr(step, name)
        if isinstance(var, str):
            yield var
    if isinstance(step, CloneEach):
        yield from step.originals
    path = getattr(step, "path", None)
    if isinstance(path, Path):
        yield path.var
    value = getattr(step, "value", None)
    given = getattr(step, "arguments", None)
    operands = given.values() if isinstance(given, (dict, Mapping)) else given or ()
    for operand in (*operands, value):
        if type(operand) in NAMING:
            yield from _within(operand)


def _within(operand: Operand | Mapping[str, Operand]) -> Iterator[str]:
    match operand:
        case Var(name):
            yield name
        case Several(_, items):
            for item in items:
                yield from _within(item)
        case Keyed(_, entries):
            for _, item in entries:
                yield from _within(item)


def unused_in(steps: Iterable[object]) -> frozenset[str]:
    """The variables of one case that nothing uses."""
    listed = list(steps)
    used = {var for step in listed for var in used_by(step)}
    return frozenset(var for step in listed for var in made_by(step) if var not in used)


def changed_in(steps: Sequence[object]) -> frozenset[str]:
    """The variables of a case of which something is changed, or is to be: their own fields, or what they hold."""
    changed: set[str] = set()
    for step in reversed(steps):
        match step.attempt if isinstance(step, Fails) else step:
            case Set(path) | Clear(path):
                changed.add(path.var)
            case ChangeOne(var):
                changed.add(var)
            case (
                Register(registry)
                | RegisterLoader(registry)
                | RegisterNamed(registry)
                | LoadOnce(registry)
                | Unregister(registry)
            ):
                changed.add(registry)
            case BuilderSet(builder) | BuilderAdd(builder) | BuilderClear(builder):
                changed.add(builder)
            case ExemplarAdd(store):
                changed.add(store)
            case Take(var, path) if var in changed:
                changed.add(path.var)
    return frozenset(changed)
