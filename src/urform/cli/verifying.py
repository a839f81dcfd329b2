"""`urform verify`, `urform targets` and `urform demo`."""

from __future__ import annotations

import contextlib
import json
import time
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

import typer
from rich.table import Table
from rich.text import Text

from urform.cli.common import (
    FINDING,
    OK,
    TOOLCHAIN,
    complete_reading,
    err,
    not_written,
    out,
    valid_declaration,
)
from urform.cli.generating import roots_of, sources_of
from urform.cli.render import show_problems, show_verification, shown
from urform.cli.status import Verifying
from urform.languages import Target, known_targets, target
from urform.output.folder import OutputError
from urform.plan import build, claims_of
from urform.plan.validate import validate
from urform.verification.processes import Processes
from urform.verification.reports import as_json as verification_json
from urform.verification.reports import as_junit
from urform.verification.results import Verification
from urform.verification.standing import NothingThere
from urform.verification.verify import Cache, verify

_SECONDS_BETWEEN_LOOKS = 0.3


def run_verify(
    file: Path,
    targets: Sequence[Target],
    *,
    into: Path | None,
    here: Path | None,
    junit: Path | None,
    html: Path | None,
    every: bool,
    require_all: bool,
    time_limit: float,
    fresh: bool,
    as_json: bool,
    quiet: bool,
) -> int:
    """Verify and show; returns the exit status. `here` is the folder that `generate` was given.

    What is told from an earlier run is told of the declaration as it was read: one that is saved meanwhile is run.
    """
    sources = {} if fresh else sources_of(file, targets, example=False)
    declaration = valid_declaration(file)
    is_settled = bool(sources) and sources == sources_of(file, targets, example=False)
    plan = build(declaration)
    claims = claims_of(plan)
    validate(plan, claims)
    folders = roots_of(declaration, file, targets, here) if here is not None else None
    try:
        with Verifying(err, targets, shown=not quiet) as working:
            result = verify(
                plan,
                claims,
                targets,
                into=into,
                here=folders,
                cache=_cache(sources) if is_settled else None,
                progress=working,
                seconds_a_test=time_limit,
            )
    except NothingThere as error:
        err.print(Text(shown(str(error)), style="red"))
        return FINDING
    except OutputError as error:
        return not_written(error)
    for path in result.edited:
        err.print(Text(f"{shown(path)}: edited by hand, kept and tested as it is", style="yellow"))
    for path in result.differing:
        err.print(Text(f"{shown(path)}: not what is generated today, tested as it stands", style="yellow"))
    if junit is not None:
        junit.write_text(as_junit(result), encoding="utf-8")
    if html is not None:
        from urform.diagram.pictures import SECONDS, pictures_of
        from urform.verification.page import verification_page

        emissions = {each.name: each.emit(plan, claims) for each in targets}
        pictures = pictures_of(plan, Processes(SECONDS).run)
        html.write_text(verification_page(result, claims, emissions, pictures), encoding="utf-8")
    if as_json:
        print(json.dumps(verification_json(result), indent=2))
    elif not quiet or result.failed:
        show_verification(out, result, every=every, left_out=plan.left_out)
    return status_of(result, require_all=require_all)


def _cache(sources: Mapping[str, str]) -> Cache:
    from platformdirs import user_cache_path

    return Cache(user_cache_path("urform") / "runs", sources)


def run_watch(file: Path, once: Callable[[], int]) -> int:
    """Verify, and again whenever the declaration is saved, until interrupted; returns the last exit status."""
    status = OK
    with contextlib.suppress(KeyboardInterrupt):
        while True:
            seen = _content(file)
            try:
                status = once()
            except typer.Exit as ended:  # it has problems, which were shown
                status = ended.exit_code
            err.print(Text(f"waiting for {shown(str(file))} to be saved; Ctrl-C ends", style="dim"))
            while _content(file) == seen:
                time.sleep(_SECONDS_BETWEEN_LOOKS)
            out.print()
    return status


def _content(file: Path) -> bytes | None:
    """None while there is no such file, as between the two steps in which editors save."""
    try:
        return file.read_bytes()
    except OSError:
        return None


