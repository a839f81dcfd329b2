"""Records in TypeScript: the shape of each product, and the functions that read and write it."""

from __future__ import annotations

from collections.abc import Iterator

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
    ProductType,
    SetOf,
    Type,
)
from urform.languages.naming.names import article, camel, pascal
from urform.languages.rendering.text_patterns import forms_of
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import CHECKS as CHECKS_OF_TYPES
from urform.languages.typescript.expressions import listed, text_literal
from urform.languages.typescript.products import fields_type
from urform.plan.model import Factory, Field, Limit, Product, Records, Selection
from urform.plan.whole import Plan

READERS: dict[Type, str] = {
    TEXT: "TextReader",
    INTEGER: "IntegerReader",
    REAL: "RealReader",
    BOOLEAN: "TruthReader",
}
CONTAINERS = {ListOf: "ListReader", SetOf: "SetReader"}
TYPES = ("RecordError", "RecordProblem")
ONE_OF = ("RecordError", "createAll", "parseRecord")  # what the module of records exports of its support code
CHECKS = ("byCodePoint", "distinct", "integer", "real", "same", "sized", "text")  # that the support code asks


def entries_of(plan: Plan) -> Iterator[str]:
    """The functions that the module of records has: no factory by values is called so."""
    if plan.records is not None:
        yield from ("reading", "createAll", "parseRecord")
        for product in plan.products:
            yield from (f"{verb}{pascal(product)}" for verb in ("read", "write", "textOf"))
            yield f"read{pascal(product)}With"


def records_text(context: Context) -> str:
    """The module of records, without its imports."""
    records = _Records(context)
    products = [product for product in context.plan.products.values() if product.base is None]
    return context.templates.render("records", "", r={"groups": [records.group(each) for each in products]})


def listed_keys(factory: Factory) -> str:
    """The declared keys of a factory, as a list."""
    return f"[{', '.join(map(text_literal, factory.kinds))}]"


