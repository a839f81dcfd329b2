"""Holding: what is immutable stays so, and a mutable product owns what it holds."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from itertools import islice

from urform.declaration.types import Collection, ListOf, ProductType
from urform.plan.cloning import field_differs
from urform.plan.fault import Fault, flaw_fault
from urform.plan.making_steps import Build, BuilderAdd, BuilderSet, Clone, NewBuilder
from urform.plan.model import Field, Product
from urform.plan.operands import Keyed, Operand, Path, Several, Var
from urform.plan.patterns import Pattern
from urform.plan.patterns.fields import change_inside
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import Assign, ChangeHeld, ChangeInHeld, ChangeOut, FieldIs, Hold, Make, Set
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, in_place_of_first
from urform.prose import with_article

Given = Mapping[str, Operand]

ENOUGH = 8  # values that are looked at


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`immutable` of immutable products, `own` of what mutable ones hold."""
    for product in plan.products.values():
        arguments = witnesses.arguments(product)
        if product.abstract or arguments is None or not product.fields:
            continue
        if product.mutable:
            yield from _owned(plan, witnesses, product, arguments)
        else:
            yield _immutable(witnesses, product, arguments)


def holding_something(witnesses: Witnesses, field: Field) -> Operand | None:
    """A value for a field that has something in it, None if it is always empty."""
    return next(holding(witnesses, field), None)


def holding(witnesses: Witnesses, field: Field) -> Iterator[Operand]:
    """The first values for a field that have something in them."""
    for value in islice(witnesses.values(field.type, field.limits, field.each), ENOUGH):
        if not isinstance(value, (Several, Keyed)) or _contents(value):
            yield value


def has_inmost(value: Operand, depth: int) -> bool:
    """Whether there is a first element in as many collections as lie around the inmost one."""
    for _ in range(depth):
        if isinstance(value, Keyed) and value.entries:
            value = value.entries[0][1]
        elif isinstance(value, Several) and value.items:
            value = value.items[0]
        else:
            return False
    return True


def inner_held(witnesses: Witnesses, field: Field) -> tuple[tuple[Step, ...], Operand] | None:
    """Steps that hold a nested collection whose first inner one is the caller's own too, called `inner`; and its value.

    None where nothing is nested, or nothing is in it.
    """
    if not isinstance(field.type, Collection) or not isinstance(field.type.element, Collection):
        return None
    for whole in holding(witnesses, field):
        first = _contents(whole)[0] if isinstance(whole, (Several, Keyed)) else None
        inner = first[1] if isinstance(whole, Keyed) and isinstance(first, tuple) else first
        if isinstance(inner, (Several, Keyed)) and _contents(inner):
            around = _with_first(whole, Var("inner"))
            return (Hold("inner", field.type.element, inner), Hold("held", field.type, around)), whole
    return None


def _with_first(whole: Operand, element: Operand) -> Operand:
    """A collection with another first element."""
    if isinstance(whole, Keyed):
        (key, _), *others = whole.entries
        return Keyed(whole.type, ((key, element), *others))
    assert isinstance(whole, Several)
    return Several(whole.type, (element, *whole.items[1:]))


def _contents(value: Several | Keyed) -> tuple[object, ...]:
    return value.items if isinstance(value, Several) else value.entries


def _assigned(witnesses: Witnesses, product: Product, given: Given) -> tuple[Make, Assign] | None:
    """The first field that can be told from another value of it, where with its own value the product is still made."""
    selecting = witnesses.selecting(product)
    for field in product.fields:
        value = witnesses.of(field, 1) or witnesses.of(field)
        before = given.get(field.name, witnesses.of(field))
        whole = {**given, field.name: before} if before is not None else given
        if value is not None and (selecting is None or selecting.makes(whole, product.name)):
            return Make("made", product.name, whole), Assign("made", field.name, value)
    for field in product.fields:  # each value makes another kind
        value = witnesses.other_than(field, field.default)
        if value is not None and field.name not in given:
            return Make("made", product.name, given), Assign("made", field.name, value)
    return None


