"""TypeScript for Node.js 20: readonly classes in strict ES2022 modules; tests with node:test."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property

from urform.languages.entries import imported
from urform.languages.placing import Setting
from urform.languages.target import File, Piece, Target, Toolchain
from urform.plan.capabilities import KINDS, by_owner
from urform.plan.measuring import Sample
from urform.plan.script import Claim
from urform.plan.whole import Plan


class TypeScript(Target):
    """TypeScript, whose types are gone at run time: what comes from elsewhere may be null, a fraction, another word."""

    name = "typescript"
    effort = 2.0
    settings = (
        Setting(
            "package",
            re.compile(r"(?:@[a-z0-9][a-z0-9._-]*/)?[a-z0-9][a-z0-9._-]*"),
            "the name of an npm package such as @varrow/fairway",
        ),
    )
    capabilities = frozenset(
        {
            "empty what is only borrowed",
            "tell while compiling what is missing",
            "build what is incomplete",
            "read records from text",
            "assign",
            "change what was handed in",
            "change what is handed out",
            "alias what is owned",
            "share what can change",
            "copy what there is one of",
            "identity without content",
            "invent a word",
            "hold what is no date",
            "hold what is no instant",
            "hold what is no uuid",
            "load by name",
            "tie a key to its fields",
            "load nothing",
            "misfit list of texts",
            *(f"misfit {kind}" for kind in KINDS if kind != "choice"),
            "show that a constructor is hidden",
            "read words in its own code",
            "clear a field by a method",
            "weak references",
            *(f"null {kind}" for kind in KINDS),
            *(f"null element {kind}" for kind in KINDS),
        }
    )

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """An npm package."""
        from urform.languages.typescript.project import Project, context_of
        from urform.languages.typescript.proof import Proof

        project = Project(context_of(plan))
        yield from project.files()
        yield imported(f'import "{self.setting(plan, "package", plan.name)}"')
        yield from project.context.templates.entries
        yield from Proof(project, plan).pieces(by_owner(claims, plan, self.capabilities))

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """Everything but the tests."""
        from urform.languages.typescript.project import Project, context_of

        return tuple(Project(context_of(plan), support).files())

    def support(self, plan: Plan) -> frozenset[str]:
        """The checks that the code asks, and what these need."""
        from urform.languages.typescript.project import Project, context_of

        return Project(context_of(plan)).support

    def example(self, plan: Plan) -> tuple[File, ...]:
        """A program beside the package."""
        from urform.languages.typescript.example import example_files
        from urform.languages.typescript.project import Project, context_of

        return example_files(Project(context_of(plan)), plan)

    def homes(self, plan: Plan) -> Mapping[str, str]:
        """Where npm packages have them."""
        from urform.languages.typescript.views import HOMES

        return HOMES

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures."""
        from urform.languages.typescript.measuring import measuring_files
        from urform.languages.typescript.project import Project, context_of

        return measuring_files(Project(context_of(plan)), plan, samples)

    @cached_property
    def toolchain(self) -> Toolchain:
        """tsc and node."""
        from urform.languages.typescript.toolchain import Node

        return Node()


TARGET = TypeScript()
