"""The open registry: kinds that are added, removed and loaded while running."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.plan.fault import Fault, factory_of, flaw_fault
from urform.plan.messages import NO_MAKER
from urform.plan.model import Factory
from urform.plan.operands import DuplicateKey, Refused, UnknownKey
from urform.plan.outcomes import UNKEPT, Fails, GivesNothing
from urform.plan.patterns import Pattern
from urform.plan.patterns.factories import Asker, other_than
from urform.plan.script import Claim, Step, case
from urform.plan.steps import (
    AskNamed,
    KeysAre,
    KindIs,
    LoadOnce,
    LoadsAre,
    NewRegistry,
    Register,
    RegisterLoader,
    RegisterNamed,
    Unregister,
)
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses
from urform.prose import with_article

ANOTHER = "another_key"
THREADS = 8


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`open` of every registry whose kinds can be made."""
    for making in plan.makings:
        if isinstance(making, Factory) and making.form == "registry":
            asker = Asker(plan, witnesses, making)
            if asker.can_ask:
                yield from _Registry(plan, asker).claims()


class _Registry:
    """Makes the claims of one registry."""

    def __init__(self, plan: Plan, asker: Asker) -> None:
        self._plan = plan
        self._asker = asker
        self._factory = asker.factory
        self._name = asker.factory.product
        self._key, self._variant = self._first()
        self._last = list(self._factory.kinds.values())[-1]
        self._another = other_than(self._factory, ANOTHER)

    def _first(self) -> tuple[str, str]:
        """A key that is taken away: one that makes the same of it, where a key is tied to the fields of its kind."""
        kinds = tuple(self._factory.kinds.items())
        unknown = [kind for kind in kinds if self._factory.needs_more and kind[1] == self._factory.unknown]
        return next(iter((*unknown, *kinds)))

    def claims(self) -> Iterator[Claim]:
        """All claims of the registry."""
        yield from self._added()
        yield from self._removed()
        yield from self._loaded()

    def _claim(self, aspect: str, text: str, *steps: Step) -> Claim:
        return Claim("open", self._name, text, (case(*self._asker.start, *steps),), aspect=aspect)

    def _made(self, key: str, variant: str) -> tuple[Step, ...]:
        return self._asker.ask(key, variant), KindIs("made", variant)

    def _added(self) -> Iterator[Claim]:
        key, last = self._key, self._last
        yield self._claim(
            "register",
            "a kind can be added while running, and is made",
            Register("registry", self._another, last),
            *self._made(self._another, last),
            KeysAre("registry", tuple(sorted((*self._factory.known, self._another)))),
        )
        yield self._claim(
            "twice",
            "a key that is taken is refused, and still makes its own kind",
            Fails(Register("registry", key, last), DuplicateKey(self._name, key)),
            *self._made(key, self._variant),
        )

    def _removed(self) -> Iterator[Claim]:
        key = self._key
        left = tuple(k for k in self._factory.known if k != key)
        yield self._claim(
            "unregister",
            "a kind can be removed while running",
            Unregister("registry", key, True),
            KeysAre("registry", left),
            Unregister("registry", key, False),
            *self._not_made(key, left),
        )
        yield self._claim(
            "isolated",
            "registries share nothing",
            NewRegistry("other", self._name),
            Register("registry", self._another, self._last),
            Unregister("registry", key, True),
            KeysAre("other", self._factory.known),
        )

    def _not_made(self, key: str, known: tuple[str, ...]) -> Iterator[Step]:
        ask = self._asker.ask(key, self._factory.kinds[key], UNKEPT)
        if self._factory.unknown == "error":
            yield Fails(ask, UnknownKey(self._name, key, known))
        elif self._factory.unknown == "nothing":
            yield GivesNothing(ask)
        else:
            yield from self._made(key, self._factory.unknown)

    def _loaded(self) -> Iterator[Claim]:
        key, last = self._another, self._last
        made = self._made(key, last)
        yield Claim(
            "open",
            self._name,
            "a kind is loaded at the first ask for its key, once",
            (
                case(
                    *self._asker.start,
                    RegisterLoader("registry", key, last, "loads"),
                    LoadsAre("loads", 0),
                    *made,
                    *made,
                    LoadsAre("loads", 1),
                ),
                case(
                    *self._asker.start,
                    LoadOnce("registry", key, last, self._asker.ask(key, last), THREADS),
                    main=False,
                ),
            ),
            aspect="loaded-once",
        )
        in_vain = self._asker.ask(key, last, UNKEPT)
        yield self._claim(
            "loaded-wrong",
            "a loader that gives no maker is refused, and asked again",
            RegisterLoader("registry", key, last, "loads", late=True),
            Fails(in_vain, Refused(self._name, NO_MAKER)),
            *made,
            LoadsAre("loads", 2),
        )
        named = next((v for v in self._factory.kinds.values() if not self._plan.products[v].single), None)
        if named is not None:
            yield self._claim(
                "loaded-by-name",
                f"the name of {with_article(named)} is looked up at the first ask for its key",
                RegisterNamed("registry", key, named),
                AskNamed(self._asker.ask(key, named)),
                KindIs("made", named),
            )


# --- faults -------------------------------------------------------------------------------------------------

FLAWS: Mapping[str, tuple[str, ...]] = {
    "register": ("registers-nothing",),
    "twice": ("registers-twice",),
    "unregister": ("unregisters-nothing",),
    "isolated": ("registries-share",),
    "loaded-once": ("loads-early", "loads-again", "loads-apart"),
    "loaded-wrong": ("loads-anything", "loads-no-more"),
    "loaded-by-name": ("names-unread",),
}


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    for flaw in FLAWS[claim.aspect or ""]:
        yield flaw_fault(plan, claim, flaw, factory_of(plan, claim.owner).product)


PATTERN = Pattern("registries", 41, claims, faults={"open": _faults})
