"""Builders in Go: a struct of what is required, and of the options."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import ChoiceType, Collection, ListOf, MapOf, ProductType, SetOf, Type
from urform.declaration.values import Items, Value
from urform.languages.go.context import Context
from urform.languages.go.copies import copy_function
from urform.languages.go.names import USED_METHODS
from urform.languages.layout.columns import TAB
from urform.languages.naming.names import Words, pascal, spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import option_doc
from urform.plan.model import Builder, Field, Product
from urform.prose import with_article

TAKEN = USED_METHODS | {"Build"}


class BuilderNames:
    """The names of a builder's methods: generated ones come first, then adders and setters."""

    def __init__(self, product: Product, builder: Builder) -> None:
        self._prefix = "" if builder.fluent else "Set"
        adders = {self.adder(field) for field in product.fields if field.item}
        self._setters = Words(TAKEN, adders, {self.clearer(field) for field in product.optional})
        self._presets = Words({"Like"})

    def setter(self, field: Field) -> str:
        return self._setters.escape(f"{self._prefix}{pascal(field.name)}")

    def adder(self, field: Field) -> str:
        return f"Add{pascal(field.item or '')}"

    def clearer(self, field: Field) -> str:
        return f"Clear{pascal(field.name)}"

    def clearing(self, field: Field) -> str:
        return f".{self.clearer(field)}()"

    def preset(self, name: str) -> str:
        return self._presets.escape(pascal(name))


def builder_text(context: Context, product: Product, builder: Builder) -> str:
    """The builder of a product."""
    names = BuilderNames(product, builder)
    type_ = context.names.type(product.name)
    fails = build_fails(context, product)
    struct = [f"{_kept_in(context, f)}{TAB}{_kept_type(context, f)}" for f in product.required]
    struct += [f"opts{TAB}{type_}Options"] if product.optional else []
    return context.templates.render(
        "builder",
        product.name,
        b={
            "type": type_,
            "a": with_article(type_),
            "fluent": builder.fluent,
            "resets": builder.resets,
            "fails": fails,
            "struct": struct,
            "fields": [_field(context, names, product, builder, field) for field in product.fields],
            "result": f"(*{type_}, error)" if fails else f"*{type_}",
            "build": list(_build(context, product, builder, fails)),
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    "calls": [
                        f"{names.setter(product.field(n))}({preset_value(context, product.field(n), v)})"
                        for n, v in preset.values.items()
                    ],
                }
                for preset in builder.presets
            ],
        },
    )


def build_fails(context: Context, product: Product) -> bool:
    """Whether a build can fail."""
    return bool(product.required) or context.code.fallible(product)


def _kept_in(context: Context, field: Field) -> str:
    """Where a builder keeps a field."""
    if not field.required:
        return f"opts.{pascal(field.name)}"
    return Words({"opts"}).escape(context.names.stored(field.name))


def _is_pointer(field: Field) -> bool:
    """Whether a required field is kept as a pointer, so that it can be told from one that was not set."""
    return not isinstance(field.type, (*Collection, ProductType))


def _kept_type(context: Context, field: Field) -> str:
    type_ = context.code.type(field.type)
    return f"*{type_}" if _is_pointer(field) else type_


def _field(
    context: Context, names: BuilderNames, product: Product, builder: Builder, field: Field
) -> dict[str, object]:
    code = context.code
    local = context.names.local(field.name)
    local = local if local != "b" else "b_"
    type_ = code.type(field.type)
    variadic = isinstance(field.type, (ListOf, SetOf))
    parameter = f"{local} ...{type_.removeprefix('[]')}" if variadic else f"{local} {type_}"
    element = field.type.element if isinstance(field.type, (ListOf, SetOf)) else None
    setter = names.setter(field)
    calls = f"{context.names.type(product.name)}Builder.{setter}({parameter.partition(' ')[2]})"
    calls += " Builder" if builder.fluent else ""
    said = f"{setter} sets the {spoken(field.name)}. {plain(option_doc(field))}".rstrip()
    item = context.names.local(field.item or "item")
    return {
        "held": _kept_in(context, field),
        "setter": setter,
        "name": field.name,
        "parameter": parameter,
        "calls": calls,
        "kept": _kept(context, field, local),
        "doc": said,
        "clearer": names.clearer(field) if not field.required else None,
        "unset": '""' if isinstance(field.type, ChoiceType) else "nil",
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and element is not None else None,
        "item": item if item != "b" else "b_",
        "item_type": code.type(element) if element is not None else "",
        "item_spoken": spoken(field.item or ""),
        "item_kept": _kept_value(context, element, item if item != "b" else "b_")
        if element is not None
        else "",
        "like": list(_like(context, field)),
    }


