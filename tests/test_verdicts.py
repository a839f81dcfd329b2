"""What is made of trials: choosing faults, verdicts that are known, results of shards put together, reports."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from functools import cached_property
from io import StringIO
from pathlib import Path
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st
from rich.console import Console

from tests.conftest import STARTER, emitted, planned
from urform.cli.status import Challenging, duration, time_left
from urform.languages import Emission, Target, target
from urform.languages.target import File, Found, Held, Piece, Ran, Runner, Toolchain, Trial, Tried
from urform.languages.target import TestAddress as Address
from urform.languages.target import TestResult as Result
from urform.plan import claims_of, faults_of
from urform.plan.fault import Fault
from urform.plan.script import Claim
from urform.plan.whole import Plan
from urform.verification.challenge import UNCHANGED, UNSOUND, challenge
from urform.verification.choosing import Choice, UnknownClaimError, chosen, merged
from urform.verification.known import Known, key_of
from urform.verification.reports import challenge_from_json, challenge_json, challenge_junit
from urform.verification.verdicts import CAUGHT, ELSEWHERE, IMPOSSIBLE, NOT_RUN, SURVIVED, Challenge, Verdict

PLAN, CLAIMS = planned(STARTER)
FAULTS = tuple(faults_of(PLAN, CLAIMS))


# --- choosing ---------------------------------------------------------------------------------------------------


@given(st.integers(1, 9), st.integers(0, 99), st.one_of(st.none(), st.integers(1, 80)))
def test_shards_are_the_whole_and_share_nothing(shards: int, seed: int, sample: int | None) -> None:
    whole = chosen(FAULTS, Choice(sample=sample, seed=seed))
    parts = [
        chosen(FAULTS, Choice(sample=sample, seed=seed, shard=(n, shards))) for n in range(1, shards + 1)
    ]
    assert sorted(f.id for part in parts for f in part) == sorted(f.id for f in whole)
    assert len(whole) == (len(FAULTS) if sample is None else min(sample, len(FAULTS)))


def test_a_sample_is_drawn_by_its_seed() -> None:
    one, two, other = ([f.id for f in chosen(FAULTS, Choice(sample=10, seed=seed))] for seed in (1, 1, 2))
    assert one == two
    assert one != other
    order = [f.id for f in FAULTS]
    assert one == sorted(one, key=order.index), "in their own order"


def test_only_takes_a_claim_a_group_or_a_fault() -> None:
    claim = FAULTS[0].claim
    of_claim = chosen(FAULTS, Choice(only=(claim.id,)))
    assert {f.claim.id for f in of_claim} == {claim.id}
    assert {f.claim.group for f in chosen(FAULTS, Choice(only=("limit",)))} == {"limit"}
    assert chosen(FAULTS, Choice(only=(FAULTS[3].id,))) == (FAULTS[3],)
    with pytest.raises(UnknownClaimError, match="limit/Nobody"):
        chosen(FAULTS, Choice(only=("limit/Nobody.x:min",)))


# --- a target that says what it is told to ------------------------------------------------------------------------


class Scripted(Toolchain):
    """Fails the tests that a script names: by the number of a changed line, or of none."""

    trials_at_once = 7

    def __init__(
        self, missing: tuple[str, ...] = (), fail: Sequence[str] = (), unsound: Sequence[str] = ()
    ) -> None:
        self._missing = missing
        self._fail = fail
        self._unsound = unsound
        self.tried = 0
        self.sound: list[str] = []  # the claims that were tried without a fault

    def find(self, run: Runner) -> Found:
        return Found("scripted 1", self._missing)

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = 1) -> Ran:
        results = [Result(a.name, a.claim not in self._unsound) for a in emission.tests]
        return Ran(tuple(results))

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        for trial in trials:
            self.tried += 1
            if not trial.files:
                self.sound += [address.claim for address in trial.tests]
                yield Tried(trial.number, frozenset(self._unsound))
            elif any("does not compile" in text for text in trial.files.values()):
                yield Tried(trial.number, broke="it does not compile")
            else:
                yield Tried(
                    trial.number,
                    frozenset(a.name for a in trial.tests if a.name in (*self._fail, *self._unsound)),
                )

    def again(self, address: Address) -> str:
        return address.name


class Written(Target):
    """Writes the printed form of a plan: whatever changes the plan changes the code."""

    name = "written"
    capabilities = frozenset({"assign", "read words in its own code", "list words in its own code"})

    def __init__(self, toolchain: Scripted, *, deaf: Sequence[str] = (), held: Sequence[str] = ()) -> None:
        self._toolchain = toolchain
        self._deaf = deaf
        self._held = held

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        yield from self.code(plan)
        for claim in claims:
            if claim.id in self._held:
                yield Held(claim.id, "the language does")
            else:
                yield Address(claim.id, "tests.txt", claim.id)

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        said = "".join(f"{flaw.name} {flaw.member}\n" for flaw in plan.flaws if flaw.name not in self._deaf)
        whole = f"{said}{plan.products}{plan.makings}"
        return (File("code.txt", whole), File("other.txt", "the same for all"))

    @cached_property
    def toolchain(self) -> Toolchain:
        return self._toolchain


ALL = [claim.id for claim in CLAIMS]


def run(target: Target, faults: Sequence[Fault] = FAULTS, cache: Path | None = None) -> Challenge:
    return challenge(PLAN, CLAIMS, faults, [target], cache=cache)


def states(result: Challenge) -> set[str]:
    return {verdict.state for fault in result.faults for verdict in fault.verdicts.values()}


def test_a_fault_is_caught_by_its_own_test() -> None:
    result = run(Written(Scripted(fail=ALL)))
    assert states(result) == {CAUGHT}
    assert not result.weak


def test_a_fault_is_caught_elsewhere_or_survives() -> None:
    other = next(c.id for c in CLAIMS if c.id != FAULTS[0].claim.id)
    elsewhere = run(Written(Scripted(fail=[other])), FAULTS[:1])
    verdict = elsewhere.faults[0].verdicts["written"]
    assert (verdict.state, verdict.elsewhere) == (ELSEWHERE, (other,))
    survived = run(Written(Scripted()), FAULTS[:1])
    verdict = survived.faults[0].verdicts["written"]
    assert verdict.state == SURVIVED
    assert "\n+" in verdict.change, "the changed lines are told"
    assert survived.weak
    assert elsewhere.weak


def test_a_fault_that_changes_nothing_is_no_catch() -> None:
    deaf = [flaw.name for fault in FAULTS for flaw in fault.plan.flaws]
    result = run(Written(Scripted(fail=ALL), deaf=deaf))
    silent = [f for f in result.faults if f.verdicts["written"].reason == UNCHANGED]
    flawed = [f for f in FAULTS if f.plan.flaws and not f.needs - Written.capabilities]
    assert len(silent) == len(flawed) > 0
    assert {f.verdicts["written"].state for f in silent} == {NOT_RUN}


def test_a_test_that_fails_on_sound_code_catches_nothing() -> None:
    claim = FAULTS[0].claim.id
    result = run(Written(Scripted(fail=ALL, unsound=[claim])))
    of_claim = [f.verdicts["written"] for f in result.faults if f.claim == claim]
    assert {(v.state, v.reason) for v in of_claim} == {(NOT_RUN, UNSOUND)}


def test_a_test_that_fails_on_sound_code_is_no_catch_elsewhere() -> None:
    first, other = FAULTS[0], next(f.claim.id for f in FAULTS if f.claim.id != FAULTS[0].claim.id)
    result = run(Written(Scripted(unsound=[other])), faults=[first])
    assert result.faults[0].verdicts["written"].state == SURVIVED


def test_sound_code_is_tried_with_the_tests_that_are_needed() -> None:
    """All of them only where a fault survives its own, and none twice."""
    some = FAULTS[:3]
    own = {fault.claim.id for fault in some}
    caught = Scripted(fail=ALL)
    run(Written(caught), faults=some)
    assert (set(caught.sound), len(caught.sound)) == (own, len(own))
    survived = Scripted()
    run(Written(survived), faults=some)
    assert sorted(survived.sound) == sorted(ALL)


def test_what_the_language_holds_is_not_expressible() -> None:
    claim = FAULTS[0].claim.id
    result = run(Written(Scripted(fail=ALL), held=[claim]))
    of_claim = [f.verdicts["written"] for f in result.faults if f.claim == claim]
    assert {(v.state, v.reason) for v in of_claim} == {(IMPOSSIBLE, "the language does")}


def test_without_a_toolchain_nothing_is_run() -> None:
    result = run(Written(Scripted(missing=("a compiler",))))
    assert states(result) == {NOT_RUN}
    assert result.runs[0].missing == ("a compiler",)


def test_progress_is_told_to_the_end() -> None:
    told: list[tuple[str, int, int]] = []
    challenge(PLAN, CLAIMS, FAULTS, [Written(Scripted(fail=ALL))], progress=lambda *what: told.append(what))
    assert told[-1] == ("written", len(FAULTS), len(FAULTS))
    assert [done for _, done, _ in told] == sorted(done for _, done, _ in told)


# --- what is known ------------------------------------------------------------------------------------------------


def test_a_second_run_tries_nothing(tmp_path: Path) -> None:
    first = Scripted(fail=ALL)
    one = run(Written(first), cache=tmp_path)
    second = Scripted(fail=ALL)
    two = run(Written(second), cache=tmp_path)
    assert first.tried > 0
    assert second.tried == 0
    assert one.faults == two.faults
    assert two.runs[0].known == one.runs[0].tried


def test_other_code_is_tried_anew(tmp_path: Path) -> None:
    emission = emitted(STARTER, "python")
    changed = Emission((*emission.files, File("more.py", "")), emission.tests)
    assert key_of(target("python"), "1", emission) != key_of(target("python"), "1", changed)
    assert key_of(target("python"), "1", emission) != key_of(target("python"), "2", emission)
    assert key_of(target("python"), "1", emission) == key_of(target("python"), "1", emission)


def test_what_was_not_run_is_not_kept(tmp_path: Path) -> None:
    known = Known(tmp_path, "key")
    known.add({"a": Verdict(CAUGHT), "b": Verdict(NOT_RUN, "no compiler")})
    again = Known(tmp_path, "key")
    assert again.get("a") == Verdict(CAUGHT)
    assert again.get("b") is None


DAMAGED = ["", "{", "[]", '{"a": []}', '{"a": ["caught"]}', "\0"]


@pytest.mark.parametrize("text", DAMAGED)
def test_a_damaged_file_is_as_good_as_none(tmp_path: Path, text: str) -> None:
    (tmp_path / "key.json").write_text(text, encoding="utf-8")
    known = Known(tmp_path, "key")
    assert known.get("a") is None
    known.add({"a": Verdict(SURVIVED, change="-x\n+y")})
    assert Known(tmp_path, "key").get("a") == Verdict(SURVIVED, change="-x\n+y")
    assert list(tmp_path.glob("*.part")) == []


def test_old_files_go(tmp_path: Path) -> None:
    for number in range(60):
        Known(tmp_path, f"key{number}").add({"a": Verdict(CAUGHT)})
    assert len(list(tmp_path.glob("*.json"))) == 40


# --- reports ------------------------------------------------------------------------------------------------------


def mixed() -> Challenge:
    half = [claim.id for claim in CLAIMS[::2]]
    return run(Written(Scripted(fail=half), held=[CLAIMS[2].id]))


def test_json_says_everything_and_can_be_read_back() -> None:
    result = mixed()
    shape = json.loads(json.dumps(challenge_json(result)))
    assert next(iter(shape)) == "version"
    first = shape["faults"][0]
    assert set(first) >= {"id", "claim", "text", "verdicts"}
    back = challenge_from_json(shape)
    assert back.faults == result.faults
    assert [run.target for run in back.runs] == ["written"]


def shards_of(target: Written, count: int) -> list[Challenge]:
    numbers = [(n, count) for n in range(1, count + 1)]
    return [replace(run(target, chosen(FAULTS, Choice(shard=n))), shard=n) for n in numbers]


def test_shards_merge_into_the_whole() -> None:
    target = Written(Scripted(fail=ALL[::2]))
    whole = run(target)
    together = merged(list(reversed(shards_of(target, 3))))
    assert together.faults == whole.faults, "in their own order, however the shards came"
    assert together.runs[0].tried == whole.runs[0].tried
    assert together.shard == (1, 1)


@pytest.mark.parametrize(
    ("taken", "said"),
    [
        ((0, 1), "shard 3/3 is missing"),
        ((0, 1, 1, 2), "shard 2/3 comes more than once"),
        ((2,), "1/3 is missing"),
    ],
)
def test_shards_that_are_not_all_do_not_merge(taken: Sequence[int], said: str) -> None:
    parts = shards_of(Written(Scripted(fail=ALL[::2])), 3)
    with pytest.raises(ValueError, match=said):
        merged([parts[at] for at in taken])


def test_results_of_other_declarations_do_not_merge() -> None:
    result = mixed()
    other = Challenge("elsewhere", result.faults, result.runs)
    with pytest.raises(ValueError, match="different"):
        merged([result, other])


def test_junit_has_a_case_for_each_fault() -> None:
    result = mixed()
    suite = ElementTree.fromstring(challenge_junit(result)).find("testsuite")
    assert suite is not None
    assert len(suite.findall("testcase")) == len(FAULTS)
    weak = result.count("written", SURVIVED) + result.count("written", ELSEWHERE)
    assert suite.get("failures") == str(weak) == str(len(suite.findall("testcase/failure")))
    assert suite.get("errors") == str(len(suite.findall("testcase/error")))
    assert weak > 0


TIMES = [
    (10.0, 5, 0, 10, ", about 10 s left"),
    (10.0, 0, 0, 10, ""),
    (10.0, 8, 3, 10, ", about 4 s left"),  # three were known before
    (10.0, 10, 0, 10, ""),
]


@pytest.mark.parametrize(("seconds", "done", "known", "total", "said"), TIMES)
def test_time_left(seconds: float, done: int, known: int, total: int, said: str) -> None:
    assert time_left(seconds, done, known, total) == said


def test_the_default_of_a_toolchain_is_a_run_for_each_trial(tmp_path: Path) -> None:
    """A target from elsewhere is challenged without saying how."""

    class Plain(Scripted):
        try_all = Toolchain.try_all

        def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = 1) -> Ran:
            faulty = "broken" in (folder / "code.txt").read_text(encoding="utf-8")
            return Ran(tuple(Result(a.name, not faulty) for a in emission.tests))

    emission = Written(Plain()).emit(PLAN, claims_of(PLAN))
    folder = tmp_path / "project"
    folder.mkdir()
    (folder / "code.txt").write_text("sound", encoding="utf-8")
    trials = [
        Trial(0, {"code.txt": "broken"}, emission.tests[:2]),
        Trial(1, {"code.txt": "fine"}, emission.tests),
    ]
    tried = list(Plain().try_all(folder, emission, trials, lambda *_: None))  # type: ignore[arg-type]
    assert [t.failed for t in tried] == [frozenset(a.name for a in emission.tests[:2]), frozenset()]
    assert sorted(path.name for path in tmp_path.iterdir()) == ["project"]


def test_how_long_it_will_take_is_told_before_it_begins() -> None:
    """Once all targets know what they have to try, and only where it takes a while."""
    for faults, known, said in ((5000, 1000, "9000 faults to try in 2 targets: about "), (7, 7, "")):
        file = StringIO()
        console = Console(file=file, width=100)
        working = Challenging(console, [target("go"), target("python")], faults, shown=True)
        with working:
            working("go", known, faults)
            assert file.getvalue() == ""
            working("python", 0, faults)
            working("python", 3, faults)
        told = file.getvalue()
        assert told.startswith(said)
        assert told.count("to try in") == (1 if said else 0)


@pytest.mark.parametrize(
    ("seconds", "said"), [(41.4, "about 41 s"), (89, "about 89 s"), (400, "about 7 min")]
)
def test_a_duration_in_words(seconds: float, said: str) -> None:
    assert duration(seconds) == said
