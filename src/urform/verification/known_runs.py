"""Runs of the tests that are known already: the same code, tests and toolchain give the same outcomes.

Only a run in which every claim passed or is held is kept: what failed, or could not be shown, is worth another look. It is
found by what its files are made from, so that nothing is generated anew; or by the files, where what they are made from
changed and they did not.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path

from urform.dataclasses import dataclass
from urform.languages.sources import digest_of, stages
from urform.verification.known import keep
from urform.verification.results import HELD, PASSED, Outcome, TargetRun

KEPT = 200  # files, of some ten kilobytes; the oldest go


@dataclass(frozen=True, slots=True)
class Run:
    """What came of a run in one target: how it fared, the outcome of each claim, and what the target cannot express."""

    run: TargetRun
    outcomes: Mapping[str, Outcome]
    unsupported: tuple[str, ...] = ()

    @property
    def lasts(self) -> bool:
        """Whether another run would tell nothing else."""
        states = {outcome.state for outcome in self.outcomes.values()}
        return states <= {PASSED, HELD} and not self.run.broke and not self.run.missing


class KnownRuns:
    """The runs that are kept in a folder; without a folder, none are."""

    def __init__(self, folder: Path | None) -> None:
        self._folder = folder

    def get(self, key: str) -> Run | None:
        """The run of that key, None when it is not known."""
        if self._folder is None:
            return None
        try:
            stored = json.loads((self._folder / f"{key}.json").read_text(encoding="utf-8"))
            run = TargetRun(**stored["run"])
            outcomes = {
                claim: Outcome(state, reason, again=again)
                for claim, (state, reason, again) in stored["outcomes"].items()
            }
            kept = Run(replace(run, known=True), outcomes, tuple(stored["unsupported"]))
        except (OSError, ValueError, TypeError, KeyError, AttributeError):  # there is none, or it is damaged
            return None
        return kept if kept.lasts else None

    def add(self, key: str, run: Run) -> None:
        """Keep a run, if it lasts."""
        if self._folder is None or not run.lasts:
            return
        shape = {
            "run": {
                "target": run.run.target,
                "version": run.run.version,
                "seconds": run.run.seconds,
                "files": run.run.files,
                "lines": run.run.lines,
            },
            "outcomes": {
                claim: (outcome.state, outcome.reason, outcome.again)
                for claim, outcome in run.outcomes.items()
            },
            "unsupported": run.unsupported,
        }
        keep(self._folder / f"{key}.json", shape, KEPT)


def key_by_source(source: str, toolchain: str, seconds_a_test: float) -> str:
    """The key of a run by the hash of everything that its files are made from."""
    parts = (source, digest_of(stages(("verification",))), toolchain, str(seconds_a_test))
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()


def key_by_files(files: str, seconds_a_test: float) -> str:
    """The key of a run by the hash of its files, of its toolchain and of what reads its results."""
    return hashlib.sha256(f"{files}\0{seconds_a_test}".encode()).hexdigest()
