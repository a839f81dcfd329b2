"""Products as Rust structs; abstract ones as enums where they are closed, as traits where they are open."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import BOOLEAN, TEXT, ProductType
from urform.languages.naming.names import spoken, with_article
from urform.languages.rendering.comments import plain
from urform.languages.rust.copies import duplicates
from urform.languages.rust.expressions import empty, is_copied, is_type_default
from urform.languages.rust.members import (
    Place,
    changes_inside,
    checks,
    handed_out,
    inner_out,
    inner_type,
    mentions,
    out_type,
    pair,
    said,
    setter_lines,
    setter_parameter,
    stored_value,
)
from urform.languages.rust.operations import operation_views
from urform.plan.model import Field, Product

if TYPE_CHECKING:
    from urform.languages.rust.emitter import Emitter

View = dict[str, object]
MOST_PARAMETERS = 7  # clippy's too-many-arguments-threshold
LARGE_DIFFERENCE = 200  # bytes between variants of an enum: clippy's enum-variant-size-threshold


def abstract_text(emitter: Emitter, product: Product) -> str:
    """An enum of the variants or a trait, with the struct and the options of what they have in common."""
    type_ = emitter.names.type(product.name)
    view = {
        "type": type_,
        "stem": emitter.names.derived(product.name, ""),
        "a": with_article(type_),
        "doc": product.doc,
        "otherwise": " or ".join(f"[`{emitter.names.type(v)}`]" for v in product.variants) + ".",
        "pub": "pub " if emitter.code.is_open(product) else "",
        "open": emitter.code.is_open(product),
        "mutable": product.mutable and bool(product.fields),
        "has_fields": bool(product.fields),
        "variants": [
            {"type": emitter.names.type(v), "key": emitter.plan.products[v].key} for v in product.variants
        ],
        "large": _is_large(emitter, product),
        "options": _options(emitter, product),
        "struct": [_stored(emitter, f) for f in product.fields],
        "equality": list(_equality(emitter, product.fields)),
        "parameters": emitter.parameters(product),
        "many": _is_many(product, emitter),
        "body": list(_fields_body(emitter, product)),
        "result": "Creation<Self>" if emitter.fields_fail(product) else "Self",
        "accessors": [_accessor(emitter, f, product) for f in product.fields],
        "operations": list(operation_views(emitter, product, product.operations)),
        "duplicates": product.name in emitter.plan.cloned and emitter.plan.restarts(product),
    }
    return emitter.templates.render("abstract", product.name, p=view)


def product_text(emitter: Emitter, product: Product) -> str:
    """A concrete product: struct, options, constructor, accessors, operations."""
    names, code = emitter.names, emitter.code
    type_ = names.type(product.name)
    base = emitter.plan.products[product.base] if product.base else None
    fails = code.fallible(product)
    hidden = code.hidden(product)
    is_open = base is not None and code.is_open(base)
    shown = base.fields if base is not None and not is_open else ()
    of_trait = tuple(o for o in product.operations if is_open and o.owner != product.name)
    inherent = tuple(o for o in product.operations if o not in of_trait)
    view = {
        "type": type_,
        "a": with_article(type_),
        "doc": product.doc,
        "otherwise": f"A kind of [`{names.type(base.name)}`]."
        if base is not None
        else "Made of what is given.",
        "base": names.type(base.name) if base is not None else None,
        "open": is_open,
        "key": product.key,
        "hidden": hidden,
        "pub": "pub(crate) " if hidden else "pub ",
        "mutable": product.mutable,
        "base_fields": names.derived(base.name, "Fields") if base is not None and base.fields else None,
        "struct": [_stored(emitter, f) for f in product.own_fields],
        "derives": "Debug, Clone, PartialEq" if not _needs_equality(emitter, product) else "Debug, Clone",
        "fieldless": not product.fields,
        "equality": list(_equality(emitter, product.own_fields)) if _needs_equality(emitter, product) else [],
        "options": None if hidden else _options(emitter, product),
        "parameters": emitter.parameters(product),
        "many": _is_many(product, emitter),
        "result": "Creation<Self>" if fails else "Self",
        "fails": fails,
        "body": list(_body(emitter, product, fails)),
        "accessors": [_accessor(emitter, f, product) for f in product.own_fields],
        "inherited": [_accessor(emitter, f, product) for f in shown],
        "operations": list(operation_views(emitter, product, inherent)),
        "of_trait": list(operation_views(emitter, product, of_trait)),
        "duplicate": list(duplicates(emitter, product)),
    }
    return emitter.templates.render("product", product.name, p=view)


def _stored(emitter: Emitter, field: Field) -> View:
    return {"name": emitter.names.stored(field.name), "type": emitter.code.stored(field)}


# --- size and equality ----------------------------------------------------------------------------------------


def _is_large(emitter: Emitter, product: Product) -> bool:
    """Whether the variants of an enum differ so much in size that clippy would have the large one boxed."""
    sizes = sorted(emitter.code.sizes.of(emitter.plan.products[name]) for name in product.variants)
    return len(sizes) > 1 and sizes[-1] - sizes[-2] > LARGE_DIFFERENCE // 2


def _is_many(product: Product, emitter: Emitter) -> bool:
    return emitter.parameter_count(product) > MOST_PARAMETERS


def _needs_equality(emitter: Emitter, product: Product) -> bool:
    """Whether equality has to be written out: `derive` compares no pointer to a trait that stands by itself."""
    return any(_is_pointer(emitter, field) for field in product.own_fields)


def _is_pointer(emitter: Emitter, field: Field) -> bool:
    inner = emitter.plan.products.get(str(field.type))
    return inner is not None and emitter.code.is_open(inner) and not field.may_be_absent


def _equality(emitter: Emitter, fields: tuple[Field, ...]) -> Iterator[str]:
    """What has to hold for two structs to be equal; nothing where it can be derived."""
    if not any(_is_pointer(emitter, field) for field in fields):
        return
    for field in fields:
        stored, star = emitter.names.stored(field.name), "*" if _is_pointer(emitter, field) else ""
        yield f"{star}self.{stored} == {star}other.{stored}"


# --- options --------------------------------------------------------------------------------------------------


def _options(emitter: Emitter, product: Product) -> View | None:
    """The struct of what need not be given, and what it is when it is not."""
    fields = product.optional
    selection = emitter.plan.selection_of(product.name)
    if selection is not None:
        fields = selection.optional
    if not fields:
        return None
    code = emitter.code
    base = emitter.plan.products[product.base] if product.base is not None else None
    plainly = [f for f in fields if code.plain_option(product, f)]
    derived = all(is_type_default(f.default, f.type) for f in plainly)
    return {
        "type": code.options(product),
        "of": emitter.names.type(product.name),
        "fields": [
            {
                "name": emitter.names.option(f.name),
                "type": code.option_type(product, f),
                "doc": _note(emitter, product, f),
            }
            for f in fields
        ],
        "derived": derived,
        "defaults": [f"{emitter.names.option(f.name)}: {_default(emitter, product, f)}" for f in fields],
        "from": code.options(base) if base is not None and base.optional else None,
        "taken": [_taken_over(emitter, product, f) for f in fields],
        "rest": [] if base is None else [f for f in fields if f.owner == product.name],
    }


def _note(emitter: Emitter, product: Product, field: Field) -> str:
    if field.doc:
        return plain(field.doc)
    return f"{'Whether it is' if field.type == BOOLEAN else 'The'} {spoken(field.name)}."


def _default(emitter: Emitter, product: Product, field: Field) -> str:
    if not emitter.code.plain_option(product, field):
        return "None"
    return _declared_default(emitter, field)


def _declared_default(emitter: Emitter, field: Field) -> str:
    if field.default is None:
        return empty(field.type)
    return emitter.code.value(field.default, field.type, shared=emitter.code.shared(field))


def _taken_over(emitter: Emitter, product: Product, field: Field) -> str:
    """A field of a kind's options made from the options that all kinds have."""
    name = emitter.names.option(field.name)
    if field.owner == product.name:
        return ""
    if not emitter.code.plain_option(product, field):
        return f"{name}: options.{name}"
    return f"{name}: {otherwise(emitter, field, f'options.{name}')}"


