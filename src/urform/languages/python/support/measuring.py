"""Times makers, and weighs what they make: `time SECONDS`, or `memory NAME COUNT`."""

from __future__ import annotations

import gc
import json
import sys
import tracemalloc
from collections.abc import Callable
from time import perf_counter

BATCHES = 9
MODE = sys.argv[1] if len(sys.argv) > 1 else "time"


def measure(name: str, *makers: Callable[[], object]) -> None:
    """Print what making one takes, or what many weigh, as one line of JSON."""
    if MODE == "time":
        print(json.dumps({"name": name, "seconds": _timed(makers[0], float(sys.argv[2]))}), flush=True)
    elif name == sys.argv[2]:
        print(json.dumps({"name": name, "bytes": _weighed(makers, int(sys.argv[3]))}), flush=True)


def map_read() -> None:
    """The language's own map, read by a key that it has."""
    held = {"north": object()}
    measure("map read", lambda: held["north"])


def _timed(make: Callable[[], object], seconds: float) -> list[float]:
    """Seconds for one, batch by batch; each batch takes so many seconds, or so."""
    count, taken = 1, _batch(make, 1)
    while taken < seconds / 4:
        count *= 2
        taken = _batch(make, count)
    count = max(1, int(count * seconds / taken)) if taken else count
    return [_batch(make, count) / count for _ in range(BATCHES)]


def _batch(make: Callable[[], object], count: int) -> float:
    gc.collect()
    started = perf_counter()
    for _ in range(count):
        make()
    return perf_counter() - started


def _weighed(makers: tuple[Callable[[], object], ...], count: int) -> int:
    """Bytes that so many products take, with the list that holds them."""
    for make in makers:
        make()
    gc.collect()
    tracemalloc.start()
    before, _ = tracemalloc.get_traced_memory()
    held = [makers[number % len(makers)]() for number in range(count)]
    gc.collect()
    after, _ = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    return after - before if len(held) == count else 0
