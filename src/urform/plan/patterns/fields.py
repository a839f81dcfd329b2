"""Fields: what is required, what holds when it is not given, and which values are refused."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import replace

from urform.declaration.told import Told
from urform.declaration.types import (
    TOLD,
    ChoiceType,
    Collection,
    MapOf,
    ProductType,
    SetOf,
    Type,
    innermost,
)
from urform.declaration.values import Real
from urform.plan.fault import Fault, flaw_fault, with_field
from urform.plan.forms import ANYTHING, texts_of_wider, wider_forms
from urform.plan.making_steps import Take
from urform.plan.messages import out_of_limit, tells_text
from urform.plan.model import Bound, Field, Limit, Product
from urform.plan.operands import (
    Keyed,
    Misfit,
    Missing,
    NoWord,
    Null,
    Operand,
    OutOfLimit,
    Path,
    Several,
    Strange,
    Untold,
    Var,
)
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns import Pattern
from urform.plan.scalars import Edge, as_declared, first_broken, scalar_edge, takes_one
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import (
    ChangeInHeld,
    Clear,
    FieldAbsent,
    FieldIs,
    LeaveOut,
    Make,
    Set,
)
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, collection_edge, empty_of, holding, operand_of

UNTOLD = tuple(map(str, TOLD))  # limits that tell whether a value is one of its type at all


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`required`, `default`, `absent` and `limit` of every field, where it is declared."""
    for product in plan.products.values():
        for field in product.own_fields:
            maker = _Maker(plan, witnesses, product, field)
            yield from maker.claims()
        if product.base is not None:
            yield from _redefined(plan, witnesses, product)


def _redefined(plan: Plan, witnesses: Witnesses, variant: Product) -> Iterator[Claim]:
    """A variant's other defaults for inherited fields."""
    base = plan.products[variant.base or ""]
    for field in base.fields:
        own = variant.field(field.name)
        if own.default is not None and own.default != field.default:
            maker = _Maker(plan, witnesses, variant, own, variant)
            yield maker.default()


