"""The printed form of a plan: what a person reviews before generating."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.declaration.told import Told
from urform.declaration.values import Boolean, Integer, Real, Text, Word
from urform.plan.messages import quoted
from urform.plan.model import (
    Builder,
    Factory,
    Family,
    Field,
    Limit,
    Operation,
    Pool,
    Product,
    Prototype,
    Records,
    Selection,
)
from urform.plan.script import Claim
from urform.plan.whole import Plan
from urform.prose import with_article


def plan_text(plan: Plan, claims: Sequence[Claim]) -> str:
    """The plan and its claims, as lines."""
    return "\n".join(_lines(plan, claims)) + "\n"


def _lines(plan: Plan, claims: Sequence[Claim]) -> Iterator[str]:
    yield f"{plan.name}, from {plan.source}"
    for choice in plan.choices.values():
        yield ""
        yield f"choice {choice.name}: {', '.join(_named(word, choice.called(word)) for word in choice.words)}"
    if plan.records is not None:
        yield ""
        yield _records(plan.records)
    by_owner: dict[str, list[Claim]] = {}
    for claim in claims:
        by_owner.setdefault(claim.owner, []).append(claim)
    for product in plan.products.values():
        yield ""
        yield _heading(product)
        yield from (f"  {_field(field)}" for field in product.own_fields)
        yield from (f"  {_operation(operation)}" for operation in product.operations)
        for making in plan.makings:
            if not isinstance(making, Family) and making.product == product.name:
                yield f"  {_making(making)}"
        yield from _claims(by_owner.get(product.name, []))
    for family in plan.families:
        yield ""
        yield from _family(family)
        yield from _claims(by_owner.get(family.name, []))
    if plan.left_out:
        yield ""
        yield "left out, for this version does not generate it"
        yield from (f"  {left.part}, declared in line {left.line}" for left in plan.left_out)


def _heading(product: Product) -> str:
    words = [
        *(["single"] if product.single else []),
        "mutable" if product.mutable else "immutable",
        *(["closed" if product.closed else "open"] if product.abstract else []),
    ]
    kind = (
        f"{product.name}, {with_article(product.base)} of key {product.key}" if product.base else product.name
    )
    if product.base and product.kinds and product.kinds[0] != product.key:
        kind = _named(kind, product.kinds[0])
    variants = f": {', '.join(product.variants)}" if product.variants else ""
    return f"{' '.join(words)} {kind}{variants}"


def _records(records: Records) -> str:
    unknown = "ignored" if records.ignores_unknown else "refused"
    written = "everything" if records.write_all else "what is needed"
    return f"records: a kind is told under {quoted(records.kind)}, an unknown name is {unknown}, {written} is written"


def _named(name: str, called: str) -> str:
    """A thing with its name in records, where that is another."""
    return name if called == name else f"{name} ({quoted(called)} in records)"


def _field(field: Field) -> str:
    need = "required" if field.required else "optional"
    limits = [_limit(limit) for limit in field.limits] + [f"each {_limit(limit)}" for limit in field.each]
    default = f", default {_value(field)}" if field.default is not None else ""
    copy = f", copied {field.copy}" if field.copy != "deep" else ""
    name = _named(field.name, field.called)
    return f"{need} {name}: {field.type}{', ' if limits else ''}{', '.join(limits)}{default}{copy}"


def _limit(limit: Limit) -> str:
    bound = "" if limit.bound is None or limit.bound is True else f" {limit.bound}"
    return f"{limit.name}{bound}{' unless empty' if limit.unless_empty else ''}"


def _value(field: Field) -> str:
    match field.default:
        case Text(plain) | Word(_, plain):
            return repr(plain)
        case Integer(number) | Real(number):
            return str(number)
        case Told(_, plain):
            return plain
        case Boolean(flag):
            return "true" if flag else "false"
    return "as declared"


def _operation(operation: Operation) -> str:
    takes = ", ".join(f"{parameter.name}: {parameter.type}" for parameter in operation.takes)
    whose = "answered" if operation.answer is not None else "by its variants or by you"
    return f"operation {operation.name}({takes}): {operation.returns}, {whose}"


def _making(making: Factory | Selection | Builder | Prototype | Pool) -> str:
    match making:
        case Factory(_, form, kinds, unknown, needs_more):
            listed = ", ".join(f"{key} makes {variant}" for key, variant in kinds.items())
            taken = "; takes the fields of a kind, or their record" if needs_more else ""
            return f"factory, {form}: {listed}; an unknown key gives {unknown}{taken}"
        case Selection(_, parameters, deciding):
            refused = [f"refused: {refusal.reason}" for refusal in deciding.refusals]
            chosen = ", ".join(choice.variant for choice in deciding.choices)
            taken = ", ".join(field.name for field in parameters)
            return "; ".join([f"factory, by_values: of {taken}", *refused, f"chosen in order: {chosen}"])
        case Builder(_, fluent, resets, presets, typed):
            named = f", presets {', '.join(p.name for p in presets)}" if presets else ""
            how = f"{'fluent' if fluent else 'statements'}, {'reset' if resets else 'keep'}"
            return f"builder, {how}{', missing at compile time' if typed else ''}{named}"
        case Prototype(_, exemplars):
            return f"prototype{', exemplars ' + ', '.join(e.name for e in exemplars) if exemplars else ''}"
        case Pool(_, key, weak, needs_maker):
            maker = ", with a maker" if needs_maker else ""
            return f"flyweight, key {', '.join(key)}, held {'weakly' if weak else 'strongly'}{maker}"


def _family(family: Family) -> Iterator[str]:
    roles = ", ".join(f"{r.name}: {f'list<{r.product}>' if r.several else r.product}" for r in family.roles)
    yield f"family {family.name} makes {roles}; an unknown key gives {family.unknown}"
    for member in family.members:
        parts = ", ".join(
            f"{role}: {' and '.join(part.product for part in parts) or 'nothing'}"
            for role, parts in member.parts.items()
        )
        yield f"  {member.name}, key {member.key}: {parts}"
    if family.stand_in is not None:
        yield "  a stand-in, for clients' own tests"
    elif family.unanswered is not None:
        operation = family.unanswered
        returned = f"{operation.owner}.{operation.name} returns {operation.returns}"
        yield f"  no stand-in: {returned}, and none can be made"


def _claims(own: Sequence[Claim]) -> Iterator[str]:
    if own:
        yield "  claims"
        width = max(len(claim.id) for claim in own)
        yield from (f"    {claim.id:<{width}}  {claim.text}" for claim in own)
