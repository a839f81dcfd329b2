"""The steps over builders, prototypes, pools, families and factories by values, as tests of node:test."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import TEXT
from urform.languages.naming.names import Words
from urform.languages.typescript.builders import BuilderNames
from urform.languages.typescript.expressions import client_name, listed, text_literal
from urform.languages.typescript.families import member_type, role_name
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
    PoolReleased,
    PoolWrongKey,
    SameObject,
    Select,
    SelectFails,
    SelectNothing,
    Take,
)
from urform.plan.model import Family, Pool
from urform.plan.operands import Arguments, Operand
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.typescript.writer import Writer


# What tests of pools call their own variables, and what they call.
VARIABLES = frozenset(
    "collected context elsewhere failure fails gone inside is maker notSameObject one pool refused sameObject throwsAgain "
    "two weakly wrong".split()
)


class MakingWriter:
    """Writes these steps; what it shares with the others it asks of their writer."""

    def __init__(self, writer: Writer) -> None:
        self._w = writer
        self._plan = writer.plan
        self._code = writer.code
        self._names = writer.names
        self._scope = writer.scope
        self._lists = 0

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
                call = self._selected(product, arguments, or_nothing)
                return self._w.keep(var, f"{call}!" if or_nothing else call)
            case SelectFails(product, arguments, failure, or_nothing):
                return self._w.refused(failure, self._selected(product, arguments, or_nothing))
            case SelectNothing(product, arguments):
                return iter([f"is({self._selected(product, arguments, True)}, undefined);"])
            case HiddenConstructor(product):
                return iter([f'is("{self._names.type(product)}" in exported, false);'])
        return None

    def _selected(self, product: str, arguments: Arguments, or_nothing: bool) -> str:
        entry = self._names.lenient(product) if or_nothing else self._names.function(product)
        return f"{entry}({self._w.arguments(arguments)})"

    # --- builders ---------------------------------------------------------------------------------------

    def _builders(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewBuilder(var, product, preset, like):
                type_ = f"{self._names.stem(product)}Builder"
                made = f"new {type_}()"
                if preset is not None:
                    made = f"{type_}.{self._builder_names(product).preset(preset)}()"
                elif like is not None:
                    made = f"{type_}.like({self._w.var(like)})"
                return iter([f"const {self._w.var(var)} = {made};"])
            case BuilderSet(builder, field, value):
                return iter([f"{self._set(builder, field, value)};"])
            case BuilderAdd(builder, field, value):
                owner = self._scope.owner(builder)
                adder = self._builder_names(owner).adder(self._plan.products[owner].field(field))
                return iter([f"{self._w.var(builder)}.{adder}({self._w.operand(value)});"])
            case Build(var, builder):
                return self._w.keep(var, f"{self._w.var(builder)}.build()")
            case BuildFails(builder, failure):
                return self._w.refused(failure, f"{self._w.var(builder)}.build()")
            case BuildChained(var, product, arguments):
                return self._chained(var, product, arguments)
        return None

    def _builder_names(self, product: str) -> BuilderNames:
        builder = self._plan.builder_of(product)
        assert builder is not None
        return BuilderNames(self._names, self._plan.products[product], builder)

    def _set(self, builder: str, field: str, value: Operand) -> str:
        owner = self._scope.owner(builder)
        setter = self._builder_names(owner).setter(self._plan.products[owner].field(field))
        return f"{self._w.var(builder)}.{setter}({self._w.operand(value)})"

    def _chained(self, var: str, product: str, arguments: Arguments) -> Iterator[str]:
        names = self._builder_names(product)
        builder = f"{self._w.var(var)}Builder"
        yield f"const {builder} = new {self._names.stem(product)}Builder();"
        for name, value in arguments.items():
            setter = names.setter(self._plan.products[product].field(name))
            yield f"sameObject({builder}.{setter}({self._w.operand(value)}), {builder});"
        yield f"const {self._w.var(var)} = {builder}.build();"

    # --- prototypes -------------------------------------------------------------------------------------

    def _prototypes(self, step: Step) -> Iterator[str] | None:
        match step:
            case Clone(var, original):
                return iter([f"const {self._w.var(var)} = {self._w.var(original)}.clone();"])
            case CloneEach(product, originals, clones):
                return self._clone_each(product, originals, clones)
            case Take(var, path):
                absent = self._scope.field(path).may_be_absent and not path.first
                return iter([f"const {self._w.var(var)} = {self._w.path(path)}{'!' if absent else ''};"])
            case SameObject(left, right, _, same):
                helper = "sameObject" if same else "notSameObject"
                return iter([f"{helper}({self._w.var(left)}, {self._w.var(right)});"])
        return None

    def _clone_each(self, product: str, originals: tuple[str, ...], clones: tuple[str, ...]) -> Iterator[str]:
        type_ = self._names.type(product)
        listed_originals, listed_clones = map(self._w.local, ("originals", "clones"))
        yield f"const {listed_originals}: {type_}[] = [{', '.join(map(self._w.var, originals))}];"
        yield f"const {listed_clones} = {listed_originals}.map((each) => each.clone());"
        for number, clone in enumerate(clones):
            yield f"const {self._w.var(clone)} = {listed_clones}[{number}]!;"

    def _exemplars(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewExemplars(var, product):
                return iter([f"const {self._w.var(var)} = new {self._names.stem(product)}Exemplars();"])
            case ExemplarAdd(store, name, product):
                return iter([f"{self._w.var(store)}.add({text_literal(name)}, {self._w.var(product)});"])
            case ExemplarAddFails(store, name, product, failure):
                call = f"{self._w.var(store)}.add({text_literal(name)}, {self._w.var(product)})"
                return self._w.refused(failure, call)
            case ExemplarGet(var, store, name):
                return self._w.keep(var, f"{self._w.var(store)}.get({text_literal(name)})")
            case ExemplarGetFails(store, name, failure):
                return self._w.refused(failure, f"{self._w.var(store)}.get({text_literal(name)})")
            case NamesAre(store, names):
                texts = ", ".join(text_literal(name) for name in names)
                return iter([f"is({self._w.var(store)}.names(), [{texts}]);"])
        return None

    # --- pools ------------------------------------------------------------------------------------------

    def _pools(self, step: Step) -> Iterator[str] | None:
        match step:
            case NewPool(var, product, arguments):
                maker = "" if arguments is None else self._maker(product, arguments)
                return iter([f"const {self._w.var(var)} = new {self._names.stem(product)}Pool({maker});"])
            case PoolAsk(var, pool, key, rebuilt):
                owner = self._scope.owner(pool)
                return self._w.keep(var, f"{self._w.var(pool)}.get({self._key(owner, key, rebuilt)})")
            case PoolAskFails(pool, key, failure):
                owner = self._scope.owner(pool)
                return self._w.refused(failure, f"{self._w.var(pool)}.get({self._key(owner, key)})")
            case CountsAre(pool, made, reused):
                return iter([self._counts(self._w.var(pool), made, reused)])
            case PoolNested() | PoolFailedMaker() | PoolWrongKey() | PoolReleased():
                return self._with_maker(step)
        return None

    def _counts(self, pool: str, made: int, reused: int) -> str:
        return f"is([{pool}.made, {pool}.reused], [{made}, {reused}]);"

    def _pool(self, product: str) -> Pool:
        pool = self._plan.pool_of(product)
        assert pool is not None
        return pool

    def _key(self, product: str, key: Arguments, rebuilt: bool = False) -> str:
        values = {name: self._w.operand(value) for name, value in key.items()}
        if rebuilt:
            texts = {field.name for field in self._plan.products[product].fields if field.type == TEXT}
            values = {n: f'[...{v}].join("")' if n in texts else v for n, v in values.items()}
        return next(iter(values.values())) if len(values) == 1 else self._code.fields(values)

    def _parameter(self, product: str) -> str:
        """What a maker calls its key."""
        names = self._pool(product).key
        if len(names) > 1:
            return "key"
        proof = self._w.proof
        return Words(VARIABLES, proof.helpers, proof.emitter.exports).escape(self._names.parameter(names[0]))

    def _made(self, product: str, arguments: Arguments) -> str:
        """The expression by which a maker makes the product of its key."""
        parameter = self._parameter(product)
        (first, *others) = self._pool(product).key
        given = [self._code.property(n, self._w.operand(v)) for n, v in arguments.items()]
        whole = ["...key"] if others else [self._code.property(first, parameter)]
        keyed = "key" if others and not given else listed([*whole, *given])
        return f"new {self._names.type(product)}({keyed})"

    def _maker(self, product: str, arguments: Arguments) -> str:
        return f"({self._parameter(product)}) => {self._made(product, arguments)}"

    def _is_key(self, product: str, key: Arguments) -> str:
        parameter = self._parameter(product)
        if len(key) == 1:
            return f"{parameter} === {self._w.operand(next(iter(key.values())))}"
        asked = (
            f"key.{self._names.member(name)} === {self._w.operand(value)}" for name, value in key.items()
        )
        return " && ".join(asked)

    def _with_maker(self, step: PoolNested | PoolFailedMaker | PoolWrongKey | PoolReleased) -> Iterator[str]:
        type_ = self._names.type(step.product)
        made = self._made(step.product, step.arguments)
        parameter = self._parameter(step.product)
        key = self._key(step.product, step.key)
        pool, maker, one, two = map(self._w.local, ("pool", "maker", "one", "two"))
        match step:
            case PoolNested(other=other):
                inside = self._w.local("inside")
                inner = self._key(step.product, other)
                yield f"const {inside}: {type_}[] = [];"
                yield f"const {maker}: {self._names.stem(step.product)}Maker = ({parameter}) => {{"
                yield f"  if ({self._is_key(step.product, step.key)}) {{"
                yield f"    {inside}.push({pool}.get({inner}));"
                yield "  }"
                yield f"  return {made};"
                yield "};"
                yield f"const {pool} = new {self._names.stem(step.product)}Pool({maker});"
                yield f"const {one} = {pool}.get({key});"
                yield f"const {two} = {pool}.get({inner});"
                yield f"sameObject({two}, {inside}[0]);"
                yield f"notSameObject({one}, {two});"
                yield self._counts(pool, 2, 1)
            case PoolFailedMaker():
                failure, fails = map(self._w.local, ("failure", "fails"))
                yield f'const {failure} = new Error("out of stock");'
                yield f"let {fails} = true;"
                yield f"const {maker}: {self._names.stem(step.product)}Maker = ({parameter}) => {{"
                yield f"  if ({fails}) {{"
                yield f"    {fails} = false;"
                yield f"    throw {failure};"
                yield "  }"
                yield f"  return {made};"
                yield "};"
                yield f"const {pool} = new {self._names.stem(step.product)}Pool({maker});"
                yield f"throwsAgain({failure}, () => {pool}.get({key}));"
                yield self._counts(pool, 0, 0)
                yield f"const {one} = {pool}.get({key});"
                yield f"sameObject({pool}.get({key}), {one});"
                yield self._counts(pool, 1, 1)
            case PoolWrongKey(other=other):
                wrong = self._w.local("wrong")
                yield f"const {wrong} = {self._other(step.product, other, step.arguments)};"
                yield f"const {pool} = new {self._names.stem(step.product)}Pool(() => {wrong});"
                yield f'refused(new RefusedError("{step.product}", "key"), () => {pool}.get({key}));'
                yield self._counts(pool, 0, 0)
            case PoolReleased():
                control = self._other(step.product, step.key, step.arguments)
                gone, elsewhere = map(self._w.local, ("gone", "elsewhere"))
                yield f"const {pool} = new {self._names.stem(step.product)}Pool({self._maker(step.product, step.arguments)});"
                yield f"const {gone} = weakly(() => {pool}.get({key}));"
                yield f"const {elsewhere} = weakly(() => {control});"
                yield f"await collected({gone}, {elsewhere});"
                yield f"if ({elsewhere}.deref() !== undefined) {{"
                yield f'  {self._w.local("context")}.skip("nothing was collected");'
                yield "  return;"
                yield "}"
                yield f"is({gone}.deref(), undefined);"
                yield f"{pool}.get({key});"
                yield self._counts(pool, 2, 0)

    def _other(self, product: str, key: Arguments, arguments: Arguments) -> str:
        return f"new {self._names.type(product)}({self._w.arguments({**key, **arguments})})"

    # --- families ---------------------------------------------------------------------------------------

    def _families(self, step: Step) -> Iterator[str] | None:
        match step:
            case FamilyOf(var, family, key):
                unwrap = "!" if self._family(family).unknown == "nothing" else ""
                return self._w.keep(var, f"{self._found(family, key)}{unwrap}")
            case FamilyFails(family, key, failure):
                return self._w.refused(failure, self._found(family, key))
            case FamilyNothing(family, key):
                return iter([f"is({self._found(family, key)}, undefined);"])
            case FamilyIs(var, family, member):
                return iter(
                    [f"kind({self._w.var(var)}, {member_type(self._names, self._family(family), member)});"]
                )
            case NewStandIn(var, family):
                return iter([f"const {self._w.var(var)} = new StandIn{self._names.type(family)}();"])
            case AskRole(var, family, role, arguments):
                call = self._asked(family, role, arguments)
                type_ = self._names.type(self._scope.role(family, role).product)
                kept = f"const {self._w.var(var)}: {type_} = {call};"
                return iter([f"{call};" if var in self._w.unused else kept])
            case AskRoleFails(family, role, arguments, failure):
                return self._w.refused(failure, self._asked(family, role, arguments))
            case AskRoles(family, role, names):
                return self._all(self._asked(family, role, {}), names)
            case Narrow(var, original, product):
                type_, held = self._names.type(product), self._w.var(original)
                check = f"kind({held}, {self._w.class_of(product)});"
                return iter([check, f"const {self._w.var(var)} = {held} as {type_};"])
            case AskedAre(stand_in, roles):
                texts = ", ".join(text_literal(role) for role in roles)
                return iter([f"is({self._w.var(stand_in)}.asked, [{texts}]);"])
            case ClientGets(family, name, products):
                classes = ", ".join(self._w.class_of(product) for product in products)
                return iter([f"kinds({client_name(name)}({self._w.var(family)}), [{classes}]);"])
        return None

    def _all(self, call: str, names: tuple[str, ...]) -> Iterator[str]:
        """Every part of a list role, and no others."""
        if set(names) <= self._w.unused:
            yield from self._w.counted(call, len(names))
            return
        self._lists += 1
        parts = self._w.local("parts" if self._lists == 1 else f"parts{self._lists}")
        yield f"const {parts} = {call};"
        yield from self._w.counted(parts, len(names))
        for number, name in enumerate(names):
            if name not in self._w.unused:
                yield f"const {self._w.var(name)} = {parts}[{number}]!;"

    def _found(self, family: str, key: str) -> str:
        return f"{self._names.function(family)}({text_literal(key)})"

    def _asked(self, family: str, role: str, arguments: Arguments) -> str:
        name = role_name(self._names, self._scope.role(family, role))
        return f"{self._w.var(family)}.{name}({self._w.arguments(arguments)})"

    def _family(self, name: str) -> Family:
        return next(family for family in self._plan.families if family.name == name)
