"""Writes the steps of a test: the calls that a step makes, the same in all targets, in the words of one.

A target has a table of *phrases*, its text of single calls and statements with `«places»`; the statements around a call
(keep what it gives, expect that it fails, or that it gives nothing); and templates for the scenarios of pools. What a step
comes to is decided in `steps.py`.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from functools import cache
from typing import Any, ClassVar

from urform.declaration.types import ChoiceType, Collection, MapOf, Type
from urform.declaration.values import Word
from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, respelt
from urform.languages.testing.contract import BuilderWords, Call, Lines, Phrases, Proof
from urform.plan.making_steps import Build, BuildChained, BuilderCall, BuilderClear, BuilderSet, NewBuilder
from urform.plan.model import Builder, Change, Factory, Family, Field, Pool, Product, Role, Selection
from urform.plan.operands import Arguments, Failure, Operand, Path, Var
from urform.plan.record_steps import CreateAll
from urform.plan.record_trees import Node
from urform.plan.script import Step
from urform.plan.steps import Answers, Ask, ChangeOne, Hold, LeaveOut, Make, OneInstance
from urform.plan.variables import unused_in

_PLACE = re.compile(r"«(\w+)»")


@cache
def _parts(phrase: str) -> tuple[tuple[str, ...], ...]:
    """By line: text and the names of places, in turn."""
    return tuple(tuple(_PLACE.split(line)) for line in phrase.split("\n"))


class StepWriter:
    """Writes the steps of one test. What targets give comes first, what is the same in all of them after it."""

    phrases: ClassVar[Phrases]
    printing: ClassVar[
        Phrases
    ]  # what is said otherwise in the walk-through, where what fails prints its reason
    spell: Callable[[str], str] = staticmethod(str)  # variables
    chained_creators: ClassVar[bool] = True  # a creator is asked in the expression that finds it
    creates_in_vain: ClassVar[bool] = True  # one that is not there is asked to create all the same
    two_entries: ClassVar[bool] = True  # a factory by values has one that fails and one that gives nothing
    takes_records: ClassVar[bool] = False  # factories of kinds that need more do, not tied to a kind's fields
    always_kept: ClassVar[tuple[type, ...]] = ()  # steps whose variable is made even where nothing uses it

    def __init__(self, proof: Proof, scope: Scope, *, prints: bool = False) -> None:
        self.plan, self.code, self.names, self.templates = (
            proof.plan,
            proof.code,
            proof.names,
            proof.templates,
        )
        self.scope = scope
        self.prints = prints
        self.words: Phrases = {**self.phrases, **self.printing} if prints else self.phrases
        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._numbers: dict[str, int] = {}

    # --- what a target writes: names and values -----------------------------------------------------------

    def named(self, product: str) -> dict[str, str]:
        """The names of a product or family in phrases."""
        return {"type": self.names.type(product)}

    def choice(self, choice: str) -> dict[str, str]:
        """The names of a choice in phrases."""
        return {"type": self.names.type(choice)}

    def literal(self, text: str) -> str:
        """A text."""
        raise NotImplementedError

    def value(self, operand: Operand, type_: Type | None = None, *, field: Field | None = None) -> str:
        """An argument as code; a language with ownership needs to know for what it is."""
        raise NotImplementedError

    def new(self, product: Product, given: Arguments) -> str:
        """The call of a constructor."""
        raise NotImplementedError

    def given(self, product: Product, given: Arguments) -> str:
        """The arguments of a factory, a role or a constructor."""
        raise NotImplementedError

    def given_in_full(self, product: Product, given: Arguments) -> str:
        """The same for what has no default arguments: a role, a creator."""
        return self.given(product, given)

    def selected(self, selection: Selection, given: Arguments) -> str:
        """The arguments of a factory by values."""
        raise NotImplementedError

    def path(self, path: Path) -> str:
        """The expression that reads a field, or a field of the first element in it."""
        raise NotImplementedError

    def setting(self, path: Path, value: str) -> str:
        """The statement or call that sets a field."""
        raise NotImplementedError

    def change_name(self, owner: Product, change: Change) -> str:
        """The method that changes one element."""
        raise NotImplementedError

    def builder_words(self, product: str) -> BuilderWords:
        """The names of the methods of a product's builder."""
        raise NotImplementedError

    def member(self, family: str, name: str) -> str:
        """The type of a member of a family."""
        raise NotImplementedError

    def stand_in(self, family: str) -> str:
        """The type of the stand-in of a family."""
        return self.member(family, "StandIn")

    def role(self, family: str, role: str) -> str:
        """The method of a role; `family` is a variable."""
        raise NotImplementedError

    def maker(self, base: Product, variant: Product) -> tuple[list[str], str]:
        """The maker that a plug-in registers, and the statements before it."""
        raise NotImplementedError

    def loader_name(self, variant: Product) -> str:
        """The name by which a registry finds a kind, as an expression; for languages that load by name."""
        raise NotImplementedError

    def parameter(self, name: str) -> str:
        """The parameter name of a part of a maker's key; it may hide nothing that the test uses."""
        raise NotImplementedError

    def part(self, value: Operand, field: Field, rebuilt: bool) -> str:
        """A part of a key, as a pool is asked; a `rebuilt` text is an object of its own."""
        raise NotImplementedError

    def is_part(self, parameter: str, field: Field, value: Operand) -> str:
        """The condition of a maker that a part of its key is this value."""
        return f"{parameter} == {self.value(value, field.type)}"

    def header(self, product: str) -> dict[str, str]:
        """The parameters of a maker, as phrases and scenarios name them."""
        return {"parameters": ", ".join(self.parameters(product).values())}

    # --- what a target writes: statements around a call ----------------------------------------------------

    def keep(self, step: Step, var: str, call: Call) -> Lines:
        """Take what a call gives, which there is, if anything uses it."""
        raise NotImplementedError

    def kept(self, name: str, call: Call) -> Lines:
        """The same in a variable of the test's own."""
        raise NotImplementedError

    def do(self, call: Call) -> Lines:
        """A call for its effect."""
        return self.lines("statement", code=call.code)

    def refused(self, call: Call, failure: Failure) -> Lines:
        """A call that fails."""
        raise NotImplementedError

    def refused_setting(self, call: Call, failure: Failure) -> Lines:
        """The same of a field that is set, which may be a statement."""
        return self.refused(call, failure)

    def nothing(self, call: Call) -> Lines:
        """A call that gives nothing."""
        return self.lines("nothing", call=call.code)

    def narrowed(self, step: Make, call: Call) -> Lines:
        """Keep what a factory by values gives as the concrete product that it is."""
        raise NotImplementedError

    def taken(self, call: Call) -> str:
        """The result of a call, as an expression; for languages whose creators are chained."""
        return call.code

    def failing(self, call: Call) -> Call:
        """A call of a factory by key that fails, whatever may be absent."""
        return call

    def field_is(self, path: Path, field: Field, value: Operand) -> Lines:
        """A field has this value."""
        raise NotImplementedError

    def answers(self, step: Answers) -> Lines:
        """An operation gives its constant."""
        raise NotImplementedError

    def handed(self, step: Step) -> Lines:
        """The steps on values of the caller's own, and on values that a product hands out."""
        raise NotImplementedError

    def left_out(self, step: LeaveOut) -> Lines:
        """A constructor without a required field, where the language lets one write that."""
        raise NotImplementedError

    def hold(self, step: Hold) -> Lines:
        """A collection or product of the caller's own."""
        raise NotImplementedError

    def one_instance(self, step: OneInstance) -> Lines:
        """A single product asked for by threads at once."""
        raise NotImplementedError

    def several(self, step: Step) -> Lines:
        """Clones, what a path holds, identity, and what list roles give."""
        raise NotImplementedError

    def client(self, family: str, name: str, products: Sequence[str]) -> Lines:
        """A client that knows the abstract factory alone."""
        raise NotImplementedError

    # --- what may fail, in a language without exceptions ----------------------------------------------------

    def product_fails(self, product: Product) -> bool:
        """A constructor."""
        return False

    def selection_fails(self, selection: Selection, or_nothing: bool) -> bool:
        """An entry of a factory by values."""
        return False

    def factory_fails(self, base: Product, factory: Factory, registry: str | None) -> bool:
        """A factory by key, for another reason than a key that nobody has."""
        return False

    def build_fails(self, product: Product) -> bool:
        """The end of a builder."""
        return False

    def role_fails(self, family: Family, role: Role) -> bool:
        """A method of an abstract factory."""
        return False

    def setter_fails(self, field: Field) -> bool:
        """A setter."""
        return False

    def change_fails(self, change: Change) -> bool:
        """A change of one element."""
        return False

    # --- words --------------------------------------------------------------------------------------------

    def begin(self, steps: Sequence[Any]) -> None:
        """Note what is to be known of the steps of a case, or of a scene, before the first of them is written."""
        self.unused = unused_in(steps)

    def say(self, phrase: str, **places: object) -> str:
        """A phrase with what stands in its places."""
        return "\n".join(self.lines(phrase, **places))

    def lines(self, phrase: str, **places: object) -> Lines:
        """The same line by line."""
        for parts in _parts(self.words[phrase]):
            yield "".join(str(places[part]) if at % 2 else part for at, part in enumerate(parts))

    def var(self, name: str) -> str:
        """The name of a variable in the test."""
        return self.spell(self.scope.name(name))

    def renamed(self, operand: Operand) -> Operand:
        """An operand with the names that its variables have in the test."""
        renamed = self.scope.renamed(operand)
        return renamed if self.spell is str else respelt(renamed, self.spell)

    def all_renamed(self, arguments: Arguments) -> dict[str, Operand]:
        """The same for all arguments."""
        return {name: self.renamed(value) for name, value in arguments.items()}

    def fresh(self, name: str) -> str:
        """The name of a variable that no step makes: a number tells it from the one before."""
        self._numbers[name] = self._numbers.get(name, 0) + 1
        return self.local(name if self._numbers[name] == 1 else f"{name}{self._numbers[name]}")

    def local(self, name: str) -> str:
        """A variable that no step names; where it would hide an import, it is called otherwise."""
        return name

    def texts(self, texts: Iterable[str]) -> str:
        """Texts, one after the other."""
        return ", ".join(map(self.literal, texts))

    def first_of(self, type_: Type, text: str, count: int = 1) -> str:
        """The first of what a collection holds, as many levels down."""
        for _ in range(count):
            if isinstance(type_, Collection):
                text = self.say("first of map" if isinstance(type_, MapOf) else "first", of=text)
                type_ = type_.element
        return text

    # --- calls --------------------------------------------------------------------------------------------

    def construction(self, name: str, arguments: Arguments) -> Call:
        """The call that makes a product: of its constructor, or of what alone makes it."""
        product = self.plan.products[name]
        selection = self.plan.selected_by(product)
        if selection is not None:
            return self.select(selection, arguments)
        return Call(self.new(product, self.all_renamed(arguments)), self.product_fails(product))

    def read_word(self, choice: str, text: str) -> Call:
        """The call that reads a word of a choice."""
        return Call(self.say("read word", text=self.literal(text), **self.choice(choice)), fails=True)

    def word_is(self, var: str, choice: str, word: str) -> Lines:
        """A word that was read, and its text."""
        value = self.value(Word(choice, word), ChoiceType(choice))
        return self.lines(
            "word is", var=self.var(var), value=value, text=self.literal(word), **self.choice(choice)
        )

    def words_are(self, choice: str, words: Sequence[str]) -> Lines:
        """The words of a choice, listed."""
        values = ", ".join(self.value(Word(choice, word), ChoiceType(choice)) for word in words)
        return self.lines(
            "words are", values=values, texts=self.texts(words), count=len(words), **self.choice(choice)
        )

    def select(self, selection: Selection, arguments: Arguments, *, or_nothing: bool = False) -> Call:
        """The call of a factory by values."""
        given = self.selected(selection, self.all_renamed(arguments))
        code = self.say(
            "select or nothing" if or_nothing else "select", given=given, **self.named(selection.product)
        )
        return Call(code, self.selection_fails(selection, or_nothing), absent=or_nothing)

    def selection(self, product: str) -> Selection:
        """The factory by values of a product."""
        selection = self.plan.selection_of(product)
        assert selection is not None
        return selection

    def asked_with(self, step: Ask, given: Callable[[Product, Arguments], str]) -> str:
        """What a factory by key is given beside the key: fields, or the record of them."""
        if step.record is not None and self.takes_records:
            return self.asked_record(step.record)
        return given(self.plan.products[step.factory], self.all_renamed(step.arguments))

    def factory(self, product: str) -> Factory:
        """The factory by key of a product."""
        factory = self.plan.factory_of(product)
        assert factory is not None
        return factory

    def record_entries(self, product: str) -> dict[str, str]:
        """The names of a product and of what reads and writes it, in phrases."""
        return {"name": snake(product), **self.named(product)}

    def node(self, node: Node) -> str:
        """What a JSON reader gives, as an expression."""
        raise NotImplementedError

    def asked_record(self, node: Node) -> str:
        """A record as a factory by key is given it."""
        return self.node(node)

    def read_record(self, product: str, record: Node, registry: str | None = None) -> Call:
        """The call that makes a product of its record, perhaps with the kinds that a registry has."""
        phrase, more = "read record", {}
        if registry is not None:
            phrase, more = "read with", {"on": self.var(registry)}
        code = self.say(phrase, record=self.record(record), **self.record_entries(product), **more)
        return Call(code, fails=True)

    def record(self, node: Node) -> str:
        """A record in a phrase that reads it."""
        return self.node(node)

    def read_text(self, product: str, text: str) -> Call:
        """The call that makes a product of the text of its record."""
        return Call(
            self.say("read text", text=self.literal(text), **self.record_entries(product)), fails=True
        )

    def read_back(self, product: str, original: str) -> Call:
        """The call that reads what is written of a variable, by the entries of a product that it is one of."""
        written = self.record_entries(str(self.scope.type_of(original)))["name"]
        places = {"var": self.reference(original), "written": written, **self.record_entries(product)}
        return Call(self.say("read back", **places), fails=True)

    def create_all(self, step: CreateAll) -> Lines:
        """A list of records, of which some make products."""
        return self.lines(
            "create all",
            records=", ".join(map(self.node, step.records)),
            made=step.made,
            all=self.fresh("all"),
            those=self.fresh("made"),
            told=self.fresh("problems"),
            problems=self.texts(step.problems),
            **self.record_entries(step.product),
        )

    def family(self, name: str) -> Family:
        """A family by its name."""
        return next(family for family in self.plan.families if family.name == name)

    def family_call(self, name: str, key: str) -> Call:
        """The call that gives a member of a family."""
        family = self.family(name)
        code = self.say("family", key=self.literal(key), **self.named(name))
        return Call(code, family.unknown == "error", family.unknown == "nothing")

    def role_call(self, family: str, role: str, arguments: Arguments) -> Call:
        """The call that asks a member for a product."""
        declared = self.scope.role(family, role)
        product = self.plan.products[declared.product]
        given = "" if declared.several else self.given_in_full(product, self.all_renamed(arguments))
        code = self.say("role", on=self.var(family), role=self.role(family, role), given=given)
        return Call(code, not declared.several and self.role_fails(self.scope.family(family), declared))

    def set_call(self, path: Path, value: Operand) -> Call:
        """The call that sets a field."""
        field = self.scope.field(path)
        text = self.value(value, field.type, field=field)
        return Call(self.setting(path, text), self.setter_fails(field), gives=False)

    def change_call(self, step: ChangeOne) -> Call:
        """The call that changes one element of what a product holds."""
        owner = self.scope.product_of(step.var)
        field = self.scope.field(Path(step.var, step.field))
        change = Change(step.way, field)
        given: list[str] = []
        assert isinstance(field.type, Collection)
        if isinstance(field.type, MapOf) and not isinstance(step.at, int | None):
            given.append(self.value(step.at, field.type.key))
        elif step.at is not None:
            given.append(str(step.at))
        if step.value is not None:
            given.append(self.changed_to(step.value, field, change))
        code = f"{self.changed(step.var)}{self.change_name(owner, change)}({', '.join(given)})"
        return Call(code, self.change_fails(change), gives=change.tells)

    def changed(self, var: str) -> str:
        """A product as its methods are called."""
        return f"{self.var(var)}."

    def changed_to(self, value: Operand, field: Field, change: Change) -> str:
        """The argument that is an element."""
        assert isinstance(field.type, Collection)
        return self.value(value, field.type.element, field=field)

    def told(self, call: Call, was_there: bool) -> Lines:
        """A call that removes by value or key, and tells whether there was anything."""
        return self.lines("was there" if was_there else "was not there", call=call.code)

    def builder_value(self, field: Field, value: Operand) -> str:
        """The argument of a builder's setter."""
        return self.value(value, field.type, field=field)

    def set_in_builder(self, owner: str, name: str, value: Operand) -> str:
        """The call of a setter of a builder, without the builder."""
        field = self.plan.products[owner].field(name)
        text, setter = self.builder_value(field, value), self.builder_words(owner).setter(field)
        return self.say(
            "fluent setter" if self.builder(owner).fluent else "setter", setter=setter, value=text
        )

    def builder_call(self, owner: str, step: BuilderCall) -> str:
        """A call on a builder, without the builder."""
        if isinstance(step, BuilderSet):
            return self.set_in_builder(owner, step.field, step.value)
        field, words = self.plan.products[owner].field(step.field), self.builder_words(owner)
        if isinstance(step, BuilderClear):
            return words.clearing(field)
        assert isinstance(field.type, Collection)
        return f".{words.adder(field)}({self.value(step.value, field.type.element, field=field)})"

    def calls_of(self, step: NewBuilder) -> str:
        """The calls of a chain that begins a builder."""
        return "".join(self.builder_call(step.product, call) for call in step.calls)

    def on_builder(self, step: BuilderCall, builder: Builder, call: str) -> Lines:
        """A call on a builder as a statement."""
        return self.lines("statement", code=f"{self.var(step.builder)}{call}")

    def builder(self, product: str) -> Builder:
        """The builder of a product."""
        builder = self.plan.builder_of(product)
        assert builder is not None
        return builder

    def built(self, step: Build, *, fails: bool) -> Call:
        """The call that ends a builder."""
        phrase = "build unchecked" if step.unchecked else "build"
        return Call(
            self.say(phrase, on=self.var(step.builder), **self.named(self.scope.owner(step.builder))), fails
        )

    def begun_builder(self, step: NewBuilder) -> Lines:
        """A builder, empty or not."""
        calls = self.calls_of(step)
        if step.preset is not None:
            preset = self.builder_words(step.product).preset(step.preset)
            return self.begun("preset", step.var, step.product, preset=preset, calls=calls)
        if step.like is not None:
            like = self.reference(step.like)
            return self.begun("builder like", step.var, step.product, like=like, calls=calls)
        return self.begun("new builder", step.var, step.product, calls=calls)

    def chained(self, step: BuildChained) -> Lines:
        """A fluent builder in one expression."""
        calls = "".join(self.set_in_builder(step.product, *each) for each in step.arguments.items())
        code = self.say("chained", calls=calls, **self.named(step.product))
        return self.keep(step, step.var, Call(code, self.build_fails(self.plan.products[step.product])))

    def loading(self, base: str) -> dict[str, str]:
        """The names of a product and of its registry, as phrases and scenarios of loaders name them."""
        return self.named(base)

    def stored(self, store: str, name: str, product: str) -> Call:
        """The call that keeps an exemplar."""
        handed = self.exemplar(store, product)
        code = self.say("add exemplar", on=self.var(store), name=self.literal(name), product=handed)
        return Call(code, fails=True, gives=False)

    def exemplar(self, store: str, product: str) -> str:
        """A variable as a store takes it."""
        return self.var(product)

    def exemplar_call(self, store: str, name: str) -> Call:
        """The call that gives a clone of an exemplar."""
        return Call(self.say("get exemplar", on=self.var(store), name=self.literal(name)), fails=True)

    # --- pools --------------------------------------------------------------------------------------------

    def pool_of(self, product: str) -> Pool:
        """The pool of a product."""
        pool = self.plan.pool_of(product)
        assert pool is not None
        return pool

    def parameters(self, product: str) -> dict[str, str]:
        """The parameter names of a maker: the parts of its key."""
        return {name: self.parameter(name) for name in self.pool_of(product).key}

    def key(self, product: str, key: Arguments, *, rebuilt: bool = False) -> str:
        """The parts of a key, as a pool is asked."""
        fields = self.plan.products[product]
        return ", ".join(self.part(value, fields.field(name), rebuilt) for name, value in key.items())

    def asked_pool(self, pool: str, key: Arguments, *, rebuilt: bool = False) -> Call:
        """The call that asks a pool."""
        given = self.key(self.scope.owner(pool), key, rebuilt=rebuilt)
        return Call(self.say("ask pool", on=self.var(pool), key=given), fails=True)

    def is_key(self, product: str, key: Arguments) -> str:
        """The condition of a maker that it is asked for a key."""
        fields, names = self.plan.products[product], self.parameters(product)
        return " && ".join(
            self.is_part(names[name], fields.field(name), value) for name, value in key.items()
        )

    def makes(self, product: str, given: Arguments) -> str:
        """The expression that a maker returns, given the values of its parameters and of the other fields."""
        return self.new(self.plan.products[product], given)

    def of_maker(self, product: str, given: Arguments) -> dict[str, Operand]:
        """The arguments of the product that a maker makes: the parts of its key, and the other fields."""
        return {**{name: Var(local) for name, local in self.parameters(product).items()}, **given}

    def pool_maker(self, product: str, given: Arguments) -> str:
        """A maker that gives these values beside its key."""
        call = self.makes(product, self.of_maker(product, self.all_renamed(given)))
        return self.say("maker", made=call, **self.header(product))

    def scenario(self, step: Any) -> dict[str, Any]:
        """The variables of the template of a pool's scenario."""
        product, given = step.product, self.all_renamed(step.arguments)
        other: Arguments = getattr(step, "other", {})
        return {
            "owner": product,
            "weak": self.pool_of(product).weak,
            "key": self.key(product, step.key),
            "other": self.key(product, other),
            "is_key": self.is_key(product, step.key),
            "is_other": self.is_key(product, other),
            "made": self.makes(product, self.of_maker(product, given)),
            "wrong": self.makes(product, {**self.all_renamed(other), **given}) if other else "",
            "control": self.makes(product, {**self.all_renamed(step.key), **given}),
            "threads": getattr(step, "threads", 0),
            "counts": lambda on, made, reused: self.say("counts are", on=on, made=made, reused=reused),
            **self.named(product),
            **self.header(product),
        }

    # --- what has a usual form, but not in every language ---------------------------------------------------

    def emptied(self, var: str) -> Lines:
        """The caller's own collection is emptied."""
        return self.lines("change held", var=self.var(var))

    def begun(self, phrase: str, var: str, product: str, **places: str) -> Lines:
        """A builder, a store, a pool, a registry."""
        return self.lines(phrase, var=self.var(var), **self.named(product), **places)

    def reference(self, var: str) -> str:
        """A variable as something is handed it that only looks at it."""
        return self.var(var)

    def equal(self, left: str, right: str) -> Lines:
        """Two variables of equal content."""
        return self.lines("equal", left=self.var(left), right=self.var(right))

    def unequal(self, left: str, right: str, differing: str) -> Lines:
        """Two variables of other content."""
        return self.lines("unequal", left=self.var(left), right=self.var(right), differing=differing)

    def field_absent(self, path: Path) -> Lines:
        """A field holds nothing."""
        return self.lines("is absent", got=self.path(path), name=path.field)

    def counted(self, role: str, listed: str, size: int) -> Lines:
        """A list role gives just that many; in the walk-through it is shown by what is printed."""
        return iter(()) if self.prints else self.lines("count", role=role, listed=listed, size=size)

    def kind_is(self, var: str, product: str) -> Lines:
        """A variable holds just this concrete product."""
        return self.lines("kind is", var=self.var(var), **self.named(product))

    def key_is(self, var: str, key: str) -> Lines:
        """A variable tells its key."""
        return self.lines("key is", var=self.var(var), key=self.literal(key))

    def printed(self, words: str, shown: str) -> Lines:
        """A line of the walk-through."""
        return self.lines("print", words=self.literal(f"  {words}:"), shown=self.var(shown))

    def printed_same(self, left: str, right: str) -> Lines:
        """The line of the walk-through that compares two variables."""
        return self.lines("print same", left=self.var(left), right=self.var(right))
