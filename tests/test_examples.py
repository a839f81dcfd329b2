"""The walk-through of each target: it compiles, runs, and says the same things as in the other languages."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import Path

import pytest

from tests.conftest import DEMO, SOME_IDS, SOME_OF_TODAY, STARTER, emitted, planned
from tests.targets import Strictly
from urform.languages import known_targets, target
from urform.output.writing import write_project
from urform.plan.model import Family, Pool, Prototype
from urform.plan.variables import made_by, used_by
from urform.plan.walkthrough import Line, Print, PrintCounts, PrintSame, scenes


def test_every_way_of_making_has_its_scene(valid: Path) -> None:
    plan, _ = planned(valid)
    found = scenes(plan)
    assert len({scene.name for scene in found}) == len(found)
    shown = [making for making in plan.makings if not isinstance(making, (Pool, Prototype, Family))]
    assert len(found) >= len(shown)


def uses(line: Line) -> set[str]:
    match line:
        case Print(_, shown):
            return {shown}
        case PrintSame(left, right):
            return {left, right}
        case PrintCounts(pool):
            return {pool}
    return set(used_by(line))


def test_a_scene_uses_what_it_made(valid: Path) -> None:
    for scene in scenes(planned(valid)[0]):
        made: set[str] = set()
        for line in scene.lines:
            assert uses(line) <= made, (scene.name, line)
            made.update(() if isinstance(line, (Print, PrintSame, PrintCounts)) else made_by(line))


def ran(valid: Path, name: str, folder: Path) -> str:
    emission = emitted(valid, name)
    write_project(folder, [*emission.files, *target(name).example(planned(valid)[0])])
    done = target(name).toolchain.walk_through(folder, Strictly().run)
    assert done.status == 0, done.errors
    return done.output


@pytest.mark.toolchain
@pytest.mark.parametrize(("path", "name"), SOME_OF_TODAY, ids=SOME_IDS)
def test_it_runs(path: Path, name: str, tmp_path: Path, expected: Callable[[str, str], None]) -> None:
    """With a title for each scene; what it says of the demo is kept."""
    titles = [scene.title for scene in scenes(planned(path)[0])]
    said = ran(path, name, tmp_path)
    assert [line for line in said.splitlines() if not line.startswith("  ")][: len(titles)] == titles
    if path == DEMO:
        expected(f"walkthroughs/{name}.txt", said)


def test_all_languages_say_the_same() -> None:
    """Identity, equality, counts and refusals are told alike; only a product is printed in its language's way."""
    folder = Path(__file__).parent / "expected/walkthroughs"
    told = re.compile(r"^\S.*|^  (?:the same object|equal|made \d|refused).*", re.MULTILINE)
    by_target = {
        name: told.findall((folder / f"{name}.txt").read_text(encoding="utf-8").lower().replace("'", '"'))
        for name in known_targets()
    }
    first = by_target[known_targets()[0]]
    assert len(first) > 20
    assert all(lines == first for lines in by_target.values())


def test_a_target_writes_one_example(target_name: str) -> None:
    (file,) = target(target_name).example(planned(STARTER)[0])
    assert file.path not in {other.path for other in emitted(STARTER, target_name).files}
    assert "urform" in file.text.splitlines()[0].lower()
