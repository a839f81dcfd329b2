"""The steps over pools, as Go tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import BOOLEAN, INTEGER, REAL, TEXT
from urform.languages.go.names import TEST_HELPERS
from urform.languages.naming.names import Words
from urform.plan.making_steps import (
    CountsAre,
    NewPool,
    PoolAsk,
    PoolAskFails,
    PoolFailedMaker,
    PoolNested,
    PoolOnce,
    PoolReleased,
    PoolUnhindered,
    PoolWrongKey,
)
from urform.plan.operands import Arguments, Operand, Var
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.go.writer import Writer

# Types of fields that hold no pointer: Go's allocator puts products of such alone, if they are small, side by side.
_WORDS = (BOOLEAN, INTEGER, REAL)
# What tests of pools call their own variables: a maker's parameter may hide none of them.
VARIABLES = frozenset("asked atWork entered err goOn got inner one outOfStock pool t two".split())


class PoolWriter:
    """Writes these steps; what it shares with the others it asks of their writer."""

    def __init__(self, writer: Writer) -> None:
        self._w = writer
        self._plan = writer.plan
        self._code = writer.code
        self._names = writer.names
        self._scope = writer.scope
        self._at = writer.at

    def _type(self, product: str) -> str:
        return f"{self._at}{self._names.type(product)}"

    def step(self, step: Step) -> Iterator[str] | None:
        """The lines of one step, None if it is about something else."""
        match step:
            case NewPool(var, product, arguments):
                maker = "nil" if arguments is None else self._maker(product, arguments)
                return iter([f"{self._w.var(var)} := {self._at}New{self._names.type(product)}Pool({maker})"])
            case PoolAsk(var, pool, key, rebuilt):
                owner = self._scope.owner(pool)
                return self._w.take(var, f"{self._w.var(pool)}.Get({self._key(owner, key, rebuilt)})", True)
            case PoolAskFails(pool, key, failure):
                call = f"{self._w.var(pool)}.Get({self._key(self._scope.owner(pool), key)})"
                return iter([f"_, err {self._w.declare()} {call}", self._w.refuses(failure)])
            case CountsAre(pool, made, reused):
                return self._counts(self._w.var(pool), made, reused)
            case PoolOnce() | PoolUnhindered():
                return self._together(step)
            case PoolNested() | PoolFailedMaker() | PoolWrongKey() | PoolReleased():
                return self._with_maker(step)
        return None

    def _counts(self, pool: str, made: int, reused: int) -> Iterator[str]:
        got = f"[2]int64{{{pool}.Made(), {pool}.Reused()}}"
        yield f'is(t, "made and reused", {got}, [2]int64{{{made}, {reused}}})'

    def _key(self, product: str, key: Arguments, rebuilt: bool = False) -> str:
        fields = self._plan.products[product]
        parts = []
        for name, value in key.items():
            text = self._w.operand(value)
            parts.append(f"strings.Clone({text})" if rebuilt and fields.field(name).type == TEXT else text)
        return ", ".join(parts)

    def _locals(self, product: str) -> list[str]:
        pool = self._plan.pool_of(product)
        assert pool is not None
        return [self._local(name) for name in pool.key]

    def _local(self, name: str) -> str:
        """A part of the key as a maker takes it; `t` is the test."""
        local = self._names.local(name)
        proof = self._w.proof
        return Words(VARIABLES, TEST_HELPERS, proof.helpers, {proof.emitter.package}).escape(local)

    def _header(self, product: str) -> str:
        from urform.languages.go.emitter import joined

        pool = self._plan.pool_of(product)
        assert pool is not None
        types = [self._code.type(self._plan.products[product].field(name).type) for name in pool.key]
        return f"func({joined(list(zip(self._locals(product), types, strict=True)))}) (*{self._type(product)}, error) {{"

    def _made(self, product: str, arguments: Arguments) -> str:
        """The call that makes the product of the key at hand, with its error."""
        pool = self._plan.pool_of(product)
        assert pool is not None
        keys: dict[str, Operand] = {name: Var(self._local(name)) for name in pool.key}
        return self._call(product, {**keys, **self._w.renamed(arguments)})

    def _call(self, product: str, arguments: Arguments) -> str:
        made = self._plan.products[product]
        call = f"{self._at}New{self._names.type(product)}({self._code.arguments(made, arguments)})"
        return call if self._code.fallible(made) else f"{call}, nil"

    def _maker(self, product: str, arguments: Arguments) -> str:
        return f"{self._header(product)} return {self._made(product, arguments)} }}"

    def _is_key(self, product: str, key: Arguments) -> str:
        values = [self._w.operand(value) for value in key.values()]
        return " && ".join(f"{n} == {v}" for n, v in zip(self._locals(product), values, strict=True))

    def _together(self, step: PoolOnce | PoolUnhindered) -> Iterator[str]:
        self._w.has_error()
        new = f"{self._at}New{self._names.type(step.product)}Pool"
        key = self._key(step.product, step.key)
        type_ = f"*{self._type(step.product)}"
        if isinstance(step, PoolOnce):
            yield "var entered atomic.Int64"
            yield f"pool := {new}({self._header(step.product)}"
            yield "\tentered.Add(1)"
            yield "\tuntil(200*time.Millisecond, func() bool { return entered.Load() > 1 })"
            yield f"\treturn {self._made(step.product, step.arguments)}"
            yield "})"
            yield f"got := together({step.threads}, func() {type_} {{"
            yield f"\tone, err := pool.Get({key})"
            yield "\tif err != nil {"
            yield "\t\treturn nil"
            yield "\t}"
            yield "\treturn one"
            yield "})"
            yield 'is(t, "makings", entered.Load(), 1)'
            yield "for _, one := range got {"
            yield '\tis(t, "the same object", one != nil && one == got[0], true)'
            yield "}"
            yield from self._counts("pool", 1, step.threads - 1)
            return
        yield "atWork, goOn := make(chan struct{}), make(chan struct{})"
        yield f"pool := {new}({self._header(step.product)}"
        yield f"\tif {self._is_key(step.product, step.other)} {{"
        yield "\t\tclose(atWork)"
        yield "\t\t<-goOn"
        yield "\t}"
        yield f"\treturn {self._made(step.product, step.arguments)}"
        yield "})"
        yield f"one, err := pool.Get({key})"
        yield self._w.good
        yield "ended := make(chan struct{})"
        yield "go func() {"
        yield "\tdefer close(ended)"
        yield f"\t_, _ = pool.Get({self._key(step.product, step.other)})"
        yield "}()"
        yield "<-atWork"
        yield f"hit := make(chan {type_}, 1)"
        yield "go func() {"
        yield f"\ttwo, _ := pool.Get({key})"
        yield "\thit <- two"
        yield "}()"
        yield "select {"
        yield "case two := <-hit:"
        yield '\tis(t, "the same object", one == two, true)'
        yield "case <-time.After(5 * time.Second):"
        yield '\tt.Error("got no answer while another key was made, want a hit")'
        yield "}"
        yield "close(goOn)"
        yield "<-ended"

    def _with_maker(self, step: PoolNested | PoolFailedMaker | PoolWrongKey | PoolReleased) -> Iterator[str]:
        type_ = self._type(step.product)
        self._w.has_error()
        new = f"{self._at}New{self._names.type(step.product)}Pool"
        made = self._made(step.product, step.arguments)
        key = self._key(step.product, step.key)
        header = self._header(step.product)
        match step:
            case PoolNested(other=other):
                asked = self._key(step.product, other)
                yield f"var pool *{type_}Pool"
                yield f"var inner *{type_}"
                yield f"pool = {new}({header}"
                yield f"\tif {self._is_key(step.product, step.key)} {{"
                yield f"\t\tinner, _ = pool.Get({asked})"
                yield "\t}"
                yield f"\treturn {made}"
                yield "})"
                got = f"func() (*{type_}, error) {{ return pool.Get({key}) }}"
                yield f"one, err := within(5*time.Second, {got})"
                yield self._w.good
                yield f"two, err := pool.Get({asked})"
                yield self._w.good
                yield 'is(t, "the same object", one == two, false)'
                yield 'is(t, "the same object", inner == two, true)'
                yield from self._counts("pool", 2, 1)
            case PoolFailedMaker():
                yield 'outOfStock := errors.New("out of stock")'
                yield "asked := 0"
                yield f"pool := {new}({header}"
                yield "\tif asked++; asked == 1 {"
                yield "\t\treturn nil, outOfStock"
                yield "\t}"
                yield "\tif asked == 2 {"
                yield '\t\tpanic("out of lamps")'
                yield "\t}"
                yield f"\treturn {made}"
                yield "})"
                yield f"_, err := pool.Get({key})"
                yield "refuses(t, err, outOfStock)"
                yield "func() {"
                yield '\tdefer func() { is(t, "the panic", recover(), any("out of lamps")) }()'
                yield f"\t_, _ = pool.Get({key})"
                yield "}()"
                yield from self._counts("pool", 0, 0)
                yield f"one, err := pool.Get({key})"
                yield self._w.good
                yield f"two, err := pool.Get({key})"
                yield self._w.good
                yield 'is(t, "the same object", one == two, true)'
                yield from self._counts("pool", 1, 1)
            case PoolWrongKey(other=other):
                wrong = self._call(
                    step.product, {**self._w.renamed(other), **self._w.renamed(step.arguments)}
                )
                yield f"pool := {new}({header} return {wrong} }})"
                yield f"_, err := pool.Get({key})"
                yield f'refuses(t, err, &{self._at}RefusedError{{Owner: "{step.product}", Reason: "key"}})'
                yield from self._counts("pool", 0, 0)
            case PoolReleased():
                yield f"pool := {new}({header} return {made} }})"
                yield f"one, err := pool.Get({key})"
                yield self._w.good
                control = self._call(
                    step.product, {**self._w.renamed(step.key), **self._w.renamed(step.arguments)}
                )
                fails = not control.endswith(", nil")
                made_beside = f"{control}" if fails else control.removesuffix(", nil")
                is_tiny = all(f.type in _WORDS for f in self._plan.products[step.product].fields)
                if is_tiny:
                    yield f"between := make([]*{type_}, 64) // so small that several share a block of memory"
                    yield "for i := range between {"
                    yield f"\tbetween[i]{', err' if fails else ''} = {made_beside}"
                    yield "}"
                yield f"other{', err' if fails else ''} := {made_beside}"
                yield self._w.good
                yield "gone, elsewhere := weak.Make(one), weak.Make(other)"
                yield "one, other = nil, nil"
                if is_tiny:
                    yield "clear(between)"
                yield "until(5*time.Second, func() bool {"
                yield "\truntime.GC()"
                yield "\treturn gone.Value() == nil && elsewhere.Value() == nil"
                yield "})"
                yield "if elsewhere.Value() != nil {"
                yield '\tt.Skip("nothing was collected")'
                yield "}"
                yield 'is(t, "released", gone.Value() == one && one == other, true)'
                yield f"_, err = pool.Get({key})"
                yield self._w.good
                yield from self._counts("pool", 2, 0)
