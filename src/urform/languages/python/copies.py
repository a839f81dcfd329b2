"""Copies and clones of products: what is owned is copied at every level, what starts again starts again."""

from __future__ import annotations

from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.types import ListOf, MapOf, ProductType, Type
from urform.languages.python.context import Context
from urform.languages.rendering.prose import clone_sentences
from urform.plan.model import Field, Product


@dataclass(frozen=True, slots=True)
class Copied:
    """What one field of a copy is given; `cloned` names the field where the copy is a clone."""

    name: str
    slot: str
    value: str
    cloned: str


@dataclass(frozen=True, slots=True)
class Copying:
    """A method that copies: its name, its documentation, what it gives each field; itself where `parts` is None.

    `clones` is `clone` of the one that clones.
    """

    name: str
    doc: str
    clones: str
    parts: tuple[Copied, ...] | None


def copies(context: Context, product: Product) -> Iterator[Copying]:
    """The method that copies a product on the way in, and the one that clones it, unless one serves for both."""
    plan, names = context.plan, context.code.copying
    cloned = product.name in plan.cloned or (product.base or "") in plan.cloned
    copied = product.name in plan.owned or (product.base or "") in plan.owned
    if copied and not (cloned and names.copy(product) == names.clone(product)):
        yield Copying(names.copy(product), "", "", _parts(context, product, clones=False))
    if cloned:
        again = [f.name for f in product.fields if f.copy == "fresh"]
        said = f"Return {clone_sentences(again, mutable=product.mutable)}"
        public = names.clone(product) == "clone"
        yield Copying(
            names.clone(product), said if public else "", "clone", _parts(context, product, clones=True)
        )


def _parts(context: Context, product: Product, *, clones: bool) -> tuple[Copied, ...] | None:
    if not product.mutable and not (clones and context.plan.restarts(product)):
        return None
    return tuple(
        Copied(
            context.names.field(field.name),
            context.attribute(product, field),
            _copied(context, product, field, clones),
            context.names.field(field.name) if clones else "",
        )
        for field in product.fields
    )


def _copied(context: Context, product: Product, field: Field, clones: bool) -> str:
    """The expression that copies what a field holds; it has passed its limits."""
    value = f"self.{context.attribute(product, field)}"
    if clones and field.copy == "fresh":
        return context.code.default(field) or "None"
    changes = context.plan.changes_in_clone(field) if clones else context.plan.holds_mutable(field.type)
    if not changes:
        return value
    inner = context.plan.product_in(field.type)
    assert inner is not None
    names = context.code.copying
    method = names.clone(inner) if clones else names.copy(inner)
    return _copy_of(field.type, value, method, field.may_be_absent)


def _copy_of(type_: Type, value: str, method: str, may_be_absent: bool = False) -> str:
    match type_:
        case ListOf(element):
            return f"tuple([{_copy_of(element, 'each', method)} for each in {value}])"
        case MapOf(_, element):
            inner = _copy_of(element, "each", method)
            return f"FrozenMap({{key: {inner} for key, each in {value}.items()}})"
        case ProductType():
            return f"{value} and {value}.{method}()" if may_be_absent else f"{value}.{method}()"
    return value
