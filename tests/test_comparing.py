"""What a change does to clients: what is told of it, and that the compilers agree."""

from __future__ import annotations

import ast
import json
import subprocess
from collections.abc import Callable, Iterator
from dataclasses import fields, is_dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any

import pytest

from tests.conftest import BUILT_IN, DEMO, STARTER, TRY_ALL, VALID, Urform, emitted, part_of_today, planned
from tests.old_clients import COMPILERS, OWN, Pair, base, pairs, refused
from urform.comparison.aspects import ASPECTS, BREAKS, EFFECTS, SILENT
from urform.comparison.compare import Change, of_target
from urform.comparison.differences import differences
from urform.comparison.facts import facts
from urform.declaration.types import INTEGER, TEXT, Scalar
from urform.languages import target
from urform.languages.entries import GIVEN, Entry
from urform.languages.rendering.entries import MARK, collected, entry, with_calls
from urform.plan.model import Choice, Factory, Field, Limit, Pool, Product, Records
from urform.plan.whole import Plan

PARTS = 18  # a quarter of a minute for each of them, in all targets
PAIRS = tuple(pairs())
TODAY = tuple(pair for number, pair in enumerate(PAIRS) if TRY_ALL or number % PARTS == part_of_today(PARTS))


# --- marks ------------------------------------------------------------------------------------------------------


def collect(source: str, **values: object) -> tuple[str, list[Entry]]:
    import jinja2

    environment = jinja2.Environment(variable_start_string="«", variable_end_string="»")
    environment.globals["entry"] = entry
    return collected(environment.from_string(with_calls(source)).render(**values), "product", "Buoy")


def test_a_marked_line_is_an_entry_and_stays_as_it_is() -> None:
    text, entries = collect("class «name»:  «@»\n    pass", name="Buoy")
    assert text == "class Buoy:\n    pass"
    assert entries == [Entry("Buoy", "", "product:1", "class Buoy", "class Buoy")]


def test_a_mark_says_what_clients_depend_on() -> None:
    mark = '«@ "draught", calls=["of(int)", "of()"], by_place=true»'
    _, entries = collect(f"int of(int draught = 1);  {mark}")
    assert [each.calls for each in entries] == ["of(int)", "of()"]
    assert {(each.text, each.member, each.by_place) for each in entries} == {
        ("int of(int draught = 1)", "draught", True)
    }


def test_what_is_given_by_name_is_an_entry_by_itself() -> None:
    mark = '«@ calls="Buoy", keywords=[("station", "int", true), ("side", "Side", false)]»'
    _, entries = collect(f"def __init__(self):  {mark}")
    assert [(each.text, each.demanded, each.of) for each in entries[1:]] == [
        ("Buoy(station: int)", GIVEN, "Buoy"),
        ("Buoy(side: Side)", "", "Buoy"),
    ]


@pytest.mark.parametrize("member", ["false", "none"])
def test_a_mark_of_nothing_is_none(member: str) -> None:
    assert collect(f"private int x;  «@ {member}»") == ("private int x;", [])


def test_declared_text_cannot_be_taken_for_a_mark() -> None:
    text, entries = collect("# «doc»", doc="  «@ 'no entry'»")
    assert text == "#   «@ 'no entry'»"
    assert entries == []


# --- entries of targets -----------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", BUILT_IN)
def test_a_mark_stands_in_no_file(name: str) -> None:
    for path in (DEMO, STARTER):
        for file in emitted(path, name).files:
            assert "\x0e" not in file.text
            assert MARK.search(file.text) is None


@pytest.mark.parametrize("name", BUILT_IN)
def test_entries_belong_to_something_declared(name: str) -> None:
    plan, _ = planned(DEMO)
    declared = {*plan.products, *plan.choices, *plan.stand_ins, *(family.name for family in plan.families)}
    entries = target(name).entries(plan)
    assert {each.owner for each in entries} - {""} <= declared
    assert {*plan.products, *plan.choices} <= {each.owner for each in entries}
    assert [each for each in entries if not each.text or not each.calls] == []


@pytest.mark.parametrize("path", [DEMO, STARTER], ids=lambda path: path.name)
def test_all_that_a_package_exports_is_an_entry(path: Path) -> None:
    """Python says itself what it exports; errors are the same whatever is declared."""
    plan, _ = planned(path)
    module = next(file for file in emitted(path, "python").files if file.path == f"{plan.name}/__init__.py")
    exported = next(
        ast.literal_eval(node.value)
        for node in ast.parse(module.text).body
        if isinstance(node, ast.Assign) and ast.unparse(node.targets[0]) == "__all__"
    )
    told = " ".join(each.text for each in target("python").entries(plan))
    words = set(told.replace("(", " ").replace(":", " ").replace("[", " ").split())
    keys = {f"{name}Key" for name in (*plan.products, *(family.name for family in plan.families))}
    assert {name for name in exported if not name.endswith("Error")} - words - keys == set()


