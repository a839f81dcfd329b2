"""Products as Java classes and records: constructors, setters, equality."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import Collection
from urform.languages.java.builders import builder_text
from urform.languages.java.changes import changes
from urform.languages.java.context import Context
from urform.languages.java.copies import copied_fields, copying, copying_lines, copying_parameters, methods
from urform.languages.java.docs import OPTIONS, REFUSED, as_parameter
from urform.languages.java.expressions import PRIMITIVES, or_else, text_literal
from urform.languages.java.selections import selection_view
from urform.languages.java.views import tidy, types_of
from urform.languages.naming.names import article, beside, pascal, spoken
from urform.languages.rendering.fields import field_doc, option_doc
from urform.plan.model import Field, Product

SEVERAL = 4  # required fields that are compared with null before all are looked at

View = dict[str, object]


def record_text(context: Context, product: Product) -> str:
    """A plain immutable product without optional fields."""
    code, names = context.code, context.names
    lines = [*_missing(context, product)]
    for field in product.fields:
        name = names.member(field.name)
        limits, value = _limits(context, field, name), code.own_value(field, name)
        own = [f"{name} = {value};"] if value != name else []
        lines += [*own, *limits] if isinstance(field.type, Collection) else [*limits, *own]
        lines += code.checks_of_elements(field, name)
    view = {
        "type": names.type(product.name),
        "doc": _class_doc(context, product),
        "components": ", ".join(context.parameters(product)),
        "calls": [
            names.type(product.name),
            f"{names.type(product.name)}{types_of(context.parameters(product))}",
            *(f"{names.member(f.name)}() gives {code.handed_out(f)}" for f in product.fields),
        ],
        "takes": context.takes(product),
        "lines": lines,
        "refusing": "Refuses what is missing or outside its limit.",
        "throws": REFUSED,
        "operations": [
            {**context.operation(product, operation), "takes": context.operation_takes(operation)}
            for operation in product.operations
        ],
        "copies": methods(context, product),
        "builder": builder_text(context, product),
    }
    text = tidy(context.templates.render("record", product.name, p=view))
    return text.replace(" {\n}\n", " {}\n")  # of nothing but its components


def class_view(context: Context, product: Product) -> View:
    """The view that the template of a class shows."""
    names = context.names
    type_ = names.type(product.name)
    own = list(product.own_fields)
    return {
        "type": type_,
        "doc": _class_doc(context, product),
        "modifiers": _modifiers(product),
        "clauses": _clauses(context, product),
        "key": text_literal(product.key) if product.key else None,
        "abstract": product.abstract,
        "base": names.type(product.base) if product.base else None,
        "single": product.single,
        "mutable": product.mutable,
        "final": "final " if product.abstract else "",
        "open": product.is_open,
        "may_be_refused": product.is_open and bool(product.fields),
        "own": [_field(context, product, field) for field in own],
        "constructors": [] if product.single else list(_constructors(context, product)),
        "operations": [context.operation(product, operation) for operation in product.operations],
        "changes": list(changes(context, product)),
        "copies": methods(context, product),
        "hidden": context.hidden(product),
        "equals": _equals(context, product),
        "hash": _hash(context, product),
        "shows": _shows(context, product),
        "options": _options(context, product),
        "builder": builder_text(context, product),
        "selection": selection_view(context, product),
    }


def _class_doc(context: Context, product: Product) -> str:
    if product.doc or product.base is None:
        return product.doc or f"{article(product.name).capitalize()}."
    return f"{article(product.name).capitalize()}, a kind of {spoken(product.base)}."


def _modifiers(product: Product) -> str:
    if not product.abstract:
        return "final class"
    return "abstract sealed class" if product.closed else "abstract class"


def _clauses(context: Context, product: Product) -> str:
    names = context.names
    if product.base is not None:
        return f" extends {names.type(product.base)}"
    if product.closed:
        return f" permits {', '.join(names.type(variant) for variant in product.variants)}"
    return ""


def _field(context: Context, product: Product, field: Field) -> View:
    code, names = context.code, context.names
    name = names.member(field.name)
    primitive = field.may_be_absent and field.type in PRIMITIVES
    return {
        "name": name,
        "doc": field_doc(field),
        "returns": f"the {spoken(field.name)}{', if there is one' if field.may_be_absent else ''}",
        "changes": f"Changes the {spoken(field.name)}.",
        "takes": [as_parameter(field, name)],
        "throws": _setter_throws(context, field),
        "stored": code.stored(field),
        "handed_out": code.handed_out(field),
        "out": code.optional_of(field, name),
        "setter": names.setter(field.name),
        "set_type": code.plain(field.type),
        "set_lines": list(_set_lines(context, field)) if product.mutable else [],
        "clears": f"clear{pascal(field.name)}" if primitive else None,
    }


def _setter_throws(context: Context, field: Field) -> str:
    refused = ["is null"] if context.is_reference(field) and not field.may_be_absent else []
    refused += [f"{'' if refused else 'is '}outside its limit"] if field.limits or field.each else []
    return f"CreationException if the value {' or '.join(refused)}" if refused else ""


def _set_lines(context: Context, field: Field) -> Iterator[str]:
    """A setter: null only where the field can be absent, then the limits, then the assignment."""
    code = context.code
    name = context.names.member(field.name)
    nullable = context.is_reference(field)
    limits = _limits(context, field, name)
    value = code.own_value(field, name)
    if nullable and not field.may_be_absent:
        yield f'Check.given("{field.owner}", "{field.name}", {name});'
    if nullable and field.may_be_absent:
        yield from _guarded(limits, name)
        yield f"this.{name} = {value if value == name else f'{name} == null ? null : {value}'};"
        return
    if not isinstance(field.type, Collection):
        yield from limits
        yield f"this.{name} = {value};"
        return
    own = beside("held", [name])  # limits are those of what is held: the caller's may change meanwhile
    checked = [*_limits(context, field, own), *code.checks_of_elements(field, own)]
    if checked:
        yield f"{code.plain(field.type)} {own} = {value};"
        yield from checked
        yield f"this.{name} = {own};"
    else:
        yield f"this.{name} = {value};"


def _limits(context: Context, field: Field, value: str) -> list[str]:
    return list(context.code.checks(field, value))


def _guarded(lines: list[str], value: str) -> Iterator[str]:
    if lines:
        yield f"if ({value} != null) {{"
        yield from (f"    {line}" for line in lines)
        yield "}"


def _missing(context: Context, product: Product) -> Iterator[str]:
    """One statement that refuses everything that is missing."""
    base = context.plan.products[product.base] if product.base is not None else None
    needed = [field for field in product.required if context.is_reference(field)]
    options = bool(product.optional) and not (base is not None and base.optional)  # or the base looks at them
    if not (needed or options) or context.hidden(product):
        return  # a factory by values refuses what is missing before it calls a constructor
    if (
        base is not None
        and not options
        and all(field.owner == product.base for field in needed)
        and _same_name(context, product)
    ):
        return  # the base's constructor does it
    owner = "getClass()" if product.abstract else f'"{product.name}"'
    asked = [(f.name, context.names.member(f.name)) for f in needed] + [("options", "options")] * options
    said = "".join(f'.unless("{name}", {member})' for name, member in asked)
    refused = f"new Missing({owner}){said}.refuse();"
    if product.abstract and len(asked) <= SEVERAL:  # to ask for the class costs half as much as all the rest
        yield f"if ({' || '.join(f'{member} == null' for _, member in asked)}) {{"
        yield f"    {refused}"
        yield "}"
    else:
        yield refused


def _same_name(context: Context, product: Product) -> bool:
    return context.names.type(product.name) == product.name


# --- constructors -----------------------------------------------------------------------------------------


def _constructors(context: Context, product: Product) -> Iterator[View]:
    hidden = context.hidden(product)
    base = context.plan.products[product.base] if product.base else None
    required = context.parameters(product)[: len(product.required)]
    if product.abstract:
        parameters, lines = _base_parameters(context, product), _base_lines(context, product)
        if lines or copying(context, product).constructs:
            yield _constructor(context, product, _base_modifier(product), parameters, lines)
        else:
            yield _constructor(
                context, product, _base_modifier(product), [], []
            )  # a default one would be the public's
    else:
        if product.optional and not hidden:
            passed = ", ".join([*(context.names.member(f.name) for f in product.required), "new Options()"])
            yield _constructor(context, product, "public ", required, [f"this({passed});"])
        yield from _widened(context, product, base)
        modifier = "" if hidden or context.widens(product) else "public "
        parameters = context.parameters(product)
        if base is not None and context.widens(product):
            parameters = [*required, *_wide_parameters(context, product, base)]
        yield _constructor(context, product, modifier, parameters, _concrete_lines(context, product, base))
    how = copying(context, product)
    if how.constructs:
        modifier = "" if product.abstract else "private "
        parameters = copying_parameters(context, product, how)
        view = _constructor(context, product, modifier, parameters, copying_lines(context, product, how))
        yield {**view, "copied": copied_fields(context, product, how)}


def _widened(context: Context, product: Product, base: Product | None) -> Iterator[View]:
    """A variant with options of its own takes the base's too; both go to one constructor."""
    if base is None or not context.widens(product):
        return
    required = context.parameters(product)[: len(product.required)]
    names = [context.names.member(field.name) for field in product.required]
    own = _own_optional(product)
    kind = beside("own", names)  # options of the kind, given through those of the base
    own_values = (
        f"options instanceof Options {kind} ? {kind}.{context.names.member(f.name)} : null" for f in own
    )
    nothing = ", ".join([*names, "options", *own_values])
    there = f'Check.given("{product.name}", "options", options)'
    given = ", ".join([*names, there, *(f"options.{context.names.member(field.name)}" for field in own)])
    wider = f"{context.names.type(base.name)}.Options options"
    yield _constructor(context, product, "public ", [*required, wider], [f"this({nothing});"])
    yield _constructor(context, product, "public ", [*required, "Options options"], [f"this({given});"])


