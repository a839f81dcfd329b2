"""Exemplars: a store of named instances that hands out clones only. A part of the prototype pattern."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.types import ProductType
from urform.plan.cloning import clone_differs
from urform.plan.fault import Fault, flaw_fault, with_making
from urform.plan.making_steps import (
    Clone,
    ExemplarAdd,
    ExemplarGet,
    NamesAre,
    NewExemplars,
    SameObject,
)
from urform.plan.model import Exemplar, Field, Product, Prototype
from urform.plan.operands import DuplicateKey, Operand, Path, UnknownKey, Witness
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns.fields import change_of
from urform.plan.script import Claim, Step, case
from urform.plan.steps import Equal, FieldIs, Hold, KindIs, Make, Set
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, operand_of
from urform.prose import with_article

NOWHERE = "nowhere_declared"
ANOTHER = "another_name"
STORE = "store"


def exemplar_claims(
    plan: Plan, witnesses: Witnesses, prototype: Prototype, concrete: list[Product]
) -> Iterator[Claim]:
    """`exemplar` of each declared exemplar, and of the store."""
    if not prototype.exemplars:
        return
    name = prototype.product
    new = NewExemplars(STORE, name)
    for exemplar in prototype.exemplars:
        yield _exemplar(plan, witnesses, prototype, exemplar)
    names = tuple(sorted(e.name for e in prototype.exemplars))
    product = concrete[0]
    hold = Hold("mine", ProductType(name), Witness(product.name))
    add = ExemplarAdd(STORE, ANOTHER, "mine")

    def claim(aspect: str, text: str, *cases: tuple[Step, ...]) -> Claim:
        return Claim("exemplar", name, text, tuple(case(*steps) for steps in cases), aspect=aspect)

    added = NamesAre(STORE, tuple(sorted((*names, ANOTHER))))
    get = ExemplarGet("got", STORE, ANOTHER)
    change = _seen_in_clones(witnesses, product)
    needed = witnesses.arguments(product) or {}
    differs = clone_differs(plan, witnesses, product, needed)

    def compared(original: str) -> tuple[Step, ...]:
        """With the original, or, where a clone starts something again, with another clone of it."""
        return (Clone("alike", original), Equal("alike", "got")) if differs else (Equal(original, "got"),)

    cases: list[tuple[Step, ...]] = [
        (new, hold, add, added, get, KindIs("got", product.name), *compared("mine"))
    ]
    if change is not None:
        own, again = Make("mine", product.name, needed), Make("before", product.name, needed)
        cases.append(
            (new, own, add, Set(Path("mine", change[0]), change[1]), get, again, *compared("before"))
        )
    yield claim("added", f"{with_article(name)} can be added while running; the store keeps a clone", *cases)
    taken = Fails(ExemplarAdd(STORE, names[0], "mine"), DuplicateKey(name, names[0]))
    yield claim("twice", "a name that is taken is refused", (new, hold, taken, NamesAre(STORE, names)))
    failure = Fails(ExemplarGet(UNKEPT, STORE, NOWHERE), UnknownKey(name, NOWHERE, names))
    yield claim("unknown", "an unknown name is refused, and the error lists the known ones", (new, failure))
    other = NewExemplars("other", name)
    yield claim("isolated", "stores share nothing", (new, other, hold, add, NamesAre("other", names)))


FLAWS = {"twice": "exemplar-twice", "unknown": "exemplar-unknown", "isolated": "exemplars-share"}


def exemplar_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    """The faults of a store of exemplars."""
    if claim.aspect in FLAWS:
        yield flaw_fault(plan, claim, FLAWS[claim.aspect], claim.owner)
    elif claim.aspect == "added":
        yield flaw_fault(plan, claim, "exemplar-not-kept", claim.owner)
        yield from _kept_as_given(plan, claim)
    else:
        prototype = plan.prototype_of(claim.owner)
        assert prototype is not None, f"{claim.owner} has claims of a prototype, but none"
        exemplar = next(e for e in prototype.exemplars if e.name == claim.member)
        shown = [s.path.field for s in claim.cases[0].steps if isinstance(s, FieldIs)]
        product = plan.products[exemplar.product.product]
        for name in shown:
            field = product.field(name)
            values = (witnesses.value(v) for v in witnesses.values(field.type, field.limits, field.each))
            other = next((v for v in values if v is not None and v != exemplar.product.fields[name]), None)
            if other is None:
                continue
            altered = replace(exemplar.product, fields={**exemplar.product.fields, name: other})
            exemplars = tuple(
                replace(e, product=altered) if e is exemplar else e for e in prototype.exemplars
            )
            changed = with_making(plan, prototype, replace(prototype, exemplars=exemplars))
            yield Fault(claim, f"other-{name}", f"the exemplar has another {name}", changed)
        if len(claim.cases) > 1:
            yield flaw_fault(plan, claim, "exemplar-itself", claim.owner)


def _kept_as_given(plan: Plan, claim: Claim) -> Iterator[Fault]:
    """Where a change of what was added could be seen in a clone, or nothing could."""
    for step in claim.cases[0].steps:
        if (
            isinstance(step, Hold)
            and isinstance(step.value, Witness)
            and plan.products[step.value.product].mutable
        ):
            fault = flaw_fault(plan, claim, "exemplar-kept-as-given", claim.owner)
            nothing = f"a clone of {step.value.product} starts all of it again that can be changed"
            yield replace(fault, same="" if len(claim.cases) > 1 else nothing)


def _exemplar(plan: Plan, witnesses: Witnesses, prototype: Prototype, exemplar: Exemplar) -> Claim:
    name = prototype.product
    product = plan.products[exemplar.product.product]
    new = NewExemplars(STORE, name)
    one, two, three = (ExemplarGet(var, STORE, exemplar.name) for var in ("one", "two", "three"))
    steps: list[Step] = [new, one, two]
    if not product.abstract:  # one that a factory by values chooses has its fields shown elsewhere
        steps.append(KindIs("one", product.name))
        seen = {f.name for f in plan.products[name].fields if not _starts_again(plan, f)}
        given = exemplar.product.fields.items()
        steps += [FieldIs(Path("one", n), operand_of(value)) for n, value in given if n in seen]
    steps.append(Equal("one", "two"))
    cases = [case(*steps)]
    base = plan.products[name]
    change = change_of(witnesses, base) if base.mutable else None
    if change is not None:
        apart = SameObject("one", "two", name, same=False)
        set_ = Set(Path("one", change[0]), _other(witnesses, base, exemplar, *change))
        cases.append(case(new, one, two, apart, set_, three, Equal("two", "three")))
    text = f"each request for {exemplar.name} returns a separate clone"
    return Claim("exemplar", name, text, tuple(cases), exemplar.name)


def _seen_in_clones(witnesses: Witnesses, product: Product) -> tuple[str, Operand] | None:
    """A change of a product that its clones have as well."""
    change = change_of(witnesses, product) if product.mutable else None
    return change if change is not None and product.field(change[0]).copy != "fresh" else None


def _starts_again(plan: Plan, field: Field) -> bool:
    """Whether a clone has something else in a field, or further down."""
    inner = plan.product_in(field.type)
    return field.copy == "fresh" or (field.copy == "deep" and inner is not None and plan.restarts(inner))


def _other(witnesses: Witnesses, base: Product, exemplar: Exemplar, name: str, value: Operand) -> Operand:
    """A value that the exemplar does not have in a field."""
    field = base.field(name)
    has = exemplar.product.fields.get(name, field.default)
    values = witnesses.values(field.type, field.limits, field.each)
    return next((candidate for candidate in values if candidate != has), value)
