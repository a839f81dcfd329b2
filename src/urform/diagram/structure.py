"""What a drawing of a plan shows: all of it, what is around some names, or what some patterns are about."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence

from urform.declaration.types import NOTHING
from urform.diagram.drawing import (
    Drawing,
    FamilyBox,
    FieldRow,
    Line,
    MakerBox,
    OperationRow,
    ProductBox,
    Relation,
    RoleRow,
    Way,
)
from urform.diagram.words import condition_text, cut, one_line, type_text, value_text
from urform.plan.model import (
    Builder,
    Factory,
    Family,
    Field,
    Making,
    Member,
    Operation,
    Pool,
    Product,
    Prototype,
    Role,
    Selection,
)
from urform.plan.whole import Plan

PATTERNS: Mapping[type, str] = {
    Factory: "factory",
    Selection: "factory",
    Family: "family",
    Builder: "builder",
    Prototype: "prototype",
    Pool: "flyweight",
}
PATTERN_NAMES = tuple(dict.fromkeys(PATTERNS.values()))
_RELATIONS = {
    "deep": Relation.OWNS,
    "fresh": Relation.OWNS,
    "shallow": Relation.LISTS,
    "shared": Relation.SHARES,
}
_FORMS = {
    "simple": "factory by key",
    "registry": "registry by key, open while running",
    "creators": "a creator for each kind, found by key",
}
_MOST_CASES = 6  # conditions of a factory by values; a person draws no more


def names_in(plan: Plan) -> tuple[str, ...]:
    """What a drawing can be asked for by name: products, variants, families."""
    return (*plan.products, *(family.name for family in plan.families))


def drawing_of(plan: Plan, only: Collection[str] = (), patterns: Collection[str] = ()) -> Drawing:
    """The whole structure; or what is around the names in `only`, or what `patterns` are about, or both.

    Names are those of `names_in`, patterns those of `PATTERN_NAMES`.
    """
    makings = [m for m in plan.makings if not patterns or PATTERNS[type(m)] in patterns]
    kept = set(plan.products)
    if patterns:
        kept = {name for making in makings for name in _about(plan, making)}
    if only:
        kept &= _around(plan, only)
    families = [m for m in makings if isinstance(m, Family) and _is_kept(m, kept, only)]
    products = [product for product in plan.products.values() if product.name in kept]
    makers = tuple(_makers(plan, products, makings))
    return Drawing(
        plan.name,
        one_line(plan.doc),
        tuple(_product(plan, product) for product in products),
        makers,
        tuple(map(_family, families)),
        tuple(_lines(plan, products, families, makers)),
    )


def _is_kept(family: Family, kept: Collection[str], only: Collection[str]) -> bool:
    return not only or family.name in only or any(role.product in kept for role in family.roles)


def _around(plan: Plan, only: Collection[str]) -> set[str]:
    """The products of those names, their variants and bases, what they hold, and what holds them."""
    families = [family for family in plan.families if family.name in only]
    named = {name for name in only if name in plan.products}
    named |= {role.product for family in families for role in family.roles}
    kept = set(named)
    for product in plan.products.values():
        if product.name in named:
            kept |= {*product.variants, *([product.base] if product.base else []), *_held(plan, product)}
        elif product.base in named or named & _held(plan, product):
            kept.add(product.name)
    return kept


def _held(plan: Plan, product: Product) -> set[str]:
    held = (plan.product_in(field.type) for field in product.own_fields)
    return {inner.name for inner in held if inner is not None}


def _about(plan: Plan, making: Making) -> Iterator[str]:
    """The products that a way of making is about."""
    if isinstance(making, Family):
        for role in making.roles:
            yield from (role.product, *plan.products[role.product].variants)
        return
    product = plan.products[making.product]
    yield from (product.name, *product.variants)
    match making:
        case Builder():
            yield from _held(plan, product)
        case Prototype():
            yield from _reached(plan, product)
        case Pool():
            yield from (p.name for p in plan.products.values() if product.name in _held(plan, p))


def _reached(plan: Plan, product: Product) -> set[str]:
    """What a clone of a product reaches, at every level."""
    reached: set[str] = set()
    waiting = [product.name, *product.variants]
    while waiting:
        name = waiting.pop()
        if name not in reached:
            reached.add(name)
            waiting += [*plan.products[name].variants, *_held(plan, plan.products[name])]
    return reached


def _product(plan: Plan, product: Product) -> ProductBox:
    tags = [
        *(["mutable"] if product.mutable and product.base is None else []),
        *(["single"] if product.single else []),
        *([f"key {cut(product.key)}"] if product.key is not None and product.base is not None else []),
    ]
    return ProductBox(
        product.name,
        one_line(product.doc),
        product.abstract,
        tuple(tags),
        tuple(_row(plan, field) for field in product.own_fields),
        tuple(_operation(each) for each in product.operations if each.owner == product.name),
    )


def _row(plan: Plan, field: Field) -> FieldRow:
    note = f"= {value_text(field.default)}" if field.default is not None else ""
    if field.copy == "fresh":
        note = f"{note} fresh in a clone".lstrip()
    return FieldRow(field.name, type_text(field.type, plan.choices), field.required, note)


def _operation(operation: Operation) -> OperationRow:
    takes = tuple(parameter.name for parameter in operation.takes)
    returns = str(operation.returns) if operation.returns != NOTHING else ""
    return OperationRow(operation.name, takes, returns)


def _makers(plan: Plan, products: Sequence[Product], makings: Sequence[Making]) -> Iterator[MakerBox]:
    for product in products:
        own = [m for m in makings if not isinstance(m, Family) and m.product == product.name]
        if own:
            yield MakerBox(product.name, tuple(_way(making) for making in own))


def _way(making: Factory | Selection | Builder | Prototype | Pool) -> Way:
    pattern = PATTERNS[type(making)]
    match making:
        case Factory(_, form, _, unknown):
            return Way(pattern, _FORMS[form], (_unknown(unknown),))
        case Selection():
            return Way(pattern, "factory by values", _cases(making))
        case Builder(_, _, resets, presets, typed):
            named = tuple(f"preset {preset.name}" for preset in presets)
            emptied = ("emptied by a build",) if resets else ()
            return Way(
                pattern, "builder, complete when it compiles" if typed else "builder", (*emptied, *named)
            )
        case Prototype(_, exemplars):
            return Way(pattern, "prototype", tuple(f"exemplar {exemplar.name}" for exemplar in exemplars))
        case Pool(_, key, weak, needs_maker):
            held = "lets go of what nobody holds" if weak else "holds what it made"
            made = ("made by what the caller gives",) if needs_maker else ()
            return Way(pattern, f"pool by {', '.join(key)}", (held, *made))


def _unknown(answer: str) -> str:
    """What an unknown key gives; an answer that is no word is the name of what is made."""
    return f"unknown key: {'an error' if answer == 'error' else answer}"


def _cases(selection: Selection) -> tuple[str, ...]:
    deciding = selection.deciding
    cases = [f"refused: {cut(one_line(refusal.reason))}" for refusal in deciding.refusals]
    cases += [
        f"{cut(condition_text(choice.when)) if choice.when is not None else 'else'} → {choice.variant}"
        for choice in deciding.choices
    ]
    if len(cases) > _MOST_CASES:
        cases[_MOST_CASES - 1 :] = [f"and {len(cases) - _MOST_CASES + 1} more"]
    return tuple(cases)


def _family(family: Family) -> FamilyBox:
    stand_in = ["a stand-in, for tests"] if family.stand_in is not None else []
    return FamilyBox(
        family.name,
        one_line(family.doc),
        tuple(member.name for member in family.members),
        tuple(_role(role, family.members) for role in family.roles),
        (_unknown(family.unknown), *stand_in),
    )


def _role(role: Role, members: Sequence[Member]) -> RoleRow:
    type_ = f"list<{role.product}>" if role.several else role.product
    parts = tuple(_parts([part.product for part in member.parts[role.name]]) for member in members)
    return RoleRow(role.name, type_, role.product, parts)


def _parts(names: Sequence[str]) -> str:
    """`ChainMooring ×2`."""
    counted = [(name, names.count(name)) for name in dict.fromkeys(names)]
    return ", ".join(f"{name} ×{count}" if count > 1 else name for name, count in counted) or "none"


def _lines(
    plan: Plan, products: Sequence[Product], families: Sequence[Family], makers: Sequence[MakerBox]
) -> Iterator[Line]:
    drawn = {product.name for product in products}
    for family in families:
        for role in family.roles:
            if role.product in drawn:
                yield Line(family.name, role.product, Relation.MAKES, role.name)
    for maker in makers:
        yield Line(f"maker of {maker.product}", maker.product, Relation.MAKES)
    for product in products:
        for variant in product.variants:
            if variant in drawn:
                yield Line(product.name, variant, Relation.VARIANT)
        for field in product.own_fields:
            inner = plan.product_in(field.type)
            if inner is not None and inner.name in drawn:
                yield Line(product.name, inner.name, _RELATIONS[field.copy], field.name)
