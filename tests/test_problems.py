"""Every kind of problem: its own example has it, and what a person sees of it is kept in a file."""

from __future__ import annotations

import json
import os
import re
from collections.abc import Callable
from io import StringIO
from pathlib import Path

import pytest
from rich.console import Console

from tests.conftest import HERE, VALID, Run
from urform.cli.common import complete_reading
from urform.cli.render import show_problems
from urform.declaration import read, read_string
from urform.declaration.catalogue import all_kinds
from urform.declaration.problems import MOST_PROBLEMS, Kind
from urform.languages import setting_problems

KINDS = all_kinds()
WITH_EXAMPLE = {slug: kind for slug, kind in KINDS.items() if kind.example}
WITHOUT_EXAMPLE = {
    "unreadable",
    "too-large",
    "not-utf8",
    "too-many-problems",
}  # of files as such; each has a test below


def found_in(text: str) -> set[str]:
    reading = read_string(text)
    found = {problem.slug for problem in (*reading.problems, *reading.advice)}
    if reading.declaration is not None:
        found |= {problem.slug for problem in setting_problems(reading.declaration)}
    return found


@pytest.mark.parametrize("kind", WITH_EXAMPLE.values(), ids=WITH_EXAMPLE)
def test_the_example_has_just_this_problem(kind: Kind) -> None:
    assert found_in(kind.example) == {kind.slug}


def test_only_problems_of_files_have_no_example() -> None:
    assert set(KINDS) - set(WITH_EXAMPLE) == WITHOUT_EXAMPLE


@pytest.mark.parametrize("slug", WITH_EXAMPLE)
def test_what_a_person_sees(slug: str, tmp_path: Path, expected: Callable[[str, str], None]) -> None:
    path = tmp_path / "example.urform.yaml"
    path.write_text(KINDS[slug].example, encoding="utf-8")
    shown = StringIO()
    show_problems(Console(file=shown, width=200, soft_wrap=True), complete_reading(path))
    expected(f"problems/{slug}.txt", shown.getvalue().replace(f"{tmp_path}{os.sep}", ""))


def test_a_file_that_cannot_be_read(tmp_path: Path, urform: Callable[..., Run]) -> None:
    for name in ("nowhere.urform.yaml", "."):
        done = urform("check", name)
        assert (done.status, "unreadable" in done.err) == (1, True)
    if hasattr(os, "mkfifo"):
        os.mkfifo(tmp_path / "pipe.urform.yaml")
        assert "no plain file" in urform("check", "pipe.urform.yaml").err


def test_a_file_that_is_not_utf8(tmp_path: Path) -> None:
    path = tmp_path / "latin.urform.yaml"
    path.write_bytes("urform: 1\nname: h\xe4fen\n".encode("latin-1"))
    (problem,) = read(path).problems
    assert (problem.slug, problem.place.line, problem.place.column) == ("not-utf8", 2, 8)


def test_a_file_that_is_too_large(tmp_path: Path) -> None:
    path = tmp_path / "large.urform.yaml"
    with path.open("wb") as file:
        file.truncate(65 * 1024 * 1024)
    assert [problem.slug for problem in read(path).problems] == ["too-large"]


@pytest.mark.parametrize("line", ["name: x", "k{}: x", "'{}': x"])
def test_of_endlessly_many_problems_the_first_are_told(line: str) -> None:
    reading = read_string("urform: 1\n" + "".join(line.format(n) + "\n" for n in range(5000)))
    assert len(reading.problems) == MOST_PROBLEMS + 1
    assert reading.problems[-1].slug == "too-many-problems"
    assert reading.problems[-1].place >= reading.problems[-2].place
    assert reading.document.lines


def test_of_an_endless_text_the_beginning_is_quoted() -> None:
    reading = read_string(
        f"urform: 1\nname: {'X' * 50}\nproducts: {{P: {{required: {{a: {'y' * 5000}}}}}}}\n"
    )
    assert {problem.slug for problem in reading.problems} == {"bad-name", "unknown-type"}
    assert all(len(problem.message) < 500 for problem in reading.problems)


