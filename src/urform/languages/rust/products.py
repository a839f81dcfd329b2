"""Products as Rust structs; abstract ones as enums where they are closed, as traits where they are open."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import BOOLEAN, REAL, TEXT, ProductType, innermost
from urform.languages.naming.names import beside, spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import option_doc
from urform.languages.rust.changes import changes, texts
from urform.languages.rust.context import Context
from urform.languages.rust.copies import duplicates
from urform.languages.rust.expressions import empty, is_copied, is_type_default, text_literal
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
from urform.plan.model import Field, Operation, Product
from urform.prose import with_article

View = dict[str, object]
MOST_PARAMETERS = 7  # clippy's too-many-arguments-threshold
LARGE_DIFFERENCE = 200  # bytes between variants of an enum: clippy's enum-variant-size-threshold


def abstract_text(context: Context, product: Product) -> str:
    """An enum of the variants or a trait, with the struct and the options of what they have in common."""
    type_ = context.names.type(product.name)
    view = {
        "type": type_,
        "stem": context.names.derived(product.name, ""),
        "a": with_article(type_),
        "doc": product.doc,
        "otherwise": " or ".join(f"[`{context.names.type(v)}`]" for v in product.variants) + ".",
        "pub": "pub " if context.code.is_open(product) else "",
        "open": context.code.is_open(product),
        "mutable": product.mutable and bool(product.fields),
        "has_fields": bool(product.fields),
        "variants": [{"type": context.names.type(v)} for v in product.variants],
        "large": _is_large(context, product),
        "options": _options(context, product),
        "struct": [_stored(context, f) for f in product.fields],
        "equality": list(_equality(context, product.fields)),
        "hashed": _hashed(context, product),
        "derives": ["Debug", "Clone", "PartialEq", *_hashed(context, product).split(", ")[1:]],
        "fields_hashed": HASHED if _fields_can_be_hashed(context, product, frozenset()) else "",
        "parameters": context.parameters(product),
        "types": context.types(product),
        "many": _is_many(product, context),
        "body": list(_fields_body(context, product)),
        "result": "Creation<Self>" if context.fields_fail(product) else "Self",
        "accessors": [_accessor(context, f, product) for f in product.fields],
        "operations": list(operation_views(context, product, product.operations)),
        "duplicates": product.name in context.plan.cloned and context.plan.restarts(product),
    }
    return context.templates.render("abstract", product.name, p=view)


def product_text(context: Context, product: Product) -> str:
    """A concrete product: struct, options, constructor, accessors, operations."""
    names, code = context.names, context.code
    type_ = names.type(product.name)
    base = context.plan.products[product.base] if product.base else None
    fails = code.fallible(product)
    hidden = code.hidden(product)
    is_open = base is not None and code.is_open(base)
    shown = base.fields if base is not None and not is_open else ()
    of_trait = tuple(o for o in product.operations if is_open and o.owner != product.name)
    inherent = tuple(o for o in product.operations if o not in of_trait and not _is_of_enum(product, o))
    view = {
        "type": type_,
        "a": with_article(type_),
        "doc": product.doc,
        "otherwise": f"A kind of [`{names.type(base.name)}`]."
        if base is not None
        else "Made of what is given.",
        "base": names.type(base.name) if base is not None else None,
        "open": is_open,
        "key": text_literal(product.key) if product.key is not None else None,
        "hidden": hidden,
        "never_chosen": hidden and _is_never_chosen(context, product),
        "pub": "pub(crate) " if hidden else "pub ",
        "mutable": product.mutable,
        "base_fields": names.derived(base.name, "Fields") if base is not None and base.fields else None,
        "struct": [_stored(context, f) for f in product.own_fields],
        "derives": "Debug, Clone"
        if _needs_equality(context, product)
        else f"Debug, Clone, PartialEq{_hashed(context, product)}",
        "fieldless": not product.fields,
        "equality": list(_equality(context, product.own_fields)) if _needs_equality(context, product) else [],
        "options": None if hidden else _options(context, product),
        "parameters": context.parameters(product),
        "types": context.types(product),
        "many": _is_many(product, context),
        "result": "Creation<Self>" if fails else "Self",
        "fails": fails,
        "body": list(_body(context, product, fails)),
        "accessors": [_accessor(context, f, product) for f in product.own_fields],
        "inherited": [_accessor(context, f, product) for f in shown],
        "operations": list(operation_views(context, product, inherent)),
        "of_trait": list(operation_views(context, product, of_trait)),
        "duplicate": list(duplicates(context.code, product)),
    }
    return context.templates.render("product", product.name, p=view)


def _stored(context: Context, field: Field) -> View:
    return {"name": context.names.stored(field.name), "type": context.code.stored(field)}


# --- size and equality ----------------------------------------------------------------------------------------


def _is_large(context: Context, product: Product) -> bool:
    """Whether the variants of an enum differ so much in size that clippy would have the large one boxed."""
    sizes = sorted(context.code.sizes.of(context.plan.products[name]) for name in product.variants)
    return len(sizes) > 1 and sizes[-1] - sizes[-2] > LARGE_DIFFERENCE // 2


def _is_many(product: Product, context: Context) -> bool:
    return context.parameter_count(product) > MOST_PARAMETERS


def _needs_equality(context: Context, product: Product) -> bool:
    """Whether equality has to be written out: `derive` compares no pointer to a trait that stands by itself."""
    return any(_is_pointer(context, field) for field in product.own_fields)


def _is_never_chosen(context: Context, product: Product) -> bool:
    """Whether the conditions of a factory by values contradict each other for a variant, and no family makes it either."""
    selection = context.plan.selected_by(product)
    chosen = {choice.variant for choice in selection.deciding.choices} if selection is not None else set()
    parts = (p for f in context.plan.families for m in f.members for each in m.parts.values() for p in each)
    return product.name not in chosen | {part.product for part in parts}


HASHED = ", Eq, Hash"  # derived beside `PartialEq` where it can be: reals have no total equality, and no trait tells of hashes


def _hashed(context: Context, product: Product) -> str:
    return HASHED if _can_be_hashed(context, product, frozenset()) else ""


def _can_be_hashed(context: Context, product: Product, above: frozenset[str]) -> bool:
    """Whether all that a product holds is equal to itself; one within itself is asked once."""
    if product.name in above:
        return True
    variants = (context.plan.products[name] for name in product.variants)
    above |= {product.name}
    return (
        not context.code.is_open(product)
        and _fields_can_be_hashed(context, product, above)
        and all(_can_be_hashed(context, variant, above) for variant in variants)
    )


def _fields_can_be_hashed(context: Context, product: Product, above: frozenset[str]) -> bool:
    inner = (context.plan.product_in(field.type) for field in product.fields)
    return all(innermost(field.type) != REAL for field in product.fields) and all(
        _can_be_hashed(context, each, above) for each in inner if each is not None
    )


def _is_pointer(context: Context, field: Field) -> bool:
    inner = context.plan.products.get(str(field.type))
    return inner is not None and context.code.is_open(inner) and not field.may_be_absent


def _equality(context: Context, fields: tuple[Field, ...]) -> Iterator[str]:
    """The condition for two structs to be equal; empty where it can be derived."""
    if not any(_is_pointer(context, field) for field in fields):
        return
    for field in fields:
        stored, star = context.names.stored(field.name), "*" if _is_pointer(context, field) else ""
        yield f"{star}self.{stored} == {star}other.{stored}"


# --- options --------------------------------------------------------------------------------------------------


def _options(context: Context, product: Product) -> View | None:
    """The struct of what need not be given, and what it is when it is not."""
    fields = product.optional
    selection = context.plan.selection_of(product.name)
    if selection is not None:
        fields = selection.optional
    if not fields:
        return None
    code = context.code
    base = context.plan.products[product.base] if product.base is not None else None
    plainly = [f for f in fields if code.plain_option(product, f)]
    derived = all(is_type_default(f.default, f.type) for f in plainly)
    return {
        "type": code.options(product),
        "of": context.names.type(product.name),
        "fields": [
            {
                "name": context.names.option(f.name),
                "type": code.option_type(product, f),
                "doc": _note(context, product, f),
            }
            for f in fields
        ],
        "derived": derived,
        "defaults": [f"{context.names.option(f.name)}: {_default(context, product, f)}" for f in fields],
        "from": code.options(base) if base is not None and base.optional else None,
        "taken": [_taken_over(context, product, f) for f in fields],
        "rest": [] if base is None else [f for f in fields if f.owner == product.name],
    }


def _note(context: Context, product: Product, field: Field) -> str:
    otherwise = f"{'Whether it is' if field.type == BOOLEAN else 'The'} {spoken(field.name)}."
    return plain(option_doc(field, otherwise, of_any_kind=product.abstract))


def _default(context: Context, product: Product, field: Field) -> str:
    if not context.code.plain_option(product, field):
        return "None"
    return _declared_default(context, field)


def _declared_default(context: Context, field: Field) -> str:
    if field.default is None:
        return empty(field.type)
    return context.code.value(field.default, field.type, shared=context.code.shared(field))


def _taken_over(context: Context, product: Product, field: Field) -> str:
    """A field of a kind's options made from the options that all kinds have."""
    name = context.names.option(field.name)
    if field.owner == product.name:
        return ""
    if not context.code.plain_option(product, field):
        return f"{name}: options.{name}"
    return f"{name}: {otherwise(context, field, f'options.{name}')}"


