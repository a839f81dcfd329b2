"""The words of C++'s tests. A variable holds a value, a reference or what is shared: `code.variables` knows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Protocol

from urform.declaration.types import REAL, TEXT, Collection, ProductType, Type, present
from urform.declaration.values import Absent, Real, Value
from urform.languages.cpp.builders import BuilderNames
from urform.languages.cpp.context import Context
from urform.languages.cpp.copies import duplicating
from urform.languages.cpp.expressions import UNTOLD, client_name, text_literal
from urform.languages.cpp.factories import creator_of
from urform.languages.cpp.families import member_type, role_name
from urform.languages.cpp.members import bound_as_data, is_span
from urform.languages.cpp.names import KEYWORDS, TEST_HELPERS, Names
from urform.languages.cpp.operations import is_behind_pointer
from urform.languages.cpp.values_in_tests import Held, TestExpressions
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import Words, snake
from urform.languages.naming.scope import Scope
from urform.languages.testing.contract import Call, Lines, Proof
from urform.languages.testing.writer import StepWriter
from urform.plan import making_steps as m
from urform.plan import steps as s
from urform.plan.messages import said_of
from urform.plan.model import Builder, Change, Field, Product, Selection
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
from urform.plan.record_steps import ReadBack, ReadRecord
from urform.plan.record_trees import Node, Tree
from urform.plan.script import Step
from urform.plan.variables import changed_in, used_by

RESERVED = KEYWORDS | TEST_HELPERS
# What tests of pools call their own variables: a maker's parameter may hide none of them.
VARIABLES = frozenset("asked at_work entered go_on gone got inner inside one pool slow two".split())
PHRASES = {
    "statement": "«code»;",
    "select": "«type»::make(«given»)",
    "select or nothing": "«type»::make_or_null(«given»)",
    "nothing": "EXPECT_EQ(«call», nullptr);",
    "read word": "«parse»(«text»)",
    "word is": "EXPECT_EQ(«var», «value»);\nEXPECT_EQ(to_string(«var»), «text»);",
    "words are": "EXPECT_EQ(«every», (std::array<«type», «count»>{«values»}));",
    "ask": "«type»::make(«given»)",
    "ask registry": "«on».make(«given»)",
    "creator": "«type»::creator(«key»)",
    "create": "«on»(«given»)",
    "new registry": "«const»«stem»Registry «var»;",
    "register": "«on».add(«key», «maker»)",
    "loader": "int «loads» = 0;\nconst auto «loader» = [&«loads»]() -> «stem»Registry::Maker {\n"
    "    ++«loads»;\n    return «maker»;\n};",
    "late loader": "int «loads» = 0;\nconst auto «loader» = [&«loads»]() -> «stem»Registry::Maker {\n"
    "    ++«loads»;\n    if («loads» == 1) {\n        return nullptr;\n    }\n    return «maker»;\n};",
    "register loader": "«on».add_loader(«key», «loader»)",
    "loads are": "EXPECT_EQ(«loads», «count»);",
    "unregister": "EXPECT_TRUE(«on».remove(«key»));",
    "unregister nothing": "EXPECT_FALSE(«on».remove(«key»));",
    "keys are": "EXPECT_EQ(«on».keys(), (std::vector<std::string>{«texts»}));",
    "is absent": "EXPECT_FALSE(«got».has_value());",
    "equal": "EXPECT_EQ(«left», «right»);",
    "equal hashes": "EXPECT_EQ(hashed(«left»), hashed(«right»));",
    "unequal": "EXPECT_NE(«left», «right») << «differing»;",
    "was there": "EXPECT_TRUE(«call»);",
    "was not there": "EXPECT_FALSE(«call»);",
    "kind is": "EXPECT_TRUE(is_a<«type»>(«var»));",
    "key is": "EXPECT_EQ(«holder»key(), «key»);",
    "new builder": "«stem»Builder «var»;",
    "begin builder": "auto «var» = «stem»Builder()«calls»;",
    "begin preset": "auto «var» = «stem»Builder<>::«preset»()«calls»;",
    "begin like": "auto «var» = «stem»Builder<>::like(«like»)«calls»;",
    "preset": "auto «var» = «stem»Builder::«preset»();",
    "builder like": "auto «var» = «stem»Builder::like(«like»);",
    "setter": ".«setter»(«value»)",
    "fluent setter": ".«setter»(«value»)",
    "build": "«on».build()",
    "build refused": "static_cast<void>(«on».build());",
    "chained": "«stem»Builder()«calls».build()",
    "new exemplars": "«const»«stem»Exemplars «var»;",
    "add exemplar": "«on».add(«name», «product»)",
    "get exemplar": "«on».get(«name»)",
    "names are": "EXPECT_EQ(«on».names(), (std::vector<std::string>{«texts»}));",
    "new pool": "«stem»Pool «var»;",
    "new pool with maker": "«stem»Pool «var»(«maker»);",
    "maker": "[](«parameters») { return «made»; }",
    "ask pool": "«on».get(«key»)",
    "counts are": "EXPECT_EQ(«on».made(), «made»);\nEXPECT_EQ(«on».reused(), «reused»);",
    "family": "«type»::«entry»(«key»)",
    "family is": "EXPECT_TRUE(is_a<«member»>(«var»));",
    "role": "«on».«role»(«given»)",
    "new stand-in": "const «type» «var»;",
    "asked are": "EXPECT_EQ(«on».asked(), (std::vector<std::string>{«texts»}));",
    "first": "«of».front()",
    "first of map": "«of».begin()->second",
    "read record": "records::read_«name»(«record»)",
    "read with": "records::read_«name»_with(«on», «record»)",
    "read back": "records::read_«name»(records::write_«written»(«var»))",
    "record is": "EXPECT_EQ(records::write_«name»(«var»).to_text(), «text»);",
    "create all": "const auto all = create_all(of_items({«records»}), records::read_«name»);\n"
    "EXPECT_EQ(all.first.size(), «made»U);\nEXPECT_EQ(said(all.second), (std::vector<std::string>{«problems»}));",
    "refused record": "EXPECT_EQ(problems([&] { return «call»; }), (std::vector<std::string>{«problems»}));",
    "refused": "EXPECT_EQ(refusal([&] { return «call»; }), «failure»);",
    "count": "EXPECT_EQ(«listed».size(), «size»U);",
}
PRINTING = {
    "refused": "try {\n    static_cast<void>(«call»);\n} catch (const CreationError &error) {\n"
    "    std::cout << \"  refused: \" << error.what() << '\\n';\n}",
    "print": "std::cout << «words» << «shown» << '\\n';",
    "print same": "std::cout << \"  the same object: \" << (&«left» == &«right») << '\\n';\n"
    "std::cout << \"  equal: \" << («left» == «right») << '\\n';",
    "print counts": 'std::cout << "  made " << «on».made() << " and reused " << «on».reused() << \'\\n\';',
}


class CppProof(Proof, Protocol):
    """What this writer needs beyond the writers of all targets."""

    @property
    def context(self) -> Context:
        """The plan as it is spelt in C++."""

    @property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide."""


