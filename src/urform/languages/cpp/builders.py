"""Builders in C++: setters of a class that may be called in any order, in chains or one by one."""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping
from typing import Any

from urform.declaration.types import ListOf, SetOf
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import moved
from urform.languages.cpp.members import checks, is_pointer, whole
from urform.languages.cpp.names import KEYWORDS, MACROS, USED_METHODS
from urform.languages.naming.names import Words, beside, pascal, spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import option_doc
from urform.plan.model import Builder, Field, Product
from urform.prose import with_article

View = dict[str, object]


class BuilderNames:
    """The names of a builder's members: generated ones come first, then adders and setters."""

    def __init__(self, product: Product, builder: Builder) -> None:
        presets = {self.preset(preset.name) for preset in builder.presets}
        adders = {self.adder(field) for field in product.fields if field.item}
        adders |= {self.clearer(field) for field in product.optional}
        self._setters = Words(KEYWORDS, MACROS, USED_METHODS, presets, adders)
        self._prefix = "" if builder.fluent else "set_"

    def setter(self, field: Field) -> str:
        """`crew`, `set_crew` where setters are statements."""
        return self._setters.escape(f"{self._prefix}{field.name}")

    def adder(self, field: Field) -> str:
        """`add_leg`."""
        return f"add_{field.item or ''}"

    def clearer(self, field: Field) -> str:
        """`clear_crew`."""
        return f"clear_{field.name}"

    def clearing(self, field: Field) -> str:
        return f".{self.clearer(field)}()"

    def preset(self, name: str) -> str:
        """`from_spring_refit`."""
        return f"from_{name}"


def typed_view(context: Context, product: Product, builder: Builder) -> View:
    """The view of a builder whose type tells what it was given: a parameter for each field that a build asks for."""
    names = BuilderNames(product, builder)
    asked = [field for field in product.required if field.name not in builder.overlooked]
    told = {f.name: beside(f"Has{pascal(f.name)}", context.plan.type_names) for f in asked}
    name = context.names.derived(product.name, "Builder")

    def having(values: Mapping[str, str]) -> str:
        return f"{name}<{', '.join(values.values())}>"

    def started(given: Container[str]) -> str:
        return having({field: "true" if field in given else "false" for field in told})

    calls = [
        {**call, "type": having({**told, field.name: "true"}) if field.name in told else name}
        for field in product.fields
        for call in _calls(_field(context, names, field, product), field)
    ]
    return {
        "a": with_article(context.names.type(product.name)),
        "type": context.names.type(product.name),
        "name": name,
        "parts": context.names.derived(product.name, "Parts"),
        "declared": ", ".join(f"bool {each} = false" for each in told.values()) or "typename = void",
        "others": ", ".join("bool" for _ in told) or "typename",
        "nothing": " && ".join(f"!{each}" for each in told.values()) or "true",
        "everything": " && ".join(told.values()) or "true",
        "like": started(told),
        "presets": [
            {"name": names.preset(each.name), "preset": each.name, "type": started(each.values)}
            for each in builder.presets
        ],
        "calls": calls,
        "resets": builder.resets,
    }


def has_field(context: Context, field: str) -> str:
    """The parameter that says whether a field was given, as a compiler tells of one that was not."""
    return f"{beside(f'Has{pascal(field)}', context.plan.type_names)} = false"


def _calls(view: Mapping[str, Any], field: Field) -> Iterator[View]:
    """The setter, clearer and adder of a field, which hand on what they take."""
    taken = view["parameter"].rpartition(" ")[2]
    yield {
        "name": view["setter"],
        "parameter": view["parameter"],
        "handed": moved(field, taken),
        "doc": view["doc"],
    }
    if view["clearer"]:
        doc = f"Takes the {view['spoken']} back, as if it had never been set."
        yield {"name": view["clearer"], "parameter": "", "handed": "", "doc": doc}
    if view["adder"]:
        item = view["item"].rpartition(" ")[2]
        doc = f"Adds one {view['item_spoken']}."
        yield {"name": view["adder"], "parameter": view["item"], "handed": f"std::move({item})", "doc": doc}


