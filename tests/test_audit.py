"""`urform audit`, as its users meet it."""

from __future__ import annotations

import json
import shutil
import subprocess
from collections.abc import Callable
from pathlib import Path

import jsonschema
import pytest

from tests.conftest import HERE, Urform

CODE = HERE / "fixtures/existing/code"
SARIF = HERE / "fixtures/sarif/sarif-schema-2.1.0.json"


@pytest.fixture
def code(tmp_path: Path) -> Path:
    """A folder with the same code in four languages."""
    return Path(shutil.copytree(CODE, tmp_path / "src"))


def test_findings_are_shown_with_their_proof(urform: Urform, code: Path) -> None:
    run = urform("audit", "src/creating.py")
    assert (run.status, run.err) == (1, "")
    assert run.out.startswith(
        'src/creating.py:25:1  wrong-branch\n  "wreck" makes Beacon, and there is a Wreck\n'
    )
    shares = run.out[run.out.index("src/creating.py:46") :]
    assert shares.splitlines()[:6] == [
        "src/creating.py:46:1  clone-shares",
        "  what copy of Refit makes shares legs with its original, and Refit changes what is in it",
        "     46 |     def copy(self):",
        "     47 |         return Refit(self.title, 1, 2, 3, self.legs)   legs is handed over as it is",
        "     50 |         self.legs.append(leg)   legs is changed",
        "  mend: give the copy containers of its own, or declare a prototype: urform explain prototype",
    ]
    assert (
        "mend: declare a product with these variants, and a factory: urform adopt src/creating.py --only Mark"
        in run.out
    )
    assert run.out.splitlines()[-1].startswith("7 findings in 1 file: 1 wrong-branch, 1 clone-shares, ")


def test_what_is_drafted_from_a_finding(urform: Urform, code: Path) -> None:
    """The command that a mend names does what it says."""
    run = urform("adopt", "src/creating.py", "--only", "Mark", "-o", "marks.urform.yaml")
    assert run.status == 1
    assert "made-base  src/creating.py:4  Mark: that Mark can be made, and not only its kinds" in run.out
    assert urform("check", "marks.urform.yaml").out.startswith(
        "marks.urform.yaml: valid, 1 product with 3 variants"
    )


def test_columns_are_those_of_characters(urform: Urform, tmp_path: Path) -> None:
    source = "class M: pass\nclass A(M): pass\nclass B(M): pass\nclass C(M): pass\n"
    (tmp_path / "one.py").write_text(source + "größe, T = 1, {'a': A, 'b': B, 'c': C}\n", encoding="utf-8")
    assert urform("audit", "one.py").out.startswith("one.py:5:15  type-switch")


def test_some_kinds_and_levels(urform: Urform, code: Path) -> None:
    def ids(*options: str) -> set[str]:
        return {each["id"] for each in json.loads(urform("audit", "src", "--json", *options).out)["findings"]}

    assert ids("--only", "type-switch,clone-shares") == {"type-switch", "clone-shares"}
    assert ids("--level", "warning") == {
        "wrong-branch",
        "clone-shares",
        "same-switch-twice",
        "unknown-gives-nothing",
    }


def test_nothing_found(urform: Urform, tmp_path: Path) -> None:
    (tmp_path / "one.py").write_text("x = 1\n", encoding="utf-8")
    run = urform("audit", ".")
    assert (run.status, run.out) == (0, "0 findings in 1 file\n")
    assert urform("audit", ".", "-q").out == ""


def test_a_baseline_leaves_out_what_was_known(urform: Urform, code: Path, tmp_path: Path) -> None:
    (tmp_path / "known.json").write_text(urform("audit", "src", "--json").out, encoding="utf-8")
    run = urform("audit", "src", "--baseline", "known.json")
    assert run.status == 0
    assert run.out.splitlines()[1] == "36 known before"
    wrong = urform("audit", "src", "--baseline", "src/creating.py")
    assert wrong.status == 2
    assert "src/creating.py is no report of before" in wrong.err


def test_sarif_is_what_its_schema_says(urform: Urform, code: Path, tmp_path: Path) -> None:
    run = urform("audit", "src", "--sarif", "audit.sarif", "-q")
    assert run.out.splitlines()[-1] == "wrote audit.sarif"
    report = json.loads((tmp_path / "audit.sarif").read_text(encoding="utf-8"))
    jsonschema.validate(report, json.loads(SARIF.read_text(encoding="utf-8")))
    assert len(report["runs"][0]["results"]) == 36
    places = {
        each["locations"][0]["physicalLocation"]["artifactLocation"]["uri"]
        for each in report["runs"][0]["results"]
    }
    assert places == {f"src/{path.name}" for path in CODE.iterdir()}


def test_only_what_changed_since_a_revision(urform: Urform, code: Path, tmp_path: Path) -> None:
    def git(*arguments: str) -> None:
        command = ["git", "-c", "user.name=x", "-c", "user.email=x@example.com", *arguments]
        subprocess.run(command, cwd=tmp_path, check=True, capture_output=True)

    git("init", "-q")
    git("add", ".")
    git("commit", "-qm", "all")
    assert urform("audit", "src", "--since", "HEAD").out.startswith("0 findings in 0 files")
    with (code / "creating.go").open("a", encoding="utf-8") as file:
        file.write("\n// more\n")
    run = urform("audit", "src", "--since", "HEAD", "--json")
    assert {each["file"] for each in json.loads(run.out)["findings"]} == {"src/creating.go"}
    wrong = urform("audit", "src", "--since", "nowhere")
    assert wrong.status == 2
    assert "nowhere cannot be compared with" in wrong.err


def test_git_says_what_is_ignored(urform: Urform, code: Path, tmp_path: Path) -> None:
    subprocess.run(["git", "init", "-q"], cwd=tmp_path, check=True)
    (tmp_path / ".gitignore").write_text("creating.*\n", encoding="utf-8")
    assert json.loads(urform("audit", ".", "--json").out)["files"] == 1  # Creating.java


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("nowhere",), "nowhere is not there"),
        ((".",), "no source in .: files that end in .cc, "),
        (("src", "--only", "typ-switch"), "no finding is called 'typ-switch'. Did you mean 'type-switch'?"),
        (("src", "--level", "warn"), "'warn' is no level. Did you mean 'warning'?"),
    ],
)
def test_wrong_use(arguments: tuple[str, ...], said: str, urform: Urform, code: Path, tmp_path: Path) -> None:
    if arguments == (".",):
        shutil.rmtree(code)
    run = urform("audit", *arguments)
    assert (run.status, run.out) == (2, "")
    assert said in run.err


def test_a_grammar_that_is_not_there_is_told(
    urform: Urform, hiding: Callable[[str], dict[str, str]], code: Path
) -> None:
    run = urform("audit", "src", environment=hiding("tree_sitter_java"))
    assert run.status == 3
    assert "urform audit needs tree-sitter-java: pip install 'urform[code]'" in run.err
