"""Files, folders and rights that mean harm, or are just broken: a clear error with its place, nothing lost, never a traceback."""

from __future__ import annotations

import os
import resource
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path

import pytest

from tests.conftest import STARTER
from urform.declaration import read
from urform.languages.target import File
from urform.output.folder import OutputError
from urform.output.writing import apply, changes

pytestmark = pytest.mark.slow
MIB = 1024 * 1024
SECONDS = 40  # after which a run is killed; what they take on a quiet machine stands in docs/reliability.md
MOST = 1024 * MIB  # bytes that a run may hold
NOBODY = 65534


@dataclass(frozen=True)
class Done:
    status: int
    out: str
    err: str
    held: int  # bytes, at most


def urform(*arguments: object, folder: Path, prepared: Callable[[], None] | None = None) -> Done:
    """The built command with a time limit, and the memory that it took."""
    command = [str(Path(sys.executable).parent / "urform"), *map(str, arguments)]
    with (folder.parent / "out.txt").open("w+b") as out, (folder.parent / "err.txt").open("w+b") as err:
        process = subprocess.Popen(
            ["timeout", "-k", "1", str(SECONDS), *command],
            cwd=folder,
            stdout=out,
            stderr=err,
            stdin=subprocess.DEVNULL,
            preexec_fn=prepared,
            env={**os.environ, "NO_COLOR": "1", "COLUMNS": "120", "PYTHONDONTWRITEBYTECODE": "1"},
        )
        _, status, usage = os.wait4(process.pid, 0)
        process.returncode = os.waitstatus_to_exitcode(status)
        out.seek(0)
        err.seek(0)
        said, told = (stream.read().decode("utf-8", "replace") for stream in (out, err))
    return Done(process.returncode, said, told, usage.ru_maxrss * 1024)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    path = tmp_path / "work"
    path.mkdir()
    return path


# --- declarations ---------------------------------------------------------------------------------------

HEAD = "urform: 1\nname: x\n"


def by_values(refuse: str) -> str:
    return (
        f"{HEAD}products: {{P: {{required: {{a: integer}}, variants: {{A: {{}}, B: {{}}}}, factory: {{form: by_values, "
        f'refuse: ["{refuse}"], choose: [{{use: A, when: a == 1}}, {{use: B}}]}}}}}}\n'
    )


BOMB = "a: &a [x, x, x, x, x, x, x, x, x]\n" + "".join(
    f"{name}: &{name} [{', '.join([f'*{before}'] * 9)}]\n"
    for before, name in zip("abcdefghij", "bcdefghijk", strict=True)
)
FILES: dict[str, tuple[str, Callable[[], str | bytes]]] = {
    "alias bomb": ("alias-bomb", lambda: BOMB),
    "endless alias": ("endless-alias", lambda: f"{HEAD}doc: &a [*a]\n"),
    "100,000 brackets": ("too-deep", lambda: f"{HEAD}doc: {'[' * 100_000}"),
    "100,000 braces": ("too-deep", lambda: '{"a":' * 100_000),
    "100,000 dashes": ("too-deep", lambda: "- " * 100_000),
    "3,000 indents": ("too-deep", lambda: HEAD + "\n".join(" " * n + "a:" for n in range(3000))),
    "100,000 parentheses in a condition": ("bad-condition", lambda: by_values("(" * 100_000)),
    "100,000 nots in a condition": ("bad-condition", lambda: by_values("not " * 100_000 + "a == 1")),
    "100,000 comparisons": ("bad-condition", lambda: by_values("a == 1 and " * 100_000 + "a == 1")),
    "100,000 lists in a type": (
        "bad-type",
        lambda: f"{HEAD}products: {{P: {{required: {{a: '{'list<' * 100_000}'}}}}}}\n",
    ),
    "50 MiB of comments": ("too-large", lambda: "# comment\n" * (5 * MIB)),
    "15 MiB of products": (
        "alias-bomb",
        lambda: f"{HEAD}products:\n" + "".join(f"  P{n}: {{}}\n" for n in range(1_050_000)),
    ),
    "15 MiB of list": ("alias-bomb", lambda: f"{HEAD}doc: [{'1,' * (7 * MIB)}]\n"),
    "15 MiB of one name": ("long-name", lambda: f"urform: 1\nname: {'x' * (15 * MIB)}\n"),
    "15 MiB of one key": ("long-name", lambda: f"{HEAD}products:\n  ? {'X' * (15 * MIB)}\n  : {{}}\n"),
    "15 MiB of digits": ("wrong-shape", lambda: f"urform: {'9' * (15 * MIB)}\nname: x\n"),
    "15 MiB of line ends": (
        "bad-name",
        lambda: 'urform: 1\nname: "' + "\\n" * 60 + '"\n' + "#\n" * (7 * MIB),
    ),
    "500,000 duplicate keys": ("too-many-problems", lambda: "urform: 1\n" + "name: x\n" * 500_000),
    "300,000 unknown keys": (
        "too-many-problems",
        lambda: HEAD + "".join(f"k{n}: x\n" for n in range(300_000)),
    ),
    "no UTF-8": ("not-utf8", lambda: b"urform: 1\nname: \xff\n"),
    "no UTF-8, far away": ("not-utf8", lambda: b"urform: 1\n" * 400_000 + b"\xff"),
    "UTF-16": ("not-utf8", lambda: HEAD.encode("utf-16")),
    "a NUL": ("not-yaml", lambda: f"{HEAD}doc: \0\n"),
    "nothing": ("empty-file", lambda: ""),
    "several documents": ("several-documents", lambda: f"{HEAD}---\n{HEAD}"),
    "a tag of Python": ("odd-tag", lambda: f"{HEAD}doc: !!python/object/apply:os.abort []\n"),
    "a tag of its own": ("odd-tag", lambda: f"{HEAD}doc: !harm x\n"),
}


