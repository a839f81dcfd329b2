"""`urform measure`."""

from __future__ import annotations

import json
import time
from collections.abc import Sequence
from importlib.util import find_spec
from pathlib import Path

from rich.text import Text

from urform.cli.common import OK, TOOLCHAIN, StatusLine, err, out, valid_declaration, wrong_usage
from urform.cli.render import counted, shown
from urform.declaration.problems import did_you_mean
from urform.languages.target import Target
from urform.measurement.figures import Measured, Measurement
from urform.measurement.measure import asked_of, measure
from urform.measurement.reports import as_json
from urform.measurement.verdicts import COSTS, PAYS, SAVES, UNSURE, Verdict, verdicts
from urform.plan import build
from urform.plan.measuring import samples
from urform.prose import listing
from urform.verification.processes import Processes

NEEDED = ("numpy", "scipy", "matplotlib")
PICTURES = (".png", ".svg")
NOTHING = (
    "nothing to measure: no product has a factory, a builder, a prototype or a pool beside its constructor"
)
STYLES = {PAYS: "green", SAVES: "yellow", COSTS: "bold bright_red", UNSURE: "yellow"}


def run_measure(
    file: Path,
    targets: Sequence[Target],
    *,
    only: Sequence[str],
    seconds: float,
    most: int,
    into: Path | None,
    to_json: bool,
    quiet: bool,
) -> int:
    """Measure; returns the exit status."""
    missing = [name for name in NEEDED if find_spec(name) is None]
    if missing:
        err.print(f"urform measure needs {listing(missing)}: pip install 'urform[measure]'", markup=False)
        return TOOLCHAIN
    if into is not None and into.suffix not in PICTURES:
        raise wrong_usage(f"{shown(str(into))}: a picture ends in {listing(PICTURES)}")
    plan = build(valid_declaration(file))
    names = [part for each in only for part in each.split(",") if part]
    known = list(dict.fromkeys(sample.product for sample in samples(plan)))
    if not known:
        err.print(Text(f"{shown(str(file))}: {NOTHING}"))
        if to_json:
            print(json.dumps(as_json(Measurement(plan.name, ())), indent=2))
        return OK
    for name in names:
        if name not in known:
            raise wrong_usage(
                f"nothing of '{shown(name)}' is measured.{did_you_mean(name, known)} Known: {listing(known)}"
            )
    asked = asked_of(plan, names, seconds, most)
    with _Progress(len(targets)) as progress:
        measurement = measure(asked, targets, Processes(), progress)
    if into is not None:
        from urform.measurement.plots import draw

        draw(measurement, into)
    if to_json:
        print(json.dumps(as_json(measurement), indent=2))
    else:
        _show(measurement, quiet=quiet)
        if into is not None and not quiet:
            out.print(Text(f"wrote {shown(str(into))}"))
    return TOOLCHAIN if any(each.broke or each.missing for each in measurement.targets) else OK


class _Progress(StatusLine):
    """What is done now, in which target, and after how many seconds."""

    def __init__(self, targets: int) -> None:
        super().__init__()
        self._targets = targets
        self._begun: list[str] = []

    def __call__(self, target: str, doing: str, done: int, whole: int) -> None:
        if target not in self._begun:
            self._begun.append(target)
        taken = time.monotonic() - self.started
        ended = len(self._begun) - 1
        left = f", about {taken / ended * (self._targets - ended):.0f} s to go" if ended else ""
        of = f" {done + 1} of {whole}" if whole > 1 else ""
        self.say(
            f"{target} {doing}{of}; {ended} of {counted(self._targets, 'target')} done after {taken:.0f} s{left}"
        )


def _show(measurement: Measurement, *, quiet: bool) -> None:
    """A table of what is said of each pattern, target by target; then what was not measured."""
    rows: dict[tuple[str, str], list[tuple[str, Verdict]]] = {}
    for measured in measurement.targets:
        for verdict in verdicts(measured):
            rows.setdefault((verdict.product, verdict.pattern), []).append((measured.target, verdict))
    for (product, pattern), found in rows.items():
        wanted = [each for each in found if not quiet or each[1].state == COSTS]
        if not wanted:
            continue
        out.print(Text(f"{product}, {pattern}", style="bold"))
        width = max(len(target) for target, _ in wanted)
        for target, verdict in wanted:
            line = Text(f"  {target:<{width}}  ")
            if verdict.state in STYLES:
                line.append(verdict.state, style=STYLES[verdict.state]).append("  ")
            out.print(line.append(shown(verdict.text)))
            if verdict.more:
                out.print(Text(f"  {'':<{width}}  {shown(verdict.more)}", style="dim"))
    for measured in measurement.targets:
        _show_missing(measured)


def _show_missing(measured: Measured) -> None:
    if measured.missing:
        err.print(
            Text(f"{measured.target}: not measured, for it lacks {shown(measured.missing)}", style="yellow")
        )
    if measured.broke:
        err.print(Text(f"{measured.target}: the program that measures broke", style="red"))
        err.print(Text("\n".join(f"  {shown(line)}" for line in measured.broke.splitlines()[:20])))
