"""The steps over builders, prototypes, families and factories by values, as Rust tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import ListOf, ProductType, SetOf
from urform.languages.rust.builders import BuilderNames, build_fails
from urform.languages.rust.copies import duplicating
from urform.languages.rust.expressions import text_literal
from urform.languages.rust.factories import function_of
from urform.languages.rust.families import lookup_name, member_type, role_fails, role_name
from urform.languages.rust.pool_proof import PoolWriter
from urform.languages.rust.testing import Held
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
from urform.plan.model import Builder, Family, Selection
from urform.plan.operands import Arguments, Operand, Path
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.rust.writer import Writer


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
                call, fails = self._entry(product, arguments)
                end = f".ok(){self._w.there}" if or_nothing and fails else self._w.good if fails else ""
                return iter([self._w.take(var, f"{call}{end}")])
            case SelectFails(product, arguments, failure):
                return self._w.refuses(self._entry(product, arguments)[0], failure)
            case SelectNothing(product, arguments):
                return iter([f"nothing({self._entry(product, arguments)[0]}.ok());"])
        return None

    def _selection(self, product: str) -> Selection:
        selection = self._plan.selection_of(product)
        assert selection is not None
        return selection

    def _entry(self, product: str, arguments: Arguments) -> tuple[str, bool]:
        selection = self._selection(product)
        given = self._code.selected(selection, self._w.renamed(arguments))
        return f"{function_of(self._plan.products[product])}({given})", self._code.selection_fails(selection)

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
                end = self._w.good if self._fails(self._scope.owner(builder)) else ""
                return iter([self._w.take(var, f"{self._w.var(builder)}.build(){end}")])
            case BuildFails(builder, failure):
                return self._w.refuses(f"{self._w.var(builder)}.build()", failure)
            case BuildChained(var, product, arguments):
                return self._chained(var, product, arguments)
        return None

    def _fails(self, product: str) -> bool:
        return build_fails(self._emitter, self._plan.products[product])

    def _builder(self, product: str) -> Builder:
        builder = self._plan.builder_of(product)
        assert builder is not None
        return builder

    def _new_builder(self, var: str, product: str, preset: str | None, like: str | None) -> str:
        made = self._names.derived(product, "Builder")
        entry = f"{self._builder_names(product).preset(preset)}()" if preset is not None else "new()"
        if like is not None:
            entry = f"like({self._w.reference(like)})"
        mutable = "mut " if self._w.is_changed(var) or self._builder(product).resets else ""
        unused = "_" if var in self._w.unused else ""  # another one beside it, of which nothing is asked
        return f"let {mutable}{unused}{self._w.var(var)} = {made}::{entry};"

    def _builder_names(self, product: str) -> BuilderNames:
        return BuilderNames(self._plan.products[product], self._builder(product))

    def _set(self, owner: str, field: str, value: Operand) -> str:
        declared = self._plan.products[owner].field(field)
        text = self._code.argument(self._w.operand(value), declared.type, shared=self._code.shared(declared))
        return f"{self._builder_names(owner).setter(declared)}({text})"

    def _add(self, builder: str, field: str, value: Operand) -> str:
        owner = self._scope.owner(builder)
        declared = self._plan.products[owner].field(field)
        assert isinstance(declared.type, (ListOf, SetOf))
        shared = self._code.shared(declared)
        text = self._code.argument(self._w.operand(value), declared.type.element, shared=shared)
        return f"{self._w.var(builder)}.{self._builder_names(owner).adder(declared)}({text});"

    def _chained(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        """One expression: a builder that is made in it lives until its end."""
        calls = "".join(f".{self._set(product, name, value)}" for name, value in arguments.items())
        end = self._w.good if self._fails(product) else ""
        builder = self._names.derived(product, "Builder")
        yield self._w.take(var, f"{builder}::new(){calls}.build(){end}")

    # --- prototypes ---------------------------------------------------------------------------------------

    def _prototypes(self, step: Step) -> Iterator[str] | None:
        match step:
            case Clone(var, original):
                return iter([f"{self._w.let(var)} = {self.cloned(original)};"])
            case CloneEach(product, originals, clones):
                return self._clone_each(product, originals, clones)
            case Take(var, path):
                return self._take(var, path)
            case SameObject(left, right, _, same):
                return self._same(left, right, same)
        return None

    def cloned(self, original: str) -> str:
        """A clone of what a variable holds."""
        product = self._scope.product_of(original)
        name = self._w.var(original)
        method = duplicating(self._emitter, product)
        return f"{name}.{method}()" if method != "clone" else self._code.copy_of(name)

    def _clone_each(self, product: str, originals: tuple[str, ...], clones: tuple[str, ...]) -> Iterator[str]:
        names = ", ".join(f"&{self._w.var(name)}" for name in originals)
        method = duplicating(self._emitter, self._plan.products[product])
        listed = self._w.fresh("clones")
        yield f"let mut {listed} = Vec::new();"
        yield f"for each in [{names}] {{"
        yield f"    {listed}.push(each.{method}());"
        yield "}"
        is_open = self._code.is_open(self._plan.products[product])
        for number, clone in enumerate(clones):
            end = f"{listed}[{number}].as_ref()" if is_open else f"&{listed}[{number}]"
            yield f"{self._w.let(clone, form='reference')} = {end};"

    def _take(self, var: str, path: Path) -> Iterator[str]:
        field = self._scope.field(path)
        if self._w.is_changed(var):
            yield f"{self._w.let(var, form='reference')} = {self._w.inside(path)};"
            return
        shared = self._code.shared(field)
        text = self._w.accessor(path)
        if path.first == 0:
            text = f"{text}{self._w.there}" if field.may_be_absent else text
        else:
            open_ = self._plan.product_in(field.type)
            boxed = open_ is not None and self._code.is_open(open_) and not shared
            text = f"{text}.as_ref()" if boxed else text if text.endswith(")") else f"&{text}"
        yield f"{self._w.let(var, form='arc reference' if shared else 'reference')} = {text};"

    def _same(self, left: str, right: str, same: bool) -> Iterator[str]:
        """What is shared is compared by its address; what is owned has one of its own."""
        names = [self._w.var(left), self._w.var(right)]
        held = [self._code.variables[name] for name in names]
        if not all(each.form.startswith("arc") for each in held):
            return
        handed = [n if each.form == "arc reference" else f"&{n}" for n, each in zip(names, held, strict=True)]
        yield f'is("the same object", &Arc::ptr_eq({", ".join(handed)}), &{"true" if same else "false"});'

    # --- exemplars ----------------------------------------------------------------------------------------

    def _exemplars(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewExemplars(var, product):
                mutable = "mut " if self._w.is_changed(var) else ""
                return iter(
                    [f"let {mutable}{self._w.var(var)} = {self._names.derived(product, 'Exemplars')}::new();"]
                )
            case ExemplarAdd(store, name, product):
                return iter([f"{self._stored(store, name, product)}{self._w.good};"])
            case ExemplarAddFails(store, name, product, failure):
                return self._w.refuses(self._stored(store, name, product), failure)
            case ExemplarGet(var, store, name):
                got = f"{self._w.var(store)}.get({text_literal(name)}){self._w.good}"
                return iter([self._w.take(var, got)])
            case ExemplarGetFails(store, name, failure):
                return self._w.refuses(f"{self._w.var(store)}.get({text_literal(name)})", failure)
            case NamesAre(store, names):
                listed = ", ".join(text_literal(name) for name in names)
                return iter([f'is("names", {self._w.var(store)}.names().as_slice(), &[{listed}]);'])
        return None

    def _stored(self, store: str, name: str, product: str) -> str:
        owner = self._plan.products[self._scope.owner(store)]
        given = self._w.reference(product)
        held = self._scope.product_of(product)
        if owner.abstract and not held.abstract and not self._code.is_open(owner):
            kind = f"{self._names.type(owner.name)}::{self._names.type(held.name)}"
            given = f"&{kind}({self._code.copy_of(self._w.var(product))})"
        return f"{self._w.var(store)}.add({text_literal(name)}, {given})"

    # --- families -----------------------------------------------------------------------------------------

    def _families(self, step: Step) -> Iterator[str] | None:
        match step:
            case FamilyOf(var, family, key):
                taken = {"error": self._w.good, "nothing": self._w.there}
                end = taken.get(self._family(family).unknown, "")
                call = f"{lookup_name(family)}({text_literal(key)}){end}"
                return iter([f"let {self._w.var(var)} = {call};"])
            case FamilyFails(family, key, failure):
                return self._w.refuses(f"{lookup_name(family)}({text_literal(key)})", failure)
            case FamilyNothing(family, key):
                return iter([f"nothing({lookup_name(family)}({text_literal(key)}));"])
            case FamilyIs(var, family, member):
                type_ = member_type(self._emitter, self._family(family), member)
                return iter([f'is("member", kind_of({self._w.var(var)}).as_str(), "{type_}");'])
            case NewStandIn(var, family):
                type_ = member_type(self._emitter, self._family(family), "StandIn")
                return iter([f"let {self._w.var(var)} = {type_}::default();"])
            case AskRole(var, family, role, arguments):
                fails = role_fails(self._emitter, self._scope.family(family), self._scope.role(family, role))
                end = self._w.good if fails else ""
                return iter([self._w.take(var, f"{self._asked(family, role, arguments)}{end}")])
            case AskRoleFails(family, role, arguments, failure):
                return self._w.refuses(self._asked(family, role, arguments), failure)
            case AskRoles(family, role, names):
                return self._ask_roles(family, role, names)
            case Narrow(var, original, product):
                return self._narrow(var, original, product)
            case AskedAre(stand_in, roles):
                listed = ", ".join(text_literal(role) for role in roles)
                return iter([f'is("asked", {self._w.var(stand_in)}.asked().as_slice(), &[{listed}]);'])
            case ClientGets(family, name, products):
                return self._client(family, name, products)
        return None

    def _family(self, name: str) -> Family:
        return next(family for family in self._plan.families if family.name == name)

    def _asked(self, family: str, role: str, arguments: Arguments) -> str:
        product = self._plan.products[self._scope.role(family, role).product]
        given = self._code.arguments(product, self._w.renamed(arguments))
        return f"{self._w.var(family)}.{role_name(role)}({given})"

    def _ask_roles(self, family: str, role: str, names: tuple[str, ...]) -> Iterator[str]:
        call = f"{self._w.var(family)}.{role_name(role)}()"
        if set(names) <= self._w.unused:
            yield from self._w.counted(role, call, len(names))
            return
        listed = self._w.fresh(f"all_{role}")
        yield f"let {listed} = {call};"
        yield from self._w.counted(role, listed, len(names))
        product = self._plan.products[self._scope.role(family, role).product]
        for number, name in enumerate(names):
            end = f"{listed}[{number}].as_ref()" if self._code.is_open(product) else f"&{listed}[{number}]"
            yield f"{self._w.let(name, form='reference')} = {end};"

    def _narrow(self, var: str, original: str, product: str) -> Iterator[str]:
        base = self._scope.product_of(original)
        name = self._w.var(original)
        self._code.variables[self._w.var(var)] = Held(ProductType(product), "reference")
        is_reference = self._code.variables[name].form == "reference"
        if base.name == product:
            yield f"let {self._w.var(var)} = {self._w.reference(original)};"
            return
        lines = list(self._w.narrowed(self._w.var(var), name, base, product, owned=is_reference))
        yield from (line.replace(".clone();", ";") for line in lines)

    def _client(self, family: str, name: str, products: tuple[str, ...]) -> Iterator[str]:
        from urform.languages.rust.proof import client_name

        listed = ", ".join(f'"{self._names.type(product)}".to_owned()' for product in products)
        given = self._w.var(family)
        handed = given if not self._is_stand_in(family) else f"&{given}"
        yield f'is("types", {client_name(name)}({handed}).as_slice(), &[{listed}]);'

    def _is_stand_in(self, family: str) -> bool:
        return self._w.is_stand_in(family)
