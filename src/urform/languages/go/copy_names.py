"""The names of the methods that copy Go products."""

from __future__ import annotations

from urform.plan.model import Product
from urform.plan.whole import Plan


class CopyNames:
    """The names of the methods that copy: one serves for both where a clone starts nothing again.

    They are exported where others may implement the interface.
    """

    def __init__(self, plan: Plan) -> None:
        self._plan = plan

    def clone(self, product: Product) -> str:
        """The method that clones a product."""
        if self._plan.prototype_of(product.base or product.name) is not None:
            return "Clone"
        if not self._plan.restarts(product):
            return self._exported(product, "copied")
        return self._exported(product, "cloned")

    def copy(self, product: Product) -> str:
        """The method that copies a product on the way in, all of it."""
        return self._exported(product, "copied") if self._plan.restarts(product) else self.clone(product)

    def _exported(self, product: Product, name: str) -> str:
        base = self._plan.products[product.base] if product.base else product
        return name.capitalize() if base.is_open else name
