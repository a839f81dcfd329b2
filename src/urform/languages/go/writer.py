"""The words of Go's tests: steps as statements of package testing."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any, Protocol

from urform.declaration.ranges import length_range
from urform.declaration.types import REAL, TEXT, Collection, ListOf, MapOf, MaybeOf, ProductType, SetOf, Type
from urform.declaration.values import Absent, Items, Real, Value
from urform.languages.go.builders import BuilderNames, build_fails
from urform.languages.go.changes import change_fails
from urform.languages.go.context import Context
from urform.languages.go.expressions import UNTOLD, Expressions, client_name, text_literal
from urform.languages.go.families import member_type, role_fails, role_name
from urform.languages.go.members import setter_fails
from urform.languages.go.names import TEST_HELPERS, Names
from urform.languages.go.views import joined
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import Words, camel, pascal
from urform.languages.naming.scope import Scope
from urform.languages.testing.contract import Call, Lines, Proof
from urform.languages.testing.writer import StepWriter
from urform.plan import making_steps as m
from urform.plan import steps as s
from urform.plan.messages import said_of
from urform.plan.model import Change, Factory, Family, Field, Product, Role, Selection
from urform.plan.operands import (
    Arguments,
    BadRecord,
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
from urform.plan.record_trees import Node, Tree, json_source
from urform.plan.scalars import as_declared
from urform.plan.script import Step

# What tests of pools call their own variables: a maker's parameter may hide none of them.
VARIABLES = frozenset("asked atWork entered err goOn got inner one outOfStock pool t two".split())
SPREAD = 8  # elements that are handed to a setter one by one

PHRASES = {
    "statement": "«code»",
    "select": "«at»New«name»(«given»)",
    "select or nothing": "«at»«name»Of(«given»)",
    "read word": "«at»«parse»(«text»)",
    "word is": 'is(t, "word", «var», «value»)\nis(t, "text", string(«var»), «text»)',
    "words are": 'is(t, "words", «at»«every»(), []«at»«type»{«values»})',
    "ask": "«at»New«name»(«given»)",
    "ask registry": "«on».Make(«given»)",
    "creator": "«at»«name»CreatorFor(«key»)",
    "create": "«on».Create(«given»)",
    "new registry": "«var» := «at»New«name»Registry()",
    "register": "«on».Register(«key», «maker»)",
    "loader": "«loads» := 0\n«loader» := func() («at»«name»Maker, error) {\n"
    "\t«loads»++\n\treturn «maker», nil\n}",
    "late loader": "«loads» := 0\n«loader» := func() («at»«name»Maker, error) {\n"
    "\t«loads»++\n\tif «loads» == 1 {\n\t\treturn nil, nil\n\t}\n\treturn «maker», nil\n}",
    "register loader": "«on».RegisterLoader(«key», «loader»)",
    "loads are": 'is(t, "loads", «loads», «count»)',
    "unregister": "is(t, «what», «on».Unregister(«key»), true)",
    "unregister nothing": "is(t, «what», «on».Unregister(«key»), false)",
    "keys are": 'is(t, "keys", «on».Keys(), []string{«texts»})',
    "equal": 'is(t, "equality", «left».Equal(«right»), true)',
    "unequal": 'is(t, "equality in spite of «differing»", «left».Equal(«right»), false)',
    "kind is": "isA[«at»«name»](t, «var»)",
    "key is": 'is(t, "key", «var».Key(), «key»)',
    "new builder": "«var» := «at»New«name»Builder()«calls»",
    "preset": "«var» := «at»New«name»Builder«preset»()«calls»",
    "builder like": "«var» := «at»New«name»BuilderLike(«like»)«calls»",
    "setter": ".«setter»(«value»)",
    "fluent setter": ".«setter»(«value»)",
    "build": "«on».Build()",
    "build unchecked": "«on».Build()",
    "chained": "«at»New«name»Builder()«calls».Build()",
    "new exemplars": "«var» := «at»New«name»Exemplars()",
    "add exemplar": "«on».Add(«name», «product»)",
    "get exemplar": "«on».Get(«name»)",
    "names are": 'is(t, "names", «on».Names(), []string{«texts»})',
    "new pool": "«var» := «at»New«name»Pool(nil)",
    "new pool with maker": "«var» := «at»New«name»Pool(«maker»)",
    "maker": "«header» return «made» }",
    "ask pool": "«on».Get(«key»)",
    "counts are": 'is(t, "made and reused", [2]int64{«on».Made(), «on».Reused()}, [2]int64{«made», «reused»})',
    "family": "«at»«name»For(«key»)",
    "family is": 'is(t, "member", any(«var»), any(«member»{}))',
    "role": "«on».«role»(«given»)",
    "new stand-in": "«var» := &«type»{}",
    "asked are": 'is(t, "asked", «on».Asked(), []string{«texts»})',
    "first": "«of»[0]",
    "first of map": "anyOf(«of»)",
    "good": "succeeds(t, err)",
    "succeeds": "succeeds(t, «call»)",
    "read record": "«at»Read«name»(parsed(t, «record»))",
    "read with": "«at»Read«name»With(«on», parsed(t, «record»))",
    "read text": "fromText(«text», «at»Read«name»)",
    "read back": "«at»Read«name»(«at»Write«written»(«var»))",
    "record is": 'is(t, "record", string(«at»TextOf«name»(«var»)), «text»)',
    "create all": "made, problems := «at»CreateAll([]any{«records»}, «at»Read«name»)\n"
    'is(t, "how many are made", len(made), «made»)\nsaysAll(t, problems, «problems»)',
    "refused record": "refusesRecord(t, err, «problems»)",
    "refused": "refuses(t, err, «failure»)",
    "found": 'is(t, "found", «name», «wanted»)',
    "count": 'is(t, "length of «role»", len(«listed»), «size»)',
}
PRINTING = {
    "good": "check(err)",
    "succeeds": "check(«call»)",
    "refused": 'fmt.Println("  refused:", err)',
    "found": "_ = «name»",
    "print": "fmt.Println(«words», «shown»)",
    "print same": 'fmt.Println("  the same object:", «left» == «right»)\n'
    'fmt.Println("  equal:", «left».Equal(«right»))',
    "print counts": 'fmt.Println("  made", «on».Made(), "and reused", «on».Reused())',
}


class GoProof(Proof, Protocol):
    """What this writer needs beyond the writers of all targets."""

    at: str  # what stands before the package's names

    @property
    def context(self) -> Context:
        """The plan as it is spelt in Go."""

    @property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide."""


