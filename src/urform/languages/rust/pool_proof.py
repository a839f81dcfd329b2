"""The steps over pools, as Rust tests."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import TEXT
from urform.languages.naming.names import Words
from urform.languages.rust.layout import CALL_WIDTH, WIDTH
from urform.languages.rust.names import TEST_HELPERS
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
    from urform.languages.rust.writer import Writer

# What tests of pools call their own variables: a maker's parameter may hide none of them.
VARIABLES = frozenset("asked at_work entered go_on got inner one pool two inside reason".split())


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
                new = f"{self._type(product)}::new()"
                if arguments is not None:
                    new = self._with_maker(product, self._made(product, arguments))
                return iter([f"let {self._w.var(var)} = {new};"])
            case PoolAsk(var, pool, key, rebuilt):
                call = f"{self._w.var(pool)}.get({self._key(self._scope.owner(pool), key, rebuilt)}){self._w.good}"
                return iter([self._w.take(var, call, form="arc")])
            case PoolAskFails(pool, key, failure):
                call = f"{self._w.var(pool)}.get({self._key(self._scope.owner(pool), key)})"
                return self._w.refuses(call, failure)
            case CountsAre(pool, made, reused):
                return iter([self._counts(self._w.var(pool), made, reused)])
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

    def _counts(self, pool: str, made: int, reused: int) -> str:
        return f'is("made and reused", &({pool}.made(), {pool}.reused()), &({made}, {reused}));'

    def _key(self, product: str, key: Arguments, rebuilt: bool = False) -> str:
        fields = self._plan.products[product]
        parts = []
        for name, value in key.items():
            type_ = fields.field(name).type
            text = self._code.argument(self._w.operand(value), type_)
            fresh = rebuilt and type_ == TEXT and text != '""' and not text.startswith("&")
            parts.append(f"&String::from({text})" if fresh else text)
        return ", ".join(parts)

    def _pool(self, product: str) -> Pool:
        pool = self._plan.pool_of(product)
        assert pool is not None
        return pool

    def _locals(self, product: str) -> dict[str, str]:
        """The parameters of a maker by the fields of the key; long ones are numbered, so that they share its line."""
        key = self._pool(product).key
        room = min(CALL_WIDTH, WIDTH - len(f"    let pool = {self._type(product)}::with_maker(") - 2)
        declared = [self._local(name) for name in key]
        spelt = (
            declared,
            *([f"{short}{number}" for number in range(1, len(key) + 1)] for short in ("key", "k")),
        )
        fitting = (
            each for each in spelt if len(f"move |{', '.join(f'_{local}' for local in each)}| {{") <= room
        )
        return dict(zip(key, next(fitting, spelt[-1]), strict=True))

    def _local(self, name: str) -> str:
        local = self._names.local(name)
        return Words(VARIABLES, TEST_HELPERS, self._w.proof.helpers).escape(local)

    def _made(self, product: str, arguments: Arguments) -> str:
        """The call that makes the product of the key at hand, as a result."""
        keys: dict[str, Operand] = {name: Var(local) for name, local in self._locals(product).items()}
        return self._call(product, {**keys, **self._w.renamed(arguments)})

    def _call(self, product: str, arguments: Arguments) -> str:
        made = self._plan.products[product]
        call = f"{self._names.type(product)}::new({self._code.arguments(made, arguments)})"
        return call if self._code.fallible(made) else f"Ok({call})"

    def _parameters(self, product: str, used: bool) -> str:
        """The parameters of a maker; they begin with an underscore if it uses none of them."""
        return ", ".join(local if used else f"_{local}" for local in self._locals(product).values())

    def _with_maker(self, product: str, made: str, move: str = "", keyed: bool = True) -> str:
        """A pool with a maker of one expression, which uses the key that it is asked for or does not."""
        constructor = f"{self._names.type(product)}::new"
        parameters = self._parameters(product, keyed)
        maker = constructor if made == f"{constructor}({parameters})" else f"{move}|{parameters}| {made}"
        return f"{self._type(product)}::with_maker({maker})"

    def _maker(self, product: str, body: list[str], begin: str) -> Iterator[str]:
        """A pool with a maker of several statements, the last of which uses the key."""
        parameters = self._parameters(product, used=True)
        yield f"{begin}{self._type(product)}::with_maker(move |{parameters}| {{"
        yield from (f"    {line}" for line in body)
        yield "});"

    def _is_key(self, product: str, key: Arguments) -> str:
        """Whether a maker is asked for this key."""
        fields = self._plan.products[product]
        pairs = [
            (n, fields.field(name).type, self._code.argument(self._w.operand(value), fields.field(name).type))
            for n, (name, value) in zip(self._locals(product).values(), key.items(), strict=True)
        ]
        return " && ".join(_equals(name, str(type_), text) for name, type_, text in pairs)

    # --- steps --------------------------------------------------------------------------------------------

    def _once(self, step: PoolOnce) -> Iterator[str]:
        body = [
            "inside.fetch_add(1, Ordering::SeqCst);",
            "until(Duration::from_millis(200), || inside.load(Ordering::SeqCst) > 1);",
            self._made(step.product, step.arguments),
        ]
        yield "let entered = Arc::new(AtomicU64::new(0));"
        yield "let inside = Arc::clone(&entered);"
        yield from self._maker(step.product, body, "let pool = ")
        yield "let pool = Arc::new(pool);"
        yield "let asked = Arc::clone(&pool);"
        got = f"asked.get({self._key(step.product, step.key)}).unwrap()"
        yield f"let got = together({step.threads}, move || {got});"
        yield 'is("makings", &entered.load(Ordering::SeqCst), &1);'
        yield "for one in &got {"
        yield '    is("the same object", &Arc::ptr_eq(one, &got[0]), &true);'
        yield "}"
        yield self._counts("pool", 1, step.threads - 1)

    def _unhindered(self, step: PoolUnhindered) -> Iterator[str]:
        is_key = self._is_key(step.product, step.other)
        body = [
            f"if {is_key} {{",
            "    at_work.wait();",
            "    go_on.wait();",
            "}",
            self._made(step.product, step.arguments),
        ]
        key, other = self._key(step.product, step.key), self._key(step.product, step.other)
        yield "let (at_work, go_on) = (Arc::new(Barrier::new(2)), Arc::new(Barrier::new(2)));"
        yield "let (working, going_on) = (Arc::clone(&at_work), Arc::clone(&go_on));"
        yield from self._maker(step.product, body, "let pool = ")
        yield "let pool = Arc::new(pool);"
        yield f"let one = pool.get({key}).unwrap();"
        yield "let slow = Arc::clone(&pool);"
        yield f"let ended = thread::spawn(move || slow.get({other}).is_ok());"
        yield "working.wait();"
        yield "let asked = Arc::clone(&pool);"
        yield f"let two = within(Duration::from_secs(5), move || asked.get({key}).unwrap());"
        yield 'is("the same object", &Arc::ptr_eq(&one, &two), &true);'
        yield "going_on.wait();"
        yield 'is("the other is made", &ended.join().unwrap(), &true);'

    def _nested(self, step: PoolNested) -> Iterator[str]:
        asked = self._key(step.product, step.other)
        body = [
            f"if {self._is_key(step.product, step.key)} {{",
            "    let inside = inside.get().unwrap();",
            f"    let inner = inside.get({asked})?;",
            '    is("the inner one is made", &(Arc::strong_count(&inner) > 0), &true);',
            "}",
            self._made(step.product, step.arguments),
        ]
        yield f"let pool: Arc<OnceLock<{self._type(step.product)}>> = Arc::default();"
        yield "let inside = Arc::clone(&pool);"
        yield from self._maker(step.product, body, "let made = ")
        yield "let pool_is_new = pool.set(made).is_ok();"
        yield 'is("the pool is new", &pool_is_new, &true);'
        yield "let asked = Arc::clone(&pool);"
        key = self._key(step.product, step.key)
        yield f"let one = within(Duration::from_secs(5), move || asked.get().unwrap().get({key}).unwrap());"
        yield "let pool = pool.get().unwrap();"
        yield f"let two = pool.get({asked}).unwrap();"
        yield 'is("the same object", &Arc::ptr_eq(&one, &two), &false);'
        yield self._counts("pool", 2, 1) if not self._pool(step.product).weak else self._weakly_counted()

    def _weakly_counted(self) -> str:
        """The inner one was let go of when its maker had ended, so that it was made again."""
        return self._counts("pool", 3, 0)

    def _failed_maker(self, step: PoolFailedMaker) -> Iterator[str]:
        key = self._key(step.product, step.key)
        body = [
            "let asked = inside.fetch_add(1, Ordering::SeqCst);",
            "if asked == 0 {",
            '    return Err(CreationError::maker("out of stock"));',
            "}",
            'assert!(asked != 1, "out of lamps");',
            self._made(step.product, step.arguments),
        ]
        yield "let inside = AtomicU64::new(0);"
        yield from self._maker(step.product, body, "let pool = ")
        yield f"let result = pool.get({key});"
        yield 'refuses(result, CreationError::maker("out of stock"));'
        yield f"let reason = panics(|| drop(pool.get({key})));"
        yield 'is("the panic", &reason.as_deref(), &Some("out of lamps"));'
        yield self._counts("pool", 0, 0)
        yield f"let one = pool.get({key}).unwrap();"
        yield f"let two = pool.get({key}).unwrap();"
        yield 'is("the same object", &Arc::ptr_eq(&one, &two), &true);'
        yield self._counts("pool", 1, 1)

    def _wrong_key(self, step: PoolWrongKey) -> Iterator[str]:
        wrong = self._call(step.product, {**self._w.renamed(step.other), **self._w.renamed(step.arguments)})
        yield f"let pool = {self._with_maker(step.product, wrong, keyed=False)};"
        yield f"let result = pool.get({self._key(step.product, step.key)});"
        yield f'refuses(result, refused("{step.product}", "key"));'
        yield self._counts("pool", 0, 0)

    def _released(self, step: PoolReleased) -> Iterator[str]:
        key = self._key(step.product, step.key)
        yield f"let pool = {self._with_maker(step.product, self._made(step.product, step.arguments))};"
        yield f"let one = pool.get({key}).unwrap();"
        yield "let gone = Arc::downgrade(&one);"
        yield "drop(one);"
        yield 'is("released", &gone.upgrade().is_none(), &true);'
        yield f"pool.get({key}).unwrap();"
        yield self._counts("pool", 2, 0)


def _equals(name: str, type_: str, text: str) -> str:
    if type_ == "boolean":
        return name if text == "true" else f"!{name}"
    return f"{name} == {text}"
