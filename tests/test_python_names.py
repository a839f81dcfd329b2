"""Names in generated Python that linters and type checkers have a word in; which functions a test file imports."""

from __future__ import annotations

import pytest

from urform.declaration import read_string
from urform.languages.python.names import USED_TYPES
from urform.languages.python.project import IMPORTS, context_of
from urform.languages.python.proof import _is_meant
from urform.languages.python.views import identifiers
from urform.plan import build


@pytest.mark.parametrize(
    ("code", "meant"),
    [
        ("def test_a() -> None:\n    made = inner('ice')\n", True),
        ("def test_a() -> None:\n    inner = []\n    use(inner)\n", False),
        ("def test_a() -> None:\n    inner: list[Buoy] = []\n    use(inner)\n", False),
        (
            "def test_a() -> None:\n    inner: list[Buoy] = []\n\n\ndef test_b() -> None:\n    made = inner('ice')\n",
            True,
        ),
        ("def test_a() -> None:\n    made = outer('ice')\n", False),
    ],
)
def test_a_function_is_meant_where_no_variable_is_called_so(code: str, meant: bool) -> None:
    assert _is_meant("inner", code) is meant


@pytest.mark.parametrize(("refers", "type_"), [("{}", "Warning"), ("{optional: {of: Light}}", "Warning_")])
def test_a_class_called_like_a_built_in_one_gives_way_in_a_circle_only(refers: str, type_: str) -> None:
    """mypy takes what stands above a class in its module for the built-in one."""
    text = (
        f"urform: 1\nname: port\nproducts:\n  Light: {{optional: {{warns: Warning}}}}\n  Warning: {refers}\n"
    )
    reading = read_string(text, "port.urform.yaml")
    assert reading.declaration is not None, reading.problems
    assert context_of(build(reading.declaration)).names.type("Warning") == type_


@pytest.mark.parametrize(("name", "parameter"), [("cls", "cls_"), ("self", "self_"), ("side", "side")])
def test_no_parameter_is_called_like_the_first_one_of_methods(name: str, parameter: str) -> None:
    """The part of a key is the first parameter of a pool's maker, which is a static method."""
    text = f"urform: 1\nname: port\nproducts:\n  Light: {{required: {{{name}: text}}, flyweight: {{key: [{name}], hold: weak}}}}\n"
    reading = read_string(text, "port.urform.yaml")
    assert reading.declaration is not None, reading.problems
    assert context_of(build(reading.declaration)).names.parameter(name) == parameter


@pytest.mark.parametrize(
    "text", [r'"""a \""" b"""', r'"""a \\"""', '"a # b"', '\'a """ b\'', "# it's", r'"a \" b"']
)
def test_what_stands_in_texts_and_comments_is_no_name(text: str) -> None:
    assert identifiers(f"{text}\ncalled(given)\n") == {"called", "given"}


def test_no_type_is_called_like_what_modules_import() -> None:
    assert {name for name in IMPORTS if name[0].isupper()} <= USED_TYPES
