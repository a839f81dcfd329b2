"""Flyweight pools: one instance a key, made once, whoever asks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.model import Declaration
from urform.declaration.types import TEXT
from urform.plan.fault import Fault, flaw_fault, with_making
from urform.plan.making_steps import (
    CountsAre,
    NewPool,
    PoolAsk,
    PoolFailedMaker,
    PoolNested,
    PoolOnce,
    PoolReleased,
    PoolUnhindered,
    PoolWrongKey,
    SameObject,
)
from urform.plan.messages import out_of_limit
from urform.plan.model import Pool
from urform.plan.operands import Arguments, Operand, Path
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns import Pattern
from urform.plan.scalars import scalar_edge
from urform.plan.script import Case, Claim, Step, case
from urform.plan.steps import FieldIs
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses
from urform.prose import with_article

THREADS = 8


def makes(declaration: Declaration, plan: Plan) -> Iterator[Pool]:
    """A pool for each product that is a flyweight."""
    for product in declaration.products.values():
        flyweight = product.flyweight
        if flyweight is not None:
            key = tuple(use.name for use in flyweight.key)
            outside = any(f.required and f.name not in key for f in product.fields.values())
            yield Pool(product.name, key, flyweight.hold == "weak", outside)


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`pool` of every pool whose product can be made."""
    for making in plan.makings:
        if isinstance(making, Pool) and witnesses.arguments(plan.products[making.product]) is not None:
            yield from _Claims(plan, witnesses, making).claims()


