"""Reads the values that are written in a declaration."""

from __future__ import annotations

import math
from collections.abc import Mapping

from urform.declaration.catalogue import values as catalogue
from urform.declaration.document import MappingNode, Node, ScalarNode, SequenceNode
from urform.declaration.elsewhere import VALUES
from urform.declaration.limits import goes_with
from urform.declaration.model import Declaration, Field, Limit, Product
from urform.declaration.place import Place
from urform.declaration.problems import Problems, did_you_mean
from urform.declaration.ranges import LARGEST_INTEGER
from urform.declaration.selection import Outcome, deciding, empty, parameters
from urform.declaration.shape import described
from urform.declaration.told import is_written_so, read_told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    REAL,
    TEXT,
    TOLD,
    ChoiceType,
    ListOf,
    MapOf,
    MaybeOf,
    ProductType,
    Scalar,
    SetOf,
    Type,
    element_of,
)
from urform.declaration.values import (
    Absent,
    Boolean,
    Entries,
    Integer,
    Items,
    Made,
    Real,
    Text,
    Value,
    Word,
    broken_limit,
    sort_key,
)
from urform.prose import listing


class ValueReader:
    """Types the values of one declaration; what does not fit is noted, and typed as None.

    With `deciding` it also asks what a factory by values would make of them; its conditions must be valid.
    """

    def __init__(self, declaration: Declaration, problems: Problems, *, deciding: bool = False) -> None:
        self._declaration = declaration
        self._problems = problems
        self._deciding = deciding

    def field_value(self, node: Node, field: Field) -> Value | None:
        """A value for a field, within the field's limits."""
        value = self.value(node, field.type)
        if value is None:
            return None
        element = element_of(field.type) or field.type
        limits = tuple(limit for limit in field.limits if goes_with(limit.name, field.type))
        each = tuple(limit for limit in field.each if goes_with(limit.name, element))
        broken = broken_limit(
            value, limits, each
        )  # one that does not go with its type is told where it stands
        if broken is not None:
            self._breaks(node, field, broken)
            return None
        return value

    def _breaks(self, node: Node, field: Field, limit: Limit) -> None:
        bound = "" if limit.bound is True else f" {limit.bound}"
        self._problems.add(catalogue.VALUE_LIMIT, node.place, field=field.name, limit=f"{limit.name}{bound}")

    def answer(self, node: Node, type_: Type) -> Value | Absent | None:
        """What an operation of that type answers: a value, or none at all where it may give none."""
        if not isinstance(type_, MaybeOf):
            return self.value(node, type_)
        if isinstance(node, ScalarNode) and node.value is None:
            return Absent()
        return self.value(node, type_.element)

    def value(self, node: Node, type_: Type) -> Value | None:
        """A value of a type, limits of the field aside."""
        match type_:
            case ListOf(element):
                items = self._items(node, element, type_)
                return None if items is None else Items(type_, tuple(items))
            case SetOf(element):
                items = self._items(node, element, type_)
                return None if items is None else Items(type_, tuple(sorted(set(items), key=sort_key)))
            case MapOf():
                return self._entries(node, type_)
            case ChoiceType(name):
                return self._word(node, name)
            case ProductType(name):
                return self._product(node, self._declaration.products[name])
        return self._scalar(node, type_)

    def _wrong(self, node: Node, type_: Type) -> None:
        use = VALUES.get(str(type_), "")
        self._problems.add(catalogue.VALUE_TYPE, node.place, found=described(node), type=type_, use=use)

    def _scalar(self, node: Node, type_: Type) -> Value | None:
        scalar = node.value if isinstance(node, ScalarNode) else None
        if type_ == TEXT and isinstance(scalar, str):
            return Text(scalar)
        if type_ == BOOLEAN and isinstance(scalar, bool):
            return Boolean(scalar)
        if type_ == INTEGER and isinstance(scalar, int) and not isinstance(scalar, bool):
            if abs(scalar) > LARGEST_INTEGER:
                self._problems.add(catalogue.INTEGER_RANGE, node.place, number=str(scalar)[:40])
                return None
            return Integer(scalar)
        if type_ == REAL and isinstance(scalar, (int, float)) and not isinstance(scalar, bool):
            return self._real(node, scalar)
        if (
            isinstance(type_, Scalar)
            and type_ in TOLD
            and isinstance(node, ScalarNode)
            and is_written_so(node.value, type_.name)
        ):
            told = read_told(type_.name, node.text)
            if told is None:
                wanted = KINDS[type_.name].wanted
                self._problems.add(catalogue.NOT_TOLD, node.place, text=node.text[:40], wanted=wanted)
            return told
        if type_ in (TEXT, BOOLEAN, INTEGER, REAL, *TOLD):
            self._wrong(node, type_)
        return None

    def _real(self, node: Node, scalar: float) -> Real | None:
        try:
            number = float(scalar)
        except OverflowError:
            number = math.inf
        if not math.isfinite(number):
            self._problems.add(catalogue.NOT_FINITE, node.place)
            return None
        return Real(number + 0.0)  # -0.0 is held as 0.0

    def _word(self, node: Node, choice: str) -> Word | None:
        words = [use.name for use in self._declaration.choices[choice].words]
        if isinstance(node, ScalarNode) and node.text in words:
            return Word(choice, node.text)
        if isinstance(node, ScalarNode) and isinstance(node.value, str):
            hint = did_you_mean(node.text, words)
            self._problems.add(
                catalogue.UNKNOWN_CHOICE,
                node.place,
                word=node.text,
                choice=choice,
                words=tuple(words),
                hint=hint,
            )
        else:
            self._wrong(node, ChoiceType(choice))
        return None

    def _items(self, node: Node, element: Type, type_: Type) -> list[Value] | None:
        if not isinstance(node, SequenceNode):
            self._wrong(node, type_)
            return None
        items = [self.value(item, element) for item in node.items]
        typed = [item for item in items if item is not None]
        return typed if len(typed) == len(items) else None

    def _entries(self, node: Node, type_: MapOf) -> Entries | None:
        if not isinstance(node, MappingNode):
            self._wrong(node, type_)
            return None
        pairs = [
            (self.value(key, type_.key), self.value(value, type_.element))
            for key, value in node.entries.values()
        ]
        typed = [(key, value) for key, value in pairs if key is not None and value is not None]
        if len(typed) < len(pairs):
            return None
        return Entries(type_, tuple(sorted(typed, key=lambda pair: sort_key(pair[0]))))

    def _product(self, node: Node, product: Product) -> Made | None:
        if not isinstance(node, MappingNode):
            self._wrong(node, ProductType(product.name))
            return None
        given = dict(node.entries)
        base = self._declaration.products.get(product.base or "")
        if base is not None and base.factory is not None and base.factory.form == "by_values":
            self._problems.add(catalogue.HIDDEN_VARIANT, node.place, product=product.name, base=base.name)
            return None
        by_values = product.factory is not None and product.factory.form == "by_values"
        if product.abstract and not by_values:
            chosen = self._chosen(node, given, product)
            if chosen is None:
                return None
            product = chosen
        fields = (
            parameters(self._declaration, product)
            if by_values
            else tuple(self._declaration.all_fields(product))
        )
        result = self.whole_product(
            node.place, product, {name: value for name, (_, value) in given.items()}, fields, node
        )
        return (
            self._decided(node, product, result)
            if result is not None and by_values and self._deciding
            else result
        )

    def _decided(self, node: Node, product: Product, candidate: Made) -> Made | None:
        """Values of a factory by values, as long as it would not refuse them, nor the variant that it chooses."""
        outcome = self._outcome(product, candidate.fields)
        reason = ""
        if isinstance(outcome, str):
            for field in self._declaration.all_fields(product.variants[outcome]):
                value = candidate.fields.get(field.name)
                broken = broken_limit(value, field.limits, field.each) if value is not None else None
                if broken is not None:
                    reason = f"{field.name} breaks {broken.name} of {outcome}"
        else:
            reason = outcome.reason
        if not reason:
            return candidate
        self._problems.add(catalogue.VALUE_REFUSED, node.place, product=product.name, reason=reason)
        return None

    def _outcome(self, product: Product, given: Mapping[str, Value]) -> Outcome:
        """The outcome of the factory of a product for some values: a refusal, or the name of a variant."""
        defaults = ValueReader(
            self._declaration, Problems()
        )  # what is wrong with a default is told elsewhere
        values: dict[str, Value | float | None] = {}
        for field in parameters(self._declaration, product):
            value = given.get(field.name)
            if value is None and field.default is not None:
                value = defaults.field_value(field.default, field)
            values[field.name] = value if value is not None else empty(field.type)
        return deciding(self._declaration, product).decide(values)

    def _chosen(
        self, node: MappingNode, given: dict[str, tuple[ScalarNode, Node]], base: Product
    ) -> Product | None:
        used = given.pop("use", None)
        if used is None:
            self._problems.add(
                catalogue.VARIANT_NEEDED, node.place, product=base.name, names=listing(base.variants)
            )
            return None
        use = used[1]
        name = use.text if isinstance(use, ScalarNode) else ""
        if name not in base.variants:
            hint = did_you_mean(name, base.variants)
            self._problems.add(
                catalogue.NOT_A_VARIANT,
                use.place,
                name=name,
                product=base.name,
                names=tuple(base.variants),
                hint=hint,
            )
            return None
        return base.variants[name]

    def whole_product(
        self,
        place: Place,
        product: Product,
        given: Mapping[str, Node],
        fields: tuple[Field, ...],
        whole: Node | None = None,
    ) -> Made | None:
        """A whole product: every required field given, none unknown, each within its limits."""
        problems_before = self._problems.count
        values = self.values(product, given, fields, whole)
        missing = [field.name for field in fields if field.required and field.name not in given]
        if missing:
            self._problems.add(catalogue.MISSING_FIELD, place, product=product.name, fields=listing(missing))
        if self._problems.count > problems_before:
            return None
        return Made(product.name, values)

    def values(
        self,
        product: Product,
        given: Mapping[str, Node],
        fields: tuple[Field, ...],
        whole: Node | None = None,
    ) -> dict[str, Value]:
        """Values for some fields of a product, in the order of the fields."""
        known = {field.name: field for field in fields}
        for name, node in given.items():
            if name not in known:
                key = (
                    whole.entries[name][0].place
                    if isinstance(whole, MappingNode) and name in whole.entries
                    else node.place
                )
                hint = did_you_mean(name, known)
                self._problems.add(
                    catalogue.UNKNOWN_FIELD,
                    key,
                    field=name,
                    product=product.name,
                    known=tuple(known),
                    hint=hint,
                )
        typed = {name: self.field_value(given[name], field) for name, field in known.items() if name in given}
        return {name: value for name, value in typed.items() if value is not None}
