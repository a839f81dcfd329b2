"""Factories by values: what is refused, which variant is chosen, and an entry that may give nothing."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.decisions import Constant, Decision, fields_of, holds
from urform.declaration.model import Declaration
from urform.declaration.problems import Problems
from urform.declaration.selection import Choosing, Deciding, Refusal, deciding
from urform.declaration.types import Collection
from urform.declaration.values import ValueReader, parameters
from urform.plan.convert import plan_field
from urform.plan.making_steps import HiddenConstructor, Select, SelectFails, SelectNothing
from urform.plan.model import Field, Plan, Selection
from urform.plan.operands import Missing, Null, OutOfLimit, Refused
from urform.plan.patterns import Pattern
from urform.plan.script import Case, Claim, case
from urform.plan.selecting import Given, Outcome, Selecting
from urform.plan.steps import KindIs
from urform.plan.witnesses import Witnesses, scalar_edge

MOST_NEIGHBOURS = 8


def makes(declaration: Declaration, plan: Plan) -> Iterator[Selection]:
    """A selection for each product that is made by values."""
    values = ValueReader(declaration, Problems())
    for product in declaration.products.values():
        if product.factory is None or product.factory.form != "by_values":
            continue
        fields = []
        for declared in parameters(declaration, product):
            default = values.field_value(declared.default, declared) if declared.default is not None else None
            fields.append(plan_field(declaration, product.name, declared, default))
        yield Selection(product.name, tuple(fields), _without_constants(deciding(declaration, product)))


def _without_constants(decided: Deciding) -> Deciding:
    """Without what no value can come to: conditions that never hold, and what follows one that always does."""
    refusals = tuple(refusal for refusal in decided.refusals if refusal.when != Constant(False))
    choices: list[Choosing] = []
    for choice in decided.choices:
        if choice.when == Constant(True):
            choices.append(Choosing(choice.variant, None))
        elif choice.when != Constant(False):
            choices.append(choice)
        if choices and choices[-1].when is None:
            break
    return Deciding(refusals, tuple(choices))


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`refuse` and `choose` of every factory by values."""
    for making in plan.makings:
        if isinstance(making, Selection):
            yield from _Chooser(plan, witnesses, making).claims()


class _Chooser:
    """Makes the claims of one factory by values."""

    def __init__(self, plan: Plan, witnesses: Witnesses, selection: Selection) -> None:
        self._plan = plan
        self._selection = selection
        self._selecting = Selecting(plan, witnesses, selection)
        self._owner = selection.product

    def claims(self) -> Iterator[Claim]:
        """What is refused, in its order; then what is chosen."""
        for refusal in self._selection.deciding.refusals:
            given = self._selecting.refused(refusal.number)
            if given is not None:
                yield self._refusal(refusal, given)
        seen: set[str] = set()
        for place, choice in enumerate(self._selection.deciding.choices):
            given = self._selecting.making(choice.variant)
            if given is not None and choice.variant not in seen:
                seen.add(choice.variant)
                yield self._choice(place, choice.variant, given)

    def _refusal(self, refusal: Refusal, given: Given) -> Claim:
        refused = Refused(self._owner, refusal.reason)
        cases = [
            case(SelectFails(self._owner, given, refused)),
            case(SelectNothing(self._owner, given)),
        ]
        cases += self._neighbours(given, refusal.when)
        text = f"there is no {self._owner} where {refusal.reason!r} holds"
        return Claim("refuse", self._owner, text, tuple(cases), aspect=str(refusal.number))

    def _choice(self, place: int, variant: str, given: Given) -> Claim:
        cases = [
            case(Select("made", self._owner, given), KindIs("made", variant)),
            case(Select("made", self._owner, given, or_nothing=True), KindIs("made", variant)),
        ]
        choices = self._selection.deciding.choices
        for choice in choices[: place + 1]:
            if choice.when is not None:
                cases += self._neighbours(given, choice.when)
        cases += self._before_the_next(place, variant)
        cases += self._outside(variant, given)
        cases += self._missing(given)
        cases.append(case(HiddenConstructor(variant), main=False))
        said = f"values for which its condition is the first that holds give a {variant}"
        if choices[place].when is None:
            said = f"values for which no condition holds give a {variant}"
        return Claim("choose", self._owner, said, tuple(_distinct(cases)), variant)

    # --- cases ----------------------------------------------------------------------------------------

    def _neighbours(self, given: Given, when: Decision) -> list[Case]:
        """Changes of one value, on both sides of a condition."""
        cases: list[Case] = []
        for name in dict.fromkeys(fields_of(when)):
            field = next(f for f in self._selection.parameters if f.name == name)
            for value in self._selecting.candidates(field):
                changed = {**given, name: value}
                found = self._expected(changed, self._selecting.outcome(changed))
                if found is not None:
                    cases.append(found)
        return cases[:MOST_NEIGHBOURS]

    def _expected(self, given: Given, outcome: Outcome | None) -> Case | None:
        if isinstance(outcome, Refusal):
            return case(SelectFails(self._owner, given, Refused(self._owner, outcome.reason)))
        if outcome is None or not self._selecting.makes(given, outcome):
            return None
        return case(Select("made", self._owner, given), KindIs("made", outcome))

    def _before_the_next(self, place: int, variant: str) -> list[Case]:
        """Values for which this condition and the next one hold: the first decides."""
        choices = self._selection.deciding.choices
        following = choices[place + 1] if place + 1 < len(choices) else None
        if following is None or following.when is None or following.variant == variant:
            return []
        when = following.when

        def both(given: Given) -> bool:
            return self._selecting.makes(given, variant) and holds(when, self._selecting.seen(given))

        found = self._selecting.reaching(both, when, {})
        return (
            [case(Select("made", self._owner, found), KindIs("made", variant))] if found is not None else []
        )

    def _outside(self, variant: str, given: Given) -> list[Case]:
        """A limit of the variant fails by the one entry, and gives nothing by the other."""
        for field in self._plan.products[variant].fields:
            for limit in field.limits if not isinstance(field.type, Collection) else ():
                edge = scalar_edge(field.type, field.limits, limit)
                changed = {**given, field.name: edge.outside[0]} if edge is not None else given
                if edge is None or self._selecting.outcome(changed) != variant:
                    continue
                bound = None if limit.bound is True else limit.bound
                failure = OutOfLimit(field.owner, field.name, limit.name, bound)
                steps = SelectFails(self._owner, changed, failure), SelectNothing(self._owner, changed)
                return [case(*steps, main=False)]
        return []

    def _missing(self, given: Given) -> list[Case]:
        """What is missing stays an error, by either entry."""
        needed = self._selection.required
        return [case(self._without(given, field), main=False) for field in needed]

    def _without(self, given: Given, field: Field) -> SelectFails:
        missing = Missing(self._owner, (field.name,))
        return SelectFails(self._owner, {**given, field.name: Null(field.type)}, missing, or_nothing=True)


def _distinct(cases: list[Case]) -> Iterator[Case]:
    """Cases hold mappings and have no hash."""
    for number, each in enumerate(cases):
        if each not in cases[:number]:
            yield each


PATTERN = Pattern("selections", 45, claims, makes, frozenset({"factory by_values"}))
