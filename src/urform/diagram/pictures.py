"""A drawing for a page that is read on light paper and on dark screens."""

from __future__ import annotations

from base64 import b64encode

from urform.dataclasses import dataclass
from urform.diagram.dot import dot_text
from urform.diagram.graphviz import NoPicture, picture
from urform.diagram.structure import drawing_of
from urform.diagram.themes import DARK, LIGHT
from urform.languages.target import Runner
from urform.plan.whole import Plan

SECONDS = 30.0  # what a page waits for a picture: one of 600 products took less than one


@dataclass(frozen=True, slots=True)
class Pictures:
    """The structure in both themes as addresses that hold the pictures, and what is said where there are none."""

    light: str = ""
    dark: str = ""
    missing: str = ""


def pictures_of(plan: Plan, run: Runner) -> Pictures:
    """The whole structure, drawn by Graphviz."""
    drawing = drawing_of(plan)
    try:
        light, dark = (picture(dot_text(drawing, theme), "svg", run) for theme in (LIGHT, DARK))
    except NoPicture as error:
        return Pictures(missing=str(error))
    return Pictures(_address(light), _address(dark))


def _address(svg: bytes) -> str:
    """A `data:` address (RFC 2397), for a page that asks for nothing else."""
    return f"data:image/svg+xml;base64,{b64encode(svg).decode()}"