def _wide_parameters(context: Context, product: Product, base: Product) -> list[str]:
    """The base's options, and each option of the variant, null where it was not given."""
    own = [
        f"{context.code.boxed(field.type)} {context.option(product, field)}"
        for field in _own_optional(product)
    ]
    return [f"{context.names.type(base.name)}.Options options", *own]


def _constructor(
    context: Context, product: Product, modifier: str, parameters: list[str], lines: list[str]
) -> View:
    known = dict([*context.takes(product), OPTIONS])
    types = types_of(parameters)
    called = context.names.type(product.name)
    names = [parameter.rpartition(" ")[2] for parameter in parameters]
    return {
        "modifier": modifier,
        "parameters": ", ".join(parameters),
        "calls": [f"{called}{types}", *_by_options_of_all(context, product, types)],
        "lines": lines,
        "copied": [],
        "doc": f"Creates {article(product.name)}.",
        "takes": [(name, known.get(name, "the default of the kind")) for name in names],
        "throws": REFUSED if parameters else "",
    }


def _by_options_of_all(context: Context, product: Product, types: str) -> list[str]:
    """The other name for the options of a kind that has none of its own: they are those of its base."""
    base = context.plan.products[product.base] if product.base is not None else None
    if base is None or not base.optional or context.widens(product) or "Options)" not in types:
        return []
    own, of_all = context.names.type(product.name), f"{context.names.type(base.name)}.Options"
    return [f"{own}{types.replace('Options)', f'{of_all})')}", f"{own}.Options"]


