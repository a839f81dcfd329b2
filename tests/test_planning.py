"""The plan: its printed form, its validator, witnesses within their limits, ids that stay."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
import yaml
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO, STARTER, planned
from urform.cli.words import WORDS
from urform.declaration import read, read_string
from urform.declaration.types import INTEGER, REAL, TEXT
from urform.declaration.values import Integer, Text
from urform.plan import build, claims_of
from urform.plan.capabilities import REASONS, expressible, needs
from urform.plan.making_steps import NewBuilder, Take
from urform.plan.model import Factory, Limit
from urform.plan.operands import Path as Access
from urform.plan.patterns import patterns
from urform.plan.scalars import first_broken, integers, reals, scalar_edge, texts
from urform.plan.script import Case, Claim
from urform.plan.steps import Ask, FieldIs, Make
from urform.plan.text import plan_text
from urform.plan.validate import InvalidPlan, validate
from urform.plan.variables import used_by
from urform.plan.walkthrough import scenes
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses

ID = re.compile(r"[a-z-]+/[A-Z][A-Za-z0-9]*(\.([A-Za-z0-9_-]|%[0-9A-F]{2})+)*(:[a-z0-9_.-]+)?")
GROUPS = {
    "required",
    "default",
    "absent",
    "limit",
    "immutable",
    "own",
    "change",
    "equal",
    "kind",
    "unknown-kind",
    "open",
    "single",
    "answer",
    "build",
    "preset",
    "clone",
    "exemplar",
    "pool",
    "choose",
    "refuse",
    "words",
    "family",
    "record",
}


NEVER = """
urform: 1
name: never
products:
  Never:  # its factory refuses everything
    required: {soundings: list<integer>, depth: integer}
    variants: {Ever: {}, After: {}}
    factory:
      form: by_values
      refuse: ["depth < 5 or depth > 4"]
      choose: [{use: Ever, when: size(soundings) > 1}, {use: After}]
  Needs: {required: {never: Never, depth: integer}}
  Kinds: {required: {never: Never}, variants: {One: {}, Two: {}}, factory: {form: registry}}
"""


@pytest.mark.slow
def test_of_what_can_never_be_made_only_refusals_are_claimed() -> None:
    reading = read_string(NEVER)
    assert reading.declaration is not None
    plan = build(reading.declaration)
    claims = claims_of(plan)
    validate(plan, claims)
    assert {claim.group for claim in claims} <= {"required", "limit", "refuse", "answer"}
    assert {claim.aspect for claim in claims if claim.group == "limit"} == {
        "type"
    }  # looked at before conditions
    assert not any(isinstance(step, (Ask, Make)) for c in claims for case in c.cases for step in case.steps)
    assert not any(isinstance(line, (Ask, Make)) for scene in scenes(plan) for line in scene.lines)


EMPTY_WITHIN = """\
urform: 1
name: racks
products:
  Lamp: {mutable: true, optional: {lit: boolean}}
  Rack:
    mutable: true
    required: {rows: {type: list<list<Lamp>>, each: {max_length: 0}}, more: list<list<Lamp>>}
    prototype: {}
