"""Builders: any order, everything that is missing at once, presets, and no state that is shared."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from itertools import islice

from urform.declaration.model import Declaration
from urform.declaration.ranges import is_unique
from urform.declaration.types import Collection, ListOf, SetOf
from urform.declaration.values import Items
from urform.declaration.written_values import WrittenValues
from urform.plan.chaining import calls_in
from urform.plan.fault import Fault, flaw_fault, only_one, with_making
from urform.plan.making_steps import (
    Build,
    BuildChained,
    BuilderAdd,
    BuilderClear,
    BuilderSet,
    NewBuilder,
    Take,
)
from urform.plan.messages import out_of_limit
from urform.plan.model import Builder, Field, Preset
from urform.plan.operands import Missing, Null, Operand, OutOfLimit, Path, Several, Var
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns import Pattern, compile_time
from urform.plan.patterns.fields import change_inside, unlimited
from urform.plan.patterns.holding import cases_of_adder, inner_held
from urform.plan.scalars import as_declared, scalar_edge
from urform.plan.script import Case, Claim, Step, case
from urform.plan.sizes import sized
from urform.plan.steps import ChangeHeld, Equal, FieldAbsent, FieldIs, Hold, Make, Set
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, operand_of
from urform.prose import with_article

Given = Mapping[str, Operand]


def makes(declaration: Declaration, plan: Plan) -> Iterator[Builder]:
    """A builder for each product that declares one."""
    values = WrittenValues(declaration)
    for product in declaration.products.values():
        builder = product.builder
        if builder is not None:
            presets = tuple(Preset(p.name, values.given(product, p.values)) for p in builder.presets)
            fluent, resets = builder.style == "fluent", builder.after_build == "reset"
            typed = builder.missing == "at_compile_time"
            yield Builder(product.name, fluent, resets, presets, typed)


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`build` and `preset` of every builder whose product can be made."""
    for making in plan.makings:
        if isinstance(making, Builder) and witnesses.arguments(plan.products[making.product]) is not None:
            yield from _Claims(plan, witnesses, making).claims()


