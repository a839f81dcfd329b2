"""Builders in Rust: setters through `&mut self`, so that statements and chains read alike."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import TEXT, ListOf, SetOf
from urform.languages.naming.names import Words, beside, spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import option_doc
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import is_copied, is_type_default
from urform.languages.rust.names import BUILDER_METHODS, KEYWORDS
from urform.languages.rust.products import otherwise
from urform.plan.model import Builder, Field, Product
from urform.prose import with_article


class BuilderNames:
    """The names of a builder's methods: generated ones come first, then adders and setters."""

    def __init__(self, product: Product, builder: Builder) -> None:
        presets = {self.preset(preset.name) for preset in builder.presets}
        adders = {self.adder(field) for field in product.fields if field.item}
        adders |= {self.clearer(field) for field in product.optional}
        self._setters = Words(KEYWORDS, BUILDER_METHODS, presets, adders)
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


def build_fails(context: Context, product: Product) -> bool:
    """Whether a build can fail."""
    return bool(product.required) or context.code.fallible(product)


def builder_text(context: Context, product: Product, builder: Builder) -> str:
    """The builder of a product."""
    names = BuilderNames(product, builder)
    type_ = context.names.type(product.name)
    fails = build_fails(context, product)
    needed = product.required
    moves = builder.resets and not context.code.fallible(product)
    return context.templates.render(
        "builder",
        product.name,
        b={
            "type": type_,
            "stem": context.names.derived(product.name, ""),
            "a": with_article(type_),
            "owner": product.name,
            "fluent": builder.fluent,
            "resets": builder.resets,
            "fails": fails,
            "struct": [
                {"name": context.names.stored(f.name), "type": f"Option<{context.code.owned(f)}>"}
                for f in product.fields
                if _is_apart(f)
            ],
            "options": context.code.options(product) if _together(product) else None,
            "fields": [_field(context, names, field, product) for field in product.fields],
            "result": f"Creation<{type_}>" if fails else type_,
            "needed": [f'("{f.name}", self.{context.names.stored(f.name)}.is_some())' for f in needed],
            "lines": list(_needed_lines(context, product)) if not moves else [],
            "call": _call(context, product),
            "moves": _moving(context, product) if moves else None,
            "can_fail": context.code.fallible(product),
            "like": [_like(context, f) for f in product.fields if _is_apart(f)],
            "like_options": _like_options(context, product),
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    "lines": [
                        f"builder.{_kept_in(context, product.field(n))} = {_preset(context, product.field(n), v)};"
                        for n, v in preset.values.items()
                    ],
                }
                for preset in builder.presets
            ],
        },
    )


def _kept_in(context: Context, field: Field) -> str:
    """Where a builder keeps a field."""
    if _is_apart(field):
        return context.names.stored(field.name)
    return f"options.{context.names.option(field.name)}"


def _preset(context: Context, field: Field, value: object) -> str:
    text = context.code.value(value, field.type, shared=context.code.shared(field))  # type: ignore[arg-type]
    return f"Some({text})" if _is_apart(field) or field.may_be_absent else text


def _is_apart(field: Field) -> bool:
    """Whether a builder has to know that a field was not given: what is added to is not the default."""
    grows = field.item is not None and isinstance(field.type, (ListOf, SetOf))
    return field.required or (grows and not is_type_default(field.default, field.type))


def _together(product: Product) -> list[Field]:
    """The fields that a builder keeps as options."""
    return [field for field in product.optional if not _is_apart(field)]


