"""The figures for programs."""

from __future__ import annotations

from typing import Any

from urform.measurement.figures import Measurement
from urform.measurement.verdicts import verdicts

JSON_VERSION = 1


def as_json(measurement: Measurement) -> dict[str, Any]:
    """The shape of `measure --json`; docs/json.md describes it."""
    return {
        "version": JSON_VERSION,
        "name": measurement.name,
        "targets": [
            {
                "name": measured.target,
                "toolchain": measured.version,
                "missing": measured.missing,
                "broke": measured.broke,
                "timings": [
                    {
                        "product": timing.product,
                        "way": timing.way,
                        "size": timing.size,
                        "seconds": list(timing.seconds),
                        "median": timing.median,
                    }
                    for timing in measured.timings
                ],
                "weights": [
                    {
                        "product": weight.product,
                        "way": weight.way,
                        "contents": weight.contents,
                        "points": [list(point) for point in weight.points],
                        "each": weight.line.each if weight.line is not None else None,
                        "error": weight.line.error if weight.line is not None else None,
                        "fixed": weight.line.fixed if weight.line is not None else None,
                    }
                    for weight in measured.weights
                ],
                "verdicts": [
                    {
                        "product": verdict.product,
                        "pattern": verdict.pattern,
                        "state": verdict.state,
                        "text": "; ".join(part for part in (verdict.text, verdict.more) if part),
                    }
                    for verdict in verdicts(measured)
                ],
            }
            for measured in measurement.targets
        ],
    }