def otherwise(context: Context, field: Field, option: str) -> str:
    """The value of an option, or the declared default."""
    if is_type_default(field.default, field.type):
        return f"{option}.unwrap_or_default()"
    text = _declared_default(context, field)
    if is_copied(field.type):
        return f"{option}.unwrap_or({text})"
    if text == f"{context.code.owned(field)}::new()":  # of what has no fields
        return f"{option}.unwrap_or_default()"
    function = text.removesuffix("()")  # what takes nothing needs no closure around it
    alone = function != text and function.replace("::", "").isidentifier()
    return f"{option}.unwrap_or_else({function if alone else f'|| {text}'})"


# --- constructors ---------------------------------------------------------------------------------------------


def _fields_body(context: Context, product: Product) -> Iterator[str]:
    """The constructor of what all kinds have in common: options are resolved, then checked, then kept."""
    given: dict[str, str] = {}
    for field in product.fields:
        option = context.code.option(product, field)
        if field.required:
            given[field.name] = context.names.local(field.name)
        elif field.may_be_absent:
            given[field.name] = option
        elif context.code.field_fails(field) or option == context.names.local(field.name):
            local = context.names.local(field.name)
            yield f"let {local} = {otherwise(context, field, option)};"
            given[field.name] = local
        else:
            given[field.name] = otherwise(context, field, option)
    yield from _checked(context, product.fields, given)
    pairs = [_kept(context, f, given[f.name]) for f in product.fields]
    text = f"Self {{ {', '.join(pairs)} }}"
    yield f"Ok({text})" if context.fields_fail(product) else text