def _immutable(witnesses: Witnesses, product: Product, given: Given) -> Claim:
    cases: list[Case] = []
    assigned = _assigned(witnesses, product, given)
    if assigned is not None:
        cases.append(case(*assigned))
    for field in product.fields:
        content = holding_something(witnesses, field)
        if not isinstance(field.type, Collection) or content is None:
            continue
        path = Path("made", field.name)
        whole = {**given, field.name: Var("held")}
        nested = inner_held(witnesses, field)
        if nested is not None:
            holds, value = nested
            cases.append(
                case(*holds, Make("made", product.name, whole), ChangeHeld("inner"), FieldIs(path, value))
            )
        cases.append(
            case(
                Hold("held", field.type, content),
                Make("made", product.name, whole),
                ChangeHeld("held"),
                FieldIs(path, content),
            )
        )
        cases.append(
            case(
                Make("made", product.name, {**given, field.name: content}),
                ChangeOut(path),
                FieldIs(path, content),
            )
        )
    return Claim(
        "immutable",
        product.name,
        f"nothing changes {with_article(product.name)} once it is made",
        tuple(cases),
    )


def _owned(plan: Plan, witnesses: Witnesses, product: Product, given: Given) -> Iterator[Claim]:
    for field in product.fields:
        content = holding_something(witnesses, field)
        mutable = isinstance(field.type, ProductType) and plan.holds_mutable(field.type)
        if content is None or not (isinstance(field.type, Collection) or mutable):
            continue
        yield from _ways_in(plan, witnesses, product, field, content, given)
        if isinstance(field.type, Collection):
            path = Path("made", field.name)
            making = Make("made", product.name, {**given, field.name: content})
            text = f"changing the container that {field.name} of {product.name} hands out does not change the product"
            out = case(making, ChangeOut(path), FieldIs(path, content))
            yield Claim("own", product.name, text, (out,), field.name, "out")
            alike = next(
                (v for v in holding(witnesses, field) if not field_differs(plan, witnesses, field, v)), None
            )
            cloned = plan.prototype_of(product.base or product.name) is not None
            if cloned and field.copy != "fresh" and alike is not None:
                of_clone = Path("clone", field.name)
                making = Make("made", product.name, {**given, field.name: alike})
                out = case(making, Clone("clone", "made"), ChangeOut(of_clone), FieldIs(of_clone, alike))
                text = f"changing the container that {field.name} of a cloned {product.name} hands out does not change the clone"
                yield Claim("own", product.name, text, (out,), field.name, "clone-out")
        yield from _adder(plan, witnesses, product, field, given)


def _adder(plan: Plan, witnesses: Witnesses, product: Product, field: Field, given: Given) -> Iterator[Claim]:
    """The claim that a product does not follow changes to what an adder was given."""
    cases = tuple(cases_of_adder(plan, witnesses, product, field, given))
    if cases:
        text = f"{field.name} of {product.name} does not follow later changes to what the adder was given"
        yield Claim("own", product.name, text, cases, field.name, "adder")


def cases_of_adder(
    plan: Plan, witnesses: Witnesses, product: Product, field: Field, given: Given
) -> Iterator[Case]:
    """An element that the caller changes after adding it: emptied, or changed inside."""
    whole = holding_something(witnesses, field)
    if plan.builder_of(product.name) is None or not field.item or not isinstance(field.type, ListOf):
        return
    if not isinstance(whole, Several) or not whole.items:
        return
    element_type, element = field.type.element, whole.items[0]
    changes: list[Step] = []
    if isinstance(element, (Several, Keyed)):
        if not _contents(element):
            return
        changes.append(ChangeHeld("item"))
    inside = change_inside(plan, witnesses, Field(field.name, field.owner, element_type, required=True))
    if inside is not None:
        changes.append(replace(inside, var="item"))
    others: list[Step] = [BuilderSet("builder", n, v) for n, v in given.items() if n != field.name]
    begin = (NewBuilder("builder", product.name), *others)
    adds = tuple(BuilderAdd("builder", field.name, Var("item")) for _ in whole.items)
    same = Several(field.type, (element,) * len(whole.items))
    for change in changes:
        hold = Hold("item", element_type, element)
        yield case(
            hold, *begin, *adds, change, Build("made", "builder"), FieldIs(Path("made", field.name), same)
        )


