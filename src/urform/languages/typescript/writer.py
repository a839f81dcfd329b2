"""The steps of claims over products and factories by key, as tests of node:test."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import Collection, ListOf, MapOf, Type
from urform.languages.naming.names import camel
from urform.languages.naming.scope import Scope, respelt
from urform.languages.typescript.expressions import text_literal
from urform.languages.typescript.factories import maker_of
from urform.languages.typescript.making_proof import MakingWriter
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
    Assign,
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

if TYPE_CHECKING:
    from urform.languages.typescript.proof import Proof


class Writer:
    """Writes the steps of one test."""

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self.proof = proof
        self.plan = proof.plan
        self.code = proof.code
        self.names = proof.names
        self.scope = scope
        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._makings = MakingWriter(self)

    def var(self, name: str) -> str:
        """The name of a variable in the test."""
        return camel(self.scope.name(name))

    def local(self, name: str) -> str:
        """A variable that no step names; one that would hide an import is called otherwise."""
        return f"the{name[:1].upper()}{name[1:]}" if name in self.proof.emitter.exports else name

    def operand(self, operand: Operand) -> str:
        """What is handed in, as code."""
        return self.code.operand(respelt(self.scope.renamed(operand), camel))

    def arguments(self, arguments: Arguments) -> str:
        """Fields as one object, nothing where there are none."""
        return self.code.fields({name: self.operand(value) for name, value in arguments.items()})

    def keep(self, var: str, call: str) -> Iterator[str]:
        """Keep what a call gives, if anything uses it."""
        yield f"{call};" if var in self.unused else f"const {self.var(var)} = {call};"

    def counted(self, got: str, size: int) -> Iterator[str]:
        """An array has just that many elements."""
        yield f"is({got}.length, {size});"

    def make(self, product: str, arguments: Arguments) -> str:
        """A call of the constructor, or of the factory that hides it."""
        return self.code.make(
            product, {n: respelt(self.scope.renamed(v), camel) for n, v in arguments.items()}
        )

    def is_hidden(self, product: str) -> bool:
        """Whether a class has no name outside its module but that of its type."""
        return self.plan.selected_by(self.plan.product(product)) is not None

    def class_of(self, product: str) -> str:
        """A class for comparisons; the name of a hidden one."""
        type_ = self.names.type(product)
        return text_literal(type_) if self.is_hidden(product) else type_

    def path(self, path: Path) -> str:
        text = f"{self.var(path.var)}.{self.names.member(path.field)}"
        field = self.scope.field(Path(path.var, path.field))
        if field.may_be_absent and (path.first or path.inner):
            text += "!"
        type_ = field.type
        for _ in range(path.first):
            text = first_of(type_, text)
            type_ = type_.element if isinstance(type_, Collection) else type_
        return f"{text}.{self.names.member(path.inner)}" if path.inner else text

    def failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'new MissingFieldsError("{owner}", {_texts(fields)})'
            case OutOfLimit(owner, field, limit, bound):
                more = f", {self.code.bound(bound)}" if bound is not None and bound is not True else ""
                return f'new LimitError("{owner}", "{field}", "{limit}"{more})'
            case UnknownKey(owner, key, known):
                return f'new UnknownKeyError("{owner}", {text_literal(key)}, {_texts(known)})'
            case DuplicateKey(owner, key):
                return f'new DuplicateKeyError("{owner}", {text_literal(key)})'
            case Refused(owner, reason):
                return f'new RefusedError("{owner}", {text_literal(reason)})'

    def refused(self, failure: Failure, code: str) -> Iterator[str]:
        """A call that fails."""
        yield f"refused({self.failure(failure)}, () => {code});"

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                cast = f" as {self.names.type(product)}" if self.is_hidden(product) else ""
                yield f"const {self.var(var)} = {self.make(product, arguments)}{cast};"
            case MakeFails(product, arguments, failure):
                yield from self.refused(failure, self.make(product, arguments))
            case Hold(var, type_, value):
                held = self.code.untold(type_, self.operand(value))
                yield f"const {self.var(var)}{self._annotation(type_)} = {held};"
            case ChangeHeld(var):
                emptied = isinstance(self.scope.type_of(var), ListOf)
                yield f"{self.var(var)}{'.length = 0' if emptied else '.clear()'};"
            case ChangeInHeld(var, field, value):
                type_ = self.scope.type_of(var)
                first = first_of(type_, self.var(var)) if isinstance(type_, Collection) else self.var(var)
                yield f"{first}.{self.names.member(field)} = {self.operand(value)};"
            case ChangeOut(path):
                yield f"tryToEmpty({self.path(path)});"
            case Assign(var, field, value):
                given = self.code.fields({field: self.operand(value)})
                yield f"fixed({self.var(var)}, {given});"
            case Set(path, value):
                yield f"{self.path(path)} = {self.operand(value)};"
            case SetFails(path, value, failure):
                yield from self.refused(failure, f"({self.path(path)} = {self.operand(value)})")
            case Clear(path):
                yield f"{self.path(path)} = undefined;"
            case FieldIs(path, value):
                yield f"is({self.path(path)}, {self.operand(value)});"
            case FieldAbsent(path):
                yield f"is({self.path(path)}, undefined);"
            case Equal(left, right):
                yield f"equal({self.var(left)}, {self.var(right)});"
            case Unequal(left, right):
                yield f"unequal({self.var(left)}, {self.var(right)});"
            case KindIs(var, product):
                yield from self._kind(var, product)
            case Answers(var, operation, arguments, answer):
                handed = ", ".join(self.operand(argument) for argument in arguments)
                yield f"is({self.var(var)}.{self.names.member(operation)}({handed}), {self.operand(answer)});"
            case OneInstance(product, _, arguments):
                made = self.make(product, arguments)
                yield f"sameObject({made}, {made});"
            case _:
                yield from self._factories(step)

    def _kind(self, var: str, product: str) -> Iterator[str]:
        key = self.plan.product(product).key
        yield f"kind({self.var(var)}, {self.class_of(product)});"
        if key is not None:
            yield f"is({self.var(var)}.key, {text_literal(key)});"

    def _annotation(self, type_: Type) -> str:
        product = self.plan.products.get(str(type_))
        if isinstance(type_, Collection) or (product is not None and product.abstract):
            return f": {self.code.mutable_type(type_)}"
        return ""

    # --- factories ------------------------------------------------------------------------------------

    def _factories(self, step: Step) -> Iterator[str]:
        match step:
            case NewRegistry(var, factory):
                yield f"const {self.var(var)} = new {self.names.stem(factory)}Registry();"
            case Register(registry, key, variant):
                yield f"{self._register(registry, key, variant)};"
            case RegisterFails(registry, key, variant, failure):
                yield from self.refused(failure, self._register(registry, key, variant))
            case Unregister(registry, key, found):
                call = f"{self.var(registry)}.unregister({text_literal(key)})"
                yield f"is({call}, {'true' if found else 'false'});"
            case KeysAre(registry, keys):
                yield f"is({self.var(registry)}.keys(), {_texts(keys)});"
            case Ask(var, factory, key, arguments, registry):
                yield from self.keep(var, self._asked(factory, key, arguments, registry))
            case AskFails(factory, key, arguments, failure, registry):
                yield from self.refused(failure, self._asked(factory, key, arguments, registry))
            case AskGivesNothing(factory, key, arguments, registry):
                yield f"is({self._asked(factory, key, arguments, registry, whole=False)}, undefined);"
            case _:
                yield from self._makings.step(step)

    def _register(self, registry: str, key: str, variant: str) -> str:
        base = self.plan.products[self.scope.owner(registry)]
        maker = maker_of(self.names, self.plan.products[variant], base.fields)
        return f"{self.var(registry)}.register({text_literal(key)}, {maker})"

    def _asked(
        self, product: str, key: str, arguments: Arguments, registry: str | None, *, whole: bool = True
    ) -> str:
        """The expression that asks a factory; `whole` takes it that something is given."""
        factory = self.plan.factory_of(product)
        assert factory is not None
        given = self.arguments(arguments)
        with_key = ", ".join(part for part in (text_literal(key), given) if part)
        unwrap = "!" if factory.unknown == "nothing" and whole else ""
        if registry is not None:
            return f"{self.var(registry)}.make({with_key}){unwrap}"
        if factory.form == "simple":
            return f"{self.names.function(product)}({with_key}){unwrap}"
        create = f".create({given})" if whole else ""
        return f"{self.names.function(f'{product}_creator')}({text_literal(key)}){unwrap}{create}"


def first_of(type_: Type, text: str) -> str:
    """The first element of a collection, which is there."""
    return f"[...{text}.values()][0]!" if isinstance(type_, MapOf) else f"{text}[0]!"


def _texts(texts: tuple[str, ...]) -> str:
    return f"[{', '.join(text_literal(text) for text in texts)}]"