def _kept(context: Context, field: Field, value: str) -> str:
    """The value that a builder keeps: its own container, and copies of elements that can change."""
    if _is_pointer(field):
        return f"&{value}" if field.required or context.code.is_pointer(field) else value
    return _kept_value(context, field.type, value)


def _kept_value(context: Context, type_: Type, value: str) -> str:
    mutable = context.plan.holds_mutable(type_)
    match type_:
        case ListOf(element) if mutable and isinstance(element, ProductType):
            return f"keptAll({value}, {_copier(context, element)})"
        case MapOf(_, element) if mutable and isinstance(element, ProductType):
            return f"keptValues({value}, {_copier(context, element)})"
        case ListOf(element) | MapOf(_, element) if mutable or isinstance(element, Collection):
            inner = context.code.type(element)
            function = "mappedValues" if isinstance(type_, MapOf) else "mapped"
            each = f"func(inner {inner}) {inner} {{ return {_kept_value(context, element, 'inner')} }}"
            return f"{function}({value}, {each})"
        case ListOf() | SetOf():
            return f"owned({value})"
        case MapOf():
            return f"ownedMap({value})"
        case ProductType() if mutable:
            return f"kept({value}, {_copier(context, type_)})"
    return value


def _copier(context: Context, product: ProductType) -> str:
    return copy_function(context, product, context.code.copied(product.name))


def _like(context: Context, field: Field) -> Iterator[str]:
    """The statements that start a builder from a product."""
    stored = f"like.{context.names.stored(field.name)}"
    assigned = f"b.{_kept_in(context, field)}"
    if isinstance(field.type, (*Collection, ProductType)):
        yield f"{assigned} = {_kept_value(context, field.type, stored)}"
    elif field.required or (context.code.is_pointer(field) and not field.may_be_absent):
        yield f"{assigned} = Some({stored})"
    else:
        yield f"{assigned} = {stored}"


def _build(context: Context, product: Product, builder: Builder, fails: bool) -> Iterator[str]:
    needed = list(product.required)
    if len(needed) == 1:
        yield f"if b.{_kept_in(context, needed[0])} == nil {{"
        yield f'\treturn nil, &MissingError{{Owner: "{product.name}", Fields: []string{{"{needed[0].name}"}}}}'
        yield "}"
    elif needed:
        given = ", ".join(f'given{{"{f.name}", b.{_kept_in(context, f)} != nil}}' for f in needed)
        yield f'if err := missing("{product.name}", {given}); err != nil {{'
        yield from ("\treturn nil, err", "}")
    given_values = [f"{'*' if _is_pointer(f) else ''}b.{_kept_in(context, f)}" for f in needed]
    arguments = ", ".join([*given_values, *(["b.opts"] if product.optional else [])])
    call = f"{context.constructor(product)}({arguments})"
    can_fail = context.code.fallible(product)
    if not builder.resets:
        yield f"return {call}{', nil' if fails and not can_fail else ''}"
        return
    if can_fail:
        yield f"made, err := {call}"
        yield from ("if err != nil {", "\treturn nil, err", "}")
    else:
        yield f"made := {call}"
    yield f"*b = {context.names.type(product.name)}Builder{{}}"
    yield f"return made{', nil' if fails else ''}"


def preset_value(context: Context, field: Field, value: Value) -> str:
    """A preset's value as a setter takes it: the elements of a list or set one by one."""
    if isinstance(value, Items) and isinstance(field.type, (ListOf, SetOf)):
        return ", ".join(context.code.value(item) for item in value.items)
    return context.code.value(value)