def _ways_in(
    plan: Plan, witnesses: Witnesses, product: Product, field: Field, content: Operand, given: Given
) -> Iterator[Claim]:
    path = Path("made", field.name)
    hold = Hold("held", field.type, content)
    changes: list[ChangeHeld | ChangeInHeld] = (
        [ChangeHeld("held")] if isinstance(field.type, Collection) else []
    )
    inside = change_inside(plan, witnesses, field)
    if inside is not None:
        changes.insert(0, inside)
    for aspect, way, built in _ways(plan, product, field, given, Var("held")):
        cases = [case(hold, *way, change, *built, FieldIs(path, content)) for change in changes]
        nested = inner_held(witnesses, field)
        if nested is not None:
            holds, value = nested
            cases.append(case(*holds, *way, ChangeHeld("inner"), *built, FieldIs(path, value)))
        kept = _kept_whole(plan, witnesses, field)
        if kept is not None:
            part, whole = kept
            for _, way_of_part, built_part in _ways(plan, product, field, given, whole, aspect):
                cases.append(case(part, *way_of_part, *built_part, FieldIs(path, whole)))
        text = f"{field.name} of {product.name} does not follow later changes to what the {aspect} was given"
        if cases:
            yield Claim("own", product.name, text, tuple(cases), field.name, aspect)


Way = tuple[str, tuple[Step, ...], tuple[Step, ...]]


def _ways(
    plan: Plan, product: Product, field: Field, given: Given, value: Operand, only: str | None = None
) -> Iterator[Way]:
    """The ways by which a value comes into a product: steps before a change of the value, and after it."""
    ways: list[Way] = [
        ("constructor", (Make("made", product.name, {**given, field.name: value}),), ()),
        ("setter", (Make("made", product.name, given), Set(Path("made", field.name), value)), ()),
    ]
    if plan.builder_of(product.name) is not None:
        others: list[Step] = [BuilderSet("builder", n, v) for n, v in given.items() if n != field.name]
        start: Step = NewBuilder("builder", product.name)
        sets = (start, *others, BuilderSet("builder", field.name, value))
        ways.append(("builder", sets, (Build("made", "builder"),)))
    return (way for way in ways if only is None or way[0] == only)


def _kept_whole(plan: Plan, witnesses: Witnesses, field: Field) -> tuple[Make, Operand] | None:
    """A part whose `fresh` fields are set, and a value that holds it: on the way in all of it is kept."""
    inner = plan.product_in(field.type)
    if inner is None or not inner.mutable or inner.abstract or plan.selected_by(inner) is not None:
        return None
    for fresh in inner.fields:
        other = witnesses.other_than(fresh, fresh.default) if fresh.copy == "fresh" else None
        arguments = witnesses.arguments(inner)
        if other is None or arguments is None:
            continue
        part: Operand | None = Var("part")
        if isinstance(field.type, Collection):
            whole = holding_something(witnesses, field)
            part = in_place_of_first(whole, Var("part")) if whole is not None else None
        return (
            (Make("part", inner.name, {**arguments, fresh.name: other}), part) if part is not None else None
        )
    return None


# --- faults -------------------------------------------------------------------------------------------------


def _immutable_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    product = plan.products[claim.owner]
    for each in claim.cases:
        for step in each.steps:
            if isinstance(step, Assign):
                yield flaw_fault(plan, claim, "assignable", product.base or product.name)
            elif isinstance(step, ChangeOut):
                owner = product.field(step.path.field).owner
                yield flaw_fault(plan, claim, "kept-as-given", owner, step.path.field)
                yield flaw_fault(plan, claim, "handed-out", owner, step.path.field)


def _own_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    name = claim.member or ""
    owner = plan.products[claim.owner].field(name).owner
    flaws = {
        "builder": "builder-keeps-as-given",
        "adder": "adder-keeps-as-given",
        "out": "handed-out",
        "clone-out": "clone-handed-out",
    }
    if claim.aspect in ("builder", "adder"):
        owner = claim.owner
    yield flaw_fault(plan, claim, flaws.get(claim.aspect or "", "kept-as-given"), owner, name)


PATTERN = Pattern("holding", 20, claims, faults={"immutable": _immutable_faults, "own": _own_faults})
