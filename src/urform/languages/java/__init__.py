"""Java 17: final classes or records, sealed where closed; tests with JUnit 5."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cached_property

from urform.languages.target import Emission, Setting, Target, Toolchain
from urform.plan.capabilities import expressible
from urform.plan.model import Plan
from urform.plan.script import Claim

REFERENCES = ("text", "choice", "product", "list", "set", "map")


class Java(Target):
    """Java, where the compiler holds types and primitives are never null."""

    name = "java"
    settings = (
        Setting(
            "package", re.compile(r"[a-z][a-z0-9_]*(\.[a-z][a-z0-9_]*)*"), "lower-case words joined by dots"
        ),
    )
    capabilities = frozenset(
        {
            "change what was handed in",
            "change what is handed out",
            "identity without content",
            "show that a constructor is hidden",
            "threads",
            "weak references",
            *(f"null {kind}" for kind in REFERENCES),
            *(f"null element {kind}" for kind in (*REFERENCES, "integer", "real", "boolean")),
        }
    )

    def emit(self, plan: Plan, claims: Sequence[Claim]) -> Emission:
        """A Maven project."""
        from urform.languages.java.emitter import Emitter
        from urform.languages.java.names import KEYWORDS
        from urform.languages.java.proof import Proof

        package = self.setting(plan, "package", plan.name if plan.name not in KEYWORDS else f"{plan.name}_")
        emitter = Emitter(plan, package)
        found = [expressible(claim, plan, self.capabilities) for claim in claims]
        tests, addresses = Proof(emitter, plan).files(found)
        held = {each.claim.id: each.held for each in found if each.held is not None}
        return Emission((*emitter.files(), *tests), tuple(addresses), held)

    @cached_property
    def toolchain(self) -> Toolchain:
        """javac and the JUnit launcher."""
        from urform.languages.java.toolchain import Javac

        return Javac()


TARGET = Java()
