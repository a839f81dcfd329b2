"""The steps of claims over products and factories by key, as Go tests."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.ranges import length_range
from urform.declaration.types import REAL, Collection, ListOf, MapOf, SetOf, Type
from urform.declaration.values import Items, Real, Value
from urform.languages.go.expressions import text_literal
from urform.languages.go.making_proof import MakingWriter, camelled
from urform.languages.naming.names import camel, pascal
from urform.languages.naming.scope import Scope
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
from urform.plan.scalars import as_declared
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
    Register,
    RegisterFails,
    Set,
    SetFails,
    Unequal,
    Unregister,
)

if TYPE_CHECKING:
    from urform.languages.go.proof import Proof


class Writer:
    """Writes the steps of one test."""

    good = "succeeds(t, err)"  # said after a call that gives an error, and none here

    def __init__(self, proof: Proof, scope: Scope) -> None:
        self.proof = proof
        self.plan = proof.plan
        self.code = proof.code
        self.names = proof.names
        self.at = proof.at
        self.scope = scope
        self._err = False
        self._extra = 0

        self._emptied = "clear"  # how the caller's own collection is changed
        self.unused: frozenset[str] = frozenset()  # variables of the case at hand
        self._makings = MakingWriter(self)

    def var(self, name: str) -> str:
        """The name of a variable in the test."""
        return camel(self.scope.name(name))

    def operand(self, operand: Operand) -> str:
        """What is handed in, as code."""
        return self.code.operand(camelled(self.scope.renamed(operand)))

    def renamed(self, arguments: Arguments) -> dict[str, Operand]:
        """Arguments with the names that variables have in the test."""
        return {name: camelled(self.scope.renamed(value)) for name, value in arguments.items()}

    def take(self, var: str, call: str, fails: bool) -> Iterator[str]:
        """Take what a call gives, if anything uses it, and no error."""
        name = "_" if var in self.unused else self.var(var)
        if not fails:
            yield call if name == "_" else f"{name} := {call}"
            return
        sign = ":=" if name != "_" else self.declare()
        self._err = True
        yield f"{name}, err {sign} {call}"
        yield self.good

    def succeeded(self, call: str) -> str:
        """A call that gives an error only, and none here."""
        return f"succeeds(t, {call})"

    def found(self, name: str, wanted: bool) -> Iterator[str]:
        """Whether a lookup found something."""
        yield f'is(t, "found", {name}, {"true" if wanted else "false"})'

    def counted(self, what: str, listed: str, size: int) -> Iterator[str]:
        """A slice has just that many elements."""
        yield f"is(t, {what}, len({listed}), {size})"

    def has_error(self) -> None:
        """Note that `err` is declared."""
        self._err = True

    def declare(self) -> str:
        """How err is assigned when nothing else is declared with it."""
        first, self._err = not self._err, True
        return ":=" if first else "="

    def fresh(self, name: str) -> str:
        self._extra += 1
        name = f"{name}_" if name == self.proof.emitter.package else name
        return name if self._extra == 1 else f"{name}{self._extra}"

    def _taken(self, var: str) -> frozenset[str]:
        return self.proof.emitter.taken(self.scope.product_of(var))

    def accessor(self, path: Path) -> str:
        text = f"{self.var(path.var)}.{self.names.exported(path.field, self._taken(path.var))}()"
        type_ = self.scope.field(Path(path.var, path.field)).type
        for _ in range(path.first):
            text = self._first(type_, text)
            type_ = type_.element if isinstance(type_, Collection) else type_
        return text

    def _first(self, type_: Type, text: str) -> str:
        return f"anyOf({text})" if isinstance(type_, MapOf) else f"{text}[0]"

    def _set(self, path: Path, value: Operand) -> tuple[str, bool]:
        holder, name = self.var(path.var), path.field
        if path.inner is not None:
            holder, name = self.accessor(Path(path.var, path.field, path.first)), path.inner
        return f"{holder}.Set{pascal(name)}({self.operand(value)})", self._setter_fails(path)

    def _setter_fails(self, path: Path) -> bool:
        from urform.languages.go.members import setter_fails

        return setter_fails(self.proof.emitter, self.scope.field(path))

    def failure(self, failure: Failure) -> str:
        match failure:
            case Missing(owner, fields):
                names = ", ".join(text_literal(name) for name in fields)
                return f'&{self.at}MissingError{{Owner: "{owner}", Fields: []string{{{names}}}}}'
            case OutOfLimit(owner, field, limit, bound):
                data = self.code.bound_as_data(bound)
                more = f", Bound: {data}" if data else ""
                return f'&{self.at}LimitError{{Owner: "{owner}", Field: "{field}", Limit: "{limit}"{more}}}'
            case UnknownKey(owner, key, known):
                keys = ", ".join(text_literal(name) for name in known)
                named = f'Owner: "{owner}", Key: {text_literal(key)}, Known: []string{{{keys}}}'
                return f"&{self.at}UnknownKeyError{{{named}}}"
            case Refused(owner, reason):
                return f'&{self.at}RefusedError{{Owner: "{owner}", Reason: {text_literal(reason)}}}'
            case DuplicateKey(owner, key):
                return f'&{self.at}DuplicateKeyError{{Owner: "{owner}", Key: {text_literal(key)}}}'

    def refuses(self, failure: Failure) -> str:
        return f"refuses(t, err, {self.failure(failure)})"

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        match step:
            case Make(var, product, arguments):
                yield from self._make(var, product, self.renamed(arguments))
            case MakeFails(product, arguments, failure):
                yield f"_, err {self.declare()} {self.proof.make(product, self.renamed(arguments))}"
                yield self.refuses(failure)
            case Hold(var, type_, value):
                product_type = self.plan.products.get(str(type_))
                abstract = product_type is not None and product_type.abstract
                named = (
                    f"var {self.var(var)} {self.code.type(type_)} =" if abstract else f"{self.var(var)} :="
                )
                yield f"{named} {self.operand(value)}"
                self._emptied = "disturb" if holds_empty(value) else "clear"
            case ChangeHeld(var):
                yield f"{self._emptied}({self.var(var)})"
            case ChangeInHeld(var, field, value):
                yield from self._change_in(var, field, value)
            case ChangeOut(path):
                held = self.scope.field(path)
                inner = held.type.element if isinstance(held.type, Collection) else None
                always_empty = isinstance(inner, Collection) and length_range(as_declared(held.each))[1] == 0
                listed = always_empty and not isinstance(held.type, MapOf)
                yield f"{'disturb' if listed else 'clear'}({self.accessor(path)})"
            case Set(path, value):
                call, fails = self._set(path, value)
                yield self.succeeded(call) if fails else call
            case SetFails(path, value, failure):
                call, _ = self._set(path, value)
                yield f"err {self.declare()} {call}"
                yield self.refuses(failure)
            case Clear(path):
                yield f"{self.var(path.var)}.Clear{pascal(path.field)}()"
            case FieldIs(path, value):
                yield from self._field_is(path, value)
            case FieldAbsent(path):
                value_, ok = self.fresh("value"), f"ok{self._extra if self._extra > 1 else ''}"
                yield f"{value_}, {ok} := {self.accessor(path)}"
                yield f'is(t, "{path.field} is there", {ok}, false)'
                yield f"_ = {value_}"
            case _:
                yield from self._more(step)

    def _make(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        made = self.plan.products[product]
        call = self.proof.make(product, arguments)
        selection = self.plan.selected_by(made)
        if selection is None:
            yield from self.take(var, call, self.code.fallible(made))
            return
        narrow = f"as[*{self.at}{self.names.type(product)}]"
        if not self.code.selection_fails(selection):
            yield f"{self.var(var)} := {narrow}(t, {call})"
            return
        selected = self.fresh("selected")
        self._err = True
        yield f"{selected}, err := {call}"
        yield self.good
        yield f"{self.var(var)} := {narrow}(t, {selected})"

    def _change_in(self, var: str, field: str, value: Operand) -> Iterator[str]:
        type_ = self.scope.type_of(var)
        holder = self._first(type_, self.var(var)) if isinstance(type_, Collection) else self.var(var)
        inner = self.scope.inside(type_, field)
        from urform.languages.go.members import setter_fails

        call = f"{holder}.Set{pascal(field)}({self.operand(value)})"
        yield self.succeeded(call) if setter_fails(self.proof.emitter, inner) else call

    def _field_is(self, path: Path, value: Operand) -> Iterator[str]:
        field = self.scope.field(path)
        accessor = self.accessor(path)
        if field.may_be_absent:
            got, ok = self.fresh("value"), f"ok{self._extra if self._extra > 1 else ''}"
            yield f"{got}, {ok} := {accessor}"
            yield f'isGiven(t, "{path.field}", {got}, {ok}, {self._typed(field.type, value)})'
            yield from self._sign(path.field, field.type, got, value)
            return
        yield from self._is(path.field, field.type, accessor, value)

    def _is(self, what: str, type_: Type, got: str, value: Operand | Value) -> Iterator[str]:
        empty = isinstance(value, (Several, Items)) and not value.items and isinstance(type_, (ListOf, SetOf))
        if empty:
            yield f'is(t, "length of {what}", len({got}), 0)'
            return
        yield f'is(t, "{what}", {got}, {self._typed(type_, value)})'
        yield from self._sign(what, type_, got, value)

    def _sign(self, what: str, type_: Type, got: str, value: Operand | Value) -> Iterator[str]:
        """A zero is a plain one, which a comparison does not tell."""
        if type_ == REAL and isinstance(value, Real) and value.number == 0:
            yield f'is(t, "sign of {what}", math.Signbit({got}), false)'

    def _typed(self, type_: Type, value: Operand | Value) -> str:
        """A value that generic inference gives the right type: interfaces are named."""
        product = self.plan.products.get(str(type_))
        text = self.operand(value)
        return f"{self.code.type(type_)}({text})" if product is not None and product.abstract else text

    def _more(self, step: Step) -> Iterator[str]:
        match step:
            case Equal(left, right):
                yield f'is(t, "equality", {self.var(left)}.Equal({self.var(right)}), true)'
            case Unequal(left, right, differing):
                yield f'is(t, "equality in spite of {differing}", {self.var(left)}.Equal({self.var(right)}), false)'
            case KindIs(var, product):
                yield f"isA[{self.at}{self.names.type(product)}](t, {self.var(var)})"
                key = self.plan.product(product).key
                if key is not None:
                    yield f'is(t, "key", {self.var(var)}.Key(), {text_literal(key)})'
            case Answers(var, operation, arguments, value):
                handed = ", ".join(self.operand(argument) for argument in arguments)
                returns = self.scope.product_of(var).operation(operation).returns
                method = self.names.exported(operation, self._taken(var))
                yield from self._is(operation, returns, f"{self.var(var)}.{method}({handed})", value)
            case NewRegistry(var, factory):
                yield f"{self.var(var)} := {self.at}New{self.names.type(factory)}Registry()"
            case Register(registry, key, variant):
                yield from self._register(registry, key, variant)
            case RegisterFails(registry, key, variant, failure):
                yield from self._register(registry, key, variant, failure)
            case Unregister(registry, key, found):
                call = f"{self.var(registry)}.Unregister({text_literal(key)})"
                yield f'is(t, "{key} was there", {call}, {"true" if found else "false"})'
            case KeysAre(registry, keys):
                names = ", ".join(text_literal(key) for key in keys)
                yield f'is(t, "keys", {self.var(registry)}.Keys(), []string{{{names}}})'
            case Ask(var, factory, key, arguments, registry):
                yield from self._ask(self.var(var), factory, key, self.renamed(arguments), registry)
            case AskFails(factory, key, arguments, failure, registry):
                yield from self._ask("_", factory, key, self.renamed(arguments), registry, failure)
            case AskGivesNothing(factory, key, arguments, registry):
                yield from self._nothing(factory, key, self.renamed(arguments), registry)
            case _:
                yield from self._makings.step(step)

    # --- factories ------------------------------------------------------------------------------------

    def _register(
        self, registry: str, key: str, variant: str, failure: Failure | None = None
    ) -> Iterator[str]:
        """Registers a function that makes a variant, as a plug-in would write it."""
        made = self.plan.products[variant]
        base = self.plan.products[made.base or ""]
        maker = self.fresh("maker")
        parameters = self._qualified(base)
        type_ = f"{self.at}{self.names.type(base.name)}"
        yield f"{maker} := func({parameters}) ({type_}, error) {{"
        arguments = self._passed_on(base, variant)
        call = f"{self.at}New{self.names.type(variant)}({arguments})"
        yield f"\treturn {call}{'' if self.code.fallible(made) else ', nil'}"
        yield "}"
        register = f"{self.var(registry)}.Register({text_literal(key)}, {maker})"
        if failure is None:
            yield self.succeeded(register)
        else:
            yield f"err {self.declare()} {register}"
            yield self.refuses(failure)

    def _qualified(self, base: object) -> str:
        from urform.languages.go.emitter import joined
        from urform.plan.model import Product

        assert isinstance(base, Product)
        typed = [(self.names.local(field.name), self.code.type(field.type)) for field in base.required]
        if base.optional:
            typed.append(("opts", f"{self.at}{self.names.type(base.name)}Options"))
        return joined(typed)

    def _passed_on(self, base: object, variant: str) -> str:
        from urform.plan.model import Product

        assert isinstance(base, Product)
        arguments = self.proof.emitter.arguments(base, self.plan.products[variant])
        return re.sub(r"(\w+Options)\{", rf"{self.at}\1{{", arguments)

    def _call(
        self, product: str, key: str, arguments: Arguments, registry: str | None
    ) -> tuple[str, list[str]]:
        """The call that asks, and what it gives beside the product or creator: `bool`, `error`."""
        factory = self.plan.factory_of(product)
        assert factory is not None
        base = self.plan.products[product]
        variants = [self.plan.products[name] for name in factory.kinds.values()]
        fallible = any(self.code.fallible(variant) for variant in variants)
        given = self.code.arguments(base, arguments)
        with_key = ", ".join(part for part in (text_literal(key), given) if part)
        more = ["bool"] if factory.unknown == "nothing" else []
        type_ = self.names.type(product)
        if factory.form == "creators":
            call = f"{self.at}{type_}CreatorFor({text_literal(key)})"
            return call, more + (["error"] if factory.unknown == "error" else [])
        if registry is not None:
            return f"{self.var(registry)}.Make({with_key})", [*more, "error"]
        return f"{self.at}New{type_}({with_key})", more + (
            ["error"] if fallible or factory.unknown == "error" else []
        )

    def _ask(
        self,
        var: str,
        product: str,
        key: str,
        arguments: Arguments,
        registry: str | None,
        failure: Failure | None = None,
    ) -> Iterator[str]:
        factory = self.plan.factory_of(product)
        assert factory is not None
        call, more = self._call(product, key, arguments, registry)
        creators = factory.form == "creators"
        if creators and not isinstance(failure, UnknownKey):
            creator = self.fresh("creator")
            yield from self.assign(creator, call, more, None)
            base = self.plan.products[product]
            variants = [self.plan.products[name] for name in factory.kinds.values()]
            fallible = any(self.code.fallible(variant) for variant in variants)
            call, more = (
                f"{creator}.Create({self.code.arguments(base, arguments)})",
                ["error"] if fallible else [],
            )
        yield from self.assign(var, call, more, failure)

    def assign(self, var: str, call: str, more: list[str], failure: Failure | None) -> Iterator[str]:
        found = self.fresh("found") if "bool" in more and failure is None else "_"
        names = [var, *({"bool": found, "error": "err"}[kind] for kind in more)]
        new = var != "_" or found != "_"
        sign = ":=" if new else self.declare() if "error" in more else "="
        if "error" in more and new:
            self._err = True
        yield f"{', '.join(names)} {sign} {call}"
        if failure is not None:
            yield self.refuses(failure)
            return
        if "error" in more:
            yield self.good
        if found != "_":
            yield from self.found(found, True)

    def _nothing(self, product: str, key: str, arguments: Arguments, registry: str | None) -> Iterator[str]:
        call, more = self._call(product, key, arguments, registry)
        found = self.fresh("found")
        names = ["_", found, *(["err"] if "error" in more else [])]
        if "error" in more:
            self._err = True
        yield f"{', '.join(names)} := {call}"
        if "error" in more:
            yield self.good
        yield from self.found(found, False)


def holds_empty(value: Operand) -> bool:
    """Whether a list holds nothing but empty collections: `clear` would put equal ones in their place."""
    if not isinstance(value, Several):
        return False
    return bool(value.items) and all(
        (isinstance(item, Several) and not item.items) or (isinstance(item, Keyed) and not item.entries)
        for item in value.items
    )
