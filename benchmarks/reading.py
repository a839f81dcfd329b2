"""What reading a file of records costs beside the language's usual JSON library, used by hand for the same job.

A thousand records without mistakes, as text: parsed, checked and made into products. Each figure is the median of ratios
within one run, in which the two take turns. Run `PYTHONPATH=. python benchmarks/reading.py [TARGET…]`.
"""

from __future__ import annotations

import shutil
import sys
import tempfile
from importlib import resources
from pathlib import Path

from generated import compile_typescript, run
from tests.conftest import VALID, planned
from tests.test_records_of_a_file import the_file

from urform.languages import target
from urform.languages.target import File
from urform.output.writing import write_project

HERE = Path(__file__).parent / "by_hand/reading"
LIBRARIES = {"java": "jackson", "rust": "serde_json", "cpp": "nlohmann"}
BAR = 1.5


def python(project: Path, *given: str) -> str:
    """In the interpreter that runs this."""
    program = str(HERE / "reading.py")
    return run([sys.executable, program, *given], project, {"PYTHONPATH": str(project)})


def java(project: Path, *given: str) -> str:
    """With the library that Maven has fetched."""
    plugin = "org.apache.maven.plugins:maven-dependency-plugin:3.6.1:copy-dependencies"
    run(["mvn", "-q", "-B", plugin, "-DoutputDirectory=jars"], project)
    sources = [str(path) for path in (project / "src/main").rglob("*.java")]
    run(["javac", "-cp", "jars/*", "-d", "bench", *sources, str(HERE / "Reading.java")], project)
    return run(["java", "-cp", "bench:jars/*", "Reading", *given], project)


def go(project: Path, *given: str) -> str:
    """A module of its own that takes the generated one from its folder."""
    bench = project.parent / "go-bench"
    bench.mkdir()
    shutil.copy(HERE / "reading.go", bench)
    (bench / "go.mod").write_text(
        "module byhand\n\ngo 1.24\n\nrequire logbook.example/logbook v0.0.0\n\n"
        f"replace logbook.example/logbook => {project}\n"
    )
    return run(["go", "run", ".", *given], bench, {"GOTOOLCHAIN": "local"})


def typescript(project: Path, *given: str) -> str:
    """Compiled with the package, as its own programs are."""
    (project / "examples").mkdir()
    shutil.copy(HERE / "reading.ts", project / "examples")
    compile_typescript(project)
    return run(["node", "dist/examples/reading.js", *given], project)


def rust(project: Path, *given: str) -> str:
    """A crate of its own, optimised, as a release is."""
    bench = project.parent / "rust-bench"
    (bench / "src").mkdir(parents=True)
    shutil.copy(HERE / "reading.rs", bench / "src/main.rs")
    (bench / "Cargo.toml").write_text(
        '[package]\nname = "bench"\nversion = "0.0.0"\nedition = "2021"\n\n[dependencies]\n'
        f'logbook = {{ path = "{project}", features = ["json"] }}\n'
        'serde = { version = "1", features = ["derive"] }\nserde_json = "1"\n'
    )
    return run(["cargo", "run", "--quiet", "--release", "--", *given], bench)


def cpp(project: Path, *given: str) -> str:
    """Optimised, as a release is."""
    library = str(resources.files("nlohmann_json") / "include")
    sources = [str(path) for path in (project / "src").glob("*.cpp")]
    command = ("g++", "-std=c++20", "-O2", "-Iinclude", "-isystem", library, "-o", "reading")
    run([*command, *sources, str(HERE / "reading.cpp")], project)
    return run(["./reading", *given], project)


PROGRAMS = {"python": python, "java": java, "go": go, "typescript": typescript, "rust": rust, "cpp": cpp}


def main() -> None:
    """A line for each target: milliseconds of both, and the ratio."""
    asked = sys.argv[1:] or list(PROGRAMS)
    (fixture,) = (path for path in VALID if path.name == "records.urform.yaml")
    for name in asked:
        with tempfile.TemporaryDirectory() as place:
            folder = Path(place)
            texts = the_file()[2]
            (folder / "records.json").write_text(f"[{','.join(texts)}]", encoding="utf-8")
            asks = f"targets: {{{name}: {{json: {LIBRARIES[name]}}}}}\n" if name in LIBRARIES else ""
            (folder / "records.urform.yaml").write_text(
                asks + fixture.read_text(encoding="utf-8"), encoding="utf-8"
            )
            pieces = target(name).pieces(planned(folder / "records.urform.yaml")[0], ())
            write_project(folder / "project", [piece for piece in pieces if isinstance(piece, File)])
            said = PROGRAMS[name](folder / "project", str(folder / "records.json"), str(len(texts)))
            own, hand, ratio = map(float, said.split())
            print(f"{name:10} {own:8.2f} ms  by hand {hand:8.2f} ms  {ratio:5.2f} of it (bar {BAR})")


if __name__ == "__main__":
    main()
