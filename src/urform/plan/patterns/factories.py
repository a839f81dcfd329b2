"""Factories by key: `simple`, `creators` and `registry`. What a registry does beside making stands in `registries.py`."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from urform.declaration.model import Declaration, Use
from urform.declaration.types import Collection
from urform.plan.asking import asking
from urform.plan.fault import Fault, factory_of, flaw_fault, with_making
from urform.plan.flaws import flawed
from urform.plan.making_steps import Narrow
from urform.plan.messages import out_of_limit
from urform.plan.model import Factory, Product
from urform.plan.operands import Operand, Path, UnknownKey
from urform.plan.outcomes import UNKEPT, Fails, GivesNothing
from urform.plan.patterns import Pattern
from urform.plan.scalars import scalar_edge
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import (
    Ask,
    FieldAbsent,
    FieldIs,
    KindIs,
    NewRegistry,
    Unregister,
)
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, operand_of
from urform.prose import with_article

FORMS = ("simple", "registry", "creators")
UNKNOWN = "nowhere_declared"


def encoded(key: str) -> str:
    """A key as the member of a claim's id: all but letters, digits, `-` and `_` as in a URI (RFC 3986, 2.1)."""
    return "".join(
        c if c.isascii() and (c.isalnum() or c in "-_") else "".join(f"%{byte:02X}" for byte in c.encode())
        for c in key
    )


def other_than(factory: Factory, key: str) -> str:
    """A key like this one that the factory does not know."""
    while key in factory.kinds:
        key += "_"
    return key


def makes(declaration: Declaration, plan: Plan) -> Iterator[Factory]:
    """A factory for each product that declares one of these forms."""
    for product in declaration.products.values():
        factory = product.factory
        if factory is None or factory.form not in FORMS:
            continue
        kinds = {key.name: variant.name for variant in product.variants.values() for key in variant.keys}
        unknown = factory.unknown.name if isinstance(factory.unknown, Use) else factory.unknown
        needs_more = any(f.required for variant in product.variants.values() for f in variant.fields.values())
        yield Factory(product.name, factory.form, kinds, unknown, needs_more)


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`kind` and `unknown-kind` of every factory."""
    for making in plan.makings:
        if isinstance(making, Factory):
            yield from Asker(plan, witnesses, making).claims()


class Asker:
    """Asks one factory, and makes its claims."""

    def __init__(self, plan: Plan, witnesses: Witnesses, factory: Factory) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self.factory = factory
        self._base = plan.products[factory.product]
        self._unknown_key = other_than(factory, UNKNOWN)
        is_registry = factory.form == "registry"
        self.start: tuple[Step, ...] = (NewRegistry("registry", factory.product),) if is_registry else ()
        first = {f.name: witnesses.of(f) for f in self._base.required}
        self._arguments: Mapping[str, Operand] = {
            name: value for name, value in first.items() if value is not None
        }

    @property
    def can_ask(self) -> bool:
        """Whether there is a value for each required field, of each kind too where kinds need more."""
        if len(self._arguments) < len(self._base.required):
            return False
        kinds = self.factory.kinds.values() if self.factory.needs_more else ()
        return all(self._witnesses.arguments(self._plan.products[kind]) is not None for kind in kinds)

    def given(self, variant: str | None) -> Mapping[str, Operand]:
        """First values for what a variant requires, or all variants, where none is known or none needs more."""
        if variant is None or not self.factory.needs_more:
            return self._arguments
        return self._witnesses.arguments(self._plan.products[variant]) or {}

    def ask(self, key: str, variant: str | None, var: str = "made") -> Ask:
        """The step that makes a variant by this key, of first values."""
        return self._asking(key, self.given(variant), var)

    def _asking(self, key: str, arguments: Mapping[str, Operand], var: str = "made") -> Ask:
        return asking(self._plan, self._witnesses, self.factory, var, key, arguments)

    def claims(self) -> Iterator[Claim]:
        """All claims of the factory; none where there is no value for a required field."""
        if not self.can_ask:
            return
        for key, variant in self.factory.kinds.items():
            cases = (
                case(*self.start, *self._kind(key, variant)),
                case(*self.start, *self._all_given(key, variant)),
            )
            text = f"the key {key} makes {with_article(variant)} and nothing else"
            yield self._claim("kind", text, cases, member=encoded(key))
        yield self._unknown()

    def _claim(self, group: str, text: str, cases: tuple[Case, ...], member: str | None = None) -> Claim:
        return Claim(group, self.factory.product, text, cases, member)

    def _kind(self, key: str, variant: str) -> Iterator[Step]:
        """The key makes this type, with the variant's own defaults."""
        given = self.given(variant)
        yield self.ask(key, variant)
        yield KindIs("made", variant)
        for field in self._base.fields:
            path = Path("made", field.name)
            own = self._plan.products[variant].field(field.name)
            if field.required:
                yield FieldIs(path, given[field.name])
            elif own.default is not None:
                yield FieldIs(path, operand_of(own.default))
            elif own.absent_by_default:
                yield FieldAbsent(path)
        yield from self._own(variant, given)

    def _own(self, variant: str, given: Mapping[str, Operand]) -> Iterator[Step]:
        """What only this kind has arrives too."""
        base = {field.name for field in self._base.fields}
        own = {name: value for name, value in given.items() if name not in base}
        if own:
            yield Narrow("narrowed", "made", variant)
            for name, value in own.items():
                yield FieldIs(Path("narrowed", name), value)

    def _all_given(self, key: str, variant: str) -> Iterator[Step]:
        """Every field that is given arrives, and in its own place."""
        given = dict(self.given(variant))
        product = self._plan.products[variant]
        for field in product.fields if self.factory.needs_more else self._base.fields:
            default = product.field(field.name).default
            other = (
                self._witnesses.of(field, 1) if field.required else self._witnesses.other_than(field, default)
            )
            if other is not None:
                given[field.name] = other
        yield self._asking(key, given)
        yield KindIs("made", variant)
        for field in self._base.fields:
            if field.name in given:
                yield FieldIs(Path("made", field.name), given[field.name])
        yield from self._own(variant, given)

    def _unknown(self) -> Claim:
        factory = self.factory
        limit = self._outside()
        cases: tuple[Case, ...]
        in_vain = self.ask(self._unknown_key, None, UNKEPT)
        if factory.unknown == "error":
            failure = UnknownKey(factory.product, self._unknown_key, factory.known)
            text = "an unknown key is refused, and the error lists the known ones"
            cases = (case(*self.start, Fails(in_vain, failure)),)
        elif factory.unknown == "nothing":
            text = "an unknown key gives nothing"
            cases = (case(*self.start, GivesNothing(in_vain)),)
        else:
            text = f"an unknown key gives {with_article(factory.unknown)}"
            cases = (case(*self.start, *self._kind(self._unknown_key, factory.unknown)),)
            if self.start:
                key = next(key for key, variant in factory.kinds.items() if variant == factory.unknown)
                gone = Unregister("registry", key, True)
                cases = (*cases, case(*self.start, gone, *self._kind(self._unknown_key, factory.unknown)))
        if limit is not None:
            cases = (*cases, limit)
        return self._claim("unknown-kind", text, cases)

    def _outside(self) -> Case | None:
        """A limit fails whatever becomes of unknown keys."""
        key, variant = next(iter(self.factory.kinds.items()))
        for field in self._base.fields:
            for limit in field.limits if not isinstance(field.type, Collection) else ():
                edge = scalar_edge(field.type, field.limits, limit)
                if edge is None:
                    continue
                failure = out_of_limit(field, limit, edge.outside[0])
                arguments = {**self.given(variant), field.name: edge.outside[0]}
                return case(*self.start, Fails(self._asking(key, arguments, UNKEPT), failure), main=False)
        return None


