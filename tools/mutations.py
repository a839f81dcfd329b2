"""How many small mistakes in the code that writes code the quick tests notice.

    python tools/mutations.py [COUNT [SEED]]

Each mutation changes one place of `src/urform/languages` in a copy of the project: an operator, a constant, a branch, a
statement, a line of a template; words that are names alone are left, for without them nothing runs. Then the quick tests
run, those that compare generated code with what it was first. Each is printed with what noticed it.
"""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parent.parent
CODE = Path("src/urform/languages")
AT_ONCE = 2
SECONDS = 900
FIRST = ["tests/test_unchanged.py"]
QUICK = ["-m", "not toolchain and not slow"]
Span = tuple[int, int]  # where something begins, and ends
COMPARISONS = {
    ast.Eq: ("==", "!="),
    ast.NotEq: ("!=", "=="),
    ast.Lt: ("<", "<="),
    ast.LtE: ("<=", "<"),
    ast.Gt: (">", ">="),
    ast.GtE: (">=", ">"),
    ast.In: ("in", "not in"),
    ast.NotIn: ("not in", "in"),
    ast.Is: ("is", "is not"),
    ast.IsNot: ("is not", "is"),
}


@dataclass(frozen=True)
class Mutation:
    """Text that stands in a file from one offset to another, and what stands there instead."""

    path: Path
    begin: int
    end: int
    instead: str

    def told(self) -> str:
        text = (ROOT / self.path).read_text(encoding="utf-8")
        line = text.count("\n", 0, self.begin) + 1
        before = " ".join(text[self.begin : self.end].split())
        return f"{self.path.relative_to(CODE)}:{line}: {before[:70]!r} became {self.instead[:70]!r}"


def mutations() -> list[Mutation]:
    """Everything that may be changed, in a fixed order."""
    found: list[Mutation] = []
    for path in sorted((ROOT / CODE).rglob("*")):
        relative = path.relative_to(ROOT)
        if path.suffix == ".jinja":
            found += _of_template(relative, path.read_text(encoding="utf-8"))
        elif path.suffix == ".py" and "support" not in path.parts:
            found += _of_module(relative, path.read_text(encoding="utf-8"))
    return found


def _of_template(path: Path, text: str) -> Iterator[Mutation]:
    """Each line that is written, left out."""
    at = 0
    for line in text.splitlines(keepends=True):
        if line.strip() and not line.lstrip().startswith(("%%", "«#", "«%")):
            yield Mutation(path, at, at + len(line), "")
        at += len(line)


def _of_module(path: Path, text: str) -> Iterator[Mutation]:
    starts = [0]
    for line in text.encode().splitlines(keepends=True):
        starts.append(starts[-1] + len(line))
    encoded = text.encode()

    def span(node: ast.AST) -> Span:
        begin = starts[node.lineno - 1] + node.col_offset  # type: ignore[attr-defined]
        end = starts[node.end_lineno - 1] + node.end_col_offset  # type: ignore[attr-defined]
        return len(encoded[:begin].decode()), len(encoded[:end].decode())

    for node in _nodes(ast.parse(text)):
        yield from (Mutation(path, *place, instead) for place, instead in _of_node(node, text, span))


def _nodes(node: ast.AST) -> Iterator[ast.AST]:
    """What stands in functions, but no documentation, no types, and nothing in formatted strings, where places are unknown."""
    for child in ast.iter_child_nodes(node):
        if isinstance(child, (ast.JoinedStr, ast.Import, ast.ImportFrom)):
            continue
        if isinstance(child, ast.Expr) and isinstance(child.value, ast.Constant):
            continue
        if isinstance(child, ast.arguments):
            continue
        if isinstance(child, ast.AnnAssign):
            children: list[ast.AST] = [child.value] if child.value is not None else []
        else:
            children = [child]
        for each in children:
            yield each
            yield from _nodes(each)


def _of_node(node: ast.AST, text: str, span: Callable[[ast.AST], Span]) -> Iterator[tuple[Span, str]]:
    def between(left: ast.AST, sign: str, right: ast.AST, other: str) -> Iterator[tuple[Span, str]]:
        at = text.find(sign, span(left)[1], span(right)[0])
        if at >= 0:
            yield (at, at + len(sign)), other

    match node:
        case ast.Compare(left, [op], [right]):
            sign, other = COMPARISONS[type(op)]
            yield from between(left, sign, right, other)
        case ast.BoolOp(op, values):
            sign, other = ("and", "or") if isinstance(op, ast.And) else ("or", "and")
            yield from between(values[0], sign, values[1], other)
        case ast.UnaryOp(ast.Not()):
            begin, _ = span(node)
            yield (begin, begin + len("not")), ""
        case ast.Constant(bool() as value):
            yield span(node), str(not value)
        case ast.Constant(int() as value):
            yield span(node), str(value + 1)
        case ast.Constant(str() as value) if value and not value.isidentifier():
            yield span(node), '""'
        case ast.IfExp(test, body, orelse):
            (a, b), (c, d), (e, f) = span(body), span(test), span(orelse)
            yield (a, f), f"{text[e:f]} if {text[c:d]} else {text[a:b]}"
        case ast.Expr(ast.Yield() | ast.YieldFrom() | ast.Call()) | ast.AugAssign():
            yield span(node), "pass"


def _asked(folder: Path, *arguments: str) -> bool:
    """Whether some test fails."""
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-q",
        "-x",
        "-p",
        "no:cacheprovider",
        "-p",
        "no:xdist",
        *arguments,
    ]
    environment = {**os.environ, "PYTHONPATH": str(folder / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        done = subprocess.run(
            command, cwd=folder, env=environment, capture_output=True, timeout=SECONDS, check=False
        )
    except subprocess.TimeoutExpired:
        return True
    return done.returncode != 0


def tried(mutation: Mutation) -> tuple[Mutation, str]:
    """By what a mutation is noticed: the comparison of generated code, another test, or nothing."""
    with tempfile.TemporaryDirectory(prefix="urform-mutation-") as name:
        folder = Path(name) / "project"
        shutil.copytree(
            ROOT, folder, ignore=shutil.ignore_patterns(".git", ".venv", "__pycache__", "benchmarks")
        )
        path = folder / mutation.path
        text = path.read_text(encoding="utf-8")
        path.write_text(text[: mutation.begin] + mutation.instead + text[mutation.end :], encoding="utf-8")
        if _asked(folder, *FIRST, *QUICK):
            return mutation, "generated code"
        others = [f"--ignore={path}" for path in FIRST]
        return mutation, "another test" if _asked(folder, "tests", *others, *QUICK) else "nothing"


def main() -> None:
    """Try some, and print by what each was noticed."""
    count, seed = (*map(int, sys.argv[1:]), *(200, 1)[len(sys.argv) - 1 :])
    every = mutations()
    chosen = random.Random(seed).sample(every, count)
    noticed: Counter[str] = Counter()
    with ThreadPoolExecutor(AT_ONCE) as pool:
        for each in as_completed(pool.submit(tried, mutation) for mutation in chosen):
            mutation, by = each.result()
            noticed[by] += 1
            print(f"{sum(noticed.values())} noticed by {by}: {mutation.told()}", flush=True)
    print(f"{len(every)} possible, {count} tried with seed {seed}: {dict(noticed)}")


if __name__ == "__main__":
    main()