def test_all_problems_at_once_with_their_places() -> None:
    reading = read_string(
        "urform: 1\nname: harbour\nproducts:\n  Mark:\n    required:\n      station: {type: integr, min: 1}\n"
        "      side: {type: text, max: 3}\n    factory: {form: simple}\n    optionl: {}\n"
    )
    found = [(problem.slug, problem.place.line, problem.place.column) for problem in reading.problems]
    assert found == [
        ("unknown-type", 6, 23),
        ("misplaced-limit", 7, 26),
        ("factory-without-variants", 8, 21),
        ("unknown-key", 9, 5),
    ]


def test_json_of_problems(tmp_path: Path, urform: Callable[..., Run]) -> None:
    (tmp_path / "a.urform.yaml").write_text("urform: 1\nname: Harbour\n", encoding="utf-8")
    done = urform("check", "--json")
    shape = json.loads(done.out)
    assert (done.status, shape["version"], shape["advice"]) == (1, 1, [])
    (problem,) = shape["problems"]
    assert set(problem) == {"slug", "file", "line", "column", "message", "mend"}
    assert (problem["slug"], problem["file"], problem["line"], problem["column"]) == (
        "bad-name",
        "a.urform.yaml",
        2,
        7,
    )


def test_advice_can_be_quieted() -> None:
    text = KINDS["family-of-one"].example
    quieted = "\n".join(
        f"{line}  # urform: keep family-of-one" if line.strip().startswith("Outfit:") else line
        for line in text.splitlines()
    )
    assert found_in(text) == {"family-of-one"}
    assert found_in(quieted) == set()


def test_valid_declarations_have_no_problems(valid: Path) -> None:
    reading = read(valid)
    assert reading.problems == ()
    assert reading.declaration is not None
    assert setting_problems(reading.declaration) == ()
    assert len(VALID) >= 6


def test_a_mend_says_something_before_its_details_are_known() -> None:
    """`urform explain` tells it as it is, and a placeholder alone mends nothing."""
    assert [slug for slug, kind in KINDS.items() if not re.sub(r"\{\w+\}|\W", "", kind.mend)] == []


# --- what people write who know other languages and formats -----------------------------------------------------

MISTAKES = sorted((HERE / "fixtures/mistakes").glob("*.urform.yaml"))
SEVERAL = {
    "name-and-more": 3,
    "signs": 2,
    "brackets": 3,
    "types": 9,
    "yes": 2,
    "loose-fields": 2,
    "misplaced-limits": 5,
    "other-words": 3,
}  # the others have one


@pytest.mark.parametrize("path", MISTAKES, ids=lambda path: path.name.partition(".")[0])
def test_a_usual_mistake_is_told_once_with_its_mend(path: Path, expected: Callable[[str, str], None]) -> None:
    name, reading = path.name.partition(".")[0], complete_reading(path)
    assert len(reading.problems) == SEVERAL.get(name, 1)
    assert all(problem.mend for problem in reading.problems)
    shown = StringIO()
    show_problems(Console(file=shown, width=200, soft_wrap=True), reading)
    expected(f"mistakes/{name}.txt", shown.getvalue().replace(f"{path.parent}{os.sep}", ""))


def test_check_without_a_name_takes_every_declaration(tmp_path: Path, urform: Callable[..., Run]) -> None:
    for name, text in (("a", "urform: 1\nname: a\n"), ("b", "urform: 1\nnmae: b\n"), ("c", "name: c\n")):
        (tmp_path / f"{name}.urform.yaml").write_text(text, encoding="utf-8")
    done = urform("check")
    assert done.status == 1
    assert "a.urform.yaml: valid" in done.out
    assert "Did you mean 'name'?" in done.err
    assert "add `urform: 1`" in done.err
