"""Builders in Java: a nested class that collects the required fields and the options."""

from __future__ import annotations

from collections.abc import Container

from urform.declaration.types import Collection, ListOf, MapOf, ProductType, SetOf, Type
from urform.languages.java.context import Context
from urform.languages.java.expressions import PRIMITIVES
from urform.languages.java.names import Names
from urform.languages.java.views import STYLE
from urform.languages.naming.names import Words, article, beside, camel, pascal, spoken
from urform.languages.rendering.comments import wrapped
from urform.languages.rendering.fields import option_doc
from urform.plan.model import Builder, Field, Preset, Product

TAKEN = frozenset({"build", "like"})
CLASS = "    public static final class Builder implements  {"
LONGEST = 55  # columns of a type that still shares its line with what it is the type of
BEGIN = "begin"  # what starts a typed builder, whose constructor is private


class BuilderNames:
    """The names of a builder's methods: generated ones come first, then setters and adders, then presets."""

    def __init__(self, spelling: Names, product: Product, builder: Builder) -> None:
        self._names = spelling
        self._fluent = builder.fluent
        adders = {self.adder(field) for field in product.fields if field.item}
        adders |= {self.clearer(field) for field in product.optional}
        taken = {BEGIN} if builder.typed else set()
        self._setters = Words(TAKEN, taken, adders)
        self._presets = Words(TAKEN, taken, adders, {self.setter(field) for field in product.fields})

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
        return self._presets.escape(self._names.member(name))


class Typed:
    """The stages of a typed builder: an interface for each required field, which knows what is needed next. Of one that
    is not typed there are none, and its type is that of the class."""

    def __init__(self, context: Context, product: Product, builder: Builder) -> None:
        self._stages = {
            field.name: beside(f"Needs{pascal(field.name)}", context.plan.type_names)
            for field in product.required
            if builder.typed and field.name not in builder.overlooked
        }

    def stage(self, field: str) -> str:
        """The interface of a field; empty if there is none."""
        return self._stages.get(field, "")

    @property
    def implements(self) -> str:
        """What the class implements, as its declaration says it."""
        listed = ", ".join(f"{stage}<Builder>" for stage in self._stages.values())
        if len(CLASS) + len(listed) <= STYLE.width:
            return f" implements {listed}" if listed else ""
        lines = wrapped(f"implements {listed}", STYLE.width - 14)
        return "".join(f"\n            {line}" for line in lines)

    def needing(self, given: Container[str] = ()) -> str:
        """The type of a builder with some fields given: one stage after the other, and the builder at the end."""
        stages = [stage for name, stage in self._stages.items() if name not in given]
        whole = "".join(f"{stage}<" for stage in stages) + "Builder" + ">" * len(stages)
        return whole if len(whole) <= LONGEST else whole.replace("<", "<\n                ")

    def started(self, preset: Preset) -> dict[str, str]:
        """The type of a builder that starts from a preset, and how it gets it."""
        type_ = self.needing(preset.values)
        return {"type": type_, "cast": f"({type_}) (Object) " if type_ != "Builder" else ""}


