"""The calls by which owners copy Java products."""

from __future__ import annotations

from urform.plan.model import Product
from urform.plan.whole import Plan


class CopyCalls:
    """The calls by which owners copy products."""

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