class _Claims:
    """Makes the claims of one builder."""

    def __init__(self, plan: Plan, witnesses: Witnesses, builder: Builder) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self._builder = builder
        self._product = plan.products[builder.product]
        self._name = builder.product
        self._needed: Given = witnesses.arguments(self._product) or {}
        self._all: Given = {**self._needed, **self._chosen()}
        self._new = NewBuilder("builder", self._name)

    def _chosen(self) -> dict[str, Operand]:
        """Values for the optional fields, other than their defaults."""
        others = {f.name: self._witnesses.other_than(f, f.default) for f in self._product.optional}
        return {name: value for name, value in others.items() if value is not None}

    def _claim(self, aspect: str, text: str, cases: list[Case]) -> Iterator[Claim]:
        if any(case.main for case in cases):
            yield Claim("build", self._name, text, tuple(cases), aspect=aspect)

    def _set(self, given: Given, builder: str = "builder") -> list[Step]:
        return [BuilderSet(builder, name, value) for name, value in given.items()]

    def claims(self) -> Iterator[Claim]:
        """All claims of the builder."""
        name = self._name
        yield from self._claim(
            "any-order", f"{with_article(name)} is built from values in any order", self._any_order()
        )
        missing = "a build names every missing field at once, and a broken limit only if none is missing"
        yield from self._claim("missing", missing, self._missing())
        if self._builder.typed:
            yield compile_time.claim(self._plan, self._builder, self._needed)
        if self._builder.resets:
            yield from self._claim(
                "reset",
                "a build that succeeds empties the builder, and one that fails does not",
                self._resets(),
            )
        else:
            yield from self._claim(
                "keep", "a builder can build again, from the same values and others", self._keeps()
            )
        apart = "builders share nothing with each other, nor with what they were given or have built"
        yield from self._claim("apart", apart, self._apart())
        yield from self._claim("adder", "an adder appends and a setter replaces", self._adders())
        clear = "an optional field that is cleared is as if it had never been set"
        yield from self._claim("clear", clear, self._clears())
        like = f"a builder can start from {with_article(name)} and builds an equal one"
        yield from self._claim("like", like, self._like())
        for preset in self._builder.presets:
            if preset.values:  # of one that gives nothing there is nothing to show
                yield self._preset(preset)

    # --- order, what is missing -------------------------------------------------------------------------

    def _any_order(self) -> list[Case]:
        expected = Make("expected", self._name, self._all)
        built = Build("built", "builder")
        backwards = dict(reversed(list(self._all.items())))
        cases = [case(expected, self._new, *self._set(backwards), built, Equal("expected", "built"))]
        if self._builder.fluent and not self._builder.typed:  # or all is chained as it is
            chained = BuildChained("built", self._name, self._all)
            cases.append(case(expected, chained, Equal("expected", "built")))
        least = Make("least", self._name, self._needed)
        cases.append(case(least, self._new, *self._set(self._needed), built, Equal("least", "built")))
        nulls: Given = {f.name: Null(f.type) for f in self._product.optional}
        for name, null in nulls.items():
            steps = self._set({**self._needed, name: null})
            cases.append(case(least, self._new, *steps, built, Equal("least", "built"), main=False))
        return cases

    def _missing(self) -> list[Case]:
        names = tuple(f.name for f in self._product.required)
        cases: list[Case] = []
        if names:
            cases.append(case(self._new, Fails(Build(UNKEPT, "builder"), Missing(self._name, names))))
        for name in names if len(names) > 1 else ():
            others = self._set({n: v for n, v in self._needed.items() if n != name})
            cases.append(
                case(self._new, *others, Fails(Build(UNKEPT, "builder"), Missing(self._name, (name,))))
            )
        for field in self._product.required:
            null = Null(field.type)
            cases.append(
                self._null_is_missing(field.name, null)
                if self._builder.typed
                else self._null(field.name, null)
            )
        return [*cases, *self._limit(names)]

    def _null(self, name: str, null: Null) -> Case:
        names = tuple(f.name for f in self._product.required)
        failure = Fails(Build(UNKEPT, "builder"), Missing(self._name, names))
        return case(self._new, BuilderSet("builder", name, null), failure, main=False)

    def _null_is_missing(self, name: str, null: Null) -> Case:
        """What a compiler takes for given is missing all the same."""
        failure = Fails(Build(UNKEPT, "builder"), Missing(self._name, (name,)))
        return case(self._new, *self._set({**self._needed, name: null}), failure)

    def _limit(self, names: tuple[str, ...]) -> Iterator[Case]:
        """A setter checks nothing; a build tells what is missing before it tells of a limit."""
        for field in self._product.fields:
            for limit in field.limits if not isinstance(field.type, Collection) else ():
                edge = scalar_edge(field.type, field.limits, limit)
                if edge is None:
                    continue
                outside = BuilderSet("builder", field.name, edge.outside[0])
                broken = out_of_limit(field, limit, edge.outside[0])
                failure = Fails(Build(UNKEPT, "builder"), broken)
                main = (
                    not self._builder.typed
                )  # where that is all that can be shown, nothing is said of missing ones
                yield case(self._new, *self._set(self._needed), outside, failure, main=main)
                others = tuple(name for name in names if name != field.name)
                if others:
                    first = Fails(Build(UNKEPT, "builder"), Missing(self._name, others))
                    yield case(self._new, outside, first, main=main)
                return

    # --- after a build ----------------------------------------------------------------------------------

    def _resets(self) -> list[Case]:
        built, again = Build("built", "builder"), Build("again", "builder")
        names = tuple(f.name for f in self._product.required)
        least = Make("least", self._name, self._needed)
        cases: list[Case] = []
        starts = [self._new, *(NewBuilder("builder", self._name, p.name) for p in self._builder.presets)]
        for start in starts:
            first = (start, *self._set(self._all), built)
            if names:
                cases.append(case(*first, Fails(Build(UNKEPT, "builder"), Missing(self._name, names))))
            cases.append(case(*first, *self._set(self._needed), again, least, Equal("least", "again")))
        if names:
            name, value = next(iter(self._needed.items()))
            rest = {n: v for n, v in self._all.items() if n != name}
            steps = (
                self._new,
                *self._set(rest),
                Fails(Build(UNKEPT, "builder"), Missing(self._name, (name,))),
            )
            expected = Make("expected", self._name, self._all)
            steps_after = (BuilderSet("builder", name, value), built, expected, Equal("expected", "built"))
            cases.append(case(*steps, *steps_after, main=False))
        return cases

    def _keeps(self) -> list[Case]:
        first = (self._new, *self._set(self._all), Build("built", "builder"))
        cases = [case(*first, Build("again", "builder"), Equal("built", "again"))]
        changed = self._changed()
        if changed is not None:
            name, value = changed
            more = (BuilderSet("builder", name, value), Build("again", "builder"))
            whole = Make("expected", self._name, {**self._all, name: value})
            cases.append(case(*first, *more, whole, Equal("expected", "again")))
        return cases

    def _changed(self) -> tuple[str, Operand] | None:
        """A field and a value for it that differs from the one in `all`."""
        for field in self._product.fields:
            for value in self._witnesses.values(field.type, field.limits, field.each):
                if value != self._all.get(field.name):
                    return field.name, value
        return None

    # --- apart ------------------------------------------------------------------------------------------

    def _apart(self) -> list[Case]:
        cases: list[Case] = []
        names = tuple(f.name for f in self._product.required)
        other = NewBuilder("other", self._name)
        if self._builder.typed:
            cases += self._beside_another(other)
        elif names:
            failure = Fails(Build(UNKEPT, "other"), Missing(self._name, names))
            cases.append(case(self._new, other, *self._set(self._all), failure))
        else:
            least = Make("least", self._name, {})
            used = self._set(self._all) or (Build("first", "builder"),)  # where nothing can be set
            cases.append(
                case(self._new, other, *used, Build("built", "other"), least, Equal("least", "built"))
            )
        for field in self._product.fields:
            cases += self._given_and_built(field)
        return cases

    def _beside_another(self, other: NewBuilder) -> Iterator[Case]:
        """What one builder is given does not arrive in another that was given less before."""
        changed = self._changed()
        if changed is None:
            return
        given = {**self._all, changed[0]: changed[1]}
        steps = (other, *self._set(self._needed, "other"), self._new, *self._set(given))
        built = (Build("built", "other"), Build("second", "builder"))
        yield case(Make("least", self._name, self._needed), *steps, *built, Equal("least", "built"))

    def _given_and_built(self, field: Field) -> Iterator[Case]:
        content = self._holding_something(field)
        path = Path("built", field.name)
        rest = self._set({n: v for n, v in self._needed.items() if n != field.name})
        if content is None:
            return
        if isinstance(field.type, Collection):
            given = (
                Hold("held", field.type, content),
                self._new,
                *rest,
                BuilderSet("builder", field.name, Var("held")),
            )
            yield case(*given, ChangeHeld("held"), Build("built", "builder"), FieldIs(path, content))
            yield from self._later(field, content, rest)
            nested = inner_held(self._witnesses, field)
            if nested is not None:
                holds, whole = nested
                sets = (self._new, *rest, BuilderSet("builder", field.name, Var("held")))
                yield case(
                    *holds, *sets, ChangeHeld("inner"), Build("built", "builder"), FieldIs(path, whole)
                )
            if not self._product.mutable:
                yield from cases_of_adder(self._plan, self._witnesses, self._product, field, self._needed)
        change = change_inside(self._plan, self._witnesses, field)
        if change is None:
            return
        given = (
            Hold("held", field.type, content),
            self._new,
            *rest,
            BuilderSet("builder", field.name, Var("held")),
        )
        yield case(*given, change, Build("built", "builder"), FieldIs(path, content))
        if not self._builder.resets and self._product.mutable:
            take = Take("inside", Path("built", field.name, int(isinstance(field.type, Collection))))
            again = (take, Set(Path("inside", change.field), change.value), Build("again", "builder"))
            yield case(*given, Build("built", "builder"), *again, FieldIs(Path("again", field.name), content))

    def _later(self, field: Field, content: Operand, rest: list[Step]) -> Iterator[Case]:
        """Cases in which a builder is changed after a build, which does not change the product."""
        element = _element(content)
        if not field.item or self._builder.resets or element is None:
            return
        first = (self._new, *rest, BuilderSet("builder", field.name, content), Build("built", "builder"))
        yield case(
            *first, BuilderAdd("builder", field.name, element), FieldIs(Path("built", field.name), content)
        )

    def _holding_something(self, field: Field) -> Operand | None:
        for value in self._witnesses.values(field.type, field.limits, field.each):
            if not isinstance(field.type, Collection) or _element(value) is not None or _entries(value):
                return value
        return None

    # --- adders, presets, products to start from ----------------------------------------------------------

    def _adders(self) -> list[Case]:
        cases: list[Case] = []
        for field in self._product.fields:
            if field.item and isinstance(field.type, (ListOf, SetOf)):
                cases += self._adder(field)
        return cases

    def _adder(self, field: Field) -> Iterator[Case]:
        rest = self._set({n: v for n, v in self._needed.items() if n != field.name})
        build, path = Build("built", "builder"), Path("built", field.name)
        whole = self._two_or_one(field)
        if whole is None:
            return
        adds = [BuilderAdd("builder", field.name, element) for element in whole.items]
        yield case(self._new, *rest, *adds, build, FieldIs(path, whole))
        begin = BuilderSet("builder", field.name, Several(field.type, whole.items[:1]))
        yield case(self._new, *rest, begin, *adds[1:], build, FieldIs(path, whole))
        yield case(
            self._new, *rest, *adds, BuilderSet("builder", field.name, whole), build, FieldIs(path, whole)
        )

    def _two_or_one(self, field: Field) -> Several | None:
        """A collection of two different elements if there are two and its limits take them, else of one or three."""
        assert isinstance(field.type, (ListOf, SetOf))
        if isinstance(field.type, ListOf) and length_fits(field, 2):
            elements = list(islice(self._witnesses.values(field.type.element, field.each), 2))
            if elements and (len(elements) > 1 or not is_unique(as_declared(field.limits))):
                return Several(field.type, (elements[0], elements[-1]))
        for size in (2, 1, 3):
            whole = sized(self._witnesses, field, size) if length_fits(field, size) else None
            if isinstance(whole, Several) and whole.items:
                return whole
        return None

    def _clears(self) -> list[Case]:
        least, built = Make("least", self._name, self._needed), Build("built", "builder")
        cases: list[Case] = []
        for name, value in self._chosen().items():
            steps = (*self._set({**self._needed, name: value}), BuilderClear("builder", name))
            cases.append(case(least, self._new, *steps, built, Equal("least", "built")))
        return cases

    def _like(self) -> list[Case]:
        original = Make("original", self._name, self._all)
        start, built = NewBuilder("builder", self._name, like="original"), Build("built", "builder")
        cases = [case(original, start, built, Equal("original", "built"))]
        least = Make("original", self._name, self._needed)
        cases.append(case(least, start, built, Equal("original", "built")))
        changed = self._changed()
        if changed is not None:
            name, value = changed
            steps = (BuilderSet("builder", name, value), built, FieldIs(Path("built", name), value))
            before = self._all.get(name)
            kept = FieldIs(Path("original", name), before) if before is not None else None
            cases.append(case(original, start, *steps, *([kept] if kept else [])))
        return cases

    def _preset(self, preset: Preset) -> Claim:
        start, built = NewBuilder("builder", self._name, preset.name), Build("built", "builder")
        values = {name: operand_of(value) for name, value in preset.values.items()}
        rest = self._set({n: v for n, v in self._needed.items() if n not in values})
        arrive = [FieldIs(Path("built", name), value) for name, value in values.items()]
        defaults: list[Step] = []
        for field in self._product.optional:
            if field.name not in values and field.default is not None:
                defaults.append(FieldIs(Path("built", field.name), operand_of(field.default)))
            elif field.name not in values and field.absent_by_default:
                defaults.append(FieldAbsent(Path("built", field.name)))
        cases = [case(start, *rest, built, *arrive, *defaults)]
        for name, value in values.items():
            field = self._product.field(name)
            own = next(
                (v for v in self._witnesses.values(field.type, field.limits, field.each) if v != value), None
            )
            if own is not None:
                mine = (BuilderSet("builder", name, own), built, FieldIs(Path("built", name), own))
                cases.append(case(start, *rest, *mine))
            cases += self._appends(field, value, start, rest)
        text = f"a builder that starts from {preset.name} has its values, and the caller's override them"
        return Claim("preset", self._name, text, tuple(cases), preset.name)

    def _appends(self, field: Field, value: Operand, start: NewBuilder, rest: list[Step]) -> Iterator[Case]:
        """An adder appends to what the preset gives, and the next builder starts from the preset again."""
        if not field.item or not isinstance(value, Several) or not isinstance(field.type, ListOf):
            return
        may_repeat = not is_unique(as_declared(field.limits))
        elements = self._witnesses.values(field.type.element, field.each)
        element = next((each for each in elements if may_repeat or each not in value.items), None)
        longer = Several(field.type, (*value.items, element)) if element is not None else None
        if longer is None or element is None or not length_fits(field, len(longer.items)):
            return
        add = BuilderAdd("builder", field.name, element)
        built = Build("built", "builder")
        yield case(start, *rest, add, built, FieldIs(Path("built", field.name), longer))
        other = NewBuilder("other", self._name, start.preset)
        again = [BuilderSet("other", s.field, s.value) for s in rest if isinstance(s, BuilderSet)]
        kept = FieldIs(Path("second", field.name), value)
        first = (
            (Build("first", "builder"),) if self._builder.typed else ()
        )  # or the chain would be used by nothing
        yield case(start, *rest, add, *first, other, *again, Build("second", "other"), kept)


