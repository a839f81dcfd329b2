"""Operations: declared answers are given; the rest is the user's to write."""

from __future__ import annotations

from collections.abc import Iterator

from urform.plan.model import Operation, Plan
from urform.plan.operands import Operand
from urform.plan.patterns import Pattern
from urform.plan.script import Claim, case
from urform.plan.steps import Answers, Make
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
    """What a test hands to an operation; None where a parameter has no witness."""
    found = [next(witnesses.values(parameter.type), None) for parameter in operation.takes]
    given = tuple(operand for operand in found if operand is not None)
    return given if len(given) == len(found) else None


PATTERN = Pattern("operations", 60, claims)
