"""Values for factories by values: what reaches a variant or a refusal, and what lies on its edges.

The conditions are evaluated on candidates: witnesses, and the values that the conditions themselves mention with
their neighbours. What no candidate reaches has no test.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Generator, Iterable, Iterator, Mapping, Sequence, Set

from urform.declaration.decisions import (
    Comparison,
    Constant,
    Decision,
    Literal,
    Read,
    Size,
    comparisons,
    fields_of,
)
from urform.declaration.evaluation import Plain, Seen, evaluation, plain
from urform.declaration.limits import LENGTHS, breaks
from urform.declaration.ranges import is_unique
from urform.declaration.selection import Outcome, Refusal, empty
from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import BOOLEAN, INTEGER, REAL, TEXT, TOLD, ChoiceType, Collection
from urform.declaration.values import Boolean, Entries, Integer, Items, Real, Text, Word
from urform.plan.model import Field, Limit, Selection
from urform.plan.operands import Keyed, Misfit, NoWord, Null, Operand, Several, Strange, Untold
from urform.plan.scalars import as_declared, first_broken
from urform.plan.sizes import Supply, sized
from urform.plan.whole import Plan

MOST_TRIES = 1000
NOBODY: Blamed = frozenset()
LARGEST = 2**53  # of whole numbers, in every language
BUOYANT = "\N{RING BUOY}"

Given = Mapping[str, Operand]
Tried = tuple[Operand | None, Plain]  # a value, or nothing, and what conditions see of it
Blamed = Set[str]  # fields whose values together rule a goal out, whatever the other fields are
RuledOut = Callable[[Seen, str], Blamed | None]


class Selecting:
    """Finds arguments for one factory by values."""

    def __init__(self, plan: Plan, supply: Supply, selection: Selection) -> None:
        self._plan = plan
        self._supply = supply
        self.selection = selection
        deciding = selection.deciding
        self._outcomes = deciding.outcomes()
        self._decisions: list[Decision] = [refusal.when for refusal in deciding.refusals]
        self._decisions += [choice.when for choice in deciding.choices if choice.when is not None]
        self._evaluations = [evaluation(each) for each in self._decisions]
        self._looked_at = [frozenset(fields_of(each)) for each in self._decisions]
        self._looking_at: dict[str, list[int]] = {}
        for number, fields in enumerate(self._looked_at):
            for name in fields:
                self._looking_at.setdefault(name, []).append(number)
        self._candidates: dict[tuple[str, str | None], tuple[Tried, ...]] = {}
        self._compared: dict[str, list[Field]] = {}
        self._chosen: dict[tuple[str, str, frozenset[str]], Given | None] = {}
        self.mentioned = frozenset(field for each in self._decisions for field in fields_of(each))

    # --- what arguments come to -----------------------------------------------------------------------

    def outcome(self, given: Given) -> Outcome | None:
        """The refusal, or the name of the variant; None where a value is refused before any condition is asked."""
        if any(isinstance(given.get(name), Misfit) for name in self.mentioned):
            return None
        if any(isinstance(given.get(field.name), Null | None) for field in self.selection.required):
            return None
        return self._outcomes.first(self.seen(given))

    def seen(self, given: Given) -> Seen:
        """Arguments as the conditions see them."""
        return {field.name: _seen(field, given.get(field.name)) for field in self.selection.parameters}

    def makes(self, given: Given, variant: str) -> bool:
        """Whether these arguments make this variant: it is chosen, and its limits hold."""
        return self.outcome(given) == variant and self._keeps_limits(variant, given)

    def _keeps_limits(self, variant: str, given: Given) -> bool:
        return all(within(given[f.name], f) for f in self._plan.products[variant].fields if f.name in given)

    # --- finding arguments ------------------------------------------------------------------------------

    def reaching(
        self,
        goal: Callable[[Given], bool],
        ruled_out: RuledOut,
        when: Decision | None,
        fixed: Given,
        without: Iterable[str] = (),
        keeping: str | None = None,
    ) -> Given | None:
        """The first arguments with these fixed ones that come to the goal, those with the fewest optional ones
        first; `when` must hold of them, `without` are never given, and what is not fixed keeps the limits of the
        variant `keeping`. None when there are none.

        `ruled_out` is asked of some fields' values, each time that one more is chosen: which of them rule the goal out
        whatever the others are; None while it can be reached. A goal is an outcome, or needs one.
        """
        if any(isinstance(fixed.get(name), Misfit) for name in self.mentioned):
            return None  # no outcome
        if any(isinstance(fixed.get(field.name), Null) for field in self.selection.required):
            return None
        all_left_out = {field.name for field in self.selection.optional}
        first = when if when is not None else Constant(True)
        for left_out in (all_left_out - set(fixed), set(without) - set(fixed)):
            lists = {
                field.name: [_tried(field, None)]
                if field.name in left_out
                else self._few(field, fixed, keeping)
                for field in self.selection.parameters
            }
            for given in self._combinations(lists, first, ruled_out):
                if len(given) >= len(self.selection.required) and goal(given):
                    return given
        return None

    def _combinations(
        self, lists: Mapping[str, Sequence[Tried]], when: Decision, ruled_out: RuledOut
    ) -> Iterator[Given]:
        """One value of each list, in the order of the product, save those that cannot come to the goal; what is fixed
        is chosen first, then what `when` looks at.

        A field none of whose values is to blame is not tried with another one: conflict-directed backjumping
        (P. Prosser, Hybrid Algorithms for the Constraint Satisfaction Problem, Computational Intelligence 9, 1993).
        """
        looked_at, holds = frozenset(fields_of(when)), evaluation(when)
        mentioned = self.mentioned
        order = sorted(lists, key=lambda name: (len(lists[name]) > 1, name not in looked_at))
        picked: dict[str, Operand | None] = {}
        seen: dict[str, Plain] = {}
        tries = itertools.count(1)

        def chosen(place: int) -> Generator[Given, None, Blamed]:
            if place == len(order):
                yield {name: one for name in lists if (one := picked[name]) is not None}
                return frozenset(order)
            name = order[place]
            all_blamed: set[str] = set()
            for value, as_seen in lists[name]:
                picked[name] = value
                blamed = None
                if name in mentioned:
                    if next(tries) > MOST_TRIES:
                        return NOBODY
                    seen[name] = as_seen
                    fails = name in looked_at and holds.ask(seen) is False
                    blamed = holds.reason(seen) if fails else ruled_out(seen, name)
                if blamed is None:
                    blamed = yield from chosen(place + 1)
                seen.pop(name, None)
                if name not in blamed:
                    return blamed
                all_blamed |= blamed
            return all_blamed - {name}

        return chosen(0)

    def could_be(self, variant: str) -> RuledOut:
        """The search that rules out that some values come to a variant."""
        deciding, evaluations = self.selection.deciding, self._evaluations
        first = len(deciding.refusals)
        refusing = {
            name: [evaluations[number] for number in numbers if number < first]
            for name, numbers in self._looking_at.items()
        }
        choosing = {name for name, numbers in self._looking_at.items() if numbers[-1] >= first}

        def ruled_out(seen: Seen, chosen: str) -> Blamed | None:
            for refusal in refusing[chosen]:
                if refusal.ask(seen):
                    return refusal.reason(seen)
            return not_chosen(seen) if chosen in choosing else None

        def not_chosen(seen: Seen) -> Blamed | None:
            blamed = NOBODY
            for number, choice in enumerate(deciding.choices, first):
                decided = True if choice.when is None else evaluations[number].ask(seen)
                if choice.variant == variant and decided is not False:
                    return None
                if choice.when is not None and (decided or choice.variant == variant):
                    blamed |= evaluations[number].reason(seen)
                if decided:
                    break
            return blamed

        return ruled_out

    def could_be_refused(self, number: int) -> RuledOut:
        """The search that rules out that a refusal is the first of all."""
        place = next(at for at, r in enumerate(self.selection.deciding.refusals) if r.number == number)

        def ruled_out(seen: Seen, chosen: str) -> Blamed | None:
            for at in self._looking_at[chosen]:
                asked = self._evaluations[at]
                if at < place and asked.ask(seen):
                    return asked.reason(seen)
                if at == place and asked.ask(seen) is False:
                    return asked.reason(seen)
            return None

        return ruled_out

    def _when(self, variant: str) -> Decision | None:
        """The condition of the first choice that makes a variant."""
        return next(choice.when for choice in self.selection.deciding.choices if choice.variant == variant)

    def _is_chosen(self, variant: str) -> bool:
        """Whether any choice makes a variant; none need to."""
        return any(choice.variant == variant for choice in self.selection.deciding.choices)

    def making(self, variant: str, fixed: Given | None = None, without: Iterable[str] = ()) -> Given | None:
        """Arguments that make a variant."""
        given = fixed or {}
        return self.choosing(variant, given, without) if self._keeps_limits(variant, given) else None

    def choosing(self, variant: str, fixed: Given, without: Iterable[str] = ()) -> Given | None:
        """Arguments for which a variant is chosen, whether or not the fixed ones keep its limits; the others do."""
        if not self._is_chosen(variant):
            return None
        left_out = frozenset(without)
        key = variant, repr(fixed), left_out  # as text, for -0.0 equals 0.0
        if key not in self._chosen:
            self._chosen[key] = self.reaching(
                lambda given: self.outcome(given) == variant,
                self.could_be(variant),
                self._when(variant),
                fixed,
                left_out,
                keeping=variant,
            )
        return self._chosen[key]

    def refused(self, number: int) -> Given | None:
        """Arguments to which a refusal is the first answer."""
        when = next(r.when for r in self.selection.deciding.refusals if r.number == number)
        return self.reaching(
            lambda given: _number(self.outcome(given)) == number, self.could_be_refused(number), when, {}
        )

    def _few(self, field: Field, fixed: Given, keeping: str | None) -> Sequence[Tried]:
        """The values that a parameter is tried with: what is fixed, or nothing where it can be, then candidates."""
        if field.name in fixed:
            return [_tried(field, fixed[field.name])]
        candidates = self._kept_candidates(field, keeping)
        beside = [each for each in self._beside_fixed(field, fixed) if self._keeps(each, field, keeping)]
        if beside:
            known = [operand for operand, _ in candidates]
            candidates = (*candidates, *(_tried(field, each) for each in beside if each not in known))
        if field.name not in self.mentioned or not candidates:
            return candidates[:1] if field.required else [_tried(field, None)]
        return candidates if field.required else (_tried(field, None), *candidates)

    def candidates(self, field: Field) -> Iterator[Operand]:
        """Witnesses of a parameter, then the values on and beside what conditions compare it with."""
        seen: list[Operand] = []
        for operand in itertools.chain(self._typical(field), self._on_edges(field)):
            if operand not in seen:
                seen.append(operand)
                yield operand

    def _kept_candidates(self, field: Field, keeping: str | None) -> tuple[Tried, ...]:
        """Those that keep the limits of a variant, if there is one to keep."""
        key = field.name, keeping
        if key not in self._candidates:
            kept = (each for each in self.candidates(field) if self._keeps(each, field, keeping))
            self._candidates[key] = tuple(_tried(field, each) for each in kept)
        return self._candidates[key]

    def _keeps(self, operand: Operand, field: Field, keeping: str | None) -> bool:
        """Whether a value keeps the limits of the field of a variant that a parameter is for, if it is for one."""
        owner = self._plan.products[keeping].fields if keeping is not None else ()
        return all(within(operand, each) for each in owner if each.name == field.name)

    def _beside_fixed(self, field: Field, fixed: Given) -> Iterator[Operand]:
        """What equals a given value that a condition compares with this field, and what is next to it."""
        for other in self._compared_with(field):
            if other.name in fixed:
                yield from _next_to(field, fixed[other.name])

    def _compared_with(self, field: Field) -> list[Field]:
        """The fields that some condition compares with this one."""
        if field.name not in self._compared:
            fields = {each.name: each for each in self.selection.parameters}
            sides = [(c.left, c.right) for each in self._decisions for c in comparisons(each)]
            self._compared[field.name] = [
                fields[other.field]
                for one, other in (pair for left, right in sides for pair in ((left, right), (right, left)))
                if one == Read(field.name) and isinstance(other, Read) and other.field != field.name
            ]
        return self._compared[field.name]

    def _typical(self, field: Field) -> Iterator[Operand]:
        many = 6 if isinstance(field.type, ChoiceType) else 2
        yield from itertools.islice(self._supply.values(field.type, field.limits, field.each), many)

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
                        whole = sized(self._supply, field, size)
                        yield from [whole] if whole is not None else []


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
        case Told() if field.type in TOLD:
            yield from _neighbours(field, other)


def _neighbours(field: Field, value: int | float | str | Told | Word) -> Iterator[Operand]:
    match value:
        case Word():
            yield value
        case Told():
            yield from (other for step in (0, -1, 1) if (other := value.beside(step)) is not None)
        case str(text):
            yield from (Text(text), Text(f"{text} "))
        case int(number) if field.type == INTEGER:
            yield from (Integer(number), Integer(number - 1), Integer(number + 1))
        case _ if field.type == REAL:
            middle = float(value)
            for near in (middle, math.nextafter(middle, -math.inf), math.nextafter(middle, math.inf)):
                yield Real(near + 0.0)


def _tried(field: Field, operand: Operand | None) -> Tried:
    return operand, _seen(field, operand)


def _seen(field: Field, operand: Operand | None) -> Plain:
    """A parameter as the conditions see it."""
    match operand:
        case None | Null():
            return plain(field.default if field.default is not None else empty(field.type))
        case Several(_, items):
            return range(len(items))
        case Keyed(_, entries):
            return range(len(entries))
        case Strange("huge"):
            return 10**400
        case Strange(number):
            return float(number)
        case NoWord():
            return "\0"
        case Untold(kind):
            return Told(kind, KINDS[kind].first)
        case Text() | Integer() | Real() | Boolean() | Told() | Word() | Items() | Entries():
            return plain(operand)
    return (
        True  # a product: all that can be asked of it is whether it is there; or what no condition looks at
    )


def has_length(operand: Operand, limits: tuple[Limit, ...]) -> bool:
    """Whether a collection keeps limits of length; what is none always does."""
    if not isinstance(operand, (Several, Keyed)):
        return True
    size = len(operand.items if isinstance(operand, Several) else operand.entries)
    return not any(breaks(size, limit) for limit in as_declared(limits) if limit.name in LENGTHS)


def within(operand: Operand, field: Field) -> bool:
    """Whether a witness keeps the limits of a field."""
    if isinstance(operand, Several) and is_unique(as_declared(field.limits)):
        return has_length(operand, field.limits) and len(set(operand.items)) == len(operand.items)
    if isinstance(operand, (Several, Keyed)):
        return has_length(operand, field.limits)
    return (
        not isinstance(operand, (Strange, Untold, NoWord, Misfit))
        and first_broken(operand, field.limits) is None
    )
