"""Calls of factories by key, and of registries, in the words of a target."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import chain

from urform.languages.naming.names import beside
from urform.languages.naming.scope import parameters_of_makers
from urform.languages.testing.contract import Call, Lines
from urform.languages.testing.writer import StepWriter
from urform.plan.steps import Ask, LoadOnce, Register, RegisterLoader, RegisterNamed


def ask(w: StepWriter, step: Ask, *, named: bool = False) -> Call:
    """The call that makes by key; of creators the one that finds a creator, of a `named` kind what loads it."""
    factory = w.factory(step.factory)
    given = w.asked_with(step, w.given)
    places = {
        "given": ", ".join(part for part in (w.literal(step.key), given) if part),
        "key": w.literal(step.key),
        **w.named(step.factory),
    }
    absent = factory.unknown == "nothing"
    if has_creators(w, step):
        return Call(w.say("creator", **places), factory.unknown == "error", absent)
    if step.registry is not None:
        places["on"] = w.var(step.registry)
    fails = _fails(w, step) or factory.unknown == "error"
    return Call(w.say(_phrase(w, step, named), **places), fails, absent)


def _phrase(w: StepWriter, step: Ask, named: bool) -> str:
    if step.registry is not None:
        return "ask named" if named and "ask named" in w.words else "ask registry"
    factory = w.factory(step.factory)
    if "ask untyped" in w.words and factory.needs_more and step.key not in factory.kinds:
        return "ask untyped"
    return "ask"


def _fails(w: StepWriter, step: Ask) -> bool:
    """Whether the call that makes has an error to look at, whatever the key."""
    if step.record is not None and w.takes_records:
        return True
    return w.factory_fails(w.plan.products[step.factory], w.factory(step.factory), step.registry)


def has_creators(w: StepWriter, step: Ask) -> bool:
    """Whether a factory by key gives what makes, not what is made."""
    return step.registry is None and w.factory(step.factory).form == "creators"


def created(w: StepWriter, step: Ask, creator: Call) -> tuple[Lines, Call]:
    """The statements that find a creator, and the call that it makes with."""
    given, fails = w.asked_with(step, w.given_in_full), _fails(w, step)
    if w.chained_creators:
        return iter(()), Call(w.say("create", on=w.taken(creator), given=given), fails)
    name = w.fresh("creator")
    return w.kept(name, creator), Call(w.say("create", on=name, given=given), fails)


# --- registries -------------------------------------------------------------------------------------------


def register(w: StepWriter, step: Register) -> tuple[Iterable[str], Call]:
    """The statements before the call that registers a variant, and that call."""
    before, maker = _maker(w, step.variant)
    return before, _registering(w, "register", step, maker=maker)


def register_loader(w: StepWriter, step: RegisterLoader) -> Lines:
    """A loader that counts how often it is called, and the call that registers it."""
    before, maker = _maker(w, step.variant)
    yield from before
    base = w.plan.products[step.variant].base or ""
    loader = beside(w.fresh("loader"), parameters_of_makers(w.plan, step.variant))
    places = {"loads": w.var(step.loads), "loader": loader, "maker": maker, **w.loading(base)}
    yield from w.lines("late loader" if step.late else "loader", **places)
    yield from w.do(_registering(w, "register loader", step, loader=loader))


def register_named(w: StepWriter, step: RegisterNamed) -> Lines:
    """The call that registers the name of a kind."""
    named = w.loader_name(w.plan.products[step.variant])
    return w.do(_registering(w, "register named", step, named=named))


def load_once(w: StepWriter, step: LoadOnce) -> Lines:
    """Threads that ask at once for a kind that is loaded."""
    before, maker = _maker(w, step.variant)
    asked = ask(w, step.ask)
    scenario = {
        "on": w.var(step.registry),
        "key": w.literal(step.key),
        "maker": maker,
        "ask": asked.code,
        "blanks": "_, " * (1 + asked.absent),
        "threads": step.threads,
        "entered": beside("entered", parameters_of_makers(w.plan, step.ask.factory)),
        **w.loading(step.ask.factory),
    }
    return chain(before, w.templates.lines("registry_tests", "LoadOnce", scenario))


def _maker(w: StepWriter, name: str) -> tuple[list[str], str]:
    """The statements before a maker of a variant, and the maker."""
    variant = w.plan.products[name]
    return w.maker(w.plan.products[variant.base or ""], variant)


def _registering(
    w: StepWriter, phrase: str, step: Register | RegisterLoader | RegisterNamed, **places: str
) -> Call:
    code = w.say(phrase, on=w.var(step.registry), key=w.literal(step.key), **places)
    return Call(code, fails=True, gives=False)
