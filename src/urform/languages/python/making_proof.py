"""The steps over builders, prototypes, pools, families and factories by values, as pytest tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.languages.naming.names import Words
from urform.languages.python.builders import BuilderNames
from urform.languages.python.expressions import client_name, text_literal
from urform.languages.python.families import member_type, role_name
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
from urform.plan.operands import Arguments, Operand
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.python.writer import Writer


# What tests of pools call their own variables, and what they call.
VARIABLES = frozenset(
    "at_work beside collected entered first gc go_on got inner len all maker one pool slowly together two until within".split()
)


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
        for part in (
            self._selections,
            self._builders,
            self._prototypes,
            self._exemplars,
            self._pools,
            self._families,
        ):
            lines = part(step)
            if lines is not None:
                return lines
        raise TypeError(f"no such step: {step}")

    # --- factories by values ----------------------------------------------------------------------------

    def _selections(self, step: Step) -> Iterator[str] | None:
        match step:
            case Select(var, product, arguments, or_nothing):
                made = (
                    f"{self._w.var(var)} = {self._entry(product, or_nothing)}({self._w.arguments(arguments)})"
                )
                return iter([made, *([f"assert {self._w.var(var)} is not None"] if or_nothing else [])])
            case SelectFails(product, arguments, failure, or_nothing):
                call = f"{self._entry(product, or_nothing)}({self._w.arguments(arguments)})"
                return self._w.refused(failure, call)
            case SelectNothing(product, arguments):
                call = f"{self._entry(product, True)}({self._w.arguments(arguments)})"
                return iter([f"nothing = {call}", "assert nothing is None"])
            case HiddenConstructor(product):
                return iter(
                    [
                        'with pytest.raises(TypeError, match="alone"):',
                        f"    untyped({self._names.type(product)})(0)",
                    ]
                )
        return None

    def _entry(self, product: str, or_nothing: bool) -> str:
        return self._names.lenient(product) if or_nothing else self._names.function(product)

    # --- builders ---------------------------------------------------------------------------------------

    def _builders(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewBuilder(var, product, preset, like):
                made = f"{self._names.stem(product)}Builder"
                if preset is not None:
                    made += f".{self._builder_names(product).preset(preset)}()"
                elif like is not None:
                    made += f".like({self._w.var(like)})"
                else:
                    made += "()"
                return iter([f"{self._w.var(var)} = {made}"])
            case BuilderSet(builder, field, value):
                return iter([self._set(builder, field, value)])
            case BuilderAdd(builder, field, value):
                owner = self._scope.owner(builder)
                adder = self._builder_names(owner).adder(self._plan.products[owner].field(field))
                return iter([f"{self._w.var(builder)}.{adder}({self._w.operand(value)})"])
            case Build(var, builder):
                return self._w.made(var, f"{self._w.var(builder)}.build()")
            case BuildFails(builder, failure):
                return self._w.refused(failure, f"{self._w.var(builder)}.build()")
            case BuildChained(var, product, arguments):
                return self._chained(var, product, arguments)
        return None

    def _builder_names(self, product: str) -> BuilderNames:
        return BuilderNames(self._names, self._plan.products[product])

    def _set(self, builder: str, field: str, value: Operand) -> str:
        owner = self._scope.owner(builder)
        name = self._builder_names(owner).setter(self._plan.products[owner].field(field))
        made = self._plan.builder_of(owner)
        if made is not None and made.fluent:
            return f"{self._w.var(builder)}.{name}({self._w.operand(value)})"
        return f"{self._w.var(builder)}.{name} = {self._w.operand(value)}"

    def _chained(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        names = self._builder_names(product)
        builder = f"{self._w.var(var)}_builder"
        yield f"{builder} = {self._names.stem(product)}Builder()"
        for name, value in arguments.items():
            setter = names.setter(self._plan.products[product].field(name))
            yield f"assert {builder}.{setter}({self._w.operand(value)}) is {builder}"
        yield f"{self._w.var(var)} = {builder}.build()"

    # --- prototypes -------------------------------------------------------------------------------------

    def _prototypes(self, step: Step) -> Iterator[str] | None:
        match step:
            case Clone(var, original):
                return iter([f"{self._w.var(var)} = {self._w.var(original)}.clone()"])
            case CloneEach(_, originals, clones):
                names = ", ".join(self._w.var(name) for name in originals)
                return iter([f"{', '.join(map(self._w.var, clones))} = [each.clone() for each in [{names}]]"])
            case Take(var, path):
                return self._take(self._w.var(var), self._w.path(path), self._scope.field(path).may_be_absent)
            case SameObject(left, right, _, same):
                sign = "is" if same else "is not"
                return iter([f"assert {self._w.var(left)} {sign} {self._w.var(right)}"])
        return None

    def _take(self, var: str, held: str, may_be_absent: bool) -> Iterator[str]:
        yield f"{var} = {held}"
        if may_be_absent:
            yield f"assert {var} is not None"

    def _exemplars(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewExemplars(var, product):
                return iter([f"{self._w.var(var)} = {self._names.stem(product)}Exemplars()"])
            case ExemplarAdd(store, name, product):
                return iter([f"{self._w.var(store)}.add({text_literal(name)}, {self._w.var(product)})"])
            case ExemplarAddFails(store, name, product, failure):
                call = f"{self._w.var(store)}.add({text_literal(name)}, {self._w.var(product)})"
                return self._w.refused(failure, call)
            case ExemplarGet(var, store, name):
                return self._w.made(var, f"{self._w.var(store)}.get({text_literal(name)})")
            case ExemplarGetFails(store, name, failure):
                return self._w.refused(failure, f"{self._w.var(store)}.get({text_literal(name)})")
            case NamesAre(store, names):
                listed = ", ".join(text_literal(name) for name in names)
                return iter([f"assert {self._w.var(store)}.names() == [{listed}]"])
        return None

    # --- pools ------------------------------------------------------------------------------------------

    def _pools(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewPool(var, product, arguments):
                maker = "" if arguments is None else self._maker(product, arguments)
                return iter([f"{self._w.var(var)} = {self._names.stem(product)}Pool({maker})"])
            case PoolAsk(var, pool, key, rebuilt):
                return self._w.made(var, f"{self._w.var(pool)}.get({self._key(key, rebuilt)})")
            case PoolAskFails(pool, key, failure):
                return self._w.refused(failure, f"{self._w.var(pool)}.get({self._key(key)})")
            case CountsAre(pool, made, reused):
                name = self._w.var(pool)
                return iter([f"assert ({name}.made, {name}.reused) == ({made}, {reused})"])
            case PoolOnce() | PoolUnhindered():
                return self._together(step)
            case PoolNested() | PoolFailedMaker() | PoolWrongKey() | PoolReleased():
                return self._with_maker(step)
        return None

    def _key(self, key: Arguments, rebuilt: bool = False) -> str:
        values = [self._w.operand(value) for value in key.values()]
        return ", ".join(
            f'"".join(list({value}))' if rebuilt and value[0] in "\"'" else value for value in values
        )

    def _parameters(self, product: str) -> list[str]:
        pool = self._plan.pool_of(product)
        assert pool is not None
        return [self._parameter(name) for name in pool.key]

    def _parameter(self, name: str) -> str:
        """What a maker calls a part of its key; it may hide nothing that the test uses."""
        proof = self._w.proof
        return Words(VARIABLES, proof.helpers, proof.exports).escape(self._names.parameter(name))

    def _made(self, product: str, arguments: Arguments) -> str:
        pool = self._plan.pool_of(product)
        assert pool is not None
        keys = [f"{self._names.field(name)}={self._parameter(name)}" for name in pool.key]
        given = self._w.arguments(arguments)
        return f"{self._names.type(product)}({', '.join([*keys, *([given] if given else [])])})"

    def _maker(self, product: str, arguments: Arguments) -> str:
        return f"lambda {', '.join(self._parameters(product))}: {self._made(product, arguments)}"

    def _typed(self, product: str) -> str:
        made = self._plan.products[product]
        pool = self._plan.pool_of(product)
        assert pool is not None
        pairs = [f"{self._parameter(n)}: {self._code.type(made.field(n).type)}" for n in pool.key]
        return ", ".join(pairs)

    def _together(self, step: PoolOnce | PoolUnhindered) -> Iterator[str]:
        type_ = self._names.type(step.product)
        if isinstance(step, PoolOnce):
            yield "entered: list[int] = []"
            yield f"def slowly({self._typed(step.product)}) -> {type_}:"
            yield "    entered.append(1)"
            yield "    until(lambda: len(entered) > 1, seconds=0.2)"
            yield f"    return {self._made(step.product, step.arguments)}"
            yield f"pool = {self._names.stem(step.product)}Pool(slowly)"
            yield f"got = together(lambda: pool.get({self._key(step.key)}), {step.threads})"
            yield "assert len(entered) == 1"
            yield "assert all(each is got[0] for each in got)"
            yield f"assert (pool.made, pool.reused) == (1, {step.threads - 1})"
            return
        yield "at_work, go_on = Event(), Event()"
        yield f"def slowly({self._typed(step.product)}) -> {type_}:"
        yield f"    if {self._is_key(step.product, step.other)}:"
        yield "        at_work.set()"
        yield "        assert go_on.wait(10)"
        yield f"    return {self._made(step.product, step.arguments)}"
        yield f"pool = {self._names.stem(step.product)}Pool(slowly)"
        yield f"one = pool.get({self._key(step.key)})"
        yield f"with beside(lambda: pool.get({self._key(step.other)})):"
        yield "    try:"
        yield "        assert at_work.wait(10)"
        yield f"        two = within(5, lambda: pool.get({self._key(step.key)}))"
        yield "    finally:"
        yield "        go_on.set()"
        yield "assert two is one"

    def _is_key(self, product: str, key: Arguments) -> str:
        names, values = self._parameters(product), [self._w.operand(value) for value in key.values()]
        if len(names) == 1:
            return f"{names[0]} == {values[0]}"
        return f"({', '.join(names)}) == ({', '.join(values)})"

    def _with_maker(self, step: PoolNested | PoolFailedMaker | PoolWrongKey | PoolReleased) -> Iterator[str]:
        type_ = self._names.type(step.product)
        made = self._made(step.product, step.arguments)
        header = f"def maker({self._typed(step.product)}) -> {type_}:"
        pool = f"pool = {self._names.stem(step.product)}Pool(maker)"
        key = self._key(step.key)
        match step:
            case PoolNested(other=other):
                yield f"inner: list[{type_}] = []"
                yield header
                yield f"    if {self._is_key(step.product, step.key)}:"
                yield f"        inner.append(pool.get({self._key(other)}))"
                yield f"    return {made}"
                yield pool
                yield f"one = within(5, lambda: pool.get({key}))"
                yield f"two = pool.get({self._key(other)})"
                yield "assert two is inner[0]"
                yield "assert one is not two"
                yield "assert (pool.made, pool.reused) == (2, 1)"
            case PoolFailedMaker():
                yield 'failures = [LookupError("out of stock")]'
                yield header
                yield "    if failures:"
                yield "        raise failures.pop()"
                yield f"    return {made}"
                yield pool
                yield 'with pytest.raises(LookupError, match="out of stock"):'
                yield f"    pool.get({key})"
                yield "assert (pool.made, pool.reused) == (0, 0)"
                yield f"one = pool.get({key})"
                yield f"assert pool.get({key}) is one"
                yield "assert (pool.made, pool.reused) == (1, 1)"
            case PoolWrongKey(other=other):
                yield f"pool = {self._names.stem(step.product)}Pool(lambda *_: {self._other(step.product, other, step.arguments)})"
                yield f'with refused(RefusedError("{step.product}", "key")):'
                yield f"    pool.get({key})"
                yield "assert (pool.made, pool.reused) == (0, 0)"
            case PoolReleased():
                yield f"pool = {self._names.stem(step.product)}Pool({self._maker(step.product, step.arguments)})"
                yield f"one = pool.get({key})"
                yield f"control = {self._other(step.product, step.key, step.arguments)}"
                yield "gone, elsewhere = ref(one), ref(control)"
                yield "del one, control"
                yield "until(lambda: gc.collect() >= 0 and gone() is elsewhere() is None)"
                yield "if elsewhere() is not None:"
                yield '    pytest.skip("nothing was collected")'
                yield "assert gone() is None"
                yield f"pool.get({key})"
                yield "assert (pool.made, pool.reused) == (2, 0)"

    def _other(self, product: str, key: Arguments, arguments: Arguments) -> str:
        return f"{self._names.type(product)}({self._w.arguments({**key, **arguments})})"

    # --- families ---------------------------------------------------------------------------------------

    def _families(self, step: Step) -> Iterator[str] | None:
        match step:
            case FamilyOf(var, family, key):
                found = self._plan_family(family)
                lines = [f"{self._w.var(var)} = {self._names.function(family)}({text_literal(key)})"]
                return iter(
                    [*lines, *([f"assert {self._w.var(var)} is not None"] if found == "nothing" else [])]
                )
            case FamilyFails(family, key, failure):
                return self._w.refused(failure, f"{self._names.function(family)}({text_literal(key)})")
            case FamilyNothing(family, key):
                return iter(
                    [
                        f"nothing = {self._names.function(family)}({text_literal(key)})",
                        "assert nothing is None",
                    ]
                )
            case FamilyIs(var, family, member):
                found_family = next(f for f in self._plan.families if f.name == family)
                type_ = member_type(self._names, found_family, member)
                return iter([f"assert type({self._w.var(var)}) is {type_}"])
            case NewStandIn(var, family):
                return iter([f"{self._w.var(var)} = StandIn{self._names.type(family)}()"])
            case AskRole(var, family, role, arguments):
                call = self._asked(family, role, arguments)
                type_ = self._names.type(self._scope.role(family, role).product)
                return iter([call if var in self._w.unused else f"{self._w.var(var)}: {type_} = {call}"])
            case AskRoleFails(family, role, arguments, failure):
                call = self._asked(family, role, arguments)
                return self._w.refused(failure, call)
            case AskRoles(family, role, names):
                call = self._asked(family, role, {})
                left = ", ".join(map(self._w.var, names))
                if set(names) <= self._w.unused:
                    return iter([f"assert len({call}) == {len(names)}"])
                return iter([f"[{left}] = {call}"])
            case Narrow(var, original, product):
                type_ = self._names.type(product)
                held = self._w.var(original)
                return iter([f"assert isinstance({held}, {type_})", f"{self._w.var(var)} = {held}"])
            case AskedAre(stand_in, roles):
                listed = ", ".join(text_literal(role) for role in roles)
                return iter([f"assert {self._w.var(stand_in)}.asked == [{listed}]"])
            case ClientGets():
                types = "".join(f"{self._names.type(product)}, " for product in step.products)
                listed = f"({types.rstrip(' ') if len(step.products) == 1 else types.rstrip(', ')})"
                call = f"{client_name(step.name)}({self._w.var(step.family)})"
                return iter([f"assert tuple(type(each) for each in {call}) == {listed}"])
        return None

    def _asked(self, family: str, role: str, arguments: Arguments) -> str:
        name = role_name(self._names, self._scope.role(family, role))
        return f"{self._w.var(family)}.{name}({self._w.arguments(arguments)})"

    def _plan_family(self, family: str) -> str:
        return next(f.unknown for f in self._plan.families if f.name == family)
