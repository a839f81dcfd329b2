"""The words of Python's tests: steps as statements of pytest."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from urform.declaration.types import Collection, ListOf, Type
from urform.declaration.values import Absent, Boolean, Entries, Items, Real, Value
from urform.languages.layout.engine import columns
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import Words, snake
from urform.languages.naming.scope import Scope
from urform.languages.python.builders import BuilderNames
from urform.languages.python.expressions import UNTOLD, Expressions, client_name, real_literal, text_literal
from urform.languages.python.families import member_type, role_name
from urform.languages.python.layout import STYLE
from urform.languages.python.names import Names
from urform.languages.testing.contract import Call, Lines, Proof
from urform.languages.testing.writer import StepWriter
from urform.plan import making_steps as m
from urform.plan import steps as s
from urform.plan.messages import said_of
from urform.plan.model import Change, Field, Product, Selection
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
from urform.plan.record_trees import Node, Tree
from urform.plan.script import Step

# What tests of pools call their own variables, and what they call.
VARIABLES = frozenset(
    "at_work beside collected entered first gc go_on got inner len all maker one pool slowly together two until within".split()
)
PHRASES = {
    "statement": "«code»",
    "select": "«function»(«given»)",
    "select or nothing": "«lenient»(«given»)",
    "nothing": "nothing = «call»\nassert nothing is None",
    "read word": "«type»(«text»)",
    "word is": "assert «var» is «value»\nassert str(«var») == «text»",
    "words are": "assert list(«type») == [«values»]",
    "ask": "«function»(«given»)",
    "ask untyped": "untyped(«function»)(«given»)",
    "ask registry": "«on».create(«given»)",
    "creator": "«creator»(«key»)",
    "create": "«on».create(«given»)",
    "new registry": "«var» = «stem»Registry()",
    "register": "«on».register(«key», «maker»)",
    "loader": "«loads»: list[str] = []\ndef «loader»() -> «stem»Maker:\n"
    '    «loads».append("called")\n    return «maker»',
    "late loader": "«loads»: list[str] = []\ndef «loader»() -> «stem»Maker:\n"
    '    «loads».append("called")\n    return untyped(None) if len(«loads») == 1 else «maker»',
    "register loader": "«on».register_loader(«key», «loader»)",
    "loads are": "assert len(«loads») == «count»",
    "register named": "«on».register_loader(«key», «named»)",
    "unregister": "assert «on».unregister(«key») is True",
    "unregister nothing": "assert «on».unregister(«key») is False",
    "keys are": "assert «on».keys() == [«texts»]",
    "change held": "«var».clear()",
    "was there": "assert «call» is True",
    "was not there": "assert «call» is False",
    "is absent": "assert «got» is None",
    "equal": "assert «left» == «right»",
    "equal hashes": "assert hash(«left») == hash(«right»)",
    "unequal": "assert «left» != untyped(«right»)",
    "kind is": "assert type(«var») is «type»",
    "key is": "assert «var».key == «key»",
    "hidden constructor": 'with pytest.raises(TypeError, match="alone"):\n    untyped(«type»)(0)',
    "new builder": "«var» = «stem»Builder()«calls»",
    "preset": "«var» = «stem»Builder.«preset»()«calls»",
    "builder like": "«var» = «stem»Builder.like(«like»)«calls»",
    "setter": ".«setter» = «value»",
    "fluent setter": ".«setter»(«value»)",
    "build": "«on».build()",
    "build unchecked": "untyped(«on»).build()",
    "build refused": "«on».build()",
    "new exemplars": "«var» = «stem»Exemplars()",
    "add exemplar": "«on».add(«name», «product»)",
    "get exemplar": "«on».get(«name»)",
    "names are": "assert «on».names() == [«texts»]",
    "new pool": "«var» = «stem»Pool()",
    "new pool with maker": "«var» = «stem»Pool(«maker»)",
    "maker": "lambda «parameters»: «made»",
    "ask pool": "«on».get(«key»)",
    "counts are": "assert («on».made, «on».reused) == («made», «reused»)",
    "family": "«function»(«key»)",
    "family is": "assert type(«var») is «member»",
    "role": "«on».«role»(«given»)",
    "new stand-in": "«var» = «type»()",
    "asked are": "assert «on».asked == [«texts»]",
    "first": "«of»[0]",
    "first of map": "next(iter(«of».values()))",
    "refused": "with refused(«failure»):\n    «call»",
    "read record": "records.read_«name»(«record»)",
    "read with": "records.read_«name»_with(«on», «record»)",
    "read text": "records.read_«name»(records.parse(«text»))",
    "read back": "records.read_«name»(records.write_«written»(«var»))",
    "record is": "assert records.to_text(records.write_«name»(«var»)) == «text»",
    "create all": "«those», «told» = records.create_all([«records»], records.read_«name»)\n"
    "assert len(«those») == «made»\nassert list(map(str, «told»)) == [«problems»]",
    "refused record": "with refused_record([«problems»]):\n    «call»",
}
PRINTING = {
    "refused": 'try:\n    «call»\nexcept CreationError as reason:\n    print("  refused:", reason)',
    "print": "print(«words», «shown»)",
    "print same": 'print("  the same object:", «left» is «right»)\nprint("  equal:", «left» == «right»)',
    "print counts": 'print("  made", «on».made, "and reused", «on».reused)',
}


class PythonProof(Proof, Protocol):
    """What this writer needs beyond the writers of all targets."""

    @property
    def package(self) -> str:
        """The package, as it is imported."""


class Writer(StepWriter):
    """Writes the steps of one test."""

    phrases = PHRASES
    printing = PRINTING
    chained_creators = False
    creates_in_vain = False
    always_kept = (s.Make, s.Ask, m.Select, m.FamilyOf, m.BuildChained)

    code: Expressions
    names: Names

    def __init__(self, proof: PythonProof, scope: Scope, *, prints: bool = False) -> None:
        super().__init__(proof, scope, prints=prints)
        self._package = proof.package
        self._parameters = Words(VARIABLES, proof.reserved)
        self._reserved = Words(proof.reserved)

    def local(self, name: str) -> str:
        return self._reserved.escape(name)

    def named(self, product: str) -> dict[str, str]:
        return {
            "type": self.names.type(product),
            "stem": self.names.stem(product),
            "function": self.names.function(product),
            "lenient": self.names.lenient(product),
            "creator": self.names.function(f"{snake(product)}_creator"),
        }

    def literal(self, text: str) -> str:
        return text_literal(text)

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        return self.code.operand(self.renamed(operand))

    def given(self, product: Product, given: Arguments) -> str:
        return ", ".join(
            f"{self.names.field(name)}={self.code.operand(value)}" for name, value in given.items()
        )

    def selected(self, selection: Selection, given: Arguments) -> str:
        return self.given(self.plan.products[selection.product], given)

    def new(self, product: Product, given: Arguments) -> str:
        return f"{self.names.type(product.name)}({self.given(product, given)})"

    def path(self, path: Path) -> str:
        field = self.scope.field(Path(path.var, path.field))
        text = self.first_of(field.type, f"{self.var(path.var)}.{self.names.field(path.field)}", path.first)
        return f"{text}.{self.names.field(path.inner)}" if path.inner else text

    def setting(self, path: Path, value: str) -> str:
        return f"{self.path(path)} = {value}"

    def change_name(self, owner: Product, change: Change) -> str:
        return change_name(self.plan, owner, change, str)

    def _failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                return f'MissingFieldsError("{owner}", [{self.texts(fields)}])'
            case OutOfLimit(owner, field, limit, bound, said):
                more = f", {self.code.bound(bound)}" if bound is not None else ""
                if said is None and (untold := UNTOLD.get(limit.rpartition(".")[2])) is not None:
                    said = said_of(failure, untold[1])
                message = f", {text_literal(said)}" if said is not None else ""
                return f'LimitError("{owner}", "{field}", "{limit}"{more}){message}'
            case UnknownKey(owner, key, known):
                return f'UnknownKeyError("{owner}", {text_literal(key)}, [{self.texts(known)}])'
            case DuplicateKey(owner, key):
                return f'DuplicateKeyError("{owner}", {text_literal(key)})'
            case Refused(owner, reason):
                return f'RefusedError("{owner}", {text_literal(reason)})'
            case BadRecord(owner):
                raise TypeError(f"{owner} is refused by its problems, which are told one by one")

    # --- statements around a call -------------------------------------------------------------------------

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        if var in self.unused and not isinstance(step, self.always_kept):
            yield call.code
            return
        told = f": {self.names.type(str(self.scope.type_of(var)))}" if isinstance(step, m.AskRole) else ""
        yield from self.kept(f"{self.var(var)}{told}", call)

    def kept(self, name: str, call: Call) -> Lines:
        yield f"{name} = {call.code}"
        if call.absent:
            yield f"assert {name} is not None"

    def node(self, node: Node) -> str:
        match node:
            case Tree(entries):
                return f"{{{', '.join(f'{text_literal(k)}: {self.node(v)}' for k, v in entries)}}}"
            case tuple():
                return f"[{', '.join(map(self.node, node))}]"
            case str():
                return text_literal(node)
            case float():
                return real_literal(node)
        return str(node)

    def refused(self, call: Call, failure: Failure) -> Lines:
        if isinstance(failure, BadRecord):
            return self.lines("refused record", problems=self.texts(failure.problems), call=call.code)
        return self.lines("refused", failure=self._failure(failure), call=call.code)

    def narrowed(self, step: s.Make, call: Call) -> Lines:
        yield f"{self.var(step.var)} = {call.code}"
        yield f"assert isinstance({self.var(step.var)}, {self.names.type(step.product)})"

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        return self._is(self.path(path), self.renamed(value))

    def answers(self, step: s.Answers) -> Lines:
        handed = ", ".join(self.value(argument) for argument in step.arguments)
        got = f"{self.var(step.var)}.{self.names.field(step.operation)}({handed})"
        if isinstance(step.value, Absent):
            return self.lines("is absent", got=got)
        return self._is(got, step.value)

    def _is(self, got: str, value: Operand | Value) -> Lines:
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

    def _compared(self, got: str, expected: str) -> Lines:
        """The formatter would break a long comparison at its sign, so a long value gets a name first."""
        line = f"assert {got} == {expected}"
        if columns(line, STYLE) + 4 <= STYLE.width:
            yield line
        else:
            name = self.fresh("expected")  # each has a type of its own
            yield f"{name} = {expected}"
            yield f"assert {got} == {name}"

    # --- the caller's own ---------------------------------------------------------------------------------

    def hold(self, step: s.Hold) -> Lines:
        yield f"{self.var(step.var)}{self._annotation(step.type)} = {self.value(step.value)}"

    def left_out(self, step: s.LeaveOut) -> Lines:
        called, _, _ = self.construction(step.product, step.arguments).code.partition("(")
        given = self.given(self.plan.products[step.product], self.all_renamed(step.arguments))
        yield f"with pytest.raises(TypeError, match=\"'{self.names.field(step.field)}'\"):"
        yield f"    untyped({called})({given})"

    def handed(self, step: Step) -> Lines:
        match step:
            case s.ChangeInHeld(var, field, value):
                first = self.first_of(self.scope.type_of(var), self.var(var))
                yield f"{first}.{self.names.field(field)} = {self.value(value)}"
            case s.ChangeOut(path):
                yield "with suppress(AttributeError, TypeError):"
                yield f"    untyped({self.path(path)}).clear()"
            case s.Assign(var, field, value):
                yield from self._assigned(f"untyped({self.var(var)}).{self.names.field(field)}", value)
            case s.Clear(path):
                yield f"{self.path(path)} = None"

    def _assigned(self, attribute: str, value: Operand) -> Lines:
        """A value of an attribute that nobody can change."""
        text = self.value(value)
        is_bracketed = isinstance(value, (Several, Keyed))
        if not is_bracketed and columns(f"{attribute} = {text}", STYLE) + 2 * len(STYLE.indent) > STYLE.width:
            yield f"value = {text}"  # the formatter would break the attribute
            text = "value"
        yield "with pytest.raises(FrozenInstanceError):"
        yield f"    {attribute} = {text}"

    def _annotation(self, type_: Type) -> str:
        product = self.plan.products.get(str(type_))
        told = isinstance(type_, Collection) or (product is not None and product.abstract)
        return f": {self.code.mutable_type(type_)}" if told else ""

    def one_instance(self, step: s.OneInstance) -> Lines:
        call = self.construction(step.product, step.arguments).code
        plain = call.endswith("()") and not step.arguments
        yield f"one = {call}"
        ask = call.removesuffix("()") if plain else f"lambda: {call}"
        yield f"got = together({ask}, {step.threads})"
        yield "assert all(each is one for each in got)"

    # --- ways of making -----------------------------------------------------------------------------------

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        return [], self.names.type(variant.name)

    def loader_name(self, variant: Product) -> str:
        return text_literal(f"{self._package}:{self.names.type(variant.name)}")

    def builder_words(self, product: str) -> BuilderNames:
        return BuilderNames(self.names, self.plan.products[product], self.builder(product))

    def chained(self, step: m.BuildChained) -> Lines:
        builder = f"{self.var(step.var)}_builder"
        yield f"{builder} = {self.names.stem(step.product)}Builder()"
        for name, value in step.arguments.items():
            yield f"assert {builder}{self.set_in_builder(step.product, name, value)} is {builder}"
        yield f"{self.var(step.var)} = {builder}.build()"

    def several(self, step: Step) -> Lines:
        match step:
            case m.Clone(var, original):
                yield f"{self.var(var)} = {self.var(original)}.clone()"
            case m.CloneEach(_, originals, clones):
                names = ", ".join(map(self.var, originals))
                yield f"{', '.join(map(self.var, clones))} = [each.clone() for each in [{names}]]"
            case m.Take(var, path):
                yield from self.kept(
                    self.var(var), Call(self.path(path), absent=self.scope.field(path).may_be_absent)
                )
            case m.SameObject(left, right, _, same):
                yield f"assert {self.var(left)} {'is' if same else 'is not'} {self.var(right)}"
            case m.Narrow(var, original, product):
                yield f"assert isinstance({self.var(original)}, {self.names.type(product)})"
                yield f"{self.var(var)} = {self.var(original)}"
            case m.AskRoles(family, role, names):
                call = self.role_call(family, role, {}).code
                if set(names) <= self.unused:
                    yield f"assert len({call}) == {len(names)}"
                else:
                    yield f"[{', '.join(map(self.var, names))}] = {call}"

    def member(self, family: str, name: str) -> str:
        return member_type(self.names, self.family(family), name)

    def stand_in(self, family: str) -> str:
        return f"StandIn{self.names.type(family)}"

    def role(self, family: str, role: str) -> str:
        return role_name(self.names, self.scope.role(family, role))

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        types = [self.names.type(product) for product in products]
        listed = f"({', '.join(types)}{',' if len(types) == 1 else ''})"
        yield f"assert tuple(type(each) for each in {client_name(name)}({self.var(family)})) == {listed}"

    # --- pools --------------------------------------------------------------------------------------------

    def parameter(self, name: str) -> str:
        return self._parameters.escape(self.names.parameter(name))

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        text = self.value(value)
        return f'"".join(list({text}))' if rebuilt and text[0] in "\"'" else text

    def is_key(self, product: str, key: Arguments) -> str:
        names, values = [self.parameter(name) for name in key], [self.value(value) for value in key.values()]
        return (
            f"{names[0]} == {values[0]}"
            if len(names) == 1
            else f"({', '.join(names)}) == ({', '.join(values)})"
        )

    def header(self, product: str) -> dict[str, str]:
        names, fields = self.parameters(product), self.plan.products[product]
        typed = [f"{local}: {self.code.type(fields.field(name).type)}" for name, local in names.items()]
        return {"parameters": ", ".join(names.values()), "typed": ", ".join(typed)}
