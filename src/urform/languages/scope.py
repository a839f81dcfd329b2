"""What the variables of a test hold, so that targets can write typed code for its steps."""

from __future__ import annotations

from urform.declaration.types import Collection, ProductType, Type
from urform.plan.model import Field, Plan
from urform.plan.script import Ask, Hold, Make, NewRegistry, Path, Step


class Scope:
    """The types of the variables of one test, as its steps make them."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._types: dict[str, Type] = {}
        self._made: dict[str, int] = {}

    def enter(self, step: Step) -> None:
        """Note the variable that a step makes."""
        match step:
            case Make(var, product) | Ask(var, product):
                self._types[var] = ProductType(product)
            case Hold(var, type_):
                self._types[var] = type_
            case NewRegistry(var):
                pass
            case _:
                return
        self._made[var] = self._made.get(var, 0) + 1

    def name(self, var: str) -> str:
        """The name of a variable in the test: a later case that makes it again gets a number."""
        made = self._made.get(var, 1)
        return var if made == 1 else f"{var}{made}"

    def type_of(self, var: str) -> Type:
        """The type of a variable."""
        return self._types[var]

    def field(self, path: Path) -> Field:
        """The field that a path ends in."""
        owner = self._types[path.var]
        assert isinstance(owner, ProductType)
        field = self._as_declared(owner.name, path.field)
        if path.inner is None:
            return field
        return self.inside(field.type, path.inner)

    def inside(self, type_: Type, name: str) -> Field:
        """A field of the product that a type holds."""
        inner = type_.element if isinstance(type_, Collection) else type_
        assert isinstance(inner, ProductType)
        return self._as_declared(inner.name, name)

    def _as_declared(self, product: str, name: str) -> Field:
        """The field as its owner declares it: that shapes the accessor, whatever default a variant gives."""
        owner = self._plan.products[product].field(name).owner
        return self._plan.products[owner].field(name)
