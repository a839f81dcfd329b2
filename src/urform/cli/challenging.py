"""`urform challenge`."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

from rich.console import Console
from rich.table import Table
from rich.text import Text

from urform.cli.common import FINDING, OK, TOOLCHAIN, err, out, the_file, valid_declaration, wrong_usage
from urform.cli.render import counted, print_fitting, shown
from urform.cli.status import Challenging
from urform.languages import Target
from urform.plan import build, claims_of, faults_of
from urform.plan.script import Claim
from urform.plan.validate import validate
from urform.plan.whole import Plan
from urform.verification.challenge import challenge
from urform.verification.choosing import Choice, UnknownClaimError, chosen, merged
from urform.verification.reports import challenge_from_json, challenge_json, challenge_junit
from urform.verification.verdicts import (
    CAUGHT,
    ELSEWHERE,
    IMPOSSIBLE,
    NOT_RUN,
    STATES,
    SURVIVED,
    Challenge,
    FaultResult,
    Verdict,
)

STYLES = {
    CAUGHT: "green",
    ELSEWHERE: "bold yellow",
    SURVIVED: "bold bright_red",
    IMPOSSIBLE: "cyan",
    NOT_RUN: "yellow",
}
WORST_FIRST = (SURVIVED, ELSEWHERE, NOT_RUN, CAUGHT, IMPOSSIBLE)
MOST_REASONS = 12


def run_challenge(
    file: Path,
    targets: Sequence[Target],
    choice: Choice,
    *,
    junit: Path | None,
    html: Path | None,
    fresh: bool,
    require_all: bool,
    as_json: bool,
    quiet: bool,
) -> int:
    """Seed faults, run the tests, show what they noticed; returns the exit status."""
    from platformdirs import user_cache_path

    plan = build(valid_declaration(file))
    claims = claims_of(plan)
    validate(plan, claims)
    try:
        faults = chosen(tuple(faults_of(plan, claims)), choice)
    except UnknownClaimError as error:
        raise wrong_usage(str(error)) from None
    cache = None if fresh else user_cache_path("urform") / "verdicts"
    with Challenging(err, targets, len(faults), shown=not quiet) as working:
        tried = challenge(plan, claims, faults, targets, cache=cache, progress=working)
    result = replace(tried, shard=choice.shard)
    if html is not None:
        write_page(html, result, plan, claims, targets)
    return tell(result, junit=junit, require_all=require_all, as_json=as_json, quiet=quiet)


def write_page(
    html: Path, result: Challenge, plan: Plan, claims: Sequence[Claim], targets: Sequence[Target]
) -> None:
    """The page, with the tests and the code of each target."""
    from urform.diagram.pictures import SECONDS, pictures_of
    from urform.verification.page import challenge_page
    from urform.verification.processes import Processes

    emissions = {each.name: each.emit(plan, claims) for each in targets if each.name in result.targets}
    pictures = pictures_of(plan, Processes(SECONDS).run)
    html.write_text(challenge_page(result, claims, emissions, pictures), encoding="utf-8")


def merge(
    files: Sequence[Path],
    file: Path | None,
    targets: Sequence[Target],
    *,
    junit: Path | None,
    html: Path | None,
    as_json: bool,
    quiet: bool,
) -> int:
    """Show the results of shards as one; only a page needs the declaration too."""
    try:
        parts = [challenge_from_json(json.loads(file.read_text(encoding="utf-8"))) for file in files]
        result = merged(parts)
    except (OSError, ValueError, KeyError, TypeError) as error:
        raise wrong_usage(
            f"these are not results of `urform challenge --json` that go together: {error}"
        ) from None
    if html is not None:
        plan = build(valid_declaration(the_file(file)))
        write_page(html, result, plan, claims_of(plan), targets)
    return tell(result, junit=junit, require_all=False, as_json=as_json, quiet=quiet)


def tell(result: Challenge, *, junit: Path | None, require_all: bool, as_json: bool, quiet: bool) -> int:
    """Write and show a result; returns the exit status."""
    if junit is not None:
        junit.write_text(challenge_junit(result), encoding="utf-8")
    status = status_of(result, require_all=require_all)
    if as_json:
        print(json.dumps(challenge_json(result), indent=2))
    elif not quiet or status != OK:
        show_challenge(out, result)
    return status


def status_of(result: Challenge, *, require_all: bool = False) -> int:
    """1 for a fault that its own test did not catch, or that was not run where the toolchain is; 3 as for `verify`."""
    if result.weak:
        return FINDING
    missing = [run for run in result.runs if run.missing]
    if any(run.broke for run in result.runs) or len(missing) == len(result.runs) or (missing and require_all):
        return TOOLCHAIN
    ran = [run.target for run in result.runs if not run.missing]
    return FINDING if any(result.count(target, NOT_RUN) for target in ran) else OK


def show_challenge(console: Console, result: Challenge) -> None:
    """Show what was not caught in full, a table of faults by group and target, what ran, and a verdict."""
    for fault, target, verdict in result.uncaught():
        _show_uncaught(console, fault, target, verdict)
    _show_not_run(console, result)
    print_fitting(console, partial(_by_group, result))
    if any(result.count(target, IMPOSSIBLE) for target in result.targets):
        console.print(
            Text(
                "n.e.: not expressible, the language makes the fault impossible, or nobody could tell",
                style=STYLES[IMPOSSIBLE],
            )
        )
    console.print()
    for run in result.runs:
        line = Text(run.target, style="bold")
        if run.missing:
            line.append(Text(f"  not run, missing: {', '.join(run.missing)}", style="not bold yellow"))
        else:
            known = f", {run.known} known from before" if run.known else ""
            said = f"  {run.version}, {counted(run.tried, 'fault')} tried in {run.seconds:.1f} s{known}"
            line.append(Text(said, style="not bold"))
        console.print(line)
        for command in run.install:
            console.print(Text(f"  get it: {command}"))
        if run.broke:
            console.print(Text(f"  broke: {shown(run.broke[:2000])}", style="bright_red"))
    console.print(_verdict(result))


def _show_uncaught(console: Console, fault: FaultResult, target: str, verdict: Verdict) -> None:
    console.print(
        Text(f"{verdict.state} ", style=STYLES[verdict.state]).append(
            Text(f"{fault.id} in {target}", style="bold not red default")
        )
    )
    console.print(Text(f"  {shown(fault.text)}"))
    if verdict.elsewhere:
        console.print(Text(f"  caught by: {', '.join(verdict.elsewhere[:5])}", style="yellow"))
    for line in verdict.change.splitlines():
        style = "green" if line.startswith("+") else "red" if line.startswith("-") else "dim"
        console.print(Text(f"    {shown(line)}", style=style))
    console.print()


def _show_not_run(console: Console, result: Challenge) -> None:
    """Faults that were not run though the toolchain is there: each is a defect of Urform, so it is named."""
    ready = {run.target for run in result.runs if not run.missing and not run.broke}
    left = [
        (fault, target, verdict)
        for fault in result.faults
        for target, verdict in fault.verdicts.items()
        if verdict.state == NOT_RUN and target in ready
    ]
    for fault, target, verdict in left[:MOST_REASONS]:
        reason = verdict.reason.strip().partition("\n")[0]
        console.print(Text(f"not run {fault.id} in {target}: {shown(reason)}", style=STYLES[NOT_RUN]))
    if len(left) > MOST_REASONS:
        console.print(Text(f"not run: {len(left) - MOST_REASONS} more; see --json", style=STYLES[NOT_RUN]))


def _by_group(result: Challenge, between: str) -> Table:
    table = Table(box=None, pad_edge=False, padding=(0, 3, 0, 0), header_style="bold")
    for heading in ("faults", *result.targets):
        table.add_column(heading)
    for group in dict.fromkeys(fault.group for fault in result.faults):
        table.add_row(group, *(_cell(result, target, group, between) for target in result.targets))
    table.add_row(
        Text("all", style="bold"), *(_cell(result, target, None, between) for target in result.targets)
    )
    return table


def _cell(result: Challenge, target: str, group: str | None, between: str) -> Text:
    """`12 caught · 3 n.e.`, worst first."""
    counts = ((state, result.count(target, state, group)) for state in WORST_FIRST)
    words = {IMPOSSIBLE: "n.e."}
    return Text(between).join(
        Text(f"{n} {words.get(state, state)}", style=STYLES[state]) for state, n in counts if n
    )


def _verdict(result: Challenge) -> Text:
    seconds = f"in {result.seconds:.1f} s"
    totals = {state: sum(result.count(target, state) for target in result.targets) for state in STATES}
    weak = totals[SURVIVED] + totals[ELSEWHERE]
    if weak:
        said = f"{counted(totals[SURVIVED], 'fault')} survived, {totals[ELSEWHERE]} caught elsewhere only, {seconds}"
        return Text(said, style="bold bright_red")
    if totals[NOT_RUN]:
        return Text(f"No fault survived, but {totals[NOT_RUN]} were not run, {seconds}", style="bold yellow")
    return Text(
        f"All {totals[CAUGHT]} faults that can be made were caught by the tests of their own claims, {seconds}",
        style="bold green",
    )
