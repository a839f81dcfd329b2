"""The context of the Python target: what all of its parts know of the plan."""

from __future__ import annotations

from collections.abc import Mapping

from urform.dataclasses import dataclass
from urform.languages.naming.modules import Module
from urform.languages.placing import CODE, TESTS, Place, place_of
from urform.languages.python.expressions import Expressions
from urform.languages.python.names import Names
from urform.languages.rendering.templates import Templates
from urform.plan.model import Field, Product
from urform.plan.whole import Plan


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

    @property
    def homes(self) -> Mapping[str, str]:
        """Where a package, and a package of its tests beside it, are made."""
        return {CODE: "", TESTS: f"tests/{self.tests}"}

    @property
    def tests(self) -> str:
        """The package of the tests: called so that it hides no other."""
        return f"{self.package.replace('.', '_')}_claims"

    @property
    def folder(self) -> str:
        """Where the modules of the package are."""
        return self.package.replace(".", "/")

    @property
    def place(self) -> Place:
        """Where the declaration wants the files."""
        return place_of(self.plan.settings.get("python", {}), self.homes)

    def attribute(self, product: Product, field: Field) -> str:
        """The attribute in which a product holds a field."""
        return self.names.slot(field.name) if product.mutable else self.names.field(field.name)
