"""Rust 2021: structs behind constructors that return a Result; enums and traits; cargo test."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from functools import cached_property
from typing import TYPE_CHECKING

from urform.languages.target import File, Piece, Setting, Target, Toolchain
from urform.plan.capabilities import by_owner
from urform.plan.model import Plan
from urform.plan.script import Claim

if TYPE_CHECKING:
    from urform.languages.rust.emitter import Emitter


class Rust(Target):
    """Rust, where nothing is null, and what was handed in belongs to the callee."""

    name = "rust"
    effort = 1.5
    settings = (
        Setting("crate", re.compile(r"[a-z][a-z0-9]*(_[a-z0-9]+)*"), "the name of a crate such as fairway"),
    )
    capabilities = frozenset({"threads", "weak references"})

    def pieces(self, plan: Plan, claims: Iterable[Claim]) -> Iterator[Piece]:
        """A crate, its tests in one program."""
        from urform.languages.rust.proof import Proof

        emitter = self._emitter(plan)
        yield from emitter.files()
        yield from Proof(emitter, plan).pieces(by_owner(claims, plan, self.capabilities))

    def _emitter(self, plan: Plan) -> Emitter:
        from urform.languages.rust.emitter import Emitter
        from urform.languages.rust.names import CRATES, KEYWORDS

        crate = self.setting(plan, "crate", plan.name)
        return Emitter(plan, f"{crate}_" if crate in KEYWORDS | CRATES else crate)

    def code(self, plan: Plan) -> tuple[File, ...]:
        """Everything but the tests."""
        return tuple(self._emitter(plan).files())

    def example(self, plan: Plan) -> tuple[File, ...]:
        """An example of the crate."""
        from urform.languages.rust.example import example_files

        return example_files(self._emitter(plan), plan)

    @cached_property
    def toolchain(self) -> Toolchain:
        """cargo."""
        from urform.languages.rust.toolchain import Cargo

        return Cargo()


TARGET = Rust()
