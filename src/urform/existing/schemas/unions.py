"""One type for several: what of a union the format can say, and what is lost by that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from urform.declaration.types import TOLD
from urform.existing.found import LIST, MAP, NAMED, NOTHING, SET, WORDS, Type, nothing
from urform.existing.losses import Loss
from urform.prose import with_article

_TEXTS = ("text", "uri", *map(str, TOLD))
_SCALARS = (*_TEXTS, "integer", "real", "boolean", WORDS)


def losing(found: Type, loss: Loss) -> Type:
    """A type without something; nothing loses nothing."""
    return found if found.kind == NOTHING else replace(found, losses=(*found.losses, loss))


def nullable(found: Type, or_null: bool) -> Type:
    """A type that may be null as well, if it may."""
    return replace(found, or_null=True) if or_null and found.kind != NOTHING else found


def collection(kind: str, element: Type, limits: dict[str, object], losses: tuple[Loss, ...]) -> Type:
    """A list or a map of something; nothing, where that is nothing."""
    if element.kind == NOTHING:
        (loss,) = element.losses[:1]
        return nothing(loss.slug, f"{'a list' if kind == LIST else 'a map'} of {loss.text}")
    if element.or_null:
        losses = (*losses, Loss("null", "null among the elements"))
    return Type(kind, of=replace(element, or_null=False), limits=limits, losses=losses)


def either(types: Sequence[Type]) -> Type:
    """One type for several, as far as there is one, with what is lost by that."""
    some = list({repr(each): each for each in types}.values())
    or_null = any(each.or_null for each in some)
    kinds = [each.kind for each in some]
    if len(some) == 1:
        return some[0]
    if set(kinds) == {WORDS}:
        words = tuple(dict.fromkeys(word for each in some for word in each.words))
        return Type(WORDS, name=some[0].name, words=words, or_null=or_null)
    if set(kinds) <= {*_TEXTS, WORDS}:
        told = "words, or any text" if WORDS in kinds else "several forms of a text"
        lost = () if set(kinds) == {WORDS, "text"} and not _limited(some) else (Loss("pattern", told),)
        return Type("text", losses=lost, or_null=or_null)
    if set(kinds) <= {"integer", "real"}:
        lost = (Loss("limit", "several ranges"),) if _limited(some) else ()
        return Type("real" if "real" in kinds else "integer", losses=lost, or_null=or_null)
    lists = [each for each in some if each.kind == LIST]
    if len(some) == 2 and len(lists) == 1:
        other = next(each for each in some if each.kind != LIST)
        if lists[0].of is not None and lists[0].of.kind == other.kind and lists[0].of.name == other.name:
            return losing(lists[0], Loss("one-or-many", "one that stands by itself, outside of a list"))
    whole = [each for each in some if each.kind in (NAMED, MAP, LIST, SET)]
    if len(whole) == 1 and all(each.kind in (*_SCALARS, NOTHING) for each in some if each not in whole):
        others = " or ".join(_told(each) for each in some if each not in whole)
        return losing(whole[0], Loss("union", others))
    return nothing("union", " or ".join(dict.fromkeys(map(_told, some))))


def _limited(types: Sequence[Type]) -> bool:
    return any(each.limits or each.losses for each in types)


def _told(found: Type) -> str:
    if found.kind == NOTHING:
        return found.losses[0].text
    told = {NAMED: "an object", MAP: "a map", LIST: "a list", WORDS: "a word"}
    return told.get(found.kind) or with_article(found.kind)
