"""The built command, as a person meets it: what it says, what it writes, how it ends."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from xml.etree import ElementTree

import pytest

from tests.conftest import BUILT_IN, STARTER, Run
from tests.targets import tools
from urform.languages import known_targets

Urform = Callable[..., Run]


@pytest.fixture
def starter(tmp_path: Path) -> Path:
    path = tmp_path / "harbour.urform.yaml"
    path.write_text(STARTER.read_text(encoding="utf-8"), encoding="utf-8")
    return path


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


@pytest.mark.slow
def test_generate_check_and_again(urform: Urform, tmp_path: Path, starter: Path) -> None:
    assert urform("generate", "-t", "python", "-o", "out", "--check").status == 1
    assert not (tmp_path / "out").exists()
    first = urform("generate", "-t", "python", "-o", "out")
    assert first.status == 0, first.err
    assert urform("generate", "-t", "python", "-o", "out", "--check").status == 0
    before = {path: path.stat().st_mtime_ns for path in (tmp_path / "out").rglob("*.py")}
    assert "wrote 0 files" in urform("generate", "-t", "python", "-o", "out").out
    assert before == {path: path.stat().st_mtime_ns for path in (tmp_path / "out").rglob("*.py")}


def test_edited_files_are_kept_until_forced(urform: Urform, tmp_path: Path, starter: Path) -> None:
    urform("generate", "-t", "python", "-o", "out")
    edited = tmp_path / "out/python/harbour/mark.py"
    original = edited.read_text(encoding="utf-8")
    edited.write_text(original + "# mine\n", encoding="utf-8")
    done = urform("generate", "-t", "python", "-o", "out")
    assert done.status == 1
    assert "edited by hand, kept" in done.err
    assert edited.read_text(encoding="utf-8").endswith("# mine\n")
    assert "-# mine" in urform("generate", "-t", "python", "-o", "out", "--diff").out
    assert urform("generate", "-t", "python", "-o", "out", "--force").status == 0
    assert edited.read_text(encoding="utf-8") == original


PLACED = """
urform: 1
name: harbour
targets:
  python: {package: varrow.harbour, into: ../station, code: src, tests: tests/harbour, project: none}
  go:
products:
  Mark: {required: {station: integer}}
