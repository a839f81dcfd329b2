"""The steps over builders, prototypes, pools, families and factories by values, as Go tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import ListOf, ProductType, SetOf, Type
from urform.declaration.values import Items
from urform.languages.go.builders import BuilderNames, build_fails
from urform.languages.go.expressions import client_name, text_literal
from urform.languages.go.families import member_type, role_fails, role_name
from urform.languages.go.pool_proof import PoolWriter
from urform.languages.naming.names import camel
from urform.languages.naming.scope import respelt
from urform.plan.making_steps import (
    AskedAre,
    AskRole,
    AskRoleFails,
    AskRoles,
    Build,
    BuildChained,
    BuilderAdd,
    BuilderSet,
    BuildFails,
    ClientGets,
    Clone,
    CloneEach,
    ExemplarAdd,
    ExemplarAddFails,
    ExemplarGet,
    ExemplarGetFails,
    FamilyFails,
    FamilyIs,
    FamilyNothing,
    FamilyOf,
    HiddenConstructor,
    NamesAre,
    Narrow,
    NewBuilder,
    NewExemplars,
    NewStandIn,
    SameObject,
    Select,
    SelectFails,
    SelectNothing,
    Take,
)
from urform.plan.model import Family, Selection
from urform.plan.operands import Arguments, Operand, Several
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.go.writer import Writer


def camelled(operand: Operand) -> Operand:
    """An operand whose variables are spelt as Go spells them."""
    return respelt(operand, camel)


class MakingWriter:
    """Writes these steps; what it shares with the others it asks of their writer."""

    def __init__(self, writer: Writer) -> None:
        self._w = writer
        self._plan = writer.plan
        self._code = writer.code
        self._names = writer.names
        self._scope = writer.scope
        self._at = writer.at
        self._emitter = writer.proof.emitter
        self._pools = PoolWriter(writer)

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        parts = (
            self._selections,
            self._builders,
            self._prototypes,
            self._exemplars,
            self._pools.step,
            self._families,
        )
        for part in parts:
            lines = part(step)
            if lines is not None:
                return lines
        raise TypeError(f"no such step: {step}")

    def _type(self, product: str) -> str:
        return f"{self._at}{self._names.type(product)}"

    # --- factories by values ----------------------------------------------------------------------------

    def _selections(self, step: Step) -> Iterator[str] | None:
        match step:
            case Select(var, product, arguments, or_nothing):
                selection = self._selection(product)
                call = self._entry(selection, arguments, or_nothing)
                if or_nothing:
                    return self._found(var, call, selection)
                return self._w.take(var, call, self._code.selection_fails(selection))
            case SelectFails(product, arguments, failure, or_nothing):
                call = self._entry(self._selection(product), arguments, or_nothing)
                blanks = "_, _, err" if or_nothing else "_, err"
                return iter([f"{blanks} {self._w.declare()} {call}", self._w.refuses(failure)])
            case SelectNothing(product, arguments):
                return self._nothing(self._selection(product), arguments)
            case HiddenConstructor():
                raise TypeError("the compiler shows it")
        return None

    def _selection(self, product: str) -> Selection:
        selection = self._plan.selection_of(product)
        assert selection is not None
        return selection

    def _entry(self, selection: Selection, arguments: Arguments, or_nothing: bool) -> str:
        type_ = self._names.type(selection.product)
        given = self._code.selected(selection, self._w.renamed(arguments))
        return f"{self._at}{f'{type_}Of' if or_nothing else f'New{type_}'}({given})"

    def _missing(self, selection: Selection) -> bool:
        """Whether the entry that tells no reason has an error, for what is missing."""
        return any(isinstance(field.type, ProductType) for field in selection.required)

    def _found(self, var: str, call: str, selection: Selection) -> Iterator[str]:
        found = self._w.fresh("found")
        more = ", err" if self._missing(selection) else ""
        yield f"{self._w.var(var)}, {found}{more} := {call}"
        if more:
            self._w.has_error()
            yield self._w.good
        yield from self._w.found(found, True)

    def _nothing(self, selection: Selection, arguments: Arguments) -> Iterator[str]:
        found = self._w.fresh("found")
        more = ", err" if self._missing(selection) else ""
        yield f"_, {found}{more} := {self._entry(selection, arguments, True)}"
        if more:
            self._w.has_error()
            yield self._w.good
        yield f'is(t, "found", {found}, false)'

    # --- builders ---------------------------------------------------------------------------------------

    def _builders(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewBuilder(var, product, preset, like):
                made = f"{self._at}New{self._names.type(product)}Builder"
                if preset is not None:
                    made += self._builder_names(product).preset(preset)
                given = ""
                if like is not None:
                    made, given = f"{made}Like", self._w.var(like)
                return iter([f"{self._w.var(var)} := {made}({given})"])
            case BuilderSet(builder, field, value):
                owner = self._scope.owner(builder)
                return iter([f"{self._w.var(builder)}.{self._set(owner, field, value)}"])
            case BuilderAdd(builder, field, value):
                owner = self._scope.owner(builder)
                adder = self._builder_names(owner).adder(self._plan.products[owner].field(field))
                return iter([f"{self._w.var(builder)}.{adder}({self._w.operand(value)})"])
            case Build(var, builder):
                fails = build_fails(self._emitter, self._plan.products[self._scope.owner(builder)])
                return self._w.take(var, f"{self._w.var(builder)}.Build()", fails)
            case BuildFails(builder, failure):
                call = f"_, err {self._w.declare()} {self._w.var(builder)}.Build()"
                return iter([call, self._w.refuses(failure)])
            case BuildChained(var, product, arguments):
                calls = "".join(f".{self._set(product, name, value)}" for name, value in arguments.items())
                call = f"{self._at}New{self._names.type(product)}Builder(){calls}.Build()"
                return self._w.take(var, call, build_fails(self._emitter, self._plan.products[product]))
        return None

    def _builder_names(self, product: str) -> BuilderNames:
        builder = self._plan.builder_of(product)
        assert builder is not None
        return BuilderNames(self._plan.products[product], builder)

    def _set(self, owner: str, field: str, value: Operand) -> str:
        declared = self._plan.products[owner].field(field)
        setter = self._builder_names(owner).setter(declared)
        return f"{setter}({self._spread(declared.type, value)})"

    def _spread(self, type_: Type, value: Operand) -> str:
        """Elements one by one where a setter takes them so."""
        if not isinstance(type_, (ListOf, SetOf)):
            return self._w.operand(value)
        if isinstance(value, (Several, Items)) and len(value.items) < 8:
            return ", ".join(self._w.operand(item) for item in value.items)
        return f"{self._w.operand(value)}..."

    # --- prototypes -------------------------------------------------------------------------------------

    def _prototypes(self, step: Step) -> Iterator[str] | None:
        match step:
            case Clone(var, original):
                return self._clone(var, original)
            case CloneEach(product, originals, clones):
                return self._clone_each(product, originals, clones)
            case Take(var, path):
                held = self._w.accessor(path)
                absent = self._scope.field(path).may_be_absent and not path.first
                return iter([f"{self._w.var(var)}{', _' if absent else ''} := {held}"])
            case SameObject(left, right, _, same):
                compared = f"{self._w.var(left)} == {self._w.var(right)}"
                return iter([f'is(t, "the same object", {compared}, {"true" if same else "false"})'])
        return None

    def _clone(self, var: str, original: str) -> Iterator[str]:
        """A clone of a variant is of the interface's type, for others may know no more."""
        product = self._scope.product_of(original)
        call = f"{self._w.var(original)}.Clone()"
        if product.base is not None:
            call = f"as[*{self._type(product.name)}](t, {call})"
        yield f"{self._w.var(var)} := {call}"

    def _clone_each(self, product: str, originals: tuple[str, ...], clones: tuple[str, ...]) -> Iterator[str]:
        made = self._plan.products[product]
        type_ = self._type(product) if made.abstract else f"*{self._type(product)}"
        names = ", ".join(self._w.var(name) for name in originals)
        yield f"var clones []{type_}"
        yield f"for _, each := range []{type_}{{{names}}} {{"
        yield "\tclones = append(clones, each.Clone())"
        yield "}"
        for number, clone in enumerate(clones):
            yield f"{self._w.var(clone)} := clones[{number}]"

    def _exemplars(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewExemplars(var, product):
                return iter([f"{self._w.var(var)} := {self._at}New{self._names.type(product)}Exemplars()"])
            case ExemplarAdd(store, name, product):
                return iter(
                    [f"succeeds(t, {self._w.var(store)}.Add({text_literal(name)}, {self._w.var(product)}))"]
                )
            case ExemplarAddFails(store, name, product, failure):
                call = f"{self._w.var(store)}.Add({text_literal(name)}, {self._w.var(product)})"
                return iter([f"err {self._w.declare()} {call}", self._w.refuses(failure)])
            case ExemplarGet(var, store, name):
                return self._w.take(var, f"{self._w.var(store)}.Get({text_literal(name)})", True)
            case ExemplarGetFails(store, name, failure):
                call = f"_, err {self._w.declare()} {self._w.var(store)}.Get({text_literal(name)})"
                return iter([call, self._w.refuses(failure)])
            case NamesAre(store, names):
                listed = ", ".join(text_literal(name) for name in names)
                return iter([f'is(t, "names", {self._w.var(store)}.Names(), []string{{{listed}}})'])
        return None

    # --- families ---------------------------------------------------------------------------------------

    def _families(self, step: Step) -> Iterator[str] | None:
        match step:
            case FamilyOf(var, family, key):
                return self._family_of(var, self._family(family), key)
            case FamilyFails(family, key, failure):
                call = f"{self._type(family)}For({text_literal(key)})"
                return iter([f"_, err {self._w.declare()} {call}", self._w.refuses(failure)])
            case FamilyNothing(family, key):
                found = self._w.fresh("found")
                call = f"{self._type(family)}For({text_literal(key)})"
                return iter([f"_, {found} := {call}", f'is(t, "found", {found}, false)'])
            case FamilyIs(var, family, member):
                type_ = f"{self._at}{member_type(self._names, self._family(family), member)}"
                return iter([f'is(t, "member", any({self._w.var(var)}), any({type_}{{}}))'])
            case NewStandIn(var, family):
                type_ = f"{self._at}{member_type(self._names, self._family(family), 'StandIn')}"
                return iter([f"{self._w.var(var)} := &{type_}{{}}"])
            case AskRole(var, family, role, arguments):
                return self._w.take(var, self._asked(family, role, arguments), self._fails(family, role))
            case AskRoleFails(family, role, arguments, failure):
                call = self._asked(family, role, arguments)
                return iter([f"_, err {self._w.declare()} {call}", self._w.refuses(failure)])
            case AskRoles(family, role, names):
                return self._ask_roles(family, role, names)
            case Narrow(var, original, product):
                narrowed = f"as[*{self._type(product)}](t, {self._w.var(original)})"
                return iter([f"{self._w.var(var)} := {narrowed}"])
            case AskedAre(stand_in, roles):
                listed = ", ".join(text_literal(role) for role in roles)
                return iter([f'is(t, "asked", {self._w.var(stand_in)}.Asked(), []string{{{listed}}})'])
            case ClientGets(family, name, products):
                return self._client(family, name, products)
        return None

    def _family(self, name: str) -> Family:
        return next(family for family in self._plan.families if family.name == name)

    def _family_of(self, var: str, family: Family, key: str) -> Iterator[str]:
        call = f"{self._type(family.name)}For({text_literal(key)})"
        if family.unknown != "nothing":
            yield from self._w.take(var, call, family.unknown == "error")
            return
        found = self._w.fresh("found")
        yield f"{self._w.var(var)}, {found} := {call}"
        yield from self._w.found(found, True)

    def _fails(self, family: str, role: str) -> bool:
        return role_fails(self._emitter, self._scope.family(family), self._scope.role(family, role))

    def _asked(self, family: str, role: str, arguments: Arguments) -> str:
        product = self._plan.products[self._scope.role(family, role).product]
        given = self._code.arguments(product, self._w.renamed(arguments))
        return f"{self._w.var(family)}.{role_name(self._scope.role(family, role))}({given})"

    def _ask_roles(self, family: str, role: str, names: tuple[str, ...]) -> Iterator[str]:
        call = f"{self._w.var(family)}.{role_name(self._scope.role(family, role))}()"
        what = f'"length of {role}"'
        if set(names) <= self._w.unused:
            yield from self._w.counted(what, call, len(names))
            return
        listed = f"{self._w.var(names[0])}All"
        yield f"{listed} := {call}"
        yield from self._w.counted(what, listed, len(names))
        for number, name in enumerate(names):
            yield f"{self._w.var(name)} := {listed}[{number}]"

    def _client(self, family: str, name: str, products: tuple[str, ...]) -> Iterator[str]:
        listed = ", ".join(f'"*{self._emitter.package}.{self._names.type(product)}"' for product in products)
        call = f"{client_name(name)}(t, {self._w.var(family)})"
        yield f'is(t, "types", typesOf({call}), []string{{{listed}}})'
