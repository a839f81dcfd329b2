"""Copies and clones of Java products: what is owned is copied at every level, what starts again starts again."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from urform.languages.names import article
from urform.plan.model import Field, Plan, Product

if TYPE_CHECKING:
    from urform.languages.java.emitter import Emitter


class CopyNames:
    """What the methods that copy are called: one serves for both where a clone starts nothing again."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan

    def clone(self, product: Product) -> str:
        """The method that clones a product."""
        return "copy"

    def copy(self, product: Product) -> str:
        """The method that copies a product on the way in, all of it."""
        return "duplicate" if self._plan.restarts(product) else "copy"


@dataclass(frozen=True, slots=True)
class Copying:
    """What a class needs to be copied: the methods, and how its copying constructor works."""

    owned: bool  # copied on the way in
    cloned: bool
    restarts: bool  # a clone differs from a copy
    mutable: bool

    @property
    def constructs(self) -> bool:
        """Whether a copying constructor is needed: what cannot change is its own copy."""
        return (self.owned or self.cloned) and (self.mutable or (self.cloned and self.restarts))

    @property
    def decides(self) -> bool:
        """Whether the constructor has to be told if fields start again."""
        return self.constructs and self.owned and self.cloned and self.restarts


def copying(plan: Plan, product: Product) -> Copying:
    """How a product is copied."""
    names = {product.name, product.base or product.name}
    return Copying(
        owned=bool(names & plan.owned),
        cloned=bool(names & plan.cloned),
        restarts=plan.restarts(product),
        mutable=product.mutable,
    )


def methods(emitter: Emitter, product: Product) -> list[dict[str, object]]:
    """The methods that copy, as the template of a class shows them."""
    how = copying(emitter.plan, product)
    found = []
    if how.cloned or how.owned:
        public = emitter.plan.prototype_of(product.base or product.name) is not None
        if how.cloned or not how.restarts:
            found.append(_method(emitter, product, how, "copy", public, "true"))
        if how.owned and how.restarts:
            found.append(_method(emitter, product, how, "duplicate", False, "false"))
    return found


def _method(
    emitter: Emitter, product: Product, how: Copying, name: str, public: bool, again: str
) -> dict[str, object]:
    type_ = emitter.names.type(product.name)
    fresh = [field.name for field in product.fields if field.copy == "fresh"]
    said = f"{article(product.name).capitalize()} of the same kind and content"
    said += f", save {' and '.join(fresh)}" if fresh and name == "copy" else ""
    said += "; a change to one does not reach the other." if product.mutable else "."
    made = f"new {type_}(this{', ' + again if how.decides else ''})" if how.constructs else "this"
    if product.single or (name == "copy" and not product.mutable and not how.restarts):
        made = "this"
    alone = product.base is None and not product.abstract
    base = emitter.plan.products[product.base] if product.base is not None else product
    return {
        "name": name,
        "doc": said if public and product.base is None else "",
        "modifier": "public " if public else "" if alone or base.closed else "protected ",
        "made": made,
    }


def copying_lines(emitter: Emitter, product: Product, how: Copying) -> list[str]:
    """The body of the copying constructor."""
    passed = ", again" if how.decides else ""
    found = [f"super(original{passed});"] if product.base is not None else []
    if product.abstract:
        found.append("this.key = original.key;")
    return found + [_line(emitter, field, how) for field in product.own_fields]


def _line(emitter: Emitter, field: Field, how: Copying) -> str:
    name = emitter.names.member(field.name)
    kept = f"original.{name}"
    if field.copy == "fresh" and how.cloned:
        fresh = emitter.default(field) or "null"
        return f"this.{name} = again ? {fresh} : {kept};" if how.decides else f"this.{name} = {fresh};"
    copied = _copied(emitter, field, how)
    if copied is None:
        return f"this.{name} = {kept};"
    absent = f"{kept} == null ? null : " if field.may_be_absent else ""
    return f"this.{name} = {absent}{copied};"


def _copied(emitter: Emitter, field: Field, how: Copying) -> str | None:
    """The expression that copies what a field owns; None where it can be shared."""
    plan, names = emitter.plan, emitter.code.copying
    inner = plan.product_in(field.type)
    if inner is None:
        return None
    kept = f"original.{emitter.names.member(field.name)}"
    clone = names.clone(inner) if plan.changes_in_clone(field) else None
    copy = names.copy(inner) if plan.holds_mutable(field.type) else None
    if how.cloned and not how.decides:
        return emitter.code.copied(field, kept, clone) if clone else None
    if how.decides and clone != copy:
        one = emitter.code.copied(field, kept, clone) if clone else kept
        other = emitter.code.copied(field, kept, copy) if copy else kept
        return f"again ? {one} : {other}"
    return emitter.code.copied(field, kept, copy) if copy else None
