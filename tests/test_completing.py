"""What a shell completes."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import Urform


@pytest.mark.parametrize(
    ("typed", "completed"),
    [
        (("verify", "-t", "py"), {"python"}),
        (("verify", "-t", "go,ty"), {"go,typescript"}),
        (("explain", "min_"), {"min_length"}),
        (
            ("challenge", "--only", "limit/Mark.station:m"),
            {"limit/Mark.station:min", "limit/Mark.station:max"},
        ),
        (
            ("challenge", "harbour.urform.yaml", "--only", "kin"),
            {"kind", "kind/Mark.buoy", "kind/Mark.beacon"},
        ),
        (("challenge", "nowhere.urform.yaml", "--only", "kin"), set()),
    ],
)
def test_what_a_shell_completes(
    urform: Urform, starter: Path, typed: tuple[str, ...], completed: set[str]
) -> None:
    words = " ".join(("urform", *typed))
    asked = {"_URFORM_COMPLETE": "complete_bash", "COMP_WORDS": words, "COMP_CWORD": str(len(typed))}
    assert set(urform(environment=asked).out.split()) == completed
