"""Records in Java: a class of methods that read products of what JSON libraries hand out, and write them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

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
    TOLD,
    UUID,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
)
from urform.languages.java.context import Context
from urform.languages.java.expressions import text_literal
from urform.languages.naming.names import Words, article, beside, pascal, screaming
from urform.plan.model import Field, Limit, Product, Records, Selection, asked_first, is_unique, of_type
from urform.plan.whole import Plan

READERS: dict[Type, str] = {
    TEXT: "text",
    INTEGER: "integer",
    REAL: "real",
    BOOLEAN: "truth",
    DATE: "date",
    TIME: "time",
    INSTANT: "instant",
    DURATION: "duration",
    DECIMAL: "decimal",
    UUID: "uuid",
}
CONTAINERS = {ListOf: "list", SetOf: "set"}
CLASSES = ("RecordProblem", "Reading", "Writing")  # support code, whole
TYPES = (*CLASSES, "All", "Records")


def types_of(plan: Plan) -> Iterator[str]:
    """The types that records bring with them."""
    if plan.records is not None:
        yield from TYPES


def records_text(context: Context) -> str:
    """The class of records, without its imports."""
    records = _Records(context)
    plan = context.plan
    return context.templates.render(
        "records",
        "",
        r={
            "choices": [records.choice(name) for name in plan.choices_in_fields],
            "products": [
                records.base(product) if product.abstract else records.kind(product)
                for product in plan.products.values()
            ],
        },
    )


class _Records:
    """What reads and writes the products of one plan."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._plan, self._names, self._code = context.plan, context.names, context.code
        assert context.plan.records is not None
        self._settings: Records = context.plan.records

    def choice(self, name: str) -> dict[str, str]:
        """The words of a choice by their names in records."""
        choice, type_ = self._plan.choices[name], self._names.type(name)
        return {
            "constant": self._constant(name),
            "type": type_,
            "names": ", ".join(map(text_literal, choice.in_records)),
            "words": ", ".join(f"{type_}.{self._names.word(word)}" for word in choice.words),
        }

    def _constant(self, choice: str) -> str:
        """What holds the words of a choice; a type of that name would be hidden by it."""
        types = Words(map(self._names.type, self._plan.type_names))
        return types.escape(screaming(choice))

    def _entry(self, product: Product) -> dict[str, object]:
        taken = {self._names.member(field.name) for field in product.fields}
        selection = self._plan.selection_of(product.name)
        taken |= (
            {self._names.member(f.name) for f in selection.parameters} if selection is not None else set()
        )
        return {
            "name": pascal(product.name),
            "type": self._names.type(product.name),
            "a": article(product.name),
            "owner": product.name,
            "abstract": product.abstract,
            "value": beside("value", taken),
            "fields_": beside("fields", taken),
            "options": beside("options", taken),
        }

    def kind(self, product: Product) -> dict[str, object]:
        """A product that is made."""
        entry = self._entry(product)
        selection = self._plan.selected_by(product)
        is_variant = product.base is not None
        kind = text_literal(self._settings.kind)
        kinds = ", ".join(map(text_literal, product.kinds))
        known = ([kind] if is_variant else []) + [text_literal(field.called) for field in product.fields]
        given = {field.name: self._names.member(field.name) for field in product.fields}
        return {
            **entry,
            "asked": f'"{product.name}", {f"{kind}, {kinds}" if is_variant else "null"}',
            "fields": [self._reading(field, str(entry["fields_"])) for field in product.fields],
            "known": ", ".join(known),
            "refuses": not self._settings.ignores_unknown,
            "chosen": list(self._chosen(product, selection, given, str(entry["options"]))),
            "made": self._made(product, selection, given, entry),
            "kind": f"{kind}, {text_literal(product.kinds[0])}" if is_variant else "",
            "first": text_literal(product.fields[0].called) if product.fields else '""',
            "written": [self._written(field) for field in product.fields],
        }

    def base(self, base: Product) -> dict[str, object]:
        """An abstract product."""
        entry = self._entry(base)
        selection = self._plan.selection_of(base.name)
        kinds = [self._plan.products[name] for name in base.variants]
        every = ", ".join(text_literal(kind) for each in kinds for kind in each.kinds)
        needed = "true" if selection is None else "false"
        view: dict[str, object] = {
            **entry,
            "asked": f'"{base.name}", {text_literal(self._settings.kind)}, {needed}, {every}',
            "kinds": [
                {
                    "name": pascal(each.name),
                    "type": self._names.type(each.name),
                    "cases": ", ".join(map(text_literal, each.kinds)),
                }
                for each in kinds
            ],
            "open": base.is_open,
            "every": every,
            "registry": self._registry(base, entry),
            "key": text_literal(self._settings.kind),
            "written": [self._written(field) for field in base.fields],
            "by_values": None,
        }
        if selection is not None:
            given = {field.name: self._names.member(field.name) for field in selection.parameters}
            options, fields = str(entry["options"]), str(entry["fields_"])
            view["by_values"] = {
                **entry,
                "asked": f'"{base.name}", null',
                "fields": [self._reading(field, fields) for field in self._plan.in_records(selection)],
                "known": ", ".join(text_literal(field.called) for field in selection.parameters),
                "refuses": not self._settings.ignores_unknown,
                "chosen": list(self._options(selection.product, selection.optional, given, options)),
                "made": f"{fields}.made(() -> {self._select(selection, given, options)})",
            }
        return view

    def _registry(self, base: Product, entry: Mapping[str, object]) -> dict[str, object] | None:
        """How kinds are read that only a registry has: by what all kinds have."""
        factory = self._plan.registry_of(base)
        if factory is None:
            return None
        given = {field.name: self._names.member(field.name) for field in base.fields}
        fields, options = str(entry["fields_"]), str(entry["options"])
        taken = set(given.values())
        kind, registry = beside("kind", taken), beside("registry", taken)
        arguments = [kind, *(given[field.name] for field in base.required)]
        arguments += [options] if base.optional else []
        or_null = ".orElse(null)" if factory.unknown == "nothing" else ""
        made = f"{registry}.make({', '.join(arguments)}){or_null}"
        rest = f"{entry['value']}.without({text_literal(self._settings.kind)})"
        known = [text_literal(self._settings.kind), *(text_literal(field.called) for field in base.fields)]
        return {
            **entry,
            "type": f"{self._names.type(base.name)}Registry",
            "declared": ", ".join(map(text_literal, factory.kinds)),
            "asked": f'"{base.name}", {text_literal(self._settings.kind)}, {kind}',
            "kind": kind,
            "registry": registry,
            "kinds": beside("kinds", taken),
            "others": beside("others", taken),
            "fields": [self._reading(field, fields) for field in base.fields],
            "known": ", ".join(known),
            "refuses": not self._settings.ignores_unknown,
            "chosen": list(self._options(base.name, base.optional, given, options)),
            "made": f"{fields}.made(() -> {made})",
            "whole": f"{registry}.make({kind}, {rest}){or_null}" if factory.needs_more else "",
        }

    # --- reading --------------------------------------------------------------------------------------

    def _reading(self, field: Field, fields: str) -> str:
        """The statement that reads a field into a variable, which is null where there is none."""
        at = f'{text_literal(field.called)}, "{field.owner}", "{field.name}"'
        value = f"{fields}.{'required' if field.required else 'optional'}({at})"
        read = self._read(field, field.type, field.limits, value)
        return f"{self._code.boxed(field.type)} {self._names.member(field.name)} = {read};"

    def _limits(self, limits: tuple[Limit, ...]) -> str:
        return ", ".join(
            self._limit(limit) for limit in limits if limit.name not in ("choice", *map(str, TOLD))
        )

    def _limit(self, limit: Limit) -> str:
        bound = self._code.bound(None if limit.bound is True else limit.bound)
        if limit.unless_empty:
            return f'Reading.unlessEmpty("{limit.name}", {bound})'
        if limit.form is not None:
            return f'Reading.form("{limit.name}", {bound}, {self._code.pattern(limit)})'
        return f'Reading.limit("{limit.name}", {bound})'

    def _read(self, field: Field, type_: Type, limits: tuple[Limit, ...], value: str, depth: int = 0) -> str:
        is_hidden = field.secret and not isinstance(type_, ProductType) and not depth
        value += ".secret()" if is_hidden else ""
        own = of_type(type_, limits)
        given = self._limits(asked_first(own))
        more = f", {given}" if given else ""
        match type_:
            case ChoiceType(name):
                return f"{value}.word({self._constant(name)})"
            case ProductType(name):
                return f"make{pascal(name)}({value})"
            case ListOf(element) | SetOf(element):
                each = self._reader(field, element, () if depth else field.each, depth)
                if not is_unique(own):
                    return f"{value}.{CONTAINERS[type(type_)]}({each}{more})"
                if isinstance(element, ChoiceType):
                    return f"{value}.distinctWords({each}, {self._names.type(element.name)}::word{more})"
                return f"{value}.distinct({each}{more})"
            case MapOf(key, element):
                numbered = "true" if key == INTEGER else "false"
                keys = self._reader(field, key, (), depth)
                each = self._reader(field, element, () if depth else field.each, depth)
                return f"{value}.map({numbered}, {keys}, {each}{more})"
        return f"{value}.{READERS[type_]}({given if type_ != BOOLEAN else ''})"

    def _reader(self, field: Field, type_: Type, limits: tuple[Limit, ...], depth: int) -> str:
        """The function that reads an element."""
        if isinstance(type_, ProductType):
            return f"Records::make{pascal(type_.name)}"
        if type_ == REAL:
            limits = (Limit("finite"), *(limit for limit in limits if limit.name != "finite"))
        taken = {self._names.member(each.name) for each in self._plan.products[field.owner].fields}
        name = beside(_each(depth), self._all_fields() | taken)
        return f"{name} -> {self._read(field, type_, limits, name, depth + 1)}"

    def _all_fields(self) -> set[str]:
        """The variables of all products: a parameter of a function may hide none of them."""
        products = self._plan.products.values()
        return {self._names.member(field.name) for product in products for field in product.fields}

    def _chosen(
        self, product: Product, selection: Selection | None, given: Mapping[str, str], options: str
    ) -> Iterator[str]:
        """The statements that choose options."""
        if selection is None:
            yield from self._options(product.name, product.optional, given, options)
            return
        leading = self._settings.leading.get(product.name, {})
        values = {**given, **{name: self._code.value(value) for name, value in leading.items()}}
        yield from self._options(selection.product, selection.optional, values, options, given)

    def _options(
        self,
        product: str,
        fields: tuple[Field, ...],
        values: Mapping[str, str],
        options: str,
        absent: Mapping[str, str] | None = None,
    ) -> Iterator[str]:
        if not fields:
            return
        type_ = f"{self._names.type(product)}.Options"
        yield f"{type_} {options} = new {type_}();"
        for field in fields:
            if field.name not in values:
                continue
            call = f"{options}.{self._names.member(field.name)}({values[field.name]});"
            if absent is None or field.name in absent:
                yield from (f"if ({values[field.name]} != null) {{", f"    {call}", "}")
            else:
                yield call

    def _made(
        self,
        product: Product,
        selection: Selection | None,
        given: Mapping[str, str],
        entry: Mapping[str, object],
    ) -> str:
        fields, options = str(entry["fields_"]), str(entry["options"])
        type_ = self._names.type(product.name)
        if selection is not None:
            leading = self._settings.leading.get(product.name)
            if leading is None:
                return f"{fields}.made({type_}.class, () -> null)"
            values = {**given, **{name: self._code.value(value) for name, value in leading.items()}}
            return f"{fields}.made({type_}.class, () -> {self._select(selection, values, options)})"
        if product.single:
            return f"{fields}.made({type_}::instance)"
        arguments = [given[field.name] for field in product.required]
        arguments += [options] if product.optional else []
        if not arguments:
            return f"{fields}.made({type_}::new)"
        return f"{fields}.made(() -> new {type_}({', '.join(arguments)}))"

    def _select(self, selection: Selection, values: Mapping[str, str], options: str) -> str:
        arguments = [values[field.name] for field in selection.required]
        arguments += [options] if selection.optional else []
        return f"{self._names.type(selection.product)}.of({', '.join(arguments)})"

    # --- writing --------------------------------------------------------------------------------------

    def _written(self, field: Field) -> str:
        """The statement that puts what is written of a field into a tree."""
        got = f"made.{self._names.member(field.name)}()"
        name = text_literal(field.called)
        written = self._optional(field, got) if field.may_be_absent else self._write(field.type, got)
        if field.required or self._settings.write_all:
            return f"tree.put({name}, {written});"
        return f"Writing.put(tree, {name}, {written}, {self._usual(field)});"

    def _optional(self, field: Field, got: str) -> str:
        if field.type in (INTEGER, REAL):
            return f"Writing.each({got})"
        return f"Writing.each({got}, {self._writer(field.type)})"

    def _usual(self, field: Field) -> str:
        """What is written of a field that is not given."""
        if field.default is not None:
            return self._write(field.type, self._typed(field.type, self._code.value(field.default)))
        match field.type:
            case ListOf() | SetOf():
                return "List.of()"
            case MapOf():
                return "Map.of()"
        return "null"

    def _typed(self, type_: Type, usual: str) -> str:
        """A collection with the types of its elements, where nothing else tells them to the compiler."""
        is_empty = usual.endswith("()")
        match type_:
            case ListOf(element) | SetOf(element) if isinstance(element, Collection) or is_empty:
                types = self._code.boxed(element)
            case MapOf(key, element) if isinstance(element, Collection) or is_empty:
                types = f"{self._code.boxed(key)}, {self._code.boxed(element)}"
            case _:
                return usual
        class_, made, rest = usual.partition(".")
        return f"{class_}{made}<{types}>{rest}"

    def _write(self, type_: Type, held: str, depth: int = 0) -> str:
        match type_:
            case ChoiceType(name):
                return f"Writing.name({self._constant(name)}, {held})"
            case ProductType(name):
                return f"treeOf{pascal(name)}({held})"
            case ListOf(element):
                return f"Writing.list({held}, {self._writer(element, depth)})"
            case SetOf(element):
                return f"Writing.sorted({held}, {self._writer(element, depth)})"
            case MapOf(key, element):
                return f"Writing.map({held}, {self._writer(key, depth)}, {self._writer(element, depth)})"
        if type_ in TOLD and type_ not in (DATE, UUID):
            return f"Messages.textOf({held})"
        return f"{held}.toString()" if type_ in TOLD else held

    def _writer(self, type_: Type, depth: int = 0) -> str:
        """The function that writes an element."""
        if isinstance(type_, ProductType):
            return f"Records::treeOf{pascal(type_.name)}"
        name = _each(depth)
        return f"{name} -> {self._write(type_, name, depth + 1)}"


def _each(depth: int) -> str:
    """What a function within so many others calls an element."""
    return f"each{depth + 1}" if depth else "each"
