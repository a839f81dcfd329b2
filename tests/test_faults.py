"""Faults: every claim has some, each is one change of the plan, and every target writes it; without a compiler."""

from __future__ import annotations

import dataclasses
import importlib
from collections import Counter
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, DEMO, ROOT, TRY_ALL, VALID, emitted, part_of_today, planned
from tests.targets import tools
from urform.languages import target
from urform.languages.rendering.flaws import Flaws, Rewrite
from urform.plan import faults_of
from urform.plan.capabilities import REASONS, expressible
from urform.plan.fault import Fault
from urform.plan.flaws import NEEDED, WORDS, flawed, in_words
from urform.plan.model import Flaw
from urform.plan.patterns import patterns
from urform.plan.whole import Plan

EACH_TIME = 4  # faults of a fixture that one test emits: over all fixtures enough to meet all rows


@cache
def faults(path: Path) -> tuple[Fault, ...]:
    plan, claims = planned(path)
    return tuple(faults_of(plan, claims))


def every_fault() -> Iterator[Fault]:
    for path in VALID:
        yield from faults(path)


def test_every_claim_has_a_fault(valid: Path) -> None:
    _, claims = planned(valid)
    have = {fault.claim.id for fault in faults(valid)}
    assert [claim.id for claim in claims if claim.id not in have] == []


def test_ids_are_unique_and_begin_with_the_claim(valid: Path) -> None:
    counts = Counter(fault.id for fault in faults(valid))
    assert [fault for fault, number in counts.items() if number > 1] == []
    assert all(fault.id.startswith(f"{fault.claim.id}~") for fault in faults(valid))


def test_each_fault_changes_the_plan_and_says_how(valid: Path) -> None:
    plan, _ = planned(valid)
    for fault in faults(valid):
        assert fault.plan != plan, fault.id
        assert fault.text, fault.id
        assert not any(part in fault.text for part in ("{owner}", "{member}", "{aspect}")), fault.id


def test_the_same_declaration_has_the_same_faults(valid: Path) -> None:
    plan, claims = planned(valid)
    again = [(fault.id, fault.text) for fault in faults_of(plan, claims)]
    assert again == [(fault.id, fault.text) for fault in faults(valid)]


def test_every_group_of_claims_derives_its_faults_in_one_pattern() -> None:
    groups = Counter(group for pattern in patterns() for group in pattern.faults)
    claimed = {claim.group for path in VALID for claim in planned(path)[1]}
    assert [group for group, number in groups.items() if number > 1] == []
    assert claimed <= set(groups)


# What the design asks of each group, by the names of the faults that show it.
ASKED_FOR = {
    "limit": {"edge-inwards", "edge-outwards", "unlimited"},
    "clone": {"clone-shares", "clone-copies", "clone-keeps", "clone-loses"},
    "pool": {
        "pool-forgets",
        "pool-ignores",
        "pool-unguarded",
        "pool-miscounts-made",
        "pool-miscounts-reused",
        "pool-remembers-failure",
    },
    "family": {"of-another-member", "other-order", "one-short", "records-nothing"},
    "build": {"builders-share", "builder-keeps-as-given", "other-state", "sets-nothing"},
    "preset": {"first-set-wins"},
    "kind": {"copied-branch", "misspelt-branch"},
    "unknown-kind": {"falls-through"},
    "open": {"unregisters-nothing", "registers-twice", "registers-nothing", "registries-share"},
    "refuse": {"negated", "edge-1", "other-reason"},
    "choose": {"copied-branch", "negated-1", "other-order"},
    "exemplar": {"exemplar-itself", "exemplar-kept-as-given"},
    "own": {
        "adder-keeps-as-given",
        "builder-keeps-as-given",
        "clone-handed-out",
        "handed-out",
        "kept-as-given",
    },
}