def otherwise(emitter: Emitter, field: Field, option: str) -> str:
    """What an option holds, or the declared default."""
    if is_type_default(field.default, field.type):
        return f"{option}.unwrap_or_default()"
    text = _declared_default(emitter, field)
    if is_copied(field.type):
        return f"{option}.unwrap_or({text})"
    function = text.removesuffix("()")  # what takes nothing needs no closure around it
    alone = function != text and function.replace("::", "").isidentifier()
    return f"{option}.unwrap_or_else({function if alone else f'|| {text}'})"


# --- constructors ---------------------------------------------------------------------------------------------


def _fields_body(emitter: Emitter, product: Product) -> Iterator[str]:
    """The constructor of what all kinds have in common: options are resolved, then checked, then kept."""
    given: dict[str, str] = {}
    for field in product.fields:
        option = emitter.option(product, field)
        if field.required:
            given[field.name] = emitter.names.local(field.name)
        elif field.may_be_absent:
            given[field.name] = option
        elif emitter.code.field_fails(field) or option == emitter.names.local(field.name):
            local = emitter.names.local(field.name)
            yield f"let {local} = {otherwise(emitter, field, option)};"
            given[field.name] = local
        else:
            given[field.name] = otherwise(emitter, field, option)
    yield from _checked(emitter, product.fields, given)
    pairs = [_kept(emitter, f, given[f.name]) for f in product.fields]
    text = f"Self {{ {', '.join(pairs)} }}"
    yield f"Ok({text})" if emitter.fields_fail(product) else text


