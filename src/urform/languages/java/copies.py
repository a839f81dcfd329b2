"""Copies and clones of Java products: what is owned is copied at every level, what starts again starts again.

Where a clone starts nothing again, `copy()` serves for both. Where it does, and products are copied on the way in
too, `copied(again)` does either, and `copy()` is `copied(true)`.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from urform.languages.rendering.prose import clone_sentences
from urform.plan.model import Field, Plan, Product
from urform.records import dataclass

if TYPE_CHECKING:
    from urform.languages.java.emitter import Emitter


class CopyCalls:
    """How products are copied by those that own them."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._deciding: set[str] = set()
        waiting = [p for p in plan.products.values() if p.name in plan.owned and p.name in plan.cloned]
        while waiting:
            product = waiting.pop()
            if product.name in self._deciding or not plan.restarts(product):
                continue
            self._deciding.add(product.name)
            related = [*product.variants, *([product.base] if product.base is not None else [])]
            inner = [plan.product_in(f.type) for f in product.fields if plan.changes_in_clone(f)]
            waiting += [plan.products[name] for name in related] + [p for p in inner if p is not None]

    def decides(self, product: Product) -> bool:
        """Whether a product is copied both ways, with all of it and with what starts again."""
        return (product.base or product.name) in self._deciding

    def on_the_way_in(self, product: Product) -> str:
        """The call that copies all of a product."""
        return "copied(false)" if self.decides(product) else "copy()"

    def with_its_owner(self, owner: Product, product: Product) -> str:
        """The call by which a product is copied with the one that owns it."""
        if not self.decides(product):
            return "copy()"
        if self.decides(owner):
            return "copied(again)"
        return (
            "copy()" if self._plan.prototype_of(product.base or product.name) is not None else "copied(true)"
        )

    def function(self, type_: str, call: str, each: str) -> str:
        """A call as a function of an element."""
        return f"{type_}::copy" if call == "copy()" else f"{each} -> {each}.{call}"


@dataclass(frozen=True, slots=True)
class Copying:
    """How a class is copied."""

    owned: bool  # on the way in
    cloned: bool
    restarts: bool  # a clone differs from a copy
    mutable: bool
    decides: bool  # it is told which

    @property
    def constructs(self) -> bool:
        """Whether a copying constructor is needed: what cannot change is its own copy."""
        return (self.owned or self.cloned) and (self.mutable or (self.cloned and self.restarts))


def copying(emitter: Emitter, product: Product) -> Copying:
    """How a product is copied."""
    plan = emitter.plan
    names = {product.name, product.base or product.name}
    return Copying(
        owned=bool(names & plan.owned),
        cloned=bool(names & plan.cloned),
        restarts=plan.restarts(product),
        mutable=product.mutable,
        decides=emitter.code.copies.decides(product),
    )


def methods(emitter: Emitter, product: Product) -> list[dict[str, object]]:
    """The methods that copy, as the template of a class shows them."""
    how = copying(emitter, product)
    if not (how.cloned or how.owned):
        return []
    public = emitter.plan.prototype_of(product.base or product.name) is not None
    type_ = emitter.names.type(product.name)
    fresh = [field.name for field in product.fields if field.copy == "fresh"]
    said = f"Returns {clone_sentences(fresh if how.cloned else (), mutable=product.mutable)}"
    made = f"new {type_}(this)" if how.constructs else "this"
    found = []
    if public or not how.decides:
        method = _method(emitter, product, "copy", "", "copied(true)" if how.decides else made, public)
        found.append({**method, "doc": said if public and product.base is None else ""})
    if how.decides:
        again = f"new {type_}(this, again)" if product.mutable else f"again ? new {type_}(this, true) : this"
        found.append(_method(emitter, product, "copied", "boolean again", again, False))
    return found


def _method(
    emitter: Emitter, product: Product, name: str, parameters: str, made: str, public: bool
) -> dict[str, object]:
    alone = product.base is None and not product.abstract
    base = emitter.plan.products[product.base] if product.base is not None else product
    modifier = "public " if public else "" if alone or base.closed else "protected "
    return {"name": name, "doc": "", "modifier": modifier, "parameters": parameters, "made": made}


def copying_lines(emitter: Emitter, product: Product, how: Copying) -> list[str]:
    """The body of the copying constructor."""
    found = []
    if product.base is not None:
        passed = ["original", *(["again"] if how.decides else [])]
        base = emitter.plan.products[product.base]
        passed += [
            emitter.default(product.field(f.name)) or "null" for f in starting_otherwise(emitter, base, how)
        ]
        found = [f"super({', '.join(passed)});"]
    return found + [_line(emitter, product, field, how) for field in product.own_fields]


def starting_otherwise(emitter: Emitter, product: Product, how: Copying) -> list[Field]:
    """The fields of an abstract product that start again in a clone, in some variant with another default."""
    return [field for field in emitter.plan.redefined(product) if field.copy == "fresh" and how.cloned]


def copying_parameters(emitter: Emitter, product: Product, how: Copying) -> list[str]:
    """The parameters of the copying constructor."""
    found = [f"{emitter.names.type(product.name)} original", *(["boolean again"] if how.decides else [])]
    for field in starting_otherwise(emitter, product, how) if product.abstract else ():
        found.append(f"{emitter.code.stored(field)} {emitter.names.member(field.name)}Default")
    return found


def _line(emitter: Emitter, product: Product, field: Field, how: Copying) -> str:
    name = emitter.names.member(field.name)
    kept = f"original.{name}"
    if field.copy == "fresh" and how.cloned:
        fresh = emitter.default(field) or "null"
        if product.abstract and field in starting_otherwise(emitter, product, how):
            fresh = f"{name}Default"
        return f"this.{name} = again ? {fresh} : {kept};" if how.decides else f"this.{name} = {fresh};"
    inner = emitter.plan.product_in(field.type)
    changes = emitter.plan.changes_in_clone(field) if how.cloned else emitter.plan.holds_mutable(field.type)
    if inner is None or not changes:
        return f"this.{name} = {kept};"
    calls = emitter.code.copies
    call = calls.with_its_owner(product, inner) if how.cloned else calls.on_the_way_in(inner)
    absent = f"{kept} == null ? null : " if field.may_be_absent else ""
    return f"this.{name} = {absent}{emitter.code.copied(field, kept, call)};"