class _Maker:
    """Makes the claims of one field; an abstract product is tried by its first variant that can be made."""

    def __init__(
        self, plan: Plan, witnesses: Witnesses, owner: Product, field: Field, concrete: Product | None = None
    ) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self._owner = owner
        self._field = field
        candidates = [concrete] if concrete else list(plan.concrete(owner))
        self._concrete = self._typical(candidates)
        self._selection = plan.selected_by(self._concrete)
        self._others = self._without(field) or self._anything()
        self._entry = self._selection.product if self._selection is not None else self._concrete.name

    def _typical(self, candidates: list[Product]) -> Product:
        """For a default the variant has to keep the one that its base declares."""
        keeps = [p for p in candidates if p.field(self._field.name).default == self._field.default]
        return (keeps or candidates)[0]

    def _with(self, value: Operand) -> dict[str, Operand]:
        completed = self._witnesses.completed(self._concrete, {self._field.name: value})
        return {**self._others, self._field.name: value} if completed is None else dict(completed)

    def _without(self, field: Field) -> Mapping[str, Operand] | None:
        """The arguments that make the product, without the field if it is optional."""
        selecting = self._witnesses.selecting(self._concrete)
        if selecting is None or field.required:
            return self._witnesses.arguments(self._concrete)
        return selecting.making(self._concrete.name, without=[field.name])

    def _anything(self) -> Mapping[str, Operand]:
        """Values for what a factory by values asks for, whatever it makes of them: what is missing it tells first."""
        asked = self._selection.required if self._selection is not None else ()
        return {p.name: first for p in asked if (first := self._witnesses.of(p)) is not None}

    def _always_asked_for(self) -> bool:
        """Whether an optional field is a required parameter of the factory that hides the constructor."""
        parameters = self._selection.required if self._selection is not None else ()
        return not self._field.required and any(p.name == self._field.name for p in parameters)

    def _never_asked_for(self) -> bool:
        """Whether the factory that hides the constructor has no such parameter: it never makes a product that has the field."""
        return self._selection is not None and all(
            p.name != self._field.name for p in self._selection.parameters
        )

    def claims(self) -> Iterator[Claim]:
        """Every claim of the field, in the order of the table in `docs/`."""
        if self._never_asked_for():
            pass  # nobody can give it, nor leave it out
        elif self._field.required:
            yield self.required()
        elif self._always_asked_for():
            pass  # nobody can leave it out
        elif self._field.default is not None or isinstance(self._field.type, Collection):
            if self._concrete.field(self._field.name).default == self._field.default:
                yield self.default()
        elif self._concrete.field(self._field.name).default is None:
            yield self.absent()
        yield from self.limits()

    def _claim(self, group: str, text: str, cases: list[Case], aspect: str | None = None) -> Claim:
        return Claim(group, self._owner.name, text, tuple(cases), self._field.name, aspect)

    def required(self) -> Claim:
        """Leaving the field out is refused, and so is null."""
        field, product = self._field, self._concrete.name
        without = {name: value for name, value in self._others.items() if name != field.name}
        missing = Missing(self._entry, (field.name,))
        cases = [
            case(LeaveOut(product, without, field.name)),
            case(Fails(Make(UNKEPT, product, self._with(Null(field.type))), missing)),
        ]
        if isinstance(field.type, Collection):
            holed = holding(self._witnesses, field, Null(field.type.element))
            if holed is not None:
                element = Missing(field.owner, (field.name,))
                cases.append(case(Fails(Make(UNKEPT, product, self._with(holed)), element), main=False))
        needed = (self._selection or self._concrete).required
        if len(needed) > 1 and field.name == needed[0].name:
            nulls: dict[str, Operand] = {f.name: Null(f.type) for f in needed}
            everything = Missing(self._entry, tuple(f.name for f in needed))
            cases.append(
                case(Fails(Make(UNKEPT, product, {**self._others, **nulls}), everything), main=False)
            )
        if self._concrete.mutable:
            cases.append(self._set_null())
        return self._claim("required", f"{field.name} of {self._owner.name} is required", cases)

    def _set_null(self) -> Case:
        making = Make("made", self._concrete.name, self._others)
        missing = Missing(self._field.owner, (self._field.name,))
        return case(
            making, Fails(Set(Path("made", self._field.name), Null(self._field.type)), missing), main=False
        )

    def default(self) -> Claim:
        """Not given, or given as null, it has exactly the default."""
        field, product = self._field, self._concrete.name
        default = self._default()
        path = Path("made", field.name)
        cases = [
            case(Make("made", product, self._others), FieldIs(path, default)),
            case(Make("made", product, self._with(Null(field.type))), FieldIs(path, default), main=False),
        ]
        if self._concrete.mutable and not field.may_be_absent:
            cases.append(self._set_null())
        if self._concrete.mutable and self._plan.holds_mutable(field.type):
            cases.extend(self._not_shared(default))
        said = "empty" if field.default is None else "the declared default"
        return self._claim("default", f"{field.name} of {self._owner.name} is {said} unless given", cases)

    def _default(self) -> Operand:
        if self._field.default is not None:
            return operand_of(self._field.default)
        return (
            Keyed(self._field.type, ())
            if isinstance(self._field.type, MapOf)
            else Several(self._field.type, ())
        )

    def _not_shared(self, default: Operand) -> Iterator[Case]:
        """A mutable default belongs to each product alone."""
        change = change_inside(self._plan, self._witnesses, self._field)
        if change is None or not _holds_something(default):
            return
        first = isinstance(self._field.type, Collection)
        changed: tuple[Step, ...] = (Set(Path("one", self._field.name, first, change.field), change.value),)
        if self._field.may_be_absent:  # as its owner declares it; what it hands out is there or not
            taken = Take("inside", Path("one", self._field.name, first))
            changed = (taken, Set(Path("inside", change.field), change.value))
        yield case(
            Make("one", self._concrete.name, self._others),
            Make("other", self._concrete.name, self._others),
            *changed,
            FieldIs(Path("other", self._field.name), default),
        )

    def absent(self) -> Claim:
        """Not given, it is absent."""
        field, product = self._field, self._concrete.name
        path = Path("made", field.name)
        cases = [
            case(Make("made", product, self._others), FieldAbsent(path)),
            case(Make("made", product, self._with(Null(field.type))), FieldAbsent(path), main=False),
        ]
        given = self._witnesses.of(field)
        if self._concrete.mutable and given is not None:
            cases.append(
                case(Make("made", product, self._with(given)), Clear(path), FieldAbsent(path), main=False)
            )
        return self._claim("absent", f"{field.name} of {self._owner.name} is absent unless given", cases)

    # --- limits ---------------------------------------------------------------------------------------

    def limits(self) -> Iterator[Claim]:
        """One claim for each limit, those of the whole before those of each element."""
        field = self._field
        yield from self._type()
        for limit in field.limits:
            edge = self._edge(limit)
            if edge is not None:
                yield self._limit(limit, limit.name, edge)
        for limit in field.each:
            edge = self._edge_of_element(limit)
            if edge is not None:
                yield self._limit(limit, f"each.{limit.name}", edge)

    def _limit(self, limit: Limit, aspect: str, edge: Edge) -> Claim:
        field, product = self._field, self._concrete.name
        failures = [out_of_limit(field, limit, each, aspect.removesuffix(limit.name)) for each in edge.broken]
        cases = [
            case(Fails(Make(UNKEPT, product, self._with(value)), failure))
            for value, failure in zip(edge.outside, failures, strict=True)
        ]
        path = Path("made", field.name)
        if edge.inside is not None:
            making = self._making(edge.inside)
            cases.append(case(making, FieldIs(path, _as_held(edge.inside)), main=False))
        if limit.unless_empty:
            empty = empty_of(field.type)
            assert empty is not None
            cases.append(case(self._making(empty), FieldIs(path, empty)))
        if self._concrete.mutable:
            cases.append(self._set_outside(edge, failures[0], path))
        said = "" if limit.bound is None or limit.bound is True else f" {limit.bound}"
        said += " unless it is empty" if limit.unless_empty else ""
        kept = f"keeps {aspect.replace('_', ' ')}{said}" if limit.name != "unique" else "has no element twice"
        text = f"{field.name} of {self._owner.name} {kept}"
        return self._claim("limit", text, cases, aspect)

    def _making(self, value: Operand) -> Make:
        """Makes a product with this value: of the kind at hand, or of the kind that the value leads to."""
        making = Make("made", self._concrete.name, self._with(value))
        selecting = self._witnesses.selecting(self._concrete)
        if selecting is None or selecting.makes(making.arguments, making.product):
            return making
        for kind in self._plan.concrete(self._plan.products[self._concrete.base or self._concrete.name]):
            if all(field.name != self._field.name for field in kind.fields):
                continue
            given = self._witnesses.completed(kind, {self._field.name: value})
            if given is not None and selecting.makes(given, kind.name):
                return Make("made", kind.name, given)
        return making

    def _set_outside(self, edge: Edge, failure: OutOfLimit, path: Path) -> Case:
        """The setter refuses too, and leaves the field as it was."""
        before = self._others.get(self._field.name, self._witnesses.of(self._field))
        steps: list[Step] = [Fails(Set(path, edge.outside[0]), failure)]
        if before is not None:
            steps = [Make("made", self._concrete.name, self._with(before)), *steps, FieldIs(path, before)]
            if edge.inside is not None:
                steps += [Set(path, edge.inside), FieldIs(path, _as_held(edge.inside))]
        else:
            steps = [Make("made", self._concrete.name, self._others), *steps]
        return case(*steps)

    def _edge(self, limit: Limit) -> Edge | None:
        field = self._field
        if limit.name == "finite":
            return self._finite(field.type, field.limits)
        if limit.name in UNTOLD:
            return Edge((Untold(limit.name),), self._witnesses.of(field))
        if limit.name == "choice" and isinstance(field.type, ChoiceType):
            return Edge((NoWord(field.type.name),), self._witnesses.of(field))
        if isinstance(field.type, Collection):
            return collection_edge(self._witnesses, field, limit)
        return scalar_edge(field.type, field.limits, limit)

    def _finite(self, type_: Type, limits: tuple[Limit, ...]) -> Edge:
        """Nothing that is no number; and minus nothing is held as nothing."""
        del type_
        inside = Real(-0.0) if first_broken(Real(0.0), limits) is None else None
        return Edge(tuple(Strange(number) for number in ("nan", "infinity", "-infinity", "huge")), inside)

    def _edge_of_element(self, limit: Limit) -> Edge | None:
        type_ = self._field.type
        if not isinstance(type_, Collection):
            return None
        element = type_.element
        if isinstance(element, Collection) and limit.bound is not None:
            return None  # a length of inner collections: the whole of it is shown by its own type's checks
        if isinstance(element, Collection):
            return self._deep_edge(element, limit)
        if limit.name == "finite":
            edge: Edge | None = Edge(self._finite(element, self._field.each).outside, None)
        elif limit.name == "choice" and isinstance(element, ChoiceType):
            edge = Edge((NoWord(element.name),), None)
        elif limit.name in UNTOLD:
            edge = Edge((Untold(limit.name),), None)
        else:
            edge = scalar_edge(element, self._field.each, limit)
        if edge is None:
            return None
        inside = holding(self._witnesses, self._field, edge.inside) if edge.inside is not None else None
        return self._around(((value, value) for value in edge.outside), inside)

    def _deep_edge(self, element: Type, limit: Limit) -> Edge | None:
        """What is not finite, or no word, at the innermost level of nested collections."""
        if not takes_one(self._field.each):
            return None
        inner = innermost(element)
        bad: tuple[Operand, ...] = self._finite(inner, ()).outside
        if limit.name == "choice" and isinstance(inner, ChoiceType):
            bad = (NoWord(inner.name),)
        if limit.name in UNTOLD:
            bad = (Untold(limit.name),)
        nested = [(value, self._witnesses.around(element, value)) for value in bad]
        return self._around(((value, around) for value, around in nested if around is not None), None)

    def _around(self, elements: Iterable[tuple[Operand, Operand]], inside: Operand | None) -> Edge | None:
        """The edge of a collection that holds such elements: what breaks the limit, and the element that has it."""
        held = [(value, holding(self._witnesses, self._field, element)) for value, element in elements]
        refused = [(value, whole) for value, whole in held if whole is not None]
        if not refused:
            return None
        return Edge(tuple(whole for _, whole in refused), inside, tuple(value for value, _ in refused))

    def _is_looked_at_first(self) -> bool:
        """Whether conditions look at a field: what is none of its type is refused before they do."""
        selecting = self._witnesses.selecting(self._concrete)
        return selecting is not None and self._field.name in selecting.mentioned

    def _told_by_several(self) -> bool:
        """Whether conditions look at a field that several variants declare: whose it is, they decide."""
        selecting = self._witnesses.selecting(self._concrete)
        if selecting is None or self._field.name not in selecting.mentioned:
            return False
        base = self._plan.products[selecting.selection.product]
        return len(self._plan.owners(base, self._field.name)) > 1

    def _type(self) -> Iterator[Claim]:
        """A value of another type is refused, where the language itself would let it through."""
        field = self._field
        product = self._concrete.name
        if self._told_by_several():
            return
        misfits: list[Operand] = [Misfit(field.type)]
        if isinstance(field.type, Collection) and not isinstance(field.type.element, Collection):
            inner = holding(self._witnesses, field, Misfit(field.type.element))
            misfits += [inner] if inner is not None else []
        failure = OutOfLimit(field.owner, field.name, "type")
        cases = [
            case(
                Fails(
                    Make(UNKEPT, product, self._with(misfit)),
                    failure if index == 0 else OutOfLimit(field.owner, field.name, "each.type"),
                )
            )
            for index, misfit in enumerate(misfits)
            if self._is_looked_at_first() or self._witnesses.completed(self._concrete, {field.name: misfit})
        ]
        if self._concrete.mutable:
            making = Make("made", product, self._others)
            cases.append(case(making, Fails(Set(Path("made", field.name), Misfit(field.type)), failure)))
        if not cases:
            return  # every value of the others is refused, or chooses another variant
        yield self._claim(
            "limit", f"{field.name} of {self._owner.name} takes {field.type} only", cases, "type"
        )


