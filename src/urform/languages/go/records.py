"""Records in Go: functions that read a product of what a JSON decoder gives, and those that write one."""

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
    TOLD,
    UUID,
    ChoiceType,
    ListOf,
    MapOf,
    ProductType,
    SetOf,
    Type,
)
from urform.declaration.values import Boolean
from urform.languages.go.context import Context
from urform.languages.go.expressions import BRACED, options_type, text_literal
from urform.languages.naming.names import beside, camel, pascal
from urform.plan.model import UNDECLARED, Field, Limit, Product, Records, Selection, asked_first, of_type
from urform.plan.whole import Plan
from urform.prose import with_article

READERS: dict[Type, str] = {
    TEXT: "recordText",
    INTEGER: "recordInteger",
    REAL: "recordReal",
    BOOLEAN: "recordTruth",
    DATE: "recordDate",
    TIME: "recordTimeOfDay",
    INSTANT: "recordInstant",
    DURATION: "recordDuration",
    DECIMAL: "recordDecimal",
    UUID: "recordUUID",
}
# What functions that read and write call: no variable in them is called so.
HELPERS = frozenset(
    (
        "recordOrdered recordTimeOfDay recordDuration recordDecimal recordTimeOfUnits recordTextOfDuration recordGivenDuration "
        "recordUnits recordDate recordInstant recordTime recordTextOfTime recordGivenTime "
        "recordUUID recordTold recordText recordInteger recordReal recordTruth recordWord recordList recordSet "
        "recordMap recordHidden recordKind recordKindOf recordMade recordPointer recordLimit recordForm recordTree recordUnless "
        "recordGiven recordEach recordSorted recordEntries recordValue recordInto fromRecord v t read"
    ).split()
)


def entries_of(plan: Plan) -> Iterator[str]:
    """The exported names of records."""
    if plan.records is not None:
        yield from ("RecordError", "RecordProblem", "ParseRecord", "CreateAll")
        for product in plan.products.values():
            name = pascal(product.name)
            yield from (f"Read{name}", f"Write{name}", f"TextOf{name}")
            if product.abstract:
                yield from (f"{name}Record", f"Read{name}With")


