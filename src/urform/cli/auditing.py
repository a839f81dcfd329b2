"""`urform audit`."""

from __future__ import annotations

import json
import time
from collections.abc import Sequence
from pathlib import Path

import typer
from rich.text import Text

from urform.cli.common import FINDING, OK, TOOLCHAIN, StatusLine, err, out, wrong_usage
from urform.cli.history import changed_since
from urform.cli.render import counted, shown
from urform.declaration.problems import did_you_mean
from urform.existing.auditing import SUFFIXES, Audit, audit, sources_of
from urform.existing.findings.finding import LEVELS, WARNING, Finding, Kind
from urform.existing.findings.kinds import KINDS
from urform.existing.findings.reports import as_json, as_sarif, fingerprints
from urform.existing.sources.trees import GrammarMissing
from urform.prose import listing

STYLES = {WARNING: "bright_red"}
PROOFS = 5  # lines of proof; more are counted
WIDEST = 110  # characters of a source line


def run_audit(
    paths: Sequence[Path],
    *,
    names: Sequence[str],
    level: str,
    baseline: Path | None,
    since: str | None,
    sarif: Path | None,
    to_json: bool,
    quiet: bool,
) -> int:
    """Find creation code that is in the way, or wrong; returns the exit status."""
    if level not in LEVELS:
        raise wrong_usage(
            f"'{shown(level)}' is no level.{did_you_mean(level, LEVELS)} Known: {listing(LEVELS)}"
        )
    kinds = _kinds(names, level)
    files = _files(paths, since)
    known = _known(baseline)
    with _Progress() as progress:
        try:
            found = audit(files, kinds, known, progress)
        except GrammarMissing as error:
            err.print(f"urform audit needs {error}: pip install 'urform[code]'", markup=False)
            raise typer.Exit(TOOLCHAIN) from None
    if sarif is not None:
        sarif.write_text(json.dumps(as_sarif(found, kinds), indent=2) + "\n", encoding="utf-8")
    if to_json:
        print(json.dumps(as_json(found), indent=2, ensure_ascii=False))
    else:
        for each in found.findings:
            _show(each)
        if not quiet or found.findings:
            _summary(found, sarif)
    return FINDING if found.findings else OK


def _kinds(names: Sequence[str], level: str) -> list[Kind]:
    wanted = [part for each in names for part in each.split(",") if part]
    for name in wanted:
        if name not in KINDS:
            raise wrong_usage(
                f"no finding is called '{shown(name)}'.{did_you_mean(name, KINDS)} Known: {listing(KINDS)}"
            )
    least = LEVELS.index(level)
    return [
        kind
        for kind in KINDS.values()
        if (not wanted or kind.id in wanted) and LEVELS.index(kind.level) >= least
    ]


def _files(paths: Sequence[Path], since: str | None) -> list[Path]:
    for path in paths:
        if not path.exists():
            raise wrong_usage(f"{shown(str(path))} is not there")
    files = sources_of(paths)
    if not files:
        endings = listing(sorted(SUFFIXES))
        raise wrong_usage(
            f"no source in {listing(shown(str(each)) for each in paths)}: files that end in {endings} are read, without tests"
        )
    if since is not None:
        changed = changed_since(since)
        files = [each for each in files if each.resolve() in changed]
    return files


def _known(baseline: Path | None) -> frozenset[str]:
    if baseline is None:
        return frozenset()
    try:
        return fingerprints(json.loads(baseline.read_text(encoding="utf-8")))
    except (OSError, ValueError) as error:
        raise wrong_usage(
            f"{shown(str(baseline))} is no report of before, as `urform audit --json` writes it: {shown(str(error))}"
        ) from None


class _Progress(StatusLine):
    """How many files were read."""

    def __call__(self, done: int, whole: int) -> None:
        left = (time.monotonic() - self.started) / done * (whole - done)
        self.say(f"{done} of {counted(whole, 'file')}, about {left:.0f} s to go")


def _show(finding: Finding) -> None:
    """Place and id, what is wrong, the line, the lines that show it, the mend."""
    style = STYLES.get(finding.level, "yellow")
    lines = _source(finding.region.file)
    place = f"{finding.region.file}:{finding.region.line}:{_column(lines, finding)}"
    head = Text(shown(place), style="bold")
    head.append("  ").append(finding.id, style=f"not bold {style}")
    if finding.level != WARNING:
        head.append(f"  {finding.level}", style="not bold dim")
    out.print(head)
    out.print(Text(f"  {shown(finding.message)}"))
    said = {proof.line: proof.text for proof in reversed(finding.proof) if proof.file == finding.region.file}
    _show_line(lines, finding.region.line, said.get(finding.region.line, ""), style)
    for proof in finding.proof[:PROOFS]:
        if proof.file == finding.region.file:
            if proof.line != finding.region.line:
                _show_line(lines, proof.line, proof.text, style)
        else:
            out.print(Text(f"  {shown(proof.file)}:{proof.line}  ", style="dim").append(shown(proof.text)))
    if len(finding.proof) > PROOFS:
        out.print(Text(f"        and {len(finding.proof) - PROOFS} more", style="dim"))
    out.print(Text("  mend: ", style="green").append(Text(shown(finding.mend), style="not bold default")))
    out.print()


def _column(lines: Sequence[str], finding: Finding) -> int:
    """Counted in code points, where a tree counts bytes."""
    line = lines[finding.region.line - 1] if finding.region.line <= len(lines) else ""
    return len(line.encode("utf-8")[: finding.region.column - 1].decode("utf-8", "ignore")) + 1


def _source(file: str) -> list[str]:
    return Path(file).read_text(encoding="utf-8", errors="replace").splitlines()


def _show_line(lines: Sequence[str], number: int, said: str, style: str) -> None:
    if not 0 < number <= len(lines):
        return
    line = shown(lines[number - 1].rstrip())
    text = Text(f"  {number:>5} | ", style="dim").append(line[:WIDEST], style="not dim")
    out.print(text.append(f"   {shown(said)}", style=f"not dim {style}") if said else text)


def _summary(found: Audit, sarif: Path | None) -> None:
    counts: dict[str, int] = {}
    for each in found.findings:
        counts[each.id] = counts.get(each.id, 0) + 1
    by_id = ", ".join(f"{number} {id_}" for id_, number in counts.items())
    text = Text(f"{counted(len(found.findings), 'finding')} in {counted(found.files, 'file')}", style="bold")
    text.append(f": {by_id}" if by_id else "", style="not bold")
    out.print(text)
    for number, words in ((found.kept, "kept by `urform: keep`"), (found.known, "known before")):
        if number:
            out.print(Text(f"{number} {words}", style="dim"))
    for reason in found.broken:
        out.print(Text(shown(reason), style="yellow"))
    if sarif is not None:
        out.print(Text(f"wrote {shown(str(sarif))}"))
