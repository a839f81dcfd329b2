"""The context of the Python target: what all of its parts know of the plan."""

from __future__ import annotations

from collections.abc import Mapping

from urform.languages.naming.modules import Module
from urform.languages.python.expressions import Expressions
from urform.languages.python.names import Names
from urform.languages.rendering.templates import Templates
from urform.plan.model import Field, Plan, Product
from urform.records import dataclass


@dataclass(frozen=True, slots=True)
class Context:
    """A plan, how it is spelt in Python, and where its types stand."""

    plan: Plan
    names: Names
    code: Expressions
    templates: Templates
    package: str
    header: str  # the first line of each file
    modules: tuple[Module, ...]
    home: Mapping[str, str]  # the module of each product and choice

    def attribute(self, product: Product, field: Field) -> str:
        """The attribute in which a product holds a field."""
        return self.names.slot(field.name) if product.mutable else self.names.field(field.name)
