"""The steps over builders, prototypes, pools, families and factories by values, as JUnit tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import TEXT
from urform.languages.java.builders import BuilderNames
from urform.languages.java.expressions import client_name, text_literal
from urform.languages.java.families import member_type, role_name
from urform.languages.naming.names import Words, camel
from urform.languages.naming.scope import respelt
from urform.plan.making_steps import (
    AskedAre,
    AskRole,
    AskRoleFails,
    AskRoles,
    Build,
    BuildChained,
    BuilderAdd,
    BuilderSet,
    BuildFails,
    ClientGets,
    Clone,
    CloneEach,
    CountsAre,
    ExemplarAdd,
    ExemplarAddFails,
    ExemplarGet,
    ExemplarGetFails,
    FamilyFails,
    FamilyIs,
    FamilyNothing,
    FamilyOf,
    HiddenConstructor,
    NamesAre,
    Narrow,
    NewBuilder,
    NewExemplars,
    NewPool,
    NewStandIn,
    PoolAsk,
    PoolAskFails,
    PoolFailedMaker,
    PoolNested,
    PoolOnce,
    PoolReleased,
    PoolUnhindered,
    PoolWrongKey,
    SameObject,
    Select,
    SelectFails,
    SelectNothing,
    Take,
)
from urform.plan.model import Family
from urform.plan.operands import Arguments, Operand, Var
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.java.writer import Writer


def camelled(operand: Operand) -> Operand:
    """An operand whose variables are spelt as Java spells them."""
    return respelt(operand, camel)


# What tests of pools call their own variables.
VARIABLES = Words("asked atWork control each entered goOn gone got inner one other pool pools two".split())


class MakingWriter:
    """Writes these steps; what it shares with the others it asks of their writer."""

    def __init__(self, writer: Writer) -> None:
        self._w = writer
        self._plan = writer.plan
        self._code = writer.code
        self._names = writer.names
        self._scope = writer.scope

    def step(self, step: Step) -> Iterator[str]:
        """The lines of one step."""
        parts = (
            self._selections,
            self._builders,
            self._prototypes,
            self._exemplars,
            self._pools,
            self._families,
        )
        for part in parts:
            lines = part(step)
            if lines is not None:
                return lines
        raise TypeError(f"no such step: {step}")

    # --- factories by values ----------------------------------------------------------------------------

    def _selections(self, step: Step) -> Iterator[str] | None:
        match step:
            case Select(var, product, arguments, or_nothing):
                call = self._selected(product, arguments, or_nothing) + (
                    ".orElseThrow()" if or_nothing else ""
                )
                return self._w.keep(self._names.type(product), var, call)
            case SelectFails(product, arguments, failure, or_nothing):
                return iter([self._w.refused(failure, self._selected(product, arguments, or_nothing))])
            case SelectNothing(product, arguments):
                return iter([f"assertTrue({self._selected(product, arguments, True)}.isEmpty());"])
            case HiddenConstructor(product):
                type_ = self._names.type(product)
                return iter([f"assertEquals(0, {type_}.class.getConstructors().length);"])
        return None

    def _selected(self, product: str, arguments: Arguments, or_nothing: bool) -> str:
        selection = self._plan.selection_of(product)
        assert selection is not None
        given = self._code.selected(selection, self._w.renamed(arguments))
        return f"{self._names.type(product)}.{'find' if or_nothing else 'of'}({given})"

    # --- builders ---------------------------------------------------------------------------------------

    def _builders(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewBuilder(var, product, preset, like):
                type_ = f"{self._names.type(product)}.Builder"
                made = f"new {type_}()"
                if preset is not None:
                    made = f"{type_}.{self._builder_names(product).preset(preset)}()"
                elif like is not None:
                    made = f"{type_}.like({self._w.var(like)})"
                return iter([f"{type_} {self._w.var(var)} = {made};"])
            case BuilderSet(builder, field, value):
                return self._set(builder, field, value)
            case BuilderAdd(builder, field, value):
                owner = self._scope.owner(builder)
                adder = self._builder_names(owner).adder(self._plan.products[owner].field(field))
                return iter([f"{self._w.var(builder)}.{adder}({self._w.operand(value)});"])
            case Build(var, builder):
                type_ = self._names.type(self._scope.owner(builder))
                return self._w.keep(type_, var, f"{self._w.var(builder)}.build()")
            case BuildFails(builder, failure):
                return iter([self._w.refused(failure, f"{self._w.var(builder)}.build()")])
            case BuildChained(var, product, arguments):
                return self._chained(var, product, arguments)
        return None

    def _builder_names(self, product: str) -> BuilderNames:
        builder = self._plan.builder_of(product)
        assert builder is not None
        return BuilderNames(self._names, self._plan.products[product], builder)

    def _set(self, builder: str, field: str, value: Operand) -> Iterator[str]:
        owner = self._scope.owner(builder)
        name = self._builder_names(owner).setter(self._plan.products[owner].field(field))
        yield f"{self._w.var(builder)}.{name}({self._w.operand(value)});"

    def _chained(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        names = self._builder_names(product)
        fields = self._plan.products[product]
        calls = "".join(
            f".{names.setter(fields.field(n))}({self._w.operand(v)})" for n, v in arguments.items()
        )
        type_ = self._names.type(product)
        yield f"{type_} {self._w.var(var)} = new {type_}.Builder(){calls}.build();"

    # --- prototypes -------------------------------------------------------------------------------------

    def _prototypes(self, step: Step) -> Iterator[str] | None:
        match step:
            case Clone(var, original):
                type_ = self._code.plain(self._scope.type_of(original))
                return iter([f"{type_} {self._w.var(var)} = {self._w.var(original)}.copy();"])
            case CloneEach(product, originals, clones):
                return self._clone_each(self._names.type(product), originals, clones)
            case Take(var, path):
                absent = self._scope.field(path).may_be_absent and not path.first
                type_ = self._code.plain(self._scope.type_of(var))
                held = self._w.path(path) + (".orElseThrow()" if absent else "")
                return iter([f"{type_} {self._w.var(var)} = {held};"])
            case SameObject(left, right, _, same):
                assertion = "assertSame" if same else "assertNotSame"
                return iter([f"{assertion}({self._w.var(left)}, {self._w.var(right)});"])
        return None

    def _clone_each(self, type_: str, originals: tuple[str, ...], clones: tuple[str, ...]) -> Iterator[str]:
        names = ", ".join(self._w.var(name) for name in originals)
        yield f"List<{type_}> clones = List.of({names}).stream().map({type_}::copy).toList();"
        for number, clone in enumerate(clones):
            yield f"{type_} {self._w.var(clone)} = clones.get({number});"

    def _exemplars(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewExemplars(var, product):
                type_ = f"{self._names.type(product)}Exemplars"
                return iter([f"{type_} {self._w.var(var)} = new {type_}();"])
            case ExemplarAdd(store, name, product):
                return iter([f"{self._w.var(store)}.add({text_literal(name)}, {self._w.var(product)});"])
            case ExemplarAddFails(store, name, product, failure):
                call = f"{self._w.var(store)}.add({text_literal(name)}, {self._w.var(product)})"
                return iter([self._w.refused(failure, call)])
            case ExemplarGet(var, store, name):
                type_ = self._names.type(self._scope.owner(store))
                return self._w.keep(type_, var, f"{self._w.var(store)}.get({text_literal(name)})")
            case ExemplarGetFails(store, name, failure):
                return iter([self._w.refused(failure, f"{self._w.var(store)}.get({text_literal(name)})")])
            case NamesAre(store, names):
                listed = ", ".join(text_literal(name) for name in names)
                return iter([f"assertEquals(List.of({listed}), {self._w.var(store)}.names());"])
        return None

    # --- pools ------------------------------------------------------------------------------------------

    def _pools(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewPool(var, product, arguments):
                type_ = f"{self._names.type(product)}Pool"
                maker = (
                    ""
                    if arguments is None
                    else f"{self._lambda(product)} -> {self._made(product, arguments)}"
                )
                return iter([f"{type_} {self._w.var(var)} = new {type_}({maker});"])
            case PoolAsk(var, pool, key, rebuilt):
                owner = self._scope.owner(pool)
                call = f"{self._w.var(pool)}.get({self._key(owner, key, rebuilt)})"
                return self._w.keep(self._names.type(owner), var, call)
            case PoolAskFails(pool, key, failure):
                call = f"{self._w.var(pool)}.get({self._key(self._scope.owner(pool), key)})"
                return iter([self._w.refused(failure, call)])
            case CountsAre(pool, made, reused):
                return self._counts(self._w.var(pool), made, reused)
            case PoolOnce() | PoolUnhindered():
                return self._together(step)
            case PoolNested() | PoolFailedMaker() | PoolWrongKey() | PoolReleased():
                return self._with_maker(step)
        return None

    def _counts(self, pool: str, made: int, reused: int) -> Iterator[str]:
        yield f"assertEquals(List.of({made}L, {reused}L), List.of({pool}.made(), {pool}.reused()));"

    def _key(self, product: str, key: Arguments, rebuilt: bool = False) -> str:
        fields = self._plan.products[product]
        parts = []
        for name, value in key.items():
            text = self._w.operand(value)
            parts.append(
                f"new String({text}.toCharArray())" if rebuilt and fields.field(name).type == TEXT else text
            )
        return ", ".join(parts)

    def _parameters(self, product: str) -> list[str]:
        pool = self._plan.pool_of(product)
        assert pool is not None
        return [self._parameter(name) for name in pool.key]

    def _parameter(self, name: str) -> str:
        """What a maker calls a part of its key; it may hide nothing that the test uses."""
        return VARIABLES.escape(self._names.member(name))

    def _lambda(self, product: str) -> str:
        names = self._parameters(product)
        return names[0] if len(names) == 1 else f"({', '.join(names)})"

    def _made(self, product: str, arguments: Arguments) -> str:
        pool = self._plan.pool_of(product)
        assert pool is not None
        keys: dict[str, Operand] = {name: Var(self._parameter(name)) for name in pool.key}
        return self._code.make(product, {**keys, **self._w.renamed(arguments)})

    def _is_key(self, product: str, key: Arguments) -> str:
        names = self._parameters(product)
        return " && ".join(
            compared(self._plan.products[product].field(field).type == TEXT, name, self._w.operand(value))
            for name, (field, value) in zip(names, key.items(), strict=True)
        )

    def _together(self, step: PoolOnce | PoolUnhindered) -> Iterator[str]:
        type_ = self._names.type(step.product)
        key = self._key(step.product, step.key)
        if isinstance(step, PoolOnce):
            yield "AtomicInteger entered = new AtomicInteger();"
            yield f"{type_}Pool pool = new {type_}Pool({self._lambda(step.product)} -> {{"
            yield "    entered.incrementAndGet();"
            yield "    until(200, () -> entered.get() > 1);"
            yield f"    return {self._made(step.product, step.arguments)};"
            yield "});"
            yield f"List<{type_}> got = together({step.threads}, () -> pool.get({key}));"
            yield "assertEquals(1, entered.get());"
            yield f"for ({type_} each : got) {{"
            yield "    assertSame(got.get(0), each);"
            yield "}"
            yield from self._counts("pool", 1, step.threads - 1)
            return
        yield "CountDownLatch atWork = new CountDownLatch(1);"
        yield "CountDownLatch goOn = new CountDownLatch(1);"
        yield f"{type_}Pool pool = new {type_}Pool({self._lambda(step.product)} -> {{"
        yield f"    if ({self._is_key(step.product, step.other)}) {{"
        yield "        atWork.countDown();"
        yield "        assertTrue(until(10_000, () -> goOn.getCount() == 0));"
        yield "    }"
        yield f"    return {self._made(step.product, step.arguments)};"
        yield "});"
        yield f"{type_} one = pool.get({key});"
        yield f"Thread other = new Thread(() -> pool.get({self._key(step.product, step.other)}));"
        yield "other.start();"
        yield "try {"
        yield "    assertTrue(until(10_000, () -> atWork.getCount() == 0));"
        yield f"    assertSame(one, within(5_000, () -> pool.get({key})));"
        yield "} finally {"
        yield "    goOn.countDown();"
        yield "}"

    def _with_maker(self, step: PoolNested | PoolFailedMaker | PoolWrongKey | PoolReleased) -> Iterator[str]:
        type_ = self._names.type(step.product)
        made = self._made(step.product, step.arguments)
        key = self._key(step.product, step.key)
        maker = f"{self._lambda(step.product)} -> {{"
        match step:
            case PoolNested(other=other):
                asked = self._key(step.product, other)
                yield f"{type_}Pool[] pools = new {type_}Pool[1];"
                yield f"List<{type_}> inner = new ArrayList<>();"
                yield f"pools[0] = new {type_}Pool({maker}"
                yield f"    if ({self._is_key(step.product, step.key)}) {{"
                yield f"        inner.add(pools[0].get({asked}));"
                yield "    }"
                yield f"    return {made};"
                yield "});"
                yield f"{type_} one = within(5_000, () -> pools[0].get({key}));"
                yield f"assertNotSame(one, pools[0].get({asked}));"
                yield f"assertSame(inner.get(0), pools[0].get({asked}));"
                yield from self._counts("pools[0]", 2, 2)
            case PoolFailedMaker():
                yield "AtomicInteger asked = new AtomicInteger();"
                yield f"{type_}Pool pool = new {type_}Pool({maker}"
                yield "    if (asked.getAndIncrement() == 0) {"
                yield '        throw new IllegalStateException("out of stock");'
                yield "    }"
                yield f"    return {made};"
                yield "});"
                yield f"assertThrows(IllegalStateException.class, () -> pool.get({key}));"
                yield from self._counts("pool", 0, 0)
                yield f"{type_} one = pool.get({key});"
                yield f"assertSame(one, pool.get({key}));"
                yield from self._counts("pool", 1, 1)
            case PoolWrongKey(other=other):
                wrong = self._code.make(step.product, {**other, **self._w.renamed(step.arguments)})
                yield f"{type_}Pool pool = new {type_}Pool({self._lambda(step.product)} -> {wrong});"
                yield f'refused("{step.product}", "key", () -> pool.get({key}));'
                yield from self._counts("pool", 0, 0)
            case PoolReleased():
                yield f"{type_}Pool pool = new {type_}Pool({self._lambda(step.product)} -> {made});"
                yield f"WeakReference<{type_}> gone = new WeakReference<>(pool.get({key}));"
                control = self._code.make(
                    step.product, {**self._w.renamed(step.key), **self._w.renamed(step.arguments)}
                )
                yield f"WeakReference<{type_}> control = new WeakReference<>({control});"
                yield "until(5_000, () -> {"
                yield "    System.gc();"
                yield "    return gone.get() == null && control.get() == null;"
                yield "});"
                yield 'assumeTrue(control.get() == null, "nothing was collected");'
                yield "assertNull(gone.get());"
                yield f"pool.get({key});"
                yield from self._counts("pool", 2, 0)

    # --- families ---------------------------------------------------------------------------------------

    def _families(self, step: Step) -> Iterator[str] | None:
        match step:
            case FamilyOf(var, family, key):
                unwrap = ".orElseThrow()" if self._family(family).unknown == "nothing" else ""
                type_ = self._names.type(family)
                return iter([f"{type_} {self._w.var(var)} = {type_}.of({text_literal(key)}){unwrap};"])
            case FamilyFails(family, key, failure):
                return iter([self._w.refused(failure, f"{self._names.type(family)}.of({text_literal(key)})")])
            case FamilyNothing(family, key):
                return iter([f"assertTrue({self._names.type(family)}.of({text_literal(key)}).isEmpty());"])
            case FamilyIs(var, family, member):
                type_ = member_type(self._names, self._family(family), member)
                return iter([f"assertEquals({type_}.class, {self._w.var(var)}.getClass());"])
            case NewStandIn(var, family):
                type_ = member_type(self._names, self._family(family), "StandIn")
                return iter([f"{type_} {self._w.var(var)} = new {type_}();"])
            case AskRole(var, family, role, arguments):
                type_ = self._names.type(self._scope.role(family, role).product)
                return self._w.keep(type_, var, self._asked(family, role, arguments))
            case AskRoleFails(family, role, arguments, failure):
                return iter([self._w.refused(failure, self._asked(family, role, arguments))])
            case AskRoles(family, role, names):
                return self._ask_roles(family, role, names)
            case Narrow(var, original, product):
                type_ = self._names.type(product)
                return iter([f"{type_} {self._w.var(var)} = ({type_}) {self._w.var(original)};"])
            case AskedAre(stand_in, roles):
                listed = ", ".join(text_literal(role) for role in roles)
                return iter([f"assertEquals(List.of({listed}), {self._w.var(stand_in)}.asked());"])
            case ClientGets(family, name, products):
                types = ", ".join(f"{self._names.type(product)}.class" for product in products)
                return iter([f"assertEquals(List.of({types}), {client_name(name)}({self._w.var(family)}));"])
        return None

    def _family(self, name: str) -> Family:
        return next(family for family in self._plan.families if family.name == name)

    def _asked(self, family: str, role: str, arguments: Arguments) -> str:
        product = self._plan.products[self._scope.role(family, role).product]
        renamed = self._w.renamed(arguments)
        given = [self._code.operand(renamed[field.name]) for field in product.required]
        if product.optional:
            none = f"new {self._names.type(product.name)}.Options()"
            given.append(self._code.options(product.name, renamed) or none)
        return f"{self._w.var(family)}.{role_name(self._names, self._scope.role(family, role))}({', '.join(given)})"

    def _ask_roles(self, family: str, role: str, names: tuple[str, ...]) -> Iterator[str]:
        type_ = self._names.type(self._scope.role(family, role).product)
        call = f"{self._w.var(family)}.{role_name(self._names, self._scope.role(family, role))}()"
        if set(names) <= self._w.unused:
            yield from self._w.counted(call, len(names))
            return
        listed = f"{self._w.var(names[0])}List"
        yield f"List<{type_}> {listed} = {call};"
        yield from self._w.counted(listed, len(names))
        for number, name in enumerate(names):
            yield f"{type_} {self._w.var(name)} = {listed}.get({number});"


def compared(is_text: bool, left: str, right: str) -> str:
    """A comparison by content."""
    return f"{left}.equals({right})" if is_text else f"{left} == {right}"
