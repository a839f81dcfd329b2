"""`urform new`."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path

from urform.cli.common import FINDING, OK, err, out, wrong_usage
from urform.cli.render import shown
from urform.declaration.problems import did_you_mean
from urform.declaration.schema import json_schema
from urform.demo import BEGINNINGS, starter
from urform.prose import listing

SCHEMA = "urform.schema.json"


def run_new(path: Path, patterns: Sequence[str], *, editor: bool) -> int:
    """Write a declaration, and the schema that editors complete it with; returns the exit status."""
    if path.is_dir():
        path = path / "harbour.urform.yaml"
    chosen = [part for each in patterns for part in each.split(",") if part]
    for name in chosen:
        if name not in BEGINNINGS:
            hint = did_you_mean(name, BEGINNINGS)
            raise wrong_usage(f"a beginning has no '{shown(name)}'.{hint} Known: {listing(BEGINNINGS)}")
    try:
        with path.open("x", encoding="utf-8", newline="\n") as file:
            file.write(starter(*chosen, schema=SCHEMA if editor else ""))
        if editor:
            _write_schema(path.with_name(SCHEMA))
    except FileExistsError:
        err.print(f"{path} is there already, and stays as it is", markup=False)
        return FINDING
    except OSError as error:
        raise wrong_usage(f"{path}: {error.strerror}") from None
    out.print(f"wrote {path}; next: urform check {path}", markup=False)
    return OK


def _write_schema(path: Path) -> None:
    """All declarations of a folder share one; what is there already may be a person's own."""
    text = f"{json.dumps(json_schema(), indent=2)}\n"
    if path.exists():
        if path.read_text(encoding="utf-8", errors="replace") != text:
            err.print(
                f"{path} is there already, and stays as it is; `urform schema > {path}` renews it",
                markup=False,
            )
        return
    path.write_text(text, encoding="utf-8")
    out.print(f"wrote {path}", markup=False)
