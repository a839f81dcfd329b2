"""Values as tests write them: variables have forms, by which they are handed on."""

from __future__ import annotations

from collections.abc import Mapping

from urform.dataclasses import dataclass
from urform.declaration.types import TEXT, ProductType, Type, innermost
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import Expressions, is_copied
from urform.plan.model import Field, Product
from urform.plan.operands import Operand, Var, Witness


@dataclass(frozen=True, slots=True)
class Held:
    """A variable of a test: its type, and whether it is a value, a reference, or shared."""

    type: Type
    form: str = "value"  # value, reference, shared


class TestExpressions(Expressions):
    """C++ code for what tests hand in and expect."""

    __test__ = False
    repeated = "repeated"

    def __init__(self, context: Context) -> None:
        super().__init__(context.plan, context.names)
        self.variables: dict[str, Held] = {}  # by their names in the test

    def value(self, operand: Operand, type_: Type, *, shared: bool = False) -> str:
        """An operand as an owned value of a type; a witness that was made by values is behind a pointer."""
        if isinstance(operand, Witness) and self.hidden(self.plan.products[operand.product]):
            text = super().value(operand, type_, shared=shared)
            concrete = str(innermost(type_)) == operand.product
            return f"as<{self.names.type(operand.product)}>(*{text})" if concrete else text
        if not isinstance(operand, Var) or operand.name not in self.variables:
            return super().value(operand, type_, shared=shared)
        variable = self.variables[operand.name]
        if not isinstance(variable.type, ProductType) or variable.form == "shared":
            return operand.name
        abstract = self.plan.product(variable.type.name).abstract
        if not abstract or (variable.form == "value" and not shared):
            return operand.name
        return f"{operand.name}{'.' if variable.form == 'reference' else '->'}clone()"

    def all_arguments(self, product: Product, given: Mapping[str, Operand]) -> str:
        """The arguments of what has no default ones: a role, or a pointer to a function."""
        text = self.arguments(product, given)
        if product.optional and not any(f.name in given for f in product.optional):
            return f"{text}, {{}}" if text else "{}"
        return text

    def is_pointer(self, name: str) -> bool:
        """Whether a variable holds its product behind something like a pointer."""
        variable = self.variables[name]
        if variable.form == "shared":
            return True
        product = self.plan.products.get(str(variable.type))
        return variable.form == "value" and product is not None and product.abstract

    def reference(self, name: str) -> str:
        """A reference to the value of a variable."""
        return f"*{name}" if self.is_pointer(name) else name

    def wanted(self, operand: Operand, field: Field) -> str:
        """What an accessor is expected to give."""
        return self.expected(operand, field.type, shared=self.shared(field), optional=field.may_be_absent)

    def expected(self, operand: Operand, type_: Type, *, shared: bool = False, optional: bool = False) -> str:
        """A value to compare with: typed where nothing else tells what it is."""
        text = self.value(operand, type_, shared=shared)
        inner = innermost(type_)
        if inner is not type_ or is_copied(type_) or type_ == TEXT:
            return f"({text})" if "{" in text else text
        if isinstance(operand, Var) and not shared and not optional:
            return self.reference(operand.name)
        typed = self.type(type_, shared=shared)
        if shared or optional:
            already = isinstance(operand, Var) and self.variables[operand.name].form == "shared"
            return text if already else f"{typed}({text})"
        if isinstance(operand, Witness):
            behind = self.hidden(self.plan.products[operand.product]) and not text.startswith("as<")
            return f"*{text}" if behind else text
        product = self.plan.products[str(type_)]
        return (
            f"*{text}"
            if product.abstract and text.startswith(f"{self.names.type(product.name)}::make")
            else text
        )
