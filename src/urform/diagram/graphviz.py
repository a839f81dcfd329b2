"""Graphviz, which lays a drawing out and makes a picture of it."""

from __future__ import annotations

import shutil
import tempfile
from pathlib import Path

from urform.languages.target import Runner

PROGRAM = "dot"
PACKAGE = "graphviz"  # in Debian, and elsewhere by the same name
_DOTS_AN_INCH = 144  # of a PNG: twice what a screen shows, so that it stays sharp


class NoPicture(Exception):
    """Graphviz is missing, or could not do it; says what there is to do."""


def picture(dot: str, form: str, run: Runner) -> bytes:
    """A drawing in DOT as a picture, of the form `svg` or `png`. Raises NoPicture."""
    if shutil.which(PROGRAM) is None:
        raise NoPicture(
            f"Graphviz is missing, which draws the pictures; install its package: apt-get install {PACKAGE}. "
            "`--format dot` and `--format mermaid` need nothing."
        )
    with tempfile.TemporaryDirectory(prefix="urform-") as folder:
        source, made = Path(folder, "drawing.dot"), Path(folder, f"drawing.{form}")
        source.write_text(dot, encoding="utf-8")
        dots = [f"-Gdpi={_DOTS_AN_INCH}"] if form == "png" else []
        done = run([PROGRAM, f"-T{form}", *dots, source.name, "-o", made.name], Path(folder))
        if done.status != 0 or not made.exists():
            raise NoPicture(f"Graphviz drew nothing: {' '.join(done.errors.split()) or 'it says no more'}")
        return made.read_bytes()
