"""Factories in C++: by key a static member, a creator or a registry; by values two static members."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.declaration.decisions import Decision, fields_of
from urform.declaration.types import Collection
from urform.languages.cpp.conditions import Conditions, Subject
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import is_copied, moved, text_literal
from urform.languages.cpp.products import otherwise
from urform.languages.naming.names import beside, snake
from urform.languages.rendering.prose import of_unknown_key
from urform.plan.model import Factory, Field, Product, Selection

View = dict[str, object]


def factory_view(context: Context, product: Product) -> View | None:
    """The view of a factory by key that its templates show; None where there is none."""
    factory = context.plan.factory_of(product.name)
    if factory is None:
        return None
    taken = _taken(context, product, factory)
    typed, parameters = taken.typed, taken.parameters
    kinds = [_kind(context, product, factory, key, name) for key, name in factory.kinds.items()]
    return {
        "form": factory.form,
        "said": of_unknown_key(factory.unknown, context.names.type(factory.unknown), "null"),
        "type": context.names.type(product.name),
        "stem": context.names.derived(product.name, ""),
        "export": context.export,
        "owner": product.name,
        "maker_parameters": parameters if factory.needs_more else _maker_parameters(typed),
        "source": "its record" if factory.needs_more else "the fields that all kinds have",
        "parameters": parameters,
        "more": f", {parameters}" if typed else "",
        "more_declared": f", {taken.declared}" if typed else "",
        "types": ", ".join(type_ for _, type_ in typed),
        "forms": context.forms("make", typed),
        "passed": taken.passed,
        "kinds": kinds,
        "cases": [kind for kind in kinds if kind["variant"] != factory.unknown],
        "otherwise": _otherwise(context, product, factory),
        "uses": factory.unknown not in ("error", "nothing"),
    }


@dataclass(frozen=True, slots=True)
class _Taken:
    """What makers take beside the key: the fields of all kinds, or a record of those of one."""

    typed: list[tuple[str, str]]
    parameters: str
    declared: str  # with what is there by default
    passed: str


def _taken(context: Context, product: Product, factory: Factory) -> _Taken:
    if factory.needs_more:
        record = "const RecordValue &record"
        return _Taken([("record", "const RecordValue &")], record, record, "record")
    return _Taken(
        context.typed_parameters(product),
        context.parameters(product),
        context.parameters(product, defaults=True),
        ", ".join(context.passed(product)),
    )


def _maker_parameters(typed: list[tuple[str, str]]) -> str:
    """Those of a maker behind a std::function, which hands on what it was given: options are not moved once more."""
    return ", ".join(f"{type_} {'&&' if name == 'options' else ''}{name}" for name, type_ in typed)


def _kind(context: Context, product: Product, factory: Factory, key: str, name: str) -> dict[str, str]:
    variant = context.plan.products[name]
    type_ = context.names.type(name)
    return {
        "variant": name,
        "type": type_,
        "key": f"{type_}::kind" if variant.key == key else text_literal(key),
        "made": _construction(context, product, factory, name),
    }


def _construction(context: Context, product: Product, factory: Factory, name: str) -> str:
    """The expression that makes a kind from the parameters of all kinds, or from its record."""
    variant = context.plan.products[name]
    type_ = context.names.type(name)
    if factory.needs_more:
        return f"std::make_unique<{type_}>(records::read_{snake(name)}(record))"
    arguments = [moved(f, context.names.local(f.name)) for f in variant.required]
    if product.optional:
        arguments.append(f"{context.code.options(variant)}::from(std::move(options))")
    return f"std::make_unique<{type_}>({', '.join(arguments)})"


def _otherwise(context: Context, product: Product, factory: Factory) -> str:
    if factory.unknown == "error":
        known = (
            "keys()" if factory.form == "registry" else f"{{{', '.join(map(text_literal, factory.known))}}}"
        )
        return f'throw UnknownKeyError("{product.name}", std::string(key), {known})'
    if factory.unknown == "nothing":
        return "return nullptr"
    if factory.form == "creators":
        return f"return {creator_of(context, product, factory, factory.unknown)}"
    return f"return {_construction(context, product, factory, factory.unknown)}"


def creator_of(context: Context, product: Product, factory: Factory, name: str) -> str:
    """A function without a name that makes a kind."""
    parameters = _taken(context, product, factory).parameters
    base, made = context.names.type(product.name), _construction(context, product, factory, name)
    return f"[]({parameters}) -> std::unique_ptr<{base}> {{ return {made}; }}"


# --- by values ------------------------------------------------------------------------------------------------


def selection_view(context: Context, product: Product) -> View | None:
    """The view of a factory by values that its templates show; None where there is none."""
    selection = context.plan.selection_of(product.name)
    if selection is None:
        return None
    deciding = selection.deciding
    refusing = [refusal.when for refusal in deciding.refusals]
    choosing = [choice.when for choice in deciding.choices if choice.when is not None]
    known = _known(selection, [*refusing, *choosing])
    subjects = {f.name: _subject(context, f, f.name in known) for f in selection.parameters}
    conditions = Conditions(context.code, subjects)
    parameters = selection_parameters(context, selection)
    declared = parameters
    if selection.optional:
        declared = f"{parameters} = {{}}"
    passed = [moved(f, context.names.local(f.name)) for f in selection.required]
    typed = [(context.names.local(f.name), context.code.owned(f)) for f in selection.required]
    typed += [("options", context.code.options(product))] if selection.optional else []
    return {
        "type": context.names.type(product.name),
        "owner": product.name,
        "declared": declared,
        "forms": context.forms("make", typed),
        "parameters": parameters,
        "passed": ", ".join([*passed, *(["std::move(options)"] if selection.optional else [])]),
        "fails": True,
        "known": _known_lines(context, selection, _known(selection, choosing)),
        "refusals": [
            {"when": conditions.text(r.when), "reason": text_literal(r.reason)} for r in deciding.refusals
        ],
        "known_to_refuse": _known_lines(context, selection, _known(selection, refusing)),
        "refusal": beside(
            f"refusal_of_{snake(product.name)}", [context.names.local(f.name) for f in selection.parameters]
        ),
        **_looked_at(context, selection, refusing),
        "choices": [
            {
                "when": conditions.text(c.when) if c.when is not None else None,
                "made": _chosen(context, selection, context.plan.products[c.variant]),
            }
            for c in deciding.choices
        ],
    }


def _looked_at(context: Context, selection: Selection, decisions: list[Decision]) -> dict[str, str]:
    """The parameters and arguments of what only looks at them."""
    mentioned = {field for each in decisions for field in fields_of(each)}
    parameters, arguments = [], []
    for field in selection.required:
        if field.name in mentioned:
            type_, local = context.code.owned(field), context.names.local(field.name)
            parameters.append(f"{type_} {local}" if is_copied(field.type) else f"const {type_} &{local}")
            arguments.append(local)
    if any(field.name in mentioned for field in selection.optional):
        options = context.code.options(context.plan.products[selection.product])
        parameters.append(f"const {options} &options")
        arguments.append("options")
    return {"looked_at": ", ".join(parameters), "shown": ", ".join(arguments)}


def selection_parameters(context: Context, selection: Selection) -> str:
    """The typed parameters."""
    parts = [f"{context.code.owned(f)} {context.names.local(f.name)}" for f in selection.required]
    if selection.optional:
        parts.append(f"{context.code.options(context.plan.products[selection.product])} options")
    return ", ".join(parts)


def _known_lines(context: Context, selection: Selection, known: frozenset[str]) -> list[str]:
    return [
        f"const auto known_{f.name} = {_known_value(context, f)};"
        for f in selection.optional
        if f.name in known
    ]


def _known(selection: Selection, decisions: list[Decision]) -> frozenset[str]:
    """The optional parameters that always have a value, and that some conditions look at."""
    mentioned = {field for each in decisions for field in fields_of(each)}
    return frozenset(
        f.name
        for f in selection.optional
        if f.name in mentioned and (f.default is not None or isinstance(f.type, Collection))
    )


def _known_value(context: Context, field: Field) -> str:
    option = f"options.{context.names.option(field.name)}"
    return otherwise(context, field, option).replace(f"std::move({option})", option)


def _subject(context: Context, field: Field, known: bool) -> Subject:
    if field.required:
        return Subject(context.names.local(field.name), field.type)
    if known:
        return Subject(f"known_{field.name}", field.type)
    return Subject(f"options.{context.names.option(field.name)}", field.type, optional=True)


def _chosen(context: Context, selection: Selection, variant: Product) -> str:
    """The chosen variant, made of what the caller gave; its constructor is no one else's."""
    parameters = {field.name: field for field in selection.parameters}
    given = []
    for field in (*variant.required, *variant.optional):
        if parameters[field.name].required:
            given.append(moved(field, context.names.local(field.name)))
        else:
            option = f"options.{context.names.option(field.name)}"
            given.append(option if is_copied(field.type) else f"std::move({option})")
    type_ = context.names.type(variant.name)
    base = context.names.type(selection.product)
    return f"std::unique_ptr<{base}>(new {type_}({', '.join(given)}))"
