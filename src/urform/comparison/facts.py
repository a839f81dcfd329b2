"""All that a plan says, as facts that can be compared with those of another plan."""

from __future__ import annotations

from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.told import Told
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
)
from urform.plan.messages import quoted
from urform.plan.model import (
    Builder,
    Choice,
    Factory,
    Family,
    Field,
    Limit,
    Making,
    Operation,
    Pool,
    Product,
    Prototype,
    Records,
    Selection,
)
from urform.plan.whole import Plan


@dataclass(frozen=True, slots=True)
class Fact:
    """What a plan says of something: `path` is the declaration's, `aspect` a row of `ASPECTS`; `value` decides, `shown` is read."""

    path: str  # `Buoy`, `Buoy.draught`
    aspect: str
    value: object
    shown: str
    detail: str = ""  # of several of one aspect: a key, a name

    @property
    def key(self) -> tuple[str, str, str]:
        """By which it is found in another plan: a required field is the same field where it is optional."""
        return self.path, "there" if self.aspect in ("required", "optional") else self.aspect, self.detail

    @property
    def owner(self) -> str:
        """The product, choice or family."""
        return self.path.partition(".")[0]


def facts(plan: Plan) -> Iterator[Fact]:
    """Every fact of a plan, in its order; none of them twice."""
    in_records = plan.records is not None
    for choice in plan.choices.values():
        yield from _choice(choice)
    for product in plan.products.values():
        yield from _product(product, in_records=in_records)
        for field in product.own_fields:
            yield from _field(product, field, in_records=in_records)
        yield from _redefined(product)
        for operation in product.operations:
            yield from _operation(product, operation)
    for making in plan.makings:
        yield from _making(making)
    if plan.records is not None:
        yield from _records(plan.records)


def _choice(choice: Choice) -> Iterator[Fact]:
    yield Fact(choice.name, "there", "choice", "a choice")
    yield Fact(choice.name, "documentation", choice.doc, quoted(choice.doc))
    for word in choice.words:
        yield Fact(f"{choice.name}.{word}", "there", word, "a word")
        yield Fact(f"{choice.name}.{word}", "in records", choice.called(word), quoted(choice.called(word)))
    yield Fact(choice.name, "order of words", choice.words, ", ".join(choice.words))


def _product(product: Product, *, in_records: bool) -> Iterator[Fact]:
    what = (
        f"a kind of {product.base}"
        if product.base
        else "a product with variants"
        if product.abstract
        else "a product"
    )
    yield Fact(product.name, "there", "product", what)
    yield Fact(product.name, "documentation", product.doc, quoted(product.doc))
    yield Fact(product.name, "base", product.base, product.base or "nothing")
    yield Fact(product.name, "mutable", product.mutable, "mutable" if product.mutable else "immutable")
    yield Fact(product.name, "single", product.single, "one instance" if product.single else "many instances")
    if product.abstract:
        yield Fact(product.name, "closed", product.closed, "closed" if product.closed else "open")
    if product.key is not None:
        yield Fact(product.name, "type code", product.key, quoted(product.key))
    required = tuple(field.name for field in product.required)
    yield Fact(product.name, "order", required, ", ".join(required))
    if in_records:
        fields = tuple(field.name for field in product.fields)
        yield Fact(product.name, "order in records", fields, ", ".join(fields))
    if product.kinds:
        yield Fact(product.name, "kinds in records", product.kinds, ", ".join(map(quoted, product.kinds)))


def _field(product: Product, field: Field, *, in_records: bool) -> Iterator[Fact]:
    path = f"{product.name}.{field.name}"
    need = "required" if field.required else "absent unless given" if field.absent_by_default else "optional"
    yield Fact(path, "required" if field.required else "optional", "field", f"{need}, {field.type}")
    yield Fact(path, "need", need, need)
    yield Fact(path, "type", field.type, str(field.type))
    if field.default is not None:
        yield Fact(path, "default", field.default, value_shown(field.default))
    limits = [*map(limit_shown, field.limits), *(f"each {limit_shown(limit)}" for limit in field.each)]
    yield Fact(path, "limits", (field.limits, field.each), ", ".join(limits) or "none")
    yield Fact(path, "copied", field.copy, field.copy)
    yield Fact(path, "element", field.item, field.item or "none")
    yield Fact(path, "secret", field.secret, "hidden" if field.secret else "shown")
    yield Fact(path, "documentation", field.doc, quoted(field.doc))
    if in_records:
        yield Fact(path, "in records", field.called, quoted(field.called))


def _redefined(product: Product) -> Iterator[Fact]:
    """The defaults that a variant gives to what it inherits."""
    for field in product.fields:
        if field.owner != product.name and field.default is not None:
            path = f"{product.name}.{field.name}"
            yield Fact(path, "default", field.default, value_shown(field.default))


