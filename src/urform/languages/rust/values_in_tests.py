"""Values as tests write them: made by public entries, as a client would."""

from __future__ import annotations

import re
from collections.abc import Mapping

from urform.declaration.told import Told
from urform.declaration.types import TEXT, ListOf, MapOf, ProductType, SetOf, Type, innermost
from urform.declaration.values import Boolean, Entries, Integer, Items, Made, Real, Text, Value, Word
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import LONG_TEXT, Expressions, is_copied, text_literal, witness_name
from urform.languages.rust.factories import function_of
from urform.plan.model import Field, Product, Selection
from urform.plan.operands import Keyed, Operand, Several, Strange, Var, Witness

STRANGE = {"nan": "f64::NAN", "infinity": "f64::INFINITY", "-infinity": "f64::NEG_INFINITY"}


class TestExpressions(Expressions):
    """Rust code for what tests hand in and expect."""

    __test__ = False
    good = ".unwrap()"  # said after a call that may fail, and does not here

    def __init__(self, context: Context) -> None:
        super().__init__(context.plan, context.names)
        self.context = context
        self.variables: dict[str, Held] = {}  # by their names in the test

    # --- operands -----------------------------------------------------------------------------------------

    def owned_operand(
        self, operand: Operand, type_: Type, *, shared: bool = False, typed: bool = False
    ) -> str:
        """An operand as an owned value of a type."""
        match operand:
            case Text() | Integer() | Boolean() | Told() | Word() | Items() | Entries() | Made():
                return self.value(operand, type_, shared=shared, typed=typed)
            case Real(number):
                return repr(number)
            case Var(name):
                return self._variable(name, type_, shared, typed)
            case Witness(product, second):
                return self.within(
                    product, f"{witness_name(product, second)}()", type_, shared=shared, typed=typed
                )
            case Strange(number):
                return STRANGE[number]
            case Several(_, items):
                assert isinstance(type_, (ListOf, SetOf))
                return self.listed(
                    type_,
                    [self.owned_operand(each, type_.element, shared=shared, typed=typed) for each in items],
                )
            case Keyed(_, entries):
                assert isinstance(type_, MapOf)
                pairs = [
                    (
                        self.value(key, type_.key),
                        self.owned_operand(item, type_.element, shared=shared, typed=True),
                    )
                    for key, item in entries
                ]
                return self.mapped(pairs)
        raise TypeError(f"Rust cannot express {operand}")

    def _variable(self, name: str, type_: Type, shared: bool, typed: bool) -> str:
        variable = self.variables.get(name)
        if variable is None:  # a parameter
            return f"{name}.to_owned()" if type_ == TEXT else name
        if not isinstance(variable.type, ProductType):
            return f"{name}.clone()"
        if shared and variable.form in ("arc", "arc reference"):
            return f"Arc::clone({'' if variable.form == 'arc reference' else '&'}{name})"
        text = self.copy_of(name)
        declared = str(innermost(type_))
        if declared == variable.type.name:
            is_open = self.is_open(self.plan.product(declared))
            return f"Arc::{'from' if is_open else 'new'}({text})" if shared else text
        return self.within(variable.type.name, text, type_, shared=shared, typed=typed)

    def copy_of(self, name: str) -> str:
        """A copy of what a variable holds, owned."""
        variable = self.variables[name]
        product = self.plan.product(str(variable.type))
        if variable.form in ("reference", "arc", "arc reference") and self.is_open(product):
            return f"{name}.boxed_clone()"
        return f"{name}.as_ref().clone()" if variable.form.startswith("arc") else f"{name}.clone()"

    def argument(self, operand: Operand, type_: Type, *, shared: bool = False) -> str:
        """An operand as a function takes it: texts are borrowed."""
        if type_ != TEXT:
            return self.owned_operand(operand, type_, shared=shared)
        if isinstance(operand, Var):
            return operand.name
        assert isinstance(operand, Text)
        return f"&{self.value(operand, type_)}" if is_long(operand) else text_literal(operand.text)

    def looked_at(self, operand: Operand, type_: Type, *, shared: bool = False, typed: bool = False) -> str:
        """An operand as a reference, as accessors give it; copied values are values."""
        if is_copied(type_):
            return self.owned_operand(operand, type_)
        if type_ == TEXT:
            text = self.argument(operand, type_)
            return f"{text[1:]}.as_str()" if text.startswith('&"') and typed else text
        if isinstance(operand, Var) and not shared:
            variable = self.variables[operand.name]
            if variable.type == type_:
                return self.reference(operand.name)
        if isinstance(operand, (Several, Items)) and isinstance(type_, ListOf):
            array = self._array(operand, type_, shared)
            alone = re.fullmatch(r"\[(\w+)\.clone\(\)\]", array)
            return f"std::slice::from_ref(&{alone[1]})" if alone is not None else f"&{array}"
        name = str(innermost(type_))
        product = self.plan.products.get(name)
        if isinstance(type_, ProductType) and product is not None and self.is_open(product):
            if shared:
                return f"&({self.owned_operand(operand, type_, shared=True, typed=True)})"
            return f"&{self._concrete(operand, type_)}" + (
                f" as &dyn {self.names.type(name)}" if typed else ""
            )
        return f"&{self.owned_operand(operand, type_, shared=shared)}"

    def _concrete(self, operand: Operand, type_: Type) -> str:
        """A product of which the concrete type is known, without a pointer around it."""
        if isinstance(operand, Witness):
            return f"{witness_name(operand.product, operand.second)}()"
        if isinstance(operand, Var):
            variable = self.variables[operand.name]
            concrete = not self.plan.product(str(variable.type)).abstract
            return operand.name if concrete else f"*{self.copy_of(operand.name)}"
        assert isinstance(operand, Made)
        product, text = self.construction(operand.product, operand.fields)
        return f"*{text}" if product == str(type_) else text

    def _array(self, operand: Several | Items, type_: ListOf, shared: bool) -> str:
        items = [self.owned_operand(item, type_.element, shared=shared) for item in operand.items]
        if len(items) > 8 and len(set(items)) == 1:
            return f"[{items[0]}; {len(items)}]" if is_copied(type_.element) else self.listed(type_, items)
        return f"[{', '.join(items)}]"

    def reference(self, name: str) -> str:
        """A reference to what a variable holds."""
        variable = self.variables[name]
        if variable.form == "reference":
            return name
        if variable.form == "own":
            product = self.plan.products.get(str(variable.type))
            return f"{name}.as_ref()" if product is not None and self.is_open(product) else f"&{name}"
        return f"{name}.as_ref()"

    # --- products -----------------------------------------------------------------------------------------

    def construction(self, product: str, given: Mapping[str, Value]) -> tuple[str, str]:
        """A declared product, made as a client would."""
        selection = self.plan.selection_of(product)
        if selection is not None:
            end = self.good if self.selection_fails(selection) else ""
            return (
                product,
                f"{function_of(self.plan.products[product])}({self.selected(selection, given)}){end}",
            )
        declared = self.plan.product(product)
        end = self.good if self.fallible(declared) else ""
        return product, f"{self.names.type(product)}::new({self.arguments(declared, given)}){end}"

    def within(self, product: str, text: str, type_: Type, *, shared: bool, typed: bool = False) -> str:
        """A product as a value of a type; one that a factory made is of the base's type already."""
        declared = self.plan.product(str(innermost(type_)))
        if product == declared.name and self.is_open(declared):
            return f"Arc::from({text})" if shared else text
        return super().within(product, text, type_, shared=shared, typed=typed)

    def arguments(self, product: Product, given: Mapping[str, Operand]) -> str:
        """The arguments of a constructor: required fields, then options."""
        parts = [self.argument(given[f.name], f.type, shared=self.shared(f)) for f in product.required]
        if product.optional:
            pairs = [self._option(product, f, given[f.name]) for f in product.optional if f.name in given]
            parts.append(self.context.code_options(product, pairs))
        return ", ".join(parts)

    def _option(self, product: Product, field: Field, operand: Operand) -> str:
        text = self.owned_operand(operand, field.type, shared=self.shared(field))
        text = text if self.plain_option(product, field) else f"Some({text})"
        name = self.names.option(field.name)
        return name if text == name else f"{name}: {text}"

    def selected(self, selection: Selection, given: Mapping[str, Operand]) -> str:
        """The arguments of a factory by values."""
        parts = [self.argument(given[f.name], f.type, shared=self.shared(f)) for f in selection.required]
        if selection.optional:
            pairs = [
                f"{self.names.option(f.name)}: "
                f"Some({self.owned_operand(given[f.name], f.type, shared=self.shared(f))})"
                for f in selection.optional
                if f.name in given
            ]
            options = self.options(self.plan.products[selection.product])
            rest = "" if len(pairs) == len(selection.optional) else f", ..{options}::default()"
            parts.append(f"{options} {{ {', '.join(pairs)}{rest} }}" if pairs else f"{options}::default()")
        return ", ".join(parts)


class Held:
    """A variable of a test: its type, and whether it is owned, a reference, or shared."""

    def __init__(self, type_: Type, form: str = "own") -> None:
        self.type = type_
        self.form = form  # own, reference, arc, arc reference


def is_long(text: Text) -> bool:
    """Whether a text is written as a repeated character."""
    return len(text.text) > LONG_TEXT and len(set(text.text)) == 1