def _base_modifier(product: Product) -> str:
    return "" if product.closed else "protected "


def _base_parameters(context: Context, product: Product) -> list[str]:
    defaults = [
        f"{context.code.stored(field)} {context.names.member(field.name)}Default"
        for field in context.plan.redefined(product)
    ]
    return [*context.parameters(product), *defaults]


def _base_lines(context: Context, product: Product) -> list[str]:
    redefined = {field.name for field in context.plan.redefined(product)}
    lines = [*_missing(context, product)]
    for field in product.fields:
        default = (
            f"{context.names.member(field.name)}Default"
            if field.name in redefined
            else context.default(field)
        )
        lines += _assigned(context, product, field, default)
    return lines


def _concrete_lines(context: Context, product: Product, base: Product | None) -> list[str]:
    lines: list[str] = []
    missing = list(_missing(context, product))
    if base is not None:
        lines += [_super(context, product, base, missing)] if base.fields else []
        if any(context.is_reference(field) for field in base.required):
            missing = []
    lines += missing
    for field in product.own_fields:
        lines += _assigned(context, product, field, context.default(field))
    return lines


def _super(context: Context, product: Product, base: Product, missing: list[str]) -> str:
    """The call of the base's constructor; what is missing is refused before, all of it at once."""
    names = [context.names.member(field.name) for field in base.required]
    first = next((i for i, field in enumerate(base.required) if context.is_reference(field)), None)
    if missing and first is not None:
        names[first] = missing[0].replace(".refuse();", f".orElse({names[first]})")
    defaults = [context.default(product.field(f.name)) or "null" for f in context.plan.redefined(base)]
    passed = [*names, *context.arguments(base)[len(base.required) :], *defaults]
    return f"super({', '.join(passed)});"


def _assigned(context: Context, product: Product, field: Field, default: str | None) -> Iterator[str]:
    """The statements by which a constructor takes one field."""
    code = context.code
    name = context.names.member(field.name)
    if product.mutable:
        yield from _set_in_constructor(context, product, field, default)
        return
    given = name if field.required else context.option(product, field)
    if field.may_be_absent and default is not None:
        yield f"{code.stored(field)} {name} = {given} != null ? {given} : {default};"
        given = name
    elif default is not None and not field.required and not context.settled(product, field):
        given = or_else(field, given, default)
    limits = _limits(context, field, name)
    if field.may_be_absent:
        limits = _limits(context, field, given)
        yield from _guarded(limits, given)
        value = code.own_value(field, given)
        yield f"this.{name} = {value if value == given else f'{given} == null ? null : {value}'};"
        return
    if isinstance(field.type, Collection):
        yield f"this.{name} = {code.own_value(field, given)};"
        yield from _limits(context, field, f"this.{name}")
    else:
        if limits and not field.required:
            yield f"{code.plain(field.type)} {name} = {given};"
            given = name
        yield from limits
        yield f"this.{name} = {code.own_value(field, given)};"
    yield from code.checks_of_elements(field, f"this.{name}")


