"""What a Go trial leaves out, told by names alone: too much may be kept, never too little."""

from __future__ import annotations

import subprocess
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO, emitted
from urform.languages.go.pruning import functions, unit, with_functions
from urform.languages.testing.pruning import Unit, needed
from urform.output.writing import write_project


@pytest.mark.parametrize(
    ("text", "declares", "receivers"),
    [
        ("func New() int {\n\treturn 1\n}\n", {"New"}, set()),
        ('func (m *Mark) Key() string { return "mark" }\n', set(), {"Mark"}),
        ("func (*pool[K, T]) hit() {}\n", set(), {"pool"}),
        (
            'type Side string\n\nconst (\n\tPort Side = "port"\n\tStarboard Side = "starboard"\n)\n',
            {"Side", "Port", "Starboard"},
            set(),
        ),
        ("var _ Mark = (*Buoy)(nil)\n", set(), set()),
        ("// func Gone() {}\nvar made = `\nfunc Text() {}\n`\n", {"made"}, set()),
    ],
)
def test_what_a_piece_declares(text: str, declares: set[str], receivers: set[str]) -> None:
    found = unit(text)
    assert (set(found.declares), set(found.receivers)) == (declares, receivers)


def test_what_is_mentioned_in_text_or_comment_is_not() -> None:
    found = unit('func New() { call("Lost") } // Gone\n')
    assert "call" in found.mentions
    assert not {"Lost", "Gone"} & found.mentions


def piece(declares: str = "", receivers: str = "", mentions: str = "") -> Unit:
    return Unit(frozenset(declares.split()), frozenset(receivers.split()), frozenset(mentions.split()))


def test_what_is_needed_leads_on() -> None:
    units = {
        "mark": piece("Mark", mentions="Side"),
        "side": piece("Side"),
        "methods": piece(receivers="Mark", mentions="label"),
        "label": piece("label"),
        "buoy": piece("Buoy", mentions="Mark"),
    }
    assert needed(units, ["Mark"]) == {"mark", "side", "methods", "label"}
    assert needed(units, ["Buoy"]) == set(units)
    assert needed(units, ["Nobody"]) == set()


@given(st.lists(st.tuples(st.sampled_from("abcdef"), st.lists(st.sampled_from("abcdef"))), max_size=8))
def test_nothing_that_is_kept_lacks_anything(found: list[tuple[str, list[str]]]) -> None:
    units = {str(n): piece(name, mentions=" ".join(mentions)) for n, (name, mentions) in enumerate(found)}
    kept = needed(units, ["a"])
    wanted = {"a"}.union(*(units[key].mentions for key in kept))
    assert {key for key, each in units.items() if each.declares & wanted} == kept


FILE = """package fairway_test

import (
	"testing"
	"time"

	"harbour.example/fairway"
)

func one(t *testing.T) {
	fairway.New()
}

func two(t *testing.T) {
	time.Sleep(1)
}
"""


def test_a_file_keeps_the_imports_of_the_functions_that_stay() -> None:
    head, found = functions(FILE)
    assert [text.partition("(")[0].strip() for text in found] == ["func one", "func two"]
    first = with_functions(head, found[:1])
    assert ('"time"' in first, '"harbour.example/fairway"' in first, "func two" in first) == (
        False,
        True,
        False,
    )
    assert with_functions(head, found).replace("\n\n", "\n") == FILE.replace("\n\n", "\n")


@pytest.mark.toolchain
def test_every_test_of_the_demo_stands_alone(tmp_path: Path) -> None:
    """With each single test and what it needs of its file, the package still passes `go vet`."""
    emission = emitted(DEMO, "go")
    write_project(tmp_path, emission.files)
    texts = {file.path: file.text for file in emission.files if file.path.endswith("_test.go")}
    for path in ("refit_plan_test.go", "light_rhythm_test.go", "outfit_test.go"):
        head, found = functions(texts[path])
        for at in range(0, len(found), 7):
            (tmp_path / path).write_text(with_functions(head, [found[at]]), encoding="utf-8")
            done = subprocess.run(
                ["go", "vet", "."], cwd=tmp_path, capture_output=True, encoding="utf-8", check=False
            )
            assert done.returncode == 0, done.stderr
        (tmp_path / path).write_text(texts[path], encoding="utf-8")
