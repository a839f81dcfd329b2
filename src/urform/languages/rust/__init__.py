"""Rust 2021: structs behind constructors that return a Result; enums and traits; cargo test."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
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
    from urform.languages.rust.context import Context


class Rust(Target):
    """Rust, where nothing is null, and what was handed in belongs to the callee."""

    name = "rust"
    effort = 1.5
    json = json_setting("serde_json", "that crate")
    settings = (
        Setting(
            "crate",
            re.compile(r"[a-z][a-z0-9]*([_-][a-z0-9]+)*"),
            "the name of a crate such as varrow-fairway",
        ),
    )
    capabilities = frozenset(
        {
            "tell while compiling what is missing",
            "threads",
            "clear a field by a method",
            "weak references",
            "read words in its own code",
            "list words in its own code",
        }
    )

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A crate, its tests in one program."""
        from urform.languages.rust.project import Project
        from urform.languages.rust.proof import Proof

        context = self._context(plan)
        yield from Project(context).files()
        yield imported(f"use {context.crate}")
        yield from context.templates.entries
        yield from Proof(context, plan).pieces(by_owner(claims, plan, self.capabilities))

    def _context(self, plan: Plan) -> Context:
        from urform.languages.rust.names import CRATES, KEYWORDS
        from urform.languages.rust.project import context_of

        crate = self.setting(plan, "crate", plan.name)
        return context_of(plan, f"{crate}_" if crate in KEYWORDS | CRATES else crate)

    def code(self, plan: Plan, support: frozenset[str] = frozenset()) -> tuple[File, ...]:
        """Everything but the tests."""
        from urform.languages.rust.project import Project

        return tuple(Project(self._context(plan), support).files())

    def support(self, plan: Plan) -> frozenset[str]:
        """The helpers that modules import, and what these need."""
        from urform.languages.rust.project import Project

        return Project(self._context(plan)).support

    def example(self, plan: Plan) -> tuple[File, ...]:
        """An example of the crate."""
        from urform.languages.rust.example import example_files

        return example_files(self._context(plan), plan)

    def homes(self, plan: Plan) -> Mapping[str, str]:
        """Where cargo has them."""
        from urform.languages.rust.views import HOMES

        return HOMES

    def measuring(self, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
        """The program that measures."""
        from urform.languages.rust.measuring import measuring_files

        return measuring_files(self._context(plan), plan, samples)

    @cached_property
    def toolchain(self) -> Toolchain:
        """cargo."""
        from urform.languages.rust.toolchain import Cargo

        return Cargo()


TARGET = Rust()
