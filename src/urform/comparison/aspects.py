"""What a plan says of each thing, aspect by aspect, and what a change of it does where no entry of a target changes."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from urform.dataclasses import dataclass

BREAKS = "breaks"  # a client that was written for the old code does not compile
SILENT = "silent"  # it compiles, and does something else
HARMLESS = "harmless"
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

ASPECTS: Mapping[str, Aspect] = MappingProxyType(
    {
        "there": Aspect(
            "what it is",
            advice=_FOLLOW,
            gone_advice="keep it until its clients do without it",
        ),
        "need": Aspect(
            "whether it has to be given",
            advice="where it may be left out, give it a default, so that readers find a value as before",
        ),
        "required": Aspect(
            "whether it has to be given",
            advice="declare it under `optional` with a default, and calls that do not give it stay as they are",
            gone_advice="keep it until its clients do without it",
        ),
        "type": Aspect(
            "the type", advice="add a field of the new type beside the old one, and move clients over"
        ),
        "default": Aspect(
            "the default", SILENT, SILENT, SILENT, "give the value where the old one was meant"
        ),
        "limits": Aspect(
            "the limits", SILENT, advice="values that are refused now were accepted, or the reverse"
        ),
        "copied": Aspect(
            "how it is copied", SILENT, advice="look at what changes a copy and reads the original"
        ),
        "element": Aspect("the name of one element", advice=_FOLLOW),
        "in records": Aspect(
            "its name in records", SILENT, advice="records that are kept somewhere have the old name"
        ),
        "secret": Aspect("whether messages show it", SILENT, advice="look at what reads messages"),
        "place": Aspect("its place", advice="look at calls that give values by their place"),
        "place in records": Aspect(
            "its place in records", SILENT, advice="look at what compares texts of records"
        ),
        "documentation": Aspect("the documentation"),
        "mutable": Aspect(
            "whether it can be changed", SILENT, advice="what shares one sees its changes, or none any more"
        ),
        "single": Aspect(
            "whether there is one instance only", SILENT, advice="look at what compares identity"
        ),
        "closed": Aspect(
            "whether others can add kinds", advice="kinds of your own, and what tells all kinds apart"
        ),
        "base": Aspect("what it is a kind of", advice=_FOLLOW),
        "type code": Aspect("its type code", SILENT, advice="keys that are kept somewhere have the old code"),
        "kinds in records": Aspect(
            "what tells it in records", SILENT, advice="records that are kept somewhere have the old name"
        ),
        "words": Aspect("the order of its words", SILENT, advice="look at what lists or compares them"),
        "answer": Aspect("its declared answer", SILENT, SILENT, SILENT, _LOOK),
        "signature": Aspect("what it takes and gives", advice=_FOLLOW),
        "written": Aspect("where it is written", advice="move what you wrote"),
        "form": Aspect("the form of its factory", advice=_FOLLOW),
        "key": Aspect(
            "what a key makes",
            SILENT,
            gone=SILENT,
            advice=_LOOK,
            gone_advice="the key is unknown from now on",
        ),
        "unknown key": Aspect(
            "what an unknown key gives", SILENT, advice="look at what asks with keys from outside"
        ),
        "decisions": Aspect("what its values are made to", SILENT, advice=_LOOK),
        "builder": Aspect("how its builder is used", advice=_FOLLOW),
        "after a build": Aspect(
            "what a builder holds after a build", SILENT, advice="look at builders that build twice"
        ),
        "preset": Aspect("what a preset gives", SILENT, advice=_LOOK),
        "exemplar": Aspect(
            "an exemplar", SILENT, gone=SILENT, advice=_LOOK, gone_advice="its name is unknown from now on"
        ),
        "pool key": Aspect("what its pool knows it by", SILENT, advice=_LOOK),
        "pool": Aspect(
            "how its pool holds and makes", SILENT, advice="look at what relies on identity, and at memory"
        ),
        "role": Aspect("what a role is", advice=_FOLLOW),
        "member": Aspect(
            "what a member makes",
            SILENT,
            gone=SILENT,
            advice=_LOOK,
            gone_advice="its key is unknown from now on",
        ),
        "records": Aspect(
            "how records are read and written",
            SILENT,
            advice="records that are kept somewhere have the old form",
        ),
    }
)
