"""The figures drawn: what sharing saves as products grow in number, and what each way of making takes."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from urform.measurement.figures import Measured, Measurement
from urform.plan.measuring import BUILDER, CLONE, CONSTRUCTOR, DEEP, FACTORY, POOL, SHALLOW

if TYPE_CHECKING:
    from matplotlib.axes import Axes

MIB = 1 << 20
COLOURS = ("#1b6ca8", "#c8553d", "#3a7d44", "#7d5ba6", "#b8860b", "#4a4e69")
WAYS = (FACTORY, BUILDER, POOL, CLONE, DEEP, SHALLOW)


def draw(measurement: Measurement, path: Path) -> None:
    """A picture, in the format that the ending of its name tells."""
    import matplotlib as mpl

    mpl.use("Agg")
    mpl.rcParams["svg.hashsalt"] = "urform"
    from matplotlib import pyplot

    targets = [each for each in measurement.targets if each.timings]
    pooled = list(dict.fromkeys(w.product for each in targets for w in each.weights if w.way == POOL))
    figure, axes = pyplot.subplots(
        1, len(pooled) + 1, figsize=(4.6 * len(pooled) + 6, 5.2), layout="constrained", squeeze=False
    )
    for axis, product in zip(axes[0], pooled, strict=False):
        _memory(axis, product, targets)
    _times(axes[0][-1], targets)
    figure.suptitle(f"{measurement.name}: what sharing saves, and what making takes", fontsize=12)
    figure.savefig(path, dpi=110, metadata={"Date": None} if path.suffix == ".svg" else None)
    pyplot.close(figure)


def _memory(axis: Axes, product: str, targets: list[Measured]) -> None:
    """A line for each target: solid without the pool, broken with it."""
    for colour, measured in zip(COLOURS, targets, strict=False):
        for way, style in ((CONSTRUCTOR, "-"), (POOL, "--")):
            weight = measured.weight(product, way)
            points = [(count, held / MIB) for count, held in weight.points if held > 0] if weight else []
            if points:
                label = measured.target if way == CONSTRUCTOR else None
                axis.plot(*zip(*points, strict=True), style, color=colour, marker=".", label=label)
    axis.set_xscale("log")
    axis.set_yscale("log")
    axis.set_title(f"{product}: without its pool (solid) and with it", fontsize=10)
    axis.set_xlabel("products")
    axis.set_ylabel("MiB")
    axis.grid(True, which="major", alpha=0.25)
    axis.legend(fontsize=8, frameon=False)


def _times(axis: Axes, targets: list[Measured]) -> None:
    """How many times as long as the constructor of the same product each other way takes."""
    timings = [timing for each in targets for timing in each.timings]
    products = list(dict.fromkeys(timing.product for timing in timings))
    every = {(timing.product, timing.way, timing.size) for timing in timings if timing.way in WAYS}
    rows = sorted(every, key=lambda row: (-products.index(row[0]), -WAYS.index(row[1]), -row[2]))
    for colour, measured in zip(COLOURS, targets, strict=False):
        points = []
        for at, (product, way, size) in enumerate(rows):
            found, made = measured.timing(product, way, size), measured.timing(product, CONSTRUCTOR)
            if found is not None and made is not None:
                points.append((found.median / made.median, at))
        if points:
            axis.plot(*zip(*points, strict=True), "o", color=colour, label=measured.target, alpha=0.8)
    axis.axvline(1, color="#888888", linewidth=1)
    axis.set_xscale("log")
    axis.set_yticks(range(len(rows)), [f"{p} {w}{f' {s}' if s else ''}" for p, w, s in rows], fontsize=7)
    axis.set_title("each way of making, beside the constructor", fontsize=10)
    axis.set_xlabel("times as long as the constructor")
    axis.grid(True, axis="x", which="major", alpha=0.25)
    axis.legend(fontsize=8, frameon=False)
