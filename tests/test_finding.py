"""How toolchains find their tools: by what `--version` and its like say, which is played here; nothing is run."""

from __future__ import annotations

import shutil
from collections.abc import Mapping, Sequence
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN
from urform.languages import target
from urform.languages.target import Finished, Found, Watch

# What each tool says that is just too old, and what is new enough with the version that is shown; Python is the one that runs.
OLDER = {
    "go": "go version go1.21.13 linux/amd64\n",
    "java": "javac 16.0.2\n",
    "typescript": "v18.20.4\n",
    "rust": "rustc 1.82.0 (f6e511eec 2024-10-15)\n",
    "cpp": "10.5.0\n",
}
NEWER = [
    ("go", "go version go1.22.0 linux/amd64\n", "Go 1.22"),
    ("go", "go version go2.0 darwin/arm64\n", "Go 2.0"),
    ("java", "javac 17.0.15\n", "javac 17.0.15, JUnit launcher"),
    ("java", "javac 26-ea\n", "javac 26-ea, JUnit launcher"),
    ("typescript", "v20.0.0\n", "node 20.0.0, tsc"),
    ("typescript", "v101.4.0\n", "node 101.4.0, tsc"),
    ("rust", "rustc 1.83.0 (90b35a623 2024-11-26)\n", "rustc 1.83.0"),
    ("rust", "rustc 2.0.1-nightly (aaaaaaaaa 2031-01-01)\n", "rustc 2.0.1"),
    ("cpp", "11.1.0\n", "g++ 11.1.0, GoogleTest"),
    ("cpp", "20\n", "g++ 20, GoogleTest"),
]
NONSENSE = ["", "\n", "no version\n", "dyld: cannot load\nand more\n", "v.x.y\n"]


class Says:
    """Every command says this; those that were asked are kept."""

    def __init__(self, output: str, status: int = 0) -> None:
        self._answer = Finished(status, output)
        self.asked: list[Sequence[str]] = []

    def __call__(
        self,
        command: Sequence[str],
        folder: Path,
        environment: Mapping[str, str] | None = None,
        watch: Watch | None = None,
    ) -> Finished:
        self.asked.append(command)
        return self._answer


@pytest.fixture
def installed(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    """Whatever is looked for on the path is there; what is fetched into the cache is not this test's concern."""
    monkeypatch.setattr(shutil, "which", lambda name, *_: f"/usr/bin/{name}")
    monkeypatch.setattr(Path, "exists", lambda self: True)


def found(name: str, said: str) -> Found:
    return target(name).toolchain.find(Says(said))


def test_the_table_has_all_targets() -> None:
    assert {*OLDER, "python"} == set(BUILT_IN)
    assert {name for name, _, _ in NEWER} == OLDER.keys()


@pytest.mark.parametrize(("name", "said", "version"), NEWER)
@pytest.mark.usefixtures("installed")
def test_what_is_new_enough_is_ready(name: str, said: str, version: str) -> None:
    answer = found(name, said)
    assert (answer.missing, answer.install) == ((), ())
    assert answer.version.startswith(version)


@pytest.mark.parametrize("name", OLDER)
@pytest.mark.usefixtures("installed")
def test_what_is_too_old_is_missing_with_the_command_that_gets_it(name: str) -> None:
    answer = found(name, OLDER[name])
    assert not answer.ready
    assert "or newer" in answer.missing[0]
    assert answer.install[0].startswith("apt-get install ")


@pytest.mark.parametrize("name", OLDER)
@pytest.mark.parametrize("said", NONSENSE)
@pytest.mark.usefixtures("installed")
def test_a_tool_that_tells_no_version_is_missing(name: str, said: str) -> None:
    """A wrapper that prints something else is no accident of Urform's."""
    answer = found(name, said)
    assert not answer.ready
    assert answer.install


@pytest.mark.parametrize("name", OLDER)
def test_nothing_is_run_that_is_not_there(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shutil, "which", lambda *_: None)

    says = Says("9.9.9")
    answer = target(name).toolchain.find(says)
    assert says.asked == []
    assert not answer.ready
    assert len(answer.missing) == len(answer.install)


def test_pytest_is_asked_of_the_interpreter_that_runs() -> None:
    toolchain = target("python").toolchain
    assert "pytest 9.2.0" in toolchain.find(Says("9.2.0\n")).version
    missing = toolchain.find(Says("No module named 'pytest'\n", 1))
    assert missing.missing == ("pytest",)
    assert "urform[verify]" in missing.install[0]
