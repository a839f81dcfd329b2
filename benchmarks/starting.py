"""What starting costs: `urform --version` beside a bare interpreter, in turn, several times.

Run `make benchmark`. The bar is six times `python -c pass`.
"""

from __future__ import annotations

import statistics
import subprocess
import sys
import time
from pathlib import Path

ROUNDS = 15


def seconds(command: list[str]) -> float:
    """The wall time of a command."""
    started = time.perf_counter()
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - started


def main() -> None:
    """Print the figures."""
    bare = [sys.executable, "-c", "pass"]
    urform = [str(Path(sys.executable).parent / "urform"), "--version"]
    pairs = [(seconds(urform), seconds(bare)) for _ in range(ROUNDS)]
    ratios = [own / other for own, other in pairs]
    print(f"urform --version {statistics.median(own for own, _ in pairs) * 1000:.0f} ms, ", end="")
    print(f"python -c pass {statistics.median(other for _, other in pairs) * 1000:.0f} ms, ", end="")
    print(f"ratio {statistics.median(ratios):.1f} (bar: 6)")


if __name__ == "__main__":
    main()