def _set_in_constructor(
    context: Context, product: Product, field: Field, default: str | None
) -> Iterator[str]:
    option = context.option(product, field)
    name, setter = context.names.member(field.name), context.names.setter(field.name)
    if field.may_be_absent and default is not None:
        stored = context.code.stored(field)
        yield f"{stored} {name} = {option} != null ? {option} : {default};"
        yield from _guarded([f"{setter}({name});"], name)
    elif field.required:
        yield f"{setter}({name});"
    elif default is not None and not context.settled(product, field):
        yield f"{setter}({or_else(field, option, default)});"
    elif field.type in PRIMITIVES and default is None:
        yield from _guarded([f"{setter}({option});"], f"{option}")
    else:
        yield f"{setter}({option});"


# --- equality and options ----------------------------------------------------------------------------------


def _equals(context: Context, product: Product) -> list[str]:
    own = [context.code.equal(field, context.names.member(field.name)) for field in product.own_fields]
    type_ = context.names.type(product.name)
    if product.single or (product.base is not None and not own):
        return []
    if product.base is not None:
        lines = ["super.equals(other)", f"other instanceof {type_} that", *own]
    elif product.abstract:
        lines = ["other != null", "getClass() == other.getClass()"]
        lines += [f"other instanceof {type_} that", *own] if own else []
    else:
        lines = [f"other instanceof {type_}{' that' if own else ''}", *own]
    return [*lines[:-1], f"{lines[-1]};"]


def _hash(context: Context, product: Product) -> str:
    own = [context.names.member(field.name) for field in product.own_fields]
    if product.base is not None:
        return f"Objects.hash({', '.join(['super.hashCode()', *own])})"
    return f"Objects.hash({', '.join(own)})" if own else "getClass().hashCode()"


def _shows(context: Context, product: Product) -> list[str]:
    if product.abstract:
        return []
    shown = [(field.name, context.names.member(field.name)) for field in product.fields]
    if not shown:
        return [f'"{product.name}[]";']
    lines = [
        f'"{", " if number else f"{product.name}["}{name}=" + {member}()'
        for number, (name, member) in enumerate(shown)
    ]
    return [*lines, '"]";']


def _own_optional(product: Product) -> list[Field]:
    return [field for field in product.own_fields if not field.required]


def _options(context: Context, product: Product) -> View | None:
    selection = context.plan.selection_of(product.name)
    own = list(selection.optional) if selection is not None else _own_optional(product)
    if not own or product.single or context.plan.selected_by(product) is not None:
        return None
    base = context.plan.products[product.base] if product.base else None
    inherited = list(base.optional) if base is not None else []
    widened = selection is None and any(_own_optional(context.plan.products[v]) for v in product.variants)
    default = "the default of its kind" if product.abstract else "its default"
    extends = f" extends {context.names.type(base.name)}.Options" if base is not None and inherited else ""
    return {
        "doc": f"The optional fields; a field that is left out takes {default}.",
        "modifier": "" if widened else "final ",
        "extends": extends,
        "owner": product.name,
        # Kinds of other packages are given the options of all kinds.
        "readable": product.is_open,
        "like": _like(context, product, base if extends else None),
        "own": [_option(context, product, field) for field in own],
        "inherited": [_option(context, product, field) for field in inherited],
    }


def _like(context: Context, product: Product, base: Product | None) -> str:
    """The options that those of an open base, or of one of its kinds, can start from."""
    if product.is_open:
        return "Options"
    return f"{context.names.type(base.name)}.Options" if base is not None and base.is_open else ""


def _option(context: Context, product: Product, field: Field) -> View:
    code = context.code
    settled = context.settled(product, field)
    name = context.names.member(field.name)
    return {
        "name": name,
        "doc": option_doc(field, f"Chooses the {spoken(field.name)}.", of_any_kind=product.abstract),
        "takes": [(context.names.member(field.name), f"the {spoken(field.name)}")],
        "held": code.plain(field.type) if settled else code.boxed(field.type),
        "initial": f" = {context.default(field)}" if settled else "",
        "plain": code.plain(field.type),
        "chosen": f"the chosen {spoken(field.name)}" + ("" if settled else ", if any"),
        "read_type": code.plain(field.type) if settled else code.optional(field.type),
        "read": name if settled else code.as_optional(field.type, name),
    }