@pytest.mark.parametrize("name", FILES)
def test_a_hostile_file_is_told(name: str, folder: Path) -> None:
    slug, content = FILES[name]
    written = content()
    path = folder / "harm.urform.yaml"
    path.write_bytes(written if isinstance(written, bytes) else written.encode())
    done = urform("check", path, folder=folder)
    assert done.status == 1, done.err[-2000:]
    assert slug in done.err
    assert f"{path}:" in done.err
    assert "Traceback" not in done.err
    assert len(done.err) < MIB
    assert done.held < MOST


@pytest.mark.parametrize("path", ["/dev/zero", "/dev/null", "/dev/stdin", "/proc/self/mem", "."])
def test_what_is_no_file_is_not_read(path: str, folder: Path) -> None:
    done = urform("check", path, folder=folder)
    assert (done.status, "unreadable" in done.err, "Traceback" in done.err) == (1, True, False)


# --- folders --------------------------------------------------------------------------------------------


def as_nobody(work: Callable[[], object]) -> str:
    """What work says that fails, in a process without the rights that the user root has everywhere."""
    reading, writing = os.pipe()
    child = os.fork()
    if child == 0:
        if os.getuid() == 0:
            os.setgroups([])
            os.setgid(NOBODY)
            os.setuid(NOBODY)
        try:
            said = str(work())
        except OutputError as error:
            said = str(error)
        os.write(writing, said.encode())
        os._exit(0)
    os.close(writing)
    with os.fdopen(reading, "rb") as said_by_child:
        said = said_by_child.read().decode()
    assert os.waitpid(child, 0)[1] == 0
    return said


def everything(folder: Path) -> dict[str, bytes]:
    return {str(path.relative_to(folder)): path.read_bytes() for path in folder.rglob("*") if path.is_file()}


def open_to_all(folder: Path) -> None:
    """Let everybody come as far as the folder."""
    for parent in (folder, *folder.parents[:4]):
        parent.chmod(parent.stat().st_mode | 0o555)


def test_a_folder_without_rights_is_told(folder: Path) -> None:
    open_to_all(folder)
    out = folder / "out"
    apply(out, [File("a.txt", "one\n"), File("b/c.txt", "two\n")], owner="harbour")
    before = everything(out)
    for path in (out, *out.rglob("*")):
        path.chmod(0o555 if path.is_dir() else 0o444)
    more = [File("a.txt", "one\n"), File("b/c.txt", "two, again\n"), File("d.txt", "three\n")]
    assert "ermission denied" in as_nobody(lambda: apply(out, more, owner="harbour"))
    assert everything(out) == before
    assert "Change(" in as_nobody(lambda: changes(out, more, owner="harbour")), (
        "looking needs no rights to write"
    )
    for path in (out, *out.rglob("*")):
        path.chmod(0o755 if path.is_dir() else 0o644)
    apply(out, more, owner="harbour")
    assert everything(out)["b/c.txt"] == b"two, again\n"


def test_a_declaration_without_rights_is_told(folder: Path) -> None:
    open_to_all(folder)
    path = folder / "harbour.urform.yaml"
    path.write_bytes(STARTER.read_bytes())
    path.chmod(0)
    said = as_nobody(lambda: [problem.message for problem in read(path).problems])
    assert "cannot be read: Permission denied" in said


def limited(size: int) -> Callable[[], None]:
    """No file may become larger: what a full disk is to a process."""
    return lambda: resource.setrlimit(resource.RLIMIT_FSIZE, (size, size))


