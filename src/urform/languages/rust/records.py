"""Records in Rust: functions that read a product of a tree of values, and those that write one."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from urform.declaration.told import Told
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
    innermost,
)
from urform.languages.naming.names import beside, snake
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import text_literal, told_bound
from urform.languages.rust.factories import function_of
from urform.languages.rust.members import told_element
from urform.languages.rust.products import otherwise
from urform.plan.model import (
    Factory,
    Field,
    Limit,
    Product,
    Records,
    Selection,
    asked_first,
    is_unique,
    of_type,
)
from urform.plan.record_trees import wanted
from urform.plan.whole import Plan
from urform.prose import with_article

READERS: dict[Type, str] = {TEXT: "text", INTEGER: "integer", REAL: "real", BOOLEAN: "truth"}
MODULES = ("reading", "records")  # beside those of products
HELPERS = (
    "each entries form limit unless_empty read sorted Tree kind kinds others declared registry".split()
)  # that the module takes from its support code


def records_text(context: Context) -> str:
    """The module of records, without its uses."""
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


def exported(plan: Plan) -> bool:
    """Whether a crate has the modules of records."""
    return plan.records is not None


class _Records:
    """What reads and writes the products of one plan."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._plan, self._names, self._code = context.plan, context.names, context.code
        assert context.plan.records is not None
        self._settings: Records = context.plan.records

    def choice(self, name: str) -> dict[str, object]:
        """The words of a choice by their names in records."""
        choice, type_ = self._plan.choices[name], self._names.type(name)
        pairs = [
            {"name": text_literal(choice.called(word)), "word": f"{type_}::{self._names.word(word)}"}
            for word in choice.words
        ]
        return {
            "reader": f"{snake(name)}_in",
            "function": f"{snake(name)}_name",
            "type": type_,
            "pairs": pairs,
            "listed": ", ".join(f"({pair['name']}, {pair['word']})" for pair in pairs),
        }

    def _entry(self, product: Product) -> dict[str, object]:
        type_ = self._names.type(product.name)
        is_open = self._code.is_open(product)
        return {
            "name": snake(product.name),
            "type": type_,
            "a": with_article(type_),
            "owner": product.name,
            "abstract": product.abstract,
            "open": is_open,
            "owned": self._context.owned_type(product),
            "borrowed": f"&dyn {type_}" if is_open else f"&{type_}",
        }

    # --- reading --------------------------------------------------------------------------------------

    def kind(self, product: Product) -> dict[str, object]:
        """A product that is made."""
        selection = self._plan.selected_by(product)
        is_variant = product.base is not None
        kind = text_literal(self._settings.kind)
        kinds = ", ".join(map(text_literal, product.kinds))
        known = ([kind] if is_variant else []) + [text_literal(field.called) for field in product.fields]
        return {
            **self._entry(product),
            "asked": f'"{product.name}", {f"Some(({kind}, &[{kinds}]))" if is_variant else "None"}',
            "fields": [
                self._reading(field, unused=product.name in self._settings.unmade) for field in product.fields
            ],
            "known": ", ".join(known),
            "refuses": not self._settings.ignores_unknown,
            "looks": bool(product.fields) or not self._settings.ignores_unknown or is_variant,
            "made": list(self._made(product, selection)),
            "kind": f"{kind}, {text_literal(product.kinds[0])}" if is_variant else "",
            "place": 1 if is_variant else 0,
            "written": [
                line for field in product.fields for line in self._put(field, self._held(product, field))
            ],
            "unused": not product.fields,
        }

    def base(self, base: Product) -> dict[str, object]:
        """An abstract product."""
        selection = self._plan.selection_of(base.name)
        kinds = [self._plan.products[name] for name in base.variants]
        every = ", ".join(text_literal(kind) for each in kinds for kind in each.kinds)
        needed = "true" if selection is None else "false"
        is_open = self._code.is_open(base)
        view: dict[str, object] = {
            **self._entry(base),
            "asked": f'"{base.name}", {text_literal(self._settings.kind)}, {needed}, &[{every}]',
            "kinds": [self._kind_of(base, each, is_open) for each in kinds],
            "by_values": None,
            "every": every,
            "registry": self._registry(base),
            "key": text_literal(self._settings.kind),
            "written": [
                line
                for field in base.fields
                for line in self._put(field, f"made.fields().{self._stored(field)}")
            ]
            if is_open
            else [],
        }
        if selection is not None:
            given = {field.name: self._given(field) for field in selection.parameters}
            view["by_values"] = {
                "asked": f'"{base.name}", None',
                "fields": [self._reading(field) for field in self._plan.in_records(selection)],
                "known": ", ".join(text_literal(field.called) for field in selection.parameters),
                "refuses": not self._settings.ignores_unknown,
                "looks": True,
                "made": [self._result(self._select(selection, given), self._code.selection_fails(selection))],
            }
        return view

    def _registry(self, base: Product) -> dict[str, object] | None:
        """How kinds are read that only a registry has: by what all kinds have."""
        factory = self._plan.registry_of(base)
        if factory is None:
            return None
        key = text_literal(self._settings.kind)
        arguments = ["kind", *(self._given(field) for field in base.required)]
        if base.optional:
            pairs = [self._option(base, field) for field in base.optional]
            arguments.append(self._context.code_options(base, pairs))
        made = f"fields.made(registry.make({', '.join(arguments)}))"
        return {
            "type": self._names.derived(base.name, "Registry"),
            "declared": ", ".join(map(text_literal, factory.kinds)),
            "asked": f'"{base.name}", Some(({key}, &[kind]))',
            "fields": [self._reading(field) for field in base.fields],
            "known": ", ".join([key, *(text_literal(field.called) for field in base.fields)]),
            "refuses": not self._settings.ignores_unknown,
            "looks": True,
            "made": [f"{made}.flatten()" if factory.unknown == "nothing" else made],
            "whole": self._whole(factory),
        }

    def _whole(self, factory: Factory) -> str:
        """What makers that take records make of this one; empty where they take fields."""
        if not factory.needs_more:
            return ""
        made = f"at.whole(registry.make(kind, &at.without({text_literal(self._settings.kind)})))"
        return f"{made}.flatten()" if factory.unknown == "nothing" else made

    def _kind_of(self, base: Product, kind: Product, is_open: bool) -> dict[str, str]:
        made = f"{snake(kind.name)}_of(at)?"
        type_ = self._names.type(kind.name)
        wrapped = f"Box::new({made})" if is_open else f"{self._names.type(base.name)}::{type_}({made})"
        return {
            "name": snake(kind.name),
            "type": type_,
            "cases": " | ".join(map(text_literal, kind.kinds)),
            "made": wrapped,
            "pattern": f"{self._names.type(base.name)}::{type_}(kind)",
        }

    def _local(self, field: Field) -> str:
        return beside(self._names.local(field.name), ("at", "fields", "tree", *HELPERS))

    def _reading(self, field: Field, *, unused: bool = False) -> str:
        """The statement that reads a field; nothing uses that of a kind that nothing makes."""
        at = f'{text_literal(field.called)}, "{field.owner}", "{field.name}"'
        value = f"fields.{'required' if field.required else 'optional'}({at})"
        return f"let {'_' if unused else self._local(field)} = {self._read(field, field.type, field.limits, value)};"

    def _limits(self, limits: tuple[Limit, ...]) -> str:
        return f"&[{', '.join(self._limit(limit) for limit in limits if limit.name not in ('choice', *map(str, TOLD)))}]"

    def _limit(self, limit: Limit) -> str:
        bound = self._bound(limit.bound)
        if limit.unless_empty:
            return f'unless_empty("{limit.name}", {bound})'
        if limit.form is not None:
            return f'form("{limit.name}", {bound}, |text| {self._code.pattern(limit)}.accepts(text))'
        return f'limit("{limit.name}", {bound})'

    def _bound(self, bound: object) -> str:
        match bound:
            case None | True:
                return "Bound::None"
            case tuple() if isinstance(bound[0], str):
                return f"Bound::Texts(&[{', '.join(map(text_literal, bound))}])"
            case tuple():
                return f"Bound::Integers(&[{', '.join(map(str, bound))}])"
            case float():
                return repr(bound + 0.0)
            case Told():
                return told_bound(bound)
            case str(text):
                return text_literal(text)
        return str(bound)

    def _read(
        self, field: Field, type_: Type, limits: tuple[Limit, ...], value: str, inside: bool = False
    ) -> str:
        is_hidden = field.secret and not isinstance(type_, ProductType) and not inside
        value += ".secret()" if is_hidden else ""
        match type_:
            case ChoiceType(name):
                return f"{snake(name)}_in({value if inside else f'&{value}'})"
            case ProductType(name):
                lent = value if inside else f"&{value}"
                return f"{snake(name)}_of({lent}){self._pointer(field, name)}"
            case ListOf(element):
                own = of_type(type_, limits)
                counted = self._limits(asked_first(own))
                each = self._reader(field, element, inside)
                if not is_unique(own):
                    return f"{value}.list({each}, {counted})"
                told = f"|each| Found::from({told_element(element, 'each')})"
                return f"{value}.distinct({each}, {told}, {counted})"
            case SetOf(element):
                return f"{value}.set({self._reader(field, element, inside)}, {self._limits(of_type(type_, limits))})"
            case MapOf(key, element):
                each, held = self._reader(field, element, inside), self._limits(of_type(type_, limits))
                if key == INTEGER:
                    return f"{value}.numbered({each}, {held})"
                return f"{value}.map({self._reader(field, key, True)}, {each}, {held})"
        if type_ in TOLD:
            read = f"|text| text.parse::<{self._code.type(type_)}>().ok()"
            said = f'"{type_}", "{wanted(self._plan, type_)}"'
            return f"{value}.told({said}, {read}, {self._limits(limits)})"
        return f"{value}.{READERS[type_]}({self._limits(of_type(type_, limits)) if type_ != BOOLEAN else ''})"

    def _pointer(self, field: Field, name: str) -> str:
        """What makes a product one that is shared."""
        if not self._code.shared(field):
            return ""
        return ".map(Arc::from)" if self._code.is_open(self._plan.products[name]) else ".map(Arc::new)"

    def _reader(self, field: Field, type_: Type, inside: bool) -> str:
        """The function that reads an element."""
        limits = () if inside else field.each
        if isinstance(type_, ProductType) and not self._code.shared(field):
            return f"{snake(type_.name)}_of"
        if isinstance(type_, ChoiceType):
            return f"{snake(type_.name)}_in"
        if type_ == REAL:
            limits = (Limit("finite"), *(limit for limit in limits if limit.name != "finite"))
        return f"|at| {self._read(field, type_, limits, 'at', inside=True)}"

    def _given(self, field: Field, whole: bool = True) -> str:
        """A required value as a constructor takes it."""
        del whole
        local = self._local(field)
        if not field.required:
            return local
        return f"&{local}?" if field.type == TEXT else f"{local}?"

    def _made(self, product: Product, selection: Selection | None) -> Iterator[str]:
        type_ = self._names.type(product.name)
        if selection is not None:
            yield from self._chosen(product, selection)
            return
        arguments = [self._given(field) for field in product.required]
        if product.optional:
            pairs = [self._option(product, field) for field in product.optional]
            arguments.append(self._context.code_options(product, pairs))
        yield self._result(f"{type_}::new({', '.join(arguments)})", self._code.fallible(product))

    def _result(self, call: str, fails: bool) -> str:
        return f"fields.made({call})" if fails else f"Some({call})"

    def _option(self, product: Product, field: Field) -> str:
        """A field of an options struct."""
        local, name = self._local(field), self._names.option(field.name)
        value = local
        if self._code.plain_option(product, field):
            value = otherwise(self._context, field, local)
        return name if value == name else f"{name}: {value}"

    def _chosen(self, product: Product, selection: Selection) -> Iterator[str]:
        """Through the factory by values, of which only this kind is taken."""
        leading = self._settings.leading.get(product.name)
        if leading is None:
            yield "fields.another_kind()"
            return
        given: dict[str, str] = {field.name: self._given(field) for field in product.fields}
        for parameter in selection.parameters:
            if parameter.name in leading:
                value = self._code.value(
                    leading[parameter.name], parameter.type, shared=self._code.shared(parameter)
                )
                if parameter.required and parameter.type == TEXT:
                    plain = value.removesuffix(".to_owned()").replace("String::new()", '""')
                    value = plain if plain != value else f"&{value}"
                given[parameter.name] = value if parameter.required else f"Some({value})"
            elif parameter.name in given and parameter.required:
                held = product.field(parameter.name)
                if not held.required:  # the factory asks for it all the same
                    local = self._local(held)
                    given[parameter.name] = f"&{local}?" if held.type == TEXT else f"{local}?"
        fails = self._code.selection_fails(selection)
        call = self._select(selection, given)
        base = self._plan.products[selection.product]
        yield f"let made = fields.made({call})?;" if fails else f"let made = {call};"
        type_ = self._names.type(product.name)
        if self._code.is_open(base):
            yield f"match made.as_any().downcast_ref::<{type_}>() {{"
            yield from ("    Some(kind) => Some(kind.clone()),", "    None => fields.another_kind(),", "}")
            return
        pattern = f"{self._names.type(base.name)}::{type_}(kind)"
        if len(base.variants) == 1:
            yield f"let {pattern} = made;"
            yield "Some(kind)"
            return
        yield "match made {"
        yield from (f"    {pattern} => Some(kind),", "    _ => fields.another_kind(),", "}")

    def _select(self, selection: Selection, given: Mapping[str, str]) -> str:
        arguments = [given[field.name] for field in selection.required]
        if selection.optional:
            options = self._code.options(self._plan.products[selection.product])
            pairs = []
            for field in selection.optional:
                if field.name in given:
                    name = self._names.option(field.name)
                    pairs.append(name if given[field.name] == name else f"{name}: {given[field.name]}")
            rest = "" if len(pairs) == len(selection.optional) else f", ..{options}::default()"
            arguments.append(
                f"{options} {{ {', '.join(pairs)}{rest} }}" if pairs else f"{options}::default()"
            )
        return f"{function_of(self._plan.products[selection.product])}({', '.join(arguments)})"

    # --- writing --------------------------------------------------------------------------------------

    def _stored(self, field: Field) -> str:
        return self._names.stored(field.name)

    def _held(self, product: Product, field: Field) -> str:
        """Where a product holds a field."""
        inherited = "fields." if field.owner != product.name else ""
        return f"made.{inherited}{self._stored(field)}"

    def _put(self, field: Field, held: str) -> Iterator[str]:
        """The statements that put a field into a tree."""
        name = text_literal(field.called)
        if field.may_be_absent:
            yield from self._put_optional(field, name, held)
            return
        put = f"tree.put({name}, {self._write(field, field.type, held, place=True)});"
        if field.required or self._settings.write_all:
            yield put
            return
        yield f"if {self._differs(field, held)} {{"
        yield from (f"    {put}", "}")

    def _put_optional(self, field: Field, name: str, held: str) -> Iterator[str]:
        value = beside(self._names.local(field.name), ("made", "tree", *HELPERS))
        put = f"tree.put({name}, {self._write(field, field.type, value, place=False)});"
        yield f"if let Some({value}) = &{held} {{"
        if field.default is not None and not self._settings.write_all:
            yield f"    if {self._differs(field, f'*{value}')} {{"
            yield from (f"        {put}", "    }")
        else:
            yield f"    {put}"
        if self._settings.write_all:
            yield from ("} else {", f"    tree.put({name}, Value::Null);")
        yield "}"

    def _differs(self, field: Field, held: str) -> str:
        """Whether a field has another value than the one that it has when it is not given."""
        if field.default is None:
            return f"!{held}.is_empty()"
        usual = self._code.value(field.default, field.type, shared=self._code.shared(field), typed=True)
        if field.type == BOOLEAN:
            return f"!{held}" if usual == "true" else held
        if field.type == TEXT and usual.endswith(".to_owned()"):
            return f"{held} != {usual.removesuffix('.to_owned()')}"
        if usual == "String::new()" or (usual.endswith("::new()") and usual[0] in "VB"):
            return f"!{held}.is_empty()"
        if self._code.boxed(field):
            usual = f"Box::new({usual})"
        is_struct = isinstance(field.type, ProductType) and "{" in usual  # which would open the block
        return f"{held} != {f'({usual})' if is_struct else usual}"

    def _write(self, field: Field, type_: Type, held: str, *, place: bool) -> str:
        """What is written of a place, or of what a reference refers to."""
        own = held if place else f"*{held}"
        lent = f"&{held}" if place else held
        match type_:
            case ChoiceType(name):
                return f"{snake(name)}_name({lent})"
            case ProductType(name):
                is_open = self._code.is_open(self._plan.products[name])
                if is_open:
                    return f"write_{snake(name)}({held}.as_ref())"
                return f"write_{snake(name)}({lent})"
            case ListOf(element):
                return f"each({lent}, {self._writer(field, element)})"
            case SetOf(element) if isinstance(innermost(element), ChoiceType):
                return f"sorted({lent}, {snake(str(element))}_name)"
            case SetOf(element):
                return f"each({lent}, {self._writer(field, element)})"
            case MapOf(key, element):
                named = "i64::clone"
                if key == TEXT:
                    named = "String::as_str"
                if isinstance(key, ChoiceType):
                    named = f"{snake(key.name)}_name"
                return f"entries({lent}, {named}, {self._writer(field, element)})"
        if type_ in TOLD:
            return f"{held}.to_string().as_str()"
        return f"{held}.as_str()" if type_ == TEXT else own

    def _writer(self, field: Field, type_: Type) -> str:
        """The function that writes an element."""
        if isinstance(type_, ProductType):
            is_open = self._code.is_open(self._plan.products[type_.name])
            if not is_open and not self._code.shared(field):
                return f"write_{snake(type_.name)}"
            return f"|each| {self._write(field, type_, 'each', place=False)}"
        written = self._write(field, type_, "each", place=False)
        if isinstance(type_, (ListOf, SetOf, MapOf)):
            return (
                f"|each| {written}".replace("|each| each(each,", "|inner| each(inner,")
                .replace("|each| sorted(each,", "|inner| sorted(inner,")
                .replace("|each| entries(each,", "|inner| entries(inner,")
            )
        return f"|each| Value::from({written})"
