"""`urform adopt`."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping, Sequence
from functools import partial
from pathlib import Path

import typer
from rich.table import Table
from rich.text import Text

from urform.cli.common import FINDING, OK, TOOLCHAIN, err, out, valid_declaration, wrong_usage
from urform.cli.render import counted, shown
from urform.declaration.problems import did_you_mean
from urform.existing.draft import OUT, PART, WHOLE, Draft
from urform.existing.drafting import draft_of
from urform.existing.fitting import fit
from urform.existing.found import Found
from urform.existing.merging import InBraces, merged, without_known
from urform.existing.reading import KINDS, Asked, UnknownKind, only, read_found
from urform.existing.reports import LossTold, Report, as_json, report_of
from urform.existing.sources.trees import GrammarMissing
from urform.existing.writing import Written, written
from urform.prose import listing

STYLES = {WHOLE: "green", PART: "yellow", OUT: "bold bright_red"}
LISTED = 15  # products with losses; more are counted
SCALARS = (
    "text",
    "integer",
    "real",
    "boolean",
    "date",
    "time",
    "instant",
    "duration",
    "decimal",
    "uuid",
    "uri",
)


def run_adopt(
    sources: Sequence[Path],
    *,
    output: Path | None,
    into: Path | None,
    kind: str | None,
    names: Sequence[str],
    types: Sequence[str],
    to_json: bool,
    quiet: bool,
) -> int:
    """Draft a declaration from what exists; returns the exit status."""
    if output is not None and into is not None:
        raise wrong_usage("write a declaration with -o, or put it into one with --into, not both")
    if output is not None and output.exists():
        raise wrong_usage(
            f"{shown(str(output))} is there already: --into adds to it, another name leaves it alone"
        )
    found = _found(sources, kind, names, _given(types))
    named = (output or into or sources[0]).name.partition(".")[0]
    draft = draft_of(found, named, [path.name for path in sources])
    text, known = _fitted(draft, into)
    report = report_of(draft, found)
    target = output or into
    if target is not None:
        target.write_text(text.text, encoding="utf-8")
    if to_json:
        print(json.dumps({**as_json(report), "declaration": text.text}, indent=2, ensure_ascii=False))
    else:
        if target is None:
            print(text.text, end="")
        if not quiet:
            _show(report, known, target)
    return OK if report.complete else FINDING


def _found(
    sources: Sequence[Path], kind: str | None, names: Sequence[str], given: Mapping[str, str]
) -> Found:
    if kind is not None and kind not in KINDS:
        raise wrong_usage(
            f"'{shown(kind)}' is nothing that adopt reads.{did_you_mean(kind, KINDS)} Known: {listing(KINDS)}"
        )
    for path in sources:
        if not path.exists():
            raise wrong_usage(f"{shown(str(path))} is not there")
    try:
        found = read_found(Asked(tuple(sources), kind, given))
    except GrammarMissing as error:
        err.print(f"urform adopt needs {error}: pip install 'urform[code]'", markup=False)
        raise typer.Exit(TOOLCHAIN) from None
    except UnknownKind as error:
        raise wrong_usage(
            f"{shown(str(error))} does not say by its name what it is: --from {listing(KINDS)}"
        ) from None
    wanted = [part for each in names for part in each.split(",") if part]
    known = [each.name for each in found.types]
    for name in wanted:
        if name not in known:
            raise wrong_usage(f"no type is called '{shown(name)}'.{did_you_mean(name, known)}")
    found = only(found, wanted) if wanted else found
    if not found.types:
        for spot, reason in found.unread:
            err.print(Text(f"{shown(spot.file)}: {shown(reason)}"))
        raise wrong_usage(f"no type with fields in {listing(shown(str(each)) for each in sources)}")
    return found


def _given(types: Sequence[str]) -> dict[str, str]:
    """`Path=text` as a type by the name that it stands for."""
    given = {}
    for each in types:
        name, _, type_ = each.partition("=")
        if not name or type_ not in SCALARS:
            raise wrong_usage(
                f"'{shown(each)}' is no pair such as Path=text: {listing(SCALARS)} can stand for others"
            )
        given[name] = type_
    return given


def _fitted(draft: Draft, into: Path | None) -> tuple[Written, list[str]]:
    """The text of the draft, and the names of what was there already."""
    if into is None:
        return fit(draft, written), []
    declaration = valid_declaration(into)
    known = without_known(draft, declaration)
    try:
        return fit(draft, partial(merged, into.read_text(encoding="utf-8"))), known
    except InBraces as error:
        raise wrong_usage(
            f"{shown(str(into))}: '{error}' is written in braces, so nothing can be added: write one entry a line"
        ) from None


def _show(report: Report, known: Sequence[str], target: Path | None) -> None:
    """What was carried over, product by product where something was not; then why, the commonest first."""
    console = out if target is not None else err
    products, totals = len(report.by_product), report.totals
    console.print(
        Text(f"{counted(products, 'product')}, {counted(totals.total(), 'field')}: ", style="bold").append(
            _counts(totals)
        )
    )
    if table := _table(report):
        console.print()
        console.print(table)
    if report.losses:
        console.print()
        for told in _commonest(report):
            console.print(told)
    for _, reason in report.unread:
        console.print(Text(f"not read: {shown(reason)}", style="yellow"))
    if known:
        console.print(Text(f"kept as it is: {shown(listing(known))}", style="dim"))
    if target is not None:
        console.print()
        console.print(Text(f"wrote {shown(str(target))}; next: urform check {shown(str(target))}"))


def _counts(counts: Counter[str]) -> Text:
    said = {WHOLE: "whole", PART: "in part", OUT: "out"}
    text = Text()
    for outcome, words in said.items():
        text.append(", " if text else "")
        text.append(f"{counts[outcome]} {words}", style=STYLES[outcome] if counts[outcome] else "dim")
    return text


def _table(report: Report) -> Table | None:
    lossy = [(name, counts) for name, counts in report.by_product.items() if counts[PART] or counts[OUT]]
    if not lossy:
        return None
    table = Table(box=None, pad_edge=False, header_style="dim")
    table.add_column("product")
    for outcome in (WHOLE, PART, OUT):
        table.add_column(outcome, justify="right")
    lossy.sort(key=lambda each: (-each[1][OUT], -each[1][PART]))
    for name, counts in lossy[:LISTED]:
        cells = [Text(str(counts[each]), style=STYLES[each] if counts[each] else "dim") for each in STYLES]
        table.add_row(name, *cells)
    if len(lossy) > LISTED:
        table.add_row(Text(f"and {len(lossy) - LISTED} more", style="dim"))
    return table


def _commonest(report: Report) -> list[Text]:
    """Each kind of loss: how often, one of them with its place, and what one can do."""
    by_slug: dict[str, list[LossTold]] = {}
    for told in report.losses:
        by_slug.setdefault(told.loss.slug, []).append(told)
    lines = []
    width = max(map(len, by_slug), default=0)
    for slug, losses in sorted(by_slug.items(), key=lambda each: -len(each[1])):
        first = losses[0]
        where = f"{first.product}.{first.field}" if first.field else first.product
        place = f"{first.spot.file}:{first.spot.line}"
        line = Text(f"{len(losses):>4}  ").append(f"{slug:<{width}}", style="bold")
        line.append(f"  {shown(place)}  {shown(where)}: {shown(first.loss.text)}")
        lines.append(line.append(f"\n{'':{width + 8}}{first.mend}", style="dim"))
    return lines
