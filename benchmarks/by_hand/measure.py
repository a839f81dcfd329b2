"""Measures the generated Python beside what is written by hand; prints one line a job: name, ratio, nanoseconds.

Run by `generated.py` with the generated package and this folder on the path.
"""

from __future__ import annotations

import copy
import statistics
import timeit
from typing import Any

import by_hand
import fairway

ROUNDS = 21


Scope = dict[str, Any]  # the names of a statement


def ratio(statement: str, one: Scope, other: Scope, number: int, otherwise: str = "") -> tuple[float, float]:
    """The median ratio of a statement with some names to it, or another one, with others; and the nanoseconds of one.

    Statements, not functions: the cost of a call would be on both sides, and make them alike.
    """
    ours, theirs = timeit.Timer(statement, globals=one), timeit.Timer(otherwise or statement, globals=other)
    ratios, times = [], []
    for _ in range(ROUNDS):
        first = ours.timeit(number)
        ratios.append(first / theirs.timeit(number))
        times.append(first / number * 1e9)
    return statistics.median(ratios), statistics.median(times)


def scope(module: Any) -> Scope:
    """What the statements of all jobs name, of one module or the other."""
    legs = [module.Leg(label=f"leg {number}", hours=1.0) for number in range(3)]
    many = [module.Leg(label=f"leg {number}", hours=1.0) for number in range(50)]

    def build() -> object:
        builder = module.RefitPlanBuilder().title("Winter").crew(3).tags(["ice", "north"])
        for leg in legs:
            builder.add_leg(leg)
        return builder.build()

    return {
        "Position": module.Position,
        "Leg": module.Leg,
        "leg": module.Leg(label="lantern"),
        "registry": module.MarkRegistry(),
        "position": module.Position(latitude=54.5, longitude=10.25),
        "build": build,
        "plan": module.RefitPlan(title="Winter", legs=many, tags=["ice"], crew=3),
    }


JOBS = {
    "position": ("Position(latitude=54.5, longitude=10.25)", 2000),
    "leg": ("Leg(label='lantern', hours=1.0)", 2000),
    "setter": ("leg.label = 'mooring'", 5000),
    "getter": ("leg.label", 10000),
    "factory": ("registry.create('buoy', station=17, position=position, remarks='none')", 2000),
    "builder": ("build()", 500),
    "clone": ("plan.clone()", 300),
}


def main() -> None:
    """Print a line for each job."""
    ours, theirs = scope(fairway), scope(by_hand)
    for name, (statement, number) in JOBS.items():
        tell(name, *ratio(statement, ours, theirs, number))
    tell("deepcopy", *ratio("deepcopy(plan)", ours | {"deepcopy": copy.deepcopy}, ours, 20, "plan.clone()"))
    pool = fairway.LightRhythmPool()
    held = {("Fl", 4000): pool.get("Fl", 4000)}
    names = {"code": "Fl", "period": 4000, "pool": pool, "held": held}
    tell("pool", *ratio("pool.get(code, period)", names, names, 20000, "held[code, period]"))


def tell(name: str, found: float, nanoseconds: float) -> None:
    print(name, f"{found:.3f}", f"{nanoseconds:.0f}")


if __name__ == "__main__":
    main()
