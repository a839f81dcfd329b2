"""Families: abstract factories, whose members are complete, and a stand-in for clients' own tests."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from urform.declaration.model import Declaration, Filling, Use
from urform.declaration.model import Family as DeclaredFamily
from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    NOTHING,
    REAL,
    TEXT,
    TOLD,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    MaybeOf,
    ProductType,
    Type,
    innermost,
)
from urform.declaration.values import Absent, Boolean, Entries, Integer, Items, Real, Text, Value, Word
from urform.declaration.written_values import WrittenValues
from urform.plan.fault import Fault, family_of, flaw_fault, with_making
from urform.plan.making_steps import (
    AskedAre,
    AskRole,
    AskRoles,
    ClientGets,
    FamilyIs,
    FamilyOf,
    Narrow,
    NewStandIn,
)
from urform.plan.messages import out_of_limit
from urform.plan.model import Family, Member, Operation, Part, Product, Role
from urform.plan.operands import Arguments, Operand, Path, UnknownKey
from urform.plan.outcomes import UNKEPT, Fails, GivesNothing
from urform.plan.paragraphs import paragraph
from urform.plan.patterns import Pattern
from urform.plan.patterns.operations import handed
from urform.plan.scalars import scalar_edge
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import Answers, FieldAbsent, FieldIs, KindIs
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, operand_of
from urform.prose import indefinite, snake, with_article

UNKNOWN = "nowhere_declared"
STAND_IN_KEY = "stand_in"


def makes(declaration: Declaration, plan: Plan) -> Iterator[Family]:
    """Every declared family."""
    values = WrittenValues(declaration)
    stood_in_for = any(family.stand_in for family in declaration.families.values())
    witnesses = Witnesses(plan) if stood_in_for else None
    for family in declaration.families.values():
        roles = tuple(
            Role(role.name, str(innermost(role.type)), isinstance(role.type, ListOf))
            for role in family.roles.values()
        )
        unknown = family.unknown.name if isinstance(family.unknown, Use) else family.unknown
        members = tuple(_members(values, declaration, family))
        unanswered: Operation | None = None
        stand_in: Member | None = None
        products: tuple[Product, ...] = ()
        if witnesses is not None and family.stand_in:
            unanswered = next(_unanswered(plan, witnesses, roles), None)
            if unanswered is None:
                stand_in, products = _stand_in(plan, witnesses, roles)
        yield Family(
            family.name, paragraph(family.doc), roles, members, unknown, stand_in, products, unanswered
        )


def _members(values: WrittenValues, declaration: Declaration, family: DeclaredFamily) -> Iterator[Member]:
    for member in family.members.values():
        parts = {role: _parts(values, declaration, member.fillings[role]) for role in family.roles}
        yield Member(member.name, snake(member.name), parts)


def _parts(values: WrittenValues, declaration: Declaration, filling: Filling) -> tuple[Part, ...]:
    return tuple(
        Part(part.use.name, values.given(declaration.products[part.use.name], part.values))
        for part in filling.parts
    )


# --- stand-ins ----------------------------------------------------------------------------------------------


def _stand_in(
    plan: Plan, witnesses: Witnesses, roles: tuple[Role, ...]
) -> tuple[Member, tuple[Product, ...]]:
    """A member whose products give fixed answers; a plain product stands in for itself."""
    products: dict[str, Product] = {}
    parts: dict[str, tuple[Part, ...]] = {}
    for role in roles:
        base = plan.products[role.product]
        product = _stand_in_product(plan, witnesses, base) if base.abstract else base
        if base.abstract:
            products[product.name] = product
        first = {f.name: witnesses.of(f) for f in base.required} if role.several else {}
        values = {name: witnesses.value(operand) for name, operand in first.items() if operand is not None}
        parts[role.name] = (Part(product.name, {n: v for n, v in values.items() if v is not None}),)
    return Member("StandIn", STAND_IN_KEY, parts), tuple(products.values())


def _unanswered(plan: Plan, witnesses: Witnesses, roles: tuple[Role, ...]) -> Iterator[Operation]:
    """What no stand-in can answer: it returns a product, and none can be made."""
    for role in roles:
        base = plan.products[role.product]
        for operation in base.operations if base.abstract else ():
            if _fixed(plan, witnesses, operation) is None:
                yield operation


def _stand_in_product(plan: Plan, witnesses: Witnesses, base: Product) -> Product:
    answered = tuple(replace(o, answer=_fixed(plan, witnesses, o), doc="") for o in base.operations)
    return Product(
        name=f"StandIn{base.name}",
        doc=f"{indefinite(base.name).capitalize()} {base.name} with fixed answers, for tests of its clients.",
        fields=base.fields,
        operations=answered,
        base=base.name,
        key=STAND_IN_KEY,
        mutable=base.mutable,
    )


def _fixed(plan: Plan, witnesses: Witnesses, operation: Operation) -> Value | Absent | None:
    """Text: the operation's name; numbers 0; boolean false; the beginning of 1970; the UUID of zeros; the first word; the first
    witness; nothing in a collection."""
    type_ = operation.returns
    if isinstance(type_, MaybeOf):
        return _fixed(plan, witnesses, replace(operation, returns=type_.element)) or Absent()
    if type_ == NOTHING:
        return Absent()
    plain: dict[Type, Value] = {
        TEXT: Text(operation.name),
        INTEGER: Integer(0),
        REAL: Real(0.0),
        BOOLEAN: Boolean(False),
        **{type_: Told(str(type_), KINDS[str(type_)].neutral) for type_ in TOLD},
    }
    match type_:
        case ChoiceType(name):
            return Word(name, plan.choices[name].words[0])
        case ProductType():
            first = next(witnesses.values(type_), None)
            return witnesses.value(first) if first is not None else None
        case MapOf():
            return Entries(type_, ())
    return Items(type_, ()) if isinstance(type_, Collection) else plain.get(type_)


# --- claims -------------------------------------------------------------------------------------------------


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`family` of every family."""
    for family in plan.families:
        yield from _Claims(plan, witnesses, family).claims()