def _body(context: Context, product: Product, fails: bool) -> Iterator[str]:
    """The constructor of a concrete product: the base's part first."""
    base = context.plan.products[product.base] if product.base else None
    pairs: list[str] = []
    given: dict[str, str] = {}
    if base is not None and base.fields:
        end = "?" if context.fields_fail(base) else ""
        fields = context.names.derived(base.name, "Fields")
        of_base = beside("fields", (context.names.local(field.name) for field in product.own_fields))
        yield f"let {of_base} = {fields}::new({_passed_on(context, base, product)}){end};"
        pairs.append("fields" if of_base == "fields" else f"fields: {of_base}")
    for field in product.own_fields:
        option = context.code.option(product, field)
        local = context.names.local(field.name)
        given[field.name] = local if field.required else option
        if context.code.hidden(product) and not field.required and not field.may_be_absent:
            yield f"let {local} = {otherwise(context, field, option)};"
        elif field.may_be_absent and field.default is not None:
            given[field.name] = with_default(context, field, option)
    yield from _checked(context, product.own_fields, given)
    if not product.fields:
        yield "Self(())" if context.code.hidden(product) else "Self"
        return
    pairs += [_kept(context, f, given[f.name]) for f in product.own_fields]
    text = f"Self {{ {', '.join(pairs)} }}"
    yield f"Ok({text})" if fails else text


