"""The steps of a generated test, without a language: what a claim shows, as data.

A claim has *cases*; a case is a list of steps over named variables. Each target writes a step in its own
idiom. A step that a language cannot express takes its whole case with it (see `capabilities.py`).
"""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.plan import making_steps, outcomes, record_steps, steps

Step = (
    steps.Make
    | steps.LeaveOut
    | steps.Hold
    | steps.ChangeHeld
    | steps.ChangeInHeld
    | steps.ChangeOut
    | steps.Assign
    | steps.Set
    | steps.Clear
    | steps.ChangeOne
    | steps.FieldIs
    | steps.FieldAbsent
    | steps.Equal
    | steps.Unequal
    | steps.KindIs
    | steps.Answers
    | steps.OneInstance
    | steps.NewRegistry
    | steps.Register
    | steps.RegisterLoader
    | steps.LoadsAre
    | steps.LoadOnce
    | steps.RegisterNamed
    | steps.Unregister
    | steps.KeysAre
    | steps.Ask
    | steps.AskNamed
    | steps.ReadWord
    | steps.WordIs
    | steps.WordsAre
    | making_steps.Select
    | making_steps.HiddenConstructor
    | making_steps.NewBuilder
    | making_steps.BuilderSet
    | making_steps.BuilderAdd
    | making_steps.BuilderClear
    | making_steps.Build
    | making_steps.BuildRefused
    | making_steps.BuildChained
    | making_steps.Clone
    | making_steps.CloneEach
    | making_steps.Take
    | making_steps.SameObject
    | making_steps.NewExemplars
    | making_steps.ExemplarAdd
    | making_steps.ExemplarGet
    | making_steps.NamesAre
    | making_steps.NewPool
    | making_steps.PoolAsk
    | making_steps.CountsAre
    | making_steps.PoolOnce
    | making_steps.PoolUnhindered
    | making_steps.PoolNested
    | making_steps.PoolFailedMaker
    | making_steps.PoolWrongKey
    | making_steps.PoolReleased
    | making_steps.FamilyOf
    | making_steps.FamilyIs
    | making_steps.NewStandIn
    | making_steps.AskRole
    | making_steps.AskRoles
    | making_steps.Narrow
    | making_steps.AskedAre
    | making_steps.ClientGets
    | record_steps.ReadRecord
    | record_steps.ReadText
    | record_steps.ReadWith
    | record_steps.ReadBack
    | record_steps.RecordIs
    | record_steps.CreateAll
    | outcomes.Fails
    | outcomes.GivesNothing
)


@dataclass(frozen=True, slots=True)
class Case:
    """Steps that stand or fall together. A `main` case is what the claim is about."""

    steps: tuple[Step, ...]
    main: bool = True


@dataclass(frozen=True, slots=True)
class Claim:
    """One thing that the declaration promises, in words and as a test."""

    group: str
    owner: str
    text: str
    cases: tuple[Case, ...]
    member: str | None = None
    aspect: str | None = None

    @property
    def id(self) -> str:
        """`<group>/<Owner>[.<member>][:<aspect>]`."""
        member = f".{self.member}" if self.member else ""
        aspect = f":{self.aspect}" if self.aspect else ""
        return f"{self.group}/{self.owner}{member}{aspect}"


def case(*steps: Step, main: bool = True) -> Case:
    """A case of these steps."""
    return Case(steps, main)
