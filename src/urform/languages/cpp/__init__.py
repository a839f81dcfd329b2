"""C++20: values and final classes over abstract ones, exceptions with data; GoogleTest by CMake."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from functools import cached_property
from typing import TYPE_CHECKING

from urform.languages.entries import imported
from urform.languages.placing import Setting, json_setting
from urform.languages.target import File, Piece, Target, Toolchain
from urform.plan.capabilities import by_owner
from urform.plan.measuring import Sample
from urform.plan.script import Claim
from urform.plan.whole import Plan

if TYPE_CHECKING:
    from urform.languages.cpp.project import Project


class Cpp(Target):
    """C++, where products are values, and what is handed in is the callee's own copy."""

    name = "cpp"
    json = json_setting("nlohmann", "nlohmann/json.hpp")
    settings = (
        Setting(
            "namespace",
            re.compile(r"[a-z][a-z0-9]*(_[a-z0-9]+)*(::[a-z][a-z0-9]*(_[a-z0-9]+)*)*"),
            "the name of a namespace such as varrow::fairway",
        ),
    )
    capabilities = frozenset(
        {
            "empty what is only borrowed",
            "tell while compiling what is missing",
            "share what can change",
            "threads",
            "hold what is no date",
            "hold what is no instant",
            "hold what is no duration",
            "load nothing",
            "clear a field by a method",
            "weak references",
            "read words in its own code",
            "list words in its own code",
        }
    )

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A library and its tests."""
        from urform.languages.cpp.proof import Proof

        project = self._project(plan)
        yield from project.files()
        yield imported(f"namespace {project.context.namespace}")
        yield from project.context.templates.entries
        yield from Proof(project.sources, plan).pieces(by_owner(claims, plan, self.capabilities))

    def _project(self, plan: Plan, support: frozenset[str] = frozenset()) -> Project:
        from urform.languages.cpp.names import NAMESPACES
        from urform.languages.cpp.project import Project, context_of

        namespace = self.setting(plan, "namespace", plan.name)
        parts = (f"{part}_" if part in NAMESPACES else part for part in namespace.split("::"))
        return Project(context_of(plan, "::".join(parts)), support)

    def alone(self, plan: Plan) -> Plan:
        """In the innermost of its namespaces: trials put others around it."""
        plan = super().alone(plan)
        own = plan.settings[self.name]
        inner = {"namespace": own["namespace"].rpartition("::")[2]} if "namespace" in own else {}
        return replace(plan, settings={**plan.settings, self.name: {**own, **inner}})

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """Everything but the tests."""
        return tuple(self._project(plan, support).files())

    def support(self, plan: Plan) -> frozenset[str]:
        """The helpers that the code uses, and what these need."""
        return self._project(plan).support

    def example(self, plan: Plan) -> tuple[File, ...]:
        """A program that uses the library."""
        from urform.languages.cpp.example import example_files

        return example_files(self._project(plan).sources, plan)

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures."""
        from urform.languages.cpp.measuring import measuring_files

        return measuring_files(self._project(plan).sources, plan, samples)

    @cached_property
    def toolchain(self) -> Toolchain:
        """g++ and GoogleTest."""
        from urform.languages.cpp.toolchain import Gcc

        return Gcc()


TARGET = Cpp()
