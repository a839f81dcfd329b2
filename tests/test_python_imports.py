"""Which exported functions a Python test file imports: those that some test calls, not those that its variables are called like."""

from __future__ import annotations

import pytest

from urform.languages.python.proof import _is_meant


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