def _field(context: Context, names: BuilderNames, field: Field, product: Product) -> dict[str, object]:
    local = context.names.local(field.name)
    local = local if local != "builder" else "value"
    owned = f"{local}.to_owned()" if field.type == TEXT else local
    element = field.type.element if isinstance(field.type, (ListOf, SetOf)) else None
    item = context.names.local(field.item or "item")
    kept = f"self.{_kept_in(context, field)}"
    grown = f"{kept}.get_or_insert_with(Default::default)" if _is_apart(field) else kept
    shared = context.code.shared(field)
    return {
        "setter": names.setter(field),
        "parameter": f"{local}: {context.code.parameter(field.type, shared=shared)}",
        "kept": f"{kept} = {f'Some({owned})' if _is_apart(field) or field.may_be_absent else owned};",
        "doc": plain(option_doc(field, f"Sets the {spoken(field.name)}.")),
        "clearer": names.clearer(field) if not field.required else None,
        "held": _kept_in(context, field),
        "unset": "None"
        if _is_apart(field)
        else f"{context.code.options(product)}::default().{context.names.option(field.name)}",
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and element is not None else None,
        "item": f"{item}: {context.code.parameter(element, shared=shared)}" if element is not None else "",
        "item_spoken": spoken(field.item or ""),
        "added": f"{grown}.{'push' if isinstance(field.type, ListOf) else 'insert'}"
        f"({f'{item}.to_owned()' if element == TEXT else item});",
    }


def _needed_lines(context: Context, product: Product) -> Iterator[str]:
    for field in product.required:
        stored, local = context.names.stored(field.name), context.names.local(field.name)
        reference = "" if is_copied(field.type) else "&"
        yield f"let Some({local}) = {reference}self.{stored} else {{"
        yield "    return Err(self.missing());"
        yield "};"


def _call(context: Context, product: Product) -> str:
    arguments = []
    for field in product.required:
        local = context.names.local(field.name)
        arguments.append(local if is_copied(field.type) or field.type == TEXT else f"{local}.clone()")
    if product.optional:
        apart = [
            f"{context.names.option(f.name)}: {otherwise(context, f, f'self.{context.names.stored(f.name)}.clone()')}"
            for f in product.optional
            if _is_apart(f)
        ]
        rest = ", ..self.options.clone()" if _together(product) else ""
        options = context.code.options(product)
        arguments.append(f"{options} {{ {', '.join(apart)}{rest} }}" if apart else "self.options.clone()")
    return f"{context.names.type(product.name)}::new({', '.join(arguments)})"


def _moving(context: Context, product: Product) -> dict[str, object]:
    """How a builder is emptied into a product that nothing can refuse: the pattern of one that is full, and the call."""
    apart = [field for field in product.optional if _is_apart(field)]
    local = {field.name: context.names.local(field.name) for field in (*product.required, *apart)}
    stored = {name: context.names.stored(name) for name in local}
    pattern = [f"{stored[f.name]}: Some({local[f.name]})" for f in product.required]
    pattern += [_bound(stored[f.name], local[f.name]) for f in apart]
    arguments = [f"&{local[f.name]}" if f.type == TEXT else local[f.name] for f in product.required]
    if product.optional:
        rest = beside("options", local.values())
        given = [f"{context.names.option(f.name)}: {otherwise(context, f, local[f.name])}" for f in apart]
        if _together(product):
            pattern.append(_bound("options", rest))
            given.append(f"..{rest}")
        arguments.append(f"{context.code.options(product)} {{ {', '.join(given)} }}" if apart else rest)
    return {
        "parts": pattern,
        "pattern": ", ".join(pattern),
        "call": f"{context.names.type(product.name)}::new({', '.join(arguments)})",
    }


def _bound(field: str, name: str) -> str:
    """A field of a pattern, which is short where its name is that of the variable."""
    return name if field == name else f"{field}: {name}"


def _like_options(context: Context, product: Product) -> list[str]:
    pairs = [_like(context, f) for f in _together(product)]
    rest = [] if len(pairs) == len(product.optional) else [f"..{context.code.options(product)}::default()"]
    return pairs + rest


def _like(context: Context, field: Field) -> str:
    stored = f"like.{context.names.stored(field.name)}"
    copied = context.code.copied(field.type, stored)
    if context.code.boxed(field):
        copied = f"{stored}.as_deref().cloned()" if field.may_be_absent else f"{stored}.as_ref().clone()"
    if _is_apart(field):
        return f"{context.names.stored(field.name)}: Some({copied})"
    return f"{context.names.option(field.name)}: {copied}"
