"""Operations: declared answers are given; the rest is the user's to write."""

from __future__ import annotations

from collections.abc import Iterator

from urform.plan.model import Operation, Plan
from urform.plan.patterns import Pattern
from urform.plan.script import Answers, Claim, Make, Operand, case
from urform.plan.witnesses import Witnesses


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`answer` of every operation with a declared answer."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if product.abstract or arguments is None:
            continue
        for operation in product.operations:
            handed = _handed(witnesses, operation)
            if operation.answer is None or handed is None:
                continue
            steps = (
                Make("made", product.name, arguments),
                Answers("made", operation.name, handed, operation.answer),
            )
            text = f"{operation.name} of {product.name} gives the declared answer"
            yield Claim("answer", product.name, text, (case(*steps),), operation.name)


def _handed(witnesses: Witnesses, operation: Operation) -> tuple[Operand, ...] | None:
    found = [next(witnesses.values(parameter.type), None) for parameter in operation.takes]
    handed = tuple(operand for operand in found if operand is not None)
    return handed if len(handed) == len(found) else None


PATTERN = Pattern("operations", 60, claims)
