"""What the targets tell of the methods that change one element of what a mutable product holds."""

from __future__ import annotations

from urform.declaration.types import ListOf, MapOf
from urform.languages.naming.names import article, spoken
from urform.plan.model import Change, Limit


def lengths(change: Change) -> Limit | None:
    """The limit on a length that a change can break: one more element, or one less. None on putting one in a list."""
    if change.way == "put" and isinstance(change.field.type, ListOf):
        return None
    name = "min_length" if change.way == "remove" else "max_length"
    return next((limit for limit in change.field.limits if limit.name == name), None)


def is_placed(change: Change) -> bool:
    """Whether a change is made at a place, which may be none."""
    return change.way != "add" and isinstance(change.field.type, ListOf)


def change_doc(change: Change, *, third: bool = False, beyond: str = "") -> str:
    """What the method does, as an order or in the third person: `Adds a leg, behind the others.`

    `beyond` is what is said of a place that there is not.
    """
    return f"{_said(change, third)} {beyond if is_placed(change) else ''}".rstrip()


def _said(change: Change, third: bool) -> str:
    verb = {"add": "Add", "put": "Put", "remove": "Remove"}[change.way] + ("s" if third else "")
    item = change.field.item or ""
    one, held = article(item), spoken(change.field.name)
    match change.field.type, change.way:
        case ListOf(), "add":
            return f"{verb} {one}, behind the others."
        case ListOf(), "put":
            return f"{verb} {one} in the place of another, counted from 0."
        case ListOf(), _:
            return f"{verb} the {spoken(item)} at a place, counted from 0."
        case MapOf(), "put":
            return f"{verb} {one} under a key, in the place of one that is there."
        case MapOf(), _:
            return f"{verb} the {spoken(item)} under a key{_told(third)}"
        case _, "add":
            return f"{verb} {one} to the {held}, unless it is there."
    return f"{verb} {one} from the {held}{_told(third)}"


def _told(third: bool) -> str:
    return ", and tells whether it was there." if third else ", and tell whether it was there."
