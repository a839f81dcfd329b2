"""What generating costs: 100 and 1,000 products of 12 fields in all targets, beside a plain copy of the same files.

Run `make benchmark`, or give numbers of products: 10,000 take minutes. Ratios within one run are what counts; machines are noisy.
"""

from __future__ import annotations

import contextlib
import re
import shutil
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path

from urform.languages import known_targets

SAMPLED = 0.2  # seconds between two looks at the memory

FIELDS = """\
      station: {type: integer, min: 1, max: 9999}
      name: {type: text, not_blank: true, max_length: 40}
      height: {type: real, above: 0}
      lit: boolean
      side: Side
      codes: {type: list<integer>, each: {min: 0}}
    optional:
      remarks: {type: text, max_length: 200}
      reflective: {type: boolean, default: true}
      depth: {type: real, min: 0, default: 1.5}
      other_side: Side
      tags: {type: list<text>, max_length: 9}
      crew: {type: integer, min: 1, default: 2}
"""


def declaration(products: int) -> str:
    """A declaration with that many products of 12 fields."""
    body = "".join(f"  Mark{number}:\n    required:\n{FIELDS}" for number in range(products))
    return f"urform: 1\nname: harbour\nchoices: {{Side: {{values: [port, starboard]}}}}\nproducts:\n{body}"


def generate(source: Path, out: Path) -> tuple[float, int, int]:
    """Seconds that the command takes, start included, the lines that it tells of, and the memory of all its processes in MiB."""
    command = [str(Path(sys.executable).parent / "urform"), "generate", str(source), "-o", str(out)]
    started = time.perf_counter()
    process = subprocess.Popen(command, stdout=subprocess.PIPE, encoding="utf-8")
    most = 0
    while process.poll() is None:
        most = max(most, sum(map(_held, _family(process.pid))))
        time.sleep(SAMPLED)
    seconds = time.perf_counter() - started
    assert process.stdout is not None
    assert process.returncode == 0
    lines = sum(int(lines) for lines in re.findall(r"(\d+) lines in all", process.stdout.read()))
    return seconds, lines, most // 1024


def _family(process: int) -> list[int]:
    """A process and its children."""
    found = [process]
    for task in Path(f"/proc/{process}/task").glob("*/children"):
        with contextlib.suppress(OSError):
            found += [int(child) for child in task.read_text(encoding="ascii").split()]
    return found


def _held(process: int) -> int:
    """The memory of a process in KiB; what several share counts once among them."""
    with contextlib.suppress(OSError):
        text = Path(f"/proc/{process}/smaps_rollup").read_text(encoding="ascii")
        found = re.search(r"^Pss:\s+(\d+)", text, re.MULTILINE)
        return int(found[1]) if found else 0
    return 0


@dataclass(frozen=True)
class Cost:
    """What one size costs."""

    products: int
    first: float  # seconds
    again: float  # with nothing changed
    copied: float  # a plain copy of the files
    lines: int
    memory: int  # MiB

    def __str__(self) -> str:
        return (
            f"{self.products:>6,} products: {self.first:6.2f} s, {self.lines:,} lines, {self.lines / self.first:,.0f} a second; "
            f"again {self.again / self.first:.2f} of it; a copy of the files {self.copied:.2f} s; {self.memory} MiB"
        )


def cost(products: int, folder: Path) -> Cost:
    """Generate, generate again, copy."""
    source = folder / f"many{products}.urform.yaml"
    source.write_text(declaration(products), encoding="utf-8")
    out, copy = folder / f"out{products}", folder / f"copy{products}"
    first, lines, memory = generate(source, out)
    again, _, _ = generate(source, out)
    started = time.perf_counter()
    shutil.copytree(out, copy)
    copied = time.perf_counter() - started
    shutil.rmtree(copy)
    shutil.rmtree(out)
    return Cost(products, first, again, copied, lines, memory)


def main() -> None:
    """Print the figures."""
    sizes = [int(size) for size in sys.argv[1:]] or [100, 1000]
    print(f"targets: {', '.join(known_targets())}")
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        cost(5, folder)  # what the system reads from disk once is read before anything is measured
        costs = []
        for size in sizes:
            costs.append(cost(size, folder))
            print(costs[-1], flush=True)
    for small, large in pairwise(costs):
        times = large.products / small.products
        print(
            f"{large.products:,} cost {large.first / small.first:.1f} times what {small.products:,} cost, "
            f"and {large.memory / small.memory:.1f} times the memory ({times:.0f} times as many)"
        )


if __name__ == "__main__":
    main()