def change_inside(plan: Plan, witnesses: Witnesses, field: Field, var: str = "held") -> ChangeInHeld | None:
    """A change of one field of the mutable product that a field holds; None if it has nothing to change."""
    inner = plan.product_in(field.type)
    if inner is None or not inner.mutable or isinstance(field.type, SetOf):
        return None
    element = field.type.element if isinstance(field.type, Collection) else field.type
    if not isinstance(element, ProductType):
        return None
    change = change_of(witnesses, inner)
    return ChangeInHeld(var, *change) if change is not None else None


def change_of(witnesses: Witnesses, product: Product) -> tuple[str, Operand] | None:
    """A scalar field of a mutable product and a value that its witnesses do not have there; one that a clone keeps, if
    there is one."""
    for candidate in sorted(product.fields, key=lambda field: field.copy == "fresh"):
        if isinstance(candidate.type, (Collection, ProductType)):
            continue
        first = witnesses.of(candidate) if candidate.required else None
        for value in witnesses.values(candidate.type, candidate.limits, candidate.each):
            if value != first and (candidate.default is None or value != candidate.default):
                return candidate.name, value
    return None


def _as_held(value: Operand) -> Operand:
    """-0.0 is held as 0.0."""
    return Real(0.0) if isinstance(value, Real) and value.number == 0 else value


