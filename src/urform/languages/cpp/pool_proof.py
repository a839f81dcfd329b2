"""The steps over pools, as C++ tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import TEXT
from urform.languages.cpp.names import TEST_HELPERS
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
from urform.plan.model import Pool
from urform.plan.operands import Arguments, Operand, Var
from urform.plan.script import Step

if TYPE_CHECKING:
    from urform.languages.cpp.writer import Writer

# What tests of pools call their own variables: a maker's parameter may hide none of them.
VARIABLES = frozenset("asked at_work entered go_on gone got inner inside one pool slow two".split())
SECONDS, MILLISECONDS = "std::chrono::seconds(5)", "std::chrono::milliseconds(200)"


class PoolWriter:
    """Writes these steps; what it shares with the others it asks of their writer."""

    def __init__(self, writer: Writer) -> None:
        self._w = writer
        self._plan = writer.plan
        self._code = writer.code
        self._names = writer.names
        self._scope = writer.scope

    def step(self, step: Step) -> Iterator[str] | None:
        """The lines of one step, None if it is about something else."""
        match step:
            case NewPool(var, product, arguments):
                if arguments is None:
                    return iter([f"{self._type(product)} {self._w.var(var)};"])
                maker = self._maker(product, self._made(product, arguments))
                return iter([f"{self._type(product)} {self._w.var(var)}({maker});"])
            case PoolAsk(var, pool, key, rebuilt):
                call = f"{self._w.var(pool)}.get({self._key(self._scope.owner(pool), key, rebuilt)})"
                return iter([self._w.take(var, call, form="shared")])
            case PoolAskFails(pool, key, failure):
                call = f"{self._w.var(pool)}.get({self._key(self._scope.owner(pool), key)})"
                return self._w.refuses(call, failure)
            case CountsAre(pool, made, reused):
                return self._counts(self._w.var(pool), made, reused)
            case PoolOnce():
                return self._once(step)
            case PoolUnhindered():
                return self._unhindered(step)
            case PoolNested():
                return self._nested(step)
            case PoolFailedMaker():
                return self._failed_maker(step)
            case PoolWrongKey():
                return self._wrong_key(step)
            case PoolReleased():
                return self._released(step)
        return None

    # --- parts --------------------------------------------------------------------------------------------

    def _type(self, product: str) -> str:
        return self._names.derived(product, "Pool")

    def _counts(self, pool: str, made: int, reused: int, sign: str = ".") -> Iterator[str]:
        yield f"EXPECT_EQ({pool}{sign}made(), {made});"
        yield f"EXPECT_EQ({pool}{sign}reused(), {reused});"

    def _key(self, product: str, key: Arguments, rebuilt: bool = False) -> str:
        fields = self._plan.products[product]
        parts = []
        for name, value in key.items():
            type_ = fields.field(name).type
            text = self._code.value(self._w.operand(value), type_)
            parts.append(f"std::string({text})" if rebuilt and type_ == TEXT else text)
        return ", ".join(parts)

    def _pool(self, product: str) -> Pool:
        pool = self._plan.pool_of(product)
        assert pool is not None
        return pool

    def _local(self, name: str) -> str:
        local = self._names.local(name)
        return Words(VARIABLES, TEST_HELPERS, self._w.proof.helpers).escape(local)

    def _made(self, product: str, arguments: Arguments) -> str:
        """The call that makes the product of the key at hand."""
        keys: dict[str, Operand] = {name: Var(self._local(name)) for name in self._pool(product).key}
        return self._call(product, {**keys, **self._w.renamed(arguments)})

    def _call(self, product: str, arguments: Arguments) -> str:
        made = self._plan.products[product]
        return f"{self._names.type(product)}({self._code.arguments(made, arguments)})"

    def _parameters(self, product: str, used: bool) -> str:
        """The parameters of a maker; they have no names if it uses none of them."""
        found = []
        for name in self._pool(product).key:
            type_ = self._code.type(self._plan.products[product].field(name).type)
            typed = f"const {type_} &" if type_ == "std::string" else f"{type_} "
            found.append(f"{typed}{self._local(name)}" if used else typed.rstrip())
        return ", ".join(found)

    def _maker(self, product: str, made: str, keyed: bool = True) -> str:
        """A maker of one expression, which uses the key that it is asked for or does not."""
        return f"[]({self._parameters(product, keyed)}) {{ return {made}; }}"

    def _lines(self, product: str, body: list[str], begin: str, capture: str, end: str) -> Iterator[str]:
        """A pool with a maker of several statements, the last of which uses the key."""
        parameters = self._parameters(product, used=True)
        yield f"{begin}[{capture}]({parameters}) {{"
        yield from (f"    {line}" for line in body)
        yield f"}}{end}"

    def _is_key(self, product: str, key: Arguments) -> str:
        """Whether a maker is asked for this key."""
        fields = self._plan.products[product]
        pairs = (
            f"{self._local(name)} == {self._code.value(self._w.operand(value), fields.field(name).type)}"
            for name, value in key.items()
        )
        return " && ".join(pairs)

    # --- steps --------------------------------------------------------------------------------------------

    def _once(self, step: PoolOnce) -> Iterator[str]:
        body = [
            "++entered;",
            f"until({MILLISECONDS}, [&] {{ return entered > 1; }});",
            f"return {self._made(step.product, step.arguments)};",
        ]
        yield "std::atomic<int> entered = 0;"
        yield from self._lines(step.product, body, f"{self._type(step.product)} pool(", "&", ");")
        call = f"pool.get({self._key(step.product, step.key)})"
        yield f"const auto got = together({step.threads}, [&] {{ return {call}; }});"
        yield "EXPECT_EQ(entered, 1);"
        yield "for (const auto &one : got) {"
        yield "    EXPECT_EQ(one.pointer(), got.front().pointer());"
        yield "}"
        yield from self._counts("pool", 1, step.threads - 1)

    def _unhindered(self, step: PoolUnhindered) -> Iterator[str]:
        body = [
            f"if ({self._is_key(step.product, step.other)}) {{",
            "    at_work->count_down();",
            "    go_on->wait();",
            "}",
            f"return {self._made(step.product, step.arguments)};",
        ]
        key, other = self._key(step.product, step.key), self._key(step.product, step.other)
        type_ = self._type(step.product)
        yield "const auto at_work = std::make_shared<std::latch>(1);"
        yield "const auto go_on = std::make_shared<std::latch>(1);"
        begin = f"const auto pool = std::make_shared<{type_}>("
        yield from self._lines(step.product, body, begin, "at_work, go_on", ");")
        yield f"const auto one = pool->get({key});"
        yield f"std::thread slow([pool] {{ static_cast<void>(pool->get({other})); }});"
        yield "at_work->wait();"
        hit = f"within({SECONDS}, [pool] {{ return pool->get({key}); }})"
        yield f'EXPECT_EQ(refusal([&] {{ return {hit}; }}), "nothing is thrown");'
        yield "go_on->count_down();"
        yield "slow.join();"
        yield f"EXPECT_EQ(pool->get({key}).pointer(), one.pointer());"

    def _nested(self, step: PoolNested) -> Iterator[str]:
        other = self._key(step.product, step.other)
        body = [
            f"if ({self._is_key(step.product, step.key)}) {{",
            f"    static_cast<void>((*inside)->get({other}));",
            "}",
            f"return {self._made(step.product, step.arguments)};",
        ]
        type_ = self._type(step.product)
        key = self._key(step.product, step.key)
        yield f"const auto pool = std::make_shared<std::unique_ptr<{type_}>>();"
        begin = f"*pool = std::make_unique<{type_}>("
        yield from self._lines(step.product, body, begin, "inside = pool.get()", ");")
        yield f"const auto one = within({SECONDS}, [pool] {{ return (*pool)->get({key}); }});"
        yield f"const auto two = (*pool)->get({other});"
        yield "EXPECT_NE(one.pointer(), two.pointer());"
        counts = (3, 0) if self._pool(step.product).weak else (2, 1)
        yield from self._counts("(*pool)", *counts, sign="->")

    def _failed_maker(self, step: PoolFailedMaker) -> Iterator[str]:
        key = self._key(step.product, step.key)
        body = [
            "++asked;",
            "if (asked == 1) {",
            '    throw std::runtime_error("out of stock");',
            "}",
            f"return {self._made(step.product, step.arguments)};",
        ]
        yield "int asked = 0;"
        yield from self._lines(step.product, body, f"{self._type(step.product)} pool(", "&asked", ");")
        yield f'EXPECT_EQ(refusal([&] {{ return pool.get({key}); }}), "out of stock");'
        yield from self._counts("pool", 0, 0)
        yield f"const auto one = pool.get({key});"
        yield f"const auto two = pool.get({key});"
        yield "EXPECT_EQ(one.pointer(), two.pointer());"
        yield from self._counts("pool", 1, 1)

    def _wrong_key(self, step: PoolWrongKey) -> Iterator[str]:
        wrong = self._call(step.product, {**self._w.renamed(step.other), **self._w.renamed(step.arguments)})
        yield f"{self._type(step.product)} pool({self._maker(step.product, wrong, keyed=False)});"
        call = f"pool.get({self._key(step.product, step.key)})"
        yield f'EXPECT_EQ(refusal([&] {{ return {call}; }}), refused("{step.product}", "key"));'
        yield from self._counts("pool", 0, 0)

    def _released(self, step: PoolReleased) -> Iterator[str]:
        key = self._key(step.product, step.key)
        maker = self._maker(step.product, self._made(step.product, step.arguments))
        yield f"{self._type(step.product)} pool({maker});"
        yield f"std::weak_ptr<const {self._names.type(step.product)}> gone = pool.get({key}).pointer();"
        yield "EXPECT_TRUE(gone.expired());"
        yield f"static_cast<void>(pool.get({key}));"
        yield from self._counts("pool", 2, 0)