@pytest.mark.parametrize("group", ASKED_FOR)
def test_what_may_go_wrong_in_a_group(group: str) -> None:
    names = [fault.name for fault in every_fault() if fault.claim.group == group]
    missing = {asked for asked in ASKED_FOR[group] if not any(name.startswith(asked) for name in names)}
    assert missing == set()


def test_an_edge_is_moved_by_one() -> None:
    found = {fault.name: fault for fault in faults(DEMO) if fault.claim.id == "limit/Mark.station:min"}
    bounds = {
        name: {limit.name: limit.bound for limit in fault.plan.products["Mark"].field("station").limits}[
            "min"
        ]
        for name, fault in found.items()
    }
    assert bounds == {"unlimited": 1, "edge-inwards": 2, "edge-outwards": 0}
    heirs = found["edge-inwards"].plan.products["Buoy"].field("station").limits
    assert {limit.name: limit.bound for limit in heirs}["min"] == 2, "the variants inherit the moved edge"


def test_a_copied_branch_changes_one_kind() -> None:
    fault = next(f for f in faults(DEMO) if f.id == "kind/Mark.buoy~copied-branch")
    factory = fault.plan.factory_of("Mark")
    assert factory is not None
    assert dict(factory.kinds) == {"buoy": "Beacon", "beacon": "Beacon"}


def test_a_default_that_leads_back_is_not_made_endless() -> None:
    for path in VALID:
        for fault in faults(path):
            if fault.name == "absent-fails":
                assert fault.plan.products == planned(path)[0].products


# --- flaws ------------------------------------------------------------------------------------------------------


def test_every_flaw_has_words_and_is_used() -> None:
    used = {flaw.name for fault in every_fault() for flaw in fault.plan.flaws}
    assert used == set(WORDS)


@pytest.mark.parametrize("name", WORDS)
def test_words_name_what_they_are_about(name: str) -> None:
    said = in_words(Flaw(name, "Owner", "member", "max_length"))
    assert "{" not in said
    for part, word in (("{member}", "member"), ("{owner}", "Owner"), ("{aspect}", "max length")):
        assert (part in WORDS[name]) == (word in said)


def test_what_a_flaw_needs_is_a_capability() -> None:
    assert set(NEEDED) <= set(WORDS)
    assert set(NEEDED.values()) <= set(REASONS)


@pytest.mark.parametrize("name", BUILT_IN)
def test_a_target_writes_every_flaw_that_it_can(name: str) -> None:
    flaws = importlib.import_module(f"urform.languages.{name}.flaws")
    rows = {row.partition(":")[0] for row in (*flaws.TABLE, *flaws.MARKED)}
    lacking = {flaw for flaw, needed in NEEDED.items() if needed not in target(name).capabilities}
    assert set(WORDS) - rows == tools(name).impossible | lacking
    assert rows <= set(WORDS)


def test_an_unknown_flaw_is_refused() -> None:
    plan, _ = planned(DEMO)
    with pytest.raises(AssertionError, match="no flaw"):
        flawed(plan, "is-tired", "Mark")


REWRITES = [
    # find, put, names, before, after
    ("«name»: (\\w+)", "«name»: not \\1", {"name": "a.b"}, "a.b: x\nacb: x", "a.b: not x\nacb: x"),
    ("(x) = [^\\n]*", "\\1«zero»", {"zero": "0"}, "x = 1", "x0"),  # not the group numbered 10
    ("^a$", "«text»", {"text": "\\1 \\n"}, "b\na", "b\n\\1 \\n"),  # what a name holds is no template
]


@pytest.mark.parametrize(("find", "put", "names", "before", "after"), REWRITES)
def test_rewrites(find: str, put: str, names: dict[str, str], before: str, after: str) -> None:
    plan = flawed(planned(DEMO)[0], "pool-forgets", "Topmark")
    flaws = Flaws(plan, {"pool-forgets": [Rewrite(find, put)]}, lambda flaw: names)
    assert flaws.applied("pool", "Topmark", before) == after
    assert flaws.applied("pool", "LightRhythm", before) == before, "only what the flaw is about"


