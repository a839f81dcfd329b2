"""Operations: declared answers are given; the rest is the user's to write."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.types import MaybeOf, Type, present
from urform.declaration.values import Absent, Value
from urform.plan.fault import Fault, with_product
from urform.plan.model import Operation
from urform.plan.operands import Operand
from urform.plan.patterns import Pattern
from urform.plan.script import Claim, case
from urform.plan.steps import Answers, Make
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`answer` of every operation with a declared answer."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if product.abstract or arguments is None:
            continue
        for operation in product.operations:
            given = handed(witnesses, operation)
            if operation.answer is None or given is None:
                continue
            steps = (
                Make("made", product.name, arguments),
                Answers("made", operation.name, given, operation.answer),
            )
            text = f"{operation.name} of {product.name} gives the declared answer"
            yield Claim("answer", product.name, text, (case(*steps),), operation.name)


def handed(witnesses: Witnesses, operation: Operation) -> tuple[Operand, ...] | None:
    """The arguments that a test hands to an operation; None where a parameter has no witness."""
    operands = [next(witnesses.values(parameter.type), None) for parameter in operation.takes]
    given = tuple(operand for operand in operands if operand is not None)
    return given if len(given) == len(operands) else None


def with_another_answer(plan: Plan, witnesses: Witnesses, product: str, name: str) -> Plan | None:
    """The plan in which an operation of a product answers something else; None where its type has one value."""
    owner = plan.products[product]
    operation = owner.operation(name)
    others = _answers(witnesses, operation.returns)
    other = next((value for value in others if value != operation.answer), None)
    if other is None:
        return None
    operations = tuple(replace(o, answer=other) if o is operation else o for o in owner.operations)
    return with_product(plan, replace(owner, operations=operations))


def _answers(witnesses: Witnesses, returns: Type) -> Iterator[Value | Absent]:
    """What an operation of a type could answer."""
    for operand in witnesses.values(present(returns)):
        value = witnesses.value(operand)
        if value is not None:
            yield value
    if isinstance(returns, MaybeOf):
        yield Absent()


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    changed = with_another_answer(plan, witnesses, claim.owner, claim.member or "")
    if changed is not None:
        yield Fault(claim, "other-answer", f"{claim.member} gives another answer", changed)


PATTERN = Pattern("operations", 60, claims, faults={"answer": _faults})
