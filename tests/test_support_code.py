"""The support code of each target, and clients that do with the demo what its users do: both written by hand."""

from __future__ import annotations

import importlib
import pickle
import re
import shutil
import sys
from collections.abc import Iterator
from contextlib import AbstractContextManager
from pathlib import Path
from types import ModuleType

import pytest

from tests.conftest import BUILT_IN, DEMO, ROOT, STARTER, VALID, emitted, planned
from tests.targets import HERE, ByHand, said, tools
from tests.targets.python import MYPY
from urform.languages import target
from urform.languages.target import Emission, File
from urform.output.writing import write_project
from urform.verification.processes import Processes


def support_of(target_name: str, path: str) -> str:
    """A whole file of support code; projects have what they need of it."""
    folder = ROOT / "src/urform/languages" / target_name / "support"
    return (folder / Path(path).name).read_text(encoding="utf-8")


_NAMED = re.compile("PACKAGE|NAMESPACE|FOLDER")


@pytest.fixture(scope="module")
def package(tmp_path_factory: pytest.TempPathFactory) -> Iterator[ModuleType]:
    folder = tmp_path_factory.mktemp("support")
    write_project(folder, emitted(STARTER, "python").files)
    (folder / "harbour/checks.py").write_text(support_of("python", "checks.py"), encoding="utf-8")
    sys.path.insert(0, str(folder))
    try:
        yield importlib.import_module("harbour")
    finally:
        sys.path.remove(str(folder))
        for name in [name for name in sys.modules if name == "harbour" or name.startswith("harbour.")]:
            del sys.modules[name]


def test_python_errors_tell_and_can_be_pickled(package: ModuleType) -> None:
    errors = package.errors
    for error, text in (
        (errors.MissingFieldsError("Buoy", ["a", "b"]), "Buoy: missing a, b"),
        (errors.LimitError("Mark", "station", "min", 1), "Mark.station: at least 1 is allowed"),
        (errors.LimitError("Mark", "station", "min", 1, 0), "Mark.station is 0; at least 1 is allowed"),
        (
            errors.LimitError("Mark", "crew", "type", None, {}, "a text"),
            "Mark.crew is of type dict; a text is wanted",
        ),
        (errors.LimitError("Leg", "label", "shout", 3, "a"), 'Leg.label is "a"; 3 is its shout'),
        (errors.UnknownKeyError("Mark", "a", ["x", "y"]), "Mark: unknown key 'a', known: x, y"),
        (errors.DuplicateKeyError("Mark", "x"), "Mark: key 'x' is taken"),
        (errors.RefusedError("TideOffset", "too low"), "TideOffset: refused, too low"),
    ):
        assert str(error) == text
        again = pickle.loads(pickle.dumps(error))
        assert (type(again), str(again), again.owner) == (type(error), text, error.owner)


def test_python_checks(package: ModuleType) -> None:
    checks = importlib.import_module("harbour.checks")
    limit = package.errors.LimitError

    def breaks(name: str) -> AbstractContextManager[object]:
        return pytest.raises(limit, check=lambda error: error.limit == name)

    for misfit in (True, "1", 1.5, None):
        with breaks("type"):
            checks.integer("X", "f", misfit)
    for strange in (float("nan"), float("inf"), 10**400):
        with breaks("finite"):
            checks.real("X", "f", strange)
    assert repr(checks.real("X", "f", -0.0)) == "0.0"
    assert isinstance(checks.real("X", "f", 3), float)
    with breaks("each.min"):
        checks.listed("X", "f", [1, -1], lambda each: checks.integer("X", "f", each, within="each.", min=0))
    with pytest.raises(package.errors.MissingFieldsError):
        checks.listed("X", "f", ["a", None])
    for blank in ("", " \t\n\v\f\r"):
        with breaks("not_blank"):
            checks.text("X", "f", blank, not_blank=True)
    for shown in ("\u00a0", "\u0085", "\u2028", "\x1c"):
        assert checks.text("X", "f", shown, not_blank=True) == shown
    with breaks("type"):
        checks.listed("X", "f", "text")


def test_python_frozen_map(package: ModuleType) -> None:
    checks = importlib.import_module("harbour.checks")
    given = {"b": 1, "a": 2}
    held = checks.FrozenMap(given)
    given.clear()
    assert (list(held), held == {"a": 2, "b": 1}, len(held), repr(held)) == (
        ["a", "b"],
        True,
        2,
        "{'a': 2, 'b': 1}",
    )
    assert hash(held) == hash(checks.FrozenMap({"a": 2, "b": 1}))
    with pytest.raises(TypeError):
        held["c"] = 3


DECLARED = {path.name.removesuffix(".urform.yaml"): path for path in VALID}
BY_HAND = [(name, by_hand) for name in BUILT_IN for by_hand in tools(name).by_hand]


@pytest.mark.toolchain
@pytest.mark.parametrize(("name", "by_hand"), BY_HAND, ids=[f"{n}-{b.source.stem}" for n, b in BY_HAND])
def test_what_is_written_by_hand_passes(name: str, by_hand: ByHand, tmp_path: Path) -> None:
    """Without the generated tests, which have been run elsewhere: compiling them takes longer than all else."""
    emission = target(name).emit(planned(DECLARED[by_hand.of])[0], ())
    text = by_hand.source.read_text(encoding="utf-8").replace("PACKAGE", by_hand.package)
    files = [file for file in emission.files if file.path not in by_hand.support]
    for path in by_hand.support:
        text_of_support = support_of(name, path).replace("EXPORTED ", "")
        files.append(File(path, _NAMED.sub(by_hand.package, text_of_support)))
    whole = Emission((*files, File(by_hand.path, text)))
    assert len(by_hand.tests) > 1
    _passes(name, whole, tmp_path, *by_hand.tests)


@pytest.mark.toolchain
def test_python_kinds_and_words_are_told_apart_under_mypy(tmp_path: Path) -> None:
    """`--strict` also complains of an ignored line that has no error."""
    write_project(tmp_path, emitted(DEMO, "python").files)
    shutil.copy(HERE / "clients/typed/told_apart.py", tmp_path)
    assert said(MYPY, "--strict", "--no-error-summary", "told_apart.py", folder=tmp_path) == ""


@pytest.mark.toolchain
def test_python_keys_are_tied_to_the_fields_of_their_kinds_under_mypy(tmp_path: Path) -> None:
    write_project(tmp_path, emitted(DECLARED["own"], "python").files)
    shutil.copy(HERE / "clients/typed/own_keys.py", tmp_path)
    assert said(MYPY, "--strict", "--no-error-summary", "own_keys.py", folder=tmp_path) == ""


@pytest.mark.toolchain
def test_python_builders_are_followed_under_mypy(tmp_path: Path) -> None:
    write_project(tmp_path, emitted(DECLARED["early"], "python").files)
    shutil.copy(HERE / "clients/typed/early_builders.py", tmp_path)
    assert said(MYPY, "--strict", "--no-error-summary", "early_builders.py", folder=tmp_path) == ""


def _passes(name: str, emission: Emission, folder: Path, *tests: str) -> None:
    write_project(folder, emission.files)
    ran = target(name).toolchain.test(folder, emission, Processes().run)
    assert ran.broke == ""
    assert [result for result in ran.results if not result.passed] == []
    assert set(tests) <= {result.name for result in ran.results}
    shutil.rmtree(folder)
