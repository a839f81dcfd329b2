"""The words of TypeScript's tests: steps as statements of node's test runner."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any, Protocol

from urform.declaration.types import TEXT, Collection, ListOf, Type
from urform.declaration.values import Absent
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import Words, camel, pascal
from urform.languages.naming.scope import Scope
from urform.languages.testing.contract import Call, Lines, Proof
from urform.languages.testing.writer import StepWriter
from urform.languages.typescript.builders import BuilderNames
from urform.languages.typescript.expressions import NO_SUCH, Expressions, client_name, listed, text_literal
from urform.languages.typescript.factories import maker_of
from urform.languages.typescript.families import member_type, role_name
from urform.languages.typescript.names import Names
from urform.plan import making_steps as m
from urform.plan import steps as s
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
from urform.plan.record_trees import Node, json_source
from urform.plan.script import Step

# What tests of pools call their own variables, and what they call.
VARIABLES = frozenset(
    "collected context elsewhere failure fails gone inside is maker notSameObject one pool refused saying sameObject throwsAgain "
    "two weakly wrong".split()
)
PHRASES = {
    "statement": "«code»;",
    "select": "«function»(«given»)",
    "select or nothing": "«lenient»(«given»)",
    "nothing": "is(«call», undefined);",
    "read word": "«type».parse(«text»)",
    "word is": "is(«var», «value»);",
    "words are": "is([...«type».words], [«texts»]);",
    "ask": "«function»(«given»)",
    "ask registry": "«on».make(«given»)",
    "creator": "«creator»(«key»)",
    "create": "«on».create(«given»)",
    "new registry": "const «var» = new «stem»Registry();",
    "register": "«on».register(«key», «maker»)",
    "loader": "let «loads» = 0;\nconst «loader» = (): «stem»Maker => {\n  «loads» += 1;\n  return «maker»;\n};",
    "late loader": "let «loads» = 0;\nconst «loader» = (): «stem»Maker => {\n  «loads» += 1;\n"
    "  if («loads» === 1) {\n    return undefined as never;\n  }\n  return «maker»;\n};",
    "register loader": "«on».registerLoader(«key», «loader»)",
    "loads are": "is(«loads», «count»);",
    "register named": "«on».registerModule(«key», «named»)",
    "ask named": "await «on».makeLater(«given»)",
    "unregister": "is(«on».unregister(«key»), true);",
    "unregister nothing": "is(«on».unregister(«key»), false);",
    "keys are": "is(«on».keys(), [«texts»]);",
    "is absent": "is(«got», undefined);",
    "equal": "equal(«left», «right»);",
    "unequal": "unequal(«left», «right»);",
    "was there": "is(«call», true);",
    "was not there": "is(«call», false);",
    "kind is": "kind(«var», «class»);",
    "key is": "is(«var».key, «key»);",
    "hidden constructor": 'is("«type»" in exported, false);',
    "new builder": "const «var» = new «stem»Builder()«calls»;",
    "begin builder": "const «var» = «stem»Builder.begin()«calls»;",
    "preset": "const «var» = «stem»Builder.«preset»()«calls»;",
    "builder like": "const «var» = «stem»Builder.like(«like»)«calls»;",
    "setter": ".«setter»(«value»)",
    "fluent setter": ".«setter»(«value»)",
    "build": "«on».build()",
    "build unchecked": "(«on» as «stem»Builder<never>).build()",
    "build refused": "«on».build();",
    "new exemplars": "const «var» = new «stem»Exemplars();",
    "add exemplar": "«on».add(«name», «product»)",
    "get exemplar": "«on».get(«name»)",
    "names are": "is(«on».names(), [«texts»]);",
    "new pool": "const «var» = new «stem»Pool();",
    "new pool with maker": "const «var» = new «stem»Pool(«maker»);",
    "maker": "(«parameter») => «made»",
    "ask pool": "«on».get(«key»)",
    "counts are": "is([«on».made, «on».reused], [«made», «reused»]);",
    "family": "«function»(«key»)",
    "family is": "kind(«var», «member»);",
    "role": "«on».«role»(«given»)",
    "new stand-in": "const «var» = new «type»();",
    "asked are": "is(«on».asked, [«texts»]);",
    "first": "«of»[0]!",
    "first of map": "[...«of».values()][0]!",
    "read record": "read«name»(JSON.parse(«record»))",
    "read with": "read«name»With(«on», JSON.parse(«record»))",
    "read text": "read«name»(parseRecord(«text»))",
    "read back": "read«name»(write«written»(«var»))",
    "record is": "is(textOf«name»(«var»), «text»);",
    "create all": "const «all» = createAll([«records»], read«name»);\n"
    "is(«all».made.length, «made»);\nis(«all».problems.map(String), [«problems»]);",
    "refused record": "refusedRecord([«problems»], () => «call»);",
    "refused": "refused(«failure», () => «call»);",
    "count": "is(«listed».length, «size»);",
}
PRINTING = {
    "refused": "refused(() => «call»);",
    "print": "console.log(«words», String(«shown»));",
    "print same": 'console.log("  the same object:", «left» === «right»);\n'
    'console.log("  equal:", «left».equals(«right»));',
    "print counts": 'console.log("  made", «on».made, "and reused", «on».reused);',
}


class TypeScriptProof(Proof, Protocol):
    """What this writer needs beyond the writers of all targets."""

    @property
    def package(self) -> str:
        """The module that exports the package, as tests import it."""


class Writer(StepWriter):
    """Writes the steps of one test."""

    code: Expressions
    names: Names
    phrases = PHRASES
    printing = PRINTING
    spell = staticmethod(camel)
    always_kept = (s.Make, m.BuildChained)

    def __init__(self, proof: TypeScriptProof, scope: Scope, *, prints: bool = False) -> None:
        super().__init__(proof, scope, prints=prints)
        self._package = proof.package
        self._reserved = proof.reserved
        self._parameters = Words(VARIABLES, proof.reserved)

    def named(self, product: str) -> dict[str, str]:
        is_product = product in self.plan.products or product in self.plan.stand_ins
        return {
            "type": self.names.type(product),
            "stem": self.names.stem(product),
            "function": self.names.function(product),
            "lenient": self.names.lenient(product),
            "creator": self.names.function(f"{product}_creator"),
            "class": self._class_of(product) if is_product else "",
        }

    def _class_of(self, product: str) -> str:
        """A class for comparisons; the name of one that has none outside its module but that of its type."""
        type_ = self.names.type(product)
        hidden = self.plan.selected_by(self.plan.product(product)) is not None
        return text_literal(type_) if hidden else type_

    def local(self, name: str) -> str:
        return f"the{name[:1].upper()}{name[1:]}" if name in self._reserved else name

    def literal(self, text: str) -> str:
        return text_literal(text)

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        return self.code.operand(self.renamed(operand))

    def given(self, product: Product, given: Arguments) -> str:
        return self.code.fields({name: self.code.operand(value) for name, value in given.items()})

    def asked_with(self, step: s.Ask, given: Callable[[Product, Arguments], str]) -> str:
        """A key that is not declared is not tied to the fields of the kind that is made of it."""
        text, base = super().asked_with(step, given), self.plan.products[step.factory]
        factory = self.factory(step.factory)
        is_tied = step.key in factory.kinds or not (factory.needs_more and base.fields and text)
        return text if is_tied else f"{text} as {self.names.stem(step.factory)}Fields"

    def new(self, product: Product, given: Arguments) -> str:
        return self.code.make(product.name, given)

    def selected(self, selection: Selection, given: Arguments) -> str:
        return self.given(self.plan.products[selection.product], given)

    def path(self, path: Path) -> str:
        field = self.scope.field(Path(path.var, path.field))
        there = "!" if field.may_be_absent and (path.first or path.inner) else ""
        text = f"{self.var(path.var)}.{self.names.member(path.field)}{there}"
        text = self.first_of(field.type, text, path.first)
        return f"{text}.{self.names.member(path.inner)}" if path.inner else text

    def setting(self, path: Path, value: str) -> str:
        return f"{self.path(path)} = {value}"

    def _failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'new MissingFieldsError("{owner}", [{self.texts(fields)}])'
            case OutOfLimit(owner, field, limit, None, None) if limit.removeprefix("each.") in NO_SUCH:
                said = said_of(failure, NO_SUCH[limit.removeprefix("each.")])
                return f'saying({text_literal(said)}, new LimitError("{owner}", "{field}", "{limit}"))'
            case OutOfLimit(owner, field, limit, bound, said):
                more = f", {self.code.bound(bound)}" if bound is not None and bound is not True else ""
                error = f'new LimitError("{owner}", "{field}", "{limit}"{more})'
                return f"saying({text_literal(said)}, {error})" if said is not None else error
            case UnknownKey(owner, key, known):
                return f'new UnknownKeyError("{owner}", {text_literal(key)}, [{self.texts(known)}])'
            case DuplicateKey(owner, key):
                return f'new DuplicateKeyError("{owner}", {text_literal(key)})'
            case Refused(owner, reason):
                return f'new RefusedError("{owner}", {text_literal(reason)})'
            case BadRecord(owner):
                raise TypeError(f"{owner} is refused by its problems, which are told one by one")

    # --- statements around a call -------------------------------------------------------------------------

    def taken(self, call: Call) -> str:
        return f"{call.code}!" if call.absent else call.code

    def failing(self, call: Call) -> Call:
        return replace(call, code=self.taken(call))

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        if var in self.unused and not isinstance(step, self.always_kept):
            yield f"{self.taken(call)};"
            return
        is_role = isinstance(step, m.AskRole)
        annotation = f": {self.names.type(str(self.scope.type_of(var)))}" if is_role else ""
        waits = isinstance(step, s.AskNamed) and call.absent  # what is awaited is there, not the promise
        got = f"({call.code})!" if waits else self.taken(call)
        yield f"const {self.var(var)}{annotation} = {got};"

    def record_entries(self, product: str) -> dict[str, str]:
        return {"name": pascal(product)}

    def record(self, node: Node) -> str:
        return self.literal(json_source(node))

    def node(self, node: Node) -> str:
        return f"JSON.parse({self.literal(json_source(node))})"

    def refused(self, call: Call, failure: Failure) -> Lines:
        if isinstance(failure, BadRecord):
            return self.lines("refused record", problems=self.texts(failure.problems), call=call.code)
        return self.lines("refused", failure=self._failure(failure), call=call.code)

    def refused_setting(self, call: Call, failure: Failure) -> Lines:
        return self.lines("refused", failure=self._failure(failure), call=f"({call.code})")

    def narrowed(self, step: s.Make, call: Call) -> Lines:
        yield f"const {self.var(step.var)} = {call.code} as {self.names.type(step.product)};"

    def change_name(self, owner: Product, change: Change) -> str:
        return change_name(self.plan, owner, change, camel)

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        yield f"is({self.path(path)}, {self.value(value)});"

    def answers(self, step: s.Answers) -> Lines:
        handed = ", ".join(self.value(argument) for argument in step.arguments)
        call = f"{self.var(step.var)}.{self.names.member(step.operation)}({handed})"
        expected = "undefined" if isinstance(step.value, Absent) else self.value(step.value)
        yield f"is({call}, {expected});"

    # --- the caller's own ---------------------------------------------------------------------------------

    def hold(self, step: s.Hold) -> Lines:
        value = self.code.untold(step.type, self.value(step.value))
        yield f"const {self.var(step.var)}{self._annotation(step.type)} = {value};"

    def emptied(self, var: str) -> Lines:
        emptied = ".length = 0" if isinstance(self.scope.type_of(var), ListOf) else ".clear()"
        yield f"{self.var(var)}{emptied};"

    def handed(self, step: Step) -> Lines:
        match step:
            case s.ChangeInHeld(var, field, value):
                first = self.first_of(self.scope.type_of(var), self.var(var))
                yield f"{first}.{self.names.member(field)} = {self.value(value)};"
            case s.ChangeOut(path):
                yield f"tryToEmpty({self.path(path)});"
            case s.Assign(var, field, value):
                yield f"fixed({self.var(var)}, {self.code.fields({field: self.value(value)})});"
            case s.Clear(path):
                yield f"{self.path(path)} = undefined;"

    def _annotation(self, type_: Type) -> str:
        product = self.plan.products.get(str(type_))
        told = isinstance(type_, Collection) or (product is not None and product.abstract)
        return f": {self.code.mutable_type(type_)}" if told else ""

    def one_instance(self, step: s.OneInstance) -> Lines:
        call = self.construction(step.product, step.arguments).code
        yield f"sameObject({call}, {call});"

    # --- ways of making -----------------------------------------------------------------------------------

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        return [], maker_of(self.names, variant, base)

    def loader_name(self, variant: Product) -> str:
        exported = text_literal(self.names.type(variant.name))
        return f"import.meta.resolve({text_literal(self._package)}), {exported}"

    def builder_words(self, product: str) -> BuilderNames:
        return BuilderNames(self.names, self.plan.products[product], self.builder(product))

    def begun_builder(self, step: m.NewBuilder) -> Lines:
        is_empty = step.preset is None and step.like is None
        if is_empty and self.builder(step.product).typed:
            return self.begun("begin builder", step.var, step.product, calls=self.calls_of(step))
        return super().begun_builder(step)

    def chained(self, step: m.BuildChained) -> Lines:
        builder = f"{self.var(step.var)}Builder"
        yield f"const {builder} = new {self.names.stem(step.product)}Builder();"
        for name, value in step.arguments.items():
            yield f"sameObject({builder}{self.set_in_builder(step.product, name, value)}, {builder});"
        yield f"const {self.var(step.var)} = {builder}.build();"

    def several(self, step: Step) -> Lines:
        match step:
            case m.Clone(var, original):
                yield f"const {self.var(var)} = {self.var(original)}.clone();"
            case m.CloneEach(product, originals, clones):
                old, new = map(self.local, ("originals", "clones"))
                yield f"const {old}: {self.names.type(product)}[] = [{', '.join(map(self.var, originals))}];"
                yield f"const {new} = {old}.map((each) => each.clone());"
                for number, clone in enumerate(clones):
                    yield f"const {self.var(clone)} = {new}[{number}]!;"
            case m.Take(var, path):
                absent = self.scope.field(path).may_be_absent and not path.first
                yield f"const {self.var(var)} = {self.taken(Call(self.path(path), absent=absent))};"
            case m.SameObject(left, right, _, same):
                yield f"{'sameObject' if same else 'notSameObject'}({self.var(left)}, {self.var(right)});"
            case m.Narrow(var, original, product):
                yield f"kind({self.var(original)}, {self._class_of(product)});"
                yield f"const {self.var(var)} = {self.var(original)} as {self.names.type(product)};"
            case m.AskRoles(family, role, names):
                yield from self._ask_roles(family, role, names)

    def _ask_roles(self, family: str, role: str, names: Sequence[str]) -> Lines:
        """Every part of a list role, and no others."""
        call = self.role_call(family, role, {}).code
        if set(names) <= self.unused:
            yield from self.counted(role, call, len(names))
            return
        parts = self.local(self.fresh("parts"))
        yield f"const {parts} = {call};"
        yield from self.counted(role, parts, len(names))
        for number, name in enumerate(names):
            if name not in self.unused:
                yield f"const {self.var(name)} = {parts}[{number}]!;"

    def member(self, family: str, name: str) -> str:
        return member_type(self.names, self.family(family), name)

    def stand_in(self, family: str) -> str:
        return f"StandIn{self.names.type(family)}"

    def role(self, family: str, role: str) -> str:
        return role_name(self.names, self.scope.role(family, role))

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        classes = ", ".join(map(self._class_of, products))
        yield f"kinds({client_name(name)}({self.var(family)}), [{classes}]);"

    # --- pools --------------------------------------------------------------------------------------------

    def parameter(self, name: str) -> str:
        return self._parameters.escape(self.names.parameter(name))

    def header(self, product: str) -> dict[str, Any]:
        return {"parameter": self._key_parameter(product), "local": self.local}

    def _key_parameter(self, product: str) -> str:
        """The parameter name of a maker's key: its one part, or an object of all parts."""
        names = self.pool_of(product).key
        return self.parameter(names[0]) if len(names) == 1 else self._parameters.escape("key")

    def key(self, product: str, key: Arguments, *, rebuilt: bool = False) -> str:
        fields = self.plan.products[product]
        values = {name: self.part(value, fields.field(name), rebuilt) for name, value in key.items()}
        return next(iter(values.values()), "") if len(values) <= 1 else self.code.fields(values)

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        text = self.value(value)
        return f'[...{text}].join("")' if rebuilt and field.type == TEXT else text

    def is_key(self, product: str, key: Arguments) -> str:
        whole = self._key_parameter(product)
        names = [whole if len(key) == 1 else f"{whole}.{self.names.member(name)}" for name in key]
        values = map(self.value, key.values())
        return " && ".join(f"{name} === {value}" for name, value in zip(names, values, strict=True))

    def makes(self, product: str, given: Arguments) -> str:
        """Where a maker hands on its key, it hands on the whole of it."""
        of_key = self.of_maker(product, {})
        if any(given.get(name) != value for name, value in of_key.items()):
            return self.new(self.plan.products[product], given)
        others = [self.code.property(n, self.code.operand(v)) for n, v in given.items() if n not in of_key]
        first, *rest = of_key
        parameter = self._key_parameter(product)
        whole = f"...{parameter}" if rest else self.code.property(first, parameter)
        keyed = parameter if rest and not others else listed([whole, *others])
        return f"new {self.names.type(product)}({keyed})"
