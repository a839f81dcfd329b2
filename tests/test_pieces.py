"""Support code in pieces: what a project has of it is what its code needs."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

from tests.conftest import emitted
from urform.languages.python.views import DIALECT
from urform.languages.rendering.pieces import kept, needed, pieces_of

SUPPORT = '''"""What stands before."""

import sys

LEAST = 1
MOST = sys.maxsize

T = TypeVar("T")


def within(value: int) -> int:
    """Within `outside` of words."""
    total = value

    return max(LEAST, total)


def outside(within: int) -> bool:
    return sorted([within], key=_order) == [within]


def _order(value: T) -> T:
    return value


if TYPE_CHECKING:
    kind = type
else:

    class kind(type):
        """Indented, and yet at the margin."""
'''


def test_pieces_are_what_stands_at_the_margin() -> None:
    pieces = pieces_of(SUPPORT, DIALECT)
    assert [sorted(piece.defines) for piece in pieces] == [
        *([], [], ["LEAST"], ["MOST"], ["T"], ["within"], ["outside"], ["_order"], ["kind"]),
    ]
    assert "".join(piece.before + piece.text for piece in pieces) + "\n" == SUPPORT


@pytest.mark.parametrize(
    ("named", "all_needed"),
    [
        ([], set()),
        (["elsewhere"], set()),
        (["within"], {"within", "LEAST"}),  # what a docstring names is not needed
        (["outside"], {"outside", "_order", "T"}),  # nor what a parameter is called
        (["kind", "MOST"], {"kind", "MOST"}),
    ],
)
def test_what_is_needed(named: list[str], all_needed: set[str]) -> None:
    assert needed(pieces_of(SUPPORT, DIALECT), named) == all_needed


def test_pieces_stand_apart_as_they_did() -> None:
    pieces = pieces_of(SUPPORT, DIALECT)
    assert kept(pieces, {"MOST", "_order"}) == (
        "MOST = sys.maxsize\n\n\ndef _order(value: T) -> T:\n    return value\n"
    )
    assert kept(pieces, {"LEAST", "MOST"}) == "LEAST = 1\nMOST = sys.maxsize\n"
    assert kept(pieces, frozenset()) == ""


def test_nothing_unused_is_in_a_python_package(valid: Path) -> None:
    files = {f.path: f.text for f in emitted(valid, "python").files if f.path.endswith(".py")}
    (path, checks) = next((path, text) for path, text in files.items() if path.endswith("/checks.py"))
    code = [text for other, text in files.items() if other != path and other.count("/") == path.count("/")]
    defined = {
        name
        for node in ast.parse(checks).body
        for name in ([node.name] if isinstance(node, (ast.FunctionDef, ast.ClassDef)) else _targets(node))
    }
    used = {
        node.id if isinstance(node, ast.Name) else node.attr
        for text in (checks, *code)
        for node in ast.walk(ast.parse(text))
        if isinstance(node, (ast.Name, ast.Attribute))
    }
    assert defined - used - {"V", "K"} == set()
    imported = {
        alias.asname or alias.name
        for node in ast.parse(checks).body
        if isinstance(node, (ast.Import, ast.ImportFrom))
        for alias in node.names
    }
    assert imported <= used


def _targets(node: ast.stmt) -> list[str]:
    targets = (
        node.targets
        if isinstance(node, ast.Assign)
        else [node.target]
        if isinstance(node, ast.AnnAssign)
        else []
    )
    return [target.id for target in targets if isinstance(target, ast.Name)]


def test_nothing_unused_is_in_a_typescript_package(valid: Path) -> None:
    files = {f.path: f.text for f in emitted(valid, "typescript").files if f.path.startswith("src/")}
    checks = files["src/check.ts"]
    defined = re.findall(r"^(?:export )?(?:class|function|const|interface) (\w+)", checks, re.MULTILINE)
    code = re.sub(r"//.*|/\*[\s\S]*?\*/", "", "".join(files.values()))
    times = {name: len(re.findall(rf"(?<![.\w]){name}\b", code)) for name in defined}
    assert [name for name, count in times.items() if count < 2] == []


def test_nothing_unused_is_in_a_go_package(valid: Path) -> None:
    files = {f.path: f.text for f in emitted(valid, "go").files if re.fullmatch(r"\w+\.go", f.path)}
    helpers = "".join(text for path, text in files.items() if path in ("values.go", "builders.go"))
    defined = re.findall(r"^(?:func|type) ([a-z]\w*)", helpers, re.MULTILINE)
    code = [text for path, text in files.items() if not path.endswith("_test.go")]
    bare = re.sub(r'//.*|"(?:\\.|[^"\\\n])*"', "", "".join(code))
    times = {name: len(re.findall(rf"(?<![.\w]){name}\b", bare)) for name in defined}
    assert [name for name, count in times.items() if count < 2] == []


def test_nothing_unused_is_in_a_java_package(valid: Path) -> None:
    files = {Path(f.path).stem: f.text for f in emitted(valid, "java").files if f.path.endswith(".java")}
    whole = "".join(files.values())
    for name in ("Check", "Copies"):
        defined = set(re.findall(r"^    (?:private )?static .*?(\w+)\(", files.get(name, ""), re.MULTILINE))
        own = files.get(name, "")
        for method in defined:
            inside = len(re.findall(rf"(?<![.\w]){method}\(|::{method}\b", own)) > 1
            assert inside or re.search(rf"\b{name}(?:\.|::){method}\b", whole), f"{name}.{method}"
