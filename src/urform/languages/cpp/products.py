"""Products as C++ classes: values, or, where they have variants, an abstract class over final ones."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import BOOLEAN, Collection
from urform.languages.cpp.changes import changes
from urform.languages.cpp.context import Context
from urform.languages.cpp.copies import again_view, duplicates
from urform.languages.cpp.expressions import is_copied, moved, text_literal
from urform.languages.cpp.families import member_type
from urform.languages.cpp.members import (
    checks,
    handed_out,
    inner_lines,
    inner_type,
    kept,
    moved_type,
    out_type,
    said,
    setter_lines,
)
from urform.languages.cpp.operations import operation_views
from urform.languages.naming.names import spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import option_doc
from urform.plan.model import Field, Product
from urform.prose import with_article

View = dict[str, object]


def product_view(context: Context, product: Product) -> View:
    """The view of a product that the templates of header and source show."""
    names, code, plan = context.names, context.code, context.plan
    type_ = names.type(product.name)
    base = plan.products[product.base] if product.base is not None else None
    hidden = code.hidden(product)
    typed = context.typed_parameters(product)
    own = product.own_fields
    return {
        "type": type_,
        "stem": names.derived(product.name, ""),
        "declared": product.name,
        "a": with_article(type_),
        "doc": product.doc or _otherwise(context, product),
        "abstract": product.abstract,
        "base": names.type(base.name) if base is not None else None,
        "kinds": [names.type(variant) for variant in product.variants] if product.closed else [],
        "key": text_literal(product.key) if product.key is not None else None,
        "options": None if hidden and not product.abstract else _options(context, product),
        "hidden": hidden,
        "friends": _friends(context, product),
        "explicit": "explicit " if typed and len([t for t in typed if t[0] != "options"]) < 2 else "",
        "declared_parameters": context.parameters(product, defaults=True),
        "parameters": context.parameters(product),
        "forms": context.forms(type_, typed),
        "fails": any(code.field_fails(field) for field in product.fields),
        "initial": list(_initial(context, product)),
        "checks": [line for f in own for line in checks(context, f, names.stored(f.name))],
        "members": [_member(context, field, product) for field in own],
        "operations": list(operation_views(context, product)),
        "compared": [
            f"{names.stored(f.name)} == {'that' if base is not None else 'other'}.{names.stored(f.name)}"
            for f in own
        ],
        "export": context.export,
        "stored": [names.stored(f.name) for f in own],
        "hashed": [f"product.{names.stored(f.name)}" for f in own],
        "mutable": product.mutable,
        "fieldless": not product.fields,
        "duplicates": duplicates(context, product),
        "again": again_view(context, product),
        "shown": _shown(context, product),
        "made": code.owned_type(product),
    }


def visit_text(context: Context, base: Product) -> str:
    """The members of a closed base that tell its kinds apart; they stand below the classes of all."""
    names = context.names
    types = [names.type(variant) for variant in base.variants]
    view = {
        "type": names.type(base.name),
        "types": types,
        "constness": ["const ", *([""] if base.mutable else [])],
    }
    return context.templates.render("visit", base.name, v=view)


def _otherwise(context: Context, product: Product) -> str:
    if product.abstract:
        return f"One of {', '.join(context.names.type(v) for v in product.variants)}."
    if product.base is not None:
        return f"A kind of {context.names.type(product.base)}."
    return "Made of what is given."


def _option_doc(product: Product, field: Field) -> str:
    otherwise = f"{'Whether it is' if field.type == BOOLEAN else 'The'} {spoken(field.name)}."
    return plain(option_doc(field, otherwise, of_any_kind=product.abstract))


def _shown(context: Context, product: Product) -> list[str]:
    """The fields that are printed of a product: pairs of labels and members."""
    pairs = []
    for field in product.fields:
        stored = context.names.stored(field.name)
        accessor = context.method(product, field.name)
        inherited = f"{'this->' if accessor == 'out' else ''}{accessor}()"  # the stream is called so
        shown = (
            f"made.{stored}" if product.base is None else stored if field.owner == product.name else inherited
        )
        pairs.append(f'"{field.name}: ", {shown}')
    return pairs


# --- options --------------------------------------------------------------------------------------------------


def _options(context: Context, product: Product) -> View | None:
    """The struct of what need not be given, and what it is when it is not."""
    code = context.code
    selection = context.plan.selection_of(product.name)
    fields = selection.optional if selection is not None else product.optional
    if not fields:
        return None
    base = context.plan.products[product.base] if product.base is not None else None
    return {
        "type": code.options(product),
        "owner": product.name,
        "of": context.names.type(product.name),
        "fields": [
            {
                "name": context.names.option(f.name),
                "member": f.name,
                "type": code.option_type(product, f),
                "doc": _option_doc(product, f),
                "default": declared_default(context, f) if code.plain_option(product, f) else "{}",
            }
            for f in fields
        ],
        "from": code.options(base) if base is not None and base.optional else None,
        "taken": [_taken_over(context, product, f) for f in fields if f.owner != product.name],
    }


def declared_default(context: Context, field: Field) -> str:
    """The value of a field that was not given."""
    if field.default is None:
        return "{}"
    return context.code.value(field.default, field.type, shared=context.code.shared(field))


def _taken_over(context: Context, product: Product, field: Field) -> str:
    """A statement that takes an option that all kinds have over into those of a kind."""
    name = context.names.option(field.name)
    if not context.code.plain_option(product, field):
        return f"kind.{name} = {moved(field, f'options.{name}')};"
    value = f"*options.{name}" if is_copied(field.type) else f"*std::move(options.{name})"
    return f"if (options.{name}) {{\n        kind.{name} = {value};\n    }}"


def otherwise(context: Context, field: Field, option: str) -> str:
    """The value of an option, or the declared default."""
    default = declared_default(context, field)
    if default == "{}":
        default = f"{context.code.owned(field)}{{}}"
    given = option if is_copied(field.type) else f"std::move({option})"
    return f"{given}.value_or({default})"


# --- constructors ---------------------------------------------------------------------------------------------


def _initial(context: Context, product: Product) -> Iterator[str]:
    """The initializers of a constructor: the base's part first."""
    base = context.plan.products[product.base] if product.base is not None else None
    if base is not None and base.fields:
        yield f"{context.names.type(base.name)}({_passed_on(context, base, product)})"
    for field in product.own_fields:
        yield f"{context.names.stored(field.name)}({_value(context, product, field)})"


