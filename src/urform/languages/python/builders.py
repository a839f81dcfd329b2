"""Builders in Python: fluent ones of methods, statements ones of attributes."""

from __future__ import annotations

from collections.abc import Container

from urform.declaration.types import Collection, ListOf, MapOf, ProductType, SetOf, Type
from urform.declaration.values import Entries, Value
from urform.languages.naming.names import Words, article, beside, pascal, spoken
from urform.languages.python.context import Context
from urform.languages.python.names import Names
from urform.languages.python.products import ProductWriter
from urform.languages.rendering.fields import option_doc
from urform.plan.model import Builder, Field, Preset, Product

TAKEN = frozenset({"build", "like"})
GIVEN = 'Literal["given"]'


class BuilderNames:
    """The names of a builder's methods: generated ones come first, then setters and adders, then presets."""

    def __init__(self, spelling: Names, product: Product, builder: Builder) -> None:
        self._names = spelling
        self._fluent = builder.fluent
        adders = {f"add_{field.item}" for field in product.fields if field.item}
        adders |= {self.clearer(field) for field in product.optional} if builder.fluent else set()
        self._setters = Words(TAKEN, adders)
        self._presets = Words(
            TAKEN, {"classmethod"}, adders, {self.setter(field) for field in product.fields}
        )

    def setter(self, field: Field) -> str:
        return self._setters.escape(self._names.field(field.name))

    def adder(self, field: Field) -> str:
        return f"add_{field.item}"

    def clearer(self, field: Field) -> str:
        """The method of a builder that is not assigned to."""
        return f"clear_{field.name}"

    def clearing(self, field: Field) -> str:
        return f".{self.clearer(field)}()" if self._fluent else f".{self.setter(field)} = None"

    def preset(self, name: str) -> str:
        return self._presets.escape(self._names.field(name))


class Typed:
    """What the type of a builder tells a checker: a parameter for each field that it asks for, which is a text that says
    whether the field is given. Of a builder that tells nothing, the plain forms."""

    def __init__(self, context: Context, product: Product, builder: Builder) -> None:
        self._name = f"{context.names.stem(product.name)}Builder"
        fields = [f for f in product.required if builder.typed and f.name not in builder.overlooked]
        self._variables = {f.name: f"_{context.names.stem(product.name)}Has{pascal(f.name)}" for f in fields}

    def view(self) -> dict[str, object]:
        """The parts of the class that differ."""
        plain = not self._variables
        return {
            "variables": list(self._variables.values()),
            "base": "" if plain else f"(Generic[{', '.join(self._variables.values())}])",
            "empty": "" if plain else f": {self._lacking(self._variables)}",
            "whole": "" if plain else f": {self._lacking([])}",
            "begun": "cls()" if plain else f"{self._name}()",
            "like": self.started([])["type"],
            "like_returned": self.started([])["returned"],
        }

    def started(self, lacking: Container[str]) -> dict[str, str]:
        """The type of a builder that starts with something, and how it is returned."""
        if not self._variables:
            return {"type": "Self", "returned": "builder"}
        type_ = self._lacking(lacking)
        return {"type": type_, "returned": "_cast(Never, builder)"}

    def lacking(self, preset: Preset) -> list[str]:
        """What a builder that starts from a preset lacks."""
        return [name for name in self._variables if name not in preset.values]

    def told(self, field: Field) -> dict[str, str]:
        """The type of what a setter returns, and how it gets it."""
        if field.name not in self._variables:
            return {"given": "Self", "returned": "self"}
        others = (GIVEN if name == field.name else variable for name, variable in self._variables.items())
        type_ = f"{self._name}[{', '.join(others)}]"
        return {"given": type_, "returned": "_cast(Never, self)"}

    def _lacking(self, lacking: Container[str]) -> str:
        told = (f'Literal["{name} is missing"]' if name in lacking else GIVEN for name in self._variables)
        return f"{self._name}[{', '.join(told)}]"


