"""Factories by values in Rust: one function, whose result `.ok()` makes the product or nothing."""

from __future__ import annotations

from urform.declaration.decisions import fields_of
from urform.declaration.types import TEXT, Collection
from urform.declaration.values import Text
from urform.languages.rust.conditions import LINTS, Conditions, Subject
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import is_copied, text_literal
from urform.languages.rust.factories import creation, function_of
from urform.languages.rust.products import otherwise
from urform.plan.model import Field, Product, Selection


def selection_text(context: Context, product: Product, selection: Selection) -> str:
    """The function that chooses a variant."""
    known = _known(selection)
    subjects = {f.name: _subject(context, f, f.name in known) for f in selection.parameters}
    conditions = Conditions(context.code, subjects)
    fails = context.code.selection_fails(selection)
    texts = [conditions.text(r.when) for r in selection.deciding.refusals]
    whens = [conditions.text(c.when) if c.when is not None else None for c in selection.deciding.choices]
    typed = _typed_parameters(context, selection)
    return context.templates.render(
        "selection",
        product.name,
        s={
            "type": context.names.type(product.name),
            "owner": product.name,
            "function": function_of(product),
            "fails": fails,
            "many": len(selection.required) + bool(selection.optional) > 7,
            "lints": LINTS if any(_is_compound(text) for text in [*texts, *whens] if text) else (),
            "parameters": ", ".join(f"{name}: {type_}" for name, type_ in typed),
            "types": f"({', '.join(type_ for _, type_ in typed)})",
            "result": creation(context.owned_type(product), fails=fails),
            "known": [
                f"let known_{f.name} = {_known_value(context, f)};"
                for f in selection.optional
                if f.name in known
            ],
            "refusals": [
                {"when": text, "reason": text_literal(refusal.reason)}
                for text, refusal in zip(texts, selection.deciding.refusals, strict=True)
            ],
            "choices": [
                {
                    "when": when,
                    "made": _construction(context, selection, context.plan.products[c.variant], fails),
                }
                for when, c in zip(whens, selection.deciding.choices, strict=True)
            ],
        },
    )


def _is_compound(text: str) -> bool:
    return any(sign in text for sign in ("&&", "||", "!("))


def _typed_parameters(context: Context, selection: Selection) -> list[tuple[str, str]]:
    """The typed parameters."""
    code = context.code
    parts = [
        (context.names.local(f.name), code.parameter(f.type, shared=code.shared(f)))
        for f in selection.required
    ]
    if selection.optional:
        parts.append(("options", code.options(context.plan.products[selection.product])))
    return parts


def _known(selection: Selection) -> frozenset[str]:
    """The optional parameters that always have a value, and that conditions look at."""
    deciding = selection.deciding
    decisions = [r.when for r in deciding.refusals] + [c.when for c in deciding.choices if c.when is not None]
    mentioned = {field for each in decisions for field in fields_of(each)}
    return frozenset(
        f.name
        for f in selection.optional
        if f.name in mentioned and (f.default is not None or isinstance(f.type, Collection))
    )


def _known_value(context: Context, field: Field) -> str:
    option = f"options.{context.names.option(field.name)}"
    if isinstance(field.default, Text):  # lent, as a required one is
        given = (
            f"unwrap_or({text_literal(field.default.text)})" if field.default.text else "unwrap_or_default()"
        )
        return f"{option}.as_deref().{given}"
    return otherwise(context, field, option if is_copied(field.type) else f"{option}.clone()")


def _subject(context: Context, field: Field, known: bool) -> Subject:
    if field.required:
        return Subject(context.names.local(field.name), field.type)
    if known:
        value = f"known_{field.name}"
        return Subject(value, field.type)
    return Subject("", field.type, f"options.{context.names.option(field.name)}")


def _construction(context: Context, selection: Selection, variant: Product, fails: bool) -> str:
    """The chosen variant, made of what the caller gave."""
    parameters = {field.name: field for field in selection.parameters}
    given = []
    for field in (*variant.required, *variant.optional):
        name = context.names.local(field.name)
        if not parameters[field.name].required:
            given.append(f"options.{context.names.option(field.name)}")
        elif field.required:
            given.append(name)
        else:
            given.append(f"Some({name}{'.to_owned()' if field.type == TEXT else ''})")
    type_ = context.names.type(variant.name)
    call = f"{type_}::new({', '.join(given)}){'?' if context.code.fallible(variant) else ''}"
    base = context.plan.products[selection.product]
    expression = (
        f"Box::new({call})"
        if context.code.is_open(base)
        else f"{context.names.type(base.name)}::{type_}({call})"
    )
    return f"Ok({expression})" if fails else expression