"""


def test_a_walk_through_changes_what_is_in_the_clone() -> None:
    """The rows are all empty; what can be changed inside is the first lamp of `more`."""
    reading = read_string(EMPTY_WITHIN)
    assert reading.declaration is not None
    lines = [line for scene in scenes(build(reading.declaration)) for line in scene.lines]
    assert Take("inside", Access("clone", "more", 2)) in lines


def test_claims_come_owner_by_owner(valid: Path) -> None:
    """Of each pattern by itself, for they are merged as they come."""
    plan, claims = planned(valid)
    owners = [*plan.choices, *plan.products, *(family.name for family in plan.families)]
    witnesses = Witnesses(plan)
    for pattern in patterns():
        places = [owners.index(claim.owner) for claim in pattern.claims(plan, witnesses)]
        assert places == sorted(places), pattern.name
    assert list(dict.fromkeys(claim.owner for claim in claims)) == [
        owner for owner in owners if any(claim.owner == owner for claim in claims)
    ]


def test_the_printed_form(valid: Path, expected: Callable[[str, str], None]) -> None:
    plan, claims = planned(valid)
    expected(f"plans/{plan.name}.txt", plan_text(plan, claims))


def test_every_plan_is_valid(valid: Path) -> None:
    validate(*planned(valid))


def test_ids_have_their_form(valid: Path) -> None:
    _, claims = planned(valid)
    assert [claim.id for claim in claims if not ID.fullmatch(claim.id)] == []
    assert {claim.group for claim in claims} <= GROUPS


def test_every_group_is_explained() -> None:
    assert set(WORDS) >= GROUPS


def test_the_demo_has_every_group_but_records() -> None:
    _, claims = planned(DEMO)
    assert {claim.group for claim in claims} == GROUPS - {"record"}
    assert {
        "required/Mark.station",
        "default/Mark.reflective",
        "absent/Mark.remarks",
        "limit/Mark.station:min",
        "limit/Position.latitude:finite",
        "limit/Mark.side:choice",
        "limit/LightRhythm.pulses:each.min",
        "immutable/LightRhythm",
        "own/RefitPlan.legs:constructor",
        "own/RefitPlan.legs:setter",
        "own/RefitPlan.legs:out",
        "equal/Position",
        "kind/Mark.buoy",
        "unknown-kind/Mark",
        "open/Mark:register",
        "open/Mark:twice",
        "open/Mark:unregister",
        "open/Mark:isolated",
        "single/NoOffset",
        "answer/Buoy.chart_label",
        "build/RefitPlan:missing",
        "preset/RefitPlan.spring_refit",
        "clone/RefitPlan.legs:deep",
        "pool/LightRhythm:once",
        "choose/TideOffset.NoOffset",
        "refuse/TideOffset:1",
    } <= {claim.id for claim in claims}


class _WithoutTimes(yaml.SafeLoader):
    """Instants and times of day stay the texts that they are, as they do for Urform: YAML 1.1 counts `18:00:00` in seconds."""


_WithoutTimes.yaml_implicit_resolvers = {
    first: [(tag, form) for tag, form in found if tag.rpartition(":")[2] not in ("timestamp", "int", "float")]
    for first, found in yaml.SafeLoader.yaml_implicit_resolvers.items()
}
_WithoutTimes.add_implicit_resolver(
    "tag:yaml.org,2002:int", re.compile(r"[-+]?[0-9]+$"), list("-+0123456789")
)
_WithoutTimes.add_implicit_resolver(
    "tag:yaml.org,2002:float", re.compile(r"[-+]?[0-9]*\.[0-9]+(?:e[-+]?[0-9]+)?$"), list("-+.0123456789")
)


@pytest.mark.slow
def test_ids_do_not_depend_on_order(valid: Path) -> None:
    data = yaml.load(valid.read_text(encoding="utf-8"), Loader=_WithoutTimes)
    data["products"] = dict(reversed(data["products"].items()))
    for product in data["products"].values():
        for key in ("required", "optional"):
            if product and key in product:
                product[key] = dict(reversed(product[key].items()))
    reading = read_string(yaml.safe_dump(data, allow_unicode=True, sort_keys=False))
    assert reading.declaration is not None, reading.problems
    _, claims = planned(valid)
    assert {claim.id for claim in claims_of(build(reading.declaration))} == {claim.id for claim in claims}


def test_a_part_without_its_pattern_is_left_out_and_named(monkeypatch: pytest.MonkeyPatch) -> None:
    """Every way of making that format 1 has, has its pattern; take them away and each is named with its line."""
    assert planned(DEMO)[0].left_out == ()
    reading = read(DEMO)
    assert reading.declaration is not None
    monkeypatch.setattr("urform.plan.builder.patterns", lambda: ())
    left = build(reading.declaration).left_out
    assert {part.part for part in left} == {
        "factory registry of Mark",
        "factory creators of Hull",
        "factory simple of Mooring",
        "factory by_values of TideOffset",
        "prototype of Mooring",
        "builder of RefitPlan",
        "prototype of RefitPlan",
        "flyweight of LightRhythm",
        "flyweight of Topmark",
        "builder of Lantern",
        "family Outfit",
    }
    lines = DEMO.read_text(encoding="utf-8").splitlines()
    for part in left:
        assert any(word in lines[part.line - 1] for word in part.part.split() if word != "of")


def broken_plans() -> dict[str, tuple[Plan, tuple[Claim, ...]]]:
    plan, claims = planned(STARTER)
    mark, buoy = plan.products["Mark"], plan.products["Buoy"]
    factory = plan.makings[0]
    assert isinstance(factory, Factory)
    doubled = replace(mark, fields=(*mark.fields, mark.fields[0]))
    return {
        "a field twice": (replace(plan, products={**plan.products, "Mark": doubled}), claims),
        "does not know its variant": (
            replace(plan, products={**plan.products, "Mark": replace(mark, variants=("Beacon",))}),
            claims,
        ),
        "is single and has fields": (
            replace(plan, products={**plan.products, "Buoy": replace(buoy, single=True)}),
            claims,
        ),
        "no choice Side": (replace(plan, choices={}), claims),
        "stands under": (replace(plan, products={**plan.products, "Boy": buoy}), claims),
        "makes Raft": (replace(plan, makings=(replace(factory, kinds={"raft": "Raft"}),)), claims),
        "falls back on": (replace(plan, makings=(replace(factory, unknown="Raft"),)), claims),
        "two claims": (plan, (*claims, claims[0])),
        "shows nothing": (plan, (replace(claims[0], cases=()),)),
        "used before": (
            plan,
            (replace(claims[0], cases=(Case((FieldIs(Access("made", "station"), Integer(1)),)),)),),
        ),
    }


@pytest.mark.parametrize("said", broken_plans())
def test_the_validator_refuses(said: str) -> None:
    with pytest.raises(InvalidPlan, match=said):
        validate(*broken_plans()[said])


def test_every_need_has_a_reason(valid: Path) -> None:
    plan, claims = planned(valid)
    for claim in claims:
        for case in claim.cases:
            for step in case.steps:
                assert needs(step, plan) <= set(REASONS)


def test_without_capabilities_claims_are_held_and_with_all_none_is(valid: Path) -> None:
    plan, claims = planned(valid)
    everything = frozenset(REASONS)
    for claim in claims:
        assert expressible(claim, plan, everything).held is None
        bare = expressible(claim, plan, frozenset())
        assert bool(bare.held) == (not bare.cases)


BOUNDS = st.integers(-50, 50)


@settings(max_examples=200, deadline=None)
@given(st.data(), st.sampled_from([INTEGER, REAL]))
def test_numeric_witnesses_keep_their_limits(data: st.DataObject, type_: object) -> None:
    names = data.draw(st.lists(st.sampled_from(["min", "max", "above", "below"]), unique=True))
    bounds = [data.draw(BOUNDS) for _ in names]
    limits = tuple(
        Limit(name, float(bound) if type_ == REAL else bound)
        for name, bound in zip(names, bounds, strict=True)
    )
    found = list(integers(limits))[:5] if type_ == INTEGER else list(reals(limits))[:5]
    assert all(first_broken(value, limits) is None for value in found)
    assert len(set(found)) == len(found)
    for limit in limits:
        edge = scalar_edge(INTEGER if type_ == INTEGER else REAL, limits, limit)
        if edge is not None:
            assert all(first_broken(value, limits) == limit for value in edge.outside)
            assert edge.inside is None or first_broken(edge.inside, limits) is None


@settings(max_examples=200, deadline=None)
@given(st.integers(0, 90), st.integers(0, 90), st.booleans())
def test_text_witnesses_keep_their_limits(least: int, more: int, not_blank: bool) -> None:
    limits = (
        Limit("min_length", least),
        Limit("max_length", least + more),
        *([Limit("not_blank", True)] if not_blank else []),
    )
    found = [value for value, _ in zip(texts(limits), range(4), strict=False)]
    if least + more == 0 and not_blank:
        return
    assert found
    assert all(isinstance(value, Text) and least <= len(value.text) <= least + more for value in found)
    for limit in limits:
        edge = scalar_edge(TEXT, limits, limit)
        if edge is not None:
            assert all(first_broken(value, limits) == limit for value in edge.outside)


def test_typical_texts_are_awkward() -> None:
    first = next(texts(()))
    assert isinstance(first, Text)
    assert any(ord(char) > 0xFFFF for char in first.text)
    assert '"' in first.text
    assert "\\" in first.text


def test_witnesses_of_products_recur_and_end() -> None:
    plan, _ = planned(DEMO)
    witnesses = Witnesses(plan)
    for product in plan.products.values():
        if not product.abstract:
            first, second = witnesses.arguments(product), witnesses.second(product)
            assert first is not None
            assert first != second


BARE = """
urform: 1
name: bare
products:
  Hold:  # nothing can be set in a builder of it that differs
    mutable: true
    optional: {ends: {type: Bare, default: {}}}
    builder: {style: statements, after_build: keep}
  Bare:
    mutable: true
    operations: {said: {returns: text}}
    answers: {said: nothing}
"""


def unused_builders(plan: Plan, claims: tuple[Claim, ...]) -> list[str]:
    """Claims with a case that makes a builder and does nothing with it: some compilers refuse that."""
    return [
        claim.id
        for claim in claims
        for each in claim.cases
        if {step.var for step in each.steps if isinstance(step, NewBuilder)}
        - {name for step in each.steps if not isinstance(step, NewBuilder) for name in used_by(step)}
    ]


def test_builders_are_used(valid: Path) -> None:
    assert unused_builders(*planned(valid)) == []


def test_builders_are_used_where_nothing_can_be_set() -> None:
    reading = read_string(BARE, "bare.urform.yaml")
    assert reading.declaration is not None, reading.problems
    plan = build(reading.declaration)
    claims = claims_of(plan)
    assert "build/Hold:apart" in {claim.id for claim in claims}
    assert unused_builders(plan, claims) == []
