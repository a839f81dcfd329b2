"""Values for factories by values: what reaches a variant or a refusal, and what lies on its edges.

The conditions are evaluated on candidates: witnesses, and the values that the conditions themselves mention with
their neighbours. What no candidate reaches has no test.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Set
from typing import TYPE_CHECKING

from urform.declaration.decisions import (
    Comparison,
    Decision,
    Literal,
    Read,
    Size,
    comparisons,
    fields_of,
    known,
)
from urform.declaration.ranges import length_range
from urform.declaration.selection import Refusal, empty
from urform.declaration.types import BOOLEAN, INTEGER, REAL, TEXT, ChoiceType, Collection, ListOf, Type
from urform.declaration.values import Boolean, Entries, Integer, Items, Real, Text, Value, Word
from urform.plan.model import Field, Limit, Plan, Selection
from urform.plan.operands import Keyed, Misfit, NoWord, Null, Operand, Several, Strange
from urform.plan.scalars import as_declared, first_broken

if TYPE_CHECKING:
    from urform.plan.witnesses import Witnesses

MOST_TRIES = 1000
LARGEST = 2**53  # of whole numbers, in every language
FRACTION = 1.5  # a misfit for a whole number is true in one language, a fraction in another
BUOYANT = "\N{RING BUOY}"

Given = Mapping[str, Operand]
Outcome = Refusal | str
Seen = Mapping[str, Value | float | None]  # values of fields, as conditions see them


class Selecting:
    """Finds arguments for one factory by values."""

    def __init__(self, plan: Plan, witnesses: Witnesses, selection: Selection) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self.selection = selection
        deciding = selection.deciding
        self._decisions: list[Decision] = [refusal.when for refusal in deciding.refusals]
        self._decisions += [choice.when for choice in deciding.choices if choice.when is not None]
        self._fields = [tuple(dict.fromkeys(fields_of(each))) for each in self._decisions]
        self._verdicts: dict[tuple[object, ...], bool | None] = {}
        self._candidates: dict[str, tuple[Operand, ...]] = {}
        self.mentioned = frozenset(field for each in self._decisions for field in fields_of(each))

    # --- what arguments come to -----------------------------------------------------------------------

    def outcome(self, given: Given) -> Outcome | None:
        """The refusal, or the name of the variant; None where a value has no meaning in a condition."""
        if any(is_strange_to_conditions(given.get(name)) for name in self.mentioned):
            return None
        if any(isinstance(given.get(field.name), Null | None) for field in self.selection.required):
            return None
        outcome = self.selection.deciding.decide(self.seen(given))
        if any(given.get(name) == Misfit(INTEGER) for name in self.mentioned):
            other = self.selection.deciding.decide(self.seen(given, misfit=FRACTION))
            return outcome if outcome == other else None
        return outcome

    def seen(self, given: Given, misfit: float | None = None) -> Seen:
        """Arguments as the conditions see them; `misfit` stands for what a checker lets through as a whole number."""
        found = {field.name: _seen(field, given.get(field.name)) for field in self.selection.parameters}
        if misfit is not None:
            found |= {name: misfit for name, operand in given.items() if operand == Misfit(INTEGER)}
        return found

    def makes(self, given: Given, variant: str) -> bool:
        """Whether these arguments make this variant: it is chosen, and its limits hold."""
        return self.outcome(given) == variant and self._keeps_limits(variant, given)

    def _keeps_limits(self, variant: str, given: Given, save: Given | None = None) -> bool:
        fields = (f for f in self._plan.products[variant].fields if f.name not in (save or {}))
        return all(within(given[f.name], f) for f in fields if f.name in given)

    # --- finding arguments ------------------------------------------------------------------------------

    def reaching(
        self,
        goal: Callable[[Given], bool],
        possible: Callable[[Seen], bool],
        when: Decision | None,
        fixed: Given,
        without: Iterable[str] = (),
    ) -> Given | None:
        """The first arguments with these fixed ones that come to the goal, those with the fewest optional ones
        first; `when` must hold of them, `without` are never given. None when there are none.

        `possible` is asked of some fields' values, whether the goal can still be reached whatever the others are. A
        goal is an outcome, or needs one.
        """
        if any(is_strange_to_conditions(fixed.get(name)) for name in self.mentioned):
            return None  # no outcome
        if any(isinstance(fixed.get(field.name), Null) for field in self.selection.required):
            return None
        plain = {field.name for field in self.selection.optional} - set(fixed)
        return self._search(goal, possible, when, fixed, plain) or self._search(
            goal, possible, when, fixed, frozenset(without)
        )

    def _search(
        self,
        goal: Callable[[Given], bool],
        possible: Callable[[Seen], bool],
        when: Decision | None,
        fixed: Given,
        without: Set[str],
    ) -> Given | None:
        lists: dict[str, list[Operand | None]] = {
            field.name: [fixed[field.name]]
            if field.name in fixed
            else [None]
            if field.name in without
            else self._few(field, fixed)
            for field in self.selection.parameters
        }
        looked_at = set(fields_of(when)) if when is not None else set()
        order = sorted(lists, key=lambda name: name not in looked_at)  # what `when` looks at is chosen first

        def may(seen: Seen) -> bool:
            return (when is None or known(when, seen) is not False) and possible(seen)

        for given in self._combinations(lists, order, may):
            if len(given) >= len(self.selection.required) and goal(given):
                return given
        return None

    def _combinations(
        self, lists: Mapping[str, list[Operand | None]], order: list[str], may: Callable[[Seen], bool]
    ) -> Iterator[Given]:
        """One value of each list, in the order of the product; as soon as some of them rule a goal out, the next."""
        fields = {field.name: field for field in self.selection.parameters}
        picked: dict[str, Operand | None] = {}
        seen: dict[str, Value | float | None] = {}
        tries = itertools.count(1)

        def chosen(place: int) -> Iterator[Given]:
            if place == len(order):
                yield {name: one for name in lists if (one := picked[name]) is not None}
                return
            name = order[place]
            for value in lists[name]:
                picked[name] = value
                if name not in self.mentioned:
                    yield from chosen(place + 1)
                    continue
                if next(tries) > MOST_TRIES:
                    return
                seen[name] = _seen(fields[name], value)
                if may(seen):
                    yield from chosen(place + 1)
                del seen[name]

        return chosen(0)

    def _known(self, number: int, seen: Seen) -> bool | None:
        """What a decision, by its place among all of them, comes to; kept, for searches ask the same again and again."""
        fields = self._fields[number]
        key = (number, *(seen.get(name, self) for name in fields))  # itself, for what has no value yet
        if key not in self._verdicts:
            self._verdicts[key] = known(self._decisions[number], seen)
        return self._verdicts[key]

    def could_be(self, variant: str) -> Callable[[Seen], bool]:
        """Whether a variant may still be what some values come to."""
        deciding = self.selection.deciding
        refusals = range(len(deciding.refusals))

        def possible(seen: Seen) -> bool:
            if any(self._known(number, seen) for number in refusals):
                return False
            for number, choice in enumerate(deciding.choices, len(refusals)):
                found = True if choice.when is None else self._known(number, seen)
                if choice.variant == variant and found is not False:
                    return True
                if found:
                    return False
            return False

        return possible

    def could_be_refused(self, number: int) -> Callable[[Seen], bool]:
        """Whether a refusal may still be the first of all."""
        place = next(at for at, r in enumerate(self.selection.deciding.refusals) if r.number == number)

        def possible(seen: Seen) -> bool:
            earlier = any(self._known(at, seen) for at in range(place))
            return not earlier and self._known(place, seen) is not False

        return possible

    def _when(self, variant: str) -> Decision | None:
        """The condition of the first choice that makes a variant."""
        return next(choice.when for choice in self.selection.deciding.choices if choice.variant == variant)

    def _is_chosen(self, variant: str) -> bool:
        """Whether any choice makes a variant; none need to."""
        return any(choice.variant == variant for choice in self.selection.deciding.choices)

    def making(self, variant: str, fixed: Given | None = None, without: Iterable[str] = ()) -> Given | None:
        """Arguments that make a variant."""
        if not self._is_chosen(variant) or not self._keeps_limits(variant, fixed or {}):
            return None
        return self.reaching(
            lambda given: self.makes(given, variant),
            self.could_be(variant),
            self._when(variant),
            fixed or {},
            without,
        )

    def choosing(self, variant: str, fixed: Given) -> Given | None:
        """Arguments for which a variant is chosen, whether or not the fixed ones keep its limits; the others do."""
        if not self._is_chosen(variant):
            return None
        return self.reaching(
            lambda given: self.outcome(given) == variant and self._keeps_limits(variant, given, save=fixed),
            self.could_be(variant),
            self._when(variant),
            fixed,
        )

    def refused(self, number: int) -> Given | None:
        """Arguments to which a refusal is the first answer."""
        when = next(r.when for r in self.selection.deciding.refusals if r.number == number)
        return self.reaching(
            lambda given: _number(self.outcome(given)) == number, self.could_be_refused(number), when, {}
        )

    def _few(self, field: Field, fixed: Given) -> list[Operand | None]:
        found: list[Operand | None] = list(self._kept_candidates(field))
        found += [each for each in self._beside_fixed(field, fixed) if each not in found]
        if not found:
            return [] if field.required else [None]
        if field.name not in self.mentioned:
            return [None] if not field.required else found[:1]
        return found if field.required else [None, *found]

    def candidates(self, field: Field) -> Iterator[Operand]:
        """Witnesses of a parameter, then the values on and beside what conditions compare it with."""
        seen: list[Operand] = []
        for operand in itertools.chain(self._typical(field), self._on_edges(field)):
            if operand not in seen:
                seen.append(operand)
                yield operand

    def _kept_candidates(self, field: Field) -> tuple[Operand, ...]:
        if field.name not in self._candidates:
            self._candidates[field.name] = tuple(self.candidates(field))
        return self._candidates[field.name]

    def _beside_fixed(self, field: Field, fixed: Given) -> Iterator[Operand]:
        """What equals a given value that a condition compares with this field, and what is next to it."""
        for other in self._compared_with(field):
            if other.name in fixed:
                yield from _next_to(field, fixed[other.name])

    def _compared_with(self, field: Field) -> Iterator[Field]:
        """The fields that some condition compares with this one."""
        fields = {each.name: each for each in self.selection.parameters}
        for compared in (c for each in self._decisions for c in comparisons(each)):
            for one, other in ((compared.left, compared.right), (compared.right, compared.left)):
                if one == Read(field.name) and isinstance(other, Read) and other.field != field.name:
                    yield fields[other.field]

    def _typical(self, field: Field) -> Iterator[Operand]:
        many = 6 if isinstance(field.type, ChoiceType) else 2
        yield from itertools.islice(self._witnesses.values(field.type, field.limits, field.each), many)

    def _on_edges(self, field: Field) -> Iterator[Operand]:
        if field.name not in self.mentioned:
            return
        if field.type == TEXT:
            yield from (Text(""), Text(" \t"), Text("\N{NO-BREAK SPACE}"))
        if field.type == BOOLEAN:
            yield from (Boolean(True), Boolean(False))
        for compared in (c for each in self._decisions for c in comparisons(each)):
            yield from self._beside(field, compared)
        for other in self._compared_with(field):
            for typical in itertools.islice(self._typical(other), 1):
                yield from _next_to(field, typical)

    def _beside(self, field: Field, compared: Comparison) -> Iterator[Operand]:
        from urform.plan.witnesses import sized

        for one, other in ((compared.left, compared.right), (compared.right, compared.left)):
            if not isinstance(other, Literal):
                continue
            value = other.value
            if one == Read(field.name):
                yield from _neighbours(field, value)
            elif one == Size(field.name) and isinstance(value, int):
                for size in (value, value - 1, value + 1):
                    if field.type == TEXT and size >= 0:
                        yield from (Text(BUOYANT * size), Text(" " * size))
                    elif isinstance(field.type, Collection):
                        held = sized(self._witnesses, field, size)
                        yield from [held] if held is not None else []


def _number(outcome: Outcome | None) -> int | None:
    return outcome.number if isinstance(outcome, Refusal) else None


def _next_to(field: Field, other: Operand) -> Iterator[Operand]:
    """Values of a field on both sides of another one's value."""
    match other:
        case Integer(number) if field.type in (INTEGER, REAL):
            yield from _neighbours(field, number)
        case Real(number) if field.type == REAL:
            yield from _neighbours(field, number)
        case Real(number) if field.type == INTEGER and abs(number) < LARGEST:
            yield from _neighbours(field, math.floor(number))
        case Text(text) if field.type == TEXT:
            yield Text(text)