class _Claims:
    """Makes the claims of one family."""

    def __init__(self, plan: Plan, witnesses: Witnesses, family: Family) -> None:
        self._plan = plan
        self._witnesses = witnesses
        self._family = family
        self._known: dict[str, Arguments] = {r.name: self._needed(r) for r in family.roles if not r.several}

    def _needed(self, role: Role) -> Arguments:
        operands = {f.name: self._witnesses.of(f) for f in self._plan.products[role.product].required}
        return {name: value for name, value in operands.items() if value is not None}

    def _all(self, role: Role, product: Product) -> dict[str, Operand]:
        """Every field that the caller of a role may give, other than by default."""
        given = dict(self._known[role.name])
        for field in self._plan.products[role.product].fields:
            default = product.field(field.name).default
            other = (
                self._witnesses.of(field, 1) if field.required else self._witnesses.other_than(field, default)
            )
            if other is not None:
                given[field.name] = other
        return given

    def claims(self) -> Iterator[Claim]:
        """All claims of the family."""
        family = self._family
        for member in family.members:
            for role in family.roles:
                start = FamilyOf("family", family.name, member.key)
                cases = [case(start, FamilyIs("family", family.name, member.name), *self._made(role, member))]
                if not role.several:
                    cases.append(case(start, *self._all_given(role, member)))
                what = f"{' and '.join(part.product for part in member.parts[role.name]) or 'nothing'}"
                text = f"{member.name} makes {what} for {role.name}"
                yield Claim("family", family.name, text, tuple(cases), f"{member.name}.{role.name}")
        yield self._unknown()
        if family.stand_in is not None:
            yield self._stand_in(family.stand_in)

    def _made(self, role: Role, member: Member) -> Iterator[Step]:
        parts = member.parts[role.name]
        if role.several:
            names = tuple(f"made_{number}" for number, _ in enumerate(parts, 1))
            yield AskRoles("family", role.name, names)
            for name, part in zip(names, parts, strict=True):
                yield KindIs(name, part.product)
                yield from self._values(name, role, part, {})
                yield from self._own_values(name, role, part)
            return
        given = self._known[role.name]
        yield AskRole("made", "family", role.name, given)
        yield KindIs("made", parts[0].product)
        yield from self._values("made", role, parts[0], given)
        yield from self._own_values("made", role, parts[0])

    def _values(self, var: str, role: Role, part: Part, given: Arguments) -> Iterator[Step]:
        """What the caller and the member gave, and the product's own defaults, as far as the role shows them."""
        product = self._plan.product(part.product)
        for field in self._plan.products[role.product].fields:
            own = product.field(field.name)
            path = Path(var, field.name)
            declared = part.values.get(field.name, own.default)
            if field.name in given:
                yield FieldIs(path, given[field.name])
            elif declared is not None:
                yield FieldIs(path, operand_of(declared))
            elif own.absent_by_default:
                yield FieldAbsent(path)

    def _own_values(self, var: str, role: Role, part: Part) -> Iterator[Step]:
        """What the member gave to fields that only its own product has."""
        shown = {field.name for field in self._plan.products[role.product].fields}
        own = {name: value for name, value in part.values.items() if name not in shown}
        if own:
            yield Narrow(f"{var}_itself", var, part.product)
            yield from (FieldIs(Path(f"{var}_itself", n), operand_of(v)) for n, v in own.items())

    def _all_given(self, role: Role, member: Member) -> Iterator[Step]:
        part = member.parts[role.name][0]
        given = self._all(role, self._plan.product(part.product))
        yield AskRole("made", "family", role.name, given)
        yield KindIs("made", part.product)
        yield from (FieldIs(Path("made", name), value) for name, value in given.items())

    def _unknown(self) -> Claim:
        family = self._family
        if family.unknown == "error":
            text = "an unknown key is refused, and the error lists the known ones"
            steps: tuple[Step, ...] = (
                Fails(FamilyOf(UNKEPT, family.name, UNKNOWN), UnknownKey(family.name, UNKNOWN, family.known)),
            )
        elif family.unknown == "nothing":
            text = "an unknown key gives nothing"
            steps = (GivesNothing(FamilyOf(UNKEPT, family.name, UNKNOWN)),)
        else:
            text = f"an unknown key gives {family.unknown}"
            asked = FamilyOf("family", family.name, UNKNOWN)
            steps = (asked, FamilyIs("family", family.name, family.unknown))
        return Claim("family", family.name, text, (case(*steps),), aspect="unknown")

    # --- the stand-in ---------------------------------------------------------------------------------

    def _stand_in(self, stand_in: Member) -> Claim:
        family = self._family
        new = NewStandIn("family", family.name)
        steps: list[Step] = [new]
        for role in family.roles:
            steps += self._made_by_stand_in(role, stand_in)
        names = tuple(role.name for role in family.roles)
        cases = [
            case(*steps, AskedAre("family", names)),
            case(new, *self._backwards(), AskedAre("family", tuple(reversed(names)))),
            *(self._serves(member) for member in (*family.members, stand_in)),
        ]
        outside = self._outside(new)
        cases += [outside] if outside is not None else []
        text = f"a stand-in serves a client that knows only {family.name}: it gives fixed answers and records the requests"
        return Claim("family", family.name, text, tuple(cases), aspect="stand-in")

    def _made_by_stand_in(self, role: Role, stand_in: Member) -> Iterator[Step]:
        part = stand_in.parts[role.name][0]
        var = f"{role.name}_made"
        product = self._plan.product(part.product)
        if role.several:
            yield AskRoles("family", role.name, (var,))
            given: Arguments = {}
        else:
            given = self._all(role, product)
            yield AskRole(var, "family", role.name, given)
        yield KindIs(var, part.product)
        yield from self._values(var, role, part, given)
        for operation in product.operations:
            arguments = handed(self._witnesses, operation)
            if operation.answer is not None and operation.returns != NOTHING and arguments is not None:
                yield Answers(var, operation.name, arguments, operation.answer)

    def _backwards(self) -> Iterator[Step]:
        for role in reversed(self._family.roles):
            if role.several:
                yield AskRoles("family", role.name, (f"{role.name}_made",))
            else:
                yield AskRole(f"{role.name}_made", "family", role.name, self._known[role.name])

    def _serves(self, member: Member) -> Case:
        family = self._family
        stand_in = member is family.stand_in
        start: Step = (
            NewStandIn("family", family.name) if stand_in else FamilyOf("family", family.name, member.key)
        )
        products = tuple(part.product for role in family.roles for part in member.parts[role.name])
        return case(start, ClientGets("family", family.name, products), main=stand_in)

    def _outside(self, new: NewStandIn) -> Case | None:
        for role in self._family.roles:
            for field in self._plan.products[role.product].fields if not role.several else ():
                for limit in field.limits if not isinstance(field.type, Collection) else ():
                    edge = scalar_edge(field.type, field.limits, limit)
                    if edge is None:
                        continue
                    failure = out_of_limit(field, limit, edge.outside[0])
                    given = {**self._known[role.name], field.name: edge.outside[0]}
                    return case(new, Fails(AskRole(UNKEPT, "family", role.name, given), failure), main=False)
        return None