def test_a_rewrite_of_other_templates_changes_nothing() -> None:
    plan = flawed(planned(DEMO)[0], "pool-forgets", "Topmark")
    flaws = Flaws(plan, {"pool-forgets": [Rewrite("a", "b", ("pools",))]}, lambda flaw: {})
    assert flaws.applied("pool", "Topmark", "a") == "a"
    assert flaws.applied("pools", "", "a") == "b", "support code serves all"
    assert flaws.applied("pools", "LightRhythm", "a") == "a"


def test_kin_make_the_mistake_and_siblings_do_not() -> None:
    plan = flawed(planned(DEMO)[0], "pool-forgets", "Buoy")
    flaws = Flaws(plan, {"pool-forgets": [Rewrite("a", "b")]}, lambda flaw: {})
    found = {of: flaws.applied("product", of, "a") for of in ("Buoy", "Mark", "Beacon", "Position")}
    assert found == {"Buoy": "b", "Mark": "b", "Beacon": "a", "Position": "a"}


ROWS = [("unlimited:each.finite", 1), ("unlimited:each.min", 2), ("unlimited:min", 3)]


@pytest.mark.parametrize(("flaw", "row"), ROWS)
def test_the_nearest_row_serves(flaw: str, row: int) -> None:
    name, _, aspect = flaw.partition(":")
    plan = flawed(planned(DEMO)[0], name, "Topmark", "shape", aspect)
    table = {
        "unlimited:each.finite": [Rewrite("a", "1")],
        "unlimited:each.": [Rewrite("a", "2")],
        "unlimited": [Rewrite("a", "3")],
    }
    assert Flaws(plan, table, lambda flaw: {}).applied("product", "Topmark", "a") == str(row)


# --- in the targets ---------------------------------------------------------------------------------------------


def possible(path: Path, name: str) -> list[Fault]:
    """The faults that a target's tests could notice."""
    plan, claims = planned(path)
    capabilities = target(name).capabilities
    held = {claim.id for claim in claims if expressible(claim, plan, capabilities).held is not None}
    return [f for f in faults(path) if f.claim.id not in held and f.needs <= capabilities]


@pytest.mark.slow
def test_a_fault_changes_what_a_target_writes(valid: Path, target_name: str) -> None:
    """A fault that leaves the code as it is would be caught by nobody, and is a defect of Urform.

    Some of them, other ones each day, until all were tried. URFORM_TRY_ALL=1 tries all.
    """
    sound = {file.path: file.text for file in emitted(valid, target_name).files}
    support = target(target_name).support(planned(valid)[0])
    found = possible(valid, target_name)
    step = 1 if TRY_ALL else max(1, len(found) // EACH_TIME)
    for fault in found[part_of_today(step) :: step]:
        code = target(target_name).code(fault.plan, support)
        assert any(sound.get(file.path) != file.text for file in code), fault.id


@pytest.mark.slow
def test_code_without_tests_is_the_code_with_tests(valid: Path, target_name: str) -> None:
    plan, _ = planned(valid)
    emission = emitted(valid, target_name)
    code = {file.path: file.text for file in target(target_name).code(plan)}
    tests = {address.file for address in emission.tests}
    whole = {file.path: file.text for file in emission.files}
    assert code.items() <= whole.items()
    assert not tests & set(code)


def test_the_sound_plan_has_no_flaw(valid: Path) -> None:
    plan, _ = planned(valid)
    assert plan.flaws == ()
    assert {field.name for field in dataclasses.fields(Plan)} >= {"flaws"}


def test_the_tests_know_all_built_in_targets() -> None:
    """A target is what has a toolchain; the other folders are rooms that targets share."""
    folders = {path.parent.name for path in (ROOT / "src/urform/languages").glob("*/toolchain.py")}
    assert folders == set(BUILT_IN)