def _holds_something(default: Operand) -> bool:
    match default:
        case Several(_, items):
            return bool(items)
        case Keyed(_, entries):
            return bool(entries)
    return not isinstance(default, Var)


# --- faults -------------------------------------------------------------------------------------------------


def _required_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    yield flaw_fault(plan, claim, "accepts-missing", claim.owner, claim.member or "")


def _default_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    name = claim.member or ""
    field = plan.products[claim.owner].field(name)
    unlimited = replace(field, limits=(), each=())  # where the limits leave one value, a default breaks them
    other = witnesses.other_than(field, field.default) or witnesses.other_than(unlimited, field.default)
    value = witnesses.value(other) if other is not None else None
    failing = flaw_fault(plan, claim, "absent-fails", claim.owner, name)
    if _comes_back(plan, field.type, claim.owner):
        yield failing
    elif value is None:
        yield replace(failing, same=f"there is one {field.type} only, which is the default")
    else:
        changed = with_field(plan, claim.owner, name, lambda f: replace(f, default=value))
        yield Fault(claim, "other-default", f"{name} has another default", changed)


def _absent_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    name = claim.member or ""
    field = plan.products[claim.owner].field(name)
    given = witnesses.of(field)
    value = witnesses.value(given) if given is not None else None
    if _comes_back(plan, field.type, claim.owner):  # a default would make one within the other without end
        yield flaw_fault(plan, claim, "absent-fails", claim.owner, name)
    elif value is not None:
        changed = with_field(plan, claim.owner, name, lambda f: replace(f, default=value))
        yield Fault(claim, "given-a-default", f"{name} has a default, and is never absent", changed)