def kinds_of(plan: Plan, product: Product) -> tuple[tuple[str, Product], ...]:
    """Key and variant of each kind that the factory of a product makes."""
    factory = plan.factory_of(product.name)
    return tuple((key, plan.products[name]) for key, name in factory.kinds.items()) if factory else ()


# --- faults -------------------------------------------------------------------------------------------------


def _kind_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    """The copied branch: the key makes another kind. And the key that is misspelt."""
    factory = factory_of(plan, claim.owner)
    key = next(key for key in factory.kinds if encoded(key) == claim.member)
    other = next((v for v in factory.kinds.values() if v != factory.kinds[key]), None)
    if other is not None:
        unknown = other if factory.unknown == factory.kinds[key] else factory.unknown  # they share a branch
        swapped = replace(factory, kinds={**factory.kinds, key: other}, unknown=unknown)
        text = f"the branch of {key} was copied, and makes {with_article(other)}"
        yield Fault(claim, "copied-branch", text, with_making(plan, factory, swapped))
    if factory.unknown in ("error", "nothing") or other is None:
        kinds = {other_than(factory, f"{key}_") if k == key else k: v for k, v in factory.kinds.items()}
        left = with_making(plan, factory, replace(factory, kinds=kinds))
        if factory.unknown == factory.kinds[key]:  # what an unknown key gives would hide it
            left = flawed(left, "fails-for-unknown", claim.owner)
        yield Fault(claim, "misspelt-branch", f"the branch of {key} is misspelt", left)


def _unknown_faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    factory = factory_of(plan, claim.owner)
    if factory.unknown in ("error", "nothing"):
        yield flaw_fault(plan, claim, "falls-through", claim.owner)
        if factory.unknown == "nothing":
            yield flaw_fault(plan, claim, "fails-for-unknown", claim.owner)
        return
    yield flaw_fault(plan, claim, "fails-for-unknown", claim.owner)
    other = next((v for v in factory.kinds.values() if v != factory.unknown), None)
    if other is not None:
        changed = with_making(plan, factory, replace(factory, unknown=other))
        yield Fault(claim, "other-kind", f"an unknown key gives {with_article(other)}", changed)


FAULTS = {"kind": _kind_faults, "unknown-kind": _unknown_faults}
PATTERN = Pattern("factories", 40, claims, makes, frozenset(f"factory {form}" for form in FORMS), FAULTS)