# --- faults -------------------------------------------------------------------------------------------------


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    family = family_of(plan, claim.owner)
    if claim.aspect == "unknown":
        yield from _unknown_faults(plan, claim, family)
    elif claim.aspect == "stand-in":
        yield flaw_fault(plan, claim, "records-nothing", claim.owner)
    else:
        member, _, role = (claim.member or "").partition(".")
        yield from _member_faults(plan, witnesses, claim, family, family.member(member), role)


def _unknown_faults(plan: Plan, claim: Claim, family: Family) -> Iterator[Fault]:
    if family.unknown in ("error", "nothing"):
        yield flaw_fault(plan, claim, "falls-through", claim.owner)
        if family.unknown == "nothing":
            yield flaw_fault(plan, claim, "fails-for-unknown", claim.owner)
        return
    other = next((m.name for m in family.members if m.name != family.unknown), None)
    if other is not None:
        changed = with_making(plan, family, replace(family, unknown=other))
        yield Fault(claim, "other-member", f"an unknown key gives {other}", changed)


def _of_another_kind(plan: Plan, family: Family, role: str, part: Part) -> Part | None:
    """A part of another kind that can be made of what the role's caller and the member give."""
    several = next(each.several for each in family.roles if each.name == role)
    base = plan.products[plan.products[part.product].base or part.product]
    for kind in plan.concrete(base):
        given = {field.name for field in base.fields} if not several else set()
        names = {field.name for field in kind.fields}
        values = {name: value for name, value in part.values.items() if name in names}
        if kind.name != part.product and all(f.name in given | set(values) for f in kind.required):
            return Part(kind.name, values)
    return None


