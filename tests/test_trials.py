"""Trials that share one program: what is made of what its compiler says, and of what it tells of its tests. No compiler is run."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

import pytest
from hypothesis import given
from hypothesis import strategies as st

from urform.languages.target import Finished, Trial, Tried
from urform.languages.target import TestAddress as Address
from urform.languages.testing.pruning import Unit
from urform.languages.testing.trials import SOUND_NUMBER, TrialProgram, dependent, noted, number_of


def trial(number: int, *tests: str) -> Trial:
    return Trial(number, {}, tuple(Address(f"kind/Mark.{name}", "mark_test", name) for name in tests))


class Recorded(TrialProgram):
    """A program that never runs: what its compiler says, and what it tells, run after run."""

    broken = re.compile(r"^in t(\d+)", re.MULTILINE)

    def __init__(self, built: Iterable[str], told: Iterable[str] = ()) -> None:
        self._built, self._told = list(built), list(told)
        self.held: list[list[int]] = []  # the trials of each build
        self.runs: list[tuple[str, bool]] = []

    def build(self, trials: Sequence[Trial]) -> Finished:
        self.held.append([trial.number for trial in trials])
        said = self._built.pop(0)
        return Finished(1 if said else 0, said)

    def run(self, tried: str, *, alone: bool) -> str:
        self.runs.append((tried, alone))
        return self._told.pop(0)

    def said_of(self, said: str, number: int) -> str:
        return "".join(line for line in said.splitlines(keepends=True) if line.startswith(f"in t{number}:"))


def came_of(program: Recorded, *trials: Trial) -> dict[int, Tried]:
    return {each.number: each for each in program.results(trials)}


def test_each_test_is_told_good_or_bad() -> None:
    told = "begin 1 a\ngood 1 a\nbegin 1 b\n\nbad 1 b\nbegin 2 a\ngood 2 a\n"
    program = Recorded([""], [told])
    assert came_of(program, trial(1, "a", "b"), trial(2, "a")) == {1: Tried(1, frozenset("b")), 2: Tried(2)}
    assert program.runs == [("", False)]


def test_what_does_not_compile_is_left_out_and_told() -> None:
    said = "in t2: no such name\nin t4: no such type\nin t2: and more\n"
    program = Recorded([said, ""], ["begin 1 a\ngood 1 a\n"])
    found = came_of(program, trial(1, "a"), trial(2, "a"), trial(4, "a"))
    assert found[2].broke == "in t2: no such name\nin t2: and more\n"
    assert found[4].broke == "in t4: no such type\n"
    assert (found[1], program.held) == (Tried(1), [[1, 2, 4], [1]])


def test_errors_of_no_trial_break_all() -> None:
    """Nothing could be left out, so it would be compiled for ever."""
    program = Recorded(["the linker is missing\nin t7: not of these\n"])
    found = came_of(program, trial(1, "a"), trial(2, "a"))
    assert {each.broke.splitlines()[0] for each in found.values()} == {"the linker is missing"}
    assert len(program.held) == 1


def test_trials_that_are_all_broken_leave_nothing_to_run() -> None:
    program = Recorded(["in t1: a\nin t2: b\n"])
    assert {each.broke for each in came_of(program, trial(1, "a"), trial(2, "a")).values()} == {
        "in t1: a\n",
        "in t2: b\n",
    }
    assert program.runs == []


def test_a_test_that_ends_the_program_fails_and_the_rest_runs_after_it() -> None:
    program = Recorded([""], ["begin 1 a\ngood 1 a\nbegin 1 b\n", "begin 1 c\ngood 1 c\n"])
    assert came_of(program, trial(1, "a", "b", "c")) == {1: Tried(1, frozenset("b"))}
    assert program.runs == [("", False), (";1 a;;1 b;", False)]


def test_of_two_that_ran_when_the_program_ended_the_one_that_ends_it_again_fails() -> None:
    """Beside each other none can be blamed, so they run again one by one."""
    first = "begin 1 a\nbegin 1 b\n"
    program = Recorded([""], [first, "begin 1 a\ngood 1 a\nbegin 1 b\n"])
    assert came_of(program, trial(1, "a", "b")) == {1: Tried(1, frozenset("b"))}
    assert [alone for _, alone in program.runs] == [False, True]


@pytest.mark.parametrize("told", [[""], ["nonsense\n"], ["begin 1 a\nbegin 1 b\n", "", ""]])
def test_a_program_that_tells_nothing_is_no_pass(told: list[str]) -> None:
    """And is not run for ever."""
    program = Recorded([""], told)
    found = came_of(program, trial(1, "a", "b"))
    assert found == {1: Tried(1, broke="the tests did not all run")}
    assert len(program.runs) <= 2


def test_a_test_that_did_not_run_does_not_hide_one_that_failed() -> None:
    program = Recorded([""], ["begin 1 a\nbad 1 a\n", ""])
    assert came_of(program, trial(1, "a", "b")) == {1: Tried(1, frozenset("a"))}


def test_the_sound_code_has_a_number_that_can_be_part_of_a_name() -> None:
    assert number_of(trial(-1)) == SOUND_NUMBER
    program = Recorded([""], [f"begin {SOUND_NUMBER} a\nbad {SOUND_NUMBER} a\n"])
    assert came_of(program, trial(-1, "a")) == {-1: Tried(-1, frozenset("a"))}


TESTS = st.tuples(st.integers(0, 3), st.sampled_from("abc"))


@given(
    st.lists(st.tuples(TESTS, st.sampled_from(["good", "bad", "never"])), unique_by=lambda each: each[0]),
    st.data(),
)
def test_whatever_the_order_each_test_has_the_end_that_was_told(
    ends: list[tuple[tuple[int, str], str]], data: st.DataObject
) -> None:
    """Tests run beside each other; what they print themselves stands between."""
    lines = [f"begin {number} {name}" for (number, name), _ in ends]
    lines += [f"{how} {number} {name}" for (number, name), how in ends if how != "never"]
    noise = ["goodbye 1 a b", " good 1 a", "bad one", ""]
    before = data.draw(st.permutations(lines[: len(ends)]))
    after = data.draw(st.permutations([*lines[len(ends) :], *noise]))
    ended: dict[tuple[int, str], bool] = {}
    running = noted("\n".join([*before, *after]), ended)
    assert ended == {test: how == "good" for test, how in ends if how != "never"}
    assert running == {test for test, how in ends if how == "never"}


def test_what_depends_on_a_change_leads_on() -> None:
    def piece(declares: str, mentions: str = "", receivers: str = "") -> Unit:
        return Unit(frozenset(declares.split()), frozenset(receivers.split()), frozenset(mentions.split()))

    units = {
        "mark": piece("Mark"),
        "buoy": piece("Buoy", "Mark"),
        "fleet": piece("Fleet", "Buoy"),
        "methods": piece("", "", "Buoy"),
        "leg": piece("Leg", "Side"),
    }
    assert dependent(units, ["mark"]) == {"mark", "buoy", "fleet", "methods"}
    assert dependent(units, ["leg"]) == {"leg"}
    assert dependent(units, []) == frozenset()
