"""Witness values: what tests hand in, derived from types and limits alone, always the same.

For a field: a typical value well inside its limits and a different second one; for each limit the value on
its edge and the nearest outside.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import islice

from urform.dataclasses import dataclass
from urform.declaration.ranges import is_unique, length_range, may_be_empty
from urform.declaration.told import Told
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    REAL,
    TEXT,
    TOLD,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
    innermost,
)
from urform.declaration.values import (
    Boolean,
    Entries,
    Integer,
    Items,
    Made,
    Real,
    Text,
    Value,
    Word,
    sort_key,
)
from urform.plan.circles import circles_of
from urform.plan.model import Field, Limit, Product, Selection
from urform.plan.operands import Keyed, Operand, Several, Witness
from urform.plan.scalars import LONG, Edge, Limits, as_declared, first_broken, integers, reals, texts, told
from urform.plan.selecting import Selecting
from urform.plan.sizes import sized
from urform.plan.whole import Plan

# Two texts that look the same, and are two to whoever compares code points.
ALIKE = (
    Text("\N{LATIN SMALL LETTER E WITH ACUTE}"),
    Text("e\N{COMBINING ACUTE ACCENT}"),
)


class Witnesses:
    """The witnesses of one plan."""

    def __init__(self, plan: Plan, *, plain: bool = False) -> None:
        self._plan = plan
        self._plain = plain  # texts that a person likes to read
        self._selecting: dict[str, Selecting] = {}
        self._circles = circles_of(plan)
        self._making: set[str] = set()
        self._found: dict[str, Mapping[str, Operand] | None] = {}
        self._first_two: dict[tuple[Type, Limits, Limits], tuple[Operand, ...]] = {}
        self._arguments: dict[str, Mapping[str, Operand] | None] = {}
        self._second: dict[str, Mapping[str, Operand] | None] = {}
        self._work_out(frozenset())

    def _work_out(self, never: frozenset[str]) -> None:
        """All witnesses, product after product, so that long chains of products are not followed by recursion.

        What can never be made, by its limits or the conditions of its factory, is not seen by its types. Whoever was
        to be made of it is worked out again without it.
        """
        for product in self._circles.outward():
            self.second(product)
        lost = {p.name for p in self._circles.outward() if self.arguments(p) is None} - never
        if lost:
            self._circles = self._circles.without(never | lost)
            for known in (self._selecting, self._found, self._first_two, self._arguments, self._second):
                known.clear()
            self._work_out(never | lost)

    def selecting(self, product: Product) -> Selecting | None:
        """The search for arguments of a concrete product whose constructor is hidden."""
        selection = self._plan.selected_by(product)
        return self.selecting_of(selection) if selection is not None else None

    def selecting_of(self, selection: Selection) -> Selecting:
        """The search for arguments of a factory by values."""
        if selection.product not in self._selecting:
            self._selecting[selection.product] = Selecting(self._plan, self, selection)
        return self._selecting[selection.product]

    def completed(self, product: Product, fixed: Mapping[str, Operand]) -> Mapping[str, Operand] | None:
        """The arguments that make a concrete product with these values for some fields, as far as its limits take them."""
        selecting = self.selecting(product)
        if selecting is not None:
            return selecting.making(product.name, fixed) or selecting.choosing(product.name, fixed)
        others = self.arguments(product)
        return None if others is None else {**others, **fixed}

    def values(self, type_: Type, limits: Limits = (), each: Limits = ()) -> Iterator[Operand]:
        """Different values of a type within limits; none are left when it runs out."""
        match type_:
            case ChoiceType(name):
                yield from (Word(name, word) for word in self._plan.choices[name].words)
            case ProductType(name):
                yield from self._products(name)
            case ListOf():
                yield from self._lists(type_, limits, each)
            case SetOf():
                yield from self._sets(type_, limits, each)
            case MapOf():
                yield from self._maps(type_, limits, each)
            case _:
                yield from self._scalars(type_, limits)

    def _two(self, type_: Type, limits: Limits, each: Limits = ()) -> tuple[Operand, ...]:
        """The first two values, or as many as there are. They are asked for again and again, and found once."""
        if self._making:  # within a circle there may be fewer
            return tuple(islice(self.values(type_, limits, each), 2))
        key = type_, limits, each
        if key not in self._first_two:
            self._first_two[key] = tuple(islice(self.values(type_, limits, each), 2))
        return self._first_two[key]

    def _scalars(self, type_: Type, limits: Limits) -> Iterator[Value]:
        if type_ == TEXT:
            yield from texts(limits, plain=self._plain)
        elif type_ == INTEGER:
            yield from integers(limits)
        elif type_ == REAL:
            yield from reals(limits)
        elif type_ == BOOLEAN:
            yield from (Boolean(True), Boolean(False))
        elif type_ in TOLD:
            yield from told(str(type_), limits)

    def _products(self, name: str) -> Iterator[Operand]:
        for product in self._plan.concrete(self._plan.products[name]):
            if self.arguments(product) is None:
                continue
            yield Witness(product.name)
            if self.second(product) is not None:
                yield Witness(product.name, second=True)

    def around(self, type_: Type, inner: Operand) -> Operand | None:
        """A value of nested collections, each with one element, the innermost of which is given."""
        match type_:
            case ListOf(element) | SetOf(element):
                inside = self.around(element, inner)
                return Several(type_, (inside,)) if inside is not None else None
            case MapOf(key, element):
                inside = self.around(element, inner)
                keys = self.sets_of(key, (), 1)
                return Keyed(type_, ((keys[0], inside),)) if inside is not None and keys else None  # type: ignore[arg-type]
        return inner

    def elements(self, type_: Type, each: Limits) -> tuple[Operand, Operand]:
        """Two elements of a collection, different if there are two."""
        two = self._two(type_, each)
        return two[0], two[-1]

    def _lists(self, type_: ListOf, limits: Limits, each: Limits) -> Iterator[Operand]:
        declared = as_declared(limits)
        fewest, most = length_range(declared)
        if is_unique(declared):
            yield from self._lists_without_duplicates(type_, limits, each)
            return
        two = self._two(type_.element, each)
        if not two or most == 0:
            if may_be_empty(declared):
                yield Several(type_, ())
            return
        one, other = two[0], two[-1]
        size = max(fewest, 1)
        yield Several(
            type_, (one,) * size if size > LONG else tuple([one, other][n % 2] for n in range(size))
        )
        if one != other:
            yield Several(type_, (other,) * size)
        if most is None or size < most:
            yield Several(type_, (one,) * (size + 1))

    def _lists_without_duplicates(self, type_: ListOf, limits: Limits, each: Limits) -> Iterator[Operand]:
        declared = as_declared(limits)
        fewest, most = length_range(declared)
        size = max(fewest, 1) if most != 0 else 0
        elements = tuple(islice(self.values(type_.element, each), size + 1))
        if len(elements) < size or not size:
            if may_be_empty(declared):
                yield Several(type_, ())
            return
        whole = elements[:size]
        yield Several(type_, whole)
        if len(elements) > size:
            yield Several(type_, elements[1:])
        elif size > 1:
            yield Several(type_, whole[::-1])
        if len(elements) > size and (most is None or size < most):
            yield Several(type_, elements)

    def _sets(self, type_: SetOf, limits: Limits, each: Limits) -> Iterator[Operand]:
        declared = as_declared(limits)
        fewest, most = length_range(declared)
        elements = self.sets_of(type_.element, each, max(fewest, 1) + 1)
        size = max(fewest, 1) if most != 0 else 0
        if len(elements) < size:
            if may_be_empty(declared):
                yield Several(type_, ())
            return
        yield Several(type_, tuple(elements[:size]))
        if len(elements) > size and size:
            yield Several(type_, tuple(elements[1:]))
        elif size and may_be_empty(declared):
            yield Several(type_, ())

    def sets_of(self, type_: Type, each: Limits, size: int) -> list[Operand]:
        """Up to `size` different elements, sorted as sets are shown."""
        elements = list(islice(self.values(type_, each), size))
        return sorted(elements, key=lambda value: sort_key(value))  # type: ignore[arg-type]  # scalars and words only

    def _maps(self, type_: MapOf, limits: Limits, each: Limits) -> Iterator[Operand]:
        declared = as_declared(limits)
        fewest, most = length_range(declared)
        keys = self.sets_of(type_.key, (), max(fewest, 1) + 1)
        two = self._two(type_.element, each)
        size = max(fewest, 1) if most != 0 else 0
        if not two or len(keys) < size or size == 0:
            if may_be_empty(declared):
                yield Keyed(type_, ())
            return
        for value in dict.fromkeys(map(_Hashable, (two[0], two[-1]))):
            yield Keyed(type_, tuple((key, value.operand) for key in keys[:size]))  # type: ignore[misc]
        if len(keys) > size and (most is None or size < most):
            yield Keyed(type_, tuple((key, two[0]) for key in keys))  # type: ignore[misc]

    def of(self, field: Field, number: int = 0) -> Operand | None:
        """The first (0) or second (1) witness of a field, None if its limits leave too few."""
        two = self._two(field.type, field.limits, field.each)
        return two[number] if number < len(two) else None

    def other_than(self, field: Field, value: Value | None) -> Operand | None:
        """A witness that differs from a default."""
        declared = operand_of(value) if value is not None else empty_of(field.type)
        values = self.values(field.type, field.limits, field.each)
        return next((operand for operand in values if not self.same(operand, declared)), None)

    def same(self, one: Operand, other: Operand | None) -> bool:
        """Whether two values have the same content, however they are written."""
        return one == other or self._content(self.value(one)) == self._content(
            self.value(other) if other is not None else None
        )

    def _content(self, value: Value | None) -> object:
        """A value with every default filled in, which can be compared."""
        match value:
            case Made(product, fields) if self._plan.selection_of(product) is None:
                every = self._plan.products[product].fields
                contents = {f.name: self._content(fields.get(f.name, f.default)) for f in every}
                empty: dict[str, object] = {
                    f.name: [] for f in every if isinstance(f.type, Collection) and contents[f.name] is None
                }
                return product, contents | empty  # a collection that is not given is an empty one
            case Items(_, items):
                return [self._content(item) for item in items]
            case Entries(_, entries):
                return [(key, self._content(item)) for key, item in entries]
        return value

    def arguments(self, product: Product) -> Mapping[str, Operand] | None:
        """The arguments of the first witness of a concrete product: its required fields, or, where its constructor is
        hidden, the parameters of the factory that chooses it. None if it cannot be made."""
        selecting = self.selecting(product)
        if selecting is not None:
            return self._selected(product.name, selecting)
        if product.name in self._arguments and not self._making:
            return self._arguments[product.name]
        firsts = {field.name: self._first(product, field) for field in product.required}
        given = {name: first for name, first in firsts.items() if first is not None}
        arguments = given if len(given) == len(firsts) else None
        if not self._making:
            self._arguments[product.name] = arguments
        return arguments

    def _first(self, product: Product, field: Field) -> Operand | None:
        """The first witness of a required field; the shallowest one where it may lead to the product again."""
        if not self._circles.leads_back(product, field.type):
            return self.of(field)
        return self._shallowest(field.type, length_range(as_declared(field.limits))[0])

    def _shallowest(self, type_: Type, size: int) -> Operand | None:
        match type_:
            case ProductType(name):
                shallowest = self._circles.shallowest(name)
                return Witness(shallowest) if shallowest is not None else None
            case MapOf(key, element) if size:
                keys, inner = self.sets_of(key, (), size), self._shallowest(element, 0)
                if inner is None or len(keys) < size:
                    return None
                return Keyed(type_, tuple((each, inner) for each in keys))  # type: ignore[misc]
            case ListOf(element) if size:
                inner = self._shallowest(element, 0)
                return Several(type_, (inner,) * size) if inner is not None else None
        return empty_of(type_)

    def _selected(self, variant: str, selecting: Selecting) -> Mapping[str, Operand] | None:
        if variant in self._making:
            return None  # it asks for itself; other witnesses end the circle
        if variant not in self._found:
            self._making.add(variant)
            self._found[variant] = selecting.making(variant)
            self._making.discard(variant)
        return self._found[variant]

    def second(self, product: Product) -> Mapping[str, Operand] | None:
        """The arguments of the second witness: the first field with two witnesses differs. None if there is none."""
        if self._making:
            return self._differing(product)
        if product.name not in self._second:
            self._second[product.name] = self._differing(product)
        return self._second[product.name]

    def _differing(self, product: Product) -> Mapping[str, Operand] | None:
        first = self.arguments(product)
        if first is None or product.single:
            return None
        selecting = self.selecting(product)
        for field in product.fields:
            if self._leads_to(field.type, product.name) or isinstance(field.type, Collection):
                continue
            other = self.of(field, 1) if field.required else self.other_than(field, field.default)
            if other is not None and selecting is not None:
                arguments = selecting.making(product.name, {field.name: other})
                if arguments is not None:
                    return arguments
            elif other is not None:
                return {**first, field.name: other}
        return None

    def value(self, operand: Operand) -> Value | None:
        """A witness as a value that could have been declared; None where it is none."""
        match operand:
            case Witness(product, second):
                declared = self._plan.products[product]
                given = self.second(declared) if second else self.arguments(declared)
                selection = self._plan.selected_by(declared)
                values = {name: self.value(each) for name, each in (given or {}).items()}
                whole = {name: value for name, value in values.items() if value is not None}
                return Made(selection.product if selection is not None else product, whole)
            case Several(type_, items):
                return Items(type_, tuple(v for item in items if (v := self.value(item)) is not None))  # type: ignore[arg-type]
            case Keyed(type_, entries):
                pairs = ((key, self.value(item)) for key, item in entries)
                return Entries(type_, tuple((key, value) for key, value in pairs if value is not None))  # type: ignore[arg-type]
            case Text() | Integer() | Real() | Boolean() | Told() | Word() | Items() | Entries() | Made():
                return operand
        return None

    def _leads_to(self, type_: Type, product: str) -> bool:
        """Whether a second witness of a type may ask for the second witness of the product again."""
        return (
            isinstance(type_, ProductType)
            and not self._plan.products[type_.name].single
            and self._reaches(type_.name, product)
        )

    def _reaches(self, start: str, goal: str) -> bool:
        seen, waiting = {start}, [start]
        while waiting:
            name = waiting.pop()
            if name == goal:
                return True
            reached = self._plan.products[name]
            more = [*reached.variants, *([reached.base] if reached.base is not None else [])]
            more += [
                type_.name for f in reached.fields if (type_ := self._looked_into(reached, f)) is not None
            ]
            waiting += [each for each in more if each not in seen]
            seen.update(more)
        return False

    def _looked_into(self, product: Product, field: Field) -> ProductType | None:
        """The product whose second witness a field's witness may ask for: its own, or that of required elements."""
        is_made = field.required and not self._circles.leads_back(product, field.type)
        type_ = innermost(field.type) if is_made else field.type
        return type_ if isinstance(type_, ProductType) else None


