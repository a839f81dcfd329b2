"""Records in Python: the shape of each product, and the functions that read and write it."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import (
    BOOLEAN,
    DATE,
    DECIMAL,
    DURATION,
    INSTANT,
    INTEGER,
    REAL,
    TEXT,
    TIME,
    UUID,
    ChoiceType,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
)
from urform.languages.naming.names import article, screaming, snake, spoken
from urform.languages.python.context import Context
from urform.languages.python.expressions import text_literal
from urform.languages.rendering.text_patterns import forms_of
from urform.plan.model import Field, Limit, Product, Records, Selection
from urform.plan.told_types import told_in_fields
from urform.plan.whole import Plan

READERS: dict[Type, str] = {
    TEXT: "Text",
    INTEGER: "Integer",
    REAL: "Real",
    BOOLEAN: "Truth",
}
TOLD_READERS: dict[Type, str] = {
    DATE: "Date",
    TIME: "Time",
    INSTANT: "Instant",
    DURATION: "Duration",
    DECIMAL: "DecimalNumber",
    UUID: "Uuid",
}
CONTAINERS = {ListOf: "ListOf", SetOf: "SetOf", MapOf: "MapOf"}
ERRORS = ("RecordError", "RecordProblem")
ONE_OF = (*ERRORS, "create_all", "parse", "to_text")  # what the module of records exports of its support code
CHECKS = (
    "integer",
    "real",
    "sized",
    "text",
)  # that the support code asks


def entries_of(plan: Plan) -> Iterator[str]:
    """The functions that the module of records has: no factory by values is called so."""
    if plan.records is not None:
        yield from ("reading", "records", "told", "create_all", "parse", "to_text")
        for product in plan.products:
            yield from (f"read_{snake(product)}", f"read_{snake(product)}_with", f"write_{snake(product)}")


def readers_of(plan: Plan) -> Iterator[str]:
    """The readers of what texts tell, those that some record asks."""
    yield from (TOLD_READERS[type_] for type_ in told_in_fields(plan))


def makers_of(context: Context) -> Iterator[str]:
    """The factories by values, which the module of records names without calling them."""
    for product in context.plan.products.values():
        if context.plan.selection_of(product.name) is not None:
            yield context.names.function(product.name)


def records_text(context: Context) -> str:
    """The module of records, without its imports."""
    plan, records = context.plan, _Records(context)
    products = list(plan.products.values())
    entries = [name for p in products for name in (f"read_{snake(p.name)}", f"write_{snake(p.name)}")]
    entries += [f"read_{snake(p.name)}_with" for p in products if plan.registry_of(p) is not None]
    return context.templates.render(
        "records",
        "",
        r={
            "exported": [f'"{name}"' for name in sorted((*ONE_OF, *entries), key=_order)],
            "groups": [records.group(product) for product in products if product.base is None],
        },
    )


def _order(name: str) -> tuple[bool, str]:
    return not name[0].isupper(), name


class _Records:
    """The shapes of one plan's products."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._plan, self._names, self._code = context.plan, context.names, context.code
        assert context.plan.records is not None
        self._settings: Records = context.plan.records

    def group(self, base: Product) -> dict[str, object]:
        """A product, or an abstract one with its variants."""
        kinds = [self._plan.products[name] for name in base.variants]
        selection = self._plan.selection_of(base.name)
        made = kinds or [base]
        return {
            "kinds": [self._shape(each, selection) for each in made],
            "base": self._base(base, kinds, selection) if kinds else None,
            "entries": [self._entry(each) for each in ([base, *kinds] if kinds else [base])],
        }

    def _entry(self, product: Product) -> dict[str, str]:
        factory = self._plan.registry_of(product)
        return {
            "registry": f"{self._names.stem(product.name)}Registry" if factory is not None else "",
            "declared": ", ".join(map(text_literal, factory.kinds)) if factory is not None else "",
            "owner": product.name,
            "type": self._names.value(product.name),
            "function": snake(product.name),
            "constant": f"_{screaming(product.name)}",
            "a": article(product.name),
            "spoken": spoken(product.name),
            "variable": self._names.parameter(snake(product.name)),
        }

    def _shape(self, product: Product, selection: Selection | None) -> dict[str, object]:
        settings = self._settings
        leading = settings.leading.get(product.name)
        chosen = selection is not None and leading is not None
        given = "".join(f"{self._names.field(n)}={self._code.value(v)}, " for n, v in (leading or {}).items())
        return {
            **self._entry(product),
            "owner": product.name,
            "kinds": ", ".join(map(text_literal, product.kinds)),
            "kind": text_literal(settings.kind) if product.base is not None else "",
            "make": f"_{snake(product.name)}" if selection is not None else self._names.type(product.name),
            "maker": self._names.function(selection.product) if selection is not None and chosen else "",
            "given": given,
            "hidden": selection is not None,
            "entries": [self._field(field) for field in product.fields],
            "more": self._more(),
        }

    def _more(self) -> str:
        ignores = ", ignores_unknown=True" if self._settings.ignores_unknown else ""
        return ignores + (", writes_all=True" if self._settings.write_all else "")

    def _base(self, base: Product, kinds: list[Product], selection: Selection | None) -> dict[str, object]:
        shapes = ", ".join(f"{self._names.type(k.name)}: _{screaming(k.name)}" for k in kinds)
        return {
            **self._entry(base),
            "owner": base.name,
            "kind": text_literal(self._settings.kind),
            "shapes": shapes,
            "by_values": [self._field(field) for field in self._plan.in_records(selection)]
            if selection is not None
            else None,
            "maker": self._names.function(base.name) if selection is not None else "",
            "more": self._more(),
            "entries": [self._field(field) for field in base.fields] if base.is_open else [],
            "writes": self._more() if base.is_open else "",
        }

    def _field(self, field: Field) -> str:
        """`reading.Entry("station", "station", reading.Integer("Mark", "station", min=1))`."""
        attribute = self._names.field(field.name)
        default = self._code.default(field)
        more = ""
        if not field.required:
            more = ", required=False" + (f", default={default}" if default != "None" else "")
        reader = self._reader(field, field.type, field.limits)
        return f'reading.Entry({text_literal(field.called)}, "{attribute}", {reader}{more})'

    def _reader(self, field: Field, type_: Type, limits: tuple[Limit, ...], within: str = "") -> str:
        at = f'"{field.owner}", "{field.name}"'
        inside = f', within="{within}"' if within else ""
        given = "".join(
            f", {limit.name}={self._code.bound(limit.bound)}"
            for limit in limits
            if limit.bound is not None and limit.form is None
        )
        given += ", unless_empty=True" if any(limit.unless_empty for limit in limits) else ""
        forms = "".join(f", {self._code.patterns.of(limit)}" for limit in forms_of(limits))
        given += ", secret=True" if field.secret and type_ == TEXT else ""
        match type_:
            case ChoiceType(name):
                return f"reading.Word({at}, {self._words(name)}{inside})"
            case ProductType(name):
                return f"reading.One({at}, lambda: _{screaming(name)}{inside})"
            case MapOf(key, element):
                keys = self._reader(field, key, (), "key.")
                each = self._reader(field, element, field.each if not within else (), "each.")
                return f"reading.MapOf({at}, {keys}, {each}{inside}{given}{self._secret(field)})"
            case ListOf(element) | SetOf(element):
                each = self._reader(field, element, field.each if not within else (), "each.")
                made = CONTAINERS[type(type_)]
                return f"reading.{made}({at}, {each}{inside}{given}{self._secret(field)})"
        if type_ in TOLD_READERS:
            return f"told.{TOLD_READERS[type_]}({at}{inside}{given})"
        return f"reading.{READERS[type_]}({at}{forms}{inside}{given})"

    def _secret(self, field: Field) -> str:
        return ", secret=True" if field.secret else ""

    def _words(self, choice: str) -> str:
        declared = self._plan.choices[choice]
        type_ = self._names.type(choice)
        entries = (
            f"{text_literal(declared.called(word))}: {type_}.{self._names.word(word)}"
            for word in declared.words
        )
        return f"{{{', '.join(entries)}}}"