class _Claims:
    """Makes the claims of one pool."""

    def __init__(self, plan: Plan, witnesses: Witnesses, pool: Pool) -> None:
        self._witnesses = witnesses
        self._pool = pool
        self._name = pool.product
        self._product = plan.products[pool.product]
        self._key = self._key_of(dict.fromkeys(pool.key, 0))
        given = witnesses.arguments(self._product) or {}
        self._beside: Arguments = {n: v for n, v in given.items() if n not in pool.key}
        self._new = NewPool("pool", self._name, self._beside if pool.needs_maker else None)

    def _key_of(self, numbers: dict[str, int]) -> dict[str, Operand]:
        """A key of first (0) and second (1) witnesses; a field without a second keeps its first."""
        key: dict[str, Operand] = {}
        for name, number in numbers.items():
            field = self._product.field(name)
            operand = self._witnesses.of(field, number) or self._witnesses.of(field)
            assert operand is not None, "a product that can be made has a witness for each field"
            key[name] = operand
        return key

    def _another(self) -> dict[str, Operand] | None:
        """A key that differs in its first field that can."""
        for name in self._pool.key:
            key = self._key_of({n: int(n == name) for n in self._pool.key})
            if key != self._key:
                return key
        return None

    def _claim(self, aspect: str, text: str, *cases: Case) -> Claim:
        return Claim("pool", self._name, text, tuple(cases), aspect=aspect)

    def _same(self, left: str, right: str, same: bool = True) -> SameObject:
        return SameObject(left, right, self._name, same)

    def claims(self) -> Iterator[Claim]:
        """All claims of the pool."""
        name, key = self._name, self._key
        one, two = PoolAsk("one", "pool", key), PoolAsk("two", "pool", key)
        arrived = [FieldIs(Path("one", n), v) for n, v in {**key, **self._beside}.items()]
        with_maker = NewPool("pool", name, self._beside)
        yield self._claim(
            "same",
            f"the same key gives the same {name}",
            case(self._new, one, *arrived, two, self._same("one", "two")),
            case(with_maker, one, *arrived, two, self._same("one", "two"), main=False),
        )
        if any(self._product.field(n).type == TEXT for n in self._pool.key):
            rebuilt = PoolAsk("two", "pool", key, rebuilt=True)
            text = "keys are compared by their content"
            yield self._claim("content-key", text, case(self._new, one, rebuilt, self._same("one", "two")))
        yield from self._apart(one)
        once = PoolOnce(name, key, self._beside, THREADS)
        yield self._claim("once", f"requests for one key at the same time make one {name}", case(once))
        yield self._counts(one, two)
        other = NewPool("other", name, self._new.arguments)
        elsewhere = PoolAsk("two", "other", key)
        counts = CountsAre("pool", 1, 0), CountsAre("other", 1, 0)
        apart = case(self._new, other, one, elsewhere, self._same("one", "two", False), *counts)
        yield self._claim("isolated", "pools share nothing", apart)
        yield from self._failing()
        if self._pool.weak:
            released = PoolReleased(name, key, self._beside)
            yield self._claim(
                "released", f"the pool releases {with_article(name)} that nobody else holds", case(released)
            )

    def _apart(self, one: PoolAsk) -> Iterator[Claim]:
        for field in self._pool.key:
            key = self._key_of({name: int(name == field) for name in self._pool.key})
            if key == self._key:
                continue
            steps = (self._new, one, PoolAsk("other", "pool", key), self._same("one", "other", False))
            again = (PoolAsk("again", "pool", key), self._same("other", "again"))
            text = f"another {field} gives another {self._name}"
            yield self._claim(f"apart.{field}", text, case(*steps, *again))

    def _counts(self, one: PoolAsk, two: PoolAsk) -> Claim:
        steps: list[Step] = [self._new, CountsAre("pool", 0, 0), one, CountsAre("pool", 1, 0)]
        steps += [two, CountsAre("pool", 1, 1), PoolAsk("three", "pool", self._key), CountsAre("pool", 1, 2)]
        comparisons = [
            self._same("one", "two"),
            self._same("two", "three"),
        ]  # till here, or a weak pool lets go of it
        another = self._another()
        if another is not None:
            steps += [PoolAsk("other", "pool", another), CountsAre("pool", 2, 2)]
            comparisons.append(self._same("one", "other", False))
        steps += comparisons
        return self._claim("counts", "the pool counts what it made and what it reused", case(*steps))

    def _failing(self) -> Iterator[Claim]:
        """Makers that fail, that give another key, that ask for another; and hits beside a slow one."""
        name, key, beside = self._name, self._key, self._beside
        outside = self._outside()
        failed = [case(PoolFailedMaker(name, key, beside)), *([outside] if outside is not None else [])]
        yield self._claim(
            "failed-maker",
            "a maker that fails leaves nothing behind, and the next request tries again",
            *failed,
        )
        another = self._another()
        if another is None:
            return
        wrong = f"a maker that gives {with_article(name)} of another key is refused"
        yield self._claim("wrong-key", wrong, case(PoolWrongKey(name, key, another, beside)))
        nested = "a maker may ask its pool for another key"
        yield self._claim("nested", nested, case(PoolNested(name, key, another, beside)))
        free = "a hit does not wait for the maker of another key"
        yield self._claim("unhindered", free, case(PoolUnhindered(name, key, another, beside)))

    def _outside(self) -> Case | None:
        """A key that is outside the limits fails, and leaves nothing."""
        for name in self._pool.key:
            field = self._product.field(name)
            for limit in field.limits:
                edge = scalar_edge(field.type, field.limits, limit)
                if edge is None:
                    continue
                failure = out_of_limit(field, limit, edge.outside[0])
                fails = Fails(PoolAsk(UNKEPT, "limited", {**self._key, name: edge.outside[0]}), failure)
                new = NewPool("limited", self._name, self._new.arguments)
                return case(new, fails, CountsAre("limited", 0, 0), main=False)
        return None


# --- faults -------------------------------------------------------------------------------------------------

FLAWS = {
    "same": ("pool-forgets",),
    "once": ("pool-unguarded",),
    "counts": ("pool-miscounts-made", "pool-miscounts-reused"),
    "isolated": ("pools-share",),
    "failed-maker": ("pool-remembers-failure",),
    "wrong-key": ("pool-any-key",),
    "nested": ("pool-not-reentrant",),
    "unhindered": ("pool-hits-wait",),
}


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    aspect = claim.aspect or ""
    pool = plan.pool_of(claim.owner)
    assert pool is not None, f"{claim.owner} has claims of a pool, but none"
    if aspect == "released":
        strong = with_making(plan, pool, replace(pool, weak=False))
        yield Fault(claim, "holds-on", "the pool never releases anything", strong)
    elif aspect.startswith("apart."):
        yield flaw_fault(plan, claim, "pool-ignores", claim.owner, aspect.removeprefix("apart."))
    elif aspect == "content-key":
        text = next(n for n in pool.key if plan.products[claim.owner].field(n).type == TEXT)
        yield flaw_fault(plan, claim, "pool-by-identity", claim.owner, text)
    for name in FLAWS.get(aspect, ()):
        yield flaw_fault(plan, claim, name, claim.owner)


PATTERN = Pattern("pools", 90, claims, makes, frozenset({"flyweight"}), {"pool": _faults})
