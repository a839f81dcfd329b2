"""Java 17: final classes or records, sealed where closed; tests with JUnit 5."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property
from typing import TYPE_CHECKING

from urform.declaration.types import TOLD
from urform.languages.entries import imported
from urform.languages.placing import Setting, json_setting
from urform.languages.target import File, Piece, Target, Toolchain
from urform.plan.capabilities import by_owner
from urform.plan.measuring import Sample
from urform.plan.script import Claim
from urform.plan.whole import Plan

if TYPE_CHECKING:
    from urform.languages.java.project import Project

REFERENCES = ("text", *map(str, TOLD), "choice", "product", "list", "set", "map")


class Java(Target):
    """Java, where the compiler holds types and primitives are never null."""

    name = "java"
    json = json_setting("jackson", "jackson-core")
    settings = (
        Setting(
            "package", re.compile(r"[a-z][a-z0-9_]*(\.[a-z][a-z0-9_]*)*"), "lower-case words joined by dots"
        ),
    )
    capabilities = frozenset(
        {
            "empty what is only borrowed",
            "tell while compiling what is missing",
            "change what was handed in",
            "change what is handed out",
            "alias what is owned",
            "share what can change",
            "copy what there is one of",
            "identity without content",
            "show that a constructor is hidden",
            "threads",
            "hold what is no date",
            "hold what is no time",
            "hold what is no instant",
            "hold what is no duration",
            "hold what is no decimal",
            "load by name",
            "load nothing",
            "read words in its own code",
            "clear a field by a method",
            "weak references",
            *(f"null {kind}" for kind in REFERENCES),
            *(f"null element {kind}" for kind in (*REFERENCES, "integer", "real", "boolean")),
        }
    )

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A Maven project."""
        from urform.languages.java.proof import Proof

        project = self._project(plan)
        yield from project.files()
        yield imported(f"import {project.context.package}.*")
        yield from project.context.templates.entries
        yield from Proof(project, plan).pieces(by_owner(claims, plan, self.capabilities))

    def _project(self, plan: Plan, support: frozenset[str] = frozenset()) -> Project:
        from urform.languages.java.names import KEYWORDS
        from urform.languages.java.project import Project, context_of

        otherwise = plan.name if plan.name not in KEYWORDS else f"{plan.name}_"
        return Project(context_of(plan, self.setting(plan, "package", otherwise)), support)

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """Everything but the tests."""
        return tuple(self._project(plan, support).files())

    def support(self, plan: Plan) -> frozenset[str]:
        """The helpers that the code calls, and what these need."""
        return self._project(plan).support

    def example(self, plan: Plan) -> tuple[File, ...]:
        """A source file for the launcher."""
        from urform.languages.java.example import example_files

        return example_files(self._project(plan), plan)

    def homes(self, plan: Plan) -> Mapping[str, str]:
        """Where Maven has them."""
        from urform.languages.java.views import HOMES

        return HOMES

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures."""
        from urform.languages.java.measuring import measuring_files

        return measuring_files(self._project(plan), plan, samples)

    @cached_property
    def toolchain(self) -> Toolchain:
        """javac and the JUnit launcher."""
        from urform.languages.java.toolchain import Javac

        return Javac()


TARGET = Java()
