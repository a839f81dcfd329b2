"""The checks of a declaration beyond its shape. Each module checks one theme, all of them always."""

from __future__ import annotations

from urform.declaration.checks import (
    advice,
    factories,
    families,
    fields,
    making,
    names,
    products,
    records,
    written,
)
from urform.declaration.model import Declaration
from urform.declaration.problems import Problems

THEMES = (names, fields, products, factories, making, families, records)


def check(declaration: Declaration, problems: Problems) -> None:
    """Note every problem; advice only for a declaration without any."""
    for theme in THEMES:
        theme.check(declaration, problems)
    if not problems:
        written.check(declaration, problems)
        advice.check(declaration, problems)
