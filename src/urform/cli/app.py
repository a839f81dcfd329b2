"""The commands. Each reads its arguments, calls the core, and shows what came of it."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer
from rich.text import Text

from urform.cli import completing
from urform.cli.common import (
    FINDING,
    OK,
    TOOLCHAIN,
    all_files,
    chosen_targets,
    complete_reading,
    err,
    out,
    the_file,
    valid_declaration,
    wrong_usage,
)
from urform.cli.render import counted, show_problems, shown
from urform.declaration import Reading
from urform.declaration.model import Declaration
from urform.declaration.problems import Problem
from urform.languages.target import SECONDS_A_TEST
from urform.version import VERSION

app = typer.Typer(
    name="urform",
    help="Declare product types once; generate and verify the code that makes them, in several languages.",
    no_args_is_help=True,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
    context_settings={"help_option_names": ["-h", "--help"]},
)

File = Annotated[
    Path | None,
    typer.Argument(metavar="[DECLARATION]", help="NAME.urform.yaml; by default the only one in this folder."),
]
TargetNames = Annotated[
    list[str] | None,
    typer.Option(
        "--target",
        "-t",
        help="A target, or several with commas; by default all.",
        autocompletion=completing.target_names,
    ),
]
AsJson = Annotated[bool, typer.Option("--json", help="Print JSON, in the shape that docs/json.md describes.")]
Quiet = Annotated[bool, typer.Option("--quiet", "-q", help="Print only what is wrong.")]


def _version(asked: bool) -> None:
    if asked:
        out.print(f"urform {VERSION}")
        raise typer.Exit(OK)


@app.callback()
def whole(
    version: Annotated[
        bool, typer.Option("--version", callback=_version, is_eager=True, help="Print the version.")
    ] = False,
) -> None:
    """Declare product types once; generate and verify the code that makes them, in several languages."""


@app.command(epilog="Example: urform new moorings.urform.yaml")
def new(
    path: Annotated[Path, typer.Argument(help="Where to write it.")] = Path("harbour.urform.yaml"),
    with_: Annotated[
        list[str] | None,
        typer.Option(
            "--with",
            help="Beside the factory: builder, prototype, pool, family; several with commas.",
            autocompletion=completing.beginnings,
        ),
    ] = None,
    editor: Annotated[
        bool, typer.Option("--editor", help="Also urform.schema.json beside it, for editors that complete.")
    ] = False,
) -> None:
    """Write a short commented declaration that is valid as it stands."""
    from urform.cli.beginning import run_new

    raise typer.Exit(run_new(path, with_ or (), editor=editor))


@app.command(epilog="Example: urform check fairway.urform.yaml --strict")
def check(
    files: Annotated[
        list[Path] | None,
        typer.Argument(metavar="[DECLARATION]...", help="NAME.urform.yaml; by default all in this folder."),
    ] = None,
    strict: Annotated[bool, typer.Option("--strict", help="Advice counts too.")] = False,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Read and check declarations; show every problem, then advice."""
    readings = [complete_reading(path) for path in (files or all_files())]
    if as_json:
        print(json.dumps(_check_json(readings), indent=2))
    else:
        for reading in readings:
            if quiet and not strict:
                reading = replace(reading, advice=())
            show_problems(err if reading.problems else out, reading)
            if reading.declaration is not None and not quiet:
                out.print(Text(f"{reading.file}: valid, {_counts(reading.declaration)}", style="green"))
    has_findings = any(reading.problems or (strict and reading.advice) for reading in readings)
    raise typer.Exit(FINDING if has_findings else OK)


def _counts(declaration: Declaration) -> str:
    bases = [product for product in declaration.products.values() if product.base is None]
    variants = len(declaration.products) - len(bases)
    return f"{counted(len(bases), 'product')} with {counted(variants, 'variant')}"


def _check_json(readings: Sequence[Reading]) -> dict[str, object]:
    def listed(reading: Reading, problems: tuple[Problem, ...]) -> list[dict[str, object]]:
        return [
            {
                "slug": problem.slug,
                "file": reading.file,
                "line": problem.place.line,
                "column": problem.place.column,
                "message": problem.message,
                "mend": problem.mend,
            }
            for problem in problems
        ]

    return {
        "version": 1,
        "problems": [entry for reading in readings for entry in listed(reading, reading.problems)],
        "advice": [entry for reading in readings for entry in listed(reading, reading.advice)],
    }


@app.command(epilog="Example: urform plan fairway.urform.yaml")
def plan(file: File = None) -> None:
    """Show what would be made and every claim in words, without regard to language."""
    from urform.plan import build, claims_of
    from urform.plan.text import plan_text

    built = build(valid_declaration(file))
    out.print(Text(plan_text(built, claims_of(built)).rstrip("\n")))