def status_of(result: Verification, *, require_all: bool = False) -> int:
    """1 for a failed claim; 3 for a toolchain that broke, or is missing and asked for, or when none ran at all."""
    if result.failed or result.edited:
        return FINDING
    missing = [run for run in result.runs if run.missing]
    if any(run.broke for run in result.runs) or len(missing) == len(result.runs) or (missing and require_all):
        return TOOLCHAIN
    ran = {run.target for run in result.runs if not run.missing}
    silent = any(
        o.state in ("not run", "not shown") for c in result.claims for t, o in c.outcomes.items() if t in ran
    )
    return FINDING if silent else OK


def run_targets(*, fetch: bool, as_json: bool) -> int:
    """Show the targets. 3 only when `fetch` was asked for and something is still missing."""
    processes = Processes()
    all_ = [target(name) for name in known_targets()]
    if fetch:
        for each in all_:
            said = each.toolchain.fetch(processes.run)
            if said:
                err.print(Text(f"{each.name}: {said}"))
    toolchains = {each.name: each.toolchain.find(processes.run) for each in all_}
    if as_json:
        shape = [
            {
                "name": name,
                "ready": f.ready,
                "toolchain": f.version,
                "missing": list(f.missing),
                "install": list(f.install),
            }
            for name, f in toolchains.items()
        ]
        print(json.dumps({"version": 1, "targets": shape}, indent=2))
        return OK if not fetch or all(each.ready for each in toolchains.values()) else TOOLCHAIN
    table = Table(box=None, pad_edge=False, padding=(0, 3, 0, 0), header_style="bold")
    for heading in ("target", "toolchain", "missing", "get it"):
        table.add_column(heading)
    for name, toolchain in toolchains.items():
        state = Text(toolchain.version or "none", style="green" if toolchain.ready else "yellow")
        table.add_row(name, state, Text("\n".join(toolchain.missing)), Text("\n".join(toolchain.install)))
    out.print(table)
    ready = all(toolchain.ready for toolchain in toolchains.values())
    return OK if ready or not fetch else TOOLCHAIN


def run_demo(folder: Path, targets: Sequence[Target]) -> int:
    """The packaged declaration, all the way; each step is a command that a person could have typed."""
    from urform.cli.diagramming import run_diagram
    from urform.cli.generating import run_generate
    from urform.demo import NAME, demo_text

    folder.mkdir(parents=True, exist_ok=True)
    file = folder / NAME
    if not file.exists():
        file.write_text(demo_text(), encoding="utf-8", newline="\n")
    _step(f"urform check {file}")
    reading = complete_reading(file)
    show_problems(out, reading)
    if reading.declaration is None:
        return FINDING
    out.print(Text("valid", style="green"))
    picture = file.with_name(f"{reading.declaration.name}.svg")
    _step(f"urform diagram {file} -o {picture}")
    run_diagram(
        file, picture, form="svg", only=(), patterns=(), theme="light", quiet=False
    )  # it says what is missing
    names = ",".join(each.name for each in targets)
    _step(f"urform generate {file} -t {names} -o {folder} --example")
    run_generate(file, targets, folder, check_only=False, diff=False, force=False, example=True, quiet=False)
    _walk_through(folder, targets)
    _step(f"urform verify {file} -t {names}")
    plan = build(reading.declaration)
    claims = claims_of(plan)
    with Verifying(err, targets, shown=True) as working:
        result = verify(plan, claims, targets, progress=working)
    show_verification(out, result, left_out=plan.left_out)
    return status_of(result)


def _walk_through(folder: Path, targets: Sequence[Target]) -> None:
    """The output of the first target's client whose toolchain is there."""
    processes = Processes()
    for each in targets:
        if each.toolchain.find(processes.run).ready:
            _step(f"the walk-through client in {folder / each.name / 'examples'}")
            done = each.toolchain.walk_through(folder / each.name, processes.run)
            for line in (done.output if done.status == 0 else done.errors).rstrip("\n").splitlines():
                out.print(Text(shown(line), overflow="ellipsis", no_wrap=True), crop=True)
            return


def _step(command: str) -> None:
    out.print()
    out.print(Text(f"$ {command}", style="bold"))
