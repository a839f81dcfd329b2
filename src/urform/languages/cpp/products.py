"""Products as C++ classes: values, or, where they have variants, an abstract class over final ones."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import BOOLEAN, Collection
from urform.languages.cpp.copies import again_view, duplicates
from urform.languages.cpp.expressions import is_copied
from urform.languages.cpp.members import (
    checks,
    handed_out,
    inner_lines,
    inner_type,
    kept,
    moved,
    out_type,
    said,
    setter_lines,
)
from urform.languages.cpp.operations import operation_views
from urform.languages.naming.names import spoken, with_article
from urform.languages.rendering.comments import plain
from urform.plan.model import Field, Product

if TYPE_CHECKING:
    from urform.languages.cpp.emitter import Emitter

View = dict[str, object]


def product_view(emitter: Emitter, product: Product) -> View:
    """What the templates of header and source ask of a product."""
    names, code, plan = emitter.names, emitter.code, emitter.plan
    type_ = names.type(product.name)
    base = plan.products[product.base] if product.base is not None else None
    hidden = code.hidden(product)
    typed = emitter.typed_parameters(product)
    own = product.own_fields
    return {
        "type": type_,
        "stem": names.derived(product.name, ""),
        "declared": product.name,
        "a": with_article(type_),
        "doc": product.doc or _otherwise(emitter, product),
        "abstract": product.abstract,
        "base": names.type(base.name) if base is not None else None,
        "key": product.key,
        "options": None if hidden and not product.abstract else _options(emitter, product),
        "hidden": hidden,
        "friends": emitter.friends(product),
        "explicit": "explicit " if typed and len([t for t in typed if t[0] != "options"]) < 2 else "",
        "declared_parameters": emitter.parameters(product, defaults=True),
        "parameters": emitter.parameters(product),
        "fails": any(code.field_fails(field) for field in product.fields),
        "initial": list(_initial(emitter, product)),
        "checks": [line for f in own for line in checks(emitter, f, names.stored(f.name))],
        "members": [_member(emitter, field, product) for field in own],
        "operations": list(operation_views(emitter, product)),
        "compared": [
            f"{names.stored(f.name)} == {'that' if base is not None else 'other'}.{names.stored(f.name)}"
            for f in own
        ],
        "mutable": product.mutable,
        "fieldless": not product.fields,
        "duplicates": duplicates(emitter, product),
        "again": again_view(emitter, product),
        "shown": _shown(emitter, product),
        "made": code.made(product),
    }


def _otherwise(emitter: Emitter, product: Product) -> str:
    if product.abstract:
        return f"One of {', '.join(emitter.names.type(v) for v in product.variants)}."
    if product.base is not None:
        return f"A kind of {emitter.names.type(product.base)}."
    return "Made of what is given."


def _shown(emitter: Emitter, product: Product) -> list[str]:
    """What is printed of a product, after its name: pairs of names and members."""
    found = []
    for field in product.fields:
        stored = emitter.names.stored(field.name)
        accessor = emitter.method(product, field.name)
        inherited = f"{'this->' if accessor == 'out' else ''}{accessor}()"  # the stream is called so
        shown = (
            f"made.{stored}" if product.base is None else stored if field.owner == product.name else inherited
        )
        found.append(f'"{field.name}: ", {shown}')
    return found


# --- options --------------------------------------------------------------------------------------------------


def _options(emitter: Emitter, product: Product) -> View | None:
    """The struct of what need not be given, and what it is when it is not."""
    code = emitter.code
    selection = emitter.plan.selection_of(product.name)
    fields = selection.optional if selection is not None else product.optional
    if not fields:
        return None
    base = emitter.plan.products[product.base] if product.base is not None else None
    return {
        "type": code.options(product),
        "of": emitter.names.type(product.name),
        "fields": [
            {
                "name": emitter.names.option(f.name),
                "type": code.option_type(product, f),
                "doc": plain(f.doc) or f"{'Whether it is' if f.type == BOOLEAN else 'The'} {spoken(f.name)}.",
                "default": declared_default(emitter, f) if code.plain_option(product, f) else "{}",
            }
            for f in fields
        ],
        "from": code.options(base) if base is not None and base.optional else None,
        "taken": [_taken_over(emitter, product, f) for f in fields if f.owner != product.name],
    }


def declared_default(emitter: Emitter, field: Field) -> str:
    """What a field is that was not given."""
    if field.default is None:
        return "{}"
    return emitter.code.value(field.default, field.type, shared=emitter.code.shared(field))


def _taken_over(emitter: Emitter, product: Product, field: Field) -> str:
    """A statement that takes an option that all kinds have over into those of a kind."""
    name = emitter.names.option(field.name)
    if not emitter.code.plain_option(product, field):
        return f"kind.{name} = {moved(field, f'options.{name}')};"
    value = f"*options.{name}" if is_copied(field.type) else f"*std::move(options.{name})"
    return f"if (options.{name}) {{\n        kind.{name} = {value};\n    }}"


def otherwise(emitter: Emitter, field: Field, option: str) -> str:
    """What an option holds, or the declared default."""
    default = declared_default(emitter, field)
    if default == "{}":
        default = f"{emitter.code.owned(field)}{{}}"
    given = option if is_copied(field.type) else f"std::move({option})"
    return f"{given}.value_or({default})"


# --- constructors ---------------------------------------------------------------------------------------------


def _initial(emitter: Emitter, product: Product) -> Iterator[str]:
    """The initializers of a constructor: the base's part first."""
    base = emitter.plan.products[product.base] if product.base is not None else None
    if base is not None and base.fields:
        yield f"{emitter.names.type(base.name)}({_passed_on(emitter, base, product)})"
    for field in product.own_fields:
        yield f"{emitter.names.stored(field.name)}({_value(emitter, product, field)})"


