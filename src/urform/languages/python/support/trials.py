"""Runs tests against code with a fault, many faults a process: each in a fork of one interpreter that has pytest loaded.

Called by Urform with a JSON file, a list of `{"number", "files": {path: text}, "tests": [node id]}`, and the seconds that a
trial may take. Prints a line of JSON for each: `{"number", "failed": [test name], "broke"}`.
"""

from __future__ import annotations

import contextlib
import json
import os
import select
import signal
import sys
import time
from collections.abc import Iterator, Sequence
from importlib.abc import MetaPathFinder
from importlib.machinery import ModuleSpec, PathFinder, SourceFileLoader
from pathlib import Path
from types import CodeType, ModuleType
from typing import Any

import pytest

OPTIONS = ["-q", "-p", "no:cacheprovider", "--tb=no", "--no-header"]


class Replaced(SourceFileLoader):
    """Loads a module from a text in place of its file."""

    def __init__(self, name: str, path: str, text: str) -> None:
        super().__init__(name, path)
        self._text = text

    def get_code(self, fullname: str) -> CodeType:
        return compile(self._text, self.path, "exec", dont_inherit=True)


class Faulty(MetaPathFinder):
    """Finds the modules whose files a fault changes."""

    def __init__(self, files: dict[str, str]) -> None:
        self._texts = {
            path.removesuffix(".py").removesuffix("/__init__").replace("/", "."): text
            for path, text in files.items()
        }

    def find_spec(
        self, name: str, path: Sequence[str] | None, target: ModuleType | None = None
    ) -> ModuleSpec | None:
        spec = PathFinder.find_spec(name, path, target) if name in self._texts else None
        if spec is not None and spec.origin is not None:
            spec.loader = Replaced(name, spec.origin, self._texts[name])
        return spec


class Telling:
    """Tells the parent which test runs, and how it ended."""

    def __init__(self, pipe: int, files: dict[str, str]) -> None:
        self._pipe = pipe
        self._files = files

    def pytest_collection(self) -> None:
        # Not before: pytest's own finder takes modules called like tests, and puts itself first.
        sys.meta_path.insert(0, Faulty(self._files))

    def say(self, word: str, what: str = "") -> None:
        os.write(self._pipe, (json.dumps([word, what]) + "\n").encode())

    def pytest_runtest_logstart(self, nodeid: str) -> None:
        self.say("run", nodeid.rpartition("::")[2])

    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        if report.failed:
            self.say("failed", report.nodeid.rpartition("::")[2])

    def pytest_collectreport(self, report: pytest.CollectReport) -> None:
        if report.failed:
            self.say("broke", str(report.longrepr)[-2000:])


def try_in_child(trial: dict[str, Any], pipe: int) -> None:
    nothing = os.open(os.devnull, os.O_RDWR)
    os.dup2(nothing, 1)
    os.dup2(nothing, 2)
    telling = Telling(pipe, trial["files"])
    code = pytest.main([*OPTIONS, *trial["tests"]], plugins=[telling])
    if code in (pytest.ExitCode.OK, pytest.ExitCode.TESTS_FAILED):
        telling.say("end")
    else:
        telling.say("broke", f"pytest ended with {code}")


def lines_of(pipe: int, until: float) -> Iterator[list[str]]:
    """What a child says, until it closes its end or the time is over."""
    rest = b""
    while (left := until - time.monotonic()) > 0:
        ready, _, _ = select.select([pipe], [], [], left)
        data = os.read(pipe, 65536) if ready else b""
        if not data:
            return
        *lines, rest = (rest + data).split(b"\n")
        yield from (json.loads(line) for line in lines)


def tried(trial: dict[str, Any], seconds: float) -> dict[str, Any]:
    reading, writing = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(reading)
        with contextlib.suppress(BaseException):
            try_in_child(trial, writing)
        os._exit(0)
    os.close(writing)
    failed, running, broke, ended = set(), "", "", False
    for word, what in lines_of(reading, time.monotonic() + seconds):
        running = what if word == "run" else running
        failed |= {what} if word == "failed" else set()
        broke = broke or (what if word == "broke" else "")
        ended = ended or word in ("end", "broke")
    with contextlib.suppress(ProcessLookupError):
        os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    os.close(reading)
    if not ended:  # killed, or too slow: it counts against the test that was running
        failed, broke = (
            failed | {running},
            broke or ("" if running else "no test was begun"),
        )
    return {"number": trial["number"], "failed": sorted(failed), "broke": broke}


def load_plugins() -> None:
    """Once, for all forks: `import pytest` alone leaves most of it to be imported by each."""
    with (
        open(os.devnull, "w") as nothing,
        contextlib.redirect_stdout(nothing),
        contextlib.redirect_stderr(nothing),
    ):
        pytest.main(["--version", *OPTIONS])


def main() -> None:
    sys.dont_write_bytecode = False  # or each fork would compile the same tests again
    load_plugins()
    for trial in json.loads(Path(sys.argv[1]).read_text(encoding="utf-8")):
        print(json.dumps(tried(trial, float(sys.argv[2]))), flush=True)


if __name__ == "__main__":
    main()
