"""Go 1.22: structs behind constructors that return (value, error); tests with package testing."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from typing import TYPE_CHECKING

from urform.languages.entries import imported
from urform.languages.placing import CODE, INTO, NO_TESTS, PROJECT, TESTS, Place, Setting
from urform.languages.target import File, Piece, Target, Toolchain
from urform.plan.capabilities import by_owner
from urform.plan.measuring import Sample
from urform.plan.script import Claim
from urform.plan.whole import Plan

if TYPE_CHECKING:
    from urform.languages.go.context import Context

INNER = "package_name"  # no setting that a declaration could have


class Go(Target):
    """Go, where only products can be nil and a choice is a string that anybody can write."""

    name = "go"
    settings = (
        Setting(
            "module",
            re.compile(r"[a-z0-9][a-z0-9._~-]*(/[a-z0-9][a-z0-9._~-]*)*"),
            "a module path such as harbour.example/fairway",
        ),
        Setting(
            "package",
            re.compile(r"[a-z0-9][a-z0-9._~-]*(/[a-z0-9][a-z0-9._~-]*)*"),
            "the folder of a package in its module, such as internal/fairway",
        ),
    )
    placing = (INTO, NO_TESTS, PROJECT)
    capabilities = frozenset(
        {
            "empty what is only borrowed",
            "build what is incomplete",
            "read records from text",
            "change what was handed in",
            "change what is handed out",
            "alias what is owned",
            "share what can change",
            "copy what there is one of",
            "invent a word",
            "hold what is no date",
            "hold what is no instant",
            "hold what is no duration",
            "null product",
            "threads",
            "load nothing",
            "read words in its own code",
            "list words in its own code",
            "clear a field by a method",
            "weak references",
            "null element product",
        }
    )

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A module of one package."""
        from urform.languages.go.project import Project
        from urform.languages.go.proof import Proof

        context = self._context(plan)
        yield from Project(context).files()
        yield imported(f"import {context.imported}")
        yield from context.templates.entries
        yield from Proof(context, plan).pieces(by_owner(claims, plan, self.capabilities))

    def _context(self, plan: Plan) -> Context:
        from urform.languages.go.names import package_name
        from urform.languages.go.project import context_of

        folder = self.setting(plan, "package", "")
        package = package_name(folder.rpartition("/")[2] or self.setting(plan, INNER, plan.name))
        module = self.setting(plan, "module", f"{plan.name.replace('_', '-')}.example/{package}")
        return context_of(plan, module, f"{module}/{folder}" if folder else module, package)

    def homes(self, plan: Plan) -> Mapping[str, str]:
        """Tests stand beside the code."""
        return {}

    def place(self, plan: Plan) -> Place:
        """A package has a folder of its own in its module."""
        place, folder = super().place(plan), self.setting(plan, "package", "")
        tests = None if place.folders[TESTS] is None else folder
        return replace(place, folders={**place.folders, CODE: folder, TESTS: tests})

    def alone(self, plan: Plan) -> Plan:
        """As a module of one package, of the same name."""
        own = {**super().alone(plan).settings[self.name]}
        folder = own.pop("package", "")
        if folder:
            own |= {INNER: folder.rpartition("/")[2]}
        return replace(plan, settings={**plan.settings, self.name: own})

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """Everything but the tests."""
        from urform.languages.go.project import Project

        return tuple(Project(self._context(plan), support).files())

    def support(self, plan: Plan) -> frozenset[str]:
        """The helpers that the code calls, and what these need."""
        from urform.languages.go.project import Project

        return Project(self._context(plan)).support

    def example(self, plan: Plan) -> tuple[File, ...]:
        """A command of the module."""
        from urform.languages.go.example import example_files

        return example_files(self._context(plan), plan)

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures."""
        from urform.languages.go.measuring import measuring_files

        return measuring_files(self._context(plan), plan, samples)

    @cached_property
    def toolchain(self) -> Toolchain:
        """The go command."""
        from urform.languages.go.toolchain import GoTool

        return GoTool()


TARGET = Go()
