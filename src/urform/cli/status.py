"""A line on standard error that says how far a long run is; nothing where nobody sees it."""

from __future__ import annotations

import threading
import time
from abc import ABC, abstractmethod
from collections.abc import Sequence
from typing import Self

from rich.console import Console
from rich.status import Status
from rich.text import Text

from urform.languages import Target

ENDED = ("done", "not installed")


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
        self._done = {target.name: 0 for target in targets}
        self._first: dict[str, int] = {}  # what was known before anything was tried
        self._faults = faults

    def __call__(self, name: str, done: int, total: int) -> None:
        """So many faults are decided in a target."""
        with self._lock:
            self._first.setdefault(name, done)
            self._done[name] = done
        self.show()

    def text(self, seconds: float) -> str:
        counts = ", ".join(f"{name} {done}" for name, done in self._done.items())
        left = time_left(
            seconds, sum(self._done.values()), sum(self._first.values()), self._faults * len(self._done)
        )
        return f"{counts} of {self._faults} faults after {seconds:.0f} s{left}"


def time_left(seconds: float, done: int, at_first: int, total: int) -> str:
    """`, about 40 s left`, once something was done by which to tell."""
    tried = done - at_first
    return f", about {seconds * (total - done) / tried:.0f} s left" if tried > 0 and total > done else ""
