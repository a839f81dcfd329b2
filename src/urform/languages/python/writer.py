"""The steps of claims over products and factories by key, as pytest tests."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from urform.declaration.types import Collection, ListOf, MapOf, Type
from urform.declaration.values import Boolean, Entries, Items, Real, Value
from urform.languages.layout.engine import columns
from urform.languages.naming.scope import Scope
from urform.languages.python.expressions import text_literal
from urform.languages.python.layout import STYLE
from urform.languages.python.making_proof import MakingWriter
from urform.plan.operands import (
    Arguments,
    DuplicateKey,
    Failure,
    Keyed,
    Missing,
    Operand,
    OutOfLimit,
    Path,
    Refused,
    Several,
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
    LeaveOut,
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
    from urform.languages.python.proof import Proof


class Writer:
    """Writes the steps of one case."""

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self.proof = proof
        self.plan = proof.plan
        self.code = proof.code
        self.names = proof.names
        self.scope = scope
        self.var = scope.name
        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._makings = MakingWriter(self)
        self._creators = 0

    def operand(self, operand: Operand) -> str:
        """What is handed in, as code."""
        return self.code.operand(self.scope.renamed(operand))

    def arguments(self, arguments: Arguments) -> str:
        """Keyword arguments."""
        return ", ".join(
            f"{self.names.field(name)}={self.operand(value)}" for name, value in arguments.items()
        )

    def _assigned(self, attribute: str, value: Operand) -> Iterator[str]:
        """A value of an attribute that nobody can change."""
        text = self.operand(value)
        is_bracketed = isinstance(value, (Several, Keyed))
        if not is_bracketed and columns(f"{attribute} = {text}", STYLE) + 2 * len(STYLE.indent) > STYLE.width:
            yield f"value = {text}"  # the formatter would break the attribute
            text = "value"
        yield "with pytest.raises(FrozenInstanceError):"
        yield f"    {attribute} = {text}"

    def _make(self, product: str, arguments: Arguments) -> str:
        selection = self.plan.selected_by(self.plan.products[product])
        called = self.names.function(selection.product) if selection is not None else self.names.type(product)
        return f"{called}({self.arguments(arguments)})"

    def path(self, path: Path) -> str:
        text = f"{self.var(path.var)}.{self.names.field(path.field)}"
        type_ = self.scope.field(Path(path.var, path.field)).type
        for _ in range(path.first):
            text = self._first(type_, text)
            type_ = type_.element if isinstance(type_, Collection) else type_
        return f"{text}.{self.names.field(path.inner)}" if path.inner else text

    def _first(self, type_: Type, text: str) -> str:
        return f"next(iter({text}.values()))" if isinstance(type_, MapOf) else f"{text}[0]"

    def _failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'MissingFieldsError("{owner}", [{", ".join(text_literal(name) for name in fields)}])'
            case OutOfLimit(owner, field, limit, bound):
                more = f", {self.code.bound(bound)}" if bound is not None else ""
                return f'LimitError("{owner}", "{field}", "{limit}"{more})'
            case UnknownKey(owner, key, known):
                keys = ", ".join(text_literal(name) for name in known)
                return f'UnknownKeyError("{owner}", {text_literal(key)}, [{keys}])'
            case DuplicateKey(owner, key):
                return f'DuplicateKeyError("{owner}", {text_literal(key)})'
            case Refused(owner, reason):
                return f'RefusedError("{owner}", {text_literal(reason)})'

    def refused(self, failure: Failure, line: str) -> Iterator[str]:
        yield f"with refused({self._failure(failure)}):"
        yield f"    {line}"

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                yield f"{self.var(var)} = {self._make(product, arguments)}"
                if self.plan.selected_by(self.plan.products[product]) is not None:
                    yield f"assert isinstance({self.var(var)}, {self.names.type(product)})"
            case MakeFails(product, arguments, failure):
                yield from self.refused(failure, self._make(product, arguments))
            case LeaveOut(product, arguments, field):
                yield f"with pytest.raises(TypeError, match=\"'{self.names.field(field)}'\"):"
                called = self._make(product, arguments).partition("(")[0]
                yield f"    untyped({called})({self.arguments(arguments)})"
            case Hold(var, type_, value):
                yield f"{self.var(var)}{self._annotation(type_)} = {self.operand(value)}"
            case ChangeHeld(var):
                yield f"{self.var(var)}.clear()"
            case ChangeInHeld(var, field, value):
                yield from self._change_in(var, field, value)
            case ChangeOut(path):
                yield "with suppress(AttributeError, TypeError):"
                yield f"    untyped({self.path(path)}).clear()"
            case Assign(var, field, value):
                yield from self._assigned(f"untyped({self.var(var)}).{self.names.field(field)}", value)
            case Set(path, value):
                yield f"{self.path(path)} = {self.operand(value)}"
            case SetFails(path, value, failure):
                yield from self.refused(failure, f"{self.path(path)} = {self.operand(value)}")
            case Clear(path):
                yield f"{self.path(path)} = None"
            case FieldIs(path, value):
                yield from self._is(self.path(path), self.scope.renamed(value))
            case FieldAbsent(path):
                yield f"assert {self.path(path)} is None"
            case _:
                yield from self._more(step)

    def _more(self, step: Step) -> Iterator[str]:
        match step:
            case Equal(left, right, hashes):
                yield f"assert {self.var(left)} == {self.var(right)}"
                if hashes:
                    yield f"assert hash({self.var(left)}) == hash({self.var(right)})"
            case Unequal(left, right, _):
                yield f"assert {self.var(left)} != untyped({self.var(right)})"
            case KindIs(var, product):
                key = self.plan.product(product).key
                yield f"assert type({self.var(var)}) is {self.names.type(product)}"
                if key is not None:
                    yield f"assert {self.var(var)}.key == {text_literal(key)}"
            case Answers(var, operation, arguments, value):
                handed = ", ".join(self.operand(argument) for argument in arguments)
                yield from self._is(f"{self.var(var)}.{self.names.field(operation)}({handed})", value)
            case OneInstance(product, threads, arguments):
                made = self._make(product, arguments)
                ask = self.names.type(product) if made.endswith("()") and not arguments else f"lambda: {made}"
                yield f"one = {made}"
                yield f"got = together({ask}, {threads})"
                yield "assert all(each is one for each in got)"
            case NewRegistry(var, factory):
                yield f"{self.var(var)} = {self.names.stem(factory)}Registry()"
            case Register(registry, key, variant):
                yield f"{self.var(registry)}.register({text_literal(key)}, {self.names.type(variant)})"
            case RegisterFails(registry, key, variant, failure):
                call = f"{self.var(registry)}.register({text_literal(key)}, {self.names.type(variant)})"
                yield from self.refused(failure, call)
            case Unregister(registry, key, found):
                yield f"assert {self.var(registry)}.unregister({text_literal(key)}) is {found}"
            case KeysAre(registry, keys):
                yield f"assert {self.var(registry)}.keys() == [{', '.join(text_literal(key) for key in keys)}]"
            case Ask(var, factory, key, arguments, registry):
                yield from self._ask(var, factory, key, arguments, registry)
            case AskFails(factory, key, arguments, failure, registry):
                yield from self._ask_fails(factory, key, arguments, failure, registry)
            case AskGivesNothing(factory, key, arguments, registry):
                yield f"nothing = {self._asked(factory, key, arguments, registry)}"
                yield "assert nothing is None"
            case _:
                yield from self._makings.step(step)

    def made(self, var: str, call: str) -> Iterator[str]:
        """Keep what a call gives, if anything uses it."""
        yield call if var in self.unused else f"{self.var(var)} = {call}"

    def _annotation(self, type_: Type) -> str:
        product = self.plan.products.get(str(type_))
        if isinstance(type_, Collection) or (product is not None and product.abstract):
            return f": {self.code.mutable_type(type_)}"
        return ""

    def _change_in(self, var: str, field: str, value: Operand) -> Iterator[str]:
        type_ = self.scope.type_of(var)
        text = self._first(type_, self.var(var)) if isinstance(type_, Collection) else self.var(var)
        yield f"{text}.{self.names.field(field)} = {self.operand(value)}"

    def _is(self, got: str, value: Operand | Value) -> Iterator[str]:
        match value:
            case Boolean(flag):
                yield f"assert {got} is {flag}"
            case Real(number) if number == 0:
                yield f'assert repr({got}) == "0.0"'
            case Several(ListOf(), items) | Items(ListOf(), items):
                shown = [self.code.element(item) for item in items]
                same = len(shown) > 3 and len(set(shown)) == 1
                whole = f"[{shown[0]}] * {len(shown)}" if same else f"[{', '.join(shown)}]"
                yield from self._compared(f"list({got})", whole)
            case Keyed() | Entries():
                yield from self._compared(got, self.code.element(value))
            case _:
                yield from self._compared(got, self.code.operand(value))

    def _compared(self, got: str, expected: str) -> Iterator[str]:
        """The formatter would break a long comparison at its sign, so a long value gets a name first."""
        line = f"assert {got} == {expected}"
        if columns(line, STYLE) + 4 <= STYLE.width:
            yield line
        else:
            yield f"expected = {expected}"
            yield f"assert {got} == expected"

    # --- factories ------------------------------------------------------------------------------------

    def _asked(self, product: str, key: str, arguments: Mapping[str, Operand], registry: str | None) -> str:
        given = self.arguments(arguments)
        with_key = ", ".join(part for part in (text_literal(key), given) if part)
        if registry is not None:
            return f"{self.var(registry)}.create({with_key})"
        factory = self.plan.factory_of(product)
        function = self.proof.function(product)
        if factory is not None and factory.form == "creators":
            return f"{function}({text_literal(key)})"
        return f"{function}({with_key})"

    def _ask(
        self, var: str, product: str, key: str, arguments: Arguments, registry: str | None
    ) -> Iterator[str]:
        factory = self.plan.factory_of(product)
        assert factory is not None
        asked = self._asked(product, key, arguments, registry)
        if factory.form != "creators":
            yield f"{self.var(var)} = {asked}"
            if factory.unknown == "nothing":
                yield f"assert {self.var(var)} is not None"
            return
        creator = self._creator()
        yield f"{creator} = {asked}"
        if factory.unknown == "nothing":
            yield f"assert {creator} is not None"
        yield f"{self.var(var)} = {creator}.create({self.arguments(arguments)})"

    def _creator(self) -> str:
        self._creators += 1
        return "creator" if self._creators == 1 else f"creator{self._creators}"

    def _ask_fails(
        self, product: str, key: str, arguments: Arguments, failure: Failure, registry: str | None
    ) -> Iterator[str]:
        factory = self.plan.factory_of(product)
        asked = self._asked(product, key, arguments, registry)
        if factory is None or factory.form != "creators" or isinstance(failure, UnknownKey):
            yield from self.refused(failure, asked)
            return
        creator = self._creator()
        yield f"{creator} = {asked}"
        if factory.unknown == "nothing":
            yield f"assert {creator} is not None"
        yield from self.refused(failure, f"{creator}.create({self.arguments(arguments)})")