def _fixed_values(
    plan: Plan,
    witnesses: Witnesses,
    claim: Claim,
    role: str,
    part: Part,
    changed: Callable[[tuple[Part, ...]], Plan],
) -> Iterator[Fault]:
    """A value that nobody asked for, in an optional field that only the member knows of; else nothing at all."""
    family = next(each for each in plan.families if each.name == claim.owner)
    asked = next(each for each in family.roles if each.name == role)
    given = {field.name for field in plan.products[asked.product].fields} if not asked.several else set()
    for field in (each for each in plan.products[part.product].optional if each.name not in given):
        other = witnesses.other_than(field, field.default)
        value = witnesses.value(other) if other is not None else None
        if value is not None:
            fixed = Part(part.product, {**part.values, field.name: value})
            yield Fault(claim, f"fixed-{field.name}", f"{role} has another {field.name}", changed((fixed,)))
            return
    yield flaw_fault(plan, claim, "part-is-nothing", claim.owner, claim.member or "")


def _member_faults(
    plan: Plan, witnesses: Witnesses, claim: Claim, family: Family, member: Member, role: str
) -> Iterator[Fault]:
    """Parts of another member, in another order, one too few."""
    parts = member.parts[role]

    def changed(other: tuple[Part, ...]) -> Plan:
        mixed = replace(member, parts={**member.parts, role: other})
        members = tuple(mixed if each is member else each for each in family.members)
        return with_making(plan, family, replace(family, members=members))

    if not parts:
        base = plan.products[next(each.product for each in family.roles if each.name == role)]
        yield Fault(
            claim, "one-more", f"{role} is one too many", changed((Part(plan.concrete(base)[0].name, {}),))
        )
        return
    others = (m.parts[role] for m in family.members if m.parts[role] != parts)
    foreign = next(others, None)
    if foreign is not None:
        yield Fault(claim, "of-another-member", f"{role} comes from another member", changed(foreign))
    if parts and foreign is None:
        other = _of_another_kind(plan, family, role, parts[0])
        if other is not None:
            text = f"{role} is {with_article(other.product)}"
            yield Fault(claim, "another-kind", text, changed((other, *parts[1:])))
        else:
            yield from _fixed_values(plan, witnesses, claim, role, parts[0], changed)
    if len(parts) > 1:
        yield Fault(claim, "one-short", f"{role} is short by one", changed(parts[:-1]))
        if parts[0] != parts[-1]:
            turned = changed(tuple(reversed(parts)))
            yield Fault(claim, "other-order", f"{role} is in the opposite order", turned)
    elif parts and next(r for r in family.roles if r.name == role).several:
        yield Fault(claim, "one-short", f"{role} is empty", changed(()))


PATTERN = Pattern("families", 100, claims, makes, frozenset({"family"}), {"family": _faults})
