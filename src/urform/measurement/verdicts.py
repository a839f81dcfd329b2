"""What figures say of a pattern: whether it pays here, and from where on."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from urform.dataclasses import dataclass
from urform.measurement.figures import Measured
from urform.plan.measuring import BUILDER, CLONE, CONSTRUCTOR, DEEP, FACTORY, MAP_READ, POOL, SHALLOW

# A pool that saves memory pays where asking it is no slower than making.
PAYS, SAVES, COSTS, UNSURE, SAYS = "pays", "saves memory", "does not pay", "cannot be told", "costs"
MIB = 1 << 20
NOTICED = 1.25  # times as long as something else: less is within what machines do by themselves


@dataclass(frozen=True, slots=True)
class Verdict:
    """What is said of one pattern of one product in one target."""

    product: str
    pattern: str
    state: str  # PAYS, SAVES, COSTS, or SAYS of what is no question of paying
    text: str
    more: str = ""  # of what is also to be known


def verdicts(measured: Measured) -> Iterator[Verdict]:
    """All that can be said, product by product."""
    found = [timing.product for timing in measured.timings] + [weight.product for weight in measured.weights]
    for product in dict.fromkeys(found):
        if product:
            yield from _of_pool(measured, product)
            yield from _of_clone(measured, product)
            for way in (FACTORY, BUILDER):
                yield from _beside_constructor(measured, product, way)


def _of_pool(measured: Measured, product: str) -> Iterator[Verdict]:
    alone, pooled = measured.weight(product, CONSTRUCTOR), measured.weight(product, POOL)
    if alone is None or pooled is None or alone.line is None or pooled.line is None:
        return
    saved = alone.line.each - pooled.line.each
    error = alone.line.error + pooled.line.error
    if saved <= error:
        text = f"a product takes {_bytes(alone.line.each)}, with a pool {_bytes(pooled.line.each)}: "
        if error > alone.line.each / 2:
            yield Verdict(product, POOL, UNSURE, f"{text}within {_bytes(error)}, which tells nothing")
        else:
            yield Verdict(product, POOL, COSTS, f"{text}nothing is saved")
        return
    count, held = alone.points[-1]
    shared = dict(pooled.points).get(count)
    begins = max(1, ceil((pooled.line.fixed - alone.line.fixed) / saved))
    text = f"{alone.contents} contents in {count:,} products: {_bytes(shared)} instead of {_bytes(held)}"
    text += f"; below {begins:,} it costs more than it saves" if begins > alone.contents else ""
    state = SAVES if _is_slow(measured, product) else PAYS
    yield Verdict(product, POOL, state, text, _hit(measured, product))


def _is_slow(measured: Measured, product: str) -> bool:
    """Whether a hit takes longer than to make one."""
    hit, made = measured.timing(product, POOL), measured.timing(product, CONSTRUCTOR)
    return hit is not None and made is not None and hit.median > NOTICED * made.median


def _hit(measured: Measured, product: str) -> str:
    hit, made, read = (
        measured.timing(product, POOL),
        measured.timing(product, CONSTRUCTOR),
        measured.timing("", MAP_READ),
    )
    if hit is None or made is None or read is None:
        return ""
    return f"a hit takes {_times(hit.median, made.median)} making one, {_times(hit.median, read.median)} a map read"


def _of_clone(measured: Measured, product: str) -> Iterator[Verdict]:
    sizes = sorted(
        timing.size for timing in measured.timings if (timing.product, timing.way) == (product, CLONE)
    )
    if not sizes:
        return
    cloned = measured.timing(product, CLONE, sizes[-1])
    assert cloned is not None
    of = f" of {sizes[-1]} elements" if sizes[-1] else ""
    text = f"a clone{of} takes {_seconds(cloned.median)}"
    for way in (DEEP, SHALLOW):
        other = measured.timing(product, way, sizes[-1])
        text += f", {_times(cloned.median, other.median)} the language's {way}" if other is not None else ""
    yield Verdict(product, CLONE, SAYS, text)


def _beside_constructor(measured: Measured, product: str, way: str) -> Iterator[Verdict]:
    found, made = measured.timing(product, way), measured.timing(product, CONSTRUCTOR)
    if found is None or made is None:
        return
    slower = found.median > NOTICED * made.median
    text = f"the {way} takes {_seconds(found.median)}, {_times(found.median, made.median)} the constructor"
    yield Verdict(product, way, SAYS, text if slower else f"{text}: nothing that one would notice")


def _times(one: float, other: float) -> str:
    ratio = one / other
    return f"{ratio:.1f} times" if ratio >= 1 else f"{ratio:.2f} times"


def _seconds(seconds: float) -> str:
    """Three figures, and a unit that fits."""
    for unit, factor in (("ns", 1e9), ("µs", 1e6), ("ms", 1e3)):
        if seconds * factor < 1000:
            return f"{seconds * factor:.3g} {unit}"
    return f"{seconds:.3g} s"


def _bytes(held: float | None) -> str:
    if held is None:
        return "less"
    return (
        f"{held:.0f} B"
        if held < 10_000
        else f"{held / 1024:.0f} KiB"
        if held < 10 * MIB
        else f"{held / MIB:.0f} MiB"
    )
