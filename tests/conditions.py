"""Conditions of factories by values, drawn by chance: every function and operator, fields beside fields, nested."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import permutations

from tests.data import Data, is_collection
from tests.values import DATES, UUIDS, Values
from tests.vocabulary import CONDITION_WORDS

SIGNS = ("<", "<=", ">", ">=", "==", "!=")
NUMBERS = ("integer", "real")


def comparisons(draw: Values, fields: Mapping[str, Data], needed: set[str]) -> list[str]:
    """What can be asked of some fields, of one or of two; whether a field is there at all is asked before its value."""
    able = {name: f for name, f in fields.items() if name not in CONDITION_WORDS}
    always = {n for n, f in able.items() if n in needed or "default" in f or is_collection(f["type"])}
    found = [f"present({name})" for name in able if name not in always]
    for name, field in able.items():
        found += [_there({name} - always, asked) for asked in _of_one(draw, name, field["type"])]
    for one, other in permutations(able, 2):
        asked_of_two = _of_two(draw, one, able[one]["type"], other, able[other]["type"])
        found += [_there({one, other} - always, asked) for asked in asked_of_two]
    return found


def condition(draw: Values, found: Sequence[str], depth: int = 0) -> str:
    """One of them, or some of them joined or turned round."""
    way = draw.number(0, 5 + 3 * depth)
    if way < 2:
        parts = [condition(draw, found, depth + 1) for _ in range(draw.number(2, 3))]
        return "(" + f" {draw.one(('and', 'or'))} ".join(parts) + ")"
    return f"not {condition(draw, found, depth + 1)}" if way == 2 else f"({draw.one(found)})"


def _there(absent: set[str], asked: str) -> str:
    return " and ".join([*(f"present({name})" for name in sorted(absent)), asked])


def _of_one(draw: Values, name: str, type_: str) -> Iterator[str]:
    sign = draw.one(SIGNS)
    if type_ in NUMBERS:
        yield f"{name} {sign} {draw.number(-9, 9)}"
        yield f"{name} {draw.one(SIGNS[:4])} {draw.number(-9, 9)}.5"  # no whole number is equal to it
    elif type_ in ("text", "uri"):
        yield from (f"blank({name})", f"size({name}) {sign} {draw.number(1, 5)}")
        yield f'{name} {draw.one(("==", "!="))} "{draw.one(("a b", "", "a"))}"'
    elif type_ == "date":
        yield f'{name} {sign} "{draw.one(DATES)}"'
    elif type_ == "uuid":
        yield f'{name} {draw.one(("==", "!="))} "{draw.one(UUIDS)}"'
    elif type_ == "boolean":
        yield from (name, f"{name} == false")
    elif type_ in draw.choices:
        yield f'{name} {draw.one(("==", "!="))} "{draw.one(draw.choices[type_])}"'
    elif is_collection(type_):
        yield f"size({name}) {sign} {draw.number(1, 3)}"


def _of_two(draw: Values, one: str, type_: str, other: str, other_type: str) -> Iterator[str]:
    if {type_, other_type} <= set(NUMBERS) or type_ == other_type == "date":
        yield f"{one} {draw.one(SIGNS)} {other}"
    elif type_ == other_type and (type_ in ("text", "boolean", "uuid") or type_ in draw.choices):
        yield f"{one} {draw.one(('==', '!='))} {other}"
    if all(each == "text" or is_collection(each) for each in (type_, other_type)):
        yield f"size({one}) {draw.one(SIGNS)} size({other})"
