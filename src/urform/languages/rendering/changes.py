"""What the targets tell of the methods that change one element of what a mutable product holds."""

from __future__ import annotations

from urform.declaration.types import ListOf, MapOf
from urform.languages.naming.names import article, spoken
from urform.plan.model import Change, Limit


def of_the_whole(change: Change) -> tuple[Limit, ...]:
    """The limits of a whole collection that a change can break, in their order.

    One more element may be one too many, or the first of several that there have to be; one less too few.
    """
    return tuple(limit for limit in change.field.limits if _can_break(change, limit))


def _can_break(change: Change, limit: Limit) -> bool:
    is_placed = change.way == "put" and isinstance(change.field.type, ListOf)
    match limit.name:
        case "max_length":
            return change.brings and not is_placed
        case "min_length":
            return not is_placed and (limit.unless_empty or not change.brings)
    return limit.name == "unique" and change.brings


def asked(change: Change, item: str) -> str:
    """What is looked up of what is removed by value or key; nothing of a list."""
    if not change.tells:
        return ""
    return "key" if change.is_keyed else item


def change_doc(change: Change, *, third: bool = False, beyond: str = "") -> str:
    """What the method does, as an order or in the third person: `Adds a leg, behind the others.`

    `beyond` is what is said of a place that there is not.
    """
    told = (", and tells whether it was there" if third else ", and tell whether it was there") * change.tells
    return f"{done(change, third=third)}{told}. {beyond if change.is_placed else ''}".rstrip()


def done(change: Change, *, third: bool) -> str:
    """The same without what it tells, and without a full stop."""
    verb = {"add": "Add", "put": "Put", "remove": "Remove"}[change.way] + ("s" if third else "")
    item = change.field.item or ""
    one, held = article(item), spoken(change.field.name)
    match change.field.type, change.way:
        case ListOf(), "add":
            return f"{verb} {one}, behind the others"
        case ListOf(), "put":
            return f"{verb} {one} in the place of another, counted from 0"
        case ListOf(), _:
            return f"{verb} the {spoken(item)} at a place, counted from 0"
        case MapOf(), "put":
            return f"{verb} {one} under a key, in the place of one that is there"
        case MapOf(), _:
            return f"{verb} the {spoken(item)} under a key"
        case _, "add":
            return f"{verb} {one} to the {held}, unless it is there"
    return f"{verb} {one} from the {held}"
