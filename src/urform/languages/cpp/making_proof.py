"""The steps over builders, prototypes, families and factories by values, as C++ tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import ListOf, ProductType, SetOf
from urform.languages.cpp.builders import BuilderNames
from urform.languages.cpp.copies import duplicating
from urform.languages.cpp.expressions import text_literal
from urform.languages.cpp.families import member_type, role_name
from urform.languages.cpp.pool_proof import PoolWriter
from urform.languages.cpp.testing import Held
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
from urform.plan.model import Builder, Family
from urform.plan.operands import Arguments, Operand, Path
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.cpp.writer import Writer


class MakingWriter:
    """Writes these steps; what it shares with the others it asks of their writer."""

    def __init__(self, writer: Writer) -> None:
        self._w = writer
        self._plan = writer.plan
        self._code = writer.code
        self._names = writer.names
        self._scope = writer.scope
        self._emitter = writer.emitter
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

    # --- factories by values ------------------------------------------------------------------------------

    def _selections(self, step: Step) -> Iterator[str] | None:
        match step:
            case Select(var, product, arguments, or_nothing):
                return iter([self._w.take(var, self._entry(product, arguments, or_nothing))])
            case SelectFails(product, arguments, failure, or_nothing):
                return self._w.refuses(self._entry(product, arguments, or_nothing), failure)
            case SelectNothing(product, arguments):
                return iter([f"EXPECT_EQ({self._entry(product, arguments, True)}, nullptr);"])
        return None

    def _entry(self, product: str, arguments: Arguments, or_nothing: bool) -> str:
        selection = self._plan.selection_of(product)
        assert selection is not None
        entry = "make_or_null" if or_nothing else "make"
        return f"{self._names.type(product)}::{entry}({self._code.selected(selection, self._w.renamed(arguments))})"

    # --- builders -----------------------------------------------------------------------------------------

    def _builders(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewBuilder(var, product, preset, like):
                return iter([self._new_builder(var, product, preset, like)])
            case BuilderSet(builder, field, value):
                owner = self._scope.owner(builder)
                return iter([f"{self._w.var(builder)}.{self._set(owner, field, value)};"])
            case BuilderAdd(builder, field, value):
                return iter([self._add(builder, field, value)])
            case Build(var, builder):
                return iter([self._w.take(var, f"{self._w.var(builder)}.build()")])
            case BuildFails(builder, failure):
                return self._w.refuses(f"{self._w.var(builder)}.build()", failure)
            case BuildChained(var, product, arguments):
                calls = "".join(f".{self._set(product, name, value)}" for name, value in arguments.items())
                return iter(
                    [self._w.take(var, f"{self._names.derived(product, 'Builder')}(){calls}.build()")]
                )
        return None

    def _builder(self, product: str) -> Builder:
        builder = self._plan.builder_of(product)
        assert builder is not None
        return builder

    def _new_builder(self, var: str, product: str, preset: str | None, like: str | None) -> str:
        made = self._names.derived(product, "Builder")
        if preset is None and like is None:
            return f"{made} {self._w.var(var)};"
        entry = f"{self._builder_names(product).preset(preset)}()" if preset is not None else ""
        if like is not None:
            entry = f"like({self._w.reference(like)})"
        return f"auto {self._w.var(var)} = {made}::{entry};"

    def _builder_names(self, product: str) -> BuilderNames:
        return BuilderNames(self._plan.products[product], self._builder(product))

    def _set(self, owner: str, field: str, value: Operand) -> str:
        declared = self._plan.products[owner].field(field)
        text = self._code.value(self._w.operand(value), declared.type, shared=self._code.shared(declared))
        return f"{self._builder_names(owner).setter(declared)}({text})"

    def _add(self, builder: str, field: str, value: Operand) -> str:
        owner = self._scope.owner(builder)
        declared = self._plan.products[owner].field(field)
        assert isinstance(declared.type, (ListOf, SetOf))
        text = self._code.value(
            self._w.operand(value), declared.type.element, shared=self._code.shared(declared)
        )
        return f"{self._w.var(builder)}.{self._builder_names(owner).adder(declared)}({text});"

    # --- prototypes ---------------------------------------------------------------------------------------

    def _prototypes(self, step: Step) -> Iterator[str] | None:
        match step:
            case Clone(var, original):
                return self._clone(var, original)
            case CloneEach(product, originals, clones):
                return self._clone_each(product, originals, clones)
            case Take(var, path):
                return self._take(var, path)
            case SameObject(left, right, _, same):
                return self._same(left, right, same)
        return None

    def _clone(self, var: str, original: str) -> Iterator[str]:
        """A clone of a variant is behind a pointer to its base; the test knows better."""
        product = self._scope.product_of(original)
        method = duplicating(self._emitter, product)
        call = f"{self._w.of(original)}{method}()" if method else self._w.reference(original)
        if product.base is not None:
            call = f"as<{self._names.type(product.name)}>(*{call})"
        yield f"{self._w.let(var)} = {call};"

    def _clone_each(self, product: str, originals: tuple[str, ...], clones: tuple[str, ...]) -> Iterator[str]:
        made = self._plan.products[product]
        names = ", ".join(self._w.var(name) for name in originals)
        type_ = self._code.type(ProductType(product))
        method = duplicating(self._emitter, made)
        listed = self._w.fresh("clones")
        call = f"each{'->' if made.abstract else '.'}{method}()" if method else "each"
        yield f"std::vector<{type_}> {listed};"
        yield f"for (const auto &each : std::vector<{type_}>{{{names}}}) {{"
        yield f"    {listed}.push_back({call});"
        yield "}"
        for number, clone in enumerate(clones):
            star = "*" if made.abstract else ""
            yield f"{self._w.let(clone, form='reference')} = {star}{listed}[{number}];"

    def _take(self, var: str, path: Path) -> Iterator[str]:
        field = self._scope.field(path)
        if self._w.is_changed(var):
            yield f"{self._w.let(var, form='reference')} = {self._w.inside(path)};"
            return
        text = self._w.accessor(path)
        shared = self._code.shared(field)
        inner = self._plan.product_in(field.type)
        if path.first == 0 and field.may_be_absent:
            text = f"*{text}"
            text = f"*{text}" if self._code.boxed(field) else text
        if not shared and inner is not None and inner.abstract and (path.first or field.may_be_absent):
            text = f"*{text}"
        yield f"{self._w.let(var, form='shared' if shared else 'reference')} = {text};"

    def _same(self, left: str, right: str, same: bool) -> Iterator[str]:
        """What is shared is compared by its address; what is owned has one of its own."""
        names = [self._w.var(left), self._w.var(right)]
        if not all(self._code.variables[name].form == "shared" for name in names):
            return
        yield f"EXPECT_{'EQ' if same else 'NE'}({names[0]}.pointer(), {names[1]}.pointer());"

    # --- exemplars ----------------------------------------------------------------------------------------

    def _exemplars(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewExemplars(var, product):
                constant = "" if self._w.is_changed(var) else "const "
                return iter([f"{constant}{self._names.derived(product, 'Exemplars')} {self._w.var(var)};"])
            case ExemplarAdd(store, name, product):
                return iter([f"{self._stored(store, name, product)};"])
            case ExemplarAddFails(store, name, product, failure):
                return self._w.refuses(self._stored(store, name, product), failure)
            case ExemplarGet(var, store, name):
                return iter([self._w.take(var, f"{self._w.var(store)}.get({text_literal(name)})")])
            case ExemplarGetFails(store, name, failure):
                return self._w.refuses(f"{self._w.var(store)}.get({text_literal(name)})", failure)
            case NamesAre(store, names):
                listed = ", ".join(text_literal(name) for name in names)
                return iter(
                    [f"EXPECT_EQ({self._w.var(store)}.names(), (std::vector<std::string>{{{listed}}}));"]
                )
        return None

    def _stored(self, store: str, name: str, product: str) -> str:
        return f"{self._w.var(store)}.add({text_literal(name)}, {self._w.reference(product)})"

    # --- families -----------------------------------------------------------------------------------------

    def _families(self, step: Step) -> Iterator[str] | None:
        match step:
            case FamilyOf(var, family, key):
                star = "*" if self._family(family).unknown == "nothing" else ""
                return iter([f"const auto &{self._w.var(var)} = {star}{self._lookup(family, key)};"])
            case FamilyFails(family, key, failure):
                call = f"&{self._lookup(family, key)}"
                return self._w.refuses(call, failure)
            case FamilyNothing(family, key):
                return iter([f"EXPECT_EQ({self._lookup(family, key)}, nullptr);"])
            case FamilyIs(var, family, member):
                type_ = member_type(self._emitter, self._family(family), member)
                return iter([f"EXPECT_TRUE(is_a<{type_}>({self._w.var(var)}));"])
            case NewStandIn(var, family):
                type_ = member_type(self._emitter, self._family(family), "StandIn")
                return iter([f"const {type_} {self._w.var(var)};"])
            case AskRole(var, family, role, arguments):
                return iter([self._w.take(var, self._asked(family, role, arguments))])
            case AskRoleFails(family, role, arguments, failure):
                return self._w.refuses(self._asked(family, role, arguments), failure)
            case AskRoles(family, role, names):
                return self._ask_roles(family, role, names)
            case Narrow(var, original, product):
                self._code.variables[self._w.var(var)] = Held(ProductType(product), "reference")
                narrowed = f"as<{self._names.type(product)}>({self._w.reference(original)})"
                return iter([f"const auto {self._w.var(var)} = {narrowed};"])
            case AskedAre(stand_in, roles):
                listed = ", ".join(text_literal(role) for role in roles)
                return iter(
                    [f"EXPECT_EQ({self._w.var(stand_in)}.asked(), (std::vector<std::string>{{{listed}}}));"]
                )
            case ClientGets(family, name, products):
                from urform.languages.cpp.proof import client_name

                listed = ", ".join(f'"{product}"' for product in products)
                got = f"{client_name(name)}({self._w.var(family)})"
                return iter([f"EXPECT_EQ({got}, (std::vector<std::string>{{{listed}}}));"])
        return None

    def _family(self, name: str) -> Family:
        return next(family for family in self._plan.families if family.name == name)

    def _lookup(self, family: str, key: str) -> str:
        entry = "find" if self._family(family).unknown == "nothing" else "of"
        return f"{self._names.type(family)}::{entry}({text_literal(key)})"

    def _asked(self, family: str, role: str, arguments: Arguments) -> str:
        product = self._plan.products[self._scope.role(family, role).product]
        given = self._code.all_arguments(product, self._w.renamed(arguments))
        return f"{self._w.var(family)}.{role_name(role)}({given})"

    def _ask_roles(self, family: str, role: str, names: tuple[str, ...]) -> Iterator[str]:
        call = f"{self._w.var(family)}.{role_name(role)}()"
        if set(names) <= self._w.unused:
            yield from self._w.counted(call, len(names))
            return
        listed = self._w.fresh(f"all_{role}")
        yield f"const auto {listed} = {call};"
        yield from self._w.counted(listed, len(names))
        product = self._plan.products[self._scope.role(family, role).product]
        for number, name in enumerate(names):
            yield f"{self._w.let(name, form='reference')} = {'*' if product.abstract else ''}{listed}.at({number});"
