"""Child processes: in groups of their own, with a time limit, and gone when the run is."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import threading
from collections.abc import Mapping, Sequence
from pathlib import Path

from urform.languages.target import Finished

DEFAULT_SECONDS = 900.0


class Stopped(Exception):
    """The run was stopped while this part of it still worked."""


class Processes:
    """Runs commands for several threads, and can stop all of them."""

    def __init__(self, seconds: float = DEFAULT_SECONDS) -> None:
        self._seconds = seconds
        self._running: set[subprocess.Popen[str]] = set()
        self._lock = threading.Lock()
        self._stopped = False

    def run(
        self, command: Sequence[str], folder: Path, environment: Mapping[str, str] | None = None
    ) -> Finished:
        """Run a command to its end, or to the time limit; its status is None when it was killed.

        Raises Stopped when nothing more is to be started.
        """
        with self._lock:
            self.go_on()
            try:
                process = subprocess.Popen(
                    list(command),
                    cwd=folder,
                    env={**os.environ, **(environment or {})},
                    stdin=subprocess.DEVNULL,
                    stdout=subprocess.PIPE,
                    stderr=subprocess.PIPE,
                    encoding="utf-8",
                    errors="replace",
                    start_new_session=True,
                )
            except OSError as error:
                return Finished(None, "", f"{command[0]} could not be started: {error.strerror}")
            self._running.add(process)
        try:
            output, errors = process.communicate(timeout=self._seconds)
            status = process.returncode if process.returncode >= 0 else None
            return Finished(status, output, errors)
        except subprocess.TimeoutExpired:
            _kill(process)
            output, errors = process.communicate()
            return Finished(None, output, f"{errors}\n{command[0]} was stopped after {self._seconds:.0f} s")
        finally:
            with self._lock:
                self._running.discard(process)

    def go_on(self) -> None:
        """Raises Stopped once the run was stopped: for those that work long without any process."""
        if self._stopped:
            raise Stopped

    def stop(self) -> None:
        """End everything that runs, and start nothing more."""
        with self._lock:
            self._stopped = True
            for process in self._running:
                _kill(process)


def _kill(process: subprocess.Popen[str]) -> None:
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(process.pid, signal.SIGKILL)