def builder_view(context: Context, product: Product, builder: Builder) -> View:
    """The view of a builder that its templates show."""
    names = BuilderNames(product, builder)
    type_ = context.names.type(product.name)
    moves = builder.resets and not _can_refuse(context, product)
    name = context.names.derived(product.name, "Parts" if builder.typed else "Builder")
    fluent = builder.fluent and not builder.typed
    return {
        "type": type_,
        "stem": name,
        "typed": builder.typed,
        "export": context.export,
        "a": with_article(type_),
        "owner": product.name,
        "fluent": fluent,
        "resets": builder.resets,
        "returns": f"{name} &" if fluent else "void ",
        "fields": [_field(context, names, field, product) for field in product.fields],
        "needed": [{"name": f.name, "stored": context.names.stored(f.name)} for f in product.required],
        "given": [_given(context, f, moves=moves) for f in product.optional],
        "options": context.code.options(product) if product.optional else None,
        "arguments": ", ".join(
            [
                *(_handed_on(f, f"*{context.names.stored(f.name)}", moves=moves) for f in product.required),
                *(["std::move(options)"] if product.optional else []),
            ]
        ),
        "like": list(_like(context, product)),
        "presets": [
            {
                "name": names.preset(preset.name),
                "preset": preset.name,
                "lines": [
                    f"builder.{context.names.stored(n)} = "
                    f"{context.code.value(v, product.field(n).type, shared=context.code.shared(product.field(n)))};"
                    for n, v in preset.values.items()
                ],
            }
            for preset in builder.presets
        ],
    }


def _field(context: Context, names: BuilderNames, field: Field, product: Product) -> View:
    local = context.names.local(field.name)
    element = field.type.element if isinstance(field.type, (ListOf, SetOf)) else None
    item = context.names.local(field.item or "item")
    stored = context.names.stored(field.name)
    shared = context.code.shared(field)
    added = f"detail::whole(std::move({item}))" if context.code.owns(field) else f"std::move({item})"
    item_taken = context.code.type(element, shared=shared) if element is not None else ""
    return {
        "name": field.name,
        "taken": context.code.owned(field),
        "item_taken": item_taken,
        "stored": stored,
        "held": f"std::optional<{context.code.owned(field)}>",
        "setter": names.setter(field),
        "parameter": f"{context.code.owned(field)} {local}",
        "kept": f"{stored} = {whole(context, field, local)};",
        "doc": plain(option_doc(field, f"Sets the {spoken(field.name)}.")),
        "clearer": names.clearer(field) if not field.required else None,
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and element is not None else None,
        "item": f"{item_taken} {item}" if element is not None else "",
        "item_spoken": spoken(field.item or ""),
        "added": f"{stored}->{'push_back' if isinstance(field.type, ListOf) else 'insert'}({added});",
    }


def _can_refuse(context: Context, product: Product) -> bool:
    """Whether the constructor may throw; a builder then keeps what it holds, and hands on copies."""
    return any(True for field in product.fields for _ in checks(context, field, "value"))


def _handed_on(field: Field, value: str, *, moves: bool) -> str:
    return moved(field, value) if moves else value


def _given(context: Context, field: Field, *, moves: bool) -> str:
    """A statement that hands an optional field on, if it was given."""
    stored, option = context.names.stored(field.name), context.names.option(field.name)
    if field.may_be_absent:
        return f"options.{option} = {_handed_on(field, stored, moves=moves)};"
    value = _handed_on(field, f"*{stored}", moves=moves)
    return f"if ({stored}) {{\n        options.{option} = {value};\n    }}"


def _like(context: Context, product: Product) -> Iterator[str]:
    """The statements that start a builder from a product."""
    for field in product.fields:
        accessor = f"like.{context.method(product, field.name)}()"
        stored = f"builder.{context.names.stored(field.name)}"
        if context.code.boxed(field):
            yield f"if ({accessor}) {{\n        {stored} = **{accessor};\n    }}"
        elif is_pointer(context, field):
            yield f"{stored} = {accessor}.clone();"
        else:
            yield f"{stored} = {accessor};"
