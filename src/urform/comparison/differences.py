"""What differs between two plans, whatever the language."""

from __future__ import annotations

from collections.abc import Iterator

from urform.comparison.aspects import ASPECTS
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
    moved: bool = False  # the places of fields, which only some languages tell from one another

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
        if was is not None and was.value == fact.value:
            continue
        if was is None and _is_told(fact, before):
            continue
        aspect = ASPECTS[fact.aspect]
        effect = aspect.changed if was is not None else aspect.new
        said = f"{aspect.said} {fact.detail}".rstrip()
        shown = was.shown if was is not None else ""
        moved = fact.aspect == "place"
        yield Difference(fact.path, said, effect, shown, fact.shown, aspect.advice, moved)


def _gone(before: Facts, after: Facts) -> Iterator[Difference]:
    for key, fact in before.items():
        if key not in after and not _is_told(fact, after):
            aspect = ASPECTS[fact.aspect]
            said = f"{aspect.said} {fact.detail}".rstrip()
            advice = aspect.gone_advice or aspect.advice
            yield Difference(fact.path, said, aspect.gone, fact.shown, "", advice)


def _is_told(fact: Fact, other: Facts) -> bool:
    """Whether it is said already of the whole that it is part of: that is new, or gone."""
    whole = {(fact.owner, "there", ""), (fact.path, "there", "")} - {fact.key}
    return any(key not in other for key in whole if _has_whole(fact, key))


def _has_whole(fact: Fact, key: tuple[str, str, str]) -> bool:
    """Whether there is such a whole: a variant has defaults of fields that it does not declare."""
    return key[0] == fact.owner or fact.aspect not in ("default", "answer", "role")