"""


def test_a_declaration_says_which_targets_and_where(urform: Urform, tmp_path: Path) -> None:
    folder = tmp_path / "declarations"
    folder.mkdir()
    (folder / "a.urform.yaml").write_text(PLACED, encoding="utf-8")
    done = urform("generate", folder=folder)
    assert done.status == 0, done.err
    assert "new      ../station/src/varrow/harbour/mark.py" in done.out
    assert "../station (python): wrote" in done.out
    assert sorted(path.name for path in (folder / "out").iterdir()) == ["go"]
    python = {
        path.relative_to(tmp_path / "station").as_posix() for path in (tmp_path / "station").rglob("*.py")
    }
    assert {"src/varrow/harbour/mark.py", "tests/harbour/shared.py"} <= python
    assert "wrote 0 files" in urform("generate", folder=folder).out
    assert urform("generate", "--check", folder=folder).status == 0
    assert urform("generate", "-t", "rust", folder=folder).status == 0, "what is asked for comes first"
    assert (folder / "out/rust").exists()


def test_a_build_file_can_be_removed_and_had_again(urform: Urform, tmp_path: Path, starter: Path) -> None:
    urform("generate", "-t", "go", "-o", "out")
    module = tmp_path / "out/go/go.mod"
    module.unlink()
    assert urform("generate", "-t", "go", "-o", "out", "--check").status == 0
    assert urform("generate", "-t", "go", "-o", "out").status == 0
    assert not module.exists()
    assert "new      out/go/go.mod" in urform("generate", "-t", "go", "-o", "out", "--force").out
    assert module.exists()


def test_a_difference_is_a_patch(urform: Urform, tmp_path: Path, starter: Path) -> None:
    """Tabs stay tabs; what it says can be applied."""
    urform("generate", "-t", "go,python", "-o", "out")
    for path, line in (
        ("out/go/mark.go", "\t// mine\n"),
        ("out/python/harbour/mark.py", "# mine, without an end"),
    ):
        file = tmp_path / path
        file.write_text(file.read_text(encoding="utf-8") + line, encoding="utf-8")
    (tmp_path / "out/go/side.go").unlink()
    patch = urform("generate", "-t", "go,python", "-o", "out", "--diff").out
    subprocess.run(["git", "init", "-q"], cwd=tmp_path, check=True)
    subprocess.run(["git", "apply", "-"], cwd=tmp_path, input=patch, text=True, check=True)
    assert urform("generate", "-t", "go,python", "-o", "out", "--check").status == 0


def test_what_is_forced_is_listed_by_name(urform: Urform, tmp_path: Path, starter: Path) -> None:
    urform("generate", "-t", "python", "-o", "out")
    edited = tmp_path / "out/python/harbour/mark.py"
    edited.write_text("mine\n", encoding="utf-8")
    done = urform("generate", "-t", "python", "-o", "out", "--force")
    assert (done.status, "mark.py: was edited by hand, overwritten" in done.err) == (0, True)
    assert "1 overwritten" in done.out


def test_files_of_a_person_are_in_the_way(urform: Urform, tmp_path: Path, starter: Path) -> None:
    """For all targets it is told, and none of them is written; neither is what `verify` keeps."""
    pom = tmp_path / "out/java/pom.xml"
    pom.parent.mkdir(parents=True)
    pom.write_text("<mine/>\n", encoding="utf-8")
    (tmp_path / "out/go").mkdir()
    (tmp_path / "out/go/side.go").write_text("package mine\n", encoding="utf-8")
    for arguments in (("generate", "-o"), ("generate", "--force", "-o"), ("verify", "--into")):
        done = urform(*arguments, "out", "-t", "python,java,go")
        assert (done.status, "nothing was written" in done.err) == (1, True), arguments
        assert "java/pom.xml: is in the way: Urform did not write it" in done.err
        assert "go/side.go: is in the way" in done.err
        assert "edited by hand" not in done.err
        assert [path for path in (tmp_path / "out").rglob("*") if path.is_file()] == [
            tmp_path / "out/go/side.go",
            pom,
        ]
    assert urform("generate", "-o", "out", "-t", "java", "--check").status == 1


def test_two_declarations_in_one_folder_are_told_apart(urform: Urform, tmp_path: Path, starter: Path) -> None:
    assert urform("generate", starter, "-t", "go", "-o", "out").status == 0
    before = {path: path.read_bytes() for path in (tmp_path / "out").rglob("*") if path.is_file()}
    other = tmp_path / "quay.urform.yaml"
    other.write_text(
        starter.read_text(encoding="utf-8").replace("name: harbour", "name: quay"), encoding="utf-8"
    )
    done = urform("generate", other, "-t", "go", "-o", "out", "--force")
    assert done.status == 1
    assert "mark.go: belongs to 'harbour (go)', and 'quay' would write it too" in done.err
    assert before == {path: path.read_bytes() for path in (tmp_path / "out").rglob("*") if path.is_file()}


def test_what_is_no_longer_generated_goes_unless_edited(
    urform: Urform, tmp_path: Path, starter: Path
) -> None:
    urform("generate", "-t", "go", "-o", "out")
    foreign = tmp_path / "out/go/mine.go"
    foreign.write_text("package harbour\n", encoding="utf-8")
    side, test = tmp_path / "out/go/side.go", tmp_path / "out/go/buoy_test.go"
    test.write_text(test.read_text(encoding="utf-8") + "// mine\n", encoding="utf-8")
    text = starter.read_text(encoding="utf-8").replace(
        "  Side:\n    values: [port, starboard]\n", "  Rank:\n    values: [one]\n"
    )
    starter.write_text(text.replace("side: Side ", "side: Rank ").replace("Buoy", "Float"), encoding="utf-8")
    done = urform("generate", "-t", "go", "-o", "out")
    assert done.status == 1
    assert not side.exists()
    assert test.exists()
    assert foreign.exists()


def own_operation(starter: Path) -> None:
    """Make the starter's chart label of a buoy the user's to write."""
    text = starter.read_text(encoding="utf-8")
    answered = "        answers: {chart_label: floating mark}\n"
    assert answered in text
    starter.write_text(text.replace(answered, "        doc: It floats.\n"), encoding="utf-8")


def test_the_users_file_is_created_once(urform: Urform, tmp_path: Path, starter: Path) -> None:
    own_operation(starter)
    assert urform("generate", "-t", "python", "-o", "out").status == 0
    own = tmp_path / "out" / "python" / tools("python").own_file
    assert "not written yet" in own.read_text(encoding="utf-8")
    written = own.read_text(encoding="utf-8").replace("raise NotImplementedError", "return 'x'  # ")
    own.write_text(written, encoding="utf-8")
    assert urform("generate", "-t", "python", "-o", "out", "--force").status == 0
    assert own.read_text(encoding="utf-8") == written


@pytest.mark.slow
def test_what_the_users_file_needs_no_longer_is_told(urform: Urform, tmp_path: Path, starter: Path) -> None:
    """A new file with what has to be filled in, and later each operation that is no longer asked for, with its line."""
    answered = starter.read_text(encoding="utf-8")
    own_operation(starter)
    created = urform("generate", "-o", "out")
    starter.write_text(answered, encoding="utf-8")
    done = urform("generate", "-o", "out")
    assert (created.status, done.status) == (0, 1)
    for name in known_targets():
        path = f"{name}/{tools(name).own_file}"
        assert (
            f"{path}: written once, and yours from now on; to be filled in: Buoy.chart_label" in created.err
        )
        told = done.err.partition(f"{path}:")[2].partition("\n")[0]
        line, _, said = told.partition(": no longer needed: Buoy.chart_label: ")
        text = (tmp_path / "out" / path).read_text(encoding="utf-8").splitlines()
        assert said == text[int(line) - 1].strip(), path
        (tmp_path / "out" / path).unlink()
    assert urform("generate", "-o", "out").status == 0


@pytest.mark.slow
def test_an_operation_that_came_later_is_shown_and_not_written(
    urform: Urform, tmp_path: Path, starter: Path
) -> None:
    """The file of the user stays as it is; the lines that it lacks are told, and the exit status is 1."""
    own_operation(starter)
    assert urform("generate", "-o", "out").status == 0
    for name in known_targets():
        own = tmp_path / "out" / name / tools(name).own_file
        own.write_text(f"{tools(name).comment} mine\n", encoding="utf-8")
    for arguments in ((), ("--check",), ("--force",)):
        done = urform("generate", "-o", "out", *arguments)
        assert done.status == 1, arguments
        for name in known_targets():
            path = f"{name}/{tools(name).own_file}"
            told = done.err.partition(f"{path}: not written yet: Buoy.chart_label")[2]
            assert tools(name).stub in told.partition("add these lines")[2], path
            assert (tmp_path / "out" / path).read_text(encoding="utf-8").endswith("mine\n")


@pytest.mark.slow
def test_the_shown_lines_are_what_was_missing(urform: Urform, tmp_path: Path, starter: Path) -> None:
    """Pasted into the file, they are no longer missing."""
    own_operation(starter)
    urform("generate", "-o", "out")
    own = {name: tmp_path / "out" / name / tools(name).own_file for name in known_targets()}
    for name, path in own.items():
        path.write_text(f"{tools(name).comment} mine\n", encoding="utf-8")
    told = urform("generate", "-o", "out").err
    for name, path in own.items():
        begins = f"{name}/{tools(name).own_file}: not written yet"
        lines = told.partition(begins)[2].partition("add these lines\n")[2]
        others = [at for other in known_targets() if (at := lines.find(f"{other}/")) >= 0]
        path.write_text(lines[: min(others, default=len(lines))], encoding="utf-8")
    done = urform("generate", "-o", "out")
    assert done.status == 0, done.err


@pytest.mark.slow
def test_the_example_is_asked_for(urform: Urform, tmp_path: Path, starter: Path) -> None:
    without = urform("generate", "-o", "out")
    before = {path for path in (tmp_path / "out").rglob("*") if path.is_file()}
    done = urform("generate", "-o", "out", "--example")
    added = {path for path in (tmp_path / "out").rglob("*") if path.is_file()} - before
    assert (without.status, done.status) == (0, 0)
    assert sorted(path.relative_to(tmp_path / "out").parts[0] for path in added) == sorted(known_targets())
    assert urform("generate", "-o", "out", "--example", "--check").status == 0
    assert urform("generate", "-o", "out").status == 0
    assert not any(path.exists() for path in added)


def test_links_are_not_followed(urform: Urform, tmp_path: Path, starter: Path) -> None:
    (tmp_path / "elsewhere").mkdir()
    (tmp_path / "out/python").mkdir(parents=True)
    (tmp_path / "out/python/harbour").symlink_to(tmp_path / "elsewhere")
    done = urform("generate", "-t", "python", "-o", "out")
    assert (done.status, "is a link" in done.err) == (3, True)
    assert list((tmp_path / "elsewhere").iterdir()) == []


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
    assert "min (of a field): Smallest allowed number or date." in urform("explain", "min").out
    unknown = urform("explain", "registy")
    assert (unknown.status, "registry" in unknown.err) == (2, True)
    assert json.loads(urform("schema").out)["properties"]["urform"]["const"] == 1
    shape = json.loads(urform("targets", "--json").out)
    assert shape["version"] == 1
    assert {"go", "java", "python"} <= {entry["name"] for entry in shape["targets"]}


def test_help_has_an_example_per_command(urform: Urform) -> None:
    for command in ("new", "check", "plan", "generate", "verify", "targets", "explain", "schema", "demo"):
        done = urform(command, "--help")
        assert (done.status, "Example: urform" in done.out) == (0, True)


@pytest.mark.slow
@pytest.mark.toolchain
def test_verify_tells_people_and_programs(urform: Urform, tmp_path: Path, starter: Path) -> None:
    done = urform("verify", "-t", "python,go", "--junit", "report.xml", "--json", "--into", "kept")
    assert done.status == 0, done.err
    shape = json.loads(done.out)
    claims = {claim["id"]: claim["results"] for claim in shape["claims"]}
    assert shape["version"] == 1
    assert claims["kind/Mark.buoy"] == {"python": "passed", "go": "passed"}
    assert claims["limit/Mark.station:type"] == {"python": "passed", "go": "held"}
    suites = list(ElementTree.parse(tmp_path / "report.xml").getroot())
    assert [(suite.get("name"), suite.get("tests"), suite.get("failures")) for suite in suites] == [
        ("python", str(len(claims)), "0"),
        ("go", str(len(claims)), "0"),
    ]
    assert (tmp_path / "kept/go/mark.go").exists()
    table = urform("verify", "-t", "python", "--fresh").out
    assert f"All {len(claims)} claims hold in 1 target" in table
    assert "limit/Mark.station:min" in urform("verify", "-t", "python", "--all", "--fresh").out


def test_a_missing_toolchain_is_told_and_not_a_pass(urform: Urform, tmp_path: Path, starter: Path) -> None:
    bare = {"PATH": str(tmp_path), "HOME": str(tmp_path), "XDG_CACHE_HOME": str(tmp_path / "cache")}
    done = urform("verify", "-t", "go,python", "--json", "--fresh", environment=bare)
    assert done.status == 0, done.err
    states = {
        target
        for claim in json.loads(done.out)["claims"]
        for target, state in claim["results"].items()
        if state == "not run"
    }
    assert states == {"go"}
    assert urform("verify", "-t", "go,python", "--require-all", environment=bare).status == 3
    only = urform("verify", "-t", "go", environment=bare)
    assert (only.status, "not run, missing: Go" in only.out) == (3, True)


@pytest.mark.slow
def test_a_test_that_never_ends_is_a_failure_of_its_claim(
    urform: Urform, tmp_path: Path, starter: Path
) -> None:
    """In code that a person edited; the other claims have their verdicts."""
    assert urform("verify", "-t", "python", "--into", "kept").status == 0
    known = tools("python")
    (file,) = [f for f in (tmp_path / "kept").rglob("*.py") if known.answer in f.read_text(encoding="utf-8")]
    text = file.read_text(encoding="utf-8").replace(known.answer, known.wrong["hang"])
    file.write_text(text, encoding="utf-8")
    done = urform("verify", "-t", "python", "--into", "kept", "--time-limit", "1.5", "--json")
    states = {
        claim["id"]: (claim["results"]["python"], claim["failures"])
        for claim in json.loads(done.out)["claims"]
    }
    failed = {id_: failures for id_, (state, failures) in states.items() if state == "failed"}
    assert done.status == 1
    assert list(failed) == ["answer/Buoy.chart_label"]
    (failure,) = failed["answer/Buoy.chart_label"]
    assert (failure["expected"], failure["found"]) == ("an end within 1.5 s", "none: it was stopped")
    assert failure["file"].endswith(".py")
    assert {state for state, _ in states.values()} == {"failed", "passed", "held"}
    told = urform("verify", "-t", "python", "--into", "kept", "--time-limit", "1.5").out
    assert f"  {failure['file']}\n" in told, "a test that was stopped tells no line"


TOY = """
import os
from functools import cached_property
from urform.languages.target import File, Found, Held, Ran, Target, TestAddress, TestResult, Toolchain

