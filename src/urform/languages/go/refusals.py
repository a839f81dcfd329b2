"""What refuses a value in Go: conditions with their errors, and loops over what stands in collections."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.declaration.types import ChoiceType, Collection, MapOf, Type
from urform.languages.go.context import Context
from urform.languages.go.expressions import Test
from urform.plan.model import Field


def refusals(tests: list[Test], none: str) -> Iterator[str]:
    """One condition as an if, several as a switch."""
    prefix = f"{none}, " if none else ""
    if len(tests) == 1:
        yield from (f"if {tests[0].fails} {{", f"\treturn {prefix}{tests[0].error}", "}")
    elif tests:
        yield "switch {"
        for test in tests:
            yield from (f"case {test.fails}:", f"\treturn {prefix}{test.error}")
        yield "}"


def element_loop(context: Context, field: Field, value: str, none: str) -> Iterator[str]:
    """The loop that checks each element of a collection, at every level."""
    element = context.names.local(field.item or "each")
    element = element if element != value and field.item else "each"
    yield from level(context, field, field.type, value, element, none)


def level(context: Context, field: Field, type_: Type, value: str, element: str, none: str) -> Iterator[str]:
    """The loop over what stands in a collection, which may be one within that of a field."""
    if not isinstance(type_, Collection):
        return
    lines = list(refusals(list(context.code.element_tests(field, type_, element)), none))
    lines += level(context, field, type_.element, element, f"{element}In", none)
    key = "_"
    if isinstance(type_, MapOf) and isinstance(type_.key, ChoiceType):
        key = f"{element}Key"
        lines = [*refusals([key_test(field, key)], none), *lines]
    if lines:
        used = any(re.search(rf"\b{element}\b", line) for line in lines)
        names = f"{key}, {element}" if used else key
        yield f"for {names} := range {value} {{"
        yield from (f"\t{line}" for line in lines)
        yield "}"


def key_test(field: Field, key: str) -> Test:
    """What refuses a key that is no word of a choice."""
    error = f'&LimitError{{Owner: "{field.owner}", Field: "{field.name}", Limit: "key.choice", Value: string({key})}}'
    return Test(f"!{key}.valid()", error)