def empty_of(type_: Type) -> Operand | None:
    """The empty collection of a type; None for any other type."""
    if isinstance(type_, MapOf):
        return Keyed(type_, ())
    return Several(type_, ()) if isinstance(type_, Collection) else None


def operand_of(value: Value) -> Operand:
    """A declared value in the form of witnesses."""
    match value:
        case Items(type_, items):
            return Several(type_, tuple(operand_of(item) for item in items))
        case Entries(type_, entries):
            return Keyed(type_, tuple((key, operand_of(item)) for key, item in entries))
    return value


@dataclass(frozen=True, eq=False)
class _Hashable:
    """Tells operands apart by content, maps within included."""

    operand: Operand

    def __hash__(self) -> int:
        return hash(repr(self.operand))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Hashable) and self.operand == other.operand


def collection_edge(witnesses: Witnesses, field: Field, limit: Limit) -> Edge | None:
    """The edge of a limit on a whole collection."""
    return (
        _edge_of_unique(witnesses, field) if limit.name == "unique" else _size_edge(witnesses, field, limit)
    )


def _edge_of_unique(witnesses: Witnesses, field: Field) -> Edge | None:
    """Lists with one element twice, side by side and apart; and one whose elements are only alike."""
    assert isinstance(field.type, ListOf)
    fewest, most = length_range(as_declared(field.limits))
    elements = tuple(islice(witnesses.values(field.type.element, field.each), max(fewest, 2)))
    outside: list[Operand] = []
    for size in dict.fromkeys((max(fewest, 2), max(fewest, 3))):
        differing = elements[: size - 1]
        if len(differing) == size - 1 and (most is None or size <= most):
            outside.append(Several(field.type, (*differing, differing[0])))
    if not outside:
        return None
    inside = sized(witnesses, field, max(fewest, 1))
    if field.type.element == TEXT and fewest <= 2 and (most is None or most >= 2):
        is_alike = all(first_broken(text, field.each) is None for text in ALIKE)
        inside = Several(field.type, ALIKE) if is_alike else inside
    return Edge(tuple(outside), inside, (elements[0],) * len(outside))


