"""Prototypes: clones of the same concrete type, as deep as each field says, and exemplars to clone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from urform.declaration.model import Declaration
from urform.declaration.types import Collection, ProductType, Type
from urform.declaration.values import Boolean, Integer, Real, Text
from urform.declaration.written_values import WrittenValues
from urform.plan.cloning import clone_differs, field_differs
from urform.plan.fault import Fault, flaw_fault, only_one
from urform.plan.making_steps import Clone, CloneEach, Narrow, SameObject, Take
from urform.plan.model import Exemplar, Field, Product, Prototype
from urform.plan.operands import Operand, Path, Var, Witness
from urform.plan.patterns import Pattern
from urform.plan.patterns.exemplars import exemplar_claims, exemplar_faults
from urform.plan.patterns.fields import change_of
from urform.plan.patterns.holding import has_inmost, holding, holding_something
from urform.plan.patterns.operations import handed, with_another_answer
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import Answers, ChangeOut, Equal, FieldAbsent, FieldIs, Hold, KindIs, Make, Set
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, empty_of, in_place_of_first, operand_of
from urform.prose import with_article

Given = Mapping[str, Operand]
DEEPEST = 3  # levels of the owned tree that tests go down
CLONED = Clone("clone", "original")
EMPTY: tuple[Operand, ...] = (Boolean(False), Integer(0), Real(0.0), Text(""))


def makes(declaration: Declaration, plan: Plan) -> Iterator[Prototype]:
    """A prototype for each product that declares one."""
    values = WrittenValues(declaration)
    for product in declaration.products.values():
        if product.prototype is not None:
            exemplars = tuple(Exemplar(name, made) for name, made in values.exemplars(product))
            yield Prototype(product.name, exemplars)


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`clone` and `exemplar` of every prototype."""
    for making in plan.makings:
        if not isinstance(making, Prototype):
            continue
        base = plan.products[making.product]
        concrete = [p for p in plan.concrete(base) if witnesses.arguments(p) is not None]
        if concrete:
            own = _Claims(plan, witnesses, base, concrete).claims()
            all_claims = [*own, *exemplar_claims(plan, witnesses, making, concrete)]
            order = [base.name, *base.variants]
            yield from sorted(all_claims, key=lambda claim: order.index(claim.owner))


