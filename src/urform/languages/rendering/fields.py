"""What documentation comments say of a field, in every target: its doc, its limits, and its default."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import TEXT, TOLD, Collection, MapOf, Type
from urform.declaration.values import Boolean, Integer, Real, Text, Value, Word
from urform.plan.model import Bound, Field, Limit

CLOSING = "\"'`)]}»”’"


def field_doc(field: Field, otherwise: str = "") -> str:
    """The doc of a field, or what stands for none, and its limits: `In kilograms. At least 1.`"""
    return _sentences(field.doc or otherwise, limits_sentence(field))


def option_doc(field: Field, otherwise: str = "", *, of_any_kind: bool = False) -> str:
    """The same with its default, for what need not be given: `In kilograms. At least 1. 500 by default.`

    What is an option `of_any_kind` of product says no default, for each kind has its own.
    """
    return _sentences(field_doc(field, otherwise), "" if of_any_kind else default_sentence(field))


def limits_sentence(field: Field) -> str:
    """What a field has to be: `From 1 to 9999.`, `1 to 200 characters.`, `At least 1 element, each not blank.`"""
    whole = _phrases(field.limits, field.type)
    element = field.type.element if isinstance(field.type, Collection) else field.type
    each = [f"each {phrase}" for phrase in _phrases(field.each, element)]
    return _sentence(", ".join([*whole, *each]))


def default_sentence(field: Field) -> str:
    """`500 by default.`; nothing where there is no default, or one that is no scalar."""
    shown = _shown(field.default) if field.default is not None else None
    return f"{shown} by default." if shown is not None else ""


def _sentences(*parts: str) -> str:
    """Parts of a comment, each with its full stop where another follows."""
    given = [part for part in parts if part]
    return " ".join(_stopped(part) if part is not given[-1] else part for part in given)


def _stopped(text: str) -> str:
    """A full stop after the last word, and after what closes it."""
    return f"{text}." if text.rstrip(CLOSING)[-1:].isalnum() else text


def _sentence(words: str) -> str:
    return f"{words[0].upper()}{words[1:]}." if words else ""


def _phrases(limits: Sequence[Limit], type_: Type) -> Iterator[str]:
    """A phrase for each limit that has to be declared; two that are a range are one."""
    bounds = {limit.name: limit.bound for limit in limits}
    if "not_blank" in bounds:
        yield "not blank"
    in_time = type_ in TOLD and KINDS[str(type_)].in_time
    if in_time:
        yield from _range(bounds, "min", "max", "from {} to {}", ("{} or later", "{} or earlier"))
    else:
        yield from _range(bounds, "min", "max", "from {} to {}")
    beyond = ("after", "before") if in_time else ("above", "below")
    for name, word in zip(("above", "below"), beyond, strict=True):
        yield from [f"{word} {_number(bounds[name])}"] if name in bounds else []
    one, many = ("entry", "entries") if isinstance(type_, MapOf) else ("element", "elements")
    one, many = ("character", "characters") if type_ == TEXT else (one, many)
    last = bounds.get("max_length", bounds.get("min_length"))
    unit = one if last == 1 else many
    none_or = "none or " if any(limit.unless_empty for limit in limits) else ""
    for words in _range(bounds, "min_length", "max_length", "{} to {}"):
        yield f"{none_or}{words} {unit}"
    if "unique" in bounds:
        yield "each once"
    allowed = bounds.get("one_of")
    if isinstance(allowed, tuple):
        yield f"one of {', '.join(_word(each) for each in allowed)}"
    if "pattern" in bounds:
        yield f"matching {bounds['pattern']}"
    if "uri" in bounds:
        yield "a URI"


def _range(
    bounds: Mapping[str, Bound],
    low: str,
    high: str,
    both: str,
    alone: tuple[str, str] = ("at least {}", "at most {}"),
) -> Iterator[str]:
    if low in bounds and high in bounds:
        least, most = _number(bounds[low]), _number(bounds[high])
        yield f"exactly {least}" if least == most else both.format(least, most)
    elif low in bounds:
        yield alone[0].format(_number(bounds[low]))
    elif high in bounds:
        yield alone[1].format(_number(bounds[high]))


def _number(bound: Bound) -> str:
    """A number as one writes it: `90` for `90.0`."""
    return str(bound) if isinstance(bound, Told) else repr(bound).removesuffix(".0")


def _word(word: object) -> str:
    return f'"{word}"' if isinstance(word, str) else str(word)


def _shown(value: Value) -> str | None:
    match value:
        case Boolean(flag):
            return "True" if flag else "False"
        case Integer(number) | Real(number):
            return _number(number)
        case Told(_, text):
            return text
        case Text(text):
            return f'"{text}"' if text else "Empty"
        case Word(_, word):
            return _word(word)
    return None
