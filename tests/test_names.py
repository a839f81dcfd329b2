"""Names that are derived from a product's: what is escaped is the product, not what is called after it."""

from __future__ import annotations

import pytest

from tests.batches import plan_of
from urform.languages import target
from urform.plan import claims_of

DECLARATION = """
urform: 1
name: stores
products:
  Error: {mutable: true, required: {text: text, hours: integer}, builder: {}, prototype: {exemplars: {plain: {text: a, hours: 1}}}}
  Map: {required: {code: text}, flyweight: {key: [code], hold: strong}}
  Thing: {variants: {Enum: {}, Any: {}}, factory: {form: creators, unknown: {use: Any}}}
  Type:
    required: {n: integer}
    variants: {Never: {}, Record: {}}
    factory: {form: by_values, choose: [{use: Never, when: n < 3}, {use: Record}]}
"""
DERIVED = {
    "python": (
        "class ErrorBuilder:",
        "class ErrorExemplars:",
        "class MapPool:",
        "def type_or_none(",
        "            return AnyCreator()",
    ),
    "typescript": (
        "export class ErrorBuilder {",
        "export class ErrorExemplars {",
        "export class MapPool {",
        "export function typeOrUndefined(",
    ),
}


@pytest.mark.parametrize("name", DERIVED)
def test_what_is_called_after_a_product_is_not_escaped_with_it(name: str) -> None:
    plan = plan_of(DECLARATION)
    lines = {
        line for file in target(name).emit(plan, claims_of(plan)).files for line in file.text.splitlines()
    }
    for derived in DERIVED[name]:
        assert any(line.startswith(derived) for line in lines), derived