class Reader(Toolchain):
    def find(self, run):
        return Found("toy 1")
    def test(self, folder, emission, run, seconds):
        said = (folder / "plan.txt").read_text().splitlines()
        unseen = os.environ.get("TOY_UNSEEN")
        return Ran(tuple(
            TestResult(a.name, a.name in said and a.name != unseen, a.name == unseen, message="no collector ran")
            for a in emission.tests
        ))
    def again(self, address):
        return f"grep {address.name} plan.txt"

class Toy(Target):
    name = "toy"
    capabilities = frozenset()
    def pieces(self, plan, claims):
        tested = []
        for claim in claims:
            if claim.group == "single":
                yield Held(claim.id, "toys are single")
            else:
                tested.append(claim.id)
                yield TestAddress(claim.id, "plan.txt", claim.id)
        yield File("plan.txt", "\\n".join(tested))
    @cached_property
    def toolchain(self):
        return Reader()

TARGET = Toy()
"""


@pytest.fixture
def outside(tmp_path: Path) -> dict[str, str]:
    """An environment in which a target of somebody else is installed."""
    package = tmp_path / "site"
    info = package / "toy_target-1.dist-info"
    info.mkdir(parents=True)
    (package / "toy_target.py").write_text(TOY, encoding="utf-8")
    (info / "METADATA").write_text("Metadata-Version: 2.1\nName: toy-target\nVersion: 1\n", encoding="utf-8")
    (info / "entry_points.txt").write_text("[urform.languages]\ntoy = toy_target:TARGET\n", encoding="utf-8")
    return {"PYTHONPATH": os.pathsep.join([str(package), *sys.path])}


def test_a_target_can_be_added_from_outside(
    urform: Urform, tmp_path: Path, starter: Path, outside: dict[str, str]
) -> None:
    assert "toy 1" in urform("targets", environment=outside).out
    assert urform("generate", "-t", "toy", "-o", "out", environment=outside).status == 0
    assert "limit/Mark.station:min" in (tmp_path / "out/toy/plan.txt").read_text(encoding="utf-8")
    assert urform("verify", "-t", "toy", "--fresh", environment=outside).status == 0


def test_what_a_test_could_not_show_is_no_pass(
    urform: Urform, tmp_path: Path, starter: Path, outside: dict[str, str]
) -> None:
    unseen = {**outside, "TOY_UNSEEN": "limit/Mark.station:min"}
    done = urform("verify", "-t", "toy", "--fresh", "--json", "--junit", "report.xml", environment=unseen)
    assert done.status == 1
    claims = {claim["id"]: claim for claim in json.loads(done.out)["claims"]}
    assert claims["limit/Mark.station:min"]["results"] == {"toy": "not shown"}
    assert claims["limit/Mark.station:min"]["reasons"] == {"toy": "no collector ran"}
    assert claims["limit/Mark.station:max"]["results"] == {"toy": "passed"}
    (suite,) = ElementTree.parse(tmp_path / "report.xml").getroot()
    assert suite.get("errors") == "1"
    said = urform("verify", "-t", "toy", "--fresh", environment=unseen)
    assert said.status == 1
    assert "not shown limit/Mark.station:min in toy: no collector ran" in said.out


@pytest.mark.toolchain
def test_demo(urform: Urform, tmp_path: Path) -> None:
    done = urform("demo", "port-varrow")
    assert done.status == 0, done.err
    assert f"claims hold in {len(BUILT_IN)} targets" in done.out
    assert "cloned, and the clone changed" in done.out
    assert (tmp_path / "port-varrow/java/pom.xml").exists()


def test_the_python_api(tmp_path: Path, starter: Path) -> None:
    import urform as api

    plan = api.plan(api.load(starter))
    changes = api.generate(plan, ["python"], tmp_path / "out")
    assert {change.state for change in changes["python"]} == {"new"}
    starter.write_text("urform: 1\n", encoding="utf-8")
    with pytest.raises(api.DeclarationError, match="missing-key") as caught:
        api.load(starter)
    assert caught.value.problems[0].place.line == 1


@pytest.mark.toolchain
def test_an_interrupt_leaves_nothing(tmp_path: Path, starter: Path) -> None:
    """Interrupted while the compilers run: no child process is left, and no scratch folder."""
    scratch = tmp_path / "scratch"
    scratch.mkdir()
    command = [
        str(Path(sys.executable).parent / "urform"),
        "verify",
        str(starter),
        "-t",
        "java,go",
        "--fresh",
    ]
    environment = {**os.environ, "TMPDIR": str(scratch), "URFORM_TEST_MARK": str(tmp_path)}
    process = subprocess.Popen(
        command,
        env=environment,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),  # a background job may ignore it
    )
    deadline = time.monotonic() + 60
    while not list(scratch.glob("urform-*/java/urform-build")) and time.monotonic() < deadline:
        time.sleep(0.05)
    time.sleep(0.5)
    process.send_signal(signal.SIGINT)
    _, err = process.communicate(timeout=20)
    assert process.returncode == 130
    assert err.endswith(b"interrupted; nothing was left half done\n")
    assert list(scratch.glob("urform-*")) == []
    assert marked(str(tmp_path)) == []


def marked(mark: str) -> list[str]:
    """The processes that inherited the mark in their environment."""
    found = []
    for environ in Path("/proc").glob("[0-9]*/environ"):
        try:
            if mark.encode() in environ.read_bytes() and int(environ.parent.name) != os.getpid():
                found.append(environ.parent.name)
        except OSError:
            continue
    return found


@pytest.mark.parametrize(
    ("typed", "completed"),
    [
        (("verify", "-t", "py"), {"python"}),
        (("verify", "-t", "go,ty"), {"go,typescript"}),
        (("explain", "min_"), {"min_length"}),
        (
            ("challenge", "--only", "limit/Mark.station:m"),
            {"limit/Mark.station:min", "limit/Mark.station:max"},
        ),
        (
            ("challenge", "harbour.urform.yaml", "--only", "kin"),
            {"kind", "kind/Mark.buoy", "kind/Mark.beacon"},
        ),
        (("challenge", "nowhere.urform.yaml", "--only", "kin"), set()),
    ],
)
def test_what_a_shell_completes(
    urform: Urform, starter: Path, typed: tuple[str, ...], completed: set[str]
) -> None:
    words = " ".join(("urform", *typed))
    asked = {"_URFORM_COMPLETE": "complete_bash", "COMP_WORDS": words, "COMP_CWORD": str(len(typed))}
    assert set(urform(environment=asked).out.split()) == completed
