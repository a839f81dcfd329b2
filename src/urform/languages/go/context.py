"""The context of the Go target: what all of its parts know of the plan."""

from __future__ import annotations

import re

from urform.dataclasses import dataclass
from urform.languages.go.expressions import Expressions, options_type
from urform.languages.go.names import EMBEDDED_METHODS, USED_METHODS, Names
from urform.languages.go.views import imports_of, joined
from urform.languages.naming.names import camel, pascal
from urform.languages.rendering.templates import Templates
from urform.plan.model import Field, Operation, Product
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Context:
    """A plan, how it is spelt in Go, and how its products are constructed."""

    plan: Plan
    module: str
    path: str  # by which others import the package
    package: str
    names: Names
    code: Expressions
    templates: Templates
    header: str  # the first lines of each file

    def whole(
        self, code: str, *, header: str | None = None, package: str | None = None, more: tuple[str, ...] = ()
    ) -> str:
        """A source file: header, package, the imports that its code needs, the code."""
        code = re.sub(r"\n{3,}", "\n\n", code).strip("\n") + "\n"
        top = self.header if header is None else header
        return f"{top}package {package or self.package}\n\n{imports_of(code, more)}{code}"

    @property
    def doubles(self) -> str:
        """The package of stand-ins, which has a folder of that name."""
        return f"{self.package}test"

    @property
    def imported(self) -> str:
        """The import of the package, which its path may call otherwise."""
        alias = "" if self.path.rpartition("/")[2] == self.package else f"{self.package} "
        return f'{alias}"{self.path}"'

    def signature(self, operation: Operation, taken: frozenset[str]) -> tuple[str, str, str]:
        """The method's name, its typed parameters, and what it returns."""
        typed = [f"{self.names.local(p.name)} {self.code.type(p.type)}" for p in operation.takes]
        return (
            self.names.exported(operation.name, taken),
            ", ".join(typed),
            self.code.returned(operation.returns),
        )

    def written_once(self, operation: Operation) -> str:
        """The user's own function of an operation that is written once: `describeOfMark`."""
        return f"{camel(operation.name)}Of{pascal(operation.owner)}"

    def letter(self, product: Product, operation: Operation | None = None) -> str:
        """The name of a receiver."""
        letter = camel(product.name)[0]
        taken = {self.names.local(p.name) for p in operation.takes} if operation else set()
        return letter if letter not in taken else "self"

    def taken(self, product: Product) -> frozenset[str]:
        """Methods that are generated beside accessors and operations."""
        setters = {f"Set{pascal(f.name)}" for f in product.fields} if product.mutable else set()
        clears = (
            {f"Clear{pascal(f.name)}" for f in product.fields if f.may_be_absent}
            if product.mutable
            else set()
        )
        base = self.plan.products[product.base or product.name]
        embedding = {f"{pascal(base.name)}Fields", *EMBEDDED_METHODS} if base.is_open else set()
        return frozenset(USED_METHODS | setters | clears | embedding)

    def parameters(self, product: Product) -> str:
        """The typed parameters that make a product; neighbours of one type share it, as is usual."""
        return joined(self.typed(product))

    def typed(self, product: Product) -> list[tuple[str, str]]:
        """The parameters that make a product: names and types."""
        typed = [(self.names.local(field.name), self.code.type(field.type)) for field in product.required]
        if self.hidden(product):
            typed += [(self.option(product, field), self.code.optional(field)) for field in product.optional]
        elif product.optional:
            typed.append(("opts", f"{self.code.at}{options_type(self.plan, self.names, product)[0]}"))
        return typed

    def hidden(self, product: Product) -> bool:
        """Whether a factory by values alone makes a product, or its variants."""
        selected = self.plan.selected_by(product) or self.plan.selection_of(product.name)
        return selected is not None

    def option(self, product: Product, field: Field) -> str:
        """Where a constructor finds an optional field: among the options, or, hidden, as a parameter."""
        return f"given{pascal(field.name)}" if self.hidden(product) else f"opts.{pascal(field.name)}"

    def fields_type(self, base: Product) -> str:
        """The struct that all kinds of a base embed; where other packages embed it too, they have a name for it."""
        return f"{pascal(base.name)}Fields" if base.is_open else self.names.embedded(base.name)

    def constructor(self, product: Product) -> str:
        """`NewBuoy`, and `newKnownOffset` of what a factory by values makes."""
        return f"{'new' if self.hidden(product) else 'New'}{self.names.type(product.name)}"

    def arguments(self, product: Product, of: Product | None = None) -> str:
        """The names of those parameters, as the caller of a variant's constructor passes a base's on."""
        names = [self.names.local(field.name) for field in product.required]
        concrete = of or product
        if concrete.optional:
            own, base = options_type(self.plan, self.names, concrete)
            if concrete is product or own == f"{self.names.type(product.name)}Options":
                names.append("opts")
            elif base is not None:
                names.append(f"{own}{{{base}: opts}}")
            else:
                names.append(f"{own}{{}}")
        return ", ".join(names)
