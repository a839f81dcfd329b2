"""How products are grouped into source files: a base with its variants, and what refers to each other in a circle."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.declaration.types import ProductType, Type, innermost
from urform.plan.circles import components
from urform.plan.model import Product
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Module:
    """Products that stand in one file; it is called after the first."""

    products: tuple[Product, ...]

    @property
    def name(self) -> str:
        return self.products[0].name


def modules(plan: Plan) -> tuple[Module, ...]:
    """One module per product with its variants, in declaration order; circles are one module."""
    heads = {p.name: p.base or p.name for p in plan.products.values()}
    order = [p.name for p in plan.products.values() if p.base is None]
    uses: dict[str, list[str]] = {name: [] for name in order}
    for product in plan.products.values():
        for type_ in (*(f.type for f in product.own_fields), *_operation_types(product)):
            inner = innermost(type_)
            if isinstance(inner, ProductType) and heads[inner.name] != heads[product.name]:
                uses[heads[product.name]].append(heads[inner.name])
    component = components(uses)
    grouped: dict[int, list[Product]] = {}
    for name in order:
        product = plan.products[name]
        grouped.setdefault(component[name], []).extend(
            (product, *(plan.products[v] for v in product.variants))
        )
    return tuple(Module(tuple(products)) for products in grouped.values())


def _operation_types(product: Product) -> list[Type]:
    types: list[Type] = []
    for operation in product.operations:
        types += [operation.returns, *(parameter.type for parameter in operation.takes)]
    return types
