"""Steps that show what does not come of a call: it fails, or gives nothing."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.plan.making_steps import AskRole, Build, ExemplarAdd, ExemplarGet, FamilyOf, PoolAsk, Select
from urform.plan.operands import Failure
from urform.plan.record_steps import ReadRecord, ReadText, ReadWith
from urform.plan.steps import Ask, ChangeOne, Make, ReadWord, Register, Set

UNKEPT = ""  # the variable of a call of which nothing is kept

Attempt = (
    Make
    | Set
    | ChangeOne
    | Register
    | Ask
    | ReadWord
    | Select
    | Build
    | ExemplarAdd
    | ExemplarGet
    | PoolAsk
    | FamilyOf
    | AskRole
    | ReadRecord
    | ReadText
    | ReadWith
)


@dataclass(frozen=True, slots=True)
class Fails:
    """A step that fails, and how."""

    attempt: Attempt
    failure: Failure


@dataclass(frozen=True, slots=True)
class GivesNothing:
    """A step that gives neither a product nor an error."""

    attempt: Ask | Select | FamilyOf
