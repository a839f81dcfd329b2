"""The context of the Java target: what all of its parts know of the plan."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.declaration.types import NOTHING, Collection
from urform.languages.java.docs import KEY, OPTIONS, as_parameter
from urform.languages.java.expressions import PRIMITIVES, Expressions, is_settled
from urform.languages.java.names import Names
from urform.languages.java.views import HOMES, types_of
from urform.languages.naming.names import pascal, spoken
from urform.languages.placing import Place, place_of
from urform.languages.rendering.templates import Templates
from urform.plan.model import Field, Operation, Product
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Context:
    """A plan, how it is spelt in Java, and how its products are constructed."""

    plan: Plan
    names: Names
    code: Expressions
    templates: Templates
    package: str
    header: str  # the first line of each file

    @property
    def folder(self) -> str:
        """Where the package's sources are, below `src/main/java`."""
        return self.package.replace(".", "/")

    @property
    def place(self) -> Place:
        """Where the declaration wants the files."""
        return place_of(self.plan.settings.get("java", {}), HOMES)

    def hidden(self, product: Product) -> bool:
        """Whether a factory by values alone calls the constructors of a product, or of its variants."""
        selected = self.plan.selected_by(product) or self.plan.selection_of(product.name)
        return selected is not None

    def option(self, product: Product, field: Field) -> str:
        """Where a constructor finds an optional field: among the options, or as a parameter of its own."""
        apart = self.hidden(product) or (self.widens(product) and field.owner == product.name)
        return f"given{pascal(field.name)}" if apart else f"options.{self.names.member(field.name)}"

    def settled(self, product: Product, field: Field) -> bool:
        """See `is_settled`."""
        return is_settled(self.plan, product, field)

    def widens(self, product: Product) -> bool:
        """Whether a variant has options beside those of its base, and takes either."""
        base = self.plan.products[product.base] if product.base is not None else None
        own = any(field.owner == product.name for field in product.optional)
        return base is not None and bool(base.optional) and own and not self.hidden(product)

    def operation(self, product: Product, operation: Operation) -> dict[str, object]:
        """The view of an operation that the template of a class shows."""
        names = [self.names.member(parameter.name) for parameter in operation.takes]
        typed = [f"{self.code.plain(p.type)} {name}" for p, name in zip(operation.takes, names, strict=True)]
        name = self.names.member(operation.name)
        if operation.answer is not None:
            body = self.code.answer(operation.answer, operation.returns)
        else:
            written_on = self.names.type(self.plan.written_on(product, operation).name)
            body = f"{written_on}Operations.{name}({', '.join(['this', *names])})"
        if operation.returns != NOTHING:
            body = f"return {body};"
        else:
            body = f"{body};" if operation.answer is None else "// There is nothing to do."
        inherited = product.base is not None and operation.owner != product.name
        return {
            "name": name,
            "doc": operation.doc
            or (f"{spoken(operation.name).capitalize()}." if operation.returns == NOTHING else ""),
            "takes": self.operation_takes(operation),
            "said": _told(operation),
            "abstract": product.abstract,
            "overrides": inherited,
            "returns": self.code.returned(operation.returns),
            "parameters": ", ".join(typed),
            "types": types_of(typed),
            "body": body,
        }

    def operation_takes(self, operation: Operation) -> list[tuple[str, str]]:
        """What documentation says of the parameters of an operation."""
        return [(self.names.member(p.name), f"the {spoken(p.name)}") for p in operation.takes]

    def parameters(self, product: Product, options: str = "Options") -> list[str]:
        """The typed parameters that make a product: required fields, then options if there are any."""
        typed = [f"{self.code.plain(f.type)} {self.names.member(f.name)}" for f in product.required]
        if self.hidden(product):
            return typed + [f"{self.code.boxed(f.type)} {self.option(product, f)}" for f in product.optional]
        return [*typed, *([f"{options} options"] if product.optional else [])]

    def arguments(self, product: Product) -> list[str]:
        """The names of those parameters."""
        if self.hidden(product):
            names = [self.names.member(f.name) for f in product.required]
            return names + [self.option(product, f) for f in product.optional]
        return [
            *(self.names.member(f.name) for f in product.required),
            *(["options"] if product.optional else []),
        ]

    def short(self, product: Product, options: str, *before: str) -> dict[str, object] | None:
        """The parameters of an overload that chooses no option, and what it passes on; None where there is no option."""
        if not product.optional or self.hidden(product):
            return None
        typed = [*before, *self.parameters(product)[: len(product.required)]]
        names = [parameter.rpartition(" ")[2] for parameter in typed]
        return {
            "parameters": ", ".join(typed),
            "types": types_of(typed),
            "arguments": ", ".join([*names, f"new {options}()"]),
            "takes": [*(KEY for part in before), *self.takes(product)[: len(product.required)]],
        }

    def takes(self, product: Product) -> list[tuple[str, str]]:
        """What documentation says of the parameters that make a product."""
        said = [as_parameter(field, self.names.member(field.name)) for field in product.required]
        return [*said, *([OPTIONS] if product.optional else [])]

    def default(self, field: Field) -> str | None:
        """The default of an optional field as an expression, None if it may be absent."""
        if field.default is not None:
            return self.code.value(field.default)
        if isinstance(field.type, Collection):
            return f"{self.code.boxed(field.type).partition('<')[0]}.of()"
        return None

    def is_reference(self, field: Field) -> bool:
        """Whether null could be handed in for a required field."""
        return field.type not in PRIMITIVES


def _told(operation: Operation) -> str:
    """What documentation says of the answer; nothing where there is none."""
    if operation.returns == NOTHING:
        return ""
    return "the answer" if operation.answer is None else "the declared answer"