class _Records:
    """The shapes of one plan's products."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._plan, self._names, self._code = context.plan, context.names, context.code
        self._hidden = context.hidden
        assert context.plan.records is not None
        self._settings: Records = context.plan.records

    def group(self, base: Product) -> dict[str, object]:
        """A product, or an abstract one with its variants."""
        kinds = [self._plan.products[name] for name in base.variants]
        selection = self._plan.selection_of(base.name)
        return {
            "shapes": [self._shape(each, selection) for each in kinds or [base]],
            "base": self._base(base, kinds, selection) if kinds else None,
            "entries": [self._entry(each) for each in ([base, *kinds] if kinds else [base])],
        }

    def _entry(self, product: Product) -> dict[str, str]:
        ending = "kinds" if product.abstract else "shape"
        factory = self._plan.registry_of(product)
        return {
            "registry": f"{self._names.stem(product.name)}Registry" if factory is not None else "",
            "declared": listed_keys(factory) if factory is not None else "",
            "fields": self._fields_of(product),
            "owner": product.name,
            "type": self._names.value(product.name),
            "name": pascal(product.name),
            "constant": f"{camel(product.name)}_{ending}",
            "a": article(product.name),
            "variable": self._names.parameter(camel(product.name)),
        }

    def _shape(self, product: Product, selection: Selection | None) -> dict[str, object]:
        settings = []
        if product.base is not None:
            kinds = ", ".join(map(text_literal, product.kinds))
            is_hidden = self._hidden(product)
            settings.append(f"kind: {text_literal(self._settings.kind)}")
            settings.append(f"kinds: [{kinds}]")
            key = f"(product as {self._names.type(product.name)}).key === {text_literal(product.key or '')}"
            has = key if is_hidden else f"product instanceof {self._names.type(product.name)}"
            settings.append(f"has: (product) => {has}")
        return {
            **self._entry(product),
            "make": self._make(product, selection),
            "entries": [self._field(field) for field in product.fields],
            "settings": self._set(settings),
        }

    def _set(self, settings: list[str]) -> str:
        """The last argument of a shape; none where it says nothing."""
        settings += ["ignoresUnknown: true"] if self._settings.ignores_unknown else []
        settings += ["writesAll: true"] if self._settings.write_all else []
        return listed(settings) if settings else ""

    def _make(self, product: Product, selection: Selection | None) -> str:
        """The function that makes a product of its fields."""
        type_ = self._names.type(product.name)
        if selection is None:
            if product.single:
                return f"() => {type_}.instance"
            fields = self._fields_of(product)
            return f"(fields) => new {type_}({fields})" if fields else f"() => new {type_}()"
        leading = self._settings.leading.get(product.name)
        if leading is None:
            return f'() => reading.neverMade("{product.name}")'
        given = [self._code.property(name, self._code.value(value)) for name, value in leading.items()]
        fields = f"fields as unknown as {self._names.stem(selection.product)}Fields"
        if given:
            fields = f"{{ ...fields, {', '.join(given)} }} as unknown as {self._names.stem(selection.product)}Fields"
        made = f"{self._names.function(selection.product)}({fields if selection.parameters else ''})"
        key = text_literal(product.key or "")
        parameters = "(fields)" if product.fields or given else "()"
        return f'{parameters} => reading.ofKind<{type_}>({made}, {key}, "{product.name}")'

    def _fields_of(self, product: Product) -> str:
        return f"fields as unknown as {fields_type(self._context, product)}" if product.fields else ""

    def _base(self, base: Product, kinds: list[Product], selection: Selection | None) -> dict[str, object]:
        shapes = ", ".join(f"{camel(kind.name)}_shape" for kind in kinds)
        view: dict[str, object] = {
            **self._entry(base),
            "kind": text_literal(self._settings.kind),
            "shapes": shapes,
            "by_values": selection is not None,
            "settings": self._set([]),
        }
        more = [f"byValues: {view['constant']}_values"] if selection is not None else []
        if base.is_open:
            entries = ", ".join(self._field(field) for field in base.fields)
            more += [f"entries: [{entries}]"] if entries else []
            more += ["ignoresUnknown: true"] if self._settings.ignores_unknown else []
            more += ["writesAll: true"] if self._settings.write_all else []
        view["more"] = listed(more) if more else ""
        if selection is not None:
            fields = (
                f"fields as unknown as {self._names.stem(base.name)}Fields" if selection.parameters else ""
            )
            parameters = "(fields)" if fields else "()"
            view["make"] = f"{parameters} => {self._names.function(base.name)}({fields})"
            view["parameters"] = [self._field(field) for field in self._plan.in_records(selection)]
        return view

    def _field(self, field: Field) -> str:
        """`{ name: "station", property: "station", reader: new reading.IntegerReader("Mark", "station") }`."""
        parts = [
            f"name: {text_literal(field.called)}",
            f"property: {text_literal(self._names.member(field.name))}",
            f"reader: {self._reader(field, field.type, field.limits)}",
        ]
        if not field.required:
            parts.append("optional: true")
            usual = self._usual(field)
            parts += [f"usual: {usual}"] if usual else []
        return listed(parts)

    def _usual(self, field: Field) -> str:
        """What a field has when it is not given; nothing where it is absent."""
        if field.default is not None:
            return self._code.value(field.default)
        match field.type:
            case ListOf():
                return "[]"
            case SetOf():
                return "new Set()"
            case MapOf():
                return "new Map()"
        return ""

    def _reader(
        self, field: Field, type_: Type, limits: tuple[Limit, ...], each: tuple[Limit, ...] | None = None
    ) -> str:
        """`each` are the limits of elements; those of collections within have none."""
        inner = field.each if each is None else ()
        at = f'"{field.owner}", "{field.name}"'
        bounds = self._code.bounds(field, type_, limits)
        is_secret = field.secret
        given = f", {listed(bounds)}" if bounds else ""
        hidden = ".secret()" if is_secret and type_ != TEXT else ""
        match type_:
            case ChoiceType(name):
                return f"new reading.WordReader({at}, {self._words(name)})"
            case ProductType(name):
                ending = "kinds" if self._plan.products[name].abstract else "shape"
                return f"new reading.ProductReader({at}, () => {camel(name)}_{ending})"
            case MapOf(key, element):
                keys, values = self._reader(field, key, (), ()), self._reader(field, element, inner, ())
                return f"new reading.MapReader({at}, {keys}, {values}{given}){hidden}"
            case ListOf(element) | SetOf(element):
                values = self._reader(field, element, inner, ())
                return f"new reading.{CONTAINERS[type(type_)]}({at}, {values}{given}){hidden}"
        if type_ in TOLD:
            wanted = KINDS[str(type_)].asked
            return f'new reading.ToldReader({at}, "{wanted}", {CHECKS_OF_TYPES[type_]}{given})'
        if forms := forms_of(limits):
            given = f"{given or ', {}'}, [{', '.join(map(self._code.patterns.of, forms))}]"
        return f"new reading.{READERS[type_]}({at}{given if type_ != BOOLEAN else ''})"

    def _words(self, choice: str) -> str:
        declared = self._plan.choices[choice]
        pairs = (f"[{text_literal(declared.called(w))}, {text_literal(w)}]" for w in declared.words)
        return f"[{', '.join(pairs)}]"