def _element(value: Operand) -> Operand | None:
    match value:
        case Several(_, items) | Items(_, items) if items:
            return items[0]
    return None


def _entries(value: Operand) -> bool:
    return bool(getattr(value, "entries", ()))


def length_fits(field: Field, size: int) -> bool:
    """Whether a collection of that many elements is within the field's length limits."""
    bounds = {limit.name: limit.bound for limit in field.limits}
    fewest, most = bounds.get("min_length", 0), bounds.get("max_length")
    assert isinstance(fewest, int)
    return fewest <= size and (not isinstance(most, int) or size <= most)


# --- faults -------------------------------------------------------------------------------------------------


def _build_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    builder = plan.builder_of(claim.owner)
    assert builder is not None, f"{claim.owner} has claims of a builder, but none"
    product = plan.products[claim.owner]
    match claim.aspect:
        case compile_time.ASPECT:
            yield from compile_time.faults(plan, builder, claim)
            return
        case "any-order":
            flaws = [("sets-nothing", f.name) for f in product.fields if _is_set(claim, f.name)]
        case "missing":
            flaws = [("accepts-missing", f.name) for f in product.required]
            if not flaws:
                yield from _limit_faults(plan, claim)
        case "adder":
            flaws = [("adder-replaces", name) for name in _added_twice(claim)]
        case "like":
            flaws = [("like-leaves-out", f.name) for f in product.fields if _is_set(claim, f.name)]
        case "clear":
            flaw = "clears-nothing" if builder.fluent else "cleared-stays"
            flaws = [(flaw, name) for name in _cleared(claim)]
        case "apart":
            held_types = dict.fromkeys(s.type for c in claim.cases for s in c.steps if isinstance(s, Hold))
            kept = [f.name for f in product.fields if f.type in held_types]
            flaws = [("builders-share", ""), *(("builder-keeps-as-given", name) for name in kept)]
        case _:
            text = "a build leaves the builder as it is" if builder.resets else "a build empties the builder"
            other = replace(builder, resets=not builder.resets)
            borrowed = builder.typed and not builder.resets  # or each setter changes it, and so may a build
            to_tell = frozenset({"empty what is only borrowed"} if borrowed else ())
            yield Fault(claim, "other-state", text, with_making(plan, builder, other), to_tell=to_tell)
            return
    for name, member in flaws:
        fault = flaw_fault(plan, claim, name, claim.owner, member)
        incomplete = name == "accepts-missing" and builder.typed
        yield replace(fault, to_tell=frozenset({"build what is incomplete"})) if incomplete else fault


