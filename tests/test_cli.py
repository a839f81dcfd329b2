"""The built command, as a person meets it: what it says, and how it ends."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, Urform
from urform.cli.app import app


def test_version(urform: Urform) -> None:
    assert urform("--version").out.startswith("urform 0.")


def test_new_writes_a_valid_declaration_once(urform: Urform, tmp_path: Path) -> None:
    assert urform("new").status == 0
    assert urform("check").status == 0
    assert urform("check", "--strict").status == 0
    (tmp_path / "harbour.urform.yaml").write_text("mine", encoding="utf-8")
    assert urform("new").status == 1
    assert (tmp_path / "harbour.urform.yaml").read_text(encoding="utf-8") == "mine"


def test_the_declaration_is_found_or_asked_for(urform: Urform, tmp_path: Path, starter: Path) -> None:
    assert urform("plan").status == 0
    (tmp_path / "second.urform.yaml").write_text(starter.read_text(encoding="utf-8"), encoding="utf-8")
    several = urform("plan")
    assert (several.status, "several" in several.err) == (2, True)
    empty = tmp_path / "empty"
    empty.mkdir()
    assert urform("plan", folder=empty).status == 2


def test_check_marks_the_token(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "a.urform.yaml").write_text(
        "urform: 1\nname: h\nproducts:\n  Mark: {required: {side: Sied}}\n", encoding="utf-8"
    )
    done = urform("check", "a.urform.yaml")
    assert done.status == 1
    assert "a.urform.yaml:4:27  unknown-type" in done.err
    source, marks = [line for line in done.err.splitlines() if " | " in line]
    assert source[marks.index("^") : marks.rindex("^") + 1] == "Sied"


def test_strict_counts_advice(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "a.urform.yaml").write_text(
        "urform: 1\nname: h\nproducts:\n  M: {variants: {A: {}}, factory: {form: simple}}\n", encoding="utf-8"
    )
    assert urform("check").status == 0
    assert urform("check", "--strict").status == 1


def test_unknown_target_and_unknown_option(urform: Urform, starter: Path) -> None:
    done = urform("generate", "-t", "pyton")
    assert (done.status, "Did you mean 'python'?" in done.err) == (2, True)
    assert urform("generate", "--nonsense").status == 2
    assert urform("nonsense").status == 2


def test_bad_settings_are_problems(urform: Urform, starter: Path) -> None:
    text = starter.read_text(encoding="utf-8")
    starter.write_text(
        text + "targets: {java: {package: 'x; import evil'}, go: {modul: a}}\n", encoding="utf-8"
    )
    done = urform("check")
    assert done.status == 1
    assert "bad-setting" in done.err
    assert "Did you mean 'module'?" in done.err


def test_explain_schema_and_targets(urform: Urform) -> None:
    assert "misspelt key" in urform("explain", "unknown-key").out
    assert "example:" in urform("explain", "limit").out
    overview = urform("explain").out
    assert "I have …" in overview
    assert all(
        word in overview for word in ("a switch over a type code", "min_length", "limit", "names-meet")
    )
    assert (
        "min (of a field): Smallest allowed number, date, time or duration." in urform("explain", "min").out
    )
    unknown = urform("explain", "registy")
    assert (unknown.status, "registry" in unknown.err) == (2, True)
    assert json.loads(urform("schema").out)["properties"]["urform"]["const"] == 1
    shape = json.loads(urform("targets", "--json").out)
    assert shape["version"] == 1
    assert {"go", "java", "python"} <= {entry["name"] for entry in shape["targets"]}


def test_help_has_an_example_per_command(urform: Urform) -> None:
    commands = [
        command.callback.__name__ for command in app.registered_commands if command.callback is not None
    ]
    assert {"check", "diagram", "verify"} <= set(commands)
    for command in commands:
        done = urform(command, "--help")
        assert (done.status, "Example: urform" in done.out) == (0, True)


@pytest.mark.toolchain
def test_demo(urform: Urform, tmp_path: Path) -> None:
    done = urform("demo", "port-varrow")
    assert done.status == 0, done.err
    assert f"claims hold in {len(BUILT_IN)} targets" in done.out
    assert "cloned, and the clone changed" in done.out
    assert (tmp_path / "port-varrow/java/pom.xml").exists()
    assert "RefitPlan" in (tmp_path / "port-varrow/fairway.svg").read_text(encoding="utf-8")


def test_the_python_api(tmp_path: Path, starter: Path) -> None:
    import urform as api

    plan = api.plan(api.load(starter))
    changes = api.generate(plan, ["python"], tmp_path / "out")
    assert {change.state for change in changes["python"]} == {"new"}
    starter.write_text("urform: 1\n", encoding="utf-8")
    with pytest.raises(api.DeclarationError, match="missing-key") as caught:
        api.load(starter)
    assert caught.value.problems[0].place.line == 1
