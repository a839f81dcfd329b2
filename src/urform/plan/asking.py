"""Asking a factory by key: with fields, and with their record where kinds require fields of their own.

Some languages tie a key to the fields of its kind; in the others the factory takes a record. A step has both, so that each
target takes the one that is its own.
"""

from __future__ import annotations

from urform.plan.model import Factory
from urform.plan.operands import Arguments
from urform.plan.record_trees import RecordTrees, Tree
from urform.plan.steps import Ask
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


def asking(
    plan: Plan, witnesses: Witnesses, factory: Factory, var: str, key: str, arguments: Arguments
) -> Ask:
    """The step that asks for a key; a registry is asked in the variable `registry`."""
    registry = "registry" if factory.form == "registry" else None
    record = record_of(plan, witnesses, factory, arguments) if factory.needs_more else None
    return Ask(var, factory.product, key, arguments, registry, record)


def record_of(plan: Plan, witnesses: Witnesses, factory: Factory, arguments: Arguments) -> Tree:
    """The record of the arguments of a factory, which need not say of which kind it is."""
    trees = RecordTrees(plan)
    declared = {
        field.name: field
        for name in (factory.product, *plan.products[factory.product].variants)
        for field in plan.products[name].fields
    }
    values = {name: witnesses.value(operand) for name, operand in arguments.items()}
    return Tree(
        tuple((declared[name].called, trees.of(value)) for name, value in values.items() if value is not None)
    )