def _limit_faults(plan: Plan, claim: Claim) -> Iterator[Fault]:
    """Where nothing can be missing, the limit that a build tells of."""
    for step in (step for each in claim.cases for step in calls_in(each.steps)):
        failure = step.failure if isinstance(step, Fails) else None
        if isinstance(failure, OutOfLimit):
            yield unlimited(plan, claim, failure.owner, failure.field, failure.limit)


def _is_set(claim: Claim, field: str) -> bool:
    """Whether some case gives a field a value that is not null."""
    for each in claim.cases:
        for step in calls_in(each.steps):
            if isinstance(step, BuilderSet) and step.field == field and not isinstance(step.value, Null):
                return True
            if isinstance(step, Make) and step.var == "original" and field in step.arguments:
                return True
    return False


def _cleared(claim: Claim) -> Iterator[str]:
    return (s.field for each in claim.cases for s in calls_in(each.steps) if isinstance(s, BuilderClear))


def _added_twice(claim: Claim) -> dict[str, None]:
    """The fields to which some case adds one element after another."""
    names: dict[str, None] = {}
    for each in claim.cases:
        added = [step.field for step in calls_in(each.steps) if isinstance(step, BuilderAdd)]
        names.update(dict.fromkeys(name for name in added if added.count(name) > 1))
    return names


def _preset_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    builder = plan.builder_of(claim.owner)
    assert builder is not None, f"{claim.owner} has claims of a builder, but none"
    preset = next(p for p in builder.presets if p.name == claim.member)
    product = plan.products[claim.owner]
    own = {s.field for c in claim.cases for s in calls_in(c.steps) if isinstance(s, BuilderSet)}
    for name, before in preset.values.items():
        field = product.field(name)
        values = (witnesses.value(v) for v in witnesses.values(field.type, field.limits, field.each))
        other = next((v for v in values if v is not None and v != before), None)
        if other is not None:
            changed = replace(preset, values={**preset.values, name: other})
            presets = tuple(changed if each is preset else each for each in builder.presets)
            text = f"{preset.name} has another {name}"
            whole = with_making(plan, builder, replace(builder, presets=presets))
            yield Fault(claim, f"other-{name}", text, whole)
        if name in own:
            first = flaw_fault(plan, claim, "first-set-wins", claim.owner, name)
            yield replace(first, same=only_one(plan, field))


FAULTS = {"build": _build_faults, "preset": _preset_faults}
PATTERN = Pattern("builders", 70, claims, makes, frozenset({"builder"}), FAULTS)
