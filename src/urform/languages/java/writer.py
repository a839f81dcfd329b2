"""The words of Java's tests: steps as statements of JUnit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Protocol

from urform.declaration.types import TEXT, ListOf, MapOf, MaybeOf, SetOf, Type, present
from urform.declaration.values import Absent, Boolean, Value
from urform.languages.java.builders import BuilderNames
from urform.languages.java.expressions import (
    OPTIONALS,
    PRIMITIVES,
    UNTOLD,
    Expressions,
    client_name,
    text_literal,
)
from urform.languages.java.families import member_type, role_name
from urform.languages.java.names import Names
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import Words, camel, pascal
from urform.languages.naming.scope import Scope
from urform.languages.testing.contract import Call, Lines, Proof
from urform.languages.testing.writer import StepWriter
from urform.plan import making_steps as m
from urform.plan import steps as s
from urform.plan.chaining import in_stages
from urform.plan.messages import said_of
from urform.plan.model import Change, Field, Product, Selection
from urform.plan.operands import (
    Arguments,
    BadRecord,
    DuplicateKey,
    Failure,
    Missing,
    Operand,
    OutOfLimit,
    Path,
    Refused,
    UnknownKey,
)
from urform.plan.record_trees import Node, Tree
from urform.plan.script import Step

# What tests of pools call their own variables.
VARIABLES = Words("asked atWork control each entered goOn gone got inner one other pool pools two".split())
PHRASES = {
    "statement": "«code»;",
    "select": "«type».of(«given»)",
    "select or nothing": "«type».find(«given»)",
    "nothing": "assertTrue(«call».isEmpty());",
    "read word": "«type».parse(«text»)",
    "word is": "assertEquals(«value», «var»);\nassertEquals(«text», «var».word());",
    "words are": "assertEquals(List.of(«values»), List.of(«type».values()));",
    "ask": "«type».of(«given»)",
    "ask registry": "«on».make(«given»)",
    "creator": "«type»Creator.of(«key»)",
    "create": "«on».create(«given»)",
    "new registry": "«type»Registry «var» = new «type»Registry();",
    "register": "«on».register(«key», «maker»)",
    "loader": "AtomicInteger «loads» = new AtomicInteger();\nSupplier<«type»Registry.Maker> «loader» = () -> {\n"
    "    «loads».incrementAndGet();\n    return «maker»;\n};",
    "late loader": "AtomicInteger «loads» = new AtomicInteger();\nSupplier<«type»Registry.Maker> «loader» = () -> {\n"
    "    if («loads».incrementAndGet() == 1) {\n        return null;\n    }\n    return «maker»;\n};",
    "register loader": "«on».registerLoader(«key», «loader»)",
    "loads are": "assertEquals(«count», «loads».get());",
    "register named": "«on».registerClass(«key», «named»)",
    "unregister": "assertTrue(«on».unregister(«key»));",
    "unregister nothing": "assertFalse(«on».unregister(«key»));",
    "keys are": "assertEquals(List.of(«texts»), «on».keys());",
    "change held": "«var».clear();",
    "is absent": "assertTrue(«got».isEmpty());",
    "equal": "assertEquals(«left», «right»);",
    "equal hashes": "assertEquals(«left».hashCode(), «right».hashCode());",
    "unequal": "assertNotEquals(«left», «right»);",
    "was there": "assertTrue(«call»);",
    "was not there": "assertFalse(«call»);",
    "kind is": "assertEquals(«type».class, «var».getClass());",
    "key is": "assertEquals(«key», «var».key());",
    "hidden constructor": "assertEquals(0, «type».class.getConstructors().length);",
    "new builder": "«type».Builder «var» = new «type».Builder();",
    "begin builder": "var «var» = «type».Builder.begin()«calls»;",
    "begin preset": "var «var» = «type».Builder.«preset»()«calls»;",
    "preset": "«type».Builder «var» = «type».Builder.«preset»();",
    "builder like": "«type».Builder «var» = «type».Builder.like(«like»)«calls»;",
    "setter": ".«setter»(«value»)",
    "fluent setter": ".«setter»(«value»)",
    "build": "«on».build()",
    "build refused": "«on».build();",
    "chained": "new «type».Builder()«calls».build()",
    "new exemplars": "«type»Exemplars «var» = new «type»Exemplars();",
    "add exemplar": "«on».add(«name», «product»)",
    "get exemplar": "«on».get(«name»)",
    "names are": "assertEquals(List.of(«texts»), «on».names());",
    "new pool": "«type»Pool «var» = new «type»Pool();",
    "new pool with maker": "«type»Pool «var» = new «type»Pool(«maker»);",
    "maker": "«parameters» -> «made»",
    "ask pool": "«on».get(«key»)",
    "counts are": "assertEquals(List.of(«made»L, «reused»L), List.of(«on».made(), «on».reused()));",
    "family": "«type».of(«key»)",
    "family is": "assertEquals(«member».class, «var».getClass());",
    "role": "«on».«role»(«given»)",
    "new stand-in": "«type» «var» = new «type»();",
    "asked are": "assertEquals(List.of(«texts»), «on».asked());",
    "first": "«of».get(0)",
    "first of map": "«of».values().iterator().next()",
    "count": "assertEquals(«size», «listed».size());",
    "read record": "Records.read«name»(«record»)",
    "read with": "Records.read«name»With(«on», «record»)",
    "read back": "Records.read«name»(Records.write«written»(«var»))",
    "record is": "assertEquals(«text», Records.toText(Records.write«name»(«var»)));",
    "create all": "Records.All<«type»> all = Records.createAll(items(«records»), Records::read«name»);\n"
    "assertEquals(«made», all.made().size());\nassertEquals(List.of(«problems»), said(all.problems()));",
}
PRINTING = {
    "print": "System.out.println(«words» + «shown»);",
    "print same": 'System.out.println("  the same object: " + («left» == «right»));\n'
    'System.out.println("  equal: " + «left».equals(«right»));',
    "print counts": 'System.out.println("  made " + «on».made() + " and reused " + «on».reused());',
}
MOST_OF_MAP = 10  # names and values that `Map.of` takes
OWN = {ListOf: "ArrayList", SetOf: "LinkedHashSet", MapOf: "HashMap"}  # the caller's collections


class JavaProof(Proof, Protocol):
    """What this writer needs beyond the writers of all targets."""

    @property
    def package(self) -> str:
        """The package of the generated classes and of their tests."""


class Writer(StepWriter):
    """Writes the steps of one test."""

    code: Expressions
    names: Names
    phrases = PHRASES
    printing = PRINTING
    spell = staticmethod(camel)
    takes_records = True
    always_kept = (s.Make, s.Ask, m.FamilyOf, m.BuildChained)

    def __init__(self, proof: JavaProof, scope: Scope, *, prints: bool = False) -> None:
        super().__init__(proof, scope, prints=prints)
        self._package = proof.package

    def literal(self, text: str) -> str:
        return text_literal(text)

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        return self.code.operand(self.renamed(operand))

    def given(self, product: Product, given: Arguments) -> str:
        parts = [self.code.operand(given[field.name]) for field in product.required]
        chosen = self.code.options(product.name, given) if product.optional else None
        return ", ".join([*parts, *([chosen] if chosen is not None else [])])

    def new(self, product: Product, given: Arguments) -> str:
        return self.code.make(product.name, given)

    def selected(self, selection: Selection, given: Arguments) -> str:
        return self.code.selected(selection, given)

    def path(self, path: Path) -> str:
        field = self.scope.field(Path(path.var, path.field))
        there = ".orElseThrow()" if field.may_be_absent and (path.first or path.inner) else ""
        text = f"{self.var(path.var)}.{self.names.member(path.field)}(){there}"
        text = self.first_of(field.type, text, path.first)
        return f"{text}.{self.names.member(path.inner)}()" if path.inner else text

    def setting(self, path: Path, value: str) -> str:
        holder, name = self.var(path.var), path.field
        if path.inner is not None:
            holder, name = self.path(Path(path.var, path.field, path.first)), path.inner
        return f"{holder}.{self.names.setter(name)}({value})"

    # --- statements around a call -------------------------------------------------------------------------

    def taken(self, call: Call) -> str:
        return f"{call.code}.orElseThrow()" if call.absent else call.code

    def failing(self, call: Call) -> Call:
        return replace(call, code=self.taken(call))

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        if var in self.unused and not isinstance(step, self.always_kept):
            yield f"{self.taken(call)};"
            return
        yield f"{self._type_of(step, var)} {self.var(var)} = {self.taken(call)};"

    def _type_of(self, step: Step, var: str) -> str:
        if isinstance(step, m.FamilyOf):
            return self.names.type(step.family)
        return self.code.plain(self.scope.type_of(var))

    def record_entries(self, product: str) -> dict[str, str]:
        return {"name": pascal(product), "type": self.names.type(product)}

    def asked_record(self, node: Node) -> str:
        """In the walk-through without the helpers of tests."""
        match node if self.prints else None:
            case Tree(entries) if len(entries) > MOST_OF_MAP:
                pairs = (f"Map.entry({text_literal(k)}, {self.asked_record(v)})" for k, v in entries)
                return f"Map.ofEntries({', '.join(pairs)})"
            case Tree(entries):
                parts = [part for k, v in entries for part in (text_literal(k), self.asked_record(v))]
                return f"Map.of({', '.join(parts)})"
            case tuple(items):
                return f"List.of({', '.join(map(self.asked_record, items))})"
        return self.node(node)

    def node(self, node: Node) -> str:
        match node:
            case Tree(entries):
                parts = [part for k, v in entries for part in (text_literal(k), self.node(v))]
                return f"tree({', '.join(parts)})"
            case tuple():
                return f"items({', '.join(map(self.node, node)) if node != (None,) else '(Object) null'})"
            case bool():
                return "true" if node else "false"
            case int():
                return f"{node}L"
            case float():
                return repr(node)
            case str():
                return text_literal(node)
        return "null"

    def refused(self, call: Call, failure: Failure) -> Lines:
        yield f"refused(() -> {call.code});" if self.prints else self._refused(call.code, failure)

    def _refused(self, code: str, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'missing("{owner}", List.of({self.texts(fields)}), () -> {code});'
            case OutOfLimit(owner, field, limit, bound):
                at = f'"{owner}", "{field}", "{limit}", {self.code.bound(bound)}'
                _, untold = UNTOLD.get(limit.rpartition(".")[2], ("", ""))
                return f"outOfLimit({at}, {text_literal(said_of(failure, untold))}, () -> {code});"
            case UnknownKey(owner, key, known):
                known_keys = f"List.of({self.texts(known)})"
                return f'unknownKey("{owner}", {text_literal(key)}, {known_keys}, () -> {code});'
            case DuplicateKey(owner, key):
                return f'duplicateKey("{owner}", {text_literal(key)}, () -> {code});'
            case BadRecord(_, problems):
                return f"notMade(List.of({self.texts(problems)}), () -> {code});"
            case Refused(owner, reason):
                return f'refused("{owner}", {text_literal(reason)}, () -> {code});'

    def narrowed(self, step: s.Make, call: Call) -> Lines:
        type_ = self.names.type(step.product)
        yield f"{type_} {self.var(step.var)} = ({type_}) {call.code};"

    def change_name(self, owner: Product, change: Change) -> str:
        return change_name(self.plan, owner, change, camel)

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        yield self._is(self.path(path), field.type, value, field.may_be_absent)

    def answers(self, step: s.Answers) -> Lines:
        returns = self.scope.product_of(step.var).operation(step.operation).returns
        handed = ", ".join(self.value(argument) for argument in step.arguments)
        got = f"{self.var(step.var)}.{self.names.member(step.operation)}({handed})"
        if isinstance(step.value, Absent):
            yield f"assertEquals({OPTIONALS.get(present(returns), 'Optional')}.empty(), {got});"
        elif isinstance(returns, MaybeOf):
            yield self._is(got, returns.element, step.value, may_be_absent=True)
        else:
            yield self._is(got, returns, step.value)

    def _is(self, got: str, type_: Type, value: Operand | Value, may_be_absent: bool = False) -> str:
        if isinstance(value, Boolean) and not may_be_absent:
            return f"{'assertTrue' if value.flag else 'assertFalse'}({got});"
        expected = self.value(value)
        if may_be_absent:
            expected = f"{OPTIONALS.get(type_, 'Optional')}.of({expected})"
        return f"assertEquals({expected}, {got});"

    # --- the caller's own ---------------------------------------------------------------------------------

    def hold(self, step: s.Hold) -> Lines:
        own, value = OWN.get(type(step.type)), self.value(step.value)
        container = f"new {own}<>({value})" if own else value
        yield f"{self.code.plain(step.type)} {self.var(step.var)} = {container};"

    def handed(self, step: Step) -> Lines:
        match step:
            case s.ChangeInHeld(var, field, value):
                first = self.first_of(self.scope.type_of(var), self.var(var))
                yield f"{first}.{self.names.setter(field)}({self.value(value)});"
            case s.ChangeOut(path):
                yield f"attempt(() -> {self.path(path)}.clear());"
            case s.Clear(path):
                name, primitive = pascal(path.field), self.scope.field(path).type in PRIMITIVES
                yield f"{self.var(path.var)}.{f'clear{name}()' if primitive else f'set{name}(null)'};"

    def one_instance(self, step: s.OneInstance) -> Lines:
        selection = self.plan.selected_by(self.plan.products[step.product])
        call = self.construction(step.product, step.arguments).code
        type_ = self.names.type(step.product if selection is None else selection.product)
        ask = f"{type_}::instance" if selection is None else f"() -> {call}"
        yield f"{type_} one = {call};"
        yield f"for ({type_} got : together({step.threads}, {ask})) {{"
        yield "    assertSame(one, got);"
        yield "}"

    # --- ways of making -----------------------------------------------------------------------------------

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        if self.factory(base.name).needs_more:
            return [], f"Records::read{pascal(variant.name)}"
        return [], f"{self.names.type(variant.name)}::{'instance' if variant.single else 'new'}"

    def loader_name(self, variant: Product) -> str:
        return text_literal(f"{self._package}.{self.names.type(variant.name)}")

    def begun_builder(self, step: m.NewBuilder) -> Lines:
        if not self.builder(step.product).typed or step.like is not None:
            return super().begun_builder(step)
        calls = "".join(self.builder_call(step.product, call) for call in in_stages(self.plan, step))
        if step.preset is None:
            return self.begun("begin builder", step.var, step.product, calls=calls)
        preset = self.builder_words(step.product).preset(step.preset)
        return self.begun("begin preset", step.var, step.product, preset=preset, calls=calls)

    def builder_words(self, product: str) -> BuilderNames:
        return BuilderNames(self.names, self.plan.products[product], self.builder(product))

    def several(self, step: Step) -> Lines:
        match step:
            case m.Clone(var, original):
                type_ = self.code.plain(self.scope.type_of(original))
                yield f"{type_} {self.var(var)} = {self.var(original)}.copy();"
            case m.CloneEach(product, originals, clones):
                type_, names = self.names.type(product), ", ".join(map(self.var, originals))
                yield f"List<{type_}> clones = List.of({names}).stream().map({type_}::copy).toList();"
                for number, clone in enumerate(clones):
                    yield f"{type_} {self.var(clone)} = clones.get({number});"
            case m.Take(var, path):
                absent = self.scope.field(path).may_be_absent and not path.first
                got = self.taken(Call(self.path(path), absent=absent))
                yield f"{self.code.plain(self.scope.type_of(var))} {self.var(var)} = {got};"
            case m.SameObject(left, right, _, same):
                yield f"{'assertSame' if same else 'assertNotSame'}({self.var(left)}, {self.var(right)});"
            case m.Narrow(var, original, product):
                type_ = self.names.type(product)
                yield f"{type_} {self.var(var)} = ({type_}) {self.var(original)};"
            case m.AskRoles(family, role, names):
                yield from self._ask_roles(family, role, names)

    def _ask_roles(self, family: str, role: str, names: Sequence[str]) -> Lines:
        call = self.role_call(family, role, {}).code
        if set(names) <= self.unused:
            yield from self.counted(role, call, len(names))
            return
        type_ = self.names.type(self.scope.role(family, role).product)
        listed = f"{self.var(names[0])}List"
        yield f"List<{type_}> {listed} = {call};"
        yield from self.counted(role, listed, len(names))
        for number, name in enumerate(names):
            yield f"{type_} {self.var(name)} = {listed}.get({number});"

    def member(self, family: str, name: str) -> str:
        return member_type(self.names, self.family(family), name)

    def role(self, family: str, role: str) -> str:
        return role_name(self.names, self.scope.role(family, role))

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        types = ", ".join(f"{self.names.type(product)}.class" for product in products)
        yield f"assertEquals(List.of({types}), {client_name(name)}({self.var(family)}));"

    # --- pools --------------------------------------------------------------------------------------------

    def parameter(self, name: str) -> str:
        return VARIABLES.escape(self.names.member(name))

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        text = self.value(value)
        return f"new String({text}.toCharArray())" if rebuilt and field.type == TEXT else text

    def is_part(self, parameter: str, field: Field, value: Operand) -> str:
        text = self.value(value)
        return f"{parameter}.equals({text})" if field.type == TEXT else f"{parameter} == {text}"

    def header(self, product: str) -> dict[str, str]:
        names = list(self.parameters(product).values())
        return {"parameters": names[0] if len(names) == 1 else f"({', '.join(names)})"}

    # --- the walk-through ---------------------------------------------------------------------------------

    def printed(self, words: str, shown: str) -> Lines:
        return self.lines("print", words=text_literal(f"  {words}: "), shown=self.var(shown))
