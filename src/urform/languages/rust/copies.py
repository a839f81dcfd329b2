"""Clones in Rust: `clone` copies all of a product; where something starts again, `duplicate` does what a clone means."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import ListOf, MapOf, ProductType, Type, innermost
from urform.languages.rust.expressions import Expressions, is_copied_key
from urform.plan.model import Field, Product


def duplicates(code: Expressions, product: Product) -> Iterator[str]:
    """The body of `duplicate`; nothing where `clone` does the same."""
    plan = code.plan
    # A stand-in among the variants of a base is not known itself.
    cloned = product.name in plan.cloned or product.base in plan.cloned
    if not cloned or not plan.restarts(product):
        return
    own = [f"{code.names.stored(f.name)}: {field_copied(code, f)}" for f in product.own_fields]
    base = plan.products[product.base] if product.base is not None else None
    if base is not None and base.fields:
        inherited = [
            f"{code.names.stored(f.name)}: {field_copied(code, f, 'self.fields')}"
            for f in product.fields
            if f.owner != product.name
        ]
        own.insert(0, f"fields: {code.names.derived(base.name, 'Fields')} {{ {', '.join(inherited)} }}")
    yield f"Self {{ {', '.join(own)} }}" if product.fields else "self.clone()"


def field_copied(code: Expressions, field: Field, holder: str = "self") -> str:
    """The value of a field in a clone."""
    if field.copy == "fresh":
        return code.initial(field, field.default)
    stored = f"{holder}.{code.names.stored(field.name)}"
    inner = code.plan.product_in(field.type)
    if inner is None or field.copy != "deep" or not code.plan.restarts(inner):
        return code.copied(field.type, stored)
    if not field.may_be_absent:
        again = f"{stored}{_duplicated(code, field.type)}"
        return f"Box::new({again})" if code.boxed(field) else again
    name = duplicating(code, inner)
    one = f"Box::new(each.{name}())" if code.boxed(field) else f"each.{name}()"
    return f"{stored}.as_ref().map(|each| {one})"


def _duplicated(code: Expressions, type_: Type) -> str:
    """The calls that duplicate every product in a value."""
    inner = code.plan.products[str(innermost(type_))]
    match type_:
        case ListOf(element):
            return f".iter().map(|each| each{_duplicated(code, element)}).collect()"
        case MapOf(_, element):
            key = "*key" if is_copied_key(type_) else "key.clone()"
            return f".iter().map(|(key, each)| ({key}, each{_duplicated(code, element)})).collect()"
        case ProductType():
            return f".{duplicating(code, inner)}()"
    raise TypeError(f"{type_} holds no product")


def duplicating(code: Expressions, product: Product) -> str:
    """The method that does what a clone means: of a product of which something starts again, or `clone`."""
    plan = code.plan
    base = plan.products[product.base] if product.base is not None else product
    if not plan.restarts(product):
        return "clone"
    return "boxed_duplicate" if code.is_open(base) and product.abstract else "duplicate"
