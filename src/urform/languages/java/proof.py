"""The steps of claims as JUnit 5 tests."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import cached_property

from urform.declaration.types import Collection, ListOf, MapOf, SetOf, Type
from urform.declaration.values import Boolean, Value
from urform.languages.java.emitter import HERE, STYLE, Emitter, identifiers, javadoc, tidy
from urform.languages.java.expressions import OPTIONALS, PRIMITIVES, text_literal, witness_name
from urform.languages.layout import lay_out
from urform.languages.names import camel, pascal
from urform.languages.scope import Scope
from urform.languages.target import File, TestAddress
from urform.languages.templates import support_file
from urform.plan.capabilities import Expressible, by_owner
from urform.plan.model import Plan
from urform.plan.operands import (
    Arguments,
    DuplicateKey,
    Failure,
    Missing,
    Operand,
    OutOfLimit,
    Path,
    UnknownKey,
    Var,
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
from urform.plan.witnesses import Witnesses

ASSERTIONS = ("assertEquals", "assertFalse", "assertNotEquals", "assertSame", "assertTrue")
SHARED = ("attempt", "duplicateKey", "missing", "outOfLimit", "together", "unknownKey", "withNull")


class Proof:
    """Writes the tests of one plan, a class for each owner of claims."""

    def __init__(self, emitter: Emitter, plan: Plan) -> None:
        self.emitter = emitter
        self.plan = plan
        self.code = emitter.code
        self.names = emitter.names
        self._witnesses = Witnesses(plan)

    def files(self, claims: Sequence[Expressible]) -> tuple[list[File], list[TestAddress]]:
        """The test files, and where each claim is tested."""
        shared = support_file(HERE / "support", "Shared.java").partition("\n\n")[2]
        files = [self._file("Shared", self.emitter.whole(shared, imports=False)), self._witness_file()]
        addresses = []
        for owner, own in by_owner(claims).items():
            class_ = f"{pascal(owner)}Test"
            path = self._path(class_)
            methods = []
            for found in own:
                name = test_name(found.claim.id)
                addresses.append(TestAddress(found.claim.id, path, f"{class_}.{name}"))
                methods.append(self._test(name, found))
            body = f"final class {class_} {{\n" + "\n".join(methods) + "}\n"
            files.append(self._file(class_, self._with_statics(self.emitter.whole(lay_out(body, STYLE)))))
        return files, addresses

    @cached_property
    def _helpers(self) -> set[str]:
        return {witness_name(name, second) for name in self.plan.products for second in (False, True)}

    def _path(self, class_: str) -> str:
        return f"src/test/java/{self.emitter.folder}/{class_}.java"

    def _file(self, class_: str, text: str) -> File:
        return File(self._path(class_), text)

    def _with_statics(self, text: str) -> str:
        """Static imports stand before the others."""
        used = identifiers(text)
        package = self.emitter.package
        lines = [
            f"import static org.junit.jupiter.api.Assertions.{name};" for name in ASSERTIONS if name in used
        ]
        lines += [f"import static {package}.Shared.{name};" for name in SHARED if name in used]
        lines += [f"import static {package}.Witnesses.{name};" for name in used & self._helpers]
        head, separator, rest = text.partition(f"package {package};\n\n")
        return head + separator + ("\n".join(sorted(lines)) + "\n\n" if lines else "") + rest

    def _witness_file(self) -> File:
        methods = []
        for product in self.plan.products.values():
            if product.abstract:
                continue
            found = (False, self._witnesses.arguments(product)), (True, self._witnesses.second(product))
            for second, arguments in found:
                if arguments is not None:
                    made = self.code.make(product.name, arguments)
                    methods.append(
                        f"    static {self.names.type(product.name)} {witness_name(product.name, second)}() {{\n"
                        f"        return {made};\n    }}\n"
                    )
        doc = "/** Typical products for the tests, two of each kind where there are two. */\n"
        body = f"{doc}final class Witnesses {{\n    private Witnesses() {{}}\n\n" + "\n".join(methods) + "}\n"
        return self._file("Witnesses", self.emitter.whole(lay_out(body, STYLE)))

    def _test(self, name: str, found: Expressible) -> str:
        claim = found.claim
        scope = Scope(self.plan)
        writer = _Writer(self, scope)
        lines = [f"    {javadoc(claim.text[:1].upper() + claim.text[1:] + '.', 4)}", "    @Test"]
        lines += [f"    @DisplayName({text_literal(claim.id)})", f"    void {name}() {{"]
        for number, case in enumerate(found.cases):
            if number:
                lines.append("")
            for step in case.steps:
                scope.enter(step)
                lines += ["        " + line for line in writer.step(step)]
        return tidy("\n".join([*lines, "    }"]) + "\n")


def test_name(claim: str) -> str:
    """`limit/Mark.station:min` gives `limitMarkStationMin`."""
    first, *others = (camel(word.replace("-", "_")) for word in re.split(r"[/.:]", claim))
    return first + "".join(pascal(word) for word in others)


class _Writer:
    """Writes the steps of one test."""

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self._proof = proof
        self._plan = proof.plan
        self._code = proof.code
        self._names = proof.names
        self._scope = scope

    def _var(self, name: str) -> str:
        return self._scope.name(name)

    def _operand(self, operand: Operand) -> str:
        return self._code.operand(Var(self._var(operand.name)) if isinstance(operand, Var) else operand)

    def _renamed(self, arguments: Arguments) -> dict[str, Operand]:
        return {n: Var(self._var(v.name)) if isinstance(v, Var) else v for n, v in arguments.items()}

    def _make(self, product: str, arguments: Arguments) -> str:
        return self._code.make(product, self._renamed(arguments))

    def _path(self, path: Path) -> str:
        text = f"{self._var(path.var)}.{self._names.member(path.field)}()"
        if path.first:
            text = self._first(self._scope.field(Path(path.var, path.field)).type, text)
        return f"{text}.{self._names.member(path.inner)}()" if path.inner else text

    def _set(self, path: Path, value: Operand) -> str:
        holder = self._var(path.var)
        name = path.field
        if path.inner is not None:
            holder, name = self._path(Path(path.var, path.field, path.first)), path.inner
        return f"{holder}.{self._names.setter(name)}({self._operand(value)})"

    def _first(self, type_: Type, text: str) -> str:
        return f"{text}.values().iterator().next()" if isinstance(type_, MapOf) else f"{text}.get(0)"

    def _refused(self, failure: Failure, code: str) -> str:
        match failure:
            case Missing(owner, fields):
                names = ", ".join(text_literal(name) for name in fields)
                return f'missing("{owner}", List.of({names}), () -> {code});'
            case OutOfLimit(owner, field, limit, bound):
                return (
                    f'outOfLimit("{owner}", "{field}", "{limit}", {self._code.bound(bound)}, () -> {code});'
                )
            case UnknownKey(owner, key, known):
                keys = ", ".join(text_literal(name) for name in known)
                return f'unknownKey("{owner}", {text_literal(key)}, List.of({keys}), () -> {code});'
            case DuplicateKey(owner, key):
                return f'duplicateKey("{owner}", {text_literal(key)}, () -> {code});'

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                yield f"{self._names.type(product)} {self._var(var)} = {self._make(product, arguments)};"
            case MakeFails(product, arguments, failure):
                yield self._refused(failure, self._make(product, arguments))
            case Hold(var, type_, value):
                yield f"{self._code.plain(type_)} {self._var(var)} = {self._own(type_, self._operand(value))};"
            case ChangeHeld(var):
                yield f"{self._var(var)}.clear();"
            case ChangeInHeld(var, field, value):
                type_ = self._scope.type_of(var)
                text = self._first(type_, self._var(var)) if isinstance(type_, Collection) else self._var(var)
                yield f"{text}.{self._names.setter(field)}({self._operand(value)});"
            case ChangeOut(path):
                yield f"attempt(() -> {self._path(path)}.clear());"
            case Set(path, value):
                yield f"{self._set(path, value)};"
            case SetFails(path, value, failure):
                yield self._refused(failure, self._set(path, value))
            case Clear(path):
                primitive = self._scope.field(path).type in PRIMITIVES
                name = pascal(path.field)
                yield f"{self._var(path.var)}.{f'clear{name}()' if primitive else f'set{name}(null)'};"
            case FieldIs(path, value):
                yield self._is(
                    self._path(path),
                    self._scope.field(path).type,
                    value,
                    self._scope.field(path).may_be_absent,
                )
            case FieldAbsent(path):
                yield f"assertTrue({self._path(path)}.isEmpty());"
            case _:
                yield from self._more(step)

    def _more(self, step: Step) -> Iterator[str]:
        match step:
            case Equal(left, right, hashes):
                yield f"assertEquals({self._var(left)}, {self._var(right)});"
                if hashes:
                    yield f"assertEquals({self._var(left)}.hashCode(), {self._var(right)}.hashCode());"
            case Unequal(left, right, _):
                yield f"assertNotEquals({self._var(left)}, {self._var(right)});"
            case KindIs(var, product):
                key = self._plan.products[product].key
                yield f"assertEquals({self._names.type(product)}.class, {self._var(var)}.getClass());"
                if key is not None:
                    yield f"assertEquals({text_literal(key)}, {self._var(var)}.key());"
            case Answers(var, operation, arguments, value):
                handed = ", ".join(self._operand(argument) for argument in arguments)
                returns = self._returns(var, operation)
                yield self._is(f"{self._var(var)}.{self._names.member(operation)}({handed})", returns, value)
            case OneInstance(product, threads):
                type_ = self._names.type(product)
                yield f"{type_} one = {type_}.instance();"
                yield f"for ({type_} got : together({threads}, {type_}::instance)) {{"
                yield "    assertSame(one, got);"
                yield "}"
            case NewRegistry(var, factory):
                registry = f"{self._names.type(factory)}Registry"
                yield f"{registry} {self._var(var)} = new {registry}();"
            case Register(registry, key, variant):
                yield f"{self._register(registry, key, variant)};"
            case RegisterFails(registry, key, variant, failure):
                yield self._refused(failure, self._register(registry, key, variant))
            case Unregister(registry, key, found):
                assertion = "assertTrue" if found else "assertFalse"
                yield f"{assertion}({self._var(registry)}.unregister({text_literal(key)}));"
            case KeysAre(registry, keys):
                names = ", ".join(text_literal(key) for key in keys)
                yield f"assertEquals(List.of({names}), {self._var(registry)}.keys());"
            case Ask(var, factory, key, arguments, registry):
                asked = self._asked(factory, key, arguments, registry)
                yield f"{self._names.type(factory)} {self._var(var)} = {asked};"
            case AskFails(factory, key, arguments, failure, registry):
                yield self._refused(failure, self._asked(factory, key, arguments, registry))
            case AskGivesNothing(factory, key, arguments, registry):
                yield f"assertTrue({self._asked(factory, key, arguments, registry, whole=False)}.isEmpty());"
            case _:
                raise TypeError(f"no such step: {step}")

    def _returns(self, var: str, operation: str) -> Type:
        type_ = self._scope.type_of(var)
        return self._plan.products[str(type_)].operation(operation).returns

    def _register(self, registry: str, key: str, variant: str) -> str:
        return f"{self._var(registry)}.register({text_literal(key)}, {self._names.type(variant)}::new)"

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
        expected = self._operand(value)
        if may_be_absent:
            expected = f"{OPTIONALS.get(type_, 'Optional')}.of({expected})"
        return f"assertEquals({expected}, {got});"

    def _asked(
        self, product: str, key: str, arguments: Arguments, registry: str | None, *, whole: bool = True
    ) -> str:
        """The expression that asks a factory; `whole` takes what it gives out of an Optional."""
        factory = self._plan.factory_of(product)
        assert factory is not None
        made = self._plan.products[product]
        renamed = self._renamed(arguments)
        given = [self._code.operand(renamed[field.name]) for field in made.required]
        if made.optional:
            given.append(self._code.options(product, renamed) or f"new {self._names.type(product)}.Options()")
        asked = [text_literal(key), *given]
        unwrap = ".orElseThrow()" if factory.unknown == "nothing" and whole else ""
        if registry is not None:
            return f"{self._var(registry)}.make({', '.join(asked)}){unwrap}"
        type_ = self._names.type(product)
        if factory.form == "simple":
            return f"{type_}.of({', '.join(asked)}){unwrap}"
        create = f".create({', '.join(given)})" if whole else ""
        return f"{type_}Creator.of({text_literal(key)}){unwrap}{create}"
