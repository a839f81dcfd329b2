"""`urform diagram`."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from rich.text import Text

from urform.cli.common import FINDING, OK, TOOLCHAIN, err, out, valid_declaration, wrong_usage
from urform.cli.render import counted, shown
from urform.declaration.problems import did_you_mean
from urform.diagram.dot import dot_text
from urform.diagram.drawing import Drawing
from urform.diagram.graphviz import NoPicture, picture
from urform.diagram.mermaid import mermaid_text
from urform.diagram.structure import PATTERN_NAMES, drawing_of, names_in
from urform.diagram.themes import DARK, LIGHT
from urform.plan import build
from urform.prose import listing
from urform.verification.processes import Processes

PICTURES = ("svg", "png")
FORMS = (*PICTURES, "dot", "mermaid")
SUFFIXES = {".svg": "svg", ".png": "png", ".dot": "dot", ".gv": "dot", ".mmd": "mermaid"}
THEMES = {"light": LIGHT, "dark": DARK}


def run_diagram(
    file: Path,
    into: Path | None,
    *,
    form: str | None,
    only: Sequence[str],
    patterns: Sequence[str],
    theme: str,
    quiet: bool,
) -> int:
    """Draw; returns the exit status. A text without a file to go into is printed."""
    form = _form(form, into)
    names, chosen = _split(only), _split(patterns)
    _known("pattern", chosen, PATTERN_NAMES)
    _known("theme", [theme], tuple(THEMES))
    plan = build(valid_declaration(file))
    _known("product or family", names, names_in(plan))
    drawing = drawing_of(plan, names, chosen)
    if not drawing.products:
        err.print(f"nothing to draw: {shown(str(file))} has nothing of that", markup=False)
        return FINDING
    try:
        content = _content(drawing, form, theme)
    except NoPicture as error:
        err.print(Text(shown(str(error)), style="red"))
        return TOOLCHAIN
    if into is None and form not in PICTURES:
        print(content.decode(), end="")
        return OK
    path = into if into is not None else Path(f"{plan.name}.{form}")
    if into is None and path.exists():
        err.print(f"{path} is there already, and stays as it is; `-o {path}` writes over it", markup=False)
        return FINDING
    try:
        path.write_bytes(content)
    except OSError as error:
        raise wrong_usage(f"{shown(str(path))}: {error.strerror}") from None
    if not quiet:
        makings = sum(len(maker.ways) for maker in drawing.makers) + len(drawing.families)
        made = f"{counted(len(drawing.products), 'product')}, {counted(makings, 'way')} of making"
        out.print(Text(f"wrote {shown(str(path))}: {made}"))
    return OK


def _form(given: str | None, into: Path | None) -> str:
    """What was asked for, or what the suffix of the file says."""
    if given is not None:
        _known("format", [given], FORMS)
        return given
    if into is None:
        return "svg"
    if into.suffix not in SUFFIXES:
        raise wrong_usage(
            f"{shown(str(into))}: no format goes by '{shown(into.suffix)}'; "
            f"name one with --format, or end it in {listing(SUFFIXES)}"
        )
    return SUFFIXES[into.suffix]


def _split(values: Sequence[str]) -> list[str]:
    return [part for value in values for part in value.split(",") if part]


def _known(what: str, given: Sequence[str], known: Sequence[str]) -> None:
    for name in given:
        if name not in known:
            hint = did_you_mean(name, known)
            raise wrong_usage(f"no {what} is called '{shown(name)}'.{hint} Known: {listing(known)}")


def _content(drawing: Drawing, form: str, theme: str) -> bytes:
    if form == "mermaid":
        return mermaid_text(drawing).encode()
    dot = dot_text(drawing, THEMES[theme])
    return dot.encode() if form == "dot" else picture(dot, form, Processes().run)
