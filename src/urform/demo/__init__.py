"""The packaged declarations: the fairway marks of Port Varrow, and a short one to begin with."""

from __future__ import annotations

from pathlib import Path

NAME = "fairway.urform.yaml"
_HERE = Path(__file__).parent


def demo_text() -> str:
    """The demo declaration."""
    return (_HERE / NAME).read_text(encoding="utf-8")


def starter() -> str:
    """A short commented declaration that is valid as it stands."""
    return (_HERE / "starter.urform.yaml").read_text(encoding="utf-8")
