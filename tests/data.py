"""Declarations as plain data: what their parts are, and how they are written."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

Data = dict[str, Any]


@dataclass
class Product:
    """What later parts of a declaration have to know of a product that was drawn."""

    name: str
    mutable: bool = False
    shared: bool = False  # a flyweight or single
    by_values: bool = False
    endless: bool = False  # it has fields of its own type
    fields: dict[str, Data] = field(default_factory=dict)  # own ones, with "required" noted
    variants: dict[str, dict[str, Data]] = field(default_factory=dict)  # the fields of each variant

    def every_field(self, variant: str | None = None) -> dict[str, Data]:
        return {**self.fields, **(self.variants[variant] if variant else {})}


def is_collection(type_: str) -> bool:
    return type_.startswith(("list<", "set<", "map<"))


def element_of(type_: str) -> str:
    """What a collection holds; the values of a map."""
    kind, inner = type_[:-1].split("<", 1)
    return inner.split(" to ", 1)[1].strip() if kind == "map" else inner


def innermost(type_: str) -> str:
    while is_collection(type_):
        type_ = element_of(type_)
    return type_


def within(number: float, limits: Data) -> bool:
    """Whether a number keeps limits of numbers."""
    return (
        limits.get("min", number) <= number <= limits.get("max", number)
        and ("above" not in limits or number > limits["above"])
        and ("below" not in limits or number < limits["below"])
    )


def written(fields: Mapping[str, Data]) -> Data:
    """Fields as a declaration has them, in its two lists."""
    found: Data = {}
    for name, declared in fields.items():
        place = found.setdefault("required" if declared["needed"] else "optional", {})
        place[name] = {key: value for key, value in declared.items() if key != "needed"}
    return found


def text_of(declaration: Data) -> str:
    """The data as a declaration file: JSON, save that keys may be numbers; every character beyond ASCII is escaped."""
    return "".join(_yaml(declaration, "")) + "\n"


def _yaml(data: Any, indent: str) -> Iterator[str]:
    inner = indent + " "
    if isinstance(data, dict) and data:
        yield "{"
        for number, (key, value) in enumerate(data.items()):
            yield f"{',' if number else ''}\n{inner}{key if isinstance(key, int) else json.dumps(key)}: "
            yield from _yaml(value, inner)
        yield f"\n{indent}}}"
    elif isinstance(data, list):
        yield "["
        for number, value in enumerate(data):
            yield ", " if number else ""
            yield from _yaml(value, inner)
        yield "]"
    else:
        yield json.dumps(data)
