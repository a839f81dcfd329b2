"""What the tests share. Fixtures are found, not listed; expected output is renewed with `pytest --renew`."""

from __future__ import annotations

import gc
import os
import subprocess
import sys
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from tests import targets
from urform.declaration import read
from urform.demo import NAME as DEMO_NAME
from urform.languages import known_targets, target
from urform.languages.target import Emission
from urform.plan import build, claims_of
from urform.plan.script import Claim
from urform.plan.whole import Plan

HERE = Path(__file__).parent
ROOT = HERE.parent
DEMO = ROOT / "src/urform/demo" / DEMO_NAME
STARTER = ROOT / "src/urform/demo/starter.urform.yaml"
# What takes many minutes is tried in parts, another one each day, unless all is asked for.
TRY_ALL = os.environ.get("URFORM_TRY_ALL") == "1"
VALID = (*sorted((HERE / "fixtures/valid").glob("*.urform.yaml")), DEMO, STARTER)
EXPECTED = HERE / "expected"
BUILT_IN = targets.names()
# Bytecode is kept, whatever the machine says: compiled anew for each command, it takes half as long again.
ENVIRONMENT = {"PYTHONDONTWRITEBYTECODE": "", "NO_COLOR": "1", "COLUMNS": "200"}
# A slow machine is no defect: what is slow is measured where that is the question.
settings.register_profile("any machine", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("any machine")
gc.set_threshold(
    200_000, 50, 100
)  # plans and emissions are kept anyway: looking through them is a tenth of the time


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption(
        "--renew", action="store_true", help="write expected output instead of comparing with it"
    )
    parser.addoption(
        "--declarations",
        type=int,
        default=0,
        help="random declarations to draw for each target; 0: those that are kept",
    )
    parser.addoption("--mutations", type=int, default=300, help="mutated declarations to read")
    parser.addoption("--seed", type=int, default=1, help="draws other ones")


@pytest.fixture
def expected(request: pytest.FixtureRequest) -> Callable[[str, str], None]:
    """Compare a text with the file that holds it, or renew the file."""
    renew = request.config.getoption("--renew")

    def compare(name: str, text: str) -> None:
        path = EXPECTED / name
        if renew:
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")
        assert path.exists(), f"{path} is missing; look at the output and run pytest --renew"
        assert text == path.read_text(encoding="utf-8")

    return compare


@dataclass(frozen=True)
class Run:
    status: int
    out: str
    err: str


@pytest.fixture
def urform(tmp_path: Path) -> Callable[..., Run]:
    """The built command, run in a folder of its own."""

    def run(*arguments: object, folder: Path = tmp_path, environment: dict[str, str] | None = None) -> Run:
        done = subprocess.run(
            [str(Path(sys.executable).parent / "urform"), *map(str, arguments)],
            cwd=folder,
            capture_output=True,
            encoding="utf-8",
            env={**os.environ, **ENVIRONMENT, **(environment or {})},
            timeout=600,
            check=False,
        )
        return Run(done.returncode, done.stdout, done.stderr)

    return run


Urform = Callable[..., Run]


@pytest.fixture
def hiding(tmp_path: Path) -> Callable[[str], dict[str, str]]:
    """An environment in which Python does not find a package."""

    def environment(package: str) -> dict[str, str]:
        lines = (
            "import importlib.util as util",
            "find = util.find_spec",
            f"util.find_spec = lambda name, *more: None if name == {package!r} else find(name, *more)",
        )
        (tmp_path / "sitecustomize.py").write_text("\n".join(lines), encoding="utf-8")
        return {"PYTHONPATH": os.pathsep.join([str(tmp_path), os.environ.get("PYTHONPATH", "")])}

    return environment


@pytest.fixture
def starter(tmp_path: Path) -> Path:
    """The short declaration, in the folder where the command runs."""
    path = tmp_path / "harbour.urform.yaml"
    path.write_text(STARTER.read_text(encoding="utf-8"), encoding="utf-8")
    return path


_PLANS: dict[Path, tuple[Plan, tuple[Claim, ...]]] = {}


def planned(path: Path) -> tuple[Plan, tuple[Claim, ...]]:
    """The plan and claims of a valid declaration, made once."""
    if path not in _PLANS:
        reading = read(path)
        assert reading.declaration is not None, reading.problems
        plan = build(reading.declaration)
        _PLANS[path] = plan, claims_of(plan)
    return _PLANS[path]


_EMISSIONS: dict[tuple[Path, str], Emission] = {}


def part_of_today(parts: int) -> int:
    """From 0: another one each day, until all were tried."""
    return datetime.now(tz=UTC).date().toordinal() % parts


def is_of_today(number: int, days: int) -> bool:
    """Whether something is tried today: others each day, until all were."""
    return TRY_ALL or number % days == part_of_today(days)


# What the tools do file by file: all of the demo, of each other declaration in some of the targets, others each day, until
# all were tried.
DAYS = 8
SOME_OF_TODAY = [
    (path, name)
    for row, path in enumerate(VALID)
    for column, name in enumerate(BUILT_IN)
    if path == DEMO or is_of_today(row + column, DAYS)
]
SOME_IDS = [f"{path.name.partition('.')[0]}-{name}" for path, name in SOME_OF_TODAY]


def emitted(path: Path, name: str) -> Emission:
    """What a target makes of a valid declaration, made once."""
    key = path, name
    if key not in _EMISSIONS:
        _EMISSIONS[key] = target(name).emit(*planned(path))
    return _EMISSIONS[key]


@pytest.hookimpl(tryfirst=True)  # before the plugin that reads the marks
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What is made of a fixture is made once where one process has all of its tests.

    `--dist loadgroup` sees to that by the mark; `--dist worksteal` gives each process what stands together, so the tests of a
    fixture follow one another.
    """
    for item in items:
        if fixture := _fixture_of(item):
            item.add_marker(pytest.mark.xdist_group(fixture))
    items.sort(key=_fixture_of)


def _fixture_of(item: pytest.Item) -> str:
    """The name of the declaration that a test is about; nothing where it is about none, or makes its own."""
    call = getattr(item, "callspec", None)
    path = (call.params.get("valid") or call.params.get("path")) if call is not None else None
    return path.name if path in VALID else ""


def pytest_generate_tests(metafunc: pytest.Metafunc) -> None:
    """`valid` and `target_name` stand for every fixture and every registered target."""
    if "valid" in metafunc.fixturenames:
        metafunc.parametrize("valid", VALID, ids=[path.name.removesuffix(".urform.yaml") for path in VALID])
    if "target_name" in metafunc.fixturenames:
        metafunc.parametrize("target_name", known_targets())