class Writer(StepWriter):
    """Writes the steps of one test."""

    code: Expressions
    names: Names
    phrases = PHRASES
    printing = PRINTING
    spell = staticmethod(camel)
    takes_records = True
    chained_creators = False
    creates_in_vain = False

    def __init__(self, proof: GoProof, scope: Scope, *, prints: bool = False) -> None:
        super().__init__(proof, scope, prints=prints)
        self._at, self._context = proof.at, proof.context
        self._parameters = Words(VARIABLES, TEST_HELPERS, proof.reserved)
        self._err = False  # whether err is declared
        self._extra = 0  # variables that no step makes
        self._emptied = "clear"  # how the caller's own collection is changed

    def named(self, product: str) -> dict[str, str]:
        return {"at": self.code.at_product(product), "name": self.names.type(product)}

    def _type(self, product: str) -> str:
        return f"{self.code.at_product(product)}{self.names.type(product)}"

    def choice(self, choice: str) -> dict[str, str]:
        names = self.names
        every = names.every(choice)
        return {"at": self._at, "type": names.type(choice), "parse": names.parse(choice), "every": every}

    def literal(self, text: str) -> str:
        return text_literal(text)

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        return self.code.operand(self.renamed(operand))

    def given(self, product: Product, given: Arguments) -> str:
        return self.code.arguments(product, given)

    def new(self, product: Product, given: Arguments) -> str:
        return f"{self._at}New{self.names.type(product.name)}({self.code.arguments(product, given)})"

    def selected(self, selection: Selection, given: Arguments) -> str:
        return self.code.selected(selection, given)

    def path(self, path: Path) -> str:
        taken = self._context.taken(self.scope.product_of(path.var))
        text = f"{self.var(path.var)}.{self.names.exported(path.field, taken)}()"
        return self.first_of(self.scope.field(Path(path.var, path.field)).type, text, path.first)

    def setting(self, path: Path, value: str) -> str:
        holder, name = self.var(path.var), path.field
        if path.inner is not None:
            holder, name = self.path(Path(path.var, path.field, path.first)), path.inner
        return f"{holder}.Set{pascal(name)}({value})"

    def change_name(self, owner: Product, change: Change) -> str:
        return change_name(self.plan, owner, change, pascal)

    def told(self, call: Call, was_there: bool) -> Lines:
        got = call.code
        if call.fails:
            got = self.fresh("removed")
            yield from self.kept(got, call)
        yield f'is(t, "was there", {got}, {"true" if was_there else "false"})'

    def _failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                named = f'MissingError{{Owner: "{owner}", Fields: []string{{{self.texts(fields)}}}}}'
            case OutOfLimit(owner, field, limit, bound):
                data = self.code.bound_as_data(bound)
                more = f", Bound: {data}" if data else ""
                limited = f'LimitError{{Owner: "{owner}", Field: "{field}", Limit: "{limit}"{more}}}'
                untold = UNTOLD.get(limit.rpartition(".")[2], "")
                return f"&{self._at}{limited}, {text_literal(said_of(failure, untold))}"
            case UnknownKey(owner, key, known):
                keys = f"Key: {text_literal(key)}, Known: []string{{{self.texts(known)}}}"
                named = f'UnknownKeyError{{Owner: "{owner}", {keys}}}'
            case Refused(owner, reason):
                named = f'RefusedError{{Owner: "{owner}", Reason: {text_literal(reason)}}}'
            case DuplicateKey(owner, key):
                named = f'DuplicateKeyError{{Owner: "{owner}", Key: {text_literal(key)}}}'
        return f"&{self._at}{named}"

    # --- what may fail ------------------------------------------------------------------------------------

    def product_fails(self, product: Product) -> bool:
        return self.code.fallible(product)

    def selection_fails(self, selection: Selection, or_nothing: bool) -> bool:
        """The entry that tells no reason has an error too, for what is missing."""
        missing = any(isinstance(field.type, ProductType) for field in selection.required)
        return missing if or_nothing else self.code.selection_fails(selection)

    def factory_fails(self, base: Product, factory: Factory, registry: str | None) -> bool:
        variants = (self.plan.products[name] for name in factory.kinds.values())
        return registry is not None or any(map(self.code.fallible, variants))

    def build_fails(self, product: Product) -> bool:
        return build_fails(self._context, product)

    def role_fails(self, family: Family, role: Role) -> bool:
        return role_fails(self._context, family, role)

    def setter_fails(self, field: Field) -> bool:
        return setter_fails(self._context, field)

    def change_fails(self, change: Change) -> bool:
        return change_fails(self._context, change)

    # --- statements around a call: what it gives beside its value is bound, and looked at --------------------

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        return self.kept("_" if var in self.unused else self.var(var), call)

    def kept(self, name: str, call: Call) -> Lines:
        flags = [self.fresh("found")] if call.absent else []
        if name == "_" and not (flags or call.fails):
            yield call.code
            return
        names = [name, *flags, *(["err"] if call.fails else [])]
        yield f"{', '.join(names)} {self._sign(call.fails, name != '_' or bool(flags))} {call.code}"
        yield from self._looked_at(call, flags, wanted=True)

    def _looked_at(self, call: Call, flags: Sequence[str], *, wanted: bool) -> Lines:
        if call.fails:
            yield from self.lines("good")
        for name in flags:
            yield from self.lines("found", name=name, wanted="true" if wanted else "false")

    def _sign(self, fails: bool, declares: bool) -> str:
        """`:=` where a variable is new; err is so once."""
        declares = declares or not self._err
        self._err = self._err or fails
        return ":=" if declares else "="

    def do(self, call: Call) -> Lines:
        return self.lines("succeeds" if call.fails else "statement", call=call.code, code=call.code)

    def record_entries(self, product: str) -> dict[str, str]:
        return {"at": self._at, "name": pascal(product)}

    def record(self, node: Node) -> str:
        return self.literal(json_source(node))

    def asked_record(self, node: Node) -> str:
        """In the walk-through without the helpers of tests."""
        match node if self.prints else None:
            case Tree(entries):
                pairs = (f"{self.literal(name)}: {self.asked_record(held)}" for name, held in entries)
                return f"map[string]any{{{', '.join(pairs)}}}"
            case tuple(items):
                return f"[]any{{{', '.join(map(self.asked_record, items))}}}"
            case str(text):
                return self.literal(text)
            case bool() | int() | float():
                return json_source(node)
        return self.node(node)

    def node(self, node: Node) -> str:
        return f"parsed(t, {self.literal(json_source(node))})"

    def refused(self, call: Call, failure: Failure) -> Lines:
        blanks = "_, " * (call.gives + call.absent)
        yield f"{blanks}err {self._sign(True, False)} {call.code}"
        if isinstance(failure, BadRecord):
            yield from self.lines("refused record", problems=self.texts(failure.problems))
            return
        yield from self.lines("refused", failure=self._failure(failure))

    def nothing(self, call: Call) -> Lines:
        flag = self.fresh("found")
        yield f"_, {flag}{', err' if call.fails else ''} {self._sign(call.fails, True)} {call.code}"
        yield from self._looked_at(call, [flag], wanted=False)

    def narrowed(self, step: s.Make, call: Call) -> Lines:
        selected = call.code
        if call.fails:
            selected = self.fresh("selected")
            yield f"{selected}, err {self._sign(True, True)} {call.code}"
            yield from self.lines("good")
        yield f"{self.var(step.var)} := as[*{self._type(step.product)}](t, {selected})"

    def fresh(self, name: str) -> str:
        self._extra += 1
        name = f"{name}_" if name == self._context.package else name
        return name if self._extra == 1 else f"{name}{self._extra}"

    def _value_and_ok(self) -> tuple[str, str]:
        return self.fresh("value"), f"ok{self._extra if self._extra > 1 else ''}"

    def field_absent(self, path: Path) -> Lines:
        value, ok = self._value_and_ok()
        yield f"{value}, {ok} := {self.path(path)}"
        yield f'is(t, "{path.field} is there", {ok}, false)'
        yield f"_ = {value}"

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        if not field.may_be_absent:
            yield from self._is(path.field, field.type, self.path(path), value)
            return
        got, ok = self._value_and_ok()
        yield f"{got}, {ok} := {self.path(path)}"
        yield f'isGiven(t, "{path.field}", {got}, {ok}, {self._typed(field.type, value)})'
        yield from self._plain_zero(path.field, field.type, got, value)

    def answers(self, step: s.Answers) -> Lines:
        product = self.scope.product_of(step.var)
        method = self.names.exported(step.operation, self._context.taken(product))
        handed = ", ".join(self.value(argument) for argument in step.arguments)
        got = f"{self.var(step.var)}.{method}({handed})"
        returns = product.operation(step.operation).returns
        if isinstance(returns, MaybeOf):
            found, ok = self._value_and_ok()
            yield f"{found}, {ok} := {got}" if not isinstance(step.value, Absent) else f"_, {ok} := {got}"
            if isinstance(step.value, Absent):
                yield f'is(t, "{step.operation}", {ok}, false)'
            else:
                yield f'isGiven(t, "{step.operation}", {found}, {ok}, {self._typed(returns.element, step.value)})'
        elif not isinstance(step.value, Absent):
            yield from self._is(step.operation, returns, got, step.value)

    def _is(self, what: str, type_: Type, got: str, value: Operand | Value) -> Lines:
        if isinstance(value, (Several, Items)) and not value.items and isinstance(type_, (ListOf, SetOf)):
            yield f'is(t, "length of {what}", len({got}), 0)'
            return
        yield f'is(t, "{what}", {got}, {self._typed(type_, value)})'
        yield from self._plain_zero(what, type_, got, value)

    def _plain_zero(self, what: str, type_: Type, got: str, value: Operand | Value) -> Lines:
        """A zero without a sign, which a comparison does not tell."""
        if type_ == REAL and isinstance(value, Real) and value.number == 0:
            yield f'is(t, "sign of {what}", math.Signbit({got}), false)'

    def _typed(self, type_: Type, value: Operand | Value) -> str:
        """A value that generic inference gives the right type: interfaces are named."""
        product, text = self.plan.products.get(str(type_)), self.value(value)
        return f"{self.code.type(type_)}({text})" if product is not None and product.abstract else text

    # --- the caller's own ---------------------------------------------------------------------------------

    def hold(self, step: s.Hold) -> Lines:
        product, var = self.plan.products.get(str(step.type)), self.var(step.var)
        abstract = product is not None and product.abstract
        named = f"var {var} {self.code.type(step.type)} =" if abstract else f"{var} :="
        yield f"{named} {self.value(step.value)}"
        self._emptied = "disturb" if holds_empty(step.value) else "clear"

    def emptied(self, var: str) -> Lines:
        yield f"{self._emptied}({self.var(var)})"

    def handed(self, step: Step) -> Lines:
        match step:
            case s.ChangeInHeld(var, field, value):
                type_ = self.scope.type_of(var)
                fails = self.setter_fails(self.scope.inside(type_, field))
                setting = f"{self.first_of(type_, self.var(var))}.Set{pascal(field)}({self.value(value)})"
                yield from self.do(Call(setting, fails))
            case s.ChangeOut(path):
                held_field = self.scope.field(path)
                inner = held_field.type.element if isinstance(held_field.type, Collection) else None
                empty = isinstance(inner, Collection) and length_range(as_declared(held_field.each))[1] == 0
                listed_empty = empty and not isinstance(held_field.type, MapOf)
                yield f"{'disturb' if listed_empty else 'clear'}({self.path(path)})"
            case s.Clear(path):
                yield f"{self.var(path.var)}.Clear{pascal(path.field)}()"

    # --- ways of making -----------------------------------------------------------------------------------

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        maker = self.fresh("maker")
        if self.factory(base.name).needs_more:
            read = f"{self._at}Read{pascal(variant.name)}(record)"
            return [
                f"{maker} := func(record any) ({self._type(base.name)}, error) {{",
                f"\treturn {read}",
                "}",
            ], maker
        typed = [(self.names.local(field.name), self.code.type(field.type)) for field in base.required]
        if base.optional:
            typed.append(("opts", f"{self._type(base.name)}Options"))
        passed = re.sub(r"(\w+Options)\{", rf"{self._at}\1{{", self._context.arguments(base, variant))
        no_error = "" if self.code.fallible(variant) else ", nil"
        header = f"{maker} := func({joined(typed)}) ({self._type(base.name)}, error) {{"
        body = f"\treturn {self._at}New{self.names.type(variant.name)}({passed}){no_error}"
        return [header, body, "}"], maker

    def builder_words(self, product: str) -> BuilderNames:
        return BuilderNames(self.plan.products[product], self.builder(product))

    def builder_value(self, field: Field, value: Operand) -> str:
        """Elements one by one where a setter takes them so."""
        if not isinstance(field.type, (ListOf, SetOf)):
            return self.value(value)
        if isinstance(value, (Several, Items)) and len(value.items) < SPREAD:
            return ", ".join(self.value(item) for item in value.items)
        return f"{self.value(value)}..."

    def several(self, step: Step) -> Lines:
        match step:
            case m.Clone(var, original):
                yield f"{self.var(var)} := {self._cloned(original)}"
            case m.CloneEach(product, originals, clones):
                star = "" if self.plan.products[product].abstract else "*"
                type_, names = f"{star}{self._type(product)}", ", ".join(map(self.var, originals))
                yield f"var clones []{type_}"
                yield f"for _, each := range []{type_}{{{names}}} {{"
                yield "\tclones = append(clones, each.Clone())"
                yield "}"
                for number, clone in enumerate(clones):
                    yield f"{self.var(clone)} := clones[{number}]"
            case m.Take(var, path):
                absent = self.scope.field(path).may_be_absent and not path.first
                yield f"{self.var(var)}{', _' if absent else ''} := {self.path(path)}"
            case m.SameObject(left, right, _, same):
                compared = f"{self.var(left)} == {self.var(right)}"
                yield f'is(t, "the same object", {compared}, {"true" if same else "false"})'
            case m.Narrow(var, original, product):
                yield f"{self.var(var)} := as[*{self._type(product)}](t, {self.var(original)})"
            case m.AskRoles(family, role, names):
                yield from self._ask_roles(family, role, names)

    def _cloned(self, original: str) -> str:
        """A clone of a variant is of the interface's type, for others may know no more."""
        product, call = self.scope.product_of(original), f"{self.var(original)}.Clone()"
        narrowed = product.base is not None and not self.prints
        return f"as[*{self._type(product.name)}](t, {call})" if narrowed else call

    def _ask_roles(self, family: str, role: str, names: Sequence[str]) -> Lines:
        call = self.role_call(family, role, {}).code
        if set(names) <= self.unused:
            yield from self.counted(role, call, len(names))
            return
        listed = f"{self.var(names[0])}All"
        yield f"{listed} := {call}"
        yield from self.counted(role, listed, len(names))
        for number, name in enumerate(names):
            yield f"{self.var(name)} := {listed}[{number}]"

    def member(self, family: str, name: str) -> str:
        at = f"{self._context.doubles}." if name == "StandIn" else self._at
        return f"{at}{member_type(self.names, self.family(family), name)}"

    def role(self, family: str, role: str) -> str:
        return role_name(self.scope.role(family, role))

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        types = ", ".join(f'"*{self._type(product)}"' for product in products)
        yield f'is(t, "types", typesOf({client_name(name)}(t, {self.var(family)})), []string{{{types}}})'

    # --- pools --------------------------------------------------------------------------------------------

    def parameter(self, name: str) -> str:
        return self._parameters.escape(self.names.local(name))

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        text = self.value(value)
        return f"strings.Clone({text})" if rebuilt and field.type == TEXT else text

    def makes(self, product: str, given: Arguments) -> str:
        """With its error."""
        declared = self.plan.products[product]
        return f"{self.new(declared, given)}{'' if self.code.fallible(declared) else ', nil'}"

    def header(self, product: str) -> dict[str, str]:
        fields = self.plan.products[product]
        typed = [
            (local, self.code.type(fields.field(name).type))
            for name, local in self.parameters(product).items()
        ]
        return {"header": f"func({joined(typed)}) (*{self._type(product)}, error) {{"}

    def scenario(self, step: Any) -> dict[str, Any]:
        self._err = True
        product = self.plan.products[step.product]
        beside = self.new(product, self.all_renamed({**step.key, **step.arguments}))
        return {
            **super().scenario(step),
            "good": self.say("good"),
            "err": ", err" if self.code.fallible(product) else "",
            "beside": beside,
        }


def holds_empty(value: Operand) -> bool:
    """Whether a list holds nothing but empty collections: `clear` would put equal ones in their place."""
    if not isinstance(value, Several):
        return False
    return bool(value.items) and all(
        (isinstance(item, Several) and not item.items) or (isinstance(item, Keyed) and not item.entries)
        for item in value.items
    )
