"""Urform: declare product types once; generate and verify the code that makes them.

    declaration = urform.load("fairway.urform.yaml")
    plan = urform.plan(declaration)
    urform.generate(plan, ["python", "go"], "out")
    result = urform.verify(plan, ["python", "go"])

Everything below is imported when it is first used.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from urform.version import VERSION as __version__

if TYPE_CHECKING:
    from urform.declaration.model import Declaration
    from urform.declaration.problems import Problem
    from urform.output.changes import Change
    from urform.plan import build as plan
    from urform.plan.whole import Plan
    from urform.verification.results import Verification

__all__ = ["DeclarationError", "__version__", "generate", "load", "plan", "verify"]


class DeclarationError(ValueError):
    """A declaration has problems; all of them are in `problems`."""

    def __init__(self, file: str, problems: Sequence[Problem]) -> None:
        first = "; ".join(
            f"{file}:{p.place.line}:{p.place.column}: {p.message} [{p.slug}]" for p in problems[:5]
        )
        super().__init__(first)
        self.file = file
        self.problems = tuple(problems)


def load(file: str | Path) -> Declaration:
    """Read and check a declaration file. Raises DeclarationError with every problem."""
    from urform.declaration import read
    from urform.languages import setting_problems

    reading = read(Path(file))
    problems = reading.problems
    if reading.declaration is not None:
        problems = setting_problems(reading.declaration)
    if reading.declaration is None or problems:
        raise DeclarationError(reading.file, problems)
    return reading.declaration


def generate(
    plan: Plan,
    targets: Sequence[str],
    folder: str | Path,
    *,
    beside: str | Path = ".",
    force: bool = False,
    example: bool = False,
) -> Mapping[str, tuple[Change, ...]]:
    """Write code and tests into `folder/<target>`; returns what was done to each file, by target.

    Where the declaration says that a target goes into another folder, it names that from `beside`, its own folder.
    Files that were edited by hand are kept unless `force`; `example` adds the walk-through client.
    Raises KeyError for an unknown target and OutputError when the folder cannot be written.
    """
    from urform.languages import target
    from urform.output.generating import Asked, generate_all, root_of

    into = {name: plan.settings.get(name, {}).get("into", "") for name in targets}
    roots = {name: root_of(Path(folder), name, Path(beside), into[name]) for name in targets}
    asked = Asked(plan, roots, force=force, example=example)
    written = generate_all(asked, [target(name) for name in targets])
    return {generated.target: generated.changes for generated in written}


def verify(plan: Plan, targets: Sequence[str], *, into: str | Path | None = None) -> Verification:
    """Generate into a scratch folder, compile and test with the real toolchains. Raises KeyError for an unknown target."""
    from urform.languages import target
    from urform.plan import claims_of
    from urform.verification.verify import verify as run

    return run(plan, claims_of(plan), [target(name) for name in targets], into=Path(into) if into else None)


def __getattr__(name: str) -> object:
    if name == "plan":
        import urform.plan

        return urform.plan
    raise AttributeError(f"module 'urform' has no attribute {name!r}")
