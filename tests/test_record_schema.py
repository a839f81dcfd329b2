"""The schema of records takes what readers take, and refuses what they refuse."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import jsonschema
import pytest

from tests.conftest import VALID, Run, planned
from urform.declaration.regexp.categories import ranges_of
from urform.declaration.told_kinds import KINDS
from urform.plan.operands import BadRecord
from urform.plan.outcomes import Fails
from urform.plan.record_schema import record_schema
from urform.plan.record_steps import ReadRecord
from urform.plan.record_trees import json_text
from urform.plan.whole import Plan

WITH_RECORDS = [path for path in VALID if planned(path)[0].records is not None]
LIMITS_IN_TIME = ('" or later is allowed', '" or earlier is allowed', 'later than "', 'earlier than "')
OTHER_LIMITS = ('at least "', 'at most "', 'more than "', 'less than "')  # of durations and decimal numbers
BEYOND = tuple(f'is "{text}"; ' for kind in KINDS.values() for text in kind.beyond)
# What no schema can say: these are told by a factory, or of a number that a reader may have rounded.
UNTOLD = (
    ": refused, ",
    "such values make another kind",
    "nothing makes it",
    *LIMITS_IN_TIME,
    *OTHER_LIMITS,
    *BEYOND,
)


def for_python(schema: Any) -> Any:
    """A schema whose patterns the engine of Python reads as that of ECMAScript would: it knows no categories, and its `$`
    stands before a line end too."""
    if isinstance(schema, list):
        return [for_python(each) for each in schema]
    if not isinstance(schema, dict):
        return schema
    whole = {name: for_python(each) for name, each in schema.items()}
    if isinstance(whole.get("pattern"), str):
        whole["pattern"] = re.sub(
            r"\\(p|P)\{(\w+)\}", _ranges, re.sub(r"(?<!\\)\$$", r"\\Z", whole["pattern"])
        )
    return whole


def _ranges(category: re.Match[str]) -> str:
    ranges = ranges_of(category[2])
    shown = "".join(f"\\U{first:08x}-\\U{last:08x}" for first, last in ranges)
    return f"[{'^' if category[1] == 'P' else ''}{shown}]"


def of_chosen(plan: Plan, product: str, record: Any) -> list[str]:
    """What begins the problems that the variant tells which values choose: its limits are no one else's."""
    if plan.selection_of(product) is None or plan.records is None or not isinstance(record, dict):
        return []
    if plan.records.kind in record:
        return []
    return [f" {variant}." for variant in plan.products[product].variants]


def vectors(declaration: Path) -> Iterator[tuple[str, Any, tuple[str, ...]]]:
    """The product of every record of the claims, the record, and what is wrong with it."""
    for claim in planned(declaration)[1]:
        for step in (step for case in claim.cases for step in case.steps):
            match step:
                case ReadRecord(_, product, record):
                    yield product, json.loads(json_text(record)), ()
                case Fails(ReadRecord(_, product, record), BadRecord(_, problems)):
                    yield product, json.loads(json_text(record)), problems


@pytest.mark.parametrize("declaration", WITH_RECORDS, ids=lambda path: path.name)
def test_the_schema_agrees_with_the_readers(declaration: Path) -> None:
    plan = planned(declaration)[0]
    schema = for_python(record_schema(plan))
    jsonschema.Draft202012Validator.check_schema(schema)
    sound = refused = 0
    for product, record, problems in vectors(declaration):
        if any(
            untold in problem
            for untold in (*UNTOLD, *of_chosen(plan, product, record))
            for problem in problems
        ):
            continue
        one = jsonschema.Draft202012Validator({**schema, "anyOf": [{"$ref": f"#/$defs/{product}"}]})
        assert one.is_valid(record) == (not problems), (product, record, problems)
        sound, refused = sound + (not problems), refused + bool(problems)
    assert sound >= 10
    assert refused >= 10


def test_only_variants_tell_their_kind() -> None:
    (declaration,) = (path for path in WITH_RECORDS if path.name.startswith("records"))
    defined = record_schema(planned(declaration)[0])["$defs"]
    assert "type" not in defined["Position"]["properties"]
    assert defined["Buoy"]["properties"]["type"] == {"enum": ["B-1", "buoy", None]}


def test_it_is_printed(urform: Callable[..., Run], tmp_path: Path) -> None:
    done = urform("schema", str(WITH_RECORDS[0]))
    assert json.loads(done.out) == json.loads(json.dumps(record_schema(planned(WITH_RECORDS[0])[0])))
    without = tmp_path / "chart.urform.yaml"
    without.write_text(
        "urform: 1\nname: chart\nproducts: {Chart: {required: {sheet: text}}}\n", encoding="utf-8"
    )
    done = urform("schema", str(without))
    assert (done.status, done.out) == (2, "")
    assert "has no records; add `records: true` at its top" in done.err
