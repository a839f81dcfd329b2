"""The context of the Rust target: what all of its parts know of the plan."""

from __future__ import annotations

import re
from collections.abc import Mapping, Set

from urform.dataclasses import dataclass
from urform.declaration.types import ProductType
from urform.languages.placing import JSON, Place, place_of
from urform.languages.rendering.templates import Templates
from urform.languages.rust.expressions import Expressions
from urform.languages.rust.names import Names
from urform.languages.rust.views import HOMES, STANDARD
from urform.plan.model import Product
from urform.plan.whole import Plan

WORD = re.compile(r"(?<!::)\b[A-Za-z_]\w*\b")  # not a word of a choice


@dataclass(frozen=True, slots=True)
class Context:
    """A plan, how it is spelt in Rust, and how its products are constructed."""

    plan: Plan
    package: str
    names: Names
    code: Expressions
    templates: Templates
    header: str  # the first lines of each file
    exported: Set[str]  # the types that one module may use of another
    setters: Mapping[str, frozenset[str]]  # what comes before accessors and operations, by base

    @property
    def crate(self) -> str:
        """The package's name, as code has it."""
        return self.package.replace("-", "_")

    @property
    def reads_json(self) -> bool:
        """Whether there is a module that reads JSON text."""
        return JSON in self.plan.settings.get("rust", {})

    @property
    def place(self) -> Place:
        """Where the declaration wants the files."""
        return place_of(self.plan.settings.get("rust", {}), HOMES)

    def owned_type(self, product: Product) -> str:
        """The type of an owned product of which only this is known."""
        return self.code.type(ProductType(product.name))

    def fields_fail(self, product: Product) -> bool:
        """Whether making what all kinds have can fail."""
        return any(self.code.field_fails(field) for field in product.fields)

    def typed_parameters(self, product: Product) -> list[tuple[str, str]]:
        """The parameters of a constructor: required fields, then options."""
        code = self.code
        typed = [
            (self.names.local(f.name), code.parameter(f.type, shared=code.shared(f)))
            for f in product.required
        ]
        if product.optional and code.hidden(product):
            typed += [(self.names.local(f.name), f"Option<{code.owned(f)}>") for f in product.optional]
        elif product.optional:
            typed.append(("options", code.options(product)))
        return typed

    def parameter_count(self, product: Product) -> int:
        """How many parameters a constructor has."""
        return len(self.typed_parameters(product))

    def parameters(self, product: Product) -> str:
        """The typed parameters of a constructor."""
        return ", ".join(f"{name}: {type_}" for name, type_ in self.typed_parameters(product))

    def types(self, product: Product) -> str:
        """What callers see of those parameters, which they give by their place."""
        return f"({', '.join(type_ for _, type_ in self.typed_parameters(product))})"

    def arguments(self, product: Product) -> str:
        """The names of those parameters, to be passed on."""
        return ", ".join(name for name, _ in self.typed_parameters(product))

    def code_options(self, product: Product, pairs: list[str]) -> str:
        """An options struct with some of its fields."""
        options = self.code.options(product)
        if not pairs:
            return f"{options}::default()"
        rest = "" if len(pairs) == len(product.optional) else f", ..{options}::default()"
        return f"{options} {{ {', '.join(pairs)}{rest} }}"

    def full(self, type_: str) -> str:
        """A type for a file without imports."""

        def path(match: re.Match[str]) -> str:
            name = match[0]
            if name in STANDARD:
                return f"std::{STANDARD[name]}::{name}"
            return f"crate::{name}" if name in self.exported else name

        return WORD.sub(path, type_)

    def method(self, product: Product, name: str) -> str:
        """The accessor of a field, or an operation: setters come first."""
        return self.names.method(name, self.setters[product.base or product.name])


def setters_of(plan: Plan, base: Product) -> frozenset[str]:
    """The setters of a product or of its variants."""
    members = [base, *(plan.products[name] for name in base.variants)]
    fields = [f.name for p in members for f in p.own_fields if base.mutable]
    return frozenset(f"{begin}{name}{end}" for name in fields for begin, end in (("set_", ""), ("", "_mut")))