def records_text(context: Context) -> str:
    """The file of records."""
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
        """The names of a choice's words in records, and the words."""
        choice = self._plan.choices[name]
        type_ = self._names.type(name)
        return {
            "variable": f"{camel(name)}InRecords",
            "type": type_,
            "names": ", ".join(map(text_literal, choice.in_records)),
            "words": ", ".join(f"{type_}{pascal(word)}" for word in choice.words),
        }

    def _entry(self, product: Product) -> dict[str, object]:
        type_ = self._names.type(product.name)
        return {
            "name": pascal(product.name),
            "type": type_,
            "holder": self._names.holder(product.name),
            "a": with_article(type_),
            "pointer": type_ if product.abstract else f"*{type_}",
            "owner": product.name,
            "abstract": product.abstract,
            "letter": self._context.letter(product),
            "mutable": product.mutable,
        }

    # --- reading --------------------------------------------------------------------------------------

    def kind(self, product: Product) -> dict[str, object]:
        """A product that is made."""
        selection = self._plan.selected_by(product)
        kinds = ", ".join(map(text_literal, product.kinds))
        kind = text_literal(self._settings.kind) if product.base is not None else '""'
        known = [kind] if product.base is not None else []
        known += [text_literal(field.called) for field in product.fields]
        return {
            **self._entry(product),
            "object": ", ".join([text_literal(product.name), kind, *([kinds] if kinds else [])]),
            "fields": [
                self._reading(field, unused=product.name in self._settings.unmade) for field in product.fields
            ],
            "known": "" if self._settings.ignores_unknown else ", ".join(known),
            "refuses": not self._settings.ignores_unknown,
            "made": list(self._made(product, selection)),
            "written": list(self._written(product)),
            "most": len(known),
            "first": 1 if product.base is not None else 0,
            "kind": f"{kind}, {text_literal(product.kinds[0])}" if product.base is not None else "",
        }

    def base(self, base: Product) -> dict[str, object]:
        """An abstract product."""
        selection = self._plan.selection_of(base.name)
        kinds = [self._plan.products[name] for name in base.variants]
        every = ", ".join(text_literal(kind) for each in kinds for kind in each.kinds)
        view: dict[str, object] = {
            **self._entry(base),
            "asked": f"{text_literal(base.name)}, {text_literal(self._settings.kind)}, "
            f"{'true' if selection is None else 'false'}, {every}",
            "kinds": [
                {
                    "name": pascal(each.name),
                    "type": self._names.type(each.name),
                    "cases": ", ".join(map(text_literal, each.kinds)),
                }
                for each in kinds
            ],
            "open": base.is_open,
            "owned": f"{text_literal(base.name)}, {text_literal(self._settings.kind)}",
            "every": every,
            "registry": self._registry(base),
            "key": text_literal(self._settings.kind),
            "most": len(base.fields) + 1,
            "written": list(self._told(base)) if base.is_open else [],
            "by_values": None,
        }
        if selection is not None:
            known = ", ".join(text_literal(field.called) for field in selection.parameters)
            view["by_values"] = {
                "object": f'{text_literal(base.name)}, ""',
                "fields": [self._reading(f) for f in self._plan.in_records(selection)],
                "known": known,
                "refuses": not self._settings.ignores_unknown,
                "made": list(
                    self._selected(selection, {f.name: self._local(f) for f in selection.parameters}, "")
                ),
            }
        return view

    def _registry(self, base: Product) -> dict[str, object] | None:
        """How kinds are read that only a registry has: by what all kinds have."""
        factory = self._plan.registry_of(base)
        if factory is None:
            return None
        locals_ = {field.name: self._local(field) for field in base.fields}
        taken = set(locals_.values())
        kind, registry = beside("kind", taken), beside("registry", taken)
        arguments = [kind, *(locals_[field.name] for field in base.required)]
        arguments += [self._options(base, locals_)] if base.optional else []
        nothing = ", _" if factory.unknown == "nothing" else ""
        known = [text_literal(self._settings.kind), *(text_literal(field.called) for field in base.fields)]
        return {
            "type": f"{pascal(base.name)}Registry",
            "declared": ", ".join(map(text_literal, factory.kinds)),
            "object": f"{text_literal(base.name)}, {text_literal(self._settings.kind)}, {kind}",
            "kind": kind,
            "registry": registry,
            "others": beside("others", taken),
            "fields": [self._reading(field) for field in base.fields],
            "known": ", ".join(known),
            "refuses": not self._settings.ignores_unknown,
            "made": [
                f"made{nothing}, err := {registry}.Make({', '.join(arguments)})",
                "return recordMade(o, made, err)",
            ],
            "whole": [
                f"made{nothing}, err := {registry}.Make({kind}, recordWithout(v, {text_literal(self._settings.kind)}))",
                "return recordWhole(v, made, err)",
            ]
            if factory.needs_more
            else [],
        }

    def _local(self, field: Field) -> str:
        return self._names.local(field.name)

    def _reading(self, field: Field, *, unused: bool = False) -> str:
        """The statement that reads a field; nothing uses that of a kind that nothing makes."""
        at = f"{text_literal(field.called)}, {text_literal(field.owner)}, {text_literal(field.name)}"
        value = f"o.{'required' if field.required else 'field'}({at})"
        read = self._read(field, field.type, field.limits, value)
        if unused:
            return f"_, _ = {read}"
        if not field.required and self._code.is_pointer(field):
            return f"{self._local(field)} := recordPointer({read})"
        return f"{self._local(field)}, _ := {read}"

    def _limits(self, limits: tuple[Limit, ...]) -> str:
        parts = []
        for limit in limits:
            if limit.name not in UNDECLARED or limit.name == "finite":
                bound = self._code.bound_as_data(limit.bound) or "nil"
                bound = f"recordUnlessEmpty({limit.bound})" if limit.unless_empty else bound
                if limit.form is not None:
                    bound = f"recordForm{{{bound}, {self._code.pattern(limit)}.accepts}}"
                parts.append(f", recordLimit{{{text_literal(limit.name)}, {bound}}}")
        return "".join(parts)

    def _read(
        self, field: Field, type_: Type, limits: tuple[Limit, ...], value: str, inside: bool = False
    ) -> str:
        """The call that reads a value of a type."""
        if field.secret and not isinstance(type_, ProductType) and not inside:
            value = f"recordHidden({value})"
        match type_:
            case ChoiceType(name):
                names = f"{camel(name)}InRecords"
                return f"recordWord({value}, {names}.names, {names}.words)"
            case ProductType(name):
                return f"read{pascal(name)}({value})"
            case ListOf(element) | SetOf(element):
                function = "recordList" if isinstance(type_, ListOf) else "recordSet"
                own = of_type(type_, limits)
                counted = asked_first(own)
                function = "recordDistinct" if counted != own else function
                each = self._reader(field, element, () if inside else field.each)
                return f"{function}({value}, {each}{self._limits(counted)})"
            case MapOf(key, element):
                numbered = "true" if key == INTEGER else "false"
                keys = self._reader(field, key, ())
                each = self._reader(field, element, () if inside else field.each)
                return f"recordMap({value}, {numbered}, {keys}, {each}{self._limits(of_type(type_, limits))})"
        return f"{READERS[type_]}({value}{self._limits(of_type(type_, limits)) if type_ != BOOLEAN else ''})"

    def _reader(self, field: Field, type_: Type, limits: tuple[Limit, ...]) -> str:
        """The function that reads an element."""
        if isinstance(type_, ProductType):
            return f"read{pascal(type_.name)}"
        if type_ == REAL:
            limits = (Limit("finite"), *(limit for limit in limits if limit.name != "finite"))
        call = self._read(field, type_, limits, "v", inside=True)
        return f"func(v recordValue) ({self._code.type(type_)}, bool) {{ return {call} }}"

    def _made(self, product: Product, selection: Selection | None) -> Iterator[str]:
        locals_ = {field.name: self._local(field) for field in product.fields}
        type_ = self._names.type(product.name)
        if selection is not None:
            leading = self._settings.leading.get(product.name)
            if leading is None:
                yield f"return recordKind[*{type_}](o, nil, nil)"
                return
            for parameter in selection.parameters:
                if parameter.name in leading:
                    value = self._code.value(leading[parameter.name])
                    is_pointer = not parameter.required and self._code.is_pointer(parameter)
                    locals_[parameter.name] = self._code.pointer(parameter, value) if is_pointer else value
            yield from self._selected(selection, locals_, f"*{type_}")
            return
        arguments = [locals_[field.name] for field in product.required]
        if product.optional:
            arguments.append(self._options(product, locals_))
        call = f"{self._context.constructor(product)}({', '.join(arguments)})"
        if self._code.fallible(product):
            yield f"made, err := {call}"
            yield "return recordMade(o, made, err)"
        else:
            yield f"return {call}, true"

    def _options(self, product: Product, locals_: dict[str, str]) -> str:
        type_, base = options_type(self._plan, self._names, product)
        inherited: list[str] = []
        own: list[str] = []
        for field in product.optional:
            pair = f"{pascal(field.name)}: {locals_[field.name]}"
            (own if base is None or field.owner == product.name else inherited).append(pair)
        if base is not None and inherited:
            own.insert(0, f"{base}: {base}{{{', '.join(inherited)}}}")
        return f"{type_}{{{', '.join(own)}}}"

    def _selected(self, selection: Selection, locals_: dict[str, str], kind: str) -> Iterator[str]:
        """Through the factory by values; of a kind, if that is what it makes."""
        arguments = [locals_[field.name] for field in selection.required]
        if selection.optional:
            given = [f"{pascal(f.name)}: {locals_[f.name]}" for f in selection.optional if f.name in locals_]
            arguments.append(f"{self._names.type(selection.product)}Options{{{', '.join(given)}}}")
        call = f"New{self._names.type(selection.product)}({', '.join(arguments)})"
        fails = self._code.selection_fails(selection)
        if fails:
            yield f"made, err := {call}"
        if kind:
            yield f"return recordKind[{kind}](o, {'made, err' if fails else f'{call}, nil'})"
        elif fails:
            yield "return recordMade(o, made, err)"
        else:
            yield f"return {call}, true"

    # --- writing --------------------------------------------------------------------------------------

    def _written(self, product: Product) -> Iterator[str]:
        """The statements that put the fields of a product into a tree."""
        letter = "made"
        for field in product.fields:
            held = f"{letter}.{self._names.stored(field.name)}"
            name = text_literal(field.called)
            yield from self._put(field, name, held)

    def _told(self, base: Product) -> Iterator[str]:
        """The same by the methods that every kind has, also those that are none of the declared."""
        taken = self._context.taken(base)
        for field in base.fields:
            name, call = text_literal(field.called), f"made.{self._names.exported(field.name, taken)}()"
            if not field.may_be_absent:
                yield from self._unless_usual(field, name, call)
                continue
            yield f"if v, ok := {call}; ok {{"
            yield from (f"\t{line}" for line in self._unless_usual(field, name, "v"))
            yield from ("} else {", f"\tt.put({name}, nil)", "}") if self._settings.write_all else ("}",)

    def _unless_usual(self, field: Field, name: str, held: str) -> Iterator[str]:
        value = self._write(field.type, held)
        if field.required or self._settings.write_all or (field.may_be_absent and field.default is None):
            yield f"t.put({name}, {value})"
        elif field.default is None:
            yield from (f"if len({held}) != 0 {{", f"\tt.put({name}, {value})", "}")
        else:
            usual = self._write(field.type, self._code.value(field.default))
            usual = f"{self._code.type(field.type)}({usual})" if field.type in (INTEGER, REAL) else usual
            yield f"recordUnless(&t, {name}, {value}, {usual})"

    def _put(self, field: Field, name: str, held: str) -> Iterator[str]:
        is_pointer = field.may_be_absent and self._code.is_pointer(field)
        value = self._write(field.type, f"*{held}" if is_pointer else held)
        absent = self._absent(field, held) if field.may_be_absent else ""
        if field.required or (self._settings.write_all and not absent):
            yield f"t.put({name}, {value})"
        elif self._settings.write_all:
            yield f"if {absent} {{"
            yield from (f"\tt.put({name}, nil)", "} else {", f"\tt.put({name}, {value})", "}")
        elif absent and field.default is None:
            there = absent.replace(" == ", " != ")
            yield from (f"if {there} {{", f"\tt.put({name}, {value})", "}")
        elif field.default is None:
            yield from (f"if len({held}) != 0 {{", f"\tt.put({name}, {value})", "}")
        elif field.type in READERS and not is_pointer:
            usual = self._code.value(field.default)
            differs = f"{held} != {f'({usual})' if field.type in BRACED else usual}"
            if isinstance(field.default, Boolean):
                differs = f"!{held}" if field.default.flag else held
            yield from (f"if {differs} {{", f"\tt.put({name}, {value})", "}")
        elif isinstance(field.type, ChoiceType):
            yield from (
                f"if {held} != {self._code.value(field.default)} {{",
                f"\tt.put({name}, {value})",
                "}",
            )
        else:
            usual = self._write(field.type, self._code.value(field.default))
            if is_pointer and field.type == INSTANT:
                value = f"recordGivenTime({held})"
            elif is_pointer and field.type == DURATION:
                value = f"recordGivenDuration({held})"
            elif is_pointer and field.type in TOLD:
                value = f"recordTold({held})"
            elif is_pointer:
                value = f"recordGiven({held})"
                usual = f"any({self._code.type(field.type)}({self._code.value(field.default)}))"
            yield f"recordUnless(&t, {name}, {value}, {usual})"

    def _absent(self, field: Field, held: str) -> str:
        nothing = '""' if isinstance(field.type, ChoiceType) else "nil"
        return f"{held} == {nothing}"

    def _write(self, type_: Type, held: str) -> str:
        match type_:
            case ChoiceType(name):
                names = f"{camel(name)}InRecords"
                return f"{names}.names[slices.Index({names}.words, {held})]"
            case ProductType(name):
                return f"write{pascal(name)}({held})"
            case ListOf(element):
                return f"recordEach({held}, {self._writer(element)})"
            case SetOf(element):
                return f"recordSorted({held}, {self._writer(element)})"
            case MapOf(key, element):
                return f"recordEntries({held}, {self._writer(key)}, {self._writer(element)})"
        if type_ == INSTANT:
            return f"recordTextOfTime({held})"
        if type_ == DURATION:
            return f"recordTextOfDuration({held})"
        return f"{held.removeprefix('*')}.String()" if type_ in TOLD else held

    def _writer(self, type_: Type) -> str:
        """The function that writes an element."""
        return f"func(v {self._code.type(type_)}) any {{ return {self._write(type_, 'v')} }}"