def _comes_back(plan: Plan, type_: Type, owner: str) -> bool:
    """Whether a product of a type may hold one of the owner's kind, at whatever depth."""
    waiting, seen = [type_], set[str]()
    home = {owner, plan.products[owner].base or owner}
    while waiting:
        inner = innermost(waiting.pop())
        if isinstance(inner, ProductType) and inner.name not in seen:
            seen.add(inner.name)
            product = plan.products[inner.name]
            waiting += [ProductType(name) for name in product.variants]
            waiting += [f.type for f in product.fields]
    return bool(seen & home)


def _limit_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    """The limit gone; and, where it has a bound, its edge moved inwards and outwards."""
    name, aspect = claim.member or "", claim.aspect or ""
    yield unlimited(plan, claim, claim.owner, name, aspect)
    field = plan.products[claim.owner].field(name)
    inner = aspect.removeprefix("each.")
    limits = field.each if inner != aspect else field.limits
    limit = next((limit for limit in limits if limit.name == inner), None)
    if limit is None:
        return
    if aspect == "finite" and any(map(_shows_a_zero, claim.cases)):
        yield flaw_fault(plan, claim, "keeps-sign-of-zero", claim.owner, name)
    shown = field.type if inner == aspect else innermost(field.type)
    if tells_text(shown, [limit]):
        turned = with_field(plan, claim.owner, name, lambda field: replace(field, secret=not field.secret))
        text = f"the error tells {name}" if field.secret else f"the error does not tell {name}"
        yield Fault(claim, "tells-secret" if field.secret else "hides-value", text, turned)
    if limit.form is not None:
        yield from _form_faults(plan, claim, field, limit, limits, of_elements=inner != aspect)
    if limit.unless_empty:
        always = tuple(replace(each, unless_empty=False) if each is limit else each for each in limits)
        changed = with_field(plan, claim.owner, name, _with_limits(always, of_elements=False))
        yield Fault(claim, "refuses-empty", f"an empty {name} is refused too", changed)
    takes_edge = any(not case.main for case in claim.cases)
    for way, bound in _moved(limit):
        if way == "inwards" and not takes_edge:
            continue  # no value lies on the edge, for another limit refuses it
        moved = tuple(replace(each, bound=bound) if each is limit else each for each in limits)
        changed = with_field(plan, claim.owner, name, _with_limits(moved, of_elements=inner != aspect))
        yield Fault(claim, f"edge-{way}", f"{aspect.replace('_', ' ')} of {name} is moved {way}", changed)


