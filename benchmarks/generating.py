"""What generating costs: 100 and 1,000 products of 12 fields in all targets, beside a plain copy of the same files.

Run `make benchmark`. Ratios within one run are what counts; machines are noisy.
"""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from urform.languages import known_targets

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


def generate(source: Path, out: Path) -> tuple[float, int]:
    """Seconds that the command takes, start included, and the lines that it tells of."""
    command = [str(Path(sys.executable).parent / "urform"), "generate", str(source), "-o", str(out)]
    started = time.perf_counter()
    done = subprocess.run(command, check=True, capture_output=True, encoding="utf-8")
    return time.perf_counter() - started, sum(
        int(lines) for lines in re.findall(r"(\d+) lines in all", done.stdout)
    )


def cost(products: int, folder: Path) -> tuple[float, float, float, int]:
    """Seconds to generate, to generate again with nothing changed, to copy the files; and lines."""
    source = folder / f"many{products}.urform.yaml"
    source.write_text(declaration(products), encoding="utf-8")
    out = folder / f"out{products}"
    first, lines = generate(source, out)
    second, _ = generate(source, out)
    started = time.perf_counter()
    shutil.copytree(out, folder / f"copy{products}")
    return first, second, time.perf_counter() - started, lines


def main() -> None:
    """Print the figures."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        cost(5, folder)  # what the system reads from disk once is read before anything is measured
        small = cost(100, folder)
        large = cost(1000, folder)
    print(f"targets: {', '.join(known_targets())}")
    for products, (first, second, copied, lines) in ((100, small), (1000, large)):
        print(
            f"{products:>5} products: {first:6.2f} s, {lines} lines, {lines / first:,.0f} lines a second; "
            f"again {second / first:.2f} of it; a copy of the files {copied:.2f} s"
        )
    print(f"1,000 cost {large[0] / small[0]:.1f} times what 100 cost (bar: 11)")


if __name__ == "__main__":
    main()
