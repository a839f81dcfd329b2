"""Exemplars and pools in TypeScript."""

from __future__ import annotations

from urform.languages.naming.names import STORE_NAMES, beside, camel, pascal, spoken
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import listed, text_literal
from urform.plan.model import Field, Pool, Product, Prototype

WIDTH = 80
MOST_MAPS = 3  # within each other


def exemplars_text(context: Context, product: Product, prototype: Prototype) -> str:
    """The store of a product's exemplars."""
    return context.templates.render(
        "exemplars",
        product.name,
        e={
            "type": context.names.value(product.name),
            "class": context.names.type(product.name),
            "stem": context.names.stem(product.name),
            "owner": product.name,
            "plural": f"{spoken(product.name)}s",
            "variable": beside(context.names.parameter(camel(product.name)), STORE_NAMES),
            "held": [
                {"name": text_literal(e.name), "made": context.code.value(e.product)}
                for e in prototype.exemplars
            ],
        },
    )


def pool_text(context: Context, product: Product, pool: Pool) -> str:
    """The pool of a product. A key of one field is that field; one of several is an object of them."""
    names = context.names
    type_ = names.type(product.name)
    fields = [product.field(name) for name in pool.key]
    single = len(fields) == 1
    parameter = names.parameter(fields[0].name) if single else "key"
    existing, created = beside("held", [parameter]), beside("made", [parameter])
    return context.templates.render(
        "pool",
        product.name,
        p={
            "type": type_,
            "stem": names.stem(product.name),
            "owner": product.name,
            "spoken": spoken(product.name),
            "key_words": " and ".join(spoken(name) for name in pool.key),
            "weak": pool.weak,
            "needs_maker": pool.needs_maker,
            "single": single,
            "parameter": parameter,
            "held": existing,
            "made_": created,
            "key_type": context.code.type(fields[0].type) if single else f"{names.stem(product.name)}Key",
            "held_key": context.code.type(fields[0].type) if single else "string",
            **_store(context, fields, type_, pool, existing),
            "fields": [{"name": names.member(f.name), "type": context.code.type(f.type)} for f in fields],
            "known": "" if single else _text_of([_asked(context, f, single) for f in fields]),
            "differs": " || ".join(
                f"{created}.{names.member(f.name)} !== {_asked(context, f, single)}" for f in fields
            ),
            "made": f"new {type_}({listed([context.code.property(fields[0].name, parameter)]) if single else 'key'})",
        },
    )


def _store(context: Context, fields: list[Field], type_: str, pool: Pool, existing: str) -> dict[str, object]:
    """Where a pool keeps what it has made, and how it is found there.

    A key of two or three parts is looked up part by part, in maps within maps: a text of all of them would be made anew
    for each look-up. One of more parts is such a text, for types within types are hard to read.
    """
    asked = [_asked(context, field, len(fields) == 1) for field in fields]
    inner = f"WeakRef<{type_}>" if pool.weak else type_
    if len(fields) > MOST_MAPS:
        steps, outer = [f"const whole = {_text_of(asked)};"], ["this.#held"]
        types, last = ("string", inner), "whole"
    else:
        for field in reversed(fields[1:]):
            inner = f"Map<{context.code.type(field.type)}, {inner}>"
        types, last = (context.code.type(fields[0].type), inner), asked[-1]
        outer = ["this.#held", *(f"by{pascal(f.name)}" for f in fields[:-1])]
        steps = [
            f"const {outer[at + 1]} = {outer[at]}{'?' if at else ''}.get({each});"
            for at, each in enumerate(asked[:-1])
        ]
    path = "this.#held"
    for each in asked[:-1] if len(outer) > 1 else ():
        path = f"within({path}, {each})"
    within = "?" if len(outer) > 1 else ""
    names = [context.names.member(f.name) for f in fields]
    return {
        "held_lines": _map_lines(*types),
        "steps": steps,
        "innermost": f"{outer[-1]}{within}",
        "last": last,
        "find": f"const {existing} = {outer[-1]}{within}.get({last}){'?.deref()' if pool.weak else ''};",
        "path": path if within else None,
        "registered": asked[0] if len(fields) == 1 else listed(f"{name}: key.{name}" for name in names),
    }


def _text_of(asked: list[str]) -> str:
    return f"JSON.stringify([{', '.join(asked)}])"


def _map_lines(key: str, value: str) -> list[str]:
    """The member that holds everything; a type that is too long for a line has one for each of its arguments."""
    line = f"readonly #held = new Map<{key}, {value}>();"
    if len(line) + 2 <= WIDTH:
        return [line]
    return ["readonly #held = new Map<", f"  {key},", f"  {value}", ">();"]


def _asked(context: Context, field: Field, single: bool) -> str:
    return context.names.parameter(field.name) if single else f"key.{context.names.member(field.name)}"
