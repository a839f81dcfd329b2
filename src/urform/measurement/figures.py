"""What was measured, as plain data, and the growth that is fitted to it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import field
from statistics import median, quantiles

from urform.dataclasses import dataclass

CONFIDENCE = 0.95


@dataclass(frozen=True, slots=True)
class Timing:
    """Seconds that making one took, batch by batch."""

    product: str
    way: str
    size: int  # elements of what is cloned; 0 where nothing is counted
    seconds: tuple[float, ...]

    @property
    def median(self) -> float:
        return median(self.seconds)

    @property
    def spread(self) -> tuple[float, float]:
        """The quartiles."""
        low, _, high = quantiles(self.seconds, n=4)
        return low, high


@dataclass(frozen=True, slots=True)
class Line:
    """A straight line through points: what is there at 0, what each one adds, and half the interval of confidence of that."""

    fixed: float
    each: float
    error: float


@dataclass(frozen=True, slots=True)
class Weight:
    """Bytes that so many products take, with what holds them."""

    product: str
    way: str
    contents: int  # different ones among them
    points: tuple[tuple[int, int], ...]  # count and bytes
    line: Line | None = None


@dataclass(frozen=True, slots=True)
class Measured:
    """What a target's program told; with `broke` it did not come to an end, with `missing` it was not there."""

    target: str
    version: str = ""
    timings: tuple[Timing, ...] = ()
    weights: tuple[Weight, ...] = ()
    broke: str = ""
    missing: str = ""

    def timing(self, product: str, way: str, size: int = 0) -> Timing | None:
        """That of one way, if it was measured."""
        return next((t for t in self.timings if (t.product, t.way, t.size) == (product, way, size)), None)

    def weight(self, product: str, way: str) -> Weight | None:
        """That of one way, if it was measured."""
        return next((w for w in self.weights if (w.product, w.way) == (product, way)), None)


@dataclass(frozen=True, slots=True)
class Measurement:
    """All of it."""

    name: str
    targets: tuple[Measured, ...] = field(default=())


def fitted(points: Sequence[tuple[int, int]]) -> Line | None:
    """The line of least squares, weighted so that each point counts alike, however large it is; None of fewer than three.

    The interval is that of the slope at a confidence of 95 %, by Student's t with two degrees of freedom less than points.
    """
    if len(points) < 3:
        return None
    import numpy as np
    from scipy import stats

    counts = np.array([count for count, _ in points], dtype=float)
    held = np.array([bytes_ for _, bytes_ in points], dtype=float)
    design = np.column_stack([1 / counts, np.ones_like(counts)])  # divided by the count: bytes for each
    solution, *_ = np.linalg.lstsq(design, held / counts, rcond=None)
    freedom = len(points) - 2
    left = held / counts - design @ solution
    variance = float(left @ left) / freedom * np.linalg.inv(design.T @ design)[1, 1]
    error = float(stats.t.ppf((1 + CONFIDENCE) / 2, freedom)) * float(np.sqrt(max(variance, 0.0)))
    return Line(float(solution[0]), float(solution[1]), error)