class Writer(StepWriter):
    """Writes the steps of one test."""

    code: TestExpressions
    names: Names
    phrases = PHRASES
    printing = PRINTING
    takes_records = True
    spell = staticmethod(snake)
    creates_in_vain = False

    def __init__(self, proof: CppProof, scope: Scope, *, prints: bool = False) -> None:
        super().__init__(proof, scope, prints=prints)
        self._context = proof.context
        self._parameters = Words(VARIABLES, TEST_HELPERS, proof.reserved)
        self._changed: frozenset[str] = frozenset()

    def begin(self, steps: Sequence[Any]) -> None:
        """Note which variables of a case are changed."""
        super().begin(steps)
        self._changed = changed_in(steps)
        self._last = {var: step for step in steps for var in used_by(step)}

    def named(self, product: str) -> dict[str, str]:
        unknown = next((family.unknown for family in self.plan.families if family.name == product), "")
        return {
            "type": self.names.type(product),
            "stem": self.names.derived(product, ""),
            "entry": "find" if unknown == "nothing" else "of",
        }

    # --- variables and values -----------------------------------------------------------------------------

    def _let(self, var: str, form: str = "value") -> str:
        """The begin of a statement that makes a variable."""
        name, type_ = self.var(var), self.scope.type_of(var)
        self.code.variables[name] = Held(type_, form)
        constant, product = self._const(var), self.plan.products.get(str(type_))
        if form == "reference":
            return f"{constant}auto &{name}"
        if form == "value" and product is not None and product.abstract:
            return f"{constant}{self.code.type(type_)} {name}"
        return f"{constant}auto {name}"

    def _const(self, var: str) -> str:
        return "" if var in self._changed else "const "

    def choice(self, choice: str) -> dict[str, str]:
        names = self.names
        return {"type": names.type(choice), "parse": names.parse(choice), "every": names.every(choice)}

    def literal(self, text: str) -> str:
        return text_literal(text)

    def reference(self, var: str) -> str:
        return self.code.reference(self.var(var))

    def _holder(self, var: str) -> str:
        """A variable as what stands before the name of a member."""
        name = self.var(var)
        return f"{name}{'->' if self.code.is_pointer(name) else '.'}"

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        assert type_ is not None
        shared = field is not None and self.code.shared(field)
        return self.code.value(self.renamed(operand), type_, shared=shared)

    def given(self, product: Product, given: Arguments) -> str:
        return self.code.arguments(product, given)

    def given_in_full(self, product: Product, given: Arguments) -> str:
        return self.code.all_arguments(product, given)

    def new(self, product: Product, given: Arguments) -> str:
        return f"{self.names.type(product.name)}({self.code.arguments(product, given)})"

    def selected(self, selection: Selection, given: Arguments) -> str:
        return self.code.selected(selection, given)

    def path(self, path: Path) -> str:
        method = self._context.method(self.scope.product_of(path.var), path.field)
        type_ = self.scope.field(Path(path.var, path.field)).type
        return self.first_of(type_, f"{self._holder(path.var)}{method}()", path.first)

    def _inside(self, path: Path) -> str:
        """The product that a path leads to, to be changed."""
        field = self.scope.field(Path(path.var, path.field))
        text = f"{self._holder(path.var)}mutable_{path.field}()"
        if isinstance(field.type, Collection):
            return f"{'' if is_span(self._context, field) else '*'}{text}.front()"
        return f"*{text}" if field.may_be_absent else text

    def setting(self, path: Path, value: str) -> str:
        field, holder = self.scope.field(path), self._holder(path.var)
        if path.inner is not None:
            inside = self._inside(Path(path.var, path.field, path.first))
            holder = f"{inside[1:]}->" if inside.startswith("*") else f"{inside}."
        return f"{holder}set_{field.name}({value})"

    def _failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'missing("{owner}", {{{self.texts(fields)}}})'
            case OutOfLimit(owner, field, limit, bound):
                at = f'"{owner}", "{field}", "{limit}", {bound_as_data(bound) or "{}"}'
                _, untold = UNTOLD.get(limit.rpartition(".")[2], ("", ""))
                return f"limit({at}, {text_literal(said_of(failure, untold))})"
            case UnknownKey(owner, key, known):
                return f'unknown("{owner}", {text_literal(key)}, {{{self.texts(known)}}})'
            case Refused(owner, reason):
                return f'refused("{owner}", {text_literal(reason)})'
            case DuplicateKey(owner, key):
                return f'taken("{owner}", {text_literal(key)})'
            case BadRecord(owner):
                raise TypeError(f"{owner} is refused by its problems, which are told one by one")

    # --- statements around a call -------------------------------------------------------------------------

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        if call.refers:
            yield f"const auto &{self.var(var)} = {'*' if call.absent else ''}{call.code};"
        elif var in self.unused:
            yield f"static_cast<void>({call.code});"
        elif isinstance(step, (ReadRecord, ReadBack)) and self._is_chosen(step.product):
            selected = self.fresh("selected")
            yield f"const auto {selected} = {call.code};"
            yield f"{self._let(step.var, 'reference')} = *{selected};"
        else:
            yield f"{self._let(var, 'shared' if isinstance(step, m.PoolAsk) else 'value')} = {call.code};"

    def _is_chosen(self, product: str) -> bool:
        """Whether a product is read behind a pointer, for a factory by values makes it."""
        return self.plan.selected_by(self.plan.products[product]) is not None

    def family_call(self, name: str, key: str) -> Call:
        call = super().family_call(name, key)
        return Call(call.code, call.fails, call.absent, refers=True)

    def record_entries(self, product: str) -> dict[str, str]:
        return {"name": snake(product)}

    def asked_record(self, node: Node) -> str:
        """In the walk-through without the helpers of tests."""
        match node if self.prints else None:
            case Tree(entries):
                pairs = (f"{{{text_literal(name)}, {self.asked_record(held)}}}" for name, held in entries)
                return f"RecordValue::Object{{{', '.join(pairs)}}}"
            case tuple(items):
                return f"RecordValue::List{{{', '.join(map(self.asked_record, items))}}}"
        return self.node(node)

    def node(self, node: Node) -> str:
        match node:
            case Tree(entries):
                pairs = (f"{{{text_literal(name)}, {self.node(held)}}}" for name, held in entries)
                return f"of_names({{{', '.join(pairs)}}})"
            case tuple():
                return f"of_items({{{', '.join(map(self.node, node))}}})"
            case bool():
                return f"RecordValue({'true' if node else 'false'})"
            case int() | float():
                return f"RecordValue({node!r})"
            case str():
                return f"RecordValue({self.code.text(node)})"
        return "RecordValue()"

    def refused(self, call: Call, failure: Failure) -> Lines:
        if isinstance(failure, BadRecord):
            return self.lines("refused record", call=call.code, problems=self.texts(failure.problems))
        code = f"&{call.code}" if call.refers else call.code
        return self.lines("refused", call=code, failure=self._failure(failure))

    def narrowed(self, step: s.Make, call: Call) -> Lines:
        selected = self.fresh("selected")
        yield f"const auto {selected} = {call.code};"
        yield f"{self._let(step.var, 'reference')} = as<{self.names.type(step.product)}>(*{selected});"

    def begun(self, phrase: str, var: str, product: str, **places: str) -> Lines:
        named = {"var": self.var(var), "const": self._const(var), **self.named(product)}
        return self.lines(phrase, **named, **places)

    def change_name(self, owner: Product, change: Change) -> str:
        return change_name(self.plan, owner, change, str)

    def changed(self, var: str) -> str:
        return self._holder(var)

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        got, value = self.path(path), self.renamed(value)
        yield f"EXPECT_EQ({got}, {self.code.wanted(value, field)});"
        yield from _plain_zero(field.type, f"*{got}" if field.may_be_absent else got, value)

    def answers(self, step: s.Answers) -> Lines:
        product = self.scope.product_of(step.var)
        declared = product.operation(step.operation)
        pairs = zip(step.arguments, declared.takes, strict=True)
        handed = ", ".join(self._handed_to(given, parameter.type) for given, parameter in pairs)
        returns = present(declared.returns)
        star = "*" if is_behind_pointer(self._context, returns) else ""
        call = f"{self._holder(step.var)}{self._context.method(product, step.operation)}({handed})"
        if isinstance(step.value, Absent):
            yield f"EXPECT_FALSE({call});"
            return
        got = f"{star}{call}"
        yield f"EXPECT_EQ({got}, {self.code.expected(step.value, returns)});"
        yield from _plain_zero(returns, got if returns == declared.returns else f"*{got}", step.value)

    def _handed_to(self, operand: Operand, type_: Type) -> str:
        """The argument of an operation: a reference to a product, else a value."""
        is_product = isinstance(type_, ProductType)
        return self.code.expected(self.renamed(operand), type_) if is_product else self.value(operand, type_)

    def equal(self, left: str, right: str) -> Lines:
        return self.lines("equal", left=self.reference(left), right=self.reference(right))

    def unequal(self, left: str, right: str, differing: str) -> Lines:
        told = text_literal(f"equal in spite of {differing}")
        return self.lines("unequal", left=self.reference(left), right=self.reference(right), differing=told)

    def kind_is(self, var: str, product: str) -> Lines:
        return self.lines("kind is", type=self.names.type(product), var=self.reference(var))

    def key_is(self, var: str, key: str) -> Lines:
        return self.lines("key is", holder=self._holder(var), key=self.literal(key))

    # --- the caller's own ---------------------------------------------------------------------------------

    def hold(self, step: s.Hold) -> Lines:
        text = self.value(step.value, step.type)
        yield f"{self._let(step.var)} = {text};"

    def handed(self, step: Step) -> Lines:
        assert isinstance(step, s.Clear), "what else could change is the callee's own"
        yield f"{self._holder(step.path.var)}set_{step.path.field}({{}});"

    # --- ways of making -----------------------------------------------------------------------------------

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        return [], creator_of(self._context, base, self.factory(base.name), variant.name)

    def begun_builder(self, step: m.NewBuilder) -> Lines:
        if not self.builder(step.product).typed:
            return super().begun_builder(step)
        calls = self.calls_of(step)
        if step.like is not None:
            like = self.reference(step.like)
            return self.begun("begin like", step.var, step.product, like=like, calls=calls)
        if step.preset is None:
            return self.begun("begin builder", step.var, step.product, calls=calls)
        preset = self.builder_words(step.product).preset(step.preset)
        return self.begun("begin preset", step.var, step.product, preset=preset, calls=calls)

    def on_builder(self, step: m.BuilderCall, builder: Builder, call: str) -> Lines:
        if not builder.typed:
            return super().on_builder(step, builder, call)
        name = self.var(step.builder)
        handed = f"std::move({name}){call}"
        is_last = step is self._last[step.builder]
        return self.lines(
            "statement", code=f"static_cast<void>({handed})" if is_last else f"{name} = {handed}"
        )

    def builder_words(self, product: str) -> BuilderNames:
        return BuilderNames(self.plan.products[product], self.builder(product))

    def several(self, step: Step) -> Lines:
        match step:
            case m.Clone(var, original):
                call = self._cloned(original)
                yield f"{self._let(var)} = {call};"
            case m.CloneEach(product, originals, clones):
                yield from self._clone_each(self.plan.products[product], originals, clones)
            case m.Take(var, path):
                yield self._take(var, path)
            case m.SameObject(left, right, _, same):
                yield from self._same(self.var(left), self.var(right), same)
            case m.Narrow(var, original, product):
                self.code.variables[self.var(var)] = Held(ProductType(product), "reference")
                narrowed = f"as<{self.names.type(product)}>({self.reference(original)})"
                yield f"const auto {self.var(var)} = {narrowed};"
            case m.AskRoles(family, role, names):
                yield from self._ask_roles(family, role, names)

    def _cloned(self, original: str) -> str:
        """A clone of a variant is behind a pointer to its base; the test knows better."""
        product = self.scope.product_of(original)
        method = duplicating(self._context, product)
        call = f"{self._holder(original)}{method}()" if method else self.reference(original)
        return f"as<{self.names.type(product.name)}>(*{call})" if product.base is not None else call

    def _clone_each(self, product: Product, originals: Sequence[str], clones: Sequence[str]) -> Lines:
        type_, names = self.code.type(ProductType(product.name)), ", ".join(map(self.var, originals))
        method, listed = duplicating(self._context, product), self.fresh("clones")
        call = f"each{'->' if product.abstract else '.'}{method}()" if method else "each"
        yield f"std::vector<{type_}> {listed};"
        yield f"for (const auto &each : std::vector<{type_}>{{{names}}}) {{"
        yield f"    {listed}.push_back({call});"
        yield "}"
        for number, clone in enumerate(clones):
            yield f"{self._let(clone, 'reference')} = {'*' if product.abstract else ''}{listed}[{number}];"

    def _take(self, var: str, path: Path) -> str:
        field = self.scope.field(path)
        if var in self._changed:
            return f"{self._let(var, 'reference')} = {self._inside(path)};"
        text, shared = self.path(path), self.code.shared(field)
        inner = self.plan.product_in(field.type)
        if path.first == 0 and field.may_be_absent:
            text = f"*{text}"
            text = f"*{text}" if self.code.boxed(field) else text
        if not shared and inner is not None and inner.abstract and (path.first or field.may_be_absent):
            text = f"*{text}"
        return f"{self._let(var, 'shared' if shared else 'reference')} = {text};"

    def _same(self, left: str, right: str, same: bool) -> Lines:
        """Shared objects are compared by address; owned ones are never the same object."""
        if all(self.code.variables[name].form == "shared" for name in (left, right)):
            yield f"EXPECT_{'EQ' if same else 'NE'}({left}.pointer(), {right}.pointer());"

    def _ask_roles(self, family: str, role: str, names: Sequence[str]) -> Lines:
        call = self.role_call(family, role, {}).code
        if set(names) <= self.unused:
            yield from self.counted(role, call, len(names))
            return
        listed = self.fresh(f"all_{role}")
        yield f"const auto {listed} = {call};"
        yield from self.counted(role, listed, len(names))
        product = self.plan.products[self.scope.role(family, role).product]
        for number, name in enumerate(names):
            yield f"{self._let(name, 'reference')} = {'*' if product.abstract else ''}{listed}.at({number});"

    def exemplar(self, store: str, product: str) -> str:
        return self.reference(product)

    def member(self, family: str, name: str) -> str:
        return member_type(self._context, self.family(family), name)

    def role(self, family: str, role: str) -> str:
        return role_name(role)

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        types = ", ".join(f'"{product}"' for product in products)
        got = f"{client_name(name)}({self.var(family)})"
        yield f"EXPECT_EQ({got}, (std::vector<std::string>{{{types}}}));"

    # --- pools --------------------------------------------------------------------------------------------

    def parameter(self, name: str) -> str:
        return self._parameters.escape(self.names.local(name))

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        text = self.value(value, field.type)
        return f"std::string({text})" if rebuilt and field.type == TEXT else text

    def header(self, product: str) -> dict[str, str]:
        named, unnamed = [], []
        for name, local in self.parameters(product).items():
            type_ = self.code.type(self.plan.products[product].field(name).type)
            typed = f"const {type_} &" if type_ == "std::string" else f"{type_} "
            named.append(f"{typed}{local}")
            unnamed.append(typed.rstrip())
        return {"parameters": ", ".join(named), "unnamed": ", ".join(unnamed)}

    def scenario(self, step: Any) -> dict[str, Any]:
        return {**super().scenario(step), "pool": self.names.derived(step.product, "Pool")}

    # --- the walk-through ---------------------------------------------------------------------------------

    def printed(self, words: str, shown: str) -> Lines:
        return self.lines("print", words=text_literal(f"  {words}: "), shown=self.reference(shown))

    def printed_same(self, left: str, right: str) -> Lines:
        return self.lines("print same", left=self.reference(left), right=self.reference(right))


def _plain_zero(type_: Type, got: str, value: Operand | Value) -> Lines:
    """A zero without a sign, which a comparison does not tell."""
    if type_ == REAL and isinstance(value, Real) and value.number == 0:
        yield f"EXPECT_FALSE(std::signbit({got}));"
