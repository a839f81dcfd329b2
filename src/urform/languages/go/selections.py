"""Factories by values in Go: an entry that tells a reason, and one that tells only whether there is a product."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.decisions import fields_of
from urform.declaration.types import ChoiceType, Collection, ProductType
from urform.languages.go.conditions import Conditions, Subject
from urform.languages.go.context import Context
from urform.languages.go.expressions import Test, text_literal
from urform.languages.go.factories import result_type
from urform.languages.go.refusals import refusals
from urform.languages.go.views import joined, types_of
from urform.languages.naming.names import pascal
from urform.plan.model import Field, Product, Selection
from urform.prose import with_article


def selection_text(context: Context, product: Product, selection: Selection) -> str:
    """Both entries."""
    type_ = context.names.type(product.name)
    known = list(_known(selection))
    fails = context.code.selection_fails(selection)
    needed = [field for field in selection.required if isinstance(field.type, ProductType)]
    conditions = Conditions(
        context.code, {f.name: _subject(context, f, f in known) for f in selection.parameters}
    )
    tests = [
        Test(
            conditions.text(r.when),
            f'&RefusedError{{Owner: "{product.name}", Reason: {text_literal(r.reason)}}}',
        )
        for r in selection.deciding.refusals
    ]
    typed = selection_parameters(context, selection)
    arguments = ", ".join(_arguments(context, selection))
    return context.templates.render(
        "selection",
        product.name,
        s={
            "type": type_,
            "a": with_article(type_),
            "fails": fails,
            "parameters": joined(typed),
            "calls": types_of(typed),
            "result": result_type(type_, False, fails),
            "missing": missing_lines(context, product.name, needed, "nil, ") if needed else [],
            "known": [line for field in known for line in _known_lines(context, field)],
            "refusals": list(refusals(tests, "nil")),
            "choices": [
                {
                    "when": conditions.text(c.when) if c.when is not None else None,
                    "lines": list(_construction(context, selection, context.plan.products[c.variant], fails)),
                }
                for c in selection.deciding.choices
            ],
            "found": result_type(type_, True, bool(needed)),
            "of": list(_of(type_, arguments, fails, bool(needed))),
        },
    )


def selection_parameters(context: Context, selection: Selection, at: str = "") -> list[tuple[str, str]]:
    """The typed parameters of both entries."""
    typed = [(context.names.local(f.name), context.code.type(f.type)) for f in selection.required]
    if selection.optional:
        typed.append(("opts", f"{at}{context.names.type(selection.product)}Options"))
    return typed


def _arguments(context: Context, selection: Selection) -> list[str]:
    names = [context.names.local(field.name) for field in selection.required]
    return [*names, *(["opts"] if selection.optional else [])]


def missing_lines(context: Context, owner: str, needed: list[Field], none: str) -> list[str]:
    """One error for everything that is nil."""
    names = [context.names.local(field.name) for field in needed]
    if len(needed) == 1:
        error = f'&MissingError{{Owner: "{owner}", Fields: []string{{"{needed[0].name}"}}}}'
        return [f"if {names[0]} == nil {{", f"\treturn {none}{error}", "}"]
    given = ", ".join(f'given{{"{f.name}", {name} != nil}}' for f, name in zip(needed, names, strict=True))
    return [f'if err := missing("{owner}", {given}); err != nil {{', f"\treturn {none}err", "}"]


def _known(selection: Selection) -> Iterator[Field]:
    """The optional parameters with a default that conditions look at; an empty collection needs none."""
    deciding = selection.deciding
    decisions = [r.when for r in deciding.refusals] + [c.when for c in deciding.choices if c.when is not None]
    mentioned = {field for each in decisions for field in fields_of(each)}
    return (f for f in selection.optional if f.name in mentioned and f.default is not None)


def _known_lines(context: Context, field: Field) -> Iterator[str]:
    option, name = f"opts.{pascal(field.name)}", f"known{pascal(field.name)}"
    assert field.default is not None
    default = context.code.value(field.default)
    if isinstance(field.type, (*Collection, ProductType)):
        yield from (f"{name} := {option}", f"if {name} == nil {{", f"\t{name} = {default}", "}")
    elif isinstance(field.type, ChoiceType):
        yield f"{name} := firstOf({option}, {default})"
    else:
        yield f"{name} := orElse({option}, {default})"


def _subject(context: Context, field: Field, known: bool) -> Subject:
    if known:
        return Subject(f"known{pascal(field.name)}", field.type, False)
    if field.required:
        return Subject(context.names.local(field.name), field.type, False)
    return Subject(f"opts.{pascal(field.name)}", field.type, context.code.is_pointer(field))


def _construction(context: Context, selection: Selection, variant: Product, fails: bool) -> Iterator[str]:
    parameters = {field.name: field for field in selection.parameters}
    given = []
    for field in (*variant.required, *variant.optional):
        name = context.names.local(field.name)
        if parameters[field.name].required:
            given.append(f"&{name}" if not field.required and context.code.is_pointer(field) else name)
        else:
            given.append(f"opts.{pascal(field.name)}")
    call = f"{context.constructor(variant)}({', '.join(given)})"
    if not context.code.fallible(variant):
        yield f"return {call}{', nil' if fails else ''}"
        return
    yield f"made, err := {call}"
    yield from ("if err != nil {", "\treturn nil, err", "}", "return made, nil")


def _of(type_: str, arguments: str, fails: bool, missing: bool) -> Iterator[str]:
    if not fails:
        yield f"return New{type_}({arguments}), true"
        return
    yield f"made, err := New{type_}({arguments})"
    if missing:
        yield "var absent *MissingError"
        yield from ("if errors.As(err, &absent) {", "\treturn nil, false, err", "}")
    yield f"return made, err == nil{', nil' if missing else ''}"
