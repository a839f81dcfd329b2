"""Random declarations: valid ones through every stage and the real tools, and invalid ones, which are told.

`--declarations N` and `--seed S` draw more of them or others; `make fuzz` does.
"""

from __future__ import annotations

import ast
import copy
import random
from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import combinations
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.batches import complaints, plan_of, projects
from tests.conftest import BUILT_IN, TRY_ALL, part_of_today
from tests.data import Data, text_of
from tests.declarations import declaration
from tests.features import SITUATIONS, possible_pairs, situations, together, usable, used
from urform.declaration import read, read_string
from urform.languages import known_targets, target
from urform.languages.target import Target
from urform.output.folder import is_inside
from urform.plan import claims_of
from urform.plan.text import plan_text
from urform.plan.validate import validate

BATCH = 25  # projects that a compiler is paid once for
QUIET = settings(deadline=None, suppress_health_check=list(HealthCheck), database=None)


def drawn(count: int, number: int) -> list[Data]:
    """That many declarations, the same for the same number; no two use just the same features, as is often drawn."""
    found: dict[frozenset[tuple[str, int]], Data] = {}
    chance = random.Random(number)
    while len(found) < count:
        one = declaration(chance)
        used = Counter(feature for feature in features(one) if feature in FEATURES)
        found.setdefault(frozenset(used.items()), one)
    return list(found.values())


def telling(candidates: Sequence[Data], count: int) -> list[Data]:
    """Some that show much in few lines: by the features that stand beside each other, which count less each time.

    The power of the length was found by trying: twenty so chosen of 400 have 97 of 100 such pairs and 45 claims each.
    """
    pairs = [set(combinations(sorted(set(features(each)) & set(FEATURES)), 2)) for each in candidates]
    lengths = [len(text_of(each).splitlines()) for each in candidates]
    seen: Counter[tuple[str, str]] = Counter()
    left, chosen = set(range(len(candidates))), list[Data]()

    def worth(at: int) -> tuple[float, int]:
        return sum(1 / (1 + seen[pair]) ** 2 for pair in pairs[at]) / lengths[at] ** 1.5, -at

    while len(chosen) < count:
        best = max(left, key=worth)
        chosen.append(candidates[best])
        seen.update(pairs[best])
        left.remove(best)
    return chosen


# --- through every stage -------------------------------------------------------------------------------


@pytest.mark.slow
def test_drawn_declarations_are_planned_and_emitted(request: pytest.FixtureRequest) -> None:
    """Each target writes the same twice, below its folder, with a test or a reason for every claim."""
    count, number = request.config.getoption("--declarations"), request.config.getoption("--seed")
    for each in drawn(count, number) if count else kept(request)[::2]:
        plan = plan_of(text_of(each))
        claims = claims_of(plan)
        validate(plan, claims)
        assert plan_text(plan, claims)
        for name in known_targets():
            assert_emitted(target(name), plan, claims)


def assert_emitted(into: Target, plan: Any, claims: Any) -> None:
    emission = into.emit(plan, claims)
    assert into.emit(plan, claims) == emission
    assert {a.claim for a in emission.every_test} | set(emission.held) == {claim.id for claim in claims}
    paths = [file.path for file in (*emission.files, *into.example(plan))]
    assert all(map(is_inside, paths))
    assert len({path.lower() for path in paths}) == len(paths)


FEATURES = (
    "factory simple",
    "factory registry",
    "factory creators",
    "factory by_values",
    "builder",
    "prototype",
    "exemplars",
    "flyweight",
    "family",
    "stand_in",
    "refuse",
    "single",
    "mutable",
    "answers",
    "defaults",
    "each",
    "one_of",
    "copy deep",
    "copy shallow",
    "copy shared",
    "copy fresh",
    "presets",
    "item",
    "doc",
    "weak",
    "key",
    "type integer",
    "type real",
    "type text",
    "type boolean",
    "type list",
    "type set",
    "type map",
)


def features(data: Any) -> Iterator[str]:
    """The features that a declaration uses."""
    if isinstance(data, list):
        for each in data:
            yield from features(each)
    if not isinstance(data, dict):
        return
    for key, value in data.items():
        yield str(key)
        if key in ("copy", "form", "hold"):
            yield f"copy {value}" if key == "copy" else f"factory {value}" if key == "form" else str(value)
        if key == "families":
            yield "family"
        if key == "type" and isinstance(value, str):
            yield f"type {value.partition('<')[0]}"
        yield from features(value)


MANY = 20000  # declarations within which everything has to come up; most of it does in a hundred, all in some thousands


@pytest.mark.slow
def test_everything_that_there_is_in_the_format_is_drawn(request: pytest.FixtureRequest) -> None:
    """Every key, word and form, every kind of type in every place; every pair that can stand in one product."""
    chance = random.Random(request.config.getoption("--seed"))
    wanted = usable() | SITUATIONS | set(map(frozenset, possible_pairs()))
    for _ in range(MANY):
        one = declaration(chance)
        pairs = together(one)
        assert pairs <= possible_pairs(), "what APART says is not so"
        wanted -= used(one) | set(situations(one)) | pairs
        if not wanted:
            break
    assert wanted == set()


# --- with the real tools -------------------------------------------------------------------------------


KEPT = Path(__file__).parent / "fixtures/drawn.txt"  # what was drawn once, so that it is the same everywhere
KEPT_COUNT, KEPT_OF = 20, 400