def _value(context: Context, product: Product, field: Field) -> str:
    """The value of a field that a constructor keeps."""
    if field.required:
        return kept(context, field, context.names.local(field.name))
    option = context.code.option(product, field)
    if field.may_be_absent:
        if field.default is not None:
            return _settled(context, field, with_default(context, field, option))
        return kept(context, field, option)
    if context.code.plain_option(product, field):
        return kept(context, field, option)
    return _settled(context, field, otherwise(context, field, option))


def _settled(context: Context, field: Field, value: str) -> str:
    """What is kept of a value that no variable holds: nothing is to be moved."""
    return kept(context, field, value).replace(f"std::move({value})", value)


def with_default(context: Context, field: Field, option: str) -> str:
    """An option that may be absent, with the default that a kind of its own gives it."""
    if field.default is None:
        return option
    default = context.code.value(field.default, field.type, shared=context.code.shared(field))
    return f"{option} ? {option} : std::optional<{context.code.owned(field)}>({default})"


def _passed_on(context: Context, base: Product, product: Product) -> str:
    """The arguments that the constructor of a kind passes to that of its base."""
    code = context.code
    arguments = [moved(f, context.names.local(f.name)) for f in base.required]
    pairs = []
    for declared in base.optional:
        field = product.field(declared.name)
        option = context.code.option(product, field)
        if field.may_be_absent:
            text = with_default(context, field, option) if field.default is not None else moved(field, option)
        elif code.plain_option(product, field):
            text = moved(field, option)
        else:
            text = otherwise(context, field, option)
        pairs.append(text if code.hidden(product) else f".{context.names.option(field.name)} = {text}")
    if code.hidden(product):
        return ", ".join([*arguments, *pairs])
    return ", ".join([*arguments, *([f"{{{', '.join(pairs)}}}"] if pairs else [])])


# --- accessors ------------------------------------------------------------------------------------------------


def _member(context: Context, field: Field, product: Product) -> View:
    """A field: its member, accessor and setter."""
    names, code = context.names, context.code
    inside = product.mutable and context.plan.holds_mutable(field.type)
    local = names.local(field.name)
    parameter = f"std::optional<{code.owned(field)}>" if field.may_be_absent else code.owned(field)
    return {
        "name": context.method(product, field.name),
        "member": field.name,
        "doc": said(field),
        "type": out_type(context, field),
        "moved_type": moved_type(context, field),
        "out": handed_out(context, field),
        "stored": names.stored(field.name),
        "stored_type": code.stored(field),
        "setter": f"set_{field.name}",
        "changes": f"Changes the {spoken(field.name)}.",
        "taken": parameter,
        "parameter": f"{parameter} {local}",
        "lines": list(setter_lines(context, field)) if product.mutable else [],
        "one_by_one": changes(context, product, field),
        "inside": inner_type(context, field) if inside else None,
        "inside_lines": list(inner_lines(context, field)) if inside else [],
        "inside_name": f"mutable_{field.name}",
        "inside_doc": f"The {spoken(field.name)}, to be changed where "
        f"{'they are' if isinstance(field.type, Collection) else 'it is'}"
        f"{', until one comes or goes' if field.item and isinstance(field.type, Collection) else ''}.",
    }


def _friends(context: Context, product: Product) -> list[str]:
    """Who may call a hidden constructor: the base, and the families that make such a part."""
    if not context.code.hidden(product) or product.abstract:
        return []
    friends = [context.names.type(product.base or "")]
    for family in context.plan.families:
        members = (*family.members, *([family.stand_in] if family.stand_in is not None else []))
        for member in members:
            if any(part.product == product.name for parts in member.parts.values() for part in parts):
                friends.append(member_type(context, family, member.name))
    return friends