class _Claims:
    """Makes the claims of one clone operation, over every concrete product that has it."""

    def __init__(self, plan: Plan, witnesses: Witnesses, base: Product, concrete: list[Product]) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self._base = base
        self._concrete = concrete

    def _claim(self, aspect: str, text: str, cases: list[Case]) -> Iterator[Claim]:
        if cases:
            yield Claim("clone", self._base.name, text, tuple(cases), aspect=aspect)

    def _needed(self, product: Product) -> Given:
        return self._witnesses.arguments(product) or {}

    def claims(self) -> Iterator[Claim]:
        """All claims of the clone operation."""
        name = self._base.name
        kinds = [case(self._hold(p), CLONED, KindIs("clone", p.name)) for p in self._concrete]
        yield from self._claim("type", f"a clone of {with_article(name)} has the same concrete type", kinds)
        equal = [case(*steps) for p in self._concrete for steps in self._equal(p)]
        yield from self._claim(
            "equal",
            f"a clone of {with_article(name)} has the same content, except for what starts again",
            equal,
        )
        apart = [case(*steps) for p in self._concrete for steps in self._apart(p)]
        yield from self._claim(
            "apart", f"changes to {with_article(name)} do not reach its clone, nor the other way round", apart
        )
        usable = [case(*steps) for p in self._concrete for steps in self._usable(p)]
        yield from self._claim("usable", f"a clone of {with_article(name)} can be used in its place", usable)
        yield from self._claim("list", f"each {name} in a list is cloned to its own type", [self._list()])
        owners = [self._base, *(p for p in self._concrete if p is not self._base)]
        for owner in owners:
            for field in owner.own_fields:
                yield from self._field(owner, field)

    def _hold(self, product: Product) -> Hold:
        """An original of which only the base type is known."""
        return Hold("original", ProductType(self._base.name), Witness(product.name))

    def _equal(self, product: Product) -> Iterator[tuple[Step, ...]]:
        fresh = {f.name for f in product.fields if f.copy == "fresh"}
        chosen = self._all(product)
        lasting = {n: v for n, v in chosen.items() if n not in fresh}
        if not self._differs(product, lasting):
            yield Make("original", product.name, lasting), CLONED, Equal("original", "clone")
        filled = {n: self._filled(product.field(n), v) for n, v in lasting.items() if self._has(product, n)}
        apart = self._differs(product, filled)
        if self._plan.selected_by(product) is None and filled != lasting and not apart:
            yield Make("original", product.name, filled), CLONED, Equal("original", "clone")
        if fresh & set(chosen) or self._differs(product, lasting):
            same = [FieldIs(Path("clone", n), v) for n, v in lasting.items() if self._lasts(product, n, v)]
            if same:
                yield (Make("original", product.name, chosen), CLONED, *same)

    def _has(self, product: Product, name: str) -> bool:
        return any(field.name == name for field in product.fields)

    def _filled(self, field: Field, value: Operand) -> Operand:
        """A value that no language starts with of itself: a clone that leaves the field out has another."""
        values = self._witnesses.values(field.type, field.limits, field.each)
        return next((v for v in values if v not in EMPTY), value) if value in EMPTY else value

    def _all(self, product: Product) -> Given:
        """Every field given, the optional ones other than by default."""
        given = dict(self._needed(product))
        for field in product.optional if self._plan.selected_by(product) is None else ():
            other = self._witnesses.other_than(field, field.default)
            if other is not None:
                given[field.name] = other
        if self._plan.selected_by(product) is None:
            given = {n: self._lasting(product.field(n), v) for n, v in given.items()}
        return given

    def _lasting(self, field: Field, value: Operand) -> Operand:
        """A value that a clone has as well, if there is one."""
        if field.copy == "fresh" or not field_differs(self._plan, self._witnesses, field, value):
            return value
        return self._lasting_value(field) or value

    def _apart(self, product: Product) -> Iterator[tuple[Step, ...]]:
        change = change_of(self._witnesses, product) if product.mutable else None
        if change is None:
            return
        name, value = change
        for one, other in (("clone", "original"), ("original", "clone")):
            original = Make("original", product.name, self._needed(product))
            untouched = Make("untouched", product.name, self._needed(product))
            changed = (original, CLONED, Set(Path(one, name), value), untouched)
            if other == "clone" and self._differs(product, self._needed(product)):
                yield *changed, Clone("unchanged", "untouched"), Equal("unchanged", other)
            else:
                yield *changed, Equal("untouched", other)

    def _differs(self, product: Product, given: Given) -> bool:
        """Whether a clone starts something again, at any level, that the original was given."""
        return clone_differs(self._plan, self._witnesses, product, given)

    def _lasts(self, product: Product, name: str, value: Operand) -> bool:
        """Whether a clone has the same in a field."""
        if not self._has(product, name):
            return False
        return not field_differs(self._plan, self._witnesses, product.field(name), value)

    def _usable(self, product: Product) -> Iterator[tuple[Step, ...]]:
        original = Make("original", product.name, self._needed(product))
        answers: list[Step] = []
        for operation in product.operations:
            given = handed(self._witnesses, operation)
            if operation.answer is not None and given is not None:
                answers.append(Answers("clone", operation.name, given, operation.answer))
        change = change_of(self._witnesses, product) if product.mutable else None
        if change is not None:
            path = Path("clone", change[0])
            answers += [Set(path, change[1]), FieldIs(path, change[1])]
        if not answers:
            answers = [KindIs("clone", product.name)]
        yield (original, CLONED, *answers)

    def _list(self) -> Case:
        products = self._concrete if len(self._concrete) > 1 else self._concrete * 2
        numbered = [(f"original_{n}", f"clone_{n}", p) for n, p in enumerate(products, 1)]
        type_ = ProductType(self._base.name)
        holds = [Hold(original, type_, Witness(p.name)) for original, _, p in numbered]
        each = CloneEach(self._base.name, tuple(o for o, _, _ in numbered), tuple(c for _, c, _ in numbered))
        checks: list[Step] = []
        for original, clone, product in numbered:
            equal = [] if self._differs(product, self._needed(product)) else [Equal(original, clone)]
            checks += [KindIs(clone, product.name), *equal]
        return case(*holds, each, *checks)

    # --- fields -----------------------------------------------------------------------------------------

    def _field(self, owner: Product, field: Field) -> Iterator[Claim]:
        concrete = owner if not owner.abstract else self._concrete[0]
        own = concrete.field(field.name)
        deep = field.copy == "deep" and not isinstance(field.type, (Collection, ProductType))
        if deep or (field.copy == "fresh" and self._witnesses.other_than(own, own.default) is None):
            return
        said = {
            "deep": f"a clone owns its {field.name} at every level",
            "shallow": f"a clone has a container of its own for {field.name}, with the same elements",
            "shared": f"a clone shares {field.name} with its original",
            "fresh": f"{field.name} of a clone starts again",
        }
        kinds = {"deep": self._deep, "shallow": self._shallow, "shared": self._shared, "fresh": self._fresh}
        cases = [case(*steps) for steps in kinds[field.copy](concrete, own)]
        if cases:
            yield Claim("clone", owner.name, said[field.copy], tuple(cases), field.name, field.copy)

    def _given(self, product: Product, field: Field, value: Operand) -> Given:
        return self._witnesses.completed(product, {field.name: value}) or {}

    def _original(self, product: Product, field: Field, value: Operand) -> tuple[Step, ...]:
        """An original that holds a value: given when it is made or, where a factory refuses that, set afterwards.

        No step where neither is possible.
        """
        given = self._witnesses.completed(product, {field.name: value})
        if given is not None:
            return (Make("original", product.name, given),)
        if not product.mutable:
            return ()
        made = Make("original", product.name, self._witnesses.arguments(product) or {})
        return made, Set(Path("original", field.name), value)

    def _fresh(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        other = self._witnesses.other_than(field, field.default)
        assert other is not None
        original = self._original(product, field, other)
        if original:
            kept = FieldIs(Path("original", field.name), other)
            yield *original, CLONED, starts_again("clone", field), kept

    def _shared(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        value = holding_something(self._witnesses, field)
        if value is None:
            return
        original = self._original(product, field, value)
        if original:
            yield *original, CLONED, FieldIs(Path("clone", field.name), value)
        yield from self._same_inside(product, field)

    def _same_inside(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        inner, path = self._plan.product_in(field.type), depth_of(field.type)
        values = holding(self._witnesses, field)
        value = next((v for v in values if has_inmost(v, path)), None)
        original = self._original(product, field, value) if value is not None else ()
        if inner is None or not original:
            return
        kept, taken = (
            Take(var, Path(of, field.name, path)) for var, of in (("kept", "original"), ("taken", "clone"))
        )
        yield *original, CLONED, kept, taken, SameObject("kept", "taken", inner.name)

    def _shallow(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        yield from self._shared(product, field)
        yield from self._own_container(product, field)

    def _lasting_value(self, field: Field) -> Operand | None:
        """A value with something in it that a clone has as well."""
        values = holding(self._witnesses, field)
        return next((v for v in values if not field_differs(self._plan, self._witnesses, field, v)), None)

    def _own_container(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        value = self._lasting_value(field)
        original = self._original(product, field, value) if value is not None else ()
        if value is None or not original or not isinstance(field.type, Collection):
            return
        yield (
            *original,
            CLONED,
            ChangeOut(Path("clone", field.name)),
            FieldIs(Path("original", field.name), value),
        )
        other = self._witnesses.of(field, 1)
        if product.mutable and other is not None and other != value:
            for one, rest in (("clone", "original"), ("original", "clone")):
                yield (
                    *original,
                    CLONED,
                    Set(Path(one, field.name), other),
                    FieldIs(Path(rest, field.name), value),
                )

    def _deep(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        value = self._lasting_value(field)
        original = self._original(product, field, value) if value is not None else ()
        if value is not None and original:
            yield *original, CLONED, FieldIs(Path("clone", field.name), value)
        yield from self._own_container(product, field)
        yield from self._down(product, field)

    def _down(self, product: Product, field: Field) -> Iterator[tuple[Step, ...]]:
        """At each level of the owned tree: a change on one side, and what starts again."""
        for levels in chains(self._plan, field):
            inmost = levels[-1][1]
            tree = self._tree(product, levels)
            if tree is None:
                continue
            alike = self._below(levels, "alike")  # of its own: what was handed in may itself be shared
            last = f"level_{len(levels)}"
            change = change_of(self._witnesses, inmost) if inmost.mutable else None
            if change is not None and alike is not None:
                for one, rest in (("clone", "original"), ("original", "clone")):
                    takes = self._takes(one, levels)
                    set_ = Set(Path(f"{last}_of_{one}", change[0]), change[1])
                    if rest == "clone" and self._restart(alike[0]):
                        untouched = Make("untouched", product.name, self._given(product, field, alike[1]))
                        same = (untouched, Clone("unchanged", "untouched"), Equal("unchanged", "clone"))
                        yield (*tree[0], CLONED, *takes, set_, *alike[0], *same)
                    else:
                        expected = FieldIs(Path(rest, field.name), alike[1])
                        yield (*tree[0], CLONED, *takes, set_, *alike[0], expected)
            yield from self._starts_again(product, levels)

    def _restart(self, steps: list[Step]) -> bool:
        """Whether something of what these steps make starts again in a clone."""
        makes = [step for step in steps if isinstance(step, Make)]
        return any(self._differs(self._plan.products[step.product], step.arguments) for step in makes)

    def _starts_again(self, product: Product, levels: list[Level]) -> Iterator[tuple[Step, ...]]:
        for field in self._inmost(levels).fields:
            other = self._witnesses.other_than(field, field.default) if field.copy == "fresh" else None
            tree = self._tree(product, levels, {field.name: other}) if other is not None else None
            if tree is not None and other is not None:
                last, takes = f"level_{len(levels)}_of_clone", self._takes("clone", levels)
                if not self._has(levels[-1][1], field.name):  # a variant's own, where the base is held
                    takes.append(Narrow(f"{last}_itself", last, self._inmost(levels).name))
                    last += "_itself"
                kept = FieldIs(Path("original", levels[0][0].name), tree[1])
                yield (*tree[0], CLONED, *takes, starts_again(last, field), kept)

    def _inmost(self, levels: list[Level]) -> Product:
        return self._typical(levels[-1][1])

    def _typical(self, product: Product) -> Product:
        """The first concrete product of a type that can be made."""
        possible = (p for p in self._plan.concrete(product) if self._witnesses.arguments(p) is not None)
        return next(possible, product)

    def _tree(
        self, product: Product, levels: list[Level], given: Given | None = None
    ) -> tuple[list[Step], Operand] | None:
        """Steps that make an original with something at every level; and what its first field then holds."""
        below = self._below(levels, "level", given)
        if below is None:
            return None
        steps, holder = below
        original = Make("original", product.name, self._given(product, levels[0][0], holder))
        return [*steps, original], holder

    def _below(
        self, levels: list[Level], var: str, given: Given | None = None
    ) -> tuple[list[Step], Operand] | None:
        """Steps that make what stands at each level, the inmost first; and a value that holds all of it."""
        steps: list[Step] = []
        holder: Operand | None = None
        below: Field | None = None
        for number, (field, inner) in reversed(list(enumerate(levels, 1))):
            concrete = self._typical(inner)
            fixed = dict(given or {}) if below is None or holder is None else {below.name: holder}
            arguments = self._witnesses.completed(concrete, {n: v for n, v in fixed.items() if v is not None})
            if arguments is None:
                return None
            steps.append(Make(f"{var}_{number}", concrete.name, arguments))
            holder = self._around(field, Var(f"{var}_{number}"))
            below = field
            if holder is None:
                return None
        assert holder is not None
        return steps, holder

    def _around(self, field: Field, inner: Operand) -> Operand | None:
        """A value for a field whose inmost first element is the given one."""
        whole = self._lasting_value(field) or holding_something(self._witnesses, field)
        return in_place_of_first(whole, inner) if whole is not None else None

    def _takes(self, var: str, levels: list[Level]) -> list[Step]:
        steps: list[Step] = []
        holder = var
        for number, (field, _) in enumerate(levels, 1):
            steps.append(Take(f"level_{number}_of_{var}", Path(holder, field.name, depth_of(field.type))))
            holder = f"level_{number}_of_{var}"
        return steps


Level = tuple[Field, Product]


def chains(plan: Plan, field: Field) -> Iterator[list[Level]]:
    """The ways down the owned tree from a field, each as fields and the products that they hold."""
    waiting: list[list[Level]] = [[level] for level in _level(plan, field)]
    while waiting:
        levels = waiting.pop(0)
        yield levels
        if len(levels) < DEEPEST:
            for below in levels[-1][1].fields:
                waiting += [[*levels, level] for level in _level(plan, below)]


def _level(plan: Plan, field: Field) -> Iterator[Level]:
    inner = plan.product_in(field.type)
    if inner is not None and field.copy == "deep" and plan.changes_in_clone(field):
        yield field, inner


def depth_of(type_: Type) -> int:
    """How many collections lie around the innermost element."""
    depth = 0
    while isinstance(type_, Collection):
        type_, depth = type_.element, depth + 1
    return depth


def starts_again(var: str, field: Field) -> Step:
    """A `fresh` field of a clone has its default, is empty, or absent."""
    path = Path(var, field.name)
    if field.default is not None:
        return FieldIs(path, operand_of(field.default))
    empty = empty_of(field.type)
    return FieldAbsent(path) if empty is None else FieldIs(path, empty)


# --- faults -------------------------------------------------------------------------------------------------


def _clone_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    if claim.aspect == "apart":
        yield from _clones(plan, claim, "clone-is-itself")
        return
    faults: list[Fault] = []
    if claim.member is not None:
        faults += _field_faults(plan, claim, claim.member)
    elif claim.aspect == "equal":
        faults += _lost_fields(plan, claim)
    elif claim.aspect == "usable":
        faults += _other_answers(plan, witnesses, claim)
    yield from faults
    if not faults or claim.aspect in ("type", "usable", "list"):
        yield from _clones(plan, claim, "clone-is-nothing")


def _other_answers(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    for each in claim.cases:
        owner = next(step.product for step in each.steps if isinstance(step, Make))
        for step in each.steps:
            if isinstance(step, Answers):
                changed = with_another_answer(plan, witnesses, owner, step.operation)
                if changed is not None:
                    text = f"a clone of {owner} gives another {step.operation}"
                    yield Fault(claim, f"other-answer-{owner}-{step.operation}", text, changed)


def _clones(plan: Plan, claim: Claim, flaw: str) -> Iterator[Fault]:
    """The flaw for each concrete product that the claim clones."""
    for product in dict.fromkeys(_originals(claim)):
        fault = flaw_fault(plan, claim, flaw, product)
        yield fault if product == claim.owner else Fault(claim, f"{flaw}-{product}", fault.text, fault.plan)


def _originals(claim: Claim) -> Iterator[str]:
    for step in (step for each in claim.cases for step in each.steps):
        if isinstance(step, Make) and step.var == "original":
            yield step.product
        elif isinstance(step, Hold) and isinstance(step.value, Witness):
            yield step.value.product


def _lost_fields(plan: Plan, claim: Claim) -> Iterator[Fault]:
    seen: set[tuple[str, str]] = set()
    for step, shown in ((step, _shown(each)) for each in claim.cases for step in each.steps):
        for name in step.arguments if isinstance(step, Make) and step.var == "original" else ():
            if shown is not None and name not in shown:
                continue
            fields = {f.name: f for f in plan.products[step.product].fields}  # type: ignore[union-attr]
            field = fields.get(name)  # a parameter of a factory by values may be none of this variant's
            if field is None or field.copy == "fresh" or not _is_copied(plan, field):
                continue
            if (field.owner, name) not in seen:
                seen.add((field.owner, name))
                yield flaw_fault(plan, claim, "clone-loses", field.owner, name)


def _shown(each: Case) -> set[str] | None:
    """The fields of a clone that a case looks at; None where it looks at all of it."""
    looks = [step.path for step in each.steps if isinstance(step, FieldIs)]
    return {path.field for path in looks if path.var == "clone"} or None


def _is_copied(plan: Plan, field: Field) -> bool:
    """Whether a clone copies field by field: what is immutable and starts nothing again is its own clone."""
    owner = plan.products[field.owner]
    return owner.mutable or plan.restarts(owner)


def _field_faults(plan: Plan, claim: Claim, name: str) -> Iterator[Fault]:
    field = plan.products[claim.owner].field(name)
    if claim.aspect == "fresh":
        yield flaw_fault(plan, claim, "clone-keeps", field.owner, name)
        return
    if _is_copied(plan, field) and any(isinstance(s, SameObject) for each in claim.cases for s in each.steps):
        copies = flaw_fault(plan, claim, "clone-copies", field.owner, name)
        yield replace(copies, to_tell=_to_tell_a_copy(plan, field))
    if _is_copied(plan, field):
        yield flaw_fault(plan, claim, "clone-loses", field.owner, name)
    if claim.aspect == "deep":
        for flaw, below in dict.fromkeys(_further_down(plan, field)):
            yield flaw_fault(plan, claim, flaw, below.owner, below.name)


def _to_tell_a_copy(plan: Plan, field: Field) -> frozenset[str]:
    """The capabilities that a language needs to copy a single product and to tell the copy from it."""
    if not only_one(plan, field):
        return frozenset()
    product = plan.product_in(field.type)
    has_content = product is not None and product.fields
    return frozenset({"copy what there is one of"} | (set() if has_content else {"identity without content"}))


def _further_down(plan: Plan, field: Field) -> Iterator[tuple[str, Field]]:
    """The flaws at each level of the owned tree that the claim goes down."""
    for levels in chains(plan, field):
        last, inner = levels[-1]
        if inner.mutable:
            yield "clone-shares", last
        yield from (("clone-keeps", below) for below in inner.fields if below.copy == "fresh")


FAULTS = {"clone": _clone_faults, "exemplar": exemplar_faults}
PATTERN = Pattern("prototypes", 80, claims, makes, frozenset({"prototype"}), FAULTS)
