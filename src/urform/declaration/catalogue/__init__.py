"""Every kind of problem and advice, by theme. Each owns its slug, message, mend, reason and example."""

from __future__ import annotations

import importlib
import pkgutil

from urform.declaration.problems import KINDS, Kind


def all_kinds() -> dict[str, Kind]:
    """Every kind by its slug; the themes are found, not listed."""
    for module in pkgutil.iter_modules(__path__):
        importlib.import_module(f"{__name__}.{module.name}")
    return dict(sorted(KINDS.items()))