def builder_text(context: Context, product: Product, builder: Builder) -> str:
    """The builder of a product."""
    names = BuilderNames(context.names, product, builder)
    type_ = context.names.type(product.name)
    required, typed = list(product.required), Typed(context, product, builder)
    template = "builder_fluent" if builder.fluent else "builder_statements"

    def value_of(field: Field) -> str:
        if builder.fluent:
            return f'self._given.get("{context.names.field(field.name)}")'
        return f"self.{names.setter(field)}"

    variable = beside(context.names.parameter(context.names.function(product.name)), ("builder",))
    variable += "_" if variable in ("builder", "cls") else ""
    return context.templates.render(
        template,
        product.name,
        b={
            "type": type_,
            "stem": context.names.stem(product.name),
            "a": article(product.name),
            "spoken": spoken(product.name),
            "resets": builder.resets,
            "variable": variable,
            "typed": typed.view(),
            "fields": [{**_field(context, names, field), **typed.told(field)} for field in product.fields],
            "handed": ", ".join(
                f'"{context.names.field(f.name)}": self.{names.setter(f)}' for f in product.fields
            ),
            "copied": [
                _field(context, names, f) for f in product.fields if _kept(context, f, "value") != "value"
            ],
            "lacking": " or ".join(f'"{context.names.field(f.name)}" not in self._given' for f in required),
            "given": ProductWriter(context).given(f'"{product.name}"', required, value_of)
            if required
            else "",
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    **typed.started(typed.lacking(preset)),
                    "sets": [
                        {"name": names.setter(product.field(name)), "value": _value(context, value)}
                        for name, value in preset.values.items()
                    ],
                }
                for preset in builder.presets
            ],
        },
    )


def _field(context: Context, names: BuilderNames, field: Field) -> dict[str, object]:
    name = context.names.field(field.name)
    item = beside(context.names.parameter(field.item or "item"), ("held", "put", "self"))
    return {
        "name": name,
        "setter": names.setter(field),
        "parameter": context.names.parameter(field.name),
        "type": context.code.type(field.type) + (" | None" if field.may_be_absent else ""),
        "plain": context.code.type(field.type),
        "held": context.code.mutable_type(field.type) + (" | None" if field.may_be_absent else ""),
        "kept": _kept(context, field, context.names.parameter(field.name)),
        "kept_value": _kept(context, field, "value"),
        "doc": option_doc(field),
        "clearer": names.clearer(field) if not field.required else None,
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and isinstance(field.type, (ListOf, SetOf)) else None,
        "item": item,
        "item_type": context.code.type(field.type.element) if isinstance(field.type, Collection) else "",
        "item_kept": _item_kept(context, field, item),
        "empty": "set()" if isinstance(field.type, SetOf) else "[]",
        "add": "add" if isinstance(field.type, SetOf) else "append",
        "spread": ("{{*(self.%s or ()), {}}}" if isinstance(field.type, SetOf) else "[*(self.%s or ()), {}]")
        % names.setter(field),
    }


def _kept(context: Context, field: Field, value: str) -> str:
    """The value that a builder keeps: its own container, and copies of elements that can change."""
    copied = _copier(context, field)
    match field.type:
        case ListOf():
            return f"own_list({value}{copied})"
        case SetOf():
            return f"own_set({value})"
        case MapOf():
            return f"own_map({value}{copied})"
        case ProductType() if context.plan.holds_mutable(field.type):
            return f"{value} and {value}.{_copy(context, field)}()"
    return value


def _copy(context: Context, field: Field) -> str:
    inner = context.plan.product_in(field.type)
    assert inner is not None
    return context.code.copying.copy(inner)


def _copier(context: Context, field: Field) -> str:
    """The function that copies an element; inner containers are copied when the product is built."""
    if not isinstance(field.type, (ListOf, MapOf)):
        return ""
    if isinstance(field.type.element, Collection):
        return f", {_deep_function(context, field, field.type.element, 'each')}"
    if not context.plan.holds_mutable(field.type):
        return ""
    assert isinstance(field.type.element, ProductType)
    product = context.plan.products[field.type.element.name]
    if not product.abstract:
        return f", {context.names.type(product.name)}.{_copy(context, field)}"
    return f", lambda each: each.{_copy(context, field)}()"


def _deep_function(context: Context, field: Field, type_: Type, name: str) -> str:
    """The function that copies what stands in a collection, at every level."""
    text = _deep(context, field, type_, name)
    function = text.removesuffix(f"({name})")
    return function if function != text and function.isidentifier() else f"lambda {name}: {text}"


def _deep(context: Context, field: Field, type_: Type, value: str) -> str:
    match type_:
        case ListOf(element) | MapOf(_, element):
            own = "own_map" if isinstance(type_, MapOf) else "own_list"
            changes = isinstance(element, Collection) or context.plan.holds_mutable(element)
            inner = f", {_deep_function(context, field, element, 'inner')}" if changes else ""
            return f"{own}({value}{inner})"
        case SetOf():
            return f"own_set({value})"
    return f"{value}.{_copy(context, field)}()"


def _item_kept(context: Context, field: Field, item: str) -> str:
    element = field.type.element if isinstance(field.type, Collection) else None
    if isinstance(element, ProductType) and context.plan.holds_mutable(element):
        return f"{item} and {item}.{_copy(context, field)}()"
    if isinstance(element, Collection):
        return _deep(context, field, element, item)
    return item


def _value(context: Context, value: Value) -> str:
    """A preset's value as a caller would write it."""
    return context.code.element(value) if isinstance(value, Entries) else context.code.operand(value)
