"""The package of what stands in for families in clients' own tests: `fairwaytest` beside `fairway`."""

from __future__ import annotations

from dataclasses import replace

from urform.declaration.types import TEXT
from urform.languages.go.context import Context
from urform.languages.go.copies import methods
from urform.languages.go.expressions import Expressions, text_literal
from urform.languages.go.families import stand_in_text
from urform.languages.go.products import base_call, base_fails, operations
from urform.languages.go.views import comment, qualifiers, types_of
from urform.languages.naming.names import pascal
from urform.languages.target import File
from urform.plan.model import Product
from urform.prose import with_article

View = dict[str, object]

HELPERS = {
    "unfailing": """// unfailing returns what was made of values that keep all limits.
func unfailing[T any](made T, err error) T {
	if err != nil {
		panic(err)
	}
	return made
}
""",
    "orNone": """// orNone is what String shows of a field that may be absent.
func orNone[T any](value T, given bool) any {
	if !given {
		return "none"
	}
	return value
}
""",
}


def doubles_file(context: Context) -> File:
    """All stand-ins, and the kinds that they make."""
    plan, package = context.plan, context.doubles
    outside = replace(context, code=Expressions(plan, context.names, context.package))
    parts = [stand_in_text(outside, family) for family in plan.families_with_stand_in]
    parts += [_kind_text(outside, product) for product in plan.stand_ins.values()]
    code = "\n".join(part.strip("\n") + "\n" for part in parts)
    code += "".join(f"\n{helper}" for name, helper in HELPERS.items() if f"{name}(" in code)
    said = f"Package {package} has stand-ins for clients' own tests: fixed answers, and a record of what was asked."
    header = f"{context.header}{comment(said, 0)}\n"
    more = (context.imported,) if context.package in qualifiers(code) else ()
    return File(f"{package}/stand_ins.go", outside.whole(code, header=header, package=package, more=more))


def _kind_text(context: Context, product: Product) -> str:
    """A kind outside the package of its base: it embeds what all kinds have, and adds no field."""
    names, at = context.names, context.code.at
    base = context.plan.products[product.base or ""]
    type_, letter = names.type(product.name), context.letter(product)
    fields = f"{pascal(base.name)}Fields" if base.fields else ""
    fails = context.code.fallible(product)
    return context.templates.render(
        "double",
        product.name,
        p={
            "type": type_,
            "a": with_article(type_),
            "doc": f"{type_}: {product.doc}",
            "key": text_literal(product.key or ""),
            "fields": fields,
            "at": at,
            "new_doc": f"{context.constructor(product)} returns {with_article(type_)}"
            + (", or an error with the reason why there is none." if fails else "."),
            "constructor": context.constructor(product),
            "parameters": context.parameters(product),
            "calls": f"{context.constructor(product)}{types_of(context.typed(product))}",
            "result": f"(*{type_}, error)" if fails else f"*{type_}",
            "fails": fails,
            "base_fails": base_fails(context, base),
            "base_call": base_call(context, product, base),
            "letter": letter,
            "operations": list(operations(context, product)),
            "shown": _shown(context, product, letter),
            "base": f"{at}{names.type(base.name)}",
            "copies": [_copy(copying, type_, fields, letter) for copying in methods(context, product)],
        },
    )


def _shown(context: Context, product: Product, letter: str) -> str:
    """The expression that `String` returns, from what getters give."""
    taken = context.taken(product)
    verbs, values = [], []
    for field in product.fields:
        verbs.append(f"{field.name}: {'%q' if field.type == TEXT and not field.may_be_absent else '%v'}")
        value = f"{letter}.{context.names.exported(field.name, taken)}()"
        values.append(f"orNone({value})" if field.may_be_absent else value)
    if not verbs:
        return f'"{product.name}{{}}"'
    return f'fmt.Sprintf("{product.name}{{{", ".join(verbs)}}}", {", ".join(values)})'


def _copy(copying: View, type_: str, fields: str, letter: str) -> View:
    """A method that copies a kind: what it embeds copies itself."""
    copied = f"{fields}: {letter}.{copying['name']}Fields()" if fields else ""
    itself = copying["parts"] is None
    return {**copying, "lines": [f"return {letter}" if itself else f"return &{type_}{{{copied}}}"]}
