"""What a plan says of each thing, aspect by aspect, and what a change of it does where no entry of a target changes."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from urform.dataclasses import dataclass

BREAKS = "breaks"  # a client that was written for the old code does not compile
SILENT = "silent"  # it compiles, and does something else
HARMLESS = "harmless"
THERE = "there"  # what is said of a thing that is new, or gone
EFFECTS = (BREAKS, SILENT, HARMLESS)


@dataclass(frozen=True, slots=True)
class Aspect:
    """What is said of a thing: in words, what a change of it does, what it does that it is new or gone, and what to do about it.

    `advice` is for who changes the declaration, `gone_advice` for who takes the thing out.
    """

    said: str
    changed: str = HARMLESS
    new: str = HARMLESS
    gone: str = HARMLESS
    advice: str = ""
    gone_advice: str = ""


_FOLLOW = "change what calls it"
_LOOK = "look at each place that relies on it"
_KEEP = "keep it until its clients do without it"
_KEPT_SOMEWHERE = "records that are kept somewhere have the old one"

ASPECTS: Mapping[str, Aspect] = MappingProxyType(
    {
        "there": Aspect(THERE, advice=_FOLLOW, gone_advice=_KEEP),
        "required": Aspect(
            THERE,
            advice="declare it under `optional` with a default, and calls that do not give it stay as they are",
            gone_advice=_KEEP,
        ),
        "optional": Aspect(
            THERE,
            advice="hand in empty options where they are given by their place, and name this one where all are named",
            gone_advice=_KEEP,
        ),
        "need": Aspect(
            "whether it has to be given",
            advice="where it may be left out, give it a default, so that readers find a value as before",
        ),
        "type": Aspect(
            "the type", advice="add a field of the new type beside the old one, and move clients over"
        ),
        "default": Aspect(
            "the default", SILENT, SILENT, SILENT, "give the value where the old one was meant"
        ),
        "limits": Aspect(
            "the limits", SILENT, advice="look at what gives values that were accepted, or were refused"
        ),
        "copied": Aspect(
            "how it is copied", SILENT, advice="look at what changes a copy and reads the original"
        ),
        "element": Aspect("the name of one element", advice=_FOLLOW),
        "in records": Aspect("its name in records", SILENT, advice=_KEPT_SOMEWHERE),
        "secret": Aspect("whether messages show it", SILENT, advice="look at what reads messages"),
        "order": Aspect("the order of its fields", advice="look at calls that give values by their place"),
        "order in records": Aspect(
            "the order in its records", SILENT, advice="look at what compares texts of records"
        ),
        "order of words": Aspect(
            "the order of its words", SILENT, advice="look at what lists or compares them"
        ),
        "documentation": Aspect("the documentation"),
        "mutable": Aspect(
            "whether it can be changed", SILENT, advice="look at what shares one and relies on it"
        ),
        "single": Aspect(
            "whether there is one instance only", SILENT, advice="look at what compares identity"
        ),
        "closed": Aspect("whether others can add kinds", advice="look at what tells all kinds apart"),
        "base": Aspect("what it is a kind of", advice=_FOLLOW),
        "type code": Aspect("its type code", SILENT, advice="look at keys that are kept somewhere"),
        "kinds in records": Aspect("what tells it in records", SILENT, advice=_KEPT_SOMEWHERE),
        "answer": Aspect("its declared answer", SILENT, SILENT, SILENT, _LOOK),
        "signature": Aspect("what it takes and gives", advice=_FOLLOW),
        "written": Aspect("where it is written", advice="move what you wrote"),
        "form": Aspect("the form of its factory", advice=_FOLLOW),
        "key": Aspect(
            "what makes the key", SILENT, gone=SILENT, advice=_LOOK, gone_advice="look at what asks with it"
        ),
        "unknown key": Aspect(
            "what an unknown key gives", SILENT, advice="look at what asks with keys from outside"
        ),
        "decisions": Aspect("what its values are made to", SILENT, advice=_LOOK),
        "builder": Aspect("how its builder is used", advice=_FOLLOW),
        "after a build": Aspect(
            "what a builder holds after a build", SILENT, advice="look at builders that build twice"
        ),
        "preset": Aspect("the preset", SILENT, advice=_LOOK),
        "exemplar": Aspect(
            "the exemplar", SILENT, gone=SILENT, advice=_LOOK, gone_advice="look at what asks for it"
        ),
        "pool key": Aspect("what its pool knows it by", SILENT, advice=_LOOK),
        "pool": Aspect(
            "how its pool holds and makes", SILENT, advice="look at what relies on identity, and at memory"
        ),
        "role": Aspect("what it makes", advice=_FOLLOW),
        "member": Aspect(
            "the member", SILENT, gone=SILENT, advice=_LOOK, gone_advice="look at what asks for it"
        ),
        "records": Aspect("how records are read and written", SILENT, advice=_KEPT_SOMEWHERE),
    }
)
ORDERS = frozenset({"order", "order in records", "order of words"})  # of what both have
