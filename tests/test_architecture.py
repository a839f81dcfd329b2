"""The import rules: data flows one way, and what is not `cli/` knows nothing of terminals."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, ROOT

SOURCE = ROOT / "src/urform"
STAGES = (
    "declaration",
    "editing",
    "plan",
    "languages",
    "comparison",
    "output",
    "diagram",
    "verification",
    "measurement",
)
MODULES = sorted(path for path in SOURCE.rglob("*.py") if "support" not in path.parts)


@cache
def nodes_of(path: Path) -> tuple[ast.AST, ...]:
    """Every node of a module; it is parsed once."""
    return tuple(ast.walk(ast.parse(path.read_text(encoding="utf-8"))))


def imported(path: Path) -> Iterator[str]:
    for node in nodes_of(path):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


def is_of_a_target(path: Path) -> bool:
    return path.relative_to(SOURCE).parts[:2] in [("languages", name) for name in BUILT_IN]


def stage_of(module: str) -> str:
    return module.split(".")[1] if module.count(".") else ""


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_a_module_knows_earlier_stages_only(path: Path) -> None:
    own = path.relative_to(SOURCE).parts[0]
    names = [name for name in imported(path) if name == "urform" or name.startswith("urform.")]
    if own in STAGES:
        allowed = ("prose", "dataclasses", *STAGES[: STAGES.index(own) + 1])
        assert [name for name in names if stage_of(name) not in allowed] == []
    if own != "cli":
        assert [name for name in imported(path) if name.split(".")[0] in ("typer", "rich", "click")] == []


HOW_IT_WAS_WRITTEN = {
    f"urform.declaration.{name}" for name in ("document", "problems", "value_reader", "reader")
}


@pytest.mark.parametrize(
    "path",
    [path for path in MODULES if path.relative_to(SOURCE).parts[0] == "plan"],
    ids=lambda path: path.stem,
)
def test_a_plan_does_not_know_how_its_declaration_was_written(path: Path) -> None:
    """It takes typed values; nodes and problems are the declaration's."""
    assert HOW_IT_WAS_WRITTEN.isdisjoint(imported(path))


def name_of(path: Path) -> str:
    return ".".join(path.relative_to(SOURCE.parent).with_suffix("").parts).removesuffix(".__init__")


def imported_modules(path: Path, known: set[str]) -> set[str]:
    """Those of Urform that a module imports, in functions and for types too."""
    found = set()
    for node in nodes_of(path):
        if isinstance(node, ast.ImportFrom) and node.module:
            inner = {f"{node.module}.{alias.name}" for alias in node.names} & known
            found |= inner or {node.module}
    return (found & known) - {name_of(path)}


def test_no_module_leads_back_to_itself() -> None:
    known = {name_of(path) for path in MODULES}
    left = {name_of(path): imported_modules(path, known) for path in MODULES}
    while ends := {name for name, others in left.items() if not others & left.keys()}:
        left = {name: others for name, others in left.items() if name not in ends}
    while starts := left.keys() - set().union(*left.values()):
        left = {name: others for name, others in left.items() if name not in starts}
    assert left == {}, "these are on a circle, or between two"


# Where functions import modules, so that a command starts without what it does not need. Why, by module or its folder.
LATE = {
    "__init__.py": "the package is imported for its version too",
    "cli": "each command imports what it does; the version is told without any of it",
    "declaration/__init__.py": "targets need the model of a declaration, and not what reads one",
    "languages/rendering/templates.py": "Jinja, and what builds on it, is imported once a template is rendered",
    "plan/__init__.py": "a command that only reads a declaration makes no plan",
    **{
        f"languages/{name}/__init__.py": "a target is listed without what writes its files"
        for name in BUILT_IN
    },
}
SLOW = {
    "jinja2",
    "matplotlib",
    "numpy",
    "platformdirs",
    "scipy",
    "wcwidth",
    "yaml",
}  # packages that take long to import, and are not always needed, or there


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_functions_import_nothing_that_could_be_imported_above(path: Path) -> None:
    own = path.relative_to(SOURCE)
    if own.as_posix() in LATE or own.parts[0] in LATE:
        return
    functions = [node for node in nodes_of(path) if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef))]
    inner = {node for function in functions for node in ast.walk(function)}
    names = {alias.name for node in inner if isinstance(node, ast.Import) for alias in node.names}
    names |= {node.module or "" for node in inner if isinstance(node, ast.ImportFrom)}
    assert names <= SLOW


def test_every_reason_to_import_late_is_needed() -> None:
    for place in LATE:
        paths = [path for path in MODULES if path.relative_to(SOURCE).as_posix().startswith(place)]
        functions = [n for path in paths for n in nodes_of(path) if isinstance(n, ast.FunctionDef)]
        inner = (node for function in functions for node in ast.walk(function))
        assert any(isinstance(node, (ast.Import, ast.ImportFrom)) for node in inner), place


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_the_core_prints_nothing_and_does_not_exit(path: Path) -> None:
    if path.relative_to(SOURCE).parts[0] not in STAGES:
        return
    for node in nodes_of(path):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
            assert node.func.id not in ("print", "exit", "quit")


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_shared_code_knows_no_target(path: Path) -> None:
    """A target is known in its own folder only: not its name, not its modules."""
    parts = path.relative_to(SOURCE).parts
    if parts[0] not in STAGES or is_of_a_target(path):
        return
    for node in nodes_of(path):
        assert not (isinstance(node, ast.Constant) and node.value in BUILT_IN), f"{path} names a target"
    assert [
        name
        for name in imported(path)
        if name.startswith("urform.languages.") and name.split(".")[2] in BUILT_IN
    ] == []


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_a_target_does_not_import_another(path: Path) -> None:
    parts = path.relative_to(SOURCE).parts
    if not is_of_a_target(path):
        return
    others = [name for name in BUILT_IN if name != parts[1]]
    assert [
        name for name in imported(path) for other in others if name.startswith(f"urform.languages.{other}")
    ] == []


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_every_module_and_public_definition_is_documented(path: Path) -> None:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    assert ast.get_docstring(tree), path
    for node in tree.body:
        if not isinstance(node, (ast.FunctionDef, ast.ClassDef)) or node.name.startswith("_"):
            continue
        if isinstance(node, ast.FunctionDef) or len(node.body) > 6:
            assert ast.get_docstring(node), f"{path}: {node.name}"