def _neighbours(field: Field, value: int | float | str | Word) -> Iterator[Operand]:
    match value:
        case Word():
            yield value
        case str(text):
            yield from (Text(text), Text(f"{text} "))
        case int(number) if field.type == INTEGER:
            yield from (Integer(number), Integer(number - 1), Integer(number + 1))
        case _ if field.type == REAL:
            middle = float(value)
            for near in (middle, math.nextafter(middle, -math.inf), math.nextafter(middle, math.inf)):
                yield Real(near + 0.0)


def _seen(field: Field, operand: Operand | None) -> Value | float | None:
    """A parameter as the conditions see it."""
    match operand:
        case None | Null():
            return field.default if field.default is not None else empty(field.type)
        case Several(type_, items):
            return Items(type_, items)  # type: ignore[arg-type]  # only its length is looked at
        case Keyed(type_, entries):
            return Entries(type_, entries)  # type: ignore[arg-type]
        case Misfit(type_):
            return _misfit(type_)
        case Strange("huge"):
            return Integer(10**400)
        case Strange(number):
            return float(number)
        case NoWord(choice):
            return Word(choice, "\0")
        case Text() | Integer() | Real() | Boolean() | Word() | Items() | Entries():
            return operand
    return Boolean(True)  # a product: all that can be asked of it is whether it is there


def is_strange_to_conditions(operand: Operand | None) -> bool:
    """A value of a wrong type that no language lets through as far as the conditions."""
    if not isinstance(operand, Misfit):
        return False
    return operand.type not in (INTEGER, REAL) and not isinstance(operand.type, ListOf)


def _misfit(type_: Type) -> Value | float | None:
    """What a checker lets through in place of a number or a list: true, and a text of four letters."""
    if isinstance(type_, ListOf):
        return Items(type_, (Text("text"),) * 4)
    return Real(1.0) if type_ == REAL else Integer(1)


def has_length(operand: Operand, limits: tuple[Limit, ...]) -> bool:
    """Whether a collection keeps limits of length; what is none always does."""
    if not isinstance(operand, (Several, Keyed)):
        return True
    size = len(operand.items if isinstance(operand, Several) else operand.entries)
    fewest, most = length_range(as_declared(limits))
    return fewest <= size and (most is None or size <= most)


def within(operand: Operand, field: Field) -> bool:
    """Whether a witness keeps the limits of a field."""
    if isinstance(operand, (Several, Keyed)):
        return has_length(operand, field.limits)
    return not isinstance(operand, (Strange, NoWord, Misfit)) and first_broken(operand, field.limits) is None
