"""Yours: Urform wrote this file once and never touches it again."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from .mark import Buoy


def buoy_range_from(buoy: Buoy, eye_height: float) -> float:
    """From how far the mark is seen, in sea miles."""
    raise NotImplementedError("Buoy.range_from is not written yet")
