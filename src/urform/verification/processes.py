"""Child processes: in groups of their own, with a time limit, and gone when the run is."""

from __future__ import annotations

import codecs
import contextlib
import os
import selectors
import signal
import subprocess
import threading
import time
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import IO

from urform.languages.target import Finished, Watch

DEFAULT_SECONDS = 900.0


class Stopped(Exception):
    """The run was stopped while this part of it still worked."""


class Processes:
    """Runs commands for several threads, and can stop all of them."""

    def __init__(self, seconds: float = DEFAULT_SECONDS) -> None:
        self._seconds = seconds
        self._running: set[subprocess.Popen[bytes]] = set()
        self._lock = threading.Lock()
        self._stopped = False

    def run(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished:
        """Run a command to its end, or to a time limit; its status is None when it was killed.

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
                    start_new_session=True,
                )
            except OSError as error:
                return Finished(None, "", f"{command[0]} could not be started: {error.strerror}")
            self._running.add(process)
        try:
            return _followed(process, _Clock(self._seconds, watch), command[0])
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


class _Clock:
    """When a process is to be stopped: at the limit of all of it, or when what is watched fails to come."""

    def __init__(self, seconds: float, watch: Watch | None) -> None:
        self._end = time.monotonic() + seconds
        self._watch = watch
        self._due: float | None = None
        self._line = ""  # what a mark may begin in

    def left(self) -> float:
        """Seconds; none are left when it is negative."""
        return min(self._end, self._due if self._due is not None else self._end) - time.monotonic()

    @property
    def late(self) -> bool:
        """Whether what is watched is overdue."""
        return self._due is not None and self._due <= time.monotonic()

    def hear(self, text: str) -> None:
        """The process wrote this. A mark counts once, however slowly the rest of its line comes."""
        if self._watch is None:
            return
        line = self._line + text
        if self._watch.mark.search(line):
            self._due = time.monotonic() + self._watch.seconds
            line = ""
        self._line = line.rpartition("\n")[2]


def _followed(process: subprocess.Popen[bytes], clock: _Clock, name: str) -> Finished:
    """The output of a process until it ended or was stopped."""
    assert process.stdout is not None
    assert process.stderr is not None
    written: dict[IO[bytes], list[str]] = {process.stdout: [], process.stderr: []}
    stopped = late = False
    with selectors.DefaultSelector() as selector, process.stdout, process.stderr:
        decoders = {stream: codecs.getincrementaldecoder("utf-8")("replace") for stream in written}
        for stream in written:
            selector.register(stream, selectors.EVENT_READ)
        began = time.monotonic()
        while selector.get_map():
            if not stopped and clock.left() <= 0:
                stopped, late = True, clock.late
                _kill(process)
            for key, _ in selector.select(None if stopped else clock.left()):
                stream = next(each for each in written if each is key.fileobj)
                chunk = os.read(key.fd, 1 << 16)
                text = decoders[stream].decode(chunk, final=not chunk)
                written[stream].append(text)
                if stream is process.stdout:
                    clock.hear(text)
                if not chunk:
                    selector.unregister(stream)
        status = process.wait()
    output, errors = ("".join(parts).replace("\r\n", "\n") for parts in written.values())
    if stopped:
        seconds = time.monotonic() - began
        return Finished(None, output, f"{errors}\n{name} was stopped after {seconds:.0f} s", late)
    return Finished(status if status >= 0 else None, output, errors)


def _kill(process: subprocess.Popen[bytes]) -> None:
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(process.pid, signal.SIGKILL)
