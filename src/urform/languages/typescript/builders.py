"""Builders in TypeScript: methods that collect what the constructor is then given."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from urform.declaration.types import Collection, ListOf, MapOf, ProductType, SetOf, Type
from urform.languages.naming.names import Words, article, beside, camel, pascal, spoken
from urform.languages.rendering.fields import option_doc
from urform.languages.typescript.context import Context
from urform.languages.typescript.names import STATICS, Names
from urform.plan.model import Builder, Field, Preset, Product

TAKEN = frozenset({"build", "like"})


class BuilderNames:
    """The names of a builder's methods: generated ones come first, then setters and adders, then presets."""

    def __init__(self, spelling: Names, product: Product, builder: Builder) -> None:
        self._names = spelling
        self._fluent = builder.fluent
        adders = {self.adder(field) for field in product.fields if field.item}
        adders |= {self.clearer(field) for field in product.optional}
        self._setters = Words(TAKEN, adders)
        self._presets = Words(TAKEN, STATICS, {"begin"} if builder.typed else ())

    def setter(self, field: Field) -> str:
        name = self._names.member(field.name) if self._fluent else f"set{pascal(field.name)}"
        return self._setters.escape(name)

    def adder(self, field: Field) -> str:
        return f"add{pascal(field.item or '')}"

    def clearer(self, field: Field) -> str:
        return f"clear{pascal(field.name)}"

    def clearing(self, field: Field) -> str:
        return f".{self.clearer(field)}()"

    def preset(self, name: str) -> str:
        """A static method, which meets no setter."""
        return self._presets.escape(self._names.member(name))


class Typed:
    """What the type of a builder tells of the fields that it lacks; of one that tells nothing, its plain name."""

    def __init__(self, context: Context, product: Product, builder: Builder) -> None:
        self._builder = builder
        self._name = f"{context.names.stem(product.name)}Builder"
        self._asked = [f.name for f in product.required if builder.typed and f.name not in builder.overlooked]
        self._missing = beside("Missing", context.plan.type_names)

    @property
    def parameter(self) -> str:
        """The type parameter with what an empty builder lacks."""
        return (
            f"<out {self._missing} extends string = {_literals(self._asked)}>" if self._builder.typed else ""
        )

    @property
    def begun(self) -> str:
        """The type of an empty builder, which only a function gives: to a constructor a caller could say what is missing."""
        return self.having(self._asked) if self._builder.typed else ""

    def having(self, lacking: Iterable[str]) -> str:
        """The type of a builder that lacks some fields."""
        return f"{self._name}<{_literals(lacking)}>" if self._builder.typed else self._name

    def lacking(self, preset: Preset) -> list[str]:
        """What a builder that starts from a preset lacks."""
        return [name for name in self._asked if name not in preset.values]

    def cast(self, lacking: Sequence[str]) -> str:
        """What makes an empty builder one that lacks fewer fields."""
        return " as never" if len(lacking) < len(self._asked) else ""

    def told(self, field: Field) -> dict[str, str]:
        """The type of what a setter returns, and how it gets it."""
        if field.name not in self._asked:
            return {"result": "this" if self._builder.fluent else "void", "cast": ""}
        given = f'{self._name}<Exclude<{self._missing}, "{field.name}">>'
        return {"result": given, "cast": " as never"}


def _literals(names: Iterable[str]) -> str:
    """A union of names."""
    return " | ".join(f'"{name}"' for name in names) or "never"


def builder_text(context: Context, product: Product, builder: Builder) -> str:
    """The builder of a product."""
    names = BuilderNames(context.names, product, builder)
    type_ = context.names.type(product.name)
    typed = Typed(context, product, builder)
    variable = beside(context.names.parameter(camel(product.name)), ("builder",))
    return context.templates.render(
        "builder",
        product.name,
        b={
            "type": type_,
            "stem": context.names.stem(product.name),
            "a": article(product.name),
            "fluent": builder.fluent,
            "result": "this" if builder.fluent else "void",
            "parameter": typed.parameter,
            "full": typed.having([]),
            "cast": typed.cast([]),
            "begun": typed.begun,
            "self": f"this: {typed.having([])}" if builder.typed else "",
            "resets": builder.resets,
            "variable": variable,
            "fields": [{**_field(context, names, field), **typed.told(field)} for field in product.fields],
            "handed": f"this.#given as {context.names.stem(product.name)}Fields"
            if product.required
            else "this.#given",
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    "type": typed.having(typed.lacking(preset)),
                    "cast": typed.cast(typed.lacking(preset)),
                    "calls": [
                        f"{names.setter(product.field(name))}({context.code.value(value)})"
                        for name, value in preset.values.items()
                    ],
                }
                for preset in builder.presets
            ],
        },
    )


def _field(context: Context, names: BuilderNames, field: Field) -> dict[str, object]:
    code = context.code
    name = context.names.member(field.name)
    parameter = context.names.parameter(field.name)
    item = context.names.parameter(field.item or "item")
    absent = " | undefined" if field.may_be_absent else ""
    element = field.type.element if isinstance(field.type, Collection) else None
    return {
        "name": name,
        "member": field.name,
        "parameter": parameter,
        "setter": names.setter(field),
        "doc": option_doc(field),
        "type": code.type(field.type) + absent,
        "held": code.mutable_type(field.type) + ("" if field.required else " | undefined"),
        "kept": _kept(context, field, parameter),
        "clearer": names.clearer(field) if not field.required else None,
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and isinstance(field.type, (ListOf, SetOf)) else None,
        "item": item,
        "item_type": code.type(element) if element is not None else "",
        "item_kept": _item_kept(context, element, item),
        "empty": "new Set()" if isinstance(field.type, SetOf) else "[]",
        "add": "add" if isinstance(field.type, SetOf) else "push",
    }


def _kept(context: Context, field: Field, value: str) -> str:
    """The value that a builder keeps: its own container, and copies of elements that can change."""
    if isinstance(field.type, ProductType) and context.plan.holds_mutable(field.type):
        return f"{value}?.{_copy(context, field.type)}()"
    return _container(context, field.type, value, 1)


def _container(context: Context, type_: Type, value: str, depth: int) -> str:
    each = "each" if depth == 1 else f"each{depth}"
    match type_:
        case SetOf():
            return f"ownSet({value})"
        case ListOf(element) | MapOf(_, element):
            inner = ""
            if isinstance(element, Collection) or context.plan.holds_mutable(element):
                inner = f", ({each}) => {_container(context, element, each, depth + 1)}"
            return f"{'ownMap' if isinstance(type_, MapOf) else 'ownList'}({value}{inner})"
        case ProductType() if context.plan.holds_mutable(type_):
            return f"{value}.{_copy(context, type_)}()"
    return value


def _copy(context: Context, type_: ProductType) -> str:
    return context.code.copying.copy(context.plan.products[type_.name])


def _item_kept(context: Context, element: Type | None, item: str) -> str:
    if isinstance(element, ProductType) and context.plan.holds_mutable(element):
        return f"{item}?.{_copy(context, element)}()"
    if isinstance(element, Collection):
        return _container(context, element, item, 1)
    return item