def _size_edge(witnesses: Witnesses, field: Field, limit: Limit) -> Edge | None:
    assert isinstance(limit.bound, int)
    assert isinstance(field.type, Collection)
    size = limit.bound - 1 if limit.name == "min_length" else limit.bound + 1
    outside = sized(witnesses, field, size)
    fewest, most = length_range(as_declared(field.limits))
    fits = fewest <= limit.bound and (most is None or limit.bound <= most)
    inside = sized(witnesses, field, limit.bound) if fits else None
    return Edge((outside,), inside) if outside is not None else None


def holding(witnesses: Witnesses, field: Field, element: Operand) -> Operand | None:
    """A collection within its length limits whose first element (a map's first value) is the given one."""
    whole = witnesses.of(field)
    if isinstance(whole, Several) and whole.items:
        is_set = isinstance(field.type, SetOf)
        if (is_set or is_unique(as_declared(field.limits))) and element in whole.items[1:]:
            return None
        if is_set:
            return Several(field.type, tuple(sorted((element, *whole.items[1:]), key=_set_order)))
        return Several(field.type, (element, *whole.items[1:]))
    if isinstance(whole, Keyed) and whole.entries:
        (key, _), *others = whole.entries
        return Keyed(field.type, ((key, element), *others))
    return None


def in_place_of_first(whole: Operand, inner: Operand) -> Operand | None:
    """A value with another inmost first element; None where a collection in it is empty."""
    match whole:
        case Several(type_, (first, *rest)):
            replaced = in_place_of_first(first, inner)
            return Several(type_, (replaced, *rest)) if replaced is not None else None
        case Keyed(type_, ((key, first), *rest)):
            replaced = in_place_of_first(first, inner)
            return Keyed(type_, ((key, replaced), *rest)) if replaced is not None else None
        case Several() | Keyed():
            return None
    return inner


def _set_order(operand: Operand) -> tuple[int, tuple[str, int]]:
    if isinstance(operand, (Text, Integer, Word)):
        return 0, sort_key(operand)
    return 1, ("", 0)
