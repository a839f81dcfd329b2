"""The steps of claims over products and factories by key, as JUnit tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import Collection, ListOf, MapOf, SetOf, Type
from urform.declaration.values import Boolean, Value
from urform.languages.java.expressions import OPTIONALS, PRIMITIVES, text_literal
from urform.languages.java.making_proof import MakingWriter, camelled
from urform.languages.naming.names import camel, pascal
from urform.languages.naming.scope import Scope
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
    ChangeHeld,
    ChangeInHeld,
    ChangeOut,
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
    OneInstance,
    Register,
    RegisterFails,
    Set,
    SetFails,
    Unequal,
    Unregister,
)

ASSERTIONS = tuple(
    "assertEquals assertFalse assertNotEquals assertNotSame assertNull assertSame assertThrows assertTrue".split()
)
SHARED = tuple(
    "attempt duplicateKey missing outOfLimit refused together unknownKey until withNull within".split()
)

if TYPE_CHECKING:
    from urform.languages.java.proof import Proof


class Writer:
    """Writes the steps of one test."""

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self._proof = proof
        self.plan = proof.plan
        self.code = proof.code
        self.names = proof.names
        self.scope = scope

        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._makings = MakingWriter(self)

    def var(self, name: str) -> str:
        """The name of a variable in the test."""
        return camel(self.scope.name(name))

    def operand(self, operand: Operand) -> str:
        """What is handed in, as code."""
        return self.code.operand(camelled(self.scope.renamed(operand)))

    def renamed(self, arguments: Arguments) -> dict[str, Operand]:
        """Arguments with the names that variables have in the test."""
        return {name: camelled(self.scope.renamed(value)) for name, value in arguments.items()}

    def counted(self, listed: str, size: int) -> Iterator[str]:
        """A list has just that many elements."""
        yield f"assertEquals({size}, {listed}.size());"

    def keep(self, type_: str, var: str, call: str) -> Iterator[str]:
        """Keep what a call gives, if anything uses it."""
        yield f"{call};" if var in self.unused else f"{type_} {self.var(var)} = {call};"

    def _make(self, product: str, arguments: Arguments) -> str:
        return self.code.make(product, self.renamed(arguments))

    def path(self, path: Path) -> str:
        text = f"{self.var(path.var)}.{self.names.member(path.field)}()"
        field = self.scope.field(Path(path.var, path.field))
        if field.may_be_absent and (path.first or path.inner):
            text += ".orElseThrow()"
        type_ = field.type
        for _ in range(path.first):
            text = self._first(type_, text)
            type_ = type_.element if isinstance(type_, Collection) else type_
        return f"{text}.{self.names.member(path.inner)}()" if path.inner else text

    def _set(self, path: Path, value: Operand) -> str:
        holder = self.var(path.var)
        name = path.field
        if path.inner is not None:
            holder, name = self.path(Path(path.var, path.field, path.first)), path.inner
        return f"{holder}.{self.names.setter(name)}({self.operand(value)})"

    def _first(self, type_: Type, text: str) -> str:
        return f"{text}.values().iterator().next()" if isinstance(type_, MapOf) else f"{text}.get(0)"

    def refused(self, failure: Failure, code: str) -> str:
        match failure:
            case Missing(owner, fields):
                names = ", ".join(text_literal(name) for name in fields)
                return f'missing("{owner}", List.of({names}), () -> {code});'
            case OutOfLimit(owner, field, limit, bound):
                return f'outOfLimit("{owner}", "{field}", "{limit}", {self.code.bound(bound)}, () -> {code});'
            case UnknownKey(owner, key, known):
                keys = ", ".join(text_literal(name) for name in known)
                return f'unknownKey("{owner}", {text_literal(key)}, List.of({keys}), () -> {code});'
            case DuplicateKey(owner, key):
                return f'duplicateKey("{owner}", {text_literal(key)}, () -> {code});'
            case Refused(owner, reason):
                return f'refused("{owner}", {text_literal(reason)}, () -> {code});'

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                made = self._make(product, arguments)
                hidden = self.plan.selected_by(self.plan.products[product]) is not None
                cast = f"({self.names.type(product)}) " if hidden else ""
                yield f"{self.names.type(product)} {self.var(var)} = {cast}{made};"
            case MakeFails(product, arguments, failure):
                yield self.refused(failure, self._make(product, arguments))
            case Hold(var, type_, value):
                yield f"{self.code.plain(type_)} {self.var(var)} = {self._own(type_, self.operand(value))};"
            case ChangeHeld(var):
                yield f"{self.var(var)}.clear();"
            case ChangeInHeld(var, field, value):
                type_ = self.scope.type_of(var)
                text = self._first(type_, self.var(var)) if isinstance(type_, Collection) else self.var(var)
                yield f"{text}.{self.names.setter(field)}({self.operand(value)});"
            case ChangeOut(path):
                yield f"attempt(() -> {self.path(path)}.clear());"
            case Set(path, value):
                yield f"{self._set(path, value)};"
            case SetFails(path, value, failure):
                yield self.refused(failure, self._set(path, value))
            case Clear(path):
                primitive = self.scope.field(path).type in PRIMITIVES
                name = pascal(path.field)
                yield f"{self.var(path.var)}.{f'clear{name}()' if primitive else f'set{name}(null)'};"
            case FieldIs(path, value):
                yield self._is(
                    self.path(path),
                    self.scope.field(path).type,
                    value,
                    self.scope.field(path).may_be_absent,
                )
            case FieldAbsent(path):
                yield f"assertTrue({self.path(path)}.isEmpty());"
            case _:
                yield from self._more(step)

    def _more(self, step: Step) -> Iterator[str]:
        match step:
            case Equal(left, right, hashes):
                yield f"assertEquals({self.var(left)}, {self.var(right)});"
                if hashes:
                    yield f"assertEquals({self.var(left)}.hashCode(), {self.var(right)}.hashCode());"
            case Unequal(left, right, _):
                yield f"assertNotEquals({self.var(left)}, {self.var(right)});"
            case KindIs(var, product):
                key = self.plan.product(product).key
                yield f"assertEquals({self.names.type(product)}.class, {self.var(var)}.getClass());"
                if key is not None:
                    yield f"assertEquals({text_literal(key)}, {self.var(var)}.key());"
            case Answers(var, operation, arguments, value):
                handed = ", ".join(self.operand(argument) for argument in arguments)
                returns = self._returns(var, operation)
                yield self._is(f"{self.var(var)}.{self.names.member(operation)}({handed})", returns, value)
            case OneInstance(product, threads, arguments):
                type_ = self.names.type(product)
                selection = self.plan.selected_by(self.plan.products[product])
                made = self._make(product, arguments)
                ask = f"{type_}::instance" if selection is None else f"() -> {made}"
                type_ = type_ if selection is None else self.names.type(selection.product)
                yield f"{type_} one = {made};"
                yield f"for ({type_} got : together({threads}, {ask})) {{"
                yield "    assertSame(one, got);"
                yield "}"
            case NewRegistry(var, factory):
                registry = f"{self.names.type(factory)}Registry"
                yield f"{registry} {self.var(var)} = new {registry}();"
            case Register(registry, key, variant):
                yield f"{self._register(registry, key, variant)};"
            case RegisterFails(registry, key, variant, failure):
                yield self.refused(failure, self._register(registry, key, variant))
            case Unregister(registry, key, found):
                assertion = "assertTrue" if found else "assertFalse"
                yield f"{assertion}({self.var(registry)}.unregister({text_literal(key)}));"
            case KeysAre(registry, keys):
                names = ", ".join(text_literal(key) for key in keys)
                yield f"assertEquals(List.of({names}), {self.var(registry)}.keys());"
            case Ask(var, factory, key, arguments, registry):
                asked = self._asked(factory, key, arguments, registry)
                yield f"{self.names.type(factory)} {self.var(var)} = {asked};"
            case AskFails(factory, key, arguments, failure, registry):
                yield self.refused(failure, self._asked(factory, key, arguments, registry))
            case AskGivesNothing(factory, key, arguments, registry):
                yield f"assertTrue({self._asked(factory, key, arguments, registry, whole=False)}.isEmpty());"
            case _:
                yield from self._makings.step(step)

    def _returns(self, var: str, operation: str) -> Type:
        return self.scope.product_of(var).operation(operation).returns

    def _register(self, registry: str, key: str, variant: str) -> str:
        made = "instance" if self.plan.products[variant].single else "new"
        return f"{self.var(registry)}.register({text_literal(key)}, {self.names.type(variant)}::{made})"

    def _own(self, type_: Type, value: str) -> str:
        match type_:
            case ListOf():
                return f"new ArrayList<>({value})"
            case SetOf():
                return f"new LinkedHashSet<>({value})"
            case MapOf():
                return f"new HashMap<>({value})"
        return value

    def _is(self, got: str, type_: Type, value: Operand | Value, may_be_absent: bool = False) -> str:
        if isinstance(value, Boolean) and not may_be_absent:
            return f"{'assertTrue' if value.flag else 'assertFalse'}({got});"
        expected = self.operand(value)
        if may_be_absent:
            expected = f"{OPTIONALS.get(type_, 'Optional')}.of({expected})"
        return f"assertEquals({expected}, {got});"

    def _asked(
        self, product: str, key: str, arguments: Arguments, registry: str | None, *, whole: bool = True
    ) -> str:
        """The expression that asks a factory; `whole` takes what it gives out of an Optional."""
        factory = self.plan.factory_of(product)
        assert factory is not None
        made = self.plan.products[product]
        renamed = self.renamed(arguments)
        given = [self.code.operand(renamed[field.name]) for field in made.required]
        if made.optional:
            given.append(self.code.options(product, renamed) or f"new {self.names.type(product)}.Options()")
        asked = [text_literal(key), *given]
        unwrap = ".orElseThrow()" if factory.unknown == "nothing" and whole else ""
        if registry is not None:
            return f"{self.var(registry)}.make({', '.join(asked)}){unwrap}"
        type_ = self.names.type(product)
        if factory.form == "simple":
            return f"{type_}.of({', '.join(asked)}){unwrap}"
        create = f".create({', '.join(given)})" if whole else ""
        return f"{type_}Creator.of({text_literal(key)}){unwrap}{create}"
