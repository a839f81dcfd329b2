"""Leaves out of claims what products with hidden constructors cannot show: only what their factory by values lets through."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from urform.plan.model import Field
from urform.plan.operands import Arguments, Failure, Misfit, Missing, Null, Operand, Untold, Var
from urform.plan.outcomes import Fails
from urform.plan.script import Case, Claim, Step
from urform.plan.steps import Hold, LeaveOut, Make
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


def possible(plan: Plan, witnesses: Witnesses, claims: Iterable[Claim]) -> Iterator[Claim]:
    """Claims without the cases in which another variant, or a refusal, would come first."""
    for claim in claims:
        cases = tuple(case for case in claim.cases if _possible(plan, witnesses, case))
        if len(cases) == len(claim.cases):
            yield claim
        elif any(case.main for case in cases):
            yield replace(claim, cases=cases)


def _possible(plan: Plan, witnesses: Witnesses, case: Case) -> bool:
    return all(_step_possible(plan, witnesses, step, case) for step in case.steps)


def _step_possible(plan: Plan, witnesses: Witnesses, whole: Step, case: Case) -> bool:
    step = whole.attempt if isinstance(whole, Fails) else whole
    if not isinstance(step, (Make, LeaveOut)):
        return True
    lacking = [field.name for field in _asked_for(plan, step.product) if field.name not in step.arguments]
    if isinstance(step, LeaveOut):
        return lacking in ([], [step.field])
    if lacking:
        return False  # there is no value for it
    selecting = witnesses.selecting(plan.products[step.product])
    if selecting is None:
        return True
    held_values = {earlier.var: earlier.value for earlier in case.steps if isinstance(earlier, Hold)}
    given = _resolved(step.arguments, held_values)
    if not isinstance(whole, Fails):
        return selecting.makes(given, step.product)
    if any(isinstance(given.get(name), Misfit) for name in selecting.mentioned):
        return True  # its type is looked at first
    if any(isinstance(given.get(name), Untold) for name in selecting.mentioned):
        return False  # each language has its own, which stands elsewhere in the order
    return (
        _is_missing(whole.failure, selecting.selection.product, given)
        or selecting.outcome(given) == step.product
    )


def _is_missing(failure: Failure, owner: str, given: Arguments) -> bool:
    """Whether it is told before any condition is asked: a value is missing, and not just an element of one."""
    if not isinstance(failure, Missing) or failure.owner != owner:
        return False
    return all(isinstance(given.get(name), Null | None) for name in failure.fields)


def _asked_for(plan: Plan, product: str) -> tuple[Field, ...]:
    """The fields that the maker of a product has to give."""
    declared = plan.products[product]
    selection = plan.selected_by(declared)
    return selection.required if selection is not None else declared.required


def _resolved(arguments: Arguments, held_values: dict[str, Operand]) -> Arguments:
    return {n: held_values.get(o.name, o) if isinstance(o, Var) else o for n, o in arguments.items()}
