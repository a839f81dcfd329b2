"""`urform generate`, as a person meets it: what it writes, what it keeps, and what is in its way."""

from __future__ import annotations

import subprocess
from pathlib import Path

import pytest

from tests.conftest import Urform
from tests.targets import tools
from urform.languages import known_targets


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
