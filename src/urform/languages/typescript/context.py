"""The context of the TypeScript target: what all of its parts know of the plan."""

from __future__ import annotations

from collections.abc import Mapping
from posixpath import relpath

from urform.dataclasses import dataclass
from urform.languages.naming.modules import Module
from urform.languages.naming.names import camel
from urform.languages.placing import CODE, TESTS, Place, place_of
from urform.languages.rendering.templates import Templates
from urform.languages.typescript.expressions import Expressions
from urform.languages.typescript.names import Names
from urform.languages.typescript.views import HOMES
from urform.plan.model import Product
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Context:
    """A plan, how it is spelt in TypeScript, and where its types stand."""

    plan: Plan
    names: Names
    code: Expressions
    templates: Templates
    header: str  # the first line of each file
    modules: tuple[Module, ...]
    home: Mapping[str, str]  # the module of each product and choice
    held_in_fields: frozenset[str]  # the products that are types of fields, or of what stands in them

    @property
    def place(self) -> Place:
        """Where the declaration wants the files."""
        return place_of(self.plan.settings.get("typescript", {}), HOMES)

    @property
    def code_from_tests(self) -> str:
        """The way from the folder of the tests to that of the code."""
        folders = self.place.folders
        way = relpath(folders[CODE] or ".", folders[TESTS] or ".")
        return way if way.startswith(".") else f"./{way}"

    def hidden(self, product: Product) -> bool:
        """Whether a factory by values alone makes a product, or its variants."""
        selected = self.plan.selected_by(product) or self.plan.selection_of(product.name)
        return selected is not None

    def operations_module(self, product: Product) -> str:
        """The name by which the users' own functions of a product are imported."""
        return f"{camel(product.base or product.name)}Operations"