@app.command(epilog="Example: urform generate fairway.urform.yaml -t python -t go -o out")
def generate(
    file: File = None,
    targets: TargetNames = None,
    folder: Annotated[Path, typer.Option("--output", "-o", help="Each target gets a folder in it.")] = Path(
        "out"
    ),
    check_only: Annotated[
        bool, typer.Option("--check", help="Write nothing; exit 1 when not up to date.")
    ] = False,
    diff: Annotated[bool, typer.Option("--diff", help="Show what would change; write nothing.")] = False,
    force: Annotated[
        bool, typer.Option("--force", help="Overwrite what Urform wrote and you edited.")
    ] = False,
    example: Annotated[
        bool, typer.Option("--example", help="Also a walk-through client per target, in examples/.")
    ] = False,
    quiet: Quiet = False,
) -> None:
    """Write code and tests."""
    from urform.cli.generating import run_generate

    file = the_file(file)
    raise typer.Exit(
        run_generate(
            file,
            chosen_targets(targets, file),
            folder,
            check_only=check_only,
            diff=diff,
            force=force,
            example=example,
            quiet=quiet,
        )
    )


@app.command(epilog="Example: urform verify fairway.urform.yaml -t java,go --junit report.xml")
def verify(
    file: File = None,
    targets: TargetNames = None,
    into: Annotated[
        Path | None, typer.Option("--into", help="Keep the generated projects in this folder.")
    ] = None,
    here: Annotated[
        bool, typer.Option("--here", help="Test what stands where generate wrote it, edited or not.")
    ] = False,
    folder: Annotated[
        Path, typer.Option("--output", "-o", help="With --here: the folder that generate was given.")
    ] = Path("out"),
    junit: Annotated[Path | None, typer.Option("--junit", help="Write JUnit XML.")] = None,
    html: Annotated[Path | None, typer.Option("--html", help="Write one self-contained HTML page.")] = None,
    every: Annotated[bool, typer.Option("--all", "-a", help="List every claim, not only groups.")] = False,
    require_all: Annotated[
        bool, typer.Option("--require-all", help="Exit 3 when a toolchain is missing.")
    ] = False,
    time_limit: Annotated[
        float,
        typer.Option(
            "--time-limit",
            metavar="SECONDS",
            min=0.1,
            help="A test that does not end within this time has failed.",
        ),
    ] = SECONDS_A_TEST,
    fresh: Annotated[
        bool, typer.Option("--fresh", help="Run everything, though nothing changed since it passed.")
    ] = False,
    watch: Annotated[bool, typer.Option("--watch", help="Again whenever the declaration is saved.")] = False,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Generate into a scratch folder, compile and test with the real toolchains, show claims by target."""
    from urform.cli.verifying import run_verify, run_watch

    if here and into is not None:
        raise typer.BadParameter("--here tests what stands; --into writes. Give one of them.")
    file = the_file(file)

    def once() -> int:
        return run_verify(
            file,
            chosen_targets(targets, file),
            into=into,
            here=folder if here else None,
            junit=junit,
            html=html,
            every=every,
            require_all=require_all,
            time_limit=time_limit,
            fresh=fresh,
            as_json=as_json,
            quiet=quiet,
        )

    raise typer.Exit(run_watch(file, once) if watch else once())


@app.command(epilog="Example: urform challenge fairway.urform.yaml -t go --only clone/RefitPlan.legs:deep")
def challenge(
    file: File = None,
    targets: TargetNames = None,
    only: Annotated[
        list[str] | None,
        typer.Option(
            "--only",
            help="Faults of this claim, group of claims, or one fault.",
            autocompletion=completing.claims,
        ),
    ] = None,
    sample: Annotated[int | None, typer.Option("--sample", min=1, help="Draw this many faults.")] = None,
    seed: Annotated[int, typer.Option("--seed", help="The same seed draws the same sample.")] = 0,
    shard: Annotated[str, typer.Option("--shard", metavar="I/N", help="The I-th of N parts.")] = "1/1",
    merge: Annotated[
        list[Path] | None,
        typer.Option("--merge", metavar="FILE", help="Run nothing; show JSON of shards as one result."),
    ] = None,
    junit: Annotated[Path | None, typer.Option("--junit", help="Write JUnit XML.")] = None,
    html: Annotated[Path | None, typer.Option("--html", help="Write one self-contained HTML page.")] = None,
    fresh: Annotated[bool, typer.Option("--fresh", help="Ask nothing of earlier runs.")] = False,
    require_all: Annotated[
        bool, typer.Option("--require-all", help="Exit 3 when a toolchain is missing.")
    ] = False,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Verify with one fault at a time in the code: show which of them the tests catch."""
    from urform.cli import challenging
    from urform.verification.choosing import Choice

    if merge:
        raise typer.Exit(
            challenging.merge(
                merge,
                file,
                chosen_targets(targets, file),
                junit=junit,
                html=html,
                as_json=as_json,
                quiet=quiet,
            )
        )
    file = the_file(file)
    raise typer.Exit(
        challenging.run_challenge(
            file,
            chosen_targets(targets, file),
            Choice(tuple(only or ()), sample, seed, _shard(shard)),
            junit=junit,
            html=html,
            fresh=fresh,
            require_all=require_all,
            as_json=as_json,
            quiet=quiet,
        )
    )


def _shard(text: str) -> tuple[int, int]:
    """`2/5` as numbers."""
    number, _, shards = text.partition("/")
    if not (number.isdecimal() and shards.isdecimal() and 1 <= int(number) <= int(shards)):
        raise wrong_usage(f"--shard is I/N, with I from 1 to N, as in 2/5; '{shown(text)}' is not")
    return int(number), int(shards)


@app.command(epilog="Example: urform targets --fetch")
def targets(
    fetch: Annotated[bool, typer.Option("--fetch", help="Get what a package registry can give.")] = False,
    as_json: AsJson = False,
) -> None:
    """Show each target, its toolchain, what is missing and how to get it."""
    from urform.cli.verifying import run_targets

    raise typer.Exit(run_targets(fetch=fetch, as_json=as_json))


@app.command(epilog="Example: urform explain names-meet")
def explain(
    word: Annotated[
        str | None,
        typer.Argument(
            help="A problem's slug, a key of the format, a claim group or a pattern; without one, all.",
            autocompletion=completing.words,
        ),
    ] = None,
) -> None:
    """Explain a word: what it means, when it pays, when it is too much, with an example."""
    from urform.cli.explaining import explained, known_words, overview
    from urform.declaration.problems import did_you_mean

    if word is None:
        from urform.plan.patterns import patterns

        out.print(Text(overview(group for pattern in patterns() for group in pattern.faults)))
        return
    text = explained(word)
    if text is None:
        raise wrong_usage(f"nothing is known about '{shown(word)}'.{did_you_mean(word, known_words())}")
    out.print(Text(text))


@app.command(epilog="Example: urform schema > urform.schema.json")
def schema(
    file: Annotated[
        Path | None, typer.Argument(metavar="[DECLARATION]", help="The declaration that has the records.")
    ] = None,
) -> None:
    """Print the JSON Schema of the format, for editors; with a declaration, that of its records."""
    from urform.declaration.schema import json_schema

    if file is None:
        print(json.dumps(json_schema(), indent=2))
        return
    from urform.plan import build
    from urform.plan.record_schema import record_schema

    built = build(valid_declaration(file))
    if built.records is None:
        raise wrong_usage(f"{shown(str(file))} has no records; add `records: true` at its top")
    print(json.dumps(record_schema(built), indent=2, ensure_ascii=False))


@app.command(epilog="Example: urform diagram fairway.urform.yaml -o structure.png --pattern family,factory")
def diagram(
    file: File = None,
    into: Annotated[
        Path | None,
        typer.Option("--output", "-o", help="The file; its ending tells the format. By default NAME.svg."),
    ] = None,
    form: Annotated[
        str | None,
        typer.Option(
            "--format", "-f", metavar="FORMAT", help="svg, png, dot or mermaid; the last two are printed."
        ),
    ] = None,
    only: Annotated[
        list[str] | None, typer.Option("--only", help="What is around this product, variant or family.")
    ] = None,
    pattern: Annotated[
        list[str] | None,
        typer.Option("--pattern", help="What is about factory, family, builder, prototype or flyweight."),
    ] = None,
    theme: Annotated[
        str, typer.Option("--theme", metavar="THEME", help="light, for paper, or dark, for screens.")
    ] = "light",
    quiet: Quiet = False,
) -> None:
    """Draw the structure: products and their fields, variants, who makes them, what is owned and what is shared."""
    from urform.cli.diagramming import run_diagram

    raise typer.Exit(
        run_diagram(
            the_file(file),
            into,
            form=form,
            only=only or (),
            patterns=pattern or (),
            theme=theme,
            quiet=quiet,
        )
    )


@app.command(epilog="Example: urform compare fairway.urform.yaml --since HEAD")
def compare(
    files: Annotated[
        list[Path] | None,
        typer.Argument(
            metavar="[OLD] [NEW]",
            help="The old declaration and the new one, by default the only one in this folder; with --since the new one.",
        ),
    ] = None,
    since: Annotated[
        str | None,
        typer.Option("--since", metavar="REV", help="The old one is that of a git revision, as HEAD."),
    ] = None,
    targets: TargetNames = None,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Show what a change of the declaration does to clients of the generated code; exit 1 if something breaks."""
    from urform.cli.comparing import run_compare

    given = files or []
    if len(given) > (1 if since is not None else 2):
        raise wrong_usage("compare takes two declarations, or one and --since")
    old = given.pop(0) if given and since is None else None
    new = the_file(given[0] if given else None)
    raise typer.Exit(run_compare(old, new, since, chosen_targets(targets, new), to_json=as_json, quiet=quiet))


@app.command(epilog="Example: urform measure fairway.urform.yaml -t go,java -o measured.svg")
def measure(
    file: File = None,
    targets: TargetNames = None,
    only: Annotated[
        list[str] | None, typer.Option("--only", help="These products; several with commas.")
    ] = None,
    seconds: Annotated[
        float, typer.Option("--seconds", min=0.001, help="Of each of nine batches that one way is timed in.")
    ] = 0.02,
    most: Annotated[
        int, typer.Option("--most", min=1000, help="Products that are weighed at once.")
    ] = 1_000_000,
    into: Annotated[
        Path | None, typer.Option("--output", "-o", help="A picture of it, .png or .svg.")
    ] = None,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Measure what sharing, cloning and making cost and save, in each target; say where a pattern does not pay."""
    from urform.cli.measuring import run_measure

    file = the_file(file)
    raise typer.Exit(
        run_measure(
            file,
            chosen_targets(targets, file),
            only=only or (),
            seconds=seconds,
            most=most,
            into=into,
            to_json=as_json,
            quiet=quiet,
        )
    )


@app.command(epilog="Example: urform adopt notice.schema.json -o notices.urform.yaml")
def adopt(
    sources: Annotated[
        list[Path],
        typer.Argument(metavar="SOURCE...", help="JSON Schemas, source files, folders of source files."),
    ],
    output: Annotated[
        Path | None,
        typer.Option("--output", "-o", help="The declaration to write; by default it is printed."),
    ] = None,
    into: Annotated[
        Path | None, typer.Option("--into", help="A declaration that gets what it does not have yet.")
    ] = None,
    kind: Annotated[
        str | None,
        typer.Option("--from", help="What the sources are written in, where their names do not say it."),
    ] = None,
    only: Annotated[
        list[str] | None, typer.Option("--only", help="These types, and what they need; several with commas.")
    ] = None,
    types: Annotated[
        list[str] | None, typer.Option("--type", help="A type that stands for another, as in 'Path=text'.")
    ] = None,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Draft a declaration from what exists; say what was carried over, and what was lost; exit 1 if something was."""
    from urform.cli.adopting import run_adopt

    raise typer.Exit(
        run_adopt(
            sources,
            output=output,
            into=into,
            kind=kind,
            names=only or (),
            types=types or (),
            to_json=as_json,
            quiet=quiet,
        )
    )


@app.command(epilog="Example: urform audit src --level warning --sarif audit.sarif")
def audit(
    paths: Annotated[list[Path], typer.Argument(metavar="PATH...", help="Folders, or source files.")],
    only: Annotated[
        list[str] | None, typer.Option("--only", help="These kinds of findings; several with commas.")
    ] = None,
    level: Annotated[
        str, typer.Option("--level", help="note or warning: what matters less is left out.")
    ] = "note",
    baseline: Annotated[
        Path | None, typer.Option("--baseline", help="A report in JSON of before: what it has is left out.")
    ] = None,
    since: Annotated[
        str | None, typer.Option("--since", help="Only files that changed since a revision of git.")
    ] = None,
    sarif: Annotated[Path | None, typer.Option("--sarif", help="Also write SARIF 2.1.0 there.")] = None,
    as_json: AsJson = False,
    quiet: Quiet = False,
) -> None:
    """Find creation code that a declaration would replace, or that is wrong; exit 1 if there is any."""
    from urform.cli.auditing import run_audit

    raise typer.Exit(
        run_audit(
            paths,
            names=only or (),
            level=level,
            baseline=baseline,
            since=since,
            sarif=sarif,
            to_json=as_json,
            quiet=quiet,
        )
    )


@app.command(epilog="Example: urform lsp, as the command of a language server for *.urform.yaml")
def lsp() -> None:
    """Problems, advice, completion, hover, renaming and mends for editors, over the Language Server Protocol."""
    from importlib.util import find_spec

    if find_spec("pygls") is None:
        err.print("urform lsp needs pygls: pip install 'urform\\[editor]'")
        raise typer.Exit(TOOLCHAIN)
    from urform.cli.serving import serve

    serve()


@app.command(epilog="Example: urform demo port-varrow")
def demo(
    folder: Annotated[Path, typer.Argument(metavar="[DIR]", help="Where to write it.")] = Path("demo-output"),
    targets: TargetNames = None,
) -> None:
    """All of it with the packaged declaration: check, generate, verify, show."""
    from urform.cli.verifying import run_demo

    raise typer.Exit(run_demo(folder, chosen_targets(targets)))
