"""Choices: each word is read from text and listed, and any other text is refused."""

from __future__ import annotations

from collections.abc import Iterator

from urform.plan.fault import Fault, flaw_fault
from urform.plan.model import Choice
from urform.plan.operands import UnknownKey
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns import Pattern
from urform.plan.script import Case, Claim, case
from urform.plan.steps import ReadWord, WordIs, WordsAre
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses

OTHER = "nowhere_declared"


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`words` of every choice."""
    for choice in plan.choices.values():
        text = f"each word of {choice.name} is read and listed, and any other text is refused"
        yield Claim("words", choice.name, text, tuple(_cases(choice)))


def _cases(choice: Choice) -> Iterator[Case]:
    for word in choice.words:
        yield case(ReadWord("word", choice.name, word), WordIs("word", choice.name, word))
    yield case(WordsAre(choice.name, choice.words))
    known = tuple(sorted(choice.words))
    for other in _others(choice):
        yield case(Fails(ReadWord(UNKEPT, choice.name, other), UnknownKey(choice.name, other, known)))


def _others(choice: Choice) -> Iterator[str]:
    """Texts that are no words: one that is nothing like them, one in capitals, one with more at its end."""
    last = choice.words[-1]
    for other in (OTHER, last.upper(), f"{last} "):
        if other not in choice.words:
            yield other


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    words = plan.choices[claim.owner].words
    yield flaw_fault(plan, claim, "any-word", claim.owner)
    if len(words) > 1:
        yield flaw_fault(plan, claim, "word-misread", claim.owner, words[-1])
        yield flaw_fault(plan, claim, "word-unlisted", claim.owner, words[-1])


PATTERN = Pattern("words", 5, claims, faults={"words": _faults})
