"""Factories by values in Java: static methods of the abstract class."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.decisions import fields_of
from urform.languages.java.conditions import Conditions, Subject
from urform.languages.java.context import Context
from urform.languages.java.docs import OPTIONS, as_parameter
from urform.languages.java.expressions import or_else, text_literal
from urform.languages.java.views import types_of
from urform.languages.naming.names import article, beside, pascal, spoken
from urform.plan.model import Field, Product, Selection


def selection_view(context: Context, product: Product) -> dict[str, object] | None:
    """The view of the factory that the template of the abstract class shows."""
    selection = context.plan.selection_of(product.name)
    if selection is None:
        return None
    known = list(_known(selection))
    conditions = Conditions(
        context.code, {f.name: _subject(context, f, f in known) for f in selection.parameters}
    )
    required = [f"{context.code.plain(f.type)} {context.names.member(f.name)}" for f in selection.required]
    asked = "".join(
        f'.unless("{f.name}", {context.names.member(f.name)})'
        for f in selection.required
        if context.is_reference(f)
    )
    asked += '.unless("options", options)' if selection.optional else ""
    parameters = [*required, *(["Options options"] if selection.optional else [])]
    names = [context.names.member(f.name) for f in selection.required]
    taken = [*names, "options"]
    return {
        "refused": beside("refused", taken),
        "absent": beside("missing", taken),
        "owner": product.name,
        "doc": f"Makes {article(product.name)} from these values.",
        "find_doc": "Like {@code of}, but empty where there is none.",
        "takes": [as_parameter(f, context.names.member(f.name)) for f in selection.required]
        + ([OPTIONS] if selection.optional else []),
        "returns": f"the {spoken(product.name)}",
        "throws": "CreationException with the reason where there is none" if selection.parameters else "",
        "missing_throws": "CreationException.MissingFields if a required value is null" if asked else "",
        "parameters": ", ".join(parameters),
        "types": types_of(parameters),
        "arguments": ", ".join([*names, *(["options"] if selection.optional else [])]),
        "missing": f'new Missing("{product.name}"){asked}.refuse();' if asked else "",
        "known": [_known_line(context, field) for field in known],
        "refusals": [
            {"when": conditions.text(r.when), "reason": text_literal(r.reason)}
            for r in selection.deciding.refusals
        ],
        "choices": [
            {
                "when": conditions.text(c.when) if c.when is not None else None,
                "made": _construction(context, selection, context.plan.products[c.variant]),
            }
            for c in selection.deciding.choices
        ],
    }


def _known(selection: Selection) -> Iterator[Field]:
    """The optional parameters with a default that conditions look at."""
    deciding = selection.deciding
    decisions = [r.when for r in deciding.refusals] + [c.when for c in deciding.choices if c.when is not None]
    mentioned = {field for each in decisions for field in fields_of(each)}
    return (f for f in selection.optional if f.name in mentioned and not f.may_be_absent)


def _known_line(context: Context, field: Field) -> str:
    option = f"options.{context.names.member(field.name)}"
    value = or_else(field, option, context.default(field) or "null")
    return f"{context.code.plain(field.type)} known{pascal(field.name)} = {value};"


def _subject(context: Context, field: Field, known: bool) -> Subject:
    if known:
        return Subject(f"known{pascal(field.name)}", field.type, False)
    name = context.names.member(field.name)
    return Subject(name if field.required else f"options.{name}", field.type, not field.required)


def _construction(context: Context, selection: Selection, variant: Product) -> str:
    type_ = context.names.type(variant.name)
    if variant.single:
        return f"{type_}.instance()"
    parameters = {field.name: field for field in selection.parameters}
    given = []
    for field in (*variant.required, *variant.optional):
        name = context.names.member(field.name)
        given.append(name if parameters[field.name].required else f"options.{name}")
    return f"new {type_}({', '.join(given)})"