def kept(request: pytest.FixtureRequest) -> list[Data]:
    """The declarations that are kept; renewed, they are drawn again."""
    if request.config.getoption("--renew"):
        found = telling(drawn(KEPT_OF, request.config.getoption("--seed")), KEPT_COUNT)
        KEPT.write_text("".join(f"{each!a}\n" for each in found), encoding="ascii")
    return [ast.literal_eval(line) for line in KEPT.read_text(encoding="ascii").splitlines()]


def pytest_generate_tests(metafunc: pytest.Metafunc) -> None:
    if "batch" in metafunc.fixturenames:
        count = metafunc.config.getoption("--declarations") or KEPT_COUNT
        metafunc.parametrize("batch", [(at, min(BATCH, count - at)) for at in range(0, count, BATCH)])


PARTS = 5  # of those that are kept, others each day


@pytest.mark.toolchain
def test_drawn_declarations_verify(
    batch: tuple[int, int], target_name: str, tmp_path: Path, request: pytest.FixtureRequest
) -> None:
    """Formatted, checked, compiled without warnings, and every claim passes."""
    first, count = batch
    new = request.config.getoption("--declarations") > 0
    found = drawn(count, request.config.getoption("--seed") + first) if new else kept(request)
    if not (new or TRY_ALL):
        found = found[(part_of_today(PARTS) + BUILT_IN.index(target_name)) % PARTS :: PARTS]
    batched = projects(found, target_name)
    said = complaints(target_name, batched, tmp_path / "batch")
    for project in batched:
        if any(project.name in complaint for complaint in said):
            (tmp_path / f"{project.name}.urform.yaml").write_text(project.text, encoding="utf-8")
    assert said == [], f"the declarations are in {tmp_path}; make fixtures of them"


# --- invalid ones --------------------------------------------------------------------------------------

NOISE = (
    "",
    "~",
    "{",
    "}",
    "[",
    "]",
    ":",
    "- ",
    "&a ",
    "*a",
    "!!x ",
    "|\n",
    "#",
    "\t",
    '"',
    "'",
    "?",
    "\0",
    "\ufeff",
    "%YAML",
)


class Mutated:
    """Changes something in a valid declaration, with a generator of random numbers of its own."""

    def __init__(self, chance: random.Random) -> None:
        self._chance = chance

    def text(self, declaration: Data) -> str:
        """A declaration whose data, and perhaps its text, was changed in one to three places."""
        for _ in range(self._chance.randint(1, 3)):
            self._data(declaration)
        text = text_of(declaration)
        return self._noisy(text) if self._chance.random() < 0.4 else text

    def _data(self, data: Data) -> None:
        holders = list(containers(data))
        holder = self._chance.choice(holders)
        other = self._chance.choice(holders)
        key = self._chance.choice(list(holder) if isinstance(holder, dict) else range(len(holder)))
        match self._chance.randint(0, 5):
            case 0:
                del holder[key]
            case 1 if isinstance(holder, dict):
                holder[str(key) + self._chance.choice("sx_A ")] = holder.pop(key)
            case 2 if not within(other, holder):
                holder[key] = other
            case 3:
                holder[key] = self._chance.choice(
                    [None, True, -1, 1e400, 10**30, 0.5, "", "text", [], {}, [[1]], {"a": {}}]
                )
            case 4 if isinstance(holder, dict):
                holder[self._chance.choice(["type", "min", "use", "when", "copy", "key", "variants"])] = (
                    holder[key]
                )
            case _:
                holder[key] = self._chance.choice(
                    ["Mark", "list<", "map<text>", "deep", "a < ", "no such thing", "\0"]
                )

    def _noisy(self, text: str) -> str:
        at = self._chance.randrange(len(text))
        length = self._chance.choice([0, 1, 5, 60])
        return text[:at] + self._chance.choice(NOISE) + text[at + length :]


def containers(data: Any) -> Iterator[Any]:
    """Every mapping and list of some data that has something in it."""
    if isinstance(data, (dict, list)) and data:
        yield data
        for value in data.values() if isinstance(data, dict) else data:
            yield from containers(value)


def within(outer: Any, inner: Any) -> bool:
    return any(found is inner for found in containers(outer))


def test_mutated_declarations_are_read_or_told(request: pytest.FixtureRequest) -> None:
    """Every problem has a place in the file; nothing else ever comes of a file."""
    count, number = request.config.getoption("--mutations"), request.config.getoption("--seed")
    valid = drawn(count // 50, number) if request.config.getoption("--declarations") else kept(request)
    chance = random.Random(number)
    read = 0
    for at in range(count):
        text = Mutated(chance).text(copy.deepcopy(valid[at % len(valid)]))
        reading = read_string(text, "mutated.urform.yaml")
        if reading.declaration is not None:
            read += 1
            continue
        assert reading.problems, text
        lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
        for problem in reading.problems:
            assert 1 <= problem.place.line <= len(lines), (problem, text)
            assert 1 <= problem.place.column <= len(lines[problem.place.line - 1]) + 1, (problem, text)
    assert 0 < read < count / 2, "most are invalid, some are not"


@settings(QUIET, max_examples=200)
@given(st.one_of(st.text(max_size=200), st.binary(max_size=200)))
def test_any_file_is_read_or_told(tmp_path_factory: pytest.TempPathFactory, content: str | bytes) -> None:
    path = tmp_path_factory.getbasetemp() / "any.urform.yaml"
    path.write_bytes(content if isinstance(content, bytes) else content.encode("utf-8", "surrogatepass"))
    reading = read(path)
    assert reading.declaration is not None or reading.problems
