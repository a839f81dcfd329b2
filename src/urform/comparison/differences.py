"""What differs between two plans, whatever the language."""

from __future__ import annotations

from collections.abc import Iterator

from urform.comparison.aspects import ASPECTS, ORDERS
from urform.comparison.facts import Fact, facts
from urform.dataclasses import dataclass
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Difference:
    """Something that a plan says otherwise than another; `before` is empty of what is new, `after` of what is gone."""

    path: str
    said: str  # `the default`
    effect: str  # where no entry of a target changes
    before: str
    after: str
    advice: str

    @property
    def owner(self) -> str:
        """The product, choice or family."""
        return self.path.partition(".")[0]


def differences(old: Plan, new: Plan) -> tuple[Difference, ...]:
    """All of them, in the order of the new plan, then what is gone."""
    before = {fact.key: fact for fact in facts(old)}
    after = {fact.key: fact for fact in facts(new)}
    return (*_changed(before, after), *_gone(before, after))


Facts = dict[tuple[str, str, str], Fact]


def _changed(before: Facts, after: Facts) -> Iterator[Difference]:
    for key, fact in after.items():
        was = before.get(key)
        if _is_same(was, fact) if was is not None else _is_told(fact, after, before):
            continue
        aspect = ASPECTS[fact.aspect]
        effect = aspect.changed if was is not None else aspect.new
        said = f"{aspect.said} {fact.detail}".rstrip()
        shown = was.shown if was is not None else ""
        yield Difference(fact.path, said, effect, shown, fact.shown, aspect.advice)


def _gone(before: Facts, after: Facts) -> Iterator[Difference]:
    for key, fact in before.items():
        if key not in after and not _is_told(fact, before, after):
            aspect = ASPECTS[fact.aspect]
            said = f"{aspect.said} {fact.detail}".rstrip()
            advice = aspect.gone_advice or aspect.advice
            yield Difference(fact.path, said, aspect.gone, fact.shown, "", advice)


def _is_same(was: Fact, now: Fact) -> bool:
    """Whether nothing differs; of an order, whether what both have stands in the same order."""
    if now.aspect not in ORDERS:
        return was.value == now.value
    assert isinstance(was.value, tuple)
    assert isinstance(now.value, tuple)
    common = set(was.value) & set(now.value)
    return [each for each in was.value if each in common] == [each for each in now.value if each in common]


def _is_told(fact: Fact, own: Facts, other: Facts) -> bool:
    """Whether it is said already of the whole that it is part of: that is new, or gone."""
    wholes = {(fact.owner, "there", ""), (fact.path, "there", "")} - {fact.key}
    return any(whole in own and whole not in other for whole in wholes)