def _body(emitter: Emitter, product: Product, fails: bool) -> Iterator[str]:
    """The constructor of a concrete product: the base's part first."""
    base = emitter.plan.products[product.base] if product.base else None
    pairs: list[str] = []
    given: dict[str, str] = {}
    if base is not None and base.fields:
        end = "?" if emitter.fields_fail(base) else ""
        fields = emitter.names.derived(base.name, "Fields")
        yield f"let fields = {fields}::new({_passed_on(emitter, base, product)}){end};"
        pairs.append("fields")
    for field in product.own_fields:
        option = emitter.option(product, field)
        local = emitter.names.local(field.name)
        given[field.name] = local if field.required else option
        if emitter.code.hidden(product) and not field.required and not field.may_be_absent:
            yield f"let {local} = {otherwise(emitter, field, option)};"
        elif field.may_be_absent and field.default is not None:
            given[field.name] = with_default(emitter, field, option)
    yield from _checked(emitter, product.own_fields, given)
    if not product.fields:
        yield "Self(())" if emitter.code.hidden(product) else "Self"
        return
    pairs += [_kept(emitter, f, given[f.name]) for f in product.own_fields]
    text = f"Self {{ {', '.join(pairs)} }}"
    yield f"Ok({text})" if fails else text


def with_default(emitter: Emitter, field: Field, option: str) -> str:
    """An option that may be absent, with the default that a kind of its own gives it."""
    text = _declared_default(emitter, field)
    return f"{option}.or(Some({text}))" if is_copied(field.type) else f"{option}.or_else(|| Some({text}))"


def _passed_on(emitter: Emitter, base: Product, product: Product) -> str:
    """What the constructor of the base's part is given by that of a kind."""
    code = emitter.code
    arguments = [emitter.names.local(f.name) for f in base.required]
    if not base.optional:
        return ", ".join(arguments)
    pairs = []
    for declared in base.optional:
        field = product.field(declared.name)
        option = emitter.option(product, field)
        if code.hidden(product):
            text = otherwise(emitter, field, option) if not field.may_be_absent else option
            text = with_default(emitter, field, option) if _has_own(field) else text
            arguments.append(f"Some({text})" if not field.may_be_absent else text)
            continue
        text = with_default(emitter, field, option) if _has_own(field) else option
        pairs.append(
            f"{emitter.names.option(field.name)}: {f'Some({text})' if not field.may_be_absent else text}"
        )
    if pairs:
        arguments.append(f"{code.options(base)} {{ {', '.join(pairs)} }}")
    return ", ".join(arguments)


def _has_own(field: Field) -> bool:
    return field.may_be_absent and field.default is not None


def _checked(emitter: Emitter, fields: tuple[Field, ...], given: dict[str, str]) -> Iterator[str]:
    for field in fields:
        text = given[field.name]
        optional = field.may_be_absent
        owned = not (field.type == TEXT and field.required)
        if optional and "|" in text:  # a default, which has passed its limits
            continue
        yield from checks(emitter, field, Place(text, owned, owned), optional=optional)


def _kept(emitter: Emitter, field: Field, text: str) -> str:
    """A field of the struct with its value."""
    return pair(emitter.names.stored(field.name), stored_value(emitter, field, text, given=field.required))


# --- accessors ------------------------------------------------------------------------------------------------


def _accessor(emitter: Emitter, field: Field, product: Product) -> View:
    """The accessor of a field, and its setter where the product is mutable; with what forwards to them."""
    names = emitter.names
    stored = f"self.{names.stored(field.name)}"
    fails = emitter.code.field_fails(field)
    name, local = emitter.method(product, field.name), names.local(field.name)
    lines = list(setter_lines(emitter, field)) if product.mutable else []
    return {
        "name": name,
        "doc": said(field),
        "type": out_type(emitter, field),
        "out": handed_out(emitter, field, stored),
        "mutable": product.mutable,
        "local": local,
        "parameter": setter_parameter(emitter, field),
        "result": " -> Creation<()>" if fails else "",
        "lines": lines,
        "changes": f"Changes the {spoken(field.name)}.",
        "setter": f"set_{field.name}",
        "inside": inner_type(emitter, field) if product.mutable and changes_inside(emitter, field) else None,
        "inside_out": inner_out(emitter, field, stored)
        if product.mutable and changes_inside(emitter, field)
        else "",
        "inside_boxed": _boxed(emitter, field, product),
        "inside_name": f"{field.name}_mut",
        "inside_doc": f"The {spoken(field.name)}, to be changed where {_they(field)}.",
    }


def _boxed(emitter: Emitter, field: Field, product: Product) -> str:
    """What a trait hands out instead of an `impl Iterator`, which no pointer to it could have."""
    is_inside = product.mutable and changes_inside(emitter, field)
    if not is_inside or not emitter.code.is_open(product) or isinstance(field.type, ProductType):
        return ""
    return f"Box<dyn {inner_type(emitter, field).removeprefix('impl ')} + '_>"


def _they(field: Field) -> str:
    return "it is" if isinstance(field.type, ProductType) else "they are"


__all__ = ["abstract_text", "mentions", "otherwise", "product_text"]
