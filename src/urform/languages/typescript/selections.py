"""Factories by values in TypeScript: an entry that fails with the reason, and one that gives undefined."""

from __future__ import annotations

from urform.declaration.decisions import fields_of
from urform.declaration.types import ChoiceType, Type
from urform.languages.naming.names import article, pascal
from urform.languages.typescript.conditions import condition_text
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import guard_name, text_literal
from urform.languages.typescript.factories import made_of
from urform.languages.typescript.products import default, keywords, missing_lines
from urform.plan.model import Field, Product, Selection


def selection_text(context: Context, product: Product, selection: Selection) -> str:
    """Both entries."""
    names = context.names
    deciding = selection.deciding
    decisions = [r.when for r in deciding.refusals] + [c.when for c in deciding.choices if c.when is not None]
    mentioned = {field for each in decisions for field in fields_of(each)}
    parameters = {field.name: field for field in selection.parameters}
    named = [f for f in selection.parameters if f.name in mentioned and _needs_name(f)]

    def name(field: str) -> str:
        return _known(parameters[field]) if parameters[field] in named else f"fields.{names.member(field)}"

    def type_of(field: str) -> Type:
        return parameters[field].type

    type_ = names.value(product.name)
    taken = f"fields: {names.stem(product.name)}Fields" if selection.parameters else ""
    return context.templates.render(
        "selection",
        product.name,
        s={
            "type": type_,
            "owner": product.name,
            "a": article(product.name),
            "function": names.function(product.name),
            "lenient": names.lenient(product.name),
            "guards": [
                {"type": names.type(name), "value": names.value(name), "name": guard_name(names.type(name))}
                for name in (product.name, *product.variants)
                if name in context.held_in_fields
            ],
            "bare": not selection.required,
            "keywords": keywords(context, selection.parameters),
            "fields": taken + ("" if selection.required or not taken else " = {}"),
            "pass_on": "fields" if taken else "",
            "missing": missing_lines(context, f'"{product.name}"', list(selection.required))
            if selection.required
            else [],
            "typed": [
                _typed(context, product, f)
                for f in selection.parameters
                if f.name in mentioned and not isinstance(f.type, ChoiceType)
            ],
            "known": [_known_line(context, field) for field in named],
            "refusals": [
                {"when": condition_text(r.when, name, type_of), "reason": text_literal(r.reason)}
                for r in deciding.refusals
            ],
            "choices": [
                {
                    "when": condition_text(c.when, name, type_of) if c.when is not None else None,
                    "made": made_of(names, context.plan.products[c.variant], selection.parameters),
                }
                for c in deciding.choices
            ],
        },
    )


def _typed(context: Context, product: Product, field: Field) -> str:
    """The checks that a value is of its type, before conditions use it."""
    owner = context.plan.owners(product, field.name)[0]
    given = f"fields.{context.names.member(field.name)}"
    if field.required:
        return f"{context.code.of_type(field, given, owner)};"
    return f"ifGiven({given}, (value) => {context.code.of_type(field, 'value', owner)});"


def _needs_name(field: Field) -> bool:
    """Whether conditions need a variable for it.

    It has a default, may be null, or would be narrowed: after `side === "port"` the compiler knows no other side.
    """
    return not field.required or isinstance(field.type, ChoiceType)


def _known(field: Field) -> str:
    return f"known{pascal(field.name)}"


def _known_line(context: Context, field: Field) -> str:
    given = f"fields.{context.names.member(field.name)}"
    type_ = ": string" if isinstance(field.type, ChoiceType) else ""
    if not field.required:
        given = f"{given} ?? {default(context, field) or 'undefined'}"
        type_ += " | undefined" if type_ and field.may_be_absent else ""
    return f"const {_known(field)}{type_} = {given};"
