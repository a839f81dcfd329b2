"""What the variables of a test hold, so that targets can write typed code for its steps."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from urform.declaration.types import ChoiceType, Collection, ProductType, Type
from urform.plan.making_steps import (
    AskRole,
    AskRoles,
    Build,
    BuildChained,
    Clone,
    CloneEach,
    ExemplarGet,
    FamilyOf,
    Narrow,
    NewBuilder,
    NewExemplars,
    NewPool,
    NewStandIn,
    PoolAsk,
    Select,
    Take,
)
from urform.plan.model import Family, Field, Product, Role
from urform.plan.operands import Keyed, Operand, Path, Several, Var
from urform.plan.record_steps import ReadBack, ReadRecord, ReadText, ReadWith
from urform.plan.script import Step
from urform.plan.steps import Ask, AskNamed, Hold, Make, NewRegistry, ReadWord, RegisterLoader
from urform.plan.variables import NAMING
from urform.plan.whole import Plan


class Scope:
    """The types of the variables of one test, as its steps make them."""

    def __init__(self, plan: Plan, taken: frozenset[str] = frozenset()) -> None:
        self._plan = plan
        self._reserved = taken  # by what the test itself names
        self._types: dict[str, Type] = {}
        self._owners: dict[str, str] = {}  # the product or family of a builder, store, pool or factory
        self._made: dict[str, int] = {}

    def enter(self, step: Step) -> None:
        """Note the variables that a step makes."""
        for var, type_ in self._holding(step):
            self._types[var] = type_
            self._made[var] = self._made.get(var, 0) + 1
        match step:
            case NewRegistry(var, owner) | NewBuilder(var, owner) | NewExemplars(var, owner):
                self._own(var, owner)
            case NewPool(var, owner) | FamilyOf(var, owner) | NewStandIn(var, owner):
                self._own(var, owner)
            case RegisterLoader(registry, loads=loads):
                self._own(loads, self._owners[registry])

    def _own(self, var: str, owner: str) -> None:
        self._owners[var] = owner
        self._made[var] = self._made.get(var, 0) + 1

    def _holding(self, step: Step) -> Iterator[tuple[str, Type]]:
        match step:
            case Make(var, product) | Ask(var, product) | Select(var, product) | BuildChained(var, product):
                yield var, ProductType(product)
            case ReadRecord(var, product) | ReadText(var, product) | ReadBack(var, _, product):
                yield var, ProductType(product)
            case ReadWith(var, product) | AskNamed(Ask(var, product)):
                yield var, ProductType(product)
            case Hold(var, type_):
                yield var, type_
            case ReadWord(var, choice):
                yield var, ChoiceType(choice)
            case Build(var, owner) | ExemplarGet(var, owner) | PoolAsk(var, owner):
                yield var, ProductType(self._owners[owner])
            case Clone(var, original):
                yield var, self._types[original]
            case Narrow(var, _, product):
                yield var, ProductType(product)
            case CloneEach(product, _, clones):
                yield from ((clone, ProductType(product)) for clone in clones)
            case Take(var, path):
                yield var, self._taken(path)
            case AskRole(var, family, role):
                yield var, ProductType(self.role(family, role).product)
            case AskRoles(family, role, names):
                yield from ((name, ProductType(self.role(family, role).product)) for name in names)

    def _taken(self, path: Path) -> Type:
        type_ = self.field(path).type
        for _ in range(path.first):
            assert isinstance(type_, Collection)
            type_ = type_.element
        return type_

    def name(self, var: str) -> str:
        """The name of a variable in the test: a later case that makes it again gets a number."""
        times = self._made.get(var, 1)
        between = "_" if var[-1].isdigit() else ""
        name = var if times == 1 else f"{var}{between}{times}"
        return f"the_{name}" if name in self._reserved else name

    def renamed(self, operand: Operand) -> Operand:
        """An operand with the names that its variables have in the test."""
        if type(operand) not in NAMING:
            return operand
        match operand:
            case Var(name):
                return Var(self.name(name))
            case Several(type_, items):
                return Several(type_, tuple(self.renamed(item) for item in items))
            case Keyed(type_, entries):
                return Keyed(type_, tuple((key, self.renamed(item)) for key, item in entries))
        return operand

    def type_of(self, var: str) -> Type:
        """The type of a variable."""
        return self._types[var]

    def product_of(self, var: str) -> Product:
        """The product that a variable is declared to hold, which may be an abstract one."""
        return self._plan.product(str(self._types[var]))

    def owner(self, var: str) -> str:
        """The product whose builder, store or pool a variable holds, or the family."""
        return self._owners[var]

    def family(self, var: str) -> Family:
        """The family of a variable that holds a member or a stand-in."""
        return next(family for family in self._plan.families if family.name == self._owners[var])

    def role(self, var: str, name: str) -> Role:
        """A role of the family of a variable."""
        return next(role for role in self.family(var).roles if role.name == name)

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
        while isinstance(type_, Collection):
            type_ = type_.element
        assert isinstance(type_, ProductType)
        return self._as_declared(type_.name, name)

    def _as_declared(self, product: str, name: str) -> Field:
        """The field as its owner declares it: that shapes the accessor, whatever default a variant gives."""
        owner = self._plan.product(product).field(name).owner
        return self._plan.products[owner].field(name)


def parameters_of_makers(plan: Plan, owner: str) -> frozenset[str]:
    """What functions in the tests of an owner of claims may call their parameters: no variable there is called so."""
    product = plan.products.get(owner)
    if product is None:
        return frozenset()
    base = plan.products[product.base or owner]
    pool, factory = plan.pool_of(owner), plan.factory_of(base.name)
    fields = base.fields if factory is not None else ()
    return frozenset(pool.key if pool is not None else ()) | {field.name for field in fields}


def parameters_of_all(plan: Plan) -> frozenset[str]:
    """The same for all owners, as a walk-through meets them."""
    return frozenset().union(*(parameters_of_makers(plan, name) for name in plan.products))


def helpers_of(
    plan: Plan, witness_name: Callable[[str, bool], str], client_name: Callable[[str], str]
) -> frozenset[str]:
    """What a target calls the functions that make typical products and clients of families, by their names."""
    witnesses = {witness_name(product, second) for product in plan.products for second in (False, True)}
    return frozenset(witnesses | {client_name(family.name) for family in plan.families})


def respelt(operand: Operand, spell: Callable[[str], str]) -> Operand:
    """An operand whose variables are spelt as a language spells them."""
    if type(operand) not in NAMING:
        return operand
    match operand:
        case Var(name):
            return Var(spell(name))
        case Several(type_, items):
            return Several(type_, tuple(respelt(item, spell) for item in items))
        case Keyed(type_, entries):
            return Keyed(type_, tuple((key, respelt(item, spell)) for key, item in entries))
    return operand