@contextmanager
def small_disk(place: Path, size: int) -> Iterator[None]:
    place.mkdir()
    mounted = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", f"size={size}", "none", str(place)], capture_output=True, check=False
    )
    if mounted.returncode:
        pytest.skip(f"no right to mount a small disk: {mounted.stderr.decode()}")
    try:
        yield
    finally:
        subprocess.run(["umount", str(place)], check=True)


def grown(folder: Path) -> None:
    """Declare more, so that more has to be written."""
    path = folder / "harbour.urform.yaml"
    more = "".join(
        f"  Mark{n}: {{required: {{a: integer, b: text}}, optional: {{c: list<text>}}}}\n" for n in range(40)
    )
    path.write_text(
        path.read_text(encoding="utf-8").replace("products:\n", f"products:\n{more}"), encoding="utf-8"
    )


def test_a_full_disk_loses_nothing(folder: Path) -> None:
    with small_disk(folder / "disk", 480 * 1024):
        (folder / "harbour.urform.yaml").write_bytes(STARTER.read_bytes())
        assert urform("generate", "-o", "disk/out", folder=folder).status == 0
        before = everything(folder / "disk")
        grown(folder)
        done = urform("generate", "-t", "go", "-o", "disk/out", folder=folder)
        assert (done.status, "No space left" in done.err, "Traceback" in done.err) == (3, True, False), (
            done.err
        )
        assert everything(folder / "disk") == before


def test_a_file_that_may_not_grow_is_told(folder: Path) -> None:
    (folder / "harbour.urform.yaml").write_bytes(STARTER.read_bytes())
    done = urform("generate", "-o", "out", folder=folder, prepared=limited(4096))
    assert (done.status, "File too large" in done.err, "Traceback" in done.err) == (3, True, False), done.err
    assert not any(path.is_file() for path in (folder / "out").rglob("*")), "not even half of it"


def test_an_output_folder_that_is_a_file_is_told(folder: Path) -> None:
    (folder / "harbour.urform.yaml").write_bytes(STARTER.read_bytes())
    (folder / "out").write_text("mine\n", encoding="utf-8")
    done = urform("generate", "-o", "out", folder=folder)
    assert (done.status, "Traceback" in done.err) == (3, False), done.err
    assert (folder / "out").read_text(encoding="utf-8") == "mine\n"


# --- killed, and failures inside ------------------------------------------------------------------------


def test_a_killed_command_is_repaired_by_the_next(folder: Path) -> None:
    """Killed after every 15 ms more, it leaves nothing that the next run does not know."""
    (folder / "harbour.urform.yaml").write_bytes(STARTER.read_bytes())
    command = [str(Path(sys.executable).parent / "urform"), "generate", "-o", "out"]
    for step in range(12):
        grown(folder) if step == 6 else None
        process = subprocess.Popen(command, cwd=folder, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        with suppress(subprocess.TimeoutExpired):
            process.wait(0.25 + 0.03 * step)
        process.kill()
        process.wait()
    done = urform("generate", "-o", "out", folder=folder)
    assert (done.status, "edited" in done.err) == (0, False), done.err
    assert urform("generate", "-o", "out", "--check", folder=folder).status == 0
    assert not list((folder / "out").rglob(".urform-*"))


BROKEN_TARGET = """
from functools import cached_property
from urform.languages.target import Target

class Broken(Target):
    name = "broken"
    capabilities = frozenset()
    def pieces(self, plan, claims):
        raise RuntimeError("the mooring\\nparted")
    @cached_property
    def toolchain(self):
        raise NotImplementedError

TARGET = Broken()
"""


def test_a_failure_inside_is_told_in_two_lines(
    folder: Path, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    site = tmp_path / "site"
    info = site / "broken_target-1.dist-info"
    info.mkdir(parents=True)
    (site / "broken_target.py").write_text(BROKEN_TARGET, encoding="utf-8")
    (info / "METADATA").write_text(
        "Metadata-Version: 2.1\nName: broken-target\nVersion: 1\n", encoding="utf-8"
    )
    (info / "entry_points.txt").write_text(
        "[urform.languages]\nbroken = broken_target:TARGET\n", encoding="utf-8"
    )
    monkeypatch.setenv("PYTHONPATH", str(site))
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    (folder / "harbour.urform.yaml").write_bytes(STARTER.read_bytes())
    done = urform("generate", "-t", "broken", "-o", "out", folder=folder)
    assert done.status == 3
    first, second = done.err.splitlines()
    assert "not your fault" in first
    (details,) = tmp_path.glob("urform-failure-*.txt")
    assert str(details) in second
    assert "RuntimeError: the mooring" in details.read_text(encoding="utf-8")
