"""`urform adopt`, as its users meet it."""

from __future__ import annotations

import json
import shutil
from collections.abc import Callable
from pathlib import Path

import pytest

from tests.conftest import HERE, Urform
from urform.declaration import read

SCHEMAS = HERE / "fixtures/existing/schemas"
WHOLE = {"type": "object", "properties": {"name": {"type": "string"}}, "additionalProperties": False}


@pytest.fixture
def notices(tmp_path: Path) -> str:
    """The schema of notices, with the one beside it, in the folder where the command runs."""
    shutil.copytree(SCHEMAS, tmp_path, dirs_exist_ok=True)
    return "notices.schema.json"


def test_a_declaration_is_written_and_what_was_lost_is_told(
    urform: Urform, notices: str, tmp_path: Path
) -> None:
    run = urform("adopt", notices, "-o", "notices.urform.yaml")
    assert run.status == 1
    assert run.err == ""
    assert run.out.startswith("11 products, 36 fields: 25 whole, 6 in part, 5 out\n")
    assert (
        "1  tuple        notices.schema.json:44  LightNotice.sectors: a list with a type of its own"
        in run.out
    )
    assert run.out.endswith("wrote notices.urform.yaml; next: urform check notices.urform.yaml\n")
    assert urform("check", "notices.urform.yaml").status == 0
    # What was written is never written over.
    again = urform("adopt", notices, "-o", "notices.urform.yaml")
    assert again.status == 2
    assert "notices.urform.yaml is there already: --into adds to it" in again.err


def test_without_a_file_it_is_printed_and_the_report_is_beside(urform: Urform, notices: str) -> None:
    run = urform("adopt", notices)
    assert run.status == 1
    assert run.out.startswith("# Drafted by urform adopt from notices.schema.json.\nurform: 1\n")
    assert run.err.startswith("11 products, 36 fields")
    assert urform("adopt", notices, "-q").err == ""


def test_all_carried_over(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "pilot.json").write_text(json.dumps(WHOLE), encoding="utf-8")
    run = urform("adopt", "pilot.json", "-o", "pilots.urform.yaml")
    assert (run.status, run.err) == (0, "")
    declaration = read(tmp_path / "pilots.urform.yaml").declaration
    assert declaration is not None
    assert (declaration.name, list(declaration.products)) == ("pilots", ["Pilot"])


def test_json(urform: Urform, notices: str) -> None:
    run = urform("adopt", notices, "--json")
    told = json.loads(run.out)
    assert (run.status, told["version"], told["totals"]) == (1, 1, {"whole": 25, "part": 6, "out": 5})
    assert {
        "path": "Sounding.tag",
        "field": "tag",
        "slug": "pattern",
        "reason": "pattern ^(?!x)",
        "mend": "write the pattern as I-Regexp, or a shorter one",
        "file": notices,
        "line": 74,
    } in told["losses"]
    assert told["declaration"].startswith("# Drafted by")


def test_some_types_with_what_they_need(urform: Urform, notices: str) -> None:
    run = urform("adopt", notices, "--only", "sounding", "-q")
    products = [
        line.strip(" :") for line in run.out.splitlines() if line.startswith("  ") and line[2].isupper()
    ]
    assert products == ["Sounding", "Position"]


def test_a_type_that_stands_for_another(urform: Urform, notices: str) -> None:
    run = urform("adopt", notices, "--only", "sounding", "--type", "position=text", "-q")
    assert "at: text" in run.out


# --- into a declaration -----------------------------------------------------------------------------------------

OWN = """# Ours.
urform: 1
name: own   # keep
products:
  Contact:   # by hand
    required: {name: text}

  Mark:
    required:
      # all of them
      station: integer

families: {}
"""