def with_default(context: Context, field: Field, option: str) -> str:
    """An option that may be absent, with the default that a kind of its own gives it."""
    text = _declared_default(context, field)
    return f"{option}.or(Some({text}))" if is_copied(field.type) else f"{option}.or_else(|| Some({text}))"


def _passed_on(context: Context, base: Product, product: Product) -> str:
    """The arguments that the constructor of a kind passes to that of the base's part."""
    code = context.code
    arguments = [context.names.local(f.name) for f in base.required]
    if not base.optional:
        return ", ".join(arguments)
    pairs = []
    for declared in base.optional:
        field = product.field(declared.name)
        option = context.code.option(product, field)
        if code.hidden(product):
            text = otherwise(context, field, option) if not field.may_be_absent else option
            text = with_default(context, field, option) if _has_own(field) else text
            arguments.append(f"Some({text})" if not field.may_be_absent else text)
            continue
        text = with_default(context, field, option) if _has_own(field) else option
        pairs.append(
            f"{context.names.option(field.name)}: {f'Some({text})' if not field.may_be_absent else text}"
        )
    if pairs:
        arguments.append(f"{code.options(base)} {{ {', '.join(pairs)} }}")
    return ", ".join(arguments)


def _has_own(field: Field) -> bool:
    return field.may_be_absent and field.default is not None


def _checked(context: Context, fields: tuple[Field, ...], given: dict[str, str]) -> Iterator[str]:
    for field in fields:
        text = given[field.name]
        optional = field.may_be_absent
        owned = not (field.type == TEXT and field.required)
        if optional and "|" in text:  # a default, which has passed its limits
            continue
        yield from checks(context, field, Place(text, owned, owned), optional=optional)


def _kept(context: Context, field: Field, text: str) -> str:
    """A field of the struct with its value."""
    return pair(context.names.stored(field.name), stored_value(context, field, text, given=field.required))


# --- accessors ------------------------------------------------------------------------------------------------


def _accessor(context: Context, field: Field, product: Product) -> View:
    """The accessor of a field, and its setter where the product is mutable; with what forwards to them."""
    names = context.names
    stored = f"self.{names.stored(field.name)}"
    fails = context.code.field_fails(field)
    name, local = context.method(product, field.name), names.local(field.name)
    lines = list(setter_lines(context, field)) if product.mutable else []
    one_by_one = changes(context, context.plan.product(field.owner), field)
    return {
        "name": name,
        "member": field.name,
        "doc": said(field),
        "type": out_type(context, field),
        "out": handed_out(context, field, stored),
        "mutable": product.mutable,
        "local": local,
        "parameter": setter_parameter(context, field),
        "result": " -> Creation<()>" if fails else "",
        "lines": lines,
        "changes": f"Changes the {spoken(field.name)}.",
        "setter": f"set_{field.name}",
        "inside": inner_type(context, field) if product.mutable and changes_inside(context, field) else None,
        "inside_out": inner_out(context, field, stored)
        if product.mutable and changes_inside(context, field)
        else "",
        "one_by_one": one_by_one,
        "changed": texts(context, product, one_by_one, _visible(context, product)),
        "inside_boxed": _boxed(context, field, product),
        "inside_name": f"{field.name}_mut",
        "inside_doc": f"The {spoken(field.name)}, to be changed where {_they(field)}.",
    }


def _visible(context: Context, product: Product) -> str:
    """Who sees the methods of what holds a field: the struct that all kinds of an enum have is the crate's own."""
    return "pub(crate) " if product.abstract and not context.code.is_open(product) else "pub "


def _boxed(context: Context, field: Field, product: Product) -> str:
    """What a trait hands out instead of an `impl Iterator`, which no pointer to it could have."""
    is_inside = product.mutable and changes_inside(context, field)
    if not is_inside or not context.code.is_open(product) or isinstance(field.type, ProductType):
        return ""
    return f"Box<dyn {inner_type(context, field).removeprefix('impl ')} + '_>"


def _they(field: Field) -> str:
    return "it is" if isinstance(field.type, ProductType) else "they are"


__all__ = ["abstract_text", "mentions", "otherwise", "product_text"]


def _is_of_enum(product: Product, operation: Operation) -> bool:
    """Whether only the enum has an operation, which the user writes once for all of its kinds."""
    return operation.once and operation.answer is None and product.base is not None
