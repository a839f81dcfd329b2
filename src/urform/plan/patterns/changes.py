"""Changes of one element: what `item` names can be added to a mutable product, put in the place of another, and removed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from itertools import islice

from urform.declaration.ranges import is_unique, length_range
from urform.declaration.types import ChoiceType, Collection, ListOf, MapOf, ProductType, Type
from urform.declaration.values import Value
from urform.plan.fault import Fault, flaw_fault
from urform.plan.making_steps import SameObject, Take
from urform.plan.messages import message, out_of_limit
from urform.plan.model import Change, Limit, Product
from urform.plan.operands import (
    Keyed,
    Missing,
    NoWord,
    Null,
    Operand,
    OutOfLimit,
    Path,
    Several,
    Strange,
    Untold,
    Var,
)
from urform.plan.outcomes import Fails
from urform.plan.patterns import Pattern
from urform.plan.patterns.fields import UNTOLD, change_of
from urform.plan.scalars import Limits, as_declared, scalar_edge
from urform.plan.script import Case, Claim, Step, case
from urform.plan.sizes import sized
from urform.plan.steps import ChangeHeld, ChangeInHeld, ChangeOne, FieldIs, Hold, Make
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, empty_of

# Limits of elements that the type of a language may hold by itself, and what shows them elsewhere.
BY_THE_TYPE = {"each.choice": "invent a word"} | {
    f"each.{name}": f"hold what is no {name}" for name in UNTOLD
}
MOST = 40  # elements of a collection that is filled to its limit


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """One for each change of each field, by the first kind of product that can be made."""
    for product in plan.products.values():
        concrete = [each for each in plan.concrete(product) if witnesses.arguments(each) is not None]
        for change in product.changes if concrete else ():
            cases = tuple(_Maker(plan, witnesses, concrete[0], change).cases())
            if cases:
                yield Claim(
                    "change", product.name, _text(product, change), cases, change.field.name, change.way
                )


def _text(product: Product, change: Change) -> str:
    done = {"add": "adding", "put": "putting", "remove": "removing"}[change.way]
    return (
        f"{done} one of {change.field.name} of {product.name} leaves the others as they are, and limits hold"
    )


class _Maker:
    """Makes the cases of one change."""

    def __init__(self, plan: Plan, witnesses: Witnesses, concrete: Product, change: Change) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self._concrete = concrete
        self._change = change
        self._field = change.field
        assert isinstance(self._field.type, Collection)
        self._type: Type = self._field.type
        self._element: Type = self._field.type.element
        self._path = Path("made", self._field.name)
        self._least, self._most = length_range(as_declared(self._field.limits))

    def cases(self) -> Iterator[Case]:
        """What is changed, what that leaves as it was, and what is refused."""
        match self._field.type:
            case ListOf():
                yield from self._of_list()
            case MapOf():
                yield from self._of_map()
            case _:
                yield from self._of_set()

    # --- lists --------------------------------------------------------------------------------------------

    def _of_list(self) -> Iterator[Case]:
        if is_unique(as_declared(self._field.limits)):
            yield from self._of_differing()
            return
        elements = list(islice(self._witnesses.values(self._element, self._field.each), 2))
        if not elements:
            return
        first, second = elements[0], elements[-1]
        match self._change.way:
            case "add":
                before = self._listed(first, second, room=1)
                if before is not None:
                    yield self._changed(before, None, second, Several(self._type, (*before.items, second)))
                    yield from self._owned(before, None, first, Several(self._type, (*before.items, first)))
                yield from self._refused_elements(before, None)
                yield from self._full(None, first)
                yield from self._lonely(None, first)
            case "put":
                before = self._listed(first, second)
                if before is None or first == second:
                    return
                last = len(before.items) - 1
                staying, other = before.items[:last], first if before.items[last] == second else second
                yield self._changed(before, last, other, Several(self._type, (*staying, other)))
                yield from self._owned(before, last, first, Several(self._type, (*staying, first)))
                yield from self._refused_elements(before, last)
            case _:
                before = self._listed(first, second, least=1)
                if before is not None:
                    yield self._changed(before, 0, None, Several(self._type, before.items[1:]))
                yield from self._scarce(0)

    def _of_differing(self) -> Iterator[Case]:
        """Of a list without duplicates: what is there comes in no second time, but may be put in its own place."""
        size = next((size for size in (2, 1, self._least + 1) if self._fits(size)), 0)
        elements = tuple(islice(self._witnesses.values(self._element, self._field.each), size + 1))
        if not 0 < size <= MOST or len(elements) < size:
            return
        before, last = Several(self._type, elements[:size]), size - 1
        other = elements[size] if len(elements) > size else None
        match self._change.way:
            case "add":
                if other is not None and (self._most is None or size < self._most):
                    yield self._changed(before, None, other, Several(self._type, elements))
                    yield self._twice(before, None, before.items[0])
                yield from self._refused_elements(before, None)
                beyond = self._beyond(self._element, self._field.each)
                yield from self._full(None, beyond) if beyond is not None else ()
                yield from self._lonely(None, elements[0])
            case "put":
                if other is not None:
                    after = Several(self._type, (*before.items[:last], other))
                    yield self._changed(before, last, other, after)
                    yield self._changed(before, last, before.items[last], before)
                if last:
                    yield self._twice(before, last, before.items[0])
                yield from self._refused_elements(before, last)
            case _:
                if size > self._least:
                    yield self._changed(before, 0, None, Several(self._type, before.items[1:]))
                yield from self._scarce(0)

    def _fits(self, size: int) -> bool:
        return self._least <= size and (self._most is None or size <= self._most)

    def _twice(self, before: Several, at: int | None, there: Operand) -> Case:
        """An element that is there already."""
        failure = out_of_limit(self._field, next(filter(_is_unique, self._field.limits)), there)
        return self._refused(before, self._step(at, there), failure)

    def _lonely(self, at: object, value: Operand) -> Iterator[Case]:
        """The first element of a collection that is empty or has more."""
        if self._least > 1 and any(limit.unless_empty for limit in self._field.limits):
            empty = empty_of(self._type)
            assert empty is not None
            said = message(self._field, "min_length", self._least, 1)
            failure = OutOfLimit(self._field.owner, self._field.name, "min_length", self._least, said)
            yield self._refused(empty, self._step(at, value), failure)

    def _listed(self, first: Operand, second: Operand, *, room: int = 0, least: int = 0) -> Several | None:
        """A list within the limits, of two elements if they allow that, with room for more or more than the least."""
        for size in (2, 1, self._least + least):
            fits = self._least + least <= size and (self._most is None or size + room <= self._most)
            if fits and 0 < size <= MOST:
                return Several(self._type, (first, *[second] * (size - 1)))
        return None

    # --- sets ---------------------------------------------------------------------------------------------

    def _of_set(self) -> Iterator[Case]:
        is_added = self._change.way == "add"
        for size in (2, 1, 3, self._least):
            more = size + 1 if is_added else size
            if size < self._least + (not is_added) or (self._most is not None and more > self._most):
                continue
            every = self._witnesses.sets_of(self._element, self._field.each, more)
            if len(every) < more or not 0 < more <= MOST:
                continue
            last = every[-1]
            whole, part = Several(self._type, tuple(every)), Several(self._type, tuple(every[:-1]))
            if is_added:
                yield self._changed(part, None, last, whole)
                yield self._changed(whole, None, last, whole)
            else:
                yield self._changed(whole, None, last, part, was_there=True)
                if size > self._least:
                    yield self._changed(part, None, last, part, was_there=False)
            break
        if is_added:
            lonely = next(self._witnesses.values(self._element, self._field.each), None)
            yield from self._lonely(None, lonely) if lonely is not None else ()
            yield from self._refused_elements(self._sized(self._least), None)
            other = self._beyond(self._element, self._field.each)
            if other is not None:
                yield from self._full(None, other)
        elif self._least:
            scarce = self._sized(self._least)
            if isinstance(scarce, Several) and scarce.items:
                yield from self._scarce(None, scarce.items[0])

    # --- maps ---------------------------------------------------------------------------------------------

    def _of_map(self) -> Iterator[Case]:
        assert isinstance(self._field.type, MapOf)
        values = list(islice(self._witnesses.values(self._element, self._field.each), 2))
        is_put = self._change.way == "put"
        for size in (2, 1, 3, self._least + 1):
            fits = self._least < size and (self._most is None or size <= self._most)
            keys = self._witnesses.sets_of(self._field.type.key, (), size)
            if not fits or len(keys) < size or not values or size > MOST:
                continue
            entries = tuple((key, values[0]) for key in keys)
            whole, part = Keyed(self._type, entries), Keyed(self._type, entries[:-1])  # type: ignore[arg-type]
            last = entries[-1][0]
            if is_put:
                yield self._changed(part, last, values[0], whole)
                yield from self._owned(part, last, values[0], whole)
                if values[0] != values[-1]:
                    other = Keyed(self._type, (*part.entries, (last, values[-1])))  # type: ignore[arg-type]
                    yield self._changed(whole, last, values[-1], other)
                yield from self._refused_elements(part, last)
            else:
                yield self._changed(whole, last, None, part, was_there=True)
                yield self._changed(part, last, None, part, was_there=False)
            break
        other_key = self._beyond(self._field.type.key, ()) if is_put else None
        if other_key is not None and values:
            yield from self._full(other_key, values[0])
        first_key = next(iter(self._witnesses.sets_of(self._field.type.key, (), 1)), None)
        if is_put and first_key is not None and values:
            yield from self._lonely(first_key, values[0])
        scarce = self._sized(self._least) if self._least and not is_put else None
        if isinstance(scarce, Keyed):
            yield from self._scarce(scarce.entries[0][0])

    # --- cases --------------------------------------------------------------------------------------------

    def _sized(self, size: int) -> Several | Keyed | None:
        whole = sized(self._witnesses, self._field, size) if size <= MOST else None
        return whole if isinstance(whole, (Several, Keyed)) else None

    def _beyond(self, type_: Type, limits: Limits) -> Operand | None:
        """An element or a key that a set or map does not have when it is filled to its limit."""
        full = self._sized(self._most) if self._most is not None else None
        if full is None:
            return None
        there = full.items if isinstance(full, Several) else [key for key, _ in full.entries]
        others = self._witnesses.sets_of(type_, limits, len(there) + 1)
        return next((each for each in others if each not in there), None)

    def _making(self, value: Operand) -> Make:
        given = self._witnesses.completed(self._concrete, {self._field.name: value})
        return Make("made", self._concrete.name, {**(given or {}), self._field.name: value})

    def _step(self, at: object, value: Operand | None, was_there: bool | None = None) -> ChangeOne:
        assert at is None or isinstance(at, (int, Value))
        return ChangeOne("made", self._field.name, self._change.way, at, value, was_there)

    def _changed(
        self,
        before: Operand,
        at: object,
        value: Operand | None,
        after: Operand,
        was_there: bool | None = None,
    ) -> Case:
        return case(self._making(before), self._step(at, value, was_there), FieldIs(self._path, after))

    def _owned(self, before: Several | Keyed, at: object, value: Operand, after: Operand) -> Iterator[Case]:
        """What the caller does to the element later; and the elements that were there, which stay the same.

        The element is a first witness: a change of it gives it what that does not have.
        """
        for later in self._later_changes(value):
            hold = Hold("item", self._element, value)
            steps = (self._making(before), self._step(at, Var("item")), later)
            yield case(hold, *steps, FieldIs(self._path, after))
        product = self._plan.products.get(str(self._element))
        if product is None or not product.mutable or isinstance(before, Keyed):
            return  # of a map no language says which value is the first
        if len(before.items) > (at == 0):
            first = Path("made", self._field.name, 1)
            same = SameObject("first", "again", product.name)
            steps_ = (Take("first", first), self._step(at, value), Take("again", first), same)
            yield case(self._making(before), *steps_, main=False)

    def _later_changes(self, element: Operand) -> Iterator[Step]:
        if isinstance(element, Keyed) or (isinstance(element, Several) and element.items):
            yield ChangeHeld("item")
        if isinstance(self._element, ProductType) and self._plan.holds_mutable(self._element):
            change = change_of(self._witnesses, self._plan.products[self._element.name])
            if change is not None:
                yield ChangeInHeld("item", *change)

    def _refused_elements(self, before: Operand | None, at: object) -> Iterator[Case]:
        """An element that is missing, and one outside each limit; the product stays as it was."""
        if before is None:
            return
        missing = Missing(self._field.owner, (self._field.name,))
        yield self._refused(before, self._step(at, Null(self._element)), missing, main=False)
        for limit in self._field.each:
            outside = self._outside(limit)
            if outside is not None:
                failure = out_of_limit(self._field, limit, outside, "each.")
                yield self._refused(before, self._step(at, outside), failure)

    def _outside(self, limit: Limit) -> Operand | None:
        if isinstance(self._element, Collection):
            return None
        if limit.name == "finite":
            return Strange("infinity")
        if limit.name in UNTOLD:
            return Untold(limit.name)
        if limit.name == "choice":
            return NoWord(self._element.name) if isinstance(self._element, ChoiceType) else None
        edge = scalar_edge(self._element, self._field.each, limit)
        return edge.outside[0] if edge is not None and edge.outside else None

    def _full(self, at: object, value: Operand) -> Iterator[Case]:
        """One too many."""
        full = self._sized(self._most) if self._most is not None else None
        if full is not None and self._most is not None:
            failure = self._beyond_length("max_length", self._most, 1)
            yield self._refused(full, self._step(at, value), failure)

    def _scarce(self, at: object, value: Operand | None = None) -> Iterator[Case]:
        """One too few."""
        scarce = self._sized(self._least) if self._least else None
        if scarce is not None:
            failure = self._beyond_length("min_length", self._least, -1)
            yield self._refused(scarce, self._step(at, value), failure)

    def _beyond_length(self, name: str, bound: int, by: int) -> OutOfLimit:
        """The failure of a change after which there would be one too many, or too few."""
        said = message(self._field, name, bound, bound + by)
        return OutOfLimit(self._field.owner, self._field.name, name, bound, said)

    def _refused(
        self, before: Operand, step: ChangeOne, failure: Missing | OutOfLimit, *, main: bool = True
    ) -> Case:
        return case(self._making(before), Fails(step, failure), FieldIs(self._path, before), main=main)


def _is_unique(limit: Limit) -> bool:
    return limit.name == "unique"


# --- faults -------------------------------------------------------------------------------------------------


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    steps = [step for each in claim.cases for step in each.steps]
    refused = [s.failure.limit for s in steps if isinstance(s, Fails) and isinstance(s.failure, OutOfLimit)]
    of_elements = [limit for limit in refused if limit.startswith("each.")]
    flaws: Mapping[str, bool] = {
        "change-does-nothing": any(isinstance(step, ChangeOne) for step in steps),
        "change-keeps-as-given": any(isinstance(step, (ChangeHeld, ChangeInHeld)) for step in steps),
        "change-before-check": len(of_elements) < len(refused),
        "change-unlimited": len(of_elements) < len(refused),
        "change-copies-others": any(isinstance(step, SameObject) for step in steps),
        "change-unchecked": bool(of_elements),
    }
    kinds = set(of_elements)
    invented = (
        frozenset(BY_THE_TYPE[kind] for kind in kinds) if kinds <= BY_THE_TYPE.keys() else frozenset[str]()
    )
    for flaw, is_shown in flaws.items():
        if is_shown:
            fault = flaw_fault(plan, claim, flaw, claim.owner, claim.member or "", claim.aspect or "")
            yield replace(fault, to_tell=invented) if flaw == "change-unchecked" else fault


PATTERN = Pattern("changes", 25, claims, faults={"change": _faults})
