"""What cannot be carried over into a declaration: the kinds of losses, and what one can do about each."""

from __future__ import annotations

from urform.dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Loss:
    """One of them: its slug, and what exactly is lost."""

    slug: str
    text: str
    of: str = ""  # the type that it is about, where that has a name


MENDS = {
    "union": "make a product with variants of it, or two fields",
    "one-or-many": "write a list of one where only one is meant",
    "any": "say what is in it, or keep it beside the product",
    "null": "leave the field out where it would be null",
    "pattern": "write the pattern as I-Regexp, or a shorter one",
    "format": "add a pattern or limits, or check it beside the product",
    "limit": "check it beside the product",
    "default": "give the default where the product is made",
    "tuple": "make a product with a field for each place",
    "conditions": "declare a product with variants, or check it beside the product",
    "open-record": "declare the fields that you use",
    "outside-type": "say what stands for it: --type '{of}=text'",
    "other-file": "name that file, too, or put it beside this one",
    "unique": "use a list, and tell equal elements apart beside the product",
    "map-keys": "use text, and check the keys beside the product",
    "endless": "give it once the product is made",
    "owns-mutable": "make what it owns immutable",
    "name": "rename one of the two",
    "generic": "declare a product for each type that it is used with",
    "made-base": "declare a variant for it",
    "function": "make an operation of it",
    "computed-default": "write the value as a default, or give it where the product is made",
    "raw-pointer": "say who owns it, then use the type pointed to",
    "refused": "see `urform explain`",
}


def mend(loss: Loss) -> str:
    """What one can do about it."""
    return MENDS[loss.slug].replace("{of}", loss.of)
