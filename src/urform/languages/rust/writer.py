"""The words of Rust's tests. A variable owns, borrows or shares what it holds: `code.variables` knows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Protocol

from urform.declaration.told import Told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    REAL,
    TEXT,
    Collection,
    ListOf,
    MapOf,
    MaybeOf,
    ProductType,
    Type,
    innermost,
)
from urform.declaration.values import Absent, Boolean, Items, Real, Text, Value
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import Words, snake
from urform.languages.naming.scope import Scope
from urform.languages.rust.builders import BuilderNames, build_fails
from urform.languages.rust.changes import change_fails
from urform.languages.rust.context import Context
from urform.languages.rust.copies import duplicating
from urform.languages.rust.expressions import client_name, is_copied, text_literal, told_bound
from urform.languages.rust.factories import creating_fails, factory_registration, function_of
from urform.languages.rust.families import lookup_name, member_type, role_fails, role_name
from urform.languages.rust.layout import CALL_WIDTH, WIDTH
from urform.languages.rust.names import KEYWORDS, TEST_HELPERS, Names
from urform.languages.rust.nodes import IN_TESTS, PLAIN, node_text
from urform.languages.rust.values_in_tests import Held, TestExpressions
from urform.languages.testing.contract import Call, Lines, Proof
from urform.languages.testing.writer import StepWriter
from urform.plan import making_steps as m
from urform.plan import steps as s
from urform.plan.chaining import CALLS
from urform.plan.messages import NO_MAKER
from urform.plan.model import Builder, Change, Factory, Family, Field, Product, Role, Selection
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
from urform.plan.record_trees import Node
from urform.plan.script import Step
from urform.plan.variables import changed_in, used_by

RESERVED = KEYWORDS | TEST_HELPERS
# What tests of pools call their own variables: a maker's parameter may hide none of them.
VARIABLES = frozenset("asked at_work entered go_on got inner one pool two inside reason".split())
PHRASES = {
    "statement": "«code»;",
    "select": "«function»(«given»)",
    "nothing": "nothing(«call»);",
    "read word": "«text».parse::<«type»>()",
    "word is": 'is("word", &«var», &«value»);\nis("text", «var».as_str(), «text»);',
    "words are": 'is("words", «type»::ALL.as_slice(), &[«values»]);',
    "ask": "«function»(«given»)",
    "ask registry": "«on».make(«given»)",
    "creator": "«stem»Kind::of(«key»)",
    "create": "«on».create(«given»)",
    "new registry": "let «mut»«var» = «stem»Registry::new();",
    "register": "«on».register(«key», Box::new(«maker»))",
    "loader": "let «loads» = Arc::new(AtomicU64::new(0));\nlet counted = Arc::clone(&«loads»);\n"
    "let «loader»: «stem»Loader = Box::new(move || {\n    counted.fetch_add(1, Ordering::SeqCst);\n"
    "    let maker: «stem»Maker = Box::new(«maker»);\n    Ok(maker)\n});",
    "late loader": "let «loads» = Arc::new(AtomicU64::new(0));\nlet counted = Arc::clone(&«loads»);\n"
    "let «loader»: «stem»Loader = Box::new(move || {\n    if counted.fetch_add(1, Ordering::SeqCst) == 0 {\n"
    "        return Err(«refusal»);\n    }\n    let maker: «stem»Maker = Box::new(«maker»);\n    Ok(maker)\n});",
    "register loader": "«on».register_loader(«key», «loader»)",
    "loads are": 'is("loads", &«loads».load(Ordering::SeqCst), &«count»);',
    "unregister": "is(«what», &«on».unregister(«key»), &true);",
    "unregister nothing": "is(«what», &«on».unregister(«key»), &false);",
    "keys are": 'is("keys", «on».keys().as_slice(), &[«texts»]);',
    "is absent": 'is("«name»", &«got», &None);',
    "key is": 'is("key", «var».key(), «key»);',
    "new builder": "let «mut»«var» = «stem»Builder::new()«calls»;",
    "preset": "let «mut»«var» = «stem»Builder::«preset»()«calls»;",
    "builder like": "let «mut»«var» = «stem»Builder::like(«like»)«calls»;",
    "setter": ".«setter»(«value»)",
    "fluent setter": ".«setter»(«value»)",
    "build": "«on».build()",
    "build refused": "let _ = «on».build();",
    "chained": "«stem»Builder::new()«calls».build()",
    "new exemplars": "let «mut»«var» = «stem»Exemplars::new();",
    "add exemplar": "«on».add(«name», «product»)",
    "get exemplar": "«on».get(«name»)",
    "names are": 'is("names", «on».names().as_slice(), &[«texts»]);',
    "new pool": "let «var» = «stem»Pool::new();",
    "new pool with maker": "let «var» = «maker»;",
    "ask pool": "«on».get(«key»)",
    "counts are": 'is("made and reused", &(«on».made(), «on».reused()), &(«made», «reused»));',
    "family": "«lookup»(«key»)",
    "family is": 'is("member", kind_of(«var»).as_str(), "«member»");',
    "role": "«on».«role»(«given»)",
    "new stand-in": "let «var» = «type»::default();",
    "asked are": 'is("asked", «on».asked().as_slice(), &[«texts»]);',
    "refused": "let «result» = «call»;\nrefuses(«result», «failure»);",
    "count": 'is("length of «role»", &«listed».len(), &«size»);',
    "read record": "records::read_«name»(&«record»)",
    "read with": "records::read_«name»_with(&«on», &«record»)",
    "read back": "records::read_«name»(&records::write_«written»(«var»))",
    "record is": 'is("record", records::write_«name»(«var»).to_text().as_str(), «text»);',
    "create all": "let (made, problems) = records::create_all(&of_items([«records»]), records::read_«name»);\n"
    'is("how many are made", &made.len(), &«made»);\nsays_all(&problems, &[«problems»]);',
    "refused record": "let «result» = «call»;\nrefuses_record(«result», &[«problems»]);",
}
PRINTING = {
    "refused": 'if let Err(error) = «call» {\n    println!("  refused: {error}");\n}',
    "print": 'println!("  «words»: {«shown»:?}");',
    "print same": 'println!("  the same object: {}", «same»);\nprintln!("  equal: {}", «alike»);',
    "print counts": 'println!("  made {} and reused {}", «on».made(), «on».reused());',
}


class RustProof(Proof, Protocol):
    """What this writer needs beyond the writers of all targets."""

    @property
    def context(self) -> Context:
        """The plan as it is spelt in Rust."""

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
    two_entries = False

    def __init__(self, proof: RustProof, scope: Scope, *, prints: bool = False) -> None:
        super().__init__(proof, scope, prints=prints)
        self._context = proof.context
        self._parameters = Words(VARIABLES, TEST_HELPERS, proof.reserved)
        self._good = "?" if prints else ".unwrap()"  # said after a call that may fail, and does not here
        self._there = (
            '.expect("it was given")' if prints else ".unwrap()"
        )  # of what may be absent, and is there
        self._changed: frozenset[str] = frozenset()
        self._stand_ins: frozenset[str] = frozenset()

    def begin(self, steps: Sequence[Any]) -> None:
        """Note which variables of a case are changed, and which hold a stand-in, no reference to a member."""
        super().begin(steps)
        self._changed = changed_in(steps)
        self._last = {var: step for step in steps for var in used_by(step)}
        calls = (step for step in steps if isinstance(step, CALLS) and step is not self._last[step.builder])
        self._handed_on = frozenset(
            step.builder for step in calls
        )  # builders that a call takes and gives back
        self._stand_ins = frozenset(step.var for step in steps if isinstance(step, m.NewStandIn))

    def named(self, product: str) -> dict[str, str]:
        function = function_of(self.plan.products[product]) if product in self.plan.products else ""
        return {
            "type": self.names.type(product),
            "stem": self.names.derived(product, ""),
            "function": function,
            "lookup": lookup_name(product),
        }

    # --- variables and values -----------------------------------------------------------------------------

    def _let(self, var: str, form: str = "own") -> str:
        """The begin of a statement that makes a variable."""
        name = self.var(var)
        self.code.variables[name] = Held(self.scope.type_of(var), form)
        return f"let {'mut ' if var in self._changed and form == 'own' else ''}{name}"

    def literal(self, text: str) -> str:
        return text_literal(text)

    def reference(self, var: str) -> str:
        return self.code.reference(self.var(var))

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        assert type_ is not None
        shared = field is not None and self.code.shared(field)
        return self.code.argument(self.renamed(operand), type_, shared=shared)

    def given(self, product: Product, given: Arguments) -> str:
        return self.code.arguments(product, given)

    def new(self, product: Product, given: Arguments) -> str:
        return f"{self.names.type(product.name)}::new({self.code.arguments(product, given)})"

    def selected(self, selection: Selection, given: Arguments) -> str:
        return self.code.selected(selection, given)

    def select(self, selection: Selection, arguments: Arguments, *, or_nothing: bool = False) -> Call:
        """One entry serves for both: the `ok()` of its result is the other."""
        call = super().select(selection, arguments)
        return Call(f"{call.code}.ok()", absent=True) if or_nothing and call.fails else call

    def path(self, path: Path) -> str:
        method = self._context.method(self.scope.product_of(path.var), path.field)
        type_ = self.scope.field(Path(path.var, path.field)).type
        return self.first_of(type_, f"{self.var(path.var)}.{method}()", path.first)

    def first_of(self, type_: Type, text: str, count: int = 1) -> str:
        for _ in range(count):
            lent = f"&{text}" if text.endswith("]") else text
            text = f"first_of({lent})" if isinstance(type_, MapOf) else f"{text}[0]"
            type_ = type_.element if isinstance(type_, Collection) else type_
        return text

    def _inside(self, path: Path) -> str:
        """The product that a path leads to, to be changed."""
        field = self.scope.field(Path(path.var, path.field))
        text = f"{self.var(path.var)}.{path.field}_mut()"
        if isinstance(field.type, Collection):
            return f"{text}.next(){self._there}"
        return f"{text}{self._there}" if field.may_be_absent else text

    def setting(self, path: Path, value: str) -> str:
        field, holder = self.scope.field(path), self.var(path.var)
        if path.inner is not None:
            holder = self._inside(Path(path.var, path.field, path.first))
        if field.may_be_absent:
            value = f"Some({f'{value[1:]}.as_str()' if value.startswith('&') else value})"
        return f"{holder}.set_{field.name}({value})"

    def _failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'missing("{owner}", &[{self.texts(fields)}])'
            case OutOfLimit(owner, field, limit, bound, said):
                at = f'"{owner}", "{field}", "{limit}", {self._bound(bound)}'
                return f"outside({at}, {text_literal(said or '')})"
            case UnknownKey(owner, key, known):
                return f'unknown("{owner}", {text_literal(key)}, &[{self.texts(known)}])'
            case Refused(owner, reason):
                return f'refused("{owner}", {text_literal(reason)})'
            case DuplicateKey(owner, key):
                return f'taken("{owner}", {text_literal(key)})'
            case BadRecord(owner):
                raise TypeError(f"{owner} is refused by its problems, which are told one by one")

    def _bound(self, bound: object) -> str:
        match bound:
            case None | True:
                return "Bound::None"
            case tuple() if isinstance(bound[0], str):
                return f"Bound::Texts(&[{self.texts(bound)}])"
            case tuple():
                return f"Bound::Integers(&[{', '.join(map(str, bound))}])"
            case float():
                return f"Bound::Real({bound + 0.0!r})"
            case Told() if not KINDS[bound.kind].in_time:
                return told_bound(bound)
            case str(text) | Told(_, text):
                return f"Bound::Text({text_literal(text)})"
        return f"Bound::Integer({bound})"

    # --- what may fail ------------------------------------------------------------------------------------

    def product_fails(self, product: Product) -> bool:
        return self.code.fallible(product)

    def selection_fails(self, selection: Selection, or_nothing: bool) -> bool:
        return self.code.selection_fails(selection)

    def factory_fails(self, base: Product, factory: Factory, registry: str | None) -> bool:
        return creating_fails(self._context, base, factory)

    def build_fails(self, product: Product) -> bool:
        return build_fails(self._context, product)

    def role_fails(self, family: Family, role: Role) -> bool:
        return role_fails(self._context, family, role)

    def change_fails(self, change: Change) -> bool:
        return change_fails(self._context, change)

    def change_name(self, owner: Product, change: Change) -> str:
        return change_name(self.plan, owner, change, str)

    def told(self, call: Call, was_there: bool) -> Lines:
        end = self._good if call.fails else ""
        yield f'is("was there", &{call.code}{end}, &{"true" if was_there else "false"});'

    def setter_fails(self, field: Field) -> bool:
        return self.code.field_fails(field)

    # --- statements around a call -------------------------------------------------------------------------

    def taken(self, call: Call) -> str:
        return f"{call.code}{self._good if call.fails else ''}{self._there if call.absent else ''}"

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        if isinstance(step, m.FamilyOf):
            yield f"let {self.var(var)} = {self.taken(call)};"
        elif var in self.unused:
            yield f"{'' if call.fails or call.absent else 'let _ = '}{self.taken(call)};"
        else:
            yield f"{self._let(var, 'arc' if isinstance(step, m.PoolAsk) else 'own')} = {self.taken(call)};"

    def do(self, call: Call) -> Lines:
        yield f"{self.taken(call)};"

    def record_entries(self, product: str) -> dict[str, str]:
        return {"name": snake(product)}

    def node(self, node: Node) -> str:
        return node_text(node, IN_TESTS)

    def refused(self, call: Call, failure: Failure) -> Lines:
        result = "" if self.prints else self.fresh("result")
        if isinstance(failure, BadRecord):
            problems = self.texts(failure.problems)
            return self.lines("refused record", result=result, call=call.code, problems=problems)
        return self.lines("refused", result=result, call=call.code, failure=self._failure(failure))

    def nothing(self, call: Call) -> Lines:
        return self.lines("nothing", call=f"{call.code}{self._good if call.fails else ''}")

    def begun(self, phrase: str, var: str, product: str, **places: str) -> Lines:
        name, mut = self.var(var), "mut " if var in self._changed else ""
        if phrase == "new registry":
            self.code.variables[name] = Held(ProductType(product))
        return self.lines(phrase, var=name, mut=mut, **self.named(product), **places)

    def begun_builder(self, step: m.NewBuilder) -> Lines:
        builder = self.builder(step.product)
        changes = step.var in (self._handed_on if builder.typed else self._changed)
        unused = "_" if step.var in self.unused else ""  # another one beside it, of which nothing is asked
        places = {
            "var": f"{unused}{self.var(step.var)}",
            "mut": "mut " if builder.resets or changes else "",
            "calls": self.calls_of(step),
            **self.named(step.product),
        }
        if step.preset is not None:
            return self.lines("preset", preset=self.builder_words(step.product).preset(step.preset), **places)
        if step.like is not None:
            return self.lines("builder like", like=self.reference(step.like), **places)
        return self.lines("new builder", **places)

    def on_builder(self, step: m.BuilderCall, builder: Builder, call: str) -> Lines:
        if not builder.typed:
            return super().on_builder(step, builder, call)
        name = self.var(step.builder)
        kept = "let _" if step is self._last[step.builder] else name
        return self.lines("statement", code=f"{kept} = {name}{call}")

    def witness(self, product: str, arguments: Arguments) -> Lines:
        """The lines of a function that makes a typical product."""
        call, declared = self.construction(product, arguments), self.plan.products[product]
        if self.plan.selected_by(declared) is None:
            yield self.taken(call)
            return
        yield f"let selected = {self.taken(call)};"
        yield from self._as("made", "selected", self.plan.products[declared.base or ""], product, owned=True)
        yield "made"

    def narrowed(self, step: s.Make, call: Call) -> Lines:
        base = self.plan.products[self.plan.products[step.product].base or ""]
        selected = self.fresh("selected")
        yield f"let {selected} = {self.taken(call)};"
        self._let(step.var)
        mutable = step.var in self._changed
        yield from self._as(self.var(step.var), selected, base, step.product, owned=True, mutable=mutable)

    def _as(
        self,
        name: str,
        original: str,
        base: Product,
        product: str,
        *,
        owned: bool,
        mutable: bool = False,
        copied: bool = True,
    ) -> Lines:
        """Take what is of a base's type as the concrete product that it was shown to be."""
        type_, mut = self.names.type(product), "mut " if mutable else ""
        if self.code.is_open(base):
            copy = ".clone()" if owned and copied else ""
            yield f"let {mut}{name} = {original}.as_any().downcast_ref::<{type_}>(){self._there}{copy};"
            return
        pattern = f"{self.names.type(base.name)}::{type_}({mut}{name})"
        source = original if owned else f"&{original}"
        if len(base.variants) == 1:
            yield f"let {pattern} = {source};"
            return
        yield f"let {pattern} = {source} else {{"
        yield f'    panic!("kind: got another one, want {product}");'
        yield "};"

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        got, value, shared = self.path(path), self.renamed(value), self.code.shared(field)
        if not field.may_be_absent:
            yield from self._compared(path.field, field.type, got, value, shared=shared)
            return
        wanted = self.code.looked_at(value, field.type, shared=shared, typed=True)
        yield f'is("{path.field}", &{got}, &Some({wanted}));'
        if field.type == REAL and isinstance(value, Real) and value.number == 0:
            yield f'is("sign of {path.field}", &{got}.is_some_and(f64::is_sign_negative), &false);'

    def _compared(
        self, what: str, type_: Type, got: str, value: Operand | Value, *, shared: bool = False
    ) -> Lines:
        wanted = self.code.looked_at(value, type_, shared=shared)
        if not is_copied(type_):
            yield f'is("{what}", {got}, {wanted});'
            return
        yield f'is("{what}", &{got}, &{wanted});'
        if type_ == REAL and isinstance(value, Real) and value.number == 0:
            yield f'is("sign of {what}", &{got}.is_sign_negative(), &false);'

    def answers(self, step: s.Answers) -> Lines:
        product = self.scope.product_of(step.var)
        declared = product.operation(step.operation)
        pairs = zip(step.arguments, declared.takes, strict=True)
        handed = ", ".join(
            self.code.looked_at(self.renamed(given), parameter.type) for given, parameter in pairs
        )
        call = f"{self.var(step.var)}.{self._context.method(product, step.operation)}({handed})"
        if isinstance(step.value, Absent):
            yield f'is("{step.operation}", &{call}.is_none(), &true);'
            return
        if isinstance(declared.returns, MaybeOf):
            element = declared.returns.element
            wanted = self.code.looked_at(step.value, element, typed=True)
            lent = f"{call}{self._as_borrowed(element)}"
            wanted = f"{wanted}[..]" if isinstance(element, ListOf) else wanted
            yield f'is("{step.operation}", &{lent}, &Some({wanted}));'
            return
        if is_copied(declared.returns):
            yield from self._compared(step.operation, declared.returns, call, step.value)
            return
        lent = self._lent(call, declared.returns, step.value)
        yield f'is("{step.operation}", {lent}, {self.code.looked_at(step.value, declared.returns)});'

    def _as_borrowed(self, type_: Type) -> str:
        """The call that makes of an optional value an optional reference, as tests write one."""
        if is_copied(type_):
            return ""
        inner = self.plan.products.get(str(type_))
        is_open = inner is not None and self.code.is_open(inner)
        return ".as_deref()" if type_ == TEXT or isinstance(type_, ListOf) or is_open else ".as_ref()"

    def _lent(self, call: str, type_: Type, value: Value) -> str:
        """What an operation gives, as a reference."""
        inner = self.plan.products.get(str(type_))
        listed = isinstance(value, Items) and not isinstance(type_, MapOf)
        if type_ == TEXT:
            return f"{call}.as_str()"
        if inner is not None and self.code.is_open(inner):
            return f"{call}.as_ref()"
        return f"{call}.as_slice()" if listed and "Vec" in self.code.type(type_) else f"&{call}"

    def equal(self, left: str, right: str) -> Lines:
        yield f"equals({self._alike(left, right)});"

    def unequal(self, left: str, right: str, differing: str) -> Lines:
        yield f"differs({self._alike(left, right)}, {text_literal(differing)});"

    def _alike(self, left: str, right: str) -> str:
        """Two variables as references of one type."""
        one, other = self.scope.product_of(left), self.scope.product_of(right)
        if one is other:
            return f"{self.reference(left)}, {self.reference(right)}"
        return ", ".join(
            self.reference(var) if product.abstract else self._as_base(var, product)
            for var, product in ((left, one), (right, other))
        )

    def _as_base(self, var: str, product: Product) -> str:
        """A variable that holds a variant as a reference to its base."""
        base, name = self.plan.products[product.base or ""], self.var(var)
        type_ = self.names.type(base.name)
        if self.code.is_open(base):
            return f"&{name} as &dyn {type_}"
        return f"&{type_}::{self.names.type(product.name)}({self.code.copy_of(name)})"

    def kind_is(self, var: str, product: str) -> Lines:
        declared, type_, name = self.scope.product_of(var), self.names.type(product), self.var(var)
        if not declared.abstract:
            yield f"let _: &{type_} = {self.reference(var)};"
        elif self.code.is_open(declared):
            yield f'is("kind", &{name}.as_any().is::<{type_}>(), &true);'
        else:
            yield f'is("kind", kind_of({self.reference(var)}).as_str(), "{type_}");'

    # --- the caller's own ---------------------------------------------------------------------------------

    def hold(self, step: s.Hold) -> Lines:
        product = self.plan.products.get(str(innermost(step.type)))
        text = self.code.owned_operand(self.renamed(step.value), step.type)
        is_open = product is not None and self.code.is_open(product)
        typed = f": {self.code.type(step.type)}" if is_open else ""
        yield f"{self._let(step.var)}{typed} = {text};"

    def handed(self, step: Step) -> Lines:
        assert isinstance(step, s.Clear), "what else could change is the callee's own"
        end = self._good if self.setter_fails(self.scope.field(step.path)) else ""
        yield f"{self.var(step.path.var)}.set_{step.path.field}(None){end};"

    # --- ways of making -----------------------------------------------------------------------------------

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        return [], factory_registration(self._context, base, self.factory(base.name), variant.name)

    def loading(self, base: str) -> dict[str, str]:
        """A loader that has no maker to give fails."""
        return {"refusal": self._failure(Refused(base, NO_MAKER)), **self.named(base)}

    def asked_record(self, node: Node) -> str:
        return f"&{node_text(node, PLAIN if self.prints else IN_TESTS)}"

    def builder_words(self, product: str) -> BuilderNames:
        return BuilderNames(self.plan.products[product], self.builder(product))

    def several(self, step: Step) -> Lines:
        match step:
            case m.Clone(var, original):
                yield f"{self._let(var)} = {self._cloned(original)};"
            case m.CloneEach(product, originals, clones):
                names = ", ".join(f"&{self.var(name)}" for name in originals)
                listed, method = (
                    self.fresh("clones"),
                    duplicating(self._context.code, self.plan.products[product]),
                )
                yield f"let mut {listed} = Vec::new();"
                yield f"for each in [{names}] {{"
                yield f"    {listed}.push(each.{method}());"
                yield "}"
                yield from self._elements(clones, listed, self.plan.products[product])
            case m.Take(var, path):
                yield self._take(var, path)
            case m.SameObject(left, right, _, same):
                yield from self._same(left, right, same)
            case m.Narrow(var, original, product):
                yield from self._narrow(var, original, product)
            case m.AskRoles(family, role, names):
                yield from self._ask_roles(family, role, names)

    def _cloned(self, original: str) -> str:
        name, method = self.var(original), duplicating(self._context.code, self.scope.product_of(original))
        return f"{name}.{method}()" if method != "clone" else self.code.copy_of(name)

    def _elements(self, names: Sequence[str], listed: str, product: Product) -> Lines:
        """Variables that refer to the elements of a list."""
        for number, name in enumerate(names):
            end = f"{listed}[{number}].as_ref()" if self.code.is_open(product) else f"&{listed}[{number}]"
            yield f"{self._let(name, 'reference')} = {end};"

    def _ask_roles(self, family: str, role: str, names: Sequence[str]) -> Lines:
        call = self.role_call(family, role, {}).code
        if set(names) <= self.unused:
            yield from self.counted(role, call, len(names))
            return
        listed = self.fresh(f"all_{role}")
        yield f"let {listed} = {call};"
        yield from self.counted(role, listed, len(names))
        yield from self._elements(names, listed, self.plan.products[self.scope.role(family, role).product])

    def _take(self, var: str, path: Path) -> str:
        field = self.scope.field(path)
        if var in self._changed:
            return f"{self._let(var, 'reference')} = {self._inside(path)};"
        shared, text = self.code.shared(field), self.path(path)
        if path.first == 0:
            text = f"{text}{self._there}" if field.may_be_absent else text
        else:
            inner = self.plan.product_in(field.type)
            boxed = inner is not None and self.code.is_open(inner) and not shared
            text = f"{text}.as_ref()" if boxed else text if text.endswith(")") else f"&{text}"
        return f"{self._let(var, 'arc reference' if shared else 'reference')} = {text};"

    def _same(self, left: str, right: str, same: bool) -> Lines:
        """Shared objects are compared by address; owned ones are never the same object."""
        names = [self.var(left), self.var(right)]
        variables = [self.code.variables[name] for name in names]
        if all(each.form.startswith("arc") for each in variables):
            lent = [
                n if each.form == "arc reference" else f"&{n}"
                for n, each in zip(names, variables, strict=True)
            ]
            wanted = "true" if same else "false"
            yield f'is("the same object", &Arc::ptr_eq({", ".join(lent)}), &{wanted});'

    def _narrow(self, var: str, original: str, product: str) -> Lines:
        base, name = self.scope.product_of(original), self.var(original)
        self.code.variables[self.var(var)] = Held(ProductType(product), "reference")
        if base.name == product:
            yield f"let {self.var(var)} = {self.reference(original)};"
            return
        owned = self.code.variables[name].form == "reference"
        yield from self._as(self.var(var), name, base, product, owned=owned, copied=False)

    def exemplar(self, store: str, product: str) -> str:
        owner, given = self.plan.products[self.scope.owner(store)], self.scope.product_of(product)
        if owner.abstract and not given.abstract and not self.code.is_open(owner):
            kind = f"{self.names.type(owner.name)}::{self.names.type(given.name)}"
            return f"&{kind}({self.code.copy_of(self.var(product))})"
        return self.reference(product)

    def member(self, family: str, name: str) -> str:
        return member_type(self._context, self.family(family), name)

    def role(self, family: str, role: str) -> str:
        return role_name(role)

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        types = ", ".join(f'"{self.names.type(product)}".to_owned()' for product in products)
        given = f"{'&' if family in self._stand_ins else ''}{self.var(family)}"
        yield f'is("types", {client_name(name)}({given}).as_slice(), &[{types}]);'

    # --- pools --------------------------------------------------------------------------------------------

    def parameter(self, name: str) -> str:
        return self._parameters.escape(self.names.local(name))

    def parameters(self, product: str) -> dict[str, str]:
        """Long ones are numbered, so that they share the line of the maker."""
        declared = super().parameters(product)
        new = f"    let pool = {self.names.derived(product, 'Pool')}::with_maker("
        room = min(CALL_WIDTH, WIDTH - len(new) - 2)
        numbered = ([f"{short}{at}" for at in range(1, len(declared) + 1)] for short in ("key", "k"))
        spelt = [list(declared.values()), *numbered]
        fitting = (
            each for each in spelt if len(f"move |{', '.join(f'_{local}' for local in each)}| {{") <= room
        )
        return dict(zip(declared, next(fitting, spelt[-1]), strict=True))

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        text = self.value(value, field.type)
        fresh = rebuilt and field.type == TEXT and text != '""' and not text.startswith("&")
        return f"&String::from({text})" if fresh else text

    def is_part(self, parameter: str, field: Field, value: Operand) -> str:
        if field.type == BOOLEAN and isinstance(value, Boolean):
            return parameter if value.flag else f"!{parameter}"
        if value == Text(""):
            return f"{parameter}.is_empty()"
        return f"{parameter} == {self.value(value, field.type)}"

    def makes(self, product: str, given: Arguments) -> str:
        """As a result."""
        declared = self.plan.products[product]
        return (
            self.new(declared, given) if self.code.fallible(declared) else f"Ok({self.new(declared, given)})"
        )

    def pool_maker(self, product: str, given: Arguments) -> str:
        return self._with_maker(product, self.makes(product, self.of_maker(product, self.all_renamed(given))))

    def _with_maker(self, product: str, expression: str, *, keyed: bool = True) -> str:
        """A pool with a maker of one expression, which uses the key that it is asked for or does not."""
        constructor = f"{self.names.type(product)}::new"
        parameters = ", ".join(local if keyed else f"_{local}" for local in self.parameters(product).values())
        maker = (
            constructor if expression == f"{constructor}({parameters})" else f"|{parameters}| {expression}"
        )
        return f"{self.names.derived(product, 'Pool')}::with_maker({maker})"

    def scenario(self, step: Any) -> dict[str, Any]:
        view, product = super().scenario(step), step.product
        stem, parameters = self.names.derived(product, "Pool"), ", ".join(self.parameters(product).values())
        return {
            **view,
            "begin": f"{stem}::with_maker(move |{parameters}| {{",
            "pool": self._with_maker(product, view["made"]),
            "wrong_pool": self._with_maker(product, view["wrong"], keyed=False),
        }

    # --- the walk-through ---------------------------------------------------------------------------------

    def printed(self, words: str, shown: str) -> Lines:
        return self.lines("print", words=in_format(words), shown=self.var(shown))

    def printed_same(self, left: str, right: str) -> Lines:
        one, other = self.var(left), self.var(right)
        shared = self.code.variables[one].form == "arc"
        return self.lines(
            "print same",
            same=f"{'Arc::ptr_eq' if shared else 'std::ptr::eq'}(&{one}, &{other})",
            alike=" == ".join(self.reference(var).removeprefix("&") for var in (left, right)),
        )


def in_format(words: str) -> str:
    """Words within a format string."""
    return text_literal(words.replace("{", "{{").replace("}", "}}"))[1:-1]