def test_into_a_declaration(urform: Urform, notices: str, tmp_path: Path) -> None:
    """Every line that a person wrote stays, in its order; what has a name already is kept."""
    own = tmp_path / "own.urform.yaml"
    own.write_text(OWN, encoding="utf-8")
    run = urform("adopt", notices, "--into", "own.urform.yaml")
    assert run.status == 1, run.err
    assert "kept as it is: Contact" in run.out
    lines = own.read_text(encoding="utf-8").splitlines()
    left = iter(lines)
    assert all(line in left for line in OWN.splitlines())
    assert lines.index("  Place:") < lines.index("families: {}")
    declaration = read(own).declaration
    assert declaration is not None
    assert [*declaration.products][:3] == ["Contact", "Mark", "NoticesPortVarrow"]
    assert [field.name for field in declaration.products["Contact"].fields.values()] == ["name"]
    # A second time there is nothing new.
    before = own.read_text(encoding="utf-8")
    assert urform("adopt", notices, "--into", "own.urform.yaml").status in (0, 1)
    assert own.read_text(encoding="utf-8") == before


def test_a_declaration_in_braces_is_left_alone(urform: Urform, notices: str, tmp_path: Path) -> None:
    own = tmp_path / "own.urform.yaml"
    text = "urform: 1\nname: own\nproducts: {Mark: {required: {station: integer}}}\n"
    own.write_text(text, encoding="utf-8")
    run = urform("adopt", notices, "--into", "own.urform.yaml")
    assert run.status == 2
    assert "'products' is written in braces" in run.err
    assert own.read_text(encoding="utf-8") == text


def test_a_declaration_with_problems_is_left_alone(urform: Urform, notices: str, tmp_path: Path) -> None:
    own = tmp_path / "own.urform.yaml"
    own.write_text("urform: 1\nname: Own\n", encoding="utf-8")
    run = urform("adopt", notices, "--into", "own.urform.yaml")
    assert run.status == 1
    assert "own.urform.yaml:2" in run.err


# --- wrong use --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("nowhere.json",), "nowhere.json is not there"),
        (
            ("notices.schema.json", "--only", "soundin"),
            "no type is called 'soundin'. Did you mean 'sounding'?",
        ),
        (("notices.schema.json", "--type", "position"), "'position' is no pair such as Path=text"),
        (("notices.schema.json", "--type", "position=path"), "'position=path' is no pair"),
        (("notices.schema.json", "-o", "a.yaml", "--into", "b.yaml"), "not both"),
        (("notices.txt",), "notices.txt does not say by its name what it is: --from json-schema"),
        (("broken.json",), "no type with fields in broken.json"),
        (("empty.json",), "no type with fields in empty.json"),
        (("notices.schema.json", "--from", "cobol"), "'cobol' is nothing that adopt reads"),
    ],
)
def test_wrong_use(
    arguments: tuple[str, ...], said: str, urform: Urform, notices: str, tmp_path: Path
) -> None:
    (tmp_path / "notices.txt").write_text("{}", encoding="utf-8")
    (tmp_path / "broken.json").write_text('{"properties": ', encoding="utf-8")
    (tmp_path / "empty.json").write_text("{}", encoding="utf-8")
    run = urform("adopt", *arguments)
    assert run.status == 2
    assert said in run.err
    assert run.out == ""


def test_from_says_what_a_file_is(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "pilot.txt").write_text(json.dumps(WHOLE), encoding="utf-8")
    assert urform("adopt", "pilot.txt", "--from", "json-schema").status == 0


def test_a_grammar_that_is_not_there_is_told(
    urform: Urform, hiding: Callable[[str], dict[str, str]], tmp_path: Path
) -> None:
    (tmp_path / "marks.go").write_text("package varrow\n", encoding="utf-8")
    run = urform("adopt", "marks.go", environment=hiding("tree_sitter_go"))
    assert run.status == 3
    assert "urform adopt needs tree-sitter-go: pip install 'urform[code]'" in run.err


@pytest.mark.toolchain
@pytest.mark.parametrize("name", ["notices.schema.json", "surveys.schema.yaml"])
def test_a_draft_verifies(name: str, urform: Urform, notices: str) -> None:
    """What was drafted is what every target can make: here two of them, one that compiles."""
    urform("adopt", name, "-o", "drafted.urform.yaml")
    run = urform("verify", "drafted.urform.yaml", "-t", "python,go", "--require-all")
    assert run.status == 0, run.out + run.err
