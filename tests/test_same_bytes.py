"""The same declaration gives the same bytes: whatever the hash seed, locale, time zone, user, folder or Python."""

from __future__ import annotations

import hashlib
import os
import re
import subprocess
import sys
from collections.abc import Sequence
from functools import cache
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import BUILT_IN, DEMO, ROOT, TRY_ALL, VALID, part_of_today
from urform.plan.characters import UNSEEN, is_plain

pytestmark = pytest.mark.slow
OLDEST = (3, 11)
NEEDED = ("pyyaml", "jinja2", "wcwidth", "platformdirs")
SOME = (next(path for path in VALID if path.name.startswith("hostile")), DEMO)
# Everything that all targets write for some declarations, by the entry points' own objects, as one hash.
HASHED = """
import hashlib, importlib, sys
from pathlib import Path
sys.path.insert(0, sys.argv[1])
from urform.declaration import read
from urform.plan import build, claims_of
from urform.plan.text import plan_text
digest = hashlib.sha256()
for name in sys.argv[3:]:
    plan = build(read(Path(name)).declaration)
    claims = claims_of(plan)
    digest.update(plan_text(plan, claims).encode())
    for target in sys.argv[2].split(","):
        target = importlib.import_module(f"urform.languages.{target}").TARGET
        for file in (*target.emit(plan, claims).files, *target.example(plan)):
            digest.update(f"{file.path}\\0{file.text}\\0".encode())
print(digest.hexdigest())
"""


def hashed(
    python: str, environment: dict[str, str] | None = None, declarations: Sequence[Path] = VALID
) -> str:
    done = subprocess.run(
        [python, "-c", HASHED, str(ROOT / "src"), ",".join(BUILT_IN), *map(str, declarations)],
        capture_output=True,
        encoding="utf-8",
        env={"PATH": os.environ["PATH"], **(environment or {})},
        check=False,
    )
    assert done.returncode == 0, done.stderr[-2000:]
    return done.stdout.strip()


PATHS = {"PYTHONPATH": os.pathsep.join(sys.path)}


@cache
def hashed_plainly() -> str:
    return hashed(sys.executable, PATHS, SOME)


def others() -> dict[str, str]:
    """The other Pythons of this machine that Urform supports, by version."""
    folders = [Path(folder) for folder in os.environ["PATH"].split(os.pathsep)]
    folders += sorted(Path(sys.base_prefix).parent.glob("*/bin"))  # beside the one that runs
    found: dict[str, str] = {}
    for path in (path for folder in folders for path in folder.glob("python3.[0-9]*")):
        version = re.fullmatch(r"python3\.(\d+)", path.name)
        if version and (3, int(version[1])) >= OLDEST and (3, int(version[1])) != sys.version_info[:2]:
            runs = subprocess.run([str(path), "-c", ""], capture_output=True, check=False).returncode == 0
            found |= {version[0]: str(path)} if runs and version[0] not in found else {}
    return found


def _number(python: tuple[str, str]) -> int:
    return int(python[0].rpartition(".")[2])


@pytest.mark.toolchain
def test_another_python_writes_the_same_bytes(tmp_path: Path) -> None:
    """The newest that is installed; a ninth of the declarations, another one each day."""
    some = VALID if TRY_ALL else VALID[part_of_today(9) :: 9]
    own = hashed(sys.executable, declarations=some)
    pythons = others()
    if not pythons:
        pytest.skip(f"no other Python from {OLDEST} on is installed here")
    name, python = max(pythons.items(), key=_number)
    site = tmp_path / name
    install = [python, *"-m pip install -q --disable-pip-version-check --target".split(), str(site), *NEEDED]
    subprocess.run(install, check=True, env={**os.environ, "PYTHONPATH": ""})
    assert hashed(python, {"PYTHONPATH": str(site)}, some) == own, name


@pytest.mark.parametrize(
    "environment",
    [
        {"PYTHONHASHSEED": "0"},
        {"PYTHONHASHSEED": "4711"},
        {"LC_ALL": "C", "LANG": "C", "PYTHONUTF8": "0"},
        {"LC_ALL": "tr_TR.UTF-8", "LANG": "tr_TR.UTF-8"},
        {"TZ": "Pacific/Kiritimati"},
        {"HOME": "/nonexistent", "USER": "somebody"},
        {"PYTHONOPTIMIZE": "2"},
    ],
    ids=lambda environment: " ".join(f"{key}={value}" for key, value in environment.items()),
)
def test_the_environment_changes_nothing(environment: dict[str, str]) -> None:
    assert hashed(sys.executable, {**PATHS, **environment}, SOME) == hashed_plainly()


def test_the_command_writes_the_same_bytes_anywhere(tmp_path: Path) -> None:
    """The manifest too; only what is in the file counts, not when it was written nor where it stands."""

    def tree(folder: Path, environment: dict[str, str]) -> dict[str, str]:
        folder.mkdir(parents=True)
        source = folder / DEMO.name
        source.write_bytes(DEMO.read_bytes())
        os.utime(source, (0, len(folder.name)))
        command = [str(Path(sys.executable).parent / "urform"), "generate", "--example", "-q", "-o", "out"]
        subprocess.run(command, cwd=folder, check=True, env={**os.environ, **environment})
        return {
            path.relative_to(folder).as_posix(): hashlib.sha256(path.read_bytes()).hexdigest()
            for path in sorted((folder / "out").rglob("*"))
            if path.is_file()
        }

    one = tree(tmp_path / "one", {"PYTHONHASHSEED": "1"})
    other = tree(tmp_path / "quite/another place", {"PYTHONHASHSEED": "2", "TZ": "Asia/Tokyo", "LC_ALL": "C"})
    assert one == other
    assert any(path.endswith(".urform.json") for path in one)


@given(st.characters())
def test_what_is_plain_can_be_seen(char: str) -> None:
    """Of characters that this Python knows, it says the same."""
    import unicodedata

    if unicodedata.category(char) != "Cn":
        assert is_plain(char) == char.isprintable()
    assert not (is_plain(char) and UNSEEN.match(char))
