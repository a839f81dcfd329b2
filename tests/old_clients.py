"""Clients of old code against new code: the walk-through and the tests of one declaration, compiled with another's project."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import yaml

from tests.conftest import HERE
from urform.declaration import read_string
from urform.languages import target
from urform.languages.java.toolchain import Javac
from urform.languages.placing import CODE
from urform.languages.target import File
from urform.languages.typescript.toolchain import Node
from urform.plan import build, claims_of
from urform.plan.whole import Plan

CHANGES = HERE / "fixtures/changes"
BASE = CHANGES / "base.urform.yaml"


@dataclass(frozen=True)
class Pair:
    """A declaration and what became of it, under a name of their own."""

    name: str
    said: str
    old: Plan
    new: Plan


def base(name: str) -> Plan:
    """What all changes begin with."""
    return _plan(BASE.read_text(encoding="utf-8"), name)


def pairs() -> Iterator[Pair]:
    """The base, and each change of it by itself."""
    text_of_base = BASE.read_text(encoding="utf-8")
    changes = yaml.safe_load((CHANGES / "changes.yaml").read_text(encoding="utf-8"))
    for number, (said, edits) in enumerate(changes.items()):
        name, text = f"pair_{number:02}", text_of_base
        for before, after in edits:
            assert before in text, f"{said}: {before!r} stands nowhere"
            text = text.replace(before, after)
        yield Pair(name, said, base(name), _plan(text, name))


def _plan(text: str, name: str) -> Plan:
    reading = read_string(text.replace("name: fairway", f"name: {name}"), f"{name}.urform.yaml")
    assert reading.declaration is not None, (name, reading.problems)
    return build(reading.declaration)


def mixed(language: str, old: Plan, new: Plan) -> Iterator[File]:
    """The new code under the old clients: its walk-through, its tests, and what its user wrote."""
    of = target(language)
    emission = of.emit(old, claims_of(old))
    yours = [file for file in emission.files if file.users]
    clients = [*of.example(old), *(file for file in emission.files if file.part != CODE and not file.once)]
    given = {file.path for file in (*yours, *clients)}
    yield from (file for file in of.code(new) if file.path not in given)
    yield from (replace(file, users=False) for file in (*yours, *clients))
    yield own(language, old.name)


# Where each language wants the client that is written by hand.
OWN = {
    "cpp": "tests/own_test.cpp",
    "go": "own_test.go",
    "java": "src/test/java/Own.java",
    "python": "examples/own_client.py",
    "rust": "tests/own.rs",
    "typescript": "test/own.ts",
}


def own(language: str, name: str) -> File:
    """A client that is written by hand: a kind and a family of its own, values by their types, each word of a choice."""
    path = OWN[language]
    text = (CHANGES / "clients" / path.rpartition("/")[2]).read_text(encoding="utf-8")
    package = name.replace("_", "") if language == "go" else name
    module = f"{name.replace('_', '-')}.example/{package}"
    return File(path, text.replace("PATH", module).replace("NAME", package))


def write(folder: Path, files: Iterator[File]) -> list[str]:
    """Write files, whatever stands there; returns their paths."""
    paths = []
    for file in files:
        path = folder / file.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(file.text, encoding="utf-8")
        paths.append(file.path)
    return paths


def refused(language: str, root: Path, every: Sequence[Pair]) -> dict[str, str]:
    """What the compiler of a target says of old clients, by the names of pairs; nothing of those that compile."""
    written = {pair.name: write(root / pair.name, mixed(language, pair.old, pair.new)) for pair in every}
    said = COMPILERS[language](root, written)
    found: dict[str, str] = {}
    for line in said.splitlines():
        place = re.search(r"(pair_\d\d)/\S+?[:(]\d+[:,].*", line)
        if place is not None:
            found.setdefault(place[1], place[0])
    return found


def _run(command: Sequence[object], folder: Path) -> str:
    done = subprocess.run(
        list(map(str, command)), cwd=folder, capture_output=True, encoding="utf-8", timeout=900, check=False
    )
    return f"{done.stdout}\n{done.stderr}"


def _go(root: Path, written: Mapping[str, Sequence[str]]) -> str:
    uses = "".join(f"use ./{name}\n" for name in written)
    (root / "go.work").write_text(f"go 1.24\n{uses}", encoding="utf-8")
    return _run(["go", "vet", *(f"./{name}/..." for name in written)], root)


def _python(root: Path, written: Mapping[str, Sequence[str]]) -> str:
    files = []
    for name, paths in written.items():
        for path in paths:
            file = root / name / path
            if file.parent.name == "examples":  # a module of its own in each
                file = file.rename(file.with_name(f"{file.stem}_{name}.py"))
            files += [file.relative_to(root)] if file.suffix == ".py" else []
    config = "[mypy]\nstrict = true\nmypy_path = " + ":".join(written)
    (root / "mypy.ini").write_text(config, encoding="utf-8")
    return _run([sys.executable, "-m", "mypy", "--config-file", "mypy.ini", *files], root)


def _typescript(root: Path, written: Mapping[str, Sequence[str]]) -> str:
    config = {
        "extends": f"./{next(iter(written))}/tsconfig.json",
        "compilerOptions": {"rootDir": "."},
        "include": [f"{name}/{part}" for name in written for part in ("src", "test", "examples")],
    }
    (root / "tsconfig.json").write_text(json.dumps(config), encoding="utf-8")
    modules = Node().modules
    types = ("--typeRoots", modules / "@types")
    return _run([modules / ".bin/tsc", "-p", ".", "--noEmit", "--pretty", "false", *types], root)


def _java(root: Path, written: Mapping[str, Sequence[str]]) -> str:
    files = [f"{name}/{path}" for name, paths in written.items() for path in paths if path.endswith(".java")]
    for name in written:  # in a package of its own: all are called alike
        example = root / name / "examples/WalkThrough.java"
        example.write_text(f"package {name}_walk;\n{example.read_text(encoding='utf-8')}", encoding="utf-8")
    (root / "sources.txt").write_text("\n".join(files), encoding="utf-8")
    options = ("-proc:none", "-nowarn", "-Xmaxerrs", "10000", "-encoding", "UTF-8")
    whole = ("-XDshould-stop.ifError=FLOW", "-XDshould-stop.ifNoError=FLOW")  # every file, and no code for it
    return _run(["javac", *options, *whole, "-cp", Javac().jar, "-d", "classes", "@sources.txt"], root)


def _rust(root: Path, written: Mapping[str, Sequence[str]]) -> str:
    members = ", ".join(f'"{name}"' for name in written)
    (root / "Cargo.toml").write_text(
        f'[workspace]\nresolver = "2"\nmembers = [{members}]\n', encoding="utf-8"
    )
    command = ("cargo", "check", "--offline", "--quiet", "--workspace", "--all-targets", "--keep-going")
    return _run([*command, "--message-format", "short"], root)


def _cpp(root: Path, written: Mapping[str, Sequence[str]]) -> str:
    """Nothing but what the compiler says: no code is made. All tests of a project are one source, to read headers once."""
    options = ("g++", "-std=c++20", "-w")
    (root / "first.hpp").write_text("#include <gtest/gtest.h>\n", encoding="utf-8")
    said = [_run([*options, "-x", "c++-header", "first.hpp", "-o", "first.hpp.gch"], root)]
    for name, paths in written.items():
        own = [path for path in paths if path.endswith("_operations.cpp")]
        tests = [path for path in paths if path.startswith("tests/") and path.endswith(".cpp")]
        for file, sources in (("tests.cpp", [*tests, *own]), ("walk.cpp", ["examples/walkthrough.cpp"])):
            text = "".join(f'#include "{source}"\n' for source in sources)
            (root / name / file).write_text(text, encoding="utf-8")
            folders = [f"-I{name}/{part}" for part in ("include", "tests", "src", ".")]
            whole = ("-fsyntax-only", "-include", "first.hpp", f"{name}/{file}")
            said += [_run([*options, *folders, *whole], root)]
    return "\n".join(said)


COMPILERS: Mapping[str, Callable[[Path, Mapping[str, Sequence[str]]], str]] = {
    "go": _go,
    "python": _python,
    "typescript": _typescript,
    "java": _java,
    "rust": _rust,
    "cpp": _cpp,
}
