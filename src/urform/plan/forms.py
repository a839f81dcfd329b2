"""Texts of a form: those that a pattern or a URI allows, and those just beside that it refuses."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from itertools import chain, islice

from urform.declaration.limits import form_of, pattern_of
from urform.declaration.model import Limit as DeclaredLimit
from urform.declaration.ranges import BLANK_TEXT, form_within, length_range
from urform.declaration.regexp.automaton import Automaton, automaton
from urform.declaration.regexp.syntax import BadPattern
from urform.declaration.regexp.texts import texts, without

ANY = "(.|\n|\r)"  # a pattern of one character
ANYTHING = f"{ANY}*"
SITE = "https://port-varrow.example/marks/"

Limits = tuple[DeclaredLimit, ...]


def texts_of_form(limits: Limits) -> Iterator[str] | None:
    """Texts within limits on their form, each different; None where there is no such limit."""
    form = form_within(limits)
    if form is None:
        return None
    within = texts(form, *length_range(limits))
    return chain(_usual(limits, form), within) if _is_uri(limits) else within


def _is_uri(limits: Limits) -> bool:
    return any(limit.name == "uri" for limit in limits)


def _usual(limits: Limits, form: Automaton) -> Iterator[str]:
    """What most URIs look like, before the shortest ones that there are."""
    fewest, most = length_range(limits)
    for number in range(1, 10):
        text = f"{SITE}{number}"
        if form.accepts(text) and fewest <= len(text) and (most is None or len(text) <= most):
            yield text


def texts_beside(limits: Limits, name: str) -> Iterator[str]:
    """Texts that keep most other limits and have not the form: with something behind, or before, any, and a line end."""
    form = _form(limits, name)
    pattern = next(pattern_of(name, limit.bound) for limit in limits if limit.name == name)
    assert pattern is not None
    for wider in [*wider_forms(pattern).values(), ANYTHING]:
        yield from islice(texts_of_wider(limits, name, wider), 1)
    size = length_range(limits)
    yield from (f"{text}\n" for text in islice(texts(form, *size), 1))  # some engines look no further


def texts_of_wider(limits: Limits, name: str, wider: str) -> Iterator[str]:
    """Texts that have a wider form and not that of a limit, and keep the others."""
    form = _form(limits, name)
    others = tuple(limit for limit in limits if limit.name != name)
    words = next((other.bound for other in others if isinstance(other.bound, tuple)), None)
    if words is not None:
        return (
            str(word) for word in words if not form.accepts(str(word)) and automaton(wider).accepts(str(word))
        )
    beside = without(automaton(wider), form)
    if any(other.name == "not_blank" for other in others):
        beside = without(beside, automaton(BLANK_TEXT))
    return texts(beside, *length_range(others))


def _form(limits: Limits, name: str) -> Automaton:
    form = next(form_of(limit.name, limit.bound) for limit in limits if limit.name == name)
    assert form is not None
    return form


@cache
def wider_forms(pattern: str) -> dict[str, str]:
    """What a pattern is taken for by mistake, by where a text may have more: those that can be built, and take more."""
    wider = {"behind": f"({pattern}){ANYTHING}", "before": f"{ANY}?({pattern})"}
    return {where: each for where, each in wider.items() if _takes_more(each, pattern)}


def _takes_more(wider: str, pattern: str) -> bool:
    """Whether a pattern can be built, and takes a text that another one does not."""
    try:
        return any(True for _ in texts(without(automaton(wider), automaton(pattern))))
    except BadPattern:
        return False