# --- differences ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("path", VALID, ids=lambda path: path.name)
def test_nothing_differs_from_itself(path: Path) -> None:
    plan, _ = planned(path)
    assert differences(plan, plan) == ()
    assert [fact for fact in facts(plan) if fact.aspect not in ASPECTS] == []
    keys = [fact.key for fact in facts(plan)]
    assert len(keys) == len(set(keys))


def test_every_aspect_is_told_of_something() -> None:
    assert {fact.aspect for path in VALID for fact in facts(planned(path)[0])} == {*ASPECTS}


# What follows from something else that is told, or is told by the entries of targets.
ELSEWHERE = {
    "Product": {"name", "fields", "operations", "variants", "required", "optional"},
    "Field": {"name", "owner", "may_be_absent"},
    "Choice": {"name", "in_records"},  # of words
    "Factory": {"product", "needs_more"},
    "Pool": {"product"},
    "Records": {"leading", "unmade"},
}


def other(name: str, value: object) -> Any:
    """Another value of the same type for what a part of a plan has under a name."""
    if name in ("limits", "each"):
        return (Limit("not_blank"),)
    match value:
        case bool():
            return not value
        case str():
            return f"{value}_other"
        case None:
            return "other"
        case ("port", "starboard"):  # each is called somehow in records
            return value[::-1]
        case tuple():
            return (*value, "other")
        case dict():
            return {**value, "other": "Other"}
        case Scalar():
            return INTEGER if value == TEXT else TEXT
    raise TypeError(value)


def parts_of(plan: Plan) -> Iterator[tuple[object, Callable[[Any], Plan]]]:
    """Parts of the plan, and how a plan is made with another one in its place."""
    hull, product = plan.products["Hull"], plan.products["LightRhythm"]
    yield hull, lambda new: replace(plan, products={**plan.products, "Hull": new})
    field = product.fields[0]
    rest = product.fields[1:]
    yield (
        field,
        lambda new: replace(
            plan, products={**plan.products, product.name: replace(product, fields=(new, *rest))}
        ),
    )
    choice = plan.choices["Side"]
    yield choice, lambda new: replace(plan, choices={**plan.choices, "Side": new})
    for kind in (Factory, Pool):
        making = next(each for each in plan.makings if isinstance(each, kind))
        others = tuple(each for each in plan.makings if each is not making)
        yield making, lambda new, others=others: replace(plan, makings=(*others, new))  # type: ignore[misc]
    yield Records(), lambda new: replace(plan, records=new)


def test_whatever_a_plan_says_otherwise_is_told() -> None:
    """A field of the plan's model that nobody compares would change without a word."""
    plan = replace(base("fairway"), records=Records())
    seen = set()
    for part, whole in parts_of(plan):
        assert is_dataclass(part)
        for each in fields(part):
            kind = type(part).__name__
            if each.name in ELSEWHERE[kind]:
                continue
            changed = replace(part, **{each.name: other(each.name, getattr(part, each.name))})  # type: ignore[type-var]
            assert differences(plan, whole(changed)), f"{kind}.{each.name}"
            seen.add(type(part))
    assert seen == {Product, Field, Choice, Factory, Pool, Records}


# --- what is told of changes ------------------------------------------------------------------------------------


@cache
def entries_of(name: str, plan_name: str) -> tuple[Entry, ...]:
    """Those of the base; for each name of it once."""
    return target(name).entries(base(plan_name))


def told(pair: Pair, name: str) -> list[Change]:
    of = target(name)
    old = entries_of(name, pair.old.name)
    return list(of_target(name, differences(pair.old, pair.new), old, of.entries(pair.new), pair.new))


@pytest.mark.slow
def test_what_is_told_of_each_change(expected: Callable[[str, str], None]) -> None:
    """The worst that a change does, in each target: reviewed like code."""
    lines = [f"{'':<36}{''.join(f'{name:<12}' for name in BUILT_IN)}".rstrip()]
    for each in PAIRS:  # under one name, so that what they begin with is made once
        pair = replace(each, old=replace(each.old, name="fairway"), new=replace(each.new, name="fairway"))
        effects = []
        for name in BUILT_IN:
            found = {change.effect for change in told(pair, name)}
            effects.append(next((effect for effect in EFFECTS if effect in found), "nothing"))
        assert {*effects} != {"nothing"}, f"{pair.said}: nothing is told"
        lines.append(f"{pair.said:<36}{''.join(f'{effect:<12}' for effect in effects)}".rstrip())
    expected("comparison/effects.txt", "\n".join(lines) + "\n")