def unlimited(plan: Plan, claim: Claim, owner: str, name: str, aspect: str) -> Fault:
    """A limit that refuses nothing: one on the form of a text takes any text, others are passed over by a flaw."""
    field = plan.products[owner].field(name)
    inner = aspect.removeprefix("each.")
    limits = field.each if inner != aspect else field.limits
    is_of_form = any(limit.name == inner and limit.form is not None for limit in limits)
    open_ = tuple(replace(limit, form=ANYTHING) if limit.name == inner else limit for limit in limits)
    fault = flaw_fault(plan, claim, "unlimited", owner, name, aspect)
    if not is_of_form:
        return fault
    return replace(
        fault, plan=with_field(plan, owner, name, _with_limits(open_, of_elements=inner != aspect))
    )


def _form_faults(
    plan: Plan, claim: Claim, field: Field, limit: Limit, limits: tuple[Limit, ...], *, of_elements: bool
) -> Iterator[Fault]:
    """The form is looked for at the begin of a text only, or at its end."""
    for where, wider in wider_forms(limit.form).items():
        changed = tuple(replace(each, form=wider) if each is limit else each for each in limits)
        is_told_apart = any(True for _ in texts_of_wider(as_declared(limits), limit.name, wider))
        yield Fault(
            claim,
            f"takes-more-{where}",
            f"a text of {field.name} may have more {where} what it should be",
            with_field(plan, claim.owner, field.name, _with_limits(changed, of_elements=of_elements)),
            same="" if is_told_apart else f"its limits leave no text with more {where} it",
        )


def _shows_a_zero(shown: Case) -> bool:
    """Whether a negative zero is handed in, at its own level."""
    handed: list[Operand] = []
    for step in shown.steps:
        handed += step.arguments.values() if isinstance(step, Make) else ()
        handed += [step.value] if isinstance(step, Set) else ()
    return any(isinstance(each, Real) and repr(each.number) == "-0.0" for each in handed)


def _with_limits(limits: tuple[Limit, ...], *, of_elements: bool) -> Callable[[Field], Field]:
    return lambda field: replace(field, each=limits) if of_elements else replace(field, limits=limits)


def _moved(limit: Limit) -> Iterator[tuple[str, Bound]]:
    bound = limit.bound
    if isinstance(bound, Told):
        days = 1 if limit.name in ("min", "above") else -1
        for way, moved in (("inwards", bound.beside(days)), ("outwards", bound.beside(-days))):
            if moved is not None:
                yield way, moved
    if isinstance(bound, tuple):
        if len(bound) > 1:
            yield "inwards", bound[1:]
    elif isinstance(bound, (int, float)) and not isinstance(bound, bool):
        step = 1 if isinstance(bound, int) else max(1.0, abs(bound) / 100)
        inwards = step if limit.name in ("min", "above", "min_length") else -step
        yield "inwards", bound + inwards
        yield "outwards", bound - inwards


FAULTS = {
    "required": _required_faults,
    "default": _default_faults,
    "absent": _absent_faults,
    "limit": _limit_faults,
}
PATTERN = Pattern("fields", 10, claims, covers=frozenset({"product"}), faults=FAULTS)
