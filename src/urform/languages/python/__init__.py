"""Python 3.11: frozen slotted dataclasses, typed; tests with pytest."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property
from keyword import iskeyword
from typing import TYPE_CHECKING

from urform.languages.entries import imported
from urform.languages.placing import Setting
from urform.languages.target import File, Piece, Target, Toolchain
from urform.plan.capabilities import KINDS, by_owner
from urform.plan.measuring import Sample
from urform.plan.script import Claim
from urform.plan.whole import Plan

if TYPE_CHECKING:
    from urform.languages.python.toolchain import Pytest


class Python(Target):
    """Python, checked at run time where an optional type checker lets things through."""

    name = "python"
    settings = (
        Setting(
            "package",
            re.compile(r"[a-z_][a-z0-9_]*(\.[a-z_][a-z0-9_]*)*"),
            "the name of a package such as varrow.fairway",
        ),
    )
    effort = 1.2
    capabilities = frozenset(
        {
            "empty what is only borrowed",
            "tell while compiling what is missing",
            "build what is incomplete",
            "read records from text",
            "leave out",
            "assign",
            "change what was handed in",
            "change what is handed out",
            "alias what is owned",
            "share what can change",
            "invent a word",
            "hold what is no duration",
            "hold what is no decimal",
            "huge",
            "identity without content",
            "show that a constructor is hidden",
            "threads",
            "load by name",
            "tie a key to its fields",
            "load nothing",
            "weak references",
            "misfit list of texts",
            *(f"misfit {kind}" for kind in KINDS if kind != "choice"),
            *(f"null {kind}" for kind in KINDS),
            *(f"null element {kind}" for kind in KINDS),
        }
    )

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A package, its pyproject.toml and its tests."""
        from urform.languages.python.project import Project, context_of
        from urform.languages.python.proof import Proof

        project = Project(context_of(plan))
        yield from project.files()
        yield imported(f"import {project.context.package}")
        yield from project.context.templates.entries
        yield from Proof(project, plan).pieces(by_owner(claims, plan, self.capabilities))

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """Everything but the tests."""
        from urform.languages.python.project import Project, context_of

        return tuple(Project(context_of(plan), support).files())

    def support(self, plan: Plan) -> frozenset[str]:
        """The checks that the code asks, and what these need."""
        from urform.languages.python.project import Project, context_of

        return Project(context_of(plan)).support

    def example(self, plan: Plan) -> tuple[File, ...]:
        """A module to be run from the project's folder."""
        from urform.languages.python.example import example_files
        from urform.languages.python.project import Project, context_of

        return example_files(Project(context_of(plan)), plan)

    def refused(self, settings: Mapping[str, str]) -> Mapping[str, str]:
        """A keyword is no part of a name; and pytest takes a folder of tests for the package that is called so."""
        parts = settings.get("package", "").split(".")
        if any(map(iskeyword, parts)):
            return {"package": "of names that are no keywords of Python"}
        same = parts[0] and settings.get("tests", "").rpartition("/")[2] == parts[0]
        return (
            {"tests": "called otherwise than the package: pytest would take one for the other"}
            if same
            else {}
        )

    def homes(self, plan: Plan) -> Mapping[str, str]:
        """A package, and beside it one of tests."""
        from urform.languages.python.project import context_of

        return context_of(plan).homes

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures."""
        from urform.languages.python.measuring import measuring_files
        from urform.languages.python.project import Project, context_of

        return measuring_files(Project(context_of(plan)), plan, samples)

    @cached_property
    def toolchain(self) -> Toolchain:
        """pytest in the running interpreter."""
        from urform.languages.python.toolchain import Pytest

        runner: Pytest = Pytest()
        return runner


TARGET = Python()
