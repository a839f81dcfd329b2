"""The steps of claims over products and factories by key, as Rust tests."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from urform.declaration.types import REAL, TEXT, Collection, MapOf, ProductType, Type, innermost
from urform.declaration.values import Items, Real, Value
from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, respelt
from urform.languages.rust.expressions import is_copied, text_literal
from urform.languages.rust.factories import creating_fails, factory_registration, function_of
from urform.languages.rust.making_proof import MakingWriter
from urform.languages.rust.names import KEYWORDS, TEST_HELPERS
from urform.languages.rust.testing import Held
from urform.plan.making_steps import BuilderAdd, BuilderSet, ExemplarAdd, ExemplarAddFails, NewStandIn, Take
from urform.plan.model import Factory, Product
from urform.plan.operands import (
    Arguments,
    DuplicateKey,
    Failure,
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
    Register,
    RegisterFails,
    Set,
    SetFails,
    Unequal,
    Unregister,
)

if TYPE_CHECKING:
    from urform.languages.rust.proof import Proof

RESERVED = KEYWORDS | TEST_HELPERS


class Writer:
    """Writes the steps of one test."""

    good = ".unwrap()"  # said after a call that may fail, and does not here
    there = ".unwrap()"  # said of what may be absent, and is there

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self.proof = proof
        self.plan = proof.plan
        self.code = proof.code
        self.names = proof.names
        self.emitter = proof.emitter
        self.scope = scope
        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._changed: frozenset[str] = frozenset()
        self._stand_ins: frozenset[str] = frozenset()
        self._extra: dict[str, int] = {}
        self._makings = MakingWriter(self)

    def is_stand_in(self, var: str) -> bool:
        """Whether a variable holds a stand-in, no reference to a member."""
        return var in self._stand_ins

    def begin(self, steps: Sequence[Step]) -> None:
        """Note which variables of a case are changed."""
        self._changed = changed_in(steps)
        self._stand_ins = frozenset(step.var for step in steps if isinstance(step, NewStandIn))

    # --- variables ----------------------------------------------------------------------------------------

    def var(self, name: str) -> str:
        """The name of a variable in the test."""
        return snake(self.scope.name(name))

    def fresh(self, name: str) -> str:
        """The name of a variable that no step makes: a number tells it from the one before."""
        self._extra[name] = self._extra.get(name, 0) + 1
        return name if self._extra[name] == 1 else f"{name}{self._extra[name]}"

    def let(self, var: str, *, form: str = "own", type_: Type | None = None) -> str:
        """The begin of a statement that makes a variable."""
        name = self.var(var)
        held = type_ or self.scope.type_of(var)
        self.code.variables[name] = Held(held, form)
        return f"let {'mut ' if var in self._changed and form == 'own' else ''}{name}"

    def is_changed(self, var: str) -> bool:
        """Whether a later step changes what a variable holds."""
        return var in self._changed

    def take(self, var: str, call: str, *, form: str = "own") -> str:
        """Take what a call gives, if anything uses it."""
        return f"{call};" if var in self.unused else f"{self.let(var, form=form)} = {call};"

    def renamed(self, arguments: Arguments) -> dict[str, Operand]:
        """Arguments with the names that variables have in the test."""
        return {name: self.operand(value) for name, value in arguments.items()}

    def operand(self, operand: Operand) -> Operand:
        """An operand with the names that variables have in the test."""
        return respelt(self.scope.renamed(operand), snake)

    def reference(self, var: str) -> str:
        """A reference to what a variable holds."""
        return self.code.reference(self.var(var))

    # --- calls --------------------------------------------------------------------------------------------

    def make(self, product: str, arguments: Arguments) -> tuple[str, bool]:
        """The call of a constructor, and whether it may fail."""
        made = self.plan.products[product]
        selection = self.plan.selected_by(made)
        if selection is not None:
            function = function_of(self.plan.products[selection.product])
            return f"{function}({self.code.selected(selection, arguments)})", self.code.selection_fails(
                selection
            )
        return f"{self.names.type(product)}::new({self.code.arguments(made, arguments)})", self.code.fallible(
            made
        )

    def made(self, product: str, arguments: Arguments) -> Iterator[str]:
        """The lines of a helper that makes a witness."""
        call, fails = self.make(product, arguments)
        end = self.good if fails else ""
        made = self.plan.products[product]
        selection = self.plan.selected_by(made)
        if selection is None:
            yield f"{call}{end}"
            return
        base = self.plan.products[selection.product]
        yield f"let selected = {call}{end};"
        yield from self.narrowed("made", "selected", base, product, owned=True)
        yield "made"

    def narrowed(
        self, name: str, original: str, base: Product, product: str, *, owned: bool, mutable: bool = False
    ) -> Iterator[str]:
        """Take what is of a base's type as the concrete product that it was shown to be."""
        type_ = self.names.type(product)
        if self.code.is_open(base):
            cast = f"{original}.as_any().downcast_ref::<{type_}>(){self.there}"
            yield f"let {'mut ' if mutable else ''}{name} = {cast}{'.clone()' if owned else ''};"
            return
        pattern = f"{self.names.type(base.name)}::{type_}({'mut ' if mutable else ''}{name})"
        source = original if owned else f"&{original}"
        if len(base.variants) == 1:
            yield f"let {pattern} = {source};"
            return
        yield f"let {pattern} = {source} else {{"
        yield f'    panic!("kind: got another one, want {product}");'
        yield "};"

    def accessor(self, path: Path) -> str:
        """The call of an accessor, and of what gives the first element of what it gives."""
        var = self.var(path.var)
        product = self.scope.product_of(path.var)
        text = f"{var}.{self.emitter.method(product, path.field)}()"
        type_ = self.scope.field(Path(path.var, path.field)).type
        for _ in range(path.first):
            lent = f"&{text}" if text.endswith("]") else text
            text = f"first_of({lent})" if isinstance(type_, MapOf) else f"{text}[0]"
            type_ = type_.element if isinstance(type_, Collection) else type_
        return text

    def inside(self, path: Path) -> str:
        """The product that a path leads to, to be changed."""
        field = self.scope.field(Path(path.var, path.field))
        text = f"{self.var(path.var)}.{path.field}_mut()"
        if isinstance(field.type, Collection):
            return f"{text}.next(){self.there}"
        return f"{text}{self.there}" if field.may_be_absent else text

    def _set(self, path: Path, value: Operand) -> tuple[str, bool]:
        field = self.scope.field(path)
        holder = self.var(path.var)
        if path.inner is not None:
            holder = self.inside(Path(path.var, path.field, path.first))
        text = self.code.argument(self.operand(value), field.type, shared=self.code.shared(field))
        if field.may_be_absent:
            text = f"Some({f'{text[1:]}.as_str()' if text.startswith('&') else text})"
        return f"{holder}.set_{field.name}({text})", self.code.field_fails(field)

    # --- failures -----------------------------------------------------------------------------------------

    def failure(self, failure: Failure) -> str:
        """The expected error."""
        match failure:
            case Missing(owner, fields):
                return f'missing("{owner}", {texts(fields)})'
            case OutOfLimit(owner, field, limit, bound):
                return f'outside("{owner}", "{field}", "{limit}", {_bound(bound)})'
            case UnknownKey(owner, key, known):
                return f'unknown("{owner}", {text_literal(key)}, {texts(known)})'
            case Refused(owner, reason):
                return f'refused("{owner}", {text_literal(reason)})'
            case DuplicateKey(owner, key):
                return f'taken("{owner}", {text_literal(key)})'

    def refuses(self, call: str, failure: Failure) -> Iterator[str]:
        """What becomes of a call that fails."""
        name = self.fresh("result")
        yield f"let {name} = {call};"
        yield f"refuses({name}, {self.failure(failure)});"

    # --- steps --------------------------------------------------------------------------------------------

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                yield from self._make(var, product, self.renamed(arguments))
            case MakeFails(product, arguments, failure):
                yield from self.refuses(self.make(product, self.renamed(arguments))[0], failure)
            case Hold(var, type_, value):
                yield from self._hold(var, type_, value)
            case Set(path, value):
                call, fails = self._set(path, value)
                yield f"{call}{self.good if fails else ''};"
            case SetFails(path, value, failure):
                yield from self.refuses(self._set(path, value)[0], failure)
            case Clear(path):
                field = self.scope.field(path)
                end = self.good if self.code.field_fails(field) else ""
                yield f"{self.var(path.var)}.set_{path.field}(None){end};"
            case FieldIs(path, value):
                yield from self._field_is(path, self.operand(value))
            case FieldAbsent(path):
                yield f'is("{path.field}", &{self.accessor(path)}, &None);'
            case _:
                yield from self._more(step)

    def _make(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        call, fails = self.make(product, arguments)
        end = self.good if fails else ""
        selection = self.plan.selected_by(self.plan.products[product])
        if selection is None:
            yield self.take(var, f"{call}{end}")
            return
        selected = self.fresh("selected")
        yield f"let {selected} = {call}{end};"
        base = self.plan.products[selection.product]
        self.let(var)
        yield from self.narrowed(
            self.var(var), selected, base, product, owned=True, mutable=self.is_changed(var)
        )

    def _hold(self, var: str, type_: Type, value: Operand) -> Iterator[str]:
        product = self.plan.products.get(str(innermost(type_)))
        text = self.code.owned_operand(self.operand(value), type_)
        is_open = product is not None and self.code.is_open(product)
        typed = f": {self.code.type(type_)}" if is_open else ""
        yield f"{self.let(var)}{typed} = {text};"

    def _field_is(self, path: Path, value: Operand) -> Iterator[str]:
        field = self.scope.field(path)
        got = self.accessor(path)
        shared = self.code.shared(field)
        if not field.may_be_absent:
            yield from self.compared(path.field, field.type, got, value, shared=shared)
            return
        wanted = self.code.looked_at(value, field.type, shared=shared, typed=True)
        yield f'is("{path.field}", &{got}, &Some({wanted}));'
        if field.type == REAL and isinstance(value, Real) and value.number == 0:
            yield f'is("sign of {path.field}", &{got}.is_some_and(f64::is_sign_negative), &false);'

    def compared(
        self, what: str, type_: Type, got: str, value: Operand | Value, *, shared: bool = False
    ) -> Iterator[str]:
        """Whether an accessor gives a value."""
        wanted = self.code.looked_at(value, type_, shared=shared)
        if not is_copied(type_):
            yield f'is("{what}", {got}, {wanted});'
            return
        yield f'is("{what}", &{got}, &{wanted});'
        if type_ == REAL and isinstance(value, Real) and value.number == 0:
            yield f'is("sign of {what}", &{got}.is_sign_negative(), &false);'

    def _more(self, step: Step) -> Iterator[str]:
        match step:
            case Equal(left, right):
                yield f"equals({self._alike(left, right)});"
            case Unequal(left, right, differing):
                yield f"differs({self._alike(left, right)}, {text_literal(differing)});"
            case KindIs(var, product):
                yield from self._kind_is(var, product)
            case Answers(var, operation, arguments, value):
                yield from self._answers(var, operation, arguments, value)
            case NewRegistry(var, factory):
                self.code.variables[self.var(var)] = Held(ProductType(factory))
                mutable = "mut " if self.is_changed(var) else ""
                yield f"let {mutable}{self.var(var)} = {self.names.derived(factory, 'Registry')}::new();"
            case Register(registry, key, variant):
                yield f"{self._register(registry, key, variant)}{self.good};"
            case RegisterFails(registry, key, variant, failure):
                yield from self.refuses(self._register(registry, key, variant), failure)
            case Unregister(registry, key, found):
                call = f"{self.var(registry)}.unregister({text_literal(key)})"
                yield f"is({text_literal(f'{key} was there')}, &{call}, &{'true' if found else 'false'});"
            case KeysAre(registry, keys):
                yield f'is("keys", {self.var(registry)}.keys().as_slice(), {texts(keys)});'
            case Ask(var, factory, key, arguments, registry):
                yield self.take(var, self._asked(factory, key, self.renamed(arguments), registry))
            case AskFails(factory, key, arguments, failure, registry):
                call = self._ask(factory, key, self.renamed(arguments), registry, failure)
                yield from self.refuses(call, failure)
            case AskGivesNothing(factory, key, arguments, registry):
                yield from self._nothing(factory, key, self.renamed(arguments), registry)
            case _:
                yield from self._makings.step(step)

    def _alike(self, left: str, right: str) -> str:
        """Two variables as references of one type."""
        types = [self.scope.product_of(var) for var in (left, right)]
        texts_ = [self.reference(var) for var in (left, right)]
        for at, other in ((0, 1), (1, 0)):
            if types[at] is not types[other] and not types[at].abstract:
                base, name = self.plan.products[types[at].base or ""], self.var((left, right)[at])
                type_ = self.names.type(base.name)
                texts_[at] = (
                    f"&{name} as &dyn {type_}"
                    if self.code.is_open(base)
                    else f"&{type_}::{self.names.type(types[at].name)}({self.code.copy_of(name)})"
                )
        return ", ".join(texts_)

    def _kind_is(self, var: str, product: str) -> Iterator[str]:
        declared = self.scope.product_of(var)
        type_, name = self.names.type(product), self.var(var)
        if not declared.abstract:
            yield f"let _: &{type_} = {self.reference(var)};"
        elif self.code.is_open(declared):
            yield f'is("kind", &{name}.as_any().is::<{type_}>(), &true);'
        else:
            yield f'is("kind", kind_of({self.reference(var)}).as_str(), "{type_}");'
        key = self.plan.product(product).key
        if key is not None:
            yield f'is("key", {name}.key(), {text_literal(key)});'

    def _answers(
        self, var: str, operation: str, arguments: tuple[Operand, ...], value: Value
    ) -> Iterator[str]:
        product = self.scope.product_of(var)
        declared = product.operation(operation)
        handed = [
            self.code.looked_at(self.operand(given), parameter.type)
            for given, parameter in zip(arguments, declared.takes, strict=True)
        ]
        call = f"{self.var(var)}.{self.emitter.method(product, operation)}({', '.join(handed)})"
        type_ = declared.returns
        if is_copied(type_):
            yield from self.compared(operation, type_, call, value)
            return
        inner = self.plan.products.get(str(type_))
        if type_ == TEXT:
            call = f"{call}.as_str()"
        elif inner is not None and self.code.is_open(inner):
            call = f"{call}.as_ref()"
        elif (
            isinstance(value, (Several, Items))
            and not isinstance(type_, MapOf)
            and "Vec" in self.code.type(type_)
        ):
            call = f"{call}.as_slice()"
        else:
            call = f"&{call}"
        yield f'is("{operation}", {call}, {self.code.looked_at(value, type_)});'

    # --- factories ------------------------------------------------------------------------------------------

    def _register(self, registry: str, key: str, variant: str) -> str:
        """Registers a function that makes a variant, as a plug-in would write it."""
        base = self.plan.products[self.plan.products[variant].base or ""]
        maker = factory_registration(self.emitter, base, variant)
        return f"{self.var(registry)}.register({text_literal(key)}, Box::new({maker}))"

    def _factory(self, product: str) -> Factory:
        factory = self.plan.factory_of(product)
        assert factory is not None
        return factory

    def _ask(
        self,
        product: str,
        key: str,
        arguments: Arguments,
        registry: str | None,
        failure: Failure | None = None,
    ) -> str:
        """The call that makes by key, without what takes the product out of its result."""
        factory = self._factory(product)
        base = self.plan.products[product]
        given = self.code.arguments(base, arguments)
        more = f", {given}" if given else ""
        if registry is not None:
            return f"{self.var(registry)}.make({text_literal(key)}{more})"
        if factory.form != "creators":
            return f"{function_of(base)}({text_literal(key)}{more})"
        kind = f"{self.names.derived(product, 'Kind')}::of({text_literal(key)})"
        if isinstance(failure, UnknownKey):
            return kind
        taken = {"error": self.good, "nothing": self.there}.get(factory.unknown, "")
        return f"{kind}{taken}.create({given})"

    def counted(self, role: str, listed: str, size: int) -> Iterator[str]:
        """A role gives just that many."""
        yield f'is("length of {role}", &{listed}.len(), &{size});'

    def _asked(self, product: str, key: str, arguments: Arguments, registry: str | None) -> str:
        factory = self._factory(product)
        fails = creating_fails(self.emitter, self.plan.products[product], factory)
        call = self._ask(product, key, arguments, registry)
        if factory.form == "creators":
            return f"{call}{self.good if fails else ''}"
        call += self.good if fails or factory.unknown == "error" else ""
        return f"{call}{self.there}" if factory.unknown == "nothing" else call

    def _nothing(self, product: str, key: str, arguments: Arguments, registry: str | None) -> Iterator[str]:
        factory = self._factory(product)
        if factory.form == "creators":
            yield f"nothing({self.names.derived(product, 'Kind')}::of({text_literal(key)}));"
            return
        fails = creating_fails(self.emitter, self.plan.products[product], factory)
        yield f"nothing({self._ask(product, key, arguments, registry)}{self.good if fails else ''});"


def texts(names: Sequence[str]) -> str:
    """A slice of texts."""
    return f"&[{', '.join(text_literal(name) for name in names)}]"


def _bound(bound: object) -> str:
    match bound:
        case None | True:
            return "Bound::None"
        case tuple() if isinstance(bound[0], str):
            return f"Bound::Texts({texts(bound)})"
        case tuple():
            return f"Bound::Integers(&[{', '.join(map(str, bound))}])"
        case float():
            return f"Bound::Real({bound + 0.0!r})"
    return f"Bound::Integer({bound})"


def changed_in(steps: Sequence[object]) -> frozenset[str]:
    """The variables of a case of which something is changed: their own fields, or what they hold."""
    found: set[str] = set()
    for step in reversed(steps):
        match step:
            case Set(path) | SetFails(path) | Clear(path):
                found.add(path.var)
            case Register(registry) | RegisterFails(registry) | Unregister(registry):
                found.add(registry)
            case BuilderSet(builder) | BuilderAdd(builder):
                found.add(builder)
            case ExemplarAdd(store) | ExemplarAddFails(store):
                found.add(store)
            case Take(var, path) if var in found:
                found.add(path.var)
    return frozenset(found)
