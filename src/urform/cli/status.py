"""A line on standard error that says how far a long run is; nothing where nobody sees it."""

from __future__ import annotations

import os
import threading
import time
from abc import ABC, abstractmethod
from collections.abc import Sequence
from typing import Self

from rich.console import Console
from rich.status import Status
from rich.text import Text

from urform.cli.render import counted
from urform.languages import Target

ENDED = ("done", "not installed")
# Of one core, for a fault in one target: 2,042 of the demo's took 368 s on two slow cores, and 242 s on two usual ones.
SECONDS_A_FAULT = 0.3
LEAST_TOLD = 2.0  # seconds: what is sooner over needs no warning


class StatusLine(ABC):
    """Shown while the run is on, and told anew twice a second."""

    def __init__(self, console: Console, *, shown: bool) -> None:
        self._started = time.monotonic()
        self._lock = threading.Lock()
        self._status: Status | None = console.status("") if shown and console.is_terminal else None
        self._ended = threading.Event()

    def __enter__(self) -> Self:
        if self._status is not None:
            self._status.start()
            threading.Thread(target=self._tick, daemon=True).start()
        return self

    def __exit__(self, *_: object) -> None:
        self._ended.set()
        if self._status is not None:
            self._status.stop()

    def _tick(self) -> None:
        while not self._ended.wait(0.5):
            self.show()

    def show(self) -> None:
        """Tell how far it is now."""
        if self._status is not None:
            with self._lock:
                self._status.update(Text(self.text(time.monotonic() - self._started)))

    @abstractmethod
    def text(self, seconds: float) -> str:
        """The line of progress after so many seconds."""


class Verifying(StatusLine):
    """The progress of each target."""

    def __init__(self, console: Console, targets: Sequence[Target], *, shown: bool) -> None:
        super().__init__(console, shown=shown)
        self._doing = {target.name: "waiting" for target in targets}

    def __call__(self, name: str, doing: str) -> None:
        """A target does something else now."""
        with self._lock:
            self._doing[name] = doing
        self.show()

    def text(self, seconds: float) -> str:
        done = sum(doing in ENDED for doing in self._doing.values())
        busy = ", ".join(f"{name} {doing}" for name, doing in self._doing.items() if doing not in ENDED)
        return f"{done} of {len(self._doing)} targets done after {seconds:.0f} s; {busy}"


class Challenging(StatusLine):
    """How many faults are decided in each target, and how long the rest may take."""

    def __init__(self, console: Console, targets: Sequence[Target], faults: int, *, shown: bool) -> None:
        super().__init__(console, shown=shown)
        self._console = console
        self._shown = shown
        self._done = {target.name: 0 for target in targets}
        self._first: dict[str, int] = {}  # what was known before anything was tried
        self._faults = faults

    def __call__(self, name: str, done: int, total: int) -> None:
        """So many faults are decided in a target."""
        with self._lock:
            is_new = name not in self._first
            self._first.setdefault(name, done)
            self._done[name] = done
        if is_new and self._shown and len(self._first) == len(self._done):
            self._tell_before()
        self.show()

    def _tell_before(self) -> None:
        """How long it will take, once each target knows what it has to try; nothing where that is soon over."""
        left = sum(self._faults - first for first in self._first.values())
        seconds = left * SECONDS_A_FAULT / (os.cpu_count() or 1)
        if seconds > LEAST_TOLD:
            said = f"{counted(left, 'fault')} to try in {counted(len(self._done), 'target')}: {duration(seconds)}"
            self._console.print(Text(said, style="dim"))

    def text(self, seconds: float) -> str:
        counts = ", ".join(f"{name} {done}" for name, done in self._done.items())
        left = time_left(
            seconds, sum(self._done.values()), sum(self._first.values()), self._faults * len(self._done)
        )
        return f"{counts} of {self._faults} faults after {seconds:.0f} s{left}"


def duration(seconds: float) -> str:
    """`about 40 s`, `about 6 min`."""
    return f"about {seconds:.0f} s" if seconds < 90 else f"about {seconds / 60:.0f} min"


def time_left(seconds: float, done: int, at_first: int, total: int) -> str:
    """`, about 40 s left`, once something was done by which to tell."""
    tried = done - at_first
    return f", {duration(seconds * (total - done) / tried)} left" if tried > 0 and total > done else ""
