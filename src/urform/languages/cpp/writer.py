"""The steps of claims over products and factories by key, as C++ tests."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from urform.declaration.types import REAL, Collection, MapOf, ProductType, Type
from urform.declaration.values import Real, Value
from urform.languages.cpp.expressions import text_literal
from urform.languages.cpp.factories import creator_of
from urform.languages.cpp.making_proof import MakingWriter
from urform.languages.cpp.members import bound_as_data
from urform.languages.cpp.names import KEYWORDS, MACROS, TEST_HELPERS
from urform.languages.cpp.testing import Held
from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, respelt
from urform.plan.making_steps import BuilderAdd, BuilderSet, ExemplarAdd, ExemplarAddFails, Take
from urform.plan.model import Factory
from urform.plan.operands import (
    Arguments,
    DuplicateKey,
    Failure,
    Missing,
    Operand,
    OutOfLimit,
    Path,
    Refused,
    UnknownKey,
)
from urform.plan.script import Step
from urform.plan.steps import (
    Answers,
    Ask,
    AskFails,
    AskGivesNothing,
    Clear,
    Equal,
    FieldAbsent,
    FieldIs,
    Hold,
    KeysAre,
    KindIs,
    Make,
    MakeFails,
    NewRegistry,
    Register,
    RegisterFails,
    Set,
    SetFails,
    Unequal,
    Unregister,
)

if TYPE_CHECKING:
    from urform.languages.cpp.proof import Proof

RESERVED = KEYWORDS | MACROS | TEST_HELPERS


class Writer:
    """Writes the steps of one test."""

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self.proof = proof
        self.plan = proof.plan
        self.code = proof.code
        self.names = proof.names
        self.emitter = proof.emitter
        self.scope = scope
        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._changed: frozenset[str] = frozenset()
        self._extra: dict[str, int] = {}
        self._makings = MakingWriter(self)

    def begin(self, steps: Sequence[Step]) -> None:
        """Note which variables of a case are changed."""
        self._changed = changed_in(steps)

    # --- variables ----------------------------------------------------------------------------------------

    def var(self, name: str) -> str:
        """The name of a variable in the test."""
        return snake(self.scope.name(name))

    def fresh(self, name: str) -> str:
        """The name of a variable that no step makes: a number tells it from the one before."""
        self._extra[name] = self._extra.get(name, 0) + 1
        return name if self._extra[name] == 1 else f"{name}{self._extra[name]}"

    def is_changed(self, var: str) -> bool:
        """Whether a later step changes what a variable holds."""
        return var in self._changed

    def let(self, var: str, *, form: str = "value", type_: Type | None = None) -> str:
        """The begin of a statement that makes a variable."""
        name = self.var(var)
        held = type_ or self.scope.type_of(var)
        self.code.variables[name] = Held(held, form)
        constant = "" if self.is_changed(var) else "const "
        product = self.plan.products.get(str(held))
        if form == "reference":
            return f"{constant}auto &{name}"
        if form == "value" and product is not None and product.abstract:
            return f"{constant}{self.code.type(held)} {name}"
        return f"{constant}auto {name}"

    def take(self, var: str, call: str, *, form: str = "value") -> str:
        """Take what a call gives, if anything uses it."""
        return (
            f"static_cast<void>({call});" if var in self.unused else f"{self.let(var, form=form)} = {call};"
        )

    def renamed(self, arguments: Arguments) -> dict[str, Operand]:
        """Arguments with the names that variables have in the test."""
        return {name: self.operand(value) for name, value in arguments.items()}

    def operand(self, operand: Operand) -> Operand:
        """An operand with the names that variables have in the test."""
        return respelt(self.scope.renamed(operand), snake)

    def reference(self, var: str) -> str:
        """What a variable holds, to be looked at."""
        return self.code.reference(self.var(var))

    def of(self, var: str) -> str:
        """A variable as what stands before the name of a member."""
        name = self.var(var)
        return f"{name}{'->' if self.code.is_pointer(name) else '.'}"

    # --- calls --------------------------------------------------------------------------------------------

    def make(self, product: str, arguments: Arguments) -> str:
        """The call of a constructor, or of what alone makes the product."""
        made = self.plan.products[product]
        selection = self.plan.selected_by(made)
        if selection is not None:
            return f"{self.names.type(selection.product)}::make({self.code.selected(selection, arguments)})"
        return f"{self.names.type(product)}({self.code.arguments(made, arguments)})"

    def _make(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        call = self.make(product, arguments)
        if self.plan.selected_by(self.plan.products[product]) is None:
            yield self.take(var, call)
            return
        selected = self.fresh("selected")
        yield f"const auto {selected} = {call};"
        yield f"{self.let(var, form='reference')} = as<{self.names.type(product)}>(*{selected});"

    def accessor(self, path: Path) -> str:
        """The call of an accessor, and of what gives the first element of what it gives."""
        product = self.scope.product_of(path.var)
        text = f"{self.of(path.var)}{self.emitter.method(product, path.field)}()"
        type_ = self.scope.field(Path(path.var, path.field)).type
        for _ in range(path.first):
            text = f"{text}.begin()->second" if isinstance(type_, MapOf) else f"{text}.front()"
            type_ = type_.element if isinstance(type_, Collection) else type_
        return text

    def inside(self, path: Path) -> str:
        """The product that a path leads to, to be changed."""
        field = self.scope.field(Path(path.var, path.field))
        text = f"{self.of(path.var)}mutable_{path.field}()"
        if isinstance(field.type, Collection):
            return f"*{text}.front()"
        return f"*{text}" if field.may_be_absent else text

    def _set(self, path: Path, value: Operand) -> str:
        field = self.scope.field(path)
        holder = self.of(path.var)
        if path.inner is not None:
            inside = self.inside(Path(path.var, path.field, path.first))
            holder = f"{inside[1:]}->" if inside.startswith("*") else f"{inside}."
        text = self.code.value(self.operand(value), field.type, shared=self.code.shared(field))
        return f"{holder}set_{field.name}({text})"

    # --- failures -----------------------------------------------------------------------------------------

    def failure(self, failure: Failure) -> str:
        """The expected error."""
        match failure:
            case Missing(owner, fields):
                return f'missing("{owner}", {listed(fields)})'
            case OutOfLimit(owner, field, limit, bound):
                data = bound_as_data(bound)
                return f'limit("{owner}", "{field}", "{limit}"{f", {data}" if data else ""})'
            case UnknownKey(owner, key, known):
                return f'unknown("{owner}", {text_literal(key)}, {listed(known)})'
            case Refused(owner, reason):
                return f'refused("{owner}", {text_literal(reason)})'
            case DuplicateKey(owner, key):
                return f'taken("{owner}", {text_literal(key)})'

    def refuses(self, call: str, failure: Failure) -> Iterator[str]:
        """What becomes of a call that fails."""
        yield f"EXPECT_EQ(refusal([&] {{ return {call}; }}), {self.failure(failure)});"

    # --- steps --------------------------------------------------------------------------------------------

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                yield from self._make(var, product, self.renamed(arguments))
            case MakeFails(product, arguments, failure):
                yield from self.refuses(self.make(product, self.renamed(arguments)), failure)
            case Hold(var, type_, value):
                text = self.code.value(self.operand(value), type_)
                yield f"{self.let(var)} = {text};"
            case Set(path, value):
                yield f"{self._set(path, value)};"
            case SetFails(path, value, failure):
                yield from self.refuses(self._set(path, value), failure)
            case Clear(path):
                yield f"{self.of(path.var)}set_{path.field}({{}});"
            case FieldIs(path, value):
                yield from self._field_is(path, self.operand(value))
            case FieldAbsent(path):
                yield f"EXPECT_FALSE({self.accessor(path)}.has_value());"
            case _:
                yield from self._more(step)

    def _field_is(self, path: Path, value: Operand) -> Iterator[str]:
        field = self.scope.field(path)
        got = self.accessor(path)
        yield f"EXPECT_EQ({got}, {self.code.wanted(value, field)});"
        yield from _sign(field.type, f"*{got}" if field.may_be_absent else got, value)

    def _more(self, step: Step) -> Iterator[str]:
        match step:
            case Equal(left, right):
                yield f"EXPECT_EQ({self.reference(left)}, {self.reference(right)});"
            case Unequal(left, right, differing):
                told = text_literal(f"equal in spite of {differing}")
                yield f"EXPECT_NE({self.reference(left)}, {self.reference(right)}) << {told};"
            case KindIs(var, product):
                yield f"EXPECT_TRUE(is_a<{self.names.type(product)}>({self.reference(var)}));"
                key = self.plan.product(product).key
                if key is not None:
                    yield f"EXPECT_EQ({self.of(var)}key(), {text_literal(key)});"
            case Answers(var, operation, arguments, value):
                yield from self._answers(var, operation, arguments, value)
            case NewRegistry(var, factory):
                constant = "" if self.is_changed(var) else "const "
                yield f"{constant}{self.names.derived(factory, 'Registry')} {self.var(var)};"
            case Register(registry, key, variant):
                yield f"{self._register(registry, key, variant)};"
            case RegisterFails(registry, key, variant, failure):
                yield from self.refuses(self._register(registry, key, variant), failure)
            case Unregister(registry, key, found):
                call = f"{self.var(registry)}.remove({text_literal(key)})"
                yield f"EXPECT_{'TRUE' if found else 'FALSE'}({call});"
            case KeysAre(registry, keys):
                yield f"EXPECT_EQ({self.var(registry)}.keys(), {texts(keys)});"
            case Ask(var, factory, key, arguments, registry):
                yield self.take(var, self._ask(factory, key, self.renamed(arguments), registry))
            case AskFails(factory, key, arguments, failure, registry):
                call = self._ask(factory, key, self.renamed(arguments), registry, failure)
                yield from self.refuses(call, failure)
            case AskGivesNothing(factory, key, arguments, registry):
                call = self._ask(factory, key, self.renamed(arguments), registry, lookup=True)
                yield f"EXPECT_EQ({call}, nullptr);"
            case _:
                yield from self._makings.step(step)

    def counted(self, listed: str, size: int) -> Iterator[str]:
        """A role gives just that many."""
        yield f"EXPECT_EQ({listed}.size(), {size}U);"

    def _answers(
        self, var: str, operation: str, arguments: tuple[Operand, ...], value: Value
    ) -> Iterator[str]:
        product = self.scope.product_of(var)
        declared = product.operation(operation)
        handed = [
            self._handed(self.operand(given), parameter.type)
            for given, parameter in zip(arguments, declared.takes, strict=True)
        ]
        call = f"{self.of(var)}{self.emitter.method(product, operation)}({', '.join(handed)})"
        type_ = declared.returns
        inner = self.plan.products.get(str(type_))
        call = f"*{call}" if inner is not None and inner.abstract else call
        yield f"EXPECT_EQ({call}, {self.code.expected(value, type_)});"
        yield from _sign(type_, call, value)

    def _handed(self, operand: Operand, type_: Type) -> str:
        """What an operation is handed: a reference to a product, else a value."""
        if isinstance(type_, ProductType):
            return self.code.expected(operand, type_)
        return self.code.value(operand, type_)

    # --- factories ------------------------------------------------------------------------------------------

    def _register(self, registry: str, key: str, variant: str) -> str:
        """Registers a function that makes a variant, as a plug-in would write it."""
        base = self.plan.products[self.plan.products[variant].base or ""]
        return f"{self.var(registry)}.add({text_literal(key)}, {creator_of(self.emitter, base, variant)})"

    def _factory(self, product: str) -> Factory:
        factory = self.plan.factory_of(product)
        assert factory is not None
        return factory

    def _ask(
        self,
        product: str,
        key: str,
        arguments: Arguments,
        registry: str | None,
        failure: Failure | None = None,
        *,
        lookup: bool = False,
    ) -> str:
        """The call that makes by key."""
        factory = self._factory(product)
        base = self.plan.products[product]
        given = self.code.arguments(base, arguments)
        more = f", {given}" if given else ""
        if registry is not None:
            return f"{self.var(registry)}.make({text_literal(key)}{more})"
        if factory.form != "creators":
            return f"{self.names.type(product)}::make({text_literal(key)}{more})"
        creator = f"{self.names.type(product)}::creator({text_literal(key)})"
        if lookup or isinstance(failure, UnknownKey):
            return creator
        return f"{creator}({self.code.all_arguments(base, arguments)})"


def _sign(type_: Type, got: str, value: Operand | Value) -> Iterator[str]:
    if type_ == REAL and isinstance(value, Real) and value.number == 0:
        yield f"EXPECT_FALSE(std::signbit({got}));"


def listed(names: Sequence[str]) -> str:
    """Texts in braces."""
    return f"{{{', '.join(text_literal(name) for name in names)}}}"


def texts(names: Sequence[str]) -> str:
    """A list of texts, to compare with."""
    return f"(std::vector<std::string>{listed(names)})"


def changed_in(steps: Sequence[object]) -> frozenset[str]:
    """The variables of a case of which something is changed: their own fields, or what they hold."""
    found: set[str] = set()
    for step in reversed(steps):
        match step:
            case Set(path) | SetFails(path) | Clear(path):
                found.add(path.var)
            case Register(registry) | RegisterFails(registry) | Unregister(registry):
                found.add(registry)
            case BuilderSet(builder) | BuilderAdd(builder):
                found.add(builder)
            case ExemplarAdd(store) | ExemplarAddFails(store):
                found.add(store)
            case Take(var, path) if var in found:
                found.add(path.var)
    return frozenset(found)
