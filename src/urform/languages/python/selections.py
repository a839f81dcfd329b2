"""Factories by values in Python: an entry that fails with the reason, and one that gives None."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.decisions import fields_of
from urform.declaration.types import ChoiceType, Collection
from urform.languages.naming.names import article, spoken
from urform.languages.python.conditions import condition_text
from urform.languages.python.context import Context
from urform.languages.python.expressions import text_literal
from urform.languages.python.products import ProductWriter
from urform.plan.model import Field, Product, Selection


def selection_text(context: Context, product: Product, selection: Selection) -> str:
    """Both entries."""
    names = context.names
    deciding = selection.deciding
    decisions = [r.when for r in deciding.refusals] + [c.when for c in deciding.choices if c.when is not None]
    mentioned = {field for each in decisions for field in fields_of(each)}
    known = [f for f in selection.optional if f.name in mentioned and not f.may_be_absent]

    def name(field: str) -> str:
        return f"known_{field}" if any(f.name == field for f in known) else names.field(field)

    function = names.function(product.name)
    meets = any(names.field(field.name) == function for field in selection.parameters)
    return context.templates.render(
        "selection",
        product.name,
        s={
            "type": names.value(product.name),
            "owner": product.name,
            "a": article(product.name),
            "spoken": spoken(product.name),
            "function": function,
            "called": f"_{function}" if meets else function,
            "lenient": names.lenient(product.name),
            "parameters": ", ".join(_parameter(context, field) for field in selection.parameters),
            "keywords": [
                (names.field(f.name), context.code.type(f.type), f.required) for f in selection.parameters
            ],
            "passed": ", ".join(f"{n}={n}" for n in (names.field(f.name) for f in selection.parameters)),
            "given": ProductWriter(context).given(
                f'"{product.name}"', list(selection.required), ProductWriter(context).as_parameter
            )
            if selection.required
            else "",
            "typed": [
                line
                for f in selection.parameters
                if f.name in mentioned
                for line in _typed(context, product, f)
            ],
            "known": [
                f"known_{f.name}{_told(context, f)} = {context.code.default(f)} if {names.field(f.name)} is None"
                f" else {names.field(f.name)}"
                for f in known
            ],
            "refusals": [
                {"when": condition_text(r.when, context.code, name), "reason": text_literal(r.reason)}
                for r in deciding.refusals
            ],
            "choices": [
                {
                    "when": condition_text(c.when, context.code, name) if c.when is not None else None,
                    "made": _construction(context, context.plan.products[c.variant]),
                }
                for c in deciding.choices
            ],
        },
    )


def _typed(context: Context, product: Product, field: Field) -> Iterator[str]:
    """The checks that a value is of its type, before conditions use it."""
    if isinstance(field.type, ChoiceType):
        return  # conditions compare it with words only
    name = context.names.field(field.name)
    check = context.code.of_type(field, name, context.plan.owners(product, field.name)[0])
    if field.required:
        yield check
    else:
        yield f"if {name} is not None:"
        yield f"    {check}"


def _parameter(context: Context, field: Field) -> str:
    type_ = context.code.type(field.type)
    name = context.names.field(field.name)
    return f"{name}: {type_}" if field.required else f"{name}: {type_} | None = None"


def _construction(context: Context, variant: Product) -> str:
    if variant.single:
        return ProductWriter(context).constant(variant)
    names = [context.names.field(field.name) for field in variant.fields]
    return f"{context.names.type(variant.name)}._made({', '.join(f'{n}={n}' for n in names)})"


def _told(context: Context, field: Field) -> str:
    """The type of what an empty container would not tell."""
    return f": {context.code.type(field.type)}" if isinstance(field.type, Collection) else ""
