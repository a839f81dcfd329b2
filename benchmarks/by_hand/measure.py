"""Measures the generated Python beside what is written by hand; prints one line a job: name, ratio, nanoseconds.

Run by `generated.py` with the generated package and this folder on the path.
"""

from __future__ import annotations

import copy
import statistics
import timeit
from collections.abc import Callable
from typing import Any

import by_hand
import fairway

ROUNDS = 21


def ratio(one: Callable[[], object], other: Callable[[], object], number: int) -> tuple[float, float]:
    """The median ratio of one to the other, measured in turn, and the nanoseconds of one."""
    ratios, times = [], []
    for _ in range(ROUNDS):
        first = timeit.timeit(one, number=number)
        ratios.append(first / timeit.timeit(other, number=number))
        times.append(first / number * 1e9)
    return statistics.median(ratios), statistics.median(times)


def jobs(module: Any) -> dict[str, Callable[[], object]]:
    """The same jobs, done by one module or the other."""
    position = module.Position(latitude=54.5, longitude=10.25)
    registry = module.MarkRegistry()
    legs = [module.Leg(label=f"leg {number}", hours=1.0) for number in range(3)]
    many = [module.Leg(label=f"leg {number}", hours=1.0) for number in range(50)]
    plan = module.RefitPlan(title="Winter", legs=many, tags=["ice"], crew=3)

    def build() -> object:
        builder = module.RefitPlanBuilder().title("Winter").crew(3).tags(["ice", "north"])
        for leg in legs:
            builder.add_leg(leg)
        return builder.build()

    leg = module.Leg(label="lantern")

    def set_label() -> None:
        leg.label = "mooring"

    def read_label() -> str:
        return leg.label

    return {
        "position": lambda: module.Position(latitude=54.5, longitude=10.25),
        "leg": lambda: module.Leg(label="lantern", hours=1.0),
        "setter": set_label,
        "getter": read_label,
        "factory": lambda: registry.create("buoy", station=17, position=position, remarks="none"),
        "builder": build,
        "clone": plan.clone,
    }


def main() -> None:
    """Print a line for each job."""
    ours, theirs = jobs(fairway), jobs(by_hand)
    numbers = {"position": 2000, "leg": 2000, "setter": 5000, "getter": 10000, "factory": 2000, "builder": 500}
    for name, number in (numbers | {"clone": 300}).items():
        found, nanoseconds = ratio(ours[name], theirs[name], number)
        print(name, f"{found:.3f}", f"{nanoseconds:.0f}")
    plan = fairway.RefitPlan(title="Winter", legs=[fairway.Leg(label=f"leg {n}") for n in range(50)])
    found, nanoseconds = ratio(lambda: copy.deepcopy(plan), plan.clone, 20)
    print("deepcopy", f"{found:.3f}", f"{nanoseconds:.0f}")
    pool = fairway.LightRhythmPool()
    pool.get("Fl", 4000)
    held = {("Fl", 4000): 1}

    def hit(code: str, period_ms: int) -> object:
        return pool.get(code, period_ms)

    def read(code: str, period_ms: int) -> object:
        return held[code, period_ms]

    found, nanoseconds = ratio(lambda: hit("Fl", 4000), lambda: read("Fl", 4000), 5000)
    print("pool", f"{found:.3f}", f"{nanoseconds:.0f}")


if __name__ == "__main__":
    main()
