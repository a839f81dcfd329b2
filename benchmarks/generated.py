"""What generated code costs beside what a careful author writes by hand for the same job in the same language.

Each figure is a ratio within one run: the two are measured in turn, the median is told. Run `make benchmark`.
The yardsticks are in `by_hand/`: the same limits, copies and errors, in the fastest plain way of the language. A pool's hit is
held against a read of the language's own (concurrent) map with the same key, and a clone in Python against `copy.deepcopy` too.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

from urform.demo import NAME, demo_text

HERE = Path(__file__).parent / "by_hand"
# For each job the bar, and whether more is better.
BARS = {
    **{(target, "pool"): 1.5 for target in ("python", "java", "go", "typescript", "rust", "cpp")},
    **{
        (target, job): 1.3
        for target in ("python", "typescript")
        for job in ("position", "leg", "setter", "factory")
    },
}
HAND = 1.1
DEEPCOPY = 15.0
FORKS = 5


def run(command: list[str], folder: Path, environment: dict[str, str] | None = None) -> str:
    """The output of a command that has to succeed."""
    done = subprocess.run(
        command,
        cwd=folder,
        env={**os.environ, **(environment or {})},
        capture_output=True,
        encoding="utf-8",
        check=False,
    )
    if done.returncode:
        sys.exit(f"{' '.join(command)}:\n{done.stdout}{done.stderr}")
    return done.stdout


def python(project: Path) -> str:
    """In the interpreter that runs this."""
    return run([sys.executable, str(HERE / "measure.py")], project, {"PYTHONPATH": f"{project}:{HERE}"})


def java(project: Path) -> str:
    """All sources in one javac; several JVMs, for each compiles hot code its own way."""
    sources = [str(path) for path in (project / "src/main").rglob("*.java")]
    sources += [str(path) for path in (HERE / "java").glob("*.java")]
    run(["javac", "-d", "bench", *sources], project)
    runs = [run(["java", "-cp", "bench", "Measure"], project).split() for _ in range(FORKS)]
    lines = []
    for at in range(0, len(runs[0]), 3):
        middle = sorted(runs, key=lambda words: float(words[at + 1]))[FORKS // 2]
        lines.append(" ".join(middle[at : at + 3]))
    return "\n".join(lines)


def go(project: Path) -> str:
    """A module of its own that takes the generated one from its folder."""
    bench = project.parent / "go-bench"
    shutil.copytree(HERE / "go", bench)
    (bench / "go.mod").write_text(
        "module byhand\n\ngo 1.24\n\nrequire harbour.example/fairway v0.0.0\n\n"
        f"replace harbour.example/fairway => {project}\n"
    )
    return run(["go", "run", "."], bench, {"GOTOOLCHAIN": "local"})


def typescript(project: Path) -> str:
    """Compiled with the package, as its own programs are."""
    shutil.copytree(HERE / "typescript", project / "examples")
    compile_typescript(project)
    return run(["node", "dist/examples/measure.js"], project)


def compile_typescript(project: Path) -> None:
    """By the compiler that verifies it."""
    from urform.languages import target
    from urform.languages.typescript.toolchain import Node
    from urform.verification.processes import Processes

    toolchain = target("typescript").toolchain
    assert isinstance(toolchain, Node)
    done = toolchain.compiled(project, Processes().run, "dist")
    if done.status:
        sys.exit(done.output + done.errors)


def rust(project: Path) -> str:
    """Optimised, as a release is."""
    compile_rust(project, HERE / "rust/main.rs", "measure")
    return run(["./measure"], project)


def compile_rust(project: Path, source: Path, program: str) -> None:
    """The generated crate, and a program that uses it."""
    common = ["rustc", "--edition", "2021", "-O"]
    run([*common, "--crate-name", "fairway", "--crate-type", "rlib", "src/lib.rs"], project)
    # What is written by hand is a crate of its own too, or the program would be compiled with it in view.
    by_hand = HERE / "rust/by_hand.rs"
    run([*common, "--crate-type", "rlib", "-A", "dead_code", str(by_hand)], project)
    uses = [f"--extern={crate}=lib{crate}.rlib" for crate in ("fairway", "by_hand")]
    run([*common, *uses, "-o", program, str(source)], project)


def cpp(project: Path) -> str:
    """Optimised, as a release is."""
    compile_cpp(project, [HERE / "cpp/main.cpp", HERE / "cpp/by_hand.cpp"], "measure")
    return run(["./measure"], project)


def compile_cpp(project: Path, sources: list[Path], program: str) -> None:
    """The generated library, and a program that uses it."""
    generated = sorted((project / "src").glob("*.cpp"))
    run(
        [
            "g++",
            "-std=c++20",
            "-O2",
            "-Iinclude",
            "-o",
            program,
            *map(str, [*sources, *generated]),
            "-lpthread",
        ],
        project,
    )


def figures() -> Iterator[tuple[str, str, float, float]]:
    """Target, job, ratio and nanoseconds."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        (folder / NAME).write_text(demo_text(), encoding="utf-8")
        urform = str(Path(sys.executable).parent / "urform")
        run([urform, "generate", NAME, "-q", "-o", "."], folder)
        for measure in (python, java, go, typescript, rust, cpp):
            for line in measure(folder / measure.__name__).splitlines():
                job, ratio, nanoseconds = line.split()
                yield measure.__name__, job, float(ratio), float(nanoseconds)


def main() -> None:
    """Print a line a figure."""
    broken = []
    for target, job, ratio, nanoseconds in figures():
        if job == "deepcopy":
            print(f"{target:<10} clone    {ratio:6.1f} times as fast as copy.deepcopy (bar: {DEEPCOPY:g})")
            broken += [job] if ratio < DEEPCOPY else []
            continue
        bar = BARS.get((target, job), HAND)
        beside = "a read of the language's own map" if job == "pool" else "the same by hand"
        print(f"{target:<10} {job:<8} {ratio:6.2f} times {beside} (bar: {bar:g}), {nanoseconds:,.0f} ns")
        broken += [f"{target} {job}"] if ratio > bar else []
    if broken:
        print(f"over the bar in this run: {', '.join(broken)}")


if __name__ == "__main__":
    main()
