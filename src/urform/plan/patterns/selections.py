"""Factories by values: what is refused, which variant is chosen, and an entry that may give nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from urform.declaration.decisions import (
    All,
    Comparison,
    Constant,
    Decision,
    Not,
    Some,
    fields_of,
)
from urform.declaration.evaluation import Asked, Seen, evaluation
from urform.declaration.model import Declaration
from urform.declaration.selection import Choosing, Deciding, Outcome, Refusal, deciding, parameters
from urform.declaration.types import Collection
from urform.declaration.written_values import WrittenValues
from urform.plan.convert import plan_field
from urform.plan.fault import Fault, selection_of, with_making
from urform.plan.making_steps import HiddenConstructor, Select
from urform.plan.messages import out_of_limit
from urform.plan.model import Field, Selection
from urform.plan.operands import Missing, Null, Refused
from urform.plan.outcomes import UNKEPT, Fails, GivesNothing
from urform.plan.patterns import Pattern
from urform.plan.scalars import scalar_edge
from urform.plan.script import Case, Claim, case
from urform.plan.selecting import Blamed, Given
from urform.plan.steps import KindIs
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses
from urform.prose import with_article

MOST_NEIGHBOURS = 8


def makes(declaration: Declaration, plan: Plan) -> Iterator[Selection]:
    """A selection for each product that is made by values."""
    values = WrittenValues(declaration)
    for product in declaration.products.values():
        if product.factory is None or product.factory.form != "by_values":
            continue
        decided = _without_constants(deciding(declaration, product))
        wanted = {name for decision in decided.decisions for name in fields_of(decision)}
        for choice in decided.choices:
            wanted |= {field.name for field in plan.products[choice.variant].fields}
        fields = tuple(
            plan_field(declaration, product.name, declared, values.default(declared))
            for declared in parameters(declaration, product)
            if declared.name in wanted  # by a variant that may be chosen
        )
        yield Selection(product.name, fields, decided)


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
        self._selecting = witnesses.selecting_of(selection)
        self._owner = selection.product

    def claims(self) -> Iterator[Claim]:
        """The claims of refusals in their order, then those of choices."""
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
            case(Fails(Select(UNKEPT, self._owner, given), refused)),
            case(GivesNothing(Select(UNKEPT, self._owner, given, or_nothing=True))),
        ]
        cases += self._neighbours(given, refusal.when)
        cases += self._on_edges(refusal.when, lambda outcome: outcome is not None)
        text = f"no {self._owner} is made where {refusal.reason!r} holds"
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
        said = f"values for which its condition is the first to hold give {with_article(variant)}"
        if choices[place].when is None:
            said = f"values for which no condition holds give {with_article(variant)}"
        return Claim("choose", self._owner, said, tuple(_distinct(cases)), variant)

    # --- cases ----------------------------------------------------------------------------------------

    def _neighbours(self, given: Given, when: Decision) -> list[Case]:
        """Changes of one value, on both sides of a condition."""
        cases: list[Case] = []
        for name in dict.fromkeys(fields_of(when)):
            field = next(f for f in self._selection.parameters if f.name == name)
            for value in self._selecting.candidates(field):
                changed = {**given, name: value}
                neighbour = self._expected(changed, self._selecting.outcome(changed))
                if neighbour is not None:
                    cases.append(neighbour)
        return cases[:MOST_NEIGHBOURS]

    def _on_edges(self, when: Decision, counts: Callable[[Outcome | None], bool]) -> list[Case]:
        """For each comparison, values on its edge: with the edge elsewhere, their outcome would be another."""
        cases: list[Case] = []
        looked_at = frozenset(fields_of(when))
        holds = evaluation(when).ask
        for shifted, wider in _shifted(when):
            other = evaluation(shifted).ask

            def tells(given: Given, other: Asked = other) -> bool:
                seen = self._selecting.seen(given)
                return holds(seen) is not other(seen) and counts(self._selecting.outcome(given))

            def agree(seen: Seen, chosen: str, other: Asked = other) -> Blamed | None:
                if chosen not in looked_at:
                    return None
                sides = holds(seen), other(seen)
                return looked_at if None not in sides and sides[0] == sides[1] else None

            given = self._selecting.reaching(tells, agree, shifted if wider else when, {})
            on_edge = self._expected(given, self._selecting.outcome(given)) if given is not None else None
            if on_edge is not None:
                cases.append(on_edge)
        return cases

    def _expected(self, given: Given, outcome: Outcome | None) -> Case | None:
        if isinstance(outcome, Refusal):
            return case(Fails(Select(UNKEPT, self._owner, given), Refused(self._owner, outcome.reason)))
        if outcome is None or not self._selecting.makes(given, outcome):
            return None
        return case(Select("made", self._owner, given), KindIs("made", outcome))

    def is_first_of_two(self, place: int) -> bool:
        """Whether some values fulfil a condition and the next one, so that their order decides."""
        return bool(self._before_the_next(place, self._selection.deciding.choices[place].variant))

    def _before_the_next(self, place: int, variant: str) -> list[Case]:
        """Values for which this condition and the next one hold: the first decides."""
        choices = self._selection.deciding.choices
        following = choices[place + 1] if place + 1 < len(choices) else None
        if following is None or following.when is None or following.variant == variant:
            return []
        when = following.when

        holds = evaluation(when).ask

        def both(given: Given) -> bool:
            return self._selecting.makes(given, variant) and bool(holds(self._selecting.seen(given)))

        possible = self._selecting.could_be(variant)
        arguments = self._selecting.reaching(both, possible, when, {}, keeping=variant)
        return (
            [case(Select("made", self._owner, arguments), KindIs("made", variant))]
            if arguments is not None
            else []
        )

    def _outside(self, variant: str, given: Given) -> list[Case]:
        """A limit of the variant fails by the one entry, and gives nothing by the other."""
        for field in self._plan.products[variant].fields:
            for limit in field.limits if not isinstance(field.type, Collection) else ():
                edge = scalar_edge(field.type, field.limits, limit)
                changed = {**given, field.name: edge.outside[0]} if edge is not None else given
                if edge is None or self._selecting.outcome(changed) != variant:
                    continue
                failure = out_of_limit(field, limit, edge.outside[0])
                steps = (
                    Fails(Select(UNKEPT, self._owner, changed), failure),
                    GivesNothing(Select(UNKEPT, self._owner, changed, or_nothing=True)),
                )
                return [case(*steps, main=False)]
        return []

    def _missing(self, given: Given) -> list[Case]:
        """Missing fields are an error at either entry."""
        needed = self._selection.required
        return [case(self._without(given, field), main=False) for field in needed]

    def _without(self, given: Given, field: Field) -> Fails:
        missing = Missing(self._owner, (field.name,))
        return Fails(
            Select(UNKEPT, self._owner, {**given, field.name: Null(field.type)}, or_nothing=True), missing
        )


def _distinct(cases: list[Case]) -> Iterator[Case]:
    """Cases hold mappings and have no hash."""
    for number, each in enumerate(cases):
        if each not in cases[:number]:
            yield each


# --- faults -------------------------------------------------------------------------------------------------

SHIFTED = {"<": "<=", "<=": "<", ">": ">=", ">=": ">"}


def _shifted(when: Decision) -> Iterator[tuple[Decision, bool]]:
    """The condition with the edge of one comparison moved, for each that has one, and whether it is then wider: it
    holds wherever the other one does. If not, it is narrower, for a condition is monotone in each of its parts."""
    match when:
        case Comparison(sign) if sign in SHIFTED:
            moved = SHIFTED[sign]
            yield replace(when, sign=moved), moved.endswith("=")
        case Not(inner):
            yield from ((Not(each), not wider) for each, wider in _shifted(inner))
        case All(parts) | Some(parts):
            for number, part in enumerate(parts):
                for each, wider in _shifted(part):
                    yield replace(when, parts=(*parts[:number], each, *parts[number + 1 :])), wider


def _with(plan: Plan, selection: Selection, decided: Deciding) -> Plan:
    return with_making(plan, selection, replace(selection, deciding=decided, declared=selection.deciding))


def _negated(when: Decision) -> Decision:
    return when.inner if isinstance(when, Not) else Not(when)


def _refuse_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    selection = selection_of(plan, claim.owner)
    decided = selection.deciding
    at = next(i for i, r in enumerate(decided.refusals) if str(r.number) == claim.aspect)
    refusal = decided.refusals[at]

    def changed(other: Refusal) -> Plan:
        refusals = (*decided.refusals[:at], other, *decided.refusals[at + 1 :])
        return _with(plan, selection, replace(decided, refusals=refusals))

    said = repr(refusal.reason)
    negated = changed(replace(refusal, when=_negated(refusal.when)))
    yield Fault(claim, "negated", f"refused is where {said} does not hold", negated)
    reason = changed(replace(refusal, reason=f"not {refusal.reason}"))
    yield Fault(claim, "other-reason", "another reason is given", reason)
    for number, (when, _) in enumerate(_shifted(refusal.when), 1):
        text = f"an edge of {said} is moved"
        yield Fault(claim, f"edge-{number}", text, changed(replace(refusal, when=when)))


def _choose_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    selection = selection_of(plan, claim.owner)
    choices = selection.deciding.choices
    at = next(i for i, choice in enumerate(choices) if choice.variant == claim.member)

    def changed(*others: Choosing) -> Plan:
        return _with(plan, selection, replace(selection.deciding, choices=others))

    other = next((c.variant for c in choices if c.variant != claim.member), None)
    if other is not None:
        text = f"{with_article(other)} is made in place of {claim.member}"
        copied = (replace(c, variant=other) if c.variant == claim.member else c for c in choices)
        yield Fault(claim, "copied-branch", text, changed(*copied))
    for number, choice in enumerate(choices[: at + 1]):
        if choice.when is None:
            continue
        negated = replace(choice, when=_negated(choice.when))
        text = f"the condition of {choice.variant} is negated"
        whole = changed(*choices[:number], negated, *choices[number + 1 :])
        yield Fault(claim, f"negated-{number + 1}", text, whole)
    if _Chooser(plan, witnesses, selection).is_first_of_two(at):
        swapped = (*choices[:at], choices[at + 1], choices[at], *choices[at + 2 :])
        text = f"the condition of {choices[at + 1].variant} is tried before that of {claim.member}"
        yield Fault(claim, "other-order", text, changed(*swapped))


FAULTS = {"refuse": _refuse_faults, "choose": _choose_faults}
PATTERN = Pattern("selections", 45, claims, makes, frozenset({"factory by_values"}), FAULTS)
