"""Mistakes that a plan cannot say with its own vocabulary: what a careless author would write.

Most faults are changes of the plan's data (an edge moved, two kinds swapped). The rest are *flaws*: names for a piece of
behaviour gone wrong, each with its words here; how a target writes it stands in one table of that target. A plan with a
flaw is made when tests are challenged, and never else.
"""

from __future__ import annotations

from dataclasses import replace

from urform.plan.model import Flaw
from urform.plan.whole import Plan

# `{owner}`, `{member}` and `{aspect}` stand for what a flaw is about.
WORDS: dict[str, str] = {
    # fields
    "accepts-missing": "nobody notices that {member} is missing",
    "absent-fails": "leaving out {member} is an accident",
    "unlimited": "{aspect} of {member} refuses nothing",
    "keeps-sign-of-zero": "{member} of {owner} keeps the sign of a zero",
    "uncompared": "two of {owner} are equal whatever their {member}",
    "equal-by-identity": "{owner} is equal to itself alone",
    "kept-as-given": "{member} of {owner} is the very collection or product that was handed in",
    "handed-out": "{member} of {owner} is handed out as it is held, to be changed",
    "assignable": "fields of {owner} can be assigned",
    "change-does-nothing": "to {aspect} one of {member} does nothing",
    "change-keeps-as-given": "to {aspect} one of {member} keeps the very element that was handed in",
    "change-before-check": "to {aspect} one of {member} is refused, and done all the same",
    "change-copies-others": "to {aspect} one of {member} copies the others",
    "change-unchecked": "to {aspect} one of {member} looks at no limit of its own",
    "change-unlimited": "to {aspect} one of {member} looks at no limit of the whole",
    "single-again": "each request makes another {owner}",
    # factories
    "falls-through": "an unknown key falls through to the first kind",
    "fails-for-unknown": "an unknown key is an accident",
    "registers-nothing": "what is registered is not kept",
    "registers-twice": "a key that is taken can be registered again",
    "unregisters-nothing": "what is unregistered stays",
    "registries-share": "all registries are one",
    "loads-early": "a loader is called when it is registered",
    "loads-again": "a loader is called at each ask",
    "loads-apart": "threads that ask at once call a loader each",
    "loads-anything": "what a loader gives is taken for a maker",
    "loads-no-more": "a loader that gave no maker is not asked again",
    "names-unread": "what a name leads to is not looked up",
    # choices
    "any-word": "a text that is no word of {owner} is read as one",
    "word-misread": "{member} is read as another word",
    "word-unlisted": "{member} is not listed",
    # builders
    "sets-nothing": "the builder ignores the {member} that it is given",
    "clears-nothing": "the builder keeps the {member} that it is to clear",
    "cleared-stays": "the builder keeps the {member} that it is to clear",
    "first-set-wins": "the builder keeps the first {member}, and ignores what the caller sets after it",
    "builder-keeps-as-given": "the builder keeps the very {member} that was handed in",
    "builders-share": "all builders of {owner} collect into one",
    "adder-keeps-as-given": "adding to {member} keeps the very element that was handed in",
    "adder-replaces": "adding to {member} drops what was there",
    "like-leaves-out": "a builder that starts from a product leaves out its {member}",
    # clones and exemplars
    "clone-shares": "a clone shares the {member} that it ought to own",
    "clone-handed-out": "a clone hands out its {member} as it is held, to be changed",
    "clone-copies": "a clone has a {member} of its own where it ought to share",
    "clone-loses": "a clone starts with no {member}",
    "clone-keeps": "a clone keeps the {member} that ought to start again",
    "clone-is-itself": "a clone of {owner} is the original",
    "clone-is-nothing": "a clone of {owner} is nothing at all",
    "exemplar-itself": "the store hands out the exemplar itself",
    "exemplar-kept-as-given": "the store keeps the very {owner} that it was given",
    "exemplar-not-kept": "what is added to the store is not kept",
    "exemplar-twice": "a name that is taken can be added again",
    "exemplar-unknown": "an unknown name is handed some exemplar",
    "exemplars-share": "all stores are one",
    # pools
    "pool-forgets": "the pool keeps nothing that it made",
    "pool-ignores": "the pool does not look at {member}",
    "pool-by-identity": "the pool compares keys by identity",
    "pool-unguarded": "the pool looks up and makes without excluding other threads",
    "pool-miscounts-made": "the pool does not count what it makes",
    "pool-miscounts-reused": "the pool does not count what it uses again",
    "pool-remembers-failure": "a maker that failed is taken for one that made something",
    "pool-any-key": "the pool takes another key's {owner} from its maker",
    "pool-not-reentrant": "a maker that asks its pool for another key waits for itself",
    "pool-hits-wait": "a hit waits for whatever is being made",
    "pools-share": "all pools are one",
    # records
    "writes-all-but-first": "records are written without their first field",
    "writes-no-kind": "records are written without their kind",
    "tells-first-problem": "only the first problem of a record is told",
    "loses-path": "a problem tells the name of its field, and not the way to it",
    "any-kind": "a record of an unknown kind is taken for one of the first",
    "takes-other-uuids": "what follows the UUID in a text is not looked at",
    "takes-other-times": "what follows the time of day in a text is not looked at",
    "takes-other-durations": "what follows the duration in a text is not looked at",
    "takes-other-decimals": "what follows the decimal number in a text is not looked at",
    "takes-other-instants": "what follows the instant in a text is not looked at",
    "takes-other-dates": "what follows the date in a text is not looked at",
    "takes-doubled": "of two values under one name the last is taken",
    # families
    "part-is-nothing": "{member} is nothing at all",
    "records-nothing": "the stand-in records nothing",
}
# What a language has to let happen for a flaw, or a test has to be able to do to notice it (see `capabilities.py`).
NEEDED: dict[str, str] = {
    "assignable": "assign",
    "kept-as-given": "change what was handed in",
    "builder-keeps-as-given": "change what was handed in",
    "adder-keeps-as-given": "change what was handed in",
    "change-keeps-as-given": "change what was handed in",
    "clone-handed-out": "change what is handed out",
    "handed-out": "change what is handed out",
    "change-copies-others": "alias what is owned",
    "clone-shares": "alias what is owned",
    "clone-is-itself": "alias what is owned",
    "exemplar-itself": "alias what is owned",
    "exemplar-kept-as-given": "alias what is owned",
    "exemplars-share": "share what can change",
    "builders-share": "share what can change",
    "cleared-stays": "clear a field by a method",
    "registries-share": "share what can change",
    "word-misread": "read words in its own code",
    "word-unlisted": "list words in its own code",
    "takes-doubled": "read records from text",
    "loads-apart": "threads",
    "loads-anything": "load nothing",
    "names-unread": "load by name",
}


def flawed(plan: Plan, name: str, owner: str, member: str = "", aspect: str = "") -> Plan:
    """The plan with one more flaw."""
    assert name in WORDS, f"{name} is no flaw that has words"
    return replace(plan, flaws=(*plan.flaws, Flaw(name, owner, member, aspect)))


def in_words(flaw: Flaw) -> str:
    """A flaw for people."""
    return WORDS[flaw.name].format(owner=flaw.owner, member=flaw.member, aspect=flaw.aspect.replace("_", " "))