def builder_text(context: Context, product: Product) -> str:
    """The nested builder of a product, empty if it has none."""
    builder = context.plan.builder_of(product.name)
    if builder is None:
        return ""
    names = BuilderNames(context.names, product, builder)
    type_ = context.names.type(product.name)
    required, typed = list(product.required), Typed(context, product, builder)
    variable = beside(context.names.member(camel(product.name)), ("builder",))
    variable += "_" if variable == "builder" else ""
    fields = [
        {
            **_field(context, names, f),
            "like": kept(context, f, f"{variable}.{context.names.member(f.name)}"),
            "stage": typed.stage(f.name),
        }
        for f in product.fields
    ]
    asked = "".join(f'.unless("{f.name}", {context.names.member(f.name)})' for f in required)
    arguments = [
        *(context.names.member(f.name) for f in required),
        *(["options"] if product.optional else []),
    ]
    return context.templates.render(
        "builder",
        product.name,
        b={
            "type": type_,
            "a": article(product.name),
            "how": "required values in their order, and options in any"
            if typed.implements
            else "values given in any order",
            "fluent": builder.fluent,
            "resets": builder.resets,
            "variable": variable,
            "required": [_field(context, names, field) for field in required],
            "options": bool(product.optional),
            "fields": fields,
            "typed": {
                "stages": [field for field in fields if field["stage"]],
                "implements": typed.implements,
                "empty": typed.needing(),
            },
            "missing": f'new Missing("{product.name}"){asked}.refuse();' if asked else "",
            "made": f"new {type_}({', '.join(arguments)})",
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    **typed.started(preset),
                    "calls": [
                        f"{names.setter(product.field(n))}({context.code.value(v)})"
                        for n, v in preset.values.items()
                    ],
                }
                for preset in builder.presets
            ],
        },
    ).rstrip("\n")


def _field(context: Context, names: BuilderNames, field: Field) -> dict[str, object]:
    code = context.code
    name = context.names.member(field.name)
    item = beside(context.names.member(field.item or "item"), [name])  # it would hide what it is added to
    element = field.type.element if isinstance(field.type, Collection) else None
    return {
        "name": name,
        "boxed": code.boxed(field.type),
        "type": code.plain(field.type),
        "held": name if field.required else f"options.{name}",
        "kept": kept(context, field, name),
        "setter": names.setter(field),
        "doc": option_doc(field, f"Sets the {spoken(field.name)}."),
        "takes": [(name, f"the {spoken(field.name)}")],
        "item_spoken": spoken(field.item or "item"),
        "clearer": names.clearer(field) if not field.required else None,
        "unset": _unset(context, field),
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and isinstance(field.type, (ListOf, SetOf)) else None,
        "item": item,
        "item_type": code.plain(element) if element is not None else "",
        "item_kept": _item_kept(context, element, item),
        "empty": "LinkedHashSet" if isinstance(field.type, SetOf) else "ArrayList",
        "primitive": field.type in PRIMITIVES,
    }


def _unset(context: Context, field: Field) -> str:
    """What an option is that was never chosen."""
    product = context.plan.products[field.owner]
    return context.default(field) or "null" if context.settled(product, field) else "null"


def kept(context: Context, field: Field, value: str) -> str:
    """The value that a builder keeps: its own container, and copies of elements that can change."""
    if isinstance(field.type, ProductType) and context.plan.holds_mutable(field.type):
        return f"{value} == null ? null : {value}.{_copy(context, field.type)}"
    return _container(context, field.type, value, value.partition(".")[0], 0)


def _container(context: Context, type_: Type, value: str, parameter: str, depth: int) -> str:
    each = beside("each" if depth == 0 else f"each{depth + 1}", [parameter])  # a function may hide none
    match type_:
        case SetOf():
            return f"Copies.set({value})"
        case ListOf(element) | MapOf(_, element):
            kind = "map" if isinstance(type_, MapOf) else "list"
            if not isinstance(element, Collection) and not context.plan.holds_mutable(element):
                return f"Copies.{kind}({value})"
            inner = f"{each} -> {_container(context, element, each, parameter, depth + 1)}"
            if isinstance(element, ProductType):
                inner = context.code.copies.function(
                    context.names.type(element.name), _copy(context, element), each
                )
            return f"Copies.{kind}({value}, {inner})"
    return value


def _copy(context: Context, type_: ProductType) -> str:
    return context.code.copies.on_the_way_in(context.plan.products[type_.name])


def _item_kept(context: Context, element: Type | None, item: str) -> str:
    if isinstance(element, ProductType) and context.plan.holds_mutable(element):
        return f"{item} == null ? null : {item}.{_copy(context, element)}"
    if isinstance(element, Collection):
        return _container(context, element, item, item, 0)
    return item
