"""Records in C++: functions that read a product of a tree of values, and those that write one."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.declaration.told import Told
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
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
)
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import TEXTS, is_copied, moved, text_literal
from urform.languages.cpp.members import bound_as_data, is_pointer
from urform.languages.naming.names import beside, snake
from urform.plan.model import Field, Limit, Product, Records, Selection, asked_first, of_type
from urform.plan.record_trees import wanted
from urform.prose import with_article

# What reads the text of each, and what shows a value, for those that have limits.
READERS_OF_TOLD: dict[Type, tuple[str, str]] = {
    DATE: ("detail::date_of", TEXTS[DATE]),
    TIME: ("TimeOfDay::parse", TEXTS[TIME]),
    INSTANT: ("detail::instant_of", TEXTS[INSTANT]),
    DURATION: ("detail::duration_of", TEXTS[DURATION]),
    DECIMAL: ("Decimal::parse", TEXTS[DECIMAL]),
    UUID: ("Uuid::parse", "nullptr"),
}
READERS: dict[Type, str] = {TEXT: "text", INTEGER: "integer", REAL: "real"}
FILES = ("reading.hpp", "reading.cpp")  # support code, whole
TYPES = ("RecordValue", "RecordProblem", "RecordError")
LOCALS = (
    "at",
    "declared",
    "fields",
    "key",
    "keys",
    "kind",
    "kinds",
    "options",
    "others",
    "registry",
    "tree",
    "each",
    *(f"each{depth}" for depth in range(2, 10)),
)


def records_pair(context: Context) -> tuple[str, str]:
    """The header of records, and its source."""
    records = _Records(context)
    plan = context.plan
    view = {
        "export": context.export,
        "choices": [records.choice(name) for name in plan.choices_in_fields],
        "products": [
            records.base(product) if product.abstract else records.kind(product)
            for product in plan.products.values()
        ],
    }
    render = context.templates.render
    return render("records_header", "", r=view), render("records_source", "", r=view)


class _Records:
    """What reads and writes the products of one plan."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._plan, self._names, self._code = context.plan, context.names, context.code
        assert context.plan.records is not None
        self._settings: Records = context.plan.records

    def choice(self, name: str) -> dict[str, object]:
        """The words of a choice, and their names in records."""
        choice, type_ = self._plan.choices[name], self._names.type(name)
        return {
            "function": f"{snake(name)}_name",
            "names": f"{snake(name)}_names",
            "type": type_,
            "pairs": [
                {"name": text_literal(choice.called(word)), "word": f"{type_}::{self._names.word(word)}"}
                for word in choice.words
            ],
        }

    def _behind_pointer(self, product: Product) -> bool:
        """Whether what is read is behind a pointer: of a base, or of a kind that is chosen by values."""
        return product.abstract or self._plan.selected_by(product) is not None

    def _entry(self, product: Product) -> dict[str, object]:
        type_ = self._names.type(product.name)
        is_behind = self._behind_pointer(product)
        return {
            "name": snake(product.name),
            "type": type_,
            "a": with_article(type_),
            "owner": text_literal(product.name),
            "declared": product.name,
            "abstract": product.abstract,
            "open": product.is_open,
            "result": f"std::unique_ptr<{type_}>" if is_behind else type_,
            "inner": f"std::unique_ptr<{type_}>" if is_behind else f"std::optional<{type_}>",
            "nothing": "nullptr" if is_behind else "std::nullopt",
            "taken": "" if is_behind else "*",
            "registry": None,
        }

    # --- reading --------------------------------------------------------------------------------------

    def kind(self, product: Product) -> dict[str, object]:
        """A product that is made."""
        selection = self._plan.selected_by(product)
        is_variant = product.base is not None
        unmade = product.name in self._settings.unmade
        kind = text_literal(self._settings.kind) if is_variant else "{}"
        kinds = ", ".join(map(text_literal, product.kinds))
        known = ([kind] if is_variant else []) + [text_literal(field.called) for field in product.fields]
        return {
            **self._entry(product),
            "asked": f"{text_literal(product.name)}, {kind}, {{{kinds}}}",
            "fields": [self._reading(field, unused=unmade) for field in product.fields],
            "known": ", ".join(known),
            "refuses": not self._settings.ignores_unknown,
            "chosen": [] if unmade else list(self._chosen(product, selection)),
            "made": self._made(product, selection),
            "kind": f"{kind}, {text_literal(product.kinds[0])}" if is_variant else "",
            "place": 1 if is_variant else 0,
            "written": [line for field in product.fields for line in self._put(product, field)],
            "unused": not product.fields,
        }

    def base(self, base: Product) -> dict[str, object]:
        """An abstract product."""
        selection = self._plan.selection_of(base.name)
        kinds = [self._plan.products[name] for name in base.variants]
        every = ", ".join(text_literal(kind) for each in kinds for kind in each.kinds)
        needed = "true" if selection is None else "false"
        view: dict[str, object] = {
            **self._entry(base),
            "asked": f"{text_literal(base.name)}, {text_literal(self._settings.kind)}, {needed}, {{{every}}}",
            "kinds": [self._kind_of(kind) for kind in kinds],
            "by_values": None,
            "unused": False,
            "every": every,
            "told": f"{text_literal(base.name)}, {text_literal(self._settings.kind)}",
            "registry": self._registry(base),
            "key": text_literal(self._settings.kind),
            "written": [line for field in base.fields for line in self._put(base, field)]
            if base.is_open
            else [],
        }
        if selection is not None:
            view["by_values"] = {
                **self._entry(base),
                "asked": f"{text_literal(base.name)}, {{}}, {{}}",
                "fields": [self._reading(field) for field in self._plan.in_records(selection)],
                "known": ", ".join(text_literal(field.called) for field in selection.parameters),
                "refuses": not self._settings.ignores_unknown,
                "chosen": list(
                    self._options(base, selection.optional, {f.name for f in selection.optional}, {})
                ),
                "made": self._chosen_as(base, self._select(base, selection, {})),
            }
        return view

    def _registry(self, base: Product) -> dict[str, object] | None:
        """How kinds are read that only a registry has: by what all kinds have."""
        factory = self._plan.registry_of(base)
        if factory is None:
            return None
        key = text_literal(self._settings.kind)
        arguments = ["*kind", *(self._argument(field) for field in base.required)]
        arguments += ["std::move(options)"] if base.optional else []
        every = {field.name for field in base.optional}
        return {
            **self._entry(base),
            "type": self._names.derived(base.name, "Registry"),
            "declared": ", ".join(map(text_literal, factory.kinds)),
            "asked": f"{text_literal(base.name)}, {key}, {{*kind}}",
            "fields": [self._reading(field) for field in base.fields],
            "known": ", ".join([key, *(text_literal(field.called) for field in base.fields)]),
            "refuses": not self._settings.ignores_unknown,
            "chosen": list(self._options(base, base.optional, every, {})),
            "made": self._chosen_as(base, f"registry.make({', '.join(arguments)})"),
            "whole": f"registry.make(*kind, at.without({key}))" if factory.needs_more else "",
        }

    def _kind_of(self, kind: Product) -> dict[str, str]:
        name, type_ = snake(kind.name), self._names.type(kind.name)
        is_behind = self._behind_pointer(kind)
        return {
            "name": name,
            "type": type_,
            "cases": " || ".join(f"*kind == {text_literal(each)}" for each in kind.kinds),
            "made": "std::move(made)" if is_behind else f"std::make_unique<{type_}>(*std::move(made))",
        }

    def _local(self, field: Field) -> str:
        return beside(self._names.local(field.name), LOCALS)

    def _reading(self, field: Field, *, unused: bool = False) -> str:
        """The statement that reads a field; nothing uses that of a kind that nothing makes."""
        at = f"{text_literal(field.called)}, {text_literal(field.owner)}, {text_literal(field.name)}"
        value = f"fields->{'required' if field.required else 'optional'}({at})"
        read = self._read(field, field.type, field.limits, value)
        return f"{'[[maybe_unused]] ' if unused else ''}auto {self._local(field)} = {read};"

    def _limits(self, limits: tuple[Limit, ...]) -> str:
        shown = []
        for limit in limits:
            if limit.name not in ("choice", *map(str, TOLD)):
                bound = self._bound(limit.bound)
                parts = [text_literal(limit.name), *([bound] if bound else [])]
                if limit.form is not None:
                    parts = [parts[0], bound or "{}", self._code.pattern(limit)]
                if limit.unless_empty:
                    parts += ["nullptr", "true"]
                shown.append(f"{{{', '.join(parts)}}}")
        return f"{{{', '.join(shown)}}}"

    def _bound(self, bound: object) -> str:
        match bound:
            case None | True:
                return ""
            case float():
                return repr(bound + 0.0)
            case tuple() | str() | Told():
                return bound_as_data(bound)
        return str(bound)

    def _read(self, field: Field, type_: Type, limits: tuple[Limit, ...], value: str, depth: int = 0) -> str:
        is_hidden = field.secret and not isinstance(type_, ProductType) and not depth
        value += ".secret()" if is_hidden else ""
        shared = self._code.shared(field)
        held = self._code.type(type_, shared=shared)
        match type_:
            case ChoiceType(name):
                return f"{value}.word<{self._names.type(name)}>({snake(name)}_names)"
            case ProductType(name):
                call = f"{snake(name)}_of({value})"
                is_plain = held == self._names.type(name) and not self._behind_pointer(
                    self._plan.products[name]
                )
                return call if is_plain else f"detail::held<{held}>({call})"
            case ListOf(element) | SetOf(element):
                own = of_type(type_, limits)
                counted = asked_first(own)
                function = "list" if isinstance(type_, ListOf) else "set"
                function = "distinct" if counted != own else function
                each = self._reader(field, element, depth)
                inner = self._code.type(element, shared=shared)
                return f"detail::read_{function}<{inner}>({value}, {each}, {self._limits(counted)})"
            case MapOf(key, element):
                keys = self._reader(field, key, depth, ())
                each = self._reader(field, element, depth)
                types = f"{self._code.type(key)}, {self._code.type(element, shared=shared)}"
                return f"detail::read_map<{types}>({value}, {keys}, {each}, {self._limits(of_type(type_, limits))})"
        if type_ == BOOLEAN:
            return f"{value}.truth()"
        if type_ in TOLD:
            read, shown = READERS_OF_TOLD[type_]
            told = f'"{type_}", "{wanted(self._plan, type_)}", {read}, {shown}, {self._limits(limits)}'
            return f"detail::read_told<{held}>({value}, {told})"
        return f"detail::read_{READERS[type_]}({value}, {self._limits(of_type(type_, limits))})"

    def _reader(self, field: Field, type_: Type, depth: int, limits: tuple[Limit, ...] | None = None) -> str:
        """The function that reads an element, or a key, which has no limits; nor has what is deeper within."""
        limits = limits if limits is not None else () if depth else field.each
        if type_ == REAL:
            limits = (Limit("finite"), *(limit for limit in limits if limit.name != "finite"))
        name = _each(depth)
        call = self._read(field, type_, limits, name, depth + 1)
        if isinstance(type_, ProductType) and call == f"{snake(type_.name)}_of({name})":
            return f"{snake(type_.name)}_of"
        return f"[](const detail::At &{name}) {{ return {call}; }}"

    def _chosen(self, product: Product, selection: Selection | None) -> Iterator[str]:
        """The statements that choose options."""
        if selection is None:
            yield from self._options(product, product.optional, {f.name for f in product.optional}, {})
            return
        leading = self._settings.leading.get(product.name, {})
        read = {field.name for field in product.fields}
        base = self._plan.products[selection.product]
        values = {
            f.name: self._code.value(leading[f.name], f.type, shared=self._code.shared(f))
            for f in selection.optional
            if f.name in leading
        }
        yield from self._options(base, selection.optional, read, values)

    def _options(
        self, product: Product, fields: tuple[Field, ...], read: set[str], values: Mapping[str, str]
    ) -> Iterator[str]:
        if not fields:
            return
        yield f"{self._code.options(product)} options;"
        for field in fields:
            option, local = f"options.{self._names.option(field.name)}", self._local(field)
            if field.name in values:
                yield f"{option} = {values[field.name]};"
            elif field.name in read:
                taken = moved(field, f"*{local}") if is_copied(field.type) else f"*std::move({local})"
                if self._code.boxed(field) and not self._code.shared(field):
                    taken = f"Owned<{self._code.owned(field)}>({taken})"
                yield from (f"if ({local}) {{", f"    {option} = {taken};", "}")

    def _made(self, product: Product, selection: Selection | None) -> str:
        type_ = self._names.type(product.name)
        if selection is not None:
            leading = self._settings.leading.get(product.name)
            if leading is None:
                return f"return fields->chosen<{type_}>([] {{ return {self._null(selection)}; }});"
            base = self._plan.products[selection.product]
            values = {
                f.name: self._code.value(leading[f.name], f.type, shared=self._code.shared(f))
                for f in selection.required
                if f.name in leading
            }
            return self._chosen_as(product, self._select(base, selection, values))
        arguments = [self._argument(field) for field in product.required]
        arguments += ["std::move(options)"] if product.optional else []
        return f"return fields->made([&] {{ return {type_}({', '.join(arguments)}); }});"

    def _chosen_as(self, product: Product, call: str) -> str:
        """The statement that returns what a factory by values makes, if it is one of these."""
        return f"return fields->chosen<{self._names.type(product.name)}>([&] {{ return {call}; }});"

    def _null(self, selection: Selection) -> str:
        return f"std::unique_ptr<{self._names.type(selection.product)}>()"

    def _argument(self, field: Field) -> str:
        local = self._local(field)
        return f"*{local}" if is_copied(field.type) else f"*std::move({local})"

    def _select(self, base: Product, selection: Selection, values: Mapping[str, str]) -> str:
        arguments = [values.get(field.name) or self._argument(field) for field in selection.required]
        arguments += ["std::move(options)"] if selection.optional else []
        return f"{self._names.type(base.name)}::make({', '.join(arguments)})"

    # --- writing --------------------------------------------------------------------------------------

    def _put(self, product: Product, field: Field) -> Iterator[str]:
        """The statements that put a field into a tree."""
        got = f"made.{self._context.method(product, field.name)}()"
        name = text_literal(field.called)
        if field.may_be_absent:
            yield from self._put_optional(field, name, got)
            return
        put = f"tree.emplace_back({name}, {self._write_whole(field, got)});"
        if field.required or self._settings.write_all:
            yield put
            return
        yield from (f"if ({self._differs(field, got)}) {{", f"    {put}", "}")

    def _write_whole(self, field: Field, got: str) -> str:
        """What is written of a field that is always there; of a product known by its base a reference is handed out."""
        if is_pointer(self._context, field):
            return f"write_{snake(str(field.type))}({got})"
        return self._write(field, field.type, got)

    def _put_optional(self, field: Field, name: str, got: str) -> Iterator[str]:
        held = f"*{got}"
        written = self._write(
            field, field.type, f"({held})" if self._code.boxed(field) else held, optional=True
        )
        put = f"tree.emplace_back({name}, {written});"
        test = got
        if field.default is not None and not self._settings.write_all:
            test = f"{got} && {self._differs(field, held)}"
        yield f"if ({test}) {{"
        yield f"    {put}"
        if self._settings.write_all:
            yield from ("} else {", f"    tree.emplace_back({name}, RecordValue());")
        yield "}"

    def _differs(self, field: Field, held: str) -> str:
        """Whether a field has another value than the one that it has when it is not given."""
        if field.default is None:
            return f"!{held}.empty()"
        usual = self._code.value(field.default, field.type, shared=self._code.shared(field))
        if field.type == BOOLEAN:
            return f"!{held}" if usual == "true" else held
        if isinstance(field.type, ProductType):
            usual = f"{self._code.owned(field)}({usual})"
            usual = f"*{usual}" if is_pointer(self._context, field) else usual
        return f"{held} != {usual}"

    def _write(self, field: Field, type_: Type, held: str, depth: int = 0, *, optional: bool = False) -> str:
        """What is written of a value."""
        match type_:
            case ChoiceType(name):
                return f"{snake(name)}_name({held})"
            case ProductType(name):
                is_held = self._code.shared(field) or self._plan.products[name].abstract
                if optional and self._code.boxed(field):
                    is_held = True
                return f"write_{snake(name)}({'*' if is_held else ''}{held})"
            case ListOf(element) | SetOf(element):
                if isinstance(type_, SetOf) and isinstance(element, ChoiceType):
                    return f"detail::each(detail::names({held}, {snake(element.name)}_name), detail::itself)"
                return f"detail::each({held}, {self._writer(field, element, depth)})"
            case MapOf(key, element):
                named = "[](const auto &key) { return key; }"
                if isinstance(key, ChoiceType):
                    named = f"{snake(key.name)}_name"
                return f"detail::entries({held}, {named}, {self._writer(field, element, depth)})"
        if type_ == UUID:
            return f"{f'({held})' if held.startswith('*') else held}.text()"
        return f"{TEXTS[type_]}({held})" if type_ in TEXTS else held

    def _writer(self, field: Field, type_: Type, depth: int) -> str:
        """The function that writes an element."""
        name = _each(depth)
        written = self._write(field, type_, name, depth + 1)
        if written == name:
            written = f"RecordValue({name})"
        if written.startswith("write_") and written.endswith(f"({name})"):
            return written.removesuffix(f"({name})")
        return f"[](const auto &{name}) {{ return {written}; }}"


def _each(depth: int) -> str:
    """What a function within so many others calls an element."""
    return f"each{depth + 1}" if depth else "each"