def _operation(product: Product, operation: Operation) -> Iterator[Fact]:
    path = f"{product.name}.{operation.name}"
    takes = ", ".join(f"{p.name}: {p.type}" for p in operation.takes)
    if operation.owner == product.name:
        yield Fact(path, "there", "operation", f"an operation, ({takes}): {operation.returns}")
        yield Fact(path, "signature", (operation.takes, operation.returns), f"({takes}): {operation.returns}")
        yield Fact(path, "documentation", operation.doc, quoted(operation.doc))
        yield Fact(
            path, "written", operation.once, "once for all kinds" if operation.once else "by each kind"
        )
    if operation.answer is not None:
        yield Fact(path, "answer", operation.answer, value_shown(operation.answer))


def _making(making: Making) -> Iterator[Fact]:
    match making:
        case Factory(product, form, kinds, unknown):
            yield Fact(product, "form", form, form)
            yield Fact(product, "unknown key", unknown, unknown)
            for key, variant in kinds.items():
                yield Fact(product, "key", variant, variant, key)
        case Selection(product, parameters, deciding):
            yield Fact(product, "form", "by_values", "by_values")
            chosen = ", ".join(choice.variant for choice in deciding.choices)
            refused = "".join(f"; refused: {refusal.reason}" for refusal in deciding.refusals)
            taken = ", ".join(field.name for field in parameters)
            yield Fact(product, "decisions", deciding, f"of {taken}: {chosen}{refused}")
        case Builder(product, fluent, resets, presets, typed):
            how = f"{'fluent' if fluent else 'statements'}{', missing at compile time' if typed else ''}"
            yield Fact(product, "builder", (fluent, typed), how)
            yield Fact(product, "after a build", resets, "nothing" if resets else "what it held")
            for preset in presets:
                yield Fact(product, "preset", preset.values, entries_shown(preset.values), preset.name)
        case Prototype(product, exemplars):
            yield Fact(product, "there", "prototype", "a prototype", "prototype")
            for exemplar in exemplars:
                yield Fact(
                    product, "exemplar", exemplar.product, value_shown(exemplar.product), exemplar.name
                )
        case Pool(product, key, weak, needs_maker):
            yield Fact(product, "pool key", frozenset(key), ", ".join(key))
            held = f"{'weakly' if weak else 'strongly'}{', by a maker' if needs_maker else ''}"
            yield Fact(product, "pool", (weak, needs_maker), held)
        case Family():
            yield from _family(making)


def _family(family: Family) -> Iterator[Fact]:
    yield Fact(family.name, "there", "family", "a family")
    yield Fact(family.name, "documentation", family.doc, quoted(family.doc))
    yield Fact(family.name, "unknown key", family.unknown, family.unknown)
    for role in family.roles:
        made = f"list<{role.product}>" if role.several else role.product
        yield Fact(f"{family.name}.{role.name}", "role", (role.product, role.several), made)
    for member in family.members:
        yield Fact(family.name, "key", member.name, member.name, member.key)
        parts = "; ".join(
            f"{role}: {', '.join(f'{p.product} {{{entries_shown(p.values)}}}' for p in made)}"
            for role, made in member.parts.items()
        )
        yield Fact(family.name, "member", member.parts, parts, member.name)


def _records(records: Records) -> Iterator[Fact]:
    yield Fact("records", "there", "records", "read and written")
    unknown = "an unknown name is ignored" if records.ignores_unknown else "an unknown name is refused"
    written = "everything is written" if records.write_all else "what is needed is written"
    value = (records.kind, records.ignores_unknown, records.write_all)
    yield Fact(
        "records", "records", value, f"a kind stands under {quoted(records.kind)}, {unknown}, {written}"
    )


def limit_shown(limit: Limit) -> str:
    """`min 1`, and `not_blank` of what has no bound."""
    bound = "" if limit.bound is None or limit.bound is True else f" {limit.bound}"
    return f"{limit.name}{bound}{' unless empty' if limit.unless_empty else ''}"


def entries_shown(values: object) -> str:
    """`crew 4, tags [spring]`."""
    pairs = values.items() if hasattr(values, "items") else ()
    return ", ".join(f"{name} {value_shown(value)}" for name, value in pairs)


def value_shown(value: Value | Absent) -> str:
    """A declared value, as a person writes it."""
    match value:
        case Text(plain):
            return quoted(plain)
        case Word(_, word):
            return word
        case Integer(number) | Real(number):
            return str(number)
        case Boolean(flag):
            return "true" if flag else "false"
        case Told(_, plain):
            return plain
        case Items(_, items):
            return f"[{', '.join(map(value_shown, items))}]"
        case Entries(_, entries):
            return "{" + ", ".join(f"{value_shown(k)}: {value_shown(v)}" for k, v in entries) + "}"
        case Made(product, fields):
            return f"{product} {{{entries_shown(fields)}}}"
    return "nothing"
