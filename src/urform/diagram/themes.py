"""The colours of drawings: one theme for light paper, one for dark screens."""

from __future__ import annotations

from urform.dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Theme:
    """Colours, as Graphviz and SVG write them."""

    paper: str
    box: str
    ink: str
    faint: str  # what may be left out: optional fields, operations, notes
    edge: str  # of boxes
    product: str  # behind the name of a product
    maker: str
    family: str
    owns: str
    shares: str
    makes: str


LIGHT = Theme(
    paper="#ffffff",
    box="#ffffff",
    ink="#16202b",
    faint="#5a6878",
    edge="#8796a6",
    product="#dcebf5",
    maker="#fbeccb",
    family="#e9e2f5",
    owns="#16202b",
    shares="#0b7a75",
    makes="#a2600a",
)
DARK = Theme(
    paper="#12181f",
    box="#1a222b",
    ink="#e8eef4",
    faint="#a3b1c0",
    edge="#5d6d7e",
    product="#23405a",
    maker="#54401a",
    family="#423560",
    owns="#e8eef4",
    shares="#4fd1c5",
    makes="#f0b356",
)
