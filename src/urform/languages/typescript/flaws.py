"""What each flaw of a plan comes to in TypeScript."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from urform.languages.flaws import Spelled, Table
from urform.languages.names import pascal
from urform.plan.model import Flaw

if TYPE_CHECKING:
    from urform.languages.typescript.emitter import Emitter


def spelling(emitter: Emitter) -> Callable[[Flaw], Spelled]:
    """How TypeScript calls what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        return {
            "owner": flaw.owner,
            "member": flaw.member,
            "aspect": flaw.aspect,
            "exported": pascal(flaw.member),
        }

    return spelled


TABLE: Table = {}
