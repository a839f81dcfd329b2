"""Copies and clones of Java products: what is owned is copied at every level, what starts again starts again.

Where a clone starts nothing again, `copy()` serves for both. Where it does, and products are copied on the way in
too, `copied(again)` does either, and `copy()` is `copied(true)`.
"""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.languages.java.context import Context
from urform.languages.rendering.prose import clone_sentences
from urform.plan.model import Field, Product


@dataclass(frozen=True, slots=True)
class Copying:
    """The way in which a class is copied."""

    owned: bool  # on the way in
    cloned: bool
    restarts: bool  # a clone differs from a copy
    mutable: bool
    decides: bool  # it is told which

    @property
    def constructs(self) -> bool:
        """Whether a copying constructor is needed: what cannot change is its own copy."""
        return (self.owned or self.cloned) and (self.mutable or (self.cloned and self.restarts))


def copying(context: Context, product: Product) -> Copying:
    """How a product is copied."""
    plan = context.plan
    names = {product.name, product.base or product.name}
    return Copying(
        owned=bool(names & plan.owned),
        cloned=bool(names & plan.cloned),
        restarts=plan.restarts(product),
        mutable=product.mutable,
        decides=context.code.copies.decides(product),
    )


def methods(context: Context, product: Product) -> list[dict[str, object]]:
    """The methods that copy, as the template of a class shows them."""
    how = copying(context, product)
    if not (how.cloned or how.owned):
        return []
    public = context.plan.prototype_of(product.base or product.name) is not None
    type_ = context.names.type(product.name)
    fresh = [field.name for field in product.fields if field.copy == "fresh"]
    copy, _, more = clone_sentences(fresh if how.cloned else (), mutable=product.mutable).partition(".")
    copied = f"new {type_}(this)" if how.constructs else "this"
    views = []
    if public or not how.decides:
        method = _method(context, product, "copy", "", "copied(true)" if how.decides else copied, public)
        views.append({**method, "returned": copy, "doc": more.strip()})
    if how.decides:
        again = f"new {type_}(this, again)" if product.mutable else f"again ? new {type_}(this, true) : this"
        views.append(_method(context, product, "copied", "boolean again", again, False))
    return views


def _method(
    context: Context, product: Product, name: str, parameters: str, expression: str, public: bool
) -> dict[str, object]:
    alone = product.base is None and not product.abstract
    base = context.plan.products[product.base] if product.base is not None else product
    modifier = "public " if public else "" if alone or base.closed else "protected "
    return {
        "name": name,
        "clones": "" if parameters else "copy",
        "told": product.base is None and modifier != "",
        "doc": "Copies it for what holds it.",
        "takes": [("again", "whether fields start again")] if parameters else [],
        "returned": "a copy",
        "modifier": modifier,
        "parameters": parameters,
        "made": expression,
    }


def copying_lines(context: Context, product: Product, how: Copying) -> list[str]:
    """What the copying constructor begins with."""
    if product.base is not None:
        passed = ["original", *(["again"] if how.decides else [])]
        base = context.plan.products[product.base]
        passed += [
            context.default(product.field(f.name)) or "null" for f in starting_otherwise(context, base, how)
        ]
        return [f"super({', '.join(passed)});"]
    return []


def copied_fields(context: Context, product: Product, how: Copying) -> list[dict[str, str]]:
    """What it gives each field."""
    return [
        {"name": context.names.member(field.name), "value": _copied(context, product, field, how)}
        for field in product.own_fields
    ]


def starting_otherwise(context: Context, product: Product, how: Copying) -> list[Field]:
    """The fields of an abstract product that start again in a clone, in some variant with another default."""
    return [field for field in context.plan.redefined(product) if field.copy == "fresh" and how.cloned]


def copying_parameters(context: Context, product: Product, how: Copying) -> list[str]:
    """The parameters of the copying constructor."""
    parameters = [f"{context.names.type(product.name)} original", *(["boolean again"] if how.decides else [])]
    for field in starting_otherwise(context, product, how) if product.abstract else ():
        parameters.append(f"{context.code.stored(field)} {context.names.member(field.name)}Default")
    return parameters


def _copied(context: Context, product: Product, field: Field, how: Copying) -> str:
    name = context.names.member(field.name)
    kept = f"original.{name}"
    if field.copy == "fresh" and how.cloned:
        fresh = context.default(field) or "null"
        if product.abstract and field in starting_otherwise(context, product, how):
            fresh = f"{name}Default"
        return f"again ? {fresh} : {kept}" if how.decides else fresh
    inner = context.plan.product_in(field.type)
    changes = context.plan.changes_in_clone(field) if how.cloned else context.plan.holds_mutable(field.type)
    if inner is None or not changes:
        return kept
    calls = context.code.copies
    call = calls.with_its_owner(product, inner) if how.cloned else calls.on_the_way_in(inner)
    absent = f"{kept} == null ? null : " if field.may_be_absent else ""
    return f"{absent}{context.code.copied(field, kept, call)}"
