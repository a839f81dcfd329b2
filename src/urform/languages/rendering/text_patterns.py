"""The patterns of texts that a plan has, each once, as tables that any language can walk through."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import cached_property

from urform.dataclasses import dataclass
from urform.declaration.regexp.automaton import Automaton, automaton
from urform.languages.naming.names import snake
from urform.plan.model import Field, Limit
from urform.plan.whole import Plan

URI_NAME = "uri"


@dataclass(frozen=True, slots=True)
class TextPattern:
    """A pattern and its name, lower_snake: the product and the field that has it first."""

    name: str
    limit: str
    bound: str | None
    automaton: Automaton

    def said(self, matching: str) -> str:
        """What a comment says of it: `matching` has its text in the place of `{}`."""
        return matching.format(self.bound) if self.bound is not None else "URIs (RFC 3986)."


class TextPatterns:
    """The patterns of one plan; `spelled` gives a name the form that it has in a language."""

    def __init__(self, plan: Plan, spelled: Callable[[str], str]) -> None:
        self._plan = plan
        self.spelled = spelled

    @cached_property
    def _by_limit(self) -> Mapping[Limit, TextPattern]:
        patterns: dict[Limit, TextPattern] = {}
        names: set[str] = set()
        for field, limit in _limits(self._plan):
            if limit.form is not None and limit not in patterns:
                wanted = URI_NAME if limit.name == "uri" else f"{snake(field.owner)}_{field.name}"
                name = next(n for n in _numbered(wanted) if self.spelled(n) not in names)
                names.add(self.spelled(name))
                bound = limit.bound if isinstance(limit.bound, str) else None
                patterns[limit] = TextPattern(name, limit.name, bound, automaton(limit.form))
        return patterns

    def __iter__(self) -> Iterator[TextPattern]:
        return iter(self._by_limit.values())

    def __bool__(self) -> bool:
        return bool(self._by_limit)

    def of(self, limit: Limit) -> str:
        """What a language calls the pattern of a limit."""
        return self.spelled(self._by_limit[limit].name)

    @cached_property
    def names(self) -> tuple[str, ...]:
        """What a language calls them."""
        return tuple(self.spelled(pattern.name) for pattern in self)

    def views(
        self, tables: Tables, more: Callable[[TextPattern], Mapping[str, object]]
    ) -> list[dict[str, object]]:
        """Each pattern for a template: its name, its tables, and what a language says besides."""
        return [{**tables.view(each, self.spelled(each.name)), **more(each)} for each in self]


def forms_of(limits: Iterable[Limit]) -> list[Limit]:
    """The limits that are about the form of a text."""
    return [limit for limit in limits if limit.form is not None]


def _limits(plan: Plan) -> Iterator[tuple[Field, Limit]]:
    products = [*plan.products.values(), *plan.stand_ins.values()]
    for field in (field for product in products for field in product.fields):
        yield from ((field, limit) for limit in (*field.limits, *field.each))


def _numbered(name: str) -> Iterator[str]:
    yield name
    number = 2
    while True:
        yield f"{name}_{number}"
        number += 1


@dataclass(frozen=True, slots=True)
class Tables:
    """How a language writes lists of numbers: between what, how far from the margin, and in lines of which width.

    `between` are what stands around a list in one line, `broken` around one in several, `rows` around one of `moves`.
    """

    between: tuple[str, str]
    margin: str
    indent: str
    width: int
    broken: tuple[str, str] | None = None
    rows: tuple[str, str] | None = None

    def view(self, pattern: TextPattern, name: str) -> dict[str, object]:
        """The tables of a pattern for a template, as literals."""
        table = pattern.automaton
        return {
            "name": name,
            "starts": self._list(f"0x{point:X}" for point in table.starts),
            "kinds": self._list(map(str, table.kinds)),
            "moves": [self._row(map(str, row)) for row in table.moves],
            "ends": self._list(map(str, sorted(table.ends))),
        }

    def _list(self, numbers: Iterable[str]) -> str:
        """The numbers of a list: in one line if they fit, else in several that are indented further."""
        begin, end = self.between
        shown = list(numbers)
        whole = f"{begin}{', '.join(shown)}{end}"
        if len(whole) <= self.width:
            return whole
        begin, end = self.broken or self.between
        lines = "".join(f"{self.margin}{self.indent}{line}\n" for line in _lines(shown, self.width))
        return f"{begin}\n{lines}{self.margin}{end}"

    def _row(self, numbers: Iterable[str]) -> str:
        """A row of moves, in one line."""
        begin, end = self.rows or self.between
        return f"{begin}{', '.join(numbers)}{end}"


def _lines(numbers: Iterable[str], width: int) -> Iterator[str]:
    line = ""
    for number in numbers:
        if line and len(line) + len(number) + 2 > width:
            yield line
            line = ""
        line = f"{line} {number}," if line else f"{number},"
    yield line
