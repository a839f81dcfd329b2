"""What sharing saves: a million lanterns with 50 rhythms of 256 pulses, pooled, and each with a rhythm of its own.

Peak memory as the system accounts it to each process when it ends. Takes some minutes and several GiB.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from generated import compile_cpp, compile_rust, compile_typescript

from urform.demo import NAME, demo_text

HERE = Path(__file__).parent / "by_hand/memory"
COUNT = 1_000_000
MIB = 1024  # the system tells KiB


def peak(command: list[str], folder: Path, environment: dict[str, str]) -> float:
    """The most memory that a process had, in MiB."""
    process = subprocess.Popen(command, cwd=folder, env={**os.environ, **environment})
    _, status, usage = os.wait4(process.pid, 0)
    if status:
        sys.exit(f"{' '.join(command)} failed")
    return usage.ru_maxrss / MIB


def commands(folder: Path) -> dict[str, tuple[list[str], Path, dict[str, str]]]:
    """For each target the command without its arguments, compiled beforehand."""
    sources = [str(path) for path in (folder / "java/src/main").rglob("*.java")]
    subprocess.run(["javac", "-d", "bench", *sources, str(HERE / "Lanterns.java")], cwd=folder, check=True)
    shutil.copytree(HERE / "go", folder / "lanterns")
    (folder / "lanterns/go.mod").write_text(
        "module lanterns\n\ngo 1.24\n\nrequire harbour.example/fairway v0.0.0\n\n"
        f"replace harbour.example/fairway => {folder / 'go'}\n"
    )
    subprocess.run(["go", "build", "-o", "../lanterns.exe", "."], cwd=folder / "lanterns", check=True)
    (folder / "typescript/examples").mkdir()
    shutil.copy(HERE / "lanterns.ts", folder / "typescript/examples")
    compile_typescript(folder / "typescript")
    compile_cpp(folder / "cpp", [HERE / "lanterns.cpp"], "lanterns")
    compile_rust(folder / "rust", HERE / "lanterns.rs", "lanterns")
    return {
        "python": (
            [sys.executable, str(HERE / "lanterns.py")],
            folder,
            {"PYTHONPATH": str(folder / "python")},
        ),
        "java": (["java", "-XX:+UseSerialGC", "-Xmx8g", "-cp", "bench", "Lanterns"], folder, {}),
        "go": (["./lanterns.exe"], folder, {}),
        "typescript": (
            ["node", "--max-old-space-size=8192", "typescript/dist/examples/lanterns.js"],
            folder,
            {},
        ),
        "rust": (["rust/lanterns"], folder, {}),
        "cpp": (["cpp/lanterns"], folder, {}),
    }


def main() -> None:
    """Print a line a target."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        (folder / NAME).write_text(demo_text(), encoding="utf-8")
        urform = str(Path(sys.executable).parent / "urform")
        subprocess.run([urform, "generate", NAME, "-q", "-o", "."], cwd=folder, check=True)
        for target, (command, place, environment) in commands(folder).items():
            shared = peak([*command, "shared", str(COUNT)], place, environment)
            own = peak([*command, "own", str(COUNT)], place, environment)
            print(
                f"{target:<10} shared {shared:8,.0f} MiB, own {own:8,.0f} MiB: {own / shared:.0f} times",
                flush=True,
            )


if __name__ == "__main__":
    main()
