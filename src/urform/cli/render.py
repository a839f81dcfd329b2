"""How results look in a terminal. Text from a declaration is shown as text: no markup, no control characters."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from itertools import chain
from typing import TYPE_CHECKING

from rich.console import Console
from rich.segment import Segments
from rich.table import Table
from rich.text import Text

from urform.declaration import Reading
from urform.declaration.problems import Problem
from urform.verification.results import FAILED, HELD, NOT_RUN, NOT_SHOWN, PASSED, Outcome, Verification

if TYPE_CHECKING:
    from urform.output.writing import InTheWay
    from urform.plan.model import LeftOut

LONGEST_LINE = 110
ANY_WIDTH = 10_000

STYLES = {PASSED: "green", FAILED: "bold bright_red", HELD: "cyan", NOT_SHOWN: "yellow", NOT_RUN: "yellow"}
SIGNS = {PASSED: "", FAILED: "failed", HELD: "held", NOT_SHOWN: "not shown", NOT_RUN: "not run"}


def shown(text: str) -> str:
    """The text with what is not printable made visible as such."""
    return "".join(
        char if char.isprintable() else "\N{REPLACEMENT CHARACTER}" for char in text.replace("\t", "    ")
    )


def show_problems(console: Console, reading: Reading) -> None:
    """Problems, then advice, then a line that counts them."""
    for problem in (*reading.problems, *reading.advice):
        show_problem(console, reading, problem)
    problems, advice = len(reading.problems), len(reading.advice)
    if problems or advice:
        counts = [counted(problems, "problem")] if problems else []
        counts += [f"{advice} piece{'s' if advice > 1 else ''} of advice"] if advice else []
        console.print(
            Text(f"{', '.join(counts)} in {reading.file}", style="bold bright_red" if problems else "bold")
        )


def counted(number: int, noun: str) -> str:
    """`1 problem`, `2 problems`."""
    return f"{number} {noun}{'' if number == 1 else 's'}"


def show_problem(console: Console, reading: Reading, problem: Problem) -> None:
    """One problem: place and slug, what is wrong, the line with the token marked, the mend."""
    place = problem.place
    head = Text()
    head.append(f"{reading.file}:{place.line}:{place.column}", style="bold")
    head.append("  ")
    head.append(problem.slug, style="yellow" if problem.advice else "bright_red")
    if problem.advice:
        head.append("  advice", style="dim")
    console.print(head)
    console.print(Text(f"  {shown(problem.message)}"))
    lines = reading.document.lines
    if 0 < place.line <= len(lines) and lines[place.line - 1].strip():
        _show_source(console, lines[place.line - 1], place.line, place.column, place.width, problem.advice)
    console.print(Text("  mend: ", style="green").append(Text(shown(problem.mend), style="not bold default")))
    console.print()


def _show_source(console: Console, line: str, number: int, column: int, width: int, advice: bool) -> None:
    start = max(0, column - 1 - LONGEST_LINE // 2) if len(line) > LONGEST_LINE else 0
    part = line[start : start + LONGEST_LINE]
    before = shown(part[: column - 1 - start])
    token = shown(part[column - 1 - start : column - 1 - start + width]) or " "
    margin = f"  {number:>5} | "
    source = Text(margin, style="dim")
    source.append(Text(shown(part), style="not dim"))
    console.print(source)
    marks = Text(" " * (len(margin) - 2) + "| ", style="dim")
    pad = " " * Text(before).cell_len
    marks.append(
        Text(
            pad + "^" * max(Text(token).cell_len, 1), style=f"not dim {'yellow' if advice else 'bright_red'}"
        )
    )
    console.print(marks)


def show_left_out(console: Console, file: str, left_out: Iterable[LeftOut]) -> None:
    """The parts of a declaration that are not generated."""
    left = list(left_out)
    if not left:
        return
    console.print(Text("Left out, for this version does not generate it:", style="yellow"))
    for part in left:
        console.print(Text(f"  {file}:{part.line}:{part.column}  {part.part}"))


# --- verification ---------------------------------------------------------------------------------------


def show_verification(
    console: Console, result: Verification, *, every: bool = False, left_out: Iterable[LeftOut] = ()
) -> None:
    """Failures in full, a table of claims by target, what ran and what did not, and a verdict."""
    for claim, target, outcome in result.failures():
        _show_failure(console, claim.id, claim.text, target, outcome)
    _show_not_shown(console, result)
    if every:
        console.print(_every_claim(result))
        _show_reasons(console, result)
    else:
        print_fitting(console, partial(_by_group, result))
    _show_runs(console, result)
    left = ", ".join(part.part for part in left_out)
    if left:
        console.print(Text(f"left out, for this version does not generate it: {left}", style="yellow"))
    console.print(_verdict(result))


def _show_failure(console: Console, claim: str, text: str, target: str, outcome: Outcome) -> None:
    console.print(
        Text("failed ", style="bold bright_red").append(
            Text(f"{claim} in {target}", style="bold not red default")
        )
    )
    console.print(Text(f"  {shown(text)}"))
    console.print(Text("  expected: ", style="green").append(Text(shown(outcome.expected), style="default")))
    console.print(
        Text("  found:    ", style="bright_red").append(Text(shown(outcome.found), style="default"))
    )
    if outcome.place:
        console.print(Text(f"  {target}/{outcome.place}"))
    if outcome.again:
        console.print(Text(f"  again: {outcome.again}", style="dim"))
    console.print()


def _show_not_shown(console: Console, result: Verification) -> None:
    """Tests that say themselves that they could not show their claim, and why."""
    for claim in result.claims:
        for target, outcome in claim.outcomes.items():
            if outcome.state == NOT_SHOWN:
                console.print(
                    Text("not shown ", style=STYLES[NOT_SHOWN]).append(
                        Text(f"{claim.id} in {target}: {shown(outcome.reason)}", style="default")
                    )
                )


def _table(result: Verification, first: str) -> Table:
    table = Table(box=None, pad_edge=False, padding=(0, 3, 0, 0), header_style="bold")
    table.add_column(first)
    for target in result.targets:
        table.add_column(target, justify="left")
    return table


def print_fitting(console: Console, table: Callable[[str], Table]) -> None:
    """A table with the parts of each cell beside one another, or below where the console is too narrow for that.

    Where even that is too wide, lines run on: no cell is ever cut.
    """
    anywhere = console.options.update(max_width=ANY_WIDTH)
    beside = table(" · ")
    if console.measure(beside, options=anywhere).maximum <= console.width:
        console.print(beside)
    else:
        lines = console.render_lines(table("\n"), anywhere, pad=False, new_lines=True)
        console.print(Segments(chain.from_iterable(lines)), end="")


def _by_group(result: Verification, between: str) -> Table:
    table = _table(result, "claims")
    groups = list(dict.fromkeys(claim.group for claim in result.claims))
    for group in groups:
        states = {t: [c.outcomes[t].state for c in result.claims if c.group == group] for t in result.targets}
        table.add_row(group, *(_cell(states[target], between) for target in result.targets))
    whole = {t: [c.outcomes[t].state for c in result.claims] for t in result.targets}
    table.add_row(Text("all", style="bold"), *(_cell(whole[target], between) for target in result.targets))
    return table


def _cell(states: list[str], between: str) -> Text:
    """`12 passed · 3 held`, worst first."""
    parts = []
    for state in (FAILED, NOT_RUN, NOT_SHOWN, PASSED, HELD):
        number = states.count(state)
        if number:
            parts.append(Text(f"{number} {state}", style=STYLES[state]))
    return Text(between).join(parts)


def _every_claim(result: Verification) -> Table:
    table = _table(result, "claim")
    for claim in result.claims:
        cells = (claim.outcomes[target].state for target in result.targets)
        table.add_row(Text(claim.id), *(Text(state, style=STYLES[state]) for state in cells))
    return table


def _show_reasons(console: Console, result: Verification) -> None:
    reasons: dict[str, int] = {}
    for claim in result.claims:
        for target, outcome in claim.outcomes.items():
            if outcome.state == HELD:
                key = f"{target} holds it by itself: {outcome.reason}"
                reasons[key] = reasons.get(key, 0) + 1
    console.print()
    for reason, number in sorted(reasons.items()):
        console.print(Text(f"{number:>4}  {reason}", style="cyan"))


def _show_runs(console: Console, result: Verification) -> None:
    console.print()
    for run in result.runs:
        line = Text(f"{run.target}", style="bold")
        if run.missing:
            line.append(Text(f"  not run, missing: {', '.join(run.missing)}", style="not bold yellow"))
            console.print(line)
            for command in run.install:
                console.print(Text(f"  get it: {command}"))
            continue
        took = f"{run.seconds:.1f} s"
        took = f"known from a run of {took}" if run.known else took
        line.append(Text(f"  {run.version}, {run.files} files, {run.lines} lines, {took}", style="not bold"))
        console.print(line)
        if run.broke:
            console.print(
                Text(
                    "  broke: " + "\n  ".join(shown(part) for part in run.broke.splitlines()[:30]),
                    style="bright_red",
                )
            )
    for text in result.unsupported:
        console.print(Text(f"unsupported: {text}", style="yellow"))


def _verdict(result: Verification) -> Text:
    failures = sum(1 for _ in result.failures())
    seconds = f"in {result.seconds:.1f} s"
    if failures:
        return Text(f"{counted(failures, 'claim')} failed, {seconds}", style="bold bright_red")
    if any(run.broke for run in result.runs):
        return Text(f"A toolchain broke, {seconds}", style="bold bright_red")
    if result.untested:
        return Text(f"No claim failed, but not all were tested, {seconds}", style="bold yellow")
    return Text(
        f"All {len(result.claims)} claims hold in {counted(len(result.runs), 'target')}, {seconds}",
        style="bold green",
    )


def show_in_the_way(console: Console, error: InTheWay) -> None:
    """Each file that is in the way, and that nothing was written for it."""
    for line in str(error).split("\n"):
        console.print(Text(shown(line), style="red"))
    console.print(Text("nothing was written"))