@pytest.mark.toolchain
@pytest.mark.parametrize("name", BUILT_IN)
def test_compilers_agree(name: str, tmp_path: Path) -> None:
    """Clients of the base, one of them written by hand, against the code of each change: what breaks, and nothing else."""
    found = refused(name, tmp_path, TODAY)
    breaks = {pair.name: any(change.effect == BREAKS for change in told(pair, name)) for pair in TODAY}
    wrong = {
        pair.said: (found.get(pair.name, "it compiles"), breaks[pair.name])
        for pair in TODAY
        if (pair.name in found) != breaks[pair.name]
    }
    assert wrong == {}


def test_every_target_is_tried() -> None:
    assert {*COMPILERS} == {*OWN} == {*BUILT_IN}
    assert len(PAIRS) >= 30


# --- the command ------------------------------------------------------------------------------------------------


@pytest.fixture
def harbour(starter: Path) -> Path:
    """The starter in a repository, with another default since."""

    def git(*arguments: str) -> None:
        who = ("-c", "user.name=harbour", "-c", "user.email=office@harbour.example")
        subprocess.run(["git", *who, *arguments], cwd=starter.parent, check=True, capture_output=True)

    git("init")
    git("add", starter.name)
    git("commit", "-m", "as it was")
    return starter


def changed(path: Path, before: str, after: str) -> Path:
    text = path.read_text(encoding="utf-8")
    assert before in text
    path.write_text(text.replace(before, after), encoding="utf-8")
    return path


def test_since_a_revision(urform: Urform, harbour: Path) -> None:
    assert "nothing that clients could tell differs" in urform("compare", "--since", "HEAD").out
    changed(harbour, "station: {", "berth: text\n      station: {")
    run = urform("compare", "--since", "HEAD", "-t", "go,python")
    assert run.status == 1
    assert f"{harbour.name} of HEAD → {harbour.name}" in run.out
    assert "− func NewBuoy(station int64" in run.out
    assert "+ func NewBuoy(berth string, station int64" in run.out
    assert "declare it under `optional` with a default" in run.out
    assert run.out.rstrip().endswith("break clients of go, python")


def test_what_changes_silently_is_no_finding(urform: Urform, harbour: Path) -> None:
    old = harbour.with_name("old.yaml")
    old.write_text(harbour.read_text(encoding="utf-8"), encoding="utf-8")
    changed(harbour, "max: 9999", "max: 99")
    run = urform("compare", old, harbour, "-t", "python")
    assert run.status == 0
    assert "changes silently  Mark.station, the limits: min 1, max 9999 → min 1, max 99" in run.out
    assert urform("compare", old, harbour, "-t", "python", "--quiet").out == ""


def test_json(urform: Urform, harbour: Path) -> None:
    changed(harbour, "max: 9999", "max: 99")
    changes = json.loads(urform("compare", "--since", "HEAD", "--json").out)
    assert changes["version"] == 1
    assert {change["target"] for change in changes["changes"]} == {*BUILT_IN}
    assert {change["effect"] for change in changes["changes"]} == {SILENT}
    assert {*changes["changes"][0]} == {"path", "target", "effect", "what", "before", "after", "advice"}


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        ((), "name the old declaration"),
        (("--since", "nowhere"), "is not in nowhere"),
        (("--since", "HEAD", "a.yaml", "b.yaml"), "two declarations, or one and --since"),
        (("a.yaml", "b.yaml", "c.yaml"), "two declarations, or one and --since"),
    ],
)
def test_wrong_usage(urform: Urform, harbour: Path, arguments: tuple[str, ...], said: str) -> None:
    run = urform("compare", *arguments)
    assert run.status == 2
    assert said in run.err


def test_a_revision_that_is_an_option_is_none(urform: Urform, harbour: Path) -> None:
    run = urform("compare", "--since", "--output=owned")
    assert run.status == 2
    assert not harbour.with_name("owned").exists()


def test_an_old_declaration_with_problems_is_told(urform: Urform, harbour: Path) -> None:
    old = harbour.with_name("old.yaml")
    old.write_text("urform: 1\nname: fairway\nproduct: {}\n", encoding="utf-8")
    run = urform("compare", old, harbour)
    assert run.status == 1
    assert "old.yaml:3:1" in run.err


def test_generate_says_that_clients_break(urform: Urform, harbour: Path) -> None:
    assert "clients" not in urform("generate", "-t", "go").err
    changed(harbour, "station: {", "berth: text\n      station: {")
    run = urform("generate", "-t", "go")
    assert run.status == 0
    assert f"break clients: urform compare {harbour.name} --since HEAD" in run.err
    assert "clients" not in urform("generate", "-t", "go", "--quiet").err
