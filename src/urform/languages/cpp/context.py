"""The context of the C++ target: what all of its parts know of the plan."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from urform.dataclasses import dataclass
from urform.languages.cpp.expressions import Expressions, moved
from urform.languages.cpp.names import Names
from urform.languages.placing import TESTS, Place, place_of
from urform.languages.rendering.templates import Templates
from urform.plan.model import Product
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Context:
    """A plan, how it is spelt in C++, and how its products are constructed."""

    plan: Plan
    namespace: str
    names: Names
    code: Expressions
    templates: Templates
    header: str  # the first lines of each file
    setters: Mapping[str, frozenset[str]]  # what comes before accessors and operations, by base

    @property
    def folder(self) -> str:
        """Where headers are, below the folder that is searched for them."""
        return self.namespace.replace("::", "/")

    def named(self, support: str) -> str:
        """Support code in the namespace, and its headers where they are."""
        placed = support.replace("FOLDER", self.folder).replace("NAMESPACE", self.namespace)
        return placed.replace("EXPORTED", export_macro(self.namespace)).replace(
            "LIBRARY", self.library.upper()
        )

    @property
    def export(self) -> str:
        """What stands before a class, or before what a function returns, that a shared library shows."""
        return f"{export_macro(self.namespace)} "

    @property
    def library(self) -> str:
        """The name of the library: several of them may stand side by side."""
        return self.namespace.replace("::", "_")

    @property
    def place(self) -> Place:
        """Where the declaration wants the files."""
        return place_of(self.plan.settings.get("cpp", {}), {TESTS: "tests"})

    def typed_parameters(self, product: Product) -> list[tuple[str, str]]:
        """The parameters of a constructor: required fields, then options."""
        code = self.code
        typed = [(self.names.local(f.name), code.owned(f)) for f in product.required]
        if product.optional and code.hidden(product):
            typed += [(self.names.local(f.name), f"std::optional<{code.owned(f)}>") for f in product.optional]
        elif product.optional:
            typed.append(("options", code.options(product)))
        return typed

    def parameters(self, product: Product, *, defaults: bool = False) -> str:
        """The typed parameters of a constructor; where it is declared, options are empty by default."""
        typed = self.typed_parameters(product)
        end = " = {}" if defaults else ""
        return ", ".join(f"{type_} {name}{end if name == 'options' else ''}" for name, type_ in typed)

    def forms(self, called: str, typed: Sequence[tuple[str, str]]) -> list[str]:
        """The ways to call what takes parameters: with options, and without."""
        types = [type_ for _, type_ in typed]
        ways = [types, types[:-1]] if typed and typed[-1][0] == "options" else [types]
        return [f"{called}({', '.join(way)})" for way in ways]

    def passed(self, product: Product) -> list[str]:
        """The names of those parameters, to be passed on for good."""
        names = [moved(f, self.names.local(f.name)) for f in product.required]
        return [*names, *(["std::move(options)"] if product.optional else [])]

    def method(self, product: Product, name: str) -> str:
        """The accessor of a field, or an operation: setters and the key of a kind come first."""
        return self.names.method(name, self.setters[product.base or product.name])


def export_macro(namespace: str) -> str:
    """The macro that marks what a shared library shows: `FAIRWAY_EXPORT`."""
    return f"{namespace.replace('::', '_').upper()}_EXPORT"


def setters_of(plan: Plan, base: Product) -> frozenset[str]:
    """The setters of a product or of its variants, and the key of a kind."""
    members = [base, *(plan.products[each] for each in base.variants)]
    fields = [f.name for p in members for f in p.own_fields if base.mutable]
    setters = (f"{begin}{each}" for each in fields for begin in ("set_", "mutable_"))
    return frozenset([*setters, *(["kind"] if base.abstract else [])])