def _value(emitter: Emitter, product: Product, field: Field) -> str:
    """What a constructor keeps of a field."""
    if field.required:
        return kept(emitter, field, emitter.names.local(field.name))
    option = emitter.option(product, field)
    if field.may_be_absent:
        if field.default is not None:
            return _settled(emitter, field, with_default(emitter, field, option))
        return kept(emitter, field, option)
    if emitter.code.plain_option(product, field):
        return kept(emitter, field, option)
    return _settled(emitter, field, otherwise(emitter, field, option))


def _settled(emitter: Emitter, field: Field, value: str) -> str:
    """What is kept of a value that no variable holds: nothing is to be moved."""
    return kept(emitter, field, value).replace(f"std::move({value})", value)


def with_default(emitter: Emitter, field: Field, option: str) -> str:
    """An option that may be absent, with the default that a kind of its own gives it."""
    if field.default is None:
        return option
    default = emitter.code.value(field.default, field.type, shared=emitter.code.shared(field))
    return f"{option} ? {option} : std::optional<{emitter.code.owned(field)}>({default})"


def _passed_on(emitter: Emitter, base: Product, product: Product) -> str:
    """What the constructor of the base is given by that of a kind."""
    code = emitter.code
    arguments = [moved(f, emitter.names.local(f.name)) for f in base.required]
    pairs = []
    for declared in base.optional:
        field = product.field(declared.name)
        option = emitter.option(product, field)
        if field.may_be_absent:
            text = with_default(emitter, field, option) if field.default is not None else moved(field, option)
        elif code.plain_option(product, field):
            text = moved(field, option)
        else:
            text = otherwise(emitter, field, option)
        pairs.append(text if code.hidden(product) else f".{emitter.names.option(field.name)} = {text}")
    if code.hidden(product):
        return ", ".join([*arguments, *pairs])
    return ", ".join([*arguments, *([f"{{{', '.join(pairs)}}}"] if pairs else [])])


# --- accessors ------------------------------------------------------------------------------------------------


def _member(emitter: Emitter, field: Field, product: Product) -> View:
    """A field: its member, accessor and setter."""
    names, code = emitter.names, emitter.code
    inside = product.mutable and emitter.plan.holds_mutable(field.type)
    local = names.local(field.name)
    parameter = f"std::optional<{code.owned(field)}>" if field.may_be_absent else code.owned(field)
    return {
        "name": emitter.method(product, field.name),
        "doc": said(field),
        "type": out_type(emitter, field),
        "out": handed_out(emitter, field),
        "stored": names.stored(field.name),
        "stored_type": code.stored(field),
        "setter": f"set_{field.name}",
        "changes": f"Changes the {spoken(field.name)}.",
        "parameter": f"{parameter} {local}",
        "lines": list(setter_lines(emitter, field)) if product.mutable else [],
        "inside": inner_type(emitter, field) if inside else None,
        "inside_lines": list(inner_lines(emitter, field)) if inside else [],
        "inside_name": f"mutable_{field.name}",
        "inside_doc": f"The {spoken(field.name)}, to be changed where "
        f"{'they are' if isinstance(field.type, Collection) else 'it is'}.",
    }
