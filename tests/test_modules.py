"""Which products stand in one source file: held against what can be reached, over random declarations of who refers to whom."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from urform.declaration import read_string
from urform.languages.naming.modules import modules
from urform.plan import build
from urform.plan.whole import Plan

COUNT = 6
REFERENCES = st.sets(st.tuples(st.integers(0, COUNT - 1), st.integers(0, COUNT - 1)), max_size=12)


def plan_of(references: set[tuple[int, int]], variants: int) -> Plan:
    """Products of which some refer to others; the first ones have a variant."""
    lines = ["urform: 1", "name: harbour", "products:"]
    for number in range(COUNT):
        lines += [f"  P{number}:", "    optional:", "      station: integer"]
        lines += [f"      to_{other}: P{other}" for one, other in sorted(references) if one == number]
        lines += ["    variants:", f"      V{number}: {{}}"] if number < variants else []
    reading = read_string("\n".join(lines) + "\n", "harbour.urform.yaml")
    assert reading.declaration is not None, reading.problems
    return build(reading.declaration)


def reached(references: set[tuple[int, int]], start: int) -> set[int]:
    found: set[int] = {start}
    while more := {other for one, other in references if one in found} - found:
        found |= more
    return found


@given(REFERENCES, st.integers(0, COUNT))
def test_a_circle_is_one_module_and_nothing_else_is(references: set[tuple[int, int]], variants: int) -> None:
    found = modules(plan_of(references, variants))
    together = {product.name: module.name for module in found for product in module.products}
    assert sum(len(module.products) for module in found) == len(together) == COUNT + variants
    for one in range(COUNT):
        for other in range(COUNT):
            circle = other in reached(references, one) and one in reached(references, other)
            assert (together[f"P{one}"] == together[f"P{other}"]) == circle
    assert all(together[f"V{number}"] == together[f"P{number}"] for number in range(variants))


def test_modules_keep_the_order_of_the_declaration() -> None:
    found = modules(plan_of({(3, 1), (1, 3), (0, 5)}, 2))
    assert [[product.name for product in module.products] for module in found] == [
        ["P0", "V0"],
        ["P1", "V1", "P3"],
        ["P2"],
        ["P4"],
        ["P5"],
    ]
